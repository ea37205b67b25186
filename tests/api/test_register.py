"""The firm's register over the wire: clients, properties, jobs, instruments; mistakes at their field; the search."""

import pytest

from dorrik.store.database.engine import new_id


@pytest.fixture
def register(inspector):
    return Book(inspector)


class Book:
    """Short ways into the register."""

    def __init__(self, inspector):
        self.http = inspector.http
        self.firm = inspector.me["firm_id"]

    def add(self, kind, parent=None, **values):
        answer = self.http.post(f"/api/register/{kind}", json={"parent_id": parent or self.firm, "values": values})
        assert answer.status_code == 201, answer.text
        return answer.json()["id"]

    def change(self, kind, entry, **values):
        return self.http.patch(f"/api/register/{kind}/{entry}", json={"values": values})

    def home(self, address="5 Capstan Lane, Kelder Haven", **job):
        client = self.add("client", name="Kelder Haven Harbour Trust")
        home = self.add("property", client, address=address)
        return client, home, self.add("job", home, **({"number": f"J-{new_id()[-6:]}"} | job))

    def find(self, text):
        answer = self.http.get("/api/search", params={"text": text})
        assert answer.status_code == 200, answer.text
        return [(hit["kind"], hit["id"]) for hit in answer.json()]


def test_a_property_has_its_client_installations_and_jobs(register):
    client, home, job = register.home()
    house = register.add("installation", home, name="House", earthing="TN-S")
    register.add("installation", home, name="Boat shed", earthing="TT", supplied_from="Way 9 of the house")
    found = register.http.get(f"/api/properties/{home}").json()
    assert found["client"]["id"] == client
    assert [installation["values"]["name"] for installation in found["installations"]] == ["House", "Boat shed"]
    assert [job["id"] for job in found["jobs"]] == [job]
    assert register.change("installation", house, removed=True).status_code == 200
    assert len(register.http.get(f"/api/properties/{home}").json()["installations"]) == 1
    assert [one["id"] for one in register.http.get(f"/api/clients/{client}").json()["properties"]] == [home]


def test_mistakes_are_said_at_their_fields_and_nothing_is_kept(register):
    _, home, _ = register.home()
    answer = register.change("property", home, built_year=1931, rewired_year=1920, parking="Quay")
    assert answer.status_code == 422
    assert [f["field"] for f in answer.json()["fields"]] == ["rewired_year"]
    answer = register.change("property", home, built_year="old", tenure="castle", wings=2)
    assert {f["field"] for f in answer.json()["fields"]} == {"built_year", "tenure", "wings"}
    assert "parking" not in register.http.get(f"/api/properties/{home}").json()["property"]["values"]


def test_a_calibration_before_the_purchase_is_refused_at_the_field_being_changed(register):
    meter = register.add("instrument", name="Tester", serial=new_id()[-8:], bought_on="2025-06-01")
    answer = register.change("instrument", meter, calibrated_on="2025-05-01")
    assert answer.json()["fields"] == [
        {"field": "calibrated_on", "message": "It cannot have been calibrated before it was bought."}
    ]
    assert (
        register.change("instrument", meter, calibrated_on="2025-07-01", calibration_due="2026-07-01").status_code
        == 200
    )
    answer = register.change("instrument", meter, bought_on="2025-08-01")
    assert [f["field"] for f in answer.json()["fields"]] == ["bought_on"]


def test_numbers_and_serials_stand_once_in_a_firm(register, stranger):
    _, home, _ = register.home(number="J-77")
    second = register.add("job", home)
    answer = register.change("job", second, number="J-77")
    assert answer.json()["fields"][0]["message"] == "J-77 is already in the register; J-78 is free."
    other = Book(stranger)
    assert other.home(number="J-77")


def test_sending_an_entry_twice_makes_it_once(register):
    entry = {"id": new_id(), "parent_id": register.firm, "values": {"name": "Twice"}}
    for _ in range(2):
        assert register.http.post("/api/register/client", json=entry).status_code == 201
    found = register.http.get("/api/clients").json()
    assert (len(found["entries"]), found["count"]) == (1, 1)


