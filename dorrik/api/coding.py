"""Coding across a firm: what colleagues chose, second opinions without the first code, how far people agree."""

from collections import defaultdict
from collections.abc import Iterable

from fastapi import Query, Request

from dorrik.api.coding_types import AgreementOut, Agreements, ChosenOut, WaitingOpinion, WaitingOpinions
from dorrik.api.problems import RESPONSES, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import must, work
from dorrik.core.book import catalogue
from dorrik.core.judging.result import classification
from dorrik.store.firm import own_entries
from dorrik.store.inspections import inspections, opinions
from dorrik.store.inspections.opinions import Pair

router = make_router("/api", "coding", RESPONSES)


@router.get("/inspections/{inspection_id}/chosen")
def chosen(request: Request, inspection_id: str, key: str = "") -> ChosenOut:
    """What colleagues chose for the same entry in other inspections of the firm."""
    with work(request) as (connection, me):
        if inspections.sequence(connection, inspection_id, me.firm_id) is None:
            raise not_found()
        counts = opinions.chosen(connection, me.firm_id, [key[:60]], inspection_id)
    return ChosenOut(codes=counts.get(key, {}))


@router.get("/second-opinions")
def second_opinions(request: Request, start: int = Query(default=0, ge=0, le=100_000)) -> WaitingOpinions:
    """A page of what waits for a second opinion: what was found, where, its photos and the schools' views; never its
    code."""
    with work(request) as (connection, me):
        must(me, "give a second opinion")
        waiting, count = opinions.asked(connection, me.firm_id, start)
        photos = opinions.photos_of(connection, waiting) if waiting else {}
        own = own_entries.in_force(connection, me.firm_id)
    with catalogue.with_own(own):
        items = [
            _asked(asked_observation, photos.get(asked_observation.observation_id, [])) for asked_observation in waiting
        ]
    return WaitingOpinions(items=items, count=count)


def _asked(asked_observation: opinions.AskedOpinion, photos: list[str]) -> WaitingOpinion:
    entry = catalogue.entries().get(asked_observation.catalogue_key or "")
    views = classification.views(entry.key) if entry else ()
    return WaitingOpinion(
        inspection_id=asked_observation.inspection_id,
        reference=asked_observation.reference,
        observation_id=asked_observation.observation_id,
        text=asked_observation.text,
        place=asked_observation.place,
        key=entry.key if entry else None,
        title=entry.title if entry else None,
        look=entry.look if entry else None,
        views=list(views),
        answers=asked_observation.answers or {},
        photos=photos,
        asked_at=asked_observation.asked_at,
    )


@router.get("/agreement")
def agreement(request: Request) -> Agreements:
    """How far first codes and blind second opinions agree: the firm, by entry, by person."""
    with work(request) as (connection, me):
        must(me, "give a second opinion")
        pairs = opinions.pairs(connection, me.firm_id)
        own = own_entries.in_force(connection, me.firm_id)
    with catalogue.with_own(own):
        titles = {key: entry.title for key, entry in catalogue.entries().items()}
    by_entry: dict[str, list[Pair]] = defaultdict(list)
    by_person: dict[str, list[Pair]] = defaultdict(list)
    for pair in pairs:
        by_entry[titles.get(pair.key or "", "In own words")].append(pair)
        by_person[pair.first_by].append(pair)
    return Agreements(whole=_agreement("The firm", pairs), by_entry=_listed(by_entry), by_person=_listed(by_person))


def _listed(by_name: dict[str, list[Pair]]) -> list[AgreementOut]:
    """The least agreement first: that is where talking helps."""
    rows = [row for name, pairs in by_name.items() if (row := _agreement(name, pairs)) is not None]
    return sorted(rows, key=lambda row: (row.share, -row.pairs, row.name))


def _agreement(name: str, pairs: Iterable[Pair]) -> AgreementOut | None:
    agreed = classification.agreement((pair.first, pair.second) for pair in pairs)
    if agreed is None:
        return None
    return AgreementOut(name=name, pairs=agreed.pairs, share=agreed.share, kappa=agreed.kappa)
