"""Cells of tables that go to other programs.

Spreadsheets run a cell that begins like a formula. Such text is written with an apostrophe in front, which they show as
plain text. Whoever reads such a table takes it off again, once.
"""

#: Also in the wide forms that spreadsheets of some languages take for the same.
_FORMULA = ("=", "+", "-", "@", "\t", "\r", "'", "＝", "＋", "－", "＠")


def as_text(text: str) -> str:
    """A cell's text such that nothing runs it."""
    return f"'{text}" if text.startswith(_FORMULA) else text


def from_text(cell: str) -> str:
    """The text of a cell that `as_text` wrote."""
    return cell[1:] if cell[:1] == "'" and cell[1:].startswith(_FORMULA) else cell
