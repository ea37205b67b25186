"""Repairs of one's own: which tests the work undoes, as found and as left side by side, and what is still missing.

A repair counts once everything that it undid was tested again and holds. Its observation counts as put right then, and
not before, whatever was written (rule 13.5).
"""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import replace
from typing import Any

from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.book.works import Work, works
from dorrik.core.home.placing import all_points
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.inspection.records import Board, Circuit, Inspection, Observation, Point, Repair
from dorrik.core.judging.coverage.progress import dead_fields, live_fields, rcd_fields
from dorrik.core.judging.coverage.walking_order import names
from dorrik.core.judging.topics.context import Context, Note

_INSULATION = "insulation_"
#: What is marked on a part, by the word for it.
_MARKS: Mapping[str, tuple[str, ...]] = {
    "circuit:device": ("device_standard", "device_type", "device_rating_a"),
    "circuit:rcd": ("rcd_standard", "rcd_rated_ma", "rcd_kind"),
    "circuit:cable": ("line_csa_mm2", "cpc_csa_mm2"),
    "rcd:marks": ("standard", "kind", "rated_ma", "rating_a"),
}
#: Readings of a point that are taken again where they had been taken.
_OF_A_POINT = (
    *("line_neutral_ohm", "line_cpc_ohm", "r2_ohm", "gang_line_neutral_ohm", "gang_line_cpc_ohm", "gang_r2_ohm"),
    *("zs_ohm", "gang_zs_ohm", "line_neutral_v", "line_earth_v", "neutral_earth_v", "centre_contact", "functional"),
)
_WORST: tuple[str, ...] = ("fail", "unknown", "attention", "pass")


@record(kw_only=True)
class Retest:
    """A figure that the work undoes. found: as it stood before; left: as it reads since, '' while it is to be tested
    again; status: how that is judged, '' where no verdict speaks of it."""

    entity: str
    entity_id: str
    field: str
    label: str
    unit: str
    found: str
    left: str
    status: str


@record(kw_only=True)
class ThenNow:
    """What is marked on the part: then and now."""

    entity: str
    entity_id: str
    field: str
    label: str
    then: str
    now: str


@record(kw_only=True)
class RepairView:
    """A repair as it stands.

    where: what it is of; label: the kind of work; begun: are the figures from before kept, so that the fields take
    those after?; lacks: what is missing before it counts, in words; failing: what was tested again and does not hold;
    complete: nothing is missing and nothing fails; code: of its observation; certificate: its number, '' before.
    """

    id: str
    observation_id: str
    where: str
    work: str
    label: str
    begun: bool
    tests: tuple[Retest, ...]
    marks: tuple[ThenNow, ...]
    lacks: tuple[str, ...]
    failing: tuple[str, ...]
    complete: bool
    code: str
    certificate: str
    gone: bool


def repairs(context: Context, notes: Sequence[Note]) -> tuple[RepairView, ...]:
    """Every repair, as it stands by these notes."""
    i = context.entered
    if not i.repairs:
        return ()
    things = _Things(context)
    worst = _worst(notes)
    named = names(context.inspection)
    observations = {observation.id: observation for observation in i.observations}
    return tuple(
        _view(repair, things, worst, named, observations.get(repair.observation_id or "")) for repair in i.repairs
    )


def _worst(notes: Iterable[Note]) -> dict[tuple[str, str], str]:
    """The worst verdict on each figure. What only follows from another fails all the same: the retest does not hold."""
    worst_code: dict[tuple[str, str], str] = {}
    for note in notes:
        before = worst_code.get(note.figure)
        if before is None or _WORST.index(note.status) < _WORST.index(before):
            worst_code[note.figure] = note.status
    return worst_code


