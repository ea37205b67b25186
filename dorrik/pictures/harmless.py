"""Does the file of a photo hold its picture and nothing else? Known to be harmless is what is let through: everything
that makes the picture, and of the camera's own data how it is turned, its size, its colours and when it was taken.
Place, owner, serial numbers, comments, packets of words and whatever nobody has thought of yet are not.

Only the structure of the file is read, nothing is decoded; what cannot be followed is not harmless.
"""

import re
import struct
from collections.abc import Callable, Iterator
from typing import NamedTuple

_ZERO = b"\0"


def only_a_picture(content: bytes) -> bool:
    """Is there nothing in the file of a photo (JPEG, PNG, WebP, HEIC) beside its picture?"""
    for begins, check in _FORMATS:
        if begins(content):
            try:
                return check(content)
            except (struct.error, IndexError, ValueError, _LostError):
                return False
    return False


class _LostError(Exception):
    """The structure leads out of the file, or goes on for ever."""


def _blank(part: bytes) -> bool:
    return not part.strip(b"\0 ")


# JPEG (ITU-T T.81): marker segments, and between them the coded picture.

#: Tables, frames and scans; restart interval.
_OF_THE_PICTURE = frozenset((*range(0xC0, 0xD0), 0xDB, 0xDD, 0xDA))
_NEXT_MARKER = re.compile(rb"\xff[^\x00\xd0-\xd7\xff]")
_APP0, _APP1, _APP2, _APP14, _SCAN, _END = 0xE0, 0xE1, 0xE2, 0xEE, 0xDA, 0xD9


def _jpeg(content: bytes) -> bool:
    at = 2
    while True:
        if content[at] != 0xFF:
            return False
        marker = content[at + 1]
        if marker == 0xFF:
            at += 1
            continue
        if marker == _END:
            return _blank(content[at + 2 :])
        (length,) = struct.unpack_from(">H", content, at + 2)
        payload = content[at + 4 : at + 2 + length]
        if length < 2 or len(payload) != length - 2 or not (_segment(marker, payload) or _blank(payload)):
            return False
        at += 2 + length
        if marker == _SCAN:
            following = _NEXT_MARKER.search(content, at)
            if following is None:
                return False
            at = following.start()


def _segment(marker: int, payload: bytes) -> bool:
    if marker in _OF_THE_PICTURE:
        return True
    if marker == _APP0:
        # Without a small picture of its own.
        return len(payload) == 14 and payload.startswith(b"JFIF\0") and payload[12:] == b"\0\0"
    if marker == _APP1:
        return payload.startswith(b"Exif\0\0") and _exif(payload[6:])
    if marker == _APP2:
        return payload.startswith(b"ICC_PROFILE\0")
    return marker == _APP14 and len(payload) == 12 and payload.startswith(b"Adobe")


# Exif (CIPA DC-008): directories of entries in a TIFF block.

_EXIF_DIRECTORY = 0x8769
#: Figures: size, resolution, how it is turned, colours, exposure. None of them is words.
_FIGURES = frozenset(
    (
        0x0100, 0x0101, 0x0102, 0x0103, 0x0106, 0x0112, 0x0115, 0x011A, 0x011B, 0x0128, 0x0213, 0x829A, 0x829D, 0x8822,
        0x8827, 0x9000, 0x9101, 0x9201, 0x9202, 0x9203, 0x9204, 0x9205, 0x9207, 0x9208, 0x9209, 0x920A, 0xA000, 0xA001,
        0xA002, 0xA003, 0xA402, 0xA403, 0xA404, 0xA405, 0xA406,
    )
)  # fmt: skip
#: Moments: figures and signs, and a zone.
_MOMENTS = frozenset((0x0132, 0x9003, 0x9004, 0x9010, 0x9011, 0x9012, 0x9290, 0x9291, 0x9292))
_MOMENT = re.compile(rb"[0-9: +\-]{0,20}\0*")
_WORDS, _UNDEFINED = 2, 7
_WIDTH = {1: 1, 2: 1, 3: 2, 4: 4, 5: 8, 6: 1, 7: 1, 8: 2, 9: 4, 10: 8, 11: 4, 12: 8}
#: Values of an entry that are figures are few: what is longer holds something else.
_MOST_VALUES = 8


