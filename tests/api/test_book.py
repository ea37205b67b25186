"""The firm's book over the wire: clients, properties, jobs, instruments; mistakes at their field; the search."""

import pytest

from dorrik.store.engine import new_id


@pytest.fixture
def book(inspector):
    return Book(inspector)


class Book:
    """Short ways into the book."""

    def __init__(self, inspector):
        self.http = inspector.http
        self.firm = inspector.me["firm_id"]

    def add(self, kind, parent=None, **values):
        answer = self.http.post(f"/api/book/{kind}", json={"parent_id": parent or self.firm, "values": values})
        assert answer.status_code == 201, answer.text
        return answer.json()["id"]

    def change(self, kind, entry, **values):
        return self.http.patch(f"/api/book/{kind}/{entry}", json={"values": values})

    def home(self, address="5 Capstan Lane, Kelder Haven", **job):
        client = self.add("client", name="Kelder Haven Harbour Trust")
        home = self.add("property", client, address=address)
        return client, home, self.add("job", home, **({"number": f"J-{new_id()[-6:]}"} | job))

    def find(self, text):
        answer = self.http.get("/api/search", params={"text": text})
        assert answer.status_code == 200, answer.text
        return [(hit["kind"], hit["id"]) for hit in answer.json()]


def test_a_property_has_its_client_installations_and_jobs(book):
    client, home, job = book.home()
    house = book.add("installation", home, name="House", earthing="TN-S")
    book.add("installation", home, name="Boat shed", earthing="TT", supplied_from="Way 9 of the house")
    found = book.http.get(f"/api/properties/{home}").json()
    assert found["client"]["id"] == client
    assert [one["values"]["name"] for one in found["installations"]] == ["House", "Boat shed"]
    assert [one["id"] for one in found["jobs"]] == [job]
    assert book.change("installation", house, removed=True).status_code == 200
    assert len(book.http.get(f"/api/properties/{home}").json()["installations"]) == 1
    assert [one["id"] for one in book.http.get(f"/api/clients/{client}").json()["properties"]] == [home]


def test_mistakes_are_said_at_their_fields_and_nothing_is_kept(book):
    _, home, _ = book.home()
    answer = book.change("property", home, built_year=1931, rewired_year=1920, parking="Quay")
    assert answer.status_code == 422
    assert [f["field"] for f in answer.json()["fields"]] == ["rewired_year"]
    answer = book.change("property", home, built_year="old", tenure="castle", wings=2)
    assert {f["field"] for f in answer.json()["fields"]} == {"built_year", "tenure", "wings"}
    assert "parking" not in book.http.get(f"/api/properties/{home}").json()["property"]["values"]


def test_a_calibration_before_the_purchase_is_refused_at_the_field_being_changed(book):
    meter = book.add("instrument", name="Tester", serial=new_id()[-8:], bought_on="2025-06-01")
    answer = book.change("instrument", meter, calibrated_on="2025-05-01")
    assert answer.json()["fields"] == [
        {"field": "calibrated_on", "message": "It cannot have been calibrated before it was bought."}
    ]
    assert book.change("instrument", meter, calibrated_on="2025-07-01", calibration_due="2026-07-01").status_code == 200
    answer = book.change("instrument", meter, bought_on="2025-08-01")
    assert [f["field"] for f in answer.json()["fields"]] == ["bought_on"]


def test_numbers_and_serials_stand_once_in_a_firm(book, stranger):
    _, home, _ = book.home(number="J-77")
    second = book.add("job", home)
    answer = book.change("job", second, number="J-77")
    assert answer.json()["fields"][0]["message"] == "J-77 is already in the book; J-78 is free."
    other = Book(stranger)
    assert other.home(number="J-77")


def test_sending_an_entry_twice_makes_it_once(book):
    entry = {"id": new_id(), "parent_id": book.firm, "values": {"name": "Twice"}}
    for _ in range(2):
        assert book.http.post("/api/book/client", json=entry).status_code == 201
    found = book.http.get("/api/clients").json()
    assert (len(found["entries"]), found["count"]) == (1, 1)


