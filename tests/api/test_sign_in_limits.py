"""Guessing slows down; the owner gets in."""

from datetime import timedelta

import pyotp
import pytest
from hypothesis import given
from hypothesis import strategies as st
from sqlalchemy import insert, select, update
from starlette.testclient import TestClient

from dorrik.api import cookies
from dorrik.store.database.account_tables import sign_in_failure
from dorrik.store.database.engine import now
from dorrik.store.people import attempts, devices, links, people
from dorrik.store.people.attempts import PAIR, delay_s, source_of
from dorrik.store.people.people import address_key
from tests.conftest import PASSWORD


def client(app, address):
    return TestClient(app, client=(address, 5000), headers={"Sec-Fetch-Site": "same-origin"})


def guess(http, email, password="guess at it", code=None):
    return http.post("/api/session", json={"email": email, "password": password, "code": code})


@pytest.fixture
def attacked(app, firm):
    """Somebody at 192.0.2.x has guessed until they were made to wait; each test has a source of its own."""
    http = client(app, f"192.0.2.{hash(firm.id) % 250 + 1}")
    codes = [guess(http, firm.inspector_email).status_code for _ in range(PAIR.free + 1)]
    assert codes == [401] * PAIR.free + [429]
    return http


def test_an_attacker_waits_even_with_the_right_password_and_is_told_how_long(attacked, firm):
    answer = guess(attacked, firm.inspector_email, PASSWORD)
    assert answer.status_code == 429
    assert int(answer.headers["retry-after"]) == answer.json()["wait_s"] > 0


def test_the_owner_gets_in_from_elsewhere(app, attacked, firm):
    assert guess(client(app, "198.51.100.7"), firm.inspector_email, PASSWORD).status_code == 200


def test_the_owner_gets_in_by_a_mailed_link(attacked, firm, engine):
    with engine.begin() as connection:
        token = links.make(connection, "reset", people.by_address(connection, firm.inspector_email).id)
    assert attacked.post("/api/links/use", json={"token": token, "password": "a wholly new one"}).status_code == 200
    assert guess(attacked, firm.inspector_email, "a wholly new one").status_code == 200


def test_a_colleague_at_the_same_place_is_not_held_up(attacked, firm):
    assert guess(attacked, firm.supervisor_email, PASSWORD).status_code == 200


def test_waiting_helps_and_waiting_too_little_is_not_held_against_anybody(attacked, firm, engine):
    for _ in range(3):
        assert guess(attacked, firm.inspector_email, PASSWORD).status_code == 429
    with engine.begin() as connection:
        connection.execute(update(sign_in_failure).values(at=now() - timedelta(seconds=PAIR.first_s + 1)))
    assert guess(attacked, firm.inspector_email, PASSWORD).status_code == 200


@pytest.fixture
def crowded(firm, engine):
    """Many machines have tried one address, each a few times."""
    key = attempts._digest(address_key(firm.inspector_email))
    rows = [{"email_hash": key, "source_hash": bytes([n]) * 32, "at": now()} for n in range(attempts.ACCOUNT.free + 3)]
    with engine.begin() as connection:
        connection.execute(insert(sign_in_failure), rows)


def test_many_machines_that_try_one_address_are_slowed(app, firm, crowded):
    http = client(app, "203.0.113.5")
    assert guess(http, firm.inspector_email, PASSWORD).status_code == 429
    # A code is no way round it.
    assert guess(http, firm.inspector_email, PASSWORD, code="000000").status_code == 429


def with_second_factor(inspector):
    """Somebody who is asked for codes; their device, and the recovery codes."""
    secret = inspector.http.post("/api/account/second-factor", json={"password": PASSWORD}).json()["secret"]
    answer = inspector.http.post("/api/account/second-factor/confirm", json={"code": pyotp.TOTP(secret).now()})
    return pyotp.TOTP(secret), answer.json()["codes"]


