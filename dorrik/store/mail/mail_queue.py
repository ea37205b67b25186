"""Mail that is to leave: written down with what it belongs to, taken by one process at a time, and ended once.

A mail is taken under a hold that runs out, so that one whose process died is taken again. Once its content goes over
the line it counts as `leaving`; where the process dies in that moment nobody knows whether it left, and a person
decides: sent twice is as wrong as not sent.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta
from typing import Any, Literal, get_args

from sqlalchemy import Connection, Engine, delete, func, insert, or_, select, update

from dorrik.core.basics.identifiers import is_id
from dorrik.store.database.account_tables import person
from dorrik.store.database.engine import new_id, now
from dorrik.store.database.mail_tables import outgoing_file, outgoing_mail
from dorrik.store.database.tables import inspection
from dorrik.store.mail.letter_budget import Kind

#: waiting: to be tried at its time; leaving: going over the line; sent: taken by the server; failed: refused for good,
#: or given up; uncertain: nobody knows whether it left; bounced: came back; withdrawn: somebody stopped it.
State = Literal["waiting", "leaving", "sent", "failed", "uncertain", "bounced", "withdrawn"]
STATES: tuple[State, ...] = get_args(State)
#: Times between tries; after the last it is given up, some two days after it was written.
PAUSES = tuple(timedelta(minutes=m) for m in (1, 5, 15, 60, 180, 360, 720, 1440))
#: How long a process may have a mail in hand: longer than a server may take to answer.
HOLD = timedelta(minutes=3)
#: Files are held so long for sending again.
FILES_STAY = timedelta(days=30)
#: Lines of a page of the list.
PAGE = 50


@dataclass(frozen=True, slots=True)
class About:
    """What a mail belongs to; with it, it is erased. kind: which letter; what: for the list; job_id: of a job, or of
    the client where it is about no job."""

    kind: Kind
    what: str
    inspection_id: str | None = None
    job_id: str | None = None


@dataclass(frozen=True, slots=True)
class QueuedLetter:
    """A mail before it is queued. files: name and content of each."""

    firm_id: str
    sender: str
    reply_to: str | None
    to: str
    subject: str
    text: str
    message_id: str
    files: Sequence[tuple[str, bytes]] = ()


@dataclass(frozen=True, slots=True)
class Belongs:
    """Whose a mail is: of which firm, which letter, of which inspection or job, and who sent it."""

    firm_id: str
    kind: str
    inspection_id: str | None
    job_id: str | None
    made_by: str | None


@dataclass(frozen=True, slots=True)
class Taken:
    """A mail that this process has in hand."""

    id: str
    of: Belongs
    sender: str
    reply_to: str | None
    to: str
    subject: str
    text: str
    message_id: str
    tries: int
    letter_id: int | None
    files: tuple[tuple[str, bytes], ...]


@dataclass(frozen=True, slots=True)
class Listed:
    """A mail as the firm's list has it. by: who sent it, '' where it went by itself; reference: of its inspection;
    in_hand: is some process bringing it to the server at this moment?"""

    id: str
    kind: str
    about: str
    to: str
    subject: str
    state: State
    told: str
    tries: int
    made_at: datetime
    next_at: datetime
    ended_at: datetime | None
    by: str
    inspection_id: str | None
    reference: str
    has_files: bool
    in_hand: bool


def put(
    connection: Connection, written: QueuedLetter, about: About, by: str | None, letter_id: int | None = None
) -> str:
    """Queue a mail in the caller's transaction; returns its id. by: the person who sends it, None for nobody;
    letter_id: under which it was counted."""
    mail_id, at = new_id(), now()
    connection.execute(
        insert(outgoing_mail).values(
            id=mail_id, firm_id=written.firm_id, kind=about.kind, about=about.what[:120],
            inspection_id=about.inspection_id, job_id=about.job_id, to_address=written.to, sender=written.sender,
            reply_to=written.reply_to, subject=written.subject[:300], text=written.text, message_id=written.message_id,
            made_at=at, made_by=by, state="waiting", tries=0, next_at=at, letter_id=letter_id,
        )
    )  # fmt: skip
    rows = [
        {"mail_id": mail_id, "place": place, "name": name[:190], "content": content}
        for place, (name, content) in enumerate(written.files)
    ]
    if rows:
        connection.execute(insert(outgoing_file), rows)
    return mail_id


def take(engine: Engine, mail_id: str | None = None, firm_id: str | None = None) -> Taken | None:
    """Take a mail whose time has come, the oldest first, of one firm where it is given, or that one; None where there
    is none that nobody has."""
    c, at = outgoing_mail.c, now()
    free = or_(c.held_until.is_(None), c.held_until < at)
    query = select(outgoing_mail).where(c.state == "waiting", c.next_at <= at, free)
    query = query.where(c.id == mail_id) if mail_id is not None else query.order_by(c.next_at)
    query = query.where(c.firm_id == firm_id) if firm_id is not None else query
    with engine.begin() as connection:
        row = connection.execute(query.limit(1).with_for_update(skip_locked=True)).one_or_none()
        if row is None:
            return None
        connection.execute(update(outgoing_mail).where(c.id == row.id).values(held_until=at + HOLD))
        f = outgoing_file.c
        files = connection.execute(select(f.name, f.content).where(f.mail_id == row.id).order_by(f.place)).all()
    return Taken(
        row.id, _belongs(row), row.sender, row.reply_to, row.to_address, row.subject, row.text, row.message_id,
        row.tries, row.letter_id, tuple((file.name, file.content) for file in files),
    )  # fmt: skip


def leaving(engine: Engine, mail_id: str) -> bool:
    """From now on nobody knows whether it left, until that is written down; False where it was withdrawn meanwhile."""
    c = outgoing_mail.c
    with engine.begin() as connection:
        changed = connection.execute(
            update(outgoing_mail).where(c.id == mail_id, c.state == "waiting").values(state="leaving")
        )
        return changed.rowcount == 1


def sent(connection: Connection, mail_id: str) -> None:
    """The server has taken it."""
    _end(connection, mail_id, "sent", None)


def not_sent(engine: Engine, mail: Taken, why: str, *, for_good: bool) -> State:
    """The server has not taken it: it waits for its next try, or has failed."""
    if for_good or mail.tries >= len(PAUSES):
        reason = why if for_good else f"Given up after {mail.tries + 1} tries. {why}"
        with engine.begin() as connection:
            _end(connection, mail.id, "failed", reason)
        return "failed"
    c = outgoing_mail.c
    with engine.begin() as connection:
        connection.execute(
            update(outgoing_mail)
            .where(c.id == mail.id, c.state.in_(("waiting", "leaving")))
            .values(
                state="waiting", tries=c.tries + 1, next_at=now() + PAUSES[mail.tries], held_until=None, told=why[:300]
            )
        )
    return "waiting"


def _end(connection: Connection, mail_id: str, state: State, reason: str | None) -> None:
    c = outgoing_mail.c
    words = reason[:300] if reason else None
    ended = {"state": state, "tries": c.tries + 1, "ended_at": now(), "held_until": None, "told": words}
    connection.execute(update(outgoing_mail).where(c.id == mail_id).values(**ended))


def look_after(engine: Engine) -> None:
    """What was going over the line when its process died is uncertain; files that nobody sends again are let go."""
    c, f, at = outgoing_mail.c, outgoing_file.c, now()
    reason = "The server stopped while it was being sent. It may have left: ask before sending it again."
    with engine.begin() as connection:
        connection.execute(
            update(outgoing_mail)
            .where(c.state == "leaving", c.held_until < at)
            .values(state="uncertain", ended_at=at, held_until=None, told=reason)
        )
        old = select(c.id).where(c.ended_at < at - FILES_STAY)
        connection.execute(delete(outgoing_file).where(f.mail_id.in_(old)))
        # A text can hold a link that is still good.
        connection.execute(update(outgoing_mail).where(c.ended_at < at - FILES_STAY, c.text != "").values(text=""))


def bounced(connection: Connection, message_id: str, why: str) -> Belongs | None:
    """A mail came back; None where none of ours had that identity, or it was known already."""
    c = outgoing_mail.c
    query = select(outgoing_mail).where(c.message_id == message_id, c.state.in_(("sent", "uncertain")))
    row = connection.execute(query.with_for_update()).one_or_none()
    if row is None:
        return None
    values = {"state": "bounced", "told": why[:300], "ended_at": now()}
    connection.execute(update(outgoing_mail).where(c.id == row.id).values(**values))
    return _belongs(row)


def _belongs(row: Any) -> Belongs:
    return Belongs(row.firm_id, row.kind, row.inspection_id, row.job_id, row.made_by)


# What people see and do

_TROUBLED = or_(
    outgoing_mail.c.state.in_(("failed", "uncertain", "bounced")),
    (outgoing_mail.c.state == "waiting") & (outgoing_mail.c.tries > 0),
)


def state_of(connection: Connection, firm_id: str, mail_id: str) -> Listed | None:
    """One mail of the firm; None where it has none of that id."""
    if not is_id(mail_id):
        return None
    letters = _listed(connection, outgoing_mail.c.firm_id == firm_id, outgoing_mail.c.id == mail_id)
    return letters[0] if letters else None


def in_trouble(connection: Connection, firm_id: str) -> int:
    """How many of the firm's mails have not arrived."""
    c = outgoing_mail.c
    query = select(func.count()).select_from(outgoing_mail).where(c.firm_id == firm_id, _TROUBLED)
    return int(connection.execute(query).scalar_one())


