"""Building blocks of whole homes for tests: boards, circuits and the judgement of them, in the form of a document."""

from typing import Any

from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import Judgement, judge

BREAKER = {"device_standard": "BS EN 60898", "device_type": "B"}
RCD = {"rcd_rated_ma": 30, "rcd_standard": "BS EN 61008", "rcd_trip_ms": "24", "rcd_button": "correct"}
ORIGIN: dict[str, Any] = {
    "id": "i", "earthing": "TN-C-S", "ze_ohm": "0.21", "ze_parallel_removed": True, "pscc_ka": "1.1", "pefc_ka": "1.08",
    "service_fuse_standard": "BS 1361", "service_fuse_a": 80, "tails_mm2": 25, "earthing_conductor_mm2": 16,
    "inspected_on": "2026-11-03",
}  # fmt: skip


def circuit(number: int, name: str, serves: str = "fixed", **fields: Any) -> dict[str, Any]:
    """A sound radial of 16 A on 2.5/1.5, with whatever differs."""
    usual = {
        "id": f"c{number}", "position": number, "way": str(number), "designation": name, "serves": serves,
        "form": "radial", "line_csa_mm2": 2.5, "cpc_csa_mm2": 1.5, "cable_method": "C", "device_rating_a": 16,
        **BREAKER,
    }  # fmt: skip
    return usual | fields


def ring(number: int, name: str = "Sockets", **fields: Any) -> dict[str, Any]:
    """A sound ring of 62 m on 32 A."""
    usual = {"r1_ohm": "0.46", "rn_ohm": "0.46", "r2_ohm": "0.76", "r1_r2_ohm": "0.31", "device_rating_a": 32}
    return circuit(number, name, "sockets", form="ring", **(usual | fields))


def points(*each: dict[str, Any], prefix: str = "p") -> list[dict[str, Any]]:
    """Points of a circuit in the order of the walk."""
    return [{"id": f"{prefix}{n}", "position": n, "name": f"point {n}"} | one for n, one in enumerate(each)]


def board(*circuits: dict[str, Any], **fields: Any) -> dict[str, Any]:
    """A board."""
    return {"id": "b", "name": "House", "circuits": list(circuits)} | fields


def judged(*boards: dict[str, Any], measured_at: dict[tuple[str, str], str] | None = None, **origin: Any) -> Judgement:
    """The judgement of a home with these boards."""
    inspection = ORIGIN | {"boards": list(boards)} | origin
    return judge(parse({"format": "dorrik-inspection", "version": 1, "inspection": inspection}), measured_at)


def offered(judgement: Judgement) -> dict[str, str]:
    """Codes of what would be raised and is not recorded, by entry."""
    return {one.key: one.code for one in judgement.suggested if one.recorded is None}


def figures(judgement: Judgement, entity_id: str, field: str) -> list[str]:
    """Statuses of everything said of one figure that is no consequence of another."""
    return [n.status for n in judgement.notes if n.figure == (entity_id, field) and n.because_of is None]


def folded(judgement: Judgement, entity_id: str, field: str) -> list[str]:
    """Titles of what follows from a figure."""
    found = [n.title for n in judgement.notes if n.because_of == (entity_id, field)]
    return found + [one.title for one in judgement.board_sums if one.because_of == (entity_id, field)]
