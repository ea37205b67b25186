"""What every topic needs: the inspection, the house rules and the rule book in use, and the note a topic gives."""

from collections.abc import Mapping
from dataclasses import replace
from functools import cached_property
from typing import Any

from dorrik.core import devices, ring, supply
from dorrik.core.house_rules import HouseRules
from dorrik.core.inspection import Board, Circuit, Inspection, Overruling, Point, name_of
from dorrik.core.readings import Reading, subtract
from dorrik.core.record import record
from dorrik.core.rule_book import RuleBook, rule_book
from dorrik.core.verdict import Status, Verdict

__all__ = ["NOMINAL_V", "Context", "Note", "name_of", "point_names", "spoken"]

#: Nominal voltage of a home's final circuits (V).
NOMINAL_V = 230.0


@record
class Note:
    """A verdict and the field it speaks of.

    title: names the circuit and the figure; set_field: a one-tap offer, field and value; overruled: how the inspector
    sees it, where that differs.
    """

    entity: str
    entity_id: str
    field: str
    title: str
    verdict: Verdict
    set_field: tuple[str, Any] | None = None
    overruled: Overruling | None = None

    @property
    def status(self) -> Status:
        """The status that counts: the inspector's where the verdict was overruled."""
        if self.overruled is not None and self.overruled.status is not None:
            return _STATUS[self.overruled.status]
        return self.verdict.status


_STATUS: Mapping[str, Status] = {"pass": "pass", "attention": "attention", "fail": "fail"}


class Context:
    """An inspection and what is worked out of it once, for all topics."""

    def __init__(self, inspection: Inspection, doubtful: frozenset[tuple[str, str]] = frozenset()) -> None:
        #: Entity and field of the readings that were taken with leads in doubt.
        self.doubtful = doubtful
        self.house = HouseRules.using(inspection.house_rules)
        self.book: RuleBook = rule_book(inspection.rule_book)
        self.inspection = self._less_leads(inspection)
        i = self.inspection
        self.pfc_ka = supply.prospective_fault(i.pscc_ka, i.pefc_ka)
        self.circuits: tuple[tuple[Board, Circuit], ...] = tuple(
            (board, circuit) for board in i.boards for circuit in board.circuits if not circuit.spare
        )
        self.rings: dict[str, ring.RingAnalysis] = {
            c.id: self._analyse(c) for _, c in self.circuits if c.form == "ring"
        }

    def _less_leads(self, inspection: Inspection) -> Inspection:
        """Where leads are subtracted rather than nulled, continuity readings less the leads (rule 1.4)."""
        leads = inspection.leads_ohm
        if self.house.lead_method != "subtracted" or not leads:
            return inspection

        def less(entity: Any, *fields: str) -> dict[str, Any]:
            return {f: subtract(r, leads) for f in fields if (r := getattr(entity, f)) is not None}

        def of_circuit(circuit: Circuit) -> Circuit:
            ends = less(circuit, "r1_ohm", "rn_ohm", "r2_ohm", "r1_r2_ohm")
            outlets = [replace(p, **less(p, "line_neutral_ohm", "line_cpc_ohm", "r2_ohm")) for p in circuit.outlets]
            return replace(circuit, outlets=tuple(outlets), **ends)

        return replace(
            inspection,
            boards=tuple(replace(b, circuits=tuple(of_circuit(c) for c in b.circuits)) for b in inspection.boards),
            bonds=tuple(replace(b, **less(b, "at_clamp_ohm", "at_pipe_ohm")) for b in inspection.bonds),
        )

    def _analyse(self, circuit: Circuit) -> ring.RingAnalysis:
        points: tuple[ring.RingPoint, ...] = ()
        if circuit.outlets and self.house.ring_method == "ends cross-connected":
            points = tuple(
                ring.RingPoint(name, outlet.line_neutral_ohm, outlet.line_cpc_ohm)
                for name, outlet in point_names(circuit).items()
                if outlet.line_neutral_ohm is not None or outlet.line_cpc_ohm is not None
            )
        test = ring.RingTest(
            circuit.r1_ohm, circuit.rn_ohm, circuit.r2_ohm, circuit.line_csa_mm2, circuit.cpc_csa_mm2, points
        )
        return ring.analyse(test)

    @cached_property
    def greatest_rcd_ma(self) -> float | None:
        """The least sensitive RCD of the installation (mA), which an electrode has to serve."""
        return max((c.rcd_rated_ma for _, c in self.circuits if c.rcd_rated_ma), default=None)

    def zs_limit(self, circuit: Circuit) -> tuple[float, str] | Verdict:
        """The circuit's Zs limit (Ω) and how it was found, or why there is none."""
        if not (circuit.device_standard and circuit.device_type and circuit.device_rating_a):
            return Verdict(
                status="unknown", reason="Standard, type and rating of the device are needed.", source=devices.SOURCE
            )
        time_s = devices.disconnection_s(self.inspection.earthing, circuit.device_rating_a, circuit.serves)
        try:
            limit = devices.zs_limit_ohm(circuit.device_standard, circuit.device_type, circuit.device_rating_a, time_s)
        except LookupError as error:
            return Verdict(status="unknown", reason=str(error), source=devices.SOURCE)
        return limit, f"{circuit.device_type} {circuit.device_rating_a:g} A, {time_s:g} s"

    def behind_rcd(self, circuit: Circuit) -> bool:
        """Is an RCD relied on for fault protection? On TT it is, unless something else is said."""
        if circuit.rcd_rated_ma is None:
            return False
        on_tt = self.inspection.earthing == "TT" and circuit.fault_protection is None
        return circuit.fault_protection == "RCD" or on_tt


def spoken(reading: Reading | None) -> bool:
    """Is there anything to judge? Empty, LIM, N/A and N/V are counted, not judged."""
    return reading is not None and reading.sort in ("number", "over-range")


def point_names(circuit: Circuit) -> dict[str, Point]:
    """The points of a circuit by a name that no other has, in the order of the walk."""
    named: dict[str, Point] = {}
    for number, outlet in enumerate(circuit.outlets, 1):
        base = name = outlet.name or (f"{outlet.room} {outlet.sort or 'point'}" if outlet.room else f"point {number}")
        repeat = 2
        while name in named:
            name, repeat = f"{base} ({repeat})", repeat + 1
        named[name] = outlet
    return named