def test_what_belongs_to_another_firm_is_not_there(book, stranger):
    client, home, job = book.home("9 Secret Steps")
    other = Book(stranger)
    for path in (f"clients/{client}", f"properties/{home}", f"jobs/{job}", f"jobs/{job}/confirmation.pdf"):
        assert other.http.get(f"/api/{path}").status_code == 404
    assert other.change("property", home, address="mine").status_code == 404
    assert other.http.post("/api/book/property", json={"parent_id": client, "values": {}}).status_code == 404
    assert other.http.get(f"/api/book/property/{home}/history", params={"field": "address"}).status_code == 404
    assert other.find("secret") == []


def test_every_field_has_its_history(book):
    _, home, _ = book.home("1 Old Quay")
    book.change("property", home, address="1 New Quay")
    history = book.http.get(f"/api/book/property/{home}/history", params={"field": "address"}).json()
    assert [(one["before"], one["value"]) for one in history] == [("1 Old Quay", "1 New Quay"), (None, "1 Old Quay")]
    assert history[0]["author"] == "Ines Pector"


def test_the_search_finds_by_any_part_of_address_client_or_number(book, inspector):
    client, home, job = book.home("14 Lookout Row, Kelder Haven", number="J-4711")
    _, other, _ = book.home("4 Lookout Row, Kelder Haven")
    for text in ("okou", "lookout 14", "ROW kelder 14", "14"):
        assert ("property", home) in book.find(text), text
    assert ("property", other) not in book.find("lookout 14")
    # A single figure is a house number, not any figure of another one.
    assert ("property", home) not in book.find("lookout 4")
    assert ("property", other) in book.find("lookout 4")
    assert ("job", job) in book.find("4711") and ("job", job) in book.find("471")
    assert ("client", client) in book.find("arbour tru")
    assert ("property", home) in book.find("harbour trust 14")
    for text in ("", "  ", "%", "'; drop", "_", "zzzz"):
        assert book.find(text) == []
    book.change("property", home, address="14 Façade Street")
    assert ("property", home) in book.find("facade")
    assert ("property", home) not in book.find("lookout 14")
    book.change("client", client, name="Tidewater Homes")
    assert ("property", home) in book.find("tidewater 14")
    book.change("property", home, removed=True)
    assert ("property", home) not in book.find("facade")
    inspection = inspector.begin()
    inspector.send(inspection, inspector.change("inspection", inspection, "reference", "K-98765"))
    assert ("inspection", inspection) in book.find("9876")


def test_a_job_shows_its_estimate_part_by_part(book):
    _, _, job = book.home(boards=1, rings=2, radials=8, points_opened=6, points_tested=30, travel_km=10)
    found = book.http.get(f"/api/jobs/{job}").json()["estimate"]
    # 20 + 20 + 25 + 2·14 + 8·7 + 6·4 + 30·1.5 + 30 minutes (rule 16.1, usual rates).
    assert found["minutes"] == 248
    assert {part["name"]: part["value"] for part in found["time"]}["radials"] == 56
    # 140 + (10 - 8)·9 + 10·0.6
    assert found["price"] == 164
    assert {part["name"]: part["how"] for part in found["parts"]}["further circuits"] == "2 × 9"


def test_a_return_visit_is_charged_once_the_job_is_on_hold_and_once_it_was_made(book, inspector):
    _, home, job = book.home()
    inspection = inspector.begin()
    for field, value in (("property_id", home), ("job_id", job), ("held_at", "2026-11-03T10:00:00Z"),
                         ("return_on", "2026-12-03")):  # fmt: skip
        inspector.send(inspection, inspector.change("inspection", inspection, field, value))
    found = book.http.get(f"/api/jobs/{job}").json()
    assert (found["inspections"][0]["on_hold"], found["inspections"][0]["return_on"]) == (True, "2026-12-03")
    assert {part["name"]: part["value"] for part in found["estimate"]["parts"]}["return visits"] == 65
    inspector.send(inspection, inspector.change("inspection", inspection, "held_at", None))
    inspector.add(inspection, "attendance", "inspection", inspection, purpose="return visit", who="Ines")
    again = book.http.get(f"/api/jobs/{job}").json()
    assert again["estimate"]["price"] == found["estimate"]["price"] == 140 + 65
    # One that was planned is not charged twice.
    book.change("job", job, return_visits=1)
    assert book.http.get(f"/api/jobs/{job}").json()["estimate"]["price"] == 205


