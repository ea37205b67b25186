"""The way of the supply as it is drawn in the report."""

import xml.etree.ElementTree as ET

from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import judge
from dorrik.report.intake_drawing import drawing

SVG = "{http://www.w3.org/2000/svg}"


def drawn(**origin):
    home = {"format": "dorrik-inspection", "version": 2, "inspection": {"id": "i"} | origin}
    inspection = parse(home)
    svg, words = drawing(inspection, judge(inspection))
    root = ET.fromstring(svg)
    return root, [one.text for one in root.iter(f"{SVG}text")], words


def frame_of(root, title):
    """The box that was drawn just before a part's title."""
    parts = list(root)
    at = next(i for i, one in enumerate(parts) if one.text == title)
    return next(one for one in reversed(parts[:at]) if one.tag == f"{SVG}rect")


def test_what_nobody_said_is_dashed_and_what_is_said_stands_in_its_part():
    root, texts, words = drawn(service_fuse_a=80, service_fuse_standard="BS 1361 type II", ze_ohm="0.21")
    assert {"BS 1361 type II", "80 A", "0.21 Ω", "no board"} <= set(texts)
    assert frame_of(root, "Service head").get("stroke-dasharray") is None
    assert frame_of(root, "Meter").get("stroke-dasharray")
    assert "Meter: not known" in words and "Ze: 0.21 Ω" in words


def test_what_is_not_there_is_said_and_not_passed_over():
    _, texts, words = drawn(isolator="none", tails_protected=False, meter_seals="broken")
    assert texts.count("none") == 2
    assert "seal broken" in texts
    assert "Isolator: none" in words and "Switch-fuse: none" in words


def test_boards_hang_under_the_ways_that_feed_them():
    main = {"id": "b", "name": "House", "ways": 12, "main_switch_a": 100, "circuits": [{"id": "c", "way": "9"}]}
    shed = {"id": "s", "name": "Pump shed", "fed_by": "c", "earthing": "own electrode"}
    root, texts, words = drawn(boards=[shed, main])
    assert texts.index("House") < texts.index("Pump shed")
    assert "way 9" in texts
    assert float(frame_of(root, "Pump shed").get("x")) > float(frame_of(root, "House").get("x"))
    assert words.endswith("Board: House. Board: Pump shed.")


def test_a_bond_that_is_missing_is_open_and_carries_its_mark():
    root, texts, _ = drawn(
        earthing="TN-S",
        bonds=[{"id": "g", "service": "gas", "state": "missing"}, {"id": "w", "service": "water", "state": "present"}],
    )
    assert "missing" in texts
    ends = {one.get("fill") for one in root.iter(f"{SVG}circle") if one.get("r") == "9"}
    assert ends == {"#fff", "#17272b"}
    # A missing main bond is a defect (rule 3.6): one mark, beside that bond.
    assert [one.get("r") for one in root.iter(f"{SVG}circle")].count("8") == 1


def test_words_of_people_stay_words():
    root, texts, _ = drawn(
        service_fuse_standard="<b>&amp; \"'", boards=[{"id": "b", "name": "</svg><script>", "circuits": []}]
    )
    assert "<b>&amp; \"'" in texts and "</svg><script>" in texts
    assert not list(root.iter(f"{SVG}script"))


def test_more_boards_than_there_is_room_for_are_counted():
    _, texts, words = drawn(boards=[{"id": f"b{n}", "name": f"Flat {n}"} for n in range(5)])
    assert "and 2 more" in texts
    assert words.count("Board:") == 5
