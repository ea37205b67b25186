"""What Dorrik is run with stands in docs/licences.md, with a licence that somebody has read."""

import re
from pathlib import Path

import pytest

from scripts import licences

ROOT = Path(__file__).parents[1]


def test_the_page_says_what_the_lock_files_have():
    assert (ROOT / "docs" / "licences.md").read_text() == licences.text()


def test_nothing_that_is_handed_on_is_under_the_gpl():
    page = licences.text()
    rows = [line for line in page.splitlines() if line.startswith("| ") and "GPL" in line]
    assert all("LGPL" in row for row in rows), rows
    run = (ROOT / "requirements.txt").read_text().lower()
    assert not re.search(r"^(mysqlclient|pillow-heif|aiosmtpd)\b", run, re.MULTILINE)


def test_a_licence_that_nobody_has_read_stops_it():
    assert licences.kinds("MIT AND (Apache-2.0)".replace("(", "").replace(")", "")) == ["Apache-2.0", "permissive"]
    with pytest.raises(KeyError):
        licences.kinds("GPL-2.0-or-later")
