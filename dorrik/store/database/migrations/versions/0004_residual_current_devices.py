"""Residual current devices of boards; what moves a code: fronts, cables, places, retests."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0004"
down_revision = "0003"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "rcd",
        sa.Column("inspection_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("board_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("position", sa.Integer(), nullable=True),
        sa.Column("name", sa.String(length=40), nullable=True),
        sa.Column("place", sa.String(length=60), nullable=True),
        sa.Column("standard", sa.String(length=60), nullable=True),
        sa.Column("kind", sa.String(length=60), nullable=True),
        sa.Column("rating_a", sa.Double(), nullable=True),
        sa.Column("rated_ma", sa.Double(), nullable=True),
        sa.Column("delay", sa.String(length=60), nullable=True),
        sa.Column("delay_ms", sa.Double(), nullable=True),
        sa.Column("trip_ms", sa.String(length=200), nullable=True),
        sa.Column("button", sa.String(length=60), nullable=True),
        sa.Column("half", sa.String(length=60), nullable=True),
        sa.Column("five_ms", sa.String(length=200), nullable=True),
        sa.Column("leakage_ma", sa.String(length=200), nullable=True),
        sa.Column("unconfirmed", sa.Boolean(), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(
            ["inspection_id", "board_id"],
            ["board.inspection_id", "board.id"],
            name=op.f("fk_rcd_inspection_id_board_id"),
        ),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_rcd_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f("pk_rcd")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.add_column("board", sa.Column("main_switch_kind", sa.String(length=60), nullable=True))
    op.add_column("board", sa.Column("outbuilding", sa.Boolean(), nullable=True))
    op.add_column("board", sa.Column("extraneous", sa.String(length=60), nullable=True))
    op.add_column("board", sa.Column("only_way_out", sa.Boolean(), nullable=True))
    op.add_column("board", sa.Column("no_cpc_notice", sa.Boolean(), nullable=True))
    op.add_column("board", sa.Column("electrode_alone", sa.Boolean(), nullable=True))
    op.add_column("circuit", sa.Column("outlet_with_socket", sa.Boolean(), nullable=True))
    op.add_column("circuit", sa.Column("rating_factor", sa.Double(), nullable=True))
    op.add_column("circuit", sa.Column("cable_type", sa.String(length=60), nullable=True))
    op.add_column("circuit", sa.Column("imperial", sa.String(length=60), nullable=True))
    op.add_column("circuit", sa.Column("no_cpc", sa.Boolean(), nullable=True))
    op.add_column("circuit", sa.Column("supplementary_bonding", sa.String(length=60), nullable=True))
    op.add_column("circuit", sa.Column("rcd_id", sa.String(length=36), nullable=True))
    op.add_column("circuit", sa.Column("long_lead_r2_ohm", sa.String(length=200), nullable=True))
    op.add_column("circuit", sa.Column("zs_not_possible", sa.String(length=60), nullable=True))
    op.add_column("inspection", sa.Column("earth_by", sa.String(length=60), nullable=True))
    op.add_column("inspection", sa.Column("overhead_supply", sa.Boolean(), nullable=True))
    op.add_column("inspection", sa.Column("storey", sa.String(length=60), nullable=True))
    op.add_column("inspection", sa.Column("flat_above", sa.Boolean(), nullable=True))
    op.add_column("observation", sa.Column("retest", sa.String(length=200), nullable=True))
    op.add_column("point", sa.Column("front", sa.String(length=60), nullable=True))
    op.add_column("point", sa.Column("no_cpc", sa.Boolean(), nullable=True))
    op.add_column("point", sa.Column("accessible_with", sa.String(length=120), nullable=True))
    op.add_column("point", sa.Column("supplementary_ohm", sa.String(length=200), nullable=True))
    op.add_column("point", sa.Column("traced", sa.String(length=60), nullable=True))


def downgrade() -> None:
    op.drop_column("point", "traced")
    op.drop_column("point", "supplementary_ohm")
    op.drop_column("point", "accessible_with")
    op.drop_column("point", "no_cpc")
    op.drop_column("point", "front")
    op.drop_column("observation", "retest")
    op.drop_column("inspection", "flat_above")
    op.drop_column("inspection", "storey")
    op.drop_column("inspection", "overhead_supply")
    op.drop_column("inspection", "earth_by")
    op.drop_column("circuit", "zs_not_possible")
    op.drop_column("circuit", "long_lead_r2_ohm")
    op.drop_column("circuit", "rcd_id")
    op.drop_column("circuit", "supplementary_bonding")
    op.drop_column("circuit", "no_cpc")
    op.drop_column("circuit", "imperial")
    op.drop_column("circuit", "cable_type")
    op.drop_column("circuit", "rating_factor")
    op.drop_column("circuit", "outlet_with_socket")
    op.drop_column("board", "electrode_alone")
    op.drop_column("board", "no_cpc_notice")
    op.drop_column("board", "only_way_out")
    op.drop_column("board", "extraneous")
    op.drop_column("board", "outbuilding")
    op.drop_column("board", "main_switch_kind")
    op.drop_table("rcd")
