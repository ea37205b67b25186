"""The way of the supply, the boards and the rings as they are drawn, on screen and in the report."""

import itertools
import re

import pytest

from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import judge
from tests.report import full_homes


def judged(**origin):
    return judge(parse({"format": "dorrik-inspection", "version": 2, "inspection": {"id": "i"} | origin}))


def intake(**origin):
    return judged(**origin).intake_drawing


def part(drawing, key):
    (found,) = (one for one in drawing.parts if one.key == key)
    return found


def words(of):
    parts = of.parts if hasattr(of, "parts") else (of,)
    return [word.text for drawn in parts for word in drawn.words]


def test_what_nobody_said_is_open_and_what_is_said_stands_in_its_part():
    drawing = intake(service_fuse_a=80, service_fuse_standard="BS 1361 type II", ze_ohm="0.21")
    assert words(part(drawing, "head")) == ["Service head", "BS 1361 type II", "80 A"]
    assert words(part(drawing, "ze")) == ["Ze", "0.21 Ω"]
    assert [box.look for box in part(drawing, "head").boxes] == ["part"]
    assert [box.look for box in part(drawing, "meter").boxes] == ["part unknown"]
    assert part(drawing, "meter").says == "Meter, not known yet"
    assert "no board yet" in words(drawing)
    assert "Ze, 0.21 Ω" in drawing.says


def test_what_is_not_there_is_said_and_not_passed_over():
    drawing = intake(isolator="none", tails_protected=False, meter_number="HM-204417-9", meter_seals="broken")
    assert words(part(drawing, "isolator")) == ["Isolator", "none"]
    assert words(part(drawing, "switch-fuse")) == ["Switch-fuse", "none"]
    assert {part(drawing, key).boxes[0].look for key in ("isolator", "switch-fuse")} == {"part absent"}
    assert words(part(drawing, "meter")) == ["Meter", "HM-204417", "seal broken"]
    assert part(intake(tails_protected=False, switch_fuse_a=63), "switch-fuse").boxes[0].look == "part"


def test_a_part_carries_the_worst_mark_of_its_own_figures_and_none_for_what_follows_from_elsewhere():
    # Ze of TN-C-S is at most 0.35 Ω (rule 3.1); a Zdb under a Ze that fails follows from it.
    drawing = intake(earthing="TN-C-S", ze_ohm="1.40", boards=[{"id": "b", "zdb_ohm": "1.45"}])
    assert [sign.status for sign in part(drawing, "ze").signs] == ["fail"]
    assert not part(drawing, "tails").signs and not part(drawing, "b").signs
    assert part(intake(earthing="TN-C-S", ze_ohm="0.20", ze_parallel_removed=True), "ze").signs == ()


def test_the_earth_goes_into_the_ground_only_where_it_is_an_electrode():
    def earth(**origin):
        (path,) = (p for one in intake(**origin).parts for p in one.paths if p.look.startswith("earth"))
        return path

    ground = 300
    lowest = {key: max(map(float, re.findall(r"V([\d.]+)", earth(earthing=key).d))) for key in ("TT", "TN-S")}
    assert lowest["TT"] > ground > lowest["TN-S"]
    assert earth().look == "earth unknown" and earth(earthing_conductor_mm2=16).look == "earth"


def test_a_bond_that_is_missing_is_open_and_marked_and_any_number_of_them_stays_apart():
    bonds = [{"id": "g", "service": "gas", "state": "missing"}, {"id": "w", "service": "water", "state": "present"}]
    drawing = intake(earthing="TN-S", bonds=bonds)
    assert [disc.look for disc in (*part(drawing, "g").discs, *part(drawing, "w").discs)] == ["end open", "end"]
    # A missing main bond is a defect (rule 3.6).
    assert [sign.status for sign in part(drawing, "g").signs] == ["fail"]
    assert words(part(drawing, "g")) == ["gas", "missing"]
    many = intake(bonds=[{"id": f"b{n}", "service": "other"} for n in range(11)])
    places = sorted(part(many, f"b{n}").discs[0].x for n in range(11))
    assert all(later - earlier >= 18 for earlier, later in itertools.pairwise(places))
    assert places[0] > 0 and places[-1] < many.width


def test_boards_hang_under_the_ways_that_feed_them():
    main = {"id": "b", "name": "House", "ways": 12, "main_switch_a": 100, "circuits": [{"id": "c", "way": "9"}]}
    shed = {"id": "s", "name": "Pump shed", "fed_by": "c", "earthing": "own electrode"}
    judgement = judged(boards=[shed, main])
    drawing, tree = judgement.intake_drawing, judgement.board_tree
    assert words(part(drawing, "b")) == ["House", "12 ways · 100 A"]
    assert words(part(drawing, "s")) == ["Pump shed", "way 9"]
    for one in (drawing, tree):
        assert part(one, "s").boxes[0].x > part(one, "b").boxes[0].x
        assert part(one, "s").boxes[0].y > part(one, "b").boxes[0].y
        # An electrode of its own is drawn with the board that has it, and with no other.
        earths = {key: [p.look for p in part(one, key).paths if "electrode" in p.look] for key in ("b", "s")}
        assert (len(earths["b"]), len(earths["s"])) == (0, 1)
    assert [one.says for one in tree.parts if one.key] == ["House, 1 circuit", "Pump shed, from way 9 · 0 circuits"]
    assert "Board: House" in drawing.says and "Board: Pump shed" in drawing.says


