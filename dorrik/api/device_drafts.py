"""What a device takes along from the server to make drafts of papers without it: the head of the paper, and a job's
letters in words. What is said of an inspection it words by itself (`report/device_papers.py`)."""

import json
from dataclasses import asdict
from typing import Any

from fastapi import Request
from pydantic import BaseModel

from dorrik.api.problems import RESPONSES, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import work
from dorrik.office import jobs
from dorrik.report.issue import on_paper
from dorrik.store.database.engine import now

router = make_router("/api", "reports", RESPONSES)


class PaperHeadOut(BaseModel):
    """Who writes, on whose paper; firm_logo: a drawing of ours, '' for none."""

    signed_by: str
    role: str
    firm_name: str
    firm_address: str
    firm_phone: str
    firm_email: str
    firm_line: str
    firm_logo: str


class JobLetterOut(BaseModel):
    """A letter of a job as it would be written now. words: for the template `facts_letter`, as JSON text."""

    which: jobs.Which
    title: str
    words: str


_TITLES: dict[jobs.Which, str] = {"confirmation": "Confirmation", "power-off": "Power-off notice"}


@router.get("/paper-head")
def paper_head(request: Request) -> PaperHeadOut:
    """The head of papers that this person writes."""
    with work(request) as (connection, me):
        head: dict[str, Any] = asdict(on_paper(connection, me, 0, now().date()))
    return PaperHeadOut(**{name: head[name] for name in PaperHeadOut.model_fields})


@router.get("/jobs/{entry_id}/letters")
def job_letters(request: Request, entry_id: str) -> list[JobLetterOut]:
    """The letters of a job, in words."""
    with work(request) as (connection, me):
        made = jobs.letters(connection, me, entry_id)
    if made is None:
        raise not_found("job")
    return [
        JobLetterOut(which=which, title=title, words=json.dumps(made.words(which), ensure_ascii=False))
        for which, title in _TITLES.items()
    ]
