"""Looking at a portfolio: filters, orders, and the cells of its map."""

from datetime import date

from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.work.portfolio import STATES, PortfolioLine, Standing
from dorrik.core.work.portfolio_view import (
    ORDERS,
    Filters,
    ViewedProperty,
    bounds,
    cells,
    counts,
    in_order,
    passing,
)

days = st.none() | st.dates(date(2026, 1, 1), date(2032, 1, 1))
standings = st.builds(
    Standing, state=st.sampled_from(STATES), on=days, late=st.booleans(), next_step=st.just("go"),
    holder=st.sampled_from(["office", "client", "inspector"]),
)  # fmt: skip
properties = st.builds(
    ViewedProperty,
    id=st.uuids().map(str), address=st.sampled_from(["5 Lookout Row", "7 Slip Road", "Flat 1, The Net Loft"]),
    client=st.sampled_from(["Trust", "Lettings"]), client_id=st.just("c"), reference=st.sampled_from(["", "U12"]),
    nation=st.sampled_from(["England", "Wales", ""]), latitude=st.none() | st.floats(50, 51),
    longitude=st.none() | st.floats(-5, -4), due_on=days,
    line=st.builds(PortfolioLine, first=standings, also=st.lists(standings, max_size=2).map(tuple)),
)  # fmt: skip


@given(st.lists(properties, max_size=20), st.sampled_from(ORDERS))
def test_no_order_loses_or_doubles_a_property(some, order):
    assert sorted(one.id for one in in_order(some, order)) == sorted(one.id for one in some)


@given(st.lists(properties, max_size=20))
def test_without_a_filter_everything_passes_and_every_state_is_counted(some):
    assert passing(some, Filters()) == some
    assert sum(counts(some).values()) == len(some)


@given(st.lists(properties, max_size=20), st.sampled_from(STATES))
def test_a_state_finds_what_has_it_as_its_first_thing_or_beside_it(some, state):
    """A booked visit does not hide a copy that is due from whoever looks for copies."""
    found = passing(some, Filters(states=frozenset({state})))
    assert found == [one for one in some if state in {s.state for s in (one.line.first, *one.line.also)}]


@given(st.lists(properties, max_size=20))
def test_what_is_late_stands_first_where_urgency_orders(some):
    late = [one.line.first.late for one in in_order(some, "urgency")]
    assert late == sorted(late, reverse=True)


def test_words_are_found_in_any_part_whatever_their_case():
    standing = Standing("asked", None, False, "go", "office")
    one = ViewedProperty(
        "1", "5 Lookout Row", "Harbour Trust", "c", "UPRN 77", "England", None, None, None, PortfolioLine(standing, ())
    )  # fmt: skip
    for words in ("lookout", "TRUST row", "77", "ook arb"):
        assert passing([one], Filters(text=words)) == [one]
    assert passing([one], Filters(text="lookout quay")) == []
    assert passing([one], Filters(due_until=date(2030, 1, 1))) == []


@given(st.lists(properties, max_size=30))
def test_cells_hold_every_property_that_has_coordinates_once(some):
    whole = bounds(some)
    placed = [one for one in some if one.latitude is not None and one.longitude is not None]
    if whole is None:
        assert placed == []
        return
    found = cells(some, whole)
    assert sum(cell.count for cell in found) == len(placed)
    assert all(bool(cell.property_id) is (cell.count == 1) for cell in found)
    # A cell never looks better than the worst that lies in it.
    worst = min((STATES.index(one.line.first.state) for one in placed), default=None)
    assert worst is None or min(STATES.index(cell.state) for cell in found) == worst
