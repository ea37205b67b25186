"""Insulation resistance of circuits and whole boards (rules 6.1 to 6.6, 10.2)."""

from collections.abc import Iterator
from dataclasses import replace

from dorrik.core.basics.readings import Reading, at_least
from dorrik.core.basics.record import record
from dorrik.core.basics.verdict import Status, Verdict
from dorrik.core.electrical import insulation
from dorrik.core.inspection.circuit import SOME_OPEN, STEP_V
from dorrik.core.inspection.records import Board, Circuit
from dorrik.core.judging.topics.context import NOMINAL_V, Context, Note, is_measured, name_of
from dorrik.core.judging.topics.note import Figure

#: Fields of a circuit, the pairing each holds, and whether it is to earth.
PAIRINGS = (
    ("insulation_ln_mohm", "L–N", False),
    ("insulation_lne_mohm", "L+N–E", True),
    ("insulation_le_mohm", "L–E", True),
    ("insulation_ne_mohm", "N–E", True),
)
LINE_NEUTRAL, TO_EARTH = "insulation_ln_mohm", "insulation_lne_mohm"
_WORDS = {LINE_NEUTRAL: "L–N", TO_EARTH: "L+N–E"}


@record
class BoardSum:
    """The insulation of a whole board, line to neutral or live to earth, as its field is named.

    wanted: is it said of the board, or does every circuit have a reading to earth, so that L–N may be left out?
    missing: names of the circuits that are not in it; because_of: the figure of the circuit that spoils it; touches:
    ids of the circuits that do.
    """

    board_id: str
    field: str
    title: str
    combined: Reading
    verdict: Verdict
    culprits: tuple[str, ...]
    missing: tuple[str, ...] = ()
    because_of: Figure | None = None
    touches: tuple[str, ...] = ()
    wanted: bool = True


def board_sums(context: Context) -> Iterator[BoardSum]:
    """Live to earth for every board where a circuit was measured, line to neutral where any was."""
    over_range = context.house.insulation_over_range_mohm
    for board in context.inspection.boards:
        # What is left disconnected is no part of the board any more; its own reading is judged by itself.
        circuits = [c for c in board.circuits if not c.spare and not _is_off(context, c)]
        for field in (LINE_NEUTRAL, TO_EARTH):
            figures = {c.id: _in_the_sum(context, c, field, figure_of(c, field, over_range)) for c in circuits}
            if field == LINE_NEUTRAL:
                # A load that is still in says nothing of the insulation (rule 6.4).
                asked = {c.id for c in circuits if _asks_for_loads(c, over_range)}
                figures = {key: None if key in asked else figure for key, figure in figures.items()}
            readings = {name_of(c): r for c in circuits if (r := figures[c.id]) is not None and is_measured(r)}
            if not readings:
                continue
            missing = tuple(name_of(c) for c in circuits if _missing(c, field, figures[c.id]))
            verdict = insulation.judge_board(
                readings,
                NOMINAL_V,
                missing=missing,
                attention_mohm=context.house.insulation_attention_mohm,
                over_range_mohm=over_range,
            )
            left_out = field == LINE_NEUTRAL and missing and verdict.status != "fail"
            wanted = not (left_out and _earthed(circuits, figures, over_range))
            spoilt = [c for c in circuits if name_of(c) in verdict.culprits]
            because = _cause(context, spoilt[0], field) if len(spoilt) == 1 else None
            title = f"{board.name or 'Board'} as a whole, {_WORDS[field]}"
            touches = tuple(c.id for c in spoilt)
            yield BoardSum(
                board.id, field, title, verdict.combined, verdict, verdict.culprits, missing, because, touches, wanted
            )  # fmt: skip


def _is_off(context: Context, circuit: Circuit) -> bool:
    by = context.aside.get(circuit.id)
    return by is not None and by.disconnected


def _in_the_sum(context: Context, circuit: Circuit, field: str, figure: Reading | None) -> Reading | None:
    """What passes only as a step, or for a part of its circuit, is not in the sum; what fails so fails the board."""
    passes = at_least(figure, insulation.minimum_mohm(NOMINAL_V)) is True
    return None if passes and not_the_whole(context, circuit, field) is not None else figure


def _earthed(circuits: list[Circuit], figures: dict[str, Reading | None], over_range: float) -> bool:
    """Has every circuit without L–N a reading to earth? Then L–N may be left out (rule 6.3), and no sum is wanted."""
    left_out = [c for c in circuits if figures[c.id] is None and c.insulation_ln_mohm is None]
    return all(figure_of(c, TO_EARTH, over_range) is not None for c in left_out)


