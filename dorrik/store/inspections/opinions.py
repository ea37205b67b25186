"""How a firm codes: what colleagues chose for an entry, second opinions that are asked for, how far people agree."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import Connection, Select, func, select, tuple_

from dorrik.store.database.account_tables import person
from dorrik.store.database.tables import ENTITIES, change, inspection, issued_report

#: How many of a list are shown at once.
PAGE = 30

_o, _p, _i = ENTITIES["observation"].c, ENTITIES["opinion"].c, inspection.c
_there = _o.removed.isnot(True)


def _given() -> Select[tuple[str]]:
    """The opinions that were given on an observation."""
    return (
        select(_p.observation_id)
        .where(_p.inspection_id == _o.inspection_id, _p.observation_id == _o.id, _p.code.is_not(None))
        .where(_p.removed.isnot(True))
    )


def chosen(connection: Connection, firm_id: str, keys: Iterable[str], but: str) -> dict[str, dict[str, int]]:
    """How often colleagues gave each code, by entry. but: the inspection that is not counted, the one at hand."""
    query = (
        select(_o.catalogue_key, _o.code, func.count())
        .join(inspection, _i.id == _o.inspection_id)
        .where(_i.firm_id == firm_id, _o.catalogue_key.in_(list(keys)), _o.code.is_not(None), _there, _i.id != but)
        # What waits for a second opinion is no example yet: a single one would tell its code.
        .where(_o.opinion_asked_at.is_(None) | _given().exists())
        .group_by(_o.catalogue_key, _o.code)
    )
    counts: dict[str, dict[str, int]] = {}
    for key, code, count in connection.execute(query):
        counts.setdefault(key, {})[code] = count
    return counts


@dataclass(frozen=True, slots=True)
class AskedOpinion:
    """An observation that waits for a second opinion; nothing of it says how it was coded."""

    inspection_id: str
    reference: str | None
    observation_id: str
    text: str | None
    place: str | None
    catalogue_key: str | None
    answers: dict[str, bool] | None
    asked_at: datetime


def asked(connection: Connection, firm_id: str, start: int = 0, limit: int = PAGE) -> tuple[list[AskedOpinion], int]:
    """A page of a firm's observations whose second opinion was asked for and not given, the oldest first, and how many
    there are in all."""
    here = (_i.firm_id == firm_id, _o.opinion_asked_at.is_not(None), _there, ~_given().exists())
    # Counted in the same question: what came or went between two would show on one of them only.
    count = func.count().over()
    query = (
        select(_i.id, _i.reference, _o.id, _o.text, _o.place, _o.catalogue_key, _o.answers, _o.opinion_asked_at, count)
        .join(inspection, _i.id == _o.inspection_id)
        .where(*here)
        .order_by(_o.opinion_asked_at, _o.id)
        .offset(start)
        .limit(limit)
    )
    rows = connection.execute(query).all()
    return [AskedOpinion(*row[:-1]) for row in rows], rows[0][-1] if rows else start


def photos_of(connection: Connection, observations: Iterable[AskedOpinion]) -> dict[str, list[str]]:
    """Digests of photos by the observation that they are pinned to."""
    c = ENTITIES["photo"].c
    query = (
        select(c.about_id, c.sha256)
        .where(
            tuple_(c.inspection_id, c.about_id).in_(
                [
                    (asked_observation.inspection_id, asked_observation.observation_id)
                    for asked_observation in observations
                ]
            )
        )
        .where(c.sha256.is_not(None), c.removed.isnot(True))
        .order_by(c.id)
    )
    photos: dict[str, list[str]] = {}
    for about_id, sha256 in connection.execute(query):
        photos.setdefault(about_id, []).append(sha256)
    return photos


@dataclass(frozen=True, slots=True)
class Pair:
    """A code and the blind second opinion on it: of which entry, and who gave the first."""

    key: str | None
    first_by: str
    first: str
    second: str


def pairs(connection: Connection, firm_id: str) -> list[Pair]:
    """Every code of a firm with the first opinion that was given blind on it, both as they stood at that moment.

    Blind is an opinion that was asked for before it was given, by somebody who never gave that observation a code,
    before any other opinion on it and before a report said the code. What is changed later, also an opinion taken out
    or given anew, says nothing of how far people agreed.
    """
    p, c, r = ENTITIES["opinion"].c, change.c, issued_report.c
    given = (
        select(_i.id, p.observation_id, _o.catalogue_key, p.id)
        .join_from(ENTITIES["opinion"], inspection, _i.id == p.inspection_id)
        .join(ENTITIES["observation"], (_o.inspection_id == p.inspection_id) & (_o.id == p.observation_id))
        .where(_i.firm_id == firm_id, _there)
    )
    entries: dict[str, str | None] = {}
    observation_of: dict[str, str] = {}
    inspections: set[str] = set()
    for inspection_id, observation_id, key, opinion_id in connection.execute(given):
        entries[observation_id] = key
        observation_of[opinion_id] = observation_id
        inspections.add(inspection_id)
    if not entries:
        return []
    journal = (
        select(c.inspection_id, c.entity, c.entity_id, c.field, c.value, c.author_id, c.kept_at, person.c.name)
        .join(person, person.c.id == c.author_id)
        .where(c.inspection_id.in_(inspections), c.entity.in_(("observation", "opinion")))
        .where(c.field.in_(("code", "opinion_asked_at")))
        .order_by(c.inspection_id, c.seq)
    )
    histories: dict[str, _History] = {key: _History() for key in entries}
    for row in connection.execute(journal):
        observation = row.entity_id if row.entity == "observation" else observation_of.get(row.entity_id)
        if observation in histories:
            histories[observation].add(row)
    issued: dict[str, datetime] = {
        row.inspection_id: row.first
        for row in connection.execute(
            select(r.inspection_id, func.min(r.issued_at).label("first"))
            .where(r.inspection_id.in_(inspections))
            .group_by(r.inspection_id)
        )
    }
    pairs_of_codes = (history.pair(entries[key], issued) for key, history in histories.items())
    return [pair for pair in pairs_of_codes if pair is not None]


class _History:
    """What the journal says of one observation, up to the first opinion that was given on it."""

    def __init__(self) -> None:
        self._asked = False
        self._code: Any = None
        self._coded_by: set[str] = set()
        self._opinion: Any = None

    def add(self, row: Any) -> None:
        """One change of its code, of the asking, or of an opinion's code; in the order of the journal."""
        if self._opinion is not None:
            return
        if row.field == "opinion_asked_at":
            self._asked = row.value is not None
        elif row.entity == "observation":
            self._code = row
            self._coded_by.add(row.author_id)
        elif row.value is not None:
            self._opinion = row

    def pair(self, key: str | None, issued: dict[str, datetime]) -> Pair | None:
        """Code and opinion as they stood when that was given; None where it was not given blind."""
        first, second = self._code, self._opinion
        if first is None or second is None or not self._asked or not isinstance(first.value, str):
            return None
        told_before = issued.get(second.inspection_id)
        if second.author_id in self._coded_by or (told_before is not None and told_before <= second.kept_at):
            return None
        return Pair(key, first.name, first.value, second.value)
