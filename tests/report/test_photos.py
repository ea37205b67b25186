"""Photos in the report: beside their observation, as found before as left, with their marks and in two sizes."""

import base64
import io
import re
from datetime import UTC, date, datetime
from pathlib import Path

import pytest
from PIL import Image
from pypdf import PdfReader

from dorrik.core.inspection import document
from dorrik.core.judging.judgement import judge
from dorrik.pictures import marked
from dorrik.report import pdf
from dorrik.report.content import Issue, content
from dorrik.report.content.photos import none_kept, put_into
from tests.core.homes import cottage
from tests.pictures import opened, picture

ISSUE = Issue(1, date(2026, 11, 23), "Ines Pector", "inspector", "Firm", "1 Test Quay", "0")
FOUND, LEFT, OTHER = "a1" * 32, "b2" * 32, "c3" * 32
GIVEN = {FOUND: picture(1600, 1200), LEFT: picture(800, 600, colour=(20, 90, 40)), OTHER: picture()}


def home(*photos):
    whole = cottage()
    whole["inspection"] |= {
        "observations": [{"id": "o1", "text": "Cracked plate in the parlour", "code": "C3"}],
        "photos": [
            {"id": f"f{at}", "about_id": "o1", "about_entity": "observation"} | p for at, p in enumerate(photos)
        ],
        "declared_outcome": "satisfactory",
    }
    return whole


@pytest.fixture
def kept(tmp_path):
    """What is shown of the photos, put into a folder as it is asked for."""
    return put_into(tmp_path, lambda sha256, size: GIVEN.get(sha256))


def said(whole, kept):
    inspection = document.parse(whole)
    return content(inspection, judge(inspection), ISSUE, kept)


def printed(data):
    (observation,) = data["observations"]
    return observation["photos"]


def jpeg_of(svg):
    return opened(base64.b64decode(re.search(r"base64,([^\"]+)", svg).group(1)))


def test_as_found_stands_before_as_left_each_with_its_words(kept):
    photos = printed(said(home({"sha256": LEFT, "shows": "as left"}, {"sha256": FOUND, "caption": "Plate"}), kept))
    assert [photo["caption"] for photo in photos] == ["As found: Plate", "As left: Cracked plate in the parlour"]


def test_only_those_of_the_observation_and_meant_for_print(kept):
    others = {"sha256": LEFT, "print_size": "not"}, {"sha256": OTHER, "about_id": "r1"}
    photos = printed(said(home({"sha256": FOUND}, *others), kept))
    assert len(photos) == 1


@pytest.mark.parametrize(("size", "longest"), [("small", 640), ("large", 1400)])
def test_two_sizes(size, longest, kept):
    (one,) = printed(said(home({"sha256": FOUND, "print_size": size}), kept))
    assert one["size"] == size
    drawing = marked.svg(Path(one["jpeg"]).read_bytes(), one["marks"], one["size"], one["words"])
    assert max(jpeg_of(drawing).size) == longest


def test_one_that_has_not_arrived_is_said_to_be_missing():
    (one,) = printed(said(home({"sha256": FOUND}), none_kept))
    assert one["jpeg"] == "" and one["caption"].endswith("(the photo has not arrived yet)")


def test_the_report_holds_the_pictures_and_says_them_to_who_does_not_see_them(kept):
    whole = home({"sha256": FOUND, "caption": "Plate by the door"}, {"sha256": LEFT, "shows": "as left"})
    inspection = document.parse(whole)
    made = pdf.pdf(said(whole, kept), document.write(inspection), datetime(2026, 11, 23, 12, tzinfo=UTC))
    reader = PdfReader(io.BytesIO(made))
    assert "As found: Plate by the door" in "\n".join(page.extract_text() for page in reader.pages)
    # On page one the first of them stands beside what has to be done.
    assert [len(page.images) for page in reader.pages][:2] == [1, 2]
    # A report for print stays small: photos come in the size they are printed in.
    assert len(made) < 400_000


def stripes():
    """A number plate, as far as a picture goes: black and white stripes, a pixel wide."""
    image = Image.new("L", (400, 200), 255)
    image.putdata([255 * (x % 2) for _ in range(200) for x in range(400)])
    out = io.BytesIO()
    image.convert("RGB").save(out, "PNG")
    return out.getvalue()


def test_what_nobody_is_to_read_is_gone_from_the_printed_picture_itself():
    mark = {"kind": "blur", "x": 0.25, "y": 0.25, "x2": 0.75, "y2": 0.75}
    image = jpeg_of(marked.svg(stripes(), [mark], "small", "Board")).convert("L")
    inside = image.crop((110, 60, 290, 140)).getextrema()
    outside = image.crop((0, 0, 90, 40)).getextrema()
    assert inside[1] - inside[0] < 40 < 150 < outside[1] - outside[0]


def test_arrows_rings_and_numbers_lie_over_it_where_they_were_put():
    marks = [
        {"kind": "ring", "x": 0.25, "y": 0.25, "x2": 0.75, "y2": 0.75},
        {"kind": "number", "x": 0.5, "y": 0.5, "x2": 0.5, "y2": 0.5},
        {"kind": "arrow", "x": 0.0, "y": 0.0, "x2": 0.5, "y2": 0.5},
        {"kind": "number", "x": 0.1, "y": 0.9, "x2": 0.1, "y2": 0.9},
    ]
    svg = marked.svg(picture(400, 300), marks, "small", 'Board "A" & co')
    assert 'viewBox="0 0 400 300"' in svg
    assert '<ellipse cx="200.0" cy="150.0" rx="100.0" ry="75.0"' in svg
    assert re.findall(r"<text [^>]*>(\d)</text>", svg) == ["1", "2"]
    assert '<circle cx="40.0" cy="270.0"' in svg
    assert "M0.0 0.0" in svg and "200.0 150.0" in svg
    # Words of an inspector stay words.
    assert "&amp; co" in svg