@pytest.mark.parametrize("code", [None, "000000", "123456", "abcdefghjk", " ", "١٢٣٤٥٦", "0" * 40])
@pytest.mark.parametrize("asked", [False, True], ids=["one factor", "two factors"])
def test_whatever_comes_with_a_wrong_password_it_counts(place, firm, inspector, asked, code):
    """A hundred guesses from a hundred places: those over the limit of the account are not looked at."""
    if asked:
        with_second_factor(inspector)
    answers = [guess(place(), firm.inspector_email, code=code).status_code for _ in range(100)]
    assert answers[: attempts.ACCOUNT.free + 1] == [401] * attempts.ACCOUNT.free + [429]
    # On a slow machine the delay goes by, and one more is looked at.
    assert answers.count(401) <= attempts.ACCOUNT.free + 3 and set(answers) == {401, 429}


@pytest.mark.parametrize("asked", [False, True], ids=["one factor", "two factors"])
def test_the_owner_gets_in_past_them_from_a_device_that_is_known(app, engine, place, firm, inspector, asked):
    own = place()
    assert guess(own, firm.inspector_email, PASSWORD).status_code == 200
    own.delete("/api/session")
    codes = with_second_factor(inspector)[1] if asked else [None]
    for _ in range(attempts.ACCOUNT.free + 5):
        guess(place(), firm.inspector_email, code="000000")
    # In the owner's own house, too, somebody has guessed.
    house = TestClient(app, client=own._transport.client, headers={"Sec-Fetch-Site": "same-origin"})
    for n in range(attempts.SOURCE.free):
        attempts.begin(engine, f"nobody{n}@test.example", source_of(own._transport.client[0]))
    assert guess(house, firm.inspector_email, PASSWORD).status_code == 429
    assert guess(own, firm.inspector_email, PASSWORD, codes[0]).status_code == 200


def test_on_a_known_device_guesses_count_as_well(place, firm):
    own = place()
    assert guess(own, firm.inspector_email, PASSWORD).status_code == 200
    answers = [guess(own, firm.inspector_email).status_code for _ in range(PAIR.free + 1)]
    assert answers == [401] * PAIR.free + [429]


def test_a_device_that_is_known_to_be_somebody_elses_is_none(place, firm):
    """Whoever has an account here has a device; with it the account of another is guessed at no faster."""
    own = place()
    assert guess(own, firm.supervisor_email, PASSWORD).status_code == 200
    answers = []
    for _ in range(attempts.ACCOUNT.free + 1):
        elsewhere = place()
        elsewhere.cookies.set(cookies.DEVICE, own.cookies[cookies.DEVICE])
        answers.append(guess(elsewhere, firm.inspector_email).status_code)
    assert answers[-1] == 429


def test_a_device_is_known_no_more_once_a_password_was_changed(place, firm, engine):
    own = place()
    assert guess(own, firm.inspector_email, PASSWORD).status_code == 200
    token = own.cookies[cookies.DEVICE]
    change = {"old": PASSWORD, "new": "quite another one"}
    assert own.put("/api/account/password", json=change).status_code == 200
    assert own.cookies[cookies.DEVICE] != token
    with engine.connect() as connection:
        person = people.by_address(connection, firm.inspector_email)
        assert devices.find(connection, token, person.id) is None
        assert devices.find(connection, own.cookies[cookies.DEVICE], person.id) is not None


def test_a_planted_device_is_not_taken_over(place, firm):
    own = place()
    own.cookies.set(cookies.DEVICE, "planted" * 6)
    assert guess(own, firm.inspector_email, PASSWORD).status_code == 200
    assert "planted" * 6 not in {cookie.value for cookie in own.cookies.jar if cookie.domain != ""}


def test_a_tablet_that_two_share_is_known_to_both(place, firm, engine):
    own = place()
    for email in (firm.inspector_email, firm.supervisor_email, firm.inspector_email):
        assert guess(own, email, PASSWORD).status_code == 200
    with engine.connect() as connection:
        for email in (firm.inspector_email, firm.supervisor_email):
            person = people.by_address(connection, email)
            assert devices.find(connection, own.cookies[cookies.DEVICE], person.id) is not None


def test_codes_are_not_guessed_by_giving_the_right_password_in_between(place, firm, inspector):
    """Whoever has the password and not the device: codes count by themselves, from wherever they come."""
    with_second_factor(inspector)
    answers = []
    for n in range(attempts.CODE.free + 2):
        http = place()
        answers.append(guess(http, firm.inspector_email, PASSWORD, f"{n:06d}").status_code)
        assert guess(http, firm.inspector_email, PASSWORD).status_code == 401
    assert answers == [401] * attempts.CODE.free + [429] * 2


