"""Firms and their people: who belongs where, in which role, and who has left. Nobody is ever deleted."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal

from email_validator import EmailNotValidError, validate_email
from sqlalchemy import Connection, func, insert, select, update
from sqlalchemy.exc import IntegrityError

from dorrik.core.basics.identifiers import is_id
from dorrik.core.basics.text import tidy
from dorrik.core.work.workflow import ROLES, Role
from dorrik.store.database.account_tables import firm, person, session
from dorrik.store.database.engine import new_id, now

LONGEST_ADDRESS = 190


@dataclass(frozen=True, slots=True)
class Person:
    """Who is signed in; session: the id of the session they came with."""

    id: str
    firm_id: str
    firm_name: str
    name: str
    email: str
    role: Role
    session: str = ""


@dataclass(frozen=True, slots=True)
class Colleague:
    """Somebody of a firm; state: 'invited' until a password was chosen, then 'active', 'ended' for who has left."""

    id: str
    name: str
    email: str
    role: Role
    state: Literal["invited", "active", "ended"]
    second_factor: bool
    ended_at: datetime | None


class Unfit(ValueError):
    """A person or a firm cannot be kept like that; `field` names what is wrong."""

    def __init__(self, field: str, why: str) -> None:
        super().__init__(why)
        self.field = field


def address(text: str) -> str:
    """A mail address as it is kept: parsed, normalised (NFC), the host in small letters. Raises Unfit.

    One that a mail program would take for an encoded word (RFC 2047) is none.
    """
    try:
        validated = validate_email(text.strip(), check_deliverability=False)
    except (EmailNotValidError, UnicodeError):
        raise Unfit("email", "Enter an email address, such as ann@example.com.") from None
    if "=?" in validated.normalized:
        raise Unfit("email", "Enter an email address, such as ann@example.com.")
    if len(validated.normalized) > LONGEST_ADDRESS:
        raise Unfit("email", f"Mail addresses of at most {LONGEST_ADDRESS} characters are kept.")
    return validated.normalized


def address_key(text: str) -> bytes:
    """A mail address as it is compared: normalised, in small letters, as bytes. No two accents are the same.

    What is no address has a key too, of its own: it is counted like any other where somebody tries to sign in with it.
    """
    try:
        plain = address(text)
    except Unfit:
        plain = text.strip()[:LONGEST_ADDRESS]
    return plain.casefold().encode("utf-8", "replace")


def add_firm(
    connection: Connection, name: str, address: str, phone: str, firm_id: str | None = None, **more: Any
) -> str:
    """Add a firm; returns its id. more: email, letter_line, nation, rule_book, demo. Raises Unfit."""
    firm_id = firm_id or new_id()
    values = _firm_values({"name": name, "address": address, "phone": phone, **more})
    connection.execute(insert(firm).values(id=firm_id, house_rules={}, made_at=now(), **values))
    return firm_id


_LETTERHEAD = {"name": 120, "address": 300, "phone": 40, "email": 190, "letter_line": 200, "nation": 60}


def _firm_values(given: dict[str, Any]) -> dict[str, Any]:
    kept = dict(given)
    for field, longest in _LETTERHEAD.items():
        if field in kept:
            kept[field] = _words(field, kept[field] or "", longest) or None
    if "name" in kept and not kept["name"]:
        raise Unfit("name", "A firm needs a name: it is printed on every report.")
    if kept.get("email"):
        kept["email"] = address(kept["email"])
    return kept


def change_firm(connection: Connection, firm_id: str, **letterhead: Any) -> None:
    """Change a firm's letterhead (name, address, phone, email, letter_line) and nation. Issued reports keep theirs."""
    connection.execute(update(firm).where(firm.c.id == firm_id).values(**_firm_values(letterhead)))


def set_logo(connection: Connection, firm_id: str, drawing: str | None) -> None:
    """Keep a firm's logo as SVG text (`pictures.logo`), or none. Issued reports keep theirs."""
    connection.execute(update(firm).where(firm.c.id == firm_id).values(logo=drawing))


def _words(field: str, text: str, longest: int) -> str:
    try:
        kept = tidy(text)
    except ValueError as error:
        raise Unfit(field, str(error)) from None
    if len(kept) > longest:
        raise Unfit(field, f"At most {longest} characters fit.")
    return kept


def add_person(
    connection: Connection, firm_id: str, name: str, email: str, role: str, password_hash: str | None = None
) -> str:
    """Add a person to a firm; returns the id. Without a hash they are invited: a link lets them choose a password.

    Raises Unfit, also where somebody has that address already, in whichever firm.
    """
    if role not in ROLES:
        raise Unfit("role", f"A role is one of {', '.join(ROLES)}.")
    kept = _words("name", name, 120)
    if not kept:
        raise Unfit("name", "A name is needed: it is printed under what they sign.")
    known = address(email)
    person_id = new_id()
    try:
        with connection.begin_nested():
            connection.execute(
                insert(person).values(
                    id=person_id,
                    firm_id=firm_id,
                    name=kept,
                    email=known,
                    address_key=address_key(known),
                    role=role,
                    password_hash=password_hash,
                    made_at=now(),
                )
            )
    except IntegrityError:
        raise Unfit("email", "Somebody signs in with that address already.") from None
    return person_id


def rename(connection: Connection, firm_id: str, person_id: str, name: str) -> bool:
    """Change a colleague's name; what was signed before keeps the name it was signed with. False where none is."""
    kept = _words("name", name, 120)
    if not kept:
        raise Unfit("name", "A name is needed: it is printed under what they sign.")
    here = (person.c.id == person_id, person.c.firm_id == firm_id)
    return is_id(person_id) and bool(connection.execute(update(person).where(*here).values(name=kept)).rowcount)


