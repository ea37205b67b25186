"""One's own account: sessions, password, second factor; links that are good once, and what they open."""

from collections.abc import Callable
from typing import Any, TypeVar

from fastapi import BackgroundTasks, Request, Response
from sqlalchemy import Connection, Engine

from dorrik.api import cookies, letters_out
from dorrik.api.account_types import (
    AccountOut,
    CodeIn,
    ForgottenIn,
    LinkIn,
    LinkOut,
    Me,
    PasswordIn,
    ProofIn,
    RecoveryOut,
    SecondFactorOut,
    SessionOut,
    UseLink,
)
from dorrik.api.common_types import Problem
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.reference_types import RuleBookOut
from dorrik.api.routing import router as make_router
from dorrik.api.work import note, set_cookie, set_device_cookie, source, work
from dorrik.core.book.rule_book import keys, of_nation, rule_book
from dorrik.core.inspection.records import NATIONS
from dorrik.core.work import workflow
from dorrik.report import mail
from dorrik.store.firm import firm_rules
from dorrik.store.mail import letter_budget
from dorrik.store.people import attempts, audit, devices, links, passwords, people, second_factor, sessions
from dorrik.store.people.people import Person, Unfit

router = make_router("/api", "account", {422: {"model": Problem}})
T = TypeVar("T")


def me(connection: Connection, person: Person) -> Me:
    """Who is signed in, and what of the firm's business they may."""
    row = people.account(connection, person.id)
    return Me(
        id=person.id,
        firm_id=person.firm_id,
        firm_name=person.firm_name,
        name=person.name,
        email=person.email,
        role=person.role,
        may=workflow.allowed(person.role),
        second_factor=second_factor.is_asked(row),
    )


def at_field(error: Unfit, prefix: str = "") -> ProblemError:
    """What cannot be kept, at its field."""
    fields = [{"field": prefix + error.field, "message": str(error)}]
    return ProblemError(422, "invalid", str(error), fields=fields)


async def _in_password_pool(request: Request, do: Callable[[], T]) -> T:
    return await request.app.state.password_pool.run(do)  # type: ignore[no-any-return]


def _proved(connection: Connection, who: Person, password: str, field: str = "password") -> None:
    """The password once more. Raises ProblemError."""
    if not passwords.matches(people.account(connection, who.id).password_hash, password):
        raise at_field(Unfit(field, "That is not your password."))


@router.get("/account", responses=RESPONSES)
def account(request: Request) -> AccountOut:
    """One's own sessions and second factor."""
    with work(request) as (connection, who):
        open_sessions = sessions.of(connection, who.id)
        asked = second_factor.is_asked(people.account(connection, who.id))
        left = second_factor.left(connection, who.id)
    return AccountOut(
        sessions=[
            SessionOut(
                id=s.id, agent=s.agent, source=s.source, made_at=s.made_at, seen_at=s.seen_at, this=s.id == who.session
            )
            for s in open_sessions
        ],
        second_factor=asked,
        recovery_left=left,
    )


@router.delete("/account/sessions/{session_id}", status_code=204, responses=RESPONSES)
def end_session(request: Request, session_id: str) -> None:
    """End one of one's own sessions."""
    with work(request) as (connection, who):
        if not sessions.end(connection, who.id, session_id):
            raise not_found("session")
        note(request, connection, who, "session ended")


@router.put("/account/password", responses=RESPONSES)
async def change_password(request: Request, response: Response, given: PasswordIn) -> Me:
    """Change one's own password. Every session ends; this one begins anew."""
    agent, device = request.headers.get("user-agent", ""), cookies.read(request.headers, cookies.DEVICE)

    def change() -> tuple[str, str, Me]:
        with work(request) as (connection, who):
            attempt = _counted(request, who)
            _proved(connection, who, given.old, "old")
            attempts.right(request.app.state.engine, attempt)
            try:
                passwords.fit(given.new, who.name, who.email, given.old)
            except Unfit as error:
                raise at_field(Unfit("new", str(error))) from None
            set_password(connection, who.id, given.new)
            note(request, connection, who, "password changed")
            token = sessions.open_one(connection, who.id, agent, source(request))
            return token, devices.know(connection, device, who.id), me(connection, who)

    token, known, signed_in = await _in_password_pool(request, change)
    set_cookie(request, response, token)
    set_device_cookie(request, response, known)
    return signed_in


