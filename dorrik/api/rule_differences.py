"""Where a device judged an inspection otherwise than this server: the same state by the same edition of the rules.

That must not be: it is written down with the sequence number, at which the journal has the whole document, so that
whoever looks after the program can judge it again.
"""

import logging

from fastapi import Request
from pydantic import Field

from dorrik.api.common_types import Strict
from dorrik.api.problems import RESPONSES, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.rules_edition import edition
from dorrik.api.work import note, work
from dorrik.core.judging.wire.judgement import JudgementView
from dorrik.store.inspections import inspections

router = make_router("/api", "inspections", RESPONSES)
log = logging.getLogger("dorrik.rules")

_PARTS = frozenset(JudgementView.__dataclass_fields__)


class RuleDifferenceIn(Strict):
    """The sequence number of the state that both judged, and the parts of the judgement that are not the same."""

    seq: int = Field(ge=0, le=2**31 - 1)
    parts: list[str] = Field(min_length=1, max_length=len(_PARTS))


@router.post("/inspections/{inspection_id}/rule-differences", status_code=204)
def tell_difference(request: Request, inspection_id: str, difference: RuleDifferenceIn) -> None:
    """A device tells that its verdicts are not the server's."""
    parts = sorted(_PARTS & set(difference.parts))
    with work(request) as (connection, me):
        if inspections.sequence(connection, inspection_id, me.firm_id) is None:
            raise not_found()
        note(
            request,
            connection,
            me,
            "verdicts differed",
            inspection_id,
            seq=difference.seq,
            parts=parts,
            rules=edition(),
        )
    log.warning(
        "Verdicts on %s at %d differ on a device: %s (rules %s)", inspection_id, difference.seq, parts, edition()
    )
