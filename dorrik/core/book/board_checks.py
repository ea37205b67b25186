"""What is looked at on every board, and the observation that each would raise; kept in `data/board_checks.csv`."""

from dorrik.core.basics.record import record
from dorrik.core.book.reference import cached, rows


@record
class BoardCheck:
    """One thing to look at. wrong: what is said when it is not good; observation: catalogue key, '' for none."""

    key: str
    label: str
    wrong: str
    observation: str
    source: str


@cached
def items() -> dict[str, BoardCheck]:
    """All items by key, in the order in which a board is looked over."""
    return {
        row["key"]: BoardCheck(row["key"], row["label"], row["wrong"], row["observation"], row["source"])
        for row in rows("board_checks")
    }
