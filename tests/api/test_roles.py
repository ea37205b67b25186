"""Who may what, over the wire: every route × role, and what a role can do to an inspection."""

import re

import pytest

from dorrik.core.work import workflow
from dorrik.store.database.engine import new_id
from tests.api.conftest import Inspector
from tests.api.reviewed import authorise, submit

FUSE = {
    "table": "devices", "row": "BS EN 60898 | B | 3-125", "column": "ia_multiple", "value": "2", "why": "mine",
}  # fmt: skip
#: What a route is about, where not every role may ask for it; all the others are for everybody who is signed in.
ACTIONS = {
    ("get", "/api/people"): "manage people",
    ("post", "/api/people"): "manage people",
    ("patch", "/api/people/{person_id}"): "manage people",
    ("post", "/api/people/{person_id}/link"): "manage people",
    ("post", "/api/people/{person_id}/end"): "manage people",
    ("post", "/api/people/{person_id}/resume"): "manage people",
    ("post", "/api/people/{person_id}/second-factor-off"): "manage people",
    ("get", "/api/people/{person_id}/export.zip"): "manage people",
    ("get", "/api/devices/of-the-firm"): "manage people",
    ("post", "/api/devices/{device_id}/of/{person_id}/end"): "manage people",
    ("get", "/api/devices/{device_id}/of/{person_id}/waiting"): "manage people",
    ("get", "/api/audit"): "read the audit log",
    ("get", "/api/audit.csv"): "read the audit log",
    ("put", "/api/firm/rules"): "settle house rules",
    ("post", "/api/firm/corrections"): "settle house rules",
    ("delete", "/api/firm/corrections/{identity}"): "settle house rules",
    ("put", "/api/firm/rates"): "settle rates",
    ("put", "/api/firm/letterhead"): "change the letterhead",
    ("put", "/api/firm/logo"): "change the letterhead",
    ("delete", "/api/firm/logo"): "change the letterhead",
    ("put", "/api/firm/retention"): "erase data",
    ("put", "/api/firm/paper"): "change the letterhead",
    ("put", "/api/firm/mail"): "set up mail",
    ("delete", "/api/firm/mail"): "set up mail",
    ("post", "/api/firm/mail/trial"): "set up mail",
    ("get", "/api/firm/export.zip"): "export data",
    ("post", "/api/import"): "settle house rules",
    ("post", "/api/inspections/{inspection_id}/after/confirmation"): "certify",
    ("get", "/api/clients/{client_id}/kept"): "export data",
    ("get", "/api/clients/{client_id}/export.zip"): "export data",
    ("post", "/api/clients/{client_id}/erase"): "erase data",
    ("post", "/api/inspections/{inspection_id}/reports"): "issue",
    ("post", "/api/inspections/{inspection_id}/repairs/{repair_id}/certificate"): "certify",
    ("post", "/api/inspections/{inspection_id}/review/submit"): "submit",
    ("post", "/api/inspections/{inspection_id}/review/send-back"): "review",
    ("post", "/api/inspections/{inspection_id}/review/looked"): "review",
    ("get", "/api/second-opinions"): "give a second opinion",
    ("get", "/api/agreement"): "give a second opinion",
    ("put", "/api/firm/catalogue/{key}"): "settle house rules",
    ("delete", "/api/firm/catalogue/{key}"): "settle house rules",
    ("post", "/api/firm/catalogue/table"): "settle house rules",
}
BODIES = {
    ("post", "/api/people"): {"name": "", "email": "x", "role": "office"},
    ("patch", "/api/people/{person_id}"): {},
    ("put", "/api/firm/rules"): {"rule_book": "none", "house_rules": {}},
    ("post", "/api/firm/corrections"): FUSE | {"table": "none"},
    ("put", "/api/firm/rates"): {"rates": {"none": 1}, "prices": {}},
    ("put", "/api/firm/letterhead"): {"name": ""},
    ("put", "/api/firm/retention"): {"keep_years": 6, "keep_reports_years": 10},
    ("put", "/api/firm/paper"): {"remind_days": [0]},
    ("put", "/api/firm/mail"): {"host": "x", "port": 587, "security": "none", "user": "x", "sender": "a@b.example"},
    ("post", "/api/firm/mail/trial"): {"to": "a@b.example"},
    ("post", "/api/inspections/{inspection_id}/after/confirmation"): {"signature": {"typed": "x"}},
    ("post", "/api/inspections/{inspection_id}/reports"): {"seen_seq": 0, "signature": {"typed": "x"}},
    ("post", "/api/inspections/{inspection_id}/review/submit"): {"seen_seq": 0, "signature": {"typed": "x"}},
    ("post", "/api/inspections/{inspection_id}/review/send-back"): {"words": "x"},
    ("post", "/api/inspections/{inspection_id}/review/looked"): {"seq": 0},
}
#: Routes that anybody asks without a session, and those that would end it. A calendar is read by its address
#: (tests/api/test_feeds.py).
OPEN = re.compile(r"/api/(session|links/(look|use)|account/forgotten|check|demo/.*)|/calendar/\{name\}")


