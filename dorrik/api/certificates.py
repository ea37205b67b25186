"""Certificates of repairs: the draft to look at, issuing, and those that were issued."""

from typing import Any

from fastapi import Request, Response
from pydantic import BaseModel
from sqlalchemy import Connection

from dorrik.api.common_types import Moment, Problem
from dorrik.api.files import download
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.whole_inspection import load_whole
from dorrik.api.work import must, note, work
from dorrik.core.inspection.change import Change
from dorrik.core.inspection.kept_inspection import KeptInspection
from dorrik.core.work.workflow import state_of
from dorrik.journal.apply import apply
from dorrik.journal.change import Author
from dorrik.report import certificates as issuing
from dorrik.store.database.engine import new_id, now
from dorrik.store.inspections import inspections
from dorrik.store.people.people import Person
from dorrik.store.reports import reports
from dorrik.store.reports.reports import MINOR_WORKS, Issued

router = make_router("/api/inspections", "certificates", RESPONSES)
#: The device under which the number of a certificate stands in the journal.
DEVICE = "issued"
_PDF: dict[int | str, dict[str, Any]] = {200: {"content": {"application/pdf": {}}}}


class CertificateOut(BaseModel):
    """A certificate that was issued: of which repair, its number, and the SHA-256 of its PDF."""

    id: str
    repair_id: str
    number: int
    issued_at: Moment
    issued_by: str
    sha256: str


@router.get("/{inspection_id}/certificates")
def issued(request: Request, inspection_id: str) -> list[CertificateOut]:
    """Every certificate of the inspection, oldest first."""
    with work(request, only_reads=True) as (connection, me):
        if inspections.sequence(connection, inspection_id, me.firm_id) is None:
            raise not_found()
        issues = reports.issues(connection, inspection_id, MINOR_WORKS)
    return [_out(certificate) for certificate in issues]


@router.get("/{inspection_id}/repairs/{repair_id}/certificate.pdf", response_class=Response, responses=_PDF)
def draft(request: Request, inspection_id: str, repair_id: str) -> Response:
    """The certificate as it would be issued now, marked as a draft."""
    with work(request, only_reads=True) as (connection, me):
        kept = load_whole(connection, me, inspection_id)
        try:
            copy = issuing.draft(connection, kept, me, repair_id)
        except issuing.NoRepair:
            raise not_found("repair") from None
    return download(issuing.typeset(copy), "certificate-draft.pdf", "application/pdf")


@router.post(
    "/{inspection_id}/repairs/{repair_id}/certificate",
    status_code=201,
    responses={409: {"model": Problem}, 422: {"model": Problem}},
)
def issue(request: Request, inspection_id: str, repair_id: str) -> CertificateOut:
    """Issue the certificate: words, data and PDF are frozen. Asked for again, it is the same one."""
    with work(request, only_reads=True) as (connection, me):
        kept = _to_issue(connection, me, inspection_id)
        try:
            copy = issuing.fair_copy(connection, kept, me, repair_id)
        except issuing.NoRepair:
            raise not_found("repair") from None
        except issuing.NotComplete as error:
            message = f"The certificate is not issued yet: {error}."
            fields = [{"field": "repair", "message": lack} for lack in error.lacks]
            raise ProblemError(422, "not-complete", message, fields=fields) from None
    if copy.already is not None:
        return _out(copy.already)
    # Nobody waits while it is typeset; what came since is told, and the figures looked at again.
    pdf = issuing.typeset(copy)
    with work(request) as (connection, me):
        kept = _to_issue(connection, me, inspection_id, lock=True)
        certificate, fresh = issuing.keep(connection, kept, me, copy, pdf)
        if certificate is None:
            raise ProblemError(409, "moved", "The inspection has changed since. Look at the certificate again.")
        if fresh:
            _numbered(connection, me, kept, copy)
            note(request, connection, me, "certificate issued", copy.said["number"], sha256=certificate.sha256)
    return _out(certificate)


def _numbered(connection: Connection, me: Person, kept: KeptInspection, copy: issuing.CertificateCopy) -> None:
    values = {"certificate": copy.said["number"], "certified_at": f"{copy.at.isoformat()}Z"}
    changes = [
        Change(new_id(), "repair", copy.repair_id, field, value, kept.seq, now(), DEVICE)
        for field, value in values.items()
    ]
    apply(connection, me.firm_id, Author(me.id, me.role, issues=True), kept.id, changes)


def _to_issue(connection: Connection, me: Person, inspection_id: str, *, lock: bool = False) -> KeptInspection:
    must(me, "certify")
    kept = load_whole(connection, me, inspection_id, lock=lock)
    held = kept.entities[kept.id].values["held_at"] is not None
    must(me, "certify", state_of(held=held, issued=False))
    return kept


def _out(copy: Issued) -> CertificateOut:
    return CertificateOut(
        id=copy.id, repair_id=copy.repair_id or "", number=copy.number, issued_at=copy.issued_at,
        issued_by=copy.issued_by, sha256=copy.sha256,
    )  # fmt: skip
