"""Occupiers: links by which they choose a time, what happened about a visit, photos; calendars read by address."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0025"
down_revision = "0024"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "calendar_feed",
        sa.Column("id", _identifier(), nullable=False),
        sa.Column("firm_id", _identifier(), nullable=False),
        sa.Column("token_hash", sa.VARBINARY(length=32), nullable=False),
        sa.Column("whose", sa.String(length=12), nullable=False),
        sa.Column("of_id", _identifier(), nullable=True),
        sa.Column("name", sa.String(length=120), nullable=False),
        sa.Column("made_at", sa.DateTime(), nullable=False),
        sa.Column("made_by", _identifier(), nullable=False),
        sa.Column("revoked_at", sa.DateTime(), nullable=True),
        sa.Column("last_read_at", sa.DateTime(), nullable=True),
        sa.Column("reads", sa.Integer(), nullable=False),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_calendar_feed_firm_id")),
        sa.ForeignKeyConstraint(["made_by"], ["person.id"], name=op.f("fk_calendar_feed_made_by")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_calendar_feed")),
        sa.UniqueConstraint("token_hash", name=op.f("uq_calendar_feed_token_hash")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index(op.f("ix_calendar_feed_firm_id"), "calendar_feed", ["firm_id"], unique=False)
    op.create_table(
        "visit_link",
        sa.Column("id", _identifier(), nullable=False),
        sa.Column("firm_id", _identifier(), nullable=False),
        sa.Column("visit_id", _identifier(), nullable=False),
        sa.Column("token_hash", sa.VARBINARY(length=32), nullable=False),
        sa.Column("times", sa.JSON(), nullable=False),
        sa.Column("to_address", sa.String(length=190), nullable=False),
        sa.Column("made_at", sa.DateTime(), nullable=False),
        sa.Column("made_by", _identifier(), nullable=False),
        sa.Column("mail_id", _identifier(), nullable=True),
        sa.Column("expires_at", sa.DateTime(), nullable=False),
        sa.Column("ended_at", sa.DateTime(), nullable=True),
        sa.Column("ended_why", sa.String(length=200), nullable=True),
        sa.Column("opened", sa.Integer(), nullable=False),
        sa.Column("first_opened_at", sa.DateTime(), nullable=True),
        sa.Column("answer", sa.String(length=12), nullable=True),
        sa.Column("answered_at", sa.DateTime(), nullable=True),
        sa.Column("answer_words", sa.JSON(none_as_null=True), nullable=True),
        sa.ForeignKeyConstraint(
            ["firm_id", "visit_id"],
            ["planned_visit.firm_id", "planned_visit.id"],
            name=op.f("fk_visit_link_firm_id_visit_id"),
        ),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_visit_link_firm_id")),
        sa.ForeignKeyConstraint(["made_by"], ["person.id"], name=op.f("fk_visit_link_made_by")),
        sa.ForeignKeyConstraint(["mail_id"], ["outgoing_mail.id"], name=op.f("fk_visit_link_mail_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_visit_link")),
        sa.UniqueConstraint("token_hash", name=op.f("uq_visit_link_token_hash")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index("ix_visit_link_visit", "visit_link", ["firm_id", "visit_id"], unique=False)
    op.create_table(
        "visit_step",
        sa.Column("id", _identifier(), nullable=False),
        sa.Column("firm_id", _identifier(), nullable=False),
        sa.Column("visit_id", _identifier(), nullable=False),
        sa.Column("kind", sa.String(length=12), nullable=False),
        sa.Column("at", mysql.DATETIME(fsp=3), nullable=False),
        sa.Column("on_day", sa.Date(), nullable=True),
        sa.Column("what", sa.JSON(), nullable=False),
        sa.Column("person_id", _identifier(), nullable=True),
        sa.Column("link_id", _identifier(), nullable=True),
        sa.Column("mail_id", _identifier(), nullable=True),
        sa.ForeignKeyConstraint(
            ["firm_id", "visit_id"],
            ["planned_visit.firm_id", "planned_visit.id"],
            name=op.f("fk_visit_step_firm_id_visit_id"),
        ),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_visit_step_firm_id")),
        sa.ForeignKeyConstraint(["link_id"], ["visit_link.id"], name=op.f("fk_visit_step_link_id")),
        sa.ForeignKeyConstraint(["mail_id"], ["outgoing_mail.id"], name=op.f("fk_visit_step_mail_id")),
        sa.ForeignKeyConstraint(["person_id"], ["person.id"], name=op.f("fk_visit_step_person_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_visit_step")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index("ix_visit_step_visit", "visit_step", ["firm_id", "visit_id"], unique=False)
    op.create_table(
        "visit_photo",
        sa.Column("id", _identifier(), nullable=False),
        sa.Column("firm_id", _identifier(), nullable=False),
        sa.Column("step_id", _identifier(), nullable=False),
        sa.Column("name", sa.String(length=190), nullable=False),
        sa.Column("sha256", mysql.CHAR(charset="ascii", length=64), nullable=False),
        sa.Column("content", mysql.LONGBLOB(), nullable=False),
        sa.Column("at", sa.DateTime(), nullable=False),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_visit_photo_firm_id")),
        sa.ForeignKeyConstraint(["step_id"], ["visit_step.id"], name=op.f("fk_visit_photo_step_id")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_visit_photo")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index(op.f("ix_visit_photo_step_id"), "visit_photo", ["step_id"], unique=False)


def downgrade() -> None:
    op.drop_table("visit_photo")
    op.drop_table("visit_step")
    op.drop_table("visit_link")
    op.drop_table("calendar_feed")


def _identifier() -> sa.types.TypeEngine[str]:
    return mysql.CHAR(36, charset="ascii", collation="ascii_bin")
