"""An inspection as it stands when its inspector comes to what a test is about, written through the API as the screens
write it: walking there through the screens took most of a test's time."""

from datetime import UTC, date, datetime
from typing import Any

from playwright.sync_api import APIRequestContext, Page, expect

from dorrik.core.book.usual_circuits import usual_circuits
from dorrik.demo import bench_home
from dorrik.demo.scribe import Scribe
from dorrik.journal.change import Author
from dorrik.store.database.engine import new_id

DEVICE = "the test's own tablet"


def change(entity: str, entity_id: str, field: str, value: Any) -> dict[str, Any]:
    return {
        "id": new_id(), "entity": entity, "entity_id": entity_id, "field": field, "value": value, "based_on": 0,
        "made_at": datetime.now(UTC).isoformat(), "device": DEVICE,
    }  # fmt: skip


def _entity(entity: str, parent: str, parent_id: str, /, **fields: Any) -> tuple[str, list[dict[str, Any]]]:
    entity_id = new_id()
    values = {parent: parent_id, **fields}
    return entity_id, [change(entity, entity_id, field, value) for field, value in values.items()]


def add(
    request: APIRequestContext, inspection_id: str, entity: str, parent: str, parent_id: str, /, **fields: Any
) -> str:
    """Add something to an inspection; its id."""
    found, changes = _entity(entity, parent, parent_id, **fields)
    answer = request.post(f"/api/inspections/{inspection_id}/changes", data={"changes": changes})
    assert answer.ok, answer.text()
    results = answer.json()["results"]
    assert {result["state"] for result in results} == {"kept"}, results
    return found


def registered(request: APIRequestContext, kind: str, parent: str, **values: object) -> str:
    """Enter a client, property or job; its id."""
    answer = request.post(f"/api/register/{kind}", data={"parent_id": parent, "values": values})
    assert answer.ok, answer.text()
    return answer.json()["id"]


def job(request: APIRequestContext, client: str, **home: object) -> str:
    """A periodic report booked for today, at a new home of a new client; the job's id. home: more of the property."""
    firm = request.get("/api/session").json()["firm_id"]
    place = registered(request, "property", registered(request, "client", firm, name=client), **home)
    return registered(
        request, "job", place, number=f"J-{new_id()[-8:]}", extent="The whole fixed installation", purpose="periodic",
        booked_on=date.today().isoformat(), state="booked",
    )  # fmt: skip


def inspection(request: APIRequestContext, *presets: str) -> str:
    """Begin an inspection with the least that names it, and with a board of usual circuits by the words of their
    buttons where some are named; its id. request: of who is signed in, with the server as its base."""
    firm = request.get("/api/session").json()["firm_id"]
    began = request.get("/api/home").json()
    found, changes = _entity("inspection", "firm", firm, inspected_on=date.today().isoformat(), purpose="periodic",
                             reference=began["next_reference"], property_address="7 Lookout Row, Kelder Haven",
                             **{name: value for name, value in began["beginning"].items() if value})  # fmt: skip
    for each in changes:
        each["entity_id"] = found
    if presets:
        board, more = _entity("board", "inspection", found, name="Board 1", position=1)
        changes += more
        buttons = {usual_circuit.button: usual_circuit for usual_circuit in usual_circuits() if usual_circuit.button}
        for way, preset in enumerate(presets, 1):
            fields = {"position": way, "way": str(way), **buttons[preset].fields}
            changes += _entity("circuit", "board", board, **fields)[1]
    answer = request.post(f"/api/inspections/{found}/changes", data={"changes": changes})
    assert answer.ok, answer.text()
    results = answer.json()["results"]
    assert {result["state"] for result in results} == {"kept"}, results
    return found


#: Stages as addresses name them, by their names on the run sheet.
STAGES = {
    "Brief": "brief", "Intake": "intake", "Walk-round": "walk", "Isolation": "isolation", "Boards": "boards",
    "Dead tests": "dead", "Live tests": "live", "Observations": "observations", "Report": "report",
}  # fmt: skip


def open_at(page: Page, found: str, stage: str) -> None:
    """Open an inspection at a stage, named as on the run sheet."""
    page.goto(f"/inspection/{found}/{STAGES[stage]}")
    link = page.get_by_label("Stages of the inspection").get_by_role("link", name=stage)
    expect(link).to_have_attribute("aria-current", "step")


def points(request: APIRequestContext, found: str, designation: str, *names: str) -> None:
    """Sockets of a circuit, in the order of the walk."""
    entities = request.get(f"/api/inspections/{found}").json()["entities"]
    circuit = next(entity["id"] for entity in entities if entity["values"].get("designation") == designation)
    changes = [
        change
        for number, name in enumerate(names, 1)
        for change in _entity("point", "circuit", circuit, position=number, name=name, kind="socket")[1]
    ]
    answer = request.post(f"/api/inspections/{found}/changes", data={"changes": changes})
    assert {result["state"] for result in answer.json()["results"]} == {"kept"}, answer.text()


def trainee(request: APIRequestContext, found: str, who: str) -> None:
    """Somebody learns beside at the inspection."""
    _, made = _entity("attendance", "inspection", found, who=who, purpose="trainee")
    answer = request.post(f"/api/inspections/{found}/changes", data={"changes": made})
    assert answer.ok, answer.text()


def earlier(request: APIRequestContext, found: str, point: str, **fields: Any) -> None:
    """What a point read in an earlier report."""
    entities = request.get(f"/api/inspections/{found}").json()["entities"]
    of = next(
        entity["id"] for entity in entities if entity["kind"] == "point" and entity["values"].get("name") == point
    )
    _, made = _entity("earlier", "point", of, **fields)
    answer = request.post(f"/api/inspections/{found}/changes", data={"changes": made})
    assert {result["state"] for result in answer.json()["results"]} == {"kept"}, answer.text()


def simulated(request: APIRequestContext) -> tuple[str, dict[str, str]]:
    """The home of the bench, as the demo has it, before anything is measured: its id, and ids of what it is made of by
    name (circuits, points, bonds by service, RCDs and the board)."""
    scribe = Scribe(None, request.get("/api/session").json()["firm_id"], Author("", ""))  # type: ignore[arg-type]
    bench_home.ropewalk_4(scribe)
    changes = [
        {
            "id": one.id, "entity": one.entity, "entity_id": one.entity_id, "field": one.field, "value": one.value,
            "based_on": 0, "made_at": datetime.now(UTC).isoformat(), "device": DEVICE,
        }
        for one in scribe.noted
    ]  # fmt: skip
    for start in range(0, len(changes), 400):
        answer = request.post(
            f"/api/inspections/{scribe.inspection}/changes", data={"changes": changes[start : start + 400]}
        )
        assert {result["state"] for result in answer.json()["results"]} == {"kept"}, answer.text()
    named = ("name", "designation", "service")
    return scribe.inspection, {str(one.value): one.entity_id for one in scribe.noted if one.field in named}
