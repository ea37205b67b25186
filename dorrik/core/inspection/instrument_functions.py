"""What an instrument can be set to, and which figures take what it then shows.

A reading that comes over a link says with which function and in which unit it was taken; a figure takes it only where
both fit. A figure in kA takes amperes too, and so on, as it does when they are typed (rule 1.1).
"""

from collections.abc import Mapping
from types import MappingProxyType

from dorrik.core.basics.record import record
from dorrik.core.inspection.field_spec import FieldSpec


@record
class Function:
    """A function of an instrument: its key in messages, its words, and the units that it shows, the usual one first."""

    key: str
    label: str
    units: tuple[str, ...]


_ALL = (
    Function("continuity", "continuity", ("Ω", "mΩ", "kΩ")),
    Function("null", "null of the leads", ("Ω", "mΩ")),
    Function("insulation", "insulation", ("MΩ", "kΩ", "GΩ")),
    Function("loop", "loop impedance", ("Ω", "mΩ", "kΩ")),
    Function("fault-current", "fault current", ("kA", "A")),
    Function("rcd", "RCD time at 1 × IΔn", ("ms", "s")),
    Function("rcd-five", "RCD time at 5 × IΔn", ("ms", "s")),
    Function("leakage", "leakage by clamp", ("mA", "A")),
    Function("varistor", "varistor test", ("V d.c.", "V")),
    Function("voltage", "voltage", ("V",)),
)
FUNCTIONS: Mapping[str, Function] = MappingProxyType({function.key: function for function in _ALL})
_BY_QUANTITY = {
    "continuity": "continuity",
    "insulation": "insulation",
    "loop": "loop",
    "trip-time": "rcd",
    "leakage": "leakage",
    "direct-voltage": "varistor",
}


def function_of(spec: FieldSpec) -> Function | None:
    """The function whose readings a field takes: its own, else that of its quantity; None where none does."""
    if spec.takes:
        return FUNCTIONS[spec.takes]
    if spec.quantity is None:
        return None
    if spec.quantity == "loop" and spec.unit == "kA":
        return FUNCTIONS["fault-current"]
    return FUNCTIONS[_BY_QUANTITY[spec.quantity]]
