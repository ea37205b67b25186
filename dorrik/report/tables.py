"""Cells of tables that go to other programs.

Spreadsheets run a cell that begins like a formula. Such text is written with an apostrophe in front, which they show as
plain text.
"""

_FORMULA = ("=", "+", "-", "@", "\t", "\r", "'")


def as_text(text: str) -> str:
    """A cell's text such that nothing runs it."""
    return f"'{text}" if text.startswith(_FORMULA) else text
