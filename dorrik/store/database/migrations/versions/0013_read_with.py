"""With which instrument a reading was taken, and when it showed it."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0013"
down_revision = "0012"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column(
        "change", sa.Column("instrument_id", mysql.CHAR(36, charset="ascii", collation="ascii_bin"), nullable=True)
    )
    op.add_column("change", sa.Column("read_at", mysql.DATETIME(fsp=3), nullable=True))


def downgrade() -> None:
    op.drop_column("change", "instrument_id")
    op.drop_column("change", "read_at")
