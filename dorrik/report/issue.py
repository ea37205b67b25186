"""Issuing a report: the document, the PDF and its SHA-256 are frozen together; a correction is a new issue."""

import hashlib
import json
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime
from pathlib import Path
from typing import Any
from urllib.parse import quote

from sqlalchemy import Connection

from dorrik.core.inspection import document
from dorrik.core.inspection.kept_inspection import KeptInspection
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.judgement import Judgement
from dorrik.core.judging.readiness import Hindrance, readiness
from dorrik.core.judging.wire.judgement import as_json
from dorrik.report import glyphs, press
from dorrik.report.attachment import attachment
from dorrik.report.content import Issue, Signature, content, for_client
from dorrik.report.content.photos import Fetch, none_kept
from dorrik.store.database.engine import new_id, now
from dorrik.store.inspections.crossings import crossings
from dorrik.store.inspections.judging import judged
from dorrik.store.people.people import Person, firm_details
from dorrik.store.reports import reports
from dorrik.store.reports.reports import Issued

#: What is missing where nobody submitted it, or it was changed since.
UNSIGNED = "Whoever inspected has not signed for it as it is now. Have it signed and submitted."


class NotReady(Exception):
    """The report cannot be issued yet; `points` say what to mend."""

    def __init__(self, points: Sequence[Hindrance]) -> None:
        super().__init__("; ".join(point.text for point in points))
        self.points = tuple(points)


class MovedOn(Exception):
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
        firm_logo=firm["logo"] or "",
        **correction,
    )


@dataclass(frozen=True, slots=True)
class ReportDraft:
    """A report that is not issued, as it stood at a sequence number, before it is typeset."""

    seq: int
    inspection: Inspection
    judgement: Judgement
    paper: Issue
    undecided: tuple[Hindrance, ...] = ()


def undecided(connection: Connection, kept: KeptInspection) -> tuple[Hindrance, ...]:
    """What devices that did not see each other entered differently, while nobody has decided: it stops a signature."""
    count = crossings(connection, kept).count
    if not count:
        return ()
    where = "At one place" if count == 1 else f"At {count} places"
    text = f"{where} two devices entered different things without seeing each other: choose what to keep."
    return (Hindrance("must", "report", text),)


def draft(connection: Connection, kept: KeptInspection, who: Person) -> ReportDraft:
    """What a draft is made of, read in the caller's transaction."""
    inspection, judgement = judged(connection, kept)
    return ReportDraft(
        kept.seq, inspection, judgement, on_paper(connection, who, 0, now().date()), undecided(connection, kept)
    )


def preview(
    hindrances: ReportDraft, folder: Path, photos: Fetch = none_kept
) -> tuple[tuple[Hindrance, ...], list[tuple[float, float]]]:
    """What stands in the way of issuing, and the sizes of the draft's pages (pt), which are put into the folder.

    photos: where what is shown of each lies, by its digest. Raises press.TypesettingTooLarge.
    """
    report_content = content(hindrances.inspection, hindrances.judgement, hindrances.paper, photos)
    points = (*hindrances.undecided, *readiness(hindrances.inspection, hindrances.judgement), *_letters(report_content))
    return points, press.pages(report_content, folder)


def _letters(report_content: dict[str, Any]) -> tuple[Hindrance, ...]:
    """What no font has a letter for is said before the report is issued with its code in that place."""
    signs = glyphs.missing(report_content)
    if not signs:
        return ()
    sign_list = ", ".join(f"{sign} ({glyphs.code_point(sign)[1:-1]})" for sign in signs[:8])
    more = f" and {len(signs) - 8} more" if len(signs) > 8 else ""
    text = f"No font here has a letter for {sign_list}{more}: the report prints the code in its place."
    return (Hindrance("look", "report", text),)


@dataclass(frozen=True, slots=True)
class Fair:
    """A fair copy: what is to be issued, frozen and not typeset yet; or the issue that says it already."""

    already: Issued | None
    number: int
    replaces: int | None
    reason: str | None
    seq: int
    outcome: str
    at: datetime
    said: Issue
    inspection: Inspection
    judgement: Judgement


