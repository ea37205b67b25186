"""Ways to make a whole home worse in one place, read off the declared fields, so that a new field is among them by
being there."""

import copy
import random
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any

from dorrik.core.inspection.kinds import KINDS

Document = dict[str, Any]
#: Lists of a document by the kind that stands in them.
_KIND_OF = {kind.plural: kind for kind in KINDS.values()}


@dataclass(frozen=True)
class Worse:
    """One change: what it does, to which entity and field, and how."""

    how: str
    kind: str
    entity_id: str
    field: str
    change: Callable[[Document], None]

    def of(self, document: Document) -> Document:
        """The home with this change, as a new document."""
        found = copy.deepcopy(document)
        self.change(next(e for k, e in entities(found) if e["id"] == self.entity_id))
        return found


def entities(document: Document) -> Iterator[tuple[str, Document]]:
    """Every entity with its kind."""

    def look(kind: str, entity: Document) -> Iterator[tuple[str, Document]]:
        yield kind, entity
        for name, value in entity.items():
            if name in _KIND_OF and isinstance(value, list):
                for child in value:
                    yield from look(_KIND_OF[name].name, child)

    yield from look("inspection", document["inspection"])


def _number(value: object) -> float | None:
    try:
        return float(str(value))
    except ValueError:
        return None


def _set(field: str, value: object) -> Callable[[Document], None]:
    return lambda entity: entity.update({field: value})


def _drop(field: str) -> Callable[[Document], None]:
    return lambda entity: entity.pop(field, None) and None


def worse_reading(quantity: str, value: float, chance: random.Random) -> str:
    """A reading that is worse, and still one that can be."""
    if quantity == "insulation":
        return f"{value * chance.uniform(0.001, 0.5):.2f}" if value < 300 else f"{chance.uniform(0.05, 0.9):.2f}"
    if quantity == "trip-time":
        return chance.choice(("OL", f"{chance.uniform(310, 900):.0f}"))
    if quantity == "leakage":
        return f"{value + chance.uniform(5, 20):.1f}"
    return f"{value * chance.uniform(1.2, 3.0) + 0.1:.2f}"


def readings(document: Document, chance: random.Random) -> Iterator[Worse]:
    """Every plain reading made worse."""
    for kind, entity in entities(document):
        for name, spec in KINDS[kind].fields.items():
            value = _number(entity.get(name))
            if spec.kind != "reading" or value is None or kind in ("lead_null", "earlier") or name.endswith("_ka"):
                continue
            if spec.quantity == "direct-voltage":
                continue
            worse = worse_reading(spec.quantity or "loop", value, chance)
            yield Worse(f"{value} → {worse}", kind, entity["id"], name, _set(name, worse))


#: A general RCD at IΔn (BS EN 61008 and 61009).
LONGEST_MS = 300


def devices(document: Document, chance: random.Random) -> Iterator[Worse]:
    """Every residual current device dead, slow, failing on its button, or untested."""
    for kind, entity in entities(document):
        prefix = {"rcd": "", "circuit": "rcd_"}.get(kind)
        if prefix is None or entity.get(f"{prefix}trip_ms") is None:
            continue
        for field, value in (("trip_ms", "OL"), ("trip_ms", "480"), ("button", "incorrect")):
            yield Worse(f"RCD {value}", kind, entity["id"], prefix + field, _set(prefix + field, value))
        # A limitation with its reason may stand in place of a failure, and limits the report; of a device that was
        # sound it takes the proof away.
        if str(entity[f"{prefix}trip_ms"]).isdigit() and float(entity[f"{prefix}trip_ms"]) <= LONGEST_MS:
            yield Worse("RCD untested", kind, entity["id"], f"{prefix}trip_ms", _set(f"{prefix}trip_ms", "LIM lost"))


def left_out(document: Document, chance: random.Random) -> Iterator[Worse]:
    """Every reading left out, or written N/A without the fact that would make it so."""
    for kind, entity in entities(document):
        for name, spec in KINDS[kind].fields.items():
            if spec.kind != "reading" or entity.get(name) is None or kind in ("lead_null", "earlier"):
                continue
            yield Worse("left out", kind, entity["id"], name, _drop(name))
            yield Worse("N/A", kind, entity["id"], name, _set(name, "N/A"))


def marks(document: Document, chance: random.Random) -> Iterator[Worse]:
    """Every check and every tick marked as not good."""
    for kind, entity in entities(document):
        if kind == "check" and entity.get("state") != "not good":
            yield Worse("not good", kind, entity["id"], "state", lambda e: e.update(state="not good", note=None))
        for name, spec in KINDS[kind].fields.items():
            if spec.kind == "choice" and spec.choices[:2] == ("correct", "incorrect") and entity.get(name) == "correct":
                yield Worse("incorrect", kind, entity["id"], name, _set(name, "incorrect"))
        if kind == "point" and entity.get("looked") != "defect":
            yield Worse("defect", kind, entity["id"], "looked", lambda e: e.update(looked="defect", note=None))


def unanswered(document: Document, chance: random.Random) -> Iterator[Worse]:
    """Every answer, code and reason taken back."""
    for kind, entity in entities(document):
        if kind == "observation":
            if entity.get("answers"):
                yield Worse("unanswered", kind, entity["id"], "answers", _drop("answers"))
            yield Worse("no code", kind, entity["id"], "code", _drop("code"))
        if kind == "overruling":
            yield Worse("no reason", kind, entity["id"], "reason", _drop("reason"))
