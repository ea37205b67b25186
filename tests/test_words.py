"""No screen, note or paper says what the glossary of words has replaced."""

import re
from pathlib import Path

import pytest

ROOT = Path(__file__).parents[1]
#: What was said once, and what is said today.
REPLACED = {
    "All kept": "Saved",
    "in memory only": "not saved: keep this page open",
    "to mend</b>": "not accepted",
    "Put the earlier one back": "Restore previous value",
    "You came after": "You replaced …, entered by …",
    "Nothing to point out": "No notes",
    "No verdict speaks of this figure": "This reading has no limit of its own",
    "I see it otherwise": "Disagree …",
    "In hand": "In progress",
    "its day has gone by": "overdue",
    "each field is kept as you leave it": "saved as you go",
    "Take over from earlier papers": "Copy from an earlier report",
    "I arrive now": "Record arrival",
    "I leave now": "Record departure",
    "Somebody else arrives": "Add a person",
    "Signs of work by other hands": "Signs of alterations",
    "Condition on sight": "Visible condition",
    "Where the home lies": "Type of home",
    "Gathered from where it was said": "From LIM and “no access” entries",
    "hung on their circuits": "assigned to circuits",
    "How far can it be trusted": "Risk",
    "Draw them by lot": "Pick at random",
    "It grew": "Sample widened",
    "Take this record out": "Remove record",
    "All of it stands as drawn": "Confirm whole board",
    "Fed from which way": "Fed from",
    "the rest is good": "Mark rest OK",
    "Bonds off the electrode": "RA measured with bonding disconnected",
    "Under or on the only way out": "On or under the only escape route",
    "What it feeds is not known": "Circuit not identified",
    "Re-plugged, switch worked": "Retested after re-plugging",
    "Touched together with": "Within reach of",
    "every circuit on, every load out": "all circuits on, all loads disconnected",
    "The figures speak of these": "Suggested by the readings",
    "What is it worth?": "Which code?",
    "blind second opinion": "second opinion (your code stays hidden)",
    "Say what was found, or choose": "Type what was found, or choose",
    "It still counts to the outcome": "Still counts",
    "Told now": "Record: told now",
    "Mend the file": "Correct the file",
    "Carry it over": "Copy into this inspection",
    "What is kept of this client": "Data held on this client",
    "Take everything along": "Export all data",
    "Its story": "History",
    "Way in": "Access",
    "How long what is kept": "Retention",
    "As a table (CSV)": "Export CSV",
    "Take a table in": "Import CSV …",
    "Read as printed": "Use printed value",
    "on whose word": "Reason and source",
    "take surge devices out": "disconnect SPDs",
    "Nothing that was acknowledged is lost": "What you entered is saved",
    "That is no mail address": "Enter an email address",
    "What waits on this device is safe": "What you entered is saved on this device",
    "still stands here": "is still here",
    "takes a plain number": "enter a number",
    "year-month-day.": "enter a date",
    "agree with the client how": "Please arrange access",
    "drawn by lot": "picked at random",
    "cut-out fuse": "service fuse",
    "rest fine": "Rest OK, next: …",
    "all seen": "Next: …",
    "Take out": "Remove",
    "surge devices": "SPDs",
    "does not settle it": "not judged: may be above or below the limit",
    "In front of": "Protects",
    "Holds at": "No trip at",
    "Kind AC": "Type AC",
    "as the law is understood": "check the law that applies",
    "says what stands here": "is up to date",
    "noted, not coded": "no code",
    "What is it worth": "Which code",
    "It says nothing that is not here": "No changes in this file",
    "speaks of it": "is recorded, has no observation",
    "not in order": "Defect",
}
_COMMENT = {
    ".py": re.compile(r'"""(?:.|\n)*?"""|(?m:^\s*#.*$)'),
    ".tsx": re.compile(r"/\*(?:.|\n)*?\*/|(?m:^\s*//.*$)"),
}


def _said() -> dict[str, str]:
    """What is shown, without what is written for those who read the code; by file, on one line."""
    found = {}
    for folder, kinds in (("web/src", (".ts", ".tsx")), ("dorrik", (".py", ".typ", ".csv", ".toml"))):
        for path in (ROOT / folder).rglob("*"):
            if path.suffix in kinds and not path.name.endswith("gen.ts") and ".test." not in path.name:
                comment = _COMMENT.get({".ts": ".tsx"}.get(path.suffix, path.suffix))
                text = path.read_text(encoding="utf-8")
                found[str(path.relative_to(ROOT))] = re.sub(r"\s+", " ", comment.sub("", text) if comment else text)
    return found


@pytest.fixture(scope="module")
def said() -> dict[str, str]:
    return _said()


@pytest.mark.parametrize("old", REPLACED)
def test_a_word_that_was_replaced_is_said_nowhere(old, said):
    pattern = re.compile(rf"(?<![\w-]){re.escape(old)}" + (r"(?![\w-])" if old[-1].isalnum() else ""))
    assert {name: REPLACED[old] for name, text in said.items() if pattern.search(text)} == {}
