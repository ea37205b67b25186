"""After a report: required items are cleared step by step with evidence, copies are noted, a confirmation closes it."""

import io
import json
import os
import re
import zipfile
from concurrent.futures import ThreadPoolExecutor

import pytest
from pypdf import PdfReader
from sqlalchemy import update

from dorrik.office.mail_delivery import Delivery
from dorrik.store.database.engine import new_id, now
from dorrik.store.database.mail_tables import outgoing_mail
from tests.api.clearing import DONE, after, clear, confirm, issued, link, step, unsatisfactory
from tests.api.test_erasure import in_tables
from tests.pictures import picture
from tests.serving import free_port


def text_of(pdf):
    return " ".join("\n".join(page.extract_text() for page in PdfReader(io.BytesIO(pdf)).pages).split())


@pytest.fixture
def report(inspector, supervisor, ready):
    """An issued report with a C2, an FI and a C3: its inspection and the items' ids."""
    inspection, items = unsatisfactory(inspector, ready, "C2", "FI", "C3")
    issued(inspector, supervisor, inspection)
    return inspection, items


def by_id(found):
    return {one["id"]: one for one in found["items"]}


def test_what_counts_comes_first_and_the_law_sets_its_day(inspector, report):
    inspection, (c2, fi, c3) = report
    found = after(inspector, inspection)
    assert [(one["id"], one["counts"], one["state"]) for one in found["items"]] == [
        (c2, True, "open"), (fi, True, "open"), (c3, False, "open"),
    ]  # fmt: skip
    assert (found["cleared"], found["counting"], found["complete"], found["confirmed"]) == (0, 2, False, None)
    # In England 28 days from the inspection of 3 November.
    assert found["due"] == "2026-12-01"
    (line,) = inspector.http.get("/api/to-put-right").json()["reports"]
    assert (line["inspection_id"], line["counting"], line["worst"], line["due"]) == (inspection, 2, "C2", "2026-12-01")


def test_before_a_report_is_issued_nothing_follows_it(inspector, stranger, ready, report):
    inspection = ready()
    assert inspector.http.get(f"/api/inspections/{inspection}/after").status_code == 404
    assert stranger.http.get(f"/api/inspections/{report[0]}/after").status_code == 404
    assert step(stranger, report[0], report[1][0], "done", **DONE).status_code == 404


def test_it_is_booked_done_with_evidence_and_accepted_by_a_competent_person(inspector, office, report):
    inspection, (c2, _, _) = report
    booked = step(office, inspection, c2, "booked", by="Kelder Electric", on="2026-12-09")
    assert by_id(booked.json())[c2]["state"] == "booked"
    refused = step(inspector, inspection, c2, "accepted")
    assert refused.status_code == 422 and "Nobody has said" in refused.json()["message"]
    file = office.http.post(
        f"/api/inspections/{inspection}/after/files", params={"kind": "photo", "name": "switch.jpg"}, content=picture()
    )
    assert file.status_code == 201, file.text
    told = step(office, inspection, c2, "done", **DONE | {"files": [file.json()["id"]]}).json()
    assert (by_id(told)[c2]["state"], by_id(told)[c2]["lacks"]) == ("done", [])
    # The office types what others did; it accepts nothing.
    assert step(office, inspection, c2, "accepted").status_code == 403
    cleared = step(inspector, inspection, c2, "accepted", words="Seen on the day").json()
    assert by_id(cleared)[c2]["state"] == "cleared" and cleared["cleared"] == 1
    kinds = [one["kind"] for one in by_id(cleared)[c2]["steps"]]
    assert kinds == ["booked", "done", "accepted"]
    assert [one["by"] for one in by_id(cleared)[c2]["steps"]] == ["Otis Desk", "Otis Desk", "Ines Pector"]
    photo = inspector.http.get(f"/api/inspections/{inspection}/after/files/{file.json()['id']}")
    assert photo.headers["content-type"] == "image/jpeg" and photo.content[:2] == b"\xff\xd8"


