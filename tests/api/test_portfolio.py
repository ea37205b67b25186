"""Portfolios over the wire: where each property stands, its map, and a table taken in, each mistake at its cell."""

import csv
import io
from concurrent.futures import ThreadPoolExecutor
from datetime import date

import openpyxl
import pytest

from dorrik.report.papers import MOST_ROWS
from tests.api.clearing import issued
from tests.api.planning import Portfolio, ahead

HEADS = "UPRN;Property address;Town;Nation;Tenant;Next due;Lat;Long"


@pytest.fixture
def trust(office):
    return Portfolio(office)


def page(who, **query):
    answer = who.http.get("/api/portfolio", params=query)
    assert answer.status_code == 200, answer.text
    return answer.json()


def lines(who, **query):
    return {line["address"]: line for line in page(who, **query)["lines"]}


def table(*rows, heads=HEADS):
    return "\n".join([heads, *rows]).encode()


def take(who, content, taking="nothing", **query):
    return who.http.post(f"/api/portfolio/{who.client}/table", params={"taking": taking} | query, content=content)


SOUND = (
    "U1;5 Lookout Row;Kelder Haven;England;Joss Adair;31/12/2026;50.3320;-4.7535",
    "U2;7 Lookout Rd;Kelder Haven;England;Pim Lovell;31 Jan 2027;50.3321;-4.7532",
)


def test_a_property_says_where_it_stands_what_comes_next_and_who_has_it(trust):
    trust.home(0, job=False, due_on=ahead(-2))
    trust.home(1, due_on=ahead(20))
    trust.home(2, job=False, due_on=None)
    home, job = trust.home(3, due_on=ahead(300))
    trust.change("job", job, state="booked", booked_on=ahead(4))
    found = lines(trust)
    first = {address: line["first"] for address, line in found.items()}
    assert first["1 Lookout Row, Kelder Haven"] | {"on": None} == {
        "state": "due", "on": None, "late": True, "next_step": "ask for the next inspection", "holder": "office",
    }  # fmt: skip
    assert first["2 Lookout Row, Kelder Haven"]["state"] == "asked"
    assert first["3 Lookout Row, Kelder Haven"]["state"] == "never"
    assert (first["4 Lookout Row, Kelder Haven"]["state"], first["4 Lookout Row, Kelder Haven"]["holder"]) == (
        "booked", "inspector",
    )  # fmt: skip
    # What is late stands first.
    assert next(iter(found)) == "1 Lookout Row, Kelder Haven"
    whole = page(trust)
    assert (whole["total"], whole["count"], whole["late"]) == (4, 4, 1)
    assert {"nation": "England", "says": "at most 5 years; copy to the occupier within 28 days"} in whole["laws"]
    assert "Check the law" in whole["caution"] and home


def test_a_change_shows_at_once_whoever_made_it(trust):
    """What a process remembers of a portfolio is known by its content."""
    home, job = trust.home()
    assert lines(trust)["1 Lookout Row, Kelder Haven"]["first"]["state"] == "asked"
    trust.change("property", home, address="1 Lookout Row, Kelder Haven", due_on=ahead(-1))
    assert lines(trust)["1 Lookout Row, Kelder Haven"]["first"]["late"]
    trust.change("job", job, state="done")
    assert lines(trust)["1 Lookout Row, Kelder Haven"]["first"]["state"] == "due"
    trust.change("property", home, removed=True)
    assert page(trust)["total"] == 0


def test_a_job_whose_inspection_was_issued_is_no_visit_to_come(trust, ready, inspector, supervisor):
    home, job = trust.home(due_on=None)
    trust.change("job", job, state="booked", booked_on=date.today().isoformat())
    inspection = ready()
    fields = {"property_id": home, "job_id": job, "inspected_on": date.today().isoformat()}
    inspector.send(inspection, *(inspector.change("inspection", inspection, f, v) for f, v in fields.items()))
    issued(inspector, supervisor, inspection)
    line = lines(trust)["1 Lookout Row, Kelder Haven"]
    assert {one["state"] for one in [line["first"], *line["also"]]} <= {"done", "copies due"}
    assert line["due_on"] == f"{date.today().year + 5}-{date.today():%m-%d}"


def test_an_inspection_that_begins_and_one_on_hold_are_seen(trust, office):
    home, _ = trust.home()
    inspection = office.begin()
    office.send(inspection, office.change("inspection", inspection, "property_id", home))
    assert lines(trust)["1 Lookout Row, Kelder Haven"]["first"]["state"] == "in hand"
    held = {"held_at": f"{date.today()}T09:00:00Z", "return_on": ahead(6)}
    office.send(inspection, *(office.change("inspection", inspection, f, v) for f, v in held.items()))
    first = lines(trust)["1 Lookout Row, Kelder Haven"]["first"]
    assert (first["state"], first["on"], first["next_step"]) == ("on hold", ahead(6), "return visit")


