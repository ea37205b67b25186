"""One budget for all letters: nobody's session, and nobody from outside, fills anybody's mail box."""

import re
from concurrent.futures import ThreadPoolExecutor
from datetime import timedelta

import pytest
from sqlalchemy import func, insert, select, update

from dorrik.store.database.account_tables import letter, one_time_link
from dorrik.store.database.engine import new_id, now
from dorrik.store.mail import letter_budget as letters
from dorrik.store.people import sessions
from tests.api.conftest import Inspector


def forgotten(http, email):
    return http.post("/api/account/forgotten", json={"email": email})


def earlier(engine, to, minutes):
    """What was sent to somebody was sent so long ago."""
    with engine.begin() as connection:
        here = letter.c.recipient_hash == letters.recipient_key(to)
        connection.execute(update(letter).where(here).values(at=now() - timedelta(minutes=minutes)))


@pytest.fixture
def notice(inspector):
    """Sends a notice of danger; each of another observation, since the same leaves once."""
    inspection = inspector.begin()

    def send(to, who=inspector):
        one = inspector.add(
            inspection, "observation", "inspection", inspection, about_entity="inspection", about_id=inspection,
            text="Live part reachable", catalogue_key="live-part-reachable", code="C1",
        )  # fmt: skip
        return who.http.post(f"/api/inspections/{inspection}/observations/{one}/notice", json={"to": to})

    return send


def test_a_forgotten_password_asked_for_from_twenty_places_is_one_mail(place, firm, caught):
    answers = [forgotten(place(), firm.inspector_email) for _ in range(20)]
    assert {(a.status_code, a.text) for a in answers} == {(202, '{"mail":true}')}
    assert len(caught()) == 1


def test_asked_for_at_once_from_twenty_places_too(place, firm, caught):
    places = [place() for _ in range(20)]
    with ThreadPoolExecutor(20) as pool:
        answers = list(pool.map(lambda http: forgotten(http, firm.inspector_email), places))
    assert {a.status_code for a in answers} == {202}
    assert len(caught()) == 1


def test_a_link_that_a_stranger_asks_for_does_not_end_the_one_in_hand(place, firm, caught, engine):
    forgotten(place(), firm.inspector_email)
    earlier(engine, firm.inspector_email, 11)
    forgotten(place(), firm.inspector_email)
    first, second = (re.search(r"/welcome#(\S+)", mail.get_content())[1] for mail in caught())
    used = place().post("/api/links/use", json={"token": first, "password": "five plain words in a row"})
    assert used.status_code == 200
    assert place().post("/api/links/look", json={"token": second}).status_code == 404


def test_one_place_asks_for_so_many_links_whether_or_not_anybody_has_the_address(place, caught):
    http = place()
    answers = [
        forgotten(http, f"nobody-{n}-{new_id()}@test.example").status_code for n in range(letters.OF_ONE_SOURCE + 1)
    ]
    assert answers == [202] * letters.OF_ONE_SOURCE + [429]
    assert caught() == []


def test_a_supervisor_mails_somebody_one_link_in_ten_minutes(supervisor, inspector, caught, engine):
    path = f"/api/people/{inspector.me['id']}/link"
    answers = [supervisor.http.post(path) for _ in range(5)]
    assert [a.status_code for a in answers] == [200] + [429] * 4
    assert int(answers[1].headers["retry-after"]) == answers[1].json()["wait_s"] <= 600
    assert len(caught()) == 1
    # The one that was mailed is good still: what is refused ends nothing.
    with engine.connect() as connection:
        query = select(func.count()).where(one_time_link.c.person_id == inspector.me["id"])
        assert connection.execute(query).scalar_one() == 1
    earlier(engine, inspector.me["email"], 11)
    assert supervisor.http.post(path).json()["mailed"]


