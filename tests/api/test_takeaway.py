"""Open formats: each is read again with the same content; what cannot be taken in is told."""

import hashlib
import io
import json
import zipfile
from datetime import datetime

import openpyxl
import pytest
from icalendar import Calendar

from dorrik.core.inspection import document
from dorrik.core.work.chart import read as read_chart
from dorrik.report import calendar, circuit_chart, papers
from dorrik.store.database.engine import new_id
from tests.api.clearing import issued, unsatisfactory
from tests.api.conftest import Inspector
from tests.core.homes import cottage
from tests.pictures import picture
from tests.report import full_homes


def whole(who, inspection):
    return json.loads(who.http.get(f"/api/inspections/{inspection}/document.json").content)


def archive(who, path):
    return zipfile.ZipFile(io.BytesIO(who.http.get(path).content))


def take_in(who, content):
    return who.http.post("/api/import", content=content)


def same(first, second):
    """The same content; the inspection's own id, number and what points into a register are the firm's."""

    def plain(said):
        own = ("id", "reference", "property_id", "installation_id", "job_id")
        return {key: value for key, value in said["inspection"].items() if key not in own}

    return plain(first) == plain(second)


@pytest.fixture
def home(supervisor):
    """A home with everything in it that the demo's document has, taken in; its id."""

    def make(said):
        answer = take_in(supervisor, json.dumps(said).encode())
        assert answer.status_code == 200, answer.text
        return answer.json()

    return make


def test_a_document_that_is_taken_in_comes_out_the_same(supervisor, home):
    given = document.write(document.parse(cottage()))
    taken = home(given)
    assert taken["told"] == []
    (one,) = taken["inspections"]
    out = whole(supervisor, one["id"])
    again = home(out)["inspections"][0]["id"]
    assert again != one["id"]
    assert same(out, whole(supervisor, again))
    # Judged the same, whoever holds it.
    first, second = (supervisor.http.get(f"/api/inspections/{of}").json()["judgement"] for of in (one["id"], again))
    assert first["outcome"] == second["outcome"] and len(first["notes"]) == len(second["notes"])


@pytest.mark.parametrize(("circuits", "boards"), [(1, 1), (12, 2), (40, 3)])
def test_whole_homes_come_out_as_they_went_in(supervisor, stranger, home, circuits, boards):
    given = document.write(document.parse(full_homes.home(circuits, boards, observations=9, photos=4)))
    taken = home(given)
    assert taken["told"] == []
    out = whole(supervisor, taken["inspections"][0]["id"])
    assert counted(out) == counted(given)
    assert same(out, whole(supervisor, home(out)["inspections"][0]["id"]))
    assert stranger.http.get(f"/api/inspections/{taken['inspections'][0]['id']}/document.json").status_code == 404


def counted(said):
    """How many of each kind, and how many fields."""
    counts = {}

    def walk(thing, kind):
        counts[kind] = counts.get(kind, 0) + 1
        for name, value in thing.items():
            if isinstance(value, list) and value and isinstance(value[0], dict) and "id" in value[0]:
                for one in value:
                    walk(one, name)
            elif not (isinstance(value, list) and not value):
                counts["fields"] = counts.get("fields", 0) + 1

    walk(said["inspection"], "inspection")
    return counts


def test_circuits_as_table_and_workbook_are_read_again_the_same(supervisor, home):
    one = home(document.write(document.parse(cottage())))["inspections"][0]["id"]
    inspection = document.parse(whole(supervisor, one))
    expected = [tuple(row) for row in circuit_chart.rows(inspection)]
    for path, name in (("circuits.csv", "c.csv"), ("circuits.xlsx", "c.xlsx")):
        content = supervisor.http.get(f"/api/inspections/{one}/{path}").content
        table = papers.read(content, name).tables[0]
        assert table.rows[0] == circuit_chart.HEAD
        assert list(table.rows[1:]) == expected, path
        answer = supervisor.http.post("/api/papers", params={"name": name}, content=content).json()["tables"][0]
        rows = read_chart(answer["rows"], answer["columns"], answer["head"] + 1)
        assert len(rows) == len(expected) and not any(row.wrong for row in rows)


