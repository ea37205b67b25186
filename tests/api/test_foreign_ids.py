"""Ids are no secrets and not enough: knowing one of another firm's, or of another kind, opens nothing."""

import re

import pytest

from dorrik.core.work.register import REGISTER
from dorrik.store.database.engine import new_id
from tests.api.conftest import Inspector
from tests.api.reviewed import issue

SECRET = "Quay Secret Seven"


class Theirs:
    """A firm with one of everything, each told by the word SECRET; `ids` by kind."""

    def __init__(self, who: Inspector) -> None:
        self.who = who
        self.ids = {"firm": who.me["firm_id"], "person": who.me["id"]}
        self.ids["client"] = self.entry("client", self.ids["firm"], name=SECRET, email="a@b.example")
        self.ids["property"] = self.entry(
            "property", self.ids["client"], address=SECRET, occupier_name=SECRET, key_place=SECRET, access=SECRET
        )
        self.ids["installation"] = self.entry("installation", self.ids["property"], name=SECRET)
        self.ids["job"] = self.entry("job", self.ids["property"], number=f"J-{new_id()[-8:]}", extent=SECRET)
        self.ids["instrument"] = self.entry("instrument", self.ids["firm"], name=SECRET)
        self.ids["leads"] = self.entry("leads", self.ids["firm"], name=SECRET)
        self.ids["access_window"] = self.entry("access_window", self.ids["property"], weekday="Monday")
        self.ids["working_week"] = self.entry("working_week", self.ids["firm"], name=SECRET)
        self.ids["day_off"] = self.entry("day_off", self.ids["working_week"], reason=SECRET)
        self.ids["key_holder"] = self.entry("key_holder", self.ids["firm"], name=SECRET)
        self.ids["visit"] = who.http.get("/api/planner").json()["visits"][0]["id"]
        inspection = who.begin()
        who.send(inspection, who.change("inspection", inspection, "client_name", SECRET))
        self.ids["inspection"] = inspection
        self.ids["board"], self.ids["circuit"] = who.board(inspection)

    def entry(self, kind, parent, **values):
        answer = self.who.http.post(f"/api/register/{kind}", json={"parent_id": parent, "values": values})
        assert answer.status_code == 201, answer.text
        return answer.json()["id"]

    def found(self):
        return [(h["kind"], h["id"]) for h in self.who.http.get("/api/search", params={"text": SECRET}).json()]


@pytest.fixture
def theirs(supervisor):
    return Theirs(supervisor)


@pytest.fixture
def attacker(app, other_firm):
    """A supervisor of another firm: the most that a stranger can be."""
    return Inspector(app, other_firm.supervisor_email)


NOBODY = "0" * 36
#: What each route takes, with `{id}` where it takes an id; of the others nothing, or what the first line says.
BODIES = {
    "/api/register/{kind}": {"parent_id": "{id}", "values": {"name": "x"}},
    "/api/register/{kind}/{entry_id}": {"values": {"notes": "x"}},
    "/api/inspections/{inspection_id}/reports": {"seen_seq": 1, "signature": {"typed": "Sol Visor"}},
    "/api/inspections/{inspection_id}/review/submit": {"seen_seq": 1, "signature": {"typed": "Sol Visor"}},
    "/api/inspections/{inspection_id}/review/send-back": {"words": "x"},
    "/api/inspections/{inspection_id}/review/looked": {"seq": 1},
    "/api/inspections/{inspection_id}/carry-over": {"inspection_id": "{id}"},
    "/api/inspections/{inspection_id}/changes": {"changes": []},
    "/api/inspections/{inspection_id}/rule-differences": {"seq": 1, "parts": ["notes"]},
    "/api/inspections/{inspection_id}/set-aside": {"to": "a@b.example"},
    "/api/jobs/{entry_id}/confirmation": {"to": "a@b.example"},
    "/api/inspections/{inspection_id}/observations/{observation_id}/notice": {"to": "a@b.example"},
    "/api/inspections/{inspection_id}/offers/{offer_id}/mail": {"to": "a@b.example"},
    "/api/inspections/{inspection_id}/offers/{offer_id}/accept": {"alternative": 1},
    "/api/inspections/{inspection_id}/shared-intake": {"other": "{id}"},
    "/api/inspections/{inspection_id}/shared-intake/align": {"fields": ["ze_ohm"]},
    "/api/inspections/{inspection_id}/shared-intake/own": {"own": ["ze_ohm"]},
    "/api/people/{person_id}": {"name": "x"},
    "/api/inspections/{inspection_id}/after/retest": {"entity_id": "{id}", "field": "zs_ohm", "reading": "1"},
    "/api/inspections/{inspection_id}/after/steps": {
        "items": ["x"], "step": {"kind": "done", "by": "x", "on": "2026-11-20"},
    },
    "/api/inspections/{inspection_id}/after/confirmation": {"signature": {"typed": "x"}},
    "/api/inspections/{inspection_id}/after/copies": {
        "role": "client", "name": "x", "how": "post", "on": "2026-11-20",
    },
    "/api/inspections/{inspection_id}/after/mail": {"role": "client", "name": "x", "to": "a@b.example"},
    "/api/inspections/{inspection_id}/after/links": {"role": "client", "name": "x"},
    "/api/clients/{client_id}/links": {"role": "client", "name": "x"},
    "/api/planner/visits/{visit_id}/move": {"inspector_id": "{id}", "day": "2030-01-02", "version": 0},
    "/api/visits/{visit_id}/ask": {
        "to": "a@b.example", "times": [{"inspector_id": NOBODY, "day": "2030-01-02", "begins": 540}],
    },
    "/api/visits/{visit_id}/told": {"to": "a@b.example"},
    "/api/visits/{visit_id}/no-access": {"at": "2026-11-03T09:00"},
    "/api/planner/visits/{visit_id}/hold": {"pinned": True, "version": 0},
    "/api/planner/visits/{visit_id}/ways-out": {
        "kind": "earlier start", "inspector_id": "{id}", "day": "2030-01-02", "earlier_min": 30, "moved": "",
    },
}  # fmt: skip
#: What is opened by a link and not by a session; with the session of another firm it says so.
BY_LINK = ("/api/shared/", "/calendar/")


