"""Offers for repairs and the jobs they become, labels one by one, homes that share one intake."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0020"
down_revision = "0019"
branch_labels = None
depends_on = None


def upgrade() -> None:
    _table(
        "label",
        sa.Column("about_entity", sa.String(length=64), nullable=True),
        sa.Column("about_id", sa.String(length=36), nullable=True),
        sa.Column("kind", sa.String(length=64), nullable=True),
        sa.Column("state", sa.String(length=64), nullable=True),
        sa.Column("interval", sa.String(length=64), nullable=True),
        sa.Column("says", sa.String(length=200), nullable=True),
    )
    _table(
        "offer_line",
        sa.Column("alternative", sa.Integer(), nullable=True),
        sa.Column("remedy", sa.String(length=64), nullable=True),
        sa.Column("about_entity", sa.String(length=64), nullable=True),
        sa.Column("about_id", sa.String(length=36), nullable=True),
        sa.Column("observation_id", sa.String(length=36), nullable=True),
        sa.Column("words", sa.String(length=200), nullable=True),
        sa.Column("price", sa.Double(), nullable=True),
    )
    op.create_table(
        "shared_intake",
        sa.Column("inspection_id", _identifier(), nullable=False),
        sa.Column("group_id", _identifier(), nullable=False),
        sa.Column("own", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_shared_intake_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", name=op.f("pk_shared_intake")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index(op.f("ix_shared_intake_group_id"), "shared_intake", ["group_id"])
    op.add_column("inspection", sa.Column("supply_shared_with", sa.String(length=300), nullable=True))
    op.add_column("operator_call", sa.Column("holds", sa.Boolean(), nullable=True))
    op.add_column("firm", sa.Column("repair_rates", sa.JSON(), nullable=True))
    for column in (
        sa.Column("work", sa.String(length=64), nullable=True),
        sa.Column("inspection_id", sa.String(length=36), nullable=True),
        sa.Column("offer_id", sa.String(length=36), nullable=True),
        sa.Column("alternative", sa.Integer(), nullable=True),
        sa.Column("offered_price", sa.Double(), nullable=True),
        sa.Column("offered_min", sa.Integer(), nullable=True),
    ):
        op.add_column("job", column)


def downgrade() -> None:
    for name in ("offered_min", "offered_price", "alternative", "offer_id", "inspection_id", "work"):
        op.drop_column("job", name)
    op.drop_column("firm", "repair_rates")
    op.drop_column("operator_call", "holds")
    op.drop_column("inspection", "supply_shared_with")
    for name in ("shared_intake", "offer_line", "label"):
        op.drop_table(name)


def _table(name: str, *columns: sa.Column[object]) -> None:
    op.create_table(
        name,
        sa.Column("inspection_id", _identifier(), nullable=False),
        sa.Column("id", _identifier(), nullable=False),
        *columns,
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f(f"fk_{name}_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f(f"pk_{name}")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )


def _identifier() -> sa.types.TypeEngine[str]:
    return mysql.CHAR(36, charset="ascii", collation="ascii_bin")
