"""Drawings as they stand in the report: every shape with its look, words of people as words."""

import re
import typing
import xml.etree.ElementTree as ET
from pathlib import Path as FilePath

import pytest

from dorrik.core.basics import drawing as shapes
from dorrik.core.basics.drawing import Box, Disc, Drawing, DrawnPart, Path, Sign, Words
from dorrik.report import drawn

SVG = "{http://www.w3.org/2000/svg}"
SHEET = FilePath(__file__).parents[2] / "web/src/drawings/Drawing.module.css"
LOOKS = {
    "path": (shapes.PathLook, drawn.PATHS),
    "box": (shapes.BoxLook, drawn.BOXES),
    "disc": (shapes.DiscLook, drawn.DISCS),
    "words": (shapes.WordsLook, drawn.WORDS),
}


def svg_of(*parts):
    return ET.fromstring(drawn.svg(Drawing(says="", width=100, height=50, left=-5, parts=parts)))


@pytest.mark.parametrize("kind", LOOKS)
def test_every_look_is_known_on_paper_and_on_the_screen(kind):
    wanted, on_paper = LOOKS[kind]
    assert set(on_paper) == set(typing.get_args(wanted))
    sheet = SHEET.read_text()
    exact = set(re.findall(r'data-look="([^"]+)"', sheet))
    beginnings = tuple(re.findall(r'data-look\^="([^"]+)"', sheet))
    # What has no rule of its own has that of all lines, or of all words.
    usual = {"bond", "cable", "electrode below", "floor", "walls", "line"}
    unknown = {look for look in on_paper if look not in exact | usual and not look.startswith(beginnings)}
    assert unknown <= {"beside"}


def test_shapes_stand_where_they_were_laid_out_from_the_back_to_the_front():
    root = svg_of(
        DrawnPart(
            boxes=(Box(1, 2, 30, 4, "part unknown"),),
            paths=(Path("M1 1H9", "supply"),),
            discs=(Disc(5, 6, 9, "end open"),),
            words=(Words(7, 8, "Tails", "title", "middle"),),
        )
    )
    assert root.get("viewBox") == "-5 0 100 50"
    box, path, disc, words = list(root)
    assert [box.get(name) for name in ("x", "y", "width", "height")] == ["1", "2", "30", "4"]
    assert box.get("stroke-dasharray") and path.get("d") == "M1 1H9"
    assert (disc.get("cx"), disc.get("r"), disc.get("fill")) == ("5", "9", "#ffffff")
    assert (words.text, words.get("text-anchor"), words.get("font-weight")) == ("Tails", "middle", "700")


def test_marks_fill_up_with_urgency_and_what_cannot_be_judged_has_none_on_paper():
    def signs(status, *, inverse=False):
        return list(svg_of(DrawnPart(signs=(Sign(5, 5, status, inverse),))))

    (full,) = signs("fail")
    ring, half = signs("attention")
    assert full.get("fill") == full.get("stroke") == "#17272b"
    assert ring.get("fill") == "none" and half.tag == f"{SVG}path"
    assert signs("unknown") == signs("pass") == []
    assert signs("fail", inverse=True)[0].get("fill") == "#ffffff"


def test_what_only_a_thumb_needs_is_not_printed():
    assert not list(svg_of(DrawnPart(boxes=(Box(0, 0, 9, 9, "reach"),), discs=(Disc(0, 0, 22, "reach"),))))


def test_words_of_people_stay_words():
    hostile = "</text><script>&amp; \"'<b>"
    root = svg_of(DrawnPart(words=(Words(0, 0, hostile, "line"),)))
    assert [one.text for one in root.iter(f"{SVG}text")] == [hostile]
    assert not list(root.iter(f"{SVG}script"))
