"""A report on its way: signed and submitted, read, asked about, sent back, authorised; what is changed reopens it."""

import io

import pytest
from pypdf import PdfReader

from dorrik.office import review
from dorrik.report.issue import MovedOn
from dorrik.store.database.engine import new_id, now
from dorrik.store.inspections import inspections
from dorrik.store.people.people import Person
from tests.api.reviewed import authorise, seq_of, signature, submit


def state(who, inspection):
    return who.http.get(f"/api/inspections/{inspection}/review").json()


def send_back(who, inspection, words="The extent is missing the shed."):
    return who.http.post(f"/api/inspections/{inspection}/review/send-back", json={"words": words})


def looked(who, inspection):
    body = {"seq": seq_of(who, inspection)}
    return who.http.post(f"/api/inspections/{inspection}/review/looked", json=body).json()


def circuit_of(who, inspection):
    entities = who.http.get(f"/api/inspections/{inspection}").json()["entities"]
    return next(entity["id"] for entity in entities if entity["kind"] == "circuit")


def test_an_inspector_submits_and_a_supervisor_authorises(inspector, supervisor, office, ready):
    inspection = ready()
    assert authorise(inspector, inspection).status_code == 403
    assert submit(office, inspection).status_code == 403
    # Nobody signed for it yet: a supervisor alone issues nothing.
    refused = authorise(supervisor, inspection)
    assert refused.status_code == 422 and "signed" in refused.json()["message"]
    assert submit(inspector, inspection).json()["in_review"]
    assert supervisor.http.get(f"/api/inspections/{inspection}").json()["state"] == "in review"
    issued = authorise(supervisor, inspection)
    assert issued.status_code == 201, issued.text
    pdf = supervisor.http.get(f"/api/reports/{issued.json()['id']}.pdf").content
    words = " ".join("\n".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages).split())
    assert "reported by Ines Pector (inspector)" in words and "Authorised by Sol Visor (supervisor)" in words
    assert supervisor.http.get(f"/api/inspections/{inspection}").json()["state"] == "issued"


def test_one_person_does_both_and_the_paper_says_so(supervisor, inspector, ready):
    inspection = ready()
    assert submit(supervisor, inspection).status_code == 200
    issued = authorise(supervisor, inspection).json()
    pdf = supervisor.http.get(f"/api/reports/{issued['id']}.pdf").content
    words = " ".join("\n".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages).split())
    assert "reported by Sol Visor" in words and "Authorised by the same person Sol Visor" in words


def signed_away(who, inspection, seq, changes, at="2026-11-20T14:05:00Z"):
    """Signed on a device that was away, at that state and with what waited there."""
    body = {"seen_seq": seq, "signature": signature(who), "with_changes": changes, "signed_at": at}
    return who.http.post(f"/api/inspections/{inspection}/review/submit", json=body)


def test_what_was_signed_for_away_arrives_first_and_the_paper_names_the_moment(inspector, supervisor, ready):
    inspection = ready()
    seq = seq_of(inspector, inspection)
    change = inspector.change("circuit", circuit_of(inspector, inspection), "zs_ohm", "0.32")
    inspector.send(inspection, change)
    done = signed_away(inspector, inspection, seq, [change["id"]]).json()
    assert done["in_review"] and done["steps"][-1]["signed_at"] == "2026-11-20T14:05:00Z"
    # Sent again after a lost answer it is the same.
    assert len(signed_away(inspector, inspection, seq, [change["id"]]).json()["steps"]) == 1
    issued = authorise(supervisor, inspection).json()
    pdf = supervisor.http.get(f"/api/reports/{issued['id']}.pdf").content
    assert "20 November 2026, 14:05" in " ".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages)


def test_a_signature_given_away_holds_for_nothing_that_came_beside_it(inspector, supervisor, ready):
    inspection = ready()
    seq = seq_of(inspector, inspection)
    circuit = circuit_of(inspector, inspection)
    mine, theirs = inspector.change("circuit", circuit, "zs_ohm", "0.32"), None
    inspector.send(inspection, mine)
    theirs = supervisor.change("circuit", circuit, "r1_r2_ohm", "0.13")
    supervisor.send(inspection, theirs)
    assert signed_away(inspector, inspection, seq, [mine["id"]]).status_code == 409
    # Nor where it names what somebody else wrote, as if it had waited there, beside what never arrived.
    assert signed_away(inspector, inspection, seq, [mine["id"], theirs["id"], new_id()]).status_code == 409


