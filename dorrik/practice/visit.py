"""An inspector's visit to a simulated home: every test in its order, written down as an inspection document.

What is written is what the instrument showed. Where a ring does not close, its ends are tried against those of the
other rings, and circuits that are out together are tried against each other, as an inspector would.
"""

from collections.abc import Iterator
from typing import Any

from dorrik.core.inspection.circuit import TRIPS
from dorrik.core.inspection.document import FORMAT, VERSION
from dorrik.practice.home import Circuit, Home
from dorrik.practice.meter import MeterRefusal, SimulatedMeter, Tripped
from dorrik.practice.ring_circuit import CONDUCTORS, Conductor
from dorrik.practice.site import EARTH_BAR, Site

DAY = "2026-11-03"
TRIPPED = "LIM the RCD trips on the loop test"
#: Lines of two circuits that should have nothing to do with each other, joined (Ω).
JOINED_OHM = 5.0


def visit(home: Home, meter: SimulatedMeter, *, prefix: str = "", long_lead: bool = False) -> dict[str, Any]:
    """Inspect a home and give the inspection as a document. Circuits have the ids c0, c1 …, their points c0-p0 …

    prefix: stands before every id, where several boards are put together; long_lead: the other school of testing, R2 by
    a long lead to every point instead of R1+R2 and cross-connected rings.
    """
    return _Visit(home, meter, prefix, long_lead).document()


