"""Points of a ring measured by halves, exchanged, too low, and after a retest (rules 4.4 to 4.7, 1.2)."""

import pytest

from dorrik.core import ring
from dorrik.core.readings import Reading
from tests.core.whole_homes import RCD, board, circuit, figures, judged, offered, points
from tests.core.whole_homes import ring as ring_circuit

R = Reading.parse


def analyse(*each, ends=("0.46", "0.46", "0.76")):
    """Points as (L–N, L–cpc, retested) on a ring of 62 m: L–N 0.23 everywhere, L–cpc 0.287 to 0.305 Ω."""
    walk = [ring.RingPoint(f"p{n}", ln and R(ln), lc and R(lc), again) for n, (ln, lc, again) in enumerate(each)]
    return ring.analyse(ring.RingTest(*map(R, ends), 2.5, 1.5, walk))


def kinds(analysis):
    return [(f.kind, f.point) for f in analysis.findings]


SOUND = ("0.23", "0.30", False)
HALF = (None, "0.30", False)


def test_line_to_cpc_alone_names_the_high_point_and_asks_for_a_retest():
    (finding,) = analyse(HALF, HALF, (None, "0.52", False), HALF).findings
    assert (finding.kind, finding.point, finding.observation) == ("high-at-point", "p2", None)
    assert "test again" in finding.next_step and "spur" not in finding.reason


def test_after_the_retest_both_readings_of_it_are_offered():
    (finding,) = analyse(HALF, HALF, (None, "0.52", True), HALF).findings
    # 0.22 Ω over, 7.41 + 12.10 mΩ a metre: 11 m.
    assert "spur of about 11 m" in finding.reason and "terminal" in finding.reason
    assert finding.observation is None


def test_a_contact_that_stays_after_the_retest_is_a_terminal():
    (before,) = analyse(SOUND, ("0.55", "0.31", False), SOUND).findings
    (after,) = analyse(SOUND, ("0.55", "0.31", True), SOUND).findings
    assert "test again" in before.next_step and "Remove the front" in after.next_step


def test_two_high_neighbours_may_be_either_and_nothing_is_coded_before_it_was_traced():
    spurs = (("0.31", "0.40", False), ("0.38", "0.49", False))
    found = analyse(SOUND, *spurs, SOUND, SOUND)
    assert kinds(found) == [("spur", "p1"), ("spur-off-spur", "p2")]
    assert "one of its own, or" in found.findings[1].reason
    assert all(f.observation is None for f in found.findings)


@pytest.mark.parametrize(
    ("traced", "raised"),
    [("beyond a point on a spur", {"spur-off-spur": "C2"}), ("on a spur alone", {}), ("fused", {}), (None, {})],
)
def test_what_tracing_showed_settles_it(traced, raised):
    spur = {"line_neutral_ohm": "0.38", "line_cpc_ohm": "0.49", "traced": traced}
    sound = {"line_neutral_ohm": "0.23", "line_cpc_ohm": "0.30"}
    judgement = judged(board(ring_circuit(1, points=points(sound, spur, sound), r1_r2_ohm="0.49", **RCD)))
    assert offered(judgement) == raised


def same_ends(total, count):
    return [f"{x * (1 - x) * total:.2f}" for x in ((n + 1) / (count + 1) for n in range(count))]


def test_one_pair_joined_at_the_same_ends_and_the_other_right():
    # x(1−x)·(r1 + r2) on line to cpc alone; line to neutral is flat as it should be.
    wrong = analyse(*(("0.23", lc, False) for lc in same_ends(1.22, 7)))
    assert [(f.kind, f.conductor) for f in wrong.findings] == [("wrong-pairing", "cpc")]
    wrong = analyse(*((ln, "0.30", False) for ln in same_ends(0.92, 7)))
    assert [(f.kind, f.conductor) for f in wrong.findings] == [("wrong-pairing", "neutral")]


def test_line_to_cpc_alone_joined_at_the_same_ends():
    wrong = analyse(*((None, lc, False) for lc in same_ends(1.22, 7)))
    assert kinds(wrong) == [("wrong-pairing", None)]


