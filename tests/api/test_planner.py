"""The planner over the wire: planned in a process of its own, moved by hand, fitted to what happens meanwhile."""

import threading
from datetime import date, timedelta

import pytest

from dorrik.office import plan_running
from dorrik.planner import process
from dorrik.store.database.engine import now
from dorrik.store.planning import plan_runs
from tests.api.planning import Portfolio, ahead, workday


@pytest.fixture
def trust(office):
    return Portfolio(office)


def places(plan):
    return {v["name"]: (v["day"], v["begins"], v["inspector_id"]) for v in plan["visits"]}


def test_visits_are_planned_and_say_why_they_are_where_they_are(trust):
    ruth = trust.inspector()
    for at in range(3):
        trust.home(at)
    before = trust.plan()
    assert {v["why"] for v in before["visits"]} == {"Not planned yet."} and before["planned_at"] is None
    run = trust.run()
    assert run["state"] == "done" and "3 visits moved" in run["told"]
    plan = trust.plan()
    assert plan["left"] == 0 and plan["planned_s"] > 0
    for visit in plan["visits"]:
        assert visit["inspector_id"] == ruth and visit["day"] < visit["deadline"]
        # Nobody tells an occupier 08:52.
        assert visit["begins"] % 5 == 0 and visit["minutes"] == 200
    shown = {stop["id"] for one in plan["inspectors"] for day in one["days"] for stop in day["stops"]}
    assert all(visit["reasons"] for visit in plan["visits"] if visit["id"] in shown)
    days = [day for one in plan["inspectors"] for day in one["days"] if day["stops"]]
    assert all(day["leaves"] < day["stops"][0]["begins"] and day["back"] > day["stops"][-1]["ends"] for day in days)


def test_without_anybody_who_makes_visits_that_is_said(trust):
    trust.home()
    assert "No inspector has a working week yet" in trust.plan()["notes"][0]
    trust.run()
    assert trust.plan()["visits"][0]["why"] == "There is no inspector."


def test_a_deadline_that_has_passed_is_said_and_a_new_one_is_taken(trust):
    trust.inspector()
    _, job = trust.home(due_on=ahead(-3))
    trust.run()
    assert "The last day for it was" in trust.plan()["visits"][0]["why"]
    trust.change("job", job, last_day=ahead(20))
    trust.run()
    assert trust.plan()["visits"][0]["why"] is None


def test_access_that_excludes_itself_is_said_before_anybody_stands_at_the_door(trust):
    trust.inspector()
    home, _ = trust.home()
    trust.add("access_window", home, access="possible", weekday="Monday")
    trust.add("access_window", home, access="not possible", weekday="Monday")
    trust.run()
    assert trust.plan()["visits"][0]["why"] == "Nobody can let anybody in on any day."


def test_wrong_coordinates_are_said_and_the_plan_does_not_rest_on_them(trust):
    trust.inspector()
    trust.home(0)
    trust.home(1, latitude=-4.75, longitude=50.33, address="Swapped House, Kelder Haven")
    trust.home(2, latitude=None, longitude=None, address="Nowhere House, Kelder Haven")
    plan = trust.plan()
    assert any("Swapped House" in note and "swapped" in note for note in plan["notes"])
    assert any("1 property has no coordinates" in note for note in plan["notes"])
    trust.run()
    assert trust.plan()["left"] == 0


def test_what_was_moved_by_hand_stays_and_replanning_moves_nothing_else(trust):
    ruth, idris = trust.inspector(), trust.inspector("Idris", latitude=50.36)
    for at in range(4):
        trust.home(at)
    trust.run()
    before = trust.visits()
    visit = before["1 Lookout Row"]
    answer = trust.move(visit, idris, workday(9), 600)
    assert answer.status_code == 200, answer.text
    after = trust.visits()
    assert (after["1 Lookout Row"]["day"], after["1 Lookout Row"]["begins"]) == (workday(9), 600)
    assert after["1 Lookout Row"]["pinned"] and after["1 Lookout Row"]["inspector_id"] == idris
    told = {one["name"]: one["why"] for one in answer.json()["moved"]}
    assert told["1 Lookout Row"] == "moved by hand"
    stays = {name: places(trust.plan())[name] for name in after}
    run = trust.run()
    assert run["told"] == "Nothing moved." and places(trust.plan()) == stays
    assert ruth != idris