def test_one_board_alone_has_no_tree_and_a_loop_of_boards_loses_none():
    assert judged(boards=[{"id": "b"}]).board_tree is None
    boards = [
        {"id": "a", "fed_by": "c2", "circuits": [{"id": "c1"}]},
        {"id": "b", "fed_by": "c1", "circuits": [{"id": "c2"}]},
    ]
    assert {one.key for one in judged(boards=boards).board_tree.parts if one.key} == {"a", "b"}


def test_more_boards_than_there_is_room_for_are_counted_and_still_told():
    drawing = intake(boards=[{"id": f"b{n}", "name": f"Flat {n}"} for n in range(5)])
    assert "and 2 more" in words(drawing)
    assert drawing.says.count("Board:") == 5


RING = {
    "id": "c", "way": "4", "form": "ring", "line_csa_mm2": 2.5, "cpc_csa_mm2": 1.5,
    "r1_ohm": "0.46", "rn_ohm": "0.46", "r2_ohm": "0.75",
}  # fmt: skip


def ring(points, **circuit):
    return judged(boards=[{"id": "b", "circuits": [RING | {"points": points} | circuit]}]).ring_drawings.get("c")


def socket(n, line_neutral, line_cpc):
    return {
        "id": f"p{n}", "kind": "socket", "name": f"Socket {n}", "position": n,
        "line_neutral_ohm": line_neutral, "line_cpc_ohm": line_cpc,
    }  # fmt: skip


def test_points_of_a_sound_ring_stand_on_it_in_their_order():
    drawing = ring([socket(n, "0.23", "0.30") for n in range(1, 5)])
    assert drawing.says.startswith("Ring of 4 points, ")
    dots = [part(drawing, f"p{n}").discs[-1] for n in range(1, 5)]
    assert {dot.look for dot in dots} == {"dot tested"}
    # From the board on the left over the top and back: on an ellipse of 146 by 78 round (206, 125).
    for dot in dots:
        assert ((dot.x - 206) / 146) ** 2 + ((dot.y - 125) / 78) ** 2 == pytest.approx(1, abs=0.01)
    assert [dot.y < 125 for dot in dots] == [True, True, False, False]
    assert "ends 0.46 · 0.46 · 0.75 Ω" in words(drawing)
    assert {path.look for one in drawing.parts for path in one.paths} == {"cable"}


def test_a_spur_stands_outside_with_its_foot_on_the_ring():
    # 3 m of 2.5/1.5 mm² more than a quarter of both ends (rule 4.4): 7.41 mΩ/m of line and of neutral.
    drawing = ring([*(socket(n, "0.23", "0.30") for n in (1, 2, 3)), socket(4, "0.29", "0.38")])
    spur = part(drawing, "p4")
    foot, _, dot = spur.discs
    assert (foot.look, spur.paths[0].look) == ("foot", "spur")
    assert ((dot.x - 206) / 146) ** 2 + ((dot.y - 125) / 78) ** 2 > 1.2
    assert any("spur" in text for text in words(spur))
    assert "4 Socket 4: " in drawing.says


def test_an_open_ring_is_drawn_open_and_what_nobody_tested_is_hollow():
    drawing = ring([{"id": "p1", "kind": "socket"}, {"id": "p2", "kind": "socket"}], r2_ohm="OL")
    assert "open" in words(drawing) and drawing.says.startswith("Ring of 2 points, open")
    assert "cable open" in {path.look for one in drawing.parts for path in one.paths}
    assert {part(drawing, key).discs[-1].look for key in ("p1", "p2")} == {"dot"}


def test_only_rings_with_points_are_drawn():
    assert ring([]) is None
    assert ring([socket(1, "0.23", "0.30")], form="radial") is None


def test_a_full_home_has_all_its_drawings_and_nothing_stands_outside_of_them():
    judgement = judge(parse(full_homes.home(24, 3, 6, 4)))
    drawings = [judgement.intake_drawing, judgement.board_tree, *judgement.ring_drawings.values()]
    assert len(judgement.ring_drawings) >= 2
    for drawing in drawings:
        for one in drawing.parts:
            for box in one.boxes:
                assert drawing.left <= box.x <= box.x + box.width <= drawing.left + drawing.width
                assert drawing.top <= box.y <= box.y + box.height <= drawing.top + drawing.height
            for disc in one.discs:
                if disc.look != "reach":
                    assert drawing.left <= disc.x <= drawing.left + drawing.width
