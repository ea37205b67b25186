"""The Irish rule book: words, clauses, limits, and what could not be confirmed."""

import pytest

from dorrik.core.book.rule_book import FIRST, keys, rule_book
from dorrik.core.inspection import document
from dorrik.core.judging.judgement import judge
from tests.core.homes import spoilt

IRISH = rule_book("is10101-2020")


def test_the_first_book_is_the_one_that_the_rules_are_written_in():
    assert keys()[0] == FIRST == rule_book().key
    assert rule_book().translate("R1+R2 and cpc") == "R1+R2 and cpc"
    with pytest.raises(LookupError):
        rule_book("bs0000")


@pytest.mark.parametrize(
    ("said", "irish"),
    [
        ("R1+R2 of 0.4 Ω", "RP+RE of 0.4 Ω"),
        ("Zdb + (R1+R2)", "Zdb + (RP+RE)"),
        ("r1+r2 of a ring's ends", "r1+r2 of a ring's ends"),
        ("the cpc is open", "the protective conductor is open"),
        ("Cpc end to end", "Protective conductor end to end"),
        ("two cpcs", "two protective conductors"),
        ("the consumer unit", "the distribution board"),
    ],
)
def test_words(said, irish):
    assert IRISH.translate(said) == irish


def test_clauses_are_the_other_book_s_and_doubt_is_said():
    assert IRISH.cite("BS 7671 643.3.2, table 64 · rule 6.1") == "I.S. 10101 part 6, insulation resistance · rule 6.1"
    doubtful = IRISH.cite("BS 7671 411.4.4 · rule 7.1")
    assert doubtful.startswith("I.S. 10101 part 6") and "check against your copy" in doubtful
    assert IRISH.cite("(r1 + r2)/4 · rules 4.3, 4.7") == "(r1 + r2)/4 · rules 4.3, 4.7"


def test_a_whole_judgement_speaks_irish():
    home = spoilt("c2", r1_r2_ohm="OL", zs_ohm="2.10")
    home["inspection"]["rule_book"] = "is10101-2020"
    judgement = judge(document.parse(home))
    said = " ".join(f"{n.title} {n.verdict.reason} {n.verdict.next_step} {n.verdict.source}" for n in judgement.notes)
    assert "RP+RE" in said and "protective conductor" in said
    assert "R1+R2" not in said and "cpc" not in said and "BS 7671" not in said
    assert judgement.rule_book.name == "I.S. 10101:2020"
    assert judgement.rule_book.order[1] == "insulation resistance"


@pytest.mark.parametrize(
    ("fields", "field", "doubt"),
    [
        ({"bonds": [{"id": "w", "service": "water", "at_pipe_ohm": "0.31"}]}, "at_pipe_ohm", True),
        ({"ze_ohm": "0.71"}, "ze_ohm", True),
        ({"tails_length_m": 5}, "tails_length_m", False),  # the operator's own rule, in no book
    ],
)
def test_a_limit_that_could_not_be_confirmed_is_shown_with_its_doubt(fields, field, doubt):
    judgement = judge(document.parse(spoilt(rule_book="is10101-2020", **fields)))
    note = next(n for n in judgement.notes if n.field == field)
    assert ("check against your copy" in note.verdict.source) is doubt


def test_both_books_judge_alike_where_their_limits_are_the_same():
    home = spoilt("c2", zs_ohm="2.10")
    british = judge(document.parse(home)).notes
    home["inspection"]["rule_book"] = "is10101-2020"
    irish = judge(document.parse(home)).notes
    assert [n.verdict.status for n in british] == [n.verdict.status for n in irish]
