"""Readings that a trainee took: marked until a competent person signs for them, by the order of the journal."""

import pytest


@pytest.fixture
def home(inspector):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    trainee = inspector.add(inspection, "attendance", "inspection", inspection, who="Piet Rook", purpose="trainee")
    return inspection, circuit, trainee


def open_of(answer):
    return [(one["who"], [f["field"] for f in one["figures"]]) for one in answer["judgement"]["to_countersign"]]


def test_a_trainees_readings_stand_against_satisfactory_until_they_are_countersigned(inspector, home):
    inspection, circuit, trainee = home
    read = [inspector.change("circuit", circuit, field, value, read_by=trainee)
            for field, value in (("r1_r2_ohm", "0.21"), ("zs_ohm", "0.44"))]  # fmt: skip
    own = inspector.change("circuit", circuit, "insulation_lne_mohm", ">200")
    answer = inspector.send(inspection, *read, own)
    assert open_of(answer) == [("Piet Rook", ["r1_r2_ohm", "zs_ohm"])]
    told = [n for n in answer["judgement"]["notes"] if n["field"] == "countersigned_at"]
    assert [n["reason"] for n in told] == ["2 readings by Piet Rook, not countersigned."]
    assert any("countersigned" in one["says"] for one in answer["judgement"]["against"])

    signed = inspector.change("attendance", trainee, "countersigned_at", "2026-11-03T12:00:00Z")
    assert open_of(inspector.send(inspection, signed)) == []
    # One that comes after the signature is open again, whatever the clocks say; so is one that was mended by a trainee.
    later = inspector.change("circuit", circuit, "zs_ohm", "0.46", read_by=trainee, made_at="2026-11-03T09:00:00Z")
    assert open_of(inspector.send(inspection, later)) == [("Piet Rook", ["zs_ohm"])]
    # Measured again by a competent person, or taken out, it is the trainee's no more.
    again = inspector.change("circuit", circuit, "zs_ohm", "0.45")
    assert open_of(inspector.send(inspection, again)) == []


def test_a_reading_taken_out_and_a_signature_taken_back(inspector, home):
    inspection, circuit, trainee = home
    inspector.send(inspection, inspector.change("circuit", circuit, "zs_ohm", "0.44", read_by=trainee))
    gone = inspector.change("circuit", circuit, "zs_ohm", None, read_by=trainee)
    assert open_of(inspector.send(inspection, gone)) == []
    inspector.send(inspection, inspector.change("circuit", circuit, "zs_ohm", "0.45", read_by=trainee))
    sign = inspector.change("attendance", trainee, "countersigned_at", "2026-11-03T12:00:00Z")
    assert open_of(inspector.send(inspection, sign)) == []
    back = inspector.change("attendance", trainee, "countersigned_at", None)
    # What was signed for once was signed for; taking the word back opens it again.
    assert open_of(inspector.send(inspection, back)) == [("Piet Rook", ["zs_ohm"])]


def test_only_a_trainee_of_this_inspection_is_named_and_only_a_competent_person_signs(inspector, office, home):
    inspection, circuit, trainee = home
    me = inspector.add(inspection, "attendance", "inspection", inspection, who="Ruth", purpose="inspection")
    for named in (me, circuit, "nobody"):
        change = inspector.change("circuit", circuit, "zs_ohm", "0.44", read_by=named)
        (result,) = inspector.send(inspection, change)["results"]
        assert (result["state"], "not a trainee" in result["reason"]) == ("refused", True)
    (result,) = office.send(
        inspection, office.change("attendance", trainee, "countersigned_at", "2026-11-03T12:00:00Z")
    )["results"]
    assert result["state"] == "refused"


def test_the_history_names_who_read_it(inspector, home):
    inspection, circuit, trainee = home
    inspector.send(inspection, inspector.change("circuit", circuit, "zs_ohm", "0.44", read_by=trainee))
    path = f"/api/inspections/{inspection}/history"
    entry = inspector.http.get(path, params={"entity_id": circuit, "field": "zs_ohm"}).json()[0]
    assert entry["read_by"] == trainee
