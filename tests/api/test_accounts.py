"""A firm of its own: set up by a link, people invited and ended, passwords, sessions, the second factor."""

import re
import time
from datetime import timedelta

import pyotp
import pytest
from sqlalchemy import update
from starlette.testclient import TestClient

from dorrik.demo import load
from dorrik.demo.people import PASSWORD as PUBLISHED
from dorrik.demo.people import PEOPLE
from dorrik.store.database.account_tables import one_time_link
from dorrik.store.database.engine import make_engine, new_id, now
from dorrik.store.people import household, links
from dorrik.store.people.sessions import digest
from tests.api.reviewed import issue
from tests.conftest import PASSWORD

NEW = "five plain words in a row"
FIRM = {"name": "Tide Testing", "address": "2 Slip Road", "phone": "01632 960 101", "nation": "Ireland"}


@pytest.fixture
def http(app):
    return TestClient(app, headers={"Sec-Fetch-Site": "same-origin"})


def use(http, token, **more):
    return http.post("/api/links/use", json={"token": token, "password": NEW} | more)


def token_of(link):
    return link.partition("#")[2]


def invite(supervisor, role="inspector", name="Una Reef"):
    email = f"una-{new_id()[-10:]}@test.example"
    answer = supervisor.http.post("/api/people", json={"name": name, "email": email, "role": role})
    assert answer.status_code == 201, answer.text
    return answer.json(), email


def sign_in(http, email, password=NEW, code=None):
    return http.post("/api/session", json={"email": email, "password": password, "code": code})


def test_a_link_sets_a_firm_up_once(engine, http):
    with engine.begin() as connection:
        token = links.make(connection, "set-up")
    assert http.post("/api/links/look", json={"token": token}).json()["purpose"] == "set-up"
    email = f"first-{new_id()[-8:]}@test.example"
    wrong = use(http, token, firm=FIRM | {"name": " "}, name="Fay First", email=email)
    assert [f["field"] for f in wrong.json()["fields"]] == ["firm.name"]
    answer = use(http, token, firm=FIRM, name="Fay First", email=email)
    assert answer.status_code == 200, answer.text
    assert (answer.json()["role"], answer.json()["firm_name"]) == ("supervisor", "Tide Testing")
    # Signed in at once, with the rule book of the nation and the letterhead as it was typed.
    firm = http.get("/api/firm").json()
    assert (firm["rule_book"], firm["letterhead"]["phone"]) == ("is10101-2020", "01632 960 101")
    again = use(TestClient(http.app), token, firm=FIRM, name="Second", email="second@test.example")
    assert (again.status_code, again.json()["code"]) == (404, "spent")


def test_an_empty_database_gets_a_link_and_the_demo_s_passwords_are_shut_out(own_mariadb):
    engine = make_engine(own_mariadb.url)
    _empty_then_demo(engine)
    engine.dispose()


def _empty_then_demo(engine):
    assert re.fullmatch(r"/welcome#[\w-]{32}", household.first_link(engine))
    load.load(engine)
    # A demo is no firm of anybody's: there is a link all the same.
    assert household.first_link(engine) is not None
    from dorrik.api.app import create_app

    http = TestClient(create_app(engine))
    assert sign_in(http, PEOPLE[0].email, PUBLISHED).status_code == 200
    assert household.close_demo(engine) == len(PEOPLE)
    assert http.get("/api/session").json() is None
    assert sign_in(http, PEOPLE[0].email, PUBLISHED).status_code == 401
    load.open_doors(engine)
    assert sign_in(http, PEOPLE[0].email, PUBLISHED).status_code == 200


def test_somebody_is_invited_joins_leaves_and_comes_back(supervisor, http, firm):
    invited, email = invite(supervisor)
    assert (invited["person"]["state"], invited["mailed"]) == ("invited", False)
    assert sign_in(http, email, "").status_code in (401, 422)
    joined = use(http, token_of(invited["link"]))
    assert (joined.json()["name"], joined.json()["role"]) == ("Una Reef", "inspector")
    person = invited["person"]["id"]
    ended = supervisor.http.post(f"/api/people/{person}/end").json()
    assert ended["state"] == "ended"
    assert http.get("/api/home").status_code == 401
    assert sign_in(http, email).status_code == 401
    back = supervisor.http.post(f"/api/people/{person}/resume").json()
    assert use(http, token_of(back["link"])).status_code == 200


