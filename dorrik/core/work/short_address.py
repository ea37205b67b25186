"""An address as it stands in a bar or a list: what tells one home of a town from another."""

import re

#: What is no home by itself: a part of a house.
_PART = re.compile(
    r"(flat|unit|apartment|apt|suite|room|floor|block|ground floor|first floor|top floor)\b", re.IGNORECASE
)


def short_address(address: str) -> str:
    """The first part of an address, the first two where the first names a part of a house or a number alone."""
    parts = [part.strip() for part in address.split(",") if part.strip()]
    if not parts:
        return "No address yet"
    alone = _PART.match(parts[0]) or re.fullmatch(r"\d+\w?", parts[0])
    return ", ".join(parts[:2]) if alone and len(parts) > 1 else parts[0]
