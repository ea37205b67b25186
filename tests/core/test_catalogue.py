import ast
from pathlib import Path

import pytest

from dorrik.core import catalogue, outcome
from dorrik.core.house_rules import HouseRules, options
from dorrik.core.rule_book import keys, rule_book


def test_every_entry_is_whole_and_coded_by_each_school():
    for entry in catalogue.entries().values():
        assert entry.title and entry.look and entry.plain and entry.remedy
        assert entry.why and entry.strict_why and entry.mild_why
        assert {entry.code, entry.strict, entry.mild} <= {*outcome.CODES, "note"}


def test_the_catalogue_is_long_enough_for_a_working_year():
    assert len(catalogue.entries()) >= 75


def test_every_observation_that_a_rule_raises_is_in_the_catalogue():
    """Whatever stands as `observation=` in the rules, or as the catalogue key of a ring's finding."""

    def words(node):
        return {c.value for c in ast.walk(node) if isinstance(c, ast.Constant) and isinstance(c.value, str)}

    raised = set()
    for module in Path(catalogue.__file__).parent.glob("*.py"):
        for call in ast.walk(ast.parse(module.read_text())):
            if isinstance(call, ast.keyword) and call.arg == "observation":
                raised |= {
                    c.value for c in ast.walk(call.value) if isinstance(c, ast.Constant) and isinstance(c.value, str)
                }
            if isinstance(call, ast.Call) and getattr(call.func, "id", "") == "Finding" and len(call.args) > 5:
                raised |= words(call.args[5])
    assert len(raised) >= 18
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
