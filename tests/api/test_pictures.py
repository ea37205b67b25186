"""Photos as pictures: every format shown, turned, shrunk, without a place; bombs and damage told; unreadable parts."""

import base64
import hashlib
import io
import re
import struct
import zlib

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image

from dorrik.pictures import harmless, marked, renditions, subprocess_reader
from tests.examples import examples
from tests.pictures import opened, picture


@pytest.fixture
def put(inspector):
    inspection = inspector.begin()

    def send(content):
        sha256 = hashlib.sha256(content).hexdigest()
        path = f"/api/inspections/{inspection}/photos/{sha256}"
        return inspector.http.put(path, content=content), path

    send.inspection = inspection
    return send


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP", "HEIF"])
def test_every_format_is_kept_as_it_came_and_shown_as_jpeg(put, inspector, kind):
    content = picture(2400, 1800, kind)
    answer, path = put(content)
    assert answer.status_code == 204, answer.text
    assert inspector.http.get(path).content == content
    for size, longest in (("small", 320), ("large", 2000)):
        shown = inspector.http.get(f"{path}?size={size}")
        assert shown.headers["content-type"] == "image/jpeg"
        image = opened(shown.content)
        assert image.size == (longest, longest * 3 // 4)
        assert not image.getexif()
        red, white = image.getpixel((10, 10)), image.getpixel((longest - 10, 10))
        assert red[0] > 150 and red[1] < 100 and min(white) > 240


def test_a_picture_taken_on_its_side_is_shown_upright(put, inspector):
    # Orientation 6: to be turned a quarter to the right; what was left is then on top.
    answer, path = put(picture(1200, 900, turned=6))
    assert answer.status_code == 204
    image = opened(inspector.http.get(f"{path}?size=small").content)
    assert image.size == (240, 320)
    assert image.getpixel((120, 10))[1] < 100 and min(image.getpixel((120, 310))) > 240


@pytest.mark.parametrize("kind", ["JPEG", "HEIF"])
def test_a_photo_that_says_where_it_was_taken_is_not_taken(put, kind):
    answer, _ = put(picture(kind=kind, place=54.0))
    assert answer.status_code == 422
    assert "where it was taken" in answer.json()["fields"][0]["message"]


def segment(marker, payload):
    """One segment of a JPEG."""
    return bytes((0xFF, marker)) + struct.pack(">H", len(payload) + 2) + payload


def chunk(name, data):
    """One chunk of a PNG."""
    return struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))


def tiff(*entries, order="<", behind=b""):
    """An Exif block with one directory. entries: tag, kind, number of values, the value or where it lies."""
    mark = b"II*\0" if order == "<" else b"MM\0*"
    body = b"".join(struct.pack(order + "HHI", *entry[:3]) + entry[3] for entry in entries)
    return mark + struct.pack(order + "IH", 8, len(entries)) + body + b"\0" * 4 + behind


def in_jpeg(payload, marker=0xE1):
    content = picture()
    return content[:2] + segment(marker, payload) + content[2:]


def in_exif(*entries, **more):
    return in_jpeg(b"Exif\0\0" + tiff(*entries, **more))


def in_png(name, data):
    content = picture(kind="PNG")
    head = 8 + 25
    return content[:head] + chunk(name, data) + content[head:]


