"""Typesetting: a report as tagged PDF (PDF/A-3, PDF/UA-1) with its data inside or as pages to look at, and letters.

It takes time and memory that a report from outside decides on: the server has it done by `report.press`.
"""

import gzip
import json
import re
import tempfile
import unicodedata
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from datetime import date, datetime
from functools import cache, partial
from pathlib import Path
from threading import Lock
from typing import Any, TypeVar

import typst

from dorrik.pictures import marked
from dorrik.report import glyphs

HERE = Path(__file__).parent
TEMPLATE = HERE / "condition_report.typ"
#: Archival with attachments, and accessible.
STANDARDS: Any = ["a-3a", "ua-1"]
T = TypeVar("T")

#: Width and height of a page (pt), as its drawing says them first.
_SIZE = re.compile(rb'<svg [^>]*viewBox="0 0 ([0-9.]+) ([0-9.]+)"')

#: One compiler serves all: it holds the fonts and what it has laid out before, but takes one call at a time.
_lock = Lock()


@cache
def _compiler(template: Path = TEMPLATE) -> typst.Compiler:
    # Photos lie in a folder of each report's own, anywhere; what is typed is data and names no file.
    return typst.Compiler(str(template), root="/", font_paths=glyphs.folders(), ignore_system_fonts=True)


#: How often a text is made plainer before everything is.
TRIES = 12
_WITHOUT = re.compile(r'the text `"(.*?)"` could not be displayed', re.DOTALL)


def _set(content: dict[str, Any], make: Callable[[dict[str, str]], T]) -> T:
    """What `make` makes of the content, however its letters turn out.

    The coverage of the fonts says what can be set one by one. Where signs together still find no font, the texts that
    hold them are made plainer: first what joins and combines is printed by its code points, then all that is not plain.
    """
    legible_content = glyphs.legible(content)
    for _ in range(TRIES):
        try:
            return make(_inputs(legible_content))
        except typst.TypstError as error:
            match = _WITHOUT.search(str(error))
            if match is None:
                raise
            sign = re.sub(r"\\u\{([0-9a-f]+)\}", lambda m: chr(int(m[1], 16)), match[1])
            plainer = _changed(legible_content, partial(_without, sign))
            if plainer == legible_content:
                break
            legible_content = plainer
    return make(_inputs(_changed(legible_content, _plain)))


def _whole(made: bytes | list[bytes] | None) -> bytes:
    """A document in one piece, as it is where no file is named and the format has no pages of its own."""
    if not isinstance(made, bytes):
        raise TypeError("The typesetter gave no document.")
    return made


def _changed(value: Any, change: Callable[[str], str]) -> Any:
    if isinstance(value, str):
        return change(value)
    if isinstance(value, dict):
        return {name: _changed(one, change) for name, one in value.items()}
    return [_changed(item, change) for item in value] if isinstance(value, list | tuple) else value


def _without(sign: str, text: str) -> str:
    return _plainer(text) if sign in text else text


def _plainer(text: str) -> str:
    alone = "".join(glyphs.code_point(s) if unicodedata.category(s) in ("Mn", "Mc", "Me", "Cf") else s for s in text)
    return alone if alone != text else _plain(text)


def _plain(text: str) -> str:
    return "".join(sign if sign.isascii() or sign in "–’“”·×Ωµ²Δ≤≥°£€" else glyphs.code_point(sign) for sign in text)


def _inputs(content: dict[str, Any]) -> dict[str, str]:
    return {
        "data": json.dumps(content, ensure_ascii=False),
        "fonts": json.dumps(glyphs.families(), ensure_ascii=False),
    }


def pdf(content: dict[str, Any], document: dict[str, Any], at: datetime) -> bytes:
    """The report as PDF. content: see `content.content`; document: attached as inspection.json; at: its date."""
    with _lock, drawn(content) as drawn_content:
        return compiled(drawn_content, document, at)


def compiled(drawn_content: dict[str, Any], document: dict[str, Any], at: datetime) -> bytes:
    """The same of content whose photos are drawn already, by whoever holds the compiler."""
    attached = {"attachment": json.dumps(document, ensure_ascii=False, indent=1)}

    def make(inputs: dict[str, str]) -> bytes:
        return _whole(
            _compiler().compile(
                sys_inputs=inputs | attached, format="pdf", pdf_standards=STANDARDS, timestamp=int(at.timestamp())
            )
        )

    return _set(drawn_content, make)


