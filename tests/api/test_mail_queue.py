"""The queue of mail: tried again with longer pauses, sent once, refused, come back, stopped; the firm's own server."""

import os
import threading
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta

import pytest
from sqlalchemy import select, update

from dorrik.office.mail_delivery import Delivery
from dorrik.report import bounces, mail
from dorrik.store.database.engine import new_id, now
from dorrik.store.database.mail_tables import firm_mail, outgoing_file, outgoing_mail
from dorrik.store.mail import mail_queue
from dorrik.store.mail.mail_queue import About, QueuedLetter
from tests.serving import free_port


@pytest.fixture
def put(engine, inspector):
    """Queue a letter to an address; returns its id."""

    def make(to="una@test.example", files=()):
        identity = mail.message_id("a@b.example")
        firm = inspector.me["firm_id"]
        written = QueuedLetter(firm, "Breakwater", None, to, "About your home", "Dear Una", identity, files)
        with engine.begin() as connection:
            return mail_queue.put(connection, written, About("reminder", "a test"), inspector.me["id"])

    make.firm_id = inspector.me["firm_id"]
    return make


def row(engine, mail_id):
    with engine.begin() as connection:
        return connection.execute(select(outgoing_mail).where(outgoing_mail.c.id == mail_id)).one()


def later(engine, mail_id, minutes=0.0):
    """As if its time had come."""
    with engine.begin() as connection:
        at = now() - timedelta(minutes=minutes, seconds=1)
        connection.execute(
            update(outgoing_mail).where(outgoing_mail.c.id == mail_id).values(next_at=at, held_until=None)
        )


def test_a_busy_server_is_tried_again_with_longer_pauses_until_it_is_given_up(engine, put, caught):
    delivery, mail_id = Delivery(engine), put("una@later.example")
    pauses = []
    for tries in range(1, len(mail_queue.PAUSES) + 1):
        delivery.try_now(mail_id)
        found = row(engine, mail_id)
        assert (found.state, found.tries, found.held_until) == ("waiting", tries, None) and "busy" in found.told
        pauses.append(found.next_at - now())
        later(engine, mail_id)
    assert pauses == sorted(pauses) and timedelta(0) < pauses[0] <= timedelta(minutes=1)
    assert sum(mail_queue.PAUSES, timedelta()) > timedelta(days=1)
    delivery.try_now(mail_id)
    found = row(engine, mail_id)
    assert found.state == "failed" and found.told.startswith(f"Given up after {len(mail_queue.PAUSES) + 1} tries.")
    assert caught() == []


def test_before_its_time_it_is_not_tried(engine, put, caught):
    delivery, mail_id = Delivery(engine), put("una@later.example")
    delivery.try_now(mail_id)
    delivery.try_now(mail_id)
    assert row(engine, mail_id).tries == 1


def test_of_two_one_is_refused_and_the_other_arrives(engine, put, caught):
    delivery, refused, taken = Delivery(engine), put("una@refused.example"), put("una@test.example")
    delivery.deliver_due(put.firm_id)
    assert (row(engine, refused).state, row(engine, taken).state) == ("failed", "sent")
    assert "nobody has this address" in row(engine, refused).told
    assert [one["To"] for one in caught()] == ["una@test.example"]


def test_however_many_processes_deliver_each_letter_leaves_once(engine, put, caught):
    ids = [put(f"u{n}@test.example") for n in range(12)]
    with ThreadPoolExecutor(6) as pool:
        list(pool.map(lambda _: Delivery(engine).deliver_due(put.firm_id), range(6)))
    assert {row(engine, one).state for one in ids} == {"sent"}
    assert sorted(one["To"] for one in caught()) == sorted(f"u{n}@test.example" for n in range(12))


def test_where_the_process_dies_before_the_mail_goes_over_it_is_sent_later(engine, put, caught):
    mail_id = put()
    assert mail_queue.take(engine, mail_id) is not None
    delivery = Delivery(engine)
    delivery.deliver_due(put.firm_id)
    # Somebody has it in hand.
    assert caught() == []
    later(engine, mail_id)
    delivery.deliver_due(put.firm_id)
    assert (row(engine, mail_id).state, len(caught())) == ("sent", 1)


