"""Earlier readings of a point: they hang on it, as those of a circuit hang on the circuit."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0017"
down_revision = "0016"
branch_labels = None
depends_on = None

_ID = mysql.CHAR(36, charset="ascii", collation="ascii_bin")
_KEY = "fk_earlier_inspection_id_point_id"


def upgrade() -> None:
    op.add_column("earlier", sa.Column("point_id", _ID, nullable=True))
    op.alter_column("earlier", "circuit_id", existing_type=_ID, nullable=True)
    op.create_foreign_key(op.f(_KEY), "earlier", "point", ["inspection_id", "point_id"], ["inspection_id", "id"])


def downgrade() -> None:
    op.drop_constraint(op.f(_KEY), "earlier", type_="foreignkey")
    op.execute("DELETE FROM earlier WHERE point_id IS NOT NULL")
    op.drop_index(op.f(_KEY), table_name="earlier")
    op.alter_column("earlier", "circuit_id", existing_type=_ID, nullable=False)
    op.drop_column("earlier", "point_id")
