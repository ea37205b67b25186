"""Whether N/A stands: it needs a fact that makes it so, else what it stands for counts as not done (rules 1.1,
12.4)."""

from collections.abc import Callable, Mapping
from typing import Any

from dorrik.core.basics.readings import Reading
from dorrik.core.inspection.circuit import CLASS_I_APPLIANCES, Circuit
from dorrik.core.inspection.point import MAY_BE_CLASS_II, Point
from dorrik.core.inspection.records import Board, Bond, Inspection, Rcd

NA = "N/A"


def is_na(value: Any) -> bool:
    """Is a value N/A, as a reading or as a check?"""
    return value.kind == "not-applicable" if isinstance(value, Reading) else value == NA


def stands(entity: Any, field: str, board: Board | None, inspection: Inspection) -> bool:
    """Is there a fact that makes a test not applicable? False also for what is no test.

    entity, field: where N/A was written; board: of the entity, where it has one.
    """
    reason = _FACTS.get((entity.__class__.__name__, field))
    return reason is not None and reason(entity, board, inspection)


def _no_ring(circuit: Circuit, board: Board | None, inspection: Inspection) -> bool:
    return circuit.form is not None and circuit.form != "ring"


def _no_cpc_of_ring(circuit: Circuit, board: Board | None, inspection: Inspection) -> bool:
    return bool(circuit.no_cpc) or _no_ring(circuit, board, inspection)


def _no_earth_wanted(circuit: Circuit, board: Board | None, inspection: Inspection) -> bool:
    """No cpc in the circuit, or nothing on it but class II."""
    if circuit.no_cpc:
        return True
    fits = circuit.serves != "sockets" and circuit.appliance not in CLASS_I_APPLIANCES
    return fits and bool(circuit.points) and all(p.class_ii and p.kind in MAY_BE_CLASS_II for p in circuit.points)


def _other_way(name: str) -> Callable[[Circuit, Board | None, Inspection], bool]:
    """The other accepted way to the same was taken."""

    def taken(circuit: Circuit, board: Board | None, inspection: Inspection) -> bool:
        other = getattr(circuit, name)
        return _no_earth_wanted(circuit, board, inspection) or (
            isinstance(other, Reading) and other.interval is not None
        )

    return taken


def _measured(entity: Any, *names: str) -> bool:
    return any(isinstance(r := getattr(entity, name), Reading) and r.interval is not None for name in names)


def _to_earth_otherwise(circuit: Circuit, board: Board | None, inspection: Inspection) -> bool:
    """The board was measured as one, or the pairings were measured apart."""
    whole = board is not None and _measured(board, "insulation_lne_mohm")
    apart = _measured(circuit, "insulation_le_mohm") and _measured(circuit, "insulation_ne_mohm")
    return whole or apart


def _joined_instead(circuit: Circuit, board: Board | None, inspection: Inspection) -> bool:
    """Line and neutral were joined and tested to earth, or the board as one (rule 6.3)."""
    return _measured(circuit, "insulation_lne_mohm") or (board is not None and _measured(board, "insulation_lne_mohm"))


def _no_rcd(circuit: Circuit, board: Board | None, inspection: Inspection) -> bool:
    return circuit.rcd_rated_ma is None


def _above_30(rcd: Rcd, board: Board | None, inspection: Inspection) -> bool:
    return rcd.rated_ma is not None and rcd.rated_ma > 30


def _at_the_origin(board: Board, _: Board | None, inspection: Inspection) -> bool:
    """A board at the origin whose loop is Ze itself, which was measured."""
    return board.fed_by is None and _measured(inspection, "ze_ohm") and len(inspection.boards) == 1


def _no_bond(bond: Bond, board: Board | None, inspection: Inspection) -> bool:
    return bond.state == "plastic service"


def _other_current(name: str) -> Callable[[Inspection, Board | None, Inspection], bool]:
    """The higher of the two fault currents is recorded: the other was measured (rule 3.4)."""
    return lambda entity, board, inspection: _measured(inspection, name)


def _class_ii(point: Point, board: Board | None, inspection: Inspection) -> bool:
    return bool(point.class_ii) and point.kind in MAY_BE_CLASS_II


_FACTS: Mapping[tuple[str, str], Callable[[Any, Board | None, Inspection], bool]] = {
    ("Circuit", "r1_ohm"): _no_ring,
    ("Circuit", "rn_ohm"): _no_ring,
    ("Circuit", "r2_ohm"): _no_cpc_of_ring,
    ("Circuit", "r1_r2_ohm"): _other_way("long_lead_r2_ohm"),
    ("Circuit", "long_lead_r2_ohm"): _other_way("r1_r2_ohm"),
    ("Circuit", "insulation_ln_mohm"): _joined_instead,
    ("Circuit", "insulation_lne_mohm"): _to_earth_otherwise,
    ("Circuit", "insulation_le_mohm"): _joined_instead,
    ("Circuit", "insulation_ne_mohm"): _joined_instead,
    ("Circuit", "zs_ohm"): _no_earth_wanted,
    ("Circuit", "rcd_trip_ms"): _no_rcd,
    ("Circuit", "rcd_button"): _no_rcd,
    ("Circuit", "rcd_half"): _no_rcd,
    ("Circuit", "rcd_five_ms"): lambda c, board, i: c.rcd_rated_ma is None or c.rcd_rated_ma > 30,
    ("Rcd", "five_ms"): _above_30,
    ("Board", "zdb_ohm"): _at_the_origin,
    ("Bond", "at_pipe_ohm"): _no_bond,
    ("Bond", "at_clamp_ohm"): _no_bond,
    ("Inspection", "pscc_ka"): _other_current("pefc_ka"),
    ("Inspection", "pefc_ka"): _other_current("pscc_ka"),
    ("Point", "line_cpc_ohm"): _class_ii,
    ("Point", "r2_ohm"): _class_ii,
}
