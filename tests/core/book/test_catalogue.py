import ast
from pathlib import Path

import pytest

import dorrik.core
from dorrik.core.book import catalogue
from dorrik.core.book.house_rules import HouseRules, options
from dorrik.core.judging.result import outcome


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
    for module in Path(dorrik.core.__file__).parent.rglob("*.py"):
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


def test_no_reason_leans_on_another_school_s():
    for entry in catalogue.entries().values():
        assert len({entry.why, entry.strict_why, entry.mild_why}) == 3, entry.key
        assert not any("mainstream" in why for why in (entry.strict_why, entry.mild_why))


def test_the_rule_that_raises_an_entry_is_one():
    for entry in catalogue.entries().values():
        for rule in entry.rule.replace(" ", "").split(","):
            assert rule == "" or 1 <= float(rule) < 17


@pytest.mark.parametrize(
    ("said", "key"),
    [
        ("twisted earths", "cpcs-in-one-sleeve"),
        ("bunched cpc", "cpcs-in-one-sleeve"),
        ("wrong way round", "feed-and-load-exchanged"),
        ("in out fcu", "feed-and-load-exchanged"),
        ("no ip rating", "ip-not-marked"),
        ("light lit when off", "neon-on-wrong-side"),
        ("dno tape", "supplier-joint-taped"),
        ("three cables in breaker", "ring-branch-at-origin"),
    ],
)
def test_an_entry_is_found_by_what_people_call_it(said, key):
    """Every word of what is typed stands somewhere in the entry: the screens search so."""
    entry = catalogue.entries()[key]
    searched = f"{entry.title} {entry.group} {entry.plain} {entry.words}".lower()
    assert all(word in searched for word in said.lower().split())
