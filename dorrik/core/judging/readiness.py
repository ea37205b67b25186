"""What stands between an inspection and its report: what must be mended first, and what its reader should know."""

from collections.abc import Iterator
from typing import Literal

from dorrik.core.basics.record import record
from dorrik.core.basics.text import shortened
from dorrik.core.home import instruments
from dorrik.core.home.placing import all_points
from dorrik.core.inspection.records import Inspection, Observation, name_of
from dorrik.core.judging.judgement import Judgement
from dorrik.core.judging.served.repairs import settled


@record
class Hindrance:
    """level: 'must' stops the report, 'look' does not; stage: where it is mended; text: for the inspector."""

    level: Literal["must", "look"]
    stage: str
    text: str


_NEEDED = (
    ("reference", "brief", "The report needs a reference."),
    ("client_name", "brief", "The report needs the client's name."),
    ("property_address", "brief", "The report needs the address of the property."),
    ("inspected_on", "brief", "The report needs the date of the inspection."),
    ("extent", "brief", "The extent that was agreed is missing."),
    ("declared_outcome", "report", "You have not said whether the installation is satisfactory."),
    ("next_years", "report", "The interval to the next inspection is missing."),
)


def readiness(inspection: Inspection, judgement: Judgement) -> tuple[Hindrance, ...]:
    """Everything to mend or to look at before issuing, what must be mended first."""
    as_it_stands = settled(inspection, judgement.repairs)
    return tuple(sorted(_points(as_it_stands, judgement), key=lambda point: point.level != "must"))