class _Visit:
    def __init__(self, home: Home, meter: SimulatedMeter, prefix: str, long_lead: bool) -> None:
        self.home, self.meter, self.site = home, meter, Site(home)
        self.prefix, self.long_lead = prefix, long_lead
        self.origin: dict[str, Any] = {}
        self.board: dict[str, Any] = {
            "id": f"{prefix}b",
            "name": "Board 1",
            "main_switch_a": 100.0,
            "conditional_ka": 16.0,
        }
        self.circuits = {c.name: _described(c, home, f"{prefix}c{i}", i) for i, c in enumerate(home.circuits)}

    def document(self) -> dict[str, Any]:
        self._intake()
        bonds = list(self._dead())
        self._live()
        self.board["circuits"] = list(self.circuits.values())
        inspection = {
            "id": f"{self.prefix}i", "inspected_on": DAY, "bonds": bonds, "boards": [self.board], "observations": [],
            "limitations": [], "overrulings": [], **self.origin,
        }  # fmt: skip
        return {"format": FORMAT, "version": VERSION, "inspection": inspection}

    def _intake(self) -> None:
        site, meter, home = self.site, self.meter, self.home
        self.origin = {
            "earthing": home.supply.earthing, "phases": "1", "tails_mm2": home.tails_mm2,
            "earthing_conductor_mm2": home.earthing_mm2, "service_fuse_a": home.service_fuse_a,
            "pscc_ka": meter.fault_current_ka(site, "neutral"), "pefc_ka": meter.fault_current_ka(site, "cpc"),
        }  # fmt: skip
        site.isolate()
        site.part_earth()
        self.origin |= {"ze_ohm": meter.ze(site), "ze_parallel_removed": True, "supply_polarity": "correct"}
        site.rejoin_earth()

    def _dead(self) -> Iterator[dict[str, Any]]:
        site, meter = self.site, self.meter
        meter.null()
        for n, bond in enumerate(self.home.bonds):
            # One end off: with the earthing conductor parted nothing else is parallel to this bond.
            yield {
                "id": f"{self.prefix}bond{n}", "service": bond.service, "state": "present", "csa_mm2": bond.csa_mm2,
                "length_m": round(bond.length_m, 1),
                "at_clamp_ohm": meter.low_ohms(site, EARTH_BAR, site.clamp(bond.service)),
                "at_pipe_ohm": meter.low_ohms(site, EARTH_BAR, site.pipe(bond.service)),
            }  # fmt: skip
        site.unplug_all()
        if self.home.surge is not None:
            site.remove_surge_device()
            self.board |= {
                "spd_state": self.home.surge.indicator,
                "spd_uc_v": self.home.surge.uc_v,
                "spd_u_dc_v": meter.varistor(site),
            }
        names = [circuit.name for circuit in self.home.circuits]
        if self.long_lead:
            for circuit in self.home.circuits:
                self._by_long_lead(circuit)
        site.disconnect(*names)
        for circuit in self.home.circuits:
            if circuit.is_ring:
                self._ring(circuit)
            else:
                self._radial(circuit)
            self._insulation(circuit)
        self._between(names)

    def _ring(self, circuit: Circuit) -> None:
        site, meter, entered = self.site, self.meter, self.circuits[circuit.name]
        ends = {
            conductor: meter.low_ohms(site, site.end(circuit.name, conductor), site.end(circuit.name, conductor, "b"))
            for conductor in CONDUCTORS
        }
        entered |= {"r1_ohm": ends["line"], "rn_ohm": ends["neutral"], "r2_ohm": ends["cpc"]}
        if "OL" in ends.values() or self.long_lead:
            return
        neutral, cpc = (self._crossed(circuit, other) for other in _OTHERS)
        suspects = [n for n in neutral if _high(neutral[n], neutral.values()) or _high(cpc[n], cpc.values())]
        for n in suspects:
            site.work(circuit.name, n)
        if suspects:
            neutral |= self._crossed(circuit, "neutral", suspects)
            cpc |= self._crossed(circuit, "cpc", suspects)
        for n, outlet in enumerate(entered["points"]):
            outlet |= {"line_neutral_ohm": neutral[n], "line_cpc_ohm": cpc[n], "retested": n in suspects}
        self._record(entered)

    def _crossed(self, circuit: Circuit, other: Conductor, points: list[int] | None = None) -> dict[int, str]:
        """Readings at points with line and another conductor cross-connected at the board."""
        site, name = self.site, circuit.name
        site.join(
            (site.end(name, "line", "a"), site.end(name, other, "b")),
            (site.end(name, "line", "b"), site.end(name, other, "a")),
        )
        readings = {
            n: self.meter.low_ohms(site, site.contact(name, "line", n), site.contact(name, other, n))
            for n in (points or range(len(circuit.wiring.walk)))
        }
        site.release()
        return readings

    def _radial(self, circuit: Circuit) -> None:
        """R1+R2 at every point, line and cpc joined at the board."""
        site, name, entered = self.site, circuit.name, self.circuits[circuit.name]
        if self.long_lead:
            return
        for other in _OTHERS:
            site.join((site.end(name, "line"), site.end(name, other)))
            for n, outlet in enumerate(entered["points"]):
                ends = site.contact(name, "line", n), site.contact(name, other, n)
                outlet[f"line_{other}_ohm"] = self.meter.low_ohms(site, *ends)
            site.release()
        self._record(entered)

    def _by_long_lead(self, circuit: Circuit) -> None:
        """R2 from the earth bar to every point, everything still connected."""
        site, entered = self.site, self.circuits[circuit.name]
        for n, outlet in enumerate(entered["points"]):
            outlet["r2_ohm"] = self.meter.low_ohms(site, EARTH_BAR, site.contact(circuit.name, "cpc", n))
        plain = [outlet["r2_ohm"] for outlet in entered["points"] if outlet["r2_ohm"] != "OL"]
        entered["long_lead_r2_ohm"] = max(plain, key=float) if plain else "OL"

    @staticmethod
    def _record(entered: dict[str, Any]) -> None:
        """The highest of the points is recorded (rule 4.7)."""
        readings = [outlet["line_cpc_ohm"] for outlet in entered["points"]]
        plain = [reading for reading in readings if reading != "OL"]
        entered["r1_r2_ohm"] = max(plain, key=float) if plain else "OL"

    def _insulation(self, circuit: Circuit) -> None:
        site, meter, name = self.site, self.meter, circuit.name
        entered = self.circuits[name]
        pairs = [(site.end(name, c), site.end(name, c, "b")) for c in CONDUCTORS] if circuit.is_ring else []
        if pairs:
            site.join(*pairs)
        line, neutral, cpc = (site.end(name, conductor) for conductor in CONDUCTORS)
        entered["insulation_ln_mohm"] = meter.insulation(site, line, neutral)
        site.join((line, neutral))
        entered["insulation_lne_mohm"] = meter.insulation(site, line, cpc)
        entered["insulation_test_v"] = "500"
        site.release()
        if circuit.is_ring and _low(entered["insulation_lne_mohm"]):
            self._legs(circuit)

    def _legs(self, circuit: Circuit) -> None:
        """A ring opened in its middle, each leg by itself (rule 6.5)."""
        site, name = self.site, circuit.name
        halves = site.opened(name, len(circuit.wiring.segments_m) // 2)
        for end, field in (("a", "insulation_leg_one_mohm"), ("b", "insulation_leg_two_mohm")):
            line, neutral, cpc = (halves.end(name, c, end) for c in CONDUCTORS)
            halves.join((line, neutral))
            self.circuits[name][field] = self.meter.insulation(halves, line, cpc)
            halves.release()

    def _between(self, names: list[str]) -> None:
        """Circuits that are out, one against another: nothing should join them."""
        site = self.site
        for i, one in enumerate(names):
            for other in names[i + 1 :]:
                joined = [c for c in CONDUCTORS if self._meet(site.end(one, c), site.end(other, c))]
                swapped = self._open(one) and self._open(other)
                if swapped and any(self._meet(site.end(one, c), site.end(other, c, "b")) for c in CONDUCTORS):
                    self._found_joined(one, other, "exchanged ends")
                elif "line" in joined:
                    self._found_joined(one, other, "all conductors" if "neutral" in joined else "line")
                elif "neutral" in joined:
                    self._found_joined(one, other, "neutral")

    def _open(self, name: str) -> bool:
        return "OL" in (self.circuits[name].get(field) for field in ("r1_ohm", "rn_ohm", "r2_ohm"))

    def _meet(self, a: Any, b: Any) -> bool:
        shown = self.meter.low_ohms(self.site, a, b)
        return shown != "OL" and float(shown) < JOINED_OHM

    def _found_joined(self, one: str, other: str, by: str) -> None:
        self.circuits[one] |= {"joined_with": other, "joined_by": by}
        self.circuits[other] |= {"joined_with": one, "joined_by": by}

    def _live(self) -> None:
        site, meter = self.site, self.meter
        site.restore()
        site.unplug_all()
        for circuit in self.home.circuits:
            entered = self.circuits[circuit.name]
            for n, outlet in enumerate(entered["points"]):
                outlet |= self._voltages(circuit.name, n)
            entered["polarity"] = (
                "correct" if all(o["polarity"] == "correct" for o in entered["points"]) else "incorrect"
            )
            if "zdb_ohm" not in self.board:
                self.board["zdb_ohm"] = meter.zdb(site, circuit.name)
            entered["zs_ohm"] = self._zs(circuit, entered)
            if entered["zs_ohm"] == TRIPPED:
                entered["zs_not_possible"] = TRIPS
        for name, device in self.home.rcds.items():
            behind = [c for c in self.home.circuits if c.rcd == name]
            if behind:
                self._rcd(name, behind, device.button)

    def _voltages(self, name: str, n: int) -> dict[str, Any]:
        line, neutral, cpc = (self.site.contact(name, c, n) for c in CONDUCTORS)
        volts = [float(self.meter.voltage(self.site, *pair)) for pair in ((line, neutral), (line, cpc), (neutral, cpc))]
        exchanged = volts[1] < 30 and volts[2] > 190
        return {
            "line_neutral_v": volts[0], "line_earth_v": volts[1], "neutral_earth_v": volts[2],
            "polarity": "incorrect" if exchanged else "correct",
        }  # fmt: skip

    def _zs(self, circuit: Circuit, entered: dict[str, Any]) -> str:
        """The highest Zs of the points that can be tested."""
        readings = []
        for n in range(len(entered["points"])):
            try:
                readings.append(self.meter.zs(self.site, circuit.name, n))
            except Tripped as trip:
                self.site.reset(trip.rcd)
                return TRIPPED
            except MeterRefusal:
                continue
        plain = [reading for reading in readings if reading != "OL"]
        return max(plain, key=float) if plain else "OL" if readings else "LIM no mains between line and earth"

    def _rcd(self, name: str, behind: list[Circuit], button: bool) -> None:
        site, meter = self.site, self.meter
        results: dict[str, Any] = {}
        for circuit in behind:
            try:
                results["rcd_half"] = "correct" if meter.rcd_time(site, circuit.name, 0, 0.5) == "OL" else "incorrect"
                site.reset(name)
                results["rcd_trip_ms"] = meter.rcd_time(site, circuit.name, 0)
                site.reset(name)
                results["rcd_five_ms"] = meter.rcd_time(site, circuit.name, 0, 5)
                site.reset(name)
            except MeterRefusal:
                continue
            break
        results["rcd_button"] = "correct" if button else "incorrect"
        for circuit in behind:
            self.circuits[circuit.name] |= results
        # The leakage of the whole group is written at its first circuit.
        self.circuits[behind[0].name]["leakage_ma"] = meter.leakage(site, name)


_OTHERS: tuple[Conductor, Conductor] = ("neutral", "cpc")


def _described(circuit: Circuit, home: Home, circuit_id: str, number: int) -> dict[str, Any]:
    """What is seen of a circuit before any test."""
    wiring, (standard, type_, rating) = circuit.wiring, circuit.device
    fields: dict[str, Any] = {
        "id": circuit_id, "position": number, "way": str(number + 1), "designation": circuit.name,
        "form": "ring" if circuit.is_ring else "radial", "serves": circuit.serves,
        "line_csa_mm2": wiring.line_csa_mm2, "cpc_csa_mm2": wiring.cpc_csa_mm2, "cable_method": circuit.method,
        "device_standard": standard, "device_type": type_, "device_rating_a": rating,
        "points": [
            {"id": f"{circuit_id}-p{n}", "position": n, "name": circuit.points[n] if circuit.points else f"point {n}"}
            for n in range(len(wiring.walk))
        ],
    }  # fmt: skip
    if circuit.rcd is not None:
        device = home.rcds[circuit.rcd]
        fields |= {"rcd_standard": device.standard, "rcd_delay": "none", "rcd_rated_ma": device.rated_ma}
    return fields


def _high(reading: str, others: Any) -> bool:
    """Well above the middle of its fellows: worth re-plugging and a second look."""
    plain = sorted(float(r) for r in others if r != "OL")
    return reading != "OL" and bool(plain) and float(reading) > plain[len(plain) // 2] + 0.05


def _low(reading: str) -> bool:
    return not reading.startswith(">") and float(reading) < 1.0
