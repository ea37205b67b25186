"""Asked twice, done once: at once from several devices, after a broken line, and with a key of the device's own."""

from concurrent.futures import ThreadPoolExecutor
from email import message_from_bytes

import pytest

from dorrik.demo.mail_catcher import catch
from dorrik.store.database.engine import new_id
from dorrik.store.mail import letter_budget as letters
from tests.api.conftest import Inspector
from tests.api.reviewed import authorise, issue, submit
from tests.pictures import picture
from tests.serving import free_port

AT_ONCE = 4


@pytest.fixture
def devices(app, firm):
    """The same inspector on several devices."""
    return [Inspector(app, firm.inspector_email, f"device {n}") for n in range(AT_ONCE)]


def at_once(devices, ask):
    with ThreadPoolExecutor(len(devices)) as pool:
        return list(pool.map(ask, devices))


def test_a_report_is_issued_once_from_several_devices(app, firm, ready, inspector):
    inspection = ready()
    submitted = at_once([Inspector(app, firm.inspector_email, "a"), inspector], lambda one: submit(one, inspection))
    assert [len(a.json()["steps"]) for a in submitted] == [1, 1]
    supervisors = [Inspector(app, firm.supervisor_email, f"device {n}") for n in range(AT_ONCE)]
    path = f"/api/inspections/{inspection}/reports"
    answers = at_once(supervisors, lambda one: authorise(one, inspection))
    assert {a.status_code for a in answers} == {201}
    assert len({a.json()["id"] for a in answers}) == 1
    assert len(inspector.http.get(path).json()) == 1


def test_a_correction_of_what_has_not_changed_needs_its_own_reason(inspector, supervisor, ready):
    inspection = ready()
    first = issue(inspector, supervisor, inspection).json()
    assert authorise(supervisor, inspection).json() == first
    why = {"reason": "Our address was wrong."}
    # A correction is signed for again.
    assert authorise(supervisor, inspection, **why).status_code == 422
    second = issue(inspector, supervisor, inspection, **why).json()
    assert second["number"] == 2
    assert authorise(supervisor, inspection, **why).json() == second


@pytest.fixture
def job(inspector):
    def add(kind, parent, **values):
        return inspector.http.post(f"/api/register/{kind}", json={"parent_id": parent, "values": values}).json()["id"]

    client = add("client", inspector.me["firm_id"], name="Harbour Trust")
    home = add("property", client, address="5 Lookout Row")
    return add("job", home, number=f"J-{new_id()[-6:]}", state="asked", leave_out="Loft\nGarage")


@pytest.fixture
def caught(tmp_path, monkeypatch):
    port = free_port()
    catcher = catch(tmp_path, port)
    monkeypatch.setenv("DORRIK_SMTP", f"127.0.0.1:{port}")
    yield lambda: [message_from_bytes(path.read_bytes()) for path in sorted(tmp_path.glob("*.eml"))]
    catcher.stop()


def test_a_letter_leaves_once_and_everybody_gets_the_same_answer(devices, job, caught):
    path = f"/api/jobs/{job}/confirmation"
    answers = at_once(devices, lambda one: one.http.post(path, json={"to": "a@b.example"}))
    assert {a.status_code for a in answers} == {200}
    assert len({a.text for a in answers}) == 1
    assert len(caught()) == 1
    # To somebody else it is another letter.
    assert devices[0].http.post(path, json={"to": "c@d.example"}).status_code == 200
    assert len(caught()) == 2


def test_what_the_register_would_refuse_is_told_before_the_letter_leaves(inspector, job, caught):
    """An address as long as there can be one, and the day: it fits, and the answer agrees with what was sent."""
    to = "a" * 60 + "@" + ".".join(["b" * 60, "c" * 50]) + ".example"
    answer = inspector.http.post(f"/api/jobs/{job}/confirmation", json={"to": to})
    assert (answer.status_code, len(caught())) == (200, 1)
    assert answer.json()["values"]["confirmation_sent"].startswith(to)


def test_a_letter_that_failed_can_be_sent_again_at_once(inspector, job, caught, monkeypatch):
    working = __import__("os").environ["DORRIK_SMTP"]
    monkeypatch.setenv("DORRIK_SMTP", f"127.0.0.1:{free_port()}")
    path = f"/api/jobs/{job}/confirmation"
    assert inspector.http.post(path, json={"to": "a@b.example"}).status_code == 200
    # It waits, and nothing says that it was sent.
    assert inspector.http.get(f"/api/jobs/{job}").json()["job"]["values"].get("confirmation_sent") is None
    monkeypatch.setenv("DORRIK_SMTP", working)
    (waiting,) = inspector.http.get("/api/letters", params={"troubled": True}).json()["letters"]
    assert inspector.http.post(f"/api/letters/{waiting['id']}/again", json={}).json()["state"] == "sent"
    assert inspector.http.get(f"/api/jobs/{job}").json()["job"]["values"]["confirmation_sent"].startswith("a@b.example")
    assert len(caught()) == 1