def page(
    connection: Connection, firm_id: str, *, troubled: bool = False, inspection_id: str | None = None, start: int = 0
) -> tuple[list[Listed], int]:
    """The firm's mails, the latest first, and how many there are. troubled: those that did not arrive."""
    c = outgoing_mail.c
    here: list[Any] = [c.firm_id == firm_id]
    if troubled:
        here.append(_TROUBLED)
    if inspection_id is not None:
        here.append(c.inspection_id == inspection_id)
    count = connection.execute(select(func.count()).select_from(outgoing_mail).where(*here)).scalar_one()
    return _listed(connection, *here, start=start), count


def _listed(connection: Connection, *here: Any, start: int = 0) -> list[Listed]:
    c, f = outgoing_mail.c, outgoing_file.c
    files = select(f.place).where(f.mail_id == c.id).exists()
    query = (
        select(
            c.id, c.kind, c.about, c.to_address, c.subject, c.state, c.told, c.tries, c.made_at, c.next_at, c.ended_at,
            c.held_until, person.c.name, c.inspection_id, inspection.c.reference, files.label("files"),
        )
        .outerjoin(person, person.c.id == c.made_by)
        .outerjoin(inspection, inspection.c.id == c.inspection_id)
        .where(*here)
        .order_by(c.made_at.desc(), c.id)
        .offset(start)
        .limit(PAGE)
    )  # fmt: skip
    return [
        Listed(
            row.id, row.kind, row.about, row.to_address, row.subject, row.state, row.told or "", row.tries, row.made_at,
            row.next_at, row.ended_at, row.name or "", row.inspection_id, row.reference or "", bool(row.files),
            row.state in ("waiting", "leaving") and row.held_until is not None and row.held_until > now(),
        )
        for row in connection.execute(query)
    ]  # fmt: skip