def test_signs_stay_under_the_name_of_who_has_left(supervisor, inspector, ready):
    inspection = ready()
    assert issue(inspector, supervisor, inspection).status_code == 201
    assert supervisor.http.post(f"/api/people/{inspector.me['id']}/end").status_code == 200
    issued = supervisor.http.get(f"/api/inspections/{inspection}/reports").json()
    assert [one["issued_by"] for one in issued] == ["Sol Visor"]
    steps = supervisor.http.get(f"/api/inspections/{inspection}/review").json()["steps"]
    assert [(step["kind"], step["name"]) for step in steps] == [
        ("submitted", "Ines Pector"),
        ("authorised", "Sol Visor"),
    ]
    history = supervisor.http.get(f"/api/inspections/{inspection}/history", params={"entity_id": inspection}).json()
    assert {entry["author"] for entry in history} == {"Ines Pector"}


def test_the_last_supervisor_stays(supervisor):
    own = supervisor.me["id"]
    for answer in (
        supervisor.http.post(f"/api/people/{own}/end"),
        supervisor.http.patch(f"/api/people/{own}", json={"role": "office"}),
    ):
        assert (answer.status_code, "supervisor" in answer.json()["message"]) == (422, True)
    # Somebody who was only invited cannot stand in: they may never come.
    invite(supervisor, "supervisor")
    assert supervisor.http.post(f"/api/people/{own}/end").status_code == 422


@pytest.mark.parametrize(
    ("given", "field"),
    [
        ({"name": ""}, "name"),
        ({"name": "a\x07b"}, "name"),
        ({"email": "nobody"}, "email"),
        ({"email": "a@b.example, c@d.example"}, "email"),
        ({"role": "owner"}, "role"),
    ],
)
def test_an_invitation_that_does_not_fit_is_told_at_its_field(supervisor, given, field):
    body = {"name": "Una", "email": f"{new_id()}@test.example", "role": "office"} | given
    answer = supervisor.http.post("/api/people", json=body)
    assert answer.status_code == 422
    assert [field["field"] for field in answer.json()["fields"]] == [field]


def test_an_address_signs_in_once_in_all_firms(supervisor, stranger):
    _, email = invite(supervisor)
    for taken in (email, email.upper()):
        answer = stranger.http.post("/api/people", json={"name": "X", "email": taken, "role": "office"})
        assert answer.status_code == 403  # an inspector invites nobody
    again = supervisor.http.post("/api/people", json={"name": "X", "email": email.upper(), "role": "office"})
    assert (again.status_code, again.json()["fields"][0]["field"]) == (422, "email")


def test_links_of_another_firm_s_people_are_not_to_be_had(supervisor, app, other_firm):
    from tests.api.conftest import Inspector

    other = Inspector(app, other_firm.supervisor_email)
    person = supervisor.me["id"]
    for path in ("link", "end", "resume", "second-factor-off"):
        assert other.http.post(f"/api/people/{person}/{path}").status_code == 404
    assert other.http.patch(f"/api/people/{person}", json={"name": "Mine"}).status_code == 404
    assert other.http.get(f"/api/people/{person}/export.zip").status_code == 404


def test_a_link_that_is_over_is_good_no_longer(supervisor, http, engine):
    invited, _ = invite(supervisor)
    token = token_of(invited["link"])
    with engine.begin() as connection:
        connection.execute(
            update(one_time_link)
            .where(one_time_link.c.token_hash == digest(token))
            .values(expires_at=now() - timedelta(seconds=1))
        )
    assert use(http, token).status_code == 404
    assert http.post("/api/links/look", json={"token": "x" * 32}).status_code == 404


@pytest.mark.parametrize("password", ["short", "aaaaaaaaaaaa", "Una Reef, Una Reef"[:8] + "  ", "x" * 300])
def test_passwords_that_are_none_are_refused_at_the_field_and_the_link_stays_good(supervisor, http, password):
    invited, _ = invite(supervisor)
    answer = use(http, token_of(invited["link"]), password=password)
    assert (answer.status_code, answer.json()["fields"][0]["field"]) == (422, "password")
    assert use(http, token_of(invited["link"])).status_code == 200


def test_changing_the_password_ends_every_other_session(app, inspector, firm):
    from tests.api.conftest import Inspector

    elsewhere = Inspector(app, firm.inspector_email, "phone")
    assert len(inspector.http.get("/api/account").json()["sessions"]) == 2
    wrong = inspector.http.put("/api/account/password", json={"old": "not it at all", "new": NEW})
    assert (wrong.status_code, wrong.json()["fields"][0]["field"]) == (422, "old")
    assert inspector.http.put("/api/account/password", json={"old": PASSWORD, "new": NEW}).status_code == 200
    assert inspector.http.get("/api/home").status_code == 200
    assert elsewhere.http.get("/api/home").status_code == 401
    (session,) = inspector.http.get("/api/account").json()["sessions"]
    assert session["this"]


