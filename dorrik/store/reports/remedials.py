"""Remedial steps of issued reports and the files that go with them; written once, never changed."""

import hashlib
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import Connection, func, insert, select, update

from dorrik.core.basics.identifiers import is_id
from dorrik.store.database.account_tables import person
from dorrik.store.database.engine import new_id, now
from dorrik.store.database.follow_up_tables import client_link, evidence_file, remedial_step
from dorrik.store.database.tables import ENTITIES, inspection, issued_report
from dorrik.store.reports.reports import MINOR_WORKS

#: Largest file of evidence (bytes), and how many an inspection may have.
LARGEST, MOST_FILES = 10_000_000, 200
#: Steps of an inspection: more than anybody takes about twenty items; and of whoever has one link, so that a link that
#: got into wrong hands fills nothing up.
MOST_STEPS, MOST_OF_A_LINK = 2_000, 60
#: Files of one link that no step has yet.
MOST_WAITING = 20


@dataclass(frozen=True, slots=True)
class By:
    """Who takes a step or sends a file: somebody of the firm, or whoever has a link."""

    person_id: str | None = None
    link_id: str | None = None


@dataclass(frozen=True, slots=True)
class File:
    """A file of evidence, without its content."""

    id: str
    kind: str
    name: str
    media_type: str
    step_id: str | None


@dataclass(frozen=True, slots=True)
class TakenStep:
    """A step: about which observation, what was done, when, by whom (name and role), with which files."""

    id: str
    number: int
    observation_id: str
    kind: str
    at: datetime
    by: str
    role: str
    of_firm: bool
    what: dict[str, Any]
    files: tuple[File, ...]


class TooManySteps(Exception):
    """There are more files or steps than one report has; the message says so."""


class NoFile(Exception):
    """A file is not there, or belongs to another step already."""


def steps(connection: Connection, inspection_id: str) -> list[TakenStep]:
    """Every step, oldest first. The caller has checked whose inspection it is."""
    c, link = remedial_step.c, client_link.c
    files: dict[str, list[File]] = {}
    for file in of_inspection(connection, inspection_id):
        files.setdefault(file.step_id or "", []).append(file)
    query = (
        select(
            c.id, c.number, c.observation_id, c.kind, c.at, c.what, person.c.name, person.c.role,
            link.name.label("holder"), link.role.label("as_role"),
        )
        .outerjoin(person, person.c.id == c.person_id)
        .outerjoin(client_link, link.id == c.link_id)
        .where(c.inspection_id == inspection_id)
        .order_by(c.number)
    )  # fmt: skip
    return [
        TakenStep(
            row.id, row.number, row.observation_id, row.kind, row.at, row.name or row.holder or "",
            row.role or row.as_role or "", row.name is not None, row.what, tuple(files.get(row.id, ())),
        )
        for row in connection.execute(query)
    ]  # fmt: skip


def take(
    connection: Connection, inspection_id: str, observation_id: str, kind: str, what: Mapping[str, Any], by: By,
    files: Sequence[str] = (),
) -> str:  # fmt: skip
    """Take a step with files that were sent before, in the caller's transaction, which holds the inspection's row;
    returns its id. Raises NoFile or TooManySteps."""
    c, f = remedial_step.c, evidence_file.c
    last = connection.execute(select(func.max(c.number)).where(c.inspection_id == inspection_id)).scalar() or 0
    of_link = 0
    if by.link_id is not None:
        query = select(func.count()).select_from(remedial_step).where(c.link_id == by.link_id)
        of_link = connection.execute(query).scalar_one()
    if last >= MOST_STEPS or of_link >= MOST_OF_A_LINK:
        raise TooManySteps("This report has as many entries as it can have. Call the firm that inspected.")
    step_id = new_id()
    connection.execute(
        insert(remedial_step).values(
            id=step_id, inspection_id=inspection_id, number=last + 1, observation_id=observation_id, kind=kind,
            at=now().replace(microsecond=0), person_id=by.person_id, link_id=by.link_id, what=dict(what),
        )
    )  # fmt: skip
    for file_id in files:
        mine = f.link_id == by.link_id if by.link_id is not None else f.link_id.is_(None)
        taken = connection.execute(
            update(evidence_file)
            .where(f.id == file_id, f.inspection_id == inspection_id, f.step_id.is_(None), mine)
            .values(step_id=step_id)
        )
        if taken.rowcount != 1:
            raise NoFile("A file is not there any more: choose it again.")
    return step_id


def own_certificates(connection: Connection, inspection_id: str) -> dict[str, list[str]]:
    """Numbers of the certificates of the firm's own repairs that were issued, by observation."""
    r, repair, i = issued_report.c, ENTITIES["repair"].c, inspection.c
    query = (
        select(repair.observation_id, i.reference, r.number)
        .join(ENTITIES["repair"], (repair.inspection_id == r.inspection_id) & (repair.id == r.repair_id))
        .join(inspection, i.id == r.inspection_id)
        .where(r.inspection_id == inspection_id, r.kind == MINOR_WORKS, repair.observation_id.is_not(None))
        .order_by(r.number)
    )
    certificates: dict[str, list[str]] = {}
    for row in connection.execute(query):
        certificates.setdefault(row.observation_id, []).append(f"{row.reference or 'certificate'}-M{row.number}")
    return certificates


def of_inspection(connection: Connection, inspection_id: str) -> list[File]:
    """Every file of evidence of an inspection, without its content, in the order in which they came."""
    f = evidence_file.c
    query = select(f.id, f.kind, f.name, f.media_type, f.step_id).where(
        f.inspection_id == inspection_id, f.erased_at.is_(None)
    )
    return [File(*row) for row in connection.execute(query.order_by(f.at, f.id))]


def keep_file(
    connection: Connection, inspection_id: str, kind: str, name: str, media_type: str, content: bytes, by: By
) -> str:
    """Keep a file of evidence; returns its id. The same content sent again is the same file while no step has it.
    Raises TooManySteps."""
    f = evidence_file.c
    sha256 = hashlib.sha256(content).hexdigest()
    mine = f.link_id == by.link_id if by.link_id is not None else f.link_id.is_(None)
    same = select(f.id).where(f.inspection_id == inspection_id, f.sha256 == sha256, f.step_id.is_(None), mine)
    if (there := connection.execute(same).scalar()) is not None:
        return str(there)
    count = connection.execute(select(func.count()).where(f.inspection_id == inspection_id)).scalar_one()
    if count >= MOST_FILES:
        raise TooManySteps(f"At most {MOST_FILES} files are kept with one report.")
    if by.link_id is not None:
        query = select(func.count()).where(f.link_id == by.link_id, f.step_id.is_(None))
        if connection.execute(query).scalar_one() >= MOST_WAITING:
            raise TooManySteps("These files were sent and not used: say what was done with them first.")
    file_id = new_id()
    connection.execute(
        insert(evidence_file).values(
            id=file_id, inspection_id=inspection_id, kind=kind, name=name[:190], media_type=media_type, sha256=sha256,
            content=content, at=now(), person_id=by.person_id, link_id=by.link_id,
        )
    )  # fmt: skip
    return file_id


def content(connection: Connection, inspection_id: str, file_id: str) -> tuple[File, bytes] | None:
    """A file of evidence with its content; None where the inspection has none of that id."""
    if not is_id(file_id):
        return None
    f = evidence_file.c
    row = connection.execute(
        select(f.id, f.kind, f.name, f.media_type, f.step_id, f.content).where(
            f.id == file_id, f.inspection_id == inspection_id, f.erased_at.is_(None)
        )
    ).one_or_none()
    return (File(*row[:5]), row.content) if row is not None else None
