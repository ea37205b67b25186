"""One intake, several homes: who shares with whom, where they disagree, and taking them apart again."""

from typing import Any

from fastapi import Request
from pydantic import BaseModel, Field
from sqlalchemy import Connection

from dorrik.api.common_types import Problem, Strict
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import work
from dorrik.core.inspection.kept_inspection import KeptInspection
from dorrik.core.work.shared_intake import FIELDS, Differing, conflicts, differing
from dorrik.journal import share
from dorrik.journal.change import Author
from dorrik.report.content.words import shown
from dorrik.store.database.engine import again_after_deadlock
from dorrik.store.inspections import inspections, shared_intakes
from dorrik.store.inspections.listing import is_issued

router = make_router("/api/inspections", "inspections", RESPONSES)
_REFUSED: dict[int | str, dict[str, Any]] = {409: {"model": Problem}}


class SharingHome(BaseModel):
    """A home that shares the intake, or could; own: fields of the supply that it has for itself."""

    id: str
    reference: str
    property_address: str
    installation: str
    on_hold: bool
    issued: bool
    same_property: bool
    own: list[str]


class DifferingOut(BaseModel):
    """A field on which homes disagree: its values in words, by id of the inspection ('' where it has none).

    conflict: two of them say something, and not the same; own: ids of those that have it for themselves.
    """

    field: str
    label: str
    conflict: bool
    own: list[str]
    values: dict[str, str]


class SharedIntakeOut(BaseModel):
    """homes: all that share, this one too, or none; fields: what is shared; others: who could share as well."""

    homes: list[SharingHome]
    fields: list[str]
    differing: list[DifferingOut]
    others: list[SharingHome]


class ShareIn(Strict):
    """With which inspection; taken: by field on which they disagree, the inspection that it is taken from."""

    other: str = Field(max_length=36)
    taken: dict[str, str] = Field(default_factory=dict)


class OwnIn(Strict):
    """Fields of the supply that this home has for itself."""

    own: list[str] = Field(max_length=len(FIELDS))


class AlignIn(Strict):
    """Fields that are taken from this home to every other that shares them."""

    fields: list[str] = Field(max_length=len(FIELDS))


@router.get("/{inspection_id}/shared-intake")
def shared(request: Request, inspection_id: str) -> SharedIntakeOut:
    """With whom the intake is shared, where homes disagree, and who could share as well."""
    with work(request, only_reads=True) as (connection, me):
        return _out(connection, me.firm_id, _kept(connection, me.firm_id, inspection_id))


@router.post("/{inspection_id}/shared-intake", responses=_REFUSED)
def join(request: Request, inspection_id: str, given: ShareIn) -> SharedIntakeOut:
    """Share the intake with another home; 409 with the fields on which they disagree and nobody has decided."""

    def do() -> SharedIntakeOut:
        with work(request) as (connection, me):
            _kept(connection, me.firm_id, inspection_id)
            author = Author(me.id, me.role)
            try:
                share.share(connection, me.firm_id, author, inspection_id, given.other, given.taken)
            except LookupError:
                raise not_found() from None
            except share.Disagree as error:
                message = f"The homes do not agree on: {error}. Choose which is right, then share."
                fields = [
                    {"field": difference.field, "message": f"{difference.label}: {_said(difference)}"}
                    for difference in error.found
                ]
                raise ProblemError(409, "disagree", message, fields=fields) from None
            return _out(connection, me.firm_id, _kept(connection, me.firm_id, inspection_id))

    return again_after_deadlock(do)


@router.delete("/{inspection_id}/shared-intake")
def leave(request: Request, inspection_id: str) -> SharedIntakeOut:
    """Have the supply for itself from now on; what was entered stays at every home."""

    def do() -> SharedIntakeOut:
        with work(request) as (connection, me):
            _kept(connection, me.firm_id, inspection_id)
            share.part(connection, me.firm_id, Author(me.id, me.role), inspection_id)
            return _out(connection, me.firm_id, _kept(connection, me.firm_id, inspection_id))

    return again_after_deadlock(do)


@router.put("/{inspection_id}/shared-intake/own")
def own(request: Request, inspection_id: str, given: OwnIn) -> SharedIntakeOut:
    """Say which fields of the supply this home has for itself; the others are shared."""
    with work(request) as (connection, me):
        kept = _kept(connection, me.firm_id, inspection_id)
        shared_intakes.keep_own(connection, inspection_id, given.own)
        return _out(connection, me.firm_id, kept)


@router.post("/{inspection_id}/shared-intake/align")
def align(request: Request, inspection_id: str, given: AlignIn) -> SharedIntakeOut:
    """Enter these fields of this home at every other that shares them."""

    def do() -> SharedIntakeOut:
        with work(request) as (connection, me):
            _kept(connection, me.firm_id, inspection_id)
            try:
                share.align(connection, me.firm_id, Author(me.id, me.role), inspection_id, given.fields)
            except LookupError:
                raise not_found() from None
            return _out(connection, me.firm_id, _kept(connection, me.firm_id, inspection_id))

    return again_after_deadlock(do)


def _kept(connection: Connection, firm_id: str, inspection_id: str) -> KeptInspection:
    kept = inspections.load(connection, inspection_id, firm_id)
    if kept is None:
        raise not_found()
    return kept


def _out(connection: Connection, firm_id: str, kept: KeptInspection) -> SharedIntakeOut:
    group = shared_intakes.members(connection, kept.id)
    here = kept.entities[kept.id].values
    sharing = share.homes(connection, firm_id, group)
    homes = [
        SharingHome(
            id=home.id,
            reference=home.reference,
            property_address=home.values.get("property_address") or "",
            installation=home.values.get("installation_name") or "",
            on_hold=home.values.get("held_at") is not None,
            issued=is_issued(connection, home.id),
            same_property=bool(here["property_id"]) and home.values.get("property_id") == here["property_id"],
            own=sorted(home.own),
        )
        for home in sharing
    ]
    differs = list(differing(sharing))
    others = [
        SharingHome(
            id=neighbour.id, reference=neighbour.reference or "", property_address=neighbour.property_address or "",
            installation=neighbour.installation or "", on_hold=False, issued=False,
            same_property=neighbour.same_property, own=[],
        )
        for neighbour in shared_intakes.neighbours(connection, firm_id, here, kept.id)
        if neighbour.id not in group
    ]  # fmt: skip
    disputed = {difference.field for difference in conflicts(differs)}
    return SharedIntakeOut(
        homes=homes,
        fields=list(FIELDS),
        differing=[_differing(difference, disputed) for difference in differs],
        others=others,
    )


def _differing(difference: Differing, disputed: set[str]) -> DifferingOut:
    values = {key: _in_words(difference, value) for key, value in difference.values.items()}
    return DifferingOut(
        field=difference.field,
        label=difference.label,
        conflict=difference.field in disputed,
        own=list(difference.own),
        values=values,
    )


def _said(difference: Differing) -> str:
    return " or ".join(
        dict.fromkeys(_in_words(difference, value) for value in difference.values.values() if value is not None)
    )


def _in_words(difference: Differing, value: Any) -> str:
    """A value as it is kept, which has a reading as text."""
    if value is None:
        return ""
    return f"{value} {difference.unit}" if isinstance(value, str) and difference.unit else shown(value, difference.unit)