def test_a_cell_that_begins_like_a_formula_is_text(inspector, supervisor):
    inspection = inspector.begin()
    board, circuit = inspector.board(inspection)
    inspector.send(inspection, inspector.change("circuit", circuit, "designation", '=HYPERLINK("http://x")'))
    content = supervisor.http.get(f"/api/inspections/{inspection}/circuits.xlsx").content
    cells = [cell for row in openpyxl.load_workbook(io.BytesIO(content))["Circuits"].iter_rows() for cell in row]
    (one,) = [cell for cell in cells if str(cell.value).startswith("=")]
    assert one.data_type == "s" and board


def test_an_inspections_archive_holds_everything_and_goes_to_another_firm(
    inspector, supervisor, ready, other_firm, app
):
    inspection, (c2,) = unsatisfactory(inspector, ready, "C2")
    content = picture()
    sha256 = hashlib.sha256(content).hexdigest()
    inspector.http.put(f"/api/inspections/{inspection}/photos/{sha256}", content=content)
    inspector.add(
        inspection, "photo", "inspection", inspection, about_entity="observation", about_id=c2, sha256=sha256,
        marks=[{"kind": "ring", "x": 0.1, "y": 0.1, "x2": 0.5, "y2": 0.5}],
    )  # fmt: skip
    issued(inspector, supervisor, inspection)
    packed = inspector.http.get(f"/api/inspections/{inspection}/inspection.zip").content
    names = zipfile.ZipFile(io.BytesIO(packed)).namelist()
    assert {"inspection.json", "circuits.csv", "circuits.xlsx", f"photos/{sha256}"} <= set(names)
    assert sum(name.startswith("papers/") for name in names) == 1
    there = Inspector(app, other_firm.supervisor_email)
    taken = take_in(there, packed).json()
    (one,) = taken["inspections"]
    assert (taken["photos"], taken["told"]) == (1, []) and one["id"] != inspection
    assert same(whole(inspector, inspection), whole(there, one["id"]))
    assert there.http.get(f"/api/inspections/{one['id']}/photos/{sha256}").content == content
    # Theirs is theirs: nothing was issued there, and the first firm's is as it was.
    assert there.http.get(f"/api/inspections/{one['id']}/after").status_code == 404


def test_a_firms_archive_goes_to_another_firm_with_its_register(inspector, supervisor, ready, other_firm, app):
    def entry(kind, parent, **values):
        return inspector.http.post(f"/api/register/{kind}", json={"parent_id": parent, "values": values}).json()["id"]

    client = entry("client", inspector.me["firm_id"], name="Harbour Trust", email="trust@test.example")
    home = entry("property", client, address="1 Lookout Row")
    entry("instrument", inspector.me["firm_id"], name="Tester", serial="123")
    inspections = [unsatisfactory(inspector, ready, "C2", property_id=home)[0] for _ in range(2)]
    assert inspector.http.get("/api/firm/export.zip").status_code == 403
    packed = supervisor.http.get("/api/firm/export.zip").content
    there = Inspector(app, other_firm.supervisor_email)
    taken = take_in(there, packed).json()
    assert (taken["entries"], len(taken["inspections"]), taken["told"]) == (3, 2, [])
    assert there.http.get(f"/api/clients/{client}").json()["client"]["values"]["name"] == "Harbour Trust"
    for ours, theirs in zip(
        sorted(inspections), sorted(inspection["id"] for inspection in taken["inspections"]), strict=True
    ):
        assert same(whole(inspector, ours), whole(there, theirs))
        assert whole(there, theirs)["inspection"]["property_id"] == home
    # Taken in once more it stands beside, with numbers of its own, and the register is what it was.
    again = take_in(there, packed).json()
    assert len(again["inspections"]) == 2 and all("already used" in told for told in again["told"])
    references = {inspection["reference"] for inspection in (*taken["inspections"], *again["inspections"])}
    assert len(references) == 4


