"""The application: routers, errors, protection against posts from other sites, and the built front end."""

import os
import re
from pathlib import Path
from urllib.parse import urlsplit

from fastapi import FastAPI
from fastapi.staticfiles import StaticFiles
from sqlalchemy import Engine
from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import FileResponse, JSONResponse, Response
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from dorrik import __version__
from dorrik.api import (
    book,
    firm,
    inspections,
    job_letters,
    papers,
    pictures,
    problems,
    rates,
    reference,
    reports,
    rules,
    sign_in,
)
from dorrik.store.photos import PhotoStore

PHOTOS = Path(__file__).parents[2] / "var" / "photos"
WEB = Path(__file__).parents[2] / "web" / "dist"
LARGEST_BODY = 2_000_000
#: Files may be larger where files are taken.
LARGEST_FILE = 20_000_000
FILES = re.compile(r"/api/(papers|inspections/[0-9a-f-]{36}/photos/[0-9a-f]{64})")

SECURITY = {
    "Content-Security-Policy": "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; "
    "frame-ancestors 'none'; base-uri 'none'; form-action 'self'",
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
}


class Guard:
    """Refuses writes that another site's page sends, and bodies too large to be ours; adds security headers.

    Browsers name the sender of every cross-site write in Sec-Fetch-Site or Origin; a program that is no
    browser sends neither and carries no cookie that it was not given.
    """

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        headers = Headers(scope=scope)
        refused: Response | None = None
        if scope["method"] not in ("GET", "HEAD", "OPTIONS") and _from_elsewhere(headers):
            refused = _problem(403, "cross-site", "Another site sent this; it was not accepted.")
        elif FILES.fullmatch(scope["path"]):
            if int(headers.get("content-length") or 0) > LARGEST_FILE:
                refused = _problem(413, "too-large", f"Files of at most {LARGEST_FILE // 1_000_000} MB are taken.")
        elif int(headers.get("content-length") or 0) > LARGEST_BODY:
            refused = _problem(413, "too-large", "That is more than can be taken at once; send it in parts.")

        async def secured(message: Message) -> None:
            if message["type"] == "http.response.start":
                out = MutableHeaders(scope=message)
                for name, value in SECURITY.items():
                    out.setdefault(name, value)
                if scope["path"].startswith("/api/"):
                    out.setdefault("Cache-Control", "no-store")
            await send(message)

        await (refused or self.app)(scope, receive, secured)


def _from_elsewhere(headers: Headers) -> bool:
    site = headers.get("sec-fetch-site")
    if site is not None:
        return site not in ("same-origin", "none")
    origin = headers.get("origin")
    return origin is not None and urlsplit(origin).netloc != headers.get("host")


def _problem(status: int, code: str, message: str) -> Response:
    return JSONResponse({"code": code, "message": message, "fields": []}, status)


def create_app(engine: Engine, web: Path = WEB, photos: str | None = None) -> FastAPI:
    """The application on a database.

    web: folder of the built front end; without it only the API answers. photos: where photos are kept, a folder or any
    address that fsspec knows; DORRIK_PHOTOS or var/photos where none is given.
    """
    app = FastAPI(title="Dorrik", version=__version__, docs_url=None, redoc_url=None, openapi_url="/api/openapi.json")
    app.state.engine = engine
    app.state.photos = PhotoStore(photos or os.environ.get("DORRIK_PHOTOS") or str(PHOTOS))
    app.add_middleware(Guard)
    problems.install(app)
    for module in (sign_in, inspections, reports, papers, pictures, book, job_letters, firm, rates, reference, rules):
        app.include_router(module.router)

    @app.get("/api/health", include_in_schema=False)
    def health() -> dict[str, str]:
        with engine.connect() as connection:
            connection.exec_driver_sql("SELECT 1")
        return {"state": "ok"}

    @app.get("/api/{path:path}", include_in_schema=False)
    def nothing(path: str) -> Response:
        return _problem(404, "not-found", "There is no such address.")

    if web.is_dir():
        app.mount("/assets", StaticFiles(directory=web / "assets"))

        @app.get("/{path:path}", include_in_schema=False)
        def page(path: str) -> Response:
            """Every other address is a screen; the front end finds out which."""
            file = (web / path).resolve()
            if path and file.is_file() and file.is_relative_to(web.resolve()):
                return FileResponse(file)
            return FileResponse(web / "index.html", headers={"Cache-Control": "no-cache"})

    return app