def test_a_retest_is_judged_before_and_when_it_is_written_down(inspector, supervisor, ready):
    inspection, _ = unsatisfactory(inspector, ready)
    entities = inspector.http.get(f"/api/inspections/{inspection}").json()["entities"]
    circuit = next(entity["id"] for entity in entities if entity["kind"] == "circuit")
    fields = {"rcd_standard": "BS EN 61008", "rcd_rated_ma": 30, "rcd_delay": "none", "rcd_trip_ms": "340"}
    inspector.send(inspection, *(inspector.change("circuit", circuit, f, v) for f, v in fields.items()))
    slow = inspector.add(
        inspection, "observation", "inspection", inspection, about_entity="circuit", about_id=circuit,
        text="Trips in 340 ms", code="C2", catalogue_key="rcd-slow",
    )  # fmt: skip
    issued(inspector, supervisor, inspection)
    (figure,) = by_id(after(inspector, inspection))[slow]["figures"]
    assert (figure["value"], figure["unit"], figure["status"]) == ("340", "ms", "fail")
    which = {"entity_id": circuit, "field": "rcd_trip_ms"}
    path = f"/api/inspections/{inspection}/after/retest"
    assert inspector.http.post(path, json=which | {"reading": "27"}).json()["status"] == "pass"
    assert inspector.http.post(path, json=which | {"reading": "301"}).json()["status"] == "fail"
    wrong = inspector.http.post(path, json=which | {"reading": "slow"})
    assert wrong.status_code == 422 and wrong.json()["fields"][0]["field"] == "reading"
    # A photo does not show how quickly it trips.
    step(inspector, inspection, slow, "done", **DONE | {"certificate": ""})
    assert step(inspector, inspection, slow, "accepted").status_code == 422
    failing = step(inspector, inspection, slow, "retest", on="2026-11-21", reading="310", **which).json()
    assert any("still fails" in lack for lack in by_id(failing)[slow]["lacks"])
    step(inspector, inspection, slow, "retest", on="2026-11-22", reading="27", **which)
    assert step(inspector, inspection, slow, "accepted").status_code == 200
    made = confirm(inspector, inspection).json()
    words = text_of(inspector.http.get(f"/api/reports/{made['id']}.pdf").content)
    assert "340 → 27 ms" in words and "Accepted by Ines Pector" in words


def test_all_cleared_a_confirmation_closes_the_report_and_history_stays(inspector, supervisor, office, report):
    inspection, (c2, fi, _) = report
    clear(inspector, inspection, c2)
    early = confirm(inspector, inspection)
    assert early.status_code == 422 and "FI" in early.json()["message"]
    assert step(inspector, inspection, fi, "done", **DONE).status_code == 200
    assert step(inspector, inspection, fi, "accepted").status_code == 422
    step(inspector, inspection, fi, "found", code="none", words="A lamp was left in", on="2026-11-20")
    step(inspector, inspection, fi, "accepted")
    assert confirm(office, inspection).status_code == 403
    made = confirm(inspector, inspection)
    assert made.status_code == 201, made.text
    assert confirm(inspector, inspection).json()["id"] == made.json()["id"]
    found = after(inspector, inspection)
    assert found["confirmed"]["id"] == made.json()["id"] and found["complete"] and found["due"] is None
    assert [one["kind"] for one in by_id(found)[c2]["steps"]] == ["done", "accepted"]
    pdf = inspector.http.get(f"/api/reports/{made.json()['id']}.pdf").content
    words = text_of(pdf)
    for said in ("Put right: confirmation", "Found 1", "KE-77", "No new inspection is needed", "One improvement stays"):
        assert said in words, (said, words)
    assert "confirmation.json" in PdfReader(io.BytesIO(pdf)).attachments
    # The report itself is as it was.
    assert found["outcome"] == "unsatisfactory"
    # Whoever holds either paper is told.
    (code,) = re.findall(r"[0-9A-F]{4}-[0-9A-F]{4}-[0-9A-F]{4}", words)
    reference = found["reference"]
    known = inspector.http.post("/api/check", json={"reference": reference, "code": code}).json()
    assert (known["of"], known["number"], bool(known["confirmed_on"])) == ("confirmation", 1, True)
    report_words = text_of(inspector.http.get(f"/api/reports/{found['report']['id']}.pdf").content)
    (of_report,) = set(re.findall(r"[0-9A-F]{4}-[0-9A-F]{4}-[0-9A-F]{4}", report_words))
    known = inspector.http.post("/api/check", json={"reference": reference, "code": of_report}).json()
    assert (known["of"], known["outcome"], bool(known["confirmed_on"])) == ("report", "unsatisfactory", True)
    # Reopened, the confirmation covers it no longer.
    step(inspector, inspection, c2, "reopened", words="It trips again")
    again = after(inspector, inspection)
    assert (again["confirmed"], again["complete"], len(again["confirmations"])) == (None, False, 1)
    known = inspector.http.post("/api/check", json={"reference": reference, "code": code}).json()
    assert known["confirmed_on"] is None
    clear(inspector, inspection, c2)
    assert confirm(inspector, inspection).json()["number"] == 2