def routes(app):
    for path, methods in app.openapi()["paths"].items():
        for method in methods:
            yield method, path


def ask(who, method, path):
    address = re.sub(r"\{sha256\}", "0" * 64, path)
    address = re.sub(r"\{kind\}", "client", address)
    address = re.sub(r"\{[a-z0-9_]+\}", new_id(), address)
    return who.http.request(method, address, json=BODIES.get((method, path), {}) if method != "get" else None)


def test_every_route_answers_each_role_as_the_table_says(app, inspector, supervisor, office):
    seen = set()
    for who in (inspector, supervisor, office):
        for method, path in routes(app):
            if OPEN.fullmatch(path) or path.startswith("/api/account/"):
                continue
            answer = ask(who, method, path)
            action = ACTIONS.get((method, path))
            refused = action is not None and not workflow.may(who.me["role"], action)
            assert (answer.status_code == 403) is refused, (who.me["role"], method, path, answer.status_code)
            assert answer.status_code < 500, (method, path, answer.text)
            seen.add((method, path))
    assert set(ACTIONS) <= seen


def test_nobody_is_told_anything_without_a_session(app, place):
    class Nobody:
        http = place()

    for method, path in routes(app):
        if not OPEN.fullmatch(path):
            answer = ask(Nobody, method, path)
            # What is looked at before who asks is the shape of the request alone.
            assert answer.status_code in (401, 422), (method, path, answer.status_code)
            assert answer.status_code == 401 or answer.json()["code"] == "invalid"


def test_a_page_that_shows_somebody_else_than_is_signed_in_is_answered_nothing(app, inspector, supervisor):
    """One page still shows the inspector; in another of the same browser the supervisor has signed in."""
    supervisor.http.headers["Dorrik-Person"] = inspector.me["id"]
    for method, path in routes(app):
        # The door itself, and what a link opens, ask for nobody's page.
        if OPEN.fullmatch(path) or path.startswith("/api/shared"):
            continue
        answer = ask(supervisor, method, path)
        assert answer.status_code in (401, 422), (method, path, answer.status_code)
        told = answer.json()["code"]
        assert told == ("somebody-else" if answer.status_code == 401 else "invalid"), (method, path)
    supervisor.http.headers["Dorrik-Person"] = supervisor.me["id"]
    assert supervisor.http.get("/api/home").status_code == 200


def test_what_somebody_may_goes_with_who_they_are(inspector, supervisor, office):
    assert "manage people" in supervisor.me["may"]
    assert "settle rates" in office.me["may"] and "settle rates" not in inspector.me["may"]


@pytest.fixture
def long_loop(inspector):
    """An inspection with a Zs that fails as printed, and its note."""
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)

    def zs(receipt):
        return next(n for n in receipt["judgement"]["notes"] if n["field"] == "zs_ohm")

    receipt = inspector.send(inspection, inspector.change("circuit", circuit, "zs_ohm", "2.00"))
    assert zs(receipt)["status"] == "fail"
    return inspection, zs


@pytest.mark.parametrize("who", ["inspector", "office"])
@pytest.mark.parametrize(
    ("field", "value"),
    [("table_corrections", [FUSE]), ("house_rules", {"zs_basis": 1.0}), ("rule_book", "is10101-2020")],
)
def test_a_fail_is_not_made_a_pass_by_other_rules(request, who, field, value, long_loop):
    inspection, zs = long_loop
    person = request.getfixturevalue(who)
    receipt = person.send(inspection, person.change("inspection", inspection, field, value))
    (result,) = receipt["results"]
    assert (result["state"], "supervisor" in result["reason"]) == ("refused", True)
    assert zs(receipt)["status"] == "fail"
    assert field not in person.values(inspection, inspection)


def test_a_supervisor_settles_the_rules_of_an_inspection(supervisor, long_loop):
    inspection, _ = long_loop
    receipt = supervisor.send(inspection, supervisor.change("inspection", inspection, "house_rules", {"zs_basis": 1.0}))
    assert receipt["results"][0]["state"] == "kept"
    (line,) = supervisor.http.get("/api/audit", params={"action": "inspection rules changed"}).json()["lines"]
    assert (line["subject"], line["detail"]) == (inspection, {"fields": ["house_rules"]})


