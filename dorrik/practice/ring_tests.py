"""Testing a simulated ring as an inspector does: ends, then every point with the ends cross-connected."""

from collections.abc import Sequence
from dataclasses import replace

from dorrik.core.basics.readings import Reading
from dorrik.core.electrical.ring import RingPoint, RingTest
from dorrik.practice.meter import SimulatedMeter
from dorrik.practice.network import Network
from dorrik.practice.ring_circuit import CONDUCTORS, Conductor, RingCircuit


def measure(
    circuit: RingCircuit, meter: SimulatedMeter, *, same_ends: bool = False, cpc_csa_mm2: float = 1.5
) -> RingTest:
    """Every reading of the test. same_ends: the wrong pairs are joined; cpc_csa_mm2: what the cpc is taken for.

    The meter is nulled first.
    """
    meter.null()
    net = circuit.network()
    line, neutral_ends, cpc_ends = (Reading.parse(meter.low_ohms(net, (c, "a"), (c, "b"))) for c in CONDUCTORS)
    names = [f"point {n}" for n in range(len(circuit.walk))]
    neutral = _points(joined(net, "neutral", same_ends), "neutral", len(names), meter)
    cpc = _points(joined(net, "cpc", same_ends), "cpc", len(names), meter)
    points = tuple(RingPoint(*row) for row in zip(names, neutral, cpc, strict=True))
    return RingTest(line, neutral_ends, cpc_ends, circuit.line_csa_mm2, cpc_csa_mm2, points)


def joined(net: Network, other: Conductor, same_ends: bool = False) -> Network:
    """Line and another conductor cross-connected at the board: opposite ends, or the same ones by mistake."""
    net = net.copy()
    near, far = ("a", "b") if same_ends else ("b", "a")
    net.join(("line", "a"), (other, near))
    net.join(("line", "b"), (other, far))
    return net


def _points(net: Network, other: Conductor, count: int, meter: SimulatedMeter) -> list[Reading]:
    return [Reading.parse(meter.low_ohms(net, ("line", "point", n), (other, "point", n))) for n in range(count)]


def retest(
    circuit: RingCircuit, test: RingTest, meter: SimulatedMeter, suspects: Sequence[str], *, same_ends: bool = False
) -> RingTest:
    """The points named tested again after their switches were worked."""
    worked = frozenset(n for n, point in enumerate(test.points) if point.name in suspects)
    net = circuit.network(worked=worked)
    nets = {other: joined(net, other, same_ends) for other in ("neutral", "cpc")}
    points = list(test.points)
    for n in worked:
        neutral, cpc = (
            Reading.parse(meter.low_ohms(nets[other], ("line", "point", n), (other, "point", n)))
            for other in ("neutral", "cpc")
        )
        points[n] = RingPoint(points[n].name, neutral, cpc)
    return replace(test, points=tuple(points))