def test_where_it_dies_in_the_middle_nobody_knows_and_it_is_not_sent_again_by_itself(engine, put, caught, inspector):
    mail_id = put()
    mail_queue.take(engine, mail_id)
    assert mail_queue.leaving(engine, mail_id)
    later(engine, mail_id)
    with engine.begin() as connection:
        connection.execute(
            update(outgoing_mail).where(outgoing_mail.c.id == mail_id).values(held_until=now() - timedelta(seconds=1))
        )
    Delivery(engine).deliver_due(put.firm_id)
    found = row(engine, mail_id)
    assert (found.state, caught()) == ("uncertain", []) and "may have left" in found.told
    before = found.message_id
    assert inspector.http.post(f"/api/letters/{mail_id}/again", json={}).json()["state"] == "sent"
    assert row(engine, mail_id).message_id != before and len(caught()) == 1


def test_a_slow_server_keeps_nobody_waiting(engine, put, monkeypatch):
    """It takes the connection and says nothing."""
    import socket

    with socket.create_server(("127.0.0.1", 0)) as silent:
        monkeypatch.setenv("DORRIK_SMTP", f"127.0.0.1:{silent.getsockname()[1]}")
        monkeypatch.setattr(mail, "PATIENCE_S", 2)
        delivery, mail_id = Delivery(engine), put()
        delivery.try_now(mail_id, patience_s=0.2)
        assert row(engine, mail_id).state == "waiting"
        # Once it is given up for now, it waits for its next try.
        for _ in range(100):
            if row(engine, mail_id).tries:
                break
            threading.Event().wait(0.1)
    assert (row(engine, mail_id).state, row(engine, mail_id).tries) == ("waiting", 1)


def test_what_comes_back_is_shown_and_sent_to_the_right_address(engine, put, caught, inspector, monkeypatch, tmp_path):
    monkeypatch.setenv("DORRIK_BOUNCES", str(tmp_path / "bounces"))
    mail_id = put("una@gone.example", [("report.pdf", b"%PDF-1.7 a report")])
    delivery = Delivery(engine)
    delivery.deliver_due(put.firm_id)
    assert row(engine, mail_id).state == "sent"
    assert delivery.read_bounces() == 1
    assert delivery.read_bounces() == 0
    (listed,) = inspector.http.get("/api/letters", params={"troubled": True}).json()["letters"]
    assert (listed["id"], listed["state"]) == (mail_id, "bounced") and "the mailbox is gone" in listed["told"]
    assert inspector.http.get("/api/agenda").json()["letters_in_trouble"] == 1
    again = inspector.http.post(f"/api/letters/{mail_id}/again", json={"to": "una@test.example"}).json()
    assert (again["state"], again["to"]) == ("sent", "una@test.example")
    first, second = caught()
    assert second["To"] == "una@test.example" and first["Message-ID"] != second["Message-ID"]
    assert next(second.iter_attachments()).get_content() == b"%PDF-1.7 a report"
    assert inspector.http.get("/api/letters", params={"troubled": True}).json()["count"] == 0


@pytest.mark.parametrize(
    "raw",
    [
        b"",
        b"Subject: I am away\r\n\r\nuntil Monday",
        b"Content-Type: multipart/report\r\n\r\nno parts",
        bounces.example(b"Subject: x\r\n\r\n", "no identity"),
        bounces.example(b"Message-ID: <a@b>\r\n\r\n", "only late").replace(b"failed", b"delayed"),
        b"\xff\xfe\x00" * 400,
    ],
)
def test_what_is_no_report_of_a_failure_is_none(raw):
    assert bounces.read(raw) is None


def test_a_bounce_of_somebody_elses_mail_changes_nothing(engine, tmp_path, monkeypatch):
    monkeypatch.setenv("DORRIK_BOUNCES", str(tmp_path))
    (tmp_path / "1.eml").write_bytes(bounces.example(b"Message-ID: <nobody@knows>\r\n\r\n", "550 gone"))
    assert Delivery(engine).read_bounces() == 0
    assert list(tmp_path.iterdir()) == []


def test_a_letter_is_stopped_and_then_it_does_not_leave(engine, put, caught, inspector, stranger):
    mail_id = put("una@later.example")
    delivery = Delivery(engine)
    delivery.try_now(mail_id)
    assert stranger.http.post(f"/api/letters/{mail_id}/withdraw").status_code == 404
    assert stranger.http.post(f"/api/letters/{mail_id}/again", json={}).status_code == 404
    assert inspector.http.post(f"/api/letters/{mail_id}/withdraw").json()["state"] == "withdrawn"
    later(engine, mail_id)
    delivery.deliver_due(put.firm_id)
    assert row(engine, mail_id).state == "withdrawn"
    left = put()
    delivery.try_now(left)
    assert inspector.http.post(f"/api/letters/{left}/withdraw").status_code == 409
    assert inspector.http.post(f"/api/letters/{left}/again", json={}).status_code == 409
    assert len(caught()) == 1


