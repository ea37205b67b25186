"""What every topic needs: the inspection, the house rules and the rule book in use, and what is worked out once."""

import typing
from collections.abc import Callable, Iterable, Iterator, Mapping
from typing import Generic, TypeVar

from dorrik.core.basics.cells import Cells, Once
from dorrik.core.basics.readings import Reading
from dorrik.core.basics.verdict import Verdict
from dorrik.core.book.house_rules import HouseRules
from dorrik.core.book.rule_book import RuleBook, rule_book
from dorrik.core.electrical import conductors, devices, fault_current, overload, ring, supply
from dorrik.core.home import gangs
from dorrik.core.home.ages import fitted
from dorrik.core.home.aside import aside
from dorrik.core.home.board_tree import BoardTree, Earth
from dorrik.core.home.instruments import MeasuredAt, continuity_figures, doubtful, no_good_null
from dorrik.core.home.open_parts import open_parts
from dorrik.core.home.rcd_devices import RcdDevice, devices_of
from dorrik.core.inspection.circuit import AT_A_SOCKET
from dorrik.core.inspection.records import Board, Circuit, Inspection, Point, name_of
from dorrik.core.inspection.set_aside import SetAside
from dorrik.core.judging.topics.note import Action, Figure, Note

__all__ = ["NOMINAL_V", "Action", "Context", "Note", "is_measured", "name_of", "point_names"]

#: What a ring's points read with its ends cross-connected.
_CROSSED = ("line_neutral_ohm", "line_cpc_ohm")
#: Nominal voltage of a home's final circuits (V).
NOMINAL_V = 230.0


_T = TypeVar("_T")


class worked_out(Generic[_T]):
    """A property of a context that is worked out once for a judgement, or kept from the one before where it holds."""

    def __init__(self, function: Callable[["Context"], _T]) -> None:
        self._function = function
        self.__doc__ = function.__doc__

    def __set_name__(self, owner: type, name: str) -> None:
        self._name = name

    @typing.overload
    def __get__(self, context: None, owner: type) -> "worked_out[_T]": ...
    @typing.overload
    def __get__(self, context: "Context", owner: type) -> _T: ...

    def __get__(self, context: "Context | None", owner: type) -> "worked_out[_T] | _T":
        if context is None:
            return self
        if context.cells.lasting:
            kept: _T = context.cells.made(self._function, context)
            return kept
        value = self._function(context)
        # Found there by the next look, before this descriptor is.
        context.__dict__[self._name] = value
        return value


