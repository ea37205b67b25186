"""What was not measured or looked at, as limitations of the report: each with its reason and what it concerns."""

from dorrik.core.book.rule_book import RuleBook
from dorrik.core.home.placing import placed
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.coverage.limitations import gathered


def limited(inspection: Inspection, rule_book: RuleBook) -> list[dict[str, str]]:
    """What, reason and with whom it was agreed (nobody) of each thing that was limited, in the order of the work.

    The same with the same reason is one limitation, with all that it concerns.
    """
    by_reason: dict[tuple[str, str], list[str]] = {}
    # What somebody agreed about the very thing stands among the limitations already.
    agreed = {limitation.about_id for limitation in inspection.limitations if limitation.about_id}
    for limit in gathered(placed(inspection)):
        if limit.entity_id in agreed:
            continue
        by_reason.setdefault((rule_book.translate(limit.what), limit.why), []).append(limit.whom)
    return [
        {"what": f"{what}: {', '.join(whom)}", "reason": why, "agreed_with": ""}
        for (what, why), whom in by_reason.items()
    ]
