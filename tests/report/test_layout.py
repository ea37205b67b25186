"""The look of a report's pages, by program: nothing cut, over each other or stacked, no page nearly empty."""

import io
from datetime import UTC, datetime

import pytest
from pypdf import PdfReader

from dorrik.core.inspection import document
from dorrik.report import glyphs, pdf
from tests.pictures import picture
from tests.report import pages
from tests.report.full_homes import SCRIPTS, SENTENCE, WORD, home, pictures_in, said

AT = datetime(2026, 11, 23, 12, tzinfo=UTC)


@pytest.fixture
def printed(tmp_path):
    photos = pictures_in(tmp_path, picture)

    def of(**size):
        words, inspection = said(home(**size), photos)
        return pdf.pdf(words, document.write(inspection), AT)

    return of


@pytest.mark.parametrize(
    "size",
    [
        {"circuits": 1, "observations": 0},
        {"circuits": 2, "observations": 1, "photos": 1},
        {"circuits": 6, "observations": 12, "photos": 7},
        {"circuits": 14, "observations": 20, "photos": 40},
        {"circuits": 31, "boards": 3, "observations": 5, "photos": 2},
        {"circuits": 96, "boards": 2, "observations": 30, "photos": 9},
        {"circuits": 12, "observations": 10, "photos": 200},
        {"circuits": 8, "observations": 8, "photos": 5, "name": SENTENCE},
        {"circuits": 8, "observations": 8, "photos": 5, "name": WORD},
        {"circuits": 5, "observations": 4, "photos": 2, "name": SCRIPTS},
    ],
    ids=lambda size: "-".join(str(part)[:9] for part in size.values()),
)
def test_no_page_is_cut_stacked_or_nearly_empty(printed, size):
    assert pages.faults(printed(**size)) == []


def test_the_program_sees_what_is_wrong():
    """The faults are made on purpose in a page of the same typesetter: a checker that passes everything is worth
    nothing."""
    import typst

    def made(body):
        return typst.compile(body.encode(), format="pdf", font_paths=glyphs.folders(), ignore_system_fonts=True)

    page = (
        '#set page(margin: 20mm)\n#set text(size: 9pt, font: "Atkinson Hyperlegible Next")\n#set par(leading: 0.5em)\n'
    )
    filled = page + "#lorem(600)\n"
    assert pages.faults(made(filled)) == []
    assert any("used" in fault for fault in pages.faults(made(page + "#lorem(30)")))
    assert any("edge" in fault for fault in pages.faults(made(filled + "#place(top + right, dx: 25mm)[beyond]")))
    assert any(
        "over each other" in fault for fault in pages.faults(made(filled + "#place(top + left)[Over the words]"))
    )
    stacked = "#table(columns: (12mm, 1fr), [the tester trips on this one], [short])\n"
    assert any("stacked" in fault for fault in pages.faults(made(page + stacked + "#lorem(600)")))


def test_page_one_says_what_to_do_and_by_when(printed):
    (first, *_) = PdfReader(io.BytesIO(printed(circuits=6, observations=3, photos=3))).pages
    words = " ".join(first.extract_text().split())
    for said_there in (
        "unsatisfactory",
        # C2, C3 and FI of `full_homes`: two of them count.
        "One thing may become dangerous and one has to be looked into. When both are cleared",
        # England: 28 days from 3 November 2026, and five years.
        "3 Nov 2026", "1 Dec 2026", "3 Nov 2031", "work done",
        "What this rests on", "7F3A-91C2-0D4E",
    ):  # fmt: skip
        assert said_there in words
