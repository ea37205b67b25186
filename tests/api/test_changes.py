"""Changes: kept one by one, refused one by one, applied once, with everyone told."""

import pytest
from sqlalchemy import delete

from dorrik.journal.apply import RowGone
from dorrik.store.database.engine import new_id
from dorrik.store.database.tables import ENTITIES


def states(receipt):
    return [r["state"] for r in receipt["results"]]


def test_a_field_is_kept_with_its_history(inspector):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    for value in ("0.19", "0,21"):
        receipt = inspector.send(inspection, inspector.change("circuit", circuit, "r1_r2_ohm", value))
        assert states(receipt) == ["kept"]
    assert inspector.values(inspection, circuit)["r1_r2_ohm"] == "0,21"
    history = inspector.http.get(
        f"/api/inspections/{inspection}/history", params={"entity_id": circuit, "field": "r1_r2_ohm"}
    ).json()
    assert [(h["value"], h["before"], h["author"]) for h in history] == [
        ("0,21", "0.19", "Ines Pector"),
        ("0.19", None, "Ines Pector"),
    ]
    assert history[0]["seq"] == receipt["seq"]


def test_a_reading_says_with_which_instrument_it_was_taken(inspector):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    used = new_id()
    inspector.send(
        inspection,
        inspector.change("instrument_used", used, "inspection", inspection),
        inspector.change("instrument_used", used, "serial", "MF-20771"),
    )
    reading = inspector.change("circuit", circuit, "zs_ohm", "0.31") | {"instrument_id": used}
    shown = reading | {"id": new_id(), "value": "0.32", "read_at": "2026-11-03T09:40:00Z"}
    assert states(inspector.send(inspection, reading, shown)) == ["kept", "kept"]
    asked = {"entity_id": circuit, "field": "zs_ohm"}
    history = inspector.http.get(f"/api/inspections/{inspection}/history", params=asked).json()
    assert [(h["instrument_id"], h["read_at"]) for h in history] == [(used, "2026-11-03T09:40:00Z"), (used, None)]

    # One that is not of this inspection, or no instrument at all, is not believed; nothing else is lost by it.
    for wrong in (new_id(), circuit, "x", ""):
        receipt = inspector.send(
            inspection,
            inspector.change("circuit", circuit, "zs_ohm", "0.5") | {"instrument_id": wrong},
            inspector.change("circuit", circuit, "r1_r2_ohm", "0.2"),
        )
        assert states(receipt) == ["refused", "kept"], wrong
        assert "instrument" in receipt["results"][0]["reason"]


def test_every_kind_of_field_comes_back_as_it_was_kept(inspector):
    inspection = inspector.begin()
    board, _ = inspector.board(inspection)
    given = {
        "inspected_on": "2026-11-03",
        "tails_mm2": 25.0,
        "next_years": 5,
        "ze_parallel_removed": True,
        "extent": "Everything, including the net loft.\nExcept the boat shed: “locked” – Ω ≥ 1",
        "ze_ohm": ">1,5",
    }
    inspector.send(inspection, *(inspector.change("inspection", inspection, f, v) for f, v in given.items()))
    inspector.send(inspection, inspector.change("board", board, "isolated_at", "2026-11-03T09:40:00Z"))
    assert inspector.values(inspection, inspection) | given == inspector.values(inspection, inspection)
    assert inspector.values(inspection, board)["isolated_at"] == "2026-11-03T09:40:00Z"


def test_the_same_batch_sent_twice_is_applied_once(inspector):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    batch = [inspector.change("circuit", circuit, "zs_ohm", v) for v in ("0.31", "0.32")]
    first = inspector.send(inspection, *batch)
    again = inspector.send(inspection, *batch)
    assert states(first) == ["kept", "kept"]
    assert states(again) == ["already", "already"]
    assert [r["seq"] for r in again["results"]] == [r["seq"] for r in first["results"]]
    assert again["seq"] == first["seq"]
    assert inspector.values(inspection, circuit)["zs_ohm"] == "0.32"


def test_a_resend_also_holds_for_what_made_the_entities(inspector):
    inspection = new_id()
    board = new_id()
    batch = [
        inspector.change("inspection", inspection, "firm", inspector.me["firm_id"]),
        inspector.change("board", board, "inspection", inspection),
        inspector.change("board", board, "name", "Board 1"),
    ]
    assert states(inspector.send(inspection, *batch)) == ["kept"] * 3
    assert states(inspector.send(inspection, *batch)) == ["already"] * 3


