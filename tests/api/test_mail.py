"""Letters by mail, over a real SMTP server on loopback: the confirmation, and the notice of a danger."""

import os
from io import BytesIO

import pytest
from pypdf import PdfReader

from dorrik.store.database.engine import new_id
from tests.serving import free_port


@pytest.fixture
def job(inspector):
    def add(kind, parent, **values):
        return inspector.http.post(f"/api/register/{kind}", json={"parent_id": parent, "values": values}).json()["id"]

    client = add("client", inspector.me["firm_id"], name="Harbour Trust")
    home = add("property", client, address='5 Lookout Row, "Kelder Haven"')
    return add("job", home, number=f"J-{new_id()[-6:]}", state="asked")


def send(inspector, job, to):
    return inspector.http.post(f"/api/jobs/{job}/confirmation", json={"to": to})


def test_the_client_gets_both_letters_and_the_job_says_so(inspector, job, caught):
    answer = send(inspector, job, "lettings@harbourtrust.example")
    assert answer.status_code == 200, answer.text
    assert answer.json()["values"]["confirmation_sent"].startswith("lettings@harbourtrust.example, ")
    assert answer.json()["values"]["state"] == "confirmed"
    (mail,) = caught()
    assert mail["To"] == "lettings@harbourtrust.example"
    assert mail["Reply-To"] == inspector.me["email"]
    assert "5 Lookout Row" in mail["Subject"]
    attached = {part.get_filename(): part.get_content() for part in mail.iter_attachments()}
    assert set(attached) == {"confirmation.pdf", "power-off-notice.pdf"}
    assert all(pdf.startswith(b"%PDF") for pdf in attached.values())


@pytest.mark.parametrize("to", ["", "nobody", "a@b", "a@b.example\r\nBcc: all@b.example", "a@b.example, c@d.example"])
def test_an_address_that_is_none_is_told_at_the_field_and_nothing_leaves(inspector, job, caught, to):
    answer = send(inspector, job, to)
    assert answer.status_code == 422
    assert answer.json()["fields"] == [{"field": "to", "message": "Enter an email address, such as ann@example.com."}]
    assert caught() == []


def test_without_a_server_or_with_one_that_is_down_it_says_so(inspector, job, monkeypatch):
    monkeypatch.delenv("DORRIK_SMTP", raising=False)
    answer = send(inspector, job, "a@b.example")
    assert (answer.status_code, "print the letter" in answer.json()["message"]) == (409, True)
    monkeypatch.setenv("DORRIK_SMTP", f"127.0.0.1:{free_port()}")
    answer = send(inspector, job, "a@b.example")
    # It waits for its next try, and the job does not say that it was sent.
    assert (answer.status_code, answer.json()["values"].get("confirmation_sent")) == (200, None)
    (waiting,) = inspector.http.get("/api/letters").json()["letters"]
    assert (waiting["state"], waiting["tries"]) == ("waiting", 1) and "cannot be reached" in waiting["told"]


def test_a_stranger_cannot_send_another_firms_letter(stranger, job, caught):
    assert send(stranger, job, "a@b.example").status_code == 404
    assert caught() == []


@pytest.fixture
def danger(inspector):
    """An inspection with a C1 that the tenant was told of: the path of its notice."""
    inspection = inspector.begin()
    one = inspector.add(
        inspection, "observation", "inspection", inspection, about_entity="inspection", about_id=inspection,
        text="Live part reachable in the hall", catalogue_key="live-part-reachable", code="C1",
        told_to="Hester Vane", told_at="2026-11-26T10:42:00Z",
    )  # fmt: skip
    return f"/api/inspections/{inspection}/observations/{one}/notice"


def test_the_notice_of_a_danger_leaves_with_the_notice_attached(inspector, danger, caught):
    answer = inspector.http.post(danger, json={"to": "hester@vane.example"})
    assert answer.status_code == 200, answer.text
    assert answer.json()["to"] == "hester@vane.example"
    (mail,) = caught()
    assert (mail["To"], mail["Reply-To"]) == ("hester@vane.example", inspector.me["email"])
    assert inspector.me["name"] in mail.get_body().get_content()
    (attached,) = mail.iter_attachments()
    assert attached.get_filename() == "notice-of-danger.pdf"
    text = " ".join(page.extract_text() for page in PdfReader(BytesIO(attached.get_content())).pages)
    assert "Hester Vane" in text and "10:42" in text


def test_the_same_notice_asked_for_twice_leaves_once_and_a_changed_one_again(inspector, danger, caught):
    for _ in range(2):
        assert inspector.http.post(danger, json={"to": "hester@vane.example"}).status_code == 200
    assert len(caught()) == 1
    inspection, one = danger.split("/")[3], danger.split("/")[5]
    inspector.send(inspection, inspector.change("observation", one, "made_safe", "refused"))
    assert inspector.http.post(danger, json={"to": "hester@vane.example"}).status_code == 200
    assert len(caught()) == 2


def test_a_notice_that_cannot_leave_says_so_and_leaves_once_when_it_can(inspector, danger, monkeypatch, caught):
    smtp = os.environ["DORRIK_SMTP"]
    monkeypatch.setenv("DORRIK_SMTP", f"127.0.0.1:{free_port()}")
    answer = inspector.http.post(danger, json={"to": "hester@vane.example"}).json()
    assert answer["state"] == "waiting" and "cannot be reached" in answer["told"]
    monkeypatch.setenv("DORRIK_SMTP", smtp)
    # Pressed again it is the same letter.
    assert inspector.http.post(danger, json={"to": "hester@vane.example"}).json()["mail_id"] == answer["mail_id"]
    assert inspector.http.post(f"/api/letters/{answer['mail_id']}/again", json={}).json()["state"] == "sent"
    assert len(caught()) == 1
