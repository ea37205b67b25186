"""How switches stood at a reading: what was measured with a part switched off never passes for the whole circuit."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.inspection.positions import CHOICES, JOINT, opening
from tests.core.whole_homes import board, circuit, judged

OPENS = [choice.says for choice in CHOICES if choice.opens]
WHOLE = ("insulation_ln_mohm", "insulation_lne_mohm", "r1_r2_ohm", "zs_ohm")


def home(stood=(), **readings):
    shower = circuit(1, "Shower", "fixed", **readings)
    return judged(
        board(shower, zdb_ohm="0.20"),
        positions=[
            {"id": f"s{n}", "about_id": shower["id"], "field": field, "of_reading": of, "stood": words}
            for n, (field, of, words) in enumerate(stood)
        ],
    )


READINGS = {
    "insulation_ln_mohm": ">500",
    "insulation_lne_mohm": ">500",
    "r1_r2_ohm": "0.20",
    "polarity": "correct",
    "zs_ohm": "0.40",
}


def status(judgement, field):
    return {note.status for note in judgement.notes if note.field == field and note.entity == "circuit"}


@pytest.mark.parametrize("field", WHOLE)
def test_a_reading_with_the_isolator_off_does_not_pass_for_the_circuit(field):
    assert "attention" not in status(home(**READINGS), field)
    judgement = home([(field, READINGS[field], "local isolator off")], **READINGS)
    assert "pass" not in status(judgement, field) and "attention" in status(judgement, field)
    limited = [limit for limit in judgement.limits if limit.field == field]
    assert [(one.why, one.whom) for one in limited] == [("Measured with local isolator off", "1 Shower")]


@pytest.mark.parametrize("field", WHOLE)
def test_what_opens_nothing_changes_nothing(field):
    words = JOINT.join(choice.says for choice in CHOICES if not choice.opens)
    told, plain = home([(field, READINGS[field], words)], **READINGS), home(**READINGS)
    assert (told.notes, told.limits, told.outcome) == (plain.notes, plain.limits, plain.outcome)
    # Neither are somebody's own words guessed at.
    own = home([(field, READINGS[field], "isolator by the door left off")], **READINGS)
    assert own.notes == plain.notes


def test_another_reading_was_taken_in_positions_of_its_own():
    judgement = home([("zs_ohm", "0.39", "local isolator off")], **READINGS)
    assert status(judgement, "zs_ohm") == status(home(**READINGS), "zs_ohm")
    # Put back, it has its own again, whatever was kept beside the other.
    both = [("zs_ohm", "0.40", "local isolator off"), ("zs_ohm", "0.39", "local isolator on")]
    assert "pass" not in status(home(both, **READINGS), "zs_ohm")
    again = [("zs_ohm", "0.40", "local isolator off"), ("zs_ohm", "0.40", "local isolator on")]
    assert "attention" not in status(home(again, **READINGS), "zs_ohm")


def test_one_isolator_speaks_once_for_a_circuit():
    judgement = home([(field, READINGS[field], "local isolator off") for field in WHOLE], **READINGS)
    speaking = [n for n in judgement.notes if "isolator off" in n.verdict.reason and n.because_of is None]
    assert len(speaking) == 1
    assert {n.field for n in judgement.notes if n.because_of == speaking[0].figure} == set(WHOLE) - {speaking[0].field}


def test_what_is_of_a_part_is_not_in_the_boards_sum():
    assert [one.verdict.status for one in home(**READINGS).board_sums if one.field == "insulation_lne_mohm"] == ["pass"]
    judgement = home([("insulation_lne_mohm", ">500", "light switches off")], **READINGS)
    assert not [one for one in judgement.board_sums if one.field == "insulation_lne_mohm"]


def test_what_fails_for_a_part_fails():
    low = READINGS | {"insulation_lne_mohm": "0.3", "zs_ohm": "3.9"}
    judgement = home([(f, low[f], "local isolator off") for f in ("insulation_lne_mohm", "zs_ohm")], **low)
    assert "fail" in status(judgement, "insulation_lne_mohm") and "fail" in status(judgement, "zs_ohm")


def test_a_zs_calculated_from_the_r1_r2_of_a_part_is_of_that_part():
    limited = READINGS | {"zs_ohm": "LIM supply was off"}
    assert "pass" in status(home(**limited), "zs_ohm")
    assert "pass" not in status(home([("r1_r2_ohm", "0.20", "local isolator off")], **limited), "zs_ohm")


def test_loop_and_continuity_of_different_parts_say_nothing_of_each_other():
    doubtful = READINGS | {"zs_ohm": "0.95"}
    beside = [n for n in home(**doubtful).notes if "beside Zdb" in n.title]
    assert [n.status for n in beside] == ["attention"]
    apart = home([("r1_r2_ohm", "0.20", "local isolator off")], **doubtful)
    assert not [n for n in apart.notes if "beside Zdb" in n.title]


@given(st.lists(st.sampled_from([choice.says for choice in CHOICES] + ["hatch shut"]), unique=True, max_size=6))
def test_the_words_that_open_are_told_in_their_order(chosen):
    assert opening(JOINT.join(chosen)) == JOINT.join(words for words in chosen if words in OPENS)


@given(st.sampled_from(OPENS), st.sampled_from(WHOLE), st.data())
def test_no_figure_of_a_home_gets_better_by_what_stood_open(words, field, data):
    readings = READINGS | {
        "r1_r2_ohm": data.draw(st.sampled_from(["0.02", "0.20", "1.60", "OL"])),
        "zs_ohm": data.draw(st.sampled_from(["0.21", "0.40", "1.80"])),
        "insulation_lne_mohm": data.draw(st.sampled_from(["0.2", "1.4", ">500"])),
    }
    before, after = home(**readings), home([(field, readings[field], words)], **readings)
    passed = {n.figure for n in before.notes if n.status == "pass"} | {None}
    assert {n.figure for n in after.notes if n.status == "pass"} <= passed
    assert not (before.outcome != "satisfactory" and after.outcome == "satisfactory")
    assert len(after.limits) >= len(before.limits)


def test_no_two_choices_can_be_taken_for_each_other():
    assert len({choice.says for choice in CHOICES}) == len(CHOICES)
    assert not any(JOINT in choice.says for choice in CHOICES)
