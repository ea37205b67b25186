"""What cannot be is asked about once, with what would fit, and neither passed nor coded (rule 1.2); what stands on an
instrument's display is taken as it stands (rule 1.1)."""

import pytest

from dorrik.core.basics.readings import Reading
from tests.core.whole_homes import RCD, board, circuit, judged, offered, points, ring


def said(judgement, entity, *fields):
    return [n for n in judgement.notes if n.entity_id == entity and n.field in fields and n.because_of is None]


@pytest.mark.parametrize(
    ("home", "entity", "fields"),
    [
        (board(circuit(1, "A", **(RCD | {"rcd_trip_ms": "0.024"}))), "c1", ["rcd_trip_ms"]),
        (board(circuit(1, "A", **(RCD | {"rcd_trip_ms": "0"}))), "c1", ["rcd_trip_ms"]),
        (board(circuit(1, "A", zs_ohm="0.00"), zdb_ohm="0.21"), "c1", ["zs_ohm"]),
        (board(ring(1, r1_ohm="0.00", rn_ohm="0.00", r2_ohm="0.00")), "c1", ["r1_ohm", "rn_ohm", "r2_ohm"]),
        (
            board(ring(1, r1_ohm="46", rn_ohm="46", r2_ohm="76", points=points({"line_neutral_ohm": "0.23"}))),
            "c1",
            ["r1_ohm", "rn_ohm", "r2_ohm"],
        ),
        (board(circuit(1, "A", r1_r2_ohm="31", zs_ohm="0.52"), zdb_ohm="0.21"), "c1", ["r1_r2_ohm", "zs_ohm"]),
    ],
)
def test_what_cannot_be_is_asked_about_and_neither_passed_nor_coded(home, entity, fields):
    judgement = judged(home)
    notes = said(judgement, entity, *fields)
    assert [n for n in notes if n.verdict.asks]
    assert not [n for n in notes if n.verdict.observation]
    assert not [key for key in offered(judgement) if key.startswith(("ring", "zs", "cpc", "rcd-no-trip", "rcd-slow"))]
    assert judgement.outcome != "satisfactory"
    assert [one for one in judgement.against if one.entity_id == entity and one.kind == "question"]


@pytest.mark.parametrize(
    ("pefc", "asked"), [("1.08", False), ("1.9", False), ("108", True), ("20", True), ("1080", True)]
)
def test_a_fault_current_several_times_what_its_loop_lets_flow_is_asked_about(pefc, asked):
    """230 V / 0.21 Ω is 1.10 kA; parallel paths may double it."""
    judgement = judged(board(circuit(1, "A"), zdb_ohm="0.21"), pefc_ka=pefc)
    assert bool([n for n in judgement.notes if n.field in ("pefc_ka", "pscc_ka") and n.verdict.asks]) is asked


@pytest.mark.parametrize(
    ("text", "value", "bound"),
    [
        ("0.15-0.05", 0.10, None),  # the leads taken off
        ("0,38", 0.38, None),
        (">299", 299, ">"),
        ("<0.05", 0.05, "<"),
        ("≥ 500", 500, ">"),
    ],
)
def test_what_stands_on_the_display_is_taken_as_it_stands(text, value, bound):
    reading = Reading.parse(text, "Ω", "continuity")
    assert (reading.value, reading.bound) == (pytest.approx(value), bound)


def test_amperes_are_taken_where_kiloamperes_are_kept():
    assert Reading.parse("618 A", "kA", "fault_current").value == pytest.approx(0.618)


def test_a_range_is_judged_by_its_worse_end():
    """1.00 to 1.60 Ω against 1.37 Ω of a B32: fails by the 1.60."""
    there = board(circuit(1, "A", device_rating_a=32, line_csa_mm2=6, zs_ohm="1.00-1.60", r1_r2_ohm="0.9"))
    assert offered(judged(there)).get("zs-above-limit") is not None
