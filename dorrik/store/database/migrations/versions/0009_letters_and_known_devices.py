"""Letters counted by recipient, session, firm and source; devices on which somebody signed in before."""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0009"
down_revision = "0008"
branch_labels = None
depends_on = None

_OPTIONS: dict[str, Any] = {"mysql_engine": "InnoDB", "mysql_charset": "utf8mb4"}


def _id() -> mysql.CHAR:
    return mysql.CHAR(36, charset="ascii", collation="ascii_bin")


def upgrade() -> None:
    op.create_table(
        "known_device",
        sa.Column("token_hash", mysql.VARBINARY(32), nullable=False),
        sa.Column("person_id", _id(), nullable=False),
        sa.Column("seen_at", sa.DateTime(), nullable=False),
        sa.ForeignKeyConstraint(
            ["person_id"], ["person.id"], name=op.f("fk_known_device_person_id"), ondelete="CASCADE"
        ),
        sa.PrimaryKeyConstraint("token_hash", "person_id", name=op.f("pk_known_device")),
        **_OPTIONS,
    )
    op.create_index(op.f("ix_known_device_person_id"), "known_device", ["person_id"])
    op.create_table(
        "letter",
        sa.Column("id", sa.Integer(), autoincrement=True, nullable=False),
        sa.Column("kind", sa.String(20), nullable=False),
        sa.Column("at", mysql.DATETIME(fsp=3), nullable=False),
        sa.Column("recipient_hash", mysql.VARBINARY(32), nullable=False),
        sa.Column("firm_id", _id()),
        sa.Column("session_id", _id()),
        sa.Column("source_hash", mysql.VARBINARY(32)),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_letter_firm_id"), ondelete="CASCADE"),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_letter")),
        **_OPTIONS,
    )
    for column in ("at", "recipient_hash", "firm_id", "session_id", "source_hash"):
        op.create_index(op.f(f"ix_letter_{column}"), "letter", [column])


def downgrade() -> None:
    op.drop_table("letter")
    op.drop_table("known_device")
