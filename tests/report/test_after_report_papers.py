"""The papers after a report: the confirmation and the sheet for prices, page by page, however long the words."""

import io
import json
from datetime import datetime

import pytest
from pypdf import PdfReader

from dorrik.core.inspection.document import parse
from dorrik.core.work.remedials import Figure, Required
from dorrik.report import board_chart, confirmation, pdf, price_request
from dorrik.report.content import Signature
from tests.report.full_homes import ISSUE, home
from tests.report.pages import faults

WORDS = {
    "reference": "K-0145", "home": "Flat 2, The Net Loft", "title": "Electrical installation condition report",
    "number": 2, "issued_on": "2026-11-16", "inspected_on": "2026-11-11",
    "outcome": "unsatisfactory", "rule_book": "BS 7671:2018 with its amendments",
    "caution": "An aid to a competent person; local rules decide.",
    "firm": {"name": "Breakwater Inspections"},
}  # fmt: skip
LONG = "The old net loft over the ropewalk behind the harbour master's office and the ice house, " * 2
NAMES = [
    "",
    LONG[:180],
    "Wendeltreppenhausbeleuchtungsanlagensicherungskasten" * 3,
    "بيت الصياد عند الميناء",
    "घर के पीछे 🏠⚡",
]


def wrong(made):
    """What is wrong on its pages; the last one may hold no more than the signatures."""
    last = f"page {len(PdfReader(io.BytesIO(made)).pages)}: only"
    return [told for told in faults(made) if not told.startswith(last)]


def confirmed(count, name, figures):
    items = [
        confirmation.Cleared(
            f"o{n}", n, ("C1", "C2", "FI")[n % 3], f"A socket circuit is broken. {name}",
            f"Kitchen {name}", f"Joined again {name}", "Kelder Electric", "2026-12-01",
            [(f"2 Kitchen ring: neutral end to end {name[:60]}", "OL", "0.36", "Ω")] * figures, ["certificate KE-77"],
            "Idris Quill", "2026-12-11",
        )
        for n in range(count)
    ]  # fmt: skip
    signed = Signature("Confirmed by", "Idris Quill", "supervisor", "12 December 2026, 10:00", typed=True)
    words = WORDS | {"home": f"Flat 2, The Net Loft {name}"}
    made = confirmation.copy(words, items, 2, ISSUE, 1, datetime(2026, 12, 12, 10), signed, "http://here.example")
    return pdf.certificate(made.said, json.loads(made.document), made.at, "confirmation")


@pytest.mark.parametrize("name", NAMES)
@pytest.mark.parametrize(("count", "figures"), [(1, 1), (4, 0), (25, 3)])
def test_a_confirmation_has_no_page_that_is_cut_or_stacked(count, figures, name):
    assert wrong(confirmed(count, name, figures)) == []


def test_a_confirmation_is_tagged_archival_and_carries_its_data():
    reader = PdfReader(io.BytesIO(confirmed(3, "", 1)))
    catalogue = reader.trailer["/Root"]
    assert catalogue["/MarkInfo"]["/Marked"] and "/StructTreeRoot" in catalogue and catalogue["/Lang"]
    metadata = catalogue["/Metadata"].get_object().get_data().decode()
    assert "pdfaid:part>3" in metadata and "pdfuaid:part>1" in metadata
    (said,) = reader.attachments["confirmation.json"]
    assert [one["code"] for one in json.loads(said)["confirmation"]["items"]] == ["C1", "C2", "FI"]


@pytest.mark.parametrize("name", NAMES)
@pytest.mark.parametrize("count", [0, 2, 30])
def test_a_sheet_for_prices_has_no_page_that_is_cut_or_stacked(count, name):
    figure = Figure(
        entity="circuit",
        entity_id="c",
        field="r1_ohm",
        label=f"2 Kitchen ring {name[:60]}",
        unit="Ω",
        value="OL",
        status="fail",
    )
    items = [
        Required(
            id=f"o{n}", key="", code=("C1", "C2", "C3", "FI")[n % 4], title=f"The fuse box is plastic. {name}",
            text=f"Enclosure of combustible material {name}", place=f"Hall {name}", todo="Replace it.",
            counts=n % 4 != 2, figures=(figure,) * (n % 3),
        )
        for n in range(count)
    ]  # fmt: skip
    made = pdf.letter(
        "price_request", price_request.said(WORDS | {"home": f"Flat 2 {name}"}, items), datetime(2026, 12, 1)
    )
    assert wrong(made) == []
    text = " ".join(" ".join(page.extract_text() for page in PdfReader(io.BytesIO(made)).pages).split())
    assert ("Nothing is left to be put right" in text) == (count == 0)


@pytest.mark.parametrize("name", NAMES)
def test_circuit_charts_name_every_way_of_every_board(name):
    inspection = parse(home(circuits=40, boards=3, name=name))
    made = board_chart.sheet(board_chart.words(inspection, ISSUE), ISSUE)
    # Each board begins a page of its own, however few its circuits.
    assert [told for told in faults(made) if not told.endswith("is used")] == []
    text = " ".join(" ".join(page.extract_text() for page in PdfReader(io.BytesIO(made)).pages).split())
    if not name:
        assert all(circuit.designation in text for board in inspection.boards for circuit in board.circuits)
