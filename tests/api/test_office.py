"""What now, and what a property tells: visits with their time, what waits for whom, and readings over the years."""

from datetime import date, timedelta

import pytest

from tests.api.test_register import Book


@pytest.fixture
def register(inspector):
    return Book(inspector)


def _agenda(who):
    answer = who.http.get("/api/agenda")
    assert answer.status_code == 200, answer.text
    return answer.json()


def _day(ahead: int) -> str:
    return (date.today() + timedelta(days=ahead)).isoformat()


def test_visits_come_with_when_how_long_and_how_far(register):
    # Rule 16.1 by the usual rates: arrival 20, intake 20, a board 25, two rings 28, three radials 21, writing 30.
    size = {"boards": 1, "rings": 2, "radials": 3, "travel_km": 12.5}
    jobs = {
        ahead: register.home(state="booked", booked_on=_day(ahead), booked_at="08:30", **size)[2]
        for ahead in (-2, 0, 3, 30)
    }
    visits = {visit["job"]["id"]: visit for visit in _agenda(register)["visits"]}
    found = {ahead: visits.get(job) for ahead, job in jobs.items()}
    assert [found[ahead] and found[ahead]["when"] for ahead in (-2, 0, 3, 30)] == ["before", "today", "later", None]
    assert (found[0]["minutes"], found[0]["travel_km"]) == (144, 12.5)


def test_a_confirmation_that_was_not_mailed_waits_until_it_is(register):
    _, _, job = register.home(state="asked")
    assert job in [one["job_id"] for one in _agenda(register)["unsent"]]
    register.change("job", job, state="done")
    assert job not in [one["job_id"] for one in _agenda(register)["unsent"]]


def test_an_instrument_out_of_calibration_is_told_and_one_out_of_use_is_not(register):
    late = register.add("instrument", name="Loop tester", serial="L-1", calibration_due=_day(-3))
    register.add("instrument", name="Old one", serial="O-1", calibration_due=_day(-300), retired=True)
    told = {instrument["serial"]: instrument["reason"] for instrument in _agenda(register)["instruments"]}
    assert told["L-1"] == "Calibration ran out 3 days before." and "O-1" not in told
    (shown,) = (
        instrument
        for instrument in register.http.get("/api/instruments").json()["instruments"]
        if instrument["entry"]["id"] == late
    )
    assert shown["calibration"]["days_left"] == -3


def test_a_return_visit_and_what_is_due_stand_there_and_a_signature_waits_only_for_who_may_sign(
    inspector, office, ready
):
    held = inspector.begin()
    inspector.send(
        held,
        inspector.change("inspection", held, "held_at", "2026-11-20T10:00:00Z"),
        inspector.change("inspection", held, "held_reason", "Waiting for the operator."),
        inspector.change("inspection", held, "return_on", _day(2)),
    )
    (back,) = (one for one in _agenda(inspector)["returns"] if one["id"] == held)
    assert (back["on"], back["reason"]) == (_day(2), "Waiting for the operator.")
    inspection = ready()
    for who in (inspector, office):
        listed = [one["id"] for one in _agenda(who)["ready"]]
        assert who is inspector or inspection not in listed


def test_a_property_tells_its_years_circuit_by_circuit(inspector, register):
    _, home, _ = register.home()
    register.change("property", home, built_year=1867, rewired_year=1994)
    made = {}
    for on, figure in (("2021-11-04", "9.5"), ("2026-11-04", "1.4")):
        inspection = inspector.begin()
        at = inspector.change
        inspector.send(
            inspection,
            at("inspection", inspection, "property_id", home),
            at("inspection", inspection, "inspected_on", on),
            at("inspection", inspection, "reference", f"S-{inspection[-8:]}"),
        )
        board, circuit = inspector.board(inspection)
        way = [at("circuit", circuit, name, value) for name, value in (("way", "5"), ("designation", "Outside lights"))]
        inspector.send(inspection, *way, at("circuit", circuit, "insulation_lne_mohm", figure))
        made[on] = (inspection, circuit, board)
    newest, circuit, _ = made["2026-11-04"]
    inspector.add(
        newest, "earlier", "circuit", circuit, measured_on="2016-11-04", figure="insulation_lne_mohm", reading=">64"
    )
    inspector.add(newest, "observation", "inspection", newest, text="Weak", code="FI")
    good = {"text": "Lid cracked", "code": "C2", "mended": True, "as_left": "New lid", "retest": "seen"}
    inspector.add(newest, "observation", "inspection", newest, **good)
    story = inspector.http.get(f"/api/properties/{home}/story").json()
    events = [(event["kind"], event["on"], event["codes"]) for event in story["events"]]
    # What was put right on the day, with its retest, counts no more (rule 13.5).
    assert events == [
        ("built", "1867", {}),
        ("rewired", "1994", {}),
        ("inspection", "2021-11-04", {}),
        ("inspection", "2026-11-04", {"FI": 1}),
    ]
    (line,) = story["circuits"]
    assert (line["circuit_id"], line["way"], line["name"]) == (circuit, "5", "Outside lights")
    points = [(one["on"], one["text"], one["value"]) for one in line["figures"]["insulation_lne_mohm"]]
    assert points == [("2016-11-04", ">64", 64), ("2021-11-04", "9.5", 9.5), ("2026-11-04", "1.4", 1.4)]
    assert line["figures"]["zs_ohm"] == [] and story["due_on"] is None


def test_a_story_is_the_firm_s_own(register, stranger):
    _, home, _ = register.home()
    assert stranger.http.get(f"/api/properties/{home}/story").status_code == 404


def test_a_promise_of_the_operator_stands_on_the_home_screen_once_it_is_overdue_and_until_it_is_settled(inspector):
    inspection = inspector.begin()
    call = inspector.add(
        inspection, "operator_call", "inspection", inspection, fault="earth", reference="48-221",
        called_at="2026-11-02T10:15:00Z", promised_by="2026-11-03T16:00:00Z",
    )  # fmt: skip

    def waiting():
        return [promise for promise in _agenda(inspector)["promises"] if promise["id"] == inspection]

    (told,) = waiting()
    assert (told["on"], told["reason"]) == ("2026-11-03", "48-221")
    later = inspector.change("operator_call", call, "promised_by", "2027-11-03T16:00:00Z")
    inspector.send(inspection, later)
    assert waiting() == []
    inspector.send(inspection, inspector.change("operator_call", call, "promised_by", "2026-11-03T16:00:00Z"))
    assert waiting()
    inspector.send(inspection, inspector.change("operator_call", call, "closed_at", "2026-11-04T09:00:00Z"))
    assert waiting() == []
