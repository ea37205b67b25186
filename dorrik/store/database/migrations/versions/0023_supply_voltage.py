"""The voltage of the supply."""

import sqlalchemy as sa
from alembic import op

revision = "0023"
down_revision = "0022"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.add_column("inspection", sa.Column("supply_voltage_v", sa.Double(), nullable=True))


def downgrade() -> None:
    op.drop_column("inspection", "supply_voltage_v")
