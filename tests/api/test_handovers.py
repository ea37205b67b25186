"""What one device wrote and another sends: the author stays who wrote it, each entry counts once, and nothing is taken
that the device did not sign."""

import base64
import hashlib
import hmac
import json
import secrets

import pytest

from dorrik.store.database.engine import new_id
from tests.api.reviewed import seq_of


class Tablet:
    """A device with a key, known to the server as one person's."""

    def __init__(self, who):
        self.who, self.id, self.key = who, new_id(), secrets.token_bytes(32)
        answer = who.http.put(
            f"/api/devices/{self.id}", json={"name": "Tablet", "key": base64.b64encode(self.key).decode()}
        )
        assert answer.status_code == 200

    def bundle(self, *of_inspections, **other):
        whole = {
            "version": 1, "id": new_id(), "person": self.who.me["id"], "person_name": self.who.me["name"],
            "firm": self.who.me["firm_id"], "device": self.id, "made_at": "2026-12-01T09:00:00Z", "photos": [],
            "inspections": [
                {"inspection_id": inspection, "changes": {"changes": list(changes)}}
                for inspection, *changes in of_inspections
            ],
        }  # fmt: skip
        return json.dumps(whole | other)

    def signed(self, bundle):
        signature = hmac.new(self.key, bundle.encode(), hashlib.sha256).digest()
        return {"bundle": bundle, "signature": base64.b64encode(signature).decode()}


@pytest.fixture
def tablet(inspector):
    return Tablet(inspector)


def hand(to, signed):
    return to.http.post("/api/handovers", json=signed)


def test_what_is_handed_over_stands_under_the_name_of_who_wrote_it(inspector, supervisor, tablet):
    inspection = new_id()
    firm = inspector.me["firm_id"]
    changes = [
        inspector.change("inspection", inspection, "firm", firm),
        inspector.change("inspection", inspection, "condition", "Worn"),
        inspector.change("inspection", inspection, "ze_ohm", "1..4"),
    ]
    signed = tablet.signed(tablet.bundle((inspection, *changes)))
    told = hand(supervisor, signed).json()
    assert (told["author"], told["kept"], told["already"]) == ("Ines Pector", 2, 0)
    assert [one["id"] for one in told["refused"]] == [changes[2]["id"]]
    history = supervisor.http.get(
        f"/api/inspections/{inspection}/history", params={"entity_id": inspection, "field": "condition"}
    ).json()
    assert [(entry["author"], entry["value"]) for entry in history] == [("Ines Pector", "Worn")]
    # Handed over once more, or sent by the device itself when it is back: once.
    assert hand(supervisor, signed).json()["already"] == 2
    assert inspector.send(inspection, *changes[:2])["results"][1]["state"] == "already"
    audit = supervisor.http.get("/api/audit", params={"action": "handed over"}).json()
    assert "Ines Pector" in json.dumps(audit)


def test_nothing_is_taken_that_was_not_signed_there(inspector, supervisor, office, tablet):
    inspection = inspector.begin()
    good = tablet.bundle((inspection, inspector.change("inspection", inspection, "condition", "Worn")))
    signed = tablet.signed(good)
    other = Tablet(supervisor)
    forged = [
        signed | {"bundle": good.replace("Worn", "Good")},
        signed | {"signature": base64.b64encode(bytes(32)).decode()},
        # Somebody else's device, and somebody else's name.
        other.signed(good),
        other.signed(other.bundle(person=inspector.me["id"])),
        tablet.signed(tablet.bundle(device=new_id())),
        tablet.signed(tablet.bundle(person=office.me["id"])),
        tablet.signed(tablet.bundle(person=new_id())),
    ]
    for one in forged:
        answer = hand(supervisor, one)
        assert answer.status_code == 409, answer.text
        assert "Nothing of it was taken" in answer.json()["message"]
    assert inspector.values(inspection, inspection).get("condition") is None


def test_a_device_that_was_ended_signs_for_nobody_any_more(inspector, supervisor, tablet):
    inspection = inspector.begin()
    signed = tablet.signed(tablet.bundle((inspection, inspector.change("inspection", inspection, "condition", "Worn"))))
    supervisor.http.post(f"/api/devices/{tablet.id}/of/{inspector.me['id']}/end")
    assert hand(supervisor, signed).status_code == 409


def test_nobody_writes_more_than_their_role_allows_by_handing_it_to_another(inspector, office, supervisor):
    inspection = inspector.begin()
    theirs = Tablet(office)
    change = office.change("inspection", inspection, "declared_outcome", "satisfactory")
    told = hand(supervisor, theirs.signed(theirs.bundle((inspection, change)))).json()
    assert (told["kept"], len(told["refused"])) == (0, 1)
    assert "competent person" in told["refused"][0]["reason"]


def test_another_firm_takes_nothing_and_is_told_nothing(inspector, stranger, tablet):
    inspection = inspector.begin()
    change = inspector.change("inspection", inspection, "condition", "Worn")
    assert hand(stranger, tablet.signed(tablet.bundle((inspection, change)))).status_code == 409
    assert seq_of(inspector, inspection) >= 1
    # Nor does somebody write into another firm's inspection through a colleague.
    theirs = stranger.begin()
    foreign = inspector.change("inspection", theirs, "condition", "Worn")
    told = hand(inspector, tablet.signed(tablet.bundle((theirs, foreign)))).json()
    assert told["kept"] == 0 and "no such inspection" in told["refused"][0]["reason"]


@pytest.mark.parametrize("bundle", ["", "{}", "[]", "null", '{"version": 2}', "\x00"])
def test_what_is_no_bundle_is_told_so(inspector, bundle):
    answer = hand(inspector, {"bundle": bundle, "signature": base64.b64encode(b"x").decode()})
    assert answer.status_code == 422
