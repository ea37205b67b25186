"""The voltage of the supply beside the declared 230 V, +10 % and −6 % (BS 7671 313.1, rule 3.12)."""

import pytest

from dorrik.core.electrical.supply import judge_voltage
from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import judge


@pytest.mark.parametrize(
    ("voltage_v", "status"),
    [(216.1, "attention"), (216.2, "pass"), (230, "pass"), (253.0, "pass"), (253.1, "attention"), (400, "attention")],
)
def test_it_is_within_ten_per_cent_above_and_six_below(voltage_v, status):
    verdict = judge_voltage(voltage_v)
    assert verdict.status == status
    # 230 × 1.10 = 253 and 230 × 0.94 = 216.2.
    assert verdict.limit in (None, 253.0, 216.2)


def test_the_margin_says_how_far_it_is_outside():
    assert judge_voltage(257).margin == pytest.approx(-4)
    assert judge_voltage(210).margin == pytest.approx(-6.2)


def test_one_outside_is_asked_about_and_stands_against_satisfactory():
    home = {"id": "i", "earthing": "TN-C-S", "supply_voltage_v": 262}
    judgement = judge(parse({"format": "dorrik-inspection", "version": 2, "inspection": home}))
    (note,) = [note for note in judgement.notes if note.field == "supply_voltage_v"]
    assert note.verdict.next_step.startswith("Keep off")
    assert [offer.kind for offer in note.offers] == ["letter", "hold", "call"]
    assert any(one.field == "supply_voltage_v" and one.kind == "question" for one in judgement.against)
    assert judgement.outcome != "satisfactory"
    sound = judge(parse({"format": "dorrik-inspection", "version": 2, "inspection": home | {"supply_voltage_v": 236}}))
    assert not any(one.field == "supply_voltage_v" for one in sound.against)
