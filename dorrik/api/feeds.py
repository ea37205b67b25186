"""Calendars for other programs: made, listed and ended by the firm; read by whoever has the address."""

import re
from datetime import timedelta
from typing import Literal

from fastapi import Request, Response
from pydantic import BaseModel, Field

from dorrik.api.common_types import Moment, Problem, Strict
from dorrik.api.files import download
from dorrik.api.problems import RESPONSES, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import count_bad_link, work
from dorrik.office import calendar_feeds
from dorrik.report import calendar
from dorrik.store.database.engine import now, snapshots
from dorrik.store.planning import feeds
from dorrik.store.register import register

router = make_router("/api/feeds", "calendar", {**RESPONSES, 422: {"model": Problem}})
public = make_router("/calendar", "calendar", {404: {"model": Problem}})
_TOKEN = re.compile(r"[A-Za-z0-9_-]{20,64}")


class FeedIn(Strict):
    """Whose calendar: of the firm, of an inspector's week, or of a client."""

    whose: Literal["firm", "inspector", "client"]
    of_id: str | None = Field(default=None, max_length=36)


class FeedOut(BaseModel):
    """A calendar that programs read. reads: how often; address: told once, when it is made."""

    id: str
    whose: Literal["firm", "inspector", "client"]
    of_id: str | None
    name: str
    made_at: Moment
    last_read_at: Moment | None
    reads: int
    address: str | None = None


@router.get("")
def all_of_them(request: Request) -> list[FeedOut]:
    """The firm's calendars that have not ended."""
    with work(request) as (connection, me):
        return [FeedOut.model_validate(feed, from_attributes=True) for feed in feeds.of_firm(connection, me.firm_id)]


@router.post("", status_code=201)
def make(request: Request, given: FeedIn) -> FeedOut:
    """Make a calendar's address; it is told once. Whoever has it can read the calendar until it is ended."""
    with work(request, "send letters") as (connection, me):
        name = me.firm_name
        if given.whose != "firm":
            kind = "client" if given.whose == "client" else "working_week"
            entry = register.get(connection, me.firm_id, kind, given.of_id or "")
            if entry is None or entry.values.get("removed"):
                raise not_found(given.whose)
            name = str(entry.values.get("name") or "without a name")
        of_id = given.of_id if given.whose != "firm" else None
        feed_id, token = feeds.make(connection, me.firm_id, me.id, given.whose, of_id, name)
        made = next(feed for feed in feeds.of_firm(connection, me.firm_id) if feed.id == feed_id)
    address = f"{request.app.state.url}/calendar/{token}.ics"
    return FeedOut.model_validate(made, from_attributes=True).model_copy(update={"address": address})


@router.delete("/{feed_id}", status_code=204)
def revoke(request: Request, feed_id: str) -> None:
    """End a calendar's address: programs that read it are told so from now on."""
    with work(request, "send letters") as (connection, me):
        if not feeds.revoke(connection, me.firm_id, feed_id):
            raise not_found("calendar")


@public.get("/{name}", response_class=Response, responses={200: {"content": {"text/calendar": {}}}})
def read(request: Request, name: str) -> Response:
    """A calendar by its address, for a program that asks again and again."""
    token = name.removesuffix(".ics")
    engine = request.app.state.engine
    content = None
    if _TOKEN.fullmatch(token) and name.endswith(".ics"):
        with snapshots(engine).begin() as connection:
            feed = feeds.by_token(connection, token)
            if feed is not None and calendar_feeds.is_there(connection, feed):
                today = now().date()
                whole = request.app.state.portfolios.now(connection, feed.firm_id, today)
                entries = calendar_feeds.entries(connection, feed, today, whole)
                content = calendar.write(feed.name, entries, now())
        if content is not None and feed is not None and _long_ago(feed):
            with engine.begin() as connection:
                feeds.read(connection, feed.id)
    if content is None:
        count_bad_link(request)
        raise not_found("calendar")
    return download(content, "dorrik.ics", "text/calendar")


def _long_ago(feed: feeds.Feed) -> bool:
    """Programs ask every few minutes: that one asks is written down once a minute."""
    return feed.last_read_at is None or now() - feed.last_read_at > timedelta(minutes=1)