def test_rates_are_settled_by_supervisor_and_office_only(book, supervisor):
    given = {"rates": {"ring": 20}, "prices": {"base": 200, "currency": "€"}}
    assert book.http.put("/api/firm/rates", json=given).status_code == 403
    settled = supervisor.http.put("/api/firm/rates", json=given).json()
    assert {rate["name"]: rate["value"] for rate in settled["rates"]}["ring"] == 20
    _, _, job = book.home(rings=1)
    found = book.http.get(f"/api/jobs/{job}").json()["estimate"]
    assert (found["price"], found["currency"]) == (200, "€")
    for wrong in ({"ring": -1}, {"wings": 2}, {"ring": 1e9}):
        answer = supervisor.http.put("/api/firm/rates", json={"rates": wrong, "prices": {}})
        assert answer.status_code == 422 and answer.json()["fields"], wrong
    answer = supervisor.http.put("/api/firm/rates", json={"rates": {}, "prices": {"circuits_included": 2.5}})
    assert answer.json()["fields"][0]["message"] == "It is a whole number."


def test_letters_of_a_job_are_tagged_pdfs_with_its_words(book):
    from io import BytesIO

    import pypdf

    _, home, job = book.home(
        number="J-0815", extent="All of it", leave_out="Loft\nBoat shed", agreed_with="Wynn Tarrant",
        agreed_on="2026-11-20", booked_on="2027-01-14", booked_at="09:00", power_off="09:30 to 12:30",
    )  # fmt: skip
    book.change("property", home, occupier_name="Davy Marlow", must_stay_on="Freezer in the shed")
    pdf = pypdf.PdfReader(BytesIO(book.http.get(f"/api/jobs/{job}/confirmation.pdf").content))
    text = " ".join(page.extract_text() for page in pdf.pages)
    for said in ("J-0815", "Loft; Boat shed", "Wynn Tarrant, 20 November 2026", "14 January 2027, 09:00", "£140.00"):
        assert said in text.replace("\n", " "), said
    assert pdf.trailer["/Root"]["/MarkInfo"]["/Marked"]
    notice = pypdf.PdfReader(BytesIO(book.http.get(f"/api/jobs/{job}/power-off.pdf").content))
    text = " ".join(page.extract_text() for page in notice.pages)
    assert "Davy Marlow" in text and "09:30 to 12:30" in text and "Freezer" in text and "£" not in text


def test_a_lead_set_learns_from_its_accepted_nulls(book, inspector):
    leads = book.add("leads", name=f"Set {new_id()[-6:]}", known_ohm=0.05)
    inspection = inspector.begin()
    for hour, reading in ((9, "0.06"), (10, "0.08"), (11, "0.40")):
        inspector.add(
            inspection, "lead_null", "inspection", inspection, leads_id=leads, name="Set", known_ohm=0.05,
            reading_ohm=reading, nulled_at=f"2026-11-03T{hour:02}:00:00Z",
        )  # fmt: skip
    (found,) = (one for one in book.http.get("/api/instruments").json()["lead_sets"] if one["entry"]["id"] == leads)
    assert (found["known_ohm"], found["nulls"]) == (pytest.approx(0.07), 2)


def test_a_booked_visit_stands_on_the_home_screen(book):
    _, _home, job = book.home(state="booked", booked_on="2026-11-01")
    _, _, far = book.home(state="booked", booked_on="2031-11-01")
    ids = [one["job"]["id"] for one in book.http.get("/api/booked").json()]
    assert job in ids and far not in ids


def test_numbers_are_counted_on(book):
    _, home, _ = book.home(number="J-0199")
    assert book.http.get(f"/api/properties/{home}").json()["next_number"] == "J-0200"
