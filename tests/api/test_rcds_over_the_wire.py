"""Residual current devices through the journal, and what a screen is served of the rules."""

import pytest

from dorrik.store.database.engine import new_id


@pytest.fixture
def home(inspector):
    """An inspection with a board of two circuits; ids of the inspection, the board and its circuits."""
    inspection = inspector.begin()
    board, cooker = inspector.board(inspection)
    sockets = inspector.add(
        inspection, "circuit", "board", board, way="2", designation="Sockets", serves="sockets", form="radial"
    )
    return inspection, board, cooker, sockets


def judged(inspector, inspection):
    return inspector.http.get(f"/api/inspections/{inspection}").json()["judgement"]


def test_a_device_is_kept_and_judged_for_every_circuit_behind_it(inspector, home):
    inspection, board, cooker, sockets = home
    rcd = inspector.add(
        inspection, "rcd", "board", board, name="RCD 1", kind="A", rated_ma=30, rating_a=63, standard="BS EN 61008",
        trip_ms=">300", button="correct",
    )  # fmt: skip
    changes = [inspector.change("circuit", one, "rcd_id", rcd) for one in (cooker, sockets)]
    receipt = inspector.send(inspection, *changes)
    assert {result["state"] for result in receipt["results"]} == {"kept"}
    notes = [n for n in receipt["judgement"]["notes"] if n["entity"] == "rcd" and n["status"] == "fail"]
    assert [(n["id"], n["field"], set(n["touches"])) for n in notes] == [(rcd, "trip_ms", {cooker, sockets})]
    raised = [s for s in receipt["judgement"]["suggested"] if s["entity_id"] == rcd]
    assert len(raised) == 1 and set(raised[0]["touches"]) >= {cooker, sockets}


@pytest.mark.parametrize("which", ["nobody", "board", "other inspection"])
def test_a_circuit_stands_behind_a_device_of_its_own_inspection_only(inspector, home, which):
    inspection, board, cooker, _ = home
    other = inspector.begin()
    there, _ = inspector.board(other)
    wrong = {
        "nobody": new_id(), "board": board, "other inspection": inspector.add(other, "rcd", "board", there, name="X"),
    }[which]  # fmt: skip
    result = inspector.send(inspection, inspector.change("circuit", cooker, "rcd_id", wrong))["results"][0]
    assert (result["state"], result["reason"]) == ("refused", "This inspection has no such RCD.")
    assert "rcd_id" not in inspector.values(inspection, cooker)


def test_a_device_that_is_none_is_refused_at_its_field_and_the_rest_is_kept(inspector, home):
    inspection, board, _, _ = home
    rcd = inspector.add(inspection, "rcd", "board", board, name="RCD 1")
    results = inspector.send(
        inspection,
        inspector.change("rcd", rcd, "rated_ma", "thirty"),
        inspector.change("rcd", rcd, "button", "correct"),
    )["results"]
    assert [result["state"] for result in results] == ["refused", "kept"]
    assert inspector.values(inspection, rcd)["button"] == "correct"


def test_the_judgement_says_which_tests_apply_and_what_may_stand_instead(inspector, home):
    inspection, _, cooker, _ = home
    asked = {(one["id"], one["stage"]): one for one in judged(inspector, inspection)["asked"]}
    assert "zs_ohm" in asked[cooker, "live"]["fields"]
    before = asked[cooker, "live"]["done"]
    inspector.send(inspection, inspector.change("circuit", cooker, "zs_not_possible", "no point could be reached"))
    asked = {(one["id"], one["stage"]): one for one in judged(inspector, inspection)["asked"]}
    assert asked[cooker, "live"]["done"] == before + 1


def test_the_view_of_the_inspector_is_served_beside_the_verdict(inspector, home):
    inspection, _, cooker, _ = home
    inspector.send(inspection, inspector.change("circuit", cooker, "zs_ohm", "3.10"))

    def note():
        return next(n for n in judged(inspector, inspection)["notes"] if (n["id"], n["field"]) == (cooker, "zs_ohm"))

    assert (note()["status"], note()["standing"], note()["stage"]) == ("fail", "fail", "live")
    inspector.add(
        inspection, "overruling", "inspection", inspection, about_id=cooker, field="zs_ohm", status="pass",
        reason="Fed by a long temporary lead.",
    )  # fmt: skip
    assert (note()["status"], note()["standing"]) == ("fail", "pass")


def test_what_a_note_offers_can_be_carried_out_as_it_is_served(inspector, home):
    inspection, _, cooker, _ = home
    inspector.add(inspection, "point", "circuit", cooker, kind="fused unit")
    receipt = inspector.send(
        inspection, inspector.change("circuit", cooker, "cable_method", "C"),
        inspector.change("circuit", cooker, "line_csa_mm2", 2.5),
        inspector.change("circuit", cooker, "device_rating_a", 40),
    )  # fmt: skip
    (offer,) = [a for n in receipt["judgement"]["notes"] for a in n["actions"] if a["field"] == "one_fused_load"]
    assert (offer["kind"], offer["entity"], offer["id"]) == ("set", "circuit", cooker)
    change = inspector.change(offer["entity"], offer["id"], offer["field"], offer["value"])
    assert inspector.send(inspection, change)["results"][0]["state"] == "kept"
    assert inspector.values(inspection, cooker)["one_fused_load"] is True


def test_a_board_s_pairings_and_state_are_served(inspector, home):
    inspection, board, _, _ = home
    (state,) = judged(inspector, inspection)["boards"]
    assert state["board_id"] == board
    assert state["proved_at"] is None
    # Single phase: line to neutral, line to earth and neutral to earth, at the busbar and at every way.
    assert [p["at"] for p in state["pairings"]] == ["busbar", "way 1", "way 2"]
    assert all(p["between"] == ["L–N", "L–E", "N–E"] for p in state["pairings"])


def test_fields_know_their_stage_and_codes_their_order(inspector):
    reference = inspector.http.get("/api/reference").json()
    assert reference["code_order"][:2] == ["C1", "C2"]
    fields = reference["fields"]
    assert fields["circuit"]["r1_r2_ohm"]["stage"] == "dead"
    assert fields["circuit"]["zs_ohm"]["stage"] == "live"
    assert fields["rcd"]["trip_ms"]["stage"] == "live"


def test_what_an_inspection_takes_from_its_job_is_served_with_the_job(inspector):
    http, firm = inspector.http, inspector.me["firm_id"]

    def add(kind, parent, **values):
        return http.post(f"/api/register/{kind}", json={"parent_id": parent, "values": values}).json()["id"]

    client = add("client", firm, name="Kelder Haven Harbour Trust")
    place = add("property", client, address="5 Capstan Lane", tenure="let dwelling", nation="Ireland")
    job = add("job", place, number=f"J-{new_id()[-6:]}", leave_out="The loft\nThe garage")
    (begun,) = http.get(f"/api/jobs/{job}").json()["beginnings"]
    assert begun["fields"]["client_name"] == "Kelder Haven Harbour Trust"
    assert begun["fields"]["tenure"] == "let dwelling"
    # The rule book of the nation where the property stands.
    assert begun["fields"]["rule_book"] == http.get(f"/api/jobs/{job}").json()["beginnings"][0]["fields"]["rule_book"]
    assert "10101" in begun["fields"]["rule_book"]
    assert [limitation["what"] for limitation in begun["limitations"]] == ["The loft", "The garage"]