def _exif(block: bytes) -> bool:
    if _blank(block):
        return True
    order = {b"II": "<", b"MM": ">"}.get(block[:2])
    if order is None or struct.unpack_from(order + "H", block, 2)[0] != 42:
        return False
    known = bytearray(len(block))
    known[:8] = b"\1" * 8
    waiting = [struct.unpack_from(order + "I", block, 4)[0]]
    while waiting:
        directory = waiting.pop()
        (count,) = struct.unpack_from(order + "H", block, directory)
        end = directory + 2 + 12 * count
        # One directory and the camera's own below it: none that follows with a small picture.
        if any(known[directory : end + 4]) or struct.unpack_from(order + "I", block, end)[0]:
            return False
        _mark(known, directory, end + 4)
        for at in range(directory + 2, end, 12):
            tag, kind, values = struct.unpack_from(order + "HHI", block, at)
            size = _WIDTH.get(kind, 0) * values
            start = at + 8 if size <= 4 else struct.unpack_from(order + "I", block, at + 8)[0]
            value = block[start : start + size]
            if not size or len(value) != size:
                return False
            _mark(known, start, start + size)
            if tag == _EXIF_DIRECTORY:
                waiting.append(struct.unpack_from(order + "I", block, at + 8)[0])
            elif tag in _MOMENTS:
                if kind != _WORDS or not _MOMENT.fullmatch(value):
                    return False
            elif tag not in _FIGURES or kind == _WORDS or values > _MOST_VALUES:
                return False
    # Between what the directories name there is nothing.
    return all(named or not byte for named, byte in zip(known, block, strict=True))


def _mark(known: bytearray, start: int, end: int) -> None:
    if not 0 <= start <= end <= len(known):
        raise _LostError
    known[start:end] = b"\1" * (end - start)


# PNG (W3C), WebP (RFC 9649): chunks.

_PNG = frozenset(
    (
        b"IHDR", b"PLTE", b"IDAT", b"IEND", b"tRNS", b"gAMA", b"cHRM", b"sRGB", b"iCCP", b"sBIT", b"bKGD", b"pHYs",
        b"hIST", b"cICP",
    )
)  # fmt: skip
_WEBP = frozenset((b"VP8 ", b"VP8L", b"VP8X", b"ALPH", b"ICCP"))


def _png(content: bytes) -> bool:
    at = 8
    while at < len(content):
        length, name = struct.unpack_from(">I4s", content, at)
        payload = content[at + 8 : at + 8 + length]
        if name not in _PNG and not _blank(payload) and not (name == b"eXIf" and _exif(payload)):
            return False
        at += 12 + length
        if at > len(content):
            return False
        if name == b"IEND":
            return length == 0 and _blank(content[at:])
    return False


def _webp(content: bytes) -> bool:
    (size,) = struct.unpack_from("<I", content, 4)
    end = 8 + size
    at = 12
    while at + 8 <= min(end, len(content)):
        name, length = struct.unpack_from("<4sI", content, at)
        payload = content[at + 8 : at + 8 + length]
        harmless = name == b"EXIF" and _exif(payload.removeprefix(b"Exif\0\0"))
        if name not in _WEBP and not harmless and not _blank(payload):
            return False
        at += 8 + length + length % 2
    return end <= len(content) and at >= end and _blank(content[end:])


# HEIC (ISO/IEC 23008-12): boxes; what is in the file is told by items and where they lie.

_TOP = frozenset((b"ftyp", b"meta", b"mdat"))
_META = frozenset((b"hdlr", b"pitm", b"iinf", b"iloc", b"iref", b"iprp", b"idat", b"dinf", b"grpl"))
_PROPERTIES = frozenset(
    (
        b"ispe", b"pixi", b"colr", b"hvcC", b"av1C", b"avcC", b"jpgC", b"irot", b"imir", b"auxC", b"clap", b"pasp",
        b"clli", b"mdcv", b"rloc", b"lsel", b"a1op", b"a1lx", b"cclv", b"amve",
    )
)  # fmt: skip
#: Items that are pictures, or say how pictures make one.
_PICTURES = frozenset((b"hvc1", b"hev1", b"av01", b"avc1", b"jpeg", b"grid", b"iovl", b"iden", b"tmap"))
_NAMES = frozenset((b"", b"Image", b"image", b"Exif", b"XMP"))


class _Box(NamedTuple):
    name: bytes
    start: int
    end: int


def _boxes(content: bytes, start: int, end: int) -> Iterator[_Box]:
    while start < end:
        size, name = struct.unpack_from(">I4s", content, start)
        head = 8
        if size == 1:
            (size,) = struct.unpack_from(">Q", content, start + 8)
            head = 16
        elif size == 0:
            size = end - start
        if size < head or start + size > end:
            raise _LostError
        yield _Box(name, start + head, start + size)
        start += size


