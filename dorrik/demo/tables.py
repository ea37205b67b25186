"""How the tables of the demo's homes are entered: a row a circuit, and days counted back from today."""

from datetime import timedelta
from typing import Any

from dorrik.demo.scribe import Scribe
from dorrik.store.database.engine import now

Circuit = dict[str, Any]


def day(ago: int) -> str:
    """A date some days ago: the demo is always of this month."""
    return (now().date() - timedelta(days=ago)).isoformat()


def at(ago: int, time: str) -> str:
    """A moment of that day, in universal time."""
    return f"{day(ago)}T{time}Z"


#: Columns of the tables below, in the order of the test grid.
COLUMNS = (
    "designation",
    "form",
    "serves",
    "points_served",
    "line_csa_mm2",
    "cpc_csa_mm2",
    "device_rating_a",
    "rcd_rated_ma",
    "r1_ohm",
    "rn_ohm",
    "r2_ohm",
    "r1_r2_ohm",
    "insulation_ln_mohm",
    "insulation_lne_mohm",
    "polarity",
    "zs_ohm",
    "rcd_trip_ms",
    "rcd_button",
)


def circuits(scribe: Scribe, board: str, rows: list[tuple[Any, ...]], **common: Any) -> list[str]:
    """Circuits of a board, a row of figures each in the order of `COLUMNS`; returns their ids."""
    ids = []
    for position, row in enumerate(rows, 1):
        if row == ("spare",):
            fields: Circuit = {"spare": True, "designation": "Spare"}
        else:
            fields = dict(zip(COLUMNS, row, strict=True)) | common
        fields = {"position": position, "way": str(position)} | {k: v for k, v in fields.items() if v is not None}
        ids.append(scribe.add("circuit", "board", board, **fields))
    return ids


def named(rows: list[tuple[Any, ...]], ids: list[str]) -> dict[str, str]:
    """Ids of circuits by their designation."""
    return {row[0]: circuit for row, circuit in zip(rows, ids, strict=True)}