def certificate(content: dict[str, Any], document: dict[str, Any], at: datetime, name: str = "minor_works") -> bytes:
    """A paper with its data inside as PDF. content: its words; document: the data; at: its date; name: of its
    template, a certificate of works where none is given."""
    attached = {"attachment": json.dumps(document, ensure_ascii=False, indent=1)}

    def make(inputs: dict[str, str]) -> bytes:
        return _whole(
            _compiler(HERE / f"{name}.typ").compile(
                sys_inputs=inputs | attached, format="pdf", pdf_standards=STANDARDS, timestamp=int(at.timestamp())
            )
        )

    with _lock:
        return _set(content, make)


def pages(content: dict[str, Any], folder: Path) -> list[tuple[float, float]]:
    """The report's pages as drawings to look at before it is issued: 1.svg.gz and so on in that folder.

    Returns width and height of each (pt).
    """
    with _lock, drawn(content) as drawn_content:
        _set(drawn_content, lambda inputs: _compiler().compile(
            sys_inputs=inputs | {"attachment": "{}"}, output=str(folder / "{p}.svg"), format="svg"
        ))  # fmt: skip
    sizes = []
    for number in range(1, len(list(folder.glob("*.svg"))) + 1):
        page = folder / f"{number}.svg"
        drawing = page.read_bytes()
        page.with_suffix(".svg.gz").write_bytes(gzip.compress(drawing, 5))
        page.unlink()
        size = _SIZE.match(drawing)
        if size is None:
            raise ValueError("The typesetter gave a page without a size.")
        sizes.append((float(size[1]), float(size[2])))
    return sizes


@contextmanager
def drawn(content: dict[str, Any]) -> Iterator[dict[str, Any]]:
    """A report's content with the photos of its observations drawn into files, which are gone after the block."""
    photos = [photo for observation in content["observations"] for photo in observation["photos"]]
    first = [row["photo"] | {"size": "small"} for row in content["first"] if row["photo"]]
    with _into_files([*photos, *first]) as drawn:
        left = iter(drawn)
        observations = [
            observation | {"photos": [next(left) for _ in observation["photos"]]}
            for observation in content["observations"]
        ]
        rows = [row | {"photo": next(left) if row["photo"] else None} for row in content["first"]]
        yield content | {"observations": observations, "first": rows}


@contextmanager
def _into_files(photos: list[dict[str, Any]]) -> Iterator[list[dict[str, Any]]]:
    """Photos drawn into files, which are gone after the block."""
    # Beside the photos, whose folder somebody takes away also where this process is ended in the middle.
    beside = next((Path(photo["jpeg"]).parent for photo in photos if photo["jpeg"]), None)
    with tempfile.TemporaryDirectory(prefix="dorrik-drawn-", dir=beside) as folder:
        # What is printed twice in one size is drawn once.
        made: dict[str, Path] = {}

        def drawing(photo: dict[str, Any]) -> dict[str, Any]:
            if not photo["jpeg"]:
                return photo | {"drawing": ""}
            looks = json.dumps([photo["jpeg"], photo["marks"], photo["size"], photo["words"]], default=str)
            if looks not in made:
                made[looks] = Path(folder) / f"{len(made) + 1}.svg"
                jpeg = Path(photo["jpeg"]).read_bytes()
                made[looks].write_text(marked.svg(jpeg, photo["marks"], photo["size"], photo["words"]))
            return photo | {"drawing": str(made[looks])}

        yield [drawing(photo) for photo in photos]


def letter(name: str, content: dict[str, Any], on: date) -> bytes:
    """A letter on the firm's paper as PDF. name: of its template; content: its words, with its photos where it has any;
    on: its date."""
    at = datetime(on.year, on.month, on.day)

    def make(inputs: dict[str, str]) -> bytes:
        return _whole(
            _compiler(HERE / f"{name}.typ").compile(
                sys_inputs=inputs, format="pdf", pdf_standards=["ua-1"], timestamp=int(at.timestamp())
            )
        )

    with _lock, _into_files(content.get("photos", [])) as photos:
        return _set(content | {"photos": photos}, make)
