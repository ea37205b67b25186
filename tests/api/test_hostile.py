"""Input that no honest client sends: answered in words, never with a failure of ours, and the rest is kept."""

import json
from datetime import UTC, datetime

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from dorrik.core.inspection.kinds import KINDS
from dorrik.store.database.engine import new_id
from tests.examples import examples

SURROGATE = "\ud800"


def post_raw(inspector, inspection, changes):
    """As bytes, since an honest JSON writer would not write some of this."""
    raw = json.dumps({"changes": changes})
    headers = {"Content-Type": "application/json"}
    return inspector.http.post(f"/api/inspections/{inspection}/changes", content=raw, headers=headers)


@pytest.mark.parametrize(
    "spoil",
    [
        {"value": SURROGATE},
        {"value": f"LIM {SURROGATE}"},
        {"value": "LIM \x00"},
        {"value": {SURROGATE: 1}},
        {"entity": SURROGATE},
        {"entity": "ünbekannt"},
        {"field": SURROGATE},
        {"field": "zs_öhm"},
        {"device": SURROGATE},
        {"device": ""},
        {"device": "tab\x00let"},
        {"device": "tab\u202elet"},
        {"made_at": "2199-01-01T00:00:00Z"},
        {"id": SURROGATE},
        {"id": "ü" * 36},
        {"entity_id": "ü" * 36},
        {"value": float("nan")},
        {"value": float("inf")},
        {"value": 10**400},
        {"value": [[[[[]]]]]},
        {"made_at": "yesterday"},
        {"based_on": -1},
        {"based_on": 2**70},
        {"extra": 1},
    ],
    ids=repr,
)
def test_a_spoilt_change_is_refused_alone(inspector, spoil):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    sound = inspector.change("circuit", circuit, "r1_r2_ohm", "0.12")
    answer = post_raw(inspector, inspection, [inspector.change("circuit", circuit, "zs_ohm", "0.4") | spoil, sound])
    assert answer.status_code == 200
    assert [r["state"] for r in answer.json()["results"]] == ["refused", "kept"]
    assert answer.json()["results"][0]["reason"]


@pytest.mark.parametrize("moment", ["0001-01-01T00:00:00+14:00", "1970-01-01T00:00:05Z", "9999-12-31T23:59:59-14:00"])
def test_a_device_whose_clock_is_lost_still_has_its_entries_kept(inspector, moment):
    inspection = inspector.begin()
    inspector.send(inspection, inspector.change("inspection", inspection, "client_name", "A", made_at=moment))
    (entry,) = inspector.http.get(f"/api/inspections/{inspection}/changes", params={"since": 1}).json()["entries"]
    made = datetime.fromisoformat(entry["made_at"])
    assert abs((datetime.now(UTC) - made).total_seconds()) < 60


@pytest.mark.parametrize("identity", ["ünï", "x", "%00", "..%2F..", "x" * 900, "' OR 1=1 --"])
def test_ids_in_addresses_that_are_no_ids(inspector, identity):
    for path in ("/api/inspections/{}", "/api/inspections/{}/reports", "/api/reports/{}.pdf"):
        assert inspector.http.get(path.format(identity)).status_code == 404
    change = inspector.change("inspection", identity[:36], "firm", inspector.me["firm_id"])
    assert post_raw(inspector, identity, [change]).status_code in (404, 405)


@pytest.mark.parametrize("query", [{"entity_id": "ünï", "field": "zs"}, {"entity_id": new_id(), "field": "ö" * 500}])
def test_a_history_of_nothing_is_empty(inspector, query):
    inspection = inspector.begin()
    answer = inspector.http.get(f"/api/inspections/{inspection}/history", params=query)
    assert (answer.status_code, answer.json()) == (200, [])


@pytest.mark.parametrize("body", ["", "{", "[]", "null", '{"changes": 5}', '{"changes": [], "more": 1}', "[" * 50_000])
def test_bodies_that_are_none(inspector, body):
    inspection = inspector.begin()
    answer = inspector.http.post(
        f"/api/inspections/{inspection}/changes", content=body, headers={"Content-Type": "application/json"}
    )
    assert answer.status_code in (400, 413, 422)
    assert answer.json()["message"]


@pytest.mark.parametrize(
    "credentials", [{"email": SURROGATE, "password": "x"}, {"email": "x"}, {"email": "x" * 500, "password": ""}]
)
def test_credentials_that_are_none(inspector, credentials):
    raw = json.dumps(credentials)
    answer = inspector.http.post("/api/session", content=raw, headers={"Content-Type": "application/json"})
    assert answer.status_code == 422
    assert answer.json()["fields"]


ANYTHING = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=30),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=5), inner, max_size=3),
    max_leaves=5,
)
PLACES = [(kind.name, field) for kind in KINDS.values() for field in kind.fields]


@settings(max_examples=examples(60), deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(st.lists(st.tuples(st.sampled_from(PLACES), ANYTHING), min_size=1, max_size=25))
def test_any_value_in_any_field_is_kept_or_refused_and_what_is_kept_reads_back(supervisor, entries):
    inspector = supervisor
    inspection = inspector.begin()
    board, circuit = inspector.board(inspection)
    ids = {"inspection": inspection, "board": board, "circuit": circuit}
    for kind in KINDS.values():
        if kind.name not in ids:
            ids[kind.name] = inspector.add(inspection, kind.name, kind.parent, ids[kind.parent])
    changes = [inspector.change(kind, ids[kind], field, value) for (kind, field), value in entries]
    answer = post_raw(inspector, inspection, changes)
    assert answer.status_code == 200, answer.text
    assert {r["state"] for r in answer.json()["results"]} <= {"kept", "refused"}
    whole = inspector.http.get(f"/api/inspections/{inspection}")
    assert whole.status_code == 200
    assert whole.json()["judgement"] == answer.json()["judgement"]
