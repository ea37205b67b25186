"""Simulated homes that come with Dorrik, each a description (TOML, see `practice/describe.py`)."""

from functools import cache
from pathlib import Path

from dorrik.practice import describe
from dorrik.practice.home import Home

_HERE = Path(__file__).parent


def names() -> list[str]:
    """What the homes are called."""
    return sorted(file.stem for file in _HERE.glob("*.toml"))


@cache
def called() -> dict[str, str]:
    """What each of the homes is called on the screen, by its name."""
    return {name: load(name).name or name for name in names()}


def load(name_or_file: str) -> Home:
    """The home of that name, or described in that file.

    Raises OSError or UnicodeDecodeError where it cannot be read, DescriptionError where it cannot be built.
    """
    own = _HERE / f"{name_or_file}.toml"
    file = own if name_or_file in names() else Path(name_or_file)
    return describe.home(file.read_text(encoding="utf-8"))
