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
    for found in re.findall(r'(?:from|import)\s*"\./([\w.-]+\.js)"', text):
        _needs(found, seen)
    return seen


def _weight(names: set[str]) -> float:
    return sum(len(brotli.compress((WEB / "assets" / name).read_bytes())) for name in names) / 1000


def run() -> None:
    """Print the weight of sign-in and home, and what the other screens add to home."""
    page = (WEB / "index.html").read_text()
    first: set[str] = set()
    for name in re.findall(r"assets/([\w.-]+\.js)", page):
        _needs(name, first)
    print(f"before any screen: {_weight(first):.0f} kB br in {len(first)} scripts")

    def with_screen(name: str) -> set[str]:
        (entry,) = (WEB / "assets").glob(f"{name}-*.js")
        return _needs(entry.name, set(first))

    home = with_screen("Home")
    for name, scripts in (("SignIn", with_screen("SignIn")), ("Home", home)):
        print(f"{name}: {_weight(scripts):.0f} kB br in {len(scripts)} scripts  (aim {AIM_KB})")
    for name in ("InspectionScreen", "TestGrid", "Report"):
        print(f"  {name} adds {_weight(with_screen(name) - home):.0f} kB")
    kept = re.findall(r'url:\s*"(assets/[\w.-]+\.js)"', (WEB / "sw.js").read_text())
    print(f"kept on the device: {sum((WEB / name).stat().st_size for name in kept) / 1000:.0f} kB of scripts")
