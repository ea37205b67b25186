"""The simulated instrument: what it shows, with its own error, resolution and range; and what it refuses."""

import random
from dataclasses import dataclass
from math import inf
from typing import Protocol

from dorrik.core.electrical.devices import U0_V
from dorrik.practice.network import Node
from dorrik.practice.site import Site


class MeterRefusal(Exception):
    """The measurement would be dangerous or meaningless; the message says why."""


class Tripped(Exception):
    """An RCD tripped during a test that should have left it closed; `rcd` names it."""

    def __init__(self, rcd: str) -> None:
        super().__init__(f"{rcd} tripped on the test.")
        self.rcd = rcd


class Measurable(Protocol):
    """Something with terminals: a site, or a bare network."""

    def resistance(self, a: Node, b: Node) -> float:
        """Resistance between two terminals (Ω)."""

    def danger(self, *terminals: Node) -> str | None:
        """Why a dead test between the terminals would be dangerous, or None."""


@dataclass(frozen=True, slots=True)
class Accuracy:
    """Greatest gain error of each function (share, the same for every reading of one instrument) and greatest error of
    a single reading (last digits). Well inside what instruments are specified to, as sound ones are."""

    gain: float = 0.01
    digits: float = 0.5
    insulation_gain: float = 0.015
    loop_gain: float = 0.02
    loop_digits: float = 1.5


#: Currents of the two loop tests (A): the one that is meant to leave RCDs closed, and the quick one.
NO_TRIP_MA = 15.0
#: What an RCD's own coil adds to a loop test with little current (Ω), at most.
UPLIFT_OHM = 0.03
MAINS_LIVE_V = 190.0


