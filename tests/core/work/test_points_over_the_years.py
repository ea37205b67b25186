"""Readings of points beside those of earlier reports: one voice for a circuit, and what comes along to the next one
(rules 15.1, 15.2)."""

from itertools import count

import pytest

from dorrik.core.inspection.document import parse
from dorrik.core.work import carry_over
from tests.core.whole_homes import ORIGIN, board, circuit, judged, points


def before(text, figure="line_cpc_ohm", on="2021-05-04"):
    return {"id": f"e {figure} {text}", "measured_on": on, "figure": figure, "reading": text, "source": "Report K-7"}


def lights(*each, **fields):
    """Points of a lighting circuit: what each reads now, and what it read before."""
    made = points(*({"line_cpc_ohm": now, "earlier": [before(was)]} for was, now in each))
    return circuit(1, "Lights", "lighting", points=made, **fields)


def over_the_years(judgement):
    return [n for n in judgement.notes if "over the years" in n.title]


def test_within_both_instruments_uncertainty_nothing_is_said():
    assert over_the_years(judged(board(lights(("0.40", "0.42"), ("0.60", "0.58"))))) == []


def test_the_point_that_changed_most_speaks_and_the_others_are_counted():
    (note,) = over_the_years(judged(board(lights(("0.40", "0.90"), ("0.60", "2.10"), ("0.70", "0.72")))))
    assert note.figure == ("p1", "line_cpc_ohm")
    assert note.verdict.reason.endswith("So does 1 more point.")
    assert "2021-05-04" in note.verdict.reason


def test_where_the_circuits_own_figure_says_so_it_follows_from_that():
    own = {"r1_r2_ohm": "2.10", "earlier": [before("0.60", "r1_r2_ohm")]}
    notes = over_the_years(judged(board(lights(("0.40", "0.90"), ("0.60", "2.10"), **own))))
    assert [(n.figure, n.because_of) for n in notes] == [
        (("c1", "r1_r2_ohm"), None),
        (("p1", "line_cpc_ohm"), ("c1", "r1_r2_ohm")),
    ]


@pytest.mark.parametrize("now", [None, "LIM no access"])
def test_what_is_not_measured_now_is_not_compared(now):
    light = {"earlier": [before("0.40")]} | ({"line_cpc_ohm": now} if now else {})
    assert over_the_years(judged(board(circuit(1, "Lights", "lighting", points=points(light))))) == []


def test_readings_of_points_come_along_as_earlier_figures_of_theirs():
    made = lights(("0.40", "0.42"), ("0.60", "0.61"))
    made["points"][1] |= {"gang_line_cpc_ohm": "0.62", "two_gangs": True, "zs_ohm": "0.9", "line_neutral_ohm": "OL"}
    inspection = ORIGIN | {"boards": [board(made)]}
    earlier = parse({"format": "dorrik-inspection", "version": 1, "inspection": inspection})
    numbers = count()
    drafts = list(carry_over.drafts(earlier, "new", lambda: f"n{next(numbers)}", "Report K-8"))
    outlets = [d for d in drafts if d.kind == "point"]
    assert [d.fields.get("two_gangs") for d in outlets] == [None, True]
    of = {
        outlet.id: [(d.fields["figure"], d.fields["reading"], d.fields["source"]) for d in drafts
                    if d.kind == "earlier" and d.parent_id == outlet.id]
        for outlet in outlets
    }  # fmt: skip
    assert list(of.values()) == [
        [("line_cpc_ohm", "0.40", "Report K-7"), ("line_cpc_ohm", "0.42", "Report K-8")],
        [("line_cpc_ohm", "0.60", "Report K-7"), ("line_neutral_ohm", "OL", "Report K-8"),
         ("line_cpc_ohm", "0.61", "Report K-8")],
    ]  # fmt: skip
    # Nothing measured then is taken for measured now.
    assert not any("line_cpc_ohm" in d.fields or "gang_line_cpc_ohm" in d.fields for d in outlets)
