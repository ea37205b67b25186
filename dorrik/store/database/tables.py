"""The tables of the work: inspections, their journal and reports, the firm's register, and what a search finds.

Columns of entities follow from the fields that the core declares. Every entity below an inspection has the key
(inspection, id), every entry of the register the key (firm, id) in its kind's table: an id is no secret and means
nothing outside its own inspection or firm, so that nobody reaches another's by knowing it.
"""

from typing import Any

from sqlalchemy import (
    JSON,
    Boolean,
    Column,
    Date,
    DateTime,
    Double,
    ForeignKey,
    ForeignKeyConstraint,
    Index,
    Integer,
    String,
    Table,
    Text,
    UniqueConstraint,
)
from sqlalchemy.dialects.mysql import CHAR, DATETIME, LONGBLOB, LONGTEXT

from dorrik.core.basics.readings import MAX_LENGTH
from dorrik.core.inspection.field_spec import FieldSpec
from dorrik.core.inspection.kinds import KINDS, EntityKind
from dorrik.core.work.register import REGISTER
from dorrik.store.database.metadata import OPTIONS, identifier, metadata

#: Longest text that is kept in the row itself; longer fields become TEXT.
IN_ROW = 500


def _type(spec: FieldSpec) -> Any:
    match spec.kind:
        case "text":
            return String(spec.max_length) if spec.max_length <= IN_ROW else Text()
        case "choice":
            # Of 256 bytes and more a column is stored beside its row where that would be too long.
            return String(64)
        case "reading":
            return String(MAX_LENGTH)
        case "number":
            return Double()
        case "integer":
            return Integer()
        case "flag":
            return Boolean()
        case "date":
            return Date()
        case "instant":
            return DateTime()
        case "options" | "corrections" | "pairings" | "partitions" | "marks" | "answers" | "entries":
            return JSON(none_as_null=True)


def _fields(kind: EntityKind) -> list[Column[Any]]:
    return [Column(name, _type(spec)) for name, spec in kind.fields.items()]


inspection = Table(
    "inspection",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("firm_id", identifier(), ForeignKey("firm.id"), nullable=False),
    Column("seq", Integer(), nullable=False),
    Column("changed_at", DATETIME(fsp=3), nullable=False),
    # What lists show of it: kept, so that no list judges it again.
    Column("issued_number", Integer()),
    Column("issued_outcome", String(20)),
    Column("due_on", Date()),
    Column("left_count", Integer()),
    Column("failing_count", Integer()),
    Column("judged_seq", Integer()),
    Column("judged_by", CHAR(16, charset="ascii")),
    # Its words are gone, and it takes no change any more.
    Column("erased_at", DATETIME(fsp=3)),
    *_fields(KINDS["inspection"]),
    Index("ix_inspection_in_hand", "firm_id", "issued_number", "changed_at"),
    Index("ix_inspection_due", "firm_id", "due_on"),
    Index("uq_inspection_firm_id_reference", "firm_id", "reference", unique=True),
    Index("ix_inspection_firm_id_property_id", "firm_id", "property_id"),
    **OPTIONS,
)


def _child(kind: EntityKind) -> Table:
    """The table of a kind that belongs to an inspection, directly or by way of another kind."""
    parts: list[Any] = [
        Column("inspection_id", identifier(), ForeignKey("inspection.id"), primary_key=True),
        Column("id", identifier(), primary_key=True),
    ]
    for parent in kind.parents:
        if parent != "inspection":
            column = f"{parent}_id"
            parts += [
                # Where it may hang on something else, what it does not hang on is empty.
                Column(column, identifier(), nullable=bool(kind.also)),
                ForeignKeyConstraint(["inspection_id", column], [f"{parent}.inspection_id", f"{parent}.id"]),
            ]
    return Table(kind.name, metadata, *parts, *_fields(kind), **OPTIONS)


#: The table of every kind of entity by the kind's name.
ENTITIES: dict[str, Table] = {"inspection": inspection} | {
    name: _child(kind) for name, kind in KINDS.items() if name != "inspection"
}

