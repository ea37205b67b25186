"""What tests took off and when it was back; what has to come off before 500 V."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0014"
down_revision = "0013"
branch_labels = None
depends_on = None


def upgrade() -> None:
    op.create_table(
        "put_back",
        sa.Column("inspection_id", _identifier(), nullable=False),
        sa.Column("id", _identifier(), nullable=False),
        sa.Column("item", sa.String(length=30), nullable=True),
        sa.Column("about_id", sa.String(length=36), nullable=True),
        sa.Column("off_at", sa.DateTime(), nullable=True),
        sa.Column("back_at", sa.DateTime(), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_put_back_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f("pk_put_back")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.add_column("point", sa.Column("delicate", sa.String(length=64), nullable=True))


def downgrade() -> None:
    op.drop_column("point", "delicate")
    op.drop_table("put_back")


def _identifier() -> sa.types.TypeEngine[str]:
    return mysql.CHAR(36, charset="ascii", collation="ascii_bin")
