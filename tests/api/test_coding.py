"""Coding over the wire: what colleagues chose, blind second opinions, agreement, notices, the firm's own catalogue."""

import csv
import io
from io import BytesIO

import pytest
from pypdf import PdfReader
from sqlalchemy import event

from dorrik.core.book.catalogue import entries
from dorrik.store.database.engine import new_id
from dorrik.store.database.tables import ENTITIES
from dorrik.store.inspections.opinions import PAGE
from dorrik.store.people import people
from tests.api.conftest import Inspector
from tests.api.reviewed import authorise, issue


def observed(who, inspection, key="accessory-cracked", code="C3", **more):
    return who.add(
        inspection, "observation", "inspection", inspection, about_entity="inspection", about_id=inspection,
        text=entries()[key].title, catalogue_key=key, code=code, **more,
    )  # fmt: skip


def judgement(who, inspection):
    return who.http.get(f"/api/inspections/{inspection}").json()["judgement"]


def test_what_is_known_and_asked_of_an_observation(inspector):
    inspection = inspector.begin()
    one = observed(inspector, inspection)
    (coding,) = judgement(inspector, inspection)["coding"]
    assert [view["code"] for view in coding["views"]] == ["C3", "C2", "C3"]
    assert (coding["code"], [q["fact"] for q in coding["questions"]]) == ("C3", ["children-or-wet"])
    yes = inspector.change("observation", one, "answers", {"children-or-wet": True})
    (coding,) = inspector.send(inspection, yes)["judgement"]["coding"]
    assert (coding["code"], coding["questions"]) == ("C2", [])
    assert coding["known"] == [
        {"fact": "children-or-wet", "says": coding["known"][0]["says"], "so": True, "answered": True}
    ]
    no = inspector.change("observation", one, "answers", {"children-or-wet": False})
    (coding,) = inspector.send(inspection, no)["judgement"]["coding"]
    assert (coding["code"], coding["questions"]) == ("C3", [])


def test_colleagues_choices_are_of_other_inspections_of_the_firm_alone(inspector, supervisor, stranger):
    here, there = inspector.begin(), supervisor.begin()
    observed(inspector, here)
    for code in ("C2", "C2", "C3"):
        observed(supervisor, there, code=code)
    foreign = stranger.begin()
    observed(stranger, foreign, code="C1")
    ask = f"/api/inspections/{here}/chosen?key=accessory-cracked"
    assert inspector.http.get(ask).json() == {"codes": {"C2": 2, "C3": 1}}
    assert stranger.http.get(ask).status_code == 404


def test_what_waits_comes_a_page_at_a_time_in_two_questions(inspector, supervisor, app):
    """However many inspections it is spread over: what waits with its number, and the photos of that page."""
    asked_at = [f"2026-11-{day:02}T09:00:00Z" for day in range(1, 29)] * 2
    one = [inspector.begin() for _ in range(4)]
    made = [
        observed(inspector, one[n % 4], place=f"Place {n}", opinion_asked_at=at)
        for n, at in enumerate(asked_at[:PAGE + 5])
    ]  # fmt: skip
    sha = "ab" * 32
    with app.state.engine.begin() as connection:
        for n in (0, 1):
            row = {"id": new_id(), "inspection_id": one[n % 4], "about_entity": "observation", "about_id": made[n]}
            connection.execute(ENTITIES["photo"].insert().values(sha256=sha, **row))
    questions: list[str] = []

    def heard(connection, cursor, statement, *_):
        if "opinion_asked_at" in statement or "FROM photo" in statement.replace("\n", " "):
            questions.append(statement)

    event.listen(app.state.engine, "before_cursor_execute", heard)
    try:
        first = supervisor.http.get("/api/second-opinions").json()
        assert len(questions) == 2
    finally:
        event.remove(app.state.engine, "before_cursor_execute", heard)
    rest = supervisor.http.get(f"/api/second-opinions?start={PAGE}").json()
    assert (len(first["items"]), first["count"]) == (PAGE, PAGE + 5) == (30, rest["count"])
    seen = [item["observation_id"] for page in (first, rest) for item in page["items"]]
    assert len(seen) == len(set(seen)) == PAGE + 5 and set(seen) == set(made)
    times = [item["asked_at"] for page in (first, rest) for item in page["items"]]
    assert times == sorted(times)
    assert sum(item["photos"] == [sha] for page in (first, rest) for item in page["items"]) == 2
    # Beyond the last there is nothing, and that is no mistake.
    assert supervisor.http.get("/api/second-opinions?start=99").json()["items"] == []


