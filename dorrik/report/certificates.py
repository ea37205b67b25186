"""Issuing the certificate of a repair: words, data and PDF are frozen together, as a report's are; it has one issue."""

import hashlib
import json
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from sqlalchemy import Connection

from dorrik.core.inspection.kept_inspection import KeptInspection
from dorrik.core.inspection.records import Repair
from dorrik.core.judging.served.repairs import RepairView
from dorrik.report import minor_works, press
from dorrik.report.content import Issue
from dorrik.report.issue import on_paper
from dorrik.store.database.engine import new_id, now
from dorrik.store.inspections.judging import judged
from dorrik.store.people.people import Person
from dorrik.store.reports import reports
from dorrik.store.reports.reports import MINOR_WORKS, Issued


class NoRepair(LookupError):
    """The inspection has no such repair."""


class NotComplete(Exception):
    """The certificate cannot be issued yet; `lacks` says what is missing, or does not hold."""

    def __init__(self, lacks: tuple[str, ...]) -> None:
        super().__init__("; ".join(lacks))
        self.lacks = lacks


@dataclass(frozen=True, slots=True)
class CertificateCopy:
    """A certificate before it is typeset. number: 0 for a draft; already: the issue that there is."""

    said: dict[str, Any]
    number: int
    seq: int
    at: datetime
    repair_id: str
    already: Issued | None = None


def draft(connection: Connection, kept: KeptInspection, who: Person, repair_id: str) -> CertificateCopy:
    """As it would be issued now. Raises NoRepair."""
    return _copy(connection, kept, who, repair_id, 0)


def fair_copy(connection: Connection, kept: KeptInspection, who: Person, repair_id: str) -> CertificateCopy:
    """To be issued. Raises NoRepair and NotComplete."""
    there = reports.issues(connection, kept.id, MINOR_WORKS)
    already = next((issue for issue in there if issue.repair_id == repair_id), None)
    return _copy(connection, kept, who, repair_id, len(there) + 1, already)


def _copy(
    connection: Connection, kept: KeptInspection, who: Person, repair_id: str, number: int,
    already: Issued | None = None,
) -> CertificateCopy:  # fmt: skip
    inspection, judgement = judged(connection, kept)
    repair: Repair | None = next((repair for repair in inspection.repairs if repair.id == repair_id), None)
    view: RepairView | None = next((repair for repair in judgement.repairs if repair.id == repair_id), None)
    if repair is None or view is None:
        raise NoRepair(repair_id)
    if number and already is None and not view.complete:
        raise NotComplete((*view.lacks, *(f"{figure}: does not hold" for figure in view.failing)))
    at = now().replace(microsecond=0)
    paper: Issue = on_paper(connection, who, number, at.date())
    named = f"{inspection.reference or 'certificate'}-M{number}" if number else f"{inspection.reference or ''} draft"
    certificate_words = minor_works.words(inspection, judgement, repair, view, paper, named.strip())
    return CertificateCopy(certificate_words, number, kept.seq, at, repair_id, already)


def typeset(copy: CertificateCopy) -> bytes:
    """The certificate as PDF, with its data inside. Raises press.TypesettingTooLarge or Late."""
    return press.certificate(copy.said, minor_works.data(copy.said), copy.at)


def keep(
    connection: Connection, kept: KeptInspection, who: Person, copy: CertificateCopy, pdf: bytes
) -> tuple[Issued | None, bool]:
    """Keep it in the caller's transaction, which holds the inspection's row. Returns the certificate, None where
    anything has come since the copy was made, and whether it is this copy."""
    there = reports.issues(connection, kept.id, MINOR_WORKS)
    already = next((issue for issue in there if issue.repair_id == copy.repair_id), None)
    if already is not None:
        # The same was asked for twice at once: the first is the certificate.
        return already, False
    if kept.seq != copy.seq or len(there) + 1 != copy.number:
        return None, False
    issued = Issued(
        id=new_id(),
        number=copy.number,
        issued_at=copy.at,
        issued_by=who.name,
        outcome="",
        replaces=None,
        reason=None,
        sha256=hashlib.sha256(pdf).hexdigest(),
        seq=copy.seq,
        repair_id=copy.repair_id,
    )
    document = json.dumps(minor_works.data(copy.said), ensure_ascii=False)
    reports.keep(connection, kept.id, who.id, issued, document, pdf, MINOR_WORKS)
    return issued, True