def fair_copy(
    connection: Connection, kept: KeptInspection, who: Person, seen_seq: int, reason: str | None,
    signed: Sequence[Signature] = (),
) -> Fair:  # fmt: skip
    """Freeze the inspection as it stands in the caller's transaction.

    seen_seq: the sequence number that the person looked at; reason: why an earlier issue is corrected, needed from
    the second on; signed: who signs for it and who authorises it, none where that is still missing. Raises MovedOn or
    NotReady.
    """
    if kept.seq != seen_seq:
        raise MovedOn
    inspection, judgement = judged(connection, kept)
    earlier = reports.issues(connection, kept.id)
    at = now().replace(microsecond=0)
    number = len(earlier) + 1
    replaces = earlier[-1].number if earlier else None
    why = (reason or "").strip()
    # Sent again after a broken line, or from two devices at once: that is this issue, not another.
    again = bool(earlier) and earlier[-1].seq == kept.seq and why in ("", earlier[-1].reason or "")
    if not again:
        points = [point for point in readiness(inspection, judgement) if point.level == "must"]
        points += undecided(connection, kept)
        if earlier and not why:
            points.append(Hindrance("must", "report", f"Say what issue {number} corrects."))
        if not signed:
            points.append(Hindrance("must", "report", UNSIGNED))
        if points:
            raise NotReady(points)
    corrects = reason if earlier else None
    return Fair(
        already=earlier[-1] if again else None,
        number=number,
        replaces=replaces,
        reason=corrects,
        seq=kept.seq,
        outcome=inspection.declared_outcome or judgement.outcome,
        at=at,
        said=on_paper(connection, who, number, at.date(), replaces=replaces, reason=corrects, signed=tuple(signed)),
        inspection=inspection,
        judgement=judgement,
    )


@dataclass(frozen=True, slots=True)
class Typeset:
    """A report as it is kept: its data (JSON text), its pages (PDF), and what its client's page says (JSON text)."""

    document: str
    pdf: bytes
    client_words: str


def typeset(fair: Fair, who: Person, photos: Fetch = none_kept, url: str = "") -> Typeset:
    """Data and pages of a fair copy; nobody else waits for it meanwhile.

    photos: where what is shown of each lies, by its digest; url: where people reach the server that knows the paper, ''
    where that is not to be printed. Raises press.TypesettingTooLarge.
    """
    frozen = document.write(fair.inspection) | {
        "judgement": as_json(fair.judgement),
        "issue": {
            "number": fair.number,
            "issued_at": f"{fair.at.isoformat()}Z",
            "issued_by": who.name,
            "signed": [
                {"as": signature.says, "name": signature.name, "role": signature.role, "at": signature.at}
                for signature in fair.said.signed
            ],
            "replaces": fair.replaces,
        },
    }
    kept = json.dumps(frozen, ensure_ascii=False)
    code = reports.check_code(kept)
    paper = replace(fair.said, check=code, check_at=_check_at(url, fair, code))
    report_content = content(fair.inspection, fair.judgement, paper, photos)
    for_whom = json.dumps(for_client.words(fair.inspection, fair.judgement, paper), ensure_ascii=False)
    return Typeset(kept, press.pdf(report_content, attachment(frozen), fair.at), for_whom)


def _check_at(url: str, fair: Fair, code: str) -> str:
    """Where the paper can be checked: behind the '#' no server on the way sees what is asked for."""
    reference = quote(fair.inspection.reference or "", safe="")
    return f"{url}/check#{reference}/{code}" if url else ""


def keep(connection: Connection, inspection_id: str, seq: int, who: Person, fair: Fair, made: Typeset) -> Issued:
    """Keep what was typeset, in the caller's transaction, which holds the inspection's row; seq: where it stands now.

    Raises MovedOn where anything has come since the copy was made.
    """
    if seq != fair.seq:
        raise MovedOn
    earlier = reports.issues(connection, inspection_id)
    if len(earlier) + 1 != fair.number:
        # The same was asked for twice at once: the first is the issue.
        if earlier[-1].seq == fair.seq and (fair.reason or "") in ("", earlier[-1].reason or ""):
            return earlier[-1]
        raise MovedOn
    issue = Issued(
        id=new_id(),
        number=fair.number,
        issued_at=fair.at,
        issued_by=who.name,
        outcome=fair.outcome,
        replaces=fair.replaces,
        reason=fair.reason,
        sha256=hashlib.sha256(made.pdf).hexdigest(),
        seq=fair.seq,
    )
    reports.keep(connection, inspection_id, who.id, issue, made.document, made.pdf, client_words=made.client_words)
    return issue
