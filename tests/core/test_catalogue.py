import pytest

from dorrik.core import catalogue, outcome
from dorrik.core.house_rules import HouseRules, options
from dorrik.core.rule_book import keys, rule_book


def test_every_entry_is_whole_and_coded_by_each_school():
    for entry in catalogue.entries().values():
        assert entry.title and entry.why and entry.plain and entry.remedy
        assert {entry.code, entry.strict, entry.mild} <= {*outcome.CODES, "note"}


def test_every_observation_that_a_rule_raises_is_in_the_catalogue():
    raised = {
        "zs-above-limit", "electrode-above-200", "ze-above-maximum", "breaking-capacity-below-pfc", "ring-open",
        "ring-cpc-high", "insulation-below-minimum", "insulation-low", "rcd-no-trip", "rcd-slow", "no-cpc-at-point",
        "polarity-wrong",
    }  # fmt: skip
    assert raised <= set(catalogue.entries())


def test_outcome_refuses_a_code_it_does_not_know():
    with pytest.raises(ValueError, match="C4"):
        outcome.decide(["C2", "C4"])


def test_defaults_of_the_house_rules_are_those_of_the_data():
    for name, option in options().items():
        assert getattr(HouseRules(), name) == option["default"]
        assert option["default"] in option["choices"]


def test_the_rule_book_is_named():
    assert "BS 7671:2018" in rule_book().name
    with pytest.raises(LookupError):
        rule_book("bs0000")
    assert rule_book(keys()[0]) == rule_book()
