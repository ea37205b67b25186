"""The walks through the demo's homes: rooms in their order, what hangs in them, what was seen."""

from collections.abc import Mapping, Sequence
from typing import Any

from dorrik.core.book import board_checks
from dorrik.core.home import place_checks
from dorrik.core.inspection.room import HALL, Room
from dorrik.demo.scribe import Scribe

#: Kind of point, how many, on which circuit (its designation), and what else is known of each.
Hung = tuple[str, int, str | None, dict[str, Any]]
#: What a room is called, its kind and floor, what hangs in it, and what else is known of it.
Walked = tuple[str, str, str, Sequence[Hung], dict[str, Any]]

_NO: dict[str, Any] = {}
_FINE = {"looked": "fine"}
_BATH = {"basin": "bath", "basin_length_m": 1.7, "basin_width_m": 0.7, "length_m": 2.6, "width_m": 2.0}


def _fine(kind: str, count: int, circuit: str | None, **more: Any) -> Hung:
    return (kind, count, circuit, _FINE | more)


def _alarm(circuit: str | None, kind: str, replace_by: str) -> Hung:
    return _fine("alarm", 1, circuit, alarm=kind, replace_by=replace_by)


LOOKOUT_ROW_1: Sequence[Walked] = (
    ("Hall", HALL, "ground", (_fine("light", 1, "Lights down"), _fine("switch", 2, "Lights down"),
      _fine("socket", 1, "Sockets down"), _alarm("Alarms", "smoke", "2030-04-30")), _NO),
    ("Living room", "living room", "ground", (_fine("socket", 5, "Sockets down"), _fine("light", 2, "Lights down"),
      _fine("switch", 1, "Lights down"), ("socket", 1, "Sockets down", {"not_reached": "furniture in the way",
      "note": "Behind the dresser"})), _NO),
    ("Kitchen", "kitchen", "ground", (_fine("socket", 4, "Sockets down"), _fine("light", 1, "Lights down"),
      _fine("switch", 1, "Lights down"), _fine("cooker outlet", 1, "Cooker"), _alarm("Alarms", "heat", "2030-04-30")),
      _NO),
    ("Landing", HALL, "first", (_fine("light", 1, "Lights up"), _fine("switch", 1, "Lights up"),
      _fine("socket", 1, "Sockets up"), _alarm("Alarms", "smoke", "2030-04-30")), _NO),
    ("Bathroom", "bath or shower", "first", (
      _fine("light", 1, "Lights up", height_m=2.35, distance_m=0.0, water_protection=4),
      _fine("pull cord", 1, "Lights up", height_m=2.2, distance_m=1.1),
      _fine("fan", 1, "Lights up", height_m=2.1, distance_m=0.4, water_protection=5)), _BATH),
    ("Front bedroom", "bedroom", "first", (_fine("socket", 4, "Sockets up"), _fine("light", 1, "Lights up"),
      _fine("switch", 1, "Lights up")), _NO),
    ("Back bedroom", "bedroom", "first", (_fine("socket", 4, "Sockets up"), _fine("light", 1, "Lights up"),
      _fine("switch", 1, "Lights up"), _fine("fixed equipment", 1, "Immersion", name="immersion switch")), _NO),
    ("Loft", "loft", "roof space", (), {"not_reached": "in use", "note": "Boarded and full of stores"}),
)  # fmt: skip

NET_LOFT_FLAT_2: Sequence[Walked] = (
    ("Hall", HALL, "first", (_fine("light", 1, "Lights"), _fine("switch", 1, "Lights"),
      _fine("socket", 1, "Sockets"), _alarm(None, "smoke", "2028-09-30")), _NO),
    ("Kitchen", "kitchen", "first", (_fine("socket", 8, "Kitchen ring"), _fine("light", 2, "Lights"),
      _fine("switch", 2, "Lights"), _fine("cooker outlet", 1, "Cooker"), _alarm(None, "heat", "2028-09-30")), _NO),
    ("Living room", "living room", "first", (_fine("socket", 3, "Sockets"), _fine("light", 2, "Lights"),
      _fine("switch", 1, "Lights")), _NO),
    ("Bedroom", "bedroom", "first", (_fine("socket", 3, "Sockets"), _fine("light", 1, "Lights"),
      _fine("switch", 1, "Lights"), ("socket", 1, "Sockets", {"name": "window socket", "looked": "defect"})), _NO),
    ("Shower room", "bath or shower", "first", (
      _fine("light", 1, "Lights", height_m=2.4, distance_m=0.2, water_protection=5),
      _fine("pull cord", 1, "Lights", height_m=2.3, distance_m=1.0),
      _fine("shower", 1, "Shower", height_m=1.4, distance_m=0.0, water_protection=5)),
      {"basin": "shower tray", "shower_head_m": 2.1}),
    ("Outside stair", "outdoors", "outside", (_fine("outdoor point", 3, "Outside lights"),), _NO),
)  # fmt: skip

