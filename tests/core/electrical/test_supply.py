import pytest

from dorrik.core.basics.readings import Reading
from dorrik.core.electrical import fault_current, supply, tails
from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import judge
from tests.core.whole_homes import RCD, board, circuit, judged

R = Reading.parse


@pytest.mark.parametrize(
    ("ze", "earthing", "status"),
    [
        ("0.21", "TN-C-S", "pass"),
        ("0.34", "TN-C-S", "pass"),
        ("0.36", "TN-C-S", "attention"),  # over by less than 5 % and 5 digits: no limit of the standard
        ("0.45", "TN-C-S", "fail"),
        ("0.36", "TN-S", "pass"),
        ("0.82", "TN-S", "attention"),
        ("0.92", "TN-S", "fail"),
        (">20", "TN-S", "fail"),
        ("LIM", "TN-S", "unknown"),
        ("120", "TT", "pass"),
        ("232", "TT", "attention"),
        ("1700", "TT", "fail"),
        ("OL", "TT", "fail"),
    ],
)
def test_ze_against_declared_maxima(ze, earthing, status):
    assert supply.judge_ze(R(ze), earthing).status == status


def test_high_ze_on_tn_stops_live_tests():
    assert "network operator" in supply.judge_ze(R("1.9"), "TN-S").next_step


def test_without_the_note_on_parallel_paths_ze_is_not_judged():
    assert supply.judge_ze(R("0.21"), "TN-C-S", parallel_removed=False).status == "unknown"


def test_unknown_arrangement():
    with pytest.raises(ValueError, match="IT"):
        supply.judge_ze(R("0.2"), "IT")


@pytest.mark.parametrize(
    ("pscc", "pefc", "recorded"),
    [
        ("1100", "950", "1100"),
        ("950", "1100", "1100"),
        (">16000", "950", ">16000"),
        ("1200", ">900", ">1200"),
        ("<900", "1000", "1000"),
        ("LIM", "950", "950"),
    ],
)
def test_the_higher_fault_current_is_recorded(pscc, pefc, recorded):
    assert str(fault_current.prospective_fault(R(pscc), R(pefc))) == recorded


def test_nothing_measured_nothing_recorded():
    assert fault_current.prospective_fault(None, R("LIM")) is None


def test_ze_and_pefc_must_agree():
    # 230 V / 0.21 Ω = 1.095 kA.
    assert fault_current.agrees(R("0.21"), R("1.08")).status == "pass"
    assert fault_current.agrees(R("0.21"), R("0.21")).status == "attention"
    # Everything is connected for PEFC: a higher one is usual, a lower one is not.
    assert fault_current.agrees(R("0.21"), R("1.50")).status == "pass"
    assert fault_current.agrees(R("0.21"), R("0.90")).status == "attention"
    assert fault_current.agrees(R("0.21"), R("OL")).status == "unknown"


def test_breaking_capacity_and_conditional_rating():
    assert fault_current.judge_breaking_capacity(R("4.2"), 6).status == "pass"
    # What backs it up has to be known: a cartridge cut-out fuse limits the current, a rewirable one does not.
    assert fault_current.judge_breaking_capacity(R("7.1"), 6).status == "unknown"
    assert fault_current.judge_breaking_capacity(R("7.1"), 6, behind="limiting").status == "attention"
    assert fault_current.judge_breaking_capacity(R("7.1"), 6, behind="rewirable").status == "fail"
    assert fault_current.judge_breaking_capacity(R("7.1"), 6, 16, behind="limiting").status == "pass"
    assert fault_current.judge_breaking_capacity(R("7.1"), 6, 16, behind="rewirable").status == "fail"
    assert fault_current.judge_breaking_capacity(R("7.1"), 6, 16).status == "unknown"
    assert fault_current.judge_breaking_capacity(R("17"), 6, 16, behind="limiting").status == "fail"
    assert fault_current.judge_breaking_capacity(R(">5"), 6).status == "unknown"


def test_fault_current_from_impedance_and_between_lines():
    assert fault_current.fault_current_a(0.23) == pytest.approx(1000)
    assert fault_current.line_to_line_a(1000) == 2000
    assert fault_current.line_to_line_a(1000, safe=False) == pytest.approx(1732, abs=1)


def test_standing_leakage_behind_an_rcd():
    assert supply.judge_leakage(R("8.0"), 30).status == "pass"
    assert supply.judge_leakage(R("8.9"), 30).status == "pass"
    assert "close" in supply.judge_leakage(R("8.9"), 30).reason
    assert supply.judge_leakage(R("9.4"), 30).observation == "leakage-high"
    assert supply.judge_leakage(R("LIM"), 30).status == "unknown"


def test_length_of_the_tails():
    assert tails.judge_length(2.5, protected=False).status == "pass"
    assert tails.judge_length(6, protected=True).status == "pass"
    assert tails.judge_length(6, protected=False).observation == "tails-long"


def test_tails_too_small_for_their_fuse_make_no_bond_smaller():
    """10 mm² after 100 A is not what the earthing and bonding conductors are sized by: 25 mm², 16 mm², and 10 mm²."""
    bond = {"id": "w", "service": "water", "state": "present", "csa_mm2": 6}
    home = {"id": "i", "earthing": "TN-S", "tails_mm2": 10, "service_fuse_a": 100, "bonds": [bond]}

    def size(**more):
        notes = judge(parse({"format": "dorrik-inspection", "version": 3, "inspection": home | more})).notes
        return next(n.status for n in notes if (n.entity_id, n.field) == ("w", "csa_mm2"))

    assert size() != "pass"
    assert size(service_fuse_a=60) == "pass"


@pytest.mark.parametrize(
    ("earthing", "by", "asked"),
    [
        ("TN-C-S", "electrode", True),
        ("TN-S", "electrode", True),
        ("TT", "network operator's terminal", True),
        ("TT", "electrode", False),
        ("TN-C-S", "network operator's terminal", False),
    ],
)
def test_an_arrangement_and_a_means_of_earthing_that_do_not_go_together_are_asked_about(earthing, by, asked):
    """BS 7671 312.2: TN has the operator's terminal, TT an electrode of its own (rule 3.7)."""
    home = judged(board(circuit(1, "Cooker", zs_ohm="0.50", **RCD)), earthing=earthing, earth_by=by, ze_ohm="0.30")
    told = [n for n in home.notes if n.figure == ("i", "earth_by")]
    assert [n.verdict.asks for n in told] == ([True] if asked else [])
    # A question is neither a pass nor a code, and nothing is satisfactory before it was answered.
    assert all(n.status == "attention" and n.verdict.observation is None for n in told)
    if asked:
        assert home.outcome != "satisfactory"
        assert any(one.field == "earth_by" for one in home.against)


def test_a_zdb_that_reads_the_same_again_is_said_so_in_one_tap_and_then_counts():
    """Rule 3.3: Ze 0.21 and Zdb 0.40: 0.19 Ω above it, which one reading alone does not prove."""
    home = board(circuit(1, "Cooker", **RCD), zdb_ohm="0.40")
    (note,) = [n for n in judged(home).notes if n.figure == ("b", "zdb_ohm")]
    (offer,) = note.offers
    assert (note.status, offer.kind, offer.entity_id, offer.field, offer.value) == (
        "attention",
        "set",
        "b",
        "zdb_retested",
        True,
    )
    (after,) = [n for n in judged(home | {offer.field: offer.value}).notes if n.figure == ("b", "zdb_ohm")]
    assert after.status == "fail" and after.offers == ()
