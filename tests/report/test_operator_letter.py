"""The letter to the network operator: what it says, and that it can be read."""

from datetime import date
from io import BytesIO

import pytest
from PIL import Image
from pypdf import PdfReader

from dorrik.core.inspection import document
from dorrik.core.inspection.network_operator import faults
from dorrik.core.judging.judgement import judge
from dorrik.report.content import Issue
from dorrik.report.letters.network_operator import NoCause, of_call, of_ze
from dorrik.report.press import facts_letter
from tests.core.homes import cottage, spoilt

PAPER = Issue(0, date(2026, 11, 23), "Ines Pector", "inspector", "Firm & Sons", "1 Test Quay", "0")


def written(home):
    inspection = document.parse(home)
    return inspection, judge(inspection)


def test_it_names_the_place_the_figure_and_what_is_usual():
    said = of_ze(*written(spoilt(ze_ohm="0.61")), PAPER)
    facts = {fact["label"]: fact["value"] for fact in said["facts"]}
    assert facts["Address of the supply"] == "1 Lookout Row"
    assert facts["Ze, line to the supply's earth"] == "0.61 Ω"
    assert facts["Usually declared for TN-C-S"] == "0.35 Ω at most"
    assert facts["Measured on"] == "3 November 2026"
    assert "disconnected from all bonding" in said["body"][0]


def test_it_does_not_claim_what_was_not_done():
    said = of_ze(*written(spoilt(ze_ohm="0.61", ze_parallel_removed=None)), PAPER)
    assert "not recorded" in said["body"][0]


@pytest.mark.parametrize("home", [cottage(), spoilt(ze_ohm=None), spoilt(earthing="TT", ze_ohm="1800")])
def test_without_a_cause_there_is_no_letter(home):
    with pytest.raises(NoCause):
        of_ze(*written(home), PAPER)


def test_the_pdf_holds_every_word():
    pdf = PdfReader(BytesIO(facts_letter(of_ze(*written(spoilt(ze_ohm="OL")), PAPER), PAPER.issued_on)))
    text = pdf.pages[0].extract_text()
    assert len(pdf.pages) == 1
    for word in ("Firm & Sons", "1 Lookout Row", "OL", "on hold", "23 November 2026", "BS 7671:2018"):
        assert word in text


@pytest.mark.parametrize("fault", faults())
def test_every_kind_of_fault_on_their_side_has_its_letter(fault):
    home = cottage()
    promised = "2026-11-04T16:00:00Z"
    call = {
        "id": "k",
        "fault": fault,
        "called_at": "2026-11-03T10:15:00Z",
        "reference": "4" * 200,
        "promised_by": promised,
    }
    home["inspection"]["operator_calls"] = [call | {"what": "Heat marks at the head."}]
    inspection = document.parse(home)
    (rung,) = inspection.operator_calls
    said = of_call(inspection, judge(inspection), PAPER, rung)
    assert said["subject"].startswith(faults()[fault].label)
    assert faults()[fault].found in said["opening"] and "Heat marks at the head." in said["opening"]
    assert {"label": "Your reference", "value": "4" * 200} in said["facts"]
    assert any("4 November 2026, 16:00" in line for line in said["body"])
    assert any("danger" in line for line in said["body"]) is faults()[fault].urgent


def test_a_call_that_is_about_nothing_has_no_letter():
    home = cottage()
    home["inspection"]["operator_calls"] = [{"id": "k", "called_at": "2026-11-03T10:15:00Z"}]
    inspection = document.parse(home)
    with pytest.raises(NoCause):
        of_call(inspection, judge(inspection), PAPER, inspection.operator_calls[0])


def rung_from(home):
    home["inspection"]["operator_calls"] = [{"id": "k", "fault": "earth", "called_at": "2026-11-03T10:15:00Z"}]
    inspection = document.parse(home)
    return inspection, judge(inspection), inspection.operator_calls[0]


def test_one_letter_is_for_every_home_on_the_supply():
    home = cottage()
    home["inspection"]["held_at"] = "2026-11-03T10:20:00Z"
    inspection, judgement, rung = rung_from(home)
    said = of_call(inspection, judgement, PAPER, rung, ["Flat 2, 1 Lookout Row", "Flat 3, 1 Lookout Row"])
    facts = {fact["label"]: fact["value"] for fact in said["facts"]}
    assert facts["The same supply feeds"] == "Flat 2, 1 Lookout Row; Flat 3, 1 Lookout Row"
    assert any("The inspections of these homes are on hold" in line for line in said["body"])


def test_photos_of_the_origin_go_with_the_letter(tmp_path):
    home = cottage()
    key = home["inspection"]["id"]
    home["inspection"]["photos"] = [
        {"id": f"p{n}", "about_entity": "inspection", "about_id": key, "sha256": f"{n:064x}", "caption": f"Head {n}"}
        for n in range(6)
    ]
    home["inspection"]["photos"][0]["print_size"] = "not"
    picture = tmp_path / "one.jpg"
    Image.new("RGB", (80, 60), "#884400").save(picture)
    inspection, judgement, rung = rung_from(home)
    said = of_call(inspection, judgement, PAPER, rung, photos=lambda sha256, size: str(picture))
    assert [photo["caption"] for photo in said["photos"]] == [f"As found: Head {n}" for n in range(1, 5)]
    pdf = PdfReader(BytesIO(facts_letter(said, PAPER.issued_on)))
    assert sum(len(page.images) for page in pdf.pages) >= 1
    assert "As found: Head 1" in " ".join("".join(page.extract_text() for page in pdf.pages).split())
