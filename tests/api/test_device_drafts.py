"""What a device takes along to draft papers by itself: the head of the paper, and a job's letters in words."""

import json
from datetime import date
from io import BytesIO

import pypdf

from dorrik.report.content import Issue
from dorrik.report.press import facts_letter
from dorrik.store.database.engine import new_id


def test_the_head_is_all_that_a_paper_needs_and_names_who_writes(inspector):
    head = inspector.http.get("/api/paper-head").json()
    issue = Issue(number=0, issued_on=date(2026, 12, 1), **head)
    assert issue.letterhead()["name"] and issue.signed_by == inspector.me["name"]


def test_the_words_of_a_jobs_letters_are_those_of_its_papers(supervisor):
    def entry(kind, parent, **values):
        answer = supervisor.http.post(f"/api/register/{kind}", json={"parent_id": parent, "values": values})
        return answer.json()["id"]

    client = entry("client", supervisor.me["firm_id"], name="Una Mole")
    home = entry("property", client, address="5 Signal Steps", occupier_name="Wyn Capstan", must_stay_on="the freezer")
    job = entry("job", home, number=f"J-{new_id()[-8:]}", extent="The whole home")
    letters = supervisor.http.get(f"/api/jobs/{job}/letters").json()
    assert [letter["which"] for letter in letters] == ["confirmation", "power-off"]
    for letter in letters:
        words = json.loads(letter["words"])
        pdf = supervisor.http.get(f"/api/jobs/{job}/{letter['which']}.pdf").content
        assert text_of(facts_letter(words, date.today())) == text_of(pdf)
        assert "the freezer" in text_of(pdf)[0]


def text_of(pdf):
    return [page.extract_text() for page in pypdf.PdfReader(BytesIO(pdf)).pages]