def _counted(request: Request, who: Person) -> attempts.Try:
    """A password typed by somebody signed in counts as one typed to sign in: an open screen is no place to guess."""
    try:
        return attempts.begin(request.app.state.engine, who.email, source(request), f"session {who.session}")
    except attempts.Wait as error:
        seconds = max(1, round(error.seconds))
        message = f"Too many attempts. Try again in {seconds} seconds."
        raise ProblemError(429, "wait", message, wait_s=seconds) from None


def set_password(connection: Connection, person_id: str, password: str) -> None:
    """Give somebody a password; every session and every link of theirs ends."""
    password_hash = passwords.hash_password(password)
    people.set_password(connection, person_id, password_hash)
    sessions.end_all(connection, person_id)
    links.end_all(connection, person_id)
    devices.forget(connection, person_id)


@router.post("/account/second-factor", responses=RESPONSES)
async def begin_second_factor(request: Request, given: ProofIn) -> SecondFactorOut:
    """Make a secret for a device; nothing is asked for until a code of it was confirmed."""

    def begin() -> SecondFactorOut:
        with work(request) as (connection, who):
            attempt = _counted(request, who)
            _proved(connection, who, given.password)
            attempts.right(request.app.state.engine, attempt)
            if second_factor.is_asked(people.account(connection, who.id)):
                raise at_field(Unfit("password", "A second factor is on already: take it off first."))
            secret, uri = second_factor.begin(connection, who.id)
            return SecondFactorOut(secret=secret, uri=uri, drawing=second_factor.drawing(uri))

    return await _in_password_pool(request, begin)


@router.post("/account/second-factor/confirm", responses=RESPONSES)
def confirm_second_factor(request: Request, given: CodeIn) -> RecoveryOut:
    """From now on a code is asked for. The recovery codes are shown this one time."""
    with work(request) as (connection, who):
        codes = second_factor.confirm(connection, who.id, given.code)
        if codes is None:
            raise at_field(Unfit("code", "That is not the code that the device shows now: check its clock."))
        note(request, connection, who, "second factor on")
    return RecoveryOut(codes=codes)


@router.post("/account/second-factor/stop", status_code=204, responses=RESPONSES)
async def stop_second_factor(request: Request, given: ProofIn) -> None:
    """No code is asked for any more."""

    def stop() -> None:
        with work(request) as (connection, who):
            attempt = _counted(request, who)
            _proved(connection, who, given.password)
            attempts.right(request.app.state.engine, attempt)
            second_factor.stop(connection, who.id)
            note(request, connection, who, "second factor off")

    await _in_password_pool(request, stop)


@router.post("/account/forgotten", status_code=202, responses={429: {"model": Problem}})
def forgotten(request: Request, given: ForgottenIn, later: BackgroundTasks) -> dict[str, bool]:
    """Mail a link to whoever has that address. The answer does not tell whether anybody has."""
    engine: Engine = request.app.state.engine
    if mail.server() is not None:
        number = letters_out.spend_for_stranger(request, given.email, source(request))
        if number is not None:
            later.add_task(_mail_reset, engine, given.email, str(request.app.state.url), source(request), number)
    return {"mail": mail.server() is not None}


def _mail_reset(engine: Engine, email: str, url: str, where: str, number: int) -> None:
    with engine.begin() as connection:
        row = people.by_address(connection, email)
        if row is None or row.ended_at is not None or row.password_hash is None:
            return
        token = links.make(connection, "reset", row.id, beside_others=True)
        audit.note(connection, "reset asked", firm_id=row.firm_id, person_id=row.id, source=where)
        firm_name = people.firm_details(connection, row.firm_id)["name"]
    if not mail_link(row.email, row.name, firm_name, "reset", url + links.path(token)):
        letter_budget.give_back(engine, number)


