"""What follows a report: mail that waits and has left, remedial steps with their evidence, clients' links,
copies that were sent, and what a firm settles about its letters."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0022"
down_revision = "0021"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "client_link",
        sa.Column("id", _identifier(), nullable=False),
        sa.Column("firm_id", _identifier(), nullable=False),
        sa.Column("token_hash", sa.VARBINARY(length=32), nullable=False),
        sa.Column("inspection_id", _identifier(), nullable=True),
        sa.Column("client_id", _identifier(), nullable=True),
        sa.Column("role", sa.String(length=20), nullable=False),
        sa.Column("name", sa.String(length=120), nullable=False),
        sa.Column("made_at", sa.DateTime(), nullable=False),
        sa.Column("made_by", _identifier(), nullable=True),
        sa.Column("expires_at", sa.DateTime(), nullable=False),
        sa.Column("revoked_at", sa.DateTime(), nullable=True),
        sa.Column("first_opened_at", sa.DateTime(), nullable=True),
        sa.Column("last_opened_at", sa.DateTime(), nullable=True),
        sa.Column("opened", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_client_link_firm_id")),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_client_link_inspection_id")),
        sa.ForeignKeyConstraint(["made_by"], ["person.id"], name=op.f("fk_client_link_made_by")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_client_link")),
        sa.UniqueConstraint("token_hash", name=op.f("uq_client_link_token_hash")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index(op.f("ix_client_link_client_id"), "client_link", ["client_id"], unique=False)
    op.create_index(op.f("ix_client_link_inspection_id"), "client_link", ["inspection_id"], unique=False)
    op.create_table(
        "firm_mail",
        sa.Column("firm_id", _identifier(), nullable=False),
        sa.Column("host", sa.String(length=190), nullable=False),
        sa.Column("port", sa.Integer(), nullable=False),
        sa.Column("security", sa.String(length=10), nullable=False),
        sa.Column("user", sa.String(length=190), nullable=True),
        sa.Column("password", sa.String(length=190), nullable=True),
        sa.Column("sender", sa.String(length=190), nullable=False),
        sa.Column("tried", sa.Boolean(), nullable=False),
        sa.Column("changed_at", sa.DateTime(), nullable=False),
        sa.Column("changed_by", _identifier(), nullable=False),
        sa.ForeignKeyConstraint(["changed_by"], ["person.id"], name=op.f("fk_firm_mail_changed_by")),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_firm_mail_firm_id"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("firm_id", name=op.f("pk_firm_mail")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "firm_paper",
        sa.Column("firm_id", _identifier(), nullable=False),
        sa.Column("texts", sa.JSON(), nullable=False),
        sa.Column("remind_days", sa.JSON(), nullable=False),
        sa.Column("first_reference", sa.String(length=40), nullable=True),
        sa.Column("first_job", sa.String(length=40), nullable=True),
        sa.Column("changed_at", sa.DateTime(), nullable=False),
        sa.Column("changed_by", _identifier(), nullable=False),
        sa.ForeignKeyConstraint(["changed_by"], ["person.id"], name=op.f("fk_firm_paper_changed_by")),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_firm_paper_firm_id"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("firm_id", name=op.f("pk_firm_paper")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "outgoing_mail",
        sa.Column("id", _identifier(), nullable=False),
        sa.Column("firm_id", _identifier(), nullable=False),
        sa.Column("kind", sa.String(length=30), nullable=False),
        sa.Column("inspection_id", _identifier(), nullable=True),
        sa.Column("job_id", _identifier(), nullable=True),
        sa.Column("about", sa.String(length=120), nullable=False),
        sa.Column("to_address", sa.String(length=190), nullable=False),
        sa.Column("sender", sa.String(length=120), nullable=False),
        sa.Column("reply_to", sa.String(length=190), nullable=True),
        sa.Column("subject", sa.String(length=300), nullable=False),
        sa.Column("text", sa.Text(), nullable=False),
        sa.Column("message_id", sa.String(length=120), nullable=False),
        sa.Column("made_at", mysql.DATETIME(fsp=3), nullable=False),
        sa.Column("made_by", _identifier(), nullable=True),
        sa.Column("state", sa.String(length=12), nullable=False),
        sa.Column("tries", sa.Integer(), nullable=False),
        sa.Column("next_at", mysql.DATETIME(fsp=3), nullable=False),
        sa.Column("held_until", mysql.DATETIME(fsp=3), nullable=True),
        sa.Column("ended_at", mysql.DATETIME(fsp=3), nullable=True),
        sa.Column("told", sa.String(length=300), nullable=True),
        sa.Column("letter_id", sa.Integer(), nullable=True),
        sa.Column("erased_at", sa.DateTime(), nullable=True),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_outgoing_mail_firm_id")),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_outgoing_mail_inspection_id")),
        sa.ForeignKeyConstraint(["made_by"], ["person.id"], name=op.f("fk_outgoing_mail_made_by")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_outgoing_mail")),
        sa.UniqueConstraint("message_id", name=op.f("uq_outgoing_mail_message_id")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index("ix_outgoing_mail_firm_id_made_at", "outgoing_mail", ["firm_id", "made_at"], unique=False)
    op.create_index(op.f("ix_outgoing_mail_inspection_id"), "outgoing_mail", ["inspection_id"], unique=False)
    op.create_index(op.f("ix_outgoing_mail_job_id"), "outgoing_mail", ["job_id"], unique=False)
    op.create_index("ix_outgoing_mail_state_next_at", "outgoing_mail", ["state", "next_at"], unique=False)
    op.create_table(
        "report_state",
        sa.Column("inspection_id", _identifier(), nullable=False),
        sa.Column("firm_id", _identifier(), nullable=False),
        sa.Column("counting", sa.Integer(), nullable=False),
        sa.Column("cleared", sa.Integer(), nullable=False),
        sa.Column("reported", sa.Integer(), nullable=False),
        sa.Column("worst", sa.String(length=4), nullable=False),
        sa.Column("due", sa.Date(), nullable=True),
        sa.Column("next_visit", sa.Date(), nullable=True),
        sa.Column("copy_due", sa.Date(), nullable=True),
        sa.Column("confirmed_on", sa.Date(), nullable=True),
        sa.Column("closed", sa.Boolean(), nullable=False),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_report_state_firm_id")),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_report_state_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", name=op.f("pk_report_state")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index("ix_report_state_open", "report_state", ["firm_id", "closed", "due"], unique=False)
    op.create_table(
        "outgoing_file",
        sa.Column("mail_id", _identifier(), nullable=False),
        sa.Column("place", sa.Integer(), autoincrement=False, nullable=False),
        sa.Column("name", sa.String(length=190), nullable=False),
        sa.Column("content", mysql.LONGBLOB(), nullable=False),
        sa.ForeignKeyConstraint(
            ["mail_id"], ["outgoing_mail.id"], name=op.f("fk_outgoing_file_mail_id"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("mail_id", "place", name=op.f("pk_outgoing_file")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "remedial_step",
        sa.Column("id", _identifier(), nullable=False),
        sa.Column("inspection_id", _identifier(), nullable=False),
        sa.Column("number", sa.Integer(), nullable=False),
        sa.Column("observation_id", _identifier(), nullable=False),
        sa.Column("kind", sa.String(length=12), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", _identifier(), nullable=True),
        sa.Column("link_id", _identifier(), nullable=True),
        sa.Column("what", sa.JSON(), nullable=False),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_remedial_step_inspection_id")),
        sa.ForeignKeyConstraint(["link_id"], ["client_link.id"], name=op.f("fk_remedial_step_link_id")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_remedial_step_person_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_remedial_step")),
        sa.UniqueConstraint("inspection_id", "number", name=op.f("uq_remedial_step_inspection_id_number")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_table(
        "report_copy",
        sa.Column("id", _identifier(), nullable=False),
        sa.Column("inspection_id", _identifier(), nullable=False),
        sa.Column("report_id", _identifier(), nullable=False),
        sa.Column("role", sa.String(length=20), nullable=False),
        sa.Column("name", sa.String(length=120), nullable=False),
        sa.Column("how", sa.String(length=12), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("mail_id", _identifier(), nullable=True),
        sa.Column("link_id", _identifier(), nullable=True),
        sa.Column("person_id", _identifier(), nullable=True),
        sa.Column("removed_at", sa.DateTime(), nullable=True),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_report_copy_inspection_id")),
        sa.ForeignKeyConstraint(["link_id"], ["client_link.id"], name=op.f("fk_report_copy_link_id")),
        sa.ForeignKeyConstraint(["mail_id"], ["outgoing_mail.id"], name=op.f("fk_report_copy_mail_id")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_report_copy_person_id")),
        sa.ForeignKeyConstraint(["report_id"], ["issued_report.id"], name=op.f("fk_report_copy_report_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_report_copy")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index(op.f("ix_report_copy_inspection_id"), "report_copy", ["inspection_id"], unique=False)
    op.create_table(
        "evidence_file",
        sa.Column("id", _identifier(), nullable=False),
        sa.Column("inspection_id", _identifier(), nullable=False),
        sa.Column("step_id", _identifier(), nullable=True),
        sa.Column("kind", sa.String(length=12), nullable=False),
        sa.Column("name", sa.String(length=190), nullable=False),
        sa.Column("media_type", sa.String(length=40), nullable=False),
        sa.Column("sha256", mysql.CHAR(charset="ascii", length=64), nullable=False),
        sa.Column("content", mysql.LONGBLOB(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.Column("person_id", _identifier(), nullable=True),
        sa.Column("link_id", _identifier(), nullable=True),
        sa.Column("erased_at", sa.DateTime(), nullable=True),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_evidence_file_inspection_id")),
        sa.ForeignKeyConstraint(["link_id"], ["client_link.id"], name=op.f("fk_evidence_file_link_id")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_evidence_file_person_id")),
        sa.ForeignKeyConstraint(["step_id"], ["remedial_step.id"], name=op.f("fk_evidence_file_step_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_evidence_file")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index(op.f("ix_evidence_file_inspection_id"), "evidence_file", ["inspection_id"], unique=False)
    op.create_index(op.f("ix_evidence_file_step_id"), "evidence_file", ["step_id"], unique=False)
    op.add_column("issued_report", sa.Column("client_words", mysql.LONGTEXT(), nullable=True))


def downgrade() -> None:
    op.drop_column("issued_report", "client_words")
    op.drop_table("evidence_file")
    op.drop_table("report_copy")
    op.drop_table("remedial_step")
    op.drop_table("outgoing_file")
    op.drop_table("report_state")
    op.drop_table("outgoing_mail")
    op.drop_table("firm_paper")
    op.drop_table("firm_mail")
    op.drop_table("client_link")


def _identifier() -> sa.types.TypeEngine[str]:
    return mysql.CHAR(36, charset="ascii", collation="ascii_bin")
