"""The outcome and what it rests on: observations, next inspection, what the law asks of a landlord."""

from datetime import date
from typing import Any

from dorrik.core.book import catalogue
from dorrik.core.book.codes import FOR_A_LANDLORD, MEANING, ORDER
from dorrik.core.home.buildings import HOME, buildings
from dorrik.core.inspection.records import Inspection, Observation
from dorrik.core.judging.coverage import schedule
from dorrik.core.judging.judgement import Judgement, is_open
from dorrik.core.judging.topics.next_inspection import DutyDue
from dorrik.report.content import plainly
from dorrik.report.content.photos import Fetch, beside, none_kept, printed
from dorrik.report.content.words import day, moment

_ORDER = {code: place for place, code in enumerate(ORDER)}


def section(inspection: Inspection, judgement: Judgement, photos: Fetch = none_kept) -> dict[str, Any]:
    """Outcome with its reasons, observations by the weight of their codes, and what comes next."""
    declared = inspection.declared_outcome or judgement.outcome_says
    observations = _observations(inspection, judgement, photos)
    next_by = _next_by(inspection)
    sentence, rests_on = plainly.sentence(inspection, judgement, declared), plainly.rests_on(inspection, judgement)
    reason = inspection.outcome_reason if declared != judgement.outcome else None
    return {
        "outcome": declared,
        "plainly": sentence,
        "timeline": plainly.timeline(inspection, judgement, declared, next_by),
        "rests_on": rests_on,
        **plainly.first(observations, plainly.room(inspection, sentence, reason or "", rests_on)),
        "why": _why(inspection, judgement, declared),
        "outcome_reason": reason,
        "duties": [_duty(duty) for duty in judgement.duties if duty.only_if in ("", declared)],
        "next": _next(inspection, next_by),
        "condition": inspection.condition,
        "observations": observations,
        "none_found": _none_found(inspection, judgement),
        "meaning": [{"code": code, "means": means} for code, means in FOR_A_LANDLORD.items()],
    }


def _none_found(inspection: Inspection, judgement: Judgement) -> str:
    """What is said where no observation is recorded: that nothing was found only where nothing is open any more."""
    if inspection.declared_outcome is None or judgement.outcome == "open":
        return "No observation is recorded so far."
    return "Nothing that needs an observation was found within what was agreed to be inspected."


def _why(inspection: Inspection, judgement: Judgement, declared: str) -> str:
    because = plainly.deciding(inspection, judgement)
    if not because and inspection.declared_outcome is None:
        return "Nothing is decided yet."
    if not because:
        return (
            "No observation with code C1, C2 or FI is open."
            if declared == "satisfactory"
            else "The inspector's own reason is given below."
        )
    counts = [(code, sum(o.code == code for o in because)) for code in ("C1", "C2", "FI")]
    counts_text = ", ".join(f"{count} × {code} ({MEANING[code]})" for code, count in counts if count)
    must = "Each has to be put right or looked into before the installation is satisfactory."
    return f"Open observations: {counts_text}. {must}"


def _next_by(inspection: Inspection) -> date | None:
    if inspection.next_years is None or inspection.inspected_on is None:
        return None
    start = date.fromisoformat(inspection.inspected_on)
    try:
        return start.replace(year=start.year + inspection.next_years)
    except ValueError:  # 29 February
        return start.replace(year=start.year + inspection.next_years, day=28)


def _next(inspection: Inspection, due: date | None) -> dict[str, str]:
    if inspection.next_years is None or due is None:
        return {"by": "", "reason": inspection.next_reason or ""}
    years = f"{inspection.next_years} year" + ("s" if inspection.next_years > 1 else "")
    return {"by": f"{day(due)} ({years})", "reason": inspection.next_reason or ""}


def _duty(duty: DutyDue) -> str:
    """A duty with its last day, or what it is counted from."""
    if duty.due:
        return f"{duty.duty}: by {day(duty.due)}"
    if duty.days:
        return f"{duty.duty}: within {duty.days} days of {duty.counted_from}"
    return f"{duty.duty} ({duty.counted_from})" if duty.counted_from else duty.duty


def _observations(inspection: Inspection, judgement: Judgement, photos: Fetch) -> list[dict[str, Any]]:
    rows = []
    where = buildings(inspection)
    certificates: dict[str, list[str]] = {}
    for repair in judgement.repairs:
        if repair.certificate:
            certificates.setdefault(repair.observation_id, []).append(repair.certificate)
    pinned = printed(inspection)
    because: dict[str, list[str]] = {}
    for suggestion in judgement.suggested:
        if suggestion.recorded:
            because.setdefault(suggestion.recorded, []).extend(suggestion.because)
    # Building by building, the home first; in each the most serious first.
    for observation in sorted(
        inspection.observations,
        key=lambda o: (where.get(o.about_id or "", HOME), _ORDER.get(o.code or "", 9), o.id),
    ):
        entry = catalogue.entries().get(observation.catalogue_key or "")
        rows.append(
            {
                "code": observation.code or "",
                "means": MEANING.get(observation.code or "", ""),
                "place": observation.place or "",
                "text": observation.text or "",
                "plain": entry.plain if entry else "",
                "clause": judgement.rule_book.translate(schedule.clause_of(observation.catalogue_key or "")),
                "because": " ".join(dict.fromkeys(because.get(observation.id, ()))),
                "remedy": entry.remedy if entry and not observation.mended else "",
                "mended": bool(observation.mended),
                "as_left": observation.as_left or "",
                "retest": observation.retest or "",
                "counts": is_open(observation),
                "told": _told(observation),
                "building": where.get(observation.about_id or "", HOME),
                "certificates": ", ".join(certificates.get(observation.id, ())),
                "photos": beside(observation, pinned.get(observation.id, []), photos),
            }
        )
    return rows


def _told(observation: Observation) -> str:
    """Whom it was told, when, and what they said; '' where it was told nobody."""
    if not observation.told_to and not observation.told_at:
        return ""
    answer = f": “{observation.told_said}”" if observation.told_said else ""
    when = f" on {moment(observation.told_at)}" if observation.told_at else ""
    return f"Told {observation.told_to or 'the person in charge'}{when}{answer}"
