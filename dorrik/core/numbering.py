"""Numbers that a firm gives in a row: references of inspections, numbers of jobs."""

import re


def following(latest: str | None, first: str) -> str:
    """The number after the latest one: its last figures counted on; `first` where there is none to go by."""
    found = re.fullmatch(r"(.*?)(\d+)", latest or "", re.DOTALL)
    if found is None:
        return first
    head, digits = found.groups()
    return f"{head}{int(digits) + 1:0{len(digits)}d}"


#: Where a firm begins.
FIRST_REFERENCE, FIRST_JOB = "K-0001", "J-0001"
