"""How often the rules name what was put into simulated rings: `make accuracy` writes docs/accuracy.md."""

from collections.abc import Iterator
from dataclasses import dataclass

from dorrik.practice.families import FAMILIES, draw

HEAD = """# Accuracy on simulated rings

Made by `make accuracy`; the same seeds give the same table. Each case is a ring of real lengths of cable with 4 to
13 points unevenly apart, solved as a resistive network and measured by a simulated instrument (gain within 1 %,
each reading within half a last digit, 0.01 Ω steps, leads nulled). Detected: the fault is named; for a sound ring,
nothing is said. Right place: named at the right point. Spur length: within the greater of 1.5 m and 15 %. Other
findings: cases in which something else was said as well or instead. The sizes named are those from which the
figures hold; smaller faults drown in the instrument's own spread.

| family | cases | detected | missed | right place | spur length | other findings |
| --- | ---: | ---: | ---: | ---: | ---: | ---: |
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
        named = [f for f in analysis.findings if f.kind == case.kind]
        # A spur off a spur is seen with the spur that it hangs off.
        expected = {case.kind, "spur"} if case.kind == "spur-off-spur" else {case.kind}
        others += any(f.kind not in expected for f in analysis.findings)
        if case.kind is None:
            detected += not analysis.findings
            continue
        detected += bool(named)
        points, lengths = points or case.point is not None, lengths or case.spur_m is not None
        placed += any(f.point == case.point for f in named)
        if case.spur_m is not None:
            found = next((p.spur_length_m for p in analysis.points if p.name == case.point), None)
            measured += found is not None and abs(found - case.spur_m) <= max(1.5, 0.15 * case.spur_m)
    return Row(family, cases, detected, placed if points else None, measured if lengths else None, others)


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


def table(cases: int = 500, sound_cases: int = 2000) -> str:
    """The whole table as Markdown. For a sound ring `detected` means that nothing was said."""
    return HEAD + "\n".join(_lines(cases, sound_cases)) + "\n"


if __name__ == "__main__":
    print(table(), end="")