class _Things:
    """Everything that work can be done to, by its id, and what belongs to it."""

    def __init__(self, context: Context) -> None:
        i = context.entered
        self.house = context.house
        self.kinds: dict[str, tuple[str, Any]] = {i.id: ("inspection", i)}
        self.board_of: dict[str, Board] = {}
        self.circuit_of: dict[str, Circuit] = {}
        for board in i.boards:
            self._put("board", [board], board)
            self._put("rcd", board.rcds, board)
            self._put("circuit", board.circuits, board)
            for circuit in board.circuits:
                self.circuit_of |= {point.id: circuit for point in circuit.points}
        self._put("point", all_points(i))
        self._put("room", i.rooms)
        self._put("bond", i.bonds)

    def _put(self, kind: str, things: Iterable[Any], board: Board | None = None) -> None:
        for thing in things:
            self.kinds[thing.id] = (kind, thing)
            if board is not None:
                self.board_of[thing.id] = board

    def of(self, repair: Repair) -> dict[str, Any]:
        """What a repair is of, by its kind: a point with its circuit."""
        kind, thing = self.kinds.get(repair.about_id or "", ("", None))
        if thing is None:
            return {}
        fields = {kind: thing}
        if isinstance(thing, Point) and thing.id in self.circuit_of:
            fields["circuit"] = self.circuit_of[thing.id]
        return fields

    def fields(self, word: str, thing: Any) -> tuple[str, ...]:
        """Fields that a word of the table stands for."""
        kind, _, what = word.partition(":")
        if what == "measured":
            return tuple(field for field in _OF_A_POINT if getattr(thing, field) is not None)
        if kind == "rcd" and what == "tests":
            return rcd_fields(thing, self.house)
        if kind != "circuit":
            return (what,)
        board = self.board_of.get(thing.id)
        dead, live = dead_fields(thing, self.house, board), live_fields(thing, self.house, board)
        match what:
            case "continuity":
                return tuple(f for f in dead if not f.startswith(_INSULATION) and f != "polarity")
            case "insulation":
                # A board measured as one stands for its circuits, and for none that was worked on since.
                return tuple(f for f in dead if f.startswith(_INSULATION)) or ("insulation_lne_mohm",)
            case "rcd":
                return tuple(f for f in live if f.startswith("rcd_") or f == "afdd_button")
        return (what,) if what in (*dead, *live) else ()


def _view(
    repair: Repair, things: _Things, worst: Mapping[tuple[str, str], str], named: Mapping[str, str],
    observation: Observation | None,
) -> RepairView:  # fmt: skip
    work = works().get(repair.work or "")
    of = things.of(repair)
    tests = tuple(_retests(repair, work, things, of, worst))
    begun = repair.begun_at is not None
    failing = tuple(
        f"{retest.label} {retest.left}" for retest in tests if begun and retest.left and retest.status == "fail"
    )
    lacks = tuple(_lacks(repair, work, tests, gone=not of))
    return RepairView(
        id=repair.id,
        observation_id=repair.observation_id or "",
        where=named.get(repair.about_id or "") or repair.place or "No longer in this inspection",
        work=repair.work or "",
        label=work.label if work is not None else "",
        begun=begun,
        tests=tests,
        marks=tuple(_marks(repair, work, of)),
        lacks=lacks,
        failing=failing,
        complete=begun and not lacks and not failing,
        code=(observation.code or "") if observation is not None else "",
        certificate=repair.certificate or "",
        gone=not of,
    )


