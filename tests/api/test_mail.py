"""The confirmation by mail, over a real SMTP server on loopback."""

import email
from email.policy import default

import pytest

from dorrik.demo.mail_catcher import catch
from dorrik.store.engine import new_id
from tests.serving import free_port


@pytest.fixture
def caught(tmp_path, monkeypatch):
    """The mails that were caught so far, as messages."""
    port = free_port()
    catcher = catch(tmp_path, port)
    monkeypatch.setenv("DORRIK_SMTP", f"127.0.0.1:{port}")
    yield lambda: [email.message_from_bytes(one.read_bytes(), policy=default) for one in sorted(tmp_path.glob("*.eml"))]
    catcher.stop()


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
    assert answer.json()["fields"] == [{"field": "to", "message": "That is no mail address; a letter goes to one."}]
    assert caught() == []


def test_without_a_server_or_with_one_that_is_down_it_says_so(inspector, job, monkeypatch):
    monkeypatch.delenv("DORRIK_SMTP", raising=False)
    answer = send(inspector, job, "a@b.example")
    assert (answer.status_code, "print the letter" in answer.json()["message"]) == (409, True)
    monkeypatch.setenv("DORRIK_SMTP", f"127.0.0.1:{free_port()}")
    answer = send(inspector, job, "a@b.example")
    assert (answer.status_code, "nothing was sent" in answer.json()["message"]) == (409, True)


def test_a_stranger_cannot_send_another_firms_letter(stranger, job, caught):
    assert send(stranger, job, "a@b.example").status_code == 404
    assert caught() == []