def test_what_belongs_to_another_firm_is_not_there(register, stranger):
    client, home, job = register.home("9 Secret Steps")
    other = Book(stranger)
    for path in (f"clients/{client}", f"properties/{home}", f"jobs/{job}", f"jobs/{job}/confirmation.pdf"):
        assert other.http.get(f"/api/{path}").status_code == 404
    assert other.change("property", home, address="mine").status_code == 404
    assert other.http.post("/api/register/property", json={"parent_id": client, "values": {}}).status_code == 404
    assert other.http.get(f"/api/register/property/{home}/history", params={"field": "address"}).status_code == 404
    assert other.find("secret") == []


def test_every_field_has_its_history(register):
    _, home, _ = register.home("1 Old Quay")
    register.change("property", home, address="1 New Quay")
    history = register.http.get(f"/api/register/property/{home}/history", params={"field": "address"}).json()
    assert [(one["before"], one["value"]) for one in history] == [("1 Old Quay", "1 New Quay"), (None, "1 Old Quay")]
    assert history[0]["author"] == "Ines Pector"


def test_the_search_finds_by_any_part_of_address_client_or_number(register, inspector):
    client, home, job = register.home("14 Lookout Row, Kelder Haven", number="J-4711")
    _, other, _ = register.home("4 Lookout Row, Kelder Haven")
    for text in ("okou", "lookout 14", "ROW kelder 14", "14"):
        assert ("property", home) in register.find(text), text
    assert ("property", other) not in register.find("lookout 14")
    # A single figure is a house number, not any figure of another one.
    assert ("property", home) not in register.find("lookout 4")
    assert ("property", other) in register.find("lookout 4")
    assert ("job", job) in register.find("4711") and ("job", job) in register.find("471")
    assert ("client", client) in register.find("arbour tru")
    assert ("property", home) in register.find("harbour trust 14")
    for text in ("", "  ", "%", "'; drop", "_", "zzzz"):
        assert register.find(text) == []
    register.change("property", home, address="14 Façade Street")
    assert ("property", home) in register.find("facade")
    assert ("property", home) not in register.find("lookout 14")
    register.change("client", client, name="Tidewater Homes")
    assert ("property", home) in register.find("tidewater 14")
    register.change("property", home, removed=True)
    assert ("property", home) not in register.find("facade")
    inspection = inspector.begin()
    inspector.send(inspection, inspector.change("inspection", inspection, "reference", "K-98765"))
    assert ("inspection", inspection) in register.find("9876")


def test_a_job_shows_its_estimate_part_by_part(register):
    _, _, job = register.home(boards=1, rings=2, radials=8, points_opened=6, points_tested=30, travel_km=10)
    found = register.http.get(f"/api/jobs/{job}").json()["estimate"]
    # 20 + 20 + 25 + 2·14 + 8·7 + 6·4 + 30·1.5 + 30 minutes (rule 16.1, usual rates).
    assert found["minutes"] == 248
    assert {part["name"]: part["value"] for part in found["time"]}["radials"] == 56
    # 140 + (10 - 8)·9 + 10·0.6
    assert found["price"] == 164
    assert {part["name"]: part["how"] for part in found["parts"]}["further circuits"] == "2 × 9"


@pytest.mark.parametrize(("before", "after"), [("asked", "booked"), ("confirmed", "booked"), ("on hold", "on hold")])
def test_a_job_for_which_an_inspection_was_begun_is_booked_whenever_that_arrives(register, inspector, before, after):
    """It may have been begun on a device days ago, without a server."""
    _, _, job = register.home()
    register.change("job", job, state=before)
    inspection = inspector.begin()
    inspector.send(inspection, inspector.change("inspection", inspection, "job_id", job))
    assert register.http.get(f"/api/jobs/{job}").json()["job"]["values"]["state"] == after
    # A job of nobody's stops nothing.
    (result,) = inspector.send(inspection, inspector.change("inspection", inspection, "job_id", inspection))["results"]
    assert result["state"] == "kept"


