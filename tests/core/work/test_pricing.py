"""Prices for repairs: what each remedy clears, what stays, and that no price is a comfort. Sums are worked out by hand
from rates that the tests set themselves."""

import copy

import pytest
from hypothesis import given
from hypothesis import strategies as st

from dorrik.core.book.catalogue import entries
from dorrik.core.book.remedies import OPERATOR, OWN, Rate, priced, remedies
from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import judge
from dorrik.core.work.pricing import pricing, total
from tests.core.homes import cottage

BOARD = cottage()["inspection"]["boards"][0]
CIRCUITS = [circuit for circuit in BOARD["circuits"] if not circuit.get("spare")]
RATES = {"rcd": Rate(100, 0, 40, 0), "board": Rate(200, 30, 120, 10), "rcbo": Rate(70, 0, 30, 0)}
RCD = {"id": "house-rcd", "name": "RCD 1", "place": "whole board"}


def observation(key, about, code="C2", name="o", **fields):
    entity, entity_id = about
    told = {"id": name, "about_entity": entity, "about_id": entity_id, "catalogue_key": key, "code": code}
    return told | {"text": entries()[key].title} | fields


def home(*observations, lines=(), change=None):
    document = copy.deepcopy(cottage())
    i = document["inspection"]
    i["observations"] = list(observations)
    i["offer_lines"] = [{"id": f"line-{n}", "alternative": 1} | one for n, one in enumerate(lines)]
    i["boards"][0]["rcds"] = [RCD, *i["boards"][0].get("rcds", [])]
    i.update(change or {})
    return parse(document)


def priced_at(inspection, rates=RATES, put_right=()):
    return pricing(inspection, put_right, rates)


SLOW = observation("rcd-slow", ("rcd", RCD["id"]), name="slow")
SOCKETS = observation("rcd-missing-sockets", ("circuit", CIRCUITS[0]["id"]), code="C3", name="sockets")


def test_a_device_a_part_and_a_renewal_stand_beside_each_other():
    found = priced_at(home(SLOW, SOCKETS))
    prices = {option.remedy: (option.price, option.minutes, set(option.clears)) for option in found.options}
    assert prices["rcd"] == (100, 40, {"slow"})
    assert prices["rcbo"] == (70, 30, {"sockets"})
    # A board of so many circuits: its price and 30 for each of them, spare ways not counted.
    assert prices["board"] == (200 + 30 * len(CIRCUITS), 120 + 10 * len(CIRCUITS), {"slow", "sockets"})
    names = {proposal.name: set(proposal.options) for proposal in found.proposals}
    assert names["Urgent, least cost"] == {f"rcd:{RCD['id']}"}
    assert names["Everything, least cost"] == {f"rcd:{RCD['id']}", f"rcbo:{CIRCUITS[0]['id']}"}
    assert names["Everything, board renewed"] == {f"board:{BOARD['id']}"}


def test_what_stays_is_told_and_a_price_never_says_satisfactory():
    line = {"remedy": "rcbo", "about_entity": "circuit", "about_id": CIRCUITS[0]["id"]}
    (only,) = priced_at(home(SLOW, SOCKETS, lines=[line])).alternatives
    assert (only.price, only.clears, only.stays) == (70, ("sockets",), ("slow",))
    assert only.says == "Stays: 1 C2. The report stays unsatisfactory by it."
    rcd = {"remedy": "rcd", "about_entity": "rcd", "about_id": RCD["id"]}
    (only,) = priced_at(home(SLOW, SOCKETS, lines=[rcd])).alternatives
    assert only.says == "Stays: 1 C3. No C1, C2 or FI stays, once all of the work holds when tested again."
    (both,) = priced_at(home(SLOW, SOCKETS, lines=[rcd, line])).alternatives
    assert both.price == 170
    assert "satisfactory" not in both.says and "once all of the work holds" in both.says


def test_a_price_changes_nothing_in_the_judgement():
    rcd = {"remedy": "rcd", "about_entity": "rcd", "about_id": RCD["id"]}
    without, priced_too = judge(home(SLOW)), judge(home(SLOW, lines=[rcd]))
    assert (without.outcome, without.against) == (priced_too.outcome, priced_too.against)


def test_an_observation_without_a_code_stays_in_sight():
    open_too = observation("rcd-slow", ("rcd", RCD["id"]), name="slow", code=None)
    line = {"remedy": "rcbo", "about_entity": "circuit", "about_id": CIRCUITS[0]["id"]}
    (only,) = priced_at(home(open_too, SOCKETS, lines=[line])).alternatives
    assert only.says == "Stays: 1 without a code. Its code is not decided yet."


def test_what_was_put_right_and_what_is_only_noted_is_not_priced():
    noted = observation("no-records", ("inspection", cottage()["inspection"]["id"]), code="note", name="noted")
    found = priced_at(home(SLOW, SOCKETS, noted), put_right={"slow"})
    assert [one.id for one in found.open] == ["sockets"]
    assert not any("slow" in option.clears for option in found.options)


