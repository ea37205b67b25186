"""Whether the server lives, and whether it can work; for whoever watches it, without signing in."""

import shutil
from typing import Literal

from fastapi import APIRouter, Request
from pydantic import BaseModel
from sqlalchemy.exc import SQLAlchemyError
from starlette.responses import JSONResponse, Response

from dorrik.settings import settings

router = APIRouter(prefix="/api", tags=["health"])

#: Less room than this (bytes) on the disk of database or photos is told.
LITTLE_ROOM = settings().little_room


class Health(BaseModel):
    """state: ok, or what is wrong."""

    state: Literal["ok", "no database", "disk nearly full"]


def room() -> int:
    """Free bytes on the disk where the data lie; the folder's nearest parent that exists."""
    home = settings().home
    while not home.exists() and home != home.parent:
        home = home.parent
    return shutil.disk_usage(home).free


@router.get("/health", include_in_schema=False)
def health(request: Request) -> Response:
    """Is the server alive? It says what it lacks, and answers all the same."""
    state = _state(request)
    return JSONResponse(Health(state=state).model_dump())


@router.get("/ready", include_in_schema=False)
def ready(request: Request) -> Response:
    """Can it work? 503 where it cannot, so that nobody is sent here."""
    state = _state(request)
    return JSONResponse(Health(state=state).model_dump(), 200 if state == "ok" else 503)


def _state(request: Request) -> Literal["ok", "no database", "disk nearly full"]:
    try:
        with request.app.state.engine.connect() as connection:
            connection.exec_driver_sql("SELECT 1")
    except SQLAlchemyError:
        return "no database"
    return "disk nearly full" if room() < LITTLE_ROOM else "ok"
