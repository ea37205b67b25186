"""A report with something to clear: an unsatisfactory inspection, signed, authorised and issued."""

from collections.abc import Callable
from typing import Any

from httpx import Response

from tests.api.conftest import Inspector
from tests.api.reviewed import issue

SLOW, BLANK = "rcd-slow", "missing-blank"


def unsatisfactory(inspector: Inspector, ready: Callable[[], str], *codes: str, **fields: Any) -> tuple[str, list[str]]:
    """An inspection that can be issued as unsatisfactory, with an observation of each code about its circuit; its id
    and theirs."""
    inspection = ready()
    entities = inspector.http.get(f"/api/inspections/{inspection}").json()["entities"]
    circuit = next(entity["id"] for entity in entities if entity["kind"] == "circuit")
    observations = [
        inspector.add(
            inspection, "observation", "inspection", inspection, about_entity="circuit", about_id=circuit,
            text=f"Found {number}", code=code, place="Kitchen",
        )
        for number, code in enumerate(codes, 1)
    ]  # fmt: skip
    told = {"declared_outcome": "unsatisfactory", "tenure": "let dwelling", "nation": "England"} | fields
    inspector.send(inspection, *(inspector.change("inspection", inspection, f, v) for f, v in told.items()))
    return inspection, observations


def issued(inspector: Inspector, supervisor: Inspector, inspection: str, **more: Any) -> dict[str, Any]:
    """The report, issued."""
    answer = issue(inspector, supervisor, inspection, **more)
    assert answer.status_code == 201, answer.text
    found: dict[str, Any] = answer.json()
    return found


def after(who: Inspector, inspection: str) -> dict[str, Any]:
    """What follows the report."""
    answer = who.http.get(f"/api/inspections/{inspection}/after")
    assert answer.status_code == 200, answer.text
    found: dict[str, Any] = answer.json()
    return found


def step(who: Inspector, inspection: str, items: str | list[str], kind: str, seen: int = 0, **what: Any) -> Response:
    """Take a step about items. seen: number of the last step before it."""
    body = {"items": [items] if isinstance(items, str) else items, "step": {"kind": kind} | what, "seen": seen}
    return who.http.post(f"/api/inspections/{inspection}/after/steps", json=body)


DONE = {"by": "Kelder Electric", "on": "2026-11-20", "words": "New switch", "certificate": "KE-77"}


def clear(inspector: Inspector, inspection: str, items: str | list[str]) -> None:
    """Said to be done with a certificate, and accepted."""
    seen = max((one["number"] for item in after(inspector, inspection)["items"] for one in item["steps"]), default=0)
    assert step(inspector, inspection, items, "done", seen, **DONE).status_code == 200
    answer = step(inspector, inspection, items, "accepted", seen)
    assert answer.status_code == 200, answer.text


def confirm(who: Inspector, inspection: str) -> Response:
    """Confirm in writing that everything is cleared."""
    body = {"signature": {"typed": who.me["name"]}}
    return who.http.post(f"/api/inspections/{inspection}/after/confirmation", json=body)


def link(who: Inspector, inspection: str, role: str = "client", **more: Any) -> str:
    """The token of a link to the report's page."""
    answer = who.http.post(
        f"/api/inspections/{inspection}/after/links", json={"role": role, "name": "Una Marlow"} | more
    )
    assert answer.status_code == 201, answer.text
    return str(answer.json()["address"]).partition("#")[2]