def test_a_signature_given_away_does_not_hold_where_an_entry_was_refused(inspector, ready):
    inspection = ready()
    seq = seq_of(inspector, inspection)
    refused = inspector.change("circuit", circuit_of(inspector, inspection), "zs_ohm", "0.3.2")
    inspector.http.post(f"/api/inspections/{inspection}/changes", json={"changes": [refused]})
    kept = inspector.change("circuit", circuit_of(inspector, inspection), "zs_ohm", "0.33")
    inspector.send(inspection, kept)
    assert signed_away(inspector, inspection, seq, [refused["id"], kept["id"]]).status_code == 409
    assert signed_away(inspector, inspection, seq, [kept["id"]]).status_code == 200


def test_a_clock_that_is_ahead_signs_no_later_than_now(inspector, ready):
    inspection = ready()
    seq = seq_of(inspector, inspection)
    done = signed_away(inspector, inspection, seq, [], "2099-01-01T00:00:00Z").json()
    assert done["steps"][-1]["signed_at"] <= f"{now().replace(microsecond=0).isoformat()}Z"


def test_a_reading_changed_after_submitting_reopens_it_and_is_told(inspector, supervisor, ready):
    inspection = ready()
    submit(inspector, inspection)
    inspector.send(inspection, inspector.change("circuit", circuit_of(inspector, inspection), "zs_ohm", "0.44"))
    for who in (inspector, supervisor):
        found = state(who, inspection)
        assert not found["in_review"]
        (told,) = found["reopened"]
        assert (told["label"], told["before"], told["now"], told["by"]) == ("Zs", "0.31", "0.44", "Ines Pector")
        assert told["stage"] == "live" and "Cooker" in told["where"]
    assert supervisor.http.get(f"/api/inspections/{inspection}").json()["state"] == "in hand"
    assert authorise(supervisor, inspection).status_code == 422
    submit(inspector, inspection)
    assert authorise(supervisor, inspection).status_code == 201


def test_what_stands_again_as_it_stood_is_not_told_but_signed_again(inspector, supervisor, ready):
    """Two readings, the second as it was: nothing differs. The signature stands for what was there without a break."""
    inspection = ready()
    submit(inspector, inspection)
    circuit = circuit_of(inspector, inspection)
    for reading in ("0.44", "0.31"):
        inspector.send(inspection, inspector.change("circuit", circuit, "zs_ohm", reading))
    found = state(supervisor, inspection)
    assert (found["reopened"], found["in_review"]) == ([], False)


def test_a_question_at_a_field_is_answered_before_it_is_issued_and_reopens_nothing(inspector, supervisor, ready):
    inspection = ready()
    circuit = circuit_of(inspector, inspection)
    submit(inspector, inspection)
    asked = {"about_entity": "circuit", "about_id": circuit, "field": "zs_ohm", "what": "Measured where?"}
    question = supervisor.add(
        inspection, "come_back", "inspection", inspection, asked_by="Sol Visor", place="Cooker", **asked
    )
    assert state(supervisor, inspection)["in_review"]
    refused = authorise(supervisor, inspection)
    assert refused.status_code == 422 and "Sol Visor asks" in refused.json()["message"]
    answer = [("answer", "At the cooker switch."), ("done_at", "2026-11-03T16:00:00Z")]
    inspector.send(inspection, *(inspector.change("come_back", question, f, v) for f, v in answer))
    assert state(supervisor, inspection)["in_review"]
    assert authorise(supervisor, inspection).status_code == 201


def test_nobody_else_asks_as_a_reviewer(inspector, ready):
    inspection = ready()
    mine = inspector.add(inspection, "come_back", "inspection", inspection, what="x", place="Hall")
    (result,) = inspector.send(inspection, inspector.change("come_back", mine, "asked_by", "Sol Visor"))["results"]
    assert result["state"] == "refused"


def test_it_is_sent_back_with_words_and_read_again_from_where_one_was(inspector, supervisor, ready):
    inspection = ready()
    assert send_back(supervisor, inspection).status_code == 409
    submit(inspector, inspection)
    assert state(supervisor, inspection)["since_look"] is None
    assert looked(supervisor, inspection)["since_look"] == []
    assert send_back(inspector, inspection).status_code == 403
    back = send_back(supervisor, inspection).json()
    assert (back["in_review"], back["steps"][-1]["words"]) == (False, "The extent is missing the shed.")
    inspector.send(inspection, inspector.change("inspection", inspection, "extent", "All of it, and the shed"))
    submit(inspector, inspection)
    (told,) = state(supervisor, inspection)["since_look"]
    assert (told["label"], told["before"], told["now"]) == ("Extent", "All of it", "All of it, and the shed")
    assert (told["where"], told["stage"]) == ("Brief", "brief")
    assert state(inspector, inspection)["since_look"] is None
    kinds = [step["kind"] for step in state(inspector, inspection)["steps"]]
    assert kinds == ["submitted", "sent back", "submitted"]


