"""After a client was erased none of their words is left: in no table, no folder, no backup, no memory of a process."""

import functools
import gc
import hashlib
import re
import tarfile
import threading
import time
from pathlib import Path

import pytest
from sqlalchemy import text, update

from dorrik.core.basics import readings
from dorrik.core.inspection.field_spec import FieldSpec
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.work import erasing as rules
from dorrik.core.work.register import REGISTER
from dorrik.store.data_protection import erasing, forgetting
from dorrik.store.database.engine import new_id, now
from dorrik.store.database.tables import inspection, photo_to_remove
from dorrik.store.files import backup
from dorrik.store.files.photos import PhotoStore
from tests.pictures import picture

#: Kinds of the register that belong to a client.
OF_A_CLIENT = ("client", "property", "installation", "job")


def words(spec: FieldSpec, canary: str):
    """A value with the canary in it, as the field takes one; None for a field that takes no words."""
    match spec.kind:
        case "text" if "mail" in spec.label.lower():
            return f"{canary}@c.example"
        case "text":
            return canary if spec.max_length < 20 else f"{canary} sings"
        case "reading":
            return f"LIM: {canary}"
        case "pairings":
            return {f"{canary}–N": "dead"}
    return None


class Canaries:
    """A client with a canary in every text that there is, set twice, so that each stands in a history too."""

    def __init__(self, inspector, supervisor, app):
        self.inspector, self.supervisor, self.app = inspector, supervisor, app
        self.tag = f"Zq{new_id()[-4:]}"
        self.refused = set()
        self.entries = {}
        parent = inspector.me["firm_id"]
        for kind in OF_A_CLIENT:
            parent = self.entries["property"] if kind in ("installation", "job") else parent
            answer = inspector.http.post(f"/api/register/{kind}", json={"parent_id": parent, "values": _least(kind)})
            assert answer.status_code == 201, answer.text
            self.entries[kind] = parent = answer.json()["id"]
            for field, spec in REGISTER[kind].fields.items():
                for version in "ab":
                    self._register(kind, field, words(spec, f"{self.tag}{version}"))
        self.inspection = inspector.begin()
        self.ids = {"inspection": self.inspection}
        belongs = inspector.change("inspection", self.inspection, "property_id", self.entries["property"])
        inspector.send(self.inspection, belongs)
        for kind in KINDS:
            self._entity(kind)
        self._visit()

    def _visit(self):
        """What an occupier was asked and said, and a door that stayed shut, of a job of its own."""
        http, firm = self.inspector.http, self.inspector.me["firm_id"]
        answer = http.post(
            "/api/register/job", json={"parent_id": self.entries["property"], "values": {"state": "asked"}}
        )  # fmt: skip
        assert answer.status_code == 201, answer.text
        job = answer.json()["id"]
        week = {"parent_id": firm, "values": {"name": "Ruth", "starts_at": "08:00", "ends_at": "17:00"}}
        assert http.post("/api/register/working_week", json=week).status_code == 201
        visits = http.get("/api/planner").json()["visits"]
        visit = next(one["id"] for one in visits if one["job_id"] == job)
        times = http.get(f"/api/visits/{visit}/times").json()[:2]
        assert times
        given = [{key: time[key] for key in ("inspector_id", "day", "begins")} for time in times]
        asked = http.post(f"/api/visits/{visit}/ask", json={"to": f"{self.tag}q@c.example", "times": given})
        assert asked.status_code == 200, asked.text
        shut = {"at": "2026-11-03T09:00", "words": f"{self.tag} was out"}
        assert http.post(f"/api/visits/{visit}/no-access", json=shut).status_code == 201
        made = {"whose": "client", "of_id": self.entries["client"]}
        assert http.post("/api/feeds", json=made).status_code == 201

    def _register(self, kind, field, value):
        if value is not None:
            path = f"/api/register/{kind}/{self.entries[kind]}"
            if self.inspector.http.patch(path, json={"values": {field: value}}).status_code != 200:
                self.refused.add((kind, field))

    def _entity(self, kind):
        declared = KINDS[kind]
        if kind != "inspection":
            self.ids[kind] = new_id()
        one = self.ids[kind]
        changes = []
        if kind != "inspection":
            changes.append(self.supervisor.change(kind, one, declared.parent, self.ids[declared.parent]))
        for field, spec in declared.fields.items():
            if (kind, field) in {("inspection", "property_id"), ("photo", "sha256")}:
                continue
            for version in "ab":
                value = words(spec, f"{self.tag}{version}")
                if value is not None:
                    changes.append(self.supervisor.change(kind, one, field, value))
        results = self.supervisor.send(self.inspection, *changes)["results"]
        for change, result in zip(changes, results, strict=True):
            if result["state"] != "kept":
                self.refused.add((kind, change["field"]))

    def photos(self):
        """Four photos: pinned, replaced by another, taken out again, and never pinned; their digests."""
        found = []
        for number in range(4):
            content = picture(colour=(number * 60, 20, 20))
            digest = hashlib.sha256(content).hexdigest()
            path = f"/api/inspections/{self.inspection}/photos/{digest}"
            assert self.inspector.http.put(path, content=content).status_code == 204
            assert self.inspector.http.get(path, params={"size": "small"}).status_code == 200
            found.append(digest)
        pinned, replaced, removed, _ = found
        one = self.inspector.add(self.inspection, "photo", "inspection", self.inspection, sha256=replaced)
        self.inspector.send(self.inspection, self.inspector.change("photo", one, "sha256", pinned))
        other = self.inspector.add(self.inspection, "photo", "inspection", self.inspection, sha256=removed)
        self.inspector.send(self.inspection, self.inspector.change("photo", other, "removed", True))
        return found

    def use_every_route(self):
        """Ask whatever can be asked of what is there, and send whatever letters there are."""
        known = {
            "inspection_id": self.inspection, "client_id": self.entries["client"], "entry_id": self.entries["job"],
            "observation_id": self.ids["observation"], "person_id": self.inspector.me["id"],
        }  # fmt: skip
        asked = set()
        for route, methods in self.app.openapi()["paths"].items():
            if "get" not in methods:
                continue
            wanted = re.findall(r"{(\w+)", route)
            kinds = OF_A_CLIENT if "kind" in wanted else ("",)
            for kind in kinds:
                values = known | ({"kind": kind, "entry_id": self.entries[kind]} if kind else {})
                if set(wanted) <= set(values):
                    params = {"text": self.tag, "field": "name", "entity_id": self.inspection, "since": 0}
                    answer = self.supervisor.http.get(route.format(**values), params=params)
                    asked |= {route} if answer.status_code == 200 else set()
        assert len(asked) > 25 and "/api/inspections/{inspection_id}/preview" in asked, asked
        to = f"{self.tag}@c.example"
        code = self.supervisor.change("observation", self.ids["observation"], "code", "C1")
        self.supervisor.send(self.inspection, code)
        notice = f"/api/inspections/{self.inspection}/observations/{self.ids['observation']}/notice"
        assert self.inspector.http.post(notice, json={"to": to}).status_code == 200
        path = f"/api/jobs/{self.entries['job']}/confirmation"
        assert self.inspector.http.post(path, json={"to": to}).status_code == 200
        # Of the same client: into that of another the words would be carried as that one's.
        other = self.inspector.begin()
        own = self.inspector.change("inspection", other, "property_id", self.entries["property"])
        self.inspector.send(other, own)
        self.inspector.http.post(f"/api/inspections/{other}/carry-over", json={"inspection_id": self.inspection})

    def erase(self):
        kept = {"keep_years": 0, "keep_reports_years": 0}
        assert self.supervisor.http.put("/api/firm/retention", json=kept).status_code == 200
        answer = self.supervisor.http.post(f"/api/clients/{self.entries['client']}/erase")
        assert answer.status_code == 200, answer.text
        return answer.json()


