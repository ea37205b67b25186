"""Rooms of their own; points that hang in rooms and, where it is known, on circuits; the walk and its sample.

Rooms that were words at a point become rooms; the words stay where they were.
"""

import uuid
from typing import Any

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import mysql

revision = "0007"
down_revision = "0006"
branch_labels = None
depends_on = None

_ID = mysql.CHAR(charset="ascii", collation="ascii_bin", length=36)
#: Columns that came, by table.
COLUMNS: dict[str, tuple[tuple[str, Any], ...]] = {
    "inspection": (
        ("other_hands", sa.Boolean()),
        ("damp", sa.Boolean()),
        ("age_years", sa.Integer()),
        ("last_report_years", sa.Integer()),
        ("sample_share", sa.Double()),
        ("sample_share_reason", sa.String(length=300)),
        ("walk_direction", sa.String(length=60)),
        ("catalogue", sa.JSON(none_as_null=True)),
    ),
    "limitation": (("about_entity", sa.String(length=60)), ("about_id", sa.String(length=36))),
    "photo": (("marks", sa.JSON(none_as_null=True)), ("print_size", sa.String(length=60))),
    "observation": (
        ("answers", sa.JSON(none_as_null=True)),
        ("opinion_asked_at", sa.DateTime()),
        ("told_to", sa.String(length=120)),
        ("told_at", sa.DateTime()),
        ("made_safe", sa.String(length=60)),
        ("made_safe_how", sa.String(length=300)),
        ("consent_of", sa.String(length=120)),
    ),
    "point": (
        ("room_id", sa.String(length=36)),
        ("looked", sa.String(length=60)),
        ("tested", sa.Boolean()),
        ("not_reached", sa.String(length=60)),
        ("note", sa.String(length=200)),
        ("sample", sa.String(length=60)),
        ("sample_reason", sa.String(length=200)),
        ("alarm", sa.String(length=60)),
        ("replace_by", sa.Date()),
        ("above", sa.String(length=60)),
        ("fire_rated", sa.Boolean()),
        ("plan_x_m", sa.Double()),
        ("plan_y_m", sa.Double()),
    ),
}


