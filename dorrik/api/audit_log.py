"""The firm's audit log: to read, and as a table to take along."""

import csv
import io
import json
from typing import get_args

from fastapi import Query, Request, Response

from dorrik.api.account_types import AuditLine, AuditOut
from dorrik.api.common_types import Problem
from dorrik.api.files import download
from dorrik.api.problems import RESPONSES
from dorrik.api.routing import router as make_router
from dorrik.api.work import note, work
from dorrik.report.tables import as_text
from dorrik.store.people import audit

router = make_router("/api", "audit", {**RESPONSES, 403: {"model": Problem}})
#: Lines of one export; a year of a large firm has fewer.
MOST = 100_000


@router.get("/audit")
def lines(
    request: Request,
    before: int | None = Query(default=None, ge=1, le=2**31 - 1),
    action: str | None = Query(default=None, max_length=40),
) -> AuditOut:
    """What was done about rights, settings, exports and issues, and who came in or did not; the latest first."""
    with work(request, "read the audit log") as (connection, me):
        audit_entries = audit.lines(connection, me.firm_id, before=before, action=action)
        count = audit.count(connection, me.firm_id)
    return AuditOut(
        count=count,
        actions=list(get_args(audit.Action)),
        lines=[AuditLine.model_validate(line, from_attributes=True) for line in audit_entries],
    )


@router.get("/audit.csv", response_class=Response, responses={200: {"content": {"text/csv": {}}}})
def table(request: Request) -> Response:
    """The whole log as a table."""
    with work(request, "read the audit log") as (connection, me):
        audit_entries = audit.lines(connection, me.firm_id, limit=MOST)
        note(request, connection, me, "audit exported", lines=len(audit_entries))
    out = io.StringIO()
    rows = csv.writer(out)
    rows.writerow(("at (UTC)", "person", "action", "subject", "detail", "from"))
    for line in audit_entries:
        detail = json.dumps(line.detail, ensure_ascii=False) if line.detail else ""
        cells = (line.at.isoformat(), line.person, line.action, line.subject, detail, line.source)
        rows.writerow([as_text(cell) for cell in cells])
    return download("\ufeff" + out.getvalue(), "audit.csv", "text/csv")