def test_pressed_by_two_at_once_there_is_one_confirmation(inspector, supervisor, ready):
    inspection, (c2,) = unsatisfactory(inspector, ready, "C2")
    issued(inspector, supervisor, inspection)
    clear(inspector, inspection, c2)
    with ThreadPoolExecutor(2) as pool:
        answers = list(pool.map(lambda who: confirm(who, inspection), (inspector, supervisor)))
    assert {answer.status_code for answer in answers} == {201}
    assert len({answer.json()["id"] for answer in answers}) == 1


def test_the_same_step_sent_twice_is_taken_once(inspector, report):
    inspection, (c2, _, _) = report
    for _ in range(2):
        assert step(inspector, inspection, c2, "done", **DONE).status_code == 200
    assert len(by_id(after(inspector, inspection))[c2]["steps"]) == 1


def test_one_certificate_covers_several_items_all_or_none(inspector, report):
    inspection, (c2, fi, _) = report
    told = step(inspector, inspection, [c2, fi], "done", **DONE).json()
    assert {by_id(told)[one]["steps"][0]["what"]["certificate"] for one in (c2, fi)} == {"KE-77"}
    clear(inspector, inspection, c2)
    refused = step(inspector, inspection, [fi, c2], "done", **DONE | {"certificate": "KE-78"})
    assert refused.status_code == 422
    assert len(by_id(after(inspector, inspection))[fi]["steps"]) == 1


def test_a_correction_that_says_something_worse_is_accepted_anew(inspector, supervisor, report):
    inspection, (c2, _, _) = report
    clear(inspector, inspection, c2)
    change = inspector.change
    inspector.send(
        inspection, change("observation", c2, "code", "C1"), change("observation", c2, "told_to", "Una"),
        change("observation", c2, "told_at", "2026-11-21T10:00:00Z"),
    )  # fmt: skip
    issued(inspector, supervisor, inspection, reason="It is worse")
    found = by_id(after(inspector, inspection))[c2]
    assert (found["code"], found["state"]) == ("C1", "done")


@pytest.mark.parametrize(
    ("kind", "content", "told"),
    [
        ("certificate", b"%PDF-1.7 nothing more", "damaged"),
        ("certificate", b"MZ a program", "A certificate is a PDF or a photo of it."),
        ("photo", b"%PDF-1.7", "no photo"),
        ("certificate", b"", "empty"),
        ("photo", b"<svg xmlns='http://www.w3.org/2000/svg'><script>alert(1)</script></svg>", ""),
    ],
)
def test_a_file_that_is_none_is_told_at_the_field(inspector, report, kind, content, told):
    answer = inspector.http.post(
        f"/api/inspections/{report[0]}/after/files", params={"kind": kind, "name": "x"}, content=content
    )
    assert answer.status_code == 422, answer.text
    assert answer.json()["fields"][0]["field"] == "file" and told in answer.json()["message"]


