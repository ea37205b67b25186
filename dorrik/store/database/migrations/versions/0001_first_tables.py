"""The first tables: firm, people, inspections with their parts, the journal, issued reports."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0001"
down_revision = None
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "firm",
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("name", sa.String(length=120), nullable=False),
        sa.Column("address", sa.String(length=300), nullable=True),
        sa.Column("phone", sa.String(length=40), nullable=True),
        sa.Column("house_rules", sa.JSON(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_firm")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "sign_in_failure",
        sa.Column("id", sa.Integer(), autoincrement=True, nullable=False),
        sa.Column("email_hash", sa.VARBINARY(length=32), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_sign_in_failure")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index("ix_sign_in_failure_email_hash_at", "sign_in_failure", ["email_hash", "at"], unique=False)
    op.create_table(
        "inspection",
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("firm_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("seq", sa.Integer(), nullable=False),
        sa.Column("changed_at", mysql.DATETIME(fsp=3), nullable=False),
        sa.Column("reference", sa.String(length=30), nullable=True),
        sa.Column("client_name", sa.String(length=120), nullable=True),
        sa.Column("client_address", sa.String(length=300), nullable=True),
        sa.Column("property_address", sa.String(length=300), nullable=True),
        sa.Column("occupier_name", sa.String(length=120), nullable=True),
        sa.Column("tenure", sa.String(length=60), nullable=True),
        sa.Column("purpose", sa.String(length=60), nullable=True),
        sa.Column("extent", sa.Text(), nullable=True),
        sa.Column("inspected_on", sa.Date(), nullable=True),
        sa.Column("rule_book", sa.String(length=60), nullable=True),
        sa.Column("house_rules", sa.JSON(), nullable=True),
        sa.Column("earthing", sa.String(length=60), nullable=True),
        sa.Column("phases", sa.String(length=60), nullable=True),
        sa.Column("service_fuse_standard", sa.String(length=40), nullable=True),
        sa.Column("service_fuse_a", sa.Double(), nullable=True),
        sa.Column("tails_mm2", sa.Double(), nullable=True),
        sa.Column("earthing_conductor_mm2", sa.Double(), nullable=True),
        sa.Column("bonding_mm2", sa.Double(), nullable=True),
        sa.Column("bonding_to", sa.String(length=200), nullable=True),
        sa.Column("ze_ohm", sa.String(length=200), nullable=True),
        sa.Column("ze_parallel_removed", sa.Boolean(), nullable=True),
        sa.Column("pscc_ka", sa.String(length=200), nullable=True),
        sa.Column("pefc_ka", sa.String(length=200), nullable=True),
        sa.Column("supply_polarity", sa.String(length=60), nullable=True),
        sa.Column("condition", sa.Text(), nullable=True),
        sa.Column("declared_outcome", sa.String(length=60), nullable=True),
        sa.Column("outcome_reason", sa.Text(), nullable=True),
        sa.Column("next_years", sa.Integer(), nullable=True),
        sa.Column("next_reason", sa.String(length=500), nullable=True),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_inspection_firm_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_inspection")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index("ix_inspection_firm_id_changed_at", "inspection", ["firm_id", "changed_at"], unique=False)
    op.create_index("ix_inspection_firm_id_reference", "inspection", ["firm_id", "reference"], unique=False)
    op.create_table(
        "person",
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("firm_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("name", sa.String(length=120), nullable=False),
        sa.Column("email", sa.String(length=190), nullable=False),
        sa.Column("role", sa.String(length=20), nullable=False),
        sa.Column("password_hash", sa.String(length=200), nullable=False),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_person_firm_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_person")),
        sa.UniqueConstraint("email", name=op.f("uq_person_email")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index(op.f("ix_person_firm_id"), "person", ["firm_id"], unique=False)
    op.create_table(
        "board",
        sa.Column("inspection_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("position", sa.Integer(), nullable=True),
        sa.Column("name", sa.String(length=80), nullable=True),
        sa.Column("location", sa.String(length=120), nullable=True),
        sa.Column("ways", sa.Integer(), nullable=True),
        sa.Column("main_switch_a", sa.Double(), nullable=True),
        sa.Column("conditional_ka", sa.Double(), nullable=True),
        sa.Column("zdb_ohm", sa.String(length=200), nullable=True),
        sa.Column("isolated_at", sa.DateTime(), nullable=True),
        sa.Column("isolated_lock", sa.String(length=80), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_board_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f("pk_board")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "change",
        sa.Column("inspection_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("seq", sa.Integer(), autoincrement=False, nullable=False),
        sa.Column("change_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("entity", sa.String(length=30), nullable=False),
        sa.Column("entity_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("field", sa.String(length=40), nullable=False),
        sa.Column("value", sa.JSON(), nullable=True),
        sa.Column("before", sa.JSON(), nullable=True),
        sa.Column("based_on", sa.Integer(), nullable=False),
        sa.Column("overtook", sa.Integer(), nullable=True),
        sa.Column("made_at", mysql.DATETIME(fsp=3), nullable=False),
        sa.Column("kept_at", mysql.DATETIME(fsp=3), nullable=False),
        sa.Column("device", sa.String(length=60), nullable=False),
        sa.Column("author_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.ForeignKeyConstraint(["author_id"], ["person.id"], name=op.f("fk_change_author_id")),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_change_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "seq", name=op.f("pk_change")),
        sa.UniqueConstraint("inspection_id", "change_id", name=op.f("uq_change_inspection_id_change_id")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index("ix_change_field", "change", ["inspection_id", "entity_id", "field", "seq"], unique=False)
    op.create_table(
        "issued_report",
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("inspection_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("issued_at", sa.DateTime(), nullable=False),
        sa.Column("issued_by", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("seq", sa.Integer(), nullable=False),
        sa.Column("outcome", sa.String(length=20), nullable=False),
        sa.Column("replaces", sa.Integer(), nullable=True),
        sa.Column("reason", sa.String(length=500), nullable=True),
        sa.Column("document", mysql.LONGTEXT(), nullable=False),
        sa.Column("pdf", mysql.LONGBLOB(), nullable=False),
        sa.Column("sha256", mysql.CHAR(charset="ascii", length=64), nullable=False),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_issued_report_inspection_id")),
        sa.ForeignKeyConstraint(["issued_by"], ["person.id"], name=op.f("fk_issued_report_issued_by")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_issued_report")),
        sa.UniqueConstraint("inspection_id", "number", name=op.f("uq_issued_report_inspection_id_number")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "limitation",
        sa.Column("inspection_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("what", sa.Text(), nullable=True),
        sa.Column("reason", sa.Text(), nullable=True),
        sa.Column("agreed_with", sa.String(length=120), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_limitation_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f("pk_limitation")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "observation",
        sa.Column("inspection_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("about_entity", sa.String(length=60), nullable=True),
        sa.Column("about_id", sa.String(length=36), nullable=True),
        sa.Column("place", sa.String(length=200), nullable=True),
        sa.Column("text", sa.Text(), nullable=True),
        sa.Column("code", sa.String(length=60), nullable=True),
        sa.Column("code_reason", sa.String(length=500), nullable=True),
        sa.Column("catalogue_key", sa.String(length=60), nullable=True),
        sa.Column("mended", sa.Boolean(), nullable=True),
        sa.Column("as_left", sa.String(length=500), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_observation_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f("pk_observation")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "session",
        sa.Column("token_hash", sa.VARBINARY(length=32), nullable=False),
        sa.Column("person_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("expires_at", sa.DateTime(), nullable=False),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_session_person_id"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("token_hash", name=op.f("pk_session")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index(op.f("ix_session_expires_at"), "session", ["expires_at"], unique=False)
    op.create_index(op.f("ix_session_person_id"), "session", ["person_id"], unique=False)
    op.create_table(
        "circuit",
        sa.Column("inspection_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("board_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("position", sa.Integer(), nullable=True),
        sa.Column("way", sa.String(length=8), nullable=True),
        sa.Column("designation", sa.String(length=80), nullable=True),
        sa.Column("spare", sa.Boolean(), nullable=True),
        sa.Column("form", sa.String(length=60), nullable=True),
        sa.Column("serves", sa.String(length=60), nullable=True),
        sa.Column("points", sa.Integer(), nullable=True),
        sa.Column("line_csa_mm2", sa.Double(), nullable=True),
        sa.Column("cpc_csa_mm2", sa.Double(), nullable=True),
        sa.Column("device_standard", sa.String(length=60), nullable=True),
        sa.Column("device_type", sa.String(length=60), nullable=True),
        sa.Column("device_rating_a", sa.Double(), nullable=True),
        sa.Column("device_breaking_ka", sa.Double(), nullable=True),
        sa.Column("rcd_standard", sa.String(length=60), nullable=True),
        sa.Column("rcd_delay", sa.String(length=60), nullable=True),
        sa.Column("rcd_rated_ma", sa.Double(), nullable=True),
        sa.Column("fault_protection", sa.String(length=60), nullable=True),
        sa.Column("r1_ohm", sa.String(length=200), nullable=True),
        sa.Column("rn_ohm", sa.String(length=200), nullable=True),
        sa.Column("r2_ohm", sa.String(length=200), nullable=True),
        sa.Column("r1_r2_ohm", sa.String(length=200), nullable=True),
        sa.Column("insulation_ln_mohm", sa.String(length=200), nullable=True),
        sa.Column("insulation_lne_mohm", sa.String(length=200), nullable=True),
        sa.Column("polarity", sa.String(length=60), nullable=True),
        sa.Column("zs_ohm", sa.String(length=200), nullable=True),
        sa.Column("rcd_trip_ms", sa.String(length=200), nullable=True),
        sa.Column("rcd_button", sa.String(length=60), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(
            ["inspection_id", "board_id"],
            ["board.inspection_id", "board.id"],
            name=op.f("fk_circuit_inspection_id_board_id"),
        ),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_circuit_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f("pk_circuit")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )


def downgrade() -> None:
    op.drop_table("circuit")
    op.drop_table("session")
    op.drop_table("observation")
    op.drop_table("limitation")
    op.drop_table("issued_report")
    op.drop_table("change")
    op.drop_table("board")
    op.drop_table("person")
    op.drop_table("inspection")
    op.drop_table("sign_in_failure")
    op.drop_table("firm")
