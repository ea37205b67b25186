"""What only the journal of an inspection knows and the rules ask for: when readings were taken, and by which trainee.

The server asks its database (`store/inspections/reading_times.py`); a device keeps this beside the inspection and adds
what is entered on it.
"""

from collections.abc import Mapping
from typing import Any

from dorrik.core.home.instruments import CONTINUITY_FIELDS, nulls
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.inspection.records import Inspection

Figure = tuple[str, str]

#: Readings that are taken with the supply on, by the kind of what they are of.
LIVE_READINGS = {
    kind: tuple(name for name, spec in KINDS[kind].fields.items() if spec.kind == "reading" and spec.stage == "live")
    for kind in ("circuit", "point", "rcd")
}
#: Fields of readings whose times the rules may ask for.
TIMED_FIELDS = CONTINUITY_FIELDS.union(*LIVE_READINGS.values())


def asks_times(inspection: Inspection) -> bool:
    """Do the rules ask when readings were taken? Where a bad null puts some in doubt (rule 1.4), and where something
    was left disconnected at a known time: it cannot be read live after that (rule 12.2)."""
    left = any(aside.in_force and aside.disconnected and aside.since for aside in inspection.set_asides)
    return left or any(null.doubtful for null in nulls(inspection.lead_nulls))


class JournalFacts:
    """Times of continuity and live readings, and what trainees read, in the order of entering."""

    def __init__(self) -> None:
        self._at: dict[Figure, str] = {}
        #: The trainee's attendance and the place in the journal, by figure.
        self._by: dict[Figure, tuple[str, int]] = {}
        self._signed: dict[str, int] = {}
        self._last = 0

    @staticmethod
    def read(given: Mapping[str, Any]) -> "JournalFacts":
        """As the server sends them: `read_at` with id, field and time (`at`, ISO 8601, UTC); `read_by` with id, field,
        attendance (`by`) and sequence number; `signed` with the sequence number of the last signature of each."""
        facts = JournalFacts()
        facts._at = {(reading["id"], reading["field"]): reading["at"] for reading in given["read_at"]}
        facts._by = {(reading["id"], reading["field"]): (reading["by"], reading["seq"]) for reading in given["read_by"]}
        facts._signed = dict(given["signed"])
        facts._last = max([seq for _, seq in facts._by.values()] + [*facts._signed.values(), 0])
        return facts

    def entered(self, entity_id: str, field: str, value: Any, at: str, read_by: str | None = None) -> None:
        """A change that came after all others. at: when it was read, or else made (ISO 8601, UTC)."""
        self._last += 1
        figure = (entity_id, field)
        if field in TIMED_FIELDS:
            self._at[figure] = at
        if field == "countersigned_at" and value is not None:
            self._signed[entity_id] = self._last
        # What is read again moves behind what was read since.
        self._by.pop(figure, None)
        if read_by is not None and value is not None:
            self._by[figure] = (read_by, self._last)

    def measured_at(self, inspection: Inspection) -> dict[Figure, str]:
        """When each of these readings was taken; empty while nothing asks for it."""
        return dict(self._at) if asks_times(inspection) else {}

    def not_countersigned(self, inspection: Inspection) -> dict[str, tuple[Figure, ...]]:
        """Figures that stand as a trainee read them and that nobody has signed for since, by the trainee's
        attendance. A signature that was taken back signs for nothing."""
        trainees = {
            attendance.id: attendance for attendance in inspection.attendances if attendance.purpose == "trainee"
        }
        unsigned: dict[str, tuple[Figure, ...]] = {}
        for figure, (trainee, seq) in self._by.items():
            if trainee not in trainees:
                continue
            signed = self._signed.get(trainee, 0) if trainees[trainee].countersigned_at is not None else 0
            if seq > signed:
                unsigned[trainee] = (*unsigned.get(trainee, ()), figure)
        return unsigned