change = Table(
    "change",
    metadata,
    Column("inspection_id", identifier(), ForeignKey("inspection.id"), primary_key=True),
    Column("seq", Integer(), primary_key=True, autoincrement=False),
    Column("change_id", identifier(), nullable=False),
    Column("entity", String(30), nullable=False),
    Column("entity_id", identifier(), nullable=False),
    Column("field", String(40), nullable=False),
    Column("value", JSON(none_as_null=True)),
    Column("before", JSON(none_as_null=True)),
    Column("based_on", Integer(), nullable=False),
    Column("overtook", Integer()),
    Column("erased_at", DateTime()),
    Column("made_at", DATETIME(fsp=3), nullable=False),
    Column("kept_at", DATETIME(fsp=3), nullable=False),
    Column("device", String(60), nullable=False),
    # With which instrument a reading was taken, and when it showed it, where that came over a link.
    Column("instrument_id", identifier()),
    Column("read_by", identifier()),
    Column("read_at", DATETIME(fsp=3)),
    Column("author_id", identifier(), ForeignKey("person.id"), nullable=False),
    UniqueConstraint("inspection_id", "change_id"),
    Index("ix_change_field", "inspection_id", "entity_id", "field", "seq"),
    **OPTIONS,
)

issued_report = Table(
    "issued_report",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("inspection_id", identifier(), ForeignKey("inspection.id"), nullable=False),
    # A report, a minor works certificate of the repair that it names, or an offer; each kind has numbers of its own.
    Column("kind", String(20), nullable=False, server_default="report"),
    Column("repair_id", identifier()),
    Column("number", Integer(), nullable=False),
    Column("issued_at", DateTime(), nullable=False),
    Column("issued_by", identifier(), ForeignKey("person.id"), nullable=False),
    Column("seq", Integer(), nullable=False),
    Column("outcome", String(20), nullable=False),
    Column("replaces", Integer()),
    Column("reason", String(500)),
    Column("document", LONGTEXT(), nullable=False),
    # Page one as whoever ordered it reads it, for their own page (JSON).
    Column("client_words", LONGTEXT()),
    Column("pdf", LONGBLOB(), nullable=False),
    Column("sha256", CHAR(64, charset="ascii"), nullable=False),
    # What its paper is known by: the beginning of the digest of its data.
    Column("check_code", CHAR(14, charset="ascii", collation="ascii_bin"), index=True),
    Column("erased_at", DateTime()),
    UniqueConstraint("inspection_id", "kind", "number"),
    **OPTIONS,
)

#: What became of a report on its way to being issued: submitted with a signature, sent back with words, authorised.
review_step = Table(
    "review_step",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("inspection_id", identifier(), ForeignKey("inspection.id"), nullable=False),
    Column("number", Integer(), nullable=False),
    Column("kind", String(20), nullable=False),
    Column("at", DateTime(), nullable=False),
    Column("person_id", identifier(), ForeignKey("person.id"), nullable=False),
    # The sequence number that the person had before them.
    Column("seq", Integer(), nullable=False),
    Column("words", String(1000)),
    Column("signature", JSON()),
    UniqueConstraint("inspection_id", "number"),
    **OPTIONS,
)

#: Up to where somebody has read an inspection in review.
review_look = Table(
    "review_look",
    metadata,
    Column("inspection_id", identifier(), ForeignKey("inspection.id"), primary_key=True),
    Column("person_id", identifier(), ForeignKey("person.id"), primary_key=True),
    Column("seq", Integer(), nullable=False),
    Column("at", DateTime(), nullable=False),
    **OPTIONS,
)

#: Inspections of homes that share one intake stand under the same group. own: fields of the supply that a home has for
#: itself (JSON list of names).
shared_intake = Table(
    "shared_intake",
    metadata,
    Column("inspection_id", identifier(), ForeignKey("inspection.id"), primary_key=True),
    Column("group_id", identifier(), nullable=False, index=True),
    Column("own", JSON(), nullable=False),
    **OPTIONS,
)


