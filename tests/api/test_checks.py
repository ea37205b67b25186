"""Is a paper genuine? Asked by anybody who holds it, by its number and check code."""

import io
import re

import pytest
from pypdf import PdfReader

from dorrik.store.people import attempts
from tests.api.reviewed import issue


def ask(who, reference, code):
    return who.post("/api/check", json={"reference": reference, "code": code})


@pytest.fixture
def paper(inspector, supervisor, ready):
    """An issued report: its inspection, its reference and the code printed on it."""
    inspection = ready()
    issued = issue(inspector, supervisor, inspection)
    assert issued.status_code == 201, issued.text
    return inspection, *printed(supervisor, issued.json()["id"])


def printed(who, report_id):
    (first, *_) = PdfReader(io.BytesIO(who.http.get(f"/api/reports/{report_id}.pdf").content)).pages
    words = first.extract_text()
    (code,) = re.findall(r"[0-9A-F]{4}-[0-9A-F]{4}-[0-9A-F]{4}", words)
    (reference,) = re.findall(r"(T-[0-9a-f]{8}) · issue", words)
    assert "/check" in words
    return reference, code


def test_who_holds_the_paper_is_told_what_it_says(place, paper, inspector):
    _, reference, code = paper
    found = ask(place(), reference, code).json()
    assert (found["reference"], found["number"], found["outcome"]) == (reference, 1, "satisfactory")
    assert (found["firm"], found["replaced_by"]) == (inspector.me["firm_name"], None)
    # As somebody types it from paper.
    assert ask(place(), f" {reference} ", code.lower().replace("-", " ")).status_code == 200
    # Nothing more is told than the paper says: no client, no address.
    assert "Harbour Trust" not in str(found) and "Lookout" not in str(found)


def test_one_that_was_replaced_says_by_what(place, paper, inspector, supervisor):
    inspection, reference, code = paper
    inspector.send(inspection, inspector.change("inspection", inspection, "client_name", "Harbour Office"))
    second = issue(inspector, supervisor, inspection, reason="The client's name.").json()
    assert ask(place(), reference, code).json()["replaced_by"] == 2
    reference, code = printed(supervisor, second["id"])
    assert ask(place(), reference, code).json()["replaced_by"] is None


def test_a_code_of_another_paper_or_of_none_is_not_known(place, paper, inspector, supervisor, ready):
    _, reference, code = paper
    other = ready()
    issue(inspector, supervisor, other)
    theirs = inspector.http.get(f"/api/inspections/{other}").json()
    name = next(e["values"]["reference"] for e in theirs["entities"] if e["kind"] == "inspection")
    stranger = place()
    for reference_given, code_given in ((name, code), (reference, "0000-0000-0000"), (reference, ""), ("", code)):
        assert ask(stranger, reference_given, code_given).status_code in (404, 422)


def test_guessing_slows_down_and_whoever_holds_the_paper_elsewhere_does_not_wait(place, paper):
    _, reference, code = paper
    guesser = place()
    answers = [ask(guesser, reference, f"{n:012X}").status_code for n in range(attempts.CHECK.free + 2)]
    assert answers[-1] == 429 and set(answers[: attempts.CHECK.free]) == {404}
    assert ask(guesser, reference, code).status_code == 429
    assert ask(place(), reference, code).status_code == 200


def test_what_was_issued_before_codes_were_printed_is_known_by_the_same_rule(engine, paper):
    """The migration works it out in the database; the application in Python."""
    from sqlalchemy import text

    from dorrik.store.reports.reports import check_code

    _, _, code = paper
    with engine.connect() as connection:
        row = connection.execute(
            text(
                "SELECT document, UPPER(CONCAT_WS('-', SUBSTR(SHA2(document, 256), 1, 4), SUBSTR(SHA2(document, 256), "
                "5, 4), SUBSTR(SHA2(document, 256), 9, 4))) AS code FROM issued_report WHERE check_code = :code"
            ),
            {"code": code},
        ).one()
    assert check_code(row.document) == row.code == code
