"""The written notice of a danger (C1): what was found, whom it was told to and when, what was made safe (rule 13.4)."""

from typing import Any

from dorrik.core.book import catalogue
from dorrik.core.inspection.records import Inspection, Observation
from dorrik.report.content import Issue
from dorrik.report.content.words import moment
from dorrik.report.letters import letter


class NoDanger(Exception):
    """There is nothing to give notice of; the message says why."""


def words(inspection: Inspection, observation: Observation, issue: Issue) -> dict[str, Any]:
    """What the notice says. Raises NoDanger where the observation is not C1."""
    if observation.code != "C1":
        raise NoDanger("A notice of danger is of an observation with code C1.")
    with catalogue.with_own(inspection.catalogue):
        entry = catalogue.entries().get(observation.catalogue_key or "")
    people = ", ".join(
        part for part in (observation.told_to, moment(observation.told_at) if observation.told_at else "") if part
    )
    facts = (
        ("Property", inspection.property_address),
        ("Where", observation.place),
        ("Danger found", observation.text),
        ("What it means", entry.plain if entry else None),
        ("Code", "C1, danger present"),
        ("Told on the spot to", people or "not recorded yet"),
        ("Made safe", _made_safe(observation)),
        ("To be done", entry.remedy if entry else None),
        ("Inspection", inspection.reference),
    )
    return letter(
        issue,
        column="",
        subject=f"Danger at {inspection.property_address or 'your property'}",
        to=", ".join(part for part in (observation.told_to, inspection.property_address) if part)
        or "To the person in charge",
        opening="During our inspection we found the danger described here. Somebody could be hurt by it as it is. "
        "We told the person in charge at once; this confirms it in writing.",
        facts=[{"label": label, "value": value} for label, value in facts if value],
        body=[
            "Please keep everybody away from it, do not switch on again what was switched off for it, and have it put "
            "right without delay by a competent electrician, who gives you a certificate for the work.",
            "If something smokes, sparks or gives a shock: switch off at the main switch if you can reach it safely, "
            "and call for help.",
        ],
        foot=f"{inspection.reference or ''} · notice of danger".strip(" ·"),
    )


def _made_safe(observation: Observation) -> str:
    with_whom = f", with the consent of {observation.consent_of}" if observation.consent_of else ""
    match observation.made_safe:
        case "made safe":
            return f"yes{with_whom}. {observation.made_safe_how or ''}".strip()
        case "refused":
            return "no: making it safe was refused. The danger is still there."
        case "not possible now":
            how = observation.made_safe_how or ""
            return f"no: it was not possible at the time. The danger is still there. {how}".strip()
    return "not recorded yet; take it that the danger is still there"