def _least(kind):
    return {"job": {"number": f"J-{new_id()[-7:]}"}, "installation": {"name": "House"}}.get(
        kind, {"name": "x"} if kind == "client" else {"address": "x"}
    )


@pytest.fixture
def canaries(inspector, supervisor, app, caught):
    return Canaries(inspector, supervisor, app)


def in_tables(engine, canary):
    """Tables and columns in which a canary still sings."""
    found = set()
    with engine.connect() as connection:
        for table in connection.execute(text("SHOW TABLES")).scalars().all():
            for row in connection.execute(text(f"SELECT * FROM `{table}`")).mappings():
                for column, value in row.items():
                    held = value.decode("latin-1") if isinstance(value, bytes) else str(value)
                    if canary.lower() in held.lower():
                        found.add((table, column, row.get("entity", row.get("kind")), row.get("field")))
    return found


def in_memories(canary):
    """Functions that remember it."""
    found = set()
    for memory in gc.get_objects():
        if isinstance(memory, functools._lru_cache_wrapper) and str(memory.__module__).startswith("dorrik."):
            seen, waiting = set(), gc.get_referents(memory)
            while waiting:
                one = waiting.pop()
                if id(one) in seen or isinstance(one, type) or callable(one):
                    continue
                seen.add(id(one))
                if isinstance(one, str) and canary in one:
                    found.add(memory.__qualname__)
                if isinstance(one, tuple | list | dict | set | frozenset) or hasattr(one, "__dataclass_fields__"):
                    waiting += gc.get_referents(one)
    return found


