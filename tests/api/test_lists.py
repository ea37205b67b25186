"""Nothing is cut in silence: lists come in pages with their counts, and what they show is kept, not judged again."""

from datetime import date, timedelta

import pytest
from sqlalchemy import insert, select, update

from dorrik.core.judging import delta
from dorrik.store.database.engine import new_id, now
from dorrik.store.database.tables import ENTRIES, inspection
from dorrik.store.inspections import listing


@pytest.fixture
def many(engine, firm):
    """70 in hand and 45 issued, due on days of their own; the last three due on no day."""
    rows = []
    for n in range(115):
        issued = n >= 70
        due = date(2030, 1, 1) + timedelta(days=n) if issued and n < 112 else None
        rows.append(
            {
                "id": new_id(), "firm_id": firm.id, "seq": 1, "changed_at": now() + timedelta(seconds=n),
                "reference": f"K-{n:04d}", "property_address": f"{n} Long Row",
                "issued_number": 1 if issued else None, "issued_outcome": "satisfactory" if issued else None,
                "due_on": due,
            }
        )  # fmt: skip
    with engine.begin() as connection:
        connection.execute(insert(inspection), rows)
    return rows


def pages(http, which):
    start, lines = 0, []
    while True:
        page = http.get("/api/inspections", params={"which": which, "start": start}).json()
        if not page["lines"]:
            return page["count"], lines
        lines += page["lines"]
        start += len(page["lines"])


def test_home_shows_the_first_and_says_how_many_there_are(inspector, many):
    home = inspector.http.get("/api/home").json()
    assert (len(home["in_hand"]), home["in_hand_count"]) == (30, 70)
    assert (len(home["issued"]), home["issued_count"]) == (30, 45)
    assert home["in_hand"][0]["reference"] == "K-0069"


def test_all_pages_together_are_every_line_once_in_their_order(inspector, many):
    count, lines = pages(inspector.http, "in hand")
    assert (count, [line["reference"] for line in lines]) == (70, [f"K-{n:04d}" for n in range(69, -1, -1)])
    count, lines = pages(inspector.http, "issued")
    due = [line["next_due"] for line in lines]
    assert count == len(lines) == 45
    assert due[:42] == sorted(due[:42]) and due[42:] == [None] * 3


def test_clients_and_their_properties_come_in_pages(inspector, engine, firm):
    clients = [{"id": new_id(), "firm_id": firm.id, "name": f"Client {n:03d}"} for n in range(120)]
    homes = [
        {"id": new_id(), "firm_id": firm.id, "parent_id": clients[0]["id"], "address": f"{n:03d} Long Row"}
        for n in range(75)
    ]
    with engine.begin() as connection:
        connection.execute(insert(ENTRIES["client"]), clients)
        connection.execute(insert(ENTRIES["property"]), homes)
    names, start = [], 0
    while page := inspector.http.get("/api/clients", params={"start": start}).json()["entries"]:
        names += [one["values"]["name"] for one in page]
        start += len(page)
    assert names == [client["name"] for client in clients]
    first = inspector.http.get(f"/api/clients/{clients[0]['id']}").json()
    assert (len(first["properties"]), first["count"]) == (50, 75)
    rest = inspector.http.get(f"/api/clients/{clients[0]['id']}", params={"start": 50}).json()
    assert len(rest["properties"]) == 25