def test_files_are_let_go_when_nobody_sends_them_again(engine, put, caught):
    mail_id = put(files=[("a.pdf", b"%PDF")])
    delivery = Delivery(engine)
    delivery.deliver_due(put.firm_id)
    with engine.begin() as connection:
        old = now() - mail_queue.FILES_STAY - timedelta(days=1)
        connection.execute(update(outgoing_mail).where(outgoing_mail.c.id == mail_id).values(ended_at=old))
    delivery.deliver_due(put.firm_id)
    with engine.begin() as connection:
        files = connection.execute(select(outgoing_file.c.name).where(outgoing_file.c.mail_id == mail_id)).all()
    assert files == []


# The firm's own server

SERVER = {"host": "mail.test.example", "port": 587, "security": "starttls", "user": "una", "sender": "una@test.example"}


def test_a_supervisor_sets_up_the_firms_server_and_its_password_is_never_told(supervisor, inspector, stranger, engine):
    path = "/api/firm/mail"
    assert inspector.http.put(path, json=SERVER | {"password": "sesame"}).status_code == 403
    answer = supervisor.http.put(path, json=SERVER | {"password": "sesame"})
    assert answer.status_code == 200 and answer.json()["has_password"] and "sesame" not in answer.text
    assert not answer.json()["tried"]
    # Changed without its password it stays; sent to another server it does not go along.
    assert supervisor.http.put(path, json=SERVER | {"sender": "desk@test.example"}).json()["has_password"]
    assert not supervisor.http.put(path, json=SERVER | {"host": "mail.elsewhere.example"}).json()["has_password"]
    assert not stranger.http.get(path).json()["own"]
    assert not supervisor.http.delete(path).json()["own"]


@pytest.mark.parametrize(
    ("wrong", "field"),
    [
        ({"sender": "nobody"}, "sender"),
        ({"security": "none"}, "security"),
        ({"port": 22}, "port"),
        ({"host": ""}, "host"),
    ],
)
def test_settings_that_cannot_be_are_told_at_the_field(supervisor, wrong, field):
    answer = supervisor.http.put("/api/firm/mail", json=SERVER | wrong)
    assert answer.status_code == 422
    assert [field["field"].split(".")[-1] for field in answer.json()["fields"]] == [field]


@pytest.mark.parametrize("host", ["127.0.0.1", "localhost", "10.0.0.1", "169.254.169.254", "::1", "192.168.1.1"])
def test_a_firms_server_is_no_way_into_the_network_of_the_installation(supervisor, host, engine):
    supervisor.http.put("/api/firm/mail", json=SERVER | {"host": host, "security": "none", "user": ""})
    try:
        answer = supervisor.http.post("/api/firm/mail/trial", json={"to": f"{new_id()[-12:]}@test.example"}).json()
        assert not answer["left"] and "private network" in answer["told"]
    finally:
        supervisor.http.delete("/api/firm/mail")


def test_a_trial_letter_tells_what_the_server_says(supervisor, caught, monkeypatch):
    path = "/api/firm/mail/trial"
    assert supervisor.http.post(path, json={"to": "una@test.example"}).json() == {"left": True, "told": ""}
    assert caught()[0]["Subject"] == "Trial letter"
    refused = supervisor.http.post(path, json={"to": "una@refused.example"}).json()
    assert not refused["left"] and "nobody has this address (550)" in refused["told"]
    monkeypatch.setenv("DORRIK_SMTP", f"127.0.0.1:{free_port()}")
    assert "cannot be reached" in supervisor.http.post(path, json={"to": "una@test.example"}).json()["told"]


def test_letters_leave_through_the_firms_own_server(engine, put, supervisor, caught, monkeypatch):
    monkeypatch.setattr(mail, "_public", lambda host, port: "127.0.0.1")
    port = int(os.environ["DORRIK_SMTP"].partition(":")[2])
    supervisor.http.put("/api/firm/mail", json=SERVER | {"security": "none", "user": ""})
    with engine.begin() as connection:
        # The test's server listens where it may.
        firm_id = supervisor.me["firm_id"]
        connection.execute(update(firm_mail).where(firm_mail.c.firm_id == firm_id).values(port=port))
    monkeypatch.delenv("DORRIK_SMTP")
    try:
        mail_id = put()
        Delivery(engine).try_now(mail_id)
        assert row(engine, mail_id).state == "sent"
        assert caught()[0]["From"] == "Breakwater <una@test.example>"
    finally:
        supervisor.http.delete("/api/firm/mail")
