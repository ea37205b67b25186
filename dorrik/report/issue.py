"""Issuing a report: the document, the PDF and its SHA-256 are frozen together; a correction is a new issue."""

import hashlib
import json
from collections.abc import Sequence
from datetime import date
from typing import Any

from sqlalchemy import Connection

from dorrik.core import document
from dorrik.core.judgement_json import as_json
from dorrik.core.readiness import Hindrance, readiness
from dorrik.report import glyphs, pdf
from dorrik.report.attachment import attachment
from dorrik.report.content import Issue, content
from dorrik.report.content.photos import Fetch, none_kept
from dorrik.store import reports
from dorrik.store.engine import new_id, now
from dorrik.store.inspections import KeptInspection
from dorrik.store.judging import judged
from dorrik.store.people import Person, firm_details
from dorrik.store.reports import Issued


class NotReady(Exception):
    """The report cannot be issued yet; `points` say what to mend."""

    def __init__(self, points: Sequence[Hindrance]) -> None:
        super().__init__("; ".join(point.text for point in points))
        self.points = tuple(points)


class Moved(Exception):
    """The inspection has changed since the person looked at it."""


def on_paper(connection: Connection, who: Person, number: int, on: date, **correction: Any) -> Issue:
    """An issue on the firm's paper, by that person; number 0 for what is not issued."""
    firm = firm_details(connection, who.firm_id)
    return Issue(
        number=number,
        issued_on=on,
        signed_by=who.name,
        role=who.role,
        firm_name=firm["name"],
        firm_address=firm["address"] or "",
        firm_phone=firm["phone"] or "",
        firm_email=firm["email"] or "",
        firm_line=firm["letter_line"] or "",
        **correction,
    )


def preview(
    connection: Connection, kept: KeptInspection, who: Person, photos: Fetch = none_kept
) -> tuple[tuple[Hindrance, ...], list[str]]:
    """What stands in the way of issuing, and the draft's pages as SVG."""
    inspection, judgement = judged(connection, kept)
    said = content(inspection, judgement, on_paper(connection, who, 0, now().date()), photos)
    return (*readiness(inspection, judgement), *_letters(said)), pdf.pages(said, {})


def _letters(said: dict[str, Any]) -> tuple[Hindrance, ...]:
    """What no font has a letter for is said before the report is issued with its code in that place."""
    signs = glyphs.missing(said)
    if not signs:
        return ()
    told = ", ".join(f"{sign} ({glyphs.code_point(sign)[1:-1]})" for sign in signs[:8])
    more = f" and {len(signs) - 8} more" if len(signs) > 8 else ""
    text = f"No font here has a letter for {told}{more}: the report prints the code in its place."
    return (Hindrance("look", "report", text),)


def issue(
    connection: Connection,
    kept: KeptInspection,
    who: Person,
    seen_seq: int,
    reason: str | None,
    photos: Fetch = none_kept,
) -> Issued:
    """Freeze the inspection as it stands, in the caller's transaction, which holds the inspection's row.

    seen_seq: the sequence number that the person looked at; reason: why an earlier issue is corrected, needed from
    the second on; photos: what is shown of each, by its digest. Raises Moved or NotReady.
    """
    if kept.seq != seen_seq:
        raise Moved
    inspection, judgement = judged(connection, kept)
    earlier = reports.issues(connection, kept.id)
    if earlier and earlier[-1].seq == kept.seq and (reason or "").strip() in ("", earlier[-1].reason or ""):
        # Sent again after a broken line, or from two devices at once: that is this issue, not another.
        return earlier[-1]
    points = [point for point in readiness(inspection, judgement) if point.level == "must"]
    if earlier and not (reason or "").strip():
        points.append(Hindrance("must", "report", f"Say what issue {len(earlier) + 1} corrects."))
    if points:
        raise NotReady(points)
    at = now().replace(microsecond=0)
    number = len(earlier) + 1
    replaces = earlier[-1].number if earlier else None
    said = content(
        inspection,
        judgement,
        on_paper(connection, who, number, at.date(), replaces=replaces, reason=reason if earlier else None),
        photos,
    )
    frozen = document.write(inspection) | {
        "judgement": as_json(judgement),
        "issue": {"number": number, "issued_at": f"{at.isoformat()}Z", "issued_by": who.name, "replaces": replaces},
    }
    made = pdf.pdf(said, attachment(frozen), at)
    found = Issued(
        id=new_id(),
        number=number,
        issued_at=at,
        issued_by=who.name,
        outcome=inspection.declared_outcome or judgement.outcome,
        replaces=replaces,
        reason=reason if earlier else None,
        sha256=hashlib.sha256(made).hexdigest(),
        seq=kept.seq,
    )
    reports.keep(connection, kept.id, who.id, found, json.dumps(frozen, ensure_ascii=False), made)
    return found