class Context:
    """An inspection and what is worked out of it once, for all topics.

    entered: as it was entered; inspection: the same as it is judged (`read_right`); cells: where what is worked out is
    kept, for this judgement or for those after it. Nothing that changes is held here but through them.
    """

    def __init__(self, entered: Inspection, inspection: Inspection, house: HouseRules, cells: Once | Cells) -> None:
        self.entered = entered
        self.inspection = inspection
        self.house = house
        self.book: RuleBook = rule_book(entered.rule_book)
        self.cells = cells

    def each_circuit(self, function: Callable[["Context", Board, Circuit], Iterable[_T]]) -> tuple[_T, ...]:
        """What a function gives for every circuit that is judged, in their order. What it takes from another circuit to
        the next has no place in it: each is worked out apart."""
        results: tuple[_T, ...] = self.cells.each(function, self, _circuits)
        return results

    def each_board(self, function: Callable[["Context", Board], Iterable[_T]]) -> tuple[_T, ...]:
        """The same for every board."""
        results: tuple[_T, ...] = self.cells.each(function, self, _boards)
        return results

    @property
    def measured_at(self) -> MeasuredAt:
        """When each reading was entered (ISO 8601, UTC), by entity id and field, as far as that is known."""
        moments: MeasuredAt = self.cells.given("measured at")
        return moments

    @property
    def by_trainees(self) -> Mapping[str, tuple[Figure, ...]]:
        """Figures that a trainee read and nobody countersigned, by the trainee's attendance."""
        figures: Mapping[str, tuple[Figure, ...]] = self.cells.given("by trainees")
        return figures

    @worked_out
    def doubtful(self) -> frozenset[Figure]:
        """Entity and field of the readings that were taken with leads in doubt."""
        log = self.entered.lead_nulls
        figures = doubtful(log, self.measured_at)
        return figures | continuity_figures(self.entered) if log and no_good_null(log) else figures

    @worked_out
    def tree(self) -> BoardTree:
        """The boards as they hang together."""
        return BoardTree(self.inspection.boards, self.inspection.earthing)

    @worked_out
    def pfc_ka(self) -> Reading | None:
        """The prospective fault current (kA)."""
        return fault_current.prospective_fault(self.inspection.pscc_ka, self.inspection.pefc_ka)

    @worked_out
    def circuits(self) -> tuple[tuple[Board, Circuit], ...]:
        """Every circuit that is judged, with its board."""
        return tuple(
            (board, circuit) for board in self.inspection.boards for circuit in board.circuits if not circuit.spare
        )

    @worked_out
    def circuit_of(self) -> Mapping[str, tuple[Board, Circuit]]:
        """Circuits with their boards, by the id of the circuit and of each of its points."""
        circuits_by_id = {circuit.id: (board, circuit) for board, circuit in self.circuits}
        return circuits_by_id | {
            point.id: (board, circuit) for board, circuit in self.circuits for point in circuit.points
        }

    def ring(self, circuit: Circuit) -> ring.RingAnalysis | None:
        """What the ends of a ring and its points show; None for what is no ring."""
        ring_analysis: ring.RingAnalysis | None = self.cells.made(_ring, self, circuit)
        return ring_analysis

    @worked_out
    def open_parts(self) -> Mapping[Figure, str]:
        """What stood open at readings that so are of a part of their circuit only."""
        return open_parts(self.entered)

    def fitted(self, circuit: Circuit) -> tuple[int | None, int | None]:
        """In which years a circuit was fitted, by what was stated of it (rule 13.6)."""
        return fitted(self.inspection, circuit)

    @worked_out
    def aside(self) -> Mapping[str, SetAside]:
        """Everything that is set aside by an agreement, by its id."""
        return aside(self.entered)

    @worked_out
    def lead_sets(self) -> tuple[tuple[str, float], ...]:
        """Names of the lead sets in use with what they read (Ω)."""
        known = {n.name or "the leads": n.known_ohm for n in self.inspection.lead_nulls if n.known_ohm is not None}
        if not known and self.inspection.leads_ohm:
            known = {"the leads": self.inspection.leads_ohm}
        return tuple(known.items())

    def continuity_method(self, circuit: Circuit) -> str:
        """How the points of a circuit were tested: as the circuit says, else as the firm usually does (rule 4.7)."""
        return circuit.continuity_method or self.house.ring_method

    def points(self) -> Iterator[tuple[Circuit | None, str, Point]]:
        """Every point with its circuit and its name; those whose circuit is not known come last."""
        yield from self.each_circuit(_named_points)
        for name, point in names_of(self.inspection.points).items():
            yield None, name, point

    @worked_out
    def sure_pfc_ka(self) -> Reading | None:
        """The fault current that can be relied on (kA): without a PEFC that looks like a slip beside Ze (rule 3.5)."""
        i = self.inspection
        slipped = i.earthing != "TT" and fault_current.agrees(i.ze_ohm, i.pefc_ka).status == "attention"
        pscc = i.pscc_ka if i.pscc_ka is None or not fault_current.is_slip(i.pscc_ka) else None
        return fault_current.prospective_fault(pscc, None if slipped else i.pefc_ka)

    @property
    def declared_ze_ohm(self) -> float | None:
        """The Ze that is usually declared for the supply's arrangement (Ω); None on TT or where it is not known."""
        earthing = self.inspection.earthing
        if earthing not in supply.DECLARED_MAXIMUM_OHM:
            return None
        name = f"ze_{earthing.lower().replace('-', '_')}_ohm"
        return self.book.limits.get(name) or supply.DECLARED_MAXIMUM_OHM[earthing]

    def earth(self, board: Board) -> Earth:
        """The earth of a board (rule 3.2)."""
        return self.tree.earth(board)

    @worked_out
    def rcds(self) -> tuple[RcdDevice, ...]:
        """Every residual current device, board by board."""
        return tuple(device for board in self.inspection.boards for device in self.cells.made(devices_of, board))

    @worked_out
    def _before(self) -> dict[str, tuple[RcdDevice, ...]]:
        by_board: dict[str, list[RcdDevice]] = {}
        own: dict[str, RcdDevice] = {}
        for device in self.rcds:
            if device.whole_board:
                by_board.setdefault(device.board.id, []).append(device)
            else:
                own.update((circuit.id, device) for circuit in device.circuits)
        devices_before = {}
        for board, circuit in self.circuits:
            chain = [own[circuit.id]] if circuit.id in own else []
            for above, feeding in self.tree.upwards(board):
                chain += by_board.get(above.id, [])
                if feeding is not None and feeding.id in own:
                    chain.append(own[feeding.id])
            devices_before[circuit.id] = tuple(chain)
        return devices_before

    def rcds_before(self, circuit: Circuit) -> tuple[RcdDevice, ...]:
        """The devices in front of a circuit, the nearest first, up to the origin."""
        if not self.cells.lasting:
            return _rcds_before(self, circuit)
        # In a cell of its own: what reads the devices of one circuit is not touched by those of another.
        rcd_devices: tuple[RcdDevice, ...] = self.cells.made(_rcds_before, self, circuit)
        return rcd_devices

    def rated_ma(self, circuit: Circuit) -> float | None:
        """The most sensitive RCD in front of a circuit (mA); None without any."""
        return min((d.rated_ma for d in self.rcds_before(circuit) if d.rated_ma), default=None)

    def served_rcd_ma(self, boards: Iterable[Board]) -> float | None:
        """The largest IΔn that the electrode of some boards has to serve (mA): of each circuit's devices the nearest,
        of those that were not found wanting (rules 3.2, 7.2)."""
        ids = {board.id for board in boards}
        ratings_ma = [rated for board_id, rated in self.each_circuit(_served_by) if board_id in ids]
        return max(ratings_ma, default=None) or self.greatest_rcd_ma(b for b in self.inspection.boards if b.id in ids)

    def greatest_rcd_ma(self, boards: Iterable[Board]) -> float | None:
        """The least sensitive RCD of some boards (mA), which their electrode has to serve."""
        ids = {board.id for board in boards}
        return max((d.rated_ma for d in self.rcds if d.board.id in ids and d.rated_ma), default=None)

    def zs_limit(self, board: Board, circuit: Circuit) -> tuple[float, str] | Verdict:
        """The circuit's Zs limit (Ω) and how it was found, or why there is none."""
        limit: tuple[float, str] | Verdict = self.cells.made(find_zs_limit, self, board, circuit)
        return limit

    def behind_rcd(self, board: Board, circuit: Circuit) -> bool:
        """Is an RCD relied on for fault protection? On TT it is, unless something else is said."""
        if self.rated_ma(circuit) is None:
            return False
        on_tt = self.earth(board).tt and circuit.fault_protection is None
        return circuit.fault_protection == "RCD" or on_tt


