"""The tables. Columns of entities follow from the fields that `core.inspection` declares.

Every entity below an inspection has the key (inspection, id): the parts of one inspection lie together on
disk, and an identifier means nothing outside its own inspection, so no firm can reach into another's.
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
    MetaData,
    String,
    Table,
    Text,
    UniqueConstraint,
)
from sqlalchemy.dialects.mysql import CHAR, DATETIME, LONGBLOB, LONGTEXT, VARBINARY

from dorrik.core.book import BOOK
from dorrik.core.fields import FieldSpec
from dorrik.core.inspection import KINDS, EntityKind
from dorrik.core.readings import MAX_LENGTH

metadata = MetaData(
    naming_convention={
        "ix": "ix_%(table_name)s_%(column_0_N_name)s",
        "uq": "uq_%(table_name)s_%(column_0_N_name)s",
        "fk": "fk_%(table_name)s_%(column_0_N_name)s",
        "pk": "pk_%(table_name)s",
    }
)

OPTIONS = {"mysql_engine": "InnoDB", "mysql_charset": "utf8mb4"}
#: Longest text that is kept in the row itself; longer fields become TEXT.
IN_ROW = 500


def identifier() -> CHAR:
    """A UUID as text, 36 characters."""
    return CHAR(36, charset="ascii", collation="ascii_bin")


def _type(spec: FieldSpec) -> Any:
    match spec.kind:
        case "text":
            return String(spec.max_length) if spec.max_length <= IN_ROW else Text()
        case "choice":
            return String(60)
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
        case "options" | "corrections" | "pairings":
            return JSON(none_as_null=True)


def _fields(kind: EntityKind) -> list[Column[Any]]:
    return [Column(name, _type(spec)) for name, spec in kind.fields.items()]


firm = Table(
    "firm",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("name", String(120), nullable=False),
    Column("address", String(300)),
    Column("phone", String(40)),
    Column("house_rules", JSON(), nullable=False),
    Column("rule_book", String(60)),
    Column("rates", JSON(none_as_null=True)),
    Column("prices", JSON(none_as_null=True)),
    **OPTIONS,
)

#: Cells of the reference tables that a firm reads otherwise than printed; withdrawn ones stay, so that it can be seen
#: what an earlier inspection used.
table_correction = Table(
    "table_correction",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("firm_id", identifier(), ForeignKey("firm.id"), nullable=False, index=True),
    Column("table_name", String(40), nullable=False),
    Column("row_key", String(200), nullable=False),
    Column("column_name", String(40), nullable=False),
    Column("printed", String(100), nullable=False),
    Column("value", String(100), nullable=False),
    Column("why", String(500), nullable=False),
    Column("author_id", identifier(), ForeignKey("person.id"), nullable=False),
    Column("made_at", DateTime(), nullable=False),
    Column("withdrawn_at", DateTime()),
    Column("withdrawn_by", identifier(), ForeignKey("person.id")),
    **OPTIONS,
)

person = Table(
    "person",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("firm_id", identifier(), ForeignKey("firm.id"), nullable=False, index=True),
    Column("name", String(120), nullable=False),
    Column("email", String(190), nullable=False, unique=True),
    Column("role", String(20), nullable=False),
    Column("password_hash", String(200), nullable=False),
    **OPTIONS,
)

session = Table(
    "session",
    metadata,
    Column("token_hash", VARBINARY(32), primary_key=True),
    Column("person_id", identifier(), ForeignKey("person.id", ondelete="CASCADE"), nullable=False, index=True),
    Column("expires_at", DateTime(), nullable=False, index=True),
    **OPTIONS,
)

sign_in_failure = Table(
    "sign_in_failure",
    metadata,
    Column("id", Integer(), primary_key=True, autoincrement=True),
    Column("email_hash", VARBINARY(32), nullable=False),
    Column("at", DateTime(), nullable=False),
    Index("ix_sign_in_failure_email_hash_at", "email_hash", "at"),
    **OPTIONS,
)

inspection = Table(
    "inspection",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("firm_id", identifier(), ForeignKey("firm.id"), nullable=False),
    Column("seq", Integer(), nullable=False),
    Column("changed_at", DATETIME(fsp=3), nullable=False),
    *_fields(KINDS["inspection"]),
    Index("ix_inspection_firm_id_changed_at", "firm_id", "changed_at"),
    Index("ix_inspection_firm_id_reference", "firm_id", "reference"),
    Index("ix_inspection_firm_id_property_id", "firm_id", "property_id"),
    **OPTIONS,
)


def _child(kind: EntityKind) -> Table:
    """The table of a kind that belongs to an inspection, directly or by way of another kind."""
    parts: list[Any] = [
        Column("inspection_id", identifier(), ForeignKey("inspection.id"), primary_key=True),
        Column("id", identifier(), primary_key=True),
    ]
    if kind.parent != "inspection":
        column = f"{kind.parent}_id"
        parts += [
            Column(column, identifier(), nullable=False),
            ForeignKeyConstraint(["inspection_id", column], [f"{kind.parent}.inspection_id", f"{kind.parent}.id"]),
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
    Column("made_at", DATETIME(fsp=3), nullable=False),
    Column("kept_at", DATETIME(fsp=3), nullable=False),
    Column("device", String(60), nullable=False),
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
    Column("number", Integer(), nullable=False),
    Column("issued_at", DateTime(), nullable=False),
    Column("issued_by", identifier(), ForeignKey("person.id"), nullable=False),
    Column("seq", Integer(), nullable=False),
    Column("outcome", String(20), nullable=False),
    Column("replaces", Integer()),
    Column("reason", String(500)),
    Column("document", LONGTEXT(), nullable=False),
    Column("pdf", LONGBLOB(), nullable=False),
    Column("sha256", CHAR(64, charset="ascii"), nullable=False),
    UniqueConstraint("inspection_id", "number"),
    **OPTIONS,
)


def _book(kind: EntityKind) -> Table:
    """The table of a kind of the firm's book; `parent_id` where it belongs to another entry."""
    parts: list[Any] = [
        Column("id", identifier(), primary_key=True),
        Column("firm_id", identifier(), ForeignKey("firm.id"), nullable=False, index=True),
    ]
    if kind.parent != "firm":
        parts.append(Column("parent_id", identifier(), ForeignKey(f"{kind.parent}.id"), nullable=False, index=True))
    return Table(kind.name, metadata, *parts, *_fields(kind), **OPTIONS)


