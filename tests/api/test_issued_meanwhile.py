"""A device that was away while the report was issued: what it entered before waits, with the reason, until somebody
says that it is meant for a correction."""

from datetime import UTC, datetime, timedelta

import pytest

from tests.api.reviewed import issue, seq_of


@pytest.fixture
def issued(ready, inspector, supervisor):
    inspection = ready()
    assert issue(inspector, supervisor, inspection).status_code == 201
    return inspection


def sent(who, inspection, **more):
    change = who.change("inspection", inspection, "condition", "Worn") | more
    receipt = who.send(inspection, change)
    return receipt["results"][0], receipt, change


def test_what_was_entered_without_knowing_of_the_issue_waits(inspector, issued):
    known = inspector.http.get(f"/api/inspections/{issued}").json()
    assert known["issue"] == 1
    # It had seen every entry: of the issue it could not know.
    result, receipt, change = sent(inspector, issued, based_on=seq_of(inspector, issued), issue=0)
    assert (result["state"], result["waits"]) == ("refused", True)
    assert "Issue 1" in result["reason"]
    assert receipt["issue"] == 1
    assert inspector.values(issued, issued).get("condition") != "Worn"
    # Meant for a correction: the same change, with what is known now.
    again = inspector.send(issued, change | {"issue": 1})
    assert again["results"][0]["state"] == "kept"
    assert inspector.values(issued, issued)["condition"] == "Worn"


def test_whoever_knows_of_the_issue_goes_on(inspector, issued):
    result, receipt, _ = sent(inspector, issued, issue=1)
    assert (result["state"], result["waits"], receipt["issue"]) == ("kept", False, 1)


def test_a_device_that_does_not_say_is_taken_by_its_clock(inspector, issued):
    before = (datetime.now(UTC) - timedelta(hours=1)).isoformat()
    assert sent(inspector, issued, made_at=before)[0]["waits"]
    assert sent(inspector, issued)[0]["state"] == "kept"


def test_what_was_kept_before_the_issue_is_not_asked_again(inspector, supervisor, ready):
    inspection = ready()
    change = inspector.change("inspection", inspection, "condition", "Fair") | {"issue": 0}
    inspector.send(inspection, change)
    assert issue(inspector, supervisor, inspection).status_code == 201
    # Its answer was lost: sent once more.
    assert inspector.send(inspection, change)["results"][0]["state"] == "already"


def test_a_wrong_clock_of_a_device_that_says_what_it_knows_does_not_matter(inspector, issued):
    yesterday = (datetime.now(UTC) - timedelta(days=1)).isoformat()
    tomorrow = (datetime.now(UTC) + timedelta(hours=20)).isoformat()
    assert sent(inspector, issued, made_at=yesterday, issue=1)[0]["state"] == "kept"
    assert sent(inspector, issued, made_at=tomorrow, issue=0)[0]["waits"]
