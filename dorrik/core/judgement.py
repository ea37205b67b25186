"""Judging a whole inspection: every verdict, the rings, the board sums, the outcome and what is left.

Each topic is one function of `(context) -> notes`; `TOPICS` lists them in the order in which they are read
in the margin. To add a rule, write its function in its own module and name it there.
"""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

from dorrik.core import bonding, devices, insulation, loop, rcd, ring, supply
from dorrik.core.house_rules import HouseRules
from dorrik.core.inspection import Board, Circuit, Inspection
from dorrik.core.outcome import UNSATISFACTORY, Outcome, decide
from dorrik.core.progress import Progress, measure_progress, name_of
from dorrik.core.readings import Reading, figure
from dorrik.core.rule_book import RuleBook, rule_book
from dorrik.core.verdict import Status, Verdict


@dataclass(frozen=True, slots=True)
class Note:
    """A verdict and the field it speaks of; `title` names circuit and figure, `set_field` is a one-tap offer."""

    entity: str
    entity_id: str
    field: str
    title: str
    verdict: Verdict
    set_field: tuple[str, Any] | None = None


@dataclass(frozen=True, slots=True)
class Expected:
    """What a figure should be, before it is measured (least and greatest, in the unit of the field)."""

    entity_id: str
    field: str
    least: float | None
    greatest: float
    says: str


@dataclass(frozen=True, slots=True)
class BoardSum:
    """The insulation of a whole board for one pairing, as its field is named."""

    board_id: str
    field: str
    combined: Reading
    verdict: Verdict
    culprits: tuple[str, ...]


@dataclass(frozen=True, slots=True)
class Judgement:
    """Everything that can be said of an inspection as it stands."""

    notes: tuple[Note, ...]
    expected: tuple[Expected, ...]
    board_sums: tuple[BoardSum, ...]
    prospective_fault_ka: Reading | None
    outcome: Outcome
    outcome_because: tuple[str, ...]
    progress: Progress
    house_rules: HouseRules
    rule_book: RuleBook


class Context:
    """What the topics need, worked out once."""

    __slots__ = ("house", "inspection", "pfc_ka", "rings")

    def __init__(self, inspection: Inspection) -> None:
        self.inspection = inspection
        self.house = HouseRules.using(inspection.house_rules)
        self.pfc_ka = supply.prospective_fault(inspection.pscc_ka, inspection.pefc_ka)
        self.rings = {
            c.id: ring.analyse(ring.RingTest(c.r1_ohm, c.rn_ohm, c.r2_ohm, c.line_csa_mm2, c.cpc_csa_mm2))
            for _, c in self.circuits()
            if c.form == "ring"
        }

    def circuits(self) -> Iterator[tuple[Board, Circuit]]:
        """Every circuit that is not a spare way, with its board."""
        for board in self.inspection.boards:
            for circuit in board.circuits:
                if not circuit.spare:
                    yield board, circuit


def _spoken(reading: Reading | None) -> bool:
    """Is there anything to judge? Empty, LIM, N/A and N/V are counted, not judged."""
    return reading is not None and reading.sort in ("number", "over-range")


def _supply(context: Context) -> Iterator[Note]:
    i = context.inspection
    if _spoken(i.ze_ohm) and i.earthing:
        verdict = supply.judge_ze(i.ze_ohm, i.earthing, parallel_removed=bool(i.ze_parallel_removed))
        yield Note("inspection", i.id, "ze_ohm", "Ze at the origin", verdict)
    elif _spoken(i.ze_ohm):
        reason = "The earthing arrangement is needed to judge Ze."
        verdict = Verdict(status="unknown", reason=reason, source="rule 3.1")
        yield Note("inspection", i.id, "ze_ohm", "Ze at the origin", verdict)
    if _spoken(i.ze_ohm) and _spoken(i.pefc_ka) and i.earthing != "TT":
        verdict = supply.agrees(i.ze_ohm, i.pefc_ka)
        if verdict.status != "unknown":
            yield Note("inspection", i.id, "pefc_ka", "Ze beside PEFC", verdict)
    if i.supply_polarity == "incorrect":
        yield Note(
            "inspection",
            i.id,
            "supply_polarity",
            "Polarity of the supply",
            Verdict(
                status="fail",
                reason="Line and neutral of the supply are exchanged: every single-pole switch is in the neutral.",
                source="BS 7671 643.6",
                next_step="Stop live tests and call the network operator.",
                observation="polarity-wrong",
            ),
        )


