"""What is set aside: said where it is not agreed or no longer so, kept from asking, and listed for screens and report.

Nothing that was read is hidden by it: a reading is judged as found, whatever was agreed later.
"""

from collections.abc import Iterable, Iterator
from dataclasses import replace
from datetime import date, datetime

from dorrik.core.basics.record import record
from dorrik.core.basics.verdict import Verdict
from dorrik.core.home.journal_facts import LIVE_READINGS
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.inspection.records import Circuit, Point, Rcd
from dorrik.core.inspection.set_aside import SetAside
from dorrik.core.judging.coverage.walking_order import names
from dorrik.core.judging.topics.context import Context, Note, is_measured, name_of

SOURCE = "BS 7671 653.2 · rule 12.2"
#: The field under which a thing is spoken of as a whole.
_WHOLE = {"circuit": "designation", "board": "name", "room": "name", "point": "name"}
#: What a reading that cannot be of this one may be of.
_ANOTHER = {"circuit": "circuit", "point": "point", "rcd": "device"}
#: What each state means for whoever uses the home, in words for the report and the letter.
MEANS = {
    "left disconnected": "It is dead and stays so until somebody competent has put it right, tested it and switched it "
    "on again. Nobody else reconnects it. It was not tested as it is.",
    "out of scope": "It was seen and, by agreement, neither inspected nor tested. This report says nothing of it, "
    "and it may hold defects.",
}


@record(kw_only=True)
class Aside:
    """A thing that is set aside. name: what it is called; says: its state, with whom it was agreed and until when;
    means: what that means for whoever uses the home; in_force: does it count?; covers: ids of everything that is set
    aside with it, itself first; gone: it was removed."""

    id: str
    entity: str
    entity_id: str
    name: str
    state: str
    says: str
    means: str
    why: str
    in_force: bool
    covers: tuple[str, ...]
    gone: bool


def set_aside(context: Context) -> tuple[Aside, ...]:
    """Everything that is set aside, in walking order."""
    i = context.inspection
    if not i.set_asides:
        return ()
    named = names(i)
    order = {key: at for at, key in enumerate(named)}
    asides = []
    for one in sorted(i.set_asides, key=lambda s: (order.get(s.about_id or "", len(order)), s.id)):
        covered = [key for key, by in context.aside.items() if by.id == one.id]
        asides.append(
            Aside(
                id=one.id,
                entity=one.about_entity or "",
                entity_id=one.about_id or "",
                name=named.get(one.about_id or "", "No longer in this inspection"),
                state=one.state or "",
                says=says(one),
                means=MEANS.get(one.state or "", ""),
                why=one.why or "",
                in_force=one.in_force,
                covers=tuple(sorted(covered, key=lambda key: (key != one.about_id, order.get(key, len(order))))),
                gone=one.about_id not in named,
            )
        )
    return tuple(asides)


def says(aside: SetAside) -> str:
    """The state with its agreement: `left disconnected, agreed with Hester Vane until 14 Dec 2026`."""
    if not aside.state:
        return "no state chosen"
    until = f" until {_day(aside.until)}" if aside.until else ""
    agreed = f"agreed with {aside.agreed_with}{until}" if aside.agreed_with else "not agreed with anybody"
    return f"{aside.state}, {agreed}"


def _day(iso: str) -> str:
    return f"{date.fromisoformat(iso):%-d %b %Y}"


def notes(context: Context) -> Iterator[Note]:
    """What is not agreed, what was agreed for a time that is over, and live readings of what was left disconnected."""
    i = context.inspection
    named = names(i) if i.set_asides else {}
    for one in i.set_asides:
        entity = one.about_entity or ""
        if one.about_id not in named or entity not in _WHOLE:
            continue
        field = _WHOLE[entity]
        title = f"{named[one.about_id]}: {KINDS[entity].fields[field].label}"
        if not one.in_force:
            yield Note(entity, one.about_id, field, title, _not_agreed(one))
        elif one.until and i.inspected_on and one.until < i.inspected_on:
            yield Note(entity, one.about_id, field, title, _over(one, one.until))
    if not context.aside:
        return
    for _, circuit in context.circuits:
        yield from _read_since(context, "circuit", circuit, name_of(circuit))
    for _, name, point in context.points():
        yield from _read_since(context, "point", point, name)
    for rcd in (rcd for board in i.boards for rcd in board.rcds):
        yield from _read_since(context, "rcd", rcd, rcd.name or "RCD")


def _not_agreed(aside: SetAside) -> Verdict:
    lacks = "with whom that was agreed" if aside.state else "which it is: left disconnected, or out of scope"
    return Verdict(
        status="attention",
        reason=f"Set aside, and it is not recorded {lacks}: its tests are still asked for.",
        source=SOURCE,
        next_step="Record who agreed, or end it.",
    )


def _over(aside: SetAside, until: str) -> Verdict:
    return Verdict(
        status="attention",
        reason=f"{(aside.state or '').capitalize()} by agreement until {_day(until)}, before this inspection.",
        source=SOURCE,
        next_step="Agree it anew, or end it and inspect.",
    )


def _read_since(context: Context, kind: str, of: Circuit | Point | Rcd, name: str) -> Iterator[Note]:
    """A live reading of what was dead by then: it was reconnected, or the reading is another's. Nobody knows which."""
    by = context.aside.get(of.id)
    if by is None or not by.disconnected or not by.since:
        return
    for field in LIVE_READINGS[kind]:
        read_at = context.measured_at.get((of.id, field))
        if read_at is None or not is_measured(getattr(of, field)):
            continue
        if datetime.fromisoformat(read_at) <= datetime.fromisoformat(by.since):
            continue
        verdict = Verdict(
            status="attention",
            reason="Left disconnected, and read live after that: it was reconnected, or this is "
            f"another {_ANOTHER[kind]}’s.",
            source=SOURCE,
            next_step="End “left disconnected” and test it wholly, or clear the reading.",
            asks=True,
        )
        yield Note(kind, of.id, field, f"{name}: {KINDS[kind].fields[field].label}", verdict)


def asks_nothing(context: Context, notes: Iterable[Note]) -> Iterator[Note]:
    """The notes, without what only asks of a thing that is set aside. What was read there is judged as found."""
    for note in notes:
        if note.entity_id not in context.aside or note.verdict.source == SOURCE:
            yield note
        elif note.status != "unknown":
            yield replace(note, verdict=replace(note.verdict, asks=False)) if note.verdict.asks else note


def nothing_in_scope(context: Context) -> bool:
    """Are there circuits, and is every one of them set aside? Then nothing at all was tested."""
    return bool(context.circuits) and all(circuit.id in context.aside for _, circuit in context.circuits)
