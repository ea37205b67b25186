"""The tables of planning: visits with their places, runs of the solver, travel times; what occupiers were asked, told
and answered; and calendars that are read by address."""

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
)
from sqlalchemy.dialects.mysql import CHAR, DATETIME, LONGBLOB, VARBINARY

from dorrik.store.database.metadata import OPTIONS, identifier, metadata

#: A firm's plan. version: counts every change of it, so that who plans on an older one is told.
visit_plan = Table(
    "visit_plan",
    metadata,
    Column("firm_id", identifier(), ForeignKey("firm.id", ondelete="CASCADE"), primary_key=True),
    Column("version", Integer(), nullable=False),
    # Slack days, speed, detour, how far ahead is looked: what differs from the usual.
    Column("settings", JSON(), nullable=False),
    Column("planned_at", DateTime()),
    Column("planned_s", Double()),
    # What the last planning moved, and why.
    Column("moved", JSON(), nullable=False),
    **OPTIONS,
)

#: A visit of a job: where the plan has it. inspection_id: of a return visit, which inspection it goes on with.
planned_visit = Table(
    "planned_visit",
    metadata,
    Column("firm_id", identifier(), ForeignKey("firm.id"), primary_key=True),
    Column("id", identifier(), primary_key=True),
    Column("job_id", identifier(), nullable=False),
    Column("inspection_id", identifier(), ForeignKey("inspection.id"), index=True),
    # Whose day (working_week), which day, minutes since midnight local time; empty where it has no place.
    Column("inspector_id", identifier()),
    Column("day", Date()),
    Column("begins_min", Double()),
    Column("minutes", Double()),
    # Put there by hand: planning does not move it.
    Column("pinned", Boolean(), nullable=False),
    # Why it has no place.
    Column("why", String(300)),
    Column("version", Integer(), nullable=False),
    Column("changed_at", DATETIME(fsp=3), nullable=False),
    Column("changed_by", identifier(), ForeignKey("person.id")),
    ForeignKeyConstraint(["firm_id", "job_id"], ["job.firm_id", "job.id"]),
    Index("ix_planned_visit_firm_id_job_id", "firm_id", "job_id"),
    **OPTIONS,
)

#: A run of the solver, in a process of its own.
plan_run = Table(
    "plan_run",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("firm_id", identifier(), ForeignKey("firm.id"), nullable=False, index=True),
    Column("state", String(12), nullable=False),
    # Of 1.
    Column("progress", Double(), nullable=False),
    Column("visits", Integer(), nullable=False),
    Column("stop_asked", Boolean(), nullable=False),
    Column("told", String(300)),
    Column("made_at", DATETIME(fsp=3), nullable=False),
    Column("made_by", identifier(), ForeignKey("person.id"), nullable=False),
    # When its process was last heard of.
    Column("beat_at", DATETIME(fsp=3), nullable=False),
    Column("ended_at", DATETIME(fsp=3)),
    **OPTIONS,
)

#: How long the way takes between two places, where the firm has a table of its own (minutes).
travel_time = Table(
    "travel_time",
    metadata,
    Column("firm_id", identifier(), ForeignKey("firm.id", ondelete="CASCADE"), primary_key=True),
    Column("from_id", identifier(), primary_key=True),
    Column("to_id", identifier(), primary_key=True),
    Column("minutes", Double(), nullable=False),
    **OPTIONS,
)

#: A link by which an occupier takes, declines or proposes a time. Only a digest of its token is kept.
visit_link = Table(
    "visit_link",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("firm_id", identifier(), ForeignKey("firm.id"), nullable=False),
    Column("visit_id", identifier(), nullable=False),
    Column("token_hash", VARBINARY(32), nullable=False, unique=True),
    # The times to choose from: whose day, which day, from and until, as they were proposed.
    Column("times", JSON(), nullable=False),
    Column("to_address", String(190), nullable=False),
    Column("made_at", DateTime(), nullable=False),
    Column("made_by", identifier(), ForeignKey("person.id"), nullable=False),
    Column("mail_id", identifier(), ForeignKey("outgoing_mail.id")),
    Column("expires_at", DateTime(), nullable=False),
    # Ended by us (the day moved, another link was sent), and why.
    Column("ended_at", DateTime()),
    Column("ended_why", String(200)),
    Column("opened", Integer(), nullable=False),
    Column("first_opened_at", DateTime()),
    Column("answer", String(12)),
    Column("answered_at", DateTime()),
    Column("answer_words", JSON(none_as_null=True)),
    ForeignKeyConstraint(["firm_id", "visit_id"], ["planned_visit.firm_id", "planned_visit.id"]),
    Index("ix_visit_link_visit", "firm_id", "visit_id"),
    **OPTIONS,
)

#: What happened about a visit, step by step: asked, answered, told, reminded, no access. Never changed.
visit_step = Table(
    "visit_step",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("firm_id", identifier(), ForeignKey("firm.id"), nullable=False),
    Column("visit_id", identifier(), nullable=False),
    Column("kind", String(12), nullable=False),
    Column("at", DATETIME(fsp=3), nullable=False),
    # The day that it is about.
    Column("on_day", Date()),
    Column("what", JSON(), nullable=False),
    Column("person_id", identifier(), ForeignKey("person.id")),
    Column("link_id", identifier(), ForeignKey("visit_link.id")),
    Column("mail_id", identifier(), ForeignKey("outgoing_mail.id")),
    ForeignKeyConstraint(["firm_id", "visit_id"], ["planned_visit.firm_id", "planned_visit.id"]),
    Index("ix_visit_step_visit", "firm_id", "visit_id"),
    **OPTIONS,
)

#: Photos that show that somebody was at a door which nobody opened.
visit_photo = Table(
    "visit_photo",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("firm_id", identifier(), ForeignKey("firm.id"), nullable=False),
    Column("step_id", identifier(), ForeignKey("visit_step.id"), nullable=False, index=True),
    Column("name", String(190), nullable=False),
    Column("sha256", CHAR(64, charset="ascii"), nullable=False),
    Column("content", LONGBLOB(), nullable=False),
    Column("at", DateTime(), nullable=False),
    **OPTIONS,
)

#: A calendar that other programs read by its address: of an inspector, a client, or the whole firm.
calendar_feed = Table(
    "calendar_feed",
    metadata,
    Column("id", identifier(), primary_key=True),
    Column("firm_id", identifier(), ForeignKey("firm.id"), nullable=False, index=True),
    Column("token_hash", VARBINARY(32), nullable=False, unique=True),
    Column("whose", String(12), nullable=False),
    Column("of_id", identifier()),
    Column("name", String(120), nullable=False),
    Column("made_at", DateTime(), nullable=False),
    Column("made_by", identifier(), ForeignKey("person.id"), nullable=False),
    Column("revoked_at", DateTime()),
    Column("last_read_at", DateTime()),
    Column("reads", Integer(), nullable=False),
    **OPTIONS,
)
