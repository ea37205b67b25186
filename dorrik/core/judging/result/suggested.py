"""Observations that the verdicts would raise, each once for its cause, coded in its context (rules 13.1, 13.2)."""

from collections.abc import Iterable, Sequence

from dorrik.core.basics.record import record
from dorrik.core.basics.verdict import Verdict
from dorrik.core.book.catalogue import entries
from dorrik.core.book.codes import WEIGHT
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.result import classification
from dorrik.core.judging.topics import facts
from dorrik.core.judging.topics.context import Context, Note
from dorrik.core.judging.topics.insulation_of_boards import BoardSum


@record(kw_only=True)
class Suggestion:
    """An observation that could be raised.

    key: catalogue entry; title: its title; code, why: where the house's school starts, and why; moved: what moved the
    code from there, '' for nothing; questions: what else would, asked in one tap; entity, entity_id: what it speaks of;
    touches: ids of all the things it is about; because: the notes that lead to it; recorded: id of an observation that
    says it already, or None; declined: why the inspector does not raise it, '' where nobody said so.
    """

    key: str
    title: str
    code: str
    why: str
    moved: str
    questions: tuple[classification.Question, ...]
    entity: str
    entity_id: str
    touches: tuple[str, ...]
    because: tuple[str, ...]
    recorded: str | None
    declined: str = ""

    @property
    def settled(self) -> bool:
        """Has somebody decided over it, one way or the other?"""
        return self.recorded is not None or bool(self.declined)


@record
class _Cause:
    """What leads to one suggestion."""

    key: str
    entity: str
    entity_id: str
    touches: tuple[str, ...]
    because: tuple[str, ...]


def suggest(context: Context, notes: Iterable[Note], sums: Iterable[BoardSum]) -> tuple[Suggestion, ...]:
    """Suggestions in the order of the notes. What is folded, or was overruled to a pass, raises nothing."""
    return tuple(context.cells.made(_suggestion, context, cause) for cause in _causes(notes, sums))


def _suggestion(context: Context, cause: _Cause) -> Suggestion:
    school = classification.SCHOOLS[context.house.coding_school]
    places: Places = context.cells.made(Places, context.inspection)
    place = places.of(cause)
    view = classification.place(cause.key, school, lambda fact: facts.known(context, place, fact))
    return Suggestion(
        key=cause.key,
        title=entries()[cause.key].title,
        code=view.code,
        why=view.reason,
        moved=view.moved,
        questions=view.questions,
        entity=cause.entity,
        entity_id=cause.entity_id,
        touches=cause.touches,
        because=cause.because,
        recorded=places.recorded(cause),
        declined=_declined(context.inspection, cause, view.code),
    )


def _declined(inspection: Inspection, cause: _Cause, code: str) -> str:
    """Why a suggestion was dismissed; without a reason it was not, nor where it is more serious by now."""
    return next(
        (
            declined.reason
            for declined in inspection.declined
            if declined.reason
            and (declined.catalogue_key, declined.about_id) == (cause.key, cause.entity_id)
            and (declined.code is None or WEIGHT[code] <= WEIGHT[declined.code])
        ),
        "",
    )


def _causes(notes: Iterable[Note], sums: Iterable[BoardSum]) -> Sequence[_Cause]:
    """Root notes by entry and place, and boards whose sum fails without a circuit that fails by itself."""
    causes: dict[tuple[str, str], _Cause] = {}
    for note in notes:
        key = note.verdict.observation
        if not key or not note.pressing:
            continue
        text = _said(note.title, note.verdict)
        place = (key, "" if key in _ONCE else note.entity_id)
        before = causes.get(place)
        touches = note.touches or (note.entity_id,)
        if before is None:
            causes[place] = _Cause(key, note.entity, note.entity_id, touches, (text,))
        else:
            both = tuple(dict.fromkeys((*before.touches, *touches)))
            causes[place] = _Cause(key, note.entity, note.entity_id, both, (*before.because, text))
    for board_sum in sums:
        key = board_sum.verdict.observation
        covered = board_sum.because_of is not None or any(
            (key or "", touched) in causes for touched in board_sum.touches
        )
        if key and not covered and (key, board_sum.board_id) not in causes:
            touches = board_sum.touches or (board_sum.board_id,)
            causes[(key, board_sum.board_id)] = _Cause(
                key, "board", board_sum.board_id, touches, (_said(board_sum.title, board_sum.verdict),)
            )
    return tuple(causes.values())


#: What is of one age and one hand is one finding, however many things it is about: conductors of the sizes of then.
_ONCE = frozenset(("bond-undersized",))


