"""What a client's own page says of a report: the words of page one, each observation with its photos, the duties.

Frozen with the report, so that the page never says anything else than the paper.
"""

from collections.abc import Mapping
from dataclasses import asdict
from typing import Any

from dorrik.core.book.codes import FOR_A_LANDLORD
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.judgement import Judgement
from dorrik.core.judging.served.repairs import settled
from dorrik.core.judging.topics.next_inspection import LET
from dorrik.core.work import remedials
from dorrik.core.work.remedials import Figure, Required
from dorrik.report.content import Issue, outcome
from dorrik.report.content.photos import printed


def words(inspection: Inspection, judgement: Judgement, issue: Issue) -> dict[str, Any]:
    """The page as plain data. issue: as it is printed."""
    outcome_words = outcome.section(settled(inspection, judgement.repairs), judgement)
    pinned = printed(inspection)
    items = remedials.required(inspection, judgement)
    let = inspection.tenure in LET
    observations = {observation.id: observation for observation in inspection.observations}
    return {
        "firm": issue.letterhead(),
        "title": judgement.rule_book.report,
        "rule_book": judgement.rule_book.name,
        "caution": judgement.rule_book.caution,
        "home": ", ".join(p for p in (inspection.installation_name, inspection.property_address) if p),
        "reference": inspection.reference or "",
        "number": issue.number,
        "issued_on": issue.issued_on.isoformat(),
        "inspected_on": inspection.inspected_on or "",
        "outcome": outcome_words["outcome"],
        "sentence": outcome_words["plainly"],
        "reason": outcome_words["outcome_reason"] or "",
        "rests_on": outcome_words["rests_on"],
        "next": outcome_words["next"],
        "timeline": outcome_words["timeline"],
        "meaning": [{"code": code, "means": means} for code, means in FOR_A_LANDLORD.items()],
        # Duties follow from where the home lies, and only where it is let.
        "nation": (inspection.nation or "") if let else "",
        "items": [asdict(item) for item in items],
        "photos": {
            item.id: [
                {"sha256": photo.sha256, "words": photo.caption or observations[item.id].text or "photo"}
                for photo in pinned.get(item.id, [])
            ]
            for item in items
        },
    }


def items(client_words: Mapping[str, Any]) -> tuple[Required, ...]:
    """The items as they were frozen in `words`."""
    return tuple(
        Required(**client_words_of | {"figures": tuple(Figure(**figure) for figure in client_words_of["figures"])})
        for client_words_of in client_words["items"]
    )