def test_a_second_installation_without_a_report_is_not_called_done(trust, ready, inspector, supervisor):
    """A house with a report and a boat shed with none: the shed has never been inspected."""
    home, _ = trust.home(job=False, due_on=None)
    house = trust.add("installation", home, name="House")
    trust.add("installation", home, name="Boat shed")
    inspection = ready()
    fields = {"property_id": home, "installation_id": house, "inspected_on": date.today().isoformat()}
    inspector.send(inspection, *(inspector.change("inspection", inspection, f, v) for f, v in fields.items()))
    issued(inspector, supervisor, inspection)
    first = lines(trust)["1 Lookout Row, Kelder Haven"]
    said = [first["first"], *first["also"]]
    assert {"state": "never", "next_step": "Boat shed: no report yet"}.items() <= next(
        one for one in said if one["state"] == "never"
    ).items()
    assert "done" not in {one["state"] for one in said}


def test_filters_find_and_never_hide_what_is_open_beside(trust):
    for at in range(5):
        trust.home(at, job=at % 2 == 0, due_on=ahead(10 + 30 * at))
    assert page(trust, states="asked")["count"] == 3
    assert page(trust, states="asked", text="3 look")["count"] == 1
    assert page(trust, due_until=ahead(45))["count"] == 2
    assert page(trust, text="harbour trust")["count"] == 5
    assert page(trust, text="quay")["count"] == 0
    # How many stand in each state does not depend on which states are looked at.
    assert page(trust, states="asked")["states"] == page(trust)["states"]
    assert [line["address"][0] for line in page(trust, order="address", start=2, limit=2)["lines"]] == ["3", "4"]
    assert trust.http.get("/api/portfolio", params={"states": "lost"}).status_code == 422


def test_the_map_holds_every_property_once_and_nothing_that_cannot_be_right(trust):
    for at in range(6):
        trust.home(at, job=False)
    trust.home(7, job=False, latitude=-4.75, longitude=50.33)
    trust.home(8, job=False, latitude=None, longitude=None)
    whole = page(trust)
    assert (whole["unplaced"], whole["doubtful"]) == (1, 1)
    found = trust.http.get("/api/portfolio/map").json()
    assert sum(cell["count"] for cell in found["cells"]) == 6
    alone = next(cell for cell in found["cells"] if cell["count"] == 1)
    assert alone["property_id"] and alone["address"].endswith("Lookout Row, Kelder Haven")
    part = {"south": 50.3295, "north": 50.3315, "west": -4.8, "east": -4.7}
    assert sum(cell["count"] for cell in trust.http.get("/api/portfolio/map", params=part).json()["cells"]) == 2
    assert trust.http.get("/api/portfolio/map", params=part | {"south": "nan"}).status_code == 422


def test_a_portfolio_as_a_table_is_read_again(trust):
    trust.home(0, address="=1+1 Lookout Row, Kelder Haven")
    content = trust.http.get("/api/portfolio.csv").content.decode("utf-8-sig")
    row = next(csv.DictReader(io.StringIO(content)))
    assert row["Address"] == "'=1+1 Lookout Row, Kelder Haven" and row["State"] == "asked"
    again = take(trust, content.encode()).json()
    assert (again["known"], again["new"], again["different"]) == (1, 0, 0)


# A table taken in


def test_a_table_is_matched_looked_over_and_taken(trust):
    read = take(trust, table(*SOUND)).json()
    assert read["columns"] == [
        "reference", "address", "town", "nation", "occupier_name", "due_on", "latitude", "longitude",
    ]  # fmt: skip
    assert (read["rows"], read["new"], read["mistakes"], read["added"]) == (2, 2, [], 0)
    assert page(trust)["total"] == 0
    taken = take(trust, table(*SOUND), "new").json()
    assert taken["added"] == 2
    found = lines(trust)
    assert found["5 Lookout Row, Kelder Haven"]["due_on"] == "2026-12-31"
    assert found["7 Lookout Rd, Kelder Haven"]["reference"] == "U2"
    # It is found by the search, and its history says who entered it.
    hits = trust.http.get("/api/search", params={"text": "lovell"}).json()
    assert [hit["title"] for hit in hits] == ["7 Lookout Rd, Kelder Haven"]
    history = trust.http.get(f"/api/register/property/{hits[0]['id']}/history", params={"field": "due_on"}).json()
    assert [change["value"] for change in history] == ["2027-01-31"]


def test_every_mistake_stands_at_its_cell_and_the_sound_rows_can_be_taken(trust):
    rows = (
        *SOUND,
        "U3;;Kelder Haven;England;;31/12/2026;;",
        "U4;9 Slip Road;Kelder Haven;Narnia;;31/02/2027;;",
        "U5;11 Slip Road;Kelder Haven;England;;;95;-4.7",
        "U6;5 Lookout Row;Kelder Haven;England;;;;",
    )
    read = take(trust, table(*rows)).json()
    assert {(one["row"], one["column"]) for one in read["mistakes"]} == {(4, 1), (5, 3), (5, 5), (6, 6), (7, 1)}
    assert next(one for one in read["mistakes"] if one["row"] == 7)["reason"] == "The same as row 2."
    assert read["sample_rows"] == [4, 5, 6, 7]
    taken = take(trust, table(*rows), "new").json()
    assert (taken["added"], taken["mistake_rows"]) == (2, 4) and page(trust)["total"] == 2