@pytest.mark.parametrize(
    ("ln", "lc", "kind", "words", "raised"),
    [
        ("0.23", "OL", "cpc-open-at-point", "cpc open here", "no-cpc-at-point"),
        ("OL", "0.30", "neutral-open-or-crossed", "metal here would be live", "polarity-wrong"),
        ("OL", "OL", "line-open-at-point", "neutral and cpc swapped", "polarity-wrong"),
    ],
)
def test_pairs_that_do_not_read_the_dangerous_meaning_first(ln, lc, kind, words, raised):
    (finding,) = analyse(SOUND, (ln, lc, False), SOUND).findings
    assert (finding.kind, finding.observation) == (kind, raised) and words in finding.reason


def test_points_of_a_ring_that_is_open_itself_are_not_said_to_be_exchanged():
    found = analyse(("OL", "OL", False), SOUND, ends=("OL", "OL", "OL"))
    assert kinds(found) == [("not-a-ring", None)]


def test_lower_than_any_place_on_the_ring_can_give():
    # The least is r1·r2/(r1 + r2) = 0.287 Ω at the board.
    (finding,) = analyse(SOUND, ("0.23", "0.16", False), SOUND).findings
    assert (finding.kind, finding.point) == ("low-at-point", "p1") and "0.29" in finding.reason


@pytest.mark.parametrize(
    ("ends", "kind"),
    [
        (("0.46", "0.64", "0.76"), "turned-round"),  # the digits of 0.46
        (("0.46", "0.46", "0.47"), "equal-cpc"),  # single conductors, or an earth in parallel
        (("0.46", "0.46", "0.38"), "parallel-earth"),
    ],
)
def test_ends_that_cannot_all_be_true_lead_to_nothing(ends, kind):
    # What bends the cpc alone leaves line to neutral as it is: 0.46/2 = 0.23 Ω.
    found = analyse(SOUND, ("0.23", "0.45", False), ends=ends)
    assert [f.kind for f in found.findings] == [kind]
    judgement = judged(board(ring_circuit(1, r1_ohm=ends[0], rn_ohm=ends[1], r2_ohm=ends[2], r1_r2_ohm="0.31", **RCD)))
    # The recorded R1+R2 does not pass on ends that are in doubt, and nothing is expected of them.
    assert figures(judgement, "c1", "r1_r2_ohm") == ["unknown"]
    assert not [e for e in judgement.expected if (e.entity_id, e.field) == ("c1", "r1_r2_ohm")]
    assert offered(judgement) == {}


def test_r1_r2_above_both_conductors_once_round():
    judgement = judged(board(ring_circuit(1, r1_r2_ohm="1.45", **RCD)))
    note = next(n for n in judgement.notes if n.figure == ("c1", "r1_r2_ohm"))
    assert note.status == "attention" and "cannot be" in note.verdict.reason  # 0.46 + 0.76 = 1.22


@pytest.mark.parametrize(
    ("volts", "key", "code"),
    [
        ((231, 230, 1), None, None),
        ((231, 2, 230), "socket-polarity", "C2"),
        ((0, 231, 230), "metal-live", "C1"),  # the earth pin may be live: before an open neutral
        ((140, 230, 92), "neutral-lost", "C2"),
        ((231, 40, 60), "no-cpc-at-point", "C2"),
    ],
)
def test_live_voltages_at_a_point(volts, key, code):
    names = ("line_neutral_v", "line_earth_v", "neutral_earth_v")
    shed = circuit(1, "Shed", "sockets", points=points(dict(zip(names, volts, strict=True))), **RCD)
    assert offered(judged(board(shed))) == ({key: code} if key else {})


def test_a_live_earth_pin_is_named_first():
    names = {"line_neutral_v": 0, "line_earth_v": 231, "neutral_earth_v": 230}
    note = next(
        n
        for n in judged(board(circuit(1, "Shed", "sockets", points=points(names), **RCD))).notes
        if n.field == "line_neutral_v"
    )
    assert note.verdict.reason.index("earth pin may be live") < note.verdict.reason.index("neutral is open")
    assert note.verdict.next_step.startswith("Treat the earth as live.")
