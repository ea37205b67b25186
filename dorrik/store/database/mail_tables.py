"""The tables of mail: what is to leave and what has left, and through which server a firm sends."""

from sqlalchemy import JSON, Boolean, Column, DateTime, ForeignKey, Index, Integer, String, Table, Text
from sqlalchemy.dialects.mysql import DATETIME, LONGBLOB

from dorrik.store.database.metadata import OPTIONS, identifier, metadata

#: Letters by mail: what waits, what has left, and what came back. Rows stay as the register of what was sent.
outgoing_mail = Table(
    "outgoing_mail",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("firm_id", identifier(), ForeignKey("firm.id"), nullable=False),
    Column("kind", String(30), nullable=False),
    # What it is about; erased with it.
    Column("inspection_id", identifier(), ForeignKey("inspection.id"), index=True),
    Column("job_id", identifier(), index=True),
    Column("about", String(120), nullable=False),
    Column("to_address", String(190), nullable=False),
    Column("sender", String(120), nullable=False),
    Column("reply_to", String(190)),
    Column("subject", String(300), nullable=False),
    Column("text", Text(), nullable=False),
    Column("message_id", String(120), nullable=False, unique=True),
    Column("made_at", DATETIME(fsp=3), nullable=False),
    Column("made_by", identifier(), ForeignKey("person.id")),
    Column("state", String(12), nullable=False),
    Column("tries", Integer(), nullable=False),
    # When it is tried next, and until when one process has it in hand.
    Column("next_at", DATETIME(fsp=3), nullable=False),
    Column("held_until", DATETIME(fsp=3)),
    Column("ended_at", DATETIME(fsp=3)),
    # The server's words, or ours, when it did not go well.
    Column("told", String(300)),
    # Counted in the hour's budget under this number.
    Column("letter_id", Integer()),
    Column("erased_at", DateTime()),
    Index("ix_outgoing_mail_state_next_at", "state", "next_at"),
    Index("ix_outgoing_mail_firm_id_made_at", "firm_id", "made_at"),
    **OPTIONS,
)

#: Files that go with a mail, for as long as it may have to be sent again.
outgoing_file = Table(
    "outgoing_file",
    metadata,
    Column("mail_id", identifier(), ForeignKey("outgoing_mail.id", ondelete="CASCADE"), primary_key=True),
    Column("place", Integer(), primary_key=True, autoincrement=False),
    Column("name", String(190), nullable=False),
    Column("content", LONGBLOB(), nullable=False),
    **OPTIONS,
)

#: Through which server a firm sends; without a row, through the one of the installation.
firm_mail = Table(
    "firm_mail",
    metadata,
    Column("firm_id", identifier(), ForeignKey("firm.id", ondelete="CASCADE"), primary_key=True),
    Column("host", String(190), nullable=False),
    Column("port", Integer(), nullable=False),
    Column("security", String(10), nullable=False),
    Column("user", String(190)),
    Column("password", String(190)),
    Column("sender", String(190), nullable=False),
    # Whether a trial letter has left since it was set.
    Column("tried", Boolean(), nullable=False),
    Column("changed_at", DateTime(), nullable=False),
    Column("changed_by", identifier(), ForeignKey("person.id"), nullable=False),
    **OPTIONS,
)

#: The firm's own words for its letters, how many days before a legal date clients are reminded, and where its numbers
#: begin.
firm_paper = Table(
    "firm_paper",
    metadata,
    Column("firm_id", identifier(), ForeignKey("firm.id", ondelete="CASCADE"), primary_key=True),
    Column("texts", JSON(), nullable=False),
    Column("remind_days", JSON(), nullable=False),
    Column("first_reference", String(40)),
    Column("first_job", String(40)),
    Column("changed_at", DateTime(), nullable=False),
    Column("changed_by", identifier(), ForeignKey("person.id"), nullable=False),
    **OPTIONS,
)