def _conductors(context: Context) -> Iterator[Note]:
    """Sizes of earthing and bonding conductors. The tails stand for the supply neutral, which is not seen."""
    i = context.inspection
    if i.tails_mm2 is None:
        return
    least = bonding.earthing_conductor_mm2(i.tails_mm2)
    if i.earthing_conductor_mm2 is not None:
        verdict = bonding.judge_size("The main earthing conductor", i.earthing_conductor_mm2, least)
        yield Note("inspection", i.id, "earthing_conductor_mm2", "Main earthing conductor", verdict)
    if i.bonding_mm2 is not None and i.earthing:
        least = bonding.main_bonding_mm2(i.earthing, least, i.tails_mm2)
        verdict = bonding.judge_size("The main bonding conductor", i.bonding_mm2, least)
        yield Note("inspection", i.id, "bonding_mm2", "Main bonding conductor", verdict)


def _breaking_capacity(context: Context) -> Iterator[Note]:
    """One note a board, on its weakest device; a note per circuit would say the same twelve times."""
    if not _spoken(context.pfc_ka):
        return
    for board in context.inspection.boards:
        weakest: tuple[float, Circuit] | None = None
        for circuit in board.circuits:
            capacity = _breaking_ka(circuit)
            if capacity is not None and (weakest is None or capacity < weakest[0]):
                weakest = (capacity, circuit)
        if weakest is None:
            continue
        verdict = supply.judge_breaking_capacity(context.pfc_ka, weakest[0], board.conditional_ka)
        title = f"{board.name or 'Board'}: fault current against {name_of(weakest[1])}"
        yield Note("board", board.id, "conditional_ka", title, verdict)


def _breaking_ka(circuit: Circuit) -> float | None:
    if circuit.device_breaking_ka is not None:
        return circuit.device_breaking_ka
    if not (circuit.device_standard and circuit.device_type and circuit.device_rating_a):
        return None
    try:
        return devices.find(circuit.device_standard, circuit.device_type, circuit.device_rating_a).breaking_ka
    except LookupError:
        return None


_RING_FIELD = {"line": "r1_ohm", "neutral": "rn_ohm", "cpc": "r2_ohm"}
_RING_STATUS: dict[str, Status] = {"open-conductor": "fail", "not-a-ring": "fail"}


def _rings(context: Context) -> Iterator[Note]:
    for _, circuit in context.circuits():
        analysis = context.rings.get(circuit.id)
        if analysis is None:
            continue
        for finding in analysis.findings:
            verdict = Verdict(
                status=_RING_STATUS.get(finding.kind, "attention"),
                reason=finding.reason,
                source=finding.source,
                next_step=finding.next_step,
                observation=finding.observation,
            )
            title = f"{name_of(circuit)}: {finding.conductor} end to end"
            offer = ("cpc_csa_mm2", finding.fitting_cpc_mm2) if finding.fitting_cpc_mm2 else None
            yield Note("circuit", circuit.id, _RING_FIELD[finding.conductor], title, verdict, offer)
        if analysis.closed and not analysis.findings and analysis.expected_line_cpc_ohm is not None:
            length = f"About {analysis.length_m:.0f} m of cable. " if analysis.length_m else ""
            verdict = Verdict(
                status="pass",
                reason=f"The ring closes. {length}Look for {figure(analysis.expected_line_neutral_ohm or 0)} Ω L–N, at "
                f"most {figure(analysis.expected_line_cpc_ohm)} Ω L–cpc at each point, opposite ends joined.",
                source=f"{ring.SOURCE} · rules 4.1 to 4.3",
            )
            yield Note("circuit", circuit.id, "r2_ohm", f"{name_of(circuit)}: ring ends", verdict)
        yield from _recorded(circuit, analysis)


