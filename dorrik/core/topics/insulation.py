"""Insulation resistance of circuits and whole boards (rules 6.1 to 6.6, 10.2)."""

from collections.abc import Iterator

from dorrik.core import insulation
from dorrik.core.inspection import Board, Circuit
from dorrik.core.readings import Reading
from dorrik.core.record import record
from dorrik.core.topics.context import NOMINAL_V, Context, Note, name_of, spoken
from dorrik.core.verdict import Verdict

#: Fields of a circuit, the pairing each holds, and whether it is to earth.
PAIRINGS = (
    ("insulation_ln_mohm", "L–N", False),
    ("insulation_lne_mohm", "L+N–E", True),
    ("insulation_le_mohm", "L–E", True),
    ("insulation_ne_mohm", "N–E", True),
)


@record
class BoardSum:
    """The insulation of a whole board for one pairing, as its field is named."""

    board_id: str
    field: str
    combined: Reading
    verdict: Verdict
    culprits: tuple[str, ...]


def board_sums(context: Context) -> Iterator[BoardSum]:
    """One for each pairing that any circuit of a board was measured in."""
    for board in context.inspection.boards:
        for field, _, _ in PAIRINGS:
            readings = {
                name_of(circuit): reading
                for circuit in board.circuits
                if not circuit.spare and spoken(reading := getattr(circuit, field))
            }
            if not readings:
                continue
            verdict = insulation.judge_board(
                readings,
                NOMINAL_V,
                attention_mohm=context.house.insulation_attention_mohm,
                over_range_mohm=context.house.insulation_over_range_mohm,
            )
            yield BoardSum(board.id, field, verdict.combined, verdict, verdict.culprits)


def notes(context: Context) -> Iterator[Note]:
    """Notes on every reading, by board and pairing, and on boards measured as a whole."""
    for board in context.inspection.boards:
        for field, pairing, to_earth in PAIRINGS:
            measured = [(c, r) for c in board.circuits if not c.spare and spoken(r := getattr(c, field))]
            if not measured:
                continue
            middle = insulation.middle_mohm(reading for _, reading in measured)
            for circuit, reading in measured:
                verdict = _judge(context, reading, to_earth)
                if verdict.status == "pass":
                    verdict = insulation.stands_out(reading, middle) or verdict
                yield Note("circuit", circuit.id, field, f"{name_of(circuit)}: {pairing} {reading} MΩ", verdict)
        yield from _whole(context, board)
        for circuit in board.circuits:
            if circuit.insulation_leg_one_mohm is not None and not circuit.spare:
                yield from _legs(circuit)
            if circuit.insulation_test_v == "250" and not circuit.spare:
                verdict = insulation.REDUCED_VOLTAGE
                yield Note("circuit", circuit.id, "insulation_test_v", f"{name_of(circuit)}: test voltage", verdict)


def _judge(context: Context, reading: Reading, to_earth: bool) -> Verdict:
    return insulation.judge_circuit(
        reading,
        NOMINAL_V,
        to_earth=to_earth,
        attention_mohm=context.house.insulation_attention_mohm,
        over_range_mohm=context.house.insulation_over_range_mohm,
    )


def _whole(context: Context, board: Board) -> Iterator[Note]:
    """A board measured as one: the reading stands for every circuit in it (rule 6.3)."""
    for field, pairing, to_earth in PAIRINGS[:2]:
        reading: Reading | None = getattr(board, field)
        if reading is not None and spoken(reading):
            verdict = _judge(context, reading, to_earth)
            title = f"{board.name or 'Board'} as a whole: {pairing} {reading} MΩ"
            yield Note("board", board.id, field, title, verdict)


def _legs(circuit: Circuit) -> Iterator[Note]:
    one, two = circuit.insulation_leg_one_mohm, circuit.insulation_leg_two_mohm
    if one is None or two is None:
        return
    faulty = insulation.faulty_leg(one, two)
    if faulty is None:
        return
    lower, field = (one, "insulation_leg_one_mohm") if faulty == "first" else (two, "insulation_leg_two_mohm")
    verdict = Verdict(
        status="attention",
        reason=f"{one} and {two} MΩ: the fault lies in the {faulty} leg, {lower} MΩ.",
        source=f"{insulation.SOURCE} · rule 6.5",
        next_step="Halve that leg and measure again.",
    )
    yield Note("circuit", circuit.id, field, f"{name_of(circuit)}: legs of the ring", verdict)