def test_a_resend_that_claims_to_have_seen_itself(inspector):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    change = inspector.change("circuit", circuit, "zs_ohm", "0.31")
    seq = inspector.send(inspection, change)["seq"]
    assert states(inspector.send(inspection, change | {"based_on": seq})) == ["already"]
    assert states(inspector.send(inspection, change | {"based_on": seq, "value": "0.9"})) == ["refused"]
    assert inspector.values(inspection, circuit)["zs_ohm"] == "0.31"


def test_one_id_with_other_content_is_refused(inspector):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    change = inspector.change("circuit", circuit, "zs_ohm", "0.31")
    inspector.send(inspection, change)
    receipt = inspector.send(inspection, change | {"value": "0.99"})
    assert states(receipt) == ["refused"]
    assert "other content" in receipt["results"][0]["reason"]
    # The same within one batch.
    fresh = inspector.change("circuit", circuit, "zs_ohm", "0.40")
    assert states(inspector.send(inspection, fresh, fresh | {"value": "0.41"}, fresh)) == ["kept", "refused", "already"]
    assert inspector.values(inspection, circuit)["zs_ohm"] == "0.40"


@pytest.mark.parametrize(
    ("entity", "field", "value", "told"),
    [
        ("circuit", "zs_ohm", "1..4", "decimal mark"),
        ("circuit", "zs_ohm", "-3", "negative"),
        ("circuit", "zs_ohm", "abc", "not a reading"),
        ("circuit", "zs_ohm", ">>5", "one bound sign"),
        ("circuit", "zs_ohm", "x" * 10_000, "10000 characters"),
        ("circuit", "designation", "x" * 10_000, "at most 80"),
        ("circuit", "colour", "red", "not a field"),
        ("lamp", "zs_ohm", "0.4", "no entity"),
        ("circuit", "device_rating_a", {"a": [1]}, "enter a number"),
        ("circuit", "zs_ohm", ["0.4"], "as text"),
        ("board", "zdb_ohm", "0.2", "belongs to a circuit"),
        ("circuit", "board", "nowhere", "has no such board"),
    ],
)
def test_bad_input_is_told_at_its_place_and_the_rest_is_kept(inspector, entity, field, value, told):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    receipt = inspector.send(
        inspection,
        inspector.change("circuit", circuit, "r1_r2_ohm", "0.12"),
        inspector.change(entity, circuit, field, value),
        inspector.change("circuit", circuit, "polarity", "correct"),
    )
    assert states(receipt) == ["kept", "refused", "kept"]
    assert told in receipt["results"][1]["reason"]
    assert inspector.values(inspection, circuit)["polarity"] == "correct"


def test_a_date_in_1890(inspector):
    inspection = inspector.begin()
    receipt = inspector.send(inspection, inspector.change("inspection", inspection, "inspected_on", "1890-05-01"))
    assert "1890" in receipt["results"][0]["reason"]


@pytest.mark.parametrize(
    "broken",
    [
        {"id": "x"},
        "nonsense",
        None,
        {"id": "y", "entity": "circuit", "entity_id": 7},
    ],
)
def test_a_change_of_the_wrong_shape_is_refused_alone(inspector, broken):
    inspection = inspector.begin()
    sound = inspector.change("inspection", inspection, "client_name", "Harbour Trust")
    receipt = inspector.send(inspection, broken, sound)
    assert states(receipt) == ["refused", "kept"]
    assert "cannot be read" in receipt["results"][0]["reason"]


def test_ids_that_are_no_ids(inspector):
    inspection = inspector.begin()
    receipt = inspector.send(
        inspection,
        inspector.change("inspection", inspection, "client_name", "A", id="ünïcödé"),
        inspector.change("board", "../../etc", "inspection", inspection),
    )
    assert states(receipt) == ["refused", "refused"]


def test_a_circuit_of_another_inspection_is_not_reached(inspector):
    mine, other = inspector.begin(), inspector.begin()
    board, circuit = inspector.board(other)
    receipt = inspector.send(
        mine,
        inspector.change("circuit", circuit, "zs_ohm", "0.4"),
        inspector.change("circuit", new_id(), "board", board),
    )
    assert states(receipt) == ["refused", "refused"]
    assert "no such circuit" in receipt["results"][0]["reason"]
    assert "no such board" in receipt["results"][1]["reason"]
    assert "zs_ohm" not in inspector.values(other, circuit)