def _recorded(circuit: Circuit, analysis: ring.RingAnalysis) -> Iterator[Note]:
    if not _spoken(circuit.r1_r2_ohm) or analysis.expected_line_cpc_ohm is None:
        return
    beyond = ring.judge_recorded(circuit.r1_r2_ohm, analysis)
    expected = figure(analysis.expected_line_cpc_ohm)
    title = f"{name_of(circuit)}: R1+R2"
    source = f"(r1 + r2)/4 · rules {'4.4, 4.7' if beyond else '4.3, 4.7'}"
    if beyond is None:
        reason = f"{circuit.r1_r2_ohm} Ω agrees with the {expected} Ω expected from the ends."
        verdict = Verdict(status="pass", reason=reason, source=source, limit=analysis.expected_line_cpc_ohm)
    else:
        way, difference = beyond
        higher = way == "higher"
        verdict = Verdict(
            status="attention",
            reason=f"{circuit.r1_r2_ohm} Ω is {figure(difference)} Ω {way} than the ends lead to (up to {expected} Ω).",
            source=source,
            limit=analysis.expected_line_cpc_ohm,
            margin=-difference,
            next_step="Re-plug and work the switch, then test again: a contact, or that point is on a spur."
            if higher
            else "A parallel earth path, or the same ends joined instead of opposite ones.",
        )
    yield Note("circuit", circuit.id, "r1_r2_ohm", title, verdict)


def _continuity(context: Context) -> Iterator[Note]:
    for _, circuit in context.circuits():
        reading = circuit.r1_r2_ohm
        if reading is not None and reading.sort == "over-range":
            verdict = Verdict(
                status="fail",
                reason="No continuity: the cpc does not reach this point, or a switch or control is open.",
                source="BS 7671 643.2 · rules 5.2, 5.3",
                next_step="Switches on, two-way switches both ways, controls bridged; then test again.",
                observation="no-cpc-at-point",
            )
            yield Note("circuit", circuit.id, "r1_r2_ohm", f"{name_of(circuit)}: R1+R2", verdict)
        if circuit.polarity == "incorrect":
            verdict = Verdict(
                status="fail",
                reason="Polarity is recorded as not correct.",
                source="BS 7671 643.6",
                next_step="Name the point in an observation; reconnect and test again.",
                observation="polarity-wrong",
            )
            yield Note("circuit", circuit.id, "polarity", f"{name_of(circuit)}: polarity", verdict)


_PAIRINGS = (("insulation_ln_mohm", "L–N", False), ("insulation_lne_mohm", "L+N–E", True))
NOMINAL_V = 230.0


def _board_sums(context: Context) -> list[BoardSum]:
    sums = []
    for board in context.inspection.boards:
        for field, _, _ in _PAIRINGS:
            readings = {
                name_of(circuit): getattr(circuit, field)
                for circuit in board.circuits
                if not circuit.spare and _spoken(getattr(circuit, field))
            }
            if not readings:
                continue
            verdict = insulation.judge_board(
                readings,
                NOMINAL_V,
                attention_mohm=context.house.insulation_attention_mohm,
                over_range_mohm=context.house.insulation_over_range_mohm,
            )
            sums.append(BoardSum(board.id, field, verdict.combined, verdict, verdict.culprits))
    return sums


def _insulation(context: Context) -> Iterator[Note]:
    for board in context.inspection.boards:
        for field, pairing, to_earth in _PAIRINGS:
            measured = [(c, r) for c in board.circuits if not c.spare and _spoken(r := getattr(c, field))]
            middle = insulation.middle_mohm(reading for _, reading in measured)
            for circuit, reading in measured:
                verdict = insulation.judge_circuit(
                    reading,
                    NOMINAL_V,
                    to_earth=to_earth,
                    attention_mohm=context.house.insulation_attention_mohm,
                    over_range_mohm=context.house.insulation_over_range_mohm,
                )
                if verdict.status == "pass":
                    verdict = insulation.stands_out(reading, middle) or verdict
                yield Note("circuit", circuit.id, field, f"{name_of(circuit)}: {pairing} {reading} MΩ", verdict)


