"""What a firm settles about its letters and numbers, and the reminders that follow."""

from datetime import date

import pytest

from dorrik.office.mail_delivery import Delivery
from dorrik.office.reminders import remind
from tests.api.clearing import clear, issued, unsatisfactory

PATH = "/api/firm/paper"


def settle(who, **paper):
    return who.http.put(PATH, json=paper)


def test_numbers_begin_where_the_firm_says_and_count_on(supervisor, inspector):
    assert inspector.http.get("/api/home").json()["next_reference"] == "K-0001"
    answer = settle(supervisor, first_reference="KH-2027-001", first_job="A7-09")
    assert (answer.json()["next_reference"], answer.json()["next_job"]) == ("KH-2027-001", "A7-09")
    for number, following in (("KH-2027-001", "KH-2027-002"), ("KH-2027-0999", "KH-2027-1000")):
        inspection = inspector.begin()
        inspector.send(inspection, inspector.change("inspection", inspection, "reference", number))
        assert inspector.http.get("/api/home").json()["next_reference"] == following
    # One of another row, or one that somebody made up, does not count.
    for other in ("KH-2028-500000", "kh-2027-7777", "KH-2027-12b"):
        inspection = inspector.begin()
        inspector.send(inspection, inspector.change("inspection", inspection, "reference", other))
    assert inspector.http.get("/api/home").json()["next_reference"] == "KH-2027-1000"


@pytest.mark.parametrize(
    ("wrong", "field"),
    [
        ({"first_reference": "KH"}, "first_reference"),
        ({"remind_days": [0]}, "remind_days"),
        ({"remind_days": [1, 2, 3, 4, 5]}, "remind_days"),
        ({"texts": {"nothing": "x"}}, "texts"),
        ({"texts": {"report_mail": "x" * 1001}}, "report_mail"),
    ],
)
def test_what_cannot_be_is_told_at_its_field(supervisor, wrong, field):
    answer = settle(supervisor, **wrong)
    assert answer.status_code == 422
    assert answer.json()["fields"][0]["field"].split(".")[-1] == field


def test_a_supervisor_settles_it_and_others_read_it(supervisor, inspector, stranger):
    assert settle(inspector, remind_days=[7]).status_code == 403
    assert settle(supervisor, remind_days=[3, 14, 3]).json()["remind_days"] == [14, 3]
    assert inspector.http.get(PATH).json()["remind_days"] == [14, 3]
    assert stranger.http.get(PATH).json()["remind_days"] == []


def test_the_firms_own_words_stand_in_its_mails(supervisor, inspector, ready, caught):
    settle(supervisor, texts={"report_mail": "We mend what we find, if you want."})
    inspection, _ = unsatisfactory(inspector, ready, "C2")
    issued(inspector, supervisor, inspection)
    body = {"role": "client", "name": "Una", "to": "una@test.example"}
    assert inspector.http.post(f"/api/inspections/{inspection}/after/mail", json=body).status_code == 200
    (mail,) = caught()
    assert "We mend what we find, if you want." in mail.get_body().get_content()


# Reminders


@pytest.fixture
def report(inspector, supervisor, ready):
    """An unsatisfactory report of 3 November in England, of a client with an address: 28 days are 1 December."""

    def entry(kind, parent, **values):
        return inspector.http.post(f"/api/register/{kind}", json={"parent_id": parent, "values": values}).json()["id"]

    client = entry("client", inspector.me["firm_id"], name="Harbour Trust", email="trust@test.example")
    home = entry("property", client, address="1 Lookout Row")
    inspection, items = unsatisfactory(inspector, ready, "C2", property_id=home)
    issued(inspector, supervisor, inspection)
    return inspection, items


def on(engine, supervisor, month, day):
    firm_id = supervisor.me["firm_id"]
    count = remind(engine, date(2026, month, day), "http://here.example", firm_id)
    Delivery(engine).deliver_due(firm_id)
    return count


def test_a_client_is_reminded_on_each_day_once(report, supervisor, engine, caught):
    settle(supervisor, remind_days=[14, 3], texts={"reminder_mail": "Call us."})
    assert on(engine, supervisor, 11, 10) == 0
    # Copy and work are due on one day: a mail of each.
    assert on(engine, supervisor, 11, 17) == 2
    assert on(engine, supervisor, 11, 20) == 0
    assert on(engine, supervisor, 11, 28) == 2
    assert on(engine, supervisor, 11, 28) == 0
    # Once the day has gone by nobody is reminded of it.
    assert on(engine, supervisor, 12, 2) == 0
    work = next(mail for mail in caught() if "remedial" in mail.get_body().get_content())
    words = work.get_body().get_content()
    assert work["To"] == "trust@test.example" and "By 1 December 2026" in words
    assert "C2: Found 1" in words and "http://here.example/home-report#" in words and "Call us." in words
    assert len(caught()) == 4


def test_what_is_done_is_not_reminded_of(report, supervisor, inspector, engine, caught):
    inspection, (c2,) = report
    settle(supervisor, remind_days=[14])
    clear(inspector, inspection, c2)
    body = {"role": "occupier", "name": "x", "how": "by hand", "on": "2026-11-12"}
    inspector.http.post(f"/api/inspections/{inspection}/after/copies", json=body)
    assert on(engine, supervisor, 11, 20) == 0 and caught() == []


def test_where_none_are_settled_or_the_client_has_no_address_none_go(report, supervisor, inspector, engine, caught):
    assert on(engine, supervisor, 11, 20) == 0
    settle(supervisor, remind_days=[14])
    inspection, _ = report
    entities = inspector.http.get(f"/api/inspections/{inspection}").json()["entities"]
    home = next(entity["values"]["property_id"] for entity in entities if entity["kind"] == "inspection")
    client = inspector.http.get(f"/api/properties/{home}").json()["client"]["id"]
    inspector.http.patch(f"/api/register/client/{client}", json={"values": {"email": None}})
    assert on(engine, supervisor, 11, 20) == 0 and caught() == []