def test_what_is_left_goes_with_the_inspection_and_is_right_after_every_kind_of_change(inspector, engine):
    one = inspector.begin()
    inspector.board(one)

    def shown():
        (line,) = inspector.http.get("/api/home").json()["in_hand"]
        return line["left"], line["failing"]

    def judged():
        judgement = inspector.http.get(f"/api/inspections/{one}").json()["judgement"]
        failing = sum(note["status"] == "fail" for note in judgement["notes"])
        return sum(stage["left"] for stage in judgement["stages"]), failing

    before = shown()
    assert before == judged()
    circuit = inspector.http.get(f"/api/inspections/{one}").json()["entities"][-1]["id"]
    inspector.send(one, inspector.change("circuit", circuit, "zs_ohm", "4.00"))
    assert shown() == judged() != before
    # Carried over, it is changed without being judged; asked for, it is judged once.
    rows = [["Way", "Circuit"], ["7", "Lights"], ["8", "Sockets"]]
    chart = {"rows": rows, "columns": ["way", "designation"], "first": 1}
    assert inspector.http.post(f"/api/inspections/{one}/carry-over", json={"chart": chart}).status_code == 201
    with engine.connect() as connection:
        assert connection.execute(select(inspection.c.judged_seq).where(inspection.c.id == one)).scalar() is None
    assert shown() == judged()
    with engine.connect() as connection:
        row = connection.execute(select(inspection).where(inspection.c.id == one)).one()
    assert (row.judged_seq, row.judged_by) == (row.seq, listing.rules_digest())


def test_what_other_rules_worked_out_is_worked_out_anew(inspector, engine):
    one = inspector.begin()
    inspector.board(one)
    with engine.begin() as connection:
        connection.execute(
            update(inspection).where(inspection.c.id == one).values(left_count=999, judged_by="an older program")
        )
    (line,) = inspector.http.get("/api/home").json()["in_hand"]
    assert line["left"] != 999


def test_a_device_is_told_what_became_different_and_comes_to_the_same_judgement(inspector):
    one = inspector.begin()
    _, circuit = inspector.board(one)
    whole = inspector.http.get(f"/api/inspections/{one}").json()
    judgement, seq = whole["judgement"], whole["seq"]
    path = f"/api/inspections/{one}/changes"
    for field, value in (("zs_ohm", "0.40"), ("zs_ohm", "9.00"), ("insulation_lne_mohm", "0.2"), ("removed", True)):
        change = inspector.change("circuit", circuit, field, value)
        answer = inspector.http.post(path, json={"changes": [change], "judged": seq}).json()
        assert answer["judgement"] is None and answer["change"] is not None
        parts = {
            name: [{k: v for k, v in run.items() if v is not None} for run in runs]
            for name, runs in answer["change"]["lists"].items()
        }
        judgement, seq = delta.applied(judgement, answer["change"] | {"lists": parts}), answer["seq"]
        assert judgement == inspector.http.get(f"/api/inspections/{one}").json()["judgement"]


def test_a_device_whose_judgement_is_of_another_state_gets_the_whole(inspector):
    one = inspector.begin()
    path = f"/api/inspections/{one}/changes"
    for judged in (None, 0, 77):
        change = inspector.change("inspection", one, "extent", f"x{judged}")
        answer = inspector.http.post(path, json={"changes": [change], "judged": judged}).json()
        assert answer["change"] is None and answer["judgement"]["stages"]


def test_what_another_process_wrote_is_seen_by_one_that_remembers(inspector, app, engine):
    """Two processes on one database: each remembers, and neither judges by what is past."""
    from starlette.testclient import TestClient

    from dorrik.api.app import create_app

    other = TestClient(create_app(engine), headers={"Sec-Fetch-Site": "same-origin"})
    other.cookies.update(inspector.http.cookies)
    one = inspector.begin()
    _, circuit = inspector.board(one)
    path = f"/api/inspections/{one}/changes"
    for n, http in enumerate([inspector.http, other, other, inspector.http, other, inspector.http]):
        change = inspector.change("circuit", circuit, "zs_ohm", f"0.4{n}")
        answer = http.post(path, json={"changes": [change]}).json()
        assert answer["results"][0]["state"] == "kept"
        assert inspector.values(one, circuit)["zs_ohm"] == f"0.4{n}"
        assert answer["judgement"] == inspector.http.get(f"/api/inspections/{one}").json()["judgement"]
