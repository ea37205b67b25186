"""The letter on what was left disconnected, or left out, by agreement: what it is, with whom that was agreed, and
what it means for whoever uses the home."""

from typing import Any

from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.judgement import Judgement
from dorrik.report.content import Issue
from dorrik.report.letters import letter


class NothingSetAside(Exception):
    """Nothing was set aside by an agreement; the message says so."""


def words(inspection: Inspection, judgement: Judgement, issue: Issue) -> dict[str, Any]:
    """What the letter says. Raises NothingSetAside."""
    standing = [aside for aside in judgement.set_aside if aside.in_force and not aside.gone]
    if not standing:
        raise NothingSetAside("Nothing is left disconnected or out of scope by an agreement.")
    means = list(dict.fromkeys(f"{aside.state.capitalize()}: {aside.means}" for aside in standing))
    where = inspection.property_address or "your property"
    return letter(
        issue,
        column="As agreed",
        subject=f"Left disconnected or left out by agreement at {where}",
        to=", ".join(p for p in (inspection.client_name, inspection.client_address) if p) or "To the client",
        opening=f"At our inspection of {where} ({inspection.reference or 'no reference'}) the following was agreed. "
        "This confirms it in writing.",
        facts=[
            {"label": aside.name, "value": ". ".join(p for p in (aside.says, aside.why) if p)} for aside in standing
        ],
        body=[*means, "Please tell whoever lives or works there, and keep this letter with the report."],
        foot=f"{judgement.rule_book.name} · {inspection.reference or ''}".strip(" ·"),
    )
