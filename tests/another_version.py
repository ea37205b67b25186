"""The application in a version that devices do not have: `python -m tests.another_version FOLDER serve --port 8080`.

FOLDER is its front end (see `newer`); it says of itself that it judges by other rules.
"""

import re
import shutil
import sys
from pathlib import Path

#: A file whose name tells its content, as the bundler names it.
NAMED = re.compile(r"(?P<stem>.+)-(?P<digest>[\w-]{8})\.(?P<ending>\w+)")
EDITION = "0" * 16


def newer(web: Path, to: Path) -> Path:
    """The built front end as another build makes it: each file of a screen under another name, and no other beside it.

    web: folder of the built front end; to: the folder to be made, which is returned.
    """
    shutil.copytree(web, to, ignore=shutil.ignore_patterns("*.br", "*.gz"))
    named = [match for path in (to / "assets").glob("*.*s*") if (match := NAMED.fullmatch(path.name))]
    names = {match[0]: f"{match['stem']}-{match['digest'][::-1]}.{match['ending']}" for match in named}
    assert len(set(names.values())) == len(names), "Two files would have one name."
    for path in [*to.glob("*.*"), *(to / "assets").glob("*.*s")]:
        if path.suffix in (".html", ".js", ".mjs", ".css"):
            text = path.read_text("utf-8")
            path.write_text(re.sub("|".join(map(re.escape, names)), lambda match: names[match[0]], text), "utf-8")
    for old, new in names.items():
        (to / "assets" / old).rename(to / "assets" / new)
    index = to / "index.html"
    index.write_text(index.read_text("utf-8").replace("<html", '<html data-version="newer"', 1), "utf-8")
    worker = to / "sw.js"
    text, count = re.subn(r'(url:"index\.html",revision:")\w+', r"\1anewer", worker.read_text("utf-8"))
    assert count == 1, "The list of what is kept does not name the page."
    worker.write_text(text, "utf-8")
    return to


def main() -> None:
    import dorrik.api
    from dorrik.api import rules_edition

    dorrik.api.WEB = Path(sys.argv.pop(1))
    rules_edition.edition = lambda: EDITION
    from dorrik import cli

    cli.main()


if __name__ == "__main__":
    main()