def _retests(
    repair: Repair, work: Work | None, things: _Things, of: Mapping[str, Any],
    worst: Mapping[tuple[str, str], str],
) -> Iterator[Retest]:  # fmt: skip
    before = {(as_found.about_id, as_found.field): as_found for as_found in repair.as_founds}
    begun = repair.begun_at is not None
    marks = {(then_now.entity_id, then_now.field) for then_now in _marks(repair, work, of)}
    wanted: dict[tuple[str, str, str], None] = {}
    for word in work.asks if work is not None else ():
        kind = word.partition(":")[0]
        if kind in of:
            wanted |= dict.fromkeys((kind, of[kind].id, field) for field in things.fields(word, of[kind]))
    # What was kept as found is tested again, whatever the work is called since.
    for as_found in repair.as_founds:
        if (
            as_found.about_entity
            and as_found.about_id
            and as_found.field
            and (as_found.about_id, as_found.field) not in marks
        ):
            wanted.setdefault((as_found.about_entity, as_found.about_id, as_found.field))
    for kind, key, field in wanted:
        found_as, thing = things.kinds.get(key, ("", None))
        spec = KINDS[kind].fields.get(field)
        # A document may call a thing what it is not: then nothing of that kind is there.
        if thing is None or spec is None or found_as != kind:
            continue
        now, then = _written(getattr(thing, field)), before.get((key, field))
        yield Retest(
            entity=kind,
            entity_id=key,
            field=field,
            label=spec.label,
            unit=spec.unit,
            found=(then.value or "") if then is not None else "" if begun else now,
            left=now if begun else "",
            status=worst.get((key, field), "") if begun and now else "",
        )


def _marks(repair: Repair, work: Work | None, of: Mapping[str, Any]) -> Iterator[ThenNow]:
    before = {(as_found.about_id, as_found.field): as_found.value or "" for as_found in repair.as_founds}
    for word in work.keeps if work is not None else ():
        kind, _, what = word.partition(":")
        if kind not in of:
            continue
        for field in _MARKS.get(word, (what,)):
            now, key = _written(getattr(of[kind], field)), of[kind].id
            spec = KINDS[kind].fields[field]
            yield ThenNow(
                entity=kind, entity_id=key, field=field, label=spec.label, then=before.get((key, field), now), now=now
            )


def _written(value: Any) -> str:
    if value is None:
        return ""
    if isinstance(value, Reading):
        return value.text
    return f"{value:g}" if isinstance(value, float) else str(value)


def is_retested(left: str) -> bool:
    """Is it a result? A limitation, or a test that does not apply, proves no repair."""
    return bool(left) and left != "N/V" and not left.startswith(("LIM", "N/A"))


def _lacks(repair: Repair, work: Work | None, tests: Sequence[Retest], *, gone: bool) -> Iterator[str]:
    if gone:
        yield "what it was of is no longer in this inspection"
    if work is None:
        yield "the kind of work"
    if repair.begun_at is None:
        yield "the figures as found"
        return
    if not repair.done:
        yield "what was done"
    if not tests and not repair.as_left:
        yield "how it was left"
    for retest in tests:
        if not is_retested(retest.left):
            yield f"{retest.label} again"
        elif retest.status == "unknown":
            yield f"{retest.label}: not judged yet"
        elif retest.left == "incorrect":
            yield f"{retest.label}: still not correct"


def settled(inspection: Inspection, views: Sequence[RepairView]) -> Inspection:
    """The inspection with its observations put right, or not, as their repairs say."""
    if not views:
        return inspection
    of: dict[str, list[RepairView]] = {}
    for view in views:
        of.setdefault(view.observation_id, []).append(view)
    repairs_by_id = {repair.id: repair for repair in inspection.repairs}

    def settle(observation: Observation) -> Observation:
        views = of.get(observation.id)
        if not views:
            return observation
        done = all(view.complete for view in views)
        left = "; ".join(dict.fromkeys(words for view in views if (words := _as_left(repairs_by_id[view.id], view))))
        retests = "; ".join(
            f"{test.label} {test.left}{f' {test.unit}' if test.unit else ''}" for view in views for test in view.tests
        )
        return replace(
            observation,
            mended=True,
            as_left=left or observation.as_left,
            retest=(retests or "looked at") if done else None,
        )

    return replace(inspection, observations=tuple(map(settle, inspection.observations)))


def _as_left(repair: Repair, view: RepairView) -> str:
    return ", ".join(part for part in (repair.as_left or repair.done or view.label, repair.parts) if part)
