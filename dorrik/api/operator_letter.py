"""The letter to the network operator: one for each fault, for every home that shares the supply."""

import tempfile
from pathlib import Path

from fastapi import Query, Request, Response

from dorrik.api.common_types import Problem
from dorrik.api.files import download
from dorrik.api.pictures import shown_in
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import work
from dorrik.journal import share
from dorrik.report import press
from dorrik.report.issue import on_paper
from dorrik.report.letters import network_operator
from dorrik.store.database.engine import now
from dorrik.store.inspections import inspections, judging, shared_intakes

router = make_router("/api/inspections", "notices", RESPONSES)


@router.get(
    "/{inspection_id}/operator-letter.pdf",
    response_class=Response,
    responses={200: {"content": {"application/pdf": {}}}, 409: {"model": Problem}},
)
def operator_letter(
    request: Request, inspection_id: str, call: str | None = Query(default=None, pattern="^[0-9a-f-]{36}$")
) -> Response:
    """The letter to the network operator, as things stand now: of a call, or of a Ze that gives a reason to write; 409
    where neither does."""
    with work(request) as (connection, me):
        kept = inspections.load(connection, inspection_id, me.firm_id)
        if kept is None:
            raise not_found()
        paper = on_paper(connection, me, 0, now().date())
        inspection, judgement = judging.judged(connection, kept)
        group = shared_intakes.members(connection, inspection_id)
        homes = share.homes(connection, me.firm_id, group)
    rung = next((operator_call for operator_call in inspection.operator_calls if operator_call.id == call), None)
    if call is not None and rung is None:
        raise not_found("call")
    others = [str(home.values.get("property_address") or home.reference) for home in homes if home.id != inspection_id]
    with tempfile.TemporaryDirectory(prefix="dorrik-letter-") as folder:
        try:
            letter_words = (
                network_operator.of_ze(inspection, judgement, paper)
                if rung is None
                else network_operator.of_call(
                    inspection, judgement, paper, rung, others, shown_in(request, me, Path(folder))
                )
            )
        except network_operator.NoCause as error:
            raise ProblemError(409, "no-cause", str(error)) from None
        letter = press.facts_letter(letter_words, paper.issued_on)
    return download(letter, f"operator-{inspection.reference or 'letter'}.pdf", "application/pdf")
