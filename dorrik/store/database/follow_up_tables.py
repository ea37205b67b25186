"""The tables of what follows a report: remedial steps, their evidence, clients' links, and copies that were sent."""

from sqlalchemy import (
    JSON,
    Boolean,
    Column,
    Date,
    DateTime,
    ForeignKey,
    Index,
    Integer,
    String,
    Table,
    UniqueConstraint,
)
from sqlalchemy.dialects.mysql import CHAR, LONGBLOB, VARBINARY

from dorrik.store.database.metadata import OPTIONS, identifier, metadata

#: A link to a client's page: of one inspection, or of everything of a client. Only a digest of its token is kept.
client_link = Table(
    "client_link",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("firm_id", identifier(), ForeignKey("firm.id"), nullable=False),
    Column("token_hash", VARBINARY(32), nullable=False, unique=True),
    Column("inspection_id", identifier(), ForeignKey("inspection.id"), index=True),
    Column("client_id", identifier(), index=True),
    # For whom: as what they get it, and their name.
    Column("role", String(20), nullable=False),
    Column("name", String(120), nullable=False),
    Column("made_at", DateTime(), nullable=False),
    Column("made_by", identifier(), ForeignKey("person.id")),
    Column("expires_at", DateTime(), nullable=False),
    Column("revoked_at", DateTime()),
    Column("first_opened_at", DateTime()),
    Column("last_opened_at", DateTime()),
    Column("opened", Integer(), nullable=False),
    **OPTIONS,
)

#: What was done about an observation of an issued report, step by step. Never changed.
remedial_step = Table(
    "remedial_step",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("inspection_id", identifier(), ForeignKey("inspection.id"), nullable=False),
    Column("number", Integer(), nullable=False),
    Column("observation_id", identifier(), nullable=False),
    Column("kind", String(12), nullable=False),
    Column("at", DateTime(), nullable=False),
    # Somebody of the firm, or whoever has a link.
    Column("person_id", identifier(), ForeignKey("person.id")),
    Column("link_id", identifier(), ForeignKey("client_link.id")),
    Column("what", JSON(), nullable=False),
    UniqueConstraint("inspection_id", "number"),
    **OPTIONS,
)

#: Certificates and photos that show that something was put right; step_id once they belong to a step.
evidence_file = Table(
    "evidence_file",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("inspection_id", identifier(), ForeignKey("inspection.id"), nullable=False, index=True),
    Column("step_id", identifier(), ForeignKey("remedial_step.id"), index=True),
    Column("kind", String(12), nullable=False),
    Column("name", String(190), nullable=False),
    Column("media_type", String(40), nullable=False),
    Column("sha256", CHAR(64, charset="ascii"), nullable=False),
    Column("content", LONGBLOB(), nullable=False),
    Column("at", DateTime(), nullable=False),
    Column("person_id", identifier(), ForeignKey("person.id")),
    Column("link_id", identifier(), ForeignKey("client_link.id")),
    Column("erased_at", DateTime()),
    **OPTIONS,
)

#: How the latest report of an inspection stands, for lists: worked out anew whenever something is done about it.
report_state = Table(
    "report_state",
    metadata,
    Column("inspection_id", identifier(), ForeignKey("inspection.id"), primary_key=True),
    Column("firm_id", identifier(), ForeignKey("firm.id"), nullable=False),
    Column("counting", Integer(), nullable=False),
    Column("cleared", Integer(), nullable=False),
    # Somebody says that they are put right, and nobody of the firm has looked yet.
    Column("reported", Integer(), nullable=False),
    Column("worst", String(4), nullable=False),
    Column("due", Date()),
    Column("next_visit", Date()),
    Column("copy_due", Date()),
    Column("confirmed_on", Date()),
    # Nothing is left to be done about it.
    Column("closed", Boolean(), nullable=False),
    Index("ix_report_state_open", "firm_id", "closed", "due"),
    **OPTIONS,
)

#: Who got a copy of an issued report, how and when; the register of copies.
report_copy = Table(
    "report_copy",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("inspection_id", identifier(), ForeignKey("inspection.id"), nullable=False, index=True),
    Column("report_id", identifier(), ForeignKey("issued_report.id"), nullable=False),
    Column("role", String(20), nullable=False),
    Column("name", String(120), nullable=False),
    Column("how", String(12), nullable=False),
    Column("at", DateTime(), nullable=False),
    Column("mail_id", identifier(), ForeignKey("outgoing_mail.id")),
    # The link that went with it, by which it is known that it was opened; or by which somebody says that they sent it.
    Column("link_id", identifier(), ForeignKey("client_link.id")),
    Column("person_id", identifier(), ForeignKey("person.id")),
    Column("removed_at", DateTime()),
    **OPTIONS,
)
