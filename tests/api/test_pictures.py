"""Photos as pictures: every format shown, turned, shrunk, without a place; bombs and damage told; unreadable parts."""

import base64
import hashlib
import io
import re
import struct
import zlib

import pytest
from PIL import Image

from dorrik.pictures import apart, marked, renditions
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


def test_nor_one_that_says_so_in_words(put):
    packet = b'<rdf:Description exif:GPSLatitude="54,32.1N"/>'
    segment = b"\xff\xe1" + struct.pack(">H", len(packet) + 2) + packet
    content = picture()
    answer, _ = put(content[:2] + segment + content[2:])
    assert answer.status_code == 422
    blank = packet.replace(b"54,32.1N", b" " * 8)
    answer, _ = put(content[:2] + b"\xff\xe1" + struct.pack(">H", len(blank) + 2) + blank + content[2:])
    assert answer.status_code == 204


def bomb(side):
    """A PNG of a few bytes that unfolds to a square of that side."""

    def chunk(name, data):
        return struct.pack(">I", len(data)) + name + data + struct.pack(">I", zlib.crc32(name + data))

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
    assert apart.make(content) == renditions.make(content)
    with pytest.raises(renditions.Unshowable):
        apart.make(b"not a photo")


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
