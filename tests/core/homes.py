"""Inspection documents to judge: a sound cottage, and ways to spoil it."""

import copy
from typing import Any

_CIRCUIT = {
    "device_standard": "BS EN 61009",
    "device_type": "B",
    "rcd_standard": "BS EN 61009",
    "rcd_rated_ma": 30,
    "rcd_delay": "none",
    "polarity": "correct",
    "rcd_button": "correct",
}
#: Lines of the inspection schedule that no figure of the cottage answers.
LOOKED_AT = (
    "head", "isolator", "other-source", "earthing-conductor", "bonding", "earth-label", "board-place",
    "board-enclosure", "board-openings", "board-heat", "board-makes", "main-switch", "charts", "surge", "hidden",
    "rcd-type", "joints", "alarms", "papers",
)  # fmt: skip


def cottage() -> dict[str, Any]:
    """A complete, sound inspection of a board with a ring, a cooker and lights."""
    ring = _CIRCUIT | {
        "id": "c1", "position": 1, "way": "1", "designation": "Sockets", "form": "ring", "serves": "sockets",
        "line_csa_mm2": 2.5, "cpc_csa_mm2": 1.5, "device_rating_a": 32, "r1_ohm": "0.46", "rn_ohm": "0.46",
        "r2_ohm": "0.76", "r1_r2_ohm": "0.31", "insulation_ln_mohm": ">500", "insulation_lne_mohm": "310",
        "zs_ohm": "0.49", "rcd_trip_ms": "24",
    }  # fmt: skip
    cooker = _CIRCUIT | {
        "id": "c2", "position": 2, "way": "2", "designation": "Cooker", "form": "radial", "serves": "fixed",
        "line_csa_mm2": 6, "cpc_csa_mm2": 2.5, "device_rating_a": 32, "r1_r2_ohm": "0.12",
        "insulation_lne_mohm": "460", "zs_ohm": "0.31", "rcd_trip_ms": "22",
    }  # fmt: skip
    lights = _CIRCUIT | {
        "id": "c3", "position": 3, "way": "3", "designation": "Lights", "form": "radial", "serves": "lighting",
        "line_csa_mm2": 1.5, "cpc_csa_mm2": 1, "device_rating_a": 6, "r1_r2_ohm": "0.84",
        "insulation_lne_mohm": "240", "zs_ohm": "1.04", "rcd_trip_ms": "23",
    }  # fmt: skip
    return {
        "format": "dorrik-inspection",
        "version": 1,
        "inspection": {
            "id": "i1", "reference": "K-1", "client_name": "Harbour Trust", "property_address": "1 Lookout Row",
            "tenure": "let dwelling", "purpose": "periodic", "extent": "All of it", "inspected_on": "2026-11-03",
            "earthing": "TN-C-S", "phases": "1", "service_fuse_a": 80, "tails_mm2": 25, "ze_ohm": "0.19",
            "ze_parallel_removed": True, "pscc_ka": "1.24", "pefc_ka": "1.19", "supply_polarity": "correct",
            "declared_outcome": "satisfactory", "next_years": 5,
            "boards": [
                {"id": "b1", "name": "Board 1", "main_switch_a": 100, "conditional_ka": 16, "zdb_ohm": "0.19",
                 "isolated_at": "2026-11-03T09:40:00Z", "circuits": [ring, cooker, lights]},
            ],
            "rooms": [
                {"id": "r1", "name": "Parlour", "kind": "living room", "walked_at": "2026-11-03T09:20:00Z",
                 "checks": [{"id": "k1", "item": "cables-seen", "state": "good"}]},
            ],
            "checks": [{"id": f"s-{key}", "item": key, "state": "good"} for key in LOOKED_AT],
            "observations": [],
            "limitations": [],
        },
    }  # fmt: skip


def spoilt(entity: str = "inspection", **fields: Any) -> dict[str, Any]:
    """The cottage with some fields of one entity changed: 'inspection', 'board' or a circuit's id."""
    document = copy.deepcopy(cottage())
    target = document["inspection"]
    if entity == "board":
        target = target["boards"][0]
    elif entity != "inspection":
        target = next(c for c in target["boards"][0]["circuits"] if c["id"] == entity)
    target.update(fields)
    return document