def _heif(content: bytes) -> bool:
    top = list(_boxes(content, 0, len(content)))
    metas = [box for box in top if box.name == b"meta"]
    if len(metas) != 1:
        return False
    meta = {box.name: box for box in _boxes(content, metas[0].start + 4, metas[0].end)}
    known = all(box.name in _TOP or _blank(content[box.start : box.end]) for box in top) and all(
        box.name in _META or _blank(content[box.start : box.end]) for box in meta.values()
    )
    if not known or not {b"iinf", b"iloc", b"iprp"} <= set(meta):
        return False
    handler = meta.get(b"hdlr")
    if handler is not None and not _blank(content[handler.start + 24 : handler.end]):
        return False
    if not all(_property(content, box) for box in _properties(content, meta[b"iprp"])):
        return False
    kinds = dict(_items(content, meta[b"iinf"]))
    stored = [box for box in top if box.name == b"mdat"]
    inside = meta.get(b"idat")
    if inside is not None:
        stored.append(inside)
    pictured: list[tuple[int, int]] = []
    for item, start, end in _extents(content, meta[b"iloc"], inside.start if inside is not None else None):
        kind = kinds.get(item, b"")
        if kind in _PICTURES or (kind == b"Exif" and _exif_item(content[start:end])):
            pictured.append((start, end))
    return all(_blank(content[start:end]) for start, end in _gaps(stored, pictured))


def _exif_item(value: bytes) -> bool:
    """An Exif item says first how far on its block begins."""
    if _blank(value):
        return True
    (skip,) = struct.unpack_from(">I", value, 0)
    between = value[4 : 4 + skip]
    return skip < len(value) and between in (b"", b"Exif\0\0") and _exif(value[4 + skip :])


def _properties(content: bytes, iprp: _Box) -> Iterator[_Box]:
    for box in _boxes(content, iprp.start, iprp.end):
        if box.name == b"ipco":
            yield from _boxes(content, box.start, box.end)
        elif box.name != b"ipma":
            yield box


def _property(content: bytes, box: _Box) -> bool:
    value = content[box.start : box.end]
    if box.name == b"auxC":
        return value[4:].startswith(b"urn:")
    return box.name in _PROPERTIES or _blank(value)


def _items(content: bytes, iinf: _Box) -> Iterator[tuple[int, bytes]]:
    """Number and kind of every item. Raises _LostError where one has a name that nobody knows."""
    first = iinf.start + (6 if content[iinf.start] == 0 else 8)
    for box in _boxes(content, first, iinf.end):
        version = content[box.start]
        if box.name != b"infe" or version not in (2, 3):
            raise _LostError
        wide = version == 3
        item, _, kind = struct.unpack_from(">IH4s" if wide else ">HH4s", content, box.start + 4)
        words = content[box.start + (14 if wide else 12) : box.end].split(b"\0")
        if words[0] not in _NAMES or (kind != b"mime" and any(words[1:])):
            raise _LostError
        yield item, kind


def _extents(content: bytes, iloc: _Box, inside: int | None) -> Iterator[tuple[int, int, int]]:
    """Item, start and end of every part of the file that belongs to an item. inside: where `idat` begins."""
    version = content[iloc.start]
    at = iloc.start + 4
    sizes, more = content[at], content[at + 1]
    offset_size, length_size, base_size = sizes >> 4, sizes & 15, more >> 4
    index_size = more & 15 if version in (1, 2) else 0
    at += 2

    def number(size: int) -> int:
        nonlocal at
        at += size
        if at > iloc.end or size not in (0, 2, 4, 8):
            raise _LostError
        return int.from_bytes(content[at - size : at], "big")

    for _ in range(number(4 if version == 2 else 2)):
        item = number(4 if version == 2 else 2)
        method = number(2) & 15 if version in (1, 2) else 0
        number(2)
        base = number(base_size)
        if method not in (0, 1) or (method == 1 and inside is None):
            raise _LostError
        for _ in range(number(2)):
            number(index_size)
            start = base + number(offset_size) + ((inside or 0) if method == 1 else 0)
            length = number(length_size)
            if start + length > len(content):
                raise _LostError
            yield item, start, start + length if length else len(content)


def _gaps(stored: list[_Box], pictured: list[tuple[int, int]]) -> Iterator[tuple[int, int]]:
    """What is stored and belongs to no picture."""
    for box in stored:
        at = box.start
        for start, end in sorted(pictured):
            if end <= at or start >= box.end:
                continue
            if start > at:
                yield at, start
            at = max(at, min(end, box.end))
        if at < box.end:
            yield at, box.end


_FORMATS: tuple[tuple[Callable[[bytes], bool], Callable[[bytes], bool]], ...] = (
    (lambda content: content.startswith(b"\xff\xd8\xff"), _jpeg),
    (lambda content: content.startswith(b"\x89PNG\r\n\x1a\n"), _png),
    (lambda content: content[:4] == b"RIFF" and content[8:12] == b"WEBP", _webp),
    (lambda content: content[4:8] == b"ftyp", _heif),
)
