"""The columns of a circuit table, declared once: for the grid, the report, the CSV, and charts from elsewhere.

Which of the tests apply to a circuit comes with the judgement; here is what each is called, and in which order.
"""

from collections.abc import Iterable
from typing import Literal

from dorrik.core.basics.record import record

Of = Literal["circuit", "rcd", "board"]


@record
class Column:
    """One column, or one figure of a device or of a board as a whole.

    key: the field that stands in it, or a name of its own where it is put together of several (cable, device) or worked
    out (zs_limit). label: in full words; head: two short lines; printed: its head in the report, '' where it is not
    printed; csv: its head in our CSV, '' where it is not written; words: what its head may be called in a chart from
    elsewhere, none where it is not taken from one; stage: dead or live where it is measured, '' where it describes;
    check: found correct or not, rather than a figure; hint: what to mind.
    """

    key: str
    label: str
    head: tuple[str, str] = ("", "")
    printed: str = ""
    csv: str = ""
    words: tuple[str, ...] = ()
    stage: Literal["", "dead", "live"] = ""
    check: bool = False
    hint: str = ""


#: What a circuit is.
DESCRIBED: tuple[Column, ...] = (
    Column("board", "Board", csv="Board", words=("board", "db", "distribution board", "consumer unit", "cu")),
    Column(
        "way",
        "Way",
        printed="Way",
        csv="Way",
        words=("way", "cct", "cct no", "circuit no", "circuit number", "no", "nr", "number", "ref"),
    ),
    Column(
        "designation",
        "Circuit",
        printed="Circuit",
        csv="Circuit",
        words=("designation", "circuit", "description", "circuit description", "circuit designation", "name", "serves"),
    ),
    Column(
        "form",
        "Ring or radial",
        printed="Form",
        csv="Form",
        words=("form", "ring or radial", "ring/radial", "type of circuit", "wiring"),
    ),
    Column(
        "points_served",
        "Points",
        printed="Points",
        csv="Points",
        words=("points", "points served", "no of points", "number of points", "outlets"),
    ),
    Column(
        "cable",
        "Cable, line/cpc",
        printed="Cable mm²",
        words=("cable", "cable size", "cable mm2", "conductors", "csa", "size", "live/cpc"),
    ),
    Column(
        "line_csa_mm2",
        "Line, mm²",
        csv="Line mm2",
        words=("line", "live", "line mm2", "live mm2", "line csa", "live csa", "l mm2"),
    ),
    Column("cpc_csa_mm2", "Cpc, mm²", csv="Cpc mm2", words=("cpc", "cpc mm2", "cpc csa", "earth mm2")),
    Column("cable_length_m", "Length, m", words=("length", "length m", "cable length", "run")),
    Column(
        "device",
        "Device, such as B32",
        printed="Device",
        words=("device", "breaker", "mcb", "rcbo", "fuse", "protection", "ocpd"),
    ),
    Column(
        "device_standard",
        "Device standard",
        csv="Device standard",
        words=("standard", "bs en", "bs", "device standard", "bs (en)"),
    ),
    Column("device_type", "Device type", csv="Device type", words=("type", "curve", "device type", "type no")),
    Column("device_rating_a", "Rating, A", csv="Rating A", words=("rating", "rating a", "in", "in a", "amps", "a")),
    Column(
        "rcd_rated_ma",
        "RCD, mA",
        printed="RCD mA",
        csv="RCD mA",
        words=("rcd", "rcd ma", "rcd rating", "i delta n", "iδn", "residual", "ma"),
    ),
)