def _limit(context: Context, circuit: Circuit) -> tuple[float, str] | Verdict:
    """The circuit's Zs limit (Ω) and how it was found, or why there is none."""
    if not (circuit.device_standard and circuit.device_type and circuit.device_rating_a):
        return Verdict(
            status="unknown",
            reason="Standard, type and rating of the device are needed.",
            source=devices.SOURCE,
        )
    time_s = devices.disconnection_s(context.inspection.earthing, circuit.device_rating_a, circuit.serves)
    try:
        limit = devices.zs_limit_ohm(circuit.device_standard, circuit.device_type, circuit.device_rating_a, time_s)
    except LookupError as error:
        return Verdict(status="unknown", reason=str(error), source=devices.SOURCE)
    return limit, f"{circuit.device_type} {circuit.device_rating_a:g} A, {time_s:g} s"


def _behind_rcd(context: Context, circuit: Circuit) -> bool:
    if circuit.rcd_rated_ma is None:
        return False
    return circuit.fault_protection == "RCD" or (
        context.inspection.earthing == "TT" and circuit.fault_protection is None
    )


def _loops(context: Context) -> Iterator[Note]:
    for board, circuit in context.circuits():
        if not _spoken(circuit.zs_ohm):
            continue
        title = f"{name_of(circuit)}: Zs {circuit.zs_ohm} Ω"
        if _behind_rcd(context, circuit) and circuit.rcd_rated_ma:
            verdict = loop.judge_zs_behind_rcd(circuit.zs_ohm, circuit.rcd_rated_ma)
        else:
            limit = _limit(context, circuit)
            verdict = (
                limit if isinstance(limit, Verdict) else loop.judge_zs(circuit.zs_ohm, limit[0], context.house.zs_basis)
            )
        yield Note("circuit", circuit.id, "zs_ohm", title, verdict)
        crossed = loop.cross_check(circuit.zs_ohm, board.zdb_ohm, circuit.r1_r2_ohm)
        if crossed.status not in ("unknown", "pass"):
            yield Note("circuit", circuit.id, "zs_ohm", f"{name_of(circuit)}: Zs beside Zdb + (R1+R2)", crossed)


def _rcds(context: Context) -> Iterator[Note]:
    for _, circuit in context.circuits():
        if _spoken(circuit.rcd_trip_ms) and circuit.rcd_rated_ma:
            verdict = rcd.judge_trip(
                circuit.rcd_standard or "BS EN 61008",
                circuit.rcd_delay or "none",
                circuit.rcd_rated_ma,
                circuit.rcd_trip_ms,
            )
            yield Note(
                "circuit",
                circuit.id,
                "rcd_trip_ms",
                f"{name_of(circuit)}: RCD {circuit.rcd_trip_ms} ms",
                verdict,
            )
        elif _spoken(circuit.rcd_trip_ms):
            verdict = Verdict(status="unknown", reason="The RCD's rated residual current is needed.", source=rcd.SOURCE)
            yield Note("circuit", circuit.id, "rcd_trip_ms", f"{name_of(circuit)}: RCD", verdict)
        if circuit.rcd_button == "incorrect":
            verdict = Verdict(
                status="fail",
                reason="The test button does not trip the device.",
                source="BS 7671 643.10 · rule 8.2",
                observation="rcd-no-trip",
            )
            yield Note("circuit", circuit.id, "rcd_button", f"{name_of(circuit)}: RCD button", verdict)


#: Every topic that is judged, in the order of the margin.
TOPICS: tuple[Callable[[Context], Iterator[Note]], ...] = (
    _supply,
    _conductors,
    _breaking_capacity,
    _rings,
    _continuity,
    _insulation,
    _loops,
    _rcds,
)


