"""Moving circuits, the tree of boards, and readings in doubt, through the journal."""

import itertools


def moved(inspector, inspection, circuit, board):
    receipt = inspector.send(inspection, inspector.change("circuit", circuit, "board", board))
    return receipt["results"][0]


def parent(inspector, inspection, entity):
    found = inspector.http.get(f"/api/inspections/{inspection}").json()["entities"]
    return next(e["parent_id"] for e in found if e["id"] == entity)


def test_a_circuit_is_moved_to_another_board_with_everything_on_it(inspector):
    inspection = inspector.begin()
    first, circuit = inspector.board(inspection)
    second, _ = inspector.board(inspection)
    point = inspector.add(inspection, "point", "circuit", circuit, name="oven")
    assert moved(inspector, inspection, circuit, second)["state"] == "kept"
    assert parent(inspector, inspection, circuit) == second
    assert parent(inspector, inspection, point) == circuit
    history = inspector.http.get(
        f"/api/inspections/{inspection}/history", params={"entity_id": circuit, "field": "board"}
    ).json()
    assert [(one["before"], one["value"]) for one in history] == [(first, second), (None, first)]
    assert moved(inspector, inspection, circuit, "nowhere")["state"] == "refused"


def test_a_board_cannot_be_fed_from_itself_over_any_number_of_boards(inspector):
    inspection = inspector.begin()
    boards = [inspector.board(inspection) for _ in range(3)]
    for (_, feeding), (board, _) in itertools.pairwise(boards):
        receipt = inspector.send(inspection, inspector.change("board", board, "fed_by", feeding))
        assert receipt["results"][0]["state"] == "kept"
    (first, way_1), (second, way_2), (third, way_3) = boards
    for board, way in ((first, way_1), (first, way_2), (first, way_3), (second, way_3)):
        result = inspector.send(inspection, inspector.change("board", board, "fed_by", way))["results"][0]
        assert result["state"] == "refused"
        assert "cannot be fed from itself" in result["reason"]
    # Nor can the way that feeds a board be moved onto that board.
    assert "cannot be moved" in moved(inspector, inspection, way_1, third)["reason"]
    result = inspector.send(inspection, inspector.change("board", first, "fed_by", "no such way"))["results"][0]
    assert result["reason"] == "There is no such way to feed a board from."


def test_readings_since_the_last_good_null_are_marked_by_a_bad_one(inspector):
    inspection = inspector.begin()
    _board, circuit = inspector.board(inspection)

    def null(time, reading):
        inspector.add(
            inspection, "lead_null", "inspection", inspection, name="Set A", known_ohm=0.05, reading_ohm=reading,
            nulled_at=f"2026-11-03T{time}:00Z",
        )  # fmt: skip

    def measure(field, value, time):
        change = inspector.change("circuit", circuit, field, value, made_at=f"2026-11-03T{time}:00Z")
        return inspector.send(inspection, change)["judgement"]["notes"]

    null("09:00", "0.05")
    measure("r1_r2_ohm", "0.20", "08:00")
    measure("zs_ohm", "0.40", "09:10")
    notes = measure("r2_ohm", "0.30", "09:20")
    assert not any("good null" in note["reason"] for note in notes)
    null("10:00", "0.30")
    doubted = {
        note["field"]
        for note in inspector.http.get(f"/api/inspections/{inspection}").json()["judgement"]["notes"]
        if "good null" in note["reason"]
    }
    # The loop is not measured through the nulled leads, and 08:00 was before the last good null.
    assert doubted == {"r2_ohm"}
    # Measured again after a good null, it is no longer in doubt.
    null("10:05", "0.05")
    notes = measure("r2_ohm", "0.25", "10:10")
    assert not any("good null" in note["reason"] for note in notes)


def test_an_isolation_is_kept_with_its_pairings_and_makes_the_board_proved_dead(inspector):
    inspection = inspector.begin()
    board, _ = inspector.board(inspection)
    isolation = inspector.add(
        inspection, "isolation", "board", board, proved_at="2026-11-03T09:00:00Z", isolated_at="2026-11-03T09:01:00Z",
        lock="Lock 7", pairings={"busbar L–N": "dead"},
    )  # fmt: skip

    def stage(receipt):
        return next(s for s in receipt["judgement"]["stages"] if s["stage"] == "isolation")

    receipt = inspector.send(inspection, inspector.change("isolation", isolation, "pairings", {"way 1 L–E": "perhaps"}))
    assert "either dead or live" in receipt["results"][0]["reason"]
    assert stage(receipt)["left"] == 1
    receipt = inspector.send(
        inspection, inspector.change("isolation", isolation, "proved_again_at", "2026-11-03T09:09:00Z")
    )
    assert stage(receipt)["left"] == 0
    assert any("5 pairings were not tested" in note["reason"] for note in receipt["judgement"]["notes"])