class Places:
    """What stands where in an inspection: parents of everything, and what was recorded about what."""

    def __init__(self, inspection: Inspection) -> None:
        self._inspection = inspection
        self._boards = {board.id: board for board in inspection.boards}
        self._circuits = {c.id: (b, c) for b in inspection.boards for c in b.circuits}
        self._points = {p.id: (b, c, p) for b in inspection.boards for c in b.circuits for p in c.points}
        self._loose = {p.id: p for p in inspection.points}
        self._rooms = {room.id: room for room in inspection.rooms}
        self._bonds = {bond.id: bond for bond in inspection.bonds}
        self._room_of = {check.id: room for room in inspection.rooms for check in room.checks}
        self._parents: dict[str, tuple[str, ...]] = {}
        for board in inspection.boards:
            self._parents[board.id] = (board.id,)
            children = [c.id for c in board.checks] + [r.id for r in board.rcds] + [i.id for i in board.isolations]
            self._parents |= {child: (child, board.id) for child in children}
            for circuit in board.circuits:
                self._parents[circuit.id] = (circuit.id, board.id)
                for point in circuit.points:
                    self._parents[point.id] = (point.id, circuit.id, board.id)
        for room in inspection.rooms:
            self._parents[room.id] = (room.id,)
            self._parents |= {check.id: (check.id, room.id) for check in room.checks}
        for point in inspection.points:
            self._parents[point.id] = (point.id,)
        self._parents |= {check.id: (check.id, inspection.id) for check in inspection.checks}
        # What is about the origin is often written while nothing is in focus: the inspection covers it.
        self._parents |= {bond.id: (bond.id, inspection.id) for bond in inspection.bonds}
        self._parents[inspection.id] = (inspection.id,)

    def of(self, cause: _Cause) -> facts.FactPlace:
        """Board, circuit, point and room, and the circuits touched."""
        return self.at(cause.entity_id, cause.touches)

    def at(self, entity_id: str, touches: Sequence[str] = ()) -> facts.FactPlace:
        """The same of any thing of the inspection."""
        board, circuit, point = self._boards.get(entity_id), None, self._loose.get(entity_id)
        if entity_id in self._circuits:
            board, circuit = self._circuits[entity_id]
        elif entity_id in self._points:
            board, circuit, point = self._points[entity_id]
        elif board is None and point is None:
            above = self._parents.get(entity_id, ())
            board = self._boards.get(above[-1]) if above else None
        room = self._rooms.get((point.room_id or "") if point is not None else entity_id) or self._room_of.get(
            entity_id
        )
        touched = [self._circuits[touch] for touch in touches if touch in self._circuits]
        if not touched and circuit is not None and board is not None:
            touched = [(board, circuit)]
        about = dict.fromkeys((entity_id, *touches))
        points = tuple(
            self._points[observation][2] if observation in self._points else self._loose[observation]
            for observation in about
            if observation in self._points or observation in self._loose
        )
        bonds = tuple(self._bonds[observation] for observation in about if observation in self._bonds)
        return facts.FactPlace(board, circuit, point, tuple(touched), room, points, bonds)

    def recorded(self, cause: _Cause) -> str | None:
        """The observation that says it already: on the thing itself, on its check, its circuit or its board."""
        family = entries()[cause.key].family
        same = [
            o for o in self._inspection.observations if o.catalogue_key and _same(o.catalogue_key, cause.key, family)
        ]
        if not same:
            return None
        own = self._parents.get(cause.entity_id, (cause.entity_id,))
        for observation in same:
            if observation.about_id in own or (
                observation.about_id is None and cause.entity in ("inspection", "bond", "board", "check")
            ):
                return observation.id
        by_place = {observation.about_id: observation.id for observation in same}
        if family == _PIECE_BY_PIECE:
            matching = [
                next((by_place[place] for place in self._parents.get(touch, (touch,)) if place in by_place), None)
                for touch in cause.touches
            ]
            return matching[0] if matching and all(matching) else None
        # One cause at several things: on record at one of them it is on record.
        return next((by_place[touch] for touch in cause.touches if touch in by_place), None)


#: Of this family each circuit can be on record by itself, and what is not yet is still offered.
_PIECE_BY_PIECE = "rcd-missing"


def _same(recorded: str, key: str, family: str) -> bool:
    if recorded == key:
        return True
    entry = entries().get(recorded)
    return bool(family) and entry is not None and entry.family == family


def _said(title: str, verdict: Verdict) -> str:
    return f"{title}: {verdict.reason}"
