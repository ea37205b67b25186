"""The application: routers, errors, what stands before every request, and the built front end."""

from pathlib import Path
from typing import Any

from fastapi import FastAPI, Request
from sqlalchemy import Engine
from starlette.responses import Response

from dorrik import __version__
from dorrik.api import (
    RULES,
    WEB,
    accounts,
    after,
    audit_log,
    caught_mail,
    certificates,
    checks,
    coding,
    crossings,
    data_protection,
    device_drafts,
    feeds,
    firm,
    firm_catalogue,
    firm_paper,
    handovers,
    health,
    inspections,
    job_letters,
    letters,
    logo,
    mail_server,
    metrics,
    news_stream,
    notices,
    occupiers,
    offers,
    office,
    operator_letter,
    papers,
    people,
    pictures,
    planner,
    planner_weeks,
    portfolio,
    problems,
    rates,
    reference,
    register,
    repair_rates,
    reports,
    reviews,
    rule_differences,
    rules,
    shared_intakes,
    shared_page,
    shared_visit,
    sign_in,
    stored_readings,
    takeaway,
    visit_times,
    work_devices,
)
from dorrik.api.fair_pool import FairPool
from dorrik.api.guard import Guard, problem
from dorrik.api.pages import Pages
from dorrik.api.streams import Streams
from dorrik.api.work import work
from dorrik.api.worker_pool import WorkerPool
from dorrik.office.mail_delivery import Delivery
from dorrik.office.portfolio import Portfolios
from dorrik.pictures import subprocess_reader
from dorrik.report import press
from dorrik.settings import settings
from dorrik.store.files.drafts import Drafts, default_root
from dorrik.store.files.photos import PhotoStore
from dorrik.store.inspections.inspection_cache import Remembered
from dorrik.store.inspections.list_figures import ListFigures


def create_app(
    engine: Engine, web: Path = WEB, photos: str | None = None, url: str | None = None, drafts: Path | None = None
) -> FastAPI:
    """The application on a database.

    web: folder of the built front end; without it only the API answers. photos: where photos are kept, a folder or any
    address that fsspec knows; DORRIK_PHOTOS or var/photos where none is given. url: where people reach it, for links in
    mails; DORRIK_URL or http://127.0.0.1:8080 where none is given. It is never taken from a request. drafts: where
    pages of drafts lie while they are looked at.
    """
    app = FastAPI(
        title="Dorrik",
        version=__version__,
        docs_url=None,
        redoc_url=None,
        openapi_url=None,
        responses=problems.EVERYWHERE,
    )
    app.state.engine = engine
    app.state.photos = PhotoStore(photos or settings().photo_place)
    app.state.url = url.rstrip("/") if url else settings().address
    app.state.password_pool = WorkerPool(
        message="Many people are signing in at this moment. Try again in a few seconds."
    )
    app.state.decoding = FairPool(
        subprocess_reader.AT_ONCE, 100, "Many of your photos are being read; this one is sent again."
    )
    app.state.drafts = Drafts(drafts or default_root())
    app.state.typesetting = FairPool(
        press.AT_ONCE, 4, "Your reports are being typeset one after another; ask again in a few seconds.", each=1
    )
    app.state.exporting = FairPool(1, 4, "Your exports are being written one after another; ask again later.")
    app.state.changing = WorkerPool(at_once=2, queue=500)
    app.state.remembered = Remembered()
    app.state.list_figures = ListFigures(engine)
    app.state.portfolios = Portfolios()
    app.state.streams = Streams()
    app.state.delivery = Delivery(engine)
    app.add_middleware(Guard)
    app.add_middleware(metrics.RequestMetrics)
    problems.install(app)
    for module in (
        health, metrics, sign_in, accounts, people, inspections, crossings, news_stream, rule_differences,
        reports, reviews, checks, papers,
        stored_readings, pictures, register, portfolio, planner, planner_weeks, occupiers, feeds, visit_times,
        office,
        job_letters, device_drafts, coding, notices, operator_letter, certificates,
        offers,
        shared_intakes, firm_catalogue, firm, logo, letters, mail_server, firm_paper, caught_mail,
        work_devices, handovers, after, shared_page, shared_visit, takeaway,
        rates, repair_rates, reference, rules, audit_log, data_protection,
    ):  # fmt: skip
        app.include_router(module.router)

    app.include_router(feeds.public)

    @app.get("/api/openapi.json", include_in_schema=False)
    def contract(request: Request) -> dict[str, Any]:
        """The contract, for those who are signed in."""
        with work(request):
            return app.openapi()

    @app.get("/api/{path:path}", include_in_schema=False)
    def nothing(path: str) -> Response:
        return problem(404, "not-found", "There is no such address.")

    if (web / "index.html").is_file():
        pages = Pages(web, RULES if RULES.is_dir() else None)

        @app.get("/{path:path}", include_in_schema=False)
        def page(request: Request, path: str) -> Response:
            """Every other address is a screen; the front end finds out which."""
            return pages.answer(path, request) or problem(404, "not-found", "There is no such address.")

    return app
