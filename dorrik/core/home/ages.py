"""The years of the home's parts, from their evidence: a range that every piece of it allows (rule 13.6)."""

from collections.abc import Iterable, Iterator, Mapping

from dorrik.core.basics.record import record
from dorrik.core.book.reference import printed
from dorrik.core.home.placing import all_points
from dorrik.core.inspection.circuit import Circuit
from dorrik.core.inspection.dating import Dating
from dorrik.core.inspection.labels import FOUND, Label
from dorrik.core.inspection.records import Inspection, name_of

#: How long an alarm is good for, by its makers (years): its replace-by date tells when it was made.
ALARM_YEARS = 10
#: What the home's alarms are called as a part.
ALARMS = "Alarms"


@record(kw_only=True)
class Offered:
    """Evidence that follows from what was entered, to be taken or left."""

    from_year: int | None
    to_year: int | None
    known_by: str
    says: str


@record(kw_only=True)
class Part:
    """A part with its years. key: the id of the thing, or the name of a part of the home; from_year, to_year: the range
    that all of its evidence allows, None where it is open; agrees: is there such a range at all?; evidence: in words;
    offered: what else follows from what was entered."""

    key: str
    entity: str
    entity_id: str
    name: str
    from_year: int | None
    to_year: int | None
    agrees: bool
    evidence: tuple[str, ...]
    offered: tuple[Offered, ...]


def years(evidence: Iterable[tuple[int | None, int | None]]) -> tuple[int | None, int | None, bool]:
    """The years that every piece of evidence allows, and whether there are any."""
    evidence_left = list(evidence)
    first = max((one for one, _ in evidence_left if one is not None), default=None)
    last = min((one for _, one in evidence_left if one is not None), default=None)
    return first, last, first is None or last is None or first <= last


def fitted(inspection: Inspection, circuit: Circuit) -> tuple[int | None, int | None]:
    """The years in which a circuit was fitted, by what somebody has stated of it; (None, None) where its evidence does
    not agree, which proves nothing."""
    own = [dating for dating in inspection.datings if dating.about_id == circuit.id]
    stated = [(dating.from_year, dating.to_year) for dating in (*own, *_of_extension(inspection, own))]
    first, last, agrees = years([*stated, (circuit.fitted_from, circuit.fitted_to)])
    return (first, last) if agrees else (None, None)


def _of_extension(inspection: Inspection, own: Iterable[Dating]) -> list[Dating]:
    """What is known of the parts of the home that a circuit belongs to: it is as old as they are."""
    named = {dating.part for dating in own if dating.part}
    return [dating for dating in inspection.datings if dating.about_entity == "inspection" and dating.part in named]


def required_since() -> Mapping[str, tuple[int, str]]:
    """From which year on, and by which edition, what an entry of the catalogue lacks was needed."""
    return {row["entry"]: (int(row["year"]), row["edition"]) for row in printed("required_since")}


def parts(i: Inspection) -> Iterator[Part]:
    """The home, its named parts, its boards and circuits, each with its years and what is offered."""
    of: dict[str, list[Dating]] = {}
    for dating in i.datings:
        key = dating.part if dating.about_entity == "inspection" and dating.part else dating.about_id or ""
        of.setdefault(key, []).append(dating)
    yield _part(i.id, "inspection", i.id, "The home", of.pop(i.id, []))
    alarms = list(_alarms(i))
    for name in dict.fromkeys((*(key for key in of if _is_named(i, key)), *((ALARMS,) if alarms else ()))):
        offered = alarms if name == ALARMS else []
        yield _part(name, "inspection", i.id, name, of.pop(name, []), offered)
    for board in i.boards:
        labels = [label for label in i.labels if label.about_id == board.id and label.state == FOUND]
        offered = [offered for label in labels for offered in _of("label", label)]
        yield _part(board.id, "board", board.id, board.name or "Board", of.get(board.id, []), offered)
        for circuit in board.circuits:
            if circuit.spare:
                continue
            own = [Dating(id="", from_year=circuit.fitted_from, to_year=circuit.fitted_to, known_by=circuit.fitted_by)]
            stated = own if circuit.fitted_from is not None or circuit.fitted_to is not None else []
            of_circuit = of.get(circuit.id, [])
            parts_with_age = [*of_circuit, *_of_extension(i, of_circuit), *stated]
            yield _part(circuit.id, "circuit", circuit.id, name_of(circuit), parts_with_age, _of("circuit", circuit))


def shown(aged_parts: Iterable[Part]) -> list[Part]:
    """Those parts that say something. Where the home has a part with a name, such as an extension, its circuits are all
    listed: each can belong to it."""
    all_parts = list(aged_parts)
    named = any(part.entity == "inspection" and part.key not in (part.entity_id, ALARMS) for part in all_parts)
    return [part for part in all_parts if named or part.evidence or part.offered or part.entity != "circuit"]


def _is_named(i: Inspection, key: str) -> bool:
    return any(dating.part == key for dating in i.datings)


def _part(
    key: str, entity: str, entity_id: str, name: str, sources: list[Dating], offered: Iterable[Offered] = ()
) -> Part:
    first, last, agrees = years((dating.from_year, dating.to_year) for dating in sources)
    evidence = tuple(
        dating.says or dating.known_by or (f"belongs to: {dating.part}" if dating.part else "stated")
        for dating in sources
    )
    return Part(
        key=key, entity=entity, entity_id=entity_id, name=name, from_year=first, to_year=last, agrees=agrees,
        evidence=evidence, offered=tuple(offer for offer in offered if offer.says not in evidence),
    )  # fmt: skip


def _of(kind: str, thing: Circuit | Label) -> Iterator[Offered]:
    """What the fields of a circuit, or of a label that was found, tell of its years."""
    for row in printed("datings"):
        if row["of"] != kind:
            continue
        value = getattr(thing, row["field"])
        there = value is not None if row["value"] == "any" else value is True if row["value"] == "yes" else False
        if there or value == row["value"]:
            yield Offered(
                from_year=int(row["from"]) if row["from"] else None, to_year=int(row["to"]) if row["to"] else None,
                known_by=row["known_by"], says=row["says"],
            )  # fmt: skip


def _alarms(i: Inspection) -> Iterator[Offered]:
    """An alarm to be replaced by a day was made some ten years before it."""
    for day in sorted({p.replace_by for p in all_points(i) if p.kind == "alarm" and p.replace_by}):
        made = int(day[:4]) - ALARM_YEARS
        yield Offered(
            from_year=made - 1, to_year=made + 1, known_by="date on an alarm",
            says=f"Replace by {day[5:7]}/{day[:4]}: made about {made}",
        )  # fmt: skip
