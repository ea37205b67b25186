"""Entries under names that a device, or a database, still has from before they were changed."""


def test_a_tablet_that_comes_back_after_weeks_is_understood(inspector):
    inspection = inspector.begin()
    tester = inspector.add(inspection, "meter", "inspection", inspection, name="Tester", sort="multifunction")
    board = inspector.add(inspection, "board", "inspection", inspection, name="Board 1")
    circuit = inspector.add(inspection, "circuit", "board", board, way="1", points=7)
    point = inspector.add(inspection, "point", "circuit", circuit, sort="socket")
    found = {entity["id"]: entity for entity in inspector.http.get(f"/api/inspections/{inspection}").json()["entities"]}
    assert found[tester]["kind"] == "instrument_used"
    assert found[tester]["values"] == {"name": "Tester", "kind": "multifunction"}
    assert found[circuit]["values"]["points_served"] == 7
    assert found[point]["values"] == {"kind": "socket"}


def test_a_register_entry_under_the_former_name_of_a_field(office):
    made = office.http.post(
        "/api/register/instrument",
        json={"parent_id": office.me["firm_id"], "values": {"name": "Clamp", "sort": "clamp"}},
    )
    assert made.status_code == 201, made.text
    assert made.json()["values"]["kind"] == "clamp"
    wrong = office.http.post(
        "/api/register/instrument",
        json={"parent_id": office.me["firm_id"], "values": {"name": "Clamp", "sort": "hammer"}},
    )
    # Told at the field as it was named there.
    assert [field["field"] for field in wrong.json()["fields"]] == ["sort"]
