"""Pictures as cameras make them, for tests: with their turn, with their place, in each format."""

import io

import pillow_heif
from PIL import Image

#: Exif: how the picture is turned, the place, and its latitude and longitude.
_ORIENTATION, _GPS, _ARTIST = 0x0112, 0x8825, 0x013B


def picture(width=320, height=240, kind="JPEG", *, turned=1, place=None, colour=(180, 60, 40), owner=None):
    """A picture with its left half in a colour and its right half white. place: degrees of latitude; owner: a name that
    the camera writes into its own data and into a packet of words."""
    image = Image.new("RGB", (width, height), "white")
    image.paste(colour, (0, 0, width // 2, height))
    exif = Image.Exif()
    exif[_ORIENTATION] = turned
    if place is not None:
        exif.get_ifd(_GPS).update({1: "N", 2: (place, 30.0, 0.0), 3: "W", 4: (1.0, 2.0, 0.0)})
    if owner is not None:
        exif[_ARTIST] = owner
    out = io.BytesIO()
    if kind == "HEIF":
        words = f"<x:xmpmeta><dc:creator>{owner}</dc:creator></x:xmpmeta>".encode() if owner else None
        pillow_heif.from_pillow(image).save(out, quality=70, exif=exif.tobytes(), xmp=words)
    else:
        image.save(out, kind, exif=exif)
    return out.getvalue()


def opened(content):
    """A picture as it can be looked at."""
    return Image.open(io.BytesIO(content))