def test_one_that_is_sent_back_while_it_is_typeset_is_not_issued(engine, inspector, supervisor, ready):
    inspection = ready()
    submit(inspector, inspection)
    me = Person(**{name: supervisor.me[name] for name in ("id", "firm_id", "firm_name", "name", "email", "role")})
    with engine.begin() as connection:
        kept = inspections.load(connection, inspection, me.firm_id)
        assert review.signatures(connection, kept, me, {"typed": me.name})
    send_back(supervisor, inspection)
    with engine.begin() as connection, pytest.raises(MovedOn):
        review.authorised(connection, kept, me, {"typed": me.name})
    assert [step["kind"] for step in state(supervisor, inspection)["steps"]] == ["submitted", "sent back"]


def test_it_waits_on_the_home_screen_for_whoever_is_to_act(inspector, supervisor, office, ready):
    inspection = ready()

    def waits(who, group):
        return [one["id"] for one in who.http.get("/api/agenda").json()[group]]

    submit(inspector, inspection)
    assert (waits(supervisor, "to_review"), waits(inspector, "to_review")) == ([inspection], [])
    send_back(supervisor, inspection)
    assert waits(supervisor, "to_review") == []
    assert (waits(inspector, "sent_back"), waits(office, "sent_back")) == ([inspection], [])
    submit(inspector, inspection)
    authorise(supervisor, inspection)
    assert [waits(supervisor, group) for group in ("to_review", "sent_back", "ready")] == [[], [], []]


def test_who_is_to_judge_blind_is_not_told_a_code_by_its_history(inspector, supervisor, ready):
    inspection = ready()
    looked(supervisor, inspection)
    seen = {"text": "Cracked plate", "code": "C2", "opinion_asked_at": "2026-11-03T12:00:00Z"}
    inspector.add(inspection, "observation", "inspection", inspection, **seen)
    told = state(supervisor, inspection)["since_look"]
    assert told and not any(one["field"] == "code" or "C2" in (one["now"], one["before"]) for one in told)


@pytest.mark.parametrize(
    "given",
    [
        {},
        {"typed": "Somebody Else"},
        {"typed": "Ines Pector", "strokes": [[[1, 1]] * 9]},
        {"strokes": []},
        {"strokes": [[[1, 1], [2, 2]]]},
        {"strokes": [[[1, 301]] * 9]},
        {"strokes": [[[0, 0]] * 2000] * 4},
    ],
)
def test_what_is_no_signature_is_refused_at_its_field(inspector, ready, given):
    inspection = ready()
    body = {"seen_seq": seq_of(inspector, inspection), "signature": given}
    answer = inspector.http.post(f"/api/inspections/{inspection}/review/submit", json=body)
    assert answer.status_code == 422
    assert answer.json()["fields"][0]["field"].startswith("signature")
    assert state(inspector, inspection)["steps"] == []


def test_a_signature_drawn_by_hand_is_printed(inspector, supervisor, ready):
    inspection = ready()
    strokes = [[[100 + 10 * n, 150 + (n % 5) * 20] for n in range(40)]]
    body = {"seen_seq": seq_of(inspector, inspection), "signature": {"strokes": strokes}}
    made = inspector.http.post(f"/api/inspections/{inspection}/review/submit", json=body).json()
    assert made["steps"][0]["signed"] == "drawn"
    issued = authorise(supervisor, inspection).json()
    pdf = supervisor.http.get(f"/api/reports/{issued['id']}.pdf").content
    words = "\n".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages)
    # One is typed, the other is drawn.
    assert words.count("Signed by typing the name") == 1


def test_an_unfinished_inspection_is_not_submitted(inspector):
    answer = submit(inspector, inspector.begin())
    assert answer.status_code == 422 and answer.json()["points"]
    assert signature(inspector) == {"typed": "Ines Pector"}


def test_what_was_changed_after_its_signature_waits_for_whoever_signs_and_for_no_reviewer(inspector, supervisor, ready):
    inspection = ready()
    submit(inspector, inspection)

    def waiting(who, part):
        return {one["id"]: one["reason"] for one in who.http.get("/api/agenda").json()[part]}

    assert inspection in waiting(supervisor, "to_review") and inspection not in waiting(inspector, "sent_back")
    inspector.send(inspection, inspector.change("inspection", inspection, "extent", "All but the shed"))
    assert inspection not in waiting(supervisor, "to_review")
    assert "sign again" in waiting(inspector, "sent_back")[inspection]
    submit(inspector, inspection)
    assert inspection in waiting(supervisor, "to_review") and inspection not in waiting(inspector, "sent_back")
