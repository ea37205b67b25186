"""Facts that rules rest on as fields of their own: special loads, the operator's call, a retest, how a circuit was
tested.

Why there is no Zs was guessed from the words of its limitation before; those that said so say it in the field now.
"""

from typing import Any

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"
branch_labels = None
depends_on = None

_WORD = sa.String(length=64)
_RANGES: tuple[tuple[str, Any], ...] = tuple(
    (name, sa.Double()) for name in ("continuity_top_ohm", "insulation_top_mohm", "loop_top_ohm")
)
#: Columns that came, by table.
COLUMNS: dict[str, tuple[tuple[str, Any], ...]] = {
    "board": (("zdb_retested", sa.Boolean()),),
    "circuit": (
        ("appliance", _WORD),
        ("vehicle_outdoors", sa.Boolean()),
        ("neutral_guard", _WORD),
        ("earthed_by", _WORD),
        ("own_rcd", _WORD),
        ("both_ways", _WORD),
        ("fitted_from", sa.Integer()),
        ("fitted_to", sa.Integer()),
        ("fitted_by", _WORD),
        ("continuity_method", _WORD),
        ("second_csa_mm2", sa.Double()),
        ("second_at", _WORD),
        ("loads_removed", sa.Boolean()),
    ),
    "inspection": (
        ("operator_called_at", sa.DateTime()),
        ("fuse_read", _WORD),
        ("maximum_demand_a", sa.Double()),
        ("other_source", _WORD),
    ),
    "declined": (("code", _WORD),),
    "overruling": (("of_reading", sa.String(length=200)),),
    "instrument": _RANGES,
    "instrument_used": _RANGES,
    "point": (
        ("metal_earth_v", sa.Double()),
        ("leg_one_ohm", sa.String(length=200)),
        ("leg_two_ohm", sa.String(length=200)),
    ),
    "rcd": (("both_ways", _WORD),),
}


#: Choices that were there before. Up to 255 bytes a column counts whole to the length of its row, which has a limit; 64
#: characters of four bytes are stored beside it where they have to be.
CHOICES = {
    "inspection": (
        "tenure purpose nation rule_book records condition_on_sight walk_direction earthing phases earth_by "
        "meter_seals isolator storey supply_polarity declared_outcome"
    ),
    "bond": "service state",
    "board": "main_switch_kind extraneous spd_state phases earthing",
    "rcd": "place standard kind delay button half",
    "circuit": (
        "phase form serves cable_method cable_type imperial supplementary_bonding load device_standard "
        "device_type rcd_standard rcd_delay rcd_kind fault_protection insulation_test_v polarity "
        "zs_not_possible rcd_button rcd_half joined_by afdd_button"
    ),
    "room": "kind floor not_reached basin",
    "point": "kind looked not_reached sample alarm above front traced polarity",
    "earlier": "figure",
    "observation": "about_entity code made_safe",
    "opinion": "code",
    "limitation": "about_entity",
    "overruling": "status",
    "check": "state",
    "attendance": "purpose",
    "photo": "about_entity shows print_size",
    "property": "nation tenure",
    "installation": "earthing",
    "job": "state purpose",
    "instrument": "kind",
}


def _widths(characters: int) -> None:
    for table, columns in CHOICES.items():
        changes = ", ".join(f"MODIFY `{name}` VARCHAR({characters}) NULL" for name in columns.split())
        op.execute(f"ALTER TABLE `{table}` {changes}")


def upgrade() -> None:
    _widths(64)
    for table, columns in COLUMNS.items():
        for name, kind in columns:
            op.add_column(table, sa.Column(name, kind, nullable=True))
    op.execute(
        "UPDATE circuit SET zs_not_possible = 'RCD trips on the test' "
        "WHERE zs_not_possible IS NULL AND zs_ohm LIKE 'LIM%trip%'"
    )


def downgrade() -> None:
    for table, columns in COLUMNS.items():
        for name, _ in columns:
            op.drop_column(table, name)
    _widths(60)
