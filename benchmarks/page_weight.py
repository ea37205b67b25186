"""JavaScript that a page loads, as it goes over the wire (Brotli). Aim: 100 kB for sign-in and home."""

import re

import brotli

from dorrik.api import WEB

AIM_KB = 100


def _needs(name: str, seen: set[str]) -> set[str]:
    """A script and everything it imports at once; what it loads later does not count."""
    if name in seen:
        return seen
    seen.add(name)
    text = (WEB / "assets" / name).read_text()
    for imported in re.findall(r'(?:from|import)\s*"\./([\w.-]+\.js)"', text):
        _needs(imported, seen)
    return seen


def weight_kb(names: set[str]) -> float:
    """Of scripts of the built front end, as they go over the wire (kB, Brotli)."""
    return sum(len(brotli.compress((WEB / "assets" / name).read_bytes())) for name in names) / 1000


def with_the_page() -> set[str]:
    """The scripts that come with the page itself: sign-in and home are drawn by them."""
    scripts: set[str] = set()
    for name in re.findall(r"assets/([\w.-]+\.js)", (WEB / "index.html").read_text()):
        _needs(name, scripts)
    return scripts


def for_a_part(name: str, there: set[str]) -> set[str]:
    """The scripts that are there, with all that the file of that name (web/vite.chunks.ts) needs."""
    (entry,) = (WEB / "assets").glob(f"{name}-*.js")
    return _needs(entry.name, set(there))


def run() -> None:
    """Print the weight of sign-in and home, which come with the page itself, and what other screens add."""
    there = with_the_page()
    print(f"sign-in and home: {weight_kb(there):.0f} kB br in {len(there)} scripts  (aim {AIM_KB})")
    # In the order in which they are fetched: tests of an inspection are drawn without the component library.
    for name in ("inspection", "readings", "looks", "Report"):
        more = for_a_part(name, there) - there
        print(f"  {name} adds {weight_kb(more):.0f} kB in {len(more)} scripts")
        there |= more
    kept = re.findall(r'url:\s*"(assets/[\w.-]+\.js)"', (WEB / "sw.js").read_text())
    print(f"kept on the device: {sum((WEB / name).stat().st_size for name in kept) / 1000:.0f} kB of scripts")
