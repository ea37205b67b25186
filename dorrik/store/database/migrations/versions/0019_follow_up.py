"""What is to come back to, what people asked about, what is set aside; a fitting without an IP mark."""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0019"
down_revision = "0018"
branch_labels = None
depends_on = None


def upgrade() -> None:
    _table(
        "come_back",
        sa.Column("about_entity", sa.String(length=64), nullable=True),
        sa.Column("about_id", sa.String(length=36), nullable=True),
        sa.Column("field", sa.String(length=40), nullable=True),
        sa.Column("place", sa.String(length=200), nullable=True),
        sa.Column("what", sa.String(length=300), nullable=True),
        sa.Column("done_at", sa.DateTime(), nullable=True),
        sa.Column("became", sa.String(length=64), nullable=True),
        sa.Column("became_id", sa.String(length=36), nullable=True),
    )
    _table(
        "concern",
        sa.Column("position", sa.Integer(), nullable=True),
        sa.Column("asked_by", sa.String(length=64), nullable=True),
        sa.Column("what", sa.String(length=300), nullable=True),
        sa.Column("answer", sa.Text(), nullable=True),
        sa.Column("observation_id", sa.String(length=36), nullable=True),
    )
    _table(
        "set_aside",
        sa.Column("about_entity", sa.String(length=64), nullable=True),
        sa.Column("about_id", sa.String(length=36), nullable=True),
        sa.Column("state", sa.String(length=64), nullable=True),
        sa.Column("agreed_with", sa.String(length=120), nullable=True),
        sa.Column("until", sa.Date(), nullable=True),
        sa.Column("why", sa.String(length=300), nullable=True),
        sa.Column("since", sa.DateTime(), nullable=True),
    )
    _table(
        "repair",
        sa.Column("observation_id", sa.String(length=36), nullable=True),
        sa.Column("about_entity", sa.String(length=64), nullable=True),
        sa.Column("about_id", sa.String(length=36), nullable=True),
        sa.Column("place", sa.String(length=200), nullable=True),
        sa.Column("found", sa.String(length=500), nullable=True),
        sa.Column("work", sa.String(length=64), nullable=True),
        sa.Column("done", sa.String(length=500), nullable=True),
        sa.Column("parts", sa.String(length=300), nullable=True),
        sa.Column("as_left", sa.String(length=500), nullable=True),
        sa.Column("begun_at", sa.DateTime(), nullable=True),
        sa.Column("done_at", sa.DateTime(), nullable=True),
        sa.Column("by", sa.String(length=120), nullable=True),
        sa.Column("departures", sa.String(length=300), nullable=True),
        sa.Column("existing", sa.String(length=500), nullable=True),
        sa.Column("certificate", sa.String(length=60), nullable=True),
        sa.Column("certified_at", sa.DateTime(), nullable=True),
    )
    _table(
        "as_found",
        sa.Column("repair_id", _identifier(), nullable=False),
        sa.Column("about_entity", sa.String(length=64), nullable=True),
        sa.Column("about_id", sa.String(length=36), nullable=True),
        sa.Column("field", sa.String(length=40), nullable=True),
        sa.Column("value", sa.String(length=200), nullable=True),
        above="repair",
    )
    _table(
        "dating",
        sa.Column("about_entity", sa.String(length=64), nullable=True),
        sa.Column("about_id", sa.String(length=36), nullable=True),
        sa.Column("part", sa.String(length=80), nullable=True),
        sa.Column("from_year", sa.Integer(), nullable=True),
        sa.Column("to_year", sa.Integer(), nullable=True),
        sa.Column("known_by", sa.String(length=64), nullable=True),
        sa.Column("says", sa.String(length=200), nullable=True),
    )
    op.add_column("circuit", sa.Column("core_colours", sa.String(length=64), nullable=True))
    _table(
        "operator_call",
        sa.Column("fault", sa.String(length=64), nullable=True),
        sa.Column("what", sa.String(length=300), nullable=True),
        sa.Column("called_at", sa.DateTime(), nullable=True),
        sa.Column("spoke_with", sa.String(length=120), nullable=True),
        sa.Column("reference", sa.String(length=200), nullable=True),
        sa.Column("promised_by", sa.DateTime(), nullable=True),
        sa.Column("asked_for", sa.String(length=300), nullable=True),
        sa.Column("outcome", sa.String(length=500), nullable=True),
        sa.Column("closed_at", sa.DateTime(), nullable=True),
    )
    _table(
        "wanted_load",
        sa.Column("what", sa.String(length=64), nullable=True),
        sa.Column("current_a", sa.Double(), nullable=True),
        sa.Column("sheds", sa.Boolean(), nullable=True),
    )
    op.add_column("observation", sa.Column("told_said", sa.String(length=500), nullable=True))
    op.add_column("inspection", sa.Column("no_photos", sa.Boolean(), nullable=True))
    op.add_column("inspection", sa.Column("demand_measured_a", sa.Double(), nullable=True))
    op.add_column("issued_report", sa.Column("kind", sa.String(length=20), nullable=False, server_default="report"))
    op.add_column("issued_report", sa.Column("repair_id", _identifier(), nullable=True))
    op.create_index(
        "uq_issued_report_inspection_id_kind_number", "issued_report", ["inspection_id", "kind", "number"], unique=True
    )
    op.drop_index("uq_issued_report_inspection_id_number", table_name="issued_report")
    op.add_column("point", sa.Column("ip_unmarked", sa.Boolean(), nullable=True))


def downgrade() -> None:
    op.drop_column("point", "ip_unmarked")
    op.execute("DELETE FROM issued_report WHERE kind <> 'report'")
    op.create_index("uq_issued_report_inspection_id_number", "issued_report", ["inspection_id", "number"], unique=True)
    op.drop_index("uq_issued_report_inspection_id_kind_number", table_name="issued_report")
    op.drop_column("issued_report", "repair_id")
    op.drop_column("issued_report", "kind")
    op.drop_column("observation", "told_said")
    op.drop_column("inspection", "no_photos")
    op.drop_column("inspection", "demand_measured_a")
    op.drop_column("circuit", "core_colours")
    op.drop_table("dating")
    op.drop_table("wanted_load")
    op.drop_table("operator_call")
    op.drop_table("as_found")
    op.drop_table("repair")
    op.drop_table("set_aside")
    op.drop_table("concern")
    op.drop_table("come_back")


def _table(name: str, *columns: sa.Column[Any], above: str | None = None) -> None:
    keys = [] if above is None else [_of(name, above)]
    op.create_table(
        name,
        sa.Column("inspection_id", _identifier(), nullable=False),
        sa.Column("id", _identifier(), nullable=False),
        *columns,
        sa.Column("removed", sa.Boolean(), nullable=True),
        *keys,
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f(f"fk_{name}_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f(f"pk_{name}")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )


def _of(name: str, above: str) -> sa.ForeignKeyConstraint:
    """What belongs to another part of the same inspection."""
    return sa.ForeignKeyConstraint(
        ["inspection_id", f"{above}_id"],
        [f"{above}.inspection_id", f"{above}.id"],
        name=op.f(f"fk_{name}_inspection_id_{above}_id"),
    )


def _identifier() -> sa.types.TypeEngine[str]:
    return mysql.CHAR(36, charset="ascii", collation="ascii_bin")
