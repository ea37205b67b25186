"""Issuing: what must be there, what is frozen, how a correction follows."""

import hashlib
import io
import json

import pytest
from pypdf import PdfReader

from dorrik.core.inspection import document
from tests.api import reviewed


@pytest.fixture
def issue(inspector, supervisor):
    return lambda inspection, **more: reviewed.issue(inspector, supervisor, inspection, **more)


def test_an_unfinished_inspection_is_not_issued_and_says_what_is_missing(inspector, issue):
    inspection = inspector.begin()
    answer = issue(inspection)
    assert answer.status_code == 422
    assert {p["stage"] for p in answer.json()["points"]} == {"brief", "boards", "report"}
    assert inspector.http.get(f"/api/inspections/{inspection}/reports").json() == []


def test_issue_freezes_document_and_pdf(inspector, ready, issue):
    inspection = ready()
    issued = issue(inspection).json()
    assert (issued["number"], issued["outcome"], issued["replaces"]) == (1, "satisfactory", None)
    pdf = inspector.http.get(f"/api/reports/{issued['id']}.pdf")
    assert pdf.headers["content-type"] == "application/pdf"
    assert hashlib.sha256(pdf.content).hexdigest() == issued["sha256"]
    inspector.send(inspection, inspector.change("inspection", inspection, "client_name", "Somebody Else"))
    assert inspector.http.get(f"/api/reports/{issued['id']}.pdf").content == pdf.content


def test_the_pdf_carries_words_and_data(inspector, ready, issue):
    inspection = ready()
    issued = issue(inspection).json()
    reader = PdfReader(io.BytesIO(inspector.http.get(f"/api/reports/{issued['id']}.pdf").content))
    text = "\n".join(page.extract_text() for page in reader.pages)
    for words in (
        "1 Lookout Row",
        "satisfactory",
        "Harbour Trust",
        "BS 7671:2018",
        "Ines Pector",
        "Cooker",
        "none differ",
    ):
        assert words in text
    attached = json.loads(reader.attachments["inspection.json"][0])
    assert attached["issue"]["number"] == 1
    again = document.parse({k: attached[k] for k in ("format", "version", "inspection")})
    assert again.boards[0].circuits[0].designation == "Cooker"
    catalog = reader.trailer["/Root"]
    assert catalog["/MarkInfo"]["/Marked"]
    assert "/StructTreeRoot" in catalog
    metadata = catalog["/Metadata"].get_data().decode()
    assert "pdfaid:part>3" in metadata
    assert "pdfuaid:part>1" in metadata


def test_a_correction_says_what_it_replaces(inspector, ready, issue):
    inspection = ready()
    first = issue(inspection).json()
    inspector.send(inspection, inspector.change("inspection", inspection, "client_name", "Harbour Office"))
    assert issue(inspection).status_code == 422
    second = issue(inspection, reason="The client's name was wrong.").json()
    assert (second["number"], second["replaces"]) == (2, 1)
    assert second["sha256"] != first["sha256"]
    pdf = inspector.http.get(f"/api/reports/{second['id']}.pdf").content
    assert "replaces issue 1" in PdfReader(io.BytesIO(pdf)).pages[0].extract_text()
    assert [r["number"] for r in inspector.http.get(f"/api/inspections/{inspection}/reports").json()] == [1, 2]


def test_what_changed_since_it_was_looked_at_is_not_issued(inspector, supervisor, ready):
    inspection = ready()
    seen = reviewed.seq_of(inspector, inspection)
    assert reviewed.submit(inspector, inspection).status_code == 200
    supervisor.send(inspection, supervisor.change("inspection", inspection, "condition", "Worn"))
    assert reviewed.submit(inspector, inspection, seen).status_code == 409
    assert reviewed.authorise(supervisor, inspection, seen).status_code == 409


def test_another_firm_cannot_fetch_the_pdf(stranger, ready, issue):
    issued = issue(ready()).json()
    assert stranger.http.get(f"/api/reports/{issued['id']}.pdf").status_code == 404


def test_the_preview_shows_pages_and_points(inspector, ready):
    inspection = ready()
    preview = inspector.http.get(f"/api/inspections/{inspection}/preview").json()
    assert all(p["level"] == "look" for p in preview["points"])
    pages = f"/api/inspections/{inspection}/drafts/{preview['draft']}"
    for number in range(1, len(preview["pages"]) + 1):
        page = inspector.http.get(f"{pages}/{number}")
        assert page.headers["content-type"] == "image/svg+xml" and page.text.startswith("<svg")
    assert inspector.http.get(f"{pages}/{len(preview['pages']) + 1}").status_code == 404
    assert inspector.http.get(f"{pages}/0").status_code == 422
    # Unpacked for a program that unpacks nothing.
    assert inspector.http.get(f"{pages}/1", headers={"Accept-Encoding": "identity"}).content.startswith(b"<svg")


def test_a_draft_is_seen_by_nobody_but_whom_it_was_made_for(inspector, supervisor, stranger, ready):
    """Somebody else may have a second opinion to give, and sees less."""
    inspection = ready()
    draft = inspector.http.get(f"/api/inspections/{inspection}/preview").json()["draft"]
    for other in (supervisor, stranger):
        assert other.http.get(f"/api/inspections/{inspection}/drafts/{draft}/1").status_code == 404


def test_a_draft_stays_while_two_newer_ones_are_not_made(inspector, ready):
    inspection = ready()
    drafts = [inspector.http.get(f"/api/inspections/{inspection}/preview").json()["draft"] for _ in range(3)]
    states = [inspector.http.get(f"/api/inspections/{inspection}/drafts/{draft}/1").status_code for draft in drafts]
    assert states == [404, 200, 200]


def test_home_moves_an_issued_one_to_its_due_date(inspector, ready, issue):
    inspection = ready()
    issue(inspection)
    home = inspector.http.get("/api/home").json()
    assert home["in_hand"] == []
    (line,) = home["issued"]
    assert (line["issued"], line["outcome"], line["next_due"]) == (1, "satisfactory", "2031-11-03")


def test_the_operator_letter_comes_only_where_ze_gives_a_reason(inspector, stranger):
    inspection = inspector.begin()
    path = f"/api/inspections/{inspection}/operator-letter.pdf"
    assert inspector.http.get(path).status_code == 409
    fields = {"earthing": "TN-S", "ze_ohm": "1.20", "reference": "K/7 ü", "property_address": "1 Test Quay"}
    inspector.send(inspection, *(inspector.change("inspection", inspection, f, v) for f, v in fields.items()))
    answer = inspector.http.get(path)
    assert (answer.status_code, answer.content[:5]) == (200, b"%PDF-")
    assert "K-7%20%C3%BC" in answer.headers["content-disposition"]
    assert stranger.http.get(path).status_code == 404
