"""The tables of the house: firms, their people, sessions, links that are good once, and what was done about rights."""

from sqlalchemy import JSON, Boolean, Column, DateTime, ForeignKey, Index, Integer, String, Table
from sqlalchemy.dialects.mysql import DATETIME, MEDIUMTEXT, VARBINARY

from dorrik.store.database.metadata import OPTIONS, identifier, metadata

firm = Table(
    "firm",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("name", String(120), nullable=False),
    Column("address", String(300)),
    Column("phone", String(40)),
    Column("email", String(190)),
    Column("letter_line", String(200)),
    # As a drawing of our own (`pictures.logo`).
    Column("logo", MEDIUMTEXT()),
    Column("nation", String(60)),
    Column("house_rules", JSON(), nullable=False),
    Column("rule_book", String(60)),
    Column("rates", JSON(none_as_null=True)),
    Column("prices", JSON(none_as_null=True)),
    Column("repair_rates", JSON(none_as_null=True)),
    Column("keep_years", Integer()),
    Column("keep_reports_years", Integer()),
    Column("made_at", DateTime()),
    Column("demo", Boolean(), nullable=False, server_default="0"),
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

#: A firm's own entries of the catalogue. Never changed: another takes the place of the one before, which stays.
catalogue_entry = Table(
    "catalogue_entry",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("firm_id", identifier(), ForeignKey("firm.id"), nullable=False, index=True),
    Column("entry_key", String(60), nullable=False),
    Column("says", JSON(), nullable=False),
    Column("author_id", identifier(), ForeignKey("person.id"), nullable=False),
    Column("made_at", DateTime(), nullable=False),
    Column("withdrawn_at", DateTime()),
    Column("withdrawn_by", identifier(), ForeignKey("person.id")),
    **OPTIONS,
)

#: Somebody of a firm. `address_key` is the mail address as it is compared: normalised, then byte by byte. Whoever has
#: left is ended and stays, since signs stay under the name. Without a hash nobody signs in.
person = Table(
    "person",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("firm_id", identifier(), ForeignKey("firm.id"), nullable=False, index=True),
    Column("name", String(120), nullable=False),
    Column("email", String(190), nullable=False),
    Column("address_key", VARBINARY(760), nullable=False, unique=True),
    Column("role", String(20), nullable=False),
    Column("password_hash", String(200)),
    Column("made_at", DateTime()),
    Column("ended_at", DateTime()),
    Column("totp_secret", VARBINARY(40)),
    Column("totp_since", DateTime()),
    Column("totp_step", Integer()),
    Column("recovery", JSON(none_as_null=True)),
    **OPTIONS,
)

session = Table(
    "session",
    metadata,
    Column("token_hash", VARBINARY(32), primary_key=True),
    Column("id", identifier(), nullable=False),
    Column("person_id", identifier(), ForeignKey("person.id", ondelete="CASCADE"), nullable=False, index=True),
    Column("made_at", DateTime(), nullable=False),
    Column("seen_at", DateTime(), nullable=False),
    Column("agent", String(200), nullable=False),
    Column("source", String(60), nullable=False),
    Column("expires_at", DateTime(), nullable=False, index=True),
    # The device that it is on, as that says of itself.
    Column("device_id", identifier(), index=True),
    **OPTIONS,
)

#: Devices that somebody works on, each with a key of theirs, and what waited there when it was last heard of.
work_device = Table(
    "work_device",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("person_id", identifier(), ForeignKey("person.id", ondelete="CASCADE"), primary_key=True, index=True),
    Column("name", String(80), nullable=False),
    Column("signing_key", VARBINARY(32), nullable=False),
    Column("made_at", DateTime(), nullable=False),
    Column("heard_at", DateTime(), nullable=False),
    Column("waiting", JSON(none_as_null=True)),
    Column("ended_at", DateTime()),
    Column("ended_by", identifier(), ForeignKey("person.id")),
    **OPTIONS,
)

#: Links that are good once: to set a firm up ('set-up'), to join one ('invite'), to choose a new password ('reset').
one_time_link = Table(
    "one_time_link",
    metadata,
    Column("token_hash", VARBINARY(32), primary_key=True),
    Column("purpose", String(10), nullable=False),
    Column("person_id", identifier(), ForeignKey("person.id", ondelete="CASCADE"), index=True),
    Column("made_by", identifier(), ForeignKey("person.id")),
    Column("made_at", DateTime(), nullable=False),
    Column("expires_at", DateTime(), nullable=False),
    **OPTIONS,
)

#: Tries to sign in that failed or are being made, by the address tried and by where from.
sign_in_failure = Table(
    "sign_in_failure",
    metadata,
    Column("id", Integer(), primary_key=True, autoincrement=True),
    Column("email_hash", VARBINARY(32), nullable=False),
    Column("source_hash", VARBINARY(32), nullable=False),
    Column("at", DATETIME(fsp=3), nullable=False, index=True),
    Index("ix_sign_in_failure_email_hash_at", "email_hash", "at"),
    Index("ix_sign_in_failure_source_hash_at", "source_hash", "at"),
    **OPTIONS,
)

#: Browsers in which somebody signed in before (dorrik/store/people/devices.py).
known_device = Table(
    "known_device",
    metadata,
    Column("token_hash", VARBINARY(32), primary_key=True),
    Column("person_id", identifier(), ForeignKey("person.id", ondelete="CASCADE"), primary_key=True, index=True),
    Column("seen_at", DateTime(), nullable=False),
    **OPTIONS,
)

#: Letters that left within the last hour (dorrik/store/mail/letter_budget.py): to whom as a digest, of whom.
letter = Table(
    "letter",
    metadata,
    Column("id", Integer(), primary_key=True, autoincrement=True),
    Column("kind", String(20), nullable=False),
    Column("at", DATETIME(fsp=3), nullable=False, index=True),
    Column("recipient_hash", VARBINARY(32), nullable=False, index=True),
    Column("firm_id", identifier(), ForeignKey("firm.id", ondelete="CASCADE"), index=True),
    Column("session_id", identifier(), index=True),
    Column("source_hash", VARBINARY(32), index=True),
    **OPTIONS,
)

#: What was done about rights, settings, exports and issues, and who came in or did not. Nothing is ever changed here.
audit_entry = Table(
    "audit_entry",
    metadata,
    Column("id", Integer(), primary_key=True, autoincrement=True),
    Column("firm_id", identifier(), ForeignKey("firm.id")),
    Column("at", DATETIME(fsp=3), nullable=False),
    Column("person_id", identifier(), ForeignKey("person.id")),
    Column("action", String(40), nullable=False),
    Column("subject", String(300), nullable=False),
    Column("detail", JSON(none_as_null=True)),
    Column("source", String(60), nullable=False),
    Index("ix_audit_entry_firm_id_at", "firm_id", "at"),
    **OPTIONS,
)