def test_no_canary_is_left_anywhere(canaries, engine, mariadb, app, tmp_path):
    photos = canaries.photos()
    canaries.use_every_route()
    before = in_tables(engine, canaries.tag)
    assert {"client", "property", "installation", "job", "book_change", "change", "search_subject"} <= {
        b[0] for b in before
    }
    texts = {
        (kind, field) for kind in KINDS for field, spec in KINDS[kind].fields.items() if rules.may_hold_words(spec)
    }
    entered = {(entity, field) for table, _, entity, field in before if table == "change"}
    # What no canary could be put into takes no words: it holds an id, a key, or is not a photo of anything.
    assert texts - entered <= {("inspection", "property_id"), ("photo", "sha256")} | canaries.refused
    assert in_memories(canaries.tag)
    drafts = app.state.drafts._root / canaries.inspection
    assert list(drafts.rglob("*.svg.gz"))

    done = canaries.erase()
    assert done["photos"] == len(photos)
    assert in_tables(engine, canaries.tag) == set()
    assert in_memories(canaries.tag) == set()
    assert not app.state.remembered._held
    assert not drafts.exists()

    store: PhotoStore = app.state.photos
    folder = Path(store._root)
    left = {path.name.partition(".")[0] for path in folder.rglob("*") if path.is_file()}
    assert not left & set(photos)
    target = tmp_path / "after.tar.gz"
    backup.make(mariadb.url, str(folder), str(target))
    with tarfile.open(target) as packed:
        for member in packed:
            content = packed.extractfile(member).read()
            assert canaries.tag.encode() not in content and member.name.rpartition("/")[2] not in photos


def test_figures_codes_and_numbers_stay(inspector, supervisor, app, caught):
    canaries = Canaries(inspector, supervisor, app)
    _, circuit = inspector.board(canaries.inspection)
    inspector.send(
        canaries.inspection,
        inspector.change("circuit", circuit, "zs_ohm", "0.41"),
        inspector.change("circuit", circuit, "r1_r2_ohm", "LIM: the tenant was asleep"),
        inspector.change("inspection", canaries.inspection, "reference", f"K-{int(new_id()[-5:], 16)}"),
    )
    number = inspector.values(canaries.inspection, canaries.inspection)["reference"]
    canaries.erase()
    values = supervisor.values(canaries.inspection, circuit)
    assert (values["zs_ohm"], values["r1_r2_ohm"], values.get("designation")) == ("0.41", "LIM", None)
    assert (values["device_rating_a"], values["way"]) == (32, "1")
    assert supervisor.values(canaries.inspection, canaries.inspection)["reference"] == number
    entries = supervisor.http.get(f"/api/inspections/{canaries.inspection}/changes", params={"since": 0}).json()[
        "entries"
    ]
    assert {e["value"] for e in entries if e["field"] == "zs_ohm" and e["entity_id"] == circuit} == {"0.41"}


def test_a_device_that_was_away_brings_nothing_back(canaries, inspector):
    canaries.erase()
    late = inspector.change("inspection", canaries.inspection, "client_name", "Merryn Tregear")
    (result,) = inspector.send(canaries.inspection, late)["results"]
    assert (result["state"], "erased" in result["reason"]) == ("refused", True)
    content = picture(colour=(9, 9, 9))
    digest = hashlib.sha256(content).hexdigest()
    answer = inspector.http.put(f"/api/inspections/{canaries.inspection}/photos/{digest}", content=content)
    assert (answer.status_code, answer.json()["code"]) == (409, "erased")


def test_a_photo_that_another_inspection_has_stays(canaries, inspector, app):
    (shared, *_) = canaries.photos()
    other = inspector.begin()
    content = app.state.photos.get(inspector.me["firm_id"], shared)
    assert inspector.http.put(f"/api/inspections/{other}/photos/{shared}", content=content).status_code == 204
    assert canaries.erase()["photos"] == 3
    assert inspector.http.get(f"/api/inspections/{other}/photos/{shared}").status_code == 200


