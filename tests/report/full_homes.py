"""Homes of every size for the look of their report: circuits, observations, photos and long names."""

from collections.abc import Callable
from datetime import date
from pathlib import Path
from typing import Any

from dorrik.core.inspection import document
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.judgement import judge
from dorrik.report.content import Issue, content
from tests.core.whole_homes import ORIGIN, RCD, circuit, points, ring

#: A long name with blanks, one without, and in other scripts.
SENTENCE = ("The old net store above the slipway behind the second lamp post, upper floor, left of the stair, " * 3)[
    :200
]
WORD = "Wendeltreppenbeleuchtung" * 8 + "Obergescho"
SCRIPTS = "بيت الصياد القديم على الرصيف · पुरानी मछुआरा कुटिया · 漁師の古い家 🔌⚡"
ISSUE = Issue(
    1, date(2026, 11, 23), "Ines Pector", "inspector", "Firm", "1 Test Quay", "0", check="7F3A-91C2-0D4E",
)  # fmt: skip
_TEXTS = {
    "C1": ("Live part within reach at the cooker switch", "live-part-reachable"),
    "C2": ("No 30 mA protection for sockets that may feed a mower", "rcd-missing-sockets"),
    "FI": ("Insulation low, cause not found", "insulation-low"),
    "C3": ("Cracked plate", "accessory-cracked"),
    "note": ("An older colour code, sound", None),
}


def home(
    circuits: int = 6, boards: int = 1, observations: int = 3, photos: int = 0, name: str = "", rings: bool = True
) -> dict[str, Any]:
    """A document. name: what everything that has one is called besides."""
    of_board: list[list[dict[str, Any]]] = [[] for _ in range(boards)]
    for number in range(1, circuits + 1):
        called = name or f"Circuit {number}"
        outlets = points(*({"line_neutral_ohm": "0.31", "line_cpc_ohm": "0.4"},) * 6, prefix=f"p{number}-")
        limited = {"zs_ohm": "LIM the loop test trips the device"} if number % 7 == 0 else {"zs_ohm": "1.1"}
        high = {"insulation_lne_mohm": "0.4"} if number % 5 == 0 else {"insulation_lne_mohm": ">299"}
        make = ring if rings and number % 6 == 2 else circuit
        extra = {"points": outlets} if make is ring else {"r1_r2_ohm": "0.84"}
        earlier = [{"id": f"e{number}", "measured_on": "2021-11-03", "figure": "zs_ohm", "reading": "0.9"}]
        of_board[number % boards].append(
            make(number, called[:80], earlier=earlier, polarity="correct", **RCD, **limited, **high, **extra)
        )
    codes = ("C2", "C3", "FI", "C1", "note")
    noted = [
        {"id": f"o{n}", "code": code, "text": (name or _TEXTS[code][0])[:300], "catalogue_key": _TEXTS[code][1],
         "place": name[:80] or "Hall"}
        for n in range(observations) for code in (codes[n % 5],)
    ]  # fmt: skip
    pictures = [
        {"id": f"f{n}", "about_entity": "observation", "about_id": f"o{n % observations}", "sha256": f"{n % 3:064x}",
         "caption": name[:200] or f"Photo {n}", "print_size": ("small", "large", "small")[n % 3]}
        for n in range(photos if observations else 0)
    ]  # fmt: skip
    whole = ORIGIN | {
        "reference": "K-1", "client_name": name[:120] or "Harbour Trust", "client_address": name[:300],
        "property_address": name[:300] or "3 Lookout Row, Kelder Haven", "extent": name or "The whole home.",
        "tenure": "let dwelling", "nation": "England", "next_years": 5, "observations": noted, "photos": pictures,
        "declared_outcome": "unsatisfactory" if noted else "satisfactory",
        "boards": [
            {"id": f"b{at}", "name": (name[:60] or "Board") + f" {at}", "location": name[:80], "circuits": own}
            for at, own in enumerate(of_board)
        ],
        "instruments_used": [{"id": "m", "name": name[:80] or "Meter", "serial": "1-22"}],
        "limitations": [{"id": "l", "what": name[:300] or "The loft", "reason": "No safe way in", "agreed_with": "A"}],
    }  # fmt: skip
    return {"format": "dorrik-inspection", "version": 1, "inspection": whole}


def said(whole: dict[str, Any], photos: Callable[[str], str | None]) -> tuple[dict[str, Any], Inspection]:
    """What its report says, and the inspection itself."""
    inspection = document.parse(whole)
    return content(inspection, judge(inspection), ISSUE, photos), inspection


def pictures_in(folder: Path, made: Callable[..., bytes]) -> Callable[[str], str | None]:
    """Photos across, upright and square, as files."""
    for n, size in enumerate(((1600, 1200), (900, 1600), (1000, 1000))):
        (folder / f"{n:064x}.jpg").write_bytes(made(*size))
    return lambda sha256, size: str(folder / f"{sha256}.jpg")


def everything() -> dict[str, Any]:
    """A document with something of each kind that a judgement tells of."""
    whole = home(12, 2, 5, 4)
    i = whole["inspection"]
    ring = i["boards"][0]["circuits"][0]
    i["catalogue"] = [{"key": "own-1", "title": "Meter cupboard wet", "code": "C3", "why": "Water near the tails"}]
    i["rooms"] = [
        {"id": "bath", "name": "Bathroom", "kind": "bath or shower", "basin": "bath", "length_m": 2.4, "width_m": 2.0}
    ]  # fmt: skip
    ring["points"][0] |= {"room_id": "bath", "plan_x_m": 1.0, "plan_y_m": 1.2, "height_m": 1.1}
    i["come_backs"] = [{"id": "cb", "about_entity": "board", "about_id": "b0", "what": "The cover does not close"}]
    i["set_asides"] = [
        {"id": "sa", "about_entity": "circuit", "about_id": i["boards"][1]["circuits"][1]["id"],
         "state": "left disconnected", "agreed_with": "The client", "why": "No cpc"}
    ]  # fmt: skip
    i["repairs"] = [
        {"id": "re", "observation_id": "o0", "about_entity": "circuit", "about_id": ring["id"], "work": "joint",
         "as_founds": [
             {"id": "af", "about_entity": "circuit", "about_id": ring["id"], "field": "zs_ohm", "value": "1.9"}
         ],
         "begun_at": "2026-11-03T09:40:00Z"}
    ]  # fmt: skip
    i["phases"] = "3"
    i["attendances"] = [{"id": "tr", "who": "Tam", "purpose": "trainee"}]
    i["overrulings"] = [
        {"id": "ov", "about_id": ring["id"], "field": "zs_ohm", "status": "pass",
         "reason": "Measured twice"}
    ]  # fmt: skip
    return whole
