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
        self._solved: tuple[dict[Node, int], dict[Node, int], np.ndarray] | None = None

    def add(self, a: Node, b: Node, ohm: float) -> None:
        """A resistance between two nodes (Ω). Raises ValueError where it is not above nothing; see `join` for that."""
        if not 0 < ohm < inf:
            raise ValueError(f"A resistance is above nothing and finite, not {ohm}.")
        self._edges.append((a, b, ohm))
        self._solved = None

    def join(self, a: Node, b: Node) -> None:
        """Make two nodes one, as a clip or a link does."""
        self._same[self._root(a)] = self._root(b)
        self._solved = None

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
        if self._solved is None:
            self._solved = self._solve()
        part, index, potential = self._solved
        if start not in part or end not in part or part[start] != part[end]:
            return inf
        i, j = index[start], index[end]
        return float(potential[i, i] + potential[j, j] - 2 * potential[i, j])

    def _solve(self) -> tuple[dict[Node, int], dict[Node, int], np.ndarray]:
        """Part of each node, its index, and the potentials that 1 A into each node gives at every other.

        One solution serves every pair: in each part the first node is held at 0 V.
        """
        around: dict[Node, list[tuple[Node, float]]] = {}
        for one, other, ohm in self._edges:
            here, there = self._root(one), self._root(other)
            if here != there:
                around.setdefault(here, []).append((there, 1 / ohm))
                around.setdefault(there, []).append((here, 1 / ohm))
        index = {node: i for i, node in enumerate(around)}
        part: dict[Node, int] = {}
        conductance = np.zeros((len(index), len(index)))
        for first in around:
            if first in part:
                continue
            part[first] = index[first]
            waiting = [first]
            while waiting:
                here = waiting.pop()
                for there, siemens in around[here]:
                    conductance[index[here], index[here]] += siemens
                    conductance[index[here], index[there]] -= siemens
                    if there not in part:
                        part[there] = index[first]
                        waiting.append(there)
            held = index[first]
            conductance[held, :] = conductance[:, held] = 0.0
            conductance[held, held] = 1.0
        potential = np.linalg.inv(conductance) if len(index) else conductance
        for held in set(part.values()):
            potential[held, held] = 0.0
        return part, index, potential
