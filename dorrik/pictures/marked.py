"""A photo with what was marked on it, as a drawing: arrows, rings and numbers laid over it, and what nobody is to
read made so in the picture itself, where nobody takes it off again."""

import base64
import io
from collections.abc import Sequence

from PIL import Image

from dorrik.pictures import drawn_marks
from dorrik.pictures.drawn_marks import Mark
from dorrik.pictures.renditions import PRINTED

#: What is unreadable is left as so many blocks across at most.
BLOCKS = 6


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
    data = base64.b64encode(jpeg).decode()
    return drawn_marks.over(f"data:image/jpeg;base64,{data}", width, height, marks, words)


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