def test_one_session_is_ended_from_another_and_only_one_s_own(app, inspector, stranger, firm):
    from tests.api.conftest import Inspector

    phone = Inspector(app, firm.inspector_email, "phone")
    sessions = inspector.http.get("/api/account").json()["sessions"]
    other = next(session["id"] for session in sessions if not session["this"])
    for person, identity in ((stranger, other), (inspector, "\x96"), (inspector, "x")):
        assert person.http.delete(f"/api/account/sessions/{identity}").status_code == 404
    assert inspector.http.delete(f"/api/account/sessions/{other}").status_code == 204
    assert phone.http.get("/api/home").status_code == 401


@pytest.fixture
def device(inspector):
    """The inspector's authenticator, set up, and their recovery codes."""
    begun = inspector.http.post("/api/account/second-factor", json={"password": PASSWORD}).json()
    assert begun["drawing"].startswith("<svg") and begun["secret"] in begun["uri"]
    device = pyotp.TOTP(begun["secret"])
    wrong = inspector.http.post("/api/account/second-factor/confirm", json={"code": "000000"})
    assert wrong.status_code == 422
    done = inspector.http.post("/api/account/second-factor/confirm", json={"code": device.now()})
    return device, done.json()["codes"]


def test_the_second_factor_is_asked_for_and_a_code_is_good_once(http, inspector, device, firm):
    totp, codes = device
    email = firm.inspector_email
    asked = sign_in(http, email, PASSWORD)
    assert (asked.status_code, asked.json()["code"]) == (401, "code")
    # The code that confirmed it was seen: it is not good again, though its thirty seconds are not over.
    assert sign_in(http, email, PASSWORD, totp.now()).json()["code"] == "wrong-code"
    later = totp.at(time.time() + 30)
    assert sign_in(http, email, PASSWORD, later).status_code == 200
    assert sign_in(http, email, PASSWORD, later).status_code == 401
    assert len(codes) == len(set(codes)) == 10
    assert sign_in(http, email, PASSWORD, codes[3].upper()).status_code == 200
    assert sign_in(http, email, PASSWORD, codes[3]).status_code == 401
    assert inspector.http.get("/api/account").json()["recovery_left"] == 9


def test_a_new_password_by_link_does_not_go_round_the_second_factor(http, supervisor, inspector, device):
    link = supervisor.http.post(f"/api/people/{inspector.me['id']}/link").json()["link"]
    answer = use(http, token_of(link))
    assert (answer.status_code, answer.json()["code"]) == (401, "code")
    assert http.get("/api/session").json() is None
    assert sign_in(http, inspector.me["email"], NEW, device[1][0]).status_code == 200


def test_a_lost_device_is_taken_off_by_a_supervisor(http, supervisor, inspector, device):
    assert supervisor.http.post(f"/api/people/{inspector.me['id']}/second-factor-off").status_code == 200
    assert inspector.http.get("/api/home").status_code == 401
    assert sign_in(http, inspector.me["email"], PASSWORD).status_code == 200


def test_turning_it_off_takes_the_password(inspector, device):
    stop = "/api/account/second-factor/stop"
    assert inspector.http.post(stop, json={"password": "guessed at it"}).status_code == 422
    assert inspector.http.post(stop, json={"password": PASSWORD}).status_code == 204
    assert not inspector.http.get("/api/account").json()["second_factor"]


def test_where_mail_is_set_up_links_are_mailed_and_not_shown(supervisor, http, caught):
    invited, email = invite(supervisor)
    assert (invited["mailed"], invited["link"]) == (True, None)
    (mail,) = caught()
    assert mail["To"] == email
    assert use(http, re.search(r"/welcome#(\S+)", mail.get_content())[1]).status_code == 200


def test_a_forgotten_password_is_mailed_to_its_owner_and_nobody_learns_whether_there_is_one(http, firm, caught):
    answers = [
        http.post("/api/account/forgotten", json={"email": email}, headers={"Host": "evil.example"})
        for email in (firm.inspector_email, "nobody@test.example")
    ]
    assert {(a.status_code, a.text) for a in answers} == {(202, '{"mail":true}')}
    (mail,) = caught()
    text = mail.get_content()
    assert mail["To"] == firm.inspector_email
    # Where a request says that it was sent to is never where a link leads.
    assert "evil.example" not in text
    assert use(http, re.search(r"/welcome#(\S+)", text)[1]).status_code == 200
    assert sign_in(http, firm.inspector_email).status_code == 200
