"""Rooms and points over the real API: points without a circuit, moved, left over, and what is refused."""

from dorrik.store.database.engine import new_id


def kept(receipt):
    return [result["state"] for result in receipt["results"]]


def point_of(inspector, inspection, point):
    found = inspector.http.get(f"/api/inspections/{inspection}").json()
    return next(e for e in found["entities"] if e["id"] == point)


def walked(inspector):
    inspection = inspector.begin()
    room = inspector.add(inspection, "room", "inspection", inspection, name="Kitchen", kind="kitchen")
    point = inspector.add(inspection, "point", "inspection", inspection, room_id=room, kind="socket")
    return inspection, room, point


def test_a_point_is_counted_in_its_room_and_hung_on_a_circuit_later(inspector):
    inspection, _, point = walked(inspector)
    board, circuit = inspector.board(inspection)
    assert point_of(inspector, inspection, point)["parent_id"] == inspection
    receipt = inspector.send(inspection, inspector.change("point", point, "circuit", circuit))
    assert kept(receipt) == ["kept"]
    assert point_of(inspector, inspection, point)["parent_id"] == circuit
    judgement = inspector.http.get(f"/api/inspections/{inspection}").json()["judgement"]
    assert judgement["points_served"] == {circuit: 1}
    assert [point["name"] for point in judgement["points"]] == ["socket"]
    # On another one: it hangs on that alone, and the journal knows where it hung.
    other = inspector.add(inspection, "circuit", "board", board, way="2")
    receipt = inspector.send(inspection, inspector.change("point", point, "circuit", other))
    assert receipt["judgement"]["points_served"] == {other: 1}
    history = inspector.http.get(f"/api/inspections/{inspection}/history?entity_id={point}").json()
    hung = [(entry["before"], entry["value"]) for entry in history if entry["field"] == "circuit"]
    assert (circuit, other) in hung
    # And off again.
    receipt = inspector.send(inspection, inspector.change("point", point, "inspection", inspection))
    assert kept(receipt) == ["kept"] and receipt["judgement"]["points_served"] == {}
    assert point_of(inspector, inspection, point)["parent_id"] == inspection


def test_a_circuit_goes_and_its_points_stay_on_the_wall(inspector):
    inspection, room, _ = walked(inspector)
    board, circuit = inspector.board(inspection)
    point = inspector.add(inspection, "point", "circuit", circuit, room_id=room, kind="light", looked="fine")
    removed = inspector.send(inspection, inspector.change("circuit", circuit, "removed", True))
    names = {point["id"]: point["circuit_id"] for point in removed["judgement"]["points"]}
    assert names[point] is None
    back = inspector.send(inspection, inspector.change("circuit", circuit, "removed", None))
    names = {point["id"]: point["circuit_id"] for point in back["judgement"]["points"]}
    assert names[point] == circuit
    # The whole board as well, and as another process loads it.
    gone = inspector.send(inspection, inspector.change("board", board, "removed", True))
    whole = inspector.http.get(f"/api/inspections/{inspection}").json()["judgement"]
    assert whole["points"] == gone["judgement"]["points"]
    assert {point["id"] for point in whole["points"]} >= {point}


def test_a_room_goes_with_points_in_it_and_comes_back(inspector):
    inspection, room, point = walked(inspector)
    gone = inspector.send(inspection, inspector.change("room", room, "removed", True))
    assert gone["judgement"]["rooms"] == []
    assert [point["id"] for point in gone["judgement"]["points"]] == [point]
    back = inspector.send(inspection, inspector.change("room", room, "removed", None))
    assert [room["name"] for room in back["judgement"]["rooms"]] == ["Kitchen"]
    assert back["judgement"]["points"][0]["room_id"] == room


