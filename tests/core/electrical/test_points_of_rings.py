"""Points of a ring measured by halves, exchanged, too low, and after a retest (rules 4.4 to 4.7, 1.2)."""

import pytest

from dorrik.core.basics.readings import Reading
from dorrik.core.electrical import ring
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


# Every point high by one equal amount (rule 4.4): L–N 0.23 on this ring, L–cpc 0.29 to 0.305 by the rules' formula.


def test_a_ring_high_all_along_by_one_amount_is_one_voice_and_no_spur():
    found = analyse(*[("0.45", "0.52", False)] * 6)
    assert kinds(found) == [("all-high", None)]
    (finding,) = found.findings
    assert "0.22 Ω line to neutral" in finding.reason and finding.observation is None
    # What sends to the leads sends nobody to a terminal.
    assert "front" not in finding.next_step and "terminal" not in finding.next_step


def test_the_leads_that_make_a_ring_high_are_named_by_what_they_read():
    walk = [ring.RingPoint(f"p{n}", R("0.45"), R("0.52"), False) for n in range(6)]
    ends = [R(text) for text in ("0.46", "0.46", "0.76")]
    (finding,) = ring.analyse(ring.RingTest(*ends, 2.5, 1.5, walk, None, (("long lead", 0.22),))).findings
    assert "long lead" in finding.reason


def test_a_point_that_is_higher_than_all_the_high_ones_is_still_named():
    """0.22 Ω too much everywhere; one point has 0.20 Ω more than that."""
    found = analyse(*[("0.45", "0.52", False)] * 3, ("0.65", "0.72", False), *[("0.45", "0.52", False)] * 3)
    assert ("all-high", None) in kinds(found)
    assert [point for kind, point in kinds(found) if kind != "all-high"] == ["p3"]


@pytest.mark.parametrize("ends", [("0.46", None, None), (None, None, None), ("0.46", "0.30", "0.76")])
def test_a_ring_whose_ends_are_in_doubt_names_the_odd_one_out_among_its_own_points(ends):
    walk = [ring.RingPoint(f"p{n}", R("0.25"), None, False) for n in range(6)]
    walk[2] = ring.RingPoint("p2", R("0.10"), None, False)
    found = ring.analyse(ring.RingTest(*(text and R(text) for text in ends), 2.5, 1.5, walk))
    odd = [f for f in found.findings if f.kind == "odd-one-out"]
    assert [f.point for f in odd] == ["p2"] and "0.10" in odd[0].reason


def test_points_that_agree_have_no_odd_one_out():
    walk = [ring.RingPoint(f"p{n}", R(f"0.2{n}"), None, False) for n in range(3, 7)]
    found = ring.analyse(ring.RingTest(R("0.46"), None, None, 2.5, 1.5, walk))
    assert "odd-one-out" not in {f.kind for f in found.findings}


def open_ring(*legs, **fields):
    """A ring whose line is open, its points read from both ends along that line: 7.41 mΩ a metre on 2.5 mm²."""
    outlets = points(*({"leg_one_ohm": one, "leg_two_ohm": two} for one, two in legs))
    return judged(board(ring_circuit(1, r1_ohm=">20", rn_ohm="0.46", r2_ohm="0.76", points=outlets, **fields)))


def gap(judgement):
    return [n for n in judgement.notes if n.title.endswith("where it is open")]


def test_an_open_ring_says_between_which_points_and_how_far_from_either_end():
    (note,) = gap(open_ring(("0.07", ">20"), ("0.15", ">20"), (">20", "0.22"), (">20", "0.11")))
    # 0.15 Ω / 7.41 mΩ = 20 m, 0.22 Ω / 7.41 mΩ = 30 m.
    assert "point 1, about 20 m from the first end, and point 2, about 30 m from the second end" in note.verdict.reason
    assert note.verdict.next_step.startswith("Isolate and prove dead.")
    # One cause, one voice: it follows from the open conductor, which is what is coded.
    assert note.because_of == ("c1", "r1_ohm") and note.verdict.observation is None


def test_read_from_one_end_alone_the_gap_lies_beyond_the_last_that_reads():
    (note,) = gap(open_ring(("0.07", None), ("0.15", None), (">20", None)))
    assert "beyond point 1, about 20 m from the first end" in note.verdict.reason


def test_readings_from_both_ends_that_overlap_name_no_gap():
    (note,) = gap(open_ring(("0.07", ">20"), ("0.15", "0.30"), ("0.22", "0.22"), (">20", "0.11")))
    assert "overlap" in note.verdict.reason and "lies between" not in note.verdict.reason


def test_a_ring_that_is_whole_has_no_gap_whatever_stands_at_its_points():
    outlets = points({"leg_one_ohm": "0.07"}, {"leg_one_ohm": ">20"})
    assert gap(judged(board(ring_circuit(1, points=outlets)))) == []