def test_addresses_that_are_known_are_found_again_however_they_are_written(trust, office):
    home, _ = trust.home(6, address="7 Lookout Road, Kelder Haven", occupier_name="Pim Lovell", due_on=ahead(30))
    other = trust.add("client", trust.firm, name="Low Ferry Lettings")
    trust.add("property", other, address="5 Lookout Row, Kelder Haven")
    read = take(trust, table(*SOUND)).json()
    assert (read["new"], read["known"], read["different"], read["elsewhere_count"]) == (0, 1, 1, 1)
    assert read["elsewhere"] == ["Row 2: Low Ferry Lettings"]
    assert take(trust, table(*SOUND), "new").json()["changed"] == 0
    taken = take(trust, table(*SOUND), "all").json()
    assert (taken["added"], taken["changed"]) == (0, 1)
    values = trust.http.get(f"/api/properties/{home}").json()["property"]["values"]
    assert values["due_on"] == "2027-01-31" and values["address"] == "7 Lookout Road, Kelder Haven"
    assert take(trust, table(*SOUND), "all").json()["changed"] == 0


def test_columns_are_matched_otherwise_and_what_cannot_be_is_said(trust):
    content = table("5 Lookout Row;soon", heads="Where;When")
    first = take(trust, content).json()
    assert first["problem"] == "Say which column holds the addresses." and first["columns"] == [None, None]
    assert take(trust, content, columns="address,").json()["new"] == 1
    twice = take(trust, content, "new", columns="address,address")
    assert twice.status_code == 422 and "Two columns" in twice.json()["fields"][0]["message"]
    assert take(trust, b"\x89PNG\r\n\x1a\n\0\0\0\0 nothing", "new").status_code == 422
    assert page(trust)["total"] == 0


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "cp1252", "utf-16", "utf-16-le"])
def test_tables_of_every_encoding_are_read(trust, encoding):
    content = table("U1;5 Café Row;Kelder Haven;England;Zoë Brontë;;;").decode().encode(encoding)
    assert take(trust, content, "new").json()["added"] == 1
    assert "5 Café Row, Kelder Haven" in lines(trust)


def test_a_file_put_together_of_three_encodings_is_read_line_by_line(trust):
    heads = HEADS.encode()
    content = b"\n".join([
        heads, "U1;5 Café Row;Kelder Haven;;;;;".encode(), "U2;7 Café Row;Kelder Haven;;;;;".encode("cp1252"),
        "U3;9 Café Row;Kelder Haven;;;;;".encode("latin-1"),
    ])  # fmt: skip
    assert take(trust, content, "new").json()["added"] == 3
    assert set(lines(trust)) == {f"{n} Café Row, Kelder Haven" for n in (5, 7, 9)}


def test_a_workbook_with_days_as_days_is_taken(trust):
    book = openpyxl.Workbook()
    book.active.append(["Address", "Expiry date"])
    book.active.append(["5 Lookout Row, Kelder Haven", date(2026, 12, 31)])
    out = io.BytesIO()
    book.save(out)
    assert take(trust, out.getvalue(), "new").json()["added"] == 1
    assert lines(trust)["5 Lookout Row, Kelder Haven"]["due_on"] == "2026-12-31"


def test_more_rows_than_are_taken_at_once_are_refused_whole(trust):
    content = table(*(f"U{n};{n} Long Row;Kelder Haven;;;;;" for n in range(MOST_ROWS + 5)))
    read = take(trust, content).json()
    assert "at most 25000" in read["problem"].replace(",", "") and page(trust)["total"] == 0


def test_two_who_import_the_same_table_at_once_add_it_once(trust, supervisor):
    content = table(*(f"U{n};{n} Twice Row;Kelder Haven;;;;;" for n in range(30)))
    path, query = f"/api/portfolio/{trust.client}/table", {"taking": "new"}
    with ThreadPoolExecutor(2) as pool:
        answers = list(pool.map(lambda who: who.http.post(path, params=query, content=content), [trust, supervisor]))
    assert sorted(answer.json()["added"] for answer in answers) == [0, 30]
    assert page(trust)["total"] == 30


def test_a_portfolio_is_its_firms_own(trust, stranger):
    trust.home()
    other = Portfolio(stranger)
    assert page(other)["total"] == 0
    assert other.http.get("/api/portfolio", params={"client_id": trust.client}).status_code == 404
    assert other.http.post(f"/api/portfolio/{trust.client}/table", content=table(*SOUND)).status_code == 404
    assert other.http.get("/api/portfolio.csv", params={"client_id": trust.client}).status_code == 404