def test_a_visit_goes_nowhere_that_a_hard_rule_forbids(trust):
    ruth = trust.inspector(not_friday=True)
    home, _ = trust.home()
    trust.add("access_window", home, access="possible", weekday="Thursday", from_time="09:00", until_time="14:00")
    trust.run()
    visit, before = trust.visits()["1 Lookout Row"], places(trust.plan())
    thursday = next(day for n in range(1, 9) if (day := date.today() + timedelta(days=n)).weekday() == 3)
    for day, begins, says in (
        (thursday + timedelta(days=1), None, "does not work on"),
        (thursday + timedelta(days=4), None, "Nobody can let in"),
        (thursday, 13 * 60, "Not at that time"),
        (date.today(), None, "has begun or is gone"),
        (thursday + timedelta(days=42), None, "Its last day is"),
        (thursday + timedelta(days=399), None, "Planned is until"),
    ):
        answer = trust.move(visit, ruth, day.isoformat(), begins)
        assert answer.status_code == 422 and says in answer.json()["fields"][0]["message"], (day, answer.text)
        assert answer.json()["fields"][0]["field"] == "day"
    assert places(trust.plan()) == before
    assert trust.move(visit, "0" * 36, thursday.isoformat()).status_code == 422


def test_who_moves_second_is_told_and_nothing_changes(trust):
    ruth = trust.inspector()
    trust.home()
    trust.run()
    seen = trust.visits()["1 Lookout Row"]
    assert trust.move(seen, ruth, workday(8)).status_code == 200
    answer = trust.move(seen, ruth, workday(12))
    assert answer.status_code == 409 and "Somebody else" in answer.json()["message"]
    assert trust.visits()["1 Lookout Row"]["day"] == workday(8)


def test_two_who_plan_at_once_wait_for_one_plan(trust, office, supervisor, monkeypatch):
    trust.inspector()
    trust.home()
    go = threading.Event()
    plain = process.run

    def waits(task, heard):
        go.wait(30)
        return plain(task, heard)

    monkeypatch.setattr(process, "run", waits)
    assert trust.http.post("/api/planner/runs", json={}).status_code == 201
    second = supervisor.http.post("/api/planner/runs", json={})
    assert second.status_code == 409 and "is planning at this moment" in second.json()["message"]
    go.set()
    assert trust.wait()["state"] == "done"
    assert supervisor.http.post("/api/planner/runs", json={}).status_code == 201
    trust.wait()


def test_what_happens_while_the_solver_runs_counts(trust, monkeypatch):
    """A cancellation, a new day off and a move by hand while it plans: the plan that is kept knows all of it."""
    ruth = trust.inspector()
    jobs = [trust.home(at)[1] for at in range(4)]
    trust.run()
    here = threading.Event()
    go = threading.Event()
    plain = process.run

    def waits(task, heard):
        found = plain(task, heard)
        here.set()
        go.wait(30)
        return found

    monkeypatch.setattr(process, "run", waits)
    trust.http.post("/api/planner/runs", json={"anew": True})
    assert here.wait(60)
    day = next(v["day"] for v in trust.visits().values() if v["name"] == "4 Lookout Row")
    trust.change("job", jobs[0], removed=True)
    trust.add("day_off", ruth, first_day=day)
    moved = trust.move(trust.visits()["3 Lookout Row"], ruth, workday(14), 540)
    assert moved.status_code == 200, moved.text
    go.set()
    assert trust.wait()["state"] == "done"
    plan = trust.plan(day)
    found = places(plan)
    assert set(found) == {"2 Lookout Row", "3 Lookout Row", "4 Lookout Row"} and plan["left"] == 0
    assert found["3 Lookout Row"][:2] == (workday(14), 540)
    assert all(where[0] != day for where in found.values())