def test_whatever_kind_one_recipient_gets_so_many_an_hour(notice, supervisor, place, caught, engine):
    to = f"una-{new_id()[-10:]}@test.example"
    assert supervisor.http.post("/api/people", json={"name": "Una", "email": to, "role": "office"}).json()["mailed"]
    answers = [notice(to).status_code for _ in range(letters.TO_ONE_RECIPIENT)]
    assert answers == [200] * (letters.TO_ONE_RECIPIENT - 1) + [429]
    assert len(caught()) == letters.TO_ONE_RECIPIENT
    assert notice(f"other-{to}").status_code == 200
    earlier(engine, to, 61)
    assert notice(to).status_code == 200


def test_one_session_sends_so_many_and_a_colleague_still_sends(notice, inspector, supervisor, caught, app):
    _sent(app.state.engine, letters.OF_ONE_SESSION, inspector)
    refused = notice("a@b.example")
    assert (refused.status_code, refused.json()["code"]) == (429, "often")
    assert "Print this one" in refused.json()["message"]
    assert caught() == []
    assert notice("a@b.example", supervisor).status_code == 200


def test_one_firm_sends_so_many(notice, inspector, supervisor, stranger, caught, app):
    _sent(app.state.engine, letters.OF_ONE_FIRM, supervisor)
    assert notice("a@b.example").status_code == 429
    assert notice("c@d.example", supervisor).status_code == 429
    assert caught() == []


def _sent(engine, count, who):
    """So many letters of somebody to all the world."""
    with engine.begin() as connection:
        person = sessions.who(connection, who.http.cookies["dorrik_session"])
    rows = [
        {
            "kind": "confirmation", "at": now(), "recipient_hash": new_id().encode()[:32], "firm_id": person.firm_id,
            "session_id": person.session, "source_hash": None,
        }
        for _ in range(count)
    ]  # fmt: skip
    with engine.begin() as connection:
        connection.execute(insert(letter), rows)


def test_what_the_server_refuses_for_good_costs_nothing(notice, caught):
    to = f"una-{new_id()[-10:]}@refused.example"
    answers = [notice(to) for _ in range(letters.TO_ONE_RECIPIENT + 1)]
    assert {answer.status_code for answer in answers} == {200}
    assert {answer.json()["state"] for answer in answers} == {"failed"}
    assert caught() == []


def test_where_no_mail_is_set_up_links_are_handed_over_as_often_as_wanted(supervisor, inspector, monkeypatch):
    monkeypatch.delenv("DORRIK_SMTP", raising=False)
    found = [supervisor.http.post(f"/api/people/{inspector.me['id']}/link").json() for _ in range(3)]
    assert [one["mailed"] for one in found] == [False] * 3
    assert len({one["link"] for one in found}) == 3


def test_every_route_that_mails_goes_through_the_budget(
    app, notice, supervisor, inspector, place, firm, caught, engine
):
    """A budget that is spent for everybody: no letter leaves, by whichever route."""
    job = _job(inspector)
    routes = {
        "notice": lambda to: notice(to),
        "confirmation": lambda to: inspector.http.post(f"/api/jobs/{job}/confirmation", json={"to": to}),
        "invitation": lambda to: supervisor.http.post(
            "/api/people", json={"name": "Una", "email": to, "role": "office"}
        ),
        "forgotten": lambda to: forgotten(place(), to),
    }
    for name, send in routes.items():
        to = f"{name}-{new_id()[-10:]}@test.example"
        with engine.begin() as connection:
            full = [
                {"kind": "confirmation", "at": now(), "recipient_hash": letters.recipient_key(to)}
                for _ in range(letters.TO_ONE_RECIPIENT)
            ]
            connection.execute(insert(letter), full)
        answer = send(to)
        assert (answer.status_code, answer.json()["code"]) == (429, "often"), name
    assert caught() == []


def _job(who: Inspector) -> str:
    def add(kind, parent, **values):
        return who.http.post(f"/api/register/{kind}", json={"parent_id": parent, "values": values}).json()["id"]

    home = add("property", add("client", who.me["firm_id"], name="Harbour Trust"), address="5 Lookout Row")
    return add("job", home, number=f"J-{new_id()[-6:]}", state="asked")
