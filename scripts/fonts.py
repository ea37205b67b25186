"""Gathers the fonts that reports are set in, beside those that ship: Noto for the world's scripts from Debian's
packages, emoji in one colour from the package registry. Writes what they cover, so that no report has to find out.

Run by scripts/setup.sh: `python -m scripts.fonts`. What is missing is left out and said; reports are made all the same.
"""

import json
import shutil
import sys
from collections.abc import Iterable, Iterator
from pathlib import Path

from fontTools.ttLib import TTCollection, TTFont

ROOT = Path(__file__).parents[1]
SHIPPED = ROOT / "dorrik" / "report" / "fonts"
MADE = ROOT / "var" / "fonts"
DEBIAN = (Path("/usr/share/fonts/truetype/noto"), Path("/usr/share/fonts/opentype/noto"))
EMOJI = ROOT / "web" / "node_modules" / "@fontsource" / "noto-emoji" / "files"
WEIGHTS = ("Regular", "Bold")
#: Tried first, in this order; then the others by name. Of Han signs the simplified forms come first.
FIRST = ("Noto Sans", "Noto Sans Math", "Noto Sans CJK SC", "Noto Emoji", "Noto Sans Symbols", "Noto Sans Symbols2")


def wanted() -> Iterator[Path]:
    """Debian's Noto fonts: every sans in two weights, serifs only of scripts that have no sans, CJK whole."""
    by_name = {path.name: path for folder in DEBIAN for path in sorted(folder.glob("Noto*"))}
    sans = {name.removeprefix("NotoSans").partition("-")[0] for name in by_name if name.startswith("NotoSans")}
    for name, path in by_name.items():
        script, _, weight = path.stem.partition("-")
        if weight not in WEIGHTS or script.endswith("UI") or "Display" in script or "Mono" in script:
            continue
        serif = script.removeprefix("NotoSerif") if script.startswith("NotoSerif") and "CJK" not in name else None
        only = serif is not None and serif not in sans
        if only or script.startswith("NotoSans") or script in ("NotoMusic", "NotoNaskhArabic"):
            yield path


def unpacked_emoji(folder: Path) -> None:
    """The emoji font as TTF: browsers take them packed, the typesetter does not."""
    for path in sorted(EMOJI.glob("noto-emoji-emoji-400-normal.woff2")):
        font = TTFont(path)
        font.flavor = None
        font.save(folder / f"{path.stem}.ttf")


def fonts_of(path: Path) -> list[TTFont]:
    """The fonts of a file; a collection has several."""
    if path.suffix == ".ttc":
        return list(TTCollection(path, lazy=True).fonts)
    return [TTFont(path, lazy=True)]


def ranges(points: Iterable[int]) -> list[list[int]]:
    """Code points as ranges, both ends included."""
    ranges_so_far: list[list[int]] = []
    for point in sorted(points):
        if ranges_so_far and point == ranges_so_far[-1][1] + 1:
            ranges_so_far[-1][1] = point
        else:
            ranges_so_far.append([point, point])
    return ranges_so_far


def main() -> None:
    """Gather, and write coverage.json."""
    fresh = MADE.with_name("fonts.new")
    shutil.rmtree(fresh, ignore_errors=True)
    fresh.mkdir(parents=True)
    for path in wanted():
        (fresh / path.name).symlink_to(path)
    unpacked_emoji(fresh)
    covered: set[int] = set()
    families: set[str] = set()
    for path in [*sorted(SHIPPED.glob("*.ttf")), *sorted(fresh.iterdir())]:
        for font in fonts_of(path):
            covered |= set(font.getBestCmap() or {})
            names = font["name"]
            families.add(names.getBestFamilyName())
    others = sorted(family for family in families if family.startswith("Noto") and family not in FIRST)
    order = [family for family in FIRST if family in families] + others
    (fresh / "coverage.json").write_text(json.dumps({"families": order, "covered": ranges(covered)}))
    shutil.rmtree(MADE, ignore_errors=True)
    fresh.rename(MADE)
    if not any("CJK" in family for family in families):
        print("dorrik: no fonts for Han signs here: apt-get install fonts-noto-core fonts-noto-cjk", file=sys.stderr)


if __name__ == "__main__":
    main()