WORDS = b'<x:xmpmeta exif:GPSLatitude="54,32.1N" exif:GPSDestLatitude="54,1N"/>'
PLAIN = struct.pack("<HH", 1, 0)
#: Where the directory of one entry ends.
AT_26 = struct.pack("<I", 26)
#: What cameras and programs put beside a picture, in every place that there is for it.
BESIDE = {
    "words": in_jpeg(b"http://ns.adobe.com/xap/1.0/\0" + WORDS),
    "words behind a padding": in_jpeg(b"\0" * 4000 + WORDS),
    "words in two bytes a letter": in_jpeg(WORDS.decode().encode("utf-16")),
    "words that are packed": in_jpeg(zlib.compress(WORDS)),
    "a caption of the press": in_jpeg(b"Photoshop 3.0\0" + b"8BIM\x04\x04\0\0\0\0\0\x08Merryn T", 0xED),
    "a comment": in_jpeg(b"taken at Merryn's", 0xFE),
    "a place to go to": in_exif((0x8825, 4, 1, AT_26), behind=b"\1\0\x13\0\2\0\2\0\0\0N\0\0\0\0\0\0\0"),
    "an area in words": in_exif((0x9286, 7, 16, AT_26), behind=b"ASCII\0\0\0Lookout "),
    "an owner": picture(owner="Merryn Tregear"),
    "an owner's camera": in_exif((0xA431, 2, 4, b"1234")),
    "words as a figure": in_exif((0x0112, 2, 4, b"Merr")),
    "words as a moment": in_exif((0x0132, 2, 4, b"Merr")),
    "words between the entries": in_exif((0x0112, 3, 1, PLAIN), behind=b"Merryn"),
    "a second directory": in_jpeg(b"Exif\0\0" + tiff((0x0112, 3, 1, PLAIN))[:-4] + struct.pack("<I", 8)),
    "words behind the picture": picture() + WORDS,
    "another picture behind it": picture() + picture(place=54.0),
    "text of a PNG": in_png(b"tEXt", b"Author\0Merryn Tregear"),
    "packed text of a PNG": in_png(b"zTXt", b"XML:com.adobe.xmp\0\0" + zlib.compress(WORDS)),
    "text of all the world": in_png(b"iTXt", b"XML:com.adobe.xmp\0\0\0\0\0" + WORDS),
    "a place in a PNG": picture(kind="PNG", place=54.0),
    "words behind a PNG": picture(kind="PNG") + WORDS,
    "a place in a WebP": picture(kind="WEBP", place=54.0),
    "words behind a WebP": picture(kind="WEBP") + WORDS,
    "an owner in an HEIC": picture(kind="HEIF", owner="Merryn Tregear"),
    "words behind an HEIC": picture(kind="HEIF") + struct.pack(">I4s", len(WORDS) + 8, b"uuid") + WORDS,
    "words in a free box": picture(kind="HEIF") + struct.pack(">I4s", len(WORDS) + 8, b"free") + WORDS,
}  # fmt: skip


@pytest.mark.parametrize("what", BESIDE)
def test_nor_one_that_holds_anything_beside_its_picture(put, what):
    answer, _ = put(BESIDE[what])
    assert answer.status_code == 422
    assert "data of its own" in answer.json()["fields"][0]["message"]


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP", "HEIF"])
@pytest.mark.parametrize("turned", [1, 6])
def test_a_picture_and_how_it_is_turned_is_taken(put, kind, turned):
    assert put(picture(kind=kind, turned=turned))[0].status_code == 204


@pytest.mark.parametrize(
    "content",
    [
        in_jpeg(b"\0" * 3000),
        in_jpeg(b" " * 300),
        in_exif((0x0112, 3, 1, PLAIN), (0x0132, 2, 20, struct.pack("<I", 38)), behind=b"2026:11:29 10:00:00\0"),
        in_exif((0x0112, 3, 1, struct.pack(">HH", 1, 0)), order=">"),
        picture() + b"\0" * 500,
        in_png(b"pHYs", b"\0" * 9),
        picture(kind="HEIF") + struct.pack(">I4s", 108, b"free") + b"\0" * 100,
    ],
)  # fmt: skip
def test_what_is_known_to_be_harmless_is_taken(put, content):
    answer, _ = put(content)
    assert answer.status_code == 204, answer.text


@settings(max_examples=examples(400))
@given(st.sampled_from(["JPEG", "PNG", "WEBP", "HEIF"]), st.data())
def test_a_canary_is_found_wherever_it_is_put(kind, data):
    """Words put between any two bytes of a file, or over some of them: what is taken holds the picture alone.

    Within the coded picture itself anything can stand; everywhere else words make the file one that is not taken.
    """
    content = picture(48, 32, kind)
    at = data.draw(st.integers(0, len(content)))
    canary = b"Merryn Tregear, 3 Lookout Row, Kelder Haven"
    spoilt = content[:at] + canary + content[at:]
    if harmless.only_a_picture(spoilt):
        # Taken for a part of the coded picture: no reader of words finds it by the file's structure.
        assert _in_the_coded_picture(kind, content, at)


def _in_the_coded_picture(kind, content, at):
    match kind:
        case "JPEG":
            return at >= content.index(b"\xff\xdb") + 2
        case "PNG" | "WEBP":
            return False
    return at >= content.index(b"mdat") + 4


@settings(max_examples=examples(400))
@given(st.sampled_from(["JPEG", "PNG", "WEBP", "HEIF"]), st.binary(max_size=40), st.data())
def test_no_file_makes_it_stumble(kind, noise, data):
    content = picture(32, 24, kind)
    at = data.draw(st.integers(0, len(content)))
    harmless.only_a_picture(content[:at] + noise)
    harmless.only_a_picture(content[:at] + noise + content[at + len(noise) :])