def test_a_files_step_is_the_only_one_that_has_it(inspector, supervisor, ready, report):
    inspection, (c2, fi, _) = report
    path = f"/api/inspections/{inspection}/after/files"
    file = inspector.http.post(path, params={"kind": "photo", "name": "a"}, content=picture()).json()["id"]
    assert step(inspector, inspection, c2, "done", **DONE | {"files": [file]}).status_code == 200
    taken = step(inspector, inspection, fi, "done", **DONE | {"files": [file]})
    assert taken.status_code == 422 and taken.json()["fields"][0]["field"] == "step.files"
    other, (item,) = unsatisfactory(inspector, ready, "C2")
    issued(inspector, supervisor, other)
    assert step(inspector, other, item, "done", **DONE | {"files": [file]}).status_code == 422
    assert inspector.http.get(f"/api/inspections/{other}/after/files/{file}").status_code == 404


@pytest.mark.parametrize(
    ("kind", "what", "field"),
    [
        ("done", {"by": "", "on": "2026-11-20"}, "step.by"),
        ("done", {"by": "Una", "on": "2999-01-01"}, "step.on"),
        ("refused", {"words": ""}, "step.words"),
    ],
)
def test_what_a_step_lacks_is_told_at_its_field(inspector, report, kind, what, field):
    answer = step(inspector, report[0], report[1][0], kind, **what)
    assert answer.status_code == 422
    assert field in [field["field"] for field in answer.json()["fields"]]


# Copies


def test_a_copy_by_mail_ticks_the_duty_once_it_has_left(inspector, report, caught):
    inspection, _ = report
    path = f"/api/inspections/{inspection}/after/mail"
    body = {"role": "occupier", "name": "Davy Marlow", "to": "davy@refused.example"}
    assert inspector.http.post(path, json=body).json()["state"] == "failed"
    duty = next(duty for duty in after(inspector, inspection)["duties"] if duty["short"] == "copy to the occupier")
    assert duty["done_on"] is None
    sent = inspector.http.post(path, json=body | {"to": "davy@test.example", "words": "As promised."})
    assert sent.json()["state"] == "sent"
    found = after(inspector, inspection)
    duty = next(duty for duty in found["duties"] if duty["short"] == "copy to the occupier")
    assert duty["done_on"] is not None and duty["due"] == "2026-12-01"
    assert [(copy["name"], copy["arrived"]) for copy in found["copies"]] == [
        ("Davy Marlow", False),
        ("Davy Marlow", True),
    ]
    (mail,) = caught()
    words = mail.get_body().get_content()
    assert "As promised." in words and "unsatisfactory" in words and "/home-report#" in words
    (attached,) = mail.iter_attachments()
    assert attached.get_filename().endswith("-issue-1.pdf")
    assert "Found 1" in text_of(attached.get_content())


def test_a_copy_that_leaves_later_counts_then_and_no_longer_once_it_came_back(
    inspector, supervisor, ready, caught, engine, monkeypatch, tmp_path
):
    inspection, _ = unsatisfactory(inspector, ready, declared_outcome="satisfactory")
    issued(inspector, supervisor, inspection)
    monkeypatch.setenv("DORRIK_BOUNCES", str(tmp_path / "bounces"))
    smtp = os.environ["DORRIK_SMTP"]
    monkeypatch.setenv("DORRIK_SMTP", f"127.0.0.1:{free_port()}")
    body = {"role": "occupier", "name": "Davy Marlow", "to": "davy@gone.example"}
    sent = inspector.http.post(f"/api/inspections/{inspection}/after/mail", json=body).json()
    assert sent["state"] == "waiting"

    def due():
        return {one["copy_due"] for one in inspector.http.get("/api/to-put-right").json()["reports"]}

    assert due() == {"2026-12-01"}
    monkeypatch.setenv("DORRIK_SMTP", smtp)
    with engine.begin() as connection:
        mine = outgoing_mail.c.id == sent["mail_id"]
        connection.execute(update(outgoing_mail).where(mine).values(next_at=now()))
    delivery = Delivery(engine)
    delivery.deliver_due(inspector.me["firm_id"])
    assert due() == set()
    assert delivery.read_bounces() == 1
    assert due() == {"2026-12-01"}