def test_names_with_emoji_are_kept_and_ones_of_300_letters_refused_at_the_field(inspector):
    inspection, room, _ = walked(inspector)
    receipt = inspector.send(inspection, inspector.change("room", room, "name", "Küche 🍳 “Nord”"))
    assert kept(receipt) == ["kept"]
    assert inspector.values(inspection, room)["name"] == "Küche 🍳 “Nord”"
    receipt = inspector.send(inspection, inspector.change("room", room, "name", "x" * 300))
    assert kept(receipt) == ["refused"]
    assert "at most 80" in receipt["results"][0]["reason"]
    assert inspector.values(inspection, room)["name"] == "Küche 🍳 “Nord”"


def test_a_point_hangs_in_a_room_of_its_own_inspection_only(inspector):
    inspection, _, point = walked(inspector)
    _, room, _ = walked(inspector)
    for wrong in (room, new_id(), inspection, 7, ["x"]):
        receipt = inspector.send(inspection, inspector.change("point", point, "room_id", wrong))
        assert kept(receipt) == ["refused"], wrong
    assert kept(inspector.send(inspection, inspector.change("point", point, "circuit", new_id()))) == ["refused"]


def test_checks_stand_on_a_room_a_board_or_the_whole(inspector):
    inspection, room, _ = walked(inspector)
    check = inspector.add(inspection, "check", "room", room, item="cables-seen", state="not good")
    whole = inspector.add(inspection, "check", "inspection", inspection, item="other-source", state="N/A")
    found = inspector.http.get(f"/api/inspections/{inspection}").json()
    parents = {e["id"]: e["parent_id"] for e in found["entities"]}
    assert (parents[check], parents[whole]) == (room, inspection)
    notes = {n["id"]: n for n in found["judgement"]["notes"]}
    assert (notes[check]["stage"], notes[check]["standing"]) == ("walk", "fail")
    lines = {one["key"]: one["state"] for one in found["judgement"]["schedule"]}
    assert (lines["other-source"], lines["cables-sound"]) == ("N/A", "not good")


def test_partitions_say_at_the_field_what_is_wrong_with_them(inspector):
    inspection, room, _ = walked(inspector)
    fits = [{"x1": 1.7, "y1": 0, "x2": 1.7, "y2": 0.8, "top_m": 2}]
    assert kept(inspector.send(inspection, inspector.change("room", room, "partitions", fits))) == ["kept"]
    for wrong, told in (
        ("wall", "a list"),
        ([{"x1": 1}], "names x1"),
        ([{"x1": 1, "y1": 1, "x2": 1, "y2": 1}], "no length"),
        ([{"x1": 1, "y1": 1, "x2": 99, "y2": 1}], "0 to 30 m"),
        ([fits[0] | {"x1": True}], "0 to 30 m"),
        (fits * 13, "at most 12"),
    ):
        receipt = inspector.send(inspection, inspector.change("room", room, "partitions", wrong))
        assert kept(receipt) == ["refused"] and told in receipt["results"][0]["reason"], wrong
    assert inspector.values(inspection, room)["partitions"][0]["top_m"] == 2


def test_what_was_not_reached_gathers_among_the_limits(inspector):
    inspection, _, point = walked(inspector)
    inspector.send(inspection, inspector.change("point", point, "not_reached", "furniture in the way"))
    found = inspector.http.get(f"/api/inspections/{inspection}").json()["judgement"]["limits"]
    assert [(one["whom"], one["why"]) for one in found] == [("Kitchen socket", "Furniture in the way")]


def test_rooms_and_loose_points_come_along_into_the_next_inspection(inspector):
    source, _, point = walked(inspector)
    inspector.board(source)
    inspector.send(source, inspector.change("point", point, "looked", "defect"))
    inspection = inspector.begin()
    answer = inspector.http.post(f"/api/inspections/{inspection}/carry-over", json={"inspection_id": source})
    assert answer.status_code == 201, answer.text
    judgement = inspector.http.get(f"/api/inspections/{inspection}").json()["judgement"]
    assert [room["name"] for room in judgement["rooms"]] == ["Kitchen"]
    (carried,) = judgement["points"]
    assert carried["name"] == "socket" and carried["room_id"] == judgement["rooms"][0]["id"]
    # How it was found is of that day.
    assert "looked" not in inspector.values(inspection, carried["id"])
