"""When something was read, as far as the rules ask for it: the journal knows, on the server and on a device alike."""

import json

import pytest

from tests.api.test_device_verdicts import assert_same, opened

LEFT = "2026-11-03T10:00:00Z"
BEFORE, AFTER = "2026-11-03T09:00:00Z", "2026-11-03T11:00:00Z"


@pytest.fixture
def home(inspector):
    """A board with a circuit that was left disconnected, with a point and a device."""
    inspection = inspector.begin()
    board, circuit = inspector.board(inspection)
    point = inspector.add(inspection, "point", "circuit", circuit, name="Island", kind="socket")
    return inspection, {"board": board, "circuit": circuit, "point": point}


def leave(inspector, inspection, about, about_id):
    inspector.add(
        inspection, "set_aside", "inspection", inspection, about_entity=about, about_id=about_id,
        state="left disconnected", agreed_with="Hester Vane", since=LEFT,
    )  # fmt: skip


def read(inspector, home, kind, field, at):
    inspection, ids = home
    return inspector.send(inspection, inspector.change(kind, ids[kind], field, "0.44", made_at=at))


def asked_about(judgement):
    return {
        (note["id"], note["field"])
        for note in judgement["notes"]
        if note["reason"].startswith("Left disconnected, and read live after that")
    }


@pytest.mark.parametrize(("kind", "field"), [("circuit", "zs_ohm"), ("circuit", "live_r1_r2_ohm"), ("point", "zs_ohm")])
def test_what_was_read_live_after_it_was_left_disconnected_is_asked_about(inspector, home, kind, field):
    inspection, ids = home
    read(inspector, home, kind, field, BEFORE)
    leave(inspector, inspection, "circuit", ids["circuit"])
    _, here, there = opened(inspector, inspection)
    assert_same(here, there)
    assert asked_about(there) == set()

    judged = read(inspector, home, kind, field, AFTER)["judgement"]
    assert asked_about(judged) == {(ids[kind], field)}
    assert any(a["kind"] == "question" and a["entity_id"] == ids[kind] for a in judged["against"])
    _, here, there = opened(inspector, inspection)
    assert_same(here, there)
    assert asked_about(there) == {(ids[kind], field)}


def test_a_device_notices_it_by_itself(inspector, home):
    inspection, ids = home
    leave(inspector, inspection, "point", ids["point"])
    judge, _, _ = opened(inspector, inspection)
    late = inspector.change("point", ids["point"], "zs_ohm", "0.44", made_at=AFTER)
    judge.answer("write", json.dumps({"changes": [late], "now": AFTER}))
    assert asked_about(json.loads(judge.answer("whole", "{}"))["judgement"]) == {(ids["point"], "zs_ohm")}


def test_a_device_on_a_board_that_was_left_disconnected_cannot_have_tripped_since(inspector, home):
    inspection, ids = home
    rcd = inspector.add(inspection, "rcd", "board", ids["board"], name="Left side", rated_ma=30)
    leave(inspector, inspection, "board", ids["board"])
    judged = inspector.send(inspection, inspector.change("rcd", rcd, "trip_ms", "22", made_at=AFTER))["judgement"]
    assert asked_about(judged) == {(rcd, "trip_ms")}


def test_what_came_from_elsewhere_has_no_time_here(inspector, supervisor, home):
    """It was read before it was left disconnected, or not: that is not known where it is taken in."""
    inspection, ids = home
    read(inspector, home, "circuit", "zs_ohm", BEFORE)
    leave(inspector, inspection, "circuit", ids["circuit"])
    document = supervisor.http.get(f"/api/inspections/{inspection}/document.json").content
    (taken,) = supervisor.http.post("/api/import", content=document).json()["inspections"]
    _, here, there = opened(supervisor, taken["id"])
    assert_same(here, there)
    assert [aside["in_force"] for aside in there["set_aside"]] == [True]
    assert asked_about(there) == set()


def test_what_was_kept_otherwise_than_it_was_sent_is_told(inspector, home):
    inspection, ids = home
    sent = [
        ("isolated_at", "2026-11-03T10:00:00.721+01:00", {"value": "2026-11-03T09:00:00Z"}),
        ("name", "  Board 2 ", {"value": "Board 2"}),
        ("location", "   ", {"value": None}),
        ("main_switch_a", " 63,0", {"value": 63.0}),
        ("zdb_ohm", "0.20", None),
        ("ways", 12, None),
    ]
    changes = [inspector.change("board", ids["board"], field, value) for field, value, _ in sent]
    first = inspector.send(inspection, *changes)["results"]
    again = inspector.send(inspection, *changes)["results"]
    for state, results in (("kept", first), ("already", again)):
        assert [(r["state"], r["as_kept"]) for r in results] == [(state, as_kept) for *_, as_kept in sent]
    refused = inspector.change("board", ids["board"], "main_switch_a", "many")
    assert [r["as_kept"] for r in inspector.send(inspection, refused)["results"]] == [None]
