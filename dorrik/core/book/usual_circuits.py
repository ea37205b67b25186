"""The usual circuits of a home (`data/usual_circuits.csv`): what a few letters or a tap at a board offer, never what
must be. They are corrected against what is there."""

from dorrik.core.basics.record import record
from dorrik.core.book.reference import cached, rows

#: Sizes of line and cpc (mm²) that twin cables are made in, as they are chosen at a board.
USUAL_CABLES = (
    (1.0, 1.0), (1.5, 1.0), (1.5, 1.5), (2.5, 1.0), (2.5, 1.5), (4.0, 1.5), (6.0, 2.5), (10.0, 4.0), (16.0, 6.0),
)  # fmt: skip
#: What every usual device is made to; the rest of its row names it.
_STANDARD = "BS EN 60898"
_WORDS = ("form", "serves", "device_type", "appliance", "load")
_NUMBERS = ("line_csa_mm2", "cpc_csa_mm2", "device_rating_a")


@record
class UsualCircuit:
    """A circuit as it is offered.

    button: words of its button at a board, in the order of `at`, '' for none; fields: what it brings; also: other words
    for it, in small letters.
    """

    name: str
    button: str
    at: int
    fields: dict[str, str | float | bool]
    also: tuple[str, ...]


@cached
def usual_circuits() -> tuple[UsualCircuit, ...]:
    """Every usual circuit, the commonest first."""
    return tuple(_circuit(row) for row in rows("usual_circuits"))


def _circuit(row: dict[str, str]) -> UsualCircuit:
    fields: dict[str, str | float | bool] = {name: row[name] for name in _WORDS if row[name]}
    fields |= {name: float(row[name]) for name in _NUMBERS if row[name]}
    fields |= dict.fromkeys(row["yes"].split(), True)
    # Two buttons of sockets: what the button adds is the form, not a name.
    fields["designation"] = "Sockets" if row["name"] == "Radial sockets" else row["name"]
    if row["device_type"]:
        fields["device_standard"] = _STANDARD
    at, _, button = row["button"].partition(" ")
    return UsualCircuit(row["name"], button, int(at or 0), fields, tuple(row["also"].split()))
