"""What earlier migrations added to inspections is written into their journals: rooms out of the words at points, why
there is no Zs, and references that were told apart."""

from alembic import op

from dorrik.store.database.migrations import journalled

revision = "0011"
down_revision = "0010"
branch_labels = None
depends_on = None


def upgrade() -> None:
    connection = op.get_bind()
    # What a room hangs on first: that line makes it.
    journalled.write(connection, "room", "inspection", "inspection_id")
    for entity, field in (
        ("room", "position"), ("room", "name"), ("room", "kind"), ("point", "room_id"), ("circuit", "zs_not_possible"),
        ("inspection", "reference"),
    ):  # fmt: skip
        journalled.write(connection, entity, field)


def downgrade() -> None:
    journalled.take_back(op.get_bind())
