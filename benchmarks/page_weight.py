"""JavaScript that the first page loads, compressed. Aim: 300 kB gzip."""

import gzip
import re

from dorrik.api import WEB


def _needs(name: str, seen: set[str]) -> set[str]:
    """A script and everything it imports at once; what it loads later does not count."""
    if name in seen:
        return seen
    seen.add(name)
    text = (WEB / "assets" / name).read_text()
    for found in re.findall(r'(?:from|import)\s*"\./([\w.-]+\.js)"', text):
        _needs(found, seen)
    return seen


def _weight(names: set[str]) -> float:
    return sum(len(gzip.compress((WEB / "assets" / name).read_bytes(), 9)) for name in names) / 1000


def run() -> None:
    """Print the weight of the first page and what the other screens add."""
    page = (WEB / "index.html").read_text()
    first: set[str] = set()
    for name in re.findall(r"assets/([\w.-]+\.js)", page):
        _needs(name, first)
    print(f"first load: {_weight(first):.0f} kB gzip in {len(first)} scripts")
    for screen in ("Home", "InspectionScreen", "TestGrid", "Report"):
        (entry,) = (WEB / "assets").glob(f"{screen}-*.js")
        print(f"  {screen} adds {_weight(_needs(entry.name, set()) - first):.0f} kB")
