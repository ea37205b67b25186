"""Photos of the demo, drawn by program: what a camera might have seen in the made-up town."""

import hashlib
import io
from collections.abc import Callable
from random import Random

from PIL import Image, ImageDraw, ImageFilter

from dorrik.demo.scribe import Scribe
from dorrik.pictures import renditions
from dorrik.store.files.photos import PhotoStore

SIZE = (1280, 960)
_Pen = ImageDraw.ImageDraw


def _wall(colour: tuple[int, int, int], seed: int) -> tuple[Image.Image, _Pen]:
    """A plastered wall in the light of a torch: brighter in the middle, uneven."""
    image = Image.new("RGB", SIZE, colour)
    pen = ImageDraw.Draw(image)
    chance = Random(seed)
    for _ in range(260):
        x, y, r = chance.randrange(SIZE[0]), chance.randrange(SIZE[1]), chance.randrange(20, 120)
        shade = chance.randrange(-7, 8)
        pen.ellipse((x - r, y - r, x + r, y + r), fill=tuple(min(255, max(0, part + shade)) for part in colour))
    glow = Image.radial_gradient("L").resize(SIZE)
    image = Image.composite(
        Image.new("RGB", SIZE, (38, 34, 30)),
        image.filter(ImageFilter.GaussianBlur(9)),
        glow.point([p // 2 for p in range(256)]),
    )
    return image, ImageDraw.Draw(image)


def _plate(pen: _Pen, box: tuple[int, int, int, int]) -> None:
    left, top, right, bottom = box
    pen.rounded_rectangle((left + 10, top + 14, right + 10, bottom + 14), 26, fill=(96, 88, 78))
    pen.rounded_rectangle(box, 26, fill=(236, 232, 222), outline=(180, 174, 160), width=5)
    for x in (left + 46, right - 46):
        pen.ellipse((x - 14, (top + bottom) // 2 - 14, x + 14, (top + bottom) // 2 + 14), fill=(170, 166, 156))


def socket(cracked: bool) -> Image.Image:
    """A single socket; cracked from its edge to an opening, or whole."""
    image, pen = _wall((203, 192, 170), 3)
    _plate(pen, (400, 220, 880, 700))
    for x, y, w, h in ((612, 330, 56, 96), (500, 480, 96, 50), (684, 480, 96, 50)):
        pen.rounded_rectangle((x, y, x + w, y + h), 8, fill=(42, 40, 38))
    if cracked:
        pen.line(((878, 300), (820, 352), (792, 344), (752, 420), (722, 424), (700, 482)), fill=(66, 60, 52), width=7)
        pen.line(((792, 344), (770, 300), (776, 262)), fill=(88, 80, 70), width=4)
    return image


def bath_light() -> Image.Image:
    """An open light fitting on a tiled wall above a bath."""
    image, pen = _wall((198, 210, 208), 5)
    for x in range(0, SIZE[0], 160):
        pen.line(((x, 0), (x, SIZE[1])), fill=(168, 180, 178), width=4)
    for y in range(0, SIZE[1], 160):
        pen.line(((0, y), (SIZE[0], y)), fill=(168, 180, 178), width=4)
    pen.ellipse((440, 170, 840, 570), fill=(120, 116, 108))
    pen.ellipse((460, 180, 820, 540), fill=(226, 220, 204), outline=(150, 144, 130), width=8)
    pen.ellipse((560, 280, 720, 440), fill=(250, 240, 200))
    pen.rounded_rectangle((0, 800, SIZE[0], 1100), 60, fill=(240, 240, 236), outline=(160, 164, 160), width=8)
    return image


def board() -> Image.Image:
    """A wooden board over a door, its cover off to one side."""
    image, pen = _wall((188, 176, 156), 8)
    pen.rectangle((180, 760, 1100, 960), fill=(112, 84, 58))
    pen.rectangle((240, 180, 1040, 640), fill=(150, 112, 72), outline=(96, 70, 44), width=12)
    for n in range(6):
        left = 320 + n * 112
        pen.rounded_rectangle((left, 280, left + 84, 540), 8, fill=(58, 54, 50))
        pen.rounded_rectangle((left + 24, 340, left + 60, 420), 6, fill=(214, 208, 196))
    return image


def pull_cord() -> Image.Image:
    """A pull cord switch with a hole in its side."""
    image, pen = _wall((208, 206, 196), 13)
    pen.ellipse((470, 150, 810, 490), fill=(232, 228, 218), outline=(170, 164, 152), width=6)
    pen.ellipse((720, 300, 790, 370), fill=(48, 44, 40))
    pen.line(((640, 490), (646, 900)), fill=(224, 220, 208), width=9)
    return image


def pinned(
    scribe: Scribe,
    store: PhotoStore,
    firm_id: str,
    draw: Callable[[], Image.Image],
    entity: str,
    entity_id: str,
    **more: object,
) -> None:
    """Draw a photo, keep it as one that was sent, and pin it."""
    out = io.BytesIO()
    draw().save(out, "JPEG", quality=82)
    content = out.getvalue()
    sha256 = hashlib.sha256(content).hexdigest()
    store.keep(firm_id, sha256, content, renditions.make(content).by_size)
    scribe.add(
        "photo", "inspection", scribe.inspection, about_entity=entity, about_id=entity_id, sha256=sha256, **more
    )  # fmt: skip