def test_a_copy_by_hand_is_noted_and_taken_out_again(inspector, stranger, report):
    inspection, _ = report
    path = f"/api/inspections/{inspection}/after/copies"
    body = {"role": "occupier", "name": "Davy Marlow", "how": "by hand", "on": "2026-11-12"}
    noted = inspector.http.post(path, json=body).json()["copies"]
    assert [(one["how"], one["at"][:10], one["by"]) for one in noted] == [("by hand", "2026-11-12", "Ines Pector")]
    assert inspector.http.post(path, json=body | {"on": "2999-01-01"}).status_code == 422
    assert inspector.http.post(path, json=body | {"of": "confirmation"}).status_code == 409
    assert stranger.http.delete(f"{path}/{noted[0]['id']}").status_code == 404
    assert inspector.http.delete(f"{path}/{noted[0]['id']}").json()["copies"] == []


def test_where_nothing_is_left_it_leaves_the_list(inspector, supervisor, report):
    inspection, (c2, fi, _) = report
    step(inspector, inspection, fi, "found", code="none", words="A lamp was left in", on="2026-11-20")
    step(inspector, inspection, fi, "accepted")
    clear(inspector, inspection, c2)
    (line,) = inspector.http.get("/api/to-put-right").json()["reports"]
    assert line["complete"] and line["cleared"] == 2
    confirm(inspector, inspection)
    for of, role in (("report", "occupier"), ("confirmation", "occupier"), ("confirmation", "authority")):
        body = {"of": of, "role": role, "name": "x", "how": "by hand", "on": "2026-11-25"}
        assert inspector.http.post(f"/api/inspections/{inspection}/after/copies", json=body).status_code == 200
    assert inspector.http.get("/api/to-put-right").json()["reports"] == []


def test_an_unsatisfactory_report_without_a_code_is_not_closed_by_having_nothing_to_clear(inspector, supervisor, ready):
    inspection, _ = unsatisfactory(
        inspector, ready, outcome_reason="Much of it could not be reached.", nation="Scotland"
    )
    issued(inspector, supervisor, inspection)
    assert confirm(inspector, inspection).status_code == 422
    assert [one["inspection_id"] for one in inspector.http.get("/api/to-put-right").json()["reports"]] == [inspection]


def test_what_an_investigation_found_to_be_an_improvement_is_told_as_one(inspector, supervisor, ready):
    inspection, (fi,) = unsatisfactory(inspector, ready, "FI")
    issued(inspector, supervisor, inspection)
    step(inspector, inspection, fi, "found", code="C3", words="The lid does not close", on="2026-11-20")
    step(inspector, inspection, fi, "accepted")
    made = confirm(inspector, inspection).json()
    words = text_of(inspector.http.get(f"/api/reports/{made['id']}.pdf").content)
    assert "One improvement stays recommended (C3)." in words


def test_the_sheet_for_prices_names_what_is_open_and_nobody_who_lives_there(inspector, supervisor, ready):
    inspection, (c2, other) = unsatisfactory(inspector, ready, "C2", "C2", occupier_name="Davy Marlow")
    issued(inspector, supervisor, inspection)
    clear(inspector, inspection, c2)
    pdf = inspector.http.get(f"/api/inspections/{inspection}/after/price-request.pdf").content
    words = text_of(pdf)
    assert "Found 2" in words and "Found 1" not in words and "Marlow" not in words and "1 Lookout Row" in words
    assert other


