"""Where an open ring is open: between which accessories, and how far from either end (rule 4.8)."""

from collections.abc import Sequence

from dorrik.core.basics.readings import Reading
from dorrik.core.basics.record import record
from dorrik.core.electrical import conductors
from dorrik.core.electrical.ring_ends import OPEN_OHM


@record
class LegPoint:
    """What the open conductor reads at a point from the first and from the second end of the ring (Ω)."""

    name: str
    from_first: Reading | None
    from_second: Reading | None


@record
class Gap:
    """The last points that read from the first and from the second end (None where none does), with the cable to each
    (m, None where its size is not known); overlap: do points read from both ends, so that a reading is a slip?"""

    before: str | None
    before_m: float | None
    after: str | None
    after_m: float | None
    overlap: bool

    @property
    def says(self) -> str:
        """One sentence."""
        if self.overlap:
            return "Points read from both ends overlap: the gap is not where the walk puts it, or a reading is a slip."
        ends = ((self.before, self.before_m, "first"), (self.after, self.after_m, "second"))
        parts = [
            f"{name}{f', about {away:.0f} m' if away is not None else ''} from the {end} end"
            for name, away, end in ends
            if name is not None
        ]
        return f"The gap lies {'between' if len(parts) == 2 else 'beyond'} {', and '.join(parts)}."


def find(points: Sequence[LegPoint], csa_mm2: float | None) -> Gap | None:
    """The gap by readings outward from both ends, points in the order of the walk from the first.

    csa_mm2: of the open conductor. None where no point reads from either end.
    """
    from_first = [n for n, point in enumerate(points) if _reads(point.from_first)]
    from_second = [n for n, point in enumerate(points) if _reads(point.from_second)]
    if not from_first and not from_second:
        return None
    before = points[max(from_first)] if from_first else None
    after = points[min(from_second)] if from_second else None
    return Gap(
        before=before.name if before else None,
        before_m=_metres(before.from_first, csa_mm2) if before else None,
        after=after.name if after else None,
        after_m=_metres(after.from_second, csa_mm2) if after else None,
        overlap=bool(from_first and from_second and max(from_first) >= min(from_second)),
    )


def _reads(reading: Reading | None) -> bool:
    return reading is not None and reading.value is not None and reading.value < OPEN_OHM


def _metres(reading: Reading | None, csa_mm2: float | None) -> float | None:
    if reading is None or reading.value is None or not csa_mm2:
        return None
    try:
        return conductors.length_m(csa_mm2, reading.value)
    except LookupError:
        return None
