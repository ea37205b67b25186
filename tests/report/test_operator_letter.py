"""The letter to the network operator: what it says, and that it can be read."""

from datetime import date
from io import BytesIO

import pytest
from pypdf import PdfReader

from dorrik.core import document
from dorrik.core.judgement import judge
from dorrik.report.content import Issue
from dorrik.report.operator_letter import NoCause, content, letter
from tests.core.homes import cottage, spoilt

PAPER = Issue(0, date(2026, 11, 23), "Ines Pector", "inspector", "Firm & Sons", "1 Test Quay", "0")


def written(home):
    inspection = document.parse(home)
    return inspection, judge(inspection)


def test_it_names_the_place_the_figure_and_what_is_usual():
    said = content(*written(spoilt(ze_ohm="0.61")), PAPER)
    facts = {fact["label"]: fact["value"] for fact in said["facts"]}
    assert facts["Address of the supply"] == "1 Lookout Row"
    assert facts["Ze, line to the supply's earth"] == "0.61 Ω"
    assert facts["Usually declared for TN-C-S"] == "0.35 Ω at most"
    assert facts["Measured on"] == "3 November 2026"
    assert "disconnected from all bonding" in said["body"][0]


def test_it_does_not_claim_what_was_not_done():
    said = content(*written(spoilt(ze_ohm="0.61", ze_parallel_removed=None)), PAPER)
    assert "not recorded" in said["body"][0]


@pytest.mark.parametrize("home", [cottage(), spoilt(ze_ohm=None), spoilt(earthing="TT", ze_ohm="1800")])
def test_without_a_cause_there_is_no_letter(home):
    with pytest.raises(NoCause):
        content(*written(home), PAPER)


def test_the_pdf_holds_every_word():
    pdf = PdfReader(BytesIO(letter(*written(spoilt(ze_ohm="OL")), PAPER, PAPER.issued_on)))
    text = pdf.pages[0].extract_text()
    assert len(pdf.pages) == 1
    for word in ("Firm & Sons", "1 Lookout Row", "OL", "on hold", "23 November 2026", "BS 7671:2018"):
        assert word in text
