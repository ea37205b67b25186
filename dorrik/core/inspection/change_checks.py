"""What a change must satisfy, one named check after another, in this order; on the server as on a device.

Each check takes the inspection as it is kept and the change; it raises Refusal with a reason for the person at
the field. `kept_value` gives the value as it is kept.
"""

from collections.abc import Callable
from datetime import datetime
from typing import Any

from dorrik.core.basics.identifiers import is_id
from dorrik.core.basics.text import shown
from dorrik.core.inspection.change import Change, Refusal
from dorrik.core.inspection.field_spec import FieldError
from dorrik.core.inspection.kept_inspection import KeptInspection
from dorrik.core.inspection.kinds import KINDS

#: No honest home has more; a runaway device would.
MOST_ENTITIES = 5000
#: Kinds that can go from one parent to another: what hangs on a room, a board or a circuit, which may turn out to be
#: recorded twice.
MOVABLE = frozenset(("circuit", "point", "rcd", "isolation", "check", "earlier"))
#: Those of them that mean something else on a parent of another kind.
SAME_KIND_ONLY = frozenset(("check", "earlier"))


def well_formed(kept: KeptInspection, change: Change) -> None:
    """Ids are UUIDs in small letters, the device names itself."""
    for name, value in (("id", change.id), ("entity_id", change.entity_id)):
        if not is_id(value):
            raise Refusal(f"The change's {name} is not a UUID.")
    if not 1 <= len(change.device) <= 60:
        raise Refusal("The change does not name its device.")


def known_entity(kept: KeptInspection, change: Change) -> None:
    """The kind of entity exists."""
    if change.entity not in KINDS:
        raise Refusal(f"There is no entity called “{shown(change.entity[:40])}”.")


def known_field(kept: KeptInspection, change: Change) -> None:
    """The kind has the field."""
    kind = KINDS[change.entity]
    if change.field not in kind.fields and change.field not in kind.parents:
        raise Refusal(f"“{shown(change.field[:40])}” is not a field of {kind.name}.")


def read_with(kept: KeptInspection, change: Change) -> None:
    """The instrument that a reading names is one that was used here."""
    named = change.instrument_id
    entity = kept.entities.get(named) if named is not None else None
    if named is not None and (entity is None or entity.kind != "instrument_used"):
        raise Refusal("The reading names an instrument that is not among those used at this inspection.")


def read_by(kept: KeptInspection, change: Change) -> None:
    """Whoever took a reading for somebody is a trainee who is named at this inspection."""
    named = change.read_by
    attendance = kept.entities.get(named) if named is not None else None
    if named is not None and (
        attendance is None or attendance.kind != "attendance" or attendance.values.get("purpose") != "trainee"
    ):
        raise Refusal("The reading names somebody who is not a trainee at this inspection.")


def not_erased(kept: KeptInspection, change: Change) -> None:
    """The inspection was not erased: a device that was away does not bring back what is gone."""
    if kept.erased:
        raise Refusal("The data of this client were erased; this inspection takes no change any more.")


def belongs_here(kept: KeptInspection, change: Change) -> None:
    """The entity is part of this inspection, and of the kind that the change says."""
    entity = kept.entities.get(change.entity_id)
    if entity is not None and entity.kind != change.entity:
        raise Refusal(f"That id belongs to {_a(entity.kind)}, not to {_a(change.entity)}.")
    if entity is None and change.field not in KINDS[change.entity].parents:
        raise Refusal(f"This inspection has no such {change.entity}.")


