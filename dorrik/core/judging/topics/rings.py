"""Ring final circuits: ends, points and the recorded R1+R2 (rules 4.1 to 4.8)."""

from collections.abc import Iterator

from dorrik.core.basics.readings import rounded
from dorrik.core.basics.verdict import Status, Verdict
from dorrik.core.electrical import ring
from dorrik.core.electrical.ring import Finding, RingAnalysis
from dorrik.core.electrical.ring_points import bent_pairs
from dorrik.core.home import open_ring
from dorrik.core.inspection.records import Board, Circuit
from dorrik.core.judging.topics.bench import gap, open_conductor
from dorrik.core.judging.topics.context import Context, Note, cable_of, is_measured, name_of, point_names
from dorrik.core.judging.topics.note import set_field
from dorrik.core.judging.topics.soundness import is_class_ii

_FIELD = {"line": "r1_ohm", "neutral": "rn_ohm", "cpc": "r2_ohm"}
_POINT_FIELD = {"line": "line_neutral_ohm", "neutral": "line_neutral_ohm", "cpc": "line_cpc_ohm"}
_STATUS: dict[str, Status] = {
    "open-conductor": "fail",
    "not-a-ring": "fail",
    "cpc-open-at-point": "fail",
    "neutral-open-or-crossed": "fail",
    "line-open-at-point": "fail",
}
#: What tracing a branch has settled: nothing more is said of the spur.
_TRACED = ("on a spur alone", "beyond a point on a spur", "fused", "on the ring")
#: Cable round a ring of 30 or 32 A from which loop impedance and voltage drop want a look (m), rule 4.2.
LONG_M = 100.0


def notes(context: Context) -> Iterator[Note]:
    """Notes on every ring."""
    yield from context.each_circuit(_of_circuit)


def _of_circuit(context: Context, board: Board, circuit: Circuit) -> Iterator[Note]:
    analysis = context.ring(circuit)
    if analysis is None:
        return
    points = point_names(circuit) if any(f.point for f in analysis.findings) else {}
    opened: tuple[str, str] | None = None
    for finding in analysis.findings:
        verdict = Verdict(
            status=_STATUS.get(finding.kind, "attention"),
            reason=finding.reason,
            source=finding.source,
            next_step=_next_step(circuit, finding),
            observation=finding.observation,
            asks=finding.asks,
        )
        if finding.point is not None:
            point = points[finding.point]
            if finding.kind in ("spur", "spur-off-spur", "bridged") and point.traced in _TRACED:
                continue
            if finding.kind == "cpc-open-at-point" and is_class_ii(circuit, point):
                continue
            title = f"{name_of(circuit)}: {finding.point}"
            touches = tuple(points[name].id for name in (finding.point, *finding.others)) if finding.others else ()
            yield Note("point", point.id, _POINT_FIELD[finding.conductor], title, verdict, touches=touches)
            continue
        if finding.kind == "all-high":
            touches = tuple(point.id for point in circuit.points)
            title = f"{name_of(circuit)}: every point"
            yield Note("circuit", circuit.id, "r1_r2_ohm", title, verdict, touches=touches)
            continue
        title = f"{name_of(circuit)}: {finding.conductor} end to end"
        field = _FIELD[finding.conductor]
        offers = (
            (set_field("circuit", circuit.id, "cpc_csa_mm2", finding.fitting_cpc_mm2, _set_cpc(finding)),)
            if finding.fitting_cpc_mm2
            else ()
        )
        # Several conductors broken in one place, which is the usual case, are one thing.
        yield Note("circuit", circuit.id, field, title, verdict, offers=offers, because_of=opened)
        if finding.kind == "open-conductor" and opened is None:
            opened = (circuit.id, field)
    yield from _gap(circuit, analysis)
    yield from _today(context, circuit, analysis)
    yield from _sound(circuit, analysis)
    yield from _length(circuit, analysis)
    yield from _recorded(circuit, analysis)


def _set_cpc(finding: Finding) -> str:
    return f"Set cpc {finding.fitting_cpc_mm2:g} mm²"


def _next_step(circuit: Circuit, finding: Finding) -> str:
    """What to do; for an open ring the rating that one leg allows until it is repaired (rule 4.8)."""
    if finding.kind not in ("open-conductor", "not-a-ring"):
        return finding.next_step
    cable = cable_of(circuit)
    allowed = open_ring.leg_rating(cable)
    if cable is None or allowed is None:
        return finding.next_step
    first = finding.next_step.partition(" Until repaired")[0]
    more = ""
    if allowed.seen_a is not None and allowed.seen_a > allowed.rating_a:
        more = f" Method {cable.method} along the whole leg allows {allowed.seen_a:g} A."
    on = f"{cable.csa_mm2:g} mm²"
    return f"{first} Until repaired: a device of at most {allowed.rating_a:g} A on {on}.{more}"


