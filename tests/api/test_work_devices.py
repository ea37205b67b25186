"""Devices that people work on, and one that was lost: its sessions end, and what waited there is named."""

import base64
import secrets

import pytest
from starlette.testclient import TestClient

from dorrik.api import cookies
from dorrik.store.database.engine import new_id
from tests.api.conftest import Inspector
from tests.api.places import new_place


def key():
    return base64.b64encode(secrets.token_bytes(32)).decode()


def known(who, device=None, signs=None):
    """Make a device known; its id."""
    device = device or new_id()
    answer = who.http.put(f"/api/devices/{device}", json={"name": "Tablet, Chromium", "key": signs or key()})
    assert answer.status_code == 200, answer.text
    return device


def waits(who, device, *changes, photos=()):
    entries = [
        {"inspection_id": inspection, **{n: c[n] for n in ("id", "entity", "entity_id", "field", "made_at")}}
        for inspection, c in changes
    ]
    return who.http.put(f"/api/devices/{device}/waiting", json={"entries": entries, "photos": list(photos)})


def listed(who, device, path="/api/devices/of-the-firm"):
    return next(d for d in who.http.get(path).json() if d["id"] == device)


def fates(who, device, person):
    answer = who.http.get(f"/api/devices/{device}/of/{person}/waiting")
    assert answer.status_code == 200, answer.text
    return [(one["what"], one["inspection"], one["fate"]) for one in answer.json()]


def end(who, device, person):
    return who.http.post(f"/api/devices/{device}/of/{person}/end")


def test_a_lost_device_is_ended_and_what_waited_there_is_named(inspector, supervisor):
    inspection = inspector.begin()
    inspector.send(inspection, inspector.change("inspection", inspection, "reference", f"K-{new_id()[-8:]}"))
    _, circuit = inspector.board(inspection)
    device, me = known(inspector), inspector.me["id"]
    arrives = inspector.change("circuit", circuit, "zs_ohm", "0.4")
    lost = inspector.change("circuit", circuit, "r1_r2_ohm", "0.2")
    photo = {"sha256": secrets.token_hex(32), "inspection_id": inspection}
    assert waits(inspector, device, (inspection, arrives), (inspection, lost), photos=[photo]).status_code == 204
    assert listed(supervisor, device)["waiting"] == 3
    inspector.send(inspection, arrives)
    assert listed(supervisor, device)["waiting"] == 2

    assert end(supervisor, device, me).status_code == 204
    assert inspector.http.get("/api/home").status_code == 401
    assert listed(supervisor, device)["ended_at"]
    reference = inspector_reference(supervisor, inspection)
    assert fates(supervisor, device, me) == [
        ("Zs", reference, "arrived"),
        ("R1+R2", reference, "not arrived"),
        ("Photo", reference, "not arrived"),
    ]
    assert end(supervisor, device, me).status_code == 409


def inspector_reference(who, inspection):
    return who.values(inspection, inspection)["reference"]


def test_only_sessions_on_the_device_end(app, firm, inspector, supervisor):
    elsewhere = Inspector(app, firm.inspector_email, "phone")
    device = known(inspector)
    known(elsewhere)
    assert end(supervisor, device, inspector.me["id"]).status_code == 204
    assert inspector.http.get("/api/home").status_code == 401
    assert elsewhere.http.get("/api/home").status_code == 200


def test_a_device_that_is_found_again_needs_another_key(app, firm, inspector, supervisor):
    signs = key()
    device = known(inspector, signs=signs)
    end(supervisor, device, inspector.me["id"])
    again = Inspector(app, firm.inspector_email)
    refused = again.http.put(f"/api/devices/{device}", json={"name": "Tablet", "key": signs})
    assert refused.status_code == 409 and refused.json()["code"] == "ended"
    known(again, device)
    assert listed(supervisor, device)["ended_at"] is None


def test_one_ends_ones_own_and_nobody_elses(inspector, supervisor, office):
    device = known(office)
    assert inspector.http.get("/api/devices/of-the-firm").status_code == 403
    assert end(inspector, device, office.me["id"]).status_code == 403
    assert inspector.http.post(f"/api/devices/{device}/end").status_code == 404
    assert listed(office, device, "/api/devices")["person"] == office.me["name"]
    assert office.http.post(f"/api/devices/{device}/end").status_code == 204


def test_a_device_that_two_people_use_is_known_for_each(inspector, supervisor):
    device = known(inspector)
    known(supervisor, device)
    assert end(supervisor, device, inspector.me["id"]).status_code == 204
    assert supervisor.http.get("/api/home").status_code == 200


def test_a_device_that_is_not_known_is_told_so(inspector, stranger):
    assert waits(inspector, new_id()).status_code == 404
    device = known(inspector)
    assert waits(stranger, device).status_code == 404


@pytest.mark.parametrize(
    ("field", "value"),
    [("key", "short"), ("key", base64.b64encode(b"x" * 31).decode()), ("name", ""), ("name", "x" * 81)],
)
def test_what_is_no_device_is_told_at_its_field(inspector, field, value):
    given = {"name": "Tablet", "key": key()} | {field: value}
    answer = inspector.http.put(f"/api/devices/{new_id()}", json=given)
    assert answer.status_code == 422
    assert field in answer.json()["fields"][0]["field"] if answer.json().get("fields") else answer.text


def test_nobody_is_told_anything_without_a_session(app):
    http = TestClient(app, client=new_place(), headers={"Sec-Fetch-Site": "same-origin"})
    http.cookies.set(cookies.SESSION, "nothing")
    for path in ("/api/devices", f"/api/devices/{new_id()}/of/{new_id()}/waiting"):
        assert http.get(path).status_code == 401


def test_a_browser_that_cleared_its_storage_is_told_what_is_gone(inspector):
    inspection = inspector.begin()
    device = known(inspector)
    waiting = [inspector.change("inspection", inspection, name, "x") for name in ("condition", "extent")]
    waits(inspector, device, *((inspection, change) for change in waiting))
    inspector.send(inspection, waiting[0])
    told = inspector.http.put(f"/api/devices/{new_id()}", json={"name": "Tablet", "key": key()}).json()
    assert told["gone"] == 1 and told["heard_at"]
    # The same device anew has lost nothing but its key.
    again = new_id()
    known(inspector, again)
    assert inspector.http.put(f"/api/devices/{again}", json={"name": "Tablet", "key": key()}).json()["gone"] == 0