def parent_stands(kept: KeptInspection, change: Change) -> None:
    """A new entity is put into something that is part of this inspection, and stays there."""
    kind = KINDS[change.entity]
    if change.field not in kind.parents:
        return
    entity = kept.entities.get(change.entity_id)
    if entity is not None and (entity.parent_id == change.value or kind.name not in MOVABLE):
        if entity.parent_id != change.value:
            raise Refusal(f"{_a(kind.name).capitalize()} cannot be moved to another {change.field}.")
        return
    parent = kept.entities.get(change.value) if isinstance(change.value, str) else None
    if kind.name == "inspection" or parent is None or parent.kind != change.field:
        raise Refusal(f"This inspection has no such {change.field}.")
    stands_in = kept.entities.get(entity.parent_id) if entity is not None else None
    if stands_in is not None and kind.name in SAME_KIND_ONLY and stands_in.kind != parent.kind:
        raise Refusal(f"{_a(kind.name).capitalize()} of a {stands_in.kind} cannot be moved to {_a(parent.kind)}.")
    if entity is None and len(kept.entities) >= MOST_ENTITIES:
        raise Refusal(f"An inspection holds at most {MOST_ENTITIES} entries.")


def no_ring_of_boards(kept: KeptInspection, change: Change) -> None:
    """No board is fed, over however many others, from itself."""
    if change.entity == "board" and change.field == "fed_by" and change.value:
        above = _board_of(kept, change.value)
        if above is None:
            raise Refusal("There is no such way to feed a board from.")
        _climb(kept, change.entity_id, above, "A board cannot be fed from itself, nor from a board that it feeds.")
    elif change.entity == "circuit" and change.field == "board" and change.entity_id in kept.entities:
        fed = [e.id for e in kept.entities.values() if e.kind == "board" and e.values.get("fed_by") == change.entity_id]
        for board_id in fed:
            _climb(kept, board_id, change.value, "This way feeds a board: it cannot be moved onto what it feeds.")


def _board_of(kept: KeptInspection, circuit_id: object) -> str | None:
    circuit = kept.entities.get(circuit_id) if isinstance(circuit_id, str) else None
    return circuit.parent_id if circuit is not None and circuit.kind == "circuit" else None


def _climb(kept: KeptInspection, board_id: str, above: str | None, why: str) -> None:
    """From the board above up to the origin; refused where that leads past `board_id`."""
    for _ in range(MOST_ENTITIES):
        if above is None:
            return
        if above == board_id:
            raise Refusal(why)
        board = kept.entities.get(above)
        above = _board_of(kept, board.values.get("fed_by")) if board is not None else None


def known_rcd(kept: KeptInspection, change: Change) -> None:
    """A circuit stands behind an RCD of this inspection."""
    if change.entity == "circuit" and change.field == "rcd_id" and change.value:
        rcd = kept.entities.get(change.value) if isinstance(change.value, str) else None
        if rcd is None or rcd.kind != "rcd":
            raise Refusal("This inspection has no such RCD.")


def known_room(kept: KeptInspection, change: Change) -> None:
    """A point hangs in a room of this inspection."""
    if (change.entity, change.field) == ("point", "room_id") and change.value:
        room = kept.entities.get(change.value) if isinstance(change.value, str) else None
        if room is None or room.kind != "room":
            raise Refusal("This inspection has no such room.")


Check = Callable[[KeptInspection, Change], None]

#: Asked of every change, also of one that was kept before, in this order.
FORM: tuple[Check, ...] = (well_formed, known_entity, known_field)
#: Asked of one that is new, in this order.
PLACE: tuple[Check, ...] = (
    not_erased,
    belongs_here,
    parent_stands,
    no_ring_of_boards,
    known_rcd,
    known_room,
    read_with,
    read_by,
)


def kept_value(change: Change, now: datetime) -> Any:
    """The value as it is kept. now: the moment beyond which dates lie ahead, universal time.

    Raises Refusal where the field cannot hold it.
    """
    kind = KINDS[change.entity]
    if change.field in kind.parents:
        return change.value
    try:
        return kind.fields[change.field].clean(change.value, now)
    except FieldError as error:
        raise Refusal(str(error)) from None


def _a(word: str) -> str:
    return f"an {word}" if word[0] in "aeiou" else f"a {word}"