def test_a_run_is_stopped_with_the_best_plan_so_far(trust, monkeypatch):
    trust.inspector()
    trust.inspector("Idris")
    for at in range(12):
        trust.home(at)
    monkeypatch.setattr(plan_running, "_LONGEST_S", 120.0)
    monkeypatch.setattr(plan_running, "_SECONDS", 120.0)
    run = trust.http.post("/api/planner/runs", json={}).json()
    assert trust.http.post(f"/api/planner/runs/{run['id']}/stop").status_code == 200
    ended = trust.wait()
    assert ended["state"] == "stopped" and ended["told"].startswith("Stopped: the best plan so far")
    assert trust.plan()["left"] == 0
    assert trust.http.post(f"/api/planner/runs/{run['id']}/stop").status_code == 404


def test_a_run_whose_server_was_restarted_is_over_and_the_plan_as_it_was(trust, app):
    trust.inspector()
    trust.home()
    trust.run()
    before = places(trust.plan())
    with app.state.engine.begin() as connection:
        me = trust.http.get("/api/session").json()
        run_id = plan_runs.begin(connection, trust.firm, me["id"], 1)
        table = plan_runs.plan_run
        connection.execute(table.update().where(table.c.id == run_id).values(beat_at=now() - timedelta(minutes=5)))
    run = trust.http.get("/api/planner/runs/latest").json()
    assert run["state"] == "failed" and "The plan is as it was" in run["told"] and places(trust.plan()) == before
    assert trust.run()["state"] == "done"


def test_planning_that_fails_leaves_the_plan_and_says_so(trust, monkeypatch):
    trust.inspector()
    trust.home()
    trust.run()
    before = places(trust.plan())
    monkeypatch.setattr(process.sys, "executable", "/bin/false")
    run = trust.run()
    assert run["state"] == "failed" and "the plan is as it was" in run["told"] and places(trust.plan()) == before


def test_a_booking_goes_into_the_job_and_is_not_moved_until_it_is_cancelled(trust):
    ruth = trust.inspector()
    _, job = trust.home()
    trust.home(1)
    trust.run()
    visit = trust.visits()["1 Lookout Row"]
    path = f"/api/planner/visits/{visit['id']}/booking"
    assert trust.http.post(path).status_code == 200
    values = trust.http.get(f"/api/jobs/{job}").json()["job"]["values"]
    clock = f"{int(visit['begins']) // 60:02d}:{int(visit['begins']) % 60:02d}"
    assert (values["booked_on"], values["booked_at"], values["state"]) == (visit["day"], clock, "booked")
    assert values["booked_with"] == ruth
    booked = trust.visits()["1 Lookout Row"]
    assert booked["booked"] and (booked["day"], booked["begins"]) == (visit["day"], visit["begins"])
    answer = trust.move(booked, ruth, workday(10))
    assert answer.status_code == 422 and "Cancel the booking first" in answer.json()["message"]
    trust.run(anew=True)
    assert places(trust.plan())["1 Lookout Row"][:2] == (visit["day"], visit["begins"])
    assert trust.http.delete(path).status_code == 200
    assert trust.http.delete(path).status_code == 422
    assert not trust.visits()["1 Lookout Row"]["booked"]