def _circuits(context: Context) -> tuple[tuple[Board, Circuit], ...]:
    return context.circuits


def _boards(context: Context) -> tuple[tuple[Board], ...]:
    return tuple((board,) for board in context.inspection.boards)


def _named_points(context: Context, board: Board, circuit: Circuit) -> Iterator[tuple[Circuit, str, Point]]:
    for name, point in point_names(circuit).items():
        yield circuit, name, point


def _served_by(context: Context, board: Board, circuit: Circuit) -> Iterator[tuple[str, float]]:
    """Its board, and the rating of the nearest device before a circuit (mA), of those that were not found wanting."""
    chain = [device for device in context.rcds_before(circuit) if device.rated_ma]
    sound = [device for device in chain if not _found_wanting(device)] or chain
    yield from ((board.id, device.rated_ma) for device in sound[:1] if device.rated_ma)


def _rcds_before(context: Context, circuit: Circuit) -> tuple[RcdDevice, ...]:
    return context._before.get(circuit.id, ())


def _ring(context: Context, circuit: Circuit) -> ring.RingAnalysis | None:
    if circuit.form != "ring" or circuit.spare:
        return None
    points: tuple[ring.RingPoint, ...] = ()
    method = context.continuity_method(circuit)
    if circuit.points and method != "long lead":
        points = tuple(
            ring.RingPoint(
                name,
                gangs.through_cable(outlet, "line_neutral_ohm"),
                gangs.through_cable(outlet, "line_cpc_ohm"),
                bool(outlet.retested),
                walked,
            )
            for name, outlet, walked in round_from_ends(circuit)
            if any(True for field in _CROSSED for _ in gangs.readings(outlet, field))
        )
    line = conductor_mm2(circuit)
    return ring.analyse(
        ring.RingTest(
            circuit.r1_ohm,
            circuit.rn_ohm,
            circuit.r2_ohm,
            line,
            circuit.cpc_csa_mm2,
            points,
            circuit.r1_r2_ohm,
            context.lead_sets,
            method == "ring left in place",
            method == "sockets compared",
        )
    )