def test_what_is_the_operators_is_not_sold():
    ze = observation("ze-above-maximum", ("inspection", cottage()["inspection"]["id"]), name="ze")
    found = priced_at(home(ze))
    assert found.open[0].operator
    assert not any("ze" in option.clears for option in found.options) and not found.proposals
    own = {"remedy": OWN, "words": "Wait for the operator, measure again", "price": 60}
    (only,) = priced_at(home(ze, lines=[own])).alternatives
    assert only.says == "Stays: 1 C2; some of it may be the network operator's. The report stays unsatisfactory by it."


@pytest.mark.parametrize(
    ("line", "trouble"),
    [
        ({"remedy": OWN, "price": 50}, "say what the work is"),
        ({"remedy": OWN, "words": "Plaster"}, "has no price"),
        ({"remedy": "rcd", "about_entity": "rcd", "about_id": "gone"}, "nothing of this inspection needs it any more"),
    ],
)
def test_a_line_that_cannot_be_offered_says_why(line, trouble):
    (only,) = priced_at(home(SLOW, lines=[line])).alternatives
    assert only.lines[0].trouble == trouble and only.trouble
    assert only.stays == ("slow",)


def test_a_price_by_hand_stands_beside_the_rate():
    line = {"remedy": "rcd", "about_entity": "rcd", "about_id": RCD["id"], "price": 88.5}
    (only,) = priced_at(home(SLOW, lines=[line])).alternatives
    assert (only.lines[0].price, only.lines[0].rate, only.price) == (88.5, 100, 88.5)


def test_paid_twice_for_one_finding_is_pointed_out():
    rcd = {"remedy": "rcd", "about_entity": "rcd", "about_id": RCD["id"]}
    board = {"remedy": "board", "about_entity": "board", "about_id": BOARD["id"]}
    (only,) = priced_at(home(SLOW, SOCKETS, lines=[rcd, board])).alternatives
    assert [line.spare for line in only.lines] == [True, False]


def test_two_of_a_kind_at_two_places_cost_twice():
    other = {"id": "second-rcd", "name": "RCD 2", "place": "its circuits"}
    slow_too = observation("rcd-slow", ("rcd", other["id"]), name="slow-too")
    inspection = home(SLOW, slow_too, change={})
    board = inspection.boards[0]
    document = copy.deepcopy(cottage())
    i = document["inspection"]
    i["observations"], i["boards"][0]["rcds"] = [SLOW, slow_too], [RCD, other]
    found = priced_at(parse(document))
    assert sorted(option.clears for option in found.options if option.remedy == "rcd") == [("slow",), ("slow-too",)]
    assert board.id == BOARD["id"]


@given(price=st.integers(0, 900), each=st.integers(0, 90), count=st.integers(0, 96))
def test_the_total_is_price_and_parts(price, each, count):
    assert total(Rate(price, each, 10, 5), count) == (price + each * count, 10 + 5 * count)


def test_every_remedy_clears_entries_that_there_are_and_every_code_has_one():
    """The table is of the catalogue: nothing in it is misspelt, and no code is left without a way."""
    named = {clear.rpartition(":")[2] for remedy in remedies().values() for clear in remedy.clears}
    assert named <= set(entries())
    lacking = {key for key, one in entries().items() if one.code in ("C1", "C2", "FI", "C3") and key not in named}
    # What nobody needs to be paid for, or only a second visit settles.
    assert lacking <= {"area-not-reached", "no-records"}
    assert OPERATOR not in {one.kind for one in priced().values()}


KEYS = sorted(key for key, one in entries().items() if one.code in ("C1", "C2", "C3", "FI"))


@given(keys=st.lists(st.sampled_from(KEYS), min_size=1, max_size=6, unique=True), at=st.integers(0, len(CIRCUITS) - 1))
def test_a_proposal_clears_all_that_can_be_cleared_and_pays_for_nothing_twice(keys, at):
    about = ("circuit", CIRCUITS[at]["id"])
    found = priced_at(home(*(observation(key, about, name=key) for key in keys)), rates={})
    possible = {clear for option in found.options for clear in option.clears}
    by_key = {option.key: option for option in found.options}
    for proposal in found.proposals:
        chosen = [by_key[key] for key in proposal.options]
        cleared = {clear for option in chosen for clear in option.clears}
        wanted = possible if proposal.name != "Urgent, least cost" else {
            one.id for one in found.open if one.code in ("C1", "C2", "FI")
        } & possible  # fmt: skip
        assert wanted <= cleared
        for option in chosen:
            others = {clear for other in chosen if other is not option for clear in other.clears}
            assert set(option.clears) & wanted - others or option.kind == "renewal"


def test_what_the_readings_say_beside_it_is_told_with_the_price():
    """A price for what is recorded passes over no failure that nobody recorded."""
    rcd = {"remedy": "rcd", "about_entity": "rcd", "about_id": RCD["id"]}
    inspection = home(SLOW, lines=[rcd])
    (only,) = pricing(inspection, (), RATES, "1 failure without a code").alternatives
    assert only.says == (
        "Nothing that was recorded stays, once all of the work holds when tested again. "
        "Not in this price: 1 failure without a code."
    )