def test_a_booked_visit_whose_inspector_is_away_then_is_named_and_not_moved_in_silence(trust):
    ruth = trust.inspector()
    trust.inspector("Idris", latitude=50.40)
    trust.home()
    trust.run()
    visit = trust.visits()["1 Lookout Row"]
    trust.http.post(f"/api/planner/visits/{visit['id']}/booking")
    trust.add("day_off", visit["inspector_id"], first_day=visit["day"])
    shown = trust.visits()["1 Lookout Row"]
    assert "does not work on" in shown["wrong"]
    trust.run()
    after = trust.visits()["1 Lookout Row"]
    assert after["why"] is not None or after["wrong"] is not None
    assert ruth


def test_a_visit_that_does_not_fit_has_priced_ways_out_and_one_is_taken(trust):
    trust.inspector(starts_at="08:00")
    pasco = trust.inspector("Pasco", by_request=True, starts_at="07:00")
    home, _ = trust.home(minutes=180)
    trust.add("access_window", home, access="possible", from_time="08:00", until_time="11:00")
    trust.run()
    visit = trust.visits()["1 Lookout Row"]
    assert "With the way there" in visit["why"]
    path = f"/api/planner/visits/{visit['id']}/ways-out"
    ways = {way["kind"]: way for way in trust.http.get(path).json()}
    assert list(ways) == ["earlier start", "another inspector"]
    assert ways["earlier start"]["price"] == "£12" and "30 min earlier" in ways["earlier start"]["says"]
    assert ways["another inspector"]["inspector_id"] == pasco
    taken = {key: value for key, value in ways["earlier start"].items() if key not in ("says", "price")}
    answer = trust.http.post(path, json=taken)
    assert answer.status_code == 200, answer.text
    fits = trust.visits()["1 Lookout Row"]
    assert fits["why"] is None and fits["begins"] == 480
    # It is not there to be taken twice.
    assert trust.http.post(path, json=taken).status_code == 409
    assert trust.run()["told"] == "Nothing moved."


def test_a_return_visit_is_planned_beside_the_others_on_the_day_that_was_agreed(trust, office):
    trust.inspector()
    home, job = trust.home()
    inspection = office.begin()
    fields = {
        "property_id": home, "job_id": job, "held_at": f"{date.today()}T09:00:00Z", "return_on": workday(7),
        "held_reason": "Ze 2.1 Ω: the network operator comes first",
    }  # fmt: skip
    office.send(inspection, *(office.change("inspection", inspection, f, v) for f, v in fields.items()))
    trust.run()
    visits = trust.visits()
    assert list(visits) == ["return: 1 Lookout Row"]
    assert visits["return: 1 Lookout Row"]["day"] == workday(7)
    assert visits["return: 1 Lookout Row"]["inspection_id"] == inspection


def test_both_jobs_of_one_property_are_made_on_one_day(trust):
    trust.inspector()
    home, _ = trust.home(minutes=150)
    trust.add("job", home, number=f"J-{home[-7:]}", state="asked", visit_min=120)
    trust.home(1)
    trust.run()
    days = {v["day"] for v in trust.plan()["visits"] if v["property_id"] == home}
    assert len(days) == 1 and None not in days


def test_an_inspection_that_has_begun_is_visited_no_more(trust, office):
    trust.inspector()
    home, job = trust.home()
    trust.home(1)
    trust.run()
    inspection = office.begin()
    fields = {"property_id": home, "job_id": job}
    office.send(inspection, *(office.change("inspection", inspection, f, v) for f, v in fields.items()))
    assert list(trust.visits()) == ["2 Lookout Row"]


def test_nobody_sees_or_moves_the_visits_of_another_firm(trust, stranger):
    ruth = trust.inspector()
    trust.home()
    trust.run()
    visit = trust.visits()["1 Lookout Row"]
    other = Portfolio(stranger)
    assert visit["id"] not in {v["id"] for v in other.plan()["visits"]}
    assert other.move(visit, ruth, workday(9)).status_code == 404
    for path in ("ways-out", "booking", "hold"):
        answer = other.http.post(f"/api/planner/visits/{visit['id']}/{path}", json={"pinned": True, "version": 1})
        assert answer.status_code in (404, 422), (path, answer.text)
    assert other.http.get(f"/api/planner/visits/{visit['id']}/ways-out").status_code == 404