def _today(context: Context, circuit: Circuit, analysis: RingAnalysis) -> Iterator[Note]:
    """What an open ring was lowered to for today, and whether its ends are another ring's."""
    opened = open_conductor(analysis)
    if opened is None:
        return
    field = _FIELD[opened]
    lowered = open_ring.judge_lowered(circuit, cable_of(circuit))
    if lowered is not None:
        yield Note("circuit", circuit.id, "lowered_to_a", f"{name_of(circuit)}: rating for today", lowered)
    other = next((c for _, c in context.circuits if c.id == circuit.swap_with), None)
    tried = (circuit.swap_line_ohm, circuit.swap_neutral_ohm, circuit.swap_cpc_ohm)
    swapped = open_ring.judge_swapped(tried, name_of(other) if other is not None else "the other ring")
    if swapped is not None:
        title = f"{name_of(circuit)}: ends of another ring"
        yield Note("circuit", circuit.id, "swap_line_ohm", title, swapped, because_of=(circuit.id, field))


def _gap(circuit: Circuit, analysis: RingAnalysis) -> Iterator[Note]:
    """Where an open ring is open: between which accessories, and how far from either end (rule 4.8)."""
    where = gap(circuit, analysis)
    opened = open_conductor(analysis)
    if where is None or opened is None:
        return
    verdict = Verdict(
        status="attention",
        reason=where.says,
        source=f"{ring.SOURCE} · rules 4.8, 2.1",
        next_step="Isolate and prove dead. Open the accessories on either side of the gap. Restore, test again.",
    )
    field = _FIELD[opened]
    title = f"{name_of(circuit)}: where it is open"
    yield Note("circuit", circuit.id, field, title, verdict, because_of=(circuit.id, field))


def _sound(circuit: Circuit, analysis: RingAnalysis) -> Iterator[Note]:
    if not analysis.closed or analysis.findings or analysis.expected_line_cpc_ohm is None:
        return
    length = f"About {analysis.length_m:.0f} m of cable. " if analysis.length_m else ""
    verdict = Verdict(
        status="pass",
        reason=f"The ring closes. {length}Look for {rounded(analysis.expected_line_neutral_ohm or 0)} Ω L–N, at "
        f"most {rounded(analysis.expected_line_cpc_ohm)} Ω L–cpc at each point, opposite ends joined.",
        source=f"{ring.SOURCE} · rules 4.1 to 4.3",
    )
    yield Note("circuit", circuit.id, "r2_ohm", f"{name_of(circuit)}: ring ends", verdict)


def _length(circuit: Circuit, analysis: RingAnalysis) -> Iterator[Note]:
    if analysis.length_m is None or analysis.length_m <= LONG_M or (circuit.device_rating_a or 0) < 30:
        return
    verdict = Verdict(
        status="attention",
        reason=f"About {analysis.length_m:.0f} m round the ring by its line: long for a "
        f"{circuit.device_rating_a:g} A device.",
        source=f"{ring.SOURCE} · rules 4.2, 2.1",
        limit=LONG_M,
        margin=LONG_M - analysis.length_m,
        next_step="Check Zs and voltage drop; a loose joint in the line would make the ring seem longer too.",
    )
    yield Note("circuit", circuit.id, "r1_ohm", f"{name_of(circuit)}: length", verdict)


def _recorded(circuit: Circuit, analysis: RingAnalysis) -> Iterator[Note]:
    if not is_measured(circuit.r1_r2_ohm) or analysis.expected_line_cpc_ohm is None:
        return
    title = f"{name_of(circuit)}: R1+R2"
    impossible = ring.judge_above_ends(circuit.r1_r2_ohm, circuit.r1_ohm, circuit.r2_ohm)
    if impossible is not None:
        yield Note("circuit", circuit.id, "r1_r2_ohm", title, impossible)
        return
    beyond = ring.judge_recorded(circuit.r1_r2_ohm, analysis)
    expected = rounded(analysis.expected_line_cpc_ohm)
    source = f"(r1 + r2)/4 · rules {'4.4, 4.7' if beyond else '4.3, 4.7'}"
    bent = "cpc" in bent_pairs(analysis.findings)
    if bent or any(f.kind == "other-cable" for f in analysis.findings):
        # Expected values from ends that are themselves in doubt say nothing of a reading.
        verdict = Verdict(
            status="unknown",
            reason=f"{circuit.r1_r2_ohm} Ω, but the ends that it is compared with are in doubt themselves.",
            source=source,
            limit=analysis.expected_line_cpc_ohm,
        )
        yield Note("circuit", circuit.id, "r1_r2_ohm", title, verdict)
        return
    if beyond is None:
        reason = f"{circuit.r1_r2_ohm} Ω agrees with the {expected} Ω expected from the ends."
        verdict = Verdict(status="pass", reason=reason, source=source, limit=analysis.expected_line_cpc_ohm)
        yield Note("circuit", circuit.id, "r1_r2_ohm", title, verdict)
        return
    way, difference = beyond
    if any(f.kind == "all-high" for f in analysis.findings):
        return
    named = next((f for f in analysis.findings if f.point), None)
    verdict = Verdict(
        status="attention",
        reason=f"{circuit.r1_r2_ohm} Ω is {rounded(difference)} Ω {way} than the ends lead to (up to {expected} Ω).",
        source=source,
        limit=analysis.expected_line_cpc_ohm,
        margin=-difference,
        next_step="Isolate. Re-plug and work the switch, test again: a contact, or that point is on a spur."
        if way == "higher"
        else "A parallel earth path, or the same ends joined instead of opposite ones.",
    )
    because = None
    if named is not None and named.point is not None:
        because = (point_names(circuit)[named.point].id, _POINT_FIELD[named.conductor])
    yield Note("circuit", circuit.id, "r1_r2_ohm", title, verdict, because_of=because)
