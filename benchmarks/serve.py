"""Serve the application, or the bare endpoint it is held against: `python -m benchmarks.serve bare|real URL PORT`."""

import importlib
import sys
import uuid

import uvicorn
from fastapi import FastAPI
from pydantic import BaseModel
from sqlalchemy import text

from dorrik.api.app import create_app
from dorrik.store.database.engine import make_engine


class Value(BaseModel):
    """What the bare endpoint takes."""

    value: str


def bare(url: str) -> FastAPI:
    """One insert and commit, nothing else."""
    app = FastAPI()
    engine = make_engine(url)
    insert = text("INSERT INTO bare (id, value) VALUES (:id, :value)")

    @app.post("/insert")
    def insert_one(given: Value) -> dict[str, str]:
        made = str(uuid.uuid4())
        with engine.begin() as connection:
            connection.execute(insert, {"id": made, "value": given.value})
        return {"id": made}

    return app


if __name__ == "__main__":
    name, url, port = sys.argv[1:4]
    if name == "real":
        # As a process that serves has it: what it is made of is not looked through for garbage.
        importlib.import_module("dorrik.preloaded")
    app = bare(url) if name == "bare" else create_app(make_engine(url))
    uvicorn.run(app, host="127.0.0.1", port=int(port), log_level="warning")
