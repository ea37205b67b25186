"""The letter to the network operator: Ze on a TN supply is above what is usually declared (rule 3.1)."""

from datetime import date
from typing import Any

from dorrik.core.inspection import KINDS, Inspection
from dorrik.core.judgement import Judgement
from dorrik.report import press
from dorrik.report.content import Issue, day, shown

#: Observations on Ze that the operator has to look into.
CAUSES = ("ze-above-maximum", "no-earth-at-origin")


class NoCause(Exception):
    """Nothing measured gives a reason to write; the message says what would."""


def content(inspection: Inspection, judgement: Judgement, issue: Issue) -> dict[str, Any]:
    """Everything the letter says. issue: who writes, when, on whose paper. Raises NoCause without a cause."""
    note = next((n for n in judgement.notes if n.field == "ze_ohm" and n.verdict.observation in CAUSES), None)
    if note is None or inspection.earthing == "TT":
        raise NoCause("The letter is for a Ze on TN that was measured above what the operator usually declares.")
    specs = KINDS["inspection"].fields
    facts = [
        {"label": "Address of the supply", "value": inspection.property_address or "–"},
        {"label": "Measured on", "value": day(inspection.inspected_on)},
        {"label": "Ze, line to the supply's earth", "value": shown(inspection.ze_ohm, "Ω")},
        {"label": f"Usually declared for {inspection.earthing}", "value": f"{note.verdict.limit:g} Ω at most"},
        {"label": specs["pefc_ka"].label, "value": shown(inspection.pefc_ka, "kA")},
        {"label": specs["pscc_ka"].label, "value": shown(inspection.pscc_ka, "kA")},
        {"label": "Service fuse", "value": shown(inspection.service_fuse_a, "A")},
    ]
    parallel = (
        "The earthing conductor was disconnected from all bonding and from the installation for this measurement."
        if inspection.ze_parallel_removed
        else "It is not recorded that parallel paths were disconnected for this measurement."
    )
    return {
        "subject": f"Earth of the supply at {inspection.property_address or 'the address below'}",
        "firm": issue.letterhead(),
        "to": "To the distribution network operator",
        "on": day(issue.issued_on),
        "signed_by": issue.signed_by,
        "role": issue.role,
        "opening": "During a periodic inspection of the installation at this address "
        f"({inspection.reference or 'no reference'}) we measured the external earth fault loop impedance "
        "and found it above what is usually declared.",
        "facts": facts,
        "body": [
            parallel,
            "A fault in the installation may not be disconnected in the time that it needs. We have stopped live tests "
            "and told the person in charge.",
            "Please look at the earth of this supply, tell us what you find and what you declare for it, and when we "
            "can measure again. Until then the inspection is on hold.",
        ],
        "foot": f"{judgement.rule_book.name} · {judgement.rule_book.cite(note.verdict.source)}",
    }


def letter(inspection: Inspection, judgement: Judgement, issue: Issue, at: date) -> bytes:
    """The letter as PDF."""
    return press.letter("facts_letter", content(inspection, judgement, issue), at)