def _expected(context: Context) -> Iterator[Expected]:
    for _, circuit in context.circuits():
        analysis = context.rings.get(circuit.id)
        if analysis is not None and analysis.expected_r2_ohm is not None:
            least, greatest = analysis.expected_r2_ohm
            yield Expected(circuit.id, "r2_ohm", least, greatest, _span("expected", least, greatest, "Ω"))
        if analysis is not None and analysis.expected_line_cpc_ohm is not None:
            highest = analysis.expected_line_cpc_ohm
            yield Expected(circuit.id, "r1_r2_ohm", None, highest, f"expected up to {figure(highest)} Ω")
        if _behind_rcd(context, circuit) and circuit.rcd_rated_ma:
            highest = loop.TOUCH_VOLTAGE_V / circuit.rcd_rated_ma * 1000
            yield Expected(
                circuit.id, "zs_ohm", None, highest, f"at most {highest:.0f} Ω ({circuit.rcd_rated_ma:g} mA)"
            )
        elif not isinstance(limit := _limit(context, circuit), Verdict):
            highest = limit[0] * context.house.zs_basis
            says = f"at most {highest:.2f} Ω ({limit[1]})"
            yield Expected(circuit.id, "zs_ohm", None, highest, says)
        if circuit.rcd_rated_ma:
            try:
                least, greatest = rcd.trip_limits_ms(circuit.rcd_standard or "BS EN 61008", circuit.rcd_delay or "none")
            except LookupError:
                continue
            says = f"{least:g} to {greatest:g} ms" if least else f"at most {greatest:g} ms"
            yield Expected(circuit.id, "rcd_trip_ms", least or None, greatest, says)


def _span(word: str, least: float, greatest: float, unit: str) -> str:
    low, high = figure(least), figure(greatest)
    return f"{word} {low} {unit}" if low == high else f"{word} {low} to {high} {unit}"


def _outcome(inspection: Inspection) -> tuple[Outcome, tuple[str, ...]]:
    """Codes of observations that are still open; those made good on the day do not count (rule 13.5)."""
    open_ones = [o for o in inspection.observations if o.code and o.code != "note" and not o.mended]
    because = tuple(o.id for o in open_ones if o.code in UNSATISFACTORY)
    return decide(o.code for o in open_ones if o.code), because


def judge(inspection: Inspection) -> Judgement:
    """Judge an inspection as it stands. Pure; never raises on an inspection that `document.parse` accepts."""
    context = Context(inspection)
    notes = tuple(note for topic in TOPICS for note in topic(context))
    sums = tuple(_board_sums(context))
    outcome, because = _outcome(inspection)
    return Judgement(
        notes=notes,
        expected=tuple(_expected(context)),
        board_sums=sums,
        prospective_fault_ka=context.pfc_ka,
        outcome=outcome,
        outcome_because=because,
        progress=measure_progress(inspection, context.house.limited_share),
        house_rules=context.house,
        rule_book=rule_book(inspection.rule_book),
    )


def as_json(judgement: Judgement) -> dict[str, Any]:
    """The judgement as plain data, for the API, for files and for people's own scripts."""
    return {
        "notes": [
            {
                "entity": n.entity,
                "id": n.entity_id,
                "field": n.field,
                "title": n.title,
                "status": n.verdict.status,
                "reason": n.verdict.reason,
                "limit": n.verdict.limit,
                "margin": n.verdict.margin,
                "next_step": n.verdict.next_step,
                "observation": n.verdict.observation,
                "source": n.verdict.source,
                "set_field": n.set_field and {"field": n.set_field[0], "value": n.set_field[1]},
            }
            for n in judgement.notes
        ],
        "expected": [
            {"id": e.entity_id, "field": e.field, "least": e.least, "greatest": e.greatest, "says": e.says}
            for e in judgement.expected
        ],
        "board_sums": [
            {
                "board_id": s.board_id,
                "field": s.field,
                "combined": s.combined.text,
                "status": s.verdict.status,
                "reason": s.verdict.reason,
                "next_step": s.verdict.next_step,
                "source": s.verdict.source,
                "observation": s.verdict.observation,
                "culprits": list(s.culprits),
            }
            for s in judgement.board_sums
        ],
        "prospective_fault_ka": judgement.prospective_fault_ka and judgement.prospective_fault_ka.text,
        "outcome": judgement.outcome,
        "outcome_because": list(judgement.outcome_because),
        "stages": [
            {"stage": s.stage, "done": s.done, "left": s.left, "left_names": list(s.left_names)}
            for s in judgement.progress.stages
        ],
        "limited": judgement.progress.limited,
        "tests": judgement.progress.tests,
        "limited_warning": judgement.progress.limited_warning,
        "rule_book": judgement.rule_book.name,
        "caution": judgement.rule_book.caution,
    }