def upgrade() -> None:
    op.create_table(
        "room",
        sa.Column("inspection_id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("id", mysql.CHAR(charset="ascii", collation="ascii_bin", length=36), nullable=False),
        sa.Column("position", sa.Integer(), nullable=True),
        sa.Column("name", sa.String(length=80), nullable=True),
        sa.Column("kind", sa.String(length=60), nullable=True),
        sa.Column("floor", sa.String(length=60), nullable=True),
        sa.Column("escape_route", sa.Boolean(), nullable=True),
        sa.Column("not_reached", sa.String(length=60), nullable=True),
        sa.Column("note", sa.String(length=300), nullable=True),
        sa.Column("walked_at", sa.DateTime(), nullable=True),
        sa.Column("length_m", sa.Double(), nullable=True),
        sa.Column("width_m", sa.Double(), nullable=True),
        sa.Column("basin", sa.String(length=60), nullable=True),
        sa.Column("basin_length_m", sa.Double(), nullable=True),
        sa.Column("basin_width_m", sa.Double(), nullable=True),
        sa.Column("basin_x_m", sa.Double(), nullable=True),
        sa.Column("basin_y_m", sa.Double(), nullable=True),
        sa.Column("shower_head_m", sa.Double(), nullable=True),
        sa.Column("jets", sa.Boolean(), nullable=True),
        sa.Column("partitions", sa.JSON(none_as_null=True), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_room_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f("pk_room")),
        mysql_charset="utf8mb4",
        mysql_engine="InnoDB",
    )
    op.add_column("check", sa.Column("room_id", _ID, nullable=True))
    op.alter_column("check", "board_id", existing_type=_ID, nullable=True)
    op.create_foreign_key(
        op.f("fk_check_inspection_id_room_id"), "check", "room", ["inspection_id", "room_id"], ["inspection_id", "id"]
    )
    op.alter_column("point", "circuit_id", existing_type=_ID, nullable=True)
    for table, columns in COLUMNS.items():
        for name, type_ in columns:
            op.add_column(table, sa.Column(name, type_, nullable=True))
    _new_kinds()
    _rooms_out_of_words()


def downgrade() -> None:
    for table in ("catalogue_entry", "opinion", "declined"):
        op.drop_table(table)
    op.execute(
        "UPDATE point p JOIN room r ON r.inspection_id = p.inspection_id AND r.id = p.room_id "
        "SET p.room = r.name WHERE p.room IS NULL"
    )
    # What hangs on no circuit and no board has no place in the tables of before.
    op.execute("DELETE FROM point WHERE circuit_id IS NULL")
    op.execute("DELETE FROM `check` WHERE board_id IS NULL")
    op.alter_column("point", "circuit_id", existing_type=_ID, nullable=False)
    for table, columns in COLUMNS.items():
        for name, _ in columns:
            op.drop_column(table, name)
    op.drop_constraint(op.f("fk_check_inspection_id_room_id"), "check", type_="foreignkey")
    op.alter_column("check", "board_id", existing_type=_ID, nullable=False)
    op.drop_column("check", "room_id")
    op.drop_table("room")


def _new_kinds() -> None:
    own: dict[str, Any] = {"mysql_charset": "utf8mb4", "mysql_engine": "InnoDB"}
    op.create_table(
        "declined",
        sa.Column("inspection_id", _ID, nullable=False),
        sa.Column("id", _ID, nullable=False),
        sa.Column("about_id", sa.String(length=36), nullable=True),
        sa.Column("catalogue_key", sa.String(length=60), nullable=True),
        sa.Column("reason", sa.String(length=500), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_declined_inspection_id")),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f("pk_declined")),
        **own,
    )
    op.create_table(
        "opinion",
        sa.Column("inspection_id", _ID, nullable=False),
        sa.Column("id", _ID, nullable=False),
        sa.Column("observation_id", _ID, nullable=False),
        sa.Column("by", sa.String(length=120), nullable=True),
        sa.Column("code", sa.String(length=60), nullable=True),
        sa.Column("reason", sa.String(length=500), nullable=True),
        sa.Column("given_at", sa.DateTime(), nullable=True),
        sa.Column("removed", sa.Boolean(), nullable=True),
        sa.ForeignKeyConstraint(["inspection_id"], ["inspection.id"], name=op.f("fk_opinion_inspection_id")),
        sa.ForeignKeyConstraint(
            ["inspection_id", "observation_id"],
            ["observation.inspection_id", "observation.id"],
            name=op.f("fk_opinion_inspection_id_observation_id"),
        ),
        sa.PrimaryKeyConstraint("inspection_id", "id", name=op.f("pk_opinion")),
        **own,
    )
    op.create_table(
        "catalogue_entry",
        sa.Column("id", _ID, nullable=False),
        sa.Column("firm_id", _ID, nullable=False),
        sa.Column("entry_key", sa.String(length=60), nullable=False),
        sa.Column("says", sa.JSON(), nullable=False),
        sa.Column("author_id", _ID, nullable=False),
        sa.Column("made_at", sa.DateTime(), nullable=False),
        sa.Column("withdrawn_at", sa.DateTime(), nullable=True),
        sa.Column("withdrawn_by", _ID, nullable=True),
        sa.ForeignKeyConstraint(["firm_id"], ["firm.id"], name=op.f("fk_catalogue_entry_firm_id")),
        sa.ForeignKeyConstraint(["author_id"], ["person.id"], name=op.f("fk_catalogue_entry_author_id")),
        sa.ForeignKeyConstraint(["withdrawn_by"], ["person.id"], name=op.f("fk_catalogue_entry_withdrawn_by")),
        sa.PrimaryKeyConstraint("id", name=op.f("pk_catalogue_entry")),
        **own,
    )
    op.create_index(op.f("ix_catalogue_entry_firm_id"), "catalogue_entry", ["firm_id"])


def _rooms_out_of_words() -> None:
    connection = op.get_bind()
    rows = connection.execute(
        sa.text(
            "SELECT inspection_id, room, MIN(id) AS first, MAX(COALESCE(bathroom, 0)) AS wet FROM point "
            "WHERE room IS NOT NULL AND room <> '' GROUP BY inspection_id, room ORDER BY inspection_id, first"
        )
    ).all()
    position: dict[str, int] = {}
    for row in rows:
        number = position[row.inspection_id] = position.get(row.inspection_id, 0) + 1
        room = {"i": row.inspection_id, "id": str(uuid.uuid4()), "position": number, "name": row.room}
        kind = "bath or shower" if row.wet else None
        connection.execute(
            sa.text(
                "INSERT INTO room (inspection_id, id, position, name, kind) VALUES (:i, :id, :position, :name, :kind)"
            ),
            room | {"kind": kind},
        )
        connection.execute(
            sa.text("UPDATE point SET room_id = :id WHERE inspection_id = :i AND room = :name"),
            {"id": room["id"], "i": room["i"], "name": room["name"]},
        )
