"""The firm's own rules: settled by a supervisor, read by all, kept with their history, used by what is begun after."""

import pytest

FUSE = {"table": "devices", "row": "BS 3036 | rewirable | 30", "column": "ia_0s4_a", "value": "205", "why": "our copy"}


@pytest.fixture
def settled(supervisor):
    """A supervisor whose firm is put back as it was."""
    yield supervisor
    supervisor.http.put("/api/firm/rules", json={"rule_book": None, "house_rules": {}})
    for correction in supervisor.http.get("/api/firm").json()["corrections"]:
        supervisor.http.delete(f"/api/firm/corrections/{correction['id']}")


def test_an_inspector_reads_and_does_not_settle(inspector):
    firm = inspector.http.get("/api/firm").json()
    assert firm["may_settle"] is False
    for answer in (
        inspector.http.put("/api/firm/rules", json={"rule_book": None, "house_rules": {}}),
        inspector.http.post("/api/firm/corrections", json=FUSE),
        inspector.http.delete("/api/firm/corrections/x"),
    ):
        assert answer.status_code == 403
        assert "supervisor" in answer.json()["message"]


def test_rules_are_settled_and_new_inspections_begin_with_them(settled, inspector, stranger):
    rules = {"rule_book": "is10101-2020", "house_rules": {"zs_basis": 1.0, "coding_school": "stricter"}}
    answer = settled.http.put("/api/firm/rules", json=rules)
    assert answer.status_code == 200 and answer.json()["house_rules"] == rules["house_rules"]
    beginning = inspector.http.get("/api/home").json()["beginning"]
    assert (beginning["rule_book"], beginning["house_rules"]) == (rules["rule_book"], rules["house_rules"])
    assert stranger.http.get("/api/home").json()["beginning"]["house_rules"] == {}


@pytest.mark.parametrize(
    ("rules", "field"),
    [
        ({"rule_book": "bs0000", "house_rules": {}}, "rule_book"),
        ({"rule_book": None, "house_rules": {"zs_basis": 0.9}}, "house_rules"),
        ({"rule_book": None, "house_rules": {"mood": 1}}, "house_rules"),
        ({"rule_book": None}, "house_rules"),
    ],
)
def test_rules_that_cannot_be_are_told_at_their_field(settled, rules, field):
    answer = settled.http.put("/api/firm/rules", json=rules)
    assert answer.status_code == 422
    assert answer.json()["fields"][0]["field"] == field


def test_a_correction_is_kept_replaced_and_withdrawn_and_never_lost(settled, inspector):
    first = settled.http.post("/api/firm/corrections", json=FUSE).json()["corrections"][0]
    assert (first["printed"], first["value"], first["withdrawn_at"]) == ("210", "205", None)
    assert first["author"] == settled.me["name"]
    again = settled.http.post("/api/firm/corrections", json=FUSE | {"value": "207"}).json()["corrections"]
    assert [(one["value"], one["withdrawn_at"] is None) for one in again[:2]] == [("207", True), ("205", False)]
    begun = inspector.http.get("/api/home").json()["beginning"]["table_corrections"]
    assert begun == [FUSE | {"value": "207"}]
    after = settled.http.delete(f"/api/firm/corrections/{again[0]['id']}").json()["corrections"]
    assert all(one["withdrawn_at"] for one in after[:2])
    assert inspector.http.get("/api/home").json()["beginning"]["table_corrections"] == []
    assert settled.http.delete(f"/api/firm/corrections/{again[0]['id']}").status_code == 404


def test_another_firm_s_correction_cannot_be_withdrawn(settled, stranger, app):
    identity = settled.http.post("/api/firm/corrections", json=FUSE).json()["corrections"][0]["id"]
    assert stranger.http.get("/api/firm").json()["corrections"] == []
    assert stranger.http.delete(f"/api/firm/corrections/{identity}").status_code in (403, 404)
    assert settled.http.get("/api/firm").json()["corrections"][0]["withdrawn_at"] is None


@pytest.mark.parametrize(
    "change", [{"table": "wires"}, {"row": "none"}, {"column": "rating_a"}, {"value": "much"}, {"why": ""}]
)
def test_a_correction_that_does_not_fit_is_refused_in_words(settled, change):
    answer = settled.http.post("/api/firm/corrections", json=FUSE | change)
    assert answer.status_code == 422
    assert answer.json()["fields"][0]["message"].endswith((".", "from."))


def test_the_tables_are_shown_as_printed_with_their_sources(inspector):
    tables = {table["name"]: table for table in inspector.http.get("/api/firm/tables").json()}
    assert "BS 7671" in tables["devices"]["source"]
    fuse = next(r for r in tables["devices"]["rows"] if r["row"] == FUSE["row"])
    assert fuse["cells"]["ia_0s4_a"] == "210"
    assert "ia_0s4_a" in tables["devices"]["columns"] and "standard" in tables["devices"]["keys"]


def test_an_inspection_is_judged_by_the_corrections_that_it_began_with(inspector, settled):
    """The firm's go with a new inspection, whatever the device brought."""
    settled.http.post("/api/firm/corrections", json=FUSE | {"value": "180"})
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    fields = {"device_standard": "BS 3036", "device_type": "rewirable", "device_rating_a": 30, "zs_ohm": "0.90"}
    changes = [inspector.change("circuit", circuit, field, value) for field, value in fields.items()]
    receipt = inspector.send(inspection, *changes)
    zs = next(note for note in receipt["judgement"]["notes"] if note["field"] == "zs_ohm")
    # 0.95 · 230 / 180 A is 1.21 Ω; 0.8 of it 0.97 Ω.
    assert round(zs["limit"], 2) == 0.97
