"""Why a figure can be a limitation: what is chosen from for `LIM`, by what is measured (rules 7.4, 12.2)."""

from dorrik.core.basics.record import record
from dorrik.core.inspection.field_spec import FieldSpec


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


def reasons_of(spec: FieldSpec) -> LimitReasons | None:
    """What a figure may be limited by: its own reasons, else those of what is measured; None where nothing is."""
    if spec.quantity is None:
        return None
    return LimitReasons(spec.limited_by, spec.limited_in) if spec.limited_by else _BY_QUANTITY.get(spec.quantity, _ANY)
