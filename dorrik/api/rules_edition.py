"""The edition of the rules that this server judges by: a digest of the core's files.

A device has an edition of its own (`web/rules/core-files.mjs` names it in the same way). Where the two are not the
same, what the device says while the server can be reached is the server's.
"""

import hashlib
from functools import cache
from pathlib import Path

import dorrik

#: What of the core makes an edition: what it computes and looks up.
_KINDS = (".py", ".csv", ".toml")
_PACKAGE = Path(dorrik.__file__).parent


@cache
def edition() -> str:
    """Sixteen characters that another set of rules has otherwise."""
    digest = hashlib.sha256()
    for name, path in sorted(_files()):
        content = path.read_bytes()
        digest.update(f"{name}\0{len(content)}\0".encode())
        digest.update(content)
    return digest.hexdigest()[:16]


def _files() -> list[tuple[str, Path]]:
    """Names as they stand in the package; folders of Python's own and of checkers are none of it."""
    files = [("dorrik/__init__.py", _PACKAGE / "__init__.py")]
    for path in (_PACKAGE / "core").rglob("*"):
        name = path.relative_to(_PACKAGE.parent).as_posix()
        aside = any(part == "__pycache__" or part.startswith(".") for part in name.split("/"))
        if path.suffix in _KINDS and not aside and path.is_file():
            files.append((name, path))
    return files
