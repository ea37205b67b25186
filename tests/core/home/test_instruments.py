"""Calibration in date, and a log of nulls with the span of readings that a bad one marks (rule 1.4)."""

import pytest

from dorrik.core.basics.readings import Reading
from dorrik.core.home import instruments
from dorrik.core.inspection.document import FORMAT, VERSION, parse
from dorrik.core.inspection.records import LeadNull
from dorrik.core.judging.judgement import judge


@pytest.mark.parametrize(
    ("due", "status", "said"),
    [
        ("2027-03-01", "pass", "until 1 March 2027"),
        ("2026-12-03", "attention", "in 30 days"),
        ("2026-12-04", "pass", "until"),
        ("2026-11-03", "attention", "today"),
        ("2026-11-02", "fail", "1 day before"),
        (None, "unknown", "No calibration date"),
    ],
)
def test_calibration_is_held_against_the_day_of_use(due, status, said):
    verdict = instruments.judge_calibration(due, "2026-11-03")
    assert (verdict.status, said in verdict.reason) == (status, True)


def null(time, reading, known=None, leads="set-a"):
    return LeadNull(
        id=time, leads_id=leads, known_ohm=known, reading_ohm=Reading.parse(reading), nulled_at=f"2026-11-03T{time}:00Z"
    )


def test_a_null_is_held_against_the_mean_of_the_accepted_ones():
    log = [null("09:00", "0.08", 0.06), null("10:00", "0.10", 0.06), null("11:00", "0.16", 0.06)]
    first, second, third = instruments.nulls(log)
    assert [one.verdict.status for one in (first, second, third)] == ["pass", "pass", "attention"]
    # The mean of 0.08 and 0.10, not the 0.06 of the book: max(0.03, 25 %) around 0.09 ends at 0.12.
    assert third.verdict.limit == pytest.approx(0.09)


def test_a_bad_null_marks_everything_between_the_good_ones_around_it():
    log = [null("09:00", "0.08"), null("10:00", "0.31"), null("11:00", "0.08"), null("12:00", "0.08")]
    marked = [one.doubtful for one in instruments.nulls(log)]
    assert marked == [None, ("2026-11-03T09:00:00Z", "2026-11-03T11:00:00Z"), None, None]
    assert instruments.nulls(log[:2])[1].doubtful == ("2026-11-03T09:00:00Z", None)


def test_lead_sets_are_judged_apart_and_the_first_null_of_unknown_leads_is_taken():
    log = [null("09:00", "0.05"), null("09:01", "0.40", leads="set-b")]
    assert [one.doubtful for one in instruments.nulls(log)] == [None, None]
    assert instruments.known_ohm(0.07, []) == 0.07


def test_readings_in_doubt_are_marked_and_open_leads_fail():
    circuit = {"id": "c", "way": "1", "designation": "Cooker", "r1_r2_ohm": "0.19", "zs_ohm": "0.4"}
    nulls = [{"id": "n", "name": "Set A", "known_ohm": 0.05, "reading_ohm": "OL", "nulled_at": "2026-11-03T09:00:00Z"}]
    home = {"id": "h", "lead_nulls": nulls, "boards": [{"id": "b", "circuits": [circuit]}]}
    found = parse({"format": "dorrik-inspection", "version": 1, "inspection": home})
    entered = "2026-11-03T09:10:00+00:00"
    notes = judge(found, {("c", "r1_r2_ohm"): entered, ("c", "zs_ohm"): entered}).notes
    said = {(note.entity, note.field): note for note in notes if note.status != "pass"}
    assert said["lead_null", "reading_ohm"].status == "fail"
    assert "last good null" in said["circuit", "r1_r2_ohm"].verdict.reason
    assert ("circuit", "zs_ohm") not in {k for k, n in said.items() if "null" in n.verdict.reason}


