"""House rules: named options where careful inspectors differ, with defaults and why (`data/house_rules.toml`)."""

from dataclasses import dataclass
from functools import cache
from typing import Any

from dorrik.core.reference import toml


@dataclass(frozen=True, slots=True)
class HouseRules:
    """The options in force.

    zs_basis: share of the Zs limit that a cold reading may use; insulation_attention_mohm: below this a
    passing circuit is pointed out (MΩ); insulation_over_range_mohm: what over range stands for (MΩ);
    limited_share: share of limited tests from which a report is warned about.
    """

    zs_basis: float = 0.8
    insulation_attention_mohm: float = 2.0
    insulation_over_range_mohm: float = 200.0
    limited_share: float = 0.2

    @staticmethod
    def using(chosen: dict[str, Any] | None) -> "HouseRules":
        """Defaults, with the chosen options in their place."""
        return HouseRules(**(chosen or {}))


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
            raise ValueError(f"There is no house rule called “{str(name)[:40]}”.")
        if choice not in option["choices"] or isinstance(choice, bool):
            told = ", ".join(f"{c:g}" if isinstance(c, float) else str(c) for c in option["choices"])
            raise ValueError(f"{option['label']}: one of {told}.")
        kept[str(name)] = choice
    return kept
