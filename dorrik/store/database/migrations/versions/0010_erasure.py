"""Photos by the inspection that they were sent to; inspections that were erased; the audit log names no recipient."""

from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0010"
down_revision = "0009"
branch_labels = None
depends_on = None

_OPTIONS: dict[str, Any] = {"mysql_engine": "InnoDB", "mysql_charset": "utf8mb4"}


def _id() -> mysql.CHAR:
    return mysql.CHAR(36, charset="ascii", collation="ascii_bin")


def upgrade() -> None:
    op.add_column("inspection", sa.Column("erased_at", mysql.DATETIME(fsp=3)))
    op.create_table(
        "uploaded_photo",
        sa.Column("firm_id", _id(), nullable=False),
        sa.Column("sha256", mysql.CHAR(64, charset="ascii"), nullable=False),
        sa.Column("inspection_id", _id(), nullable=False),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_uploaded_photo_firm_id")),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_uploaded_photo_inspection_id")),
        sa.PrimaryKeyConstraint("firm_id", "sha256", "inspection_id", name=op.f("pk_uploaded_photo")),
        **_OPTIONS,
    )
    op.create_index(op.f("ix_uploaded_photo_inspection_id"), "uploaded_photo", ["inspection_id"])
    op.create_table(
        "photo_to_remove",
        sa.Column("firm_id", _id(), nullable=False),
        sa.Column("sha256", mysql.CHAR(64, charset="ascii"), nullable=False),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_photo_to_remove_firm_id")),
        sa.PrimaryKeyConstraint("firm_id", "sha256", name=op.f("pk_photo_to_remove")),
        **_OPTIONS,
    )
    # To whom a letter went was written into the log; what it was about says enough.
    op.execute(
        "UPDATE audit_entry SET subject = COALESCE(CONCAT('observation ', JSON_VALUE(detail, '$.notice')), "
        "CONCAT('job ', JSON_VALUE(detail, '$.job')), '') WHERE action = 'mail sent'"
    )
    # What is remembered is asked for again within minutes, or not at all.
    op.execute("DELETE FROM once")


def downgrade() -> None:
    op.drop_table("photo_to_remove")
    op.drop_table("uploaded_photo")
    op.drop_column("inspection", "erased_at")
