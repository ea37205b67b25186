"""What was found and what was not: observations, limitations, verdicts seen otherwise, and photos."""

from typing import Any

from dorrik.core.basics.record import record
from dorrik.core.inspection import fields as f

#: What became of a danger on the spot.
MADE_SAFE = ("made safe", "refused", "not possible now")
#: Kinds of things that observations and photos are about.
ABOUT = ("inspection", "bond", "board", "rcd", "circuit", "point", "room")


@record(kw_only=True)
class Limitation:
    """Something that was not inspected or tested: what, why, and with whom that was agreed."""

    id: str
    about_entity: str | None = f.choice("About", *ABOUT)
    about_id: str | None = f.identity("About which")
    what: str | None = f.text("What was not inspected or tested", 1000)
    reason: str | None = f.text("Reason", 1000)
    agreed_with: str | None = f.text("Agreed with", 120)
    agreed_on: str | None = f.day("Agreed on")
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Opinion:
    """A second opinion on an observation, given without having seen the first code (rule 13.3)."""

    id: str
    by: str | None = f.text("By", 120)
    code: str | None = f.choice("Code", "C1", "C2", "C3", "FI", "note")
    reason: str | None = f.text("Why this code", 500)
    given_at: str | None = f.instant("Given at")
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Observation:
    """Something found: where, what, its code, and whether it was made good on the spot."""

    id: str
    about_entity: str | None = f.choice("About", *ABOUT, "check")
    about_id: str | None = f.identity("About which")
    place: str | None = f.text("Where", 200)
    text: str | None = f.text("What was found", 2000)
    code: str | None = f.choice("Code", "C1", "C2", "C3", "FI", "note", asked=True)
    code_reason: str | None = f.text("Why this code", 500)
    catalogue_key: str | None = f.text("Catalogue entry", 60, keeps="key")
    answers: dict[str, bool] | None = f.answers("Answers that move the code")
    opinion_asked_at: str | None = f.instant("Second opinion asked for")
    told_to: str | None = f.text("Told to", 120)
    told_at: str | None = f.instant("Told at")
    told_said: str | None = f.text("What they said", 500)
    made_safe: str | None = f.choice("Made safe", *MADE_SAFE)
    made_safe_how: str | None = f.text("What was done to make it safe", 300)
    consent_of: str | None = f.text("With the consent of", 120)
    mended: bool | None = f.flag("Put right on the day")
    as_left: str | None = f.text("As left", 500)
    retest: str | None = f.text("Retest", 200)
    removed: bool | None = f.flag("Removed")
    opinions: tuple[Opinion, ...] = ()

    @property
    def made_good(self) -> bool:
        """Was it put right on the day, with as left and retest recorded? Without both it still counts (rule 13.5)."""
        return bool(self.mended and self.as_left and self.retest)

    @property
    def lacking(self) -> tuple[str, ...]:
        """What its record lacks, as it is said of it: who was told of a danger and when, whose consent, the proof of
        what was put right (rules 13.4 and 13.5)."""
        danger = self.code == "C1"
        return tuple(
            words
            for lacks, words in (
                (danger and not (self.told_to and self.told_at), "is C1: record whom you told, and when"),
                (
                    danger and self.made_safe == "made safe" and not self.consent_of,
                    "was made safe: record with whose consent",
                ),
                (self.mended and not self.made_good, "was put right: add “as left” and the retest, or it still counts"),
            )
            if lacks
        )


@record(kw_only=True)
class Declined:
    """An observation that the verdicts would raise and that the inspector does not: which entry, of what, with which
    code it was suggested, and why."""

    id: str
    about_id: str | None = f.identity("About which")
    catalogue_key: str | None = f.text("Catalogue entry", 60, keeps="key")
    code: str | None = f.choice("Code suggested then", "C1", "C2", "C3", "FI", "note")
    reason: str | None = f.text("Reason", 500)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Overruling:
    """A verdict the inspector sees otherwise: of which figure, what it read then, what it is taken for, and why."""

    id: str
    about_id: str | None = f.identity("About which")
    field: str | None = f.text("Figure", 40, keeps="key")
    of_reading: str | None = f.text("Of which reading", 200)
    status: str | None = f.choice("My verdict", "pass", "attention", "fail")
    reason: str | None = f.text("Reason", 500)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Photo:
    """A photo by reference: what it shows, and the SHA-256 of its content, by which it is stored."""

    id: str
    about_entity: str | None = f.choice("About", *ABOUT, "observation", "come_back", "repair")
    about_id: str | None = f.identity("About which")
    shows: str | None = f.choice("Shows", "circuit chart", "defect", "overview", "as left")
    caption: str | None = f.text("Caption", 200)
    marks: list[dict[str, Any]] | None = f.marks("Marked on it")
    print_size: str | None = f.choice("Printed", "small", "large", "not")
    sha256: str | None = f.text("Content", 64)
    taken_at: str | None = f.instant("Taken")
    removed: bool | None = f.flag("Removed")