# Erased and taken along


@pytest.fixture
def of_a_client(inspector, supervisor, ready, caught, place):
    """A cleared report of a client of the register, with a word of its own in everything that follows it."""
    tag = f"Zq{new_id()[-6:]}"

    def entry(kind, parent, **values):
        return inspector.http.post(f"/api/register/{kind}", json={"parent_id": parent, "values": values}).json()["id"]

    client = entry("client", inspector.me["firm_id"], name=f"Trust {tag}")
    home = entry("property", client, address=f"1 {tag} Row")
    inspection, (c2,) = unsatisfactory(inspector, ready, "C2", property_id=home, property_address=f"1 {tag} Row")
    issued(inspector, supervisor, inspection)
    path = f"/api/inspections/{inspection}/after"
    params = {"kind": "photo", "name": f"{tag}.jpg"}
    file = inspector.http.post(f"{path}/files", params=params, content=picture()).json()["id"]
    said = {"by": tag, "on": "2026-11-20", "words": f"{tag} did it", "certificate": tag, "files": [file]}
    assert step(inspector, inspection, c2, "done", **said).status_code == 200
    assert step(inspector, inspection, c2, "accepted", words=tag).status_code == 200
    assert confirm(inspector, inspection).status_code == 201
    body = {"role": "occupier", "name": f"{tag} Marlow"}
    assert inspector.http.post(f"{path}/mail", json=body | {"to": f"{tag}@c.example"}).json()["state"] == "sent"
    assert inspector.http.post(f"{path}/mail", json=body | {"to": f"{tag}@later.example"}).json()["state"] == "waiting"
    copy = body | {"how": "by hand", "on": "2026-11-12"}
    assert inspector.http.post(f"{path}/copies", json=copy).status_code == 200
    token = link(inspector, inspection, name=f"{tag} Marlow")
    made = inspector.http.post(f"/api/clients/{client}/links", json=body).json()
    return tag, client, inspection, [token, made["address"].partition("#")[2]]


def test_erased_no_word_of_what_followed_the_report_is_left_and_no_link_opens(
    of_a_client, supervisor, inspector, engine, place
):
    tag, client, inspection, tokens = of_a_client
    tables = {table for table, *_ in in_tables(engine, tag)}
    assert {"remedial_step", "evidence_file", "report_copy", "client_link", "outgoing_mail"} <= tables
    supervisor.http.put("/api/firm/retention", json={"keep_years": 0, "keep_reports_years": 0})
    assert supervisor.http.post(f"/api/clients/{client}/erase").status_code == 200
    assert in_tables(engine, tag) == set()
    for token in tokens:
        assert place().get("/api/shared", headers={"Authorization": f"Bearer {token}"}).status_code == 401
    assert inspector.http.get(f"/api/inspections/{inspection}/after").status_code == 404
    assert inspector.http.get("/api/to-put-right").json()["reports"] == []


def test_what_followed_the_report_is_taken_along_with_its_evidence(of_a_client, supervisor):
    tag, client, _, _ = of_a_client
    packed = zipfile.ZipFile(io.BytesIO(supervisor.http.get(f"/api/clients/{client}/export.zip").content))
    (one,) = json.loads(packed.read("data.json"))["inspections"]
    assert [entry["step"] for entry in one["remedials"]] == ["done", "accepted"]
    assert one["remedials"][0]["what"]["words"] == f"{tag} did it"
    assert {entry["name"] for entry in one["copies"]} == {f"{tag} Marlow"}
    assert {entry["state"] for entry in one["letters"]} == {"sent", "waiting"}
    (file,) = one["remedials"][0]["files"]
    assert packed.read(f"evidence/{file['id']}.jpg")[:2] == b"\xff\xd8"
    assert sum(name.startswith("reports/") for name in packed.namelist()) == 2