def test_a_second_opinion_never_shows_the_first_code_and_counts_as_it_was_then(inspector, supervisor):
    inspection = inspector.begin()
    one = observed(inspector, inspection, place="Hall", opinion_asked_at="2026-11-26T09:00:00Z")
    (waiting,) = [w for w in supervisor.http.get("/api/second-opinions").json()["items"] if w["observation_id"] == one]
    assert "C3" not in str({k: v for k, v in waiting.items() if k != "views"}) and "code" not in waiting
    assert inspector.http.get("/api/second-opinions").status_code == 403
    # It is a supervisor's to give.
    opinion = new_id()
    mine = inspector.change("opinion", opinion, "observation", one)
    assert inspector.send(inspection, mine)["results"][0]["state"] == "refused"
    supervisor.add(inspection, "opinion", "observation", one, code="C2", by="Sol Visor")
    assert one not in {w["observation_id"] for w in supervisor.http.get("/api/second-opinions").json()["items"]}
    # What the inspector makes of it afterwards does not make them have agreed.
    inspector.send(inspection, inspector.change("observation", one, "code", "C2"))
    found = supervisor.http.get("/api/agreement").json()
    assert (found["whole"]["pairs"], found["whole"]["share"]) == (1, 0.0)
    assert [(row["name"], row["share"]) for row in found["by_person"]] == [("Ines Pector", 0.0)]
    assert found["by_entry"][0]["name"] == entries()["accessory-cracked"].title


def test_agreement_against_a_published_example(inspector, supervisor):
    """Cohen's kappa by hand: 20 both C2, 15 both C3, 5 C2/C3, 10 C3/C2 of 50: agreement 0.7, by chance 0.5, kappa 0.4;
    the same proportions in ten pairs."""
    inspection = inspector.begin()
    for first, second, times in (("C2", "C2", 4), ("C3", "C3", 3), ("C2", "C3", 1), ("C3", "C2", 2)):
        for _ in range(times):
            one = observed(inspector, inspection, code=first, opinion_asked_at=ASKED)
            supervisor.add(inspection, "opinion", "observation", one, code=second)
    whole = supervisor.http.get("/api/agreement").json()["whole"]
    assert whole["pairs"] == 10
    assert whole["share"] == pytest.approx(0.7)
    assert whole["kappa"] == pytest.approx(0.4)


ASKED = "2026-11-26T09:00:00Z"


def agreed(supervisor):
    """Of how many pairs people agreed in which share."""
    whole = supervisor.http.get("/api/agreement").json()["whole"]
    return (whole["pairs"], whole["share"]) if whole else (0, None)


def test_an_opinion_counts_as_it_was_first_given(inspector, supervisor):
    """What a supervisor makes of it once the first code is to be seen is kept, and counts for nothing."""
    inspection = inspector.begin()
    one = observed(inspector, inspection, code="C3", opinion_asked_at=ASKED)
    opinion = supervisor.add(inspection, "opinion", "observation", one, code="C2")
    assert agreed(supervisor) == (1, 0.0)
    supervisor.send(inspection, supervisor.change("opinion", opinion, "code", "C3"))
    assert supervisor.values(inspection, opinion)["code"] == "C3"
    assert agreed(supervisor) == (1, 0.0)
    # Nor does taking it out and giving another.
    supervisor.send(inspection, supervisor.change("opinion", opinion, "removed", True))
    supervisor.add(inspection, "opinion", "observation", one, code="C3")
    assert agreed(supervisor) == (1, 0.0)


def test_nobody_gives_the_second_opinion_on_a_code_of_their_own(inspector, supervisor):
    inspection = supervisor.begin()
    one = observed(supervisor, inspection, code="C2", opinion_asked_at=ASKED)
    supervisor.add(inspection, "opinion", "observation", one, code="C2")
    # Nor on one that somebody else changed since.
    other = observed(supervisor, inspection, code="C2")
    asked = inspector.change("observation", other, "opinion_asked_at", ASKED)
    inspector.send(inspection, inspector.change("observation", other, "code", "C3"), asked)
    supervisor.add(inspection, "opinion", "observation", other, code="C3")
    assert agreed(supervisor)[0] == 0