def was_put(connection: Connection, inspection_id: str, kind: Kind, what: str) -> bool:
    """Was a letter of that kind, about that, ever queued for an inspection?"""
    c = outgoing_mail.c
    query = select(c.id).where(c.inspection_id == inspection_id, c.kind == kind, c.about == what[:120]).limit(1)
    return connection.execute(query).first() is not None


def was_put_about(connection: Connection, subject_id: str, kind: Kind, what: str) -> bool:
    """The same for a job, or a client."""
    c = outgoing_mail.c
    query = select(c.id).where(c.job_id == subject_id, c.kind == kind, c.about == what[:120]).limit(1)
    return connection.execute(query).first() is not None


def of_subject(connection: Connection, *, inspection_id: str | None = None, job_id: str | None = None) -> list[Any]:
    """Every letter of an inspection or a job, whole but for its files, oldest first."""
    c = outgoing_mail.c
    here = c.inspection_id == inspection_id if inspection_id is not None else c.job_id == job_id
    return list(connection.execute(select(outgoing_mail).where(here).order_by(c.made_at)))


def again(connection: Connection, firm_id: str, mail_id: str, to: str | None) -> bool:
    """Have a mail tried again at once, to another address where one is given; False where it is on its way or its files
    are gone. One that had left gets an identity of its own, else its bounce would be the first one's."""
    c = outgoing_mail.c
    row = connection.execute(
        select(c.state, c.held_until, c.ended_at, c.message_id).where(c.firm_id == firm_id, c.id == mail_id)
        .with_for_update()
    ).one_or_none()  # fmt: skip
    if row is None or row.state in ("sent", "leaving") or (row.held_until and row.held_until > now()):
        return False
    if row.ended_at is not None and row.ended_at < now() - FILES_STAY:
        return False
    local, _, domain = row.message_id.strip("<>").partition("@")
    values: dict[str, Any] = {
        "state": "waiting", "next_at": now(), "tries": 0, "told": None, "ended_at": None,
        "message_id": f"<{local[:60]}.{new_id()[-8:]}@{domain}>",
    }  # fmt: skip
    if to is not None:
        values["to_address"] = to
    connection.execute(update(outgoing_mail).where(c.id == mail_id).values(**values))
    return True


def withdraw(connection: Connection, firm_id: str, mail_id: str) -> bool:
    """Stop a mail that has not left; False where it has, or is leaving."""
    c = outgoing_mail.c
    changed = connection.execute(
        update(outgoing_mail)
        .where(c.firm_id == firm_id, c.id == mail_id, c.state.in_(("waiting", "failed", "uncertain")))
        .values(state="withdrawn", ended_at=now())
    )
    return changed.rowcount == 1
