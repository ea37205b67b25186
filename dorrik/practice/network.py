"""A network of resistances, solved by nodal analysis."""

from collections.abc import Hashable, Iterator, Mapping
from math import inf

import numpy as np

Node = Hashable


class Network:
    """Resistances between named nodes. Build with `add` and `join`, ask with `resistance` and `potentials`."""

    def __init__(self) -> None:
        self._edges: list[tuple[Node, Node, float]] = []
        self._same: dict[Node, Node] = {}
        self._around: dict[Node, list[tuple[Node, float]]] | None = None
        self._parts: dict[Node, _Part] = {}

    def add(self, a: Node, b: Node, ohm: float) -> None:
        """A resistance between two nodes (Ω). Raises ValueError where it is not above nothing; see `join` for that."""
        if not 0 < ohm < inf:
            raise ValueError(f"A resistance is above nothing and finite, not {ohm}.")
        self._edges.append((a, b, ohm))
        self._forget()

    def join(self, a: Node, b: Node) -> None:
        """Make two nodes one, as a clip or a link does."""
        self._same[self._root(a)] = self._root(b)
        self._forget()

    def copy(self) -> "Network":
        """The same network, to be joined differently for another test."""
        other = Network()
        other._edges, other._same = list(self._edges), dict(self._same)
        return other

    @property
    def edges(self) -> Iterator[tuple[Node, Node, float]]:
        """All resistances, between the nodes as they are joined."""
        for a, b, ohm in self._edges:
            yield self._root(a), self._root(b), ohm

    def island(self, node: Node) -> int:
        """A number that all nodes connected with this one share, and no other."""
        return id(self._part(self._root(node)))

    def danger(self, *terminals: Node) -> str | None:
        """Why a test here would be dangerous: never, a bare network has no supply."""
        return None

    def resistance(self, a: Node, b: Node) -> float:
        """Resistance between two nodes (Ω): 0 where they are one, infinite where nothing connects them."""
        start, end = self._root(a), self._root(b)
        if start == end:
            return 0.0
        part = self._part(start)
        if end not in part.index:
            return inf
        i, j = part.index[start], part.index[end]
        inverse = part.inverse
        return float(inverse[i, i] + inverse[j, j] - 2 * inverse[i, j])

    def potentials(self, held: Mapping[Node, float]) -> dict[Node, float]:
        """Potential of every node that is connected to one of those held at theirs (V), joined nodes by the one that
        stands for them; see `stands_for`."""
        fixed = {self._root(node): volts for node, volts in held.items()}
        potential_of = dict(fixed)
        for start in fixed:
            part = self._part(start)
            known = [n for n in part.index if n in fixed]
            free = [n for n in part.index if n not in fixed]
            if not free or free[0] in potential_of:
                continue
            rows, columns = [part.index[n] for n in free], [part.index[n] for n in known]
            laplacian = self._laplacian(part.index)
            pushed = -laplacian[np.ix_(rows, columns)] @ np.array([fixed[n] for n in known])
            solved = np.linalg.solve(laplacian[np.ix_(rows, rows)], pushed)
            potential_of.update(zip(free, map(float, solved), strict=True))
        return potential_of

    def stands_for(self, node: Node) -> Node:
        """The node that a node was joined into, itself where it was not."""
        return self._root(node)

    def _forget(self) -> None:
        self._around = None
        self._parts = {}

    def _root(self, node: Node) -> Node:
        while node in self._same and self._same[node] != node:
            node = self._same[node]
        return node

    def _neighbours(self) -> dict[Node, list[tuple[Node, float]]]:
        if self._around is None:
            self._around = {}
            for here, there, ohm in self.edges:
                if here != there:
                    self._around.setdefault(here, []).append((there, 1 / ohm))
                    self._around.setdefault(there, []).append((here, 1 / ohm))
        return self._around

    def _part(self, start: Node) -> "_Part":
        """What a node is connected to, found and solved when it is first asked for."""
        part = self._parts.get(start)
        if part is None:
            around = self._neighbours()
            index = {start: 0}
            waiting = [start]
            while waiting:
                for there, _ in around.get(waiting.pop(), ()):
                    if there not in index:
                        index[there] = len(index)
                        waiting.append(there)
            part = _Part(index, self)
            self._parts.update(dict.fromkeys(index, part))
        return part

    def _laplacian(self, index: Mapping[Node, int]) -> np.ndarray:
        around = self._neighbours()
        laplacian = np.zeros((len(index), len(index)))
        for here, i in index.items():
            for there, siemens in around.get(here, ()):
                laplacian[i, i] += siemens
                laplacian[i, index[there]] -= siemens
        return laplacian


class _Part:
    """A connected part of a network; its inverse is worked out once and serves every pair in it."""

    def __init__(self, index: dict[Node, int], network: Network) -> None:
        self.index = index
        self._network = network
        self._inverse: np.ndarray | None = None

    @property
    def inverse(self) -> np.ndarray:
        """Potentials that 1 A into each node gives at every other, the first node held at 0 V."""
        if self._inverse is None:
            laplacian = self._network._laplacian(self.index)
            inverse = np.zeros_like(laplacian)
            inverse[1:, 1:] = np.linalg.inv(laplacian[1:, 1:])
            self._inverse = inverse
        return self._inverse