#: The tables of the firm's book by the kind's name.
ENTRIES: dict[str, Table] = {name: _book(kind) for name, kind in BOOK.items()}
Index("uq_job_firm_id_number", ENTRIES["job"].c.firm_id, ENTRIES["job"].c.number, unique=True)

#: Who changed what in the book, from what.
book_change = Table(
    "book_change",
    metadata,
    Column("id", Integer(), primary_key=True, autoincrement=True),
    Column("firm_id", identifier(), ForeignKey("firm.id"), nullable=False, index=True),
    Column("entry_id", identifier(), nullable=False),
    Column("field", String(40), nullable=False),
    Column("value", JSON(none_as_null=True)),
    Column("before", JSON(none_as_null=True)),
    Column("made_at", DATETIME(fsp=3), nullable=False),
    Column("author_id", identifier(), ForeignKey("person.id"), nullable=False),
    Index("ix_book_change_entry_id_field", "entry_id", "field"),
    **OPTIONS,
)

#: What a search finds: one line for each client, property, job and inspection, with the words that name it.
search_subject = Table(
    "search_subject",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("firm_id", identifier(), ForeignKey("firm.id"), nullable=False, index=True),
    Column("kind", String(20), nullable=False),
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
    Column("subject_id", identifier(), ForeignKey("search_subject.id", ondelete="CASCADE"), primary_key=True),
    Index("ix_search_end_subject_id", "subject_id"),
    **OPTIONS,
)