def find_zs_limit(context: Context, board: Board, circuit: Circuit) -> tuple[float, str] | Verdict:
    """The Zs limit that a circuit has, or would have (Ω), and how it was found; or why there is none."""
    if not (circuit.device_standard and circuit.device_type and circuit.device_rating_a):
        return Verdict(
            status="unknown", reason="Standard, type and rating of the device are needed.", source=devices.SOURCE
        )
    named = (circuit.device_standard, circuit.device_type, circuit.device_rating_a)
    earth = context.earth(board)
    time_s = devices.disconnection_s(
        earth.arrangement, circuit.device_rating_a, circuit.serves, sockets=has_sockets(circuit)
    )
    try:
        limit = devices.zs_limit_ohm(*named, time_s)
        doubt = devices.unconfirmed(*named, time_s)
    except LookupError as error:
        return Verdict(status="unknown", reason=str(error), source=devices.SOURCE)
    device = f"{circuit.device_type} {circuit.device_rating_a:g} A, {time_s:g} s"
    return limit, f"{device}, {doubt}" if doubt else device


def _found_wanting(device: RcdDevice) -> bool:
    """Does a device not trip, by its test or its button?"""
    dead = device.trip_ms is not None and device.trip_ms.kind == "over-range"
    return dead or device.button == "incorrect"


def has_sockets(circuit: Circuit) -> bool:
    """Is there a socket among what a circuit feeds? A cooker outlet with a socket counts (rule 7.2)."""
    return bool(
        circuit.serves == "sockets"
        or circuit.outlet_with_socket
        or any(outlet.kind in ("socket", "cooker outlet with socket") for outlet in circuit.points)
    )


def conductor_mm2(circuit: Circuit) -> float | None:
    """The line conductor as its resistance goes (mm²): an imperial size by its own area."""
    return conductors.imperial_mm2(circuit.imperial)[0] if circuit.imperial else circuit.line_csa_mm2


def cable_of(circuit: Circuit) -> overload.Cable | None:
    """The cable as its capacity goes: an imperial size by its metric one. None where no size is known."""
    csa = conductors.imperial_mm2(circuit.imperial)[1] if circuit.imperial else circuit.line_csa_mm2
    if csa is None:
        return None
    method = None if circuit.cable_method == overload.NOT_KNOWN else circuit.cable_method
    return overload.Cable(
        csa_mm2=csa,
        method=method,
        type=circuit.cable_type or conductors.FLAT_TWIN,
        factor=circuit.rating_factor or 1.0,
    )


def is_measured(reading: Reading | None) -> bool:
    """Is there anything to judge? Empty, LIM, N/A and N/V are counted, not judged."""
    return reading is not None and reading.kind in ("number", "over-range")


def round_from_ends(circuit: Circuit) -> tuple[tuple[str, Point, float], ...]:
    """The points of a ring by name, each with its share of the way round from where its ends were opened (rule 4.7).

    Opened at a socket, the way round begins there: that socket is at its end, and the board is passed on the way.
    """
    named = list(point_names(circuit).items())
    start = next((at for at, (_, point) in enumerate(named) if point.id == opened_at(circuit)), None)
    if start is None:
        return tuple((name, point, at / (len(named) + 1)) for at, (name, point) in enumerate(named, 1))
    # The board lies between the last point of the walk and the first.
    passed = len(named) - start
    after = [(name, point, at / (len(named) + 1)) for at, (name, point) in enumerate(named[start + 1 :], 1)]
    before = [(name, point, (passed + at) / (len(named) + 1)) for at, (name, point) in enumerate(named[:start], 1)]
    return ((*named[start], 0.0), *after, *before)


def board_on_the_way(circuit: Circuit) -> float:
    """Where the board lies on the way round from where a ring's ends were opened, 0 to 1; 0 where that is the board."""
    named = list(point_names(circuit).values())
    start = next((at for at, point in enumerate(named) if point.id == opened_at(circuit)), None)
    return 0.0 if start is None else (len(named) - start) / (len(named) + 1)


def opened_at(circuit: Circuit) -> str | None:
    """The id of the socket at which a ring's ends were opened; None for the board."""
    return circuit.ends_at_point if circuit.ends_at == AT_A_SOCKET else None


def point_names(circuit: Circuit) -> dict[str, Point]:
    """The points of a circuit by a name that no other has, in the order of the walk."""
    return names_of(circuit.points)


def names_of(points: Iterable[Point]) -> dict[str, Point]:
    """Points by a name that none of the others has."""
    named: dict[str, Point] = {}
    for number, outlet in enumerate(points, 1):
        base = name = outlet.name or (f"{outlet.room} {outlet.kind or 'point'}" if outlet.room else f"point {number}")
        repeat = 2
        while name in named:
            name, repeat = f"{base} ({repeat})", repeat + 1
        named[name] = outlet
    return named
