"""What is made of a photo to show it: turned the right way up, in two sizes, with nothing of the camera's own data.

The original is never changed. A photo that still says where it was taken is not taken: the device wipes that.
"""

import io
from dataclasses import dataclass

from PIL import Image, ImageOps, UnidentifiedImageError
from pillow_heif import register_heif_opener

#: Longest side (px) by the name of the size.
SIZES = {"small": 320, "large": 2000}
#: More than this is no photo of a camera (px): a small file that unfolds to fill the memory.
MOST_PIXELS = 60_000_000
_QUALITY = 80
#: Where Exif keeps the place, and its parts that say one.
_GPS, _PLACE = 0x8825, frozenset((2, 4))

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
    _says_no_place(image, content)
    try:
        image.draft("RGB", (SIZES["large"], SIZES["large"]))
        turned = ImageOps.exif_transpose(image)
        width, height = turned.size
        flat = _on_white(turned)
    except (OSError, ValueError, SyntaxError, Image.DecompressionBombError) as error:
        raise Unshowable(
            "The photo is damaged: it cannot be shown whole. Take it again, or choose its file."
        ) from error
    return Renditions(width, height, {name: _jpeg(flat, side) for name, side in SIZES.items()})


_TOO_MANY = "The photo unfolds to more picture than any camera takes; it was not opened."


def _opened(content: bytes) -> Image.Image:
    try:
        return Image.open(io.BytesIO(content), formats=("JPEG", "PNG", "WEBP", "HEIF"))
    except Image.DecompressionBombError as error:
        raise Unshowable(_TOO_MANY) from error
    except (UnidentifiedImageError, OSError, ValueError, SyntaxError) as error:
        raise Unshowable("That is no photo that can be shown: JPEG, PNG, WebP and HEIC are.") from error


def _says_no_place(image: Image.Image, content: bytes) -> None:
    said = _PLACE & set(image.getexif().get_ifd(_GPS))
    if said or _in_words(content):
        raise Unshowable("The photo says where it was taken: take it in through Dorrik, which wipes that.")


def _in_words(content: bytes) -> bool:
    """Does an XMP packet give a latitude? Blanked, only spaces are left between its marks."""
    at = content.find(b"GPSLatitude")
    while at >= 0:
        if any(chr(byte).isdigit() for byte in content[at + 11 : at + 40]):
            return True
        at = content.find(b"GPSLatitude", at + 1)
    return False


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
