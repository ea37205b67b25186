"""How a firm codes: what colleagues chose for an entry, second opinions that are asked for, how far people agree."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import Connection, Select, func, select

from dorrik.store.account_tables import person
from dorrik.store.tables import ENTITIES, change, inspection

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
    found: dict[str, dict[str, int]] = {}
    for key, code, count in connection.execute(query):
        found.setdefault(key, {})[code] = count
    return found


@dataclass(frozen=True, slots=True)
class Asked:
    """An observation that waits for a second opinion; nothing of it says how it was coded."""

    inspection_id: str
    reference: str | None
    observation_id: str
    text: str | None
    place: str | None
    catalogue_key: str | None
    answers: dict[str, bool] | None
    asked_at: datetime


def asked(connection: Connection, firm_id: str, limit: int = 100) -> list[Asked]:
    """Observations of a firm whose second opinion was asked for and not given, the oldest first."""
    query = (
        select(_i.id, _i.reference, _o.id, _o.text, _o.place, _o.catalogue_key, _o.answers, _o.opinion_asked_at)
        .join(inspection, _i.id == _o.inspection_id)
        .where(_i.firm_id == firm_id, _o.opinion_asked_at.is_not(None), _there, ~_given().exists())
        .order_by(_o.opinion_asked_at, _o.id)
        .limit(limit)
    )
    return [Asked(*row) for row in connection.execute(query)]


def photos_of(connection: Connection, inspection_id: str, about: Iterable[str]) -> dict[str, list[str]]:
    """Digests of photos by what they are pinned to."""
    c = ENTITIES["photo"].c
    query = (
        select(c.about_id, c.sha256)
        .where(c.inspection_id == inspection_id, c.about_id.in_(list(about)), c.sha256.is_not(None))
        .where(c.removed.isnot(True))
        .order_by(c.id)
    )
    found: dict[str, list[str]] = {}
    for about_id, sha256 in connection.execute(query):
        found.setdefault(about_id, []).append(sha256)
    return found


@dataclass(frozen=True, slots=True)
class Pair:
    """A code and the blind second opinion on it: of which entry, and who gave the first."""

    key: str | None
    first_by: str
    first: str
    second: str


def pairs(connection: Connection, firm_id: str) -> list[Pair]:
    """Every code of a firm that has a second opinion, as the code stood when the opinion was given.

    What somebody changed it to afterwards, perhaps because of the opinion, says nothing of how far they agreed.
    """
    query = (
        select(_i.id, _o.id, _o.catalogue_key, _o.code, _p.code, _p.id)
        .join(inspection, _i.id == _o.inspection_id)
        .join(ENTITIES["opinion"], (_p.inspection_id == _o.inspection_id) & (_p.observation_id == _o.id))
        .where(_i.firm_id == firm_id, _there, _p.removed.isnot(True), _p.code.is_not(None))
        .order_by(_p.id)
    )
    return [found for row in connection.execute(query) if (found := _pair(connection, *row)) is not None]


def _pair(
    connection: Connection, inspection_id: str, observation: str, key: str | None, now: str | None, second: str,
    opinion: str,
) -> Pair | None:  # fmt: skip
    c = change.c
    given = select(func.min(c.seq)).where(c.inspection_id == inspection_id, c.entity_id == opinion, c.field == "code")
    seq = connection.execute(given).scalar()
    query = (
        select(c.value, person.c.name)
        .join(person, person.c.id == c.author_id)
        .where(c.inspection_id == inspection_id, c.entity_id == observation, c.field == "code")
        .order_by(c.seq.desc())
        .limit(1)
    )
    row: Any = connection.execute(query.where(c.seq < seq) if seq is not None else query).first()
    if row is None or not isinstance(row.value, str):
        return None
    return Pair(key, row.name, row.value, second)
