"""What putting the findings right costs: remedies with their prices, alternatives beside each other, what each clears
and what stays.

A price clears nothing by itself. What an alternative would clear counts once the work is done and tested again, and
the report stays as it is until then.
"""

from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from typing import Any

from dorrik.core.basics.record import record
from dorrik.core.book.codes import ORDER, UNSATISFACTORY
from dorrik.core.book.remedies import OPERATOR, OWN, Rate, Remedy, priced, remedies
from dorrik.core.inspection.offer_line import ALTERNATIVES, OfferLine
from dorrik.core.inspection.records import Inspection, Observation
from dorrik.core.judging.coverage.walking_order import names

Rates = Mapping[str, Rate]
_HOME = "Whole home"


@record
class Open:
    """An observation that is to be put right: its code ('' while it has none), where it is, what it is.

    operator: may it be the network operator's to put right?
    """

    id: str
    code: str
    where: str
    what: str
    operator: bool


@record(kw_only=True)
class Option:
    """A remedy at one thing. key: of remedy and thing; price: by the firm's rates, how: how it comes about; clears: ids
    of the observations it puts right; condition: what must hold for that, besides the retest."""

    key: str
    remedy: str
    label: str
    kind: str
    entity: str
    entity_id: str
    where: str
    price: float
    how: str
    minutes: int
    clears: tuple[str, ...]
    condition: str


@record(kw_only=True)
class PriceLine:
    """A line of an alternative.

    rate: what the firm's rates say, None where they say nothing; trouble: what keeps it from being offered, in words;
    spare: is all that it clears cleared by another line as well?
    """

    id: str
    option: str
    label: str
    where: str
    price: float | None
    rate: float | None
    how: str
    minutes: int
    clears: tuple[str, ...]
    condition: str
    trouble: str
    spare: bool


@record(kw_only=True)
class Alternative:
    """Lines that are offered together. clears, stays: ids of observations, the most serious first; says: what stays, in
    words; trouble: what keeps it from being offered."""

    number: int
    lines: tuple[PriceLine, ...]
    price: float
    minutes: int
    clears: tuple[str, ...]
    stays: tuple[str, ...]
    says: str
    trouble: tuple[str, ...]


@record(kw_only=True)
class Proposal:
    """A set of options to begin with: its name and their keys."""

    name: str
    options: tuple[str, ...]


@record(kw_only=True)
class Pricing:
    """What there is to price, what it can be put right with, proposals, and the alternatives as they are made up."""

    open: tuple[Open, ...]
    options: tuple[Option, ...]
    proposals: tuple[Proposal, ...]
    alternatives: tuple[Alternative, ...]


def pricing(inspection: Inspection, put_right: Collection[str], rates: Rates, unanswered: str = "") -> Pricing:
    """Prices for an inspection.

    put_right: ids of observations that no longer count; rates: what the firm has settled, by key of the remedy; the
    usual ones hold where it has not; unanswered: what else stands against a satisfactory result, in words: it is not
    recorded yet, so that nothing of it is priced.
    """
    named = names(inspection)
    standing = sorted(
        (
            observation
            for observation in inspection.observations
            if observation.id not in put_right and observation.code != "note"
        ),
        key=lambda line: ORDER.index(line.code) if line.code else len(ORDER),
    )
    things = _PricedThings(inspection)
    theirs = {key for remedy in remedies().values() if remedy.kind == OPERATOR for key in remedy.clears}
    to_do = tuple(
        Open(
            observation.id, observation.code or "", observation.place or named.get(observation.about_id or "", ""),
            observation.text or "", observation.catalogue_key in theirs,
        )
        for observation in standing
    )  # fmt: skip
    options = tuple(_options(standing, things, named, rates))
    return Pricing(
        open=to_do,
        options=options,
        proposals=tuple(_proposals(to_do, options)),
        alternatives=tuple(
            _alternative(
                number,
                [offer_line for offer_line in inspection.offer_lines if offer_line.alternative == number],
                to_do,
                options,
                unanswered,
            )
            for number in range(1, ALTERNATIVES + 1)
            if any(offer_line.alternative == number for offer_line in inspection.offer_lines)
        ),
    )


def total(rate: Rate, count: int) -> tuple[float, int]:
    """Price and minutes of a remedy with so many parts counted each."""
    return round(rate.price + rate.each * count, 2), rate.minutes + rate.each_min * count