#: The cottage that is half done: what is not looked at yet waits.
LOOKOUT_ROW_3: Sequence[Walked] = (
    ("Hall", HALL, "ground", (_fine("light", 1, "Lights down"), _fine("switch", 2, "Lights down"),
      _fine("socket", 1, "Kitchen ring"), _alarm("Alarms", "smoke", "2029-02-28")), _NO),
    ("Front room", "living room", "ground", (_fine("socket", 3, "Kitchen ring"), _fine("light", 2, "Lights down"),
      _fine("switch", 1, "Lights down"), ("socket", 1, "Kitchen ring", {"not_reached": "furniture in the way"})), _NO),
    ("Kitchen", "kitchen", "ground", (_fine("socket", 3, "Kitchen ring"), ("socket", 1, "Kitchen ring",
      {"name": "socket by the sink", "looked": "defect", "opened": True}), _fine("light", 1, "Lights down"),
      _fine("switch", 1, "Lights down"), _fine("cooker outlet", 1, "Cooker"),
      _alarm("Alarms", "heat", "2023-05-31")), _NO),
    ("Landing", HALL, "first", (("light", 1, "Lights up", {}), ("switch", 1, "Lights up", {}),
      ("alarm", 1, "Alarms", {})), _NO),
    ("Bathroom", "bath or shower", "first", (
      ("light", 1, "Lights up", {"name": "light over the bath", "height_m": 2.1, "distance_m": 0.0,
                                 "looked": "defect"}),
      _fine("light", 1, "Lights up", name="light by the door", height_m=2.15, distance_m=0.45, water_protection=5),
      ("pull cord", 1, "Lights up", {"height_m": 1.9, "distance_m": 1.25}),
      ("fan", 1, "Lights up", {"height_m": 2.1, "distance_m": 1.5}),
      _fine("shower", 1, "Shower", height_m=1.5, distance_m=0.0, water_protection=5)), _BATH),
    ("Large bedroom", "bedroom", "first", (("light", 1, "Lights up", {}), ("switch", 1, "Lights up", {})), _NO),
    ("Small bedroom", "bedroom", "first", (("light", 1, "Lights up", {}), ("switch", 1, "Lights up", {})), _NO),
    ("Study", "bedroom", "first", (("light", 1, None, {}), ("switch", 1, None, {})), _NO),
    ("Net loft", "loft", "roof space", (("light", 4, "Net loft lights", {}), ("switch", 1, "Net loft lights", {})),
      _NO),
    ("Yard", "outdoors", "outside", (("outdoor point", 1, None, {}),), _NO),
)  # fmt: skip


def walk(
    scribe: Scribe, walked: Sequence[Walked], circuits: Mapping[str, str], at: str, seen: int | None = None
) -> dict[str, str]:
    """Enter a walk at a time (ISO 8601). circuits: ids by designation; seen: of so many rooms everything is answered,
    None for all. Returns ids of rooms by their name, and of points by room and kind or name."""
    answers: dict[str, str] = {}
    for position, (name, kind, floor, hung, more) in enumerate(walked, 1):
        done = seen is None or position <= seen
        values = {"walked_at": at} if done else {}
        room = scribe.add(
            "room", "inspection", scribe.inspection,
            position=position, name=name, kind=kind, floor=floor, **more, **values,
        )  # fmt: skip
        answers[name] = room
        number = 0
        for what, count, circuit, known in hung:
            for _ in range(count):
                number += 1
                parent = ("circuit", circuits[circuit]) if circuit else ("inspection", scribe.inspection)
                point = scribe.add("point", *parent, position=number, room_id=room, kind=what, **known)
                answers[f"{name}/{known.get('name', what)}"] = point
        if done and "not_reached" not in more:
            for check in place_checks.checks_of(Room(id=room, kind=kind)):
                scribe.add("check", "room", room, item=check.key, state="good")
    return answers


def look_at_board(scribe: Scribe, board: str, wanting: Sequence[str] = ()) -> None:
    """Every check of a board: good, save what is wanting."""
    for item in board_checks.items():
        scribe.add("check", "board", board, item=item, state="not good" if item in wanting else "good")