def _book(kind: EntityKind) -> Table:
    """The table of a kind of the firm's register; `parent_id` where it belongs to another entry."""
    parts: list[Any] = [
        Column("firm_id", identifier(), ForeignKey("firm.id"), primary_key=True),
        Column("id", identifier(), primary_key=True),
    ]
    if kind.parent != "firm":
        parts += [
            Column("parent_id", identifier(), nullable=False),
            ForeignKeyConstraint(["firm_id", "parent_id"], [f"{kind.parent}.firm_id", f"{kind.parent}.id"]),
        ]
    return Table(kind.name, metadata, *parts, *_fields(kind), **OPTIONS)


#: The tables of the firm's register by the kind's name.
ENTRIES: dict[str, Table] = {name: _book(kind) for name, kind in REGISTER.items()}
Index("uq_job_firm_id_number", ENTRIES["job"].c.firm_id, ENTRIES["job"].c.number, unique=True)

#: Who changed what in the register. Where the firm erased somebody's data the values are gone, the line stays.
book_change = Table(
    "book_change",
    metadata,
    Column("id", Integer(), primary_key=True, autoincrement=True),
    Column("firm_id", identifier(), ForeignKey("firm.id"), nullable=False),
    Column("kind", String(20), nullable=False),
    Column("entry_id", identifier(), nullable=False),
    Column("field", String(40), nullable=False),
    Column("value", JSON(none_as_null=True)),
    Column("before", JSON(none_as_null=True)),
    Column("erased_at", DateTime()),
    Column("made_at", DATETIME(fsp=3), nullable=False),
    Column("author_id", identifier(), ForeignKey("person.id"), nullable=False),
    Index("ix_book_change_entry", "firm_id", "kind", "entry_id", "field"),
    **OPTIONS,
)

#: What a search finds: one line for each client, property, job and inspection, with the words that name it.
search_subject = Table(
    "search_subject",
    metadata,
    Column("firm_id", identifier(), ForeignKey("firm.id"), primary_key=True),
    Column("kind", String(20), primary_key=True),
    Column("id", identifier(), primary_key=True),
    Column("title", String(300), nullable=False),
    Column("line", String(300), nullable=False),
    Column("words", String(1000, collation="utf8mb4_bin"), nullable=False),
    **OPTIONS,
)

#: Every end of every name of a subject: what contains a text begins, in one of its ends, with that text.
search_end = Table(
    "search_end",
    metadata,
    Column("firm_id", identifier(), primary_key=True),
    Column("word_end", String(24, collation="utf8mb4_bin"), primary_key=True),
    Column("kind", String(20), primary_key=True),
    Column("subject_id", identifier(), primary_key=True),
    ForeignKeyConstraint(
        ["firm_id", "kind", "subject_id"],
        ["search_subject.firm_id", "search_subject.kind", "search_subject.id"],
        ondelete="CASCADE",
    ),
    **OPTIONS,
)

#: Photos that were sent to an inspection, whether or not one was ever pinned.
uploaded_photo = Table(
    "uploaded_photo",
    metadata,
    Column("firm_id", identifier(), ForeignKey("firm.id"), primary_key=True),
    Column("sha256", CHAR(64, charset="ascii"), primary_key=True),
    Column("inspection_id", identifier(), ForeignKey("inspection.id"), primary_key=True, index=True),
    **OPTIONS,
)

#: Photos that an erasure has named and that are to be taken out of the store.
photo_to_remove = Table(
    "photo_to_remove",
    metadata,
    Column("firm_id", identifier(), ForeignKey("firm.id"), primary_key=True),
    Column("sha256", CHAR(64, charset="ascii"), primary_key=True),
    **OPTIONS,
)

#: What was asked for under a key of the asker's own, and what came of it: asked twice, it is done once.
once = Table(
    "once",
    metadata,
    Column("firm_id", identifier(), ForeignKey("firm.id"), primary_key=True),
    Column("action", String(40), primary_key=True),
    Column("request_key", String(80, collation="utf8mb4_bin"), primary_key=True),
    Column("asked", CHAR(64, charset="ascii"), nullable=False),
    Column("state", String(10), nullable=False),
    Column("answer", JSON(none_as_null=True)),
    Column("at", DateTime(), nullable=False, index=True),
    **OPTIONS,
)