def bomb(side):
    """A PNG of a few bytes that unfolds to a square of that side."""

    head = struct.pack(">IIBBBBB", side, side, 1, 0, 0, 0, 0)
    rows = zlib.compress(b"\0" * ((side // 8 + 1) * side), 9)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", rows) + chunk(b"IEND", b"")


@pytest.mark.parametrize("side", [9_000, 20_000])
def test_a_bomb_is_told_and_does_no_harm(put, inspector, side):
    content = bomb(side)
    assert len(content) < 100_000
    answer, path = put(content)
    assert answer.status_code == 422
    assert "unfolds" in answer.json()["fields"][0]["message"]
    assert inspector.http.get(path).status_code == 404
    assert put(picture())[0].status_code == 204


def test_a_photo_that_a_busy_machine_did_not_get_to_is_sent_again(put, monkeypatch):
    """Nothing is wrong with it: the device keeps it and tries again, where it would give up a photo that is refused."""
    content = picture(800, 600, colour=(9, 99, 9))
    with monkeypatch.context() as busy:
        busy.setattr(subprocess_reader, "CLOCK_S", -4.99)
        answer, _ = put(content)
        assert (answer.status_code, answer.json()["code"]) == (503, "busy")
    assert put(content)[0].status_code == 204


def test_what_is_shown_is_made_anew_where_it_is_missing(put, inspector, app):
    content = picture()
    _, path = put(content)
    store, sha256 = app.state.photos, hashlib.sha256(content).hexdigest()
    firm = inspector.me["firm_id"]
    before = store.get(firm, sha256, "small")
    for size in ("small", "large"):
        store._files.rm_file(store._path(firm, sha256, size))
    assert inspector.http.get(f"{path}?size=small").content == before
    # A backup takes originals alone; erasing takes all of it.
    assert [name for name in store.names() if name.startswith(firm)] == [f"{firm}/{sha256[:2]}/{sha256}"]
    store.remove(firm, sha256)
    assert store.get(firm, sha256, "small") is None
    assert inspector.http.get(f"{path}?size=small").status_code == 404


def test_the_process_apart_gives_the_same_as_here():
    content = picture(900, 600)
    assert subprocess_reader.make(content) == renditions.make(content)
    with pytest.raises(renditions.Unshowable):
        subprocess_reader.make(b"not a photo")


def test_what_is_made_unreadable_is_so_in_the_picture_itself():
    """Stripes of one pixel under a blur: in the drawing no column of that part differs from its neighbour, while the
    rest keeps its stripes."""
    image = Image.new("RGB", (600, 400), "white")
    for x in range(0, 600, 12):
        image.paste((0, 0, 0), (x, 0, x + 6, 400))
    blur = {"kind": "blur", "x": 0.0, "y": 0.0, "x2": 0.5, "y2": 1.0}
    out = io.BytesIO()
    image.save(out, "JPEG", quality=95)
    svg = marked.svg(
        out.getvalue(), [blur, {"kind": "number", "x": 0.9, "y": 0.5, "x2": 0.9, "y2": 0.5}], "small", "a & b"
    )
    data = base64.b64decode(re.search(r"base64,([^\"]+)", svg)[1])
    shown = opened(data).convert("L")
    width, height = shown.size

    def contrast(start, end):
        row = [shown.getpixel((x, height // 2)) for x in range(start, end)]
        return max(row) - min(row)

    assert contrast(5, width // 2 - 10) < 60
    assert contrast(width // 2 + 10, width - 5) > 180
    assert ">1</text>" in svg and 'aria-label="a &amp; b"' in svg


def test_marks_say_at_the_field_what_is_wrong_with_them(inspector, put):
    photo = inspector.add(put.inspection, "photo", "inspection", put.inspection, shows="defect")
    fits = {"kind": "arrow", "x": 0, "y": 0.5, "x2": 1, "y2": 0.25}
    for wrong, told in (
        ({"kind": "arrow"}, "a list"),
        ([fits | {"kind": "star"}], "one of arrow"),
        ([fits | {"x": 1.01}], "from 0 to 1"),
        ([fits | {"n": 1}], "has a kind"),
        ([fits] * 61, "at most 60"),
    ):
        receipt = inspector.send(put.inspection, inspector.change("photo", photo, "marks", wrong))
        assert receipt["results"][0]["state"] == "refused" and told in receipt["results"][0]["reason"]
    receipt = inspector.send(put.inspection, inspector.change("photo", photo, "marks", [fits]))
    assert receipt["results"][0]["state"] == "kept"
    assert inspector.values(put.inspection, photo)["marks"] == [fits]
