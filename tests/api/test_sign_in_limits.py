"""Guessing slows down; the owner gets in."""

from datetime import timedelta

import pyotp
import pytest
from hypothesis import given
from hypothesis import strategies as st
from sqlalchemy import insert, select, update
from starlette.testclient import TestClient

from dorrik.store import attempts, links
from dorrik.store.account_tables import sign_in_failure
from dorrik.store.attempts import PAIR, delay_s, source_of
from dorrik.store.engine import now
from dorrik.store.people import address_key
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
    from dorrik.store import people

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
    rows = [{"email_hash": key, "source_hash": bytes([n]) * 32, "at": now()} for n in range(attempts.ADDRESS.free + 3)]
    with engine.begin() as connection:
        connection.execute(insert(sign_in_failure), rows)


def test_many_machines_that_try_one_address_are_slowed(app, firm, crowded):
    http = client(app, "203.0.113.5")
    assert guess(http, firm.inspector_email, PASSWORD).status_code == 429
    # A code is no way round it where none is asked for.
    assert guess(http, firm.inspector_email, PASSWORD, code="000000").status_code == 429


def test_the_owner_gets_in_past_them_with_the_second_factor(app, firm, inspector, crowded):
    secret = inspector.http.post("/api/account/second-factor", json={"password": PASSWORD}).json()["secret"]
    codes = inspector.http.post("/api/account/second-factor/confirm", json={"code": pyotp.TOTP(secret).now()}).json()[
        "codes"
    ]
    assert guess(client(app, "203.0.113.6"), firm.inspector_email, PASSWORD, codes[0]).status_code == 200


def test_codes_are_not_guessed_by_asking_for_them_in_between(app, firm, inspector):
    """Whoever has the password and not the device: the right password does not wipe out the codes that were wrong."""
    secret = inspector.http.post("/api/account/second-factor", json={"password": PASSWORD}).json()["secret"]
    inspector.http.post("/api/account/second-factor/confirm", json={"code": pyotp.TOTP(secret).now()})
    http = client(app, "203.0.113.8")
    statuses = []
    for n in range(PAIR.free + 2):
        statuses.append(guess(http, firm.inspector_email, PASSWORD, f"{n:06d}").status_code)
        guess(http, firm.inspector_email, PASSWORD)
    assert statuses[-1] == 429


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
    numbers = [
        attempts.begin(engine, firm.inspector_email, "198.51.100.9", second_factor=False) for _ in range(PAIR.free)
    ]
    with pytest.raises(attempts.Wait):
        attempts.begin(engine, firm.inspector_email, "198.51.100.9", second_factor=False)
    attempts.right(engine, numbers[0], firm.inspector_email, "198.51.100.9")
    attempts.begin(engine, firm.inspector_email, "198.51.100.9", second_factor=False)


def test_old_failures_are_cleaned_away(engine, firm):
    with engine.begin() as connection:
        old = {"email_hash": b"o" * 32, "source_hash": b"o" * 32, "at": now() - attempts.KEPT - timedelta(minutes=1)}
        connection.execute(insert(sign_in_failure).values(**old))
    attempts.begin(engine, firm.inspector_email, "198.51.100.10", second_factor=False)
    with engine.connect() as connection:
        left = connection.execute(select(sign_in_failure.c.id).where(sign_in_failure.c.email_hash == b"o" * 32)).all()
    assert left == []


def test_an_address_is_compared_letter_by_letter(app, supervisor):
    """The collation of a table takes é for e; a person's address is not that of another."""
    from dorrik.store.engine import new_id

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
