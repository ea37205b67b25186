"""An open ring lowered for today, its ends tried against another ring's; switches and controls of a radial's test;
Zs at points."""

import sqlalchemy as sa
from alembic import op

revision = "0015"
down_revision = "0014"
branch_labels = None
depends_on = None

_READINGS = ("swap_line_ohm", "swap_neutral_ohm", "swap_cpc_ohm")


def upgrade() -> None:
    op.add_column("circuit", sa.Column("lowered_to_a", sa.Double(), nullable=True))
    op.add_column("circuit", sa.Column("lowered_agreed_with", sa.String(length=120), nullable=True))
    op.add_column("circuit", sa.Column("swap_with", sa.String(length=36), nullable=True))
    for name in _READINGS:
        op.add_column("circuit", sa.Column(name, sa.String(length=200), nullable=True))
    op.add_column("circuit", sa.Column("switches_both_ways", sa.Boolean(), nullable=True))
    op.add_column("circuit", sa.Column("controls_bridged", sa.Boolean(), nullable=True))
    op.add_column("point", sa.Column("zs_ohm", sa.String(length=200), nullable=True))


def downgrade() -> None:
    op.drop_column("point", "zs_ohm")
    for name in ("controls_bridged", "switches_both_ways", *reversed(_READINGS)):
        op.drop_column("circuit", name)
    for name in ("swap_with", "lowered_agreed_with", "lowered_to_a"):
        op.drop_column("circuit", name)