def figure_of(circuit: Circuit, field: str, over_range: float) -> Reading | None:
    """A circuit's insulation of that field, L–E and N–E put together where they were measured apart (rule 6.2)."""
    if field == LINE_NEUTRAL:
        return circuit.insulation_ln_mohm
    return insulation.to_earth(
        circuit.insulation_lne_mohm, circuit.insulation_le_mohm, circuit.insulation_ne_mohm, over_range
    )


def _missing(circuit: Circuit, field: str, figure: Reading | None) -> bool:
    """Is a circuit not in the sum? One that does not apply is left out with a reason; half a pairing is not in it."""
    written: Reading | None = getattr(circuit, field)
    if written is not None and written.kind == "not-applicable":
        return False
    if figure is None or not is_measured(figure):
        return True
    part_missing = circuit.insulation_le_mohm is None or circuit.insulation_ne_mohm is None
    return field == TO_EARTH and not is_measured(written) and part_missing


def _cause(context: Context, circuit: Circuit, field: str) -> Figure | None:
    """The circuit's own reading, where it fails by itself and so has said all."""
    for name, _, to_earth in PAIRINGS:
        reading: Reading | None = getattr(circuit, name)
        asked = to_earth == (field == TO_EARTH) and reading is not None and is_measured(reading)
        if asked and reading is not None:
            note: Note = context.cells.made(_of_reading, context, circuit, name)
            if note.verdict.status == "fail" and note.because_of is None:
                return (circuit.id, name)
    return None


def _earth_sound(circuit: Circuit, over_range: float) -> bool:
    """Are the circuit's live conductors to earth above the minimum by their reading?"""
    return at_least(figure_of(circuit, TO_EARTH, over_range), insulation.minimum_mohm(NOMINAL_V)) is True


def _asks_for_loads(circuit: Circuit, over_range: float) -> bool:
    return insulation.is_load_question(
        circuit.insulation_ln_mohm,
        earth_sound=_earth_sound(circuit, over_range),
        loads_removed=bool(circuit.loads_removed),
    )


def notes(context: Context) -> Iterator[Note]:
    """Notes on every reading, by board and pairing, and on boards measured as a whole."""
    for board in context.inspection.boards:
        failing: list[Figure] = []
        for field, _, to_earth in PAIRINGS:
            measured = [(c, r) for c in board.circuits if not c.spare and is_measured(r := getattr(c, field))]
            if not measured:
                continue
            middle = insulation.middle_mohm(reading for _, reading in measured)
            for circuit, reading in measured:
                note: Note = context.cells.made(_of_reading, context, circuit, field)
                if note.verdict.status == "pass":
                    doubt = not_the_whole(context, circuit, field) or insulation.stands_out(reading, middle)
                    note = replace(note, verdict=doubt) if doubt is not None else note
                if note.verdict.status == "fail" and to_earth:
                    failing.append((circuit.id, field))
                yield note
        yield from _whole(context, board, failing)
        for circuit in board.circuits:
            if circuit.insulation_leg_one_mohm is not None and not circuit.spare:
                yield from _legs(circuit)
            if circuit.insulation_test_v == "250" and not circuit.spare:
                verdict = insulation.REDUCED_VOLTAGE
                yield Note("circuit", circuit.id, "insulation_test_v", f"{name_of(circuit)}: test voltage", verdict)


def not_the_whole(context: Context, of: Circuit | Board, field: str) -> Verdict | None:
    """Why a reading that passes says less than it seems: read at a step's voltage, or with a part of it open."""
    if isinstance(of, Circuit) and of.insulation_test_v == STEP_V:
        return insulation.ONLY_A_STEP
    if of.insulation_switches == SOME_OPEN:
        return insulation.part_not_in_it(of.insulation_open_at)
    # L–N–E put together of L–E and N–E is of a part where one of them is.
    fields = (field, *APART) if field == TO_EARTH and getattr(of, TO_EARTH) is None else (field,)
    stood = next((context.open_parts[of.id, name] for name in fields if (of.id, name) in context.open_parts), None)
    return insulation.part_not_in_it(stood) if stood is not None else None


#: Live conductors to earth, each by itself.
APART = ("insulation_le_mohm", "insulation_ne_mohm")


