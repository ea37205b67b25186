"""House rules: named options where careful inspectors differ, with defaults and why (`data/house_rules.toml`)."""

from functools import cache
from typing import Any

from dorrik.core.basics.record import record
from dorrik.core.basics.text import shown as tell
from dorrik.core.book.reference import toml


@record
class HouseRules:
    """The options in force, by their names in the file, which holds their meaning and their choices.

    zs_basis, limited_share and the sample shares are parts of 1; insulation_*_mohm are in MΩ; the rest are words.
    """

    zs_basis: float = 0.8
    insulation_attention_mohm: float = 2.0
    insulation_over_range_mohm: float = 200.0
    insulation_first: str = "250 V"
    insulation_pairings: str = "L+N–E"
    insulation_by: str = "by circuit"
    ring_method: str = "ends cross-connected"
    ring_tested_at: str = "the board"
    lead_method: str = "nulled"
    bonding_limit: str = "0.05 Ω in all"
    rcd_tests: str = "1 × IΔn"
    three_phase_fault: str = "2 × the single-phase value"
    coding_school: str = "mainstream"
    mending: str = "yes"
    own_repairs: str = "hold the report"
    sample_good: float = 0.25
    sample_fair: float = 0.5
    sample_poor: float = 1.0
    notes: str = "straight in"
    limited_share: float = 0.2

    @staticmethod
    def using(chosen: dict[str, Any] | None) -> "HouseRules":
        """Defaults, with the chosen options in their place."""
        return HouseRules(**(chosen or {}))

    @property
    def sample_shares(self) -> dict[str, float]:
        """Share of points to open by the grade of records or condition, as `sampling.fraction` takes it."""
        return {
            "good": self.sample_good,
            "fair": self.sample_fair,
            "poor": self.sample_poor,
            "none": self.sample_poor,
        }


@cache
def options() -> dict[str, dict[str, Any]]:
    """Every option by name: label, default, choices, why."""
    return toml("house_rules")


def clean(value: object) -> dict[str, float | str]:
    """Chosen options as they are kept. Raises ValueError naming the option that cannot be."""
    if not isinstance(value, dict):
        raise ValueError("House rules are named options.")
    kept: dict[str, float | str] = {}
    for name, choice in value.items():
        option = options().get(str(name))
        if option is None:
            raise ValueError(f"There is no house rule called “{tell(str(name)[:40])}”.")
        if choice not in option["choices"] or isinstance(choice, bool):
            choices = ", ".join(shown(c) for c in option["choices"])
            raise ValueError(f"{option['label']}: one of {choices}.")
        kept[str(name)] = choice
    return kept


def shown(choice: float | str) -> str:
    """A choice in words."""
    return f"{choice:g}" if isinstance(choice, float) else choice
