"""The firm's people: invited by a link, given roles, ended and never deleted."""

from fastapi import Request
from sqlalchemy import Connection

from dorrik.api import letters_out
from dorrik.api.account_types import InvitedOut, PersonChange, PersonIn, PersonOut
from dorrik.api.accounts import at_field, mail_link
from dorrik.api.common_types import Problem
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import note, work
from dorrik.report import mail
from dorrik.store.mail import letter_budget
from dorrik.store.people import devices, links, people, second_factor, sessions
from dorrik.store.people.people import Colleague, Person, Unfit

router = make_router("/api/people", "people", {**RESPONSES, 403: {"model": Problem}, 422: {"model": Problem}})


def _shown(colleague: Colleague) -> PersonOut:
    return PersonOut.model_validate(colleague, from_attributes=True)


def _there(connection: Connection, me: Person, person_id: str) -> Colleague:
    colleague = people.colleague(connection, me.firm_id, person_id)
    if colleague is None:
        raise not_found("person")
    return colleague


@router.get("")
def everybody(request: Request) -> list[PersonOut]:
    """Everybody of the firm, those who have left too."""
    with work(request, "manage people") as (connection, me):
        return [_shown(colleague) for colleague in people.everybody(connection, me.firm_id)]


@router.post("", status_code=201)
def invite(request: Request, given: PersonIn) -> InvitedOut:
    """Invite somebody. Their link is mailed where mail is set up, else it is in the answer, this one time."""
    with work(request, "manage people") as (connection, me):
        try:
            person_id = people.add_person(connection, me.firm_id, given.name, given.email, given.role)
        except Unfit as error:
            raise at_field(error) from None
        note(request, connection, me, "person invited", given.email, role=given.role)
        colleague = _there(connection, me, person_id)
        number = _counted(request, me, colleague)
        token = links.make(connection, "invite", person_id, me.id)
    return _handed(request, colleague, me, "invite", token, number)


@router.post("/{person_id}/link")
def new_link(request: Request, person_id: str) -> InvitedOut:
    """A new link for somebody: to join, where they have not yet, else to choose a new password."""
    with work(request, "manage people") as (connection, me):
        colleague = _there(connection, me, person_id)
        if colleague.state == "ended":
            raise ProblemError(409, "ended", f"{colleague.name} has left: take them back first.")
        purpose: links.Purpose = "invite" if colleague.state == "invited" else "reset"
        number = _counted(request, me, colleague)
        token = links.make(connection, purpose, colleague.id, me.id)
        note(request, connection, me, "reset asked", colleague.email, purpose=purpose)
    return _handed(request, colleague, me, purpose, token, number)


def _counted(request: Request, me: Person, to: Colleague) -> int | None:
    """The number of the letter that is about to be sent; None where no mail is set up and the link is handed over."""
    return None if mail.server() is None else letters_out.spend(request, me, "link", to.email)


def _handed(
    request: Request, to: Colleague, me: Person, purpose: links.Purpose, token: str, number: int | None
) -> InvitedOut:
    """Committed before it is mailed: a link that arrives is good."""
    link = f"{request.app.state.url}{links.path(token)}"
    mailed = number is not None and mail_link(to.email, to.name, me.firm_name, purpose, link)
    if number is not None and not mailed:
        letter_budget.give_back(request.app.state.engine, number)
    return InvitedOut(person=_shown(to), link=None if mailed else link, mailed=mailed)


@router.patch("/{person_id}")
def change(request: Request, person_id: str, given: PersonChange) -> PersonOut:
    """Change a colleague's name or role. A firm keeps at least one supervisor."""
    with work(request, "manage people") as (connection, me):
        before = _there(connection, me, person_id)
        try:
            if given.name is not None and given.name != before.name:
                people.rename(connection, me.firm_id, person_id, given.name)
                note(request, connection, me, "person renamed", before.email, before=before.name)
            if given.role is not None and given.role != before.role:
                people.set_role(connection, me.firm_id, person_id, given.role)
                note(request, connection, me, "role changed", before.email, before=before.role, now=given.role)
        except Unfit as error:
            raise at_field(error) from None
        return _shown(_there(connection, me, person_id))


@router.post("/{person_id}/end")
def end(request: Request, person_id: str) -> PersonOut:
    """Somebody leaves: their sessions end, nothing that they did or signed changes."""
    with work(request, "manage people") as (connection, me):
        colleague = _there(connection, me, person_id)
        try:
            people.end(connection, me.firm_id, person_id)
        except Unfit as error:
            raise at_field(error) from None
        links.end_all(connection, person_id)
        devices.forget(connection, person_id)
        note(request, connection, me, "person ended", colleague.email)
        return _shown(_there(connection, me, person_id))


@router.post("/{person_id}/resume")
def resume(request: Request, person_id: str) -> InvitedOut:
    """Somebody comes back, by a new link."""
    with work(request, "manage people") as (connection, me):
        _there(connection, me, person_id)
        if not people.resume(connection, me.firm_id, person_id):
            raise ProblemError(409, "here", "They have not left.")
        colleague = _there(connection, me, person_id)
        note(request, connection, me, "person resumed", colleague.email)
        number = _counted(request, me, colleague)
        token = links.make(connection, "invite", person_id, me.id)
    return _handed(request, colleague, me, "invite", token, number)


@router.post("/{person_id}/second-factor-off")
def second_factor_off(request: Request, person_id: str) -> PersonOut:
    """Take the second factor off somebody who has lost device and recovery codes. Their sessions end."""
    with work(request, "manage people") as (connection, me):
        colleague = _there(connection, me, person_id)
        second_factor.stop(connection, person_id)
        sessions.end_all(connection, person_id)
        note(request, connection, me, "second factor off", colleague.email)
        return _shown(_there(connection, me, person_id))
