"""A made-up inspection of any length, to measure on."""

from typing import Any


def document(circuits: int) -> dict[str, Any]:
    """An inspection document with one board of so many measured circuits; every third is a ring."""
    circuits_made = []
    for i in range(circuits):
        ring = i % 3 == 0
        circuit = {
            "id": f"c{i}", "position": i, "way": str(i + 1), "designation": f"Circuit {i + 1}", "serves": "sockets",
            "form": "ring" if ring else "radial", "line_csa_mm2": 2.5, "cpc_csa_mm2": 1.5,
            "device_standard": "BS EN 60898", "device_type": "B", "device_rating_a": 32 if ring else 20,
            "rcd_rated_ma": 30,
            "r1_r2_ohm": f"0.{28 + i % 9}", "insulation_ln_mohm": ">500", "insulation_lne_mohm": str(100 + i),
            "polarity": "correct", "zs_ohm": f"0.{50 + i % 30}", "rcd_trip_ms": str(20 + i % 20),
            "rcd_button": "correct",
        }  # fmt: skip
        if ring:
            circuit |= {"r1_ohm": f"0.{40 + i % 7}", "rn_ohm": f"0.{41 + i % 6}", "r2_ohm": f"0.7{i % 9}"}
        circuits_made.append(circuit)
    board = {"id": "b", "name": "Board 1", "main_switch_a": 100, "zdb_ohm": "0.22", "circuits": circuits_made}
    return {
        "format": "dorrik-inspection",
        "version": 1,
        "inspection": {
            "id": "i", "earthing": "TN-C-S", "ze_ohm": "0.21", "ze_parallel_removed": True, "pscc_ka": "1.10",
            "pefc_ka": "1.09", "boards": [board], "observations": [], "limitations": [],
        },
    }  # fmt: skip


def walked(points: int) -> dict[str, Any]:
    """An inspection document of twelve circuits with so many points in six rooms, each measured and looked at."""
    whole = document(12)
    home = whole["inspection"]
    home["rooms"] = [{"id": f"r{n}", "name": f"Room {n}", "kind": "bedroom", "position": n} for n in range(6)]
    circuits = home["boards"][0]["circuits"]
    for n in range(points):
        circuit = circuits[n % len(circuits)]
        share = (n // len(circuits) + 1) / (points / len(circuits) + 1)
        circuit.setdefault("points", []).append(
            {
                "id": f"p{n}", "position": n, "kind": "socket", "room_id": f"r{n % 6}", "looked": "fine",
                "line_neutral_ohm": f"{0.2 + share / 10:.2f}", "line_cpc_ohm": f"{0.3 + share / 10:.2f}",
                "polarity": "correct", "line_neutral_v": "231", "line_earth_v": "231", "neutral_earth_v": "0.4",
            }
        )  # fmt: skip
    return whole
