"""A photo with what was marked on it, as a drawing: arrows, rings and numbers laid over it, and what nobody is to
read made so in the picture itself, where nobody takes it off again."""

import base64
import io
from collections.abc import Mapping, Sequence
from math import atan2, cos, hypot, sin
from typing import Any
from xml.sax.saxutils import quoteattr

from PIL import Image

from dorrik.core.inspection.photo_marks import FIGURES
from dorrik.pictures.renditions import PRINTED

#: What is unreadable is left as so many blocks across at most.
BLOCKS = 6
_LAMP, _INK = "#ffc94d", "#17272b"
Mark = Mapping[str, Any]


def svg(jpeg: bytes, marks: Sequence[Mark], size: str, words: str) -> str:
    """The photo as SVG text. jpeg: a rendition of our own; marks: in parts of its width and height; words: for who does
    not see it."""
    opened = Image.open(io.BytesIO(jpeg))
    width, height = opened.size
    blurred = [mark for mark in marks if mark["kind"] == "blur"]
    if blurred or max(width, height) > PRINTED[size] or opened.mode not in ("RGB", "L"):
        # Shrunk as it is decoded: a third of the time.
        opened.thumbnail((PRINTED[size], PRINTED[size]), reducing_gap=1.0)
        image = opened.convert("RGB")
        for mark in blurred:
            _unreadable(image, mark)
        out = io.BytesIO()
        image.save(out, "JPEG", quality=78)
        jpeg, (width, height) = out.getvalue(), image.size
    drawn = "".join(_drawn(mark, number, width, height) for mark, number in _numbered(marks))
    data = base64.b64encode(jpeg).decode()
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" role="img" '
        f'aria-label={quoteattr(words)} viewBox="0 0 {width} {height}" width="{width}" height="{height}">'
        f'<image width="{width}" height="{height}" xlink:href="data:image/jpeg;base64,{data}"/>{drawn}</svg>'
    )


def _numbered(marks: Sequence[Mark]) -> list[tuple[Mark, int]]:
    count, found = 0, []
    for mark in marks:
        count += mark["kind"] == "number"
        found.append((mark, count))
    return found


def _unreadable(image: Image.Image, mark: Mark) -> None:
    left, right = sorted((round(mark["x"] * image.width), round(mark["x2"] * image.width)))
    top, bottom = sorted((round(mark["y"] * image.height), round(mark["y2"] * image.height)))
    if right - left < 1 or bottom - top < 1:
        return
    part = image.crop((left, top, right, bottom))
    across = max(1, min(BLOCKS, part.width))
    down = max(1, min(BLOCKS, part.height))
    blocks = part.resize((across, down), Image.Resampling.BOX)
    image.paste(blocks.resize(part.size, Image.Resampling.NEAREST), (left, top))


def _drawn(mark: Mark, number: int, width: int, height: int) -> str:
    x, y, x2, y2 = mark["x"] * width, mark["y"] * height, mark["x2"] * width, mark["y2"] * height
    unit = max(width, height) / 1000
    match mark["kind"]:
        case "number":
            return (
                f'<circle cx="{x:.1f}" cy="{y:.1f}" r="{FIGURES["disc"] * unit:.1f}" fill="{_LAMP}" stroke="{_INK}" '
                f'stroke-width="{FIGURES["rim"] * unit:.1f}"/>'
                f'<text x="{x:.1f}" y="{y + FIGURES["number_down"] * unit:.1f}" text-anchor="middle" '
                f'font-family="Atkinson Hyperlegible Next" font-weight="700" '
                f'font-size="{FIGURES["number"] * unit:.1f}" '
                f'fill="{_INK}">{number}</text>'
            )
        case "ring":
            shape = (
                f'<ellipse cx="{(x + x2) / 2:.1f}" cy="{(y + y2) / 2:.1f}" rx="{abs(x2 - x) / 2:.1f}" '
                f'ry="{abs(y2 - y) / 2:.1f}"'
            )
        case "arrow":
            shape = f'<path d="{_arrow(x, y, x2, y2, FIGURES["head"] * unit)}"'
        case _:
            return ""
    lines = ((_INK, FIGURES["under"]), (_LAMP, FIGURES["over"]))
    return "".join(
        f'{shape} fill="none" stroke="{ink}" stroke-width="{heavy * unit:.1f}" stroke-linecap="round"/>'
        for ink, heavy in lines
    )


def _arrow(x: float, y: float, x2: float, y2: float, wing: float) -> str:
    if hypot(x2 - x, y2 - y) == 0:
        return f"M{x:.1f} {y:.1f}"
    angle, turned = atan2(y2 - y, x2 - x), FIGURES["head_angle"]
    ends = [f"{x2 - wing * cos(angle + turn):.1f} {y2 - wing * sin(angle + turn):.1f}" for turn in (turned, -turned)]
    return f"M{x:.1f} {y:.1f} L{x2:.1f} {y2:.1f} M{ends[0]} L{x2:.1f} {y2:.1f} L{ends[1]}"
