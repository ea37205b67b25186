"""Steps of a report on its way: whoever inspected signs and submits, a supervisor authorises."""

from typing import Any

from httpx import Response

from tests.api.conftest import Inspector


def signature(who: Inspector) -> dict[str, Any]:
    """Their name, typed."""
    return {"typed": who.me["name"]}


def seq_of(who: Inspector, inspection: str) -> int:
    """Where the inspection stands."""
    found: int = who.http.get(f"/api/inspections/{inspection}").json()["seq"]
    return found


def submit(who: Inspector, inspection: str, seq: int | None = None) -> Response:
    """Sign for the inspection as it stands, or stood, and submit it."""
    body = {"seen_seq": seq_of(who, inspection) if seq is None else seq, "signature": signature(who)}
    return who.http.post(f"/api/inspections/{inspection}/review/submit", json=body)


def authorise(who: Inspector, inspection: str, seq: int | None = None, **more: Any) -> Response:
    """Authorise and issue what was submitted."""
    body = {"seen_seq": seq_of(who, inspection) if seq is None else seq, "signature": signature(who)}
    return who.http.post(f"/api/inspections/{inspection}/reports", json=body | more)


def issue(inspector: Inspector, supervisor: Inspector, inspection: str, **more: Any) -> Response:
    """Both; what is refused to the first is answered as it was."""
    submitted = submit(inspector, inspection)
    return submitted if submitted.status_code != 200 else authorise(supervisor, inspection, **more)
