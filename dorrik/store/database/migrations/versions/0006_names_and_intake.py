"""Names as the trade says them (`core/inspection/former_names.py`); meter and isolator of the intake.

The journal and the register's history speak of fields by their name: they are carried along, so that the history of a
field goes on. What was issued is frozen and stays as it was.
"""

import sqlalchemy as sa
from alembic import op

revision = "0006"
down_revision = "0005"
branch_labels = None
depends_on = None

#: Table, kind in its history, former and new name of the column, its type.
COLUMNS = (
    ("circuit", "circuit", "points", "points_served", sa.Integer()),
    ("point", "point", "sort", "kind", sa.String(length=60)),
    ("instrument_used", "instrument_used", "sort", "kind", sa.String(length=40)),
    ("instrument", "instrument", "sort", "kind", sa.String(length=60)),
)


def upgrade() -> None:
    _rename_table("meter", "instrument_used")
    op.execute("UPDATE `change` SET entity = 'instrument_used' WHERE entity = 'meter'")
    for table, kind, former, name, type_ in COLUMNS:
        op.alter_column(table, former, new_column_name=name, existing_type=type_, existing_nullable=True)
        _carry_history(kind, former, name)
    op.add_column("inspection", sa.Column("meter_number", sa.String(length=40), nullable=True))
    op.add_column("inspection", sa.Column("meter_seals", sa.String(length=60), nullable=True))
    op.add_column("inspection", sa.Column("isolator", sa.String(length=60), nullable=True))
    op.add_column("inspection", sa.Column("isolator_a", sa.Double(), nullable=True))


def downgrade() -> None:
    for name in ("isolator_a", "isolator", "meter_seals", "meter_number"):
        op.drop_column("inspection", name)
    for table, kind, former, name, type_ in COLUMNS:
        op.alter_column(table, name, new_column_name=former, existing_type=type_, existing_nullable=True)
        _carry_history(kind, name, former)
    op.execute("UPDATE `change` SET entity = 'meter' WHERE entity = 'instrument_used'")
    _rename_table("instrument_used", "meter")


def _rename_table(former: str, name: str) -> None:
    op.drop_constraint(op.f(f"fk_{former}_inspection_id"), former, type_="foreignkey")
    op.rename_table(former, name)
    op.create_foreign_key(op.f(f"fk_{name}_inspection_id"), name, "inspection", ["inspection_id"], ["id"])


def _carry_history(kind: str, former: str, name: str) -> None:
    table, of = ("book_change", "kind") if kind == "instrument" else ("`change`", "entity")
    update = sa.text(f"UPDATE {table} SET field = :name WHERE {of} = :kind AND field = :former")
    op.execute(update.bindparams(name=name, kind=kind, former=former))
