"""Places that requests come from: tries are counted for each, and all workers of a test run share the counts."""

import secrets


def new_place() -> tuple[str, int]:
    """An address that no other test comes from, as a test client takes it (host, port)."""
    part = secrets.token_hex(6)
    return f"2001:db8:{part[:4]}:{part[4:8]}::{part[8:]}", 5000
