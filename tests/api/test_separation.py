"""Signing in, and the wall between firms."""

import pytest
from starlette.testclient import TestClient

from dorrik.store.database.engine import new_id
from tests.api.conftest import Inspector
from tests.api.reviewed import authorise, submit
from tests.conftest import PASSWORD


def test_wrong_password_and_unknown_address_get_the_same_answer(app, firm):
    http = TestClient(app)
    wrong = http.post("/api/session", json={"email": firm.inspector_email, "password": "wrong"})
    unknown = http.post("/api/session", json={"email": "nobody@test.example", "password": "wrong"})
    assert wrong.status_code == unknown.status_code == 401
    assert wrong.json() == unknown.json()


def test_the_cookie_is_out_of_reach_of_scripts_and_of_other_sites(app, firm):
    answer = TestClient(app).post("/api/session", json={"email": firm.inspector_email, "password": PASSWORD})
    cookie = answer.headers["set-cookie"]
    assert "HttpOnly" in cookie
    assert "SameSite=strict" in cookie


def test_ten_failures_make_an_address_wait_and_no_other(app, firm):
    http = TestClient(app)
    for _ in range(10):
        http.post("/api/session", json={"email": firm.inspector_email, "password": "wrong"})
    right = {"email": firm.inspector_email, "password": PASSWORD}
    assert http.post("/api/session", json=right).status_code == 429
    assert http.post("/api/session", json=right | {"email": firm.supervisor_email}).status_code == 200


def test_signing_out_ends_the_session_on_the_server(inspector):
    cookie = inspector.http.cookies["dorrik_session"]
    assert inspector.http.delete("/api/session").status_code == 204
    inspector.http.cookies.set("dorrik_session", cookie)
    assert inspector.http.get("/api/session").json() is None
    assert inspector.http.get("/api/home").status_code == 401


def test_a_session_that_ended_keeps_nothing_and_says_so(inspector):
    inspection = inspector.begin()
    change = inspector.change("inspection", inspection, "client_name", "Kept later")
    cookie = inspector.http.cookies["dorrik_session"]
    inspector.http.cookies.clear()
    answer = inspector.http.post(f"/api/inspections/{inspection}/changes", json={"changes": [change]})
    assert answer.status_code == 401
    assert "nothing you typed is lost" in answer.json()["message"]
    inspector.http.cookies.set("dorrik_session", cookie)
    assert inspector.send(inspection, change)["results"][0]["state"] == "kept"


@pytest.mark.parametrize(
    "headers",
    [
        {"Sec-Fetch-Site": "cross-site"},
        {"Sec-Fetch-Site": "same-site"},
        {"Origin": "https://elsewhere.example"},
        {"Origin": "null"},
    ],
)
def test_posts_from_other_sites_are_refused(app, firm, headers):
    http = TestClient(app)
    answer = http.post("/api/session", json={"email": firm.inspector_email, "password": PASSWORD}, headers=headers)
    assert answer.status_code == 403
    assert "dorrik_session" not in answer.cookies


def test_a_body_too_large(inspector):
    answer = inspector.http.post("/api/session", content=b"x" * 2_000_001)
    assert answer.status_code == 413


@pytest.mark.parametrize(
    "path",
    [
        "/api/inspections/{id}",
        "/api/inspections/{id}/changes?since=0",
        "/api/inspections/{id}/history?entity_id=x&field=zs_ohm",
        "/api/inspections/{id}/preview",
        "/api/inspections/{id}/reports",
        "/api/inspections/{id}/review",
    ],
)
def test_another_firms_inspection_is_not_there(inspector, stranger, path):
    """The answer is the same, to the letter, as for an id that nobody has."""
    theirs = stranger.http.get(path.format(id=inspector.begin()))
    nobodys = stranger.http.get(path.format(id=new_id()))
    assert theirs.status_code == nobodys.status_code == 404
    assert theirs.json() == nobodys.json()


def test_another_firms_inspection_cannot_be_written_or_taken_over(app, inspector, stranger, other_firm):
    inspection = inspector.begin()
    post = f"/api/inspections/{inspection}/changes"
    write = stranger.change("inspection", inspection, "client_name", "Mine now")
    make = stranger.change("inspection", inspection, "firm", stranger.me["firm_id"])
    theirs = stranger.change("inspection", inspection, "firm", inspector.me["firm_id"])
    for changes in ([write], [make, write], [theirs, write]):
        assert stranger.http.post(post, json={"changes": changes}).status_code == 404
    assert "client_name" not in inspector.values(inspection, inspection)
    their_supervisor = Inspector(app, other_firm.supervisor_email)
    for answer in (submit(stranger, inspection, 1), authorise(their_supervisor, inspection, 1)):
        assert answer.status_code == 404


def test_an_inspection_cannot_be_begun_for_another_firm(inspector, stranger):
    inspection = new_id()
    make = stranger.change("inspection", inspection, "firm", inspector.me["firm_id"])
    answer = stranger.http.post(f"/api/inspections/{inspection}/changes", json={"changes": [make]})
    assert answer.status_code == 404


def test_lists_show_ones_own_firm_only(inspector, stranger):
    inspection = inspector.begin()
    assert [line["id"] for line in inspector.http.get("/api/home").json()["in_hand"]] == [inspection]
    assert stranger.http.get("/api/home").json()["in_hand"] == []


@pytest.mark.parametrize("path", ["/api/home", "/api/reference", "/api/reports/x.pdf", "/api/inspections/x"])
def test_nothing_is_told_without_signing_in(app, path):
    assert TestClient(app).get(path).status_code == 401


def test_an_address_that_is_none(inspector):
    assert inspector.http.get("/api/nothing").json()["code"] == "not-found"
