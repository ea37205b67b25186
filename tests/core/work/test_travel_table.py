"""A table of travel times: its places found however they are written, every wrong row told."""

import pytest

from dorrik.core.work.travel_table import read

PLACES = {"5 Lookout Row, Kelder Haven": "home5", "7 Slip Road, Kelder Haven": "home7", "Ruth Pellow": "ruth"}


def test_ways_are_found_by_address_and_name_however_they_are_written():
    rows = [
        ["From", "To", "Travel time"], ["ruth pellow", "5 LOOKOUT ROW Kelder Haven", "12"],
        ["5 Lookout Row, Kelder Haven", "7 Slip Rd, Kelder Haven", "4,5"], ["", "", ""],
    ]  # fmt: skip
    found = read(rows, PLACES)
    assert found.ways == {("ruth", "home5"): 12.0, ("home5", "home7"): 4.5} and found.mistakes == ()


def test_every_row_that_cannot_be_taken_is_told_and_the_others_are():
    rows = [
        ["from", "to", "minutes"], ["Ruth Pellow", "Nowhere", "5"],
        ["Ruth Pellow", "7 Slip Road, Kelder Haven", "soon"], ["Ruth Pellow", "7 Slip Road, Kelder Haven", "-3"],
        ["Ruth Pellow", "5 Lookout Row, Kelder Haven", "9"],
    ]  # fmt: skip
    found = read(rows, PLACES)
    assert [one.row for one in found.mistakes] == [2, 3, 4] and found.ways == {("ruth", "home5"): 9.0}
    assert "Nowhere" in found.mistakes[0].reason


def test_a_table_without_its_columns_is_refused_whole():
    with pytest.raises(ValueError, match="three columns"):
        read([["Address", "Due"], ["5 Lookout Row", "2027"]], PLACES)