class _PricedThings:
    """What observations are about: of what kind, on which circuit and board; how many circuits a board has."""

    def __init__(self, inspection: Inspection) -> None:
        self.home = inspection.id
        self.kinds: dict[str, str] = {inspection.id: "inspection"}
        self.circuit_of: dict[str, str] = {}
        self.board_of: dict[str, str] = {}
        self.circuits: dict[str, int] = {}
        self.kinds |= {bond.id: "bond" for bond in inspection.bonds}
        self.kinds |= {room.id: "room" for room in inspection.rooms}
        self.kinds |= {point.id: "point" for point in inspection.points}
        checks = (inspection.checks, *(room.checks for room in inspection.rooms))
        self.kinds |= {check.id: "check" for group in checks for check in group}
        for board in inspection.boards:
            self._on_board(board.id, "board", [board])
            self._on_board(board.id, "rcd", board.rcds)
            self._on_board(board.id, "check", board.checks)
            self._on_board(board.id, "circuit", board.circuits)
            self.circuits[board.id] = sum(not circuit.spare for circuit in board.circuits)
            for circuit in board.circuits:
                self._on_board(board.id, "point", circuit.points)
                self.circuit_of[circuit.id] = circuit.id
                self.circuit_of |= {point.id: circuit.id for point in circuit.points}

    def _on_board(self, board_id: str, kind: str, things: Iterable[Any]) -> None:
        for thing in things:
            self.kinds[thing.id] = kind
            self.board_of[thing.id] = board_id

    def at(self, remedy: Remedy, about: str) -> tuple[str, str] | None:
        """Kind and id of what one price of a remedy stands for; None where it does not fit what it is about."""
        match remedy.at:
            case "circuit":
                circuit_id = self.circuit_of.get(about)
                return ("circuit", circuit_id) if circuit_id else None
            case "board":
                board_id = self.board_of.get(about)
                return ("board", board_id) if board_id else None
            case "home":
                return "inspection", self.home
        return (self.kinds[about], about) if about in self.kinds else None


def _options(
    standing: Sequence[Observation], things: _PricedThings, named: Mapping[str, str], rates: Rates
) -> Iterator[Option]:
    for remedy in priced().values():
        clears: dict[tuple[str, str], list[str]] = {}
        for observation in standing:
            about = observation.about_id or things.home
            kind = things.kinds.get(about, "")
            # A check of a board is of that board.
            kind = "board" if kind == "check" and about in things.board_of else kind
            if observation.catalogue_key and remedy.does_clear(observation.catalogue_key, kind):
                place = things.at(remedy, about)
                if place is not None:
                    clears.setdefault(place, []).append(observation.id)
        for (entity, key), observations in clears.items():
            count = things.circuits.get(key, 1) if remedy.at == "board" else len(observations)
            rate = rates.get(remedy.key, remedy.usual)
            price, minutes = total(rate, count)
            counted = f"{count} × {rate.each:g}" if rate.each else ""
            yield Option(
                key=f"{remedy.key}:{key}",
                remedy=remedy.key,
                label=remedy.label,
                kind=remedy.kind,
                entity=entity,
                entity_id=key,
                where=_HOME if key == things.home else named.get(key, ""),
                price=price,
                how=f"{rate.price:g} + {counted}" if counted else "",
                minutes=minutes,
                clears=tuple(observations),
                condition=remedy.condition,
            )


def _proposals(to_do: Sequence[Open], options: Sequence[Option]) -> Iterator[Proposal]:
    """What makes the report unsatisfactory for the least money, everything for the least, and with boards renewed."""
    urgent = {open_observation.id for open_observation in to_do if open_observation.code in UNSATISFACTORY}
    every = {open_observation.id for open_observation in to_do}
    renewals = [option for option in options if option.kind == "renewal" and option.entity == "board"]
    offered: list[frozenset[str]] = []
    for name, wanted, first in (
        ("Urgent, least cost", urgent, []),
        ("Everything, least cost", every, []),
        ("Everything, board renewed", every, renewals),
    ):
        chosen = _cheapest(wanted, options, first)
        keys = frozenset(option.key for option in chosen)
        if keys and keys not in offered:
            offered.append(keys)
            yield Proposal(name=name, options=tuple(option.key for option in chosen))