def set_role(connection: Connection, firm_id: str, person_id: str, role: str) -> bool:
    """Give a colleague another role; False where there is nobody of that id. Raises Unfit for the last supervisor."""
    if role not in ROLES:
        raise Unfit("role", f"A role is one of {', '.join(ROLES)}.")
    held_row = _held(connection, firm_id, person_id)
    if held_row is None:
        return False
    if role != "supervisor":
        _not_the_last(connection, firm_id, held_row)
    connection.execute(update(person).where(person.c.id == person_id).values(role=role))
    return True


def end(connection: Connection, firm_id: str, person_id: str) -> bool:
    """Somebody leaves: no session, no signing in; the name stays under what was signed.

    False where the firm has nobody of that id. Raises Unfit for the last supervisor.
    """
    held_row = _held(connection, firm_id, person_id)
    if held_row is None:
        return False
    _not_the_last(connection, firm_id, held_row)
    connection.execute(
        update(person)
        .where(person.c.id == person_id)
        .values(ended_at=now(), password_hash=None, totp_secret=None, totp_since=None, recovery=None)
    )
    connection.execute(session.delete().where(session.c.person_id == person_id))
    return True


def resume(connection: Connection, firm_id: str, person_id: str) -> bool:
    """Somebody comes back: they are invited again. False where nobody of that id has left."""
    here = (person.c.id == person_id, person.c.firm_id == firm_id, person.c.ended_at.is_not(None))
    return is_id(person_id) and bool(connection.execute(update(person).where(*here).values(ended_at=None)).rowcount)


def _held(connection: Connection, firm_id: str, person_id: str) -> Any:
    """The row of a colleague. The firm's is held with it, so that of two last supervisors one stays."""
    if not is_id(person_id):
        return None
    connection.execute(select(firm.c.id).where(firm.c.id == firm_id).with_for_update())
    query = select(person).where(person.c.id == person_id, person.c.firm_id == firm_id)
    return connection.execute(query.with_for_update()).one_or_none()


def _not_the_last(connection: Connection, firm_id: str, held_row: Any) -> None:
    if held_row.role != "supervisor" or held_row.ended_at is not None:
        return
    c = person.c
    others = select(func.count()).where(
        c.firm_id == firm_id, c.role == "supervisor", c.id != held_row.id, c.ended_at.is_(None),
        c.password_hash.is_not(None),
    )  # fmt: skip
    if not connection.execute(others).scalar_one():
        raise Unfit("role", "A firm keeps at least one supervisor who can sign in: make somebody else one first.")


def _state(row: Any) -> Literal["invited", "active", "ended"]:
    if row.ended_at is not None:
        return "ended"
    return "active" if row.password_hash else "invited"


def everybody(connection: Connection, firm_id: str) -> list[Colleague]:
    """Everybody of a firm, those who have left too, by name."""
    rows = connection.execute(select(person).where(person.c.firm_id == firm_id).order_by(person.c.name, person.c.id))
    return [Colleague(r.id, r.name, r.email, r.role, _state(r), r.totp_since is not None, r.ended_at) for r in rows]


def colleague(connection: Connection, firm_id: str, person_id: str) -> Colleague | None:
    """Somebody of a firm; None where it has nobody of that id."""
    return next((member for member in everybody(connection, firm_id) if member.id == person_id), None)


def by_address(connection: Connection, email: str) -> Any:
    """The row of whoever has a mail address, or None; who has left counts."""
    return connection.execute(select(person).where(person.c.address_key == address_key(email))).one_or_none()


def acting(connection: Connection, email: str) -> Person | None:
    """Somebody by their mail address, as whom a command acts; None where nobody has it, or they have left."""
    row = by_address(connection, email)
    if row is None or row.ended_at is not None:
        return None
    return Person(row.id, row.firm_id, firm_details(connection, row.firm_id)["name"], row.name, row.email, row.role)


def of_firm(connection: Connection, firm_id: str, person_id: str) -> Person | None:
    """Somebody of a firm who has not left, as if they were signed in; None for anybody else."""
    member = colleague(connection, firm_id, person_id)
    acts = member is not None and member.state == "active"
    return acting(connection, member.email) if acts and member is not None else None


def colleagues(connection: Connection, firm_id: str) -> dict[str, str]:
    """Names of a firm's people by id."""
    rows: Any = connection.execute(select(person.c.id, person.c.name).where(person.c.firm_id == firm_id))
    return {row.id: row.name for row in rows}


def firm_details(connection: Connection, firm_id: str) -> dict[str, Any]:
    """Name, letterhead, nation and house rules of a firm."""
    row = connection.execute(select(firm).where(firm.c.id == firm_id)).one()
    return dict(row._mapping)


def firms(connection: Connection, *, demo: bool | None = False) -> list[Any]:
    """Id, name and `demo` of firms, by name: those of the demo, the others, or (None) all of them."""
    which = select(firm.c.id, firm.c.name, firm.c.demo).order_by(firm.c.name, firm.c.id)
    return list(connection.execute(which if demo is None else which.where(firm.c.demo == demo)))


def account(connection: Connection, person_id: str) -> Any:
    """The row of somebody's account, with what it is proved by."""
    return connection.execute(select(person).where(person.c.id == person_id)).one()


def set_password(connection: Connection, person_id: str, password_hash: str) -> None:
    """Keep the hash of a new password."""
    connection.execute(update(person).where(person.c.id == person_id).values(password_hash=password_hash))
