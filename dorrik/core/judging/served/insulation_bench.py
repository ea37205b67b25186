"""A board's insulation as it adds up: what each circuit takes of it, what to open first, the usual causes in the order
to check, and what the client is told (rules 6.2 to 6.6)."""

from collections.abc import Iterator
from math import fsum

from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.basics.verdict import Status
from dorrik.core.electrical import insulation
from dorrik.core.inspection.records import Board, Circuit
from dorrik.core.judging.topics.context import NOMINAL_V, Context, is_measured, name_of
from dorrik.core.judging.topics.insulation_of_boards import (
    APART,
    LINE_NEUTRAL,
    PAIRINGS,
    TO_EARTH,
    BoardSum,
    figure_of,
    judge_alone,
    not_the_whole,
)

#: What to look for before damage is spoken of, in this order: to earth, and between line and neutral (rule 6.4).
CAUSES = (
    "equipment still plugged in, or a fixed load not isolated",
    "an SPD still connected",
    "lamps, neons, electronic switches and dimmers between line and neutral",
    "a hidden switch that feeds a load",
    "damp: outdoor fittings, a cooker, an immersion heater, a shower",
    "a neutral that touches earth behind an accessory",
    "then the cable: open the circuit in halves",
)


@record
class InsulationRow:
    """A circuit: its insulation in this pairing as read, as a number for its bar (MΩ, the lower end of a bound), the
    part of the board's leakage that goes through it (0 to 1); low: is it under the minimum by itself?; apart: does it
    stand out among its neighbours?; first: is it to be opened first?; parts: L–E and N–E as they were read apart, ''
    where they were not; parts_apart: which of them stand out among those of the neighbours."""

    circuit_id: str
    name: str
    text: str
    mohm: float | None
    part: float
    low: bool
    apart: bool
    first: bool
    parts: str = ""
    parts_apart: tuple[str, ...] = ()


@record
class InsulationBench:
    """A board in one pairing, named by its field: the value of everything measured so far, as text (MΩ), with minimum
    and the firm's own level; without: what it would be with the circuits that spoil it open, '' where none does;
    missing: names of those not measured; says: the verdict in a sentence; client: what to renew and what to keep, for
    whoever pays, said with the pairing to earth alone."""

    board_id: str
    field: str
    pairing: str
    combined: str
    minimum_mohm: float
    attention_mohm: float
    status: Status
    says: str
    without: str
    rows: tuple[InsulationRow, ...]
    missing: tuple[str, ...]
    causes: tuple[str, ...]
    client: str


def benches(context: Context, sums: tuple[BoardSum, ...]) -> Iterator[InsulationBench]:
    """One for each board and pairing in which a circuit was measured, to earth first."""
    by_board = {(total.board_id, total.field): total for total in sums}
    for board in context.inspection.boards:
        for field in (TO_EARTH, LINE_NEUTRAL):
            whole = by_board.get((board.id, field))
            if whole is not None:
                yield _bench(context, board, whole)


def _bench(context: Context, board: Board, whole: BoardSum) -> InsulationBench:
    over_range = context.house.insulation_over_range_mohm
    circuits = [c for c in board.circuits if not c.spare]
    figures = {c.id: figure for c in circuits if is_measured(figure := figure_of(c, whole.field, over_range))}
    known = {key: reading for key, reading in figures.items() if reading is not None}
    middle = insulation.middle_mohm(known.values())
    leak = {key: 1 / low for key, reading in known.items() if (low := _low(reading, over_range))}
    total = fsum(leak.values())
    to_earth = whole.field == TO_EARTH
    apart = _apart(circuits) if to_earth else {}
    rows = tuple(
        InsulationRow(
            circuit_id=c.id,
            name=name_of(c),
            text=known[c.id].text,
            mohm=_low(known[c.id], over_range),
            part=leak.get(c.id, 0.0) / total if total else 0.0,
            low=judge_alone(context, c, known[c.id], to_earth=to_earth) == "fail",
            apart=insulation.stands_out(known[c.id], middle) is not None,
            first=name_of(c) in whole.culprits,
            parts=_parts(c) if to_earth else "",
            parts_apart=apart.get(c.id, ()),
        )
        for c in circuits
        if c.id in known
    )
    others = [known[row.circuit_id] for row in rows if not row.first]
    spoilt = any(row.first for row in rows)
    return InsulationBench(
        board_id=board.id,
        field=whole.field,
        pairing=next(words for name, words, _ in PAIRINGS if name == whole.field),
        combined=whole.combined.text,
        minimum_mohm=insulation.minimum_mohm(NOMINAL_V),
        attention_mohm=context.house.insulation_attention_mohm,
        status=whole.verdict.status,
        says=context.book.translate(whole.verdict.reason),
        without=insulation.combine(others, over_range).text if spoilt and others else "",
        rows=rows,
        missing=whole.missing,
        causes=CAUSES if any(row.low or row.apart or row.parts_apart for row in rows) else (),
        client=_for_client(rows, whole, _between_lines(context, circuits)) if to_earth else "",
    )