def _cheapest(wanted: set[str], options: Sequence[Option], first: Sequence[Option]) -> list[Option]:
    """Options that clear what can be cleared: those given first, then whichever costs least for each finding cleared;
    of those after the first, what the others clear as well is left out again."""
    chosen = list(first)
    left = wanted - {clear for option in chosen for clear in option.clears}
    while left:
        useful = [option for option in options if left & set(option.clears)]
        if not useful:
            break
        best = min(useful, key=lambda bundle: (bundle.price / len(left & set(bundle.clears)), bundle.price, bundle.key))
        chosen.append(best)
        left -= set(best.clears)
    for bundle in sorted(chosen[len(first) :], key=lambda each: -each.price):
        others = {cleared for other in chosen if other is not bundle for cleared in other.clears}
        if wanted & set(bundle.clears) <= others:
            chosen.remove(bundle)
    return chosen


def _alternative(
    number: int, lines: Sequence[OfferLine], to_do: Sequence[Open], options: Sequence[Option], unanswered: str
) -> Alternative:
    by_key = {option.key: option for option in options}
    standing = {open_observation.id for open_observation in to_do}
    cleared_by: dict[str, list[str]] = {}
    for offer_line in lines:
        for observation in _clears(offer_line, by_key, standing):
            cleared_by.setdefault(observation, []).append(offer_line.id)
    priced_lines = tuple(_line(offer_line, by_key, standing, cleared_by) for offer_line in lines)
    stays = tuple(open_observation for open_observation in to_do if open_observation.id not in cleared_by)
    return Alternative(
        number=number,
        lines=priced_lines,
        price=round(sum(line.price or 0 for line in priced_lines), 2),
        minutes=sum(line.minutes for line in priced_lines),
        clears=tuple(open_observation.id for open_observation in to_do if open_observation.id in cleared_by),
        stays=tuple(open_observation.id for open_observation in stays),
        says=_says(stays, unanswered),
        trouble=tuple(f"{line.label}: {line.trouble}" for line in priced_lines if line.trouble),
    )


def _clears(line: OfferLine, by_key: Mapping[str, Option], standing: Collection[str]) -> tuple[str, ...]:
    option = by_key.get(_option_key(line))
    if option is not None:
        return option.clears
    cleared = line.observation_id
    return (cleared,) if line.remedy == OWN and cleared and cleared in standing else ()


def _option_key(line: OfferLine) -> str:
    return f"{line.remedy}:{line.about_id}"


def _line(
    line: OfferLine, by_key: Mapping[str, Option], standing: Collection[str], cleared_by: Mapping[str, Sequence[str]]
) -> PriceLine:
    option = by_key.get(_option_key(line))
    known = priced().get(line.remedy or "")
    clears = _clears(line, by_key, standing)
    rate = None if option is None else option.price
    price = line.price if line.price is not None else rate
    trouble = ""
    if option is None and line.remedy != OWN:
        trouble = "nothing of this inspection needs it any more"
    elif line.remedy == OWN and not line.words:
        trouble = "say what the work is"
    elif not price:
        trouble = "has no price"
    return PriceLine(
        id=line.id,
        option="" if option is None else option.key,
        label=line.words or (known.label if known is not None else "Other work"),
        where=option.where if option is not None else "",
        price=price,
        rate=rate,
        how="by hand" if line.price is not None else option.how if option is not None else "",
        minutes=option.minutes if option is not None else 0,
        clears=clears,
        condition=option.condition if option is not None else "",
        trouble=trouble,
        spare=bool(clears) and all(len(cleared_by[clear]) > 1 for clear in clears),
    )


def _says(stays: Sequence[Open], unanswered: str) -> str:
    """What stays after the work. It is never called satisfactory: that is said by a report, not by a price."""
    also = f" Not in this price: {unanswered}." if unanswered else ""
    if not stays:
        recorded = "recorded" if unanswered else "found"
        return f"Nothing that was {recorded} stays, once all of the work holds when tested again.{also}"
    uncoded = sum(not open_observation.code for open_observation in stays)
    counted = [
        f"{n} {code}" for code in ORDER if (n := sum(open_observation.code == code for open_observation in stays))
    ]
    if uncoded:
        counted.append(f"{uncoded} without a code")
    if any(open_observation.code in UNSATISFACTORY for open_observation in stays):
        after = "The report stays unsatisfactory by it."
    elif uncoded:
        after = "Its code is not decided yet."
    else:
        recorded = "recorded " if unanswered else ""
        after = f"No {recorded}C1, C2 or FI stays, once all of the work holds when tested again."
    theirs = (
        "; some of it may be the network operator's"
        if any(open_observation.operator for open_observation in stays)
        else ""
    )
    return f"Stays: {', '.join(counted)}{theirs}. {after}{also}"