def _of_reading(context: Context, circuit: Circuit, field: str) -> Note:
    """The note on one reading that was measured. L–E and N–E apart are one circuit's insulation to earth: their
    parallel value is judged, said once at the lower of the two, and the other follows from it (rule 6.2)."""
    reading: Reading = getattr(circuit, field)
    pairing, to_earth = next((words, to_earth) for name, words, to_earth in PAIRINGS if name == field)
    title = f"{name_of(circuit)}: {pairing} {reading} MΩ"
    if not to_earth:
        return Note("circuit", circuit.id, field, title, _judge_between_lines(context, circuit, reading))
    verdict = _judge(context, reading, to_earth)
    if field in APART and all(is_measured(getattr(circuit, name)) for name in APART):
        together = insulation.combine(
            [getattr(circuit, name) for name in APART], context.house.insulation_over_range_mohm
        )
        whole = _judge(context, together, to_earth)
        lower = min(APART, key=lambda name: _low(getattr(circuit, name), context.house.insulation_over_range_mohm))
        if whole.status in ("fail", "attention") and field == lower:
            le, ne = circuit.insulation_le_mohm, circuit.insulation_ne_mohm
            sentence = f"L–E {le} and N–E {ne} MΩ are {together} MΩ together. "
            return Note("circuit", circuit.id, field, title, replace(whole, reason=sentence + whole.reason))
        if whole.status in ("fail", "attention") and verdict.status in ("fail", "attention"):
            return Note("circuit", circuit.id, field, title, verdict, because_of=(circuit.id, lower))
        return Note("circuit", circuit.id, field, title, verdict)
    own = next((n for n in (TO_EARTH, *APART) if n != field and _fails(context, getattr(circuit, n))), None)
    because = (circuit.id, own) if own is not None and field in APART and verdict.status == "fail" else None
    return Note("circuit", circuit.id, field, title, verdict, because_of=because)


def judge_alone(context: Context, circuit: Circuit, reading: Reading, *, to_earth: bool) -> Status:
    """How one circuit stands by itself in a pairing, live to earth together or line to neutral."""
    if to_earth:
        return _judge(context, reading, True).status
    return _judge_between_lines(context, circuit, reading).status


def _judge_between_lines(context: Context, circuit: Circuit, reading: Reading) -> Verdict:
    over_range = context.house.insulation_over_range_mohm
    return insulation.judge_circuit(
        reading,
        NOMINAL_V,
        to_earth=False,
        attention_mohm=context.house.insulation_attention_mohm,
        over_range_mohm=over_range,
        earth_sound=_earth_sound(circuit, over_range),
        loads_removed=bool(circuit.loads_removed),
    )


def _judge(context: Context, reading: Reading, to_earth: bool) -> Verdict:
    return insulation.judge_circuit(
        reading,
        NOMINAL_V,
        to_earth=to_earth,
        attention_mohm=context.house.insulation_attention_mohm,
        over_range_mohm=context.house.insulation_over_range_mohm,
    )


def _low(reading: Reading, over_range: float) -> float:
    return over_range if reading.interval is None or reading.kind == "over-range" else reading.interval[0]


def _fails(context: Context, reading: Reading | None) -> bool:
    return reading is not None and is_measured(reading) and _judge(context, reading, True).status == "fail"


def _whole(context: Context, board: Board, failing: list[Figure]) -> Iterator[Note]:
    """A board measured as one: the reading stands for every circuit in it, and beside their sum (rules 6.2, 6.3)."""
    over_range = context.house.insulation_over_range_mohm
    circuits = [c for c in board.circuits if not c.spare]
    for field, pairing, to_earth in PAIRINGS[:2]:
        reading: Reading | None = getattr(board, field)
        if reading is None or not is_measured(reading):
            continue
        verdict = _judge(context, reading, to_earth)
        if verdict.status == "pass":
            verdict = not_the_whole(context, board, field) or verdict
        title = f"{board.name or 'Board'} as a whole: {pairing} {reading} MΩ"
        because = failing[0] if failing and to_earth and verdict.status == "fail" else None
        yield Note("board", board.id, field, title, verdict, because_of=because)
        each = [f for c in circuits if (f := figure_of(c, field, over_range)) is not None and is_measured(f)]
        if len(each) == len(circuits) and each:
            beside = insulation.judge_beside_sum(reading, insulation.combine(each, over_range))
            if beside is not None:
                title, own = f"{board.name or 'Board'}: whole beside sum", (board.id, field)
                yield Note(
                    "board", board.id, field, title, beside, because_of=own if verdict.status == "fail" else None
                )  # fmt: skip


def _legs(circuit: Circuit) -> Iterator[Note]:
    reading, two = circuit.insulation_leg_one_mohm, circuit.insulation_leg_two_mohm
    if reading is None or two is None:
        return
    faulty = insulation.faulty_leg(reading, two)
    if faulty is None:
        return
    lower, field = (reading, "insulation_leg_one_mohm") if faulty == "first" else (two, "insulation_leg_two_mohm")
    verdict = Verdict(
        status="attention",
        reason=f"{reading} and {two} MΩ: the fault lies in the {faulty} leg, {lower} MΩ.",
        source=f"{insulation.SOURCE} · rule 6.5",
        next_step="Isolate and prove dead. Halve that leg and test again.",
    )
    yield Note("circuit", circuit.id, field, f"{name_of(circuit)}: legs of the ring", verdict)