def _parts(circuit: Circuit) -> str:
    """L–E and N–E as they were read, where they were read apart."""
    read = [(words, getattr(circuit, name)) for name, words, _ in PAIRINGS if name in APART]
    return " · ".join(f"{words} {reading.text}" for words, reading in read if reading is not None)


def _apart(circuits: list[Circuit]) -> dict[str, tuple[str, ...]]:
    """In which of L–E and N–E a circuit is far below the same pairing of its neighbours, by circuit."""
    pairings: dict[str, tuple[str, ...]] = {}
    for name, words, _ in PAIRINGS:
        if name not in APART:
            continue
        read = {c.id: reading for c in circuits if is_measured(reading := getattr(c, name))}
        middle = insulation.middle_mohm(read.values())
        for circuit_id, reading in read.items():
            if insulation.stands_out(reading, middle) is not None:
                pairings[circuit_id] = (*pairings.get(circuit_id, ()), words)
    return pairings


def _between_lines(context: Context, circuits: list[Circuit]) -> dict[str, tuple[str, str]]:
    """Circuits whose L–N is not sound, by name: what it reads, and the status."""
    unsettled: dict[str, tuple[str, str]] = {}
    for circuit in circuits:
        reading = circuit.insulation_ln_mohm
        if reading is not None and is_measured(reading):
            status = judge_alone(context, circuit, reading, to_earth=False)
            if status == "pass" and not_the_whole(context, circuit, LINE_NEUTRAL) is not None:
                status = "attention"
            if status in ("fail", "attention"):
                unsettled[name_of(circuit)] = (reading.text, status)
    return unsettled


def _low(reading: Reading, over_range: float) -> float | None:
    if reading.kind == "over-range":
        return over_range
    return reading.interval[0] if reading.interval is not None else None


def _for_client(rows: tuple[InsulationRow, ...], whole: BoardSum, between: dict[str, tuple[str, str]]) -> str:
    """Which circuits to renew, which to keep; nothing is called sound that was not measured, or is not settled between
    line and neutral. between: see `_between_lines`."""
    wrong = {name for name, (_, status) in between.items() if status == "fail"}
    open_still = {name for name, (_, status) in between.items() if status != "fail"}
    renew = [f"{row.name} ({row.text} MΩ)" for row in rows if row.low or row.first]
    worn = {row.name for row in rows if row.low or row.first}
    renew += [f"{name} ({between[name][0]} MΩ between line and neutral)" for name in between if name in wrong - worn]
    worn |= wrong
    # Of what was read as a step, or for a part of it, nothing good is said.
    rows = tuple(row for row in rows if row.name not in worn and row.name not in whole.missing)
    watch = [row for row in rows if row.apart]
    keep = [row for row in rows if not row.apart and row.name not in open_still]
    sentences = []
    if renew:
        named = ", ".join(renew)
        sentences.append(f"The wiring of {named} no longer keeps current in as it should: find the fault, or renew it.")
    if watch:
        named = ", ".join(f"{row.name} ({row.text} MΩ)" for row in watch)
        sentences.append(f"{named} still passes but is far below its neighbours: it is the next to renew.")
    if keep:
        every = not renew and not watch and not whole.missing and not open_still
        lead = f"All {len(keep)} circuits are" if every and len(keep) > 1 else f"{_count(len(keep))} sound"
        sentences.append(f"{lead} sound and can stay." if every and len(keep) > 1 else f"{lead} and can stay.")
    for count, what in (
        (len(whole.missing), "not measured whole"),
        (len(open_still - set(whole.missing) - worn), "still to be settled between line and neutral"),
    ):
        if count:
            of = "it" if count == 1 else "them"
            sentences.append(
                f"{_count(count, 'was', 'were') if what.startswith('not') else _count(count)} {what}, and "
                f"nothing is said of {of}."
            )
    return " ".join(sentences)


def _count(number: int, singular: str = "is", several: str = "are") -> str:
    return f"{number} circuit {singular}" if number == 1 else f"{number} circuits {several}"