def test_a_right_code_ends_the_count_of_its_place(place, firm, inspector):
    _, codes = with_second_factor(inspector)
    http = place()
    for n in range(attempts.CODE.free - 1):
        assert guess(http, firm.inspector_email, PASSWORD, f"{n:06d}").status_code == 401
    assert guess(http, firm.inspector_email, PASSWORD, codes[0]).status_code == 200
    assert guess(http, firm.inspector_email, PASSWORD, "000000").status_code == 401


def test_forty_codes_a_day_are_looked_at_and_no_more():
    """After the free ones each waits twice as long, at most an hour: what a day has room for."""
    at, tries = 0.0, 0
    while at < 86_400:
        tries += 1
        at += delay_s(tries, attempts.CODE)
    assert tries <= 40


def test_one_source_that_tries_many_addresses_is_slowed(app, engine):
    source = "203.0.113.77"
    rows = [
        {"email_hash": bytes([n]) * 32, "source_hash": attempts._digest(source.encode()), "at": now()}
        for n in range(attempts.SOURCE.free)
    ]
    with engine.begin() as connection:
        connection.execute(insert(sign_in_failure), rows)
    assert guess(client(app, source), "anybody@test.example").status_code == 429


def test_tries_at_once_count_together(engine, firm):
    """Each is written down before its password is looked at."""
    made = [attempts.begin(engine, firm.inspector_email, "198.51.100.9") for _ in range(PAIR.free)]
    with pytest.raises(attempts.Wait):
        attempts.begin(engine, firm.inspector_email, "198.51.100.9")
    attempts.right(engine, made[0])
    attempts.begin(engine, firm.inspector_email, "198.51.100.9")


def test_old_failures_are_cleaned_away(engine, firm):
    with engine.begin() as connection:
        old = {"email_hash": b"o" * 32, "source_hash": b"o" * 32, "at": now() - attempts.KEPT - timedelta(minutes=1)}
        connection.execute(insert(sign_in_failure).values(**old))
    attempts.begin(engine, firm.inspector_email, "198.51.100.10")
    with engine.connect() as connection:
        left = connection.execute(select(sign_in_failure.c.id).where(sign_in_failure.c.email_hash == b"o" * 32)).all()
    assert left == []


def test_an_address_is_compared_letter_by_letter(app, supervisor):
    """The collation of a table takes é for e; a person's address is not that of another."""
    from dorrik.store.database.engine import new_id

    tag = new_id()[-8:]
    for name in (f"jose{tag}", f"josé{tag}"):
        answer = supervisor.http.post(
            "/api/people", json={"name": name, "email": f"{name}@test.example", "role": "office"}
        )
        assert answer.status_code == 201, answer.text
    twice = {"name": "x", "email": f"JOSE\u0301{tag}@TEST.example", "role": "office"}
    assert supervisor.http.post("/api/people", json=twice).status_code == 422
    assert address_key(f"jose\u0301{tag}@test.example") == address_key(f" JOSÉ{tag}@test.EXAMPLE")


@pytest.mark.parametrize("email", ["", "x" * 400, "\x00", "ſ@test.example", "a@b@c", "＠"])
def test_addresses_that_are_none_get_the_answer_of_unknown_ones(app, email):
    assert guess(client(app, "198.51.100.11"), email).status_code == 401


def test_the_delay_doubles_up_to_a_quarter_of_an_hour():
    assert [delay_s(n, PAIR) for n in (0, 4, 5, 6, 7, 8)] == [0, 0, 2, 4, 8, 16]
    assert delay_s(500, PAIR) == 900


@given(st.ip_addresses(v=4).map(str))
def test_addresses_of_the_fourth_version_count_each(address):
    assert source_of(address) == address


def test_of_the_sixth_version_the_network_of_a_customer_counts():
    assert source_of("2001:db8:1:2::3") == source_of("2001:db8:1:2:ffff::9") == "2001:db8:1:2::/64"
    assert source_of("::ffff:192.0.2.1") == "192.0.2.1" and source_of("testclient") == "testclient"