def test_an_opinion_that_nobody_asked_for_was_not_blind(inspector, supervisor):
    inspection = inspector.begin()
    one = observed(inspector, inspection, code="C2")
    supervisor.add(inspection, "opinion", "observation", one, code="C2")
    inspector.send(inspection, inspector.change("observation", one, "opinion_asked_at", ASKED))
    withdrawn = observed(inspector, inspection, code="C2", opinion_asked_at=ASKED)
    inspector.send(inspection, inspector.change("observation", withdrawn, "opinion_asked_at", None))
    supervisor.add(inspection, "opinion", "observation", withdrawn, code="C2")
    assert agreed(supervisor)[0] == 0


def test_of_two_opinions_the_one_given_blind_counts(inspector, supervisor, app, firm):
    """Once one is given, the first code is to be seen by the next."""
    with app.state.engine.begin() as connection:
        people.add_person(
            connection, firm.id, "Second Visor", second := f"second-{firm.supervisor_email}", "supervisor"
        )
    inspection = inspector.begin()
    one = observed(inspector, inspection, code="C3", opinion_asked_at=ASKED)
    supervisor.add(inspection, "opinion", "observation", one, code="C2")
    Inspector(app, second).add(inspection, "opinion", "observation", one, code="C3")
    assert agreed(supervisor) == (1, 0.0)


def test_after_the_report_was_issued_no_opinion_is_blind(inspector, supervisor, ready):
    inspection = ready()
    one = observed(inspector, inspection, code="C3", place="Hall")
    reason = inspector.change("inspection", inspection, "outcome_reason", "One question is left to the client.")
    inspector.send(inspection, reason)
    answer = issue(inspector, supervisor, inspection)
    assert answer.status_code in (200, 201), answer.text
    inspector.send(inspection, inspector.change("observation", one, "opinion_asked_at", ASKED))
    supervisor.add(inspection, "opinion", "observation", one, code="C3")
    assert agreed(supervisor)[0] == 0


def test_a_refused_suggestion_counts_only_with_its_reason(inspector):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    low = inspector.change("circuit", circuit, "insulation_lne_mohm", "0.4")
    before = inspector.send(inspection, low)["judgement"]
    (suggestion,) = [s for s in before["suggested"] if s["key"] == "insulation-below-minimum"]
    assert "1 suggestion not answered" in before["outcome_says"]
    about = {"about_id": suggestion["entity_id"], "catalogue_key": suggestion["key"]}
    refusal = inspector.add(inspection, "declined", "inspection", inspection, **about)
    assert "1 suggestion not answered" in judgement(inspector, inspection)["outcome_says"]
    why = inspector.change("declined", refusal, "reason", "A neon was left in")
    after = inspector.send(inspection, why)["judgement"]
    assert next(s for s in after["suggested"] if s["key"] == suggestion["key"])["declined"] == "A neon was left in"
    assert "suggestion" not in after["outcome_says"]


def test_a_notice_of_danger_says_what_was_told_and_is_of_c1_alone(inspector):
    inspection = inspector.begin()
    mild = observed(inspector, inspection)
    path = f"/api/inspections/{inspection}/observations"
    assert inspector.http.get(f"{path}/{mild}/notice.pdf").status_code == 409
    assert inspector.http.get(f"{path}/{new_id()}/notice.pdf").status_code == 404
    one = observed(
        inspector, inspection, key="live-part-reachable", code="C1", told_to="Hester Vane",
        told_at="2026-11-26T10:42:00Z", made_safe="made safe", made_safe_how="Circuit locked off",
        consent_of="Hester Vane",
    )  # fmt: skip
    pdf = inspector.http.get(f"{path}/{one}/notice.pdf")
    text = PdfReader(BytesIO(pdf.content)).pages[0].extract_text()
    for said in ("Hester Vane", "10:42", "Circuit locked off", entries()["live-part-reachable"].plain):
        assert said in text
    refused = inspector.send(inspection, inspector.change("observation", one, "made_safe", "refused"))
    assert refused["results"][0]["state"] == "kept"
    text = PdfReader(BytesIO(inspector.http.get(f"{path}/{one}/notice.pdf").content)).pages[0].extract_text()
    assert "still there" in text
    wrong = inspector.http.post(f"{path}/{one}/notice", json={"to": "nobody"})
    assert wrong.status_code == 422 and wrong.json()["fields"][0]["field"] == "to"