def test_a_reference_names_one_inspection(inspector):
    first, second = inspector.begin(), inspector.begin()
    inspector.send(first, inspector.change("inspection", first, "reference", "K-7"))
    inspector.send(first, inspector.change("inspection", first, "property_address", "3 Lookout Row"))
    receipt = inspector.send(second, inspector.change("inspection", second, "reference", "K-7"))
    assert receipt["results"][0]["reason"] == "K-7 is already used for 3 Lookout Row; K-8 is free."


def test_verdicts_come_with_the_answer(inspector):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    receipt = inspector.send(inspection, inspector.change("circuit", circuit, "zs_ohm", "1.90"))
    (note,) = [n for n in receipt["judgement"]["notes"] if n["field"] == "zs_ohm"]
    assert (note["status"], note["limit"], note["observation"]) == ("fail", 1.37, "zs-above-limit")


def test_two_writers_on_one_field(inspector, supervisor):
    """The later arrival stands, both values stay in the journal, and both people are told."""
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    seen = inspector.http.get(f"/api/inspections/{inspection}").json()["seq"]
    inspector.send(inspection, inspector.change("circuit", circuit, "zs_ohm", "0.31", based_on=seen))
    receipt = supervisor.send(inspection, supervisor.change("circuit", circuit, "zs_ohm", "0.41", based_on=seen))
    assert receipt["results"][0]["overtook"] == {"seq": seen + 1, "author": "Ines Pector", "value": "0.31"}
    assert inspector.values(inspection, circuit)["zs_ohm"] == "0.41"
    news = inspector.http.get(f"/api/inspections/{inspection}/changes", params={"since": seen + 1}).json()
    (entry,) = news["entries"]
    assert entry["overtook_author_id"] == inspector.me["id"]
    assert (entry["author"], entry["before"], entry["value"]) == ("Sol Visor", "0.31", "0.41")
    assert news["judgement"] is not None


def test_who_has_seen_a_change_overtakes_nobody(inspector, supervisor):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    seq = inspector.send(inspection, inspector.change("circuit", circuit, "zs_ohm", "0.31"))["seq"]
    receipt = supervisor.send(inspection, supervisor.change("circuit", circuit, "zs_ohm", "0.41", based_on=seq))
    assert receipt["results"][0]["overtook"] is None


def test_news_is_empty_where_nothing_happened(inspector):
    inspection = inspector.begin()
    news = inspector.http.get(f"/api/inspections/{inspection}/changes", params={"since": 1}).json()
    assert news == {"seq": 1, "entries": [], "judgement": None}


def test_removing_and_putting_back(inspector):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    gone = inspector.send(inspection, inspector.change("circuit", circuit, "removed", True))
    assert not any("Cooker" in name for s in gone["judgement"]["stages"] for name in s["left_names"])
    back = inspector.send(inspection, inspector.change("circuit", circuit, "removed", None))
    assert any("Cooker" in name for s in back["judgement"]["stages"] for name in s["left_names"])


def test_too_many_changes_at_once_are_told(inspector):
    inspection = inspector.begin()
    change = inspector.change("inspection", inspection, "client_name", "A")
    answer = inspector.http.post(f"/api/inspections/{inspection}/changes", json={"changes": [change] * 501})
    assert answer.status_code == 422
    assert answer.json()["fields"][0]["field"] == "changes"


@pytest.mark.parametrize("count", [1, 2])
def test_what_no_row_keeps_is_not_acknowledged(inspector, engine, count):
    """The circuit is gone from the database behind a server that remembers it. count: the last change goes with the
    inspection's own row, those before it by themselves."""
    inspection = inspector.begin()
    board, circuit = inspector.board(inspection)
    before = inspector.send(inspection, inspector.change("circuit", circuit, "zs_ohm", "0.31"))["seq"]
    with engine.begin() as connection:
        connection.execute(delete(ENTITIES["circuit"]).where(ENTITIES["circuit"].c.id == circuit))
    changes = [inspector.change("circuit", circuit, "zs_ohm", "0.32"), inspector.change("board", board, "name", "CU")]
    with pytest.raises(RowGone):
        inspector.send(inspection, *changes[:count])
    after = inspector.http.get(f"/api/inspections/{inspection}/changes", params={"since": before}).json()
    assert (after["seq"], after["entries"]) == (before, [])
    # What has its row is kept as ever.
    sound = inspector.send(inspection, changes[1] | {"id": new_id()})
    assert states(sound) == ["kept"]
    assert sound["seq"] == before + 1