class SimulatedMeter:
    """An instrument drawn from a seed: the same seed gives the same readings.

    leads_ohm: its leads; insulation_top_mohm: the top of its insulation range, above which it shows `>299` or the like.
    """

    RESOLUTION_OHM = 0.01
    RANGE_OHM = 99.9
    TRIP_RANGE_MS = 2000.0
    VARISTOR_TOP_V = 1000.0

    def __init__(
        self,
        seed: int,
        accuracy: Accuracy | None = None,
        leads_ohm: float = 0.08,
        insulation_top_mohm: float = 299.0,
    ) -> None:
        accuracy = accuracy or Accuracy()
        self._chance = random.Random(seed)
        self._gain = self._chance.uniform(-accuracy.gain, accuracy.gain)
        self._insulation_gain = self._chance.uniform(-accuracy.insulation_gain, accuracy.insulation_gain)
        self._loop_gain = self._chance.uniform(-accuracy.loop_gain, accuracy.loop_gain)
        self._digits = accuracy.digits
        self._loop_digits = accuracy.loop_digits
        self.leads_ohm = leads_ohm
        self.null_ohm = 0.0
        self.insulation_top_mohm = insulation_top_mohm

    def null(self, contact_ohm: float = 0.0) -> str:
        """Null the leads, tips pressed together; contact_ohm: a bad contact between them. Returns what it shows."""
        self.null_ohm = self.leads_ohm + contact_ohm
        return self._show_ohm(self.null_ohm)

    def low_ohms(self, place: Measurable, a: Node, b: Node) -> str:
        """Low resistance between two terminals. Raises MeterRefusal on a live circuit."""
        self._must_be_dead(place, a, b)
        true = place.resistance(a, b)
        if true == inf:
            return "OL"
        return self._show_ohm(max(0.0, true + self.leads_ohm - self.null_ohm))

    def insulation(self, site: Site, a: Node, b: Node, volts: int = 500) -> str:
        """Insulation between two terminals (MΩ). Raises MeterRefusal where it is live or the voltage would do harm."""
        self._must_be_dead(site, a, b)
        if volts not in (250, 500):
            raise MeterRefusal(f"{volts} V is not for a home's circuits: 250 V or 500 V.")
        if volts > 250:
            if site.surge_in and any(site.is_connected(n) for n in (a, b)):
                raise MeterRefusal("The surge device is still in: it would limit the voltage. Remove it, or use 250 V.")
            for name in site.circuits_at(a, b):
                if any(electronic for _, _, electronic in site.plugged_in(name)):
                    raise MeterRefusal(f"Electronic equipment is plugged in on {name}: unplug it, or use 250 V.")
        true = site.insulation_mohm(a, b)
        shown = true * (1 + self._insulation_gain)
        if shown > self.insulation_top_mohm:
            return f">{self.insulation_top_mohm:.0f}"
        step = 0.01 if shown < 10 else 0.1 if shown < 100 else 1.0
        return self._rounded(shown, step)

    def voltage(self, site: Site, a: Node, b: Node) -> str:
        """Voltage between two terminals (V), 0 where neither is connected to anything live."""
        true = site.voltage(a, b) if site.main_on else 0.0
        return f"{max(0.0, (true or 0.0) + self._chance.uniform(-0.5, 0.5)):.0f}"

    def ze(self, site: Site) -> str:
        """Ze at the origin, on the supply's side of the main switch."""
        return self._loop(site.loop_at_origin_ohm("cpc"))

    def fault_current_ka(self, site: Site, to: str) -> str:
        """PSCC (to 'neutral') or PEFC (to 'cpc') at the origin (kA)."""
        ohm = site.loop_at_origin_ohm("neutral" if to == "neutral" else "cpc")
        return self._rounded(U0_V / (ohm * (1 + self._loop_gain)) / 1000, 0.01)

    def zs(self, site: Site, circuit: str, point: int, *, high_current: bool = False) -> str:
        """Earth fault loop impedance at a point (Ω).

        high_current: the quick test, which no RCD stands. Raises Tripped where an RCD opened, MeterRefusal where the
        point is dead or line is not at its line terminal.
        """
        line, cpc = site.contact(circuit, "line", point), site.contact(circuit, "cpc", point)
        self._must_be_fed(site, circuit, line, cpc)
        rcd = site.rcd_of(circuit)
        if rcd is not None:
            device = site.home.rcds[rcd]
            current = device.rated_ma * 1000 if high_current else NO_TRIP_MA + site.leakage_ma(rcd)
            if not device.stuck and current > device.trips_at * device.rated_ma:
                site.trip(rcd)
                raise Tripped(rcd)
        uplift = 0.0 if rcd is None or high_current else self._chance.uniform(0, UPLIFT_OHM)
        return self._loop(site.loop_ohm(line, cpc) + uplift)

    def zdb(self, site: Site, circuit: str) -> str:
        """Loop impedance at the board (Ω), between a circuit's way and the earth bar."""
        if not site.is_live(circuit):
            raise MeterRefusal(f"{circuit} is dead: a loop test needs the supply.")
        return self._loop(site.loop_ohm(("way", circuit), ("earth bar",)))

    def rcd_time(self, site: Site, circuit: str, point: int, multiple: float = 1) -> str:
        """Trip time of the RCD in front of a point (ms), OL where it did not trip; ½ holds when it shows OL.

        Raises MeterRefusal without an RCD or on a dead point. What tripped stays open until it is reset.
        """
        if multiple not in (0.5, 1, 5):
            raise MeterRefusal("RCDs are tested at ½, 1 and 5 times their rating.")
        line, cpc = site.contact(circuit, "line", point), site.contact(circuit, "cpc", point)
        rcd = site.rcd_of(circuit)
        if rcd is None:
            raise MeterRefusal(f"There is no RCD in front of {circuit}: there is nothing to time.")
        self._must_be_fed(site, circuit, line, cpc)
        device = site.home.rcds[rcd]
        current = multiple * device.rated_ma + site.leakage_ma(rcd)
        if device.stuck or current < device.trips_at * device.rated_ma:
            return "OL"
        site.trip(rcd)
        true = device.five_ms if multiple == 5 else device.trip_ms
        shown = true * self._chance.uniform(0.97, 1.03)
        return "OL" if shown > self.TRIP_RANGE_MS else f"{shown:.0f}"

    def leakage(self, site: Site, rcd: str) -> str:
        """Standing leakage behind an RCD (mA), the clamp round line and neutral."""
        return self._rounded(site.leakage_ma(rcd) * self._chance.uniform(0.98, 1.02), 0.1)

    def varistor(self, site: Site) -> str:
        """Direct voltage at which the surge device lets 1 mA through (V). Raises MeterRefusal while it is in."""
        if site.home.surge is None:
            raise MeterRefusal("There is no surge device to test.")
        if site.surge_in:
            raise MeterRefusal("Take the module out first: in the board everything else would be tested with it.")
        shown = site.home.surge.u_dc_v * (1 + self._insulation_gain)
        return f">{self.VARISTOR_TOP_V:.0f}" if shown > self.VARISTOR_TOP_V else f"{shown:.0f}"

    def _must_be_dead(self, place: Measurable, a: Node, b: Node) -> None:
        danger = place.danger(a, b)
        if danger:
            raise MeterRefusal(danger)

    def _must_be_fed(self, site: Site, circuit: str, line: Node, cpc: Node) -> None:
        if not site.is_live(circuit):
            raise MeterRefusal(f"{circuit} is dead: this test needs the supply.")
        if (site.voltage(line, cpc) or 0.0) < MAINS_LIVE_V:
            raise MeterRefusal("No mains between line and earth here: find out why before any test that draws current.")

    def _loop(self, ohm: float) -> str:
        if ohm == inf:
            return "OL"
        step = 0.01 if ohm < 20 else 0.1 if ohm < 200 else 1.0
        shown = ohm * (1 + self._loop_gain) + self._chance.uniform(-1, 1) * self._loop_digits * step
        return "OL" if shown > 2000 else self._rounded(max(0.0, shown), step)

    def _show_ohm(self, ohm: float) -> str:
        shown = ohm * (1 + self._gain) + self._chance.uniform(-1, 1) * self._digits * self.RESOLUTION_OHM
        if shown > self.RANGE_OHM:
            return "OL"
        return f"{max(0.0, shown):.2f}"

    @staticmethod
    def _rounded(value: float, step: float) -> str:
        digits = 2 if step == 0.01 else 1 if step == 0.1 else 0
        return f"{value:.{digits}f}"
