"""Words in this report: what the trade's terms mean, for whoever reads past page one."""

from typing import Any

from dorrik.core.book.rule_book import RuleBook

_WORDS = (
    ("Extent", "what we agreed to inspect"),
    ("Limitation", "what we could not inspect, and why"),
    ("LIM", "not tested, see limitations"),
    ("N/V", "could not be checked"),
    ("N/A", "does not apply here"),
    ("OL", "above the meter's range"),
    ("Ring, radial", "a circuit that comes back to the board, or one that ends at its last point"),
    ("cpc", "the earth wire of a circuit"),
    ("R1+R2", "resistance of a circuit's line and earth wires"),
    ("Insulation resistance, MΩ", "how well the wires are kept apart; much is good"),
    ("Ze", "earth of the supply"),
    ("Zs", "earth path of a circuit; little is good"),
    ("PSCC, PEFC", "greatest fault current"),
    ("Breaker", "switches a circuit off when too much flows"),
    ("RCD", "trip switch: cuts the supply fast enough to protect a person"),
    ("SPD", "takes surges, such as those of lightning, out of the supply"),
    ("Bonding", "joining metal pipes to earth"),
    ("Tails", "cables from the meter to the board"),
)


def section(rule_book: RuleBook) -> dict[str, Any]:
    """Every word with its meaning, as the rule book calls it."""
    return {"glossary": [{"word": rule_book.translate(word), "means": means} for word, means in _WORDS]}
