"""The simulated instrument: what it shows, with its own error, resolution and range; and what it refuses."""

import random
from dataclasses import dataclass
from math import inf

from dorrik.practice.network import Network, Node


class MeterRefusal(Exception):
    """The measurement would be dangerous or meaningless; the message says why."""


@dataclass(frozen=True, slots=True)
class Accuracy:
    """Of low ohms: greatest gain error (share, the same for every reading of one instrument) and greatest error of a
    single reading (last digits). Well inside what instruments are specified to, as sound ones are."""

    gain: float = 0.01
    digits: float = 0.5


class SimulatedMeter:
    """An instrument drawn from a seed: the same seed gives the same readings."""

    RESOLUTION_OHM = 0.01
    RANGE_OHM = 99.9

    def __init__(self, seed: int, accuracy: Accuracy | None = None, leads_ohm: float = 0.08) -> None:
        accuracy = accuracy or Accuracy()
        self._chance = random.Random(seed)
        self._gain = self._chance.uniform(-accuracy.gain, accuracy.gain)
        self._digits = accuracy.digits
        self.leads_ohm = leads_ohm
        self.null_ohm = 0.0

    def null(self, contact_ohm: float = 0.0) -> str:
        """Null the leads, tips pressed together; contact_ohm: a bad contact between them. Returns what it shows."""
        self.null_ohm = self.leads_ohm + contact_ohm
        return self._show(self.null_ohm)

    def low_ohms(self, network: Network, a: Node, b: Node, *, live: bool = False) -> str:
        """Low-resistance reading between two nodes. Raises MeterRefusal on a live circuit."""
        if live:
            raise MeterRefusal("The circuit is live: isolate it and prove it dead before a continuity test.")
        true = network.resistance(a, b)
        if true == inf:
            return "OL"
        return self._show(max(0.0, true + self.leads_ohm - self.null_ohm))

    def _show(self, ohm: float) -> str:
        shown = ohm * (1 + self._gain) + self._chance.uniform(-1, 1) * self._digits * self.RESOLUTION_OHM
        if shown > self.RANGE_OHM:
            return "OL"
        return f"{max(0.0, shown):.2f}"
