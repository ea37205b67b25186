"""What a point read before it was tested again stays beside its retest."""

import sqlalchemy as sa
from alembic import op

revision = "0012"
down_revision = "0011"
branch_labels = None
depends_on = None

_COLUMNS = ("first_line_neutral_ohm", "first_line_cpc_ohm", "first_r2_ohm")


def upgrade() -> None:
    for name in _COLUMNS:
        op.add_column("point", sa.Column(name, sa.String(length=200), nullable=True))


def downgrade() -> None:
    for name in _COLUMNS:
        op.drop_column("point", name)
