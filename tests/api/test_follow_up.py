"""What stays open and what is set aside, over the wire: who may end it, the letter, and what is kept."""

from io import BytesIO

from pypdf import PdfReader

from dorrik.store.database.engine import new_id


def circuit_of(who, inspection):
    board = who.add(inspection, "board", "inspection", inspection, name="House")
    return who.add(inspection, "circuit", "board", board, way="5", designation="Outside lights", serves="lighting")


def leave_off(who, inspection, circuit, **more):
    return who.add(
        inspection, "set_aside", "inspection", inspection,
        about_entity="circuit", about_id=circuit, state="left disconnected", **more,
    )  # fmt: skip


def test_the_letter_says_what_was_left_off_and_with_whom_that_was_agreed(inspector):
    inspection = inspector.begin()
    path = f"/api/inspections/{inspection}/set-aside"
    circuit = circuit_of(inspector, inspection)
    leave_off(inspector, inspection, circuit)
    # Not agreed with anybody: there is nothing to confirm.
    assert inspector.http.get(f"{path}.pdf").status_code == 409
    leave_off(inspector, inspection, circuit, agreed_with="Hester Vane", until="2027-01-14", why="Water in the gland")
    pdf = inspector.http.get(f"{path}.pdf")
    text = " ".join("".join(page.extract_text() for page in PdfReader(BytesIO(pdf.content)).pages).split())
    for said in ("5 Outside lights", "agreed with Hester Vane until 14 Jan 2027", "Water in the gland", "It is dead"):
        assert said in text, said
    wrong = inspector.http.post(path, json={"to": "nobody"})
    assert (wrong.status_code, wrong.json()["fields"][0]["field"]) == (422, "to")


def test_the_letter_is_of_ones_own_firm(inspector, stranger):
    inspection = inspector.begin()
    assert stranger.http.get(f"/api/inspections/{inspection}/set-aside.pdf").status_code == 404
    assert stranger.http.post(f"/api/inspections/{inspection}/set-aside", json={"to": "a@b.test"}).status_code == 404


def states(answer):
    return [result["state"] for result in answer["results"]]


def test_the_office_leaves_things_for_later_and_ends_none_of_them(inspector, office):
    inspection = inspector.begin()
    one = office.add(
        inspection, "come_back", "inspection", inspection, about_entity="inspection", about_id=inspection, what="Key"
    )
    done = "2026-11-03T10:00:00Z"
    assert states(office.send(inspection, office.change("come_back", one, "done_at", done))) == ["refused"]
    assert states(inspector.send(inspection, inspector.change("come_back", one, "done_at", done))) == ["kept"]
    change = office.change("set_aside", new_id(), "inspection", inspection)
    assert states(office.send(inspection, change)) == ["refused"]


def test_a_word_that_is_too_long_is_refused_at_its_field_and_the_rest_is_kept(inspector):
    inspection = inspector.begin()
    one = new_id()
    answer = inspector.send(
        inspection,
        inspector.change("come_back", one, "inspection", inspection),
        inspector.change("come_back", one, "about_entity", "inspection"),
        inspector.change("come_back", one, "what", "x" * 301),
        inspector.change("come_back", one, "place", "Hall"),
    )
    assert states(answer) == ["kept", "kept", "refused", "kept"]
    assert "at most 300" in answer["results"][2]["reason"]
