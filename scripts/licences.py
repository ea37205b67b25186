"""Writes docs/licences.md: every package that Dorrik is run with, its licence, and what that asks of who ships Dorrik.

`python -m scripts.licences` prints it; `make lock` keeps it. What the packages themselves say is taken; where that does
not tell the whole, as with a library inside a wheel, it stands in `BESIDE`.
"""

import importlib.metadata
import json
import re
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).parents[1]

#: What a licence asks of who hands Dorrik on. A licence that is not here stops this program: somebody has to read it.
ASKS = {
    "permissive": "Hand on the notice of copyright and the text of the licence. Nothing else.",
    "Apache-2.0": "Hand on the text of the licence and any NOTICE; say which of its files were changed.",
    "OFL-1.1": "Hand on the licence with the fonts; do not sell them by themselves; a changed font has another name.",
    "LGPL-3.0": "Hand on its licence and where its source is; whoever receives it may put a changed version in its "
    "place. It is a library of its own beside Dorrik's code, loaded when a photo is decoded, so that this is so.",
    "MPL-2.0": "Hand on its licence and where its source is; a file of it that is changed stays under it.",
    "public domain": "Nothing.",
}
_KINDS = {
    "permissive": (
        "MIT", "MIT License", "MIT-0", "MIT-CMU", "BSD-2-Clause", "BSD-3-Clause", "BSD License", "ISC", "0BSD", "Zlib",
        "PSF-2.0", "Python Software Foundation License",
    ),
    "Apache-2.0": ("Apache-2.0",),
    "OFL-1.1": ("OFL-1.1",),
    "MPL-2.0": ("MPL-2.0",),
    "public domain": ("Unlicense", "CC0-1.0"),
}  # fmt: skip
#: Libraries that come inside a package, by the package: what they are and under which licence.
BESIDE = {
    "pi-heif": ("libheif and libde265, which decode HEIC; no encoder", "LGPL-3.0"),
    "pyodide": ("CPython with its library, and zlib, bzip2 and libffi, compiled for browsers", "permissive"),
    "argon2-cffi-bindings": ("the reference code of Argon2", "public domain"),
}

HEAD = """# Licences

What Dorrik is run with, by the lock files, and what each licence asks of whoever ships it. Written by
`python -m scripts.licences`; a test holds it against the lock files. This is no legal advice.

Nothing here is under the GPL. The database driver is PyMySQL (MIT): one in C, which is under the GPL, took the same
time for a change (22 ms each in the same run) and a fifth less for loading an inspection (22 against 27 ms). Photos
are decoded by pi-heif, which has no encoder: the package with one brings an encoder that is under the GPL, and only
the tests use it to make their pictures. **MariaDB** (GPL 2) and, for tests, **Chromium** (BSD-3-Clause) are Debian's
packages: programs of their own that Dorrik talks to, installed on the machine and not handed on with it. Whoever
hands on a ready-made disk or image with them in it has their licences to keep too.

| licence | asks |
| --- | --- |
"""


def _python(lock: str) -> list[str]:
    names = re.findall(r"^([A-Za-z0-9._-]+)(?:\[[a-z,]+\])?==", (ROOT / lock).read_text(), re.MULTILINE)
    return sorted(set(names), key=str.lower)


def _said(name: str) -> str:
    metadata = importlib.metadata.metadata(name)
    licence = metadata.get("License-Expression") or (metadata.get("License") or "").strip()
    if not licence or "\n" in licence or len(licence) > 100:
        classes = [
            classifier for classifier in metadata.get_all("Classifier") or [] if classifier.startswith("License ::")
        ]
        licence = classes[0].rpartition("::")[2].strip() if classes else ""
    return licence


def kinds(licence: str) -> list[str]:
    """What kinds of licence an expression names. Raises KeyError for one that nobody has read yet."""
    of = {name: kind for kind, names in _KINDS.items() for name in names}
    parts = re.split(r"\s+(?:AND|OR)\s+|\s*,\s*", licence.strip("()"))
    return sorted({of[part] for part in parts})


def _rows(title: str, packages: Iterator[tuple[str, str, str]]) -> Iterator[str]:
    yield f"\n## {title}\n\n| package | version | licence | asks as |\n| --- | --- | --- | --- |"
    for name, version, licence in packages:
        asks = ", ".join(kinds(licence))
        inside = BESIDE.get(name)
        more = f"; inside it {inside[0]} ({inside[1]})" if inside else ""
        yield f"| {name} | {version} | {licence}{more} | {asks}{f', {inside[1]}' if inside else ''} |"


def _of_python(names: list[str]) -> Iterator[tuple[str, str, str]]:
    for name in names:
        yield name, importlib.metadata.version(name), _said(name)


def _of_the_front_end() -> Iterator[tuple[str, str, str]]:
    lock = json.loads((ROOT / "web" / "package-lock.json").read_text())
    packages = {}
    for path, package in lock["packages"].items():
        if path and not package.get("dev"):
            name = path.rpartition("node_modules/")[2]
            packages[name, package["version"]] = package["license"]
    for (name, version), licence in sorted(packages.items()):
        yield name, version, licence


def text() -> str:
    """The whole page."""
    run, demo = _python("requirements.txt"), _python("requirements-demo.txt")
    lines = [HEAD + "\n".join(f"| {name} | {asks} |" for name, asks in ASKS.items())]
    lines += _rows("The server", _of_python(run))
    lines += _rows("The demo alone", _of_python([name for name in demo if name not in run]))
    lines += _rows("The front end, as it is built", _of_the_front_end())
    lines.append(
        "\nPackages that only tests, checks and the build use are not handed on with Dorrik: `requirements-dev.txt`, "
        "and what `web/package-lock.json` calls `dev`."
    )
    return "\n".join(lines) + "\n"


if __name__ == "__main__":
    print(text(), end="")
