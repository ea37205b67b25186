"""A job with where and for whom it is: what its inspections begin with, and what its letters say."""

from collections.abc import Mapping
from contextlib import suppress
from dataclasses import dataclass
from typing import Any, Literal

from sqlalchemy import Connection

from dorrik.core.work.beginning import from_job
from dorrik.core.work.register import REPAIRS, begun
from dorrik.office.estimates import Estimate, estimate
from dorrik.report import press
from dorrik.report.content import Issue
from dorrik.report.issue import on_paper
from dorrik.report.letters import before_the_job
from dorrik.store.database.engine import now
from dorrik.store.firm import firm_paper
from dorrik.store.firm.firm_rules import rules
from dorrik.store.people.people import Person
from dorrik.store.register import register
from dorrik.store.register.register import RegisterRecord

Which = Literal["confirmation", "power-off"]


@dataclass(frozen=True, slots=True)
class JobFile:
    """A job with its property, client and installations."""

    job: RegisterRecord
    home: RegisterRecord
    client: RegisterRecord
    installations: tuple[RegisterRecord, ...]


@dataclass(frozen=True, slots=True)
class Start:
    """What an inspection of one installation begins with; inspection_id is the same on every device that begins it."""

    inspection_id: str
    installation_id: str | None
    name: str
    fields: dict[str, Any]
    limitations: tuple[dict[str, Any], ...]


def open_file(connection: Connection, firm_id: str, job_id: str) -> JobFile | None:
    """The job of that id with what belongs to it; None where the firm has none."""
    job = register.get(connection, firm_id, "job", job_id)
    home = register.get(connection, firm_id, "property", job.parent_id) if job else None
    client = register.get(connection, firm_id, "client", home.parent_id) if home else None
    if job is None or home is None or client is None:
        return None
    return JobFile(job, home, client, tuple(register.entries(connection, firm_id, "installation", home.id)))


def client_and_property(
    connection: Connection, firm_id: str, author_id: str, inspection_id: str, here: Mapping[str, Any]
) -> str:
    """Make the property of an inspection that was begun without one, and its client, from the inspection's own words.

    here: fields of the inspection. Returns the property's id, the same on every device. Raises register.Refused.
    """
    client = register.derived_id(inspection_id, "client")
    home = register.derived_id(inspection_id, "property")
    named = {"name": here["client_name"] or "Client without a name", "address": here["client_address"]}
    register.add(connection, firm_id, author_id, "client", firm_id, named, client)
    fields = {"address": "property_address", "nation": "nation", "tenure": "tenure", "occupier_name": "occupier_name"}
    taken = {name: here[source] for name, source in fields.items() if here[source] is not None}
    register.add(connection, firm_id, author_id, "property", client, taken, home)
    return home


def work_began(connection: Connection, firm_id: str, author_id: str, job_id: str) -> None:
    """An inspection was begun for a job: a job that was only asked for or confirmed is booked by that. Here, and not on
    the device, which may have begun it days ago without a server."""
    job = register.get(connection, firm_id, "job", job_id)
    state = begun(job.values.get("state")) if job is not None else None
    if state is None:
        return
    # A job that cannot be booked as it stands is left to the office.
    with suppress(register.Refused):
        register.change(connection, firm_id, author_id, "job", job_id, {"state": state})


def starts(connection: Connection, firm_id: str, file: JobFile) -> list[Start]:
    """One for each installation, or one for the whole where none is registered; repairs begin no inspection."""
    if file.job.values.get("work") == REPAIRS:
        return []
    rule_book, _ = rules(connection, firm_id)
    parts: tuple[RegisterRecord | None, ...] = file.installations or (None,)
    return [_start(connection, firm_id, file, part, rule_book) for part in parts]


def _start(
    connection: Connection, firm_id: str, file: JobFile, part: RegisterRecord | None, rule_book: str | None
) -> Start:
    job, home, client = (entry.values | {"id": entry.id} for entry in (file.job, file.home, file.client))
    installation = None if part is None else part.values | {"id": part.id}
    part_id = None if part is None else part.id
    taken = from_job(job, home, client, installation, rule_book)
    inspection_id = register.beginning_id(connection, firm_id, file.job.id, part_id)
    common = register.derived_id(inspection_id, "limitations")
    # In the order in which they were agreed: ids sort as they are made.
    limitations = tuple({"id": f"{common[:-4]}{at:04x}", **one} for at, one in enumerate(taken.limitations))
    name = str((installation or {}).get("name") or "")
    return Start(inspection_id, part_id, name, taken.fields, limitations)


@dataclass(frozen=True, slots=True)
class Letters:
    """The letters of a job: the client's confirmation and the occupier's notice, in words and set. own_words: of the
    firm, in the mail that brings them."""

    file: JobFile
    estimate: Estimate
    paper: Issue
    own_words: str = ""

    def words(self, which: Which) -> dict[str, Any]:
        """What a letter says, by part."""
        job, home = self.file.job.values, self.file.home.values
        if which == "power-off":
            return before_the_job.power_off_notice(home, job, self.paper)
        price = f"{self.estimate.currency}{self.estimate.price:,.2f}"
        installations = [entry.values for entry in self.file.installations]
        return before_the_job.confirmation(
            self.file.client.values, home, job, installations, price, self.estimate.minutes, self.paper
        )

    def pdf(self, which: Which) -> bytes:
        """A letter as a tagged PDF."""
        return press.facts_letter(self.words(which), self.paper.issued_on)


def letters(connection: Connection, me: Person, job_id: str) -> Letters | None:
    """The letters of a job of the person's firm, as of today; None where there is no such job."""
    file = open_file(connection, me.firm_id, job_id)
    if file is None:
        return None
    own_words = firm_paper.of(connection, me.firm_id).texts.get("job_mail", "")
    priced = estimate(connection, me.firm_id, file.job)
    return Letters(file, priced, on_paper(connection, me, 0, now().date()), own_words)