#: What is measured on a circuit, in the order of the work.
MEASURED: tuple[Column, ...] = (
    Column(
        "r1_ohm",
        "r1, end to end",
        ("Line", "end–end Ω"),
        "r1 Ω",
        "r1",
        ("r1", "r1 ohm", "r1 line", "ring r1"),
        "dead",
    ),
    Column("rn_ohm", "rn, end to end", ("Neutral", "end–end Ω"), "rn Ω", "rn", ("rn", "rn ohm", "rn neutral"), "dead"),
    Column("r2_ohm", "r2, end to end", ("Cpc", "end–end Ω"), "r2 Ω", "r2", ("r2", "r2 ohm", "r2 cpc"), "dead"),
    Column(
        "r1_r2_ohm",
        "R1+R2",
        ("R1+R2", "Ω"),
        "R1+R2 Ω",
        "R1+R2",
        ("r1+r2", "r1 + r2", "r1+r2 ohm", "(r1+r2)"),
        "dead",
    ),
    # In print it stands in the column of R1+R2, marked as R2.
    Column("long_lead_r2_ohm", "R2 by long lead", ("R2", "long lead Ω"), stage="dead"),
    Column(
        "insulation_ln_mohm",
        "Insulation L–N",
        ("L–N", "MΩ"),
        "L–N MΩ",
        "Insulation L-N",
        ("l-n", "ir l-n", "insulation l-n", "live-live", "ir live"),
        "dead",
    ),
    Column(
        "insulation_lne_mohm",
        "Insulation L+N–E",
        ("L+N–E", "MΩ"),
        "L+N–E MΩ",
        "Insulation L+N-E",
        ("l+n-e", "ir l-e", "insulation l-e", "live-earth", "insulation", "ir", "insulation resistance"),
        "dead",
    ),
    Column("insulation_le_mohm", "Insulation L–E", ("L–E", "MΩ"), stage="dead"),
    Column("insulation_ne_mohm", "Insulation N–E", ("N–E", "MΩ"), stage="dead"),
    Column("polarity", "Polarity", ("Polarity", ""), "Polarity", stage="dead", check=True),
    Column("zs_ohm", "Zs", ("Zs", "Ω"), "Zs Ω", "Zs", ("zs", "zs ohm", "measured zs", "max measured zs"), "live"),
    Column("zs_limit", "Max Zs", printed="Max Zs Ω"),
    Column(
        "rcd_trip_ms",
        "RCD time",
        ("RCD trip", "ms"),
        "Trip ms",
        "RCD time",
        ("rcd time", "trip time", "rcd ms", "disconnection time", "ms"),
        "live",
    ),
    Column("rcd_half", "Holds at ½ × IΔn", ("Holds at", "½ × IΔn"), stage="live", check=True),
    Column("rcd_five_ms", "RCD time at 5 × IΔn", ("At 5 ×", "ms"), stage="live"),
    Column("rcd_button", "RCD test button", ("RCD", "button"), "Button", stage="live", check=True),
    Column("afdd_button", "AFDD test button", ("AFDD", "button"), stage="live", check=True),
)

CIRCUIT: tuple[Column, ...] = DESCRIBED + MEASURED

#: The tests of a residual current device.
DEVICE: tuple[Column, ...] = (
    Column("trip_ms", "Trip time", ("Trip", "ms"), stage="live"),
    Column("half", "Holds at ½ × IΔn", ("Holds at", "½ × IΔn"), stage="live", check=True),
    Column("five_ms", "Trip time at 5 × IΔn", ("At 5 ×", "ms"), stage="live"),
    Column("button", "Test button", ("Test", "button"), stage="live", check=True),
)

#: Figures of a board as a whole.
BOARD: tuple[Column, ...] = (
    Column("zdb_ohm", "Zdb at this board", hint="with every bond reconnected"),
    Column("insulation_ln_mohm", "Insulation of the board, L–N", hint="every circuit on, every load out"),
    Column("insulation_lne_mohm", "Insulation of the board, L+N–E", hint="measure the circuits apart where it is low"),
)

BY_KIND: dict[Of, tuple[Column, ...]] = {"circuit": CIRCUIT, "rcd": DEVICE, "board": BOARD}


def printed() -> tuple[Column, ...]:
    """The columns of the report's table of circuits."""
    return tuple(column for column in CIRCUIT if column.printed)


def written() -> tuple[Column, ...]:
    """The columns of our CSV."""
    return tuple(column for column in CIRCUIT if column.csv)


def taken() -> tuple[Column, ...]:
    """What a column of a chart from elsewhere can be."""
    return tuple(column for column in CIRCUIT if column.words)


def keys(columns: Iterable[Column]) -> tuple[str, ...]:
    """Their keys, in their order."""
    return tuple(column.key for column in columns)
