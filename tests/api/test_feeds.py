"""Calendars by address: of an inspector, a client, the firm; ended at any time; hours of the wall in summer and winter.
The landlord's page of a month, and the reminder that inspections are due."""

import io
from datetime import date, timedelta
from zoneinfo import ZoneInfo

import pypdf
import pytest
from icalendar import Calendar

from dorrik.office import due_reminders
from tests.api.planning import Portfolio, ahead, workday


@pytest.fixture
def trust(office):
    return Portfolio(office)


def feed(trust, whose, of_id=None):
    answer = trust.http.post("/api/feeds", json={"whose": whose, "of_id": of_id})
    assert answer.status_code == 201, answer.text
    return answer.json()


def path_of(made):
    return "/calendar/" + made["address"].split("/calendar/")[1]


def events(http, path):
    answer = http.get(path)
    assert answer.status_code == 200, answer.text
    return list(Calendar.from_ical(answer.content).walk("VEVENT"))


def test_an_inspectors_calendar_has_their_visits_and_says_which_are_agreed(trust, place):
    ruth = trust.inspector()
    trust.inspector("Idris", latitude=50.36)
    for at in range(3):
        trust.home(at, occupier_name="Joss Adair", key_place="Hook 9")
    trust.run()
    visits = trust.visits()
    mine = [visit for visit in visits.values() if visit["inspector_id"] == ruth]
    trust.http.post(f"/api/planner/visits/{mine[0]['id']}/booking")
    found = events(place(), path_of(feed(trust, "inspector", ruth)))
    assert len(found) == len(mine)
    titles = {str(event["summary"]) for event in found}
    assert mine[0]["name"] in titles
    assert all("(planned, not agreed)" in title for title in titles - {mine[0]["name"]})
    assert any("Hook 9" in str(event["description"]) for event in found)


def test_a_clients_calendar_has_no_keys_and_nobody_elses_homes(trust, place):
    trust.inspector()
    home, job = trust.home(occupier_name="Joss Adair", key_place="Hook 9")
    trust.change("job", job, state="booked", booked_on=workday(4), booked_at="08:30")
    other = trust.add("client", trust.firm, name="Low Ferry Lettings")
    trust.add("property", other, address="2 Ferry Lane", due_on=ahead(40))
    answer = place().get(path_of(feed(trust, "client", trust.client)))
    assert b"Hook 9" not in answer.content and b"Joss" not in answer.content and b"Ferry" not in answer.content
    titles = [str(e["summary"]) for e in Calendar.from_ical(answer.content).walk("VEVENT")]
    assert sorted(title.split(":")[0] for title in titles) == ["Inspection", "Inspection due"]
    assert home


def test_an_address_is_told_once_and_ends_at_any_time(trust, place):
    made = feed(trust, "firm")
    listed = trust.http.get("/api/feeds").json()
    assert [(one["id"], one["address"]) for one in listed] == [(made["id"], None)]
    who = place()
    assert events(who, path_of(made)) == []
    assert trust.http.get("/api/feeds").json()[0]["reads"] == 1
    assert trust.http.delete(f"/api/feeds/{made['id']}").status_code == 204
    assert who.get(path_of(made)).status_code == 404
    assert trust.http.delete(f"/api/feeds/{made['id']}").status_code == 404


def test_who_guesses_addresses_waits(place):
    who = place()
    answers = [who.get(f"/calendar/{'x' * 30}{n}.ics").status_code for n in range(60)]
    assert answers[0] == 404 and answers[-1] == 429


def test_a_calendar_of_somebody_who_is_gone_or_of_another_firm_is_none(trust, stranger, place):
    ruth = trust.inspector()
    made = feed(trust, "inspector", ruth)
    assert stranger.http.post("/api/feeds", json={"whose": "inspector", "of_id": ruth}).status_code == 404
    assert stranger.http.delete(f"/api/feeds/{made['id']}").status_code == 404
    trust.change("working_week", ruth, removed=True)
    assert place().get(path_of(made)).status_code == 404


@pytest.mark.parametrize(
    ("day", "hours"), [("2027-03-28", 1), ("2027-03-29", 1), ("2027-03-27", 0), ("2027-10-31", 0), ("2027-10-30", 1)]
)
def test_a_visit_at_half_past_eight_is_at_half_past_eight_after_the_clocks_change(trust, place, day, hours):
    """The clocks go forward on 28 March and back on 31 October 2027."""
    trust.inspector()
    _, job = trust.home(due_on=None)
    trust.change("job", job, state="booked", booked_on=day, booked_at="08:30")
    (event,) = events(place(), path_of(feed(trust, "client", trust.client)))
    begins = event.decoded("dtstart")
    assert begins.astimezone(ZoneInfo("Europe/London")).strftime("%Y-%m-%d %H:%M") == f"{day} 08:30"
    assert begins.utcoffset() == timedelta(hours=hours)


def test_a_landlords_page_names_each_home_once_what_presses_first(trust):
    trust.home(0, job=False, due_on=ahead(-5))
    trust.home(1, due_on=ahead(30))
    trust.home(2, job=False, due_on=ahead(900))
    answer = trust.http.get(f"/api/portfolio/{trust.client}/month.pdf")
    assert answer.status_code == 200 and answer.headers["content-type"] == "application/pdf"
    text = "\n".join(page.extract_text() for page in pypdf.PdfReader(io.BytesIO(answer.content)).pages)
    assert "3 homes: 2 with something open, 1 late, 1 in order." in " ".join(text.split())
    assert text.index("1 Lookout Row") < text.index("2 Lookout Row") and "3 Lookout Row" not in text
    assert f"{date.today():%B %Y}" in text


def test_a_client_is_reminded_once_of_all_homes_that_are_due_on_one_day(trust, supervisor, app, caught):
    paper = {"texts": {}, "remind_days": [30, 7], "first_reference": "", "first_job": ""}
    answer = supervisor.http.put("/api/firm/paper", json=paper)
    assert answer.status_code == 200, answer.text
    trust.change("client", trust.client, email=f"trust-{trust.firm[-12:]}@kelder.example")
    for at in range(3):
        trust.home(at, job=at == 2, due_on=ahead(25))
    today = date.today()
    for _ in range(2):
        due_reminders.remind(app.state.engine, today)
    app.state.delivery.deliver_due(trust.firm)
    (letter,) = caught()
    assert "1 Lookout Row" in letter.get_content() and "2 Lookout Row" in letter.get_content()
    # Of the third a job is asked for: nobody has to be reminded of it.
    assert "3 Lookout Row" not in letter.get_content()
    due_reminders.remind(app.state.engine, today + timedelta(days=19))
    app.state.delivery.deliver_due(trust.firm)
    assert len(caught()) == 2