def keep(who, key, **says):
    return who.http.put(f"/api/firm/catalogue/{key}", json=says)


def test_an_own_entry_is_for_inspections_begun_from_then_on(inspector, supervisor):
    before = inspector.begin()
    assert keep(inspector, "own-ladder", title="Ladder on a cable", code="C2").status_code == 403
    assert keep(supervisor, "own-ladder", title="Ladder on a cable", code="C2", words="steps").status_code == 200
    assert keep(supervisor, "accessory-cracked", code="C2", why="Ours are within reach of children.").status_code == 200
    after = inspector.begin()
    one = observed(inspector, after)
    (coding,) = judgement(inspector, after)["coding"]
    assert coding["views"][0] == {
        "school": "mainstream", "code": "C2", "reason": "Ours are within reach of children.",
    }  # fmt: skip
    own = {entry["key"]: entry for entry in judgement(inspector, after)["own_entries"]}
    assert (own["own-ladder"]["title"], own["own-ladder"]["strict"]) == ("Ladder on a cable", "C2")
    # What was begun before keeps what it was begun with, and so does this one after a change.
    observed(inspector, before)
    assert judgement(inspector, before)["coding"][0]["views"][0]["code"] == "C3"
    assert judgement(inspector, before)["own_entries"] == []
    assert supervisor.http.delete("/api/firm/catalogue/accessory-cracked").status_code == 200
    assert judgement(inspector, after)["coding"][0]["views"][0]["code"] == "C2"
    # An inspector takes over what the firm has now, and nothing of their own.
    made_up = [{"key": "own-mine", "title": "Mine", "code": "note"}]
    refused = inspector.send(after, inspector.change("inspection", after, "catalogue", made_up))
    assert refused["results"][0]["state"] == "refused"
    ours = [{"key": "own-ladder", "title": "Ladder on a cable", "code": "C2", "words": "steps"}]
    assert (
        inspector.send(after, inspector.change("inspection", after, "catalogue", ours))["results"][0]["state"] == "kept"
    )
    assert one


@pytest.mark.parametrize(
    ("key", "says", "field"),
    [
        ("own-x", {"code": "C2"}, "title"),
        ("own-x", {"title": "X"}, "code"),
        ("own-x", {"title": "X", "code": "C9"}, "code"),
        ("Own X", {"title": "X", "code": "C2"}, "key"),
        ("own-x", {"title": "X", "code": "C2", "plain": "y" * 301}, "plain"),
    ],
)
def test_what_is_wrong_with_an_entry_is_told_at_its_field(supervisor, key, says, field):
    answer = keep(supervisor, key, **says)
    assert answer.status_code == 422
    assert [field["field"].split(".")[-1] for field in answer.json()["fields"]] == [field]


def table_of(text):
    return list(csv.DictReader(io.StringIO(text.lstrip("\ufeff"))))


def test_the_catalogue_goes_out_as_a_table_and_comes_back(supervisor):
    keep(supervisor, "own-sum", title="=SUM(A1) on a label", code="C3", words="formula")
    out = supervisor.http.get("/api/firm/catalogue/own.csv").text
    rows = table_of(out)
    assert len(rows) == len(entries()) + 1
    (own,) = [row for row in rows if row["key"] == "own-sum"]
    # Nothing in it runs in a spreadsheet.
    assert own["title"] == "'=SUM(A1) on a label"

    def take(text):
        return supervisor.http.post("/api/firm/catalogue/table?name=c.csv", content=text.encode())

    # As it is it says nothing new.
    assert take(out).json()["changed"] == 0
    changed = "key,title,code,why\naccessory-cracked,,C2,Ours\n,Handrail as earth,C1,\n"
    answer = take(changed).json()
    assert (answer["entries"], answer["changed"], answer["wrong"]) == (2, 2, [])
    own = {one["key"]: one["says"] for one in answer["catalogue"]["own"]}
    assert own["accessory-cracked"] == {"code": "C2", "why": "Ours"}
    assert own["own-handrail-as-earth"] == {"title": "Handrail as earth", "code": "C1"}
    # With one line wrong nothing is taken, and it is named.
    wrong = take("title,code\nFine,C2\nNot fine,C7\n").json()
    assert wrong["changed"] == 0 and [one["line"] for one in wrong["wrong"]] == [3]
    assert "own-fine" not in {one["key"] for one in wrong["catalogue"]["own"]}
    assert take("a,b\n1,2\n").json()["wrong"][0]["line"] == 1


