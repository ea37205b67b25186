"""Clients of the real application on the real database, and a short way to write changes."""

from collections.abc import Callable, Iterator
from datetime import UTC, datetime
from email import message_from_bytes
from email.message import EmailMessage
from email.policy import default
from pathlib import Path
from typing import Any

import pytest
from fastapi import FastAPI
from sqlalchemy import Engine
from starlette.testclient import TestClient

from dorrik.api import cookies, news_stream
from dorrik.api.app import create_app
from dorrik.demo.mail_catcher import catch
from dorrik.store.database.engine import new_id
from dorrik.store.people import people, sessions
from tests.api.places import new_place
from tests.conftest import Firm
from tests.serving import free_port


@pytest.fixture(scope="session")
def app(engine: Engine, tmp_path_factory: pytest.TempPathFactory) -> FastAPI:
    return create_app(engine, photos=str(tmp_path_factory.mktemp("photos")), drafts=tmp_path_factory.mktemp("drafts"))


@pytest.fixture(autouse=True)
def short_streams(monkeypatch: pytest.MonkeyPatch) -> None:
    """A client in the process of the tests waits for the end of each answer: streams have one soon."""
    monkeypatch.setattr(news_stream, "BEAT_S", 0.05)
    monkeypatch.setattr(news_stream, "LASTS_S", 0.05)


class Inspector:
    """Somebody signed in, with a device that makes changes."""

    def __init__(self, app: FastAPI, email: str, device: str = "tablet") -> None:
        self.http = TestClient(app, client=new_place(), headers={"Sec-Fetch-Site": "same-origin"})
        self.device = device
        # As signing in does it, without its cost; tests of signing in do it over the wire.
        with app.state.engine.begin() as connection:
            person = people.by_address(connection, email)
            self.http.cookies.set(cookies.SESSION, sessions.open_one(connection, person.id, device, "test"))
        self.me = self.http.get("/api/session").json()

    def change(self, entity: str, entity_id: str, field: str, value: Any, **more: Any) -> dict[str, Any]:
        made = {
            "id": new_id(),
            "entity": entity,
            "entity_id": entity_id,
            "field": field,
            "value": value,
            "based_on": 0,
            "made_at": datetime.now(UTC).isoformat(),
            "device": self.device,
        }
        return made | more

    def send(self, inspection: str, *changes: Any) -> dict[str, Any]:
        answer = self.http.post(f"/api/inspections/{inspection}/changes", json={"changes": list(changes)})
        assert answer.status_code == 200, answer.text
        return answer.json()

    def begin(self) -> str:
        inspection = new_id()
        receipt = self.send(inspection, self.change("inspection", inspection, "firm", self.me["firm_id"]))
        assert receipt["results"][0]["state"] == "kept"
        return inspection

    def add(self, inspection: str, entity: str, parent: str, parent_id: str, **fields: Any) -> str:
        entity_id = new_id()
        changes = [self.change(entity, entity_id, parent, parent_id)]
        changes += [self.change(entity, entity_id, field, value) for field, value in fields.items()]
        receipt = self.send(inspection, *changes)
        assert {r["state"] for r in receipt["results"]} == {"kept"}, receipt["results"]
        return entity_id

    def board(self, inspection: str) -> tuple[str, str]:
        """A board with one circuit; their ids."""
        board = self.add(inspection, "board", "inspection", inspection, name="Board 1", main_switch_a=100)
        circuit = self.add(
            inspection, "circuit", "board", board, way="1", designation="Cooker", form="radial", device_rating_a=32,
            device_standard="BS EN 60898", device_type="B", line_csa_mm2=6, cpc_csa_mm2=2.5,
        )  # fmt: skip
        return board, circuit

    def values(self, inspection: str, entity_id: str) -> dict[str, Any]:
        found = self.http.get(f"/api/inspections/{inspection}").json()
        return next(e["values"] for e in found["entities"] if e["id"] == entity_id)


@pytest.fixture
def inspector(app: FastAPI, firm: Firm) -> Inspector:
    return Inspector(app, firm.inspector_email)


@pytest.fixture
def supervisor(app: FastAPI, firm: Firm) -> Inspector:
    return Inspector(app, firm.supervisor_email, "office desk")


@pytest.fixture
def office(app: FastAPI, firm: Firm) -> Inspector:
    return Inspector(app, firm.office_email, "front desk")


@pytest.fixture
def stranger(app: FastAPI, other_firm: Firm) -> Inspector:
    return Inspector(app, other_firm.inspector_email)


@pytest.fixture
def place(app: FastAPI) -> Callable[[], TestClient]:
    """Makes somebody unknown, each at a place of their own that no other test knows."""

    def make() -> TestClient:
        return TestClient(app, client=new_place(), headers={"Sec-Fetch-Site": "same-origin"})

    return make


@pytest.fixture
def caught(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> Iterator[Callable[[], list[EmailMessage]]]:
    """A mail server is set up: the mails that were caught so far, as messages."""
    port, folder = free_port(), tmp_path / "mail"
    catcher = catch(folder, port)
    monkeypatch.setenv("DORRIK_SMTP", f"127.0.0.1:{port}")
    yield lambda: [message_from_bytes(one.read_bytes(), policy=default) for one in sorted(folder.glob("*.eml"))]
    catcher.stop()


@pytest.fixture
def ready(inspector: Inspector) -> Callable[[], str]:
    """Make an inspection that can be issued."""

    def make() -> str:
        inspection = inspector.begin()
        fields = {
            "reference": f"T-{new_id()[-8:]}", "client_name": "Harbour Trust", "property_address": "1 Lookout Row",
            "inspected_on": "2026-11-03", "extent": "All of it", "declared_outcome": "satisfactory", "next_years": 5,
        }  # fmt: skip
        # Everything that a satisfactory report speaks of was tested.
        origin = {
            "earthing": "TN-C-S", "ze_ohm": "0.19", "ze_parallel_removed": True, "pscc_ka": "1.24", "pefc_ka": "1.19",
            "supply_polarity": "correct",
        }  # fmt: skip
        fields |= origin
        inspector.send(inspection, *(inspector.change("inspection", inspection, f, v) for f, v in fields.items()))
        board, circuit = inspector.board(inspection)
        tested = {
            "r1_r2_ohm": "0.12", "insulation_lne_mohm": "460", "polarity": "correct", "zs_ohm": "0.31",
        }  # fmt: skip
        inspector.send(
            inspection,
            inspector.change("board", board, "zdb_ohm", "0.19"),
            *(inspector.change("circuit", circuit, f, v) for f, v in tested.items()),
        )
        return inspection

    return make
