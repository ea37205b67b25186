"""The next inspection and the landlord's duties, as the judgement of an inspection has them (rules 14.1 and 14.2)."""

import pytest

from dorrik.core.book import intervals
from tests.core.whole_homes import board, circuit, figures, judged


def home(**origin):
    return judged(board(circuit(1, "Fire")), **({"tenure": "let dwelling", "nation": "England"} | origin))


@pytest.mark.parametrize(
    ("tenure", "years", "statuses"),
    [
        ("let dwelling", 10, ["attention"]),
        ("let dwelling", 5, []),
        ("owner-occupied dwelling", 10, []),
    ],
)
def test_longer_than_is_usual_for_the_tenure_is_pointed_out(tenure, years, statuses):
    assert figures(home(tenure=tenure, next_years=years), "i", "next_years") == statuses


def test_a_sound_home_is_proposed_the_longest_and_says_why():
    proposal = home(condition_on_sight="good").interval
    assert (proposal.years, proposal.longest) == (5, 5)
    assert "let dwelling" in proposal.reason


def test_it_is_shorter_for_a_reason_that_is_named():
    poor = home(condition_on_sight="poor").interval
    assert poor.years < 5 and "condition is poor" in poor.reason
    improvements = [{"id": f"o{n}", "code": "C3", "text": "x"} for n in range(4)]
    some = home(condition_on_sight="good", observations=improvements).interval
    assert some.years < 5 and "4 improvements" in some.reason


def test_nothing_is_proposed_while_the_tenure_is_not_known():
    assert home(tenure=None).interval is None


def test_insulation_on_its_way_down_brings_it_before_the_year_it_leads_to():
    """40 MΩ in 2021 and 8 MΩ in 2026 fall by a fifth every five years: 1 MΩ in 2032."""
    signs = intervals.Signs(low_by=2032)
    assert intervals.propose("owner-occupied dwelling", "England", signs, 2026).years == 5
    falling = circuit(
        1, "Fire", insulation_lne_mohm="8",
        earlier=[{"id": "e", "figure": "insulation_lne_mohm", "reading": "40", "measured_on": "2021-11-03"}],
    )  # fmt: skip
    proposal = judged(board(falling), tenure="owner-occupied dwelling", nation="England").interval
    assert proposal.years < 10
    assert "insulation would reach its minimum" in proposal.reason


def test_duties_are_the_landlord_s_and_counted_from_the_inspection():
    due = {duty.duty: duty.due for duty in home().duties}
    # 28 days from 3 November 2026.
    assert due["copy of the report to each existing occupier"] == "2026-12-01"
    assert due["copy to the local authority on request"] is None
    assert home(tenure="owner-occupied dwelling").duties == ()


OWNED = {"tenure": "owner-occupied dwelling", "condition_on_sight": "good"}


def test_damp_and_old_wiring_bring_it_nearer_where_it_is_not_law_already():
    """Rule 14.1: shorter with a reason, damp and age among them; ten years is usual for a home its owner lives in."""
    assert home(**OWNED).interval.years == 10
    damp = home(**OWNED, damp=True).interval
    assert damp.years == 5 and "damp" in damp.reason
    of = {"id": "d", "about_entity": "inspection", "about_id": "i"}
    old = home(**OWNED, datings=[of | {"to_year": 1968, "known_by": "papers"}]).interval
    assert old.years == 5 and "1968 or earlier" in old.reason
    newer = home(**OWNED, datings=[of | {"from_year": 1968, "to_year": 2004}]).interval
    assert newer.years == 10


def test_evidence_that_does_not_agree_shortens_nothing():
    of = {"about_entity": "inspection", "about_id": "i"}
    datings = [of | {"id": "d", "to_year": 1968}, of | {"id": "e", "from_year": 1990}]
    assert home(**OWNED, datings=datings).interval.years == 10
