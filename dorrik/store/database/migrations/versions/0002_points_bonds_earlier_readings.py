"""Points, bonds, earlier readings, overrulings, what else the rules ask for, and corrected tables."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0002"
down_revision = "0001"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "bond",
        sa.Column("inspection_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("position", sa.Integer(), nullable=True),
        sa.Column("service", sa.String(length=60), nullable=True),
        sa.Column("state", sa.String(length=60), nullable=True),
        sa.Column("place", sa.String(length=120), nullable=True),
        sa.Column("csa_mm2", sa.Double(), nullable=True),
        sa.Column("length_m", sa.Double(), nullable=True),
        sa.Column("at_clamp_ohm", sa.String(length=200), nullable=True),
        sa.Column("at_pipe_ohm", sa.String(length=200), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_bond_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f("pk_bond")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "overruling",
        sa.Column("inspection_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("about_id", sa.String(length=36), nullable=True),
        sa.Column("field", sa.String(length=40), nullable=True),
        sa.Column("status", sa.String(length=60), nullable=True),
        sa.Column("reason", sa.String(length=500), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_overruling_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f("pk_overruling")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "table_correction",
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("firm_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("table_name", sa.String(length=40), nullable=False),
        sa.Column("row_key", sa.String(length=200), nullable=False),
        sa.Column("column_name", sa.String(length=40), nullable=False),
        sa.Column("printed", sa.String(length=100), nullable=False),
        sa.Column("value", sa.String(length=100), nullable=False),
        sa.Column("why", sa.String(length=500), nullable=False),
        sa.Column("author_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("made_at", sa.DateTime(), nullable=False),
        sa.Column("withdrawn_at", sa.DateTime(), nullable=True),
        sa.Column("withdrawn_by", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=True),
        sa.ForeignKeyConstraint(["author_id"], ["person.id"], name=op.f("fk_table_correction_author_id")),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_table_correction_firm_id")),
        sa.ForeignKeyConstraint(["withdrawn_by"], ["person.id"], name=op.f("fk_table_correction_withdrawn_by")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_table_correction")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index(op.f("ix_table_correction_firm_id"), "table_correction", ["firm_id"], unique=False)
    op.create_table(
        "earlier",
        sa.Column("inspection_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("circuit_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("measured_on", sa.Date(), nullable=True),
        sa.Column("figure", sa.String(length=60), nullable=True),
        sa.Column("reading", sa.String(length=200), nullable=True),
        sa.Column("source", sa.String(length=120), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(
            ["inspection_id", "circuit_id"],
            ["circuit.inspection_id", "circuit.id"],
            name=op.f("fk_earlier_inspection_id_circuit_id"),
        ),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_earlier_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f("pk_earlier")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "point",
        sa.Column("inspection_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("circuit_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("position", sa.Integer(), nullable=True),
        sa.Column("name", sa.String(length=80), nullable=True),
        sa.Column("room", sa.String(length=80), nullable=True),
        sa.Column("sort", sa.String(length=60), nullable=True),
        sa.Column("at_end", sa.Boolean(), nullable=True),
        sa.Column("opened", sa.Boolean(), nullable=True),
        sa.Column("defect", sa.String(length=60), nullable=True),
        sa.Column("class_ii", sa.Boolean(), nullable=True),
        sa.Column("line_neutral_ohm", sa.String(length=200), nullable=True),
        sa.Column("line_cpc_ohm", sa.String(length=200), nullable=True),
        sa.Column("r2_ohm", sa.String(length=200), nullable=True),
        sa.Column("retested", sa.Boolean(), nullable=True),
        sa.Column("polarity", sa.String(length=60), nullable=True),
        sa.Column("line_neutral_v", sa.Double(), nullable=True),
        sa.Column("line_earth_v", sa.Double(), nullable=True),
        sa.Column("neutral_earth_v", sa.Double(), nullable=True),
        sa.Column("bathroom", sa.Boolean(), nullable=True),
        sa.Column("height_m", sa.Double(), nullable=True),
        sa.Column("distance_m", sa.Double(), nullable=True),
        sa.Column("inside_basin", sa.Boolean(), nullable=True),
        sa.Column("no_basin", sa.Boolean(), nullable=True),
        sa.Column("screened", sa.Boolean(), nullable=True),
        sa.Column("shower_head_m", sa.Double(), nullable=True),
        sa.Column("jets", sa.Boolean(), nullable=True),
        sa.Column("water_protection", sa.Integer(), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(
            ["inspection_id", "circuit_id"],
            ["circuit.inspection_id", "circuit.id"],
            name=op.f("fk_point_inspection_id_circuit_id"),
        ),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_point_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f("pk_point")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.add_column("board", sa.Column("insulation_ln_mohm", sa.String(length=200), nullable=True))
    op.add_column("board", sa.Column("insulation_lne_mohm", sa.String(length=200), nullable=True))
    op.add_column("board", sa.Column("spd_state", sa.String(length=60), nullable=True))
    op.add_column("board", sa.Column("spd_uc_v", sa.Double(), nullable=True))
    op.add_column("board", sa.Column("spd_u_dc_v", sa.String(length=200), nullable=True))
    op.add_column("circuit", sa.Column("cable_method", sa.String(length=60), nullable=True))
    op.add_column("circuit", sa.Column("cable_length_m", sa.Double(), nullable=True))
    op.add_column("circuit", sa.Column("cable_hidden", sa.Boolean(), nullable=True))
    op.add_column("circuit", sa.Column("design_current_a", sa.Double(), nullable=True))
    op.add_column("circuit", sa.Column("one_fused_load", sa.Boolean(), nullable=True))
    op.add_column("circuit", sa.Column("load_fuse_a", sa.Double(), nullable=True))
    op.add_column("circuit", sa.Column("outdoors", sa.Boolean(), nullable=True))
    op.add_column("circuit", sa.Column("bathroom", sa.Boolean(), nullable=True))
    op.add_column("circuit", sa.Column("load", sa.String(length=60), nullable=True))
    op.add_column("circuit", sa.Column("dc_detection", sa.Boolean(), nullable=True))
    op.add_column("circuit", sa.Column("rcd_kind", sa.String(length=60), nullable=True))
    op.add_column("circuit", sa.Column("insulation_le_mohm", sa.String(length=200), nullable=True))
    op.add_column("circuit", sa.Column("insulation_ne_mohm", sa.String(length=200), nullable=True))
    op.add_column("circuit", sa.Column("insulation_test_v", sa.String(length=60), nullable=True))
    op.add_column("circuit", sa.Column("insulation_leg_one_mohm", sa.String(length=200), nullable=True))
    op.add_column("circuit", sa.Column("insulation_leg_two_mohm", sa.String(length=200), nullable=True))
    op.add_column("circuit", sa.Column("rcd_half", sa.String(length=60), nullable=True))
    op.add_column("circuit", sa.Column("rcd_five_ms", sa.String(length=200), nullable=True))
    op.add_column("circuit", sa.Column("joined_with", sa.String(length=80), nullable=True))
    op.add_column("circuit", sa.Column("joined_by", sa.String(length=60), nullable=True))
    op.add_column("circuit", sa.Column("afdd_button", sa.String(length=60), nullable=True))
    op.add_column("circuit", sa.Column("leakage_ma", sa.String(length=200), nullable=True))
    op.add_column("firm", sa.Column("rule_book", sa.String(length=60), nullable=True))
    op.add_column("inspection", sa.Column("table_corrections", sa.JSON(none_as_null=True), nullable=True))
    op.add_column("inspection", sa.Column("records", sa.String(length=60), nullable=True))
    op.add_column("inspection", sa.Column("condition_on_sight", sa.String(length=60), nullable=True))
    op.add_column("inspection", sa.Column("sampling_seed", sa.Integer(), nullable=True))
    op.add_column("inspection", sa.Column("leads_ohm", sa.Double(), nullable=True))
    op.add_column("inspection", sa.Column("tails_length_m", sa.Double(), nullable=True))
    op.add_column("inspection", sa.Column("tails_protected", sa.Boolean(), nullable=True))
    op.add_column("inspection", sa.Column("neutral_mm2", sa.Double(), nullable=True))


def downgrade() -> None:
    op.drop_column("inspection", "neutral_mm2")
    op.drop_column("inspection", "tails_protected")
    op.drop_column("inspection", "tails_length_m")
    op.drop_column("inspection", "leads_ohm")
    op.drop_column("inspection", "sampling_seed")
    op.drop_column("inspection", "condition_on_sight")
    op.drop_column("inspection", "records")
    op.drop_column("inspection", "table_corrections")
    op.drop_column("firm", "rule_book")
    op.drop_column("circuit", "leakage_ma")
    op.drop_column("circuit", "afdd_button")
    op.drop_column("circuit", "joined_by")
    op.drop_column("circuit", "joined_with")
    op.drop_column("circuit", "rcd_five_ms")
    op.drop_column("circuit", "rcd_half")
    op.drop_column("circuit", "insulation_leg_two_mohm")
    op.drop_column("circuit", "insulation_leg_one_mohm")
    op.drop_column("circuit", "insulation_test_v")
    op.drop_column("circuit", "insulation_ne_mohm")
    op.drop_column("circuit", "insulation_le_mohm")
    op.drop_column("circuit", "rcd_kind")
    op.drop_column("circuit", "dc_detection")
    op.drop_column("circuit", "load")
    op.drop_column("circuit", "bathroom")
    op.drop_column("circuit", "outdoors")
    op.drop_column("circuit", "load_fuse_a")
    op.drop_column("circuit", "one_fused_load")
    op.drop_column("circuit", "design_current_a")
    op.drop_column("circuit", "cable_hidden")
    op.drop_column("circuit", "cable_length_m")
    op.drop_column("circuit", "cable_method")
    op.drop_column("board", "spd_u_dc_v")
    op.drop_column("board", "spd_uc_v")
    op.drop_column("board", "spd_state")
    op.drop_column("board", "insulation_lne_mohm")
    op.drop_column("board", "insulation_ln_mohm")
    op.drop_table("point")
    op.drop_table("earlier")
    op.drop_table("table_correction")
    op.drop_table("overruling")
    op.drop_table("bond")
