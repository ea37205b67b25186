"""What is made of a photo to show it: turned the right way up, in its sizes, with nothing of the camera's own data.

The original is never changed. A photo that holds anything beside its picture is not taken: the device leaves that out.
"""

import io
from dataclasses import dataclass

from pi_heif import register_heif_opener
from PIL import Image, ImageOps, UnidentifiedImageError

from dorrik.pictures.harmless import only_a_picture

#: Longest side of a printed photo (px) by the size it is printed in.
PRINTED = {"small": 640, "large": 1400}
#: Longest side (px) by the name of the size; printed ones are made beforehand, so that a report with forty photos does
#: not wait for them.
SIZES = {"small": 320, "large": 2000} | {f"printed-{size}": longest for size, longest in PRINTED.items()}
#: More than this is no photo of a camera (px): a small file that unfolds to fill the memory.
MOST_PIXELS = 60_000_000
_QUALITY = 80
#: Where Exif says how a picture is turned; from the fifth way on it lies on its side.
_ORIENTATION, _ON_ITS_SIDE = 0x0112, 5

register_heif_opener()
Image.MAX_IMAGE_PIXELS = MOST_PIXELS


class Unshowable(ValueError):
    """The content cannot be shown as a photo; the message says why, for whoever took it."""


@dataclass(frozen=True, slots=True)
class Renditions:
    """A photo as JPEG by size, and the shape of its original the right way up (px)."""

    width: int
    height: int
    by_size: dict[str, bytes]


def make(content: bytes) -> Renditions:
    """Renditions of a photo (JPEG, PNG, WebP, HEIC). Raises Unshowable."""
    image = _opened(content)
    if image.width * image.height > MOST_PIXELS:
        raise Unshowable(_TOO_MANY)
    try:
        width, height = image.size
        turned = image.getexif().get(_ORIENTATION)
        if isinstance(turned, int) and turned >= _ON_ITS_SIDE:
            width, height = height, width
        image.draft("RGB", (SIZES["large"], SIZES["large"]))
        # Shrunk before anything else is made of it: what the limit lets through fits into memory.
        flat = ImageOps.exif_transpose(_on_white(_shrunk(image)))
    except (OSError, ValueError, TypeError, SyntaxError, Image.DecompressionBombError) as error:
        raise Unshowable(
            "The photo is damaged: it cannot be shown whole. Take it again, or choose its file."
        ) from error
    if not only_a_picture(content):
        raise Unshowable(_MORE_THAN_A_PICTURE)
    return Renditions(width, height, {name: _jpeg(flat, side) for name, side in SIZES.items()})


_MORE_THAN_A_PICTURE = (
    "The photo holds data of its own, such as where it was taken or whose camera it was: take it in through Dorrik, "
    "which leaves that out."
)
_TOO_MANY = "The photo unfolds to more picture than any camera takes; it was not opened."


def _opened(content: bytes) -> Image.Image:
    try:
        return Image.open(io.BytesIO(content), formats=("JPEG", "PNG", "WEBP", "HEIF"))
    except Image.DecompressionBombError as error:
        raise Unshowable(_TOO_MANY) from error
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as error:
        raise Unshowable("That is no photo that can be shown: JPEG, PNG, WebP and HEIC are.") from error


def _shrunk(image: Image.Image) -> Image.Image:
    """No larger than the largest rendition, in colours that can be mixed."""
    longest = SIZES["large"]
    if max(image.size) > longest:
        if image.mode == "P":
            image = image.convert("RGBA" if "transparency" in image.info else "RGB")
        image.thumbnail((longest, longest))
    return image


def _on_white(image: Image.Image) -> Image.Image:
    if image.mode in ("RGBA", "LA", "P"):
        layer = image.convert("RGBA")
        ground = Image.new("RGBA", layer.size, "white")
        return Image.alpha_composite(ground, layer).convert("RGB")
    return image.convert("RGB")


def _jpeg(image: Image.Image, longest: int) -> bytes:
    shrunk = image.copy()
    shrunk.thumbnail((longest, longest))
    out = io.BytesIO()
    shrunk.save(out, "JPEG", quality=_QUALITY, optimize=True)
    return out.getvalue()