def test_what_the_firm_settled_goes_with_a_new_inspection_and_can_be_taken_over_again(inspector, supervisor):
    supervisor.http.put("/api/firm/rules", json={"rule_book": "is10101-2020", "house_rules": {"zs_basis": 1.0}})
    inspection = inspector.begin()
    values = inspector.values(inspection, inspection)
    assert (values["rule_book"], values["house_rules"]) == ("is10101-2020", {"zs_basis": 1.0})
    supervisor.send(inspection, supervisor.change("inspection", inspection, "house_rules", None))
    own = inspector.change("inspection", inspection, "house_rules", {"zs_basis": 1.0})
    assert inspector.send(inspection, own)["results"][0]["state"] == "kept"
    none = inspector.change("inspection", inspection, "house_rules", {})
    assert inspector.send(inspection, none)["results"][0]["state"] == "refused"


def test_corrections_that_were_in_force_while_a_device_was_away_are_taken(inspector, supervisor):
    """They come from the firm; whatever else an inspector sends does not."""
    fuse = {"table": "devices", "row": "BS 3036 | rewirable | 30", "column": "ia_0s4_a", "value": "207", "why": "ours"}
    made = supervisor.http.post("/api/firm/corrections", json=fuse)
    correction = made.json()["corrections"][0]
    away = correction["made_at"]
    supervisor.http.delete(f"/api/firm/corrections/{correction['id']}")
    inspection = inspector.begin()
    kept = inspector.change("inspection", inspection, "table_corrections", [fuse], made_at=away)
    assert inspector.send(inspection, kept)["results"][0]["state"] == "kept"
    other = inspector.change("inspection", inspection, "table_corrections", [fuse | {"value": "150"}], made_at=away)
    assert inspector.send(inspection, other)["results"][0]["state"] == "refused"


def test_the_office_types_what_others_found_and_decides_nothing(office, inspector):
    inspection = inspector.begin()
    board, circuit = inspector.board(inspection)
    observation, isolation, overruling = new_id(), new_id(), new_id()
    changes = [
        office.change("inspection", inspection, "client_name", "Harbour Trust"),
        office.change("circuit", circuit, "zs_ohm", "0.40"),
        office.change("observation", observation, "inspection", inspection),
        office.change("observation", observation, "text", "A cover is cracked."),
        office.change("observation", observation, "code", "C2"),
        office.change("inspection", inspection, "declared_outcome", "satisfactory"),
        office.change("isolation", isolation, "board", board),
        office.change("overruling", overruling, "inspection", inspection),
        # What only who was there can say was done, by whichever field.
        office.change("board", board, "isolated_at", "2026-11-03T09:00:00Z"),
        office.change("board", board, "zdb_retested", True),
        office.change("observation", observation, "told_to", "Hester Vane"),
        office.change("observation", observation, "made_safe", "made safe"),
    ]
    states = [r["state"] for r in office.send(inspection, *changes)["results"]]
    assert states == ["kept"] * 4 + ["refused"] * 8
    may = {who.me["role"]: who.http.get(f"/api/inspections/{inspection}").json()["may"] for who in (office, inspector)}
    assert "decide" not in may["office"] and "decide" in may["inspector"]


def test_nothing_is_issued_while_it_is_on_hold(inspector, supervisor, ready):
    inspection = ready()
    held = [inspector.change("inspection", inspection, "held_at", "2026-11-03T10:00:00Z")]
    held.append(inspector.change("inspection", inspection, "held_reason", "The operator has to come."))
    inspector.send(inspection, *held)
    for answer in (submit(inspector, inspection), authorise(supervisor, inspection)):
        assert (answer.status_code, "on hold" in answer.json()["message"]) == (403, True)


def test_a_person_with_no_known_role_may_nothing_but_read(app, engine, firm, inspector):
    """A role that a newer version brought, or a slip in the database."""
    from sqlalchemy import update

    from dorrik.store.database.account_tables import person

    inspection = inspector.begin()
    guest = Inspector(app, firm.office_email)
    with engine.begin() as connection:
        connection.execute(update(person).where(person.c.id == guest.me["id"]).values(role="guest"))
    change = guest.change("inspection", inspection, "client_name", "Mine")
    answer = guest.http.post(f"/api/inspections/{inspection}/changes", json={"changes": [change]})
    assert answer.json()["results"][0]["state"] == "refused"
