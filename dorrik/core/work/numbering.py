"""Numbers that a firm gives in a row: references of inspections, numbers of jobs."""

import re


def following(latest: str | None, first: str) -> str:
    """The number after the latest one: its last figures counted on; `first` where there is none to go by."""
    match = re.fullmatch(r"(.*?)(\d+)", latest or "", re.DOTALL)
    if match is None:
        return first
    head, digits = match.groups()
    return f"{head}{int(digits) + 1:0{len(digits)}d}"


def in_row(number: str, first: str) -> tuple[str, int] | None:
    """What a number of the row that begins with `first` has before its last figures, and what these count; None for one
    of another row, or where `first` ends in no figure."""
    begins = re.fullmatch(r"(.*?)(\d+)", first, re.DOTALL)
    if begins is None:
        return None
    head = begins[1]
    counted = number[len(head) :]
    if not number.startswith(head) or not re.fullmatch(r"[0-9]{1,9}", counted):
        return None
    return head, int(counted)


#: Where a firm begins.
FIRST_REFERENCE, FIRST_JOB = "K-0001", "J-0001"
