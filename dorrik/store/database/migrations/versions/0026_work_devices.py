"""Devices that somebody works on, and on which of them each session is."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0026"
down_revision = "0025"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("session", sa.Column("device_id", _identifier(), nullable=True))
    op.create_index(op.f("ix_session_device_id"), "session", ["device_id"], unique=False)
    op.create_table(
        "work_device",
        sa.Column("id", _identifier(), nullable=False),
        sa.Column("person_id", _identifier(), nullable=False),
        sa.Column("name", sa.String(length=80), nullable=False),
        sa.Column("signing_key", sa.VARBINARY(length=32), nullable=False),
        sa.Column("made_at", sa.DateTime(), nullable=False),
        sa.Column("heard_at", sa.DateTime(), nullable=False),
        sa.Column("waiting", sa.JSON(), nullable=True),
        sa.Column("ended_at", sa.DateTime(), nullable=True),
        sa.Column("ended_by", _identifier(), nullable=True),
        sa.ForeignKeyConstraint(
            ["person_id"], ["person.id"], name=op.f("fk_work_device_person_id"), ondelete="CASCADE"
        ),
        sa.ForeignKeyConstraint(["ended_by"], ["person.id"], name=op.f("fk_work_device_ended_by")),
        sa.PrimaryKeyConstraint("id", "person_id", name=op.f("pk_work_device")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.create_index(op.f("ix_work_device_person_id"), "work_device", ["person_id"], unique=False)


def downgrade() -> None:
    op.drop_table("work_device")
    op.drop_index(op.f("ix_session_device_id"), table_name="session")
    op.drop_column("session", "device_id")


def _identifier() -> sa.types.TypeEngine[str]:
    return mysql.CHAR(36, charset="ascii", collation="ascii_bin")
