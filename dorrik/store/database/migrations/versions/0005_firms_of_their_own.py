"""Firms of their own: links, second factor, sessions, audit, erasure; identifiers that mean nothing elsewhere."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0005"
down_revision = "0004"
branch_labels = None
depends_on = None

#: Kinds of the book with a parent, and its table; parents before their children.
_PARENTS = {"property": "client", "installation": "property", "job": "property"}
_ENTRIES = ("client", "property", "installation", "job", "instrument", "leads")


def _id() -> mysql.CHAR:
    return mysql.CHAR(charset="ascii", collation="ascii_bin", length=36)


def upgrade() -> None:
    _people()
    _links_and_audit()
    _book()
    _search()
    _inspections()


def _people() -> None:
    op.add_column("firm", sa.Column("email", sa.String(190)))
    op.add_column("firm", sa.Column("letter_line", sa.String(200)))
    op.add_column("firm", sa.Column("nation", sa.String(60)))
    op.add_column("firm", sa.Column("keep_years", sa.Integer()))
    op.add_column("firm", sa.Column("keep_reports_years", sa.Integer()))
    op.add_column("firm", sa.Column("made_at", sa.DateTime()))
    op.add_column("firm", sa.Column("demo", sa.Boolean(), server_default="0", nullable=False))
    # Firms that an earlier demo made are known by their people, whose password is published.
    op.execute(
        "UPDATE firm SET demo = 1 WHERE id IN (SELECT firm_id FROM person WHERE email IN "
        "('ruth@breakwater.example', 'idris@breakwater.example', 'maren@saltmarsh.example'))"
    )
    op.add_column("person", sa.Column("address_key", mysql.VARBINARY(760)))
    # Addresses were kept in small letters: their bytes are their key.
    op.execute("UPDATE person SET address_key = CONVERT(email USING utf8mb4)")
    op.alter_column("person", "address_key", existing_type=mysql.VARBINARY(760), nullable=False)
    op.drop_index("uq_person_email", table_name="person")
    op.create_index("uq_person_address_key", "person", ["address_key"], unique=True)
    op.alter_column("person", "password_hash", existing_type=sa.String(200), nullable=True)
    op.add_column("person", sa.Column("made_at", sa.DateTime()))
    op.add_column("person", sa.Column("ended_at", sa.DateTime()))
    op.add_column("person", sa.Column("totp_secret", mysql.VARBINARY(40)))
    op.add_column("person", sa.Column("totp_since", sa.DateTime()))
    op.add_column("person", sa.Column("totp_step", sa.Integer()))
    op.add_column("person", sa.Column("recovery", sa.JSON()))
    # Sessions of before do not say where they were opened: everybody signs in once.
    op.execute("DELETE FROM session")
    op.add_column("session", sa.Column("id", _id(), nullable=False))
    op.add_column("session", sa.Column("made_at", sa.DateTime(), nullable=False))
    op.add_column("session", sa.Column("seen_at", sa.DateTime(), nullable=False))
    op.add_column("session", sa.Column("agent", sa.String(200), nullable=False))
    op.add_column("session", sa.Column("source", sa.String(60), nullable=False))
    op.execute("DELETE FROM sign_in_failure")
    op.add_column("sign_in_failure", sa.Column("source_hash", mysql.VARBINARY(32), nullable=False))
    op.alter_column("sign_in_failure", "at", existing_type=sa.DateTime(), type_=mysql.DATETIME(fsp=3), nullable=False)
    op.create_index(op.f("ix_sign_in_failure_at"), "sign_in_failure", ["at"])
    op.create_index("ix_sign_in_failure_source_hash_at", "sign_in_failure", ["source_hash", "at"])


def _links_and_audit() -> None:
    op.create_table(
        "one_time_link",
        sa.Column("token_hash", mysql.VARBINARY(32), nullable=False),
        sa.Column("purpose", sa.String(10), nullable=False),
        sa.Column("person_id", _id()),
        sa.Column("made_by", _id()),
        sa.Column("made_at", sa.DateTime(), nullable=False),
        sa.Column("expires_at", sa.DateTime(), nullable=False),
        sa.ForeignKeyConstraint(
            ["person_id"], ["person.id"], name=op.f("fk_one_time_link_person_id"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(["made_by"], ["person.id"], name=op.f("fk_one_time_link_made_by")),
        sa.PrimaryKeyConstraint("token_hash", name=op.f("pk_one_time_link")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index(op.f("ix_one_time_link_person_id"), "one_time_link", ["person_id"])
    op.create_table(
        "audit_entry",
        sa.Column("id", sa.Integer(), autoincrement=True, nullable=False),
        sa.Column("firm_id", _id()),
        sa.Column("at", mysql.DATETIME(fsp=3), nullable=False),
        sa.Column("person_id", _id()),
        sa.Column("action", sa.String(40), nullable=False),
        sa.Column("subject", sa.String(300), nullable=False),
        sa.Column("detail", sa.JSON()),
        sa.Column("source", sa.String(60), nullable=False),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_audit_entry_firm_id")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_audit_entry_person_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_audit_entry")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index("ix_audit_entry_firm_id_at", "audit_entry", ["firm_id", "at"])
    op.create_table(
        "once",
        sa.Column("firm_id", _id(), nullable=False),
        sa.Column("action", sa.String(40), nullable=False),
        sa.Column("request_key", sa.String(80, collation="utf8mb4_bin"), nullable=False),
        sa.Column("asked", mysql.CHAR(64, charset="ascii"), nullable=False),
        sa.Column("state", sa.String(10), nullable=False),
        sa.Column("answer", sa.JSON()),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_once_firm_id")),
        sa.PrimaryKeyConstraint("firm_id", "action", "request_key", name=op.f("pk_once")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index(op.f("ix_once_at"), "once", ["at"])


def _book() -> None:
    for kind in _PARENTS:
        op.drop_constraint(f"fk_{kind}_parent_id", kind, type_="foreignkey")
    for kind in _ENTRIES:
        op.execute(f"ALTER TABLE {kind} DROP PRIMARY KEY, ADD PRIMARY KEY (firm_id, id)")
        op.drop_index(f"ix_{kind}_firm_id", table_name=kind)
    for kind, parent in _PARENTS.items():
        op.drop_index(f"ix_{kind}_parent_id", table_name=kind)
        op.create_foreign_key(f"fk_{kind}_firm_id_parent_id", kind, parent, ["firm_id", "parent_id"], ["firm_id", "id"])
    op.alter_column("job", "confirmation_sent", existing_type=sa.String(240), type_=sa.String(300), nullable=True)
    op.add_column("book_change", sa.Column("kind", sa.String(20)))
    op.add_column("book_change", sa.Column("erased_at", sa.DateTime()))
    for kind in _ENTRIES:
        op.execute(
            f"UPDATE book_change b JOIN {kind} e ON e.firm_id = b.firm_id AND e.id = b.entry_id SET b.kind = '{kind}'"
        )
    op.execute("DELETE FROM book_change WHERE kind IS NULL")
    op.alter_column("book_change", "kind", existing_type=sa.String(20), nullable=False)
    op.create_index("ix_book_change_entry", "book_change", ["firm_id", "kind", "entry_id", "field"])
    op.drop_index("ix_book_change_entry_id_field", table_name="book_change")
    op.drop_index("ix_book_change_firm_id", table_name="book_change")


def _search() -> None:
    op.drop_constraint("fk_search_end_subject_id", "search_end", type_="foreignkey")
    op.add_column("search_end", sa.Column("kind", sa.String(20)))
    op.execute("UPDATE search_end e JOIN search_subject s ON s.id = e.subject_id SET e.kind = s.kind")
    op.alter_column("search_end", "kind", existing_type=sa.String(20), nullable=False)
    op.execute(
        "ALTER TABLE search_end DROP PRIMARY KEY, ADD PRIMARY KEY (firm_id, word_end, kind, subject_id), "
        "DROP INDEX ix_search_end_subject_id"
    )
    op.execute("ALTER TABLE search_subject DROP PRIMARY KEY, ADD PRIMARY KEY (firm_id, kind, id)")
    op.drop_index("ix_search_subject_firm_id", table_name="search_subject")
    op.create_foreign_key(
        "fk_search_end_firm_id_kind_subject_id",
        "search_end",
        "search_subject",
        ["firm_id", "kind", "subject_id"],
        ["firm_id", "kind", "id"],
        ondelete="CASCADE",
    )


def _inspections() -> None:
    op.add_column("change", sa.Column("erased_at", sa.DateTime()))
    op.add_column("issued_report", sa.Column("erased_at", sa.DateTime()))
    # Two devices at once could give one reference to two inspections: the later ones are told apart.
    op.execute(
        "UPDATE inspection i JOIN (SELECT id, ROW_NUMBER() OVER (PARTITION BY firm_id, reference ORDER BY id) n "
        "FROM inspection WHERE reference IS NOT NULL) d ON d.id = i.id "
        "SET i.reference = CONCAT(LEFT(i.reference, 50), ' (', d.n, ')') WHERE d.n > 1"
    )
    op.create_index("uq_inspection_firm_id_reference", "inspection", ["firm_id", "reference"], unique=True)
    op.add_column("inspection", sa.Column("issued_number", sa.Integer()))
    op.add_column("inspection", sa.Column("issued_outcome", sa.String(20)))
    op.add_column("inspection", sa.Column("due_on", sa.Date()))
    op.add_column("inspection", sa.Column("left_count", sa.Integer()))
    op.add_column("inspection", sa.Column("failing_count", sa.Integer()))
    op.add_column("inspection", sa.Column("judged_seq", sa.Integer()))
    op.add_column("inspection", sa.Column("judged_by", mysql.CHAR(16, charset="ascii")))
    op.execute("UPDATE inspection SET due_on = inspected_on + INTERVAL next_years YEAR")
    op.execute(
        "UPDATE inspection i JOIN issued_report r ON r.inspection_id = i.id JOIN (SELECT inspection_id, "
        "MAX(number) n FROM issued_report GROUP BY inspection_id) l ON l.inspection_id = i.id AND l.n = r.number "
        "SET i.issued_number = r.number, i.issued_outcome = r.outcome"
    )
    op.create_index("ix_inspection_in_hand", "inspection", ["firm_id", "issued_number", "changed_at"])
    op.create_index("ix_inspection_due", "inspection", ["firm_id", "due_on"])
    op.drop_index("ix_inspection_firm_id_changed_at", table_name="inspection")
    op.drop_index("ix_inspection_firm_id_reference", table_name="inspection")


def downgrade() -> None:
    op.create_index("ix_inspection_firm_id_changed_at", "inspection", ["firm_id", "changed_at"])
    op.drop_index("ix_inspection_due", table_name="inspection")
    op.drop_index("ix_inspection_in_hand", table_name="inspection")
    kept = ("judged_by", "judged_seq", "failing_count", "left_count", "due_on", "issued_outcome", "issued_number")
    for column in kept:
        op.drop_column("inspection", column)
    op.create_index("ix_inspection_firm_id_reference", "inspection", ["firm_id", "reference"])
    op.drop_index("uq_inspection_firm_id_reference", table_name="inspection")
    op.drop_column("issued_report", "erased_at")
    op.drop_column("change", "erased_at")
    op.drop_constraint("fk_search_end_firm_id_kind_subject_id", "search_end", type_="foreignkey")
    op.create_index("ix_search_subject_firm_id", "search_subject", ["firm_id"])
    op.execute("ALTER TABLE search_subject DROP PRIMARY KEY, ADD PRIMARY KEY (id)")
    op.execute("ALTER TABLE search_end DROP PRIMARY KEY, ADD PRIMARY KEY (firm_id, word_end, subject_id)")
    op.drop_column("search_end", "kind")
    op.create_index("ix_search_end_subject_id", "search_end", ["subject_id"])
    op.create_foreign_key(
        "fk_search_end_subject_id", "search_end", "search_subject", ["subject_id"], ["id"], ondelete="CASCADE"
    )
    op.create_index("ix_book_change_firm_id", "book_change", ["firm_id"])
    op.create_index("ix_book_change_entry_id_field", "book_change", ["entry_id", "field"])
    op.drop_index("ix_book_change_entry", table_name="book_change")
    op.drop_column("book_change", "erased_at")
    op.drop_column("book_change", "kind")
    op.execute("UPDATE job SET confirmation_sent = LEFT(confirmation_sent, 240)")
    op.alter_column("job", "confirmation_sent", existing_type=sa.String(300), type_=sa.String(240), nullable=True)
    for kind in _PARENTS:
        op.drop_constraint(f"fk_{kind}_firm_id_parent_id", kind, type_="foreignkey")
    for kind in _ENTRIES:
        op.create_index(f"ix_{kind}_firm_id", kind, ["firm_id"])
        op.execute(f"ALTER TABLE {kind} DROP PRIMARY KEY, ADD PRIMARY KEY (id)")
    for kind, parent in _PARENTS.items():
        op.create_index(f"ix_{kind}_parent_id", kind, ["parent_id"])
        op.create_foreign_key(f"fk_{kind}_parent_id", kind, parent, ["parent_id"], ["id"])
    for table in ("once", "audit_entry", "one_time_link"):
        op.drop_table(table)
    op.drop_index("ix_sign_in_failure_source_hash_at", table_name="sign_in_failure")
    op.drop_index(op.f("ix_sign_in_failure_at"), table_name="sign_in_failure")
    op.alter_column("sign_in_failure", "at", existing_type=mysql.DATETIME(fsp=3), type_=sa.DateTime(), nullable=False)
    op.drop_column("sign_in_failure", "source_hash")
    for column in ("source", "agent", "seen_at", "made_at", "id"):
        op.drop_column("session", column)
    for column in ("recovery", "totp_step", "totp_since", "totp_secret", "ended_at", "made_at"):
        op.drop_column("person", column)
    op.execute("UPDATE person SET password_hash = '' WHERE password_hash IS NULL")
    op.alter_column("person", "password_hash", existing_type=sa.String(200), nullable=False)
    op.drop_index("uq_person_address_key", table_name="person")
    op.create_index("uq_person_email", "person", ["email"], unique=True)
    op.drop_column("person", "address_key")
    for column in ("demo", "made_at", "keep_reports_years", "keep_years", "nation", "letter_line", "email"):
        op.drop_column("firm", column)
