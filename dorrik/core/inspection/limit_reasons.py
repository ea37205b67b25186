"""Why a figure can be a limitation: what is chosen from for `LIM`, by what is measured (rules 7.4, 12.2)."""

from dorrik.core.basics.record import record
from dorrik.core.inspection.circuit import NO_ZS
from dorrik.core.inspection.fields import FieldSpec


@record
class LimitReasons:
    """What is offered for a figure; also: the field in which the chosen one is kept too, '' for none."""

    reasons: tuple[str, ...]
    also: str = ""


_ANY = LimitReasons(("no access", "behind fixed furniture", "equipment cannot be unplugged", "not agreed"))
_BY_QUANTITY = {
    "insulation": LimitReasons(
        ("equipment cannot be unplugged", "electronics cannot be disconnected", "must stay on", "not agreed")
    ),
    "loop": LimitReasons(("supply was off", "live tests stopped", "no point could be reached", "not agreed")),
    "trip-time": LimitReasons(("supply was off", "live tests stopped", "must stay on", "not agreed")),
}
#: Why there is no loop test is chosen from a list, and not guessed from words: a fault of the RCD is an observation.
_BY_FIELD = {("circuit", "zs_ohm"): LimitReasons(NO_ZS, "zs_not_possible")}


def reasons_of(kind: str, name: str, spec: FieldSpec) -> LimitReasons | None:
    """What a figure may be limited by; None where nothing is measured."""
    if spec.quantity is None:
        return None
    return _BY_FIELD.get((kind, name)) or _BY_QUANTITY.get(spec.quantity, _ANY)