def test_the_accuracy_of_the_instruments_used_takes_the_place_of_the_usual():
    circuit = {
        "id": "c", "way": "1", "zs_ohm": "1.02", "device_standard": "BS EN 60898", "device_type": "B",
        "device_rating_a": 32, "serves": "fixed",
    }  # fmt: skip

    def status(*meters):
        board = {"id": "b", "circuits": [circuit]}
        home = {"id": "h", "earthing": "TN-S", "instruments_used": list(meters), "boards": [board]}
        found = parse({"format": "dorrik-inspection", "version": 1, "inspection": home})
        return next(note for note in judge(found).notes if note.field == "zs_ohm").status

    # 0.8 × 1.37 Ω = 1.10 Ω; 1.02 Ω with 5 % and 5 digits reaches 1.12 Ω, with 1 % and 2 digits 1.05 Ω.
    assert status() == "pass"
    assert status({"id": "m", "loop_percent": 5, "loop_digits": 5}) == "attention"
    assert status({"id": "m", "loop_percent": 1, "loop_digits": 2}) == "pass"
    # Of two instruments the wider one.
    assert status({"id": "m", "loop_percent": 1, "loop_digits": 2}, {"id": "n", "loop_percent": 9}) == "attention"
    assert status() == "pass"


def test_an_instrument_out_of_calibration_is_said():
    meters = [{"id": "m", "name": "Tester", "serial": "T-1", "calibration_due": "2026-11-01"}]
    home = {"id": "h", "inspected_on": "2026-11-03", "instruments_used": meters}
    notes = judge(parse({"format": "dorrik-inspection", "version": 1, "inspection": home})).notes
    assert [(note.entity, note.status, note.title) for note in notes] == [("instrument_used", "fail", "Tester T-1")]


def test_without_the_day_of_the_inspection_nothing_is_said_of_calibration():
    verdict = instruments.judge_calibration("2026-11-30", None)
    assert verdict.status == "unknown" and "30 November 2026" in verdict.reason


def changed(at, name="Leads", known=0.06):
    """Leads that were taken up at that minute past nine, and not nulled."""
    return {"id": f"c{at}", "name": name, "known_ohm": known, "nulled_at": f"2026-11-03T09:{at:02}:00Z"}


def nulled(at, reading, name="Leads", known=0.06):
    return changed(at, name, known) | {"id": f"n{at}", "reading_ohm": reading}


def with_leads(*log, points=2, points_at=()):
    """A ring's points read at those minutes past nine, and the log of the leads."""
    found = [
        {"id": f"p{n}", "name": f"Socket {n}", "kind": "socket", "position": n, "line_cpc_ohm": "0.30"}
        for n in range(points)
    ]
    circuit = {"id": "c", "way": "1", "designation": "Sockets", "form": "radial", "points": found}
    home = {"id": "i", "boards": [{"id": "b", "circuits": [circuit]}], "lead_nulls": list(log)}
    times = {(f"p{n}", "line_cpc_ohm"): f"2026-11-03T09:{at:02}:00Z" for n, at in enumerate(points_at)}
    return judge(parse({"format": FORMAT, "version": VERSION, "inspection": home}), times)


def of_leads(judgement):
    return [note for note in judgement.notes if note.entity == "lead_null" and note.status != "pass"]


def test_changed_leads_ask_for_a_null_and_say_what_they_should_read():
    note = of_leads(with_leads(nulled(0, "0.06"), changed(10, "Long lead", 0.34)))[0]
    assert "not nulled since" in note.verdict.reason
    assert "0.34 Ω" in note.verdict.reason
    assert note.verdict.asks
    # Once they are nulled well and nothing was read between, there is nothing to say.
    assert of_leads(with_leads(nulled(0, "0.06"), changed(10), nulled(12, "0.06"))) == []


def test_points_read_since_the_change_are_marked_and_offered_again_in_the_order_of_the_walk():
    log = nulled(0, "0.06"), changed(10), nulled(30, "0.07")
    judgement = with_leads(*log, points=4, points_at=(5, 15, 25, 35))
    bench = judgement.benches[0]
    assert [(point.name, point.again) for point in bench.points] == [
        ("Socket 0", False), ("Socket 1", True), ("Socket 2", True), ("Socket 3", False),
    ]  # fmt: skip
    assert {point.says for point in bench.points if point.again} == {"leads in doubt"}
    # One cause, one voice: what was read with them follows from the leads.
    cause = of_leads(judgement)[0].figure
    marked = [note for note in judgement.notes if note.entity == "point" and "last good null" in note.verdict.reason]
    assert [note.entity_id for note in marked] == ["p1", "p2"]
    assert {note.because_of for note in marked} == {cause}


def test_what_was_read_before_leads_were_changed_is_not_in_doubt():
    judgement = with_leads(nulled(0, "0.06"), changed(10), points_at=(5, 9))
    assert not any(point.again for point in judgement.benches[0].points)
