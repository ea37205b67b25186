"""A firm with inspectors, keys and homes to be planned, entered over the wire."""

import time
from datetime import date, timedelta

from dorrik.store.database.engine import new_id


def ahead(days):
    return (date.today() + timedelta(days=days)).isoformat()


def workday(days):
    """A working day, so many days ahead or a little later."""
    day = date.today() + timedelta(days=days)
    return (day + timedelta(days=7 - day.weekday() if day.weekday() > 4 else 0)).isoformat()


class Portfolio:
    """Short ways to enter a portfolio and to plan it."""

    def __init__(self, who):
        self.http, self.firm = who.http, who.me["firm_id"]
        self.client = self.add("client", self.firm, name="Kelder Haven Harbour Trust")

    def add(self, kind, parent, **values):
        answer = self.http.post(f"/api/register/{kind}", json={"parent_id": parent, "values": values})
        assert answer.status_code == 201, answer.text
        return answer.json()["id"]

    def change(self, kind, entry, **values):
        answer = self.http.patch(f"/api/register/{kind}/{entry}", json={"values": values})
        assert answer.status_code == 200, answer.text

    def inspector(self, name="Ruth", **values):
        usual = {"latitude": 50.34, "longitude": -4.76, "starts_at": "08:00", "ends_at": "17:00"}
        return self.add("working_week", self.firm, name=name, **(usual | values))

    def home(self, at=0, job=True, minutes=200, **values):
        """A property and its job; returns both ids."""
        usual = {
            "address": f"{at + 1} Lookout Row, Kelder Haven", "nation": "England", "tenure": "let dwelling",
            "latitude": 50.33 + at / 1000, "longitude": -4.75, "due_on": ahead(30),
        }  # fmt: skip
        home = self.add("property", self.client, **(usual | values))
        if not job:
            return home, None
        return home, self.add("job", home, number=f"J-{new_id()[-8:]}", state="confirmed", visit_min=minutes)

    # The planner

    def plan(self, week=None):
        answer = self.http.get("/api/planner", params={"week": week} if week else {})
        assert answer.status_code == 200, answer.text
        return answer.json()

    def visits(self):
        return {visit["name"]: visit for visit in self.plan()["visits"]}

    def run(self, **more):
        """Plan, and wait for what comes of it."""
        answer = self.http.post("/api/planner/runs", json=more)
        assert answer.status_code == 201, answer.text
        return self.wait()

    def wait(self, seconds=60):
        end = time.monotonic() + seconds
        while time.monotonic() < end:
            run = self.http.get("/api/planner/runs/latest").json()
            if run["state"] != "running":
                return run
            time.sleep(0.05)
        raise AssertionError("The run has not ended.")

    def move(self, visit, inspector, day, begins=None, version=None):
        given = {
            "inspector_id": inspector, "day": day, "begins": begins,
            "version": visit["version"] if version is None else version,
        }  # fmt: skip
        return self.http.post(f"/api/planner/visits/{visit['id']}/move", json=given)
