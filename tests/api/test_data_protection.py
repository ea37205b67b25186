"""What is kept of somebody is told, taken along and, once its time is over, erased: the values go, the fact stays."""

import hashlib
import io
import json
import tracemalloc
import zipfile

import pytest
from sqlalchemy import text
from starlette.testclient import TestClient

from dorrik.store.database.engine import new_id
from tests.api.reviewed import issue
from tests.conftest import PASSWORD
from tests.pictures import picture

JPEG = picture()


@pytest.fixture
def client(inspector, supervisor, ready):
    """A client with a home, a job, and an inspection that was issued; names of somebody everywhere."""

    # A name that no other test has written into the same database.
    name = f"Merryn T{new_id()[-10:]}"

    def add(kind, parent, **values):
        answer = inspector.http.post(f"/api/register/{kind}", json={"parent_id": parent, "values": values})
        assert answer.status_code == 201, answer.text
        return answer.json()["id"]

    found = add("client", inspector.me["firm_id"], name=name, email="m@t.example", notes=f"Call {name}")
    home = add("property", found, address=f"{name}'s House", occupier_name=name, key_place="under the pot")
    add("job", home, number=f"J-{new_id()[-8:]}", agreed_with=name, extent="All of it")
    inspector.http.patch(f"/api/register/client/{found}", json={"values": {"name": f"{name} and Son"}})
    inspection = ready()
    names = {
        "client_name": name,
        "occupier_name": name,
        "property_address": f"{name}'s House",
        "property_id": home,
    }
    inspector.send(inspection, *(inspector.change("inspection", inspection, f, v) for f, v in names.items()))
    digest = hashlib.sha256(JPEG).hexdigest()
    inspector.http.put(f"/api/inspections/{inspection}/photos/{digest}", content=JPEG)
    inspector.add(inspection, "photo", "inspection", inspection, sha256=digest, caption=f"{name} at the door")
    issued = issue(inspector, supervisor, inspection)
    assert issued.status_code == 201, issued.text
    return {
        "name": name,
        "id": found,
        "inspection": inspection,
        "report": issued.json()["id"],
        "photo": digest,
        "home": home,
    }


def everywhere(engine, name):
    """Every text of every table that still holds the name."""
    found = []
    with engine.connect() as connection:
        tables = [row[0] for row in connection.execute(text("SHOW TABLES"))]
        for table in tables:
            for row in connection.execute(text(f"SELECT * FROM `{table}`")).mappings():
                if name in str({k: v for k, v in row.items() if k != "pdf"}):
                    found.append(table)
    return set(found)


def settle(supervisor, keep, reports):
    answer = supervisor.http.put("/api/firm/retention", json={"keep_years": keep, "keep_reports_years": reports})
    assert answer.status_code == 200, answer.text


def test_what_is_kept_is_told_and_kept_for_its_time(client, supervisor):
    settle(supervisor, 6, 10)
    kept = supervisor.http.get(f"/api/clients/{client['id']}/kept").json()
    counts = {name: kept[name] for name in ("properties", "jobs", "inspections", "reports", "photos")}
    assert counts == dict.fromkeys(counts, 1)
    assert int(kept["erasable_from"][:4]) - int(kept["last_work"][:4]) == 6
    answer = supervisor.http.post(f"/api/clients/{client['id']}/erase")
    assert (answer.status_code, "6 years after" in answer.json()["message"]) == (409, True)
    assert client["name"] in supervisor.http.get(f"/api/clients/{client['id']}").text


def test_everything_of_a_client_is_taken_along(client, supervisor, inspector):
    assert inspector.http.get(f"/api/clients/{client['id']}/export.zip").status_code == 403
    answer = supervisor.http.get(f"/api/clients/{client['id']}/export.zip")
    packed = zipfile.ZipFile(io.BytesIO(answer.content))
    data = json.loads(packed.read("data.json"))
    assert {entry["kind"] for entry in data["register"]} == {"client", "property", "job"}
    names = [(h["before"], h["value"]) for e in data["register"] for h in e["history"] if h["field"] == "name"]
    assert names == [(None, client["name"]), (client["name"], client["name"] + " and Son")]
    assert any(line["value"] == client["name"] for line in data["inspections"][0]["journal"])
    assert packed.read(f"reports/{client['report']}.pdf").startswith(b"%PDF")
    assert packed.read(f"photos/{client['photo']}") == JPEG


def test_an_export_takes_no_memory_and_has_each_photo_once(client, supervisor, inspector, app):
    """A photo that three inspections show stands once, and what is packed is never in memory as a whole."""
    content = picture(1200, 900, "PNG")
    # As large as a photo may be, with what makes no picture of it: only the store looks at this one.
    content += b"\0" * (11_000_000 - len(content))
    digest = hashlib.sha256(content).hexdigest()
    app.state.photos.keep(inspector.me["firm_id"], digest, content)
    for _ in range(3):
        other = inspector.begin()
        inspector.send(other, inspector.change("inspection", other, "property_id", client["home"]))
        inspector.add(other, "photo", "inspection", other, sha256=digest)
    path = f"/api/clients/{client['id']}/export.zip"
    supervisor.http.get(path)
    tracemalloc.start()
    try:
        with supervisor.http.stream("GET", path) as answer:
            size = sum(len(part) for part in answer.iter_bytes())
        _, most = tracemalloc.get_traced_memory()
    finally:
        tracemalloc.stop()
    assert size > len(content)
    names = zipfile.ZipFile(io.BytesIO(supervisor.http.get(path).content)).namelist()
    assert names.count(f"photos/{digest}") == 1 and len(names) == len(set(names))
    # One photo at a time, as read and as written; the test client holds the answer once more.
    assert most < 4.5 * len(content)


