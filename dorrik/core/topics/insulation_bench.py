"""A board's insulation as it adds up: what each circuit takes of it, what to open first, the usual causes in the order
to check, and what the client is told (rules 6.2 to 6.6)."""

from collections.abc import Iterator

from dorrik.core import insulation
from dorrik.core.inspection import Board, Circuit
from dorrik.core.readings import Reading
from dorrik.core.record import record
from dorrik.core.topics.context import NOMINAL_V, Context, is_measured, name_of
from dorrik.core.topics.insulation import TO_EARTH, BoardSum, figure_of

#: What to look for before damage is spoken of, in this order: to earth, and between line and neutral (rule 6.4).
CAUSES = (
    "equipment still plugged in, or a fixed load not isolated",
    "a surge device still in its place",
    "lamps, neons, electronic switches and dimmers between line and neutral",
    "a hidden switch that feeds a load",
    "damp: outdoor fittings, a cooker, an immersion heater, a shower",
    "a neutral that touches earth behind an accessory",
    "then the cable: open the circuit in halves",
)


@record
class InsulationRow:
    """A circuit: its insulation to earth as read, as a number for its bar (MΩ, the lower end of a bound), the part of
    the board's leakage that goes through it (0 to 1); low: is it under the minimum by itself?; apart: does it stand
    out among its neighbours?; first: is it to be opened first?"""

    circuit_id: str
    name: str
    text: str
    mohm: float | None
    part: float
    low: bool
    apart: bool
    first: bool


@record
class InsulationBench:
    """A board: the value of everything measured so far, as text (MΩ), with minimum and the firm's own level; without:
    what it would be with the circuits that spoil it open, '' where none does; missing: names of those not measured;
    says: the verdict in a sentence; client: what to renew and what to keep, for whoever pays."""

    board_id: str
    combined: str
    minimum_mohm: float
    attention_mohm: float
    status: str
    says: str
    without: str
    rows: tuple[InsulationRow, ...]
    missing: tuple[str, ...]
    causes: tuple[str, ...]
    client: str


def benches(context: Context, sums: tuple[BoardSum, ...]) -> Iterator[InsulationBench]:
    """One for each board where a circuit's insulation to earth was measured."""
    for board in context.inspection.boards:
        whole = next((one for one in sums if one.board_id == board.id and one.field == TO_EARTH), None)
        if whole is not None:
            yield _bench(context, board, whole)


def _bench(context: Context, board: Board, whole: BoardSum) -> InsulationBench:
    over_range = context.house.insulation_over_range_mohm
    circuits = [c for c in board.circuits if not c.spare]
    figures = {c.id: figure for c in circuits if is_measured(figure := figure_of(c, TO_EARTH, over_range))}
    known = {key: reading for key, reading in figures.items() if reading is not None}
    middle = insulation.middle_mohm(known.values())
    leak = {key: 1 / low for key, reading in known.items() if (low := _low(reading, over_range))}
    total = sum(leak.values())
    rows = tuple(
        _row(c, known[c.id], leak.get(c.id, 0.0) / total if total else 0.0, middle, over_range, whole)
        for c in circuits
        if c.id in known
    )
    others = [known[row.circuit_id] for row in rows if not row.first]
    spoilt = any(row.first for row in rows)
    return InsulationBench(
        board_id=board.id,
        combined=whole.combined.text,
        minimum_mohm=insulation.minimum_mohm(NOMINAL_V),
        attention_mohm=context.house.insulation_attention_mohm,
        status=whole.verdict.status,
        says=whole.verdict.reason,
        without=insulation.combine(others, over_range).text if spoilt and others else "",
        rows=rows,
        missing=whole.missing,
        causes=CAUSES if any(row.low or row.apart for row in rows) else (),
        client=_for_client(rows, whole),
    )


def _row(
    circuit: Circuit, reading: Reading, part: float, middle: float | None, over_range: float, whole: BoardSum
) -> InsulationRow:
    low = _low(reading, over_range)
    alone = insulation.judge_circuit(reading, NOMINAL_V, to_earth=True, over_range_mohm=over_range)
    return InsulationRow(
        circuit_id=circuit.id,
        name=name_of(circuit),
        text=reading.text,
        mohm=low,
        part=part,
        low=alone.status == "fail",
        apart=insulation.stands_out(reading, middle) is not None,
        first=name_of(circuit) in whole.culprits,
    )


def _low(reading: Reading, over_range: float) -> float | None:
    if reading.kind == "over-range":
        return over_range
    return reading.interval[0] if reading.interval is not None else None


def _for_client(rows: tuple[InsulationRow, ...], whole: BoardSum) -> str:
    """Which circuits to renew, which to keep; nothing is called sound that was not measured."""
    renew = [row for row in rows if row.low or row.first]
    # Of what was read as a step, or for a part of it, nothing good is said.
    rows = tuple(row for row in rows if row in renew or row.name not in whole.missing)
    watch = [row for row in rows if row.apart and row not in renew]
    keep = [row for row in rows if row not in renew and row not in watch]
    said = []
    if renew:
        named = ", ".join(f"{row.name} ({row.text} MΩ)" for row in renew)
        said.append(f"The wiring of {named} no longer keeps current in as it should: find the fault, or renew it.")
    if watch:
        named = ", ".join(f"{row.name} ({row.text} MΩ)" for row in watch)
        said.append(f"{named} still passes but is far below its neighbours: it is the next to renew.")
    if keep:
        every = not renew and not watch and not whole.missing
        lead = f"All {len(keep)} circuits are" if every and len(keep) > 1 else f"{_count(len(keep))} sound"
        said.append(f"{lead} sound and can stay." if every and len(keep) > 1 else f"{lead} and can stay.")
    if whole.missing:
        of = "it" if len(whole.missing) == 1 else "them"
        said.append(f"{_count(len(whole.missing), 'was', 'were')} not measured whole, and nothing is said of {of}.")
    return " ".join(said)


def _count(number: int, one: str = "is", several: str = "are") -> str:
    return f"{number} circuit {one}" if number == 1 else f"{number} circuits {several}"
