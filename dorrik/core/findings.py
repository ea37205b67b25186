"""What was found and what was not: observations, limitations, verdicts seen otherwise, and photos."""

from dorrik.core import fields as f
from dorrik.core.record import record

#: Kinds of things that observations and photos are about.
ABOUT = ("inspection", "bond", "board", "rcd", "circuit", "point")


@record(kw_only=True)
class Limitation:
    """Something that was not inspected or tested: what, why, and with whom that was agreed."""

    id: str
    what: str | None = f.personal("What was not inspected or tested", 1000)
    reason: str | None = f.personal("Reason", 1000)
    agreed_with: str | None = f.personal("Agreed with", 120)
    agreed_on: str | None = f.day("Agreed on")
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Observation:
    """Something found: where, what, its code, and whether it was made good on the spot."""

    id: str
    about_entity: str | None = f.choice("About", *ABOUT, "check")
    about_id: str | None = f.text("About which", 36)
    place: str | None = f.personal("Where", 200)
    text: str | None = f.personal("What was found", 2000)
    code: str | None = f.choice("Code", "C1", "C2", "C3", "FI", "note")
    code_reason: str | None = f.text("Why this code", 500)
    catalogue_key: str | None = f.text("Catalogue entry", 60)
    mended: bool | None = f.flag("Made good on the day")
    as_left: str | None = f.personal("As left", 500)
    retest: str | None = f.text("Retest", 200)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Overruling:
    """A verdict the inspector sees otherwise: of which figure, what it is taken for, and why."""

    id: str
    about_id: str | None = f.text("About which", 36)
    field: str | None = f.text("Figure", 40)
    status: str | None = f.choice("Taken for", "pass", "attention", "fail")
    reason: str | None = f.personal("Reason", 500)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Photo:
    """A photo by reference: what it shows, and the SHA-256 of its content, by which it is stored."""

    id: str
    about_entity: str | None = f.choice(
        "About", "inspection", "bond", "board", "rcd", "circuit", "point", "observation"
    )
    about_id: str | None = f.text("About which", 36)
    shows: str | None = f.choice("Shows", "circuit chart", "defect", "overview", "as left")
    caption: str | None = f.personal("Caption", 200)
    sha256: str | None = f.text("Content", 64)
    taken_at: str | None = f.instant("Taken")
    removed: bool | None = f.flag("Removed")
