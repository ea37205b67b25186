"""An inspection as its figures are judged, which is not always as they were written (rules 1.1, 1.4, 11.1)."""

from collections.abc import Iterator, Mapping
from typing import Any

from dorrik.core.basics.readings import subtract
from dorrik.core.book.house_rules import HouseRules
from dorrik.core.home.instruments import over_range, tops
from dorrik.core.home.placing import told_by_rooms
from dorrik.core.inspection.incremental_rewrite import Rewritten
from dorrik.core.inspection.records import Inspection

#: Continuity readings that the leads are in, by kind.
_WITH_LEADS: Mapping[str, tuple[str, ...]] = {
    "circuit": ("r1_ohm", "rn_ohm", "r2_ohm", "r1_r2_ohm", "long_lead_r2_ohm"),
    "point": (
        *("line_neutral_ohm", "line_cpc_ohm", "r2_ohm", "supplementary_ohm", "leg_one_ohm", "leg_two_ohm"),
        *("gang_line_neutral_ohm", "gang_line_cpc_ohm", "gang_r2_ohm"),
    ),
    "bond": ("at_clamp_ohm", "at_pipe_ohm"),
}


def read_right(inspection: Inspection, house: HouseRules, rewritten: Rewritten | None = None) -> Inspection:
    """The inspection with the top of an instrument's range read as over range, the leads taken off where they are
    subtracted rather than nulled, and every point told what its room says. rewritten: what was made of it before."""
    at_the_top, by_rooms = tops(inspection), told_by_rooms(inspection)
    leads = inspection.leads_ohm if house.lead_method == "subtracted" else None
    if not at_the_top and not by_rooms and not leads:
        return inspection

    def fields(kind: str, entity: Any) -> Mapping[str, Any]:
        corrected = over_range(kind, entity, at_the_top) if at_the_top else {}
        if leads:
            corrected |= _less(kind, entity, corrected, leads)
        return corrected | by_rooms.get(entity.id, {}) if kind == "point" else corrected

    return (rewritten or Rewritten()).of(inspection, (at_the_top, leads, by_rooms), fields)


def _less(kind: str, entity: Any, over: Mapping[str, Any], leads_ohm: float) -> dict[str, Any]:
    """Readings less the leads (rule 1.4). What was written less its leads already has them off."""

    def readings() -> Iterator[tuple[str, Any]]:
        for name in _WITH_LEADS.get(kind, ()):
            reading = over.get(name) or getattr(entity, name)
            if reading is not None and reading.leads is None:
                yield name, subtract(reading, leads_ohm)

    return dict(readings())
