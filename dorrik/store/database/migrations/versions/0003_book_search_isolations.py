"""The firm's book and its search; isolations, checks, attendances, instruments and nulls of an inspection."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0003"
down_revision = "0002"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "client",
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("firm_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("name", sa.String(length=120), nullable=True),
        sa.Column("address", sa.String(length=300), nullable=True),
        sa.Column("contact", sa.String(length=120), nullable=True),
        sa.Column("phone", sa.String(length=40), nullable=True),
        sa.Column("email", sa.String(length=190), nullable=True),
        sa.Column("notes", sa.Text(), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_client_firm_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_client")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index(op.f("ix_client_firm_id"), "client", ["firm_id"], unique=False)
    op.create_table(
        "instrument",
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("firm_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("name", sa.String(length=80), nullable=True),
        sa.Column("sort", sa.String(length=60), nullable=True),
        sa.Column("serial", sa.String(length=60), nullable=True),
        sa.Column("bought_on", sa.Date(), nullable=True),
        sa.Column("calibrated_on", sa.Date(), nullable=True),
        sa.Column("calibration_due", sa.Date(), nullable=True),
        sa.Column("certificate", sa.String(length=80), nullable=True),
        sa.Column("continuity_percent", sa.Double(), nullable=True),
        sa.Column("continuity_digits", sa.Double(), nullable=True),
        sa.Column("insulation_percent", sa.Double(), nullable=True),
        sa.Column("insulation_digits", sa.Double(), nullable=True),
        sa.Column("loop_percent", sa.Double(), nullable=True),
        sa.Column("loop_digits", sa.Double(), nullable=True),
        sa.Column("trip_percent", sa.Double(), nullable=True),
        sa.Column("trip_digits", sa.Double(), nullable=True),
        sa.Column("retired", sa.Boolean(), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_instrument_firm_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_instrument")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index(op.f("ix_instrument_firm_id"), "instrument", ["firm_id"], unique=False)
    op.create_table(
        "leads",
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("firm_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("name", sa.String(length=80), nullable=True),
        sa.Column("known_ohm", sa.Double(), nullable=True),
        sa.Column("retired", sa.Boolean(), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_leads_firm_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_leads")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index(op.f("ix_leads_firm_id"), "leads", ["firm_id"], unique=False)
    op.create_table(
        "search_subject",
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("firm_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("kind", sa.String(length=20), nullable=False),
        sa.Column("title", sa.String(length=300), nullable=False),
        sa.Column("line", sa.String(length=300), nullable=False),
        sa.Column("words", sa.String(length=1000, collation="utf8mb4_bin"), nullable=False),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_search_subject_firm_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_search_subject")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index(op.f("ix_search_subject_firm_id"), "search_subject", ["firm_id"], unique=False)
    op.create_table(
        "attendance",
        sa.Column("inspection_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("who", sa.String(length=120), nullable=True),
        sa.Column("purpose", sa.String(length=60), nullable=True),
        sa.Column("arrived_at", sa.DateTime(), nullable=True),
        sa.Column("left_at", sa.DateTime(), nullable=True),
        sa.Column("note", sa.String(length=300), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_attendance_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f("pk_attendance")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "book_change",
        sa.Column("id", sa.Integer(), autoincrement=True, nullable=False),
        sa.Column("firm_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("entry_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("field", sa.String(length=40), nullable=False),
        sa.Column("value", sa.JSON(none_as_null=True), nullable=True),
        sa.Column("before", sa.JSON(none_as_null=True), nullable=True),
        sa.Column("made_at", mysql.DATETIME(fsp=3), nullable=False),
        sa.Column("author_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.ForeignKeyConstraint(["author_id"], ["person.id"], name=op.f("fk_book_change_author_id")),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_book_change_firm_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_book_change")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index("ix_book_change_entry_id_field", "book_change", ["entry_id", "field"], unique=False)
    op.create_index(op.f("ix_book_change_firm_id"), "book_change", ["firm_id"], unique=False)
    op.create_table(
        "lead_null",
        sa.Column("inspection_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("leads_id", sa.String(length=36), nullable=True),
        sa.Column("name", sa.String(length=80), nullable=True),
        sa.Column("known_ohm", sa.Double(), nullable=True),
        sa.Column("reading_ohm", sa.String(length=200), nullable=True),
        sa.Column("nulled_at", sa.DateTime(), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_lead_null_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f("pk_lead_null")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "meter",
        sa.Column("inspection_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("register_id", sa.String(length=36), nullable=True),
        sa.Column("name", sa.String(length=80), nullable=True),
        sa.Column("sort", sa.String(length=40), nullable=True),
        sa.Column("serial", sa.String(length=60), nullable=True),
        sa.Column("calibration_due", sa.Date(), nullable=True),
        sa.Column("continuity_percent", sa.Double(), nullable=True),
        sa.Column("continuity_digits", sa.Double(), nullable=True),
        sa.Column("insulation_percent", sa.Double(), nullable=True),
        sa.Column("insulation_digits", sa.Double(), nullable=True),
        sa.Column("loop_percent", sa.Double(), nullable=True),
        sa.Column("loop_digits", sa.Double(), nullable=True),
        sa.Column("trip_percent", sa.Double(), nullable=True),
        sa.Column("trip_digits", sa.Double(), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_meter_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f("pk_meter")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "photo",
        sa.Column("inspection_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("about_entity", sa.String(length=60), nullable=True),
        sa.Column("about_id", sa.String(length=36), nullable=True),
        sa.Column("shows", sa.String(length=60), nullable=True),
        sa.Column("caption", sa.String(length=200), nullable=True),
        sa.Column("sha256", sa.String(length=64), nullable=True),
        sa.Column("taken_at", sa.DateTime(), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_photo_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f("pk_photo")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "property",
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("firm_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("parent_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("address", sa.String(length=300), nullable=True),
        sa.Column("nation", sa.String(length=60), nullable=True),
        sa.Column("tenure", sa.String(length=60), nullable=True),
        sa.Column("built_year", sa.Integer(), nullable=True),
        sa.Column("rewired_year", sa.Integer(), nullable=True),
        sa.Column("occupier_name", sa.String(length=120), nullable=True),
        sa.Column("occupier_phone", sa.String(length=40), nullable=True),
        sa.Column("occupier_email", sa.String(length=190), nullable=True),
        sa.Column("must_stay_on", sa.String(length=300), nullable=True),
        sa.Column("access", sa.String(length=500), nullable=True),
        sa.Column("key_place", sa.String(length=200), nullable=True),
        sa.Column("parking", sa.String(length=200), nullable=True),
        sa.Column("notes", sa.Text(), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_property_firm_id")),
        sa.ForeignKeyConstraint(["parent_id"], ["client.id"], name=op.f("fk_property_parent_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_property")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index(op.f("ix_property_firm_id"), "property", ["firm_id"], unique=False)
    op.create_index(op.f("ix_property_parent_id"), "property", ["parent_id"], unique=False)
    op.create_table(
        "search_end",
        sa.Column("firm_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("word_end", sa.String(length=24, collation="utf8mb4_bin"), nullable=False),
        sa.Column("subject_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.ForeignKeyConstraint(
            ["subject_id"], ["search_subject.id"], name=op.f("fk_search_end_subject_id"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("firm_id", "word_end", "subject_id", name=op.f("pk_search_end")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index("ix_search_end_subject_id", "search_end", ["subject_id"], unique=False)
    op.create_table(
        "check",
        sa.Column("inspection_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("board_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("item", sa.String(length=40), nullable=True),
        sa.Column("state", sa.String(length=60), nullable=True),
        sa.Column("note", sa.String(length=300), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(
            ["inspection_id", "board_id"],
            ["board.inspection_id", "board.id"],
            name=op.f("fk_check_inspection_id_board_id"),
        ),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_check_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f("pk_check")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "installation",
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("firm_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("parent_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("name", sa.String(length=80), nullable=True),
        sa.Column("supplied_from", sa.String(length=120), nullable=True),
        sa.Column("earthing", sa.String(length=60), nullable=True),
        sa.Column("notes", sa.String(length=500), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_installation_firm_id")),
        sa.ForeignKeyConstraint(["parent_id"], ["property.id"], name=op.f("fk_installation_parent_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_installation")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index(op.f("ix_installation_firm_id"), "installation", ["firm_id"], unique=False)
    op.create_index(op.f("ix_installation_parent_id"), "installation", ["parent_id"], unique=False)
    op.create_table(
        "isolation",
        sa.Column("inspection_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("board_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("by", sa.String(length=120), nullable=True),
        sa.Column("source", sa.String(length=80), nullable=True),
        sa.Column("proved_at", sa.DateTime(), nullable=True),
        sa.Column("isolated_at", sa.DateTime(), nullable=True),
        sa.Column("isolated_where", sa.String(length=80), nullable=True),
        sa.Column("lock", sa.String(length=80), nullable=True),
        sa.Column("key_with", sa.String(length=80), nullable=True),
        sa.Column("pairings", sa.JSON(none_as_null=True), nullable=True),
        sa.Column("proved_again_at", sa.DateTime(), nullable=True),
        sa.Column("restored_at", sa.DateTime(), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(
            ["inspection_id", "board_id"],
            ["board.inspection_id", "board.id"],
            name=op.f("fk_isolation_inspection_id_board_id"),
        ),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_isolation_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f("pk_isolation")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "job",
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("firm_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("parent_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("number", sa.String(length=30), nullable=True),
        sa.Column("state", sa.String(length=60), nullable=True),
        sa.Column("purpose", sa.String(length=60), nullable=True),
        sa.Column("extent", sa.Text(), nullable=True),
        sa.Column("leave_out", sa.Text(), nullable=True),
        sa.Column("leave_out_reason", sa.String(length=500), nullable=True),
        sa.Column("agreed_with", sa.String(length=120), nullable=True),
        sa.Column("agreed_on", sa.Date(), nullable=True),
        sa.Column("booked_on", sa.Date(), nullable=True),
        sa.Column("booked_at", sa.String(length=20), nullable=True),
        sa.Column("power_off", sa.String(length=60), nullable=True),
        sa.Column("boards", sa.Integer(), nullable=True),
        sa.Column("rings", sa.Integer(), nullable=True),
        sa.Column("radials", sa.Integer(), nullable=True),
        sa.Column("points_opened", sa.Integer(), nullable=True),
        sa.Column("points_tested", sa.Integer(), nullable=True),
        sa.Column("travel_km", sa.Double(), nullable=True),
        sa.Column("return_visits", sa.Integer(), nullable=True),
        sa.Column("confirmation_sent", sa.String(length=240), nullable=True),
        sa.Column("notes", sa.Text(), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_job_firm_id")),
        sa.ForeignKeyConstraint(["parent_id"], ["property.id"], name=op.f("fk_job_parent_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_job")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index(op.f("ix_job_firm_id"), "job", ["firm_id"], unique=False)
    op.create_index(op.f("ix_job_parent_id"), "job", ["parent_id"], unique=False)
    op.create_index("uq_job_firm_id_number", "job", ["firm_id", "number"], unique=True)
    op.add_column("board", sa.Column("fed_by", sa.String(length=36), nullable=True))
    op.add_column("board", sa.Column("phases", sa.String(length=60), nullable=True))
    op.add_column("board", sa.Column("earthing", sa.String(length=60), nullable=True))
    op.add_column("board", sa.Column("electrode_ohm", sa.String(length=200), nullable=True))
    op.add_column("board", sa.Column("unconfirmed", sa.Boolean(), nullable=True))
    op.add_column("bond", sa.Column("unconfirmed", sa.Boolean(), nullable=True))
    op.add_column("circuit", sa.Column("untraced", sa.Boolean(), nullable=True))
    op.add_column("circuit", sa.Column("phase", sa.String(length=60), nullable=True))
    op.add_column("circuit", sa.Column("rcd_group", sa.String(length=8), nullable=True))
    op.add_column("circuit", sa.Column("unconfirmed", sa.Boolean(), nullable=True))
    op.add_column("firm", sa.Column("rates", sa.JSON(none_as_null=True), nullable=True))
    op.add_column("firm", sa.Column("prices", sa.JSON(none_as_null=True), nullable=True))
    op.add_column("inspection", sa.Column("nation", sa.String(length=60), nullable=True))
    op.add_column("inspection", sa.Column("property_id", sa.String(length=36), nullable=True))
    op.add_column("inspection", sa.Column("installation_id", sa.String(length=36), nullable=True))
    op.add_column("inspection", sa.Column("installation_name", sa.String(length=80), nullable=True))
    op.add_column("inspection", sa.Column("job_id", sa.String(length=36), nullable=True))
    op.add_column("inspection", sa.Column("must_stay_on", sa.String(length=300), nullable=True))
    op.add_column("inspection", sa.Column("power_off", sa.String(length=60), nullable=True))
    op.add_column("inspection", sa.Column("access", sa.String(length=500), nullable=True))
    op.add_column("inspection", sa.Column("carried_from", sa.String(length=200), nullable=True))
    op.add_column("inspection", sa.Column("held_at", sa.DateTime(), nullable=True))
    op.add_column("inspection", sa.Column("held_reason", sa.String(length=500), nullable=True))
    op.add_column("inspection", sa.Column("return_on", sa.Date(), nullable=True))
    op.add_column("inspection", sa.Column("switch_fuse_a", sa.Double(), nullable=True))
    op.add_column("inspection", sa.Column("electrode", sa.String(length=120), nullable=True))
    op.add_column("inspection", sa.Column("leakage_ma", sa.String(length=200), nullable=True))
    op.create_index("ix_inspection_firm_id_property_id", "inspection", ["firm_id", "property_id"], unique=False)
    op.add_column("limitation", sa.Column("agreed_on", sa.Date(), nullable=True))


def downgrade() -> None:
    op.drop_column("limitation", "agreed_on")
    op.drop_index("ix_inspection_firm_id_property_id", table_name="inspection")
    op.drop_column("inspection", "leakage_ma")
    op.drop_column("inspection", "electrode")
    op.drop_column("inspection", "switch_fuse_a")
    op.drop_column("inspection", "return_on")
    op.drop_column("inspection", "held_reason")
    op.drop_column("inspection", "held_at")
    op.drop_column("inspection", "carried_from")
    op.drop_column("inspection", "access")
    op.drop_column("inspection", "power_off")
    op.drop_column("inspection", "must_stay_on")
    op.drop_column("inspection", "job_id")
    op.drop_column("inspection", "installation_name")
    op.drop_column("inspection", "installation_id")
    op.drop_column("inspection", "property_id")
    op.drop_column("inspection", "nation")
    op.drop_column("firm", "prices")
    op.drop_column("firm", "rates")
    op.drop_column("circuit", "unconfirmed")
    op.drop_column("circuit", "rcd_group")
    op.drop_column("circuit", "phase")
    op.drop_column("circuit", "untraced")
    op.drop_column("bond", "unconfirmed")
    op.drop_column("board", "unconfirmed")
    op.drop_column("board", "electrode_ohm")
    op.drop_column("board", "earthing")
    op.drop_column("board", "phases")
    op.drop_column("board", "fed_by")
    op.drop_table("job")
    op.drop_table("isolation")
    op.drop_table("installation")
    op.drop_table("check")
    op.drop_table("search_end")
    op.drop_table("property")
    op.drop_table("photo")
    op.drop_table("meter")
    op.drop_table("lead_null")
    op.drop_table("book_change")
    op.drop_table("attendance")
    op.drop_table("search_subject")
    op.drop_table("leads")
    op.drop_table("instrument")
    op.drop_table("client")
