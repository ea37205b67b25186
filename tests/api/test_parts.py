"""Bonds, points, earlier readings and overrulings: made, judged, taken out and followed like everything else."""

import pytest

from dorrik.store.database.engine import new_id


def note(receipt, entity_id, field):
    return next((n for n in receipt["judgement"]["notes"] if (n["id"], n["field"]) == (entity_id, field)), None)


@pytest.fixture
def home(inspector):
    """An inspection with a ring; the ids of inspection, board and circuit."""
    inspection = inspector.begin()
    board, circuit = inspector.board(inspection)
    ring = {
        "form": "ring",
        "line_csa_mm2": 2.5,
        "cpc_csa_mm2": 1.5,
        "r1_ohm": "0.46",
        "rn_ohm": "0.46",
        "r2_ohm": "0.76",
    }
    inspector.send(inspection, *(inspector.change("circuit", circuit, f, v) for f, v in ring.items()))
    return inspection, board, circuit


def test_points_of_a_ring_are_kept_in_their_order_and_judged(inspector, home):
    inspection, _, circuit = home
    readings = [("0.23", "0.29"), ("0.23", "0.30"), ("0.41", "0.54"), ("0.23", "0.30")]
    points = [
        inspector.add(
            inspection, "point", "circuit", circuit, position=n, name=f"socket {n}", line_neutral_ohm=a, line_cpc_ohm=b
        )
        for n, (a, b) in enumerate(readings)
    ]
    whole = inspector.http.get(f"/api/inspections/{inspection}").json()
    (ring,) = whole["judgement"]["rings"]
    assert [p["name"] for p in ring["points"]] == ["socket 0", "socket 1", "socket 2", "socket 3"]
    # 0.18 Ω over on line to neutral is 0.18 / (2 · 7.41 mΩ/m) = 12.1 m.
    assert ring["points"][2]["spur_length_m"] == pytest.approx(12.1, abs=0.4)
    spoken = note(whole, points[2], "line_neutral_ohm")
    assert (spoken["entity"], spoken["status"]) == ("point", "attention")


def test_a_removed_point_is_judged_no_more_and_its_history_stays(inspector, home):
    inspection, _, circuit = home
    point = inspector.add(inspection, "point", "circuit", circuit, line_cpc_ohm="OL", line_neutral_ohm="0.23")
    receipt = inspector.send(inspection, inspector.change("point", point, "name", "hall"))
    assert note(receipt, point, "line_cpc_ohm")["status"] == "fail"
    receipt = inspector.send(inspection, inspector.change("point", point, "removed", True))
    assert note(receipt, point, "line_cpc_ohm") is None
    query = {"entity_id": point, "field": "line_cpc_ohm"}
    assert len(inspector.http.get(f"/api/inspections/{inspection}/history", params=query).json()) == 1


def test_a_bond_is_judged_by_its_readings(inspector, home):
    inspection, _, _ = home
    bond = inspector.add(inspection, "bond", "inspection", inspection, service="gas", state="present")
    receipt = inspector.send(inspection, inspector.change("bond", bond, "at_pipe_ohm", "0.31"))
    assert note(receipt, bond, "at_pipe_ohm")["observation"] == "bond-high"
    suggested = next(s for s in receipt["judgement"]["suggested"] if s["key"] == "bond-high")
    assert (suggested["entity"], suggested["entity_id"], suggested["recorded"]) == ("bond", bond, None)


def test_an_overruling_stands_beside_the_verdict(inspector, home):
    inspection, _, circuit = home
    inspector.send(inspection, inspector.change("circuit", circuit, "rn_ohm", "OL"))
    own = inspector.add(
        inspection,
        "overruling",
        "inspection",
        inspection,
        about_id=circuit,
        field="rn_ohm",
        status="attention",
        reason="x",
    )
    whole = inspector.http.get(f"/api/inspections/{inspection}").json()
    spoken = note(whole, circuit, "rn_ohm")
    assert (spoken["status"], spoken["overruled"]) == ("fail", {"status": "attention", "reason": "x"})
    receipt = inspector.send(inspection, inspector.change("overruling", own, "removed", True))
    assert note(receipt, circuit, "rn_ohm")["overruled"] is None


def test_earlier_readings_are_compared(inspector, home):
    inspection, _, circuit = home
    inspector.send(inspection, inspector.change("circuit", circuit, "insulation_lne_mohm", "20"))
    inspector.add(
        inspection, "earlier", "circuit", circuit, measured_on="2016-11-03", figure="insulation_lne_mohm", reading="400"
    )
    whole = inspector.http.get(f"/api/inspections/{inspection}").json()
    assert any("over the years" in n["title"] and n["status"] == "attention" for n in whole["judgement"]["notes"])


@pytest.mark.parametrize(
    ("entity", "parent"),
    [("point", "board"), ("room", "board"), ("bond", "circuit"), ("earlier", "board"), ("overruling", "circuit")],
)
def test_a_part_stands_only_where_it_belongs(inspector, home, entity, parent):
    inspection, board, circuit = home
    wrong = {"inspection": inspection, "board": board, "circuit": circuit}[parent]
    change = inspector.change(entity, new_id(), parent, wrong)
    result = inspector.send(inspection, change)["results"][0]
    assert result["state"] == "refused" and result["reason"]


@pytest.mark.parametrize(
    ("entity", "field", "value"),
    [
        ("point", "height_m", -1), ("point", "water_protection", 12), ("point", "kind", "lamp"),
        ("bond", "at_pipe_ohm", "0,0,1"), ("bond", "csa_mm2", "thick"), ("earlier", "measured_on", "1890-01-01"),
        ("earlier", "figure", "weight"), ("overruling", "status", "unknown"), ("overruling", "reason", "x" * 501),
    ],
)  # fmt: skip
def test_what_cannot_stand_in_a_field_is_refused_there_and_the_rest_is_kept(inspector, home, entity, field, value):
    inspection, _, circuit = home
    parent = ("circuit", circuit) if entity in ("point", "earlier") else ("inspection", inspection)
    part = inspector.add(inspection, entity, *parent)
    receipt = inspector.send(
        inspection,
        inspector.change(entity, part, field, value),
        inspector.change("circuit", circuit, "designation", "Kitchen"),
    )
    assert [r["state"] for r in receipt["results"]] == ["refused", "kept"]
    assert receipt["results"][0]["reason"]