HIDDEN = ("because the plate is C1-grave", "Harbour Mistress", "2026-11-26T10:11:12Z", "with the consent of nobody")


def waiting_for_sol(inspector):
    """An observation coded C1 by Ines, with all that tells it; only after that the second opinion is asked for."""
    inspection = inspector.begin()
    one = observed(
        inspector, inspection, key="live-part-reachable", code="C1", code_reason=HIDDEN[0], told_to=HIDDEN[1],
        told_at=HIDDEN[2], consent_of=HIDDEN[3], made_safe="made safe",
    )  # fmt: skip
    inspector.send(inspection, inspector.change("observation", one, "code", "C2"))
    inspector.send(inspection, inspector.change("observation", one, "code", "C1"))
    inspector.send(inspection, inspector.change("observation", one, "opinion_asked_at", "2026-11-26T11:00:00Z"))
    return inspection, one


def of_observation(answer, one):
    return next(e["values"] for e in answer["entities"] if e["id"] == one)


def routes(inspection, one):
    base = f"/api/inspections/{inspection}"
    history = f"{base}/history?entity_id={one}"
    return base, f"{base}/changes?since=0", history, f"{history}&field=code", f"{base}/preview"


def test_who_is_asked_for_a_second_opinion_gets_the_first_code_on_no_route(inspector, supervisor):
    inspection, one = waiting_for_sol(inspector)
    for route in routes(inspection, one):
        told = supervisor.http.get(route).text
        assert not any(words in told for words in HIDDEN), route
    whole = supervisor.http.get(f"/api/inspections/{inspection}").json()
    assert whole["judgement"]["blind"] == [one]
    assert not {"code", "code_reason", "told_at", "made_safe"} & {k for k, v in of_observation(whole, one).items() if v}
    assert whole["judgement"]["outcome"] == "open" and whole["judgement"]["outcome_because"] == []
    entries_ = supervisor.http.get(f"/api/inspections/{inspection}/changes?since=0").json()["entries"]
    codes = [e for e in entries_ if (e["entity_id"], e["field"]) == (one, "code")]
    assert len(codes) == 3 and all(e["value"] is None and e["before"] is None for e in codes)
    # Whoever gave the code sees it.
    assert of_observation(inspector.http.get(f"/api/inspections/{inspection}").json(), one)["code"] == "C1"


def test_a_push_of_who_is_asked_answers_without_the_code_too(inspector, supervisor):
    inspection, one = waiting_for_sol(inspector)
    answer = supervisor.send(inspection, supervisor.change("inspection", inspection, "ze_ohm", "0.2"))
    assert answer["change"] is None and answer["judgement"]["blind"] == [one]
    assert answer["judgement"]["outcome_because"] == []
    assert not any(words in str(answer) for words in HIDDEN)


def test_who_is_blind_signs_no_report_and_prints_no_notice(inspector, supervisor):
    inspection, one = waiting_for_sol(inspector)
    refused = authorise(supervisor, inspection)
    assert (refused.status_code, refused.json()["code"]) == (409, "blind")
    notice = supervisor.http.get(f"/api/inspections/{inspection}/observations/{one}/notice.pdf")
    assert (notice.status_code, notice.json()["code"]) == (409, "blind")


def test_an_export_leaves_it_out_and_an_opinion_opens_it(inspector, supervisor):
    inspection, one = waiting_for_sol(inspector)
    supervisor.add(inspection, "opinion", "observation", one, code="C2", by="Sol Visor")
    whole = supervisor.http.get(f"/api/inspections/{inspection}").json()
    assert whole["judgement"]["blind"] == []
    assert of_observation(whole, one)["code"] == "C1" and of_observation(whole, one)["code_reason"] == HIDDEN[0]
    told = supervisor.http.get(f"/api/inspections/{inspection}/history?entity_id={one}&field=code").text
    assert "C1" in told


def test_what_waits_for_an_opinion_is_no_example_for_others(inspector, supervisor):
    waiting_for_sol(inspector)
    here = supervisor.begin()
    assert supervisor.http.get(f"/api/inspections/{here}/chosen?key=live-part-reachable").json() == {"codes": {}}
