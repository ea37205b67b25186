"""A network of resistances, solved by nodal analysis."""

from collections.abc import Hashable
from math import inf

import numpy as np

Node = Hashable


class Network:
    """Resistances between named nodes. Build with `add` and `join`, ask with `resistance`."""

    def __init__(self) -> None:
        self._edges: list[tuple[Node, Node, float]] = []
        self._same: dict[Node, Node] = {}

    def add(self, a: Node, b: Node, ohm: float) -> None:
        """A resistance between two nodes (Ω). Raises ValueError where it is not above nothing; see `join` for that."""
        if not 0 < ohm < inf:
            raise ValueError(f"A resistance is above nothing and finite, not {ohm}.")
        self._edges.append((a, b, ohm))

    def join(self, a: Node, b: Node) -> None:
        """Make two nodes one, as a clip or a link does."""
        self._same[self._root(a)] = self._root(b)

    def copy(self) -> "Network":
        """The same network, to be joined differently for another test."""
        other = Network()
        other._edges, other._same = list(self._edges), dict(self._same)
        return other

    def _root(self, node: Node) -> Node:
        while node in self._same and self._same[node] != node:
            node = self._same[node]
        return node

    def resistance(self, a: Node, b: Node) -> float:
        """Resistance between two nodes (Ω): 0 where they are one, infinite where nothing connects them."""
        start, end = self._root(a), self._root(b)
        if start == end:
            return 0.0
        around: dict[Node, list[tuple[Node, float]]] = {}
        for one, other, ohm in self._edges:
            here, there = self._root(one), self._root(other)
            if here != there:
                around.setdefault(here, []).append((there, 1 / ohm))
                around.setdefault(there, []).append((here, 1 / ohm))
        reached, waiting = {start: 0}, [start]
        while waiting:
            for there, _ in around.get(waiting.pop(), []):
                if there not in reached:
                    reached[there] = len(reached)
                    waiting.append(there)
        if end not in reached:
            return inf
        # Current of 1 A from start to end; the end is held at 0 V and left out.
        size = len(reached)
        conductance = np.zeros((size, size))
        for here, index in reached.items():
            for there, siemens in around.get(here, []):
                conductance[index, index] += siemens
                conductance[index, reached[there]] -= siemens
        keep = [index for node, index in reached.items() if node != end]
        current = np.zeros(size)
        current[reached[start]] = 1.0
        volts = np.linalg.solve(conductance[np.ix_(keep, keep)], current[keep])
        return float(volts[keep.index(reached[start])])