def test_an_erasure_that_was_broken_off_is_ended_later(canaries, inspector, app, monkeypatch, engine):
    """The process ends once the database has committed: the photos are named, and taken out at the next start."""
    photos = canaries.photos()
    with monkeypatch.context() as broken:
        broken.setattr(PhotoStore, "remove", lambda *_: (_ for _ in ()).throw(OSError("the line broke")))
        with pytest.raises(OSError, match="the line broke"):
            canaries.erase()
    store, firm_id = app.state.photos, inspector.me["firm_id"]
    assert store.digests(firm_id) >= set(photos)
    erasing.remove_photos(engine, store)
    assert not store.digests(firm_id) & set(photos)
    with engine.connect() as connection:
        left = connection.execute(photo_to_remove.select().where(photo_to_remove.c.firm_id == firm_id)).all()
    assert left == []


def test_what_another_process_erases_is_forgotten_here_too(canaries, inspector, app, engine, monkeypatch):
    """Two processes serve one firm: what this one has in hand is gone soon after the other one has erased it."""
    monkeypatch.setattr(forgetting, "LOOK_EVERY_S", 0.05)
    stopped, here = threading.Event(), app.state.remembered
    watching = threading.Thread(target=forgetting.watch, args=(engine, here, stopped))
    watching.start()
    try:
        late = time.monotonic() + 60
        # Its first look is behind it.
        while here._held:
            assert time.monotonic() < late
            time.sleep(0.02)
        inspector.send(canaries.inspection, inspector.change("inspection", canaries.inspection, "damp", True))
        with engine.begin() as connection:
            connection.execute(update(inspection).where(inspection.c.id == canaries.inspection).values(erased_at=now()))
        while canaries.inspection in here._held:
            assert time.monotonic() < late
            time.sleep(0.02)
    finally:
        stopped.set()
        watching.join()


def test_what_was_imported_before_the_process_was_forked_forgets_too(app):
    """A process that serves is forked from one that has set aside what it imported (`dorrik.preloaded`)."""
    canary = f"Zq{new_id()[-6:]}"
    readings.Reading.parse(f"LIM {canary}")
    holds = [one for one in gc.get_objects() if isinstance(one, functools._lru_cache_wrapper)
             and str(one.__module__).startswith("dorrik.") and one.cache_info().currsize]  # fmt: skip
    assert in_memories(canary) and holds
    gc.freeze()
    forgetting.forget(app.state.remembered)
    assert not [hold for hold in holds if hold.cache_info().currsize] and not in_memories(canary)


def test_what_lies_in_the_folder_and_belongs_to_nothing_goes_too(canaries, inspector, app):
    """Sent by an earlier version, which did not note to which inspection, and never pinned."""
    content = picture(colour=(1, 99, 1))
    digest = hashlib.sha256(content).hexdigest()
    app.state.photos.keep(inspector.me["firm_id"], digest, content, {"small": content})
    canaries.erase()
    assert digest not in app.state.photos.digests(inspector.me["firm_id"])


@pytest.mark.parametrize("kind", [*KINDS, *OF_A_CLIENT])
def test_words_go_unless_their_field_says_what_they_are(kind):
    """By declaration: a text that is added goes, without anybody thinking of it."""
    declared = KINDS.get(kind) or REGISTER[kind]
    for name, spec in declared.fields.items():
        sung = words(spec, "Merryn")
        if sung is not None:
            assert "Merryn" not in str(rules.left(spec, sung)), name
        if spec.kind in ("number", "integer", "flag", "date", "instant", "choice"):
            assert rules.left(spec, "x") == "x"


def test_what_is_ours_stays():
    def of(kind, field):
        return KINDS[kind].fields[field]

    identity = new_id()
    assert rules.left(of("observation", "about_id"), identity) == identity
    assert rules.left(of("inspection", "reference"), "K-0147") == "K-0147"
    assert rules.left(of("observation", "catalogue_key"), "ring-open") == "ring-open"
    assert rules.left(of("circuit", "zs_ohm"), ">1999") == ">1999"
    assert rules.left(of("circuit", "zs_ohm"), "N/A") == "N/A"
    assert rules.left(of("circuit", "way"), "12A") == "12A"
    assert rules.left(of("circuit", "way"), "Merryn") is None
