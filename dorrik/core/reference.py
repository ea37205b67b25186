"""Reading the reference tables that ship beside the rules (CSV and TOML in `data/`)."""

import csv
import tomllib
from functools import cache
from pathlib import Path
from typing import Any

DATA = Path(__file__).parent / "data"


@cache
def rows(name: str) -> tuple[dict[str, str], ...]:
    """Rows of the table `data/<name>.csv`, header names to text; lines that begin with # are notes."""
    lines = (DATA / f"{name}.csv").read_text(encoding="utf-8").splitlines()
    return tuple(csv.DictReader(line for line in lines if line and not line.startswith("#")))


@cache
def toml(name: str) -> dict[str, Any]:
    """The contents of `data/<name>.toml`."""
    return tomllib.loads((DATA / f"{name}.toml").read_text(encoding="utf-8"))


def number(text: str) -> float | None:
    """A table cell as a number; an empty cell is None."""
    return float(text) if text.strip() else None
