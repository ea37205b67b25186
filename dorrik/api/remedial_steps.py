"""Taking a step about an item of a report in a request, whoever takes it: what is wrong is told at its field."""

from collections.abc import Mapping, Sequence
from datetime import datetime
from typing import Any

from fastapi import Response
from sqlalchemy import Connection

from dorrik.api.files import download
from dorrik.api.problems import ProblemError, not_found
from dorrik.core.work.remedials import Kind
from dorrik.office import clearing
from dorrik.office.after_report import AfterReport
from dorrik.report import price_request
from dorrik.store.database.engine import now
from dorrik.store.reports import remedials
from dorrik.store.reports.remedials import By


def take(
    connection: Connection, after_report: AfterReport, inspection_id: str, observation_id: str, kind: Kind,
    what: Mapping[str, Any], by: By, files: Sequence[str], prefix: str = "",
) -> None:  # fmt: skip
    """Take a step. prefix: of its fields in the request. Raises ProblemError."""
    try:
        clearing.take_step(connection, after_report, inspection_id, observation_id, kind, what, by, files)
    except clearing.NoItem:
        raise not_found("item") from None
    except clearing.CannotTake as error:
        raise at_fields(error, prefix) from None
    except remedials.NoFile as error:
        fields = [{"field": f"{prefix}files", "message": str(error)}]
        raise ProblemError(422, "invalid", str(error), fields=fields) from None
    except remedials.TooManySteps as error:
        raise ProblemError(409, "too-many", str(error)) from None


def at_fields(error: clearing.CannotTake, prefix: str) -> ProblemError:
    """The answer where a step cannot be taken."""
    fields = [{"field": f"{prefix}{field}".rstrip("."), "message": message} for field, message in error.fields.items()]
    return ProblemError(422, "invalid", str(error), fields=fields)


def day_given(on: str) -> datetime:
    """A day that has come. Raises ProblemError at the field."""
    try:
        at = datetime.fromisoformat(on)
    except ValueError:
        raise _at_day("Enter the day.") from None
    if at > now():
        raise _at_day("That day has not come yet.")
    return at


def _at_day(message: str) -> ProblemError:
    return ProblemError(422, "invalid", message, fields=[{"field": "on", "message": message}])


def file_answer(files: tuple[remedials.File, bytes] | None) -> Response:
    """A file of evidence to take along; 404 where there is none."""
    if files is None:
        raise not_found("file")
    kept, content = files
    end = ".pdf" if kept.media_type == "application/pdf" else ".jpg"
    name = kept.name if kept.name.lower().endswith(end) else f"{kept.name}{end}"
    return download(content, name, kept.media_type)


def price_sheet_of(after_report: AfterReport) -> bytes:
    """The sheet for prices of what is not cleared."""
    open_items = [item.required for item in after_report.items if item.standing.state != "cleared"]
    return price_request.sheet(dict(after_report.words), open_items)
