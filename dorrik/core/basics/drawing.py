"""A drawing as data: laid out once, drawn by the screen and by the report, each with a look of its own.

Lengths are in units of the drawing, from its upper left corner. `look` says what a shape is, not how it is drawn: a
screen has a theme, paper has ink.
"""

from typing import Literal

from dorrik.core.basics.record import record
from dorrik.core.basics.verdict import Status

PathLook = Literal[
    "supply", "feed", "earth", "earth unknown", "bond", "bond open", "pointer", "ground",
    "electrode", "electrode below",
    "cable", "cable open", "gap", "link", "spur",
    "floor", "walls", "partition", "basin", "band",
]  # fmt: skip
BoxLook = Literal[
    "soil", "part", "part unknown", "part absent", "reach", "board", "board unconfirmed",
    "zone 0", "zone 1", "zone 2",
]  # fmt: skip
DiscLook = Literal[
    "end", "end open", "reach", "dot", "dot tested", "dot aside", "blank", "foot", "point", "point wanting",
]  # fmt: skip
WordsLook = Literal[
    "title", "line", "figure", "beside", "small", "quiet", "title of board", "line of board",
    "metres", "way", "number", "says", "measure", "name",
]  # fmt: skip
Anchor = Literal["start", "middle", "end"]


@record
class Path:
    """A line or an outline, as the commands of an SVG path."""

    d: str
    look: PathLook


@record
class Box:
    """A rectangle by its upper left corner."""

    x: float
    y: float
    width: float
    height: float
    look: BoxLook


@record
class Disc:
    """A circle by its centre."""

    x: float
    y: float
    radius: float
    look: DiscLook


@record
class Words:
    """A line of text on its base line; anchor: which end of it stands at x."""

    x: float
    y: float
    text: str
    look: WordsLook
    anchor: Anchor = "start"


@record
class Sign:
    """The mark of a verdict, by its centre; inverse: it stands on ink."""

    x: float
    y: float
    status: Status
    inverse: bool = False


@record(kw_only=True)
class DrawnPart:
    """Something drawn, from the back to the front in this order: boxes, paths, discs, signs, words.

    key: what a tap on it chooses, '' where it cannot be tapped; says: what it shows, for who does not see it.
    """

    key: str = ""
    says: str = ""
    boxes: tuple[Box, ...] = ()
    paths: tuple[Path, ...] = ()
    discs: tuple[Disc, ...] = ()
    signs: tuple[Sign, ...] = ()
    words: tuple[Words, ...] = ()


@record(kw_only=True)
class Scale:
    """Where a tap lies in metres: from a corner of the drawing, so many units a metre; up: y counts upwards."""

    x: float
    y: float
    per_m: float
    up: bool


@record(kw_only=True)
class Drawing:
    """says: what it shows, for who does not see it; left, top: its corner; scale: of a plan, else None."""

    says: str
    width: float
    height: float
    parts: tuple[DrawnPart, ...]
    left: float = 0.0
    top: float = 0.0
    scale: Scale | None = None