def test_erased_nothing_of_somebody_is_left_but_that_there_was_something(client, supervisor, engine):
    settle(supervisor, 0, 10)
    before = everywhere(engine, client["name"])
    assert {"client", "property", "job", "book_change", "inspection", "change", "search_subject"} <= before
    done = supervisor.http.post(f"/api/clients/{client['id']}/erase")
    assert done.status_code == 200, done.text
    # The report stays, frozen as it is, for as long as law and contract ask.
    assert everywhere(engine, client["name"]) == {"issued_report"}
    assert (done.json()["reports"], done.json()["photos"]) == (0, 1)
    inspection = client["inspection"]
    assert supervisor.http.get(f"/api/inspections/{inspection}/photos/{client['photo']}").status_code == 404
    assert supervisor.http.get(f"/api/reports/{client['report']}.pdf").status_code == 200
    history = supervisor.http.get(f"/api/register/client/{client['id']}/history", params={"field": "name"}).json()
    assert [(line["value"], line["before"], line["author"]) for line in history] == [(None, None, "Ines Pector")] * 2
    assert supervisor.http.get("/api/search", params={"text": client["name"]}).json() == []
    # What was measured stays: it tells of nobody.
    values = [e["values"] for e in supervisor.http.get(f"/api/inspections/{inspection}").json()["entities"]]
    assert any(v.get("device_rating_a") == 32 for v in values) and client["name"] not in str(values)


def test_reports_go_when_their_own_time_is_over_and_their_digest_stays(client, supervisor, engine):
    settle(supervisor, 0, 0)
    assert supervisor.http.post(f"/api/clients/{client['id']}/erase").json()["reports"] == 1
    assert everywhere(engine, client["name"]) == set()
    assert supervisor.http.get(f"/api/reports/{client['report']}.pdf").status_code == 404
    (issued,) = supervisor.http.get(f"/api/inspections/{client['inspection']}/reports").json()
    assert len(issued["sha256"]) == 64


def test_a_removed_client_s_earlier_values_are_for_those_who_answer_for_keeping_them(client, supervisor, inspector):
    inspector.http.patch(f"/api/register/client/{client['id']}", json={"values": {"removed": True}})
    path = f"/api/register/client/{client['id']}/history"
    assert inspector.http.get(path, params={"field": "name"}).status_code == 404
    assert client["name"] in supervisor.http.get(path, params={"field": "name"}).text


def test_everything_of_one_s_own_people_is_taken_along(client, supervisor, inspector):
    answer = supervisor.http.get(f"/api/people/{inspector.me['id']}/export.zip")
    data = json.loads(zipfile.ZipFile(io.BytesIO(answer.content)).read("data.json"))
    assert data["account"]["email"] == inspector.me["email"]
    assert any(line["action"] == "report submitted" for line in data["audit"])
    (step,) = data["reviews"]
    assert (step["kind"], step["signature"]) == ("submitted", {"typed": inspector.me["name"]})
    assert any(change["field"] == "occupier_name" for change in data["changes"])
    assert "password" not in str(data)


def test_what_was_done_about_rights_settings_exports_and_issues_is_in_the_audit_log(app, client, supervisor, inspector):
    supervisor.http.get(f"/api/clients/{client['id']}/export.zip")
    TestClient(app).post("/api/session", json={"email": inspector.me["email"], "password": PASSWORD})
    TestClient(app).post("/api/session", json={"email": inspector.me["email"], "password": "guessed at it"})
    supervisor.http.put("/api/firm/rules", json={"rule_book": None, "house_rules": {"zs_basis": 1.0}})
    found = supervisor.http.get("/api/audit").json()
    actions = [line["action"] for line in found["lines"]]
    assert found["count"] == len(actions)
    assert actions[:4] == ["rules settled", "sign-in failed", "signed in", "data exported"]
    assert "report issued" in actions
    failed = next(line for line in found["lines"] if line["action"] == "sign-in failed")
    assert (failed["person"], failed["subject"], failed["detail"]) == (
        "",
        inspector.me["email"],
        {"why": "wrong password"},
    )
    # No log holds what it would have to be erased from again.
    assert client["name"] not in str(found)
    only = supervisor.http.get("/api/audit", params={"action": "data exported"}).json()["lines"]
    assert {line["action"] for line in only} == {"data exported"}
    earlier = supervisor.http.get("/api/audit", params={"before": found["lines"][2]["id"]}).json()["lines"]
    assert earlier == found["lines"][3:]


def test_the_audit_log_is_a_table_that_runs_nothing(supervisor, inspector):
    supervisor.http.post(
        "/api/people", json={"name": "=cmd()", "email": f"=x{new_id()[:8]}@test.example", "role": "office"}
    )
    table = supervisor.http.get("/api/audit.csv").content.decode()
    assert "person invited,'=x" in table
    assert inspector.http.get("/api/audit.csv").status_code == 403


def test_the_audit_log_of_another_firm_is_not_to_be_seen(supervisor, app, other_firm):
    from tests.api.conftest import Inspector

    theirs = Inspector(app, other_firm.supervisor_email).http.get("/api/audit").json()
    assert supervisor.me["email"] not in str(theirs)
