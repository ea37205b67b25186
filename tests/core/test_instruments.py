"""Calibration in date, and a log of nulls with the span of readings that a bad one marks (rule 1.4)."""

import pytest

from dorrik.core import instruments
from dorrik.core.document import parse
from dorrik.core.inspection import LeadNull
from dorrik.core.judgement import judge
from dorrik.core.readings import Reading


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