def test_no_route_tells_or_changes_anything_for_any_id_of_another_firm(app, theirs, attacker):
    before = {kind: theirs.who.http.get(f"/api/{path}").json() for kind, path in _pages(theirs).items()}
    asked = 0
    for path, methods in app.openapi()["paths"].items():
        names = [n for n in re.findall(r"\{([a-z0-9_]+)\}", path) if n not in ("kind", "sha256", "number")]
        if not names or path.startswith(BY_LINK):
            continue
        kinds = list(REGISTER) if "{kind}" in path else [""]
        for method in methods:
            for identity in theirs.ids.values():
                for kind in kinds:
                    address = path.replace("{kind}", kind).replace("{sha256}", "0" * 64)
                    address = address.replace("{number}", "1")
                    address = re.sub(r"\{[a-z0-9_]+\}", identity, address)
                    body = {k: identity if v == "{id}" else v for k, v in BODIES.get(path, {}).items()}
                    query = {"field": "address", "entity_id": identity, "since": 0, "kind": "photo", "name": "x"}
                    sent = body if method in ("post", "patch", "put") else None
                    answer = attacker.http.request(method, address, json=sent, params=query)
                    asked += 1
                    assert answer.status_code in (404, 422), (method, address, answer.status_code, answer.text)
                    assert answer.status_code == 404 or method == "put" or kind == "leads", (address, answer.text)
                    assert SECRET not in answer.text
    assert asked > 400
    after = {kind: theirs.who.http.get(f"/api/{path}").json() for kind, path in _pages(theirs).items()}
    assert after == before


def _pages(theirs):
    ids = theirs.ids
    return {
        "client": f"clients/{ids['client']}",
        "property": f"properties/{ids['property']}",
        "inspection": f"inspections/{ids['inspection']}",
    }


@pytest.mark.parametrize("kind", ["client", "instrument", "leads"])
def test_an_entry_of_another_kind_made_under_a_known_id_opens_nothing(theirs, attacker, kind):
    """Found in an audit: it read a property's occupier, access and key place, and took it out of the search."""
    known = theirs.ids["property"]
    found = theirs.found()
    made = attacker.http.post(
        f"/api/register/{kind}", json={"id": known, "parent_id": attacker.me["firm_id"], "values": {"name": "mine"}}
    )
    assert made.status_code == 201
    for field in ("occupier_name", "access", "key_place", "address", "name"):
        answer = attacker.http.get(f"/api/register/{kind}/{known}/history", params={"field": field})
        assert SECRET not in answer.text
    attacker.http.patch(f"/api/register/{kind}/{known}", json={"values": {"removed": True}})
    assert theirs.found() == found
    assert theirs.who.http.get(f"/api/properties/{known}").json()["property"]["values"]["address"] == SECRET


def test_one_s_own_kinds_are_told_apart_too(theirs):
    """The same id under two kinds of one firm: two entries, two histories, two things to be found."""
    known = theirs.ids["property"]
    theirs.who.http.post(
        "/api/register/client", json={"id": known, "parent_id": theirs.ids["firm"], "values": {"name": SECRET + " too"}}
    )
    history = theirs.who.http.get(f"/api/register/client/{known}/history", params={"field": "address"}).json()
    assert history == []
    assert {("client", known), ("property", known)} <= set(theirs.found())
    theirs.who.http.patch(f"/api/register/client/{known}", json={"values": {"removed": True}})
    assert ("property", known) in theirs.found() and ("client", known) not in theirs.found()


def test_an_inspection_s_parts_mean_nothing_in_another_inspection(theirs, attacker):
    mine = attacker.begin()
    ids = theirs.ids
    for entity, identity in (("board", ids["board"]), ("circuit", ids["circuit"])):
        change = attacker.change(entity, identity, "name" if entity == "board" else "designation", "mine")
        assert attacker.send(mine, change)["results"][0]["state"] == "refused"
        history = attacker.http.get(f"/api/inspections/{mine}/history", params={"entity_id": identity})
        assert history.json() == []
    fed = attacker.change("circuit", new_id(), "board", ids["board"])
    assert attacker.send(mine, fed)["results"][0]["state"] == "refused"


def test_the_data_in_a_report_names_nothing_by_the_ids_of_our_tables(inspector, supervisor, ready):
    import io
    import json

    import pypdf

    inspection = ready()
    for field in ("property_id", "installation_id", "job_id"):
        inspector.send(inspection, inspector.change("inspection", inspection, field, new_id()))
    issued = issue(inspector, supervisor, inspection).json()
    pdf = inspector.http.get(f"/api/reports/{issued['id']}.pdf").content
    (attached,) = pypdf.PdfReader(io.BytesIO(pdf)).attachments["inspection.json"]
    assert not re.search(rb"[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}", attached)
    data = json.loads(attached)
    circuit = data["inspection"]["boards"][0]["circuits"][0]["id"]
    assert circuit in {asked["id"] for asked in data["judgement"]["asked"]}
    # It opens again: what is carried over comes from it.
    paper = inspector.http.post("/api/papers", params={"name": "report.pdf"}, content=pdf)
    assert paper.json()["found"]["circuits"] == 1