def test_what_a_firm_has_settled_goes_along_and_only_into_one_that_settled_nothing(supervisor, other_firm, app):
    there = Inspector(app, other_firm.supervisor_email)
    rules = {"rule_book": None, "house_rules": {"zs_basis": 1.0}}
    assert supervisor.http.put("/api/firm/rules", json=rules).status_code == 200
    packed = supervisor.http.get("/api/firm/export.zip").content
    assert take_in(there, packed).json()["told"] == []
    assert there.http.get("/api/firm").json()["house_rules"] == rules["house_rules"]
    settings = json.loads(archive(there, "/api/firm/export.zip").read("firm.json"))["settings"]
    ours = json.loads(zipfile.ZipFile(io.BytesIO(packed)).read("firm.json"))["settings"]
    assert {key: value for key, value in settings.items() if key != "letterhead"} == {
        key: value for key, value in ours.items() if key != "letterhead"
    }
    # What is settled stays, and that is told.
    there.http.put("/api/firm/rules", json={"rule_book": "is10101-2020", "house_rules": {}})
    told = take_in(there, packed).json()["told"]
    assert told == ["Rule book and house rules stay as your firm has settled them."]
    assert there.http.get("/api/firm").json()["rule_book"] == "is10101-2020"


@pytest.mark.parametrize(
    ("content", "told"),
    [
        (b"", "neither an archive"),
        (b"%PDF-1.7", "neither an archive"),
        (b"{not json", "is not JSON"),
        (b'{"format": "something-else"}', "format"),
        (b"PK\x03\x04 broken", "neither an archive"),
    ],
)
def test_what_is_no_archive_is_told_at_the_file(supervisor, content, told):
    answer = take_in(supervisor, content)
    assert answer.status_code == 422 and told in answer.json()["message"], answer.text
    assert answer.json()["fields"][0]["field"] == "file"


def test_a_file_that_unfolds_is_not_unpacked_whole(supervisor):
    bomb = io.BytesIO()
    with zipfile.ZipFile(bomb, "w", zipfile.ZIP_DEFLATED) as made:
        made.writestr("inspection.json", b" " * 61_000_000)
    answer = take_in(supervisor, bomb.getvalue())
    assert answer.status_code == 422 and "larger than any file of ours" in answer.json()["message"]


def test_what_an_archive_says_of_others_reaches_nobody(supervisor, inspector, stranger, ready):
    """An archive that names another firm's inspection and register makes one of its own."""
    theirs = stranger.begin()
    said = document.write(document.parse(cottage()))
    said["inspection"] |= {"id": theirs, "property_id": new_id()}
    (one,) = take_in(supervisor, json.dumps(said).encode()).json()["inspections"]
    assert one["id"] != theirs
    assert "property_id" not in whole(supervisor, one["id"])["inspection"]
    assert take_in(inspector, json.dumps(said).encode()).status_code == 403


def test_the_calendar_is_read_again_the_same(inspector, supervisor, ready):
    client = inspector.http.post(
        "/api/register/client", json={"parent_id": inspector.me["firm_id"], "values": {"name": "Trust"}}
    ).json()["id"]
    home = inspector.http.post(
        "/api/register/property", json={"parent_id": client, "values": {"address": "1 Lookout Row; flat, 2"}}
    ).json()["id"]
    values = {"number": "J-0007", "state": "booked", "booked_on": "2026-12-09", "booked_at": "09:30"}
    inspector.http.post("/api/register/job", json={"parent_id": home, "values": values})
    inspection, _ = unsatisfactory(inspector, ready, "C2", property_id=home)
    issued(inspector, supervisor, inspection)
    content = inspector.http.get("/api/calendar.ics").content
    assert Calendar.from_ical(content)["version"] == "2.0"
    entries = calendar.read(content)
    visit = next(one for one in entries if one.key.startswith("visit-"))
    assert (visit.on.isoformat(), visit.at, visit.where) == ("2026-12-09", "09:30", "1 Lookout Row; flat, 2")
    assert visit.minutes > 60
    work = next(one for one in entries if one.key == f"work-{inspection}")
    assert work.on.isoformat() == "2026-12-01" and work.at == ""
    again = calendar.read(calendar.write("x", entries, datetime(2026, 11, 30)))
    assert again == entries
