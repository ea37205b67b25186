"""Devices that enter, send, lose answers and hear of each other in any order, held against a model of them: all
converge, nothing is lost, nothing is kept twice, and what crossed is what no device had seen."""

import random
from dataclasses import dataclass, field

import pytest

from dorrik.store.database.engine import new_id
from tests.api.conftest import Inspector
from tests.examples import examples

FIELDS = ("zs_ohm", "r1_r2_ohm", "designation")


@dataclass
class Tablet:
    """A device: what waits on it, what it has heard up to, and what it shows."""

    who: Inspector
    name: str
    waits: list[dict] = field(default_factory=list)
    #: What was sent and may have arrived, for the answer was lost.
    in_doubt: int = 0
    heard: int = 0
    shows: dict = field(default_factory=dict)

    def enter(self, circuit, name, value):
        self.who.device = self.name
        self.waits.append(self.who.change("circuit", circuit, name, value) | {"based_on": self.heard})
        self.shows[name] = value

    def send(self, inspection, chance, journal, lost):
        """Some of what waits, from the beginning; where the answer is lost it is sent again some time."""
        batch = self.waits[: chance.randint(1, 5)]
        receipt = self.who.send(inspection, *batch)
        known = {one["id"] for one in journal}
        for change, result in zip(batch, receipt["results"], strict=True):
            if change["id"] in known:
                assert result["state"] == "already", result
            else:
                assert result["state"] == "kept", result
                journal.append(change | {"seq": result["seq"], "device": self.name})
        if not lost:
            del self.waits[: len(batch)]

    def hear(self, inspection):
        news = self.who.http.get(f"/api/inspections/{inspection}/changes?since={self.heard}").json()
        waiting = {change["field"] for change in self.waits}
        for entry in news["entries"]:
            if entry["entity"] == "circuit" and entry["field"] in FIELDS and entry["field"] not in waiting:
                self.shows[entry["field"]] = entry["value"]
        self.heard = news["seq"]


def crossed_by_the_model(journal):
    """Fields whose last entry did not see another device's last one, of another value."""
    found = {}
    for name in FIELDS:
        of_field = [one for one in journal if one["field"] == name]
        if not of_field:
            continue
        last = of_field[-1]
        others = {}
        for one in of_field[:-1]:
            if one["device"] != last["device"] and one["seq"] > last["based_on"]:
                others[one["device"]] = one["value"]
        different = sorted(value for value in others.values() if value != last["value"])
        if different:
            found[name] = different
    return found


@pytest.mark.parametrize("seed", range(examples(12)))
def test_any_order_of_entering_sending_and_hearing_converges(app, firm, inspector, seed):
    chance = random.Random(seed)
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    begun = inspector.http.get(f"/api/inspections/{inspection}").json()["seq"]
    people = (firm.inspector_email, firm.supervisor_email, firm.inspector_email)
    tablets = [Tablet(Inspector(app, email), f"tablet {at}", heard=begun) for at, email in enumerate(people)]
    journal: list[dict] = []
    for _ in range(chance.randint(30, 70)):
        tablet = chance.choice(tablets)
        match chance.random():
            case drawn if drawn < 0.5:
                name = chance.choice(FIELDS)
                value = chance.choice(("Cooker", "Oven")) if name == "designation" else chance.choice(("0.3", "0.4"))
                tablet.enter(circuit, name, value)
            case drawn if drawn < 0.8 and tablet.waits:
                tablet.send(inspection, chance, journal, lost=chance.random() < 0.3)
            case _:
                tablet.hear(inspection)
    for tablet in tablets:
        while tablet.waits:
            tablet.send(inspection, chance, journal, lost=chance.random() < 0.2)
    for tablet in tablets:
        tablet.hear(inspection)

    kept = inspector.http.get(f"/api/inspections/{inspection}/changes?since={begun}").json()["entries"]
    assert [entry["id"] for entry in kept] == [one["id"] for one in sorted(journal, key=lambda one: one["seq"])]
    for tablet in tablets:
        mine = [one["id"] for one in journal if one["device"] == tablet.name]
        assert mine == sorted(mine, key=[one["id"] for one in kept].index)
    stands = {one["field"]: one["value"] for one in journal}
    values = inspector.values(inspection, circuit)
    for name, value in stands.items():
        assert values[name] == value
        assert {tablet.shows.get(name, value) for tablet in tablets} == {value}
    told = inspector.http.get(f"/api/inspections/{inspection}/crossings").json()["fields"]
    asked = {one["stands"]["field"]: sorted(other["value"] for other in one["others"]) for one in told}
    assert asked == crossed_by_the_model(journal)


def test_a_change_that_says_other_than_what_was_kept_under_its_id_is_refused(inspector):
    inspection = inspector.begin()
    change = inspector.change("inspection", inspection, "condition", "Worn") | {"id": new_id()}
    inspector.send(inspection, change)
    again = inspector.send(inspection, change | {"value": "Good"})["results"][0]
    assert again["state"] == "refused"
