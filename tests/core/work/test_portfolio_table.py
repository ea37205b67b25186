"""Portfolios from elsewhere: heads, cells, mistakes at their place, addresses known however they are written."""

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.work.portfolio_table import CellMistake, address_key, day, guess, read

TODAY = date(2026, 12, 1)


def test_columns_are_found_by_what_people_call_them():
    heads = [
        "Ref.", "Property Address", "Post Code", "Tenant name", "Mobile", "Last inspection", "Next due", "Lat",
        "Colour",
    ]  # fmt: skip
    assert guess(heads) == (
        "reference", "address", "postcode", "occupier_name", "occupier_phone", "inspected_on", "due_on", "latitude",
        None,
    )  # fmt: skip


@pytest.mark.parametrize(
    "text",
    ["31/12/2026", "31.12.26", "31-12-2026", "31 Dec 2026", "31st December 2026", "2026-12-31", "2026-12-31T00:00:00",
     "31/12/2026 00:00", "46387", "46387.0"],
)  # fmt: skip
def test_a_day_as_people_and_programs_write_it(text):
    # A spreadsheet counts 46,387 days from 30 December 1899 to 31 December 2026.
    assert day(text) == "2026-12-31"


@pytest.mark.parametrize("text", ["31/02/2026", "12/31/2026", "2026", "soon", "1/1/1890", "99999", "31 Foo 2026", ""])
def test_what_is_no_day_is_told(text):
    with pytest.raises(ValueError):
        day(text)


def table(*rows, columns, known=None):
    return read([["head"], *rows], columns, 1, known or {}, TODAY)


def test_every_mistake_is_told_at_its_cell_and_the_other_rows_are_taken():
    columns = ["address", "due_on", "tenure", None]
    found = table(
        ["1 Slip Road", "1/3/2027", "let", "x"],
        ["2 Slip Road", "31/02/2027", "rented", ""],
        ["", "1/3/2027", "", ""],
        ["", "", "", ""],
        ["3 Slip Road", "", "castle", ""],
        columns=columns,
    )
    assert [(row.row, dict(row.values)) for row in found.rows] == [
        (2, {"address": "1 Slip Road", "due_on": "2027-03-01", "tenure": "let dwelling"}),
    ]
    assert [(wrong.row, wrong.column, wrong.text) for wrong in found.mistakes] == [
        (3, 1, "31/02/2027"), (4, 0, ""), (6, 2, "castle"),
    ]  # fmt: skip
    assert "let dwelling" in found.mistakes[2].reason


def test_what_cannot_be_true_together_is_told_where_it_stands():
    columns = ["address", "inspected_on", "due_on", "latitude", "longitude"]
    found = table(
        ["1 Slip Road", "1/1/2025", "1/1/2020", "", ""],
        ["2 Slip Road", "1/1/2027", "", "", ""],
        ["3 Slip Road", "", "", "51.5", ""],
        ["4 Slip Road", "", "", "0", "0"],
        ["5 Slip Road", "", "", "95", "1"],
        columns=columns,
    )
    assert [(wrong.row, wrong.column) for wrong in found.mistakes] == [(2, 2), (3, 1), (4, 3), (5, 3), (6, 3)]
    assert found.rows == ()


def test_an_address_is_known_again_however_it_is_written():
    known = {"p1": "14 Rope Walk, Kelder Haven, KH1 2AB", "p2": "Flat 2, The Net Loft, Capstan Lane"}
    found = table(
        ["14 ROPE WALK", "Kelder Haven", "kh1 2ab"],
        ["Apt 2 The Net Loft Capstan Ln", "", ""],
        ["14 Rope Walk", "Other Haven", ""],
        columns=["address", "town", "postcode"],
        known=known,
    )
    assert [row.known_id for row in found.rows] == ["p1", "p2", ""]
    assert found.rows[0].values["address"] == "14 ROPE WALK, Kelder Haven, kh1 2ab"


def test_one_address_twice_is_a_mistake_of_the_second():
    found = table(["7 St Anne's Rd."], ["7, St. Annes Road"], columns=["address"])
    assert len(found.rows) == 1
    assert found.mistakes == (CellMistake(3, 0, "7, St. Annes Road", "The same as row 2."),)


def test_columns_that_do_not_fit_together_are_refused():
    for columns in (["address", "address"], ["colour"], ["town"], [None]):
        with pytest.raises(ValueError):
            table(["x"], columns=columns)


def test_twenty_thousand_rows_are_read_and_too_many_are_refused():
    rows = [[f"{n} Long Row", "1/3/2027"] for n in range(20_000)]
    known = {f"p{n}": f"{n} long row" for n in range(0, 20_000, 2)}
    found = table(*rows, columns=["address", "due_on"], known=known)
    assert len(found.rows) == 20_000 and sum(bool(row.known_id) for row in found.rows) == 10_000
    with pytest.raises(ValueError, match="25000"):
        table(*([f"{n} Row", ""] for n in range(25_001)), columns=["address", "due_on"])


@given(st.lists(st.lists(st.text(max_size=30), max_size=4), max_size=6))
def test_whatever_stands_in_a_table_every_row_is_taken_or_told(rows):
    columns = ["address", "due_on", "occupier_email", "built_year"]
    found = table(*rows, columns=columns)
    told = {row.row for row in found.rows} | {wrong.row for wrong in found.mistakes}
    assert told == {number for number, row in enumerate(rows, 2) if any(cell.strip() for cell in row)}
    assert not {row.row for row in found.rows} & {wrong.row for wrong in found.mistakes}


@given(st.from_regex(r"[1-9][0-9]{0,2} [A-Z][a-z]{2,9} (Road|Street|Lane)", fullmatch=True))
def test_capitals_commas_and_short_words_make_no_other_address(address):
    number, name, kind = address.split()
    short = {"Road": "Rd.", "Street": "St", "Lane": "Ln"}[kind]
    assert address_key(f"{number}, {name.upper()} {short}") == address_key(address)