def mail_link(to: str, name: str, firm_name: str, purpose: links.Purpose, link: str) -> bool:
    """Mail somebody their link; False where no mail is set up, or it was not taken."""
    subject, what = {
        "invite": (f"{firm_name} invites you to Dorrik", "choose your password and begin"),
        "reset": ("A new password for Dorrik", "choose a new password"),
    }[purpose]
    hours = links.LASTS[purpose].total_seconds() / 3600
    good_for = f"{hours:.0f} hours" if hours < 48 else f"{hours / 24:.0f} days"
    text = (
        f"{name},\n\nhere you can {what}:\n\n{link}\n\nThe link is good once, for {good_for}. "
        "If you did not expect it, leave it alone: nothing changes.\n"
    )
    try:
        mail.send(firm_name, None, to, subject, text, ())
    except mail.NotSent:
        return False
    return True


@router.post("/links/look", responses={404: {"model": Problem}})
def look(request: Request, given: LinkIn) -> LinkOut:
    """What a link is good for. Looking does not spend it."""
    with request.app.state.engine.begin() as connection:
        row = _link(links.look(connection, given.token))
        firm_name = people.firm_details(connection, row.firm_id)["name"] if row.firm_id else ""
    return LinkOut(
        purpose=row.purpose,
        name=row.name or "",
        email=row.email or "",
        firm_name=firm_name,
        nations=list(NATIONS),
        rule_books=[RuleBookOut.model_validate(rule_book(key), from_attributes=True) for key in keys()],
    )


def _link(row: Any) -> Any:
    if row is None:
        raise ProblemError(404, "spent", "This link has ended: it was used, or its time is over.")
    return row


@router.post("/links/use", responses={404: {"model": Problem}})
async def use(request: Request, response: Response, given: UseLink) -> Me:
    """Choose a password, and where the link sets a firm up, say which; signs in. The link is spent."""
    agent, where = request.headers.get("user-agent", ""), source(request)
    device = cookies.read(request.headers, cookies.DEVICE)

    def take() -> tuple[str, str, Me]:
        with request.app.state.engine.begin() as connection:
            row = _link(links.spend(connection, given.token))
            person_id = row.person_id
            try:
                if row.purpose == "set-up":
                    person_id = set_up(connection, given, where)
                passwords.fit(given.password, row.name or given.name or "", row.email or given.email or "")
            except Unfit as error:
                raise at_field(error) from None
            set_password(connection, person_id, given.password)
            token = sessions.open_one(connection, person_id, agent, where)
            who = sessions.who(connection, token)
            if who is None:
                raise ProblemError(404, "spent", "This link has ended.")
            if row.purpose == "invite":
                note(request, connection, who, "person joined", who.name)
            elif row.purpose == "reset":
                note(request, connection, who, "password reset")
            signed_in = me(connection, who)
            if signed_in.second_factor:
                # Who holds the mail box has one factor; the other is asked for as ever.
                sessions.end_all(connection, person_id)
                token = known = ""
            else:
                known = devices.know(connection, device, person_id)
        attempts.forget(request.app.state.engine, signed_in.email)
        return token, known, signed_in

    token, known, signed_in = await _in_password_pool(request, take)
    if not token:
        raise ProblemError(401, "code", "The new password is kept. Sign in with it, and with the code of your device.")
    set_cookie(request, response, token)
    set_device_cookie(request, response, known)
    return signed_in


def set_up(connection: Connection, given: UseLink, where: str) -> str:
    """The firm and its first supervisor; returns their id. Raises Unfit."""
    if given.firm is None:
        raise Unfit("firm.name", "Say which firm this is.")
    if given.firm.nation and given.firm.nation not in NATIONS:
        raise Unfit("firm.nation", "There is no such nation here.")
    book = given.rule_book or of_nation(given.firm.nation or None)
    if book is not None and book not in keys():
        raise Unfit("rule_book", "There is no such rule book.")
    try:
        firm_id = people.add_firm(connection, **given.firm.model_dump())
    except Unfit as error:
        raise Unfit(f"firm.{error.field}", str(error)) from None
    firm_rules.settle(connection, firm_id, book, {})
    person_id = people.add_person(connection, firm_id, given.name or "", given.email or "", "supervisor")
    audit.note(connection, "firm set up", firm_id=firm_id, person_id=person_id, subject=given.firm.name, source=where)
    return person_id
