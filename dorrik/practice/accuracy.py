"""How often the rules name what was put into simulated rings and homes: `make accuracy` writes docs/accuracy.md."""

from collections.abc import Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass

from dorrik.core.inspection.document import parse
from dorrik.core.judging.judgement import judge
from dorrik.practice import whole_home_accuracy
from dorrik.practice.families import FAMILIES, draw
from dorrik.practice.home_families import HOME_FAMILIES, draw_home
from dorrik.practice.meter import SimulatedMeter
from dorrik.practice.visit import visit

HEAD = """# Accuracy on simulated rings and homes

Made by `make accuracy`; the same seeds give the same tables.

## Rings

Each case is a ring of real lengths of cable with 4 to
13 points unevenly apart, solved as a resistive network and measured by a simulated instrument (gain within 1 %,
each reading within half a last digit, 0.01 Ω steps, leads nulled). Detected: the fault is named; for a sound ring,
nothing is said. Right place: named at the right point. Spur length: within the greater of 1.5 m and 15 %. Other
findings: cases in which something else was said as well or instead. The sizes named are those from which the
figures hold; smaller faults drown in the instrument's own spread.

| family | cases | detected | missed | right place | spur length | other findings |
| --- | ---: | ---: | ---: | ---: | ---: | ---: |
"""

HOME_HEAD = """
## Homes with one fault

Each case is a home of seven to ten circuits with some 36 points behind two 30 mA RCDs, drawn from a seed, with one
fault put in, and visited from Ze to the last RCD: every point measured, everything written as the instrument showed it,
the document judged. Named: the observation (or, for loads and legs, the note) that the fault should raise is there.
Right place: at the right point, circuit, bond or board. Other observations: cases in which something else was raised at
a place that has nothing to do with the fault; consequences (a high Ze lifts every Zs) are not counted. For the sound
home named means that no observation was suggested at all.

| family | cases | named | missed | right place | other observations |
| --- | ---: | ---: | ---: | ---: | ---: |
"""


@dataclass(frozen=True, slots=True)
class Row:
    """One family: cases, how many were named, named at the right point, with the right length, and other findings."""

    family: str
    cases: int
    detected: int
    placed: int | None
    measured: int | None
    others: int


def count(family: str, cases: int) -> Row:
    """Draw cases of a family and count what the rules say of them."""
    detected = placed = measured = others = 0
    points = lengths = False
    for seed in range(cases):
        case = draw(family, seed)
        analysis = case.analysis(seed)
        named = [f for f in analysis.findings if f.kind in (case.kind, case.or_kind)]
        # A spur off a spur is seen with the spur that it hangs off.
        expected = {case.kind, "spur"} if case.kind == "spur-off-spur" else {case.kind, case.or_kind}
        others += any(f.kind not in expected for f in analysis.findings)
        if case.kind is None:
            detected += not analysis.findings
            continue
        detected += bool(named)
        points, lengths = points or case.point is not None, lengths or case.spur_m is not None
        placed += any(f.point == case.point for f in named)
        if case.spur_m is not None:
            length_m = next((p.spur_length_m for p in analysis.points if p.name == case.point), None)
            measured += length_m is not None and abs(length_m - case.spur_m) <= max(1.5, 0.15 * case.spur_m)
    return Row(family, cases, detected, placed if points else None, measured if lengths else None, others)


@dataclass(frozen=True, slots=True)
class HomeRow:
    """One family of homes: cases, how many were named, named at the right place, and with something else raised."""

    family: str
    cases: int
    named: int
    placed: int
    others: int


def count_homes(family: str, cases: int) -> HomeRow:
    """Draw cases of a family, visit the homes and count what the judgement says of them."""
    named = placed = others = 0
    for seed in range(cases):
        case = draw_home(family, seed)
        judgement = judge(parse(visit(case.home, SimulatedMeter(seed))))
        if case.observation is None and case.field is None:
            named += not judgement.suggested
            others += bool(judgement.suggested)
            continue
        counts = {
            place
            for note in judgement.notes
            for place in (note.entity_id, *note.touches)
            if note.status in ("fail", "attention")
            and (note.verdict.observation == case.observation if case.observation else note.field == case.field)
        }
        named += bool(counts)
        placed += bool(counts & case.places)
        if case.everywhere:
            continue
        own = {place.partition("-")[0] for place in case.places}
        others += any(
            s.entity_id.partition("-")[0] not in own and s.entity != "board" and s.key != case.observation
            for s in judgement.suggested
        )
    return HomeRow(family, cases, named, placed, others)


def _home_lines(cases: int, workers: int | None) -> Iterator[str]:
    with ProcessPoolExecutor(workers) as pool:
        for row in pool.map(count_homes, HOME_FAMILIES, [cases] * len(HOME_FAMILIES)):
            right = f"{row.placed / row.cases:.1%}" if row.family != "sound home" else ""
            missed = row.cases - row.named
            yield (f"| {row.family} | {row.cases} | {row.named / row.cases:.1%} | {missed} | {right} | {row.others} |")


def _lines(cases: int, sound_cases: int) -> Iterator[str]:
    for family in FAMILIES:
        row = count(family, sound_cases if family == "sound ring" else cases)

        def share(part: int | None, whole: int = row.cases) -> str:
            return "" if part is None else f"{part / whole:.1%}"

        missed = row.cases - row.detected
        yield (
            f"| {row.family} | {row.cases} | {share(row.detected)} | {missed} | {share(row.placed)} | "
            f"{share(row.measured)} | {row.others} |"
        )


def table(cases: int = 500, sound_cases: int = 2000, homes: int = 1000, workers: int | None = None) -> str:
    """All tables as Markdown. For a sound ring `detected` means that nothing was said."""
    rings = HEAD + "\n".join(_lines(cases, sound_cases)) + "\n"
    single = HOME_HEAD + "\n".join(_home_lines(cases, workers)) + "\n"
    return rings + single + whole_home_accuracy.report(homes, workers)


if __name__ == "__main__":
    print(table(), end="")
