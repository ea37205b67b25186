"""What a migration adds to an inspection is written into its journal, like any other change: a value that nobody is
seen to have entered cannot be explained, undone or sent to a device."""

import json
import uuid
from datetime import UTC, datetime

import sqlalchemy as sa
from sqlalchemy import Connection

#: The device under which such changes stand in the journal.
DEVICE = "an update"


def write(connection: Connection, entity: str, field: str, column: str | None = None) -> int:
    """Write a line for every value of a column that no line tells of; returns how many.

    field: as the journal names it; column: where it stands, where that has another name (what a thing hangs on). The
    author is whoever began the inspection; when it was last changed stays, since nobody worked on it.
    """
    kept = column or field
    inspection = "id" if entity == "inspection" else "inspection_id"
    rows = connection.execute(
        sa.text(
            f"SELECT t.{inspection} AS inspection_id, t.id, t.`{kept}` AS value, "
            "GREATEST(i.seq, (SELECT COALESCE(MAX(l.seq), 0) FROM `change` l WHERE l.inspection_id = i.id)) AS seq, "
            "(SELECT author_id FROM `change` f WHERE f.inspection_id = i.id ORDER BY f.seq LIMIT 1) AS author_id "
            f"FROM `{entity}` t JOIN inspection i ON i.id = t.{inspection} "
            "LEFT JOIN `change` c ON c.inspection_id = i.id AND c.entity_id = t.id AND c.field = :field "
            f"WHERE t.`{kept}` IS NOT NULL AND c.seq IS NULL ORDER BY inspection_id, t.id"
        ),
        {"field": field},
    ).all()
    at = datetime.now(UTC).replace(tzinfo=None)
    reached: dict[str, int] = {}
    lines = []
    for row in rows:
        if row.author_id is None:
            continue
        seq = reached[row.inspection_id] = reached.get(row.inspection_id, row.seq) + 1
        lines.append(
            {
                "inspection_id": row.inspection_id, "seq": seq, "change_id": str(uuid.uuid4()), "entity": entity,
                "entity_id": row.id, "field": field, "value": json.dumps(row.value, ensure_ascii=False),
                "based_on": seq - 1, "at": at, "device": DEVICE, "author_id": row.author_id,
            }
        )  # fmt: skip
    if lines:
        connection.execute(
            sa.text(
                "INSERT INTO `change` (inspection_id, seq, change_id, entity, entity_id, field, value, based_on, "
                "made_at, kept_at, device, author_id) VALUES (:inspection_id, :seq, :change_id, :entity, :entity_id, "
                ":field, :value, :based_on, :at, :at, :device, :author_id)"
            ),
            lines,
        )
        connection.execute(
            sa.text("UPDATE inspection SET seq = :seq WHERE id = :id"),
            [{"id": identity, "seq": seq} for identity, seq in reached.items()],
        )
    return len(lines)


def take_back(connection: Connection) -> None:
    """Take the lines of updates out again; the numbers of the others stay."""
    connection.execute(sa.text("DELETE FROM `change` WHERE device = :device"), {"device": DEVICE})