def test_settings_are_taken_by_the_next_planning_and_kept_beside_what_gave_way(trust):
    answer = trust.http.put("/api/planner/settings", json={"slack_days": 3, "speed_kmh": 40})
    assert answer.status_code == 200
    assert trust.plan()["settings"] == {"slack_days": 3, "speed_kmh": 40, "detour": 1.3, "ahead_days": 120}
    refused = trust.http.put("/api/planner/settings", json={"slack_days": -1})
    assert refused.status_code == 422


def test_a_table_of_travel_times_is_taken_and_planned_by(trust):
    """An hour to the far side of the river, whatever the straight line says."""
    ruth = trust.inspector()
    trust.home(0)
    trust.run()
    before = trust.visits()["1 Lookout Row"]
    content = b"from,to,minutes\nRuth,1 Lookout Row Kelder Haven,60\nRuth,Nowhere,3\n"
    taken = trust.http.post("/api/planner/weeks/travel", content=content).json()
    assert taken["ways"] == 1 and [one["row"] for one in taken["mistakes"]] == [3]
    assert trust.http.get("/api/planner/weeks").json()["travel"] == 1
    trust.run(anew=True)
    after = trust.visits()["1 Lookout Row"]
    assert before["begins"] < 9 * 60 <= after["begins"]
    assert trust.http.delete("/api/planner/weeks/travel").status_code == 204
    refused = trust.http.post("/api/planner/weeks/travel", content=b"Address,Due\nx,y\n")
    assert refused.status_code == 422 and refused.json()["fields"][0]["field"] == "file"
    assert ruth


def test_a_job_tells_its_day_what_is_missing_and_what_to_pack(trust):
    trust.inspector()
    home, job = trust.home(minutes=150, key_place="Hook 9", built_year=1891)
    trust.add("installation", home, name="Boat shed", earthing="TT")
    trust.home(1, minutes=150)
    trust.run()
    found = trust.http.get(f"/api/jobs/{job}").json()["day"]
    assert not found["booked"] and found["inspector"] == "Ruth"
    own = [stop for stop in found["stops"] if stop["this"]]
    assert len(own) == 1 and found["leaves"] < own[0]["begins"]
    assert {"Extent not agreed", "Scope agreed with nobody"} <= {one["what"] for one in found["missing"]}
    packed = {one["name"]: one["why"] for one in found["pack"]}
    assert packed["Keys"] == "Hook 9" and "Boat shed" in packed["Electrode test kit"]
    trust.change("job", job, extent="All of it", agreed_with="Wilf Sorrel")
    after = trust.http.get(f"/api/jobs/{job}").json()["day"]
    assert "Extent not agreed" not in {one["what"] for one in after["missing"]}


def test_visits_that_were_made_say_how_far_estimates_hold_and_the_next_are_planned_by_it(trust):
    ruth = trust.inspector()
    for at in range(8):
        home, _ = trust.home(at, job=False)
        trust.add(
            "job", home, number=f"J-{home[-9:]}", state="done", rings=2, radials=6, points_tested=20, boards=1,
            booked_with=ruth, spent_min=220,
        )  # fmt: skip
    found = trust.http.get("/api/visit-times").json()
    # On site: arrival 20, intake 20, a board 25, rings 28, radials 42, points 30 minutes.
    assert {round(one["estimated"]) for one in found["visits"]} == {165}
    assert found["firm"]["says"] == "33% longer than estimated." and found["by_inspector"][0]["name"] == "Ruth"
    home, _ = trust.home(9, job=False)
    trust.add("job", home, number="J-next", state="asked", rings=2, radials=6, points_tested=20, boards=1)
    visit = trust.visits()["10 Lookout Row"]
    assert visit["minutes"] == 220 and visit["rests_on"] == 8