def test_a_firm_sends_so_many_letters_an_hour(inspector, job, caught, monkeypatch):
    monkeypatch.setattr(letters, "OF_ONE_FIRM", 2)
    path = f"/api/jobs/{job}/confirmation"
    codes = [inspector.http.post(path, json={"to": f"a{n}@b.example"}).status_code for n in range(3)]
    assert codes == [200, 200, 429]


ROWS = [["Way", "Circuit", "Rating"], ["1", "Cooker", "B32"], ["2", "Lights", "B6"]]
CHART = {"rows": ROWS, "columns": ["way", "designation", "device"], "first": 1}


def test_boards_are_carried_over_once_from_several_devices(devices, inspector):
    inspection = inspector.begin()
    path = f"/api/inspections/{inspection}/carry-over"
    answers = at_once(devices, lambda one: one.http.post(path, json={"chart": CHART}))
    assert {a.status_code for a in answers} == {201}, answers[0].text
    assert len({a.text for a in answers}) == 1
    kinds = [e["kind"] for e in inspector.http.get(f"/api/inspections/{inspection}").json()["entities"]]
    assert kinds.count("circuit") == 2


def test_a_key_of_the_device_s_own_stands_for_one_thing(inspector):
    inspection = inspector.begin()
    path = f"/api/inspections/{inspection}/carry-over"
    key = {"Idempotency-Key": new_id()}
    first = inspector.http.post(path, json={"chart": CHART}, headers=key)
    assert inspector.http.post(path, json={"chart": CHART}, headers=key).text == first.text
    other = inspector.http.post(path, json={"chart": CHART | {"first": 2}}, headers=key)
    assert (other.status_code, other.json()["code"]) == (409, "other-content")


def test_begun_from_a_job_on_two_devices_it_is_one_inspection(devices, job, inspector):
    begun = [device.http.get(f"/api/jobs/{job}").json()["beginnings"][0] for device in devices]
    assert len({b["inspection_id"] for b in begun}) == 1
    (identity,) = {b["inspection_id"] for b in begun}

    def begin(one):
        changes = [one.change("inspection", identity, "firm", one.me["firm_id"])]
        changes += [one.change("inspection", identity, f, v) for f, v in begun[0]["fields"].items()]
        for limitation in begun[0]["limitations"]:
            changes.append(one.change("limitation", limitation["id"], "inspection", identity))
            changes.append(one.change("limitation", limitation["id"], "what", limitation["what"]))
        return one.send(identity, *changes)["results"]

    for results in at_once(devices, begin):
        assert {r["state"] for r in results} == {"kept"}
    found = inspector.http.get(f"/api/jobs/{job}").json()
    assert [inspection["id"] for inspection in found["inspections"]] == [identity]
    entities = inspector.http.get(f"/api/inspections/{identity}").json()["entities"]
    assert [e["values"]["what"] for e in entities if e["kind"] == "limitation"] == ["Loft", "Garage"]
    # A second one for the same job, begun on purpose, is another.
    assert found["beginnings"][0]["inspection_id"] != identity


def test_numbers_given_at_once_stand_for_one_job_and_one_inspection_each(devices, inspector):
    def add(kind, parent, **values):
        return inspector.http.post(f"/api/register/{kind}", json={"parent_id": parent, "values": values}).json()["id"]

    home = add("property", add("client", inspector.me["firm_id"], name="x"), address="x")

    def job(one):
        return one.http.post("/api/register/job", json={"parent_id": home, "values": {"number": "J-0500"}})

    answers = at_once(devices, job)
    assert sorted(a.status_code for a in answers) == [201] + [422] * (AT_ONCE - 1)
    told = {a.json()["fields"][0]["message"] for a in answers if a.status_code == 422}
    assert told == {"J-0500 is already in the register; J-0501 is free."}

    def begin(one):
        inspection = new_id()
        made = one.change("inspection", inspection, "firm", one.me["firm_id"])
        named = one.change("inspection", inspection, "reference", "K-0900")
        return one.send(inspection, made, named)["results"][1]

    results = at_once(devices, begin)
    assert sorted(r["state"] for r in results) == ["kept"] + ["refused"] * (AT_ONCE - 1)
    assert all("K-0901 is free" in r["reason"] for r in results if r["state"] == "refused")


def test_the_same_photo_from_several_devices_at_once(devices, inspector):
    import hashlib

    inspection = inspector.begin()
    photo = picture(width=400 + len(new_id()))
    path = f"/api/inspections/{inspection}/photos/{hashlib.sha256(photo).hexdigest()}"
    answers = at_once(devices, lambda one: one.http.put(path, content=photo))
    assert {a.status_code for a in answers} == {204}
    assert inspector.http.get(path).content == photo
