"""Both gangs of a socket, lampholders, ends opened at a socket, neutrals numbered otherwise, what stood open during an
insulation test, where the main switch stands, who read a figure and who countersigned it."""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0016"
down_revision = "0015"
branch_labels = None
depends_on = None

_READING = sa.String(length=200)
_COLUMNS: dict[str, dict[str, Any]] = {
    "point": {
        "two_gangs": sa.Boolean(),
        "gang_line_neutral_ohm": _READING,
        "gang_line_cpc_ohm": _READING,
        "gang_r2_ohm": _READING,
        "gang_zs_ohm": _READING,
        "lampholder": sa.String(length=64),
        "centre_contact": sa.String(length=64),
        "functional": sa.String(length=64),
    },
    "circuit": {
        "ends_at": sa.String(length=64),
        "ends_at_point": sa.String(length=36),
        "neutral_at": sa.String(length=8),
        "live_r1_r2_ohm": _READING,
        "insulation_switches": sa.String(length=64),
        "insulation_open_at": sa.String(length=120),
    },
    "board": {
        "main_switch_at": sa.String(length=64),
        "ways_left": sa.Integer(),
        "insulation_switches": sa.String(length=64),
        "insulation_open_at": sa.String(length=120),
    },
    "attendance": {"countersigned_at": mysql.DATETIME(fsp=3), "countersigned_by": sa.String(length=120)},
    "change": {"read_by": mysql.CHAR(36, charset="ascii", collation="ascii_bin")},
}


def upgrade() -> None:
    for table, columns in _COLUMNS.items():
        for name, type in columns.items():
            op.add_column(table, sa.Column(name, type, nullable=True))


def downgrade() -> None:
    for table, columns in _COLUMNS.items():
        for name in reversed(columns):
            op.drop_column(table, name)