def test_a_return_visit_is_charged_once_the_job_is_on_hold_and_once_it_was_made(register, inspector):
    _, home, job = register.home()
    inspection = inspector.begin()
    for field, value in (("property_id", home), ("job_id", job), ("held_at", "2026-11-03T10:00:00Z"),
                         ("return_on", "2026-12-03")):  # fmt: skip
        inspector.send(inspection, inspector.change("inspection", inspection, field, value))
    found = register.http.get(f"/api/jobs/{job}").json()
    assert (found["inspections"][0]["on_hold"], found["inspections"][0]["return_on"]) == (True, "2026-12-03")
    assert {part["name"]: part["value"] for part in found["estimate"]["parts"]}["return visits"] == 65
    inspector.send(inspection, inspector.change("inspection", inspection, "held_at", None))
    inspector.add(inspection, "attendance", "inspection", inspection, purpose="return visit", who="Ines")
    again = register.http.get(f"/api/jobs/{job}").json()
    assert again["estimate"]["price"] == found["estimate"]["price"] == 140 + 65
    # One that was planned is not charged twice.
    register.change("job", job, return_visits=1)
    assert register.http.get(f"/api/jobs/{job}").json()["estimate"]["price"] == 205


def test_rates_are_settled_by_supervisor_and_office_only(register, supervisor):
    given = {"rates": {"ring": 20}, "prices": {"base": 200, "currency": "€"}}
    assert register.http.put("/api/firm/rates", json=given).status_code == 403
    settled = supervisor.http.put("/api/firm/rates", json=given).json()
    assert {rate["name"]: rate["value"] for rate in settled["rates"]}["ring"] == 20
    _, _, job = register.home(rings=1)
    found = register.http.get(f"/api/jobs/{job}").json()["estimate"]
    assert (found["price"], found["currency"]) == (200, "€")
    for wrong in ({"ring": -1}, {"wings": 2}, {"ring": 1e9}):
        answer = supervisor.http.put("/api/firm/rates", json={"rates": wrong, "prices": {}})
        assert answer.status_code == 422 and answer.json()["fields"], wrong
    answer = supervisor.http.put("/api/firm/rates", json={"rates": {}, "prices": {"circuits_included": 2.5}})
    assert answer.json()["fields"][0]["message"] == "It is a whole number."


def test_letters_of_a_job_are_tagged_pdfs_with_its_words(register):
    from io import BytesIO

    import pypdf

    _, home, job = register.home(
        number="J-0815", extent="All of it", leave_out="Loft\nBoat shed", agreed_with="Wynn Tarrant",
        agreed_on="2026-11-20", booked_on="2027-01-14", booked_at="09:00", power_off="09:30 to 12:30",
    )  # fmt: skip
    register.change("property", home, occupier_name="Davy Marlow", must_stay_on="Freezer in the shed")
    pdf = pypdf.PdfReader(BytesIO(register.http.get(f"/api/jobs/{job}/confirmation.pdf").content))
    text = " ".join(page.extract_text() for page in pdf.pages)
    for said in ("J-0815", "Loft; Boat shed", "Wynn Tarrant, 20 November 2026", "14 January 2027, 09:00", "£140.00"):
        assert said in text.replace("\n", " "), said
    assert pdf.trailer["/Root"]["/MarkInfo"]["/Marked"]
    notice = pypdf.PdfReader(BytesIO(register.http.get(f"/api/jobs/{job}/power-off.pdf").content))
    text = " ".join(page.extract_text() for page in notice.pages)
    assert "Davy Marlow" in text and "09:30 to 12:30" in text and "Freezer" in text and "£" not in text


def test_a_lead_set_learns_from_its_accepted_nulls(register, inspector):
    leads = register.add("leads", name=f"Set {new_id()[-6:]}", known_ohm=0.05)
    inspection = inspector.begin()
    for hour, reading in ((9, "0.06"), (10, "0.08"), (11, "0.40")):
        inspector.add(
            inspection, "lead_null", "inspection", inspection, leads_id=leads, name="Set", known_ohm=0.05,
            reading_ohm=reading, nulled_at=f"2026-11-03T{hour:02}:00:00Z",
        )  # fmt: skip
    (found,) = (one for one in register.http.get("/api/instruments").json()["lead_sets"] if one["entry"]["id"] == leads)
    assert (found["known_ohm"], found["nulls"]) == (pytest.approx(0.07), 2)


def test_a_booked_visit_stands_on_the_home_screen(register):
    _, _home, job = register.home(state="booked", booked_on="2026-11-01")
    _, _, far = register.home(state="booked", booked_on="2031-11-01")
    ids = [visit["job"]["id"] for visit in register.http.get("/api/agenda").json()["visits"]]
    assert job in ids and far not in ids


def test_numbers_are_counted_on(register):
    _, home, _ = register.home(number="J-0199")
    assert register.http.get(f"/api/properties/{home}").json()["next_number"] == "J-0200"
