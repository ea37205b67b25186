"""What a device needs to judge by itself comes with the inspection: from it the device says what the server says."""

import json

import pytest

from dorrik.api.rules_edition import edition
from dorrik.core.judging.device_judge import DeviceJudge
from tests.core.judging.on_device import NOW
from tests.report import full_homes


def opened(who, inspection):
    """The judgement of a device that opens an inspection with what the server sent, and that of the server."""
    answer = who.http.get(f"/api/inspections/{inspection}")
    assert answer.status_code == 200, answer.text
    # As a browser reads and writes it: a whole number has no point there.
    sent = json.loads(
        answer.text, parse_float=lambda text: int(float(text)) if float(text).is_integer() else float(text)
    )
    asked = {
        "id": inspection, "firm_id": who.me["firm_id"], "entities": sent["entities"], "facts": sent["facts"],
        "entered": [], "blind": sent["judgement"]["blind"], "changes": [], "now": NOW,
    }  # fmt: skip
    judge = DeviceJudge()
    here = json.loads(judge.answer("open", json.dumps(asked)))["judgement"]
    return judge, here, json.loads(answer.text)["judgement"]


def assert_same(here, there):
    assert [part for part in there if here[part] != there[part]] == []
    assert set(here) == set(there)


@pytest.fixture
def home(inspector):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    return inspection, circuit


def test_a_full_home_is_judged_alike(supervisor):
    taken = supervisor.http.post("/api/import", content=json.dumps(full_homes.everything()).encode())
    (inspection,) = (one["id"] for one in taken.json()["inspections"])
    _, here, there = opened(supervisor, inspection)
    assert_same(here, there)


def test_what_trainees_read_and_who_signed_is_known_on_the_device(inspector, home):
    inspection, circuit = home
    piet, ana = (
        inspector.add(inspection, "attendance", "inspection", inspection, who=who, purpose="trainee")
        for who in ("Piet Rook", "Ana Linn")
    )
    signed = inspector.change("attendance", piet, "countersigned_at", "2026-11-03T12:00:00Z")
    inspector.send(
        inspection,
        inspector.change("circuit", circuit, "r1_r2_ohm", "0.21", read_by=piet),
        signed,
        inspector.change("circuit", circuit, "zs_ohm", "0.44", read_by=piet),
        inspector.change("circuit", circuit, "insulation_lne_mohm", ">200", read_by=ana),
    )
    judge, here, there = opened(inspector, inspection)
    assert_same(here, there)
    assert {one["who"] for one in here["to_countersign"]} == {"Piet Rook", "Ana Linn"}
    # What is signed here goes on from there.
    change = inspector.change("attendance", piet, "countersigned_at", "2026-11-03T13:00:00Z", based_on=99)
    told = json.loads(judge.answer("write", json.dumps({"changes": [change], "now": NOW})))
    inspector.send(inspection, change)
    _, _, after = opened(inspector, inspection)
    runs = told["change"]["lists"]["to_countersign"]
    assert len(after["to_countersign"]) == 1 and runs


def test_readings_taken_with_leads_in_doubt_are_known_on_the_device(inspector, home):
    inspection, circuit = home
    inspector.send(
        inspection, inspector.change("circuit", circuit, "r1_r2_ohm", "0.31", made_at="2026-11-03T09:30:00Z")
    )
    for hour, reading in ((9, "0.05"), (10, "0.90")):
        inspector.add(
            inspection, "lead_null", "inspection", inspection, name="Set A", known_ohm=0.05, reading_ohm=reading,
            nulled_at=f"2026-11-03T{hour:02}:00:00Z",
        )  # fmt: skip
    _, here, there = opened(inspector, inspection)
    assert_same(here, there)
    (told,) = [note for note in here["notes"] if (note["id"], note["field"]) == (circuit, "r1_r2_ohm")]
    assert told["status"] == "attention" and "null" in told["reason"]


def test_every_answer_names_the_edition_of_the_rules(inspector):
    assert inspector.http.get("/api/home").headers["Dorrik-Rules"] == edition()
    assert len(edition()) == 16


def test_a_difference_that_a_device_tells_is_on_record_with_its_state(inspector, supervisor, stranger, home):
    inspection, _ = home
    path = f"/api/inspections/{inspection}/rule-differences"
    told = {"seq": 3, "parts": ["notes", "schedule", "no such part"]}
    assert inspector.http.post(path, json=told).status_code == 204
    (line,) = supervisor.http.get("/api/audit", params={"action": "verdicts differed"}).json()["lines"]
    assert line["subject"] == inspection
    assert line["detail"] == {"seq": 3, "parts": ["notes", "schedule"], "rules": edition()}
    assert stranger.http.post(path, json=told).status_code == 404
    assert inspector.http.post(path, json={"seq": 3, "parts": []}).status_code == 422