def _points(inspection: Inspection, judgement: Judgement) -> Iterator[Hindrance]:
    for field, stage, text in _NEEDED:
        if getattr(inspection, field) is None:
            yield Hindrance("must", stage, text)
    if not any(board.circuits for board in inspection.boards):
        yield Hindrance("must", "boards", "There is no board with a circuit to report on.")
    for observation in inspection.observations:
        if not observation.text:
            yield Hindrance("must", "observations", "An observation has no words.")
        elif not observation.code:
            yield Hindrance("must", "observations", f"“{shortened(observation.text)}” has no code.")
    declared = inspection.declared_outcome
    if declared and declared != judgement.outcome and not inspection.outcome_reason:
        leads = f"The open codes lead to {judgement.outcome_says}"
        if judgement.outcome == "open":
            leads = f"The result reads “{judgement.outcome_says}”"
        yield Hindrance("must", "report", f"{leads}, you declare {declared}: give your reason.")
    carried = [f"{board.name or 'Board'}" for board in inspection.boards if board.unconfirmed]
    carried += [name_of(c) for board in inspection.boards for c in board.circuits if c.unconfirmed]
    carried += [f"bond to {bond.service or 'a service'}" for bond in inspection.bonds if bond.unconfirmed]
    if carried:
        named = ", ".join(carried[:8]) + (f" and {len(carried) - 8} more" if len(carried) > 8 else "")
        yield Hindrance("look", "boards", f"{len(carried)} copied from earlier reports, not confirmed: {named}")
    for concern in inspection.concerns:
        if concern.what and not (concern.answer or concern.observation_id):
            yield Hindrance("must", "brief", f"“{shortened(concern.what)}”: say what was found.")
    for thing in judgement.come_back:
        if thing.asked_by:
            yield Hindrance("must", thing.stage, f"{thing.asked_by} asks at {thing.where}: {shortened(thing.what)}")
    for aside in judgement.set_aside:
        if not aside.in_force and not aside.gone:
            yield Hindrance("look", "brief", f"{aside.name}: {aside.says}. Its tests are still asked for.")
    for recorded in judgement.recorded:
        if recorded.hint:
            words = next(
                (observation.text for observation in inspection.observations if observation.id == recorded.id), None
            )
            yield Hindrance("look", "observations", f"“{shortened(words or '')}”: {recorded.hint}.")
    holds = judgement.house_rules.own_repairs == "hold the report"
    for repair in judgement.repairs:
        if not repair.complete:
            missing = "; ".join((*repair.lacks, *(f"{one} does not hold" for one in repair.failing)))
            yield Hindrance("must" if holds else "look", "observations", f"Own repair, {repair.where}: {missing}.")
        elif not repair.certificate:
            yield Hindrance("look", "observations", f"Own repair, {repair.where}: no certificate is issued yet.")
    for call in inspection.operator_calls:
        if call.called_at and not call.closed_at:
            named = f", reference {shortened(call.reference)}" if call.reference else ""
            yield Hindrance("look", "intake", f"Network operator{named}: no outcome is recorded yet.")
    for meter in inspection.instruments_used:
        verdict = instruments.judge_calibration(meter.calibration_due, inspection.inspected_on)
        if verdict.status in ("fail", "attention"):
            yield Hindrance("look", "brief", f"{meter.name or 'An instrument'} {meter.serial or ''}: {verdict.reason}")
    if inspection.held_at and inspection.held_reason:
        yield Hindrance("look", "brief", f"The inspection is on hold: {inspection.held_reason[:120]}")
    for limitation in inspection.limitations:
        if limitation.what and not (limitation.reason and limitation.agreed_with):
            yield Hindrance(
                "look", "walk", f"Limitation “{shortened(limitation.what)}” lacks its reason or with whom agreed."
            )
    for progress in judgement.progress.stages:
        if progress.left and progress.stage in ("intake", "walk", "isolation", "boards", "dead", "live"):
            named = ", ".join(progress.left_names[:3]) + (" …" if progress.left > 3 else "")
            yield Hindrance("look", progress.stage, f"{progress.left} left: {named}")
    for objection in judgement.against:
        # Codes are the outcome itself; what has no code stops the report above.
        if objection.kind not in ("code", "uncoded"):
            yield Hindrance("look", objection.stage, objection.says)
    apart = [put_back.says for put_back in judgement.putting_back if put_back.open]
    if apart:
        named = "; ".join(apart[:3]) + (" …" if len(apart) > 3 else "")
        yield Hindrance("look", "isolation", f"{len(apart)} not ticked as put back: {named}")
    for observation in inspection.observations:
        yield from _of_observation(inspection, observation)
    for note in judgement.notes:
        if note.field == "next_years" and note.status == "attention":
            level: Literal["must", "look"] = "look" if inspection.next_reason else "must"
            reason = "" if inspection.next_reason else " Give your reason."
            yield Hindrance(level, "report", f"{note.verdict.reason}{reason}")
    if judgement.house_rules.mending == "no" and any(observation.mended for observation in inspection.observations):
        yield Hindrance(
            "look", "observations", "Something was put right on the day, which the firm's rules leave to others."
        )
    if judgement.sampling and judgement.sampling.left:
        named = ", ".join(judgement.sampling.left[:3]) + (" …" if len(judgement.sampling.left) > 3 else "")
        yield Hindrance("look", "walk", f"{len(judgement.sampling.left)} points of the sample were not opened: {named}")
    for point in all_points(inspection):
        if point.sample and not point.sample_reason:
            named = point.name or point.kind or "a point"
            yield Hindrance("look", "walk", f"{named.capitalize()} was {point.sample} by choice, without a reason.")
    if inspection.sample_share is not None and not inspection.sample_share_reason:
        yield Hindrance("look", "walk", "The share of points to open was chosen without a reason.")
    waiting = [line.label for line in judgement.schedule if line.state == "left"]
    if waiting:
        named = ", ".join(waiting[:3]) + (" …" if len(waiting) > 3 else "")
        yield Hindrance("look", "walk", f"{len(waiting)} lines of the inspection schedule are left: {named}")
    limited = judgement.limited_share
    if limited.warning:
        yield Hindrance("look", "walk", f"{limited.warning} {limited.riskiest}".strip())


def _of_observation(inspection: Inspection, observation: Observation) -> Iterator[Hindrance]:
    """What is missing where a danger was found, and where something was mended on the day (rules 13.4 and 13.5)."""
    quoted = f"“{shortened(observation.text or '')}”"
    for words in observation.lacking:
        yield Hindrance("look", "observations", f"{quoted} {words}.")
    if observation.opinion_asked_at and not observation.opinions:
        yield Hindrance("look", "observations", f"{quoted} waits for its second opinion.")
    if not observation.mended or inspection.no_photos:
        return
    shown = {photo.shows == "as left" for photo in inspection.photos if photo.about_id == observation.id}
    lacking = [name for as_left, name in ((False, "as found"), (True, "as left")) if as_left not in shown]
    if lacking:
        yield Hindrance("look", "observations", f"{quoted} was put right: no photo {' and none '.join(lacking)}.")
