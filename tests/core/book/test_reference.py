"""Reference tables corrected by a firm: read otherwise, kept beside what is printed, gone when the block ends."""

import pytest

from dorrik.core.book import reference
from dorrik.core.book.reference import Correction, CorrectionError, corrected
from dorrik.core.electrical import conductors, devices, overload
from dorrik.core.inspection import document
from dorrik.core.judging.judgement import judge
from tests.core.homes import spoilt

FUSE = Correction("devices", "BS 3036 | rewirable | 30", "ia_0s4_a", "205", "page 5 of our copy")


def test_a_corrected_cell_is_used_and_the_printed_one_comes_back():
    assert devices.zs_limit_ohm("BS 3036", "rewirable", 30, 0.4) == 1.04  # 0.95 · 230 / 210
    with corrected((FUSE,)):
        assert devices.zs_limit_ohm("BS 3036", "rewirable", 30, 0.4) == 1.07  # 0.95 · 230 / 205
    assert devices.zs_limit_ohm("BS 3036", "rewirable", 30, 0.4) == 1.04


def test_corrections_of_conductors_and_cables():
    with corrected((Correction("conductors", "2.5", "milliohm_per_m", "7.5", "maker"),)):
        assert conductors.resistance_ohm(2.5, 100) == pytest.approx(0.75)
    with corrected((Correction("cables", "2.5", "iz_C", "26", "maker"),)):
        assert overload.capacity_a(2.5, "C") == 26
    assert overload.capacity_a(2.5, "C") == 27


def test_an_inspection_carries_the_corrections_that_it_used():
    home = spoilt(
        "c2", device_standard="BS 3036", device_type="rewirable", device_rating_a=30, rcd_rated_ma=None, zs_ohm="0.84"
    )
    judged = judge(document.parse(home))
    assert next(n for n in judged.notes if n.field == "zs_ohm" and n.entity_id == "c2").verdict.status == "attention"
    home["inspection"]["table_corrections"] = [
        {"table": "devices", "row": "BS 3036 | rewirable | 30", "column": "ia_0s4_a", "value": "180", "why": "our copy"}
    ]
    inspection = document.parse(home)
    # 0.95 · 230 / 180 = 1.21 Ω, of which 0.8 is 0.97 Ω.
    assert next(n for n in judge(inspection).notes if n.field == "zs_ohm" and n.entity_id == "c2").verdict.limit == (
        pytest.approx(0.8 * 1.21)
    )
    assert document.write(inspection)["inspection"]["table_corrections"] == home["inspection"]["table_corrections"]


@pytest.mark.parametrize(
    ("change", "told"),
    [
        ({"table": "wires"}, "no table"),
        ({"row": "BS 9999 | x | 5"}, "no row"),
        ({"column": "colour"}, "not a column"),
        ({"column": "rating_a"}, "not a column"),
        ({"value": "much"}, "number"),
        ({"value": "-5"}, "number"),
        ({"value": "nan"}, "number"),
        ({"value": "inf"}, "number"),
        ({"why": " "}, "why"),
        ({"why": "x" * 501}, "at most"),
    ],
)
def test_a_correction_that_does_not_fit_is_told(change, told):
    parts = {"table": "devices", "row": "BS 3036 | rewirable | 30", "column": "ia_0s4_a", "value": "205", "why": "copy"}
    with pytest.raises(CorrectionError, match=told):
        reference.clean([parts | change])


@pytest.mark.parametrize("value", [{}, "x", [5], [{"table": "devices"}], [{}] * 201])
def test_what_is_no_list_of_corrections(value):
    with pytest.raises(CorrectionError):
        reference.clean(value)


def test_the_last_word_on_a_cell_counts():
    parts = {"table": "devices", "row": "BS 3036 | rewirable | 30", "column": "ia_0s4_a", "value": "205", "why": "copy"}
    assert reference.clean([parts, parts | {"value": "207"}]) == [parts | {"value": "207"}]


@pytest.mark.parametrize("table", list(reference.KEYS))
def test_rows_of_every_table_are_named_once(table):
    named = [reference.row_key(table, row) for row in reference.printed(table)]
    assert len(set(named)) == len(named)


@pytest.mark.parametrize("table", ["cables", "conductors", "devices", "duties", "intervals", "rcd"])
def test_every_table_says_where_it_comes_from(table):
    assert len(reference.source(table)) > 20
