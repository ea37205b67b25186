"""Letters of reports: what the fonts have is set, the rest is printed as its code point, and nothing stops a report."""

import random
from datetime import date

import pytest

from dorrik.core.basics.text import why_not
from dorrik.report import glyphs, pdf

LETTER = {
    "subject": "s", "firm": {"name": "f", "address": "", "phone": "", "email": "", "line": ""}, "to": "t", "on": "o",
    "signed_by": "x", "role": "r", "foot": "", "facts": [], "body": [], "column": "",
}  # fmt: skip


WORLD = ["Zs 0.42 Ω ≤ 1.37", "Łódź", "Ελλάδα", "Київ", "שלום", "नमस्ते", "北京", "ሰላም", "😀", "a\u200db"]


@pytest.mark.parametrize("text", WORLD)
def test_the_world_s_scripts_have_their_letters(text):
    assert glyphs.legible(text) == text and glyphs.missing(text) == []


def test_what_no_font_has_is_shown_as_its_code_and_named_once():
    said = {"a": ["x\u0378y", "\u0378"], "b": 3}
    assert glyphs.legible(said) == {"a": ["x[U+0378]y", "[U+0378]"], "b": 3}
    assert glyphs.missing(said) == ["\u0378"]


@pytest.mark.parametrize("seed", range(6))
def test_wild_rows_of_any_characters_are_set(seed):
    """Signs that each have a letter can still find no font together; the letter is made all the same."""
    chance = random.Random(seed)
    signs = [chr(chance.randrange(0x20, 0x30000)) for _ in range(1500)]
    wild = "".join(sign for sign in signs if why_not(sign) is None)
    said = LETTER | {"opening": wild, "body": [wild[:200], "plain"]}
    assert pdf.letter("facts_letter", said, date(2026, 11, 3)).startswith(b"%PDF")
