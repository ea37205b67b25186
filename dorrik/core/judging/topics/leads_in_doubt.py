"""Instruments in calibration, nulls as they should be, and readings taken with leads in doubt (rules 1.3, 1.4)."""

from collections.abc import Iterator
from dataclasses import replace

from dorrik.core.basics.readings import NULL_SOURCE, Reading
from dorrik.core.basics.verdict import Verdict
from dorrik.core.home import instruments
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.judging.topics.context import Context, Note, name_of

#: What an instrument of the practice bench says that it is.
SIMULATED = "simulated"
_SIMULATED = Verdict(
    status="attention",
    reason="A simulated instrument: what it showed was measured in no home.",
    source="simulated instrument · rule 1.3",
    next_step="Keep this inspection for practice, or take the instrument out and measure again.",
    asks=True,
)


def notes(context: Context) -> Iterator[Note]:
    """Notes on instruments, nulls, and the readings that a bad null marks."""
    i = context.inspection
    for meter in i.instruments_used:
        verdict = instruments.judge_calibration(meter.calibration_due, i.inspected_on)
        if verdict.status in ("fail", "attention"):
            title = " ".join(part for part in (meter.name or "Instrument", meter.serial) if part)
            yield Note("instrument_used", meter.id, "calibration_due", title, verdict)
        if meter.kind == SIMULATED:
            yield Note("instrument_used", meter.id, "kind", meter.name or "Instrument", _SIMULATED)
    for nulled in instruments.nulls(i.lead_nulls):
        if nulled.verdict.status in ("fail", "attention"):
            # Until the leads are nulled well again, and while readings that it marks stand, it asks for an answer.
            lasting = nulled.doubtful is not None and nulled.doubtful[1] is None
            if nulled.null.reading_ohm is None and not lasting and not context.doubtful:
                # Changed, nulled well, and nothing was read between the two.
                continue
            verdict = replace(nulled.verdict, asks=lasting or bool(context.doubtful))
            yield Note("lead_null", nulled.null.id, "reading_ohm", nulled.null.name or "Lead null", verdict)
    if context.doubtful:
        yield from _doubtful(context)


def _doubtful(context: Context) -> Iterator[Note]:
    verdict = Verdict(
        status="attention",
        reason="Taken since the last good null of leads whose null was then off.",
        source=NULL_SOURCE,
        next_step="Null again on clean tips and measure this once more.",
    )
    for _, circuit in context.circuits:
        for field, spec in KINDS["circuit"].fields.items():
            if spec.quantity != "continuity" or (circuit.id, field) not in context.doubtful:
                continue
            reading: Reading | None = getattr(circuit, field)
            if reading is not None and reading.value is not None:
                yield Note("circuit", circuit.id, field, f"{name_of(circuit)}: {spec.label} {reading} Ω", verdict)
    for _, name, point in context.points():
        for field, spec in KINDS["point"].fields.items():
            reading = getattr(point, field) if spec.quantity == "continuity" else None
            if (point.id, field) in context.doubtful and reading is not None and reading.value is not None:
                yield Note("point", point.id, field, f"{name}: {spec.label} {reading} Ω", verdict)
    for bond in context.inspection.bonds:
        for field in ("at_clamp_ohm", "at_pipe_ohm"):
            reading = getattr(bond, field)
            if (bond.id, field) in context.doubtful and reading is not None and reading.value is not None:
                yield Note("bond", bond.id, field, f"Bond to {bond.service or 'a service'}: {reading} Ω", verdict)
