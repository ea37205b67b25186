"""Is a paper genuine? Anybody who holds it may ask, by what stands on it."""

import re

from fastapi import Request

from dorrik.api.common_types import Problem
from dorrik.api.problems import RESPONSES, ProblemError
from dorrik.api.report_types import CheckedOut, CheckIn
from dorrik.api.routing import router as make_router
from dorrik.api.work import source
from dorrik.store.database.engine import snapshots
from dorrik.store.people import attempts
from dorrik.store.reports import reports

router = make_router("/api", "checks", RESPONSES)
_UNKNOWN = (
    "No report with this number has this check code. Compare both with the paper, letter by letter. If they are right, "
    "ask the firm that it names, by an address that you know from elsewhere."
)


@router.post("/check", responses={404: {"model": Problem}, 429: {"model": Problem}})
def check(request: Request, given: CheckIn) -> CheckedOut:
    """Which report that is, and whether another replaces it; 404 where there is none."""
    engine = request.app.state.engine
    try:
        attempt = attempts.begin_check(engine, source(request))
    except attempts.Wait as error:
        seconds = max(1, round(error.seconds))
        message = f"Too many attempts. Try again in {seconds} seconds."
        raise ProblemError(429, "wait", message, wait_s=seconds) from None
    digits = re.sub(r"[^0-9A-F]", "", given.code.upper())
    code = "-".join((digits[:4], digits[4:8], digits[8:]))
    with snapshots(engine).begin() as connection:
        checked = reports.checked(connection, given.reference.strip(), code)
    if checked is None:
        raise ProblemError(404, "unknown", _UNKNOWN)
    attempts.right(engine, attempt)
    return CheckedOut.model_validate(checked, from_attributes=True)
