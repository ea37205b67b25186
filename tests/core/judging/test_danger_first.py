"""Danger first: a next step that sends hands to where something can be live begins with what makes it safe
(rule 10 of the words on screen)."""

import ast
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

import dorrik.core
from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import judge
from dorrik.practice.answering import answered
from dorrik.practice.whole_home_draw import draw

#: Words that send hands into something: to metal, behind a front, to a terminal, under a device.
HANDS = re.compile(
    r"\b(terminals?|fronts?|load side|tighten|open (?:it|the|each|every)|disconnect|behind|busbars?|"
    r"(?:take|off) the bonds|re-?make|(?:re)?connect|clamps?|cores?|swap|bare|connections?|module|re-plug)\b",
    re.IGNORECASE,
)
SAFE = re.compile(r"^(Isolate|Keep off|Treat (?:[^.]* )?as live)\b")
#: Names under which a sentence is kept for several verdicts.
KEPT = re.compile(r"STEP|RETEST|NEXT")
CORE = Path(dorrik.core.__file__).parent


def sentences(node: ast.expr) -> Iterator[str]:
    """Every sentence an expression can be; what is filled in reads as a number."""
    if isinstance(node, ast.Constant) and isinstance(node.value, str):
        yield node.value
    elif isinstance(node, ast.JoinedStr):
        yield "".join(str(part.value) if isinstance(part, ast.Constant) else "1" for part in node.values)
    elif isinstance(node, ast.IfExp):
        yield from sentences(node.body)
        yield from sentences(node.orelse)
    elif isinstance(node, ast.BinOp):
        for left in sentences(node.left):
            for right in [*sentences(node.right)] or [""]:
                yield left + right


def written() -> Iterator[tuple[str, str]]:
    """Every next step as it is written down in the rules, with where."""
    for path in sorted(CORE.rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text())):
            of_verdict = isinstance(node, ast.keyword) and node.arg == "next_step"
            kept = isinstance(node, ast.Assign) and any(
                isinstance(name, ast.Name) and KEPT.search(name.id) for name in node.targets
            )
            found = [node.value] if of_verdict or kept else []  # type: ignore[attr-defined]
            if isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id == "Finding":
                found = list(node.args[3:4])
            for value in found:
                for sentence in sentences(value):
                    yield f"{path.relative_to(CORE)}:{value.lineno}", sentence


ALL = list(written())


def test_next_steps_are_found_where_they_are_written():
    assert len(ALL) >= 150
    assert sum(bool(HANDS.search(sentence)) for _, sentence in ALL) > 20


@pytest.mark.parametrize(("where", "sentence"), ALL, ids=[where for where, _ in ALL])
def test_a_next_step_makes_it_safe_before_it_sends_hands_there(where, sentence):
    assert not HANDS.search(sentence) or SAFE.match(sentence), where


@pytest.mark.parametrize("seed", range(7100, 7130))
def test_so_does_every_note_of_a_whole_home_as_it_is_read(seed):
    """Put together from parts, with names and figures in it."""
    document = draw(seed).document
    for one in (document, answered(document)):
        for note in judge(parse(one)).notes:
            step = note.verdict.next_step
            assert not step or not HANDS.search(step) or SAFE.match(step), (note.title, step)
