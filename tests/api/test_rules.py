"""Every rule that a verdict cites can be opened, and the guide holds the limits that the rules use."""

import re
from pathlib import Path

import pytest

from dorrik import core
from dorrik.api.rules import guide

CITED = re.compile(r"· rules? ([^\"']+)")


def cited():
    found = set()
    for file in Path(core.__file__).parent.rglob("*.py"):
        for line in file.read_text(encoding="utf-8").splitlines():
            for source in CITED.findall(line):
                found.update(re.findall(r"\d+(?:\.\d+)?", source.partition("{")[0]))
    return found


def test_every_rule_that_is_cited_is_in_the_guide():
    numbers = {rule.number for rule in guide()}
    assert len(cited()) > 30
    for number in cited():
        assert number in numbers or any(one.startswith(f"{number}.") for one in numbers), number


def test_every_rule_says_something_and_where_it_comes_from():
    for rule in guide():
        assert rule.title and rule.text, rule.number
    text = Path(core.__file__).parents[2].joinpath("docs/rules.md").read_text(encoding="utf-8")
    for section in re.split(r"^## \d", text, flags=re.M)[1:]:
        assert "Source" in section


@pytest.mark.parametrize(
    ("number", "formula"),
    # The figures as the rules' own text has them.
    [
        ("3.2", "RA · IΔn ≤ 50 V"),
        ("4.3", "(r1 + rn)/4"),
        ("6.2", "1/R = Σ 1/Ri"),
        ("7.1", "0.95 · 230 V / Ia"),
        ("9.4", "≤ 3 % lighting, 5 % other"),
        ("11.2", "IPX4"),
    ],
)
def test_a_rule_gives_its_formula(number, formula):
    rule = next(rule for rule in guide() if rule.number == number)
    assert any(formula in line and line.startswith("= ") for line in rule.text)


def test_the_guide_is_served(inspector):
    served = inspector.http.get("/api/rules").json()
    assert {"number", "title", "text"} == set(served[0])
    assert served[0]["number"] == "1.1"
