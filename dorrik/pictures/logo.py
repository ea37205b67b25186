"""A firm's logo as a drawing of our own: from a picture, or from an SVG of which only shapes and colours are kept.

What comes out is SVG text that names nothing outside itself and does nothing.
"""

import base64
import io
import re
from xml.etree import ElementTree

from PIL import Image

from dorrik.pictures import subprocess_reader

#: Largest file (bytes), shapes of a drawing, and the longest side that a picture is kept with (px).
LARGEST, MOST_SHAPES, LONGEST = 2_000_000, 4_000, 900
_SVG = "http://www.w3.org/2000/svg"
#: What draws by naming another part could unfold to anything, and is left out.
_SHAPES = frozenset(
    ("svg", "g", "path", "rect", "circle", "ellipse", "line", "polyline", "polygon", "defs", "linearGradient",
     "radialGradient", "stop", "clipPath")
)  # fmt: skip
#: Left out with everything in them: nobody misses them on paper.
_SILENT = frozenset(("title", "desc", "metadata", "style", "namedview"))
_ATTRIBUTES = frozenset(
    ("d", "x", "y", "width", "height", "cx", "cy", "r", "rx", "ry", "x1", "x2", "y1", "y2", "fx", "fy", "points",
     "fill", "fill-rule", "fill-opacity", "stroke", "stroke-width", "stroke-linecap", "stroke-linejoin",
     "stroke-miterlimit", "stroke-dasharray", "stroke-opacity", "clip-path", "clip-rule", "opacity", "transform",
     "viewBox", "id", "offset", "stop-color", "stop-opacity", "gradientUnits", "gradientTransform", "spreadMethod",
     "preserveAspectRatio")
)  # fmt: skip
_RULE = re.compile(r"\.([A-Za-z_][\w-]*)\s*\{([^{}]*)\}")
_OUTSIDE = re.compile(r"url\(\s*['\"]?(?!#)|javascript:|data:|expression\(|@import|//", re.IGNORECASE)


class NoLogo(ValueError):
    """The file is no logo that can be printed; the message says why."""


def cleaned(content: bytes) -> str:
    """The logo as SVG text. content: a picture (JPEG, PNG, WebP, HEIC) or an SVG. Raises NoLogo,
    subprocess_reader.DecodingLate and renditions.Unshowable."""
    if len(content) > LARGEST:
        raise NoLogo(f"A logo has at most {LARGEST // 1_000_000} MB.")
    start = content[:400].lstrip(b"\xef\xbb\xbf \t\r\n")
    if start.startswith((b"<?xml", b"<svg", b"<!")):
        return _drawing(content)
    return _picture(subprocess_reader.make(content).by_size["large"])


def _picture(jpeg: bytes) -> str:
    image = Image.open(io.BytesIO(jpeg)).convert("RGB")
    image.thumbnail((LONGEST, LONGEST))
    out = io.BytesIO()
    image.save(out, "JPEG", quality=88)
    width, height = image.size
    data = base64.b64encode(out.getvalue()).decode()
    shape = f'width="{width}" height="{height}"'
    return (
        f'<svg xmlns="{_SVG}" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 {width} {height}" {shape}>'
        f'<image {shape} xlink:href="data:image/jpeg;base64,{data}"/></svg>'
    )


def _drawing(content: bytes) -> str:
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise NoLogo("The drawing is not written in UTF-8: save it as plain SVG.") from None
    # Whatever declares entities could unfold to anything.
    if re.search(r"<!(DOCTYPE\s[^>]*\[|ENTITY|ELEMENT|ATTLIST)", text, re.IGNORECASE):
        raise NoLogo("The drawing declares entities of its own: save it as plain SVG.")
    try:
        root = ElementTree.fromstring(re.sub(r"<!DOCTYPE[^>]*>", "", text, flags=re.IGNORECASE))
    except ElementTree.ParseError:
        raise NoLogo("The drawing cannot be read: save it as plain SVG.") from None
    if _name(root.tag) != "svg":
        raise NoLogo("That is no SVG drawing.")
    size = _size(root)
    styles = {
        name: body
        for element in root.iter()
        if _name(element.tag) == "style"
        for name, body in _RULE.findall(element.text or "")
    }
    count = [0]
    made = _kept(root, styles, count, 0)
    if made is None or count[0] < 2:
        raise NoLogo("There is no shape in the drawing.")
    made.attrib = {"viewBox": size, "xmlns": _SVG}
    return ElementTree.tostring(made, encoding="unicode")


def _name(tag: object) -> str:
    return tag.rpartition("}")[2] if isinstance(tag, str) else ""


def _size(root: ElementTree.Element) -> str:
    """The view box of a drawing, or one made of its width and height."""
    numbers = re.findall(r"-?\d+(?:\.\d+)?(?:e-?\d+)?", root.get("viewBox", ""))
    if len(numbers) != 4:
        sides = [re.match(r"\s*(\d+(?:\.\d+)?)\s*(px|mm|cm|pt|in)?\s*$", root.get(s, "")) for s in ("width", "height")]
        if None in sides:
            raise NoLogo("The drawing does not say how large it is: it has no viewBox.")
        numbers = ["0", "0", *(side[1] for side in sides if side is not None)]
    if float(numbers[2]) <= 0 or float(numbers[3]) <= 0 or not 0.05 <= float(numbers[2]) / float(numbers[3]) <= 20:
        raise NoLogo("The drawing is no larger than nothing, or far longer than wide.")
    return " ".join(numbers)


def _kept(
    element: ElementTree.Element, styles: dict[str, str], count: list[int], depth: int
) -> ElementTree.Element | None:
    """The element with what is kept of it; None where nothing is."""
    name = _name(element.tag)
    if name in ("text", "tspan"):
        raise NoLogo("The drawing has text in it: turn the text into paths, so that it looks the same everywhere.")
    if name == "image":
        raise NoLogo("The drawing has a picture in it: take the picture itself as the logo.")
    if name not in _SHAPES or name in _SILENT:
        return None
    count[0] += 1
    if count[0] > MOST_SHAPES or depth > 40:
        raise NoLogo(f"The drawing has more than {MOST_SHAPES} shapes, or they lie too deep: make it plainer.")
    attributes: dict[str, str] = {}
    for class_name in (element.get("class") or "").split():
        attributes |= _declared(styles.get(class_name, ""))
    attributes |= {_name(key): value for key, value in element.attrib.items() if _name(key) in _ATTRIBUTES}
    attributes |= _declared(element.get("style", ""))
    made = ElementTree.Element(name, {key: value for key, value in attributes.items() if not _OUTSIDE.search(value)})
    for child in element:
        if (kept := _kept(child, styles, count, depth + 1)) is not None:
            made.append(kept)
    return made


def _declared(style: str) -> dict[str, str]:
    """What a style says, as attributes."""
    pairs = (part.partition(":") for part in style.split(";"))
    return {key.strip(): value.strip() for key, _, value in pairs if key.strip() in _ATTRIBUTES and value.strip()}
