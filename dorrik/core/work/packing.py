"""What to pack for a visit, from what is known of the home: each thing with the reason why it is on the list."""

from collections.abc import Iterator, Sequence

from dorrik.core.basics.record import record

#: Boards fitted before that are likely to have covers, blanks and grommets that break or are missing.
_OLD_BOARD = 2008


@record(kw_only=True)
class PackFacts:
    """What is known of a visit. boards, rings, radials, points_opened, points_tested: how many; earthings: of each
    installation, its name and arrangement; rewired, built: years, None where nobody knows; must_stay_on, access: as the
    register says; keys: where they are, '' for none; power_off_min: how long the power is off, about; earlier: there is
    a report from before."""

    boards: int = 0
    rings: int = 0
    radials: int = 0
    points_opened: int = 0
    points_tested: int = 0
    earthings: Sequence[tuple[str, str]] = ()
    rewired: int | None = None
    built: int | None = None
    must_stay_on: str = ""
    access: str = ""
    keys: str = ""
    power_off_min: float = 0.0
    earlier: bool = False


@record
class PackItem:
    """A thing to take along, and why."""

    name: str
    why: str


def pack(facts: PackFacts) -> tuple[PackItem, ...]:
    """What to pack, in the order of the work."""
    return tuple(_items(facts))


def _items(facts: PackFacts) -> Iterator[PackItem]:
    hours = facts.power_off_min / 60
    yield PackItem(
        "Charged tablet, power bank", f"about {hours:.0f} h without power" if hours >= 1 else "no power on site"
    )
    yield PackItem("Voltage indicator, proving unit", "safe isolation: prove, test, prove again")
    boards = max(facts.boards, 1)
    yield PackItem("Lock and tag", "one board" if boards == 1 else f"{boards} boards: a lock for each")
    if facts.keys:
        yield PackItem("Keys", facts.keys)
    if facts.points_tested or facts.rings:
        count = f"{facts.points_tested} points to test" if facts.points_tested else "every socket of the rings"
        yield PackItem("Long lead, known resistance", f"R2 at {count}")
    if facts.radials:
        yield PackItem("Lamp adapters", "lighting points, tested at the lampholder")
    for name, earthing in facts.earthings:
        if earthing == "TT":
            yield PackItem("Electrode test kit", f"TT: earth electrode of {name or 'the installation'}")
            break
    if not any(earthing for _, earthing in facts.earthings):
        yield PackItem("Electrode test kit", "earthing arrangement not known: it may be TT")
    year = facts.rewired or facts.built
    if year is None or year < _OLD_BOARD:
        since = f"wiring of {year}" if year else "age not known"
        yield PackItem("Spare covers, blanks, grommets", f"{since}: old parts break or are missing")
    if facts.points_opened:
        yield PackItem("Spare accessory screws", f"{facts.points_opened} points to open")
    if facts.must_stay_on:
        yield PackItem("Extension lead from a live supply", f"must stay on: {facts.must_stay_on}")
    if "loft" in facts.access.lower() or "ladder" in facts.access.lower():
        yield PackItem("Ladder", facts.access)
    yield PackItem("Labels", "next inspection, RCD test, earth")
    if facts.earlier:
        yield PackItem("Earlier report", "copied into the inspection; confirm each part on site")
