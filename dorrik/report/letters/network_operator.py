"""Letters to the network operator: of a Ze above what is usually declared (rule 3.1), and of every other fault on its
side."""

from collections.abc import Sequence
from typing import Any

from dorrik.core.inspection.kinds import KINDS
from dorrik.core.inspection.network_operator import OperatorCall, faults
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.judgement import Judgement
from dorrik.report.content import Issue, day, shown
from dorrik.report.content.photos import Fetch, none_kept, of_the_supply
from dorrik.report.content.words import moment
from dorrik.report.letters import letter

#: Observations on Ze that the operator has to look into.
CAUSES = ("ze-above-maximum", "no-earth-at-origin")


#: Photos that go with a letter; all of them stay with the inspection.
MOST_PHOTOS = 4


class NoCause(Exception):
    """Nothing measured gives a reason to write; the message says what would."""


def of_ze(inspection: Inspection, judgement: Judgement, issue: Issue) -> dict[str, Any]:
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
    return letter(
        issue,
        subject=f"Earth of the supply at {inspection.property_address or 'the address below'}",
        to="To the distribution network operator",
        opening="During a periodic inspection of the installation at this address "
        f"({inspection.reference or 'no reference'}) we measured the external earth fault loop impedance "
        "and found it above what is usually declared.",
        facts=facts,
        body=[
            parallel,
            "A fault in the installation may not be disconnected in the time that it needs. We have stopped live tests "
            "and told the person in charge.",
            "Please look at the earth of this supply, tell us what you find and what you declare for it, and when we "
            "can measure again. Until then the inspection is on hold.",
        ],
        foot=f"{judgement.rule_book.name} · {judgement.rule_book.cite(note.verdict.source)}",
    )


def of_call(
    inspection: Inspection, judgement: Judgement, issue: Issue, call: OperatorCall, others: Sequence[str] = (),
    photos: Fetch = none_kept,
) -> dict[str, Any]:  # fmt: skip
    """The letter that goes with a call, for every kind of fault on the operator's side.

    others: addresses of the homes that share the supply: one fault, one letter; photos: where what is shown of each
    lies, by its digest. Raises NoCause where the call does not say what it is about.
    """
    fault = faults().get(call.fault or "")
    if fault is None:
        raise NoCause("Say what the call is about, then write.")
    specs = KINDS["inspection"].fields
    known = [(name, getattr(inspection, name)) for name in fault.fields]
    facts = [
        {"label": "Address of the supply", "value": inspection.property_address or "–"},
        *([{"label": "The same supply feeds", "value": "; ".join(others)}] if others else []),
        {"label": "Seen on", "value": day(inspection.inspected_on) or day((call.called_at or "")[:10] or None)},
        *(
            {"label": specs[name].label, "value": shown(value, specs[name].unit)}
            for name, value in known
            if value is not None
        ),
    ]
    if call.reference:
        facts.append({"label": "Your reference", "value": call.reference})
    body = [fault.asks]
    if fault.urgent:
        body.append("Somebody may be in danger by it: we have told the person in charge. Please treat it as urgent.")
    if call.promised_by:
        body.append(f"You promised to see to it by {moment(call.promised_by)}.")
    if inspection.held_at:
        body.append(f"{'The inspections of these homes are' if others else 'The inspection is'} on hold until then.")
    return letter(
        issue,
        subject=f"{fault.label} at {inspection.property_address or 'the address below'}",
        to="To the distribution network operator",
        opening="During an inspection of the installation at this address "
        f"({inspection.reference or 'no reference'}) we found a fault on your side. "
        f"{' '.join(part for part in (fault.found, call.what) if part)}",
        facts=facts,
        body=body,
        photos=of_the_supply(inspection, photos, MOST_PHOTOS),
        foot=judgement.rule_book.name,
    )
