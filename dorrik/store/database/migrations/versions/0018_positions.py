"""How switches stood while a reading was taken; pairings of a circuit's insulation test; arc fault devices."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0018"
down_revision = "0017"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "position",
        sa.Column("inspection_id", _identifier(), nullable=False),
        sa.Column("id", _identifier(), nullable=False),
        sa.Column("about_id", sa.String(length=36), nullable=True),
        sa.Column("field", sa.String(length=40), nullable=True),
        sa.Column("of_reading", sa.String(length=200), nullable=True),
        sa.Column("stood", sa.String(length=200), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_position_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f("pk_position")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.add_column("circuit", sa.Column("insulation_pairings", sa.String(length=64), nullable=True))
    op.add_column("circuit", sa.Column("afdd", sa.Boolean(), nullable=True))


def downgrade() -> None:
    op.drop_column("circuit", "afdd")
    op.drop_column("circuit", "insulation_pairings")
    op.drop_table("position")


def _identifier() -> sa.types.TypeEngine[str]:
    return mysql.CHAR(36, charset="ascii", collation="ascii_bin")
