"""The typeset report: its standards, its attachment, its words, and what it stands."""

import gzip
import io
import json
from datetime import UTC, date, datetime

import pytest
from pypdf import PdfReader

from dorrik.core.inspection import document
from dorrik.core.judging.judgement import judge
from dorrik.report import pdf
from dorrik.report.content import Issue, content
from tests.core.homes import cottage, spoilt

AT = datetime(2026, 11, 23, 12, 0, tzinfo=UTC)
ISSUE = Issue(1, date(2026, 11, 23), "Ines Pector", "inspector", "Firm", "1 Test Quay", "0")


def made(home, issue=ISSUE):
    inspection = document.parse(home)
    return content(inspection, judge(inspection), issue), document.write(inspection)


def read(home, issue=ISSUE):
    return PdfReader(io.BytesIO(pdf.pdf(*made(home, issue), AT)))


def words(reader):
    return "\n".join(page.extract_text() for page in reader.pages)


def test_it_is_tagged_titled_and_archival():
    reader = read(cottage())
    catalog = reader.trailer["/Root"]
    assert catalog["/Lang"] == "en-GB"
    assert catalog["/MarkInfo"]["/Marked"]
    metadata = catalog["/Metadata"].get_data().decode()
    assert "pdfaid:part>3" in metadata and "pdfuaid:part>1" in metadata
    assert reader.metadata.title == "Electrical installation condition report K-1"


def test_every_font_is_inside():
    fonts = [f for page in read(cottage()).pages for f in page["/Resources"]["/Font"].values()]
    assert fonts
    for font in fonts:
        (descendant,) = font.get_object()["/DescendantFonts"]
        assert {"/FontFile2", "/FontFile3"} & set(descendant.get_object()["/FontDescriptor"])


def test_the_attachment_reads_back_to_the_same_inspection():
    home = spoilt("c2", designation="Cooker “Ω ≥ 1” – loft")
    attached = json.loads(read(home).attachments["inspection.json"][0])
    assert document.parse(attached) == document.parse(home)


def test_the_same_input_gives_the_same_bytes():
    assert pdf.pdf(*made(cottage()), AT) == pdf.pdf(*made(cottage()), AT)


@pytest.mark.parametrize(
    "text",
    [
        "#eval(1)",
        "$x^2$ *bold* _it_ `code`",
        "<label> @ref",
        '"quotes" \\ back',
        "[brackets] {braces}",
        "x" * 2000,
        "a\nb",
    ],
)
def test_words_of_people_are_set_as_words(text):
    """Nothing that is typed is taken for instructions to the typesetter."""
    reader = read(spoilt(condition=text, limitations=[{"id": "l", "what": text[:900]}]))
    flat = "".join(words(reader).split())
    assert "".join(text[:40].split()) in flat


def test_a_board_longer_than_a_page_repeats_its_head():
    home = cottage()
    circuits = home["inspection"]["boards"][0]["circuits"]
    for n in range(4, 61):
        circuits.append(circuits[1] | {"id": f"c{n}", "position": n, "way": str(n), "designation": f"Circuit {n}"})
    pages = [page.extract_text() for page in read(home).pages]
    tables = [page for page in pages if "L+N–E" in page]
    assert len(tables) >= 2
    assert "Circuit 60" in tables[-1]


def test_a_draft_says_so_on_every_page(tmp_path):
    said, _ = made(cottage(), Issue(0, date(2026, 11, 23), "I", "", "F", "", ""))
    sizes = pdf.pages(said, tmp_path)
    pages = sorted(tmp_path.iterdir())
    assert len(sizes) == len(pages) >= 2
    assert all(gzip.decompress(page.read_bytes()).startswith(b"<svg") for page in pages)
    # A4 (pt), the circuits on its side.
    assert {(round(width), round(height)) for width, height in sizes} == {(595, 842), (842, 595)}
    assert "Draft, not issued" in words(read(cottage(), Issue(0, date(2026, 11, 23), "I", "", "F", "", "")))


def test_bonds_samples_and_own_views_are_printed_in_the_words_of_the_rule_book():
    home = spoilt("c2", zs_ohm="2.10", points=[{"id": f"p{i}", "opened": i < 3, "kind": "socket"} for i in range(9)])
    home["inspection"] |= {
        "rule_book": "is10101-2020",
        "bonds": [{"id": "w", "service": "water", "state": "present", "csa_mm2": 10, "at_pipe_ohm": "0.02"}],
        "overrulings": [{"id": "v", "about_id": "c2", "field": "zs_ohm", "status": "pass", "reason": "Wrong socket."}],
        "table_corrections": [
            {"table": "conductors", "row": "2.5", "column": "milliohm_per_m", "value": "7.4", "why": "maker's sheet"}
        ],
    }
    text = " ".join(" ".join(page.extract_text().split()) for page in read(home).pages)
    for words in (
        "Main bond to",
        "0.02 Ω",
        "3 of the 9 points drawn from 9 were opened",
        "Wrong socket.",
        "maker's sheet",
    ):
        assert words in text
    assert "RP+RE" in text and "R1+R2 Ω" not in text
    assert "Periodic inspection report" in text and "I.S. 10101:2020" in text
