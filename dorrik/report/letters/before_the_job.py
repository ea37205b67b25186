"""Letters before a job: confirmation for the client (scope, access, price), power-off notice for the occupier."""

from collections.abc import Mapping, Sequence
from typing import Any

from dorrik.core.book.rule_book import rule_book
from dorrik.core.work.register import REPAIRS
from dorrik.report.content import Issue, day
from dorrik.report.letters import letter

Values = Mapping[str, Any]


_AS_OFFERED = (
    "What is found while the work is done, and was not offered, is told and priced before it is done. What was done is "
    "tested again and certified."
)
_AS_FOUND = (
    "What cannot be reached or may not be switched off becomes a limitation and is named in the report. The price is "
    "an estimate from the circuits and boards that are known; we say so before anything is added."
)


def _facts(*pairs: tuple[str, Any]) -> list[dict[str, str]]:
    return [{"label": label, "value": str(value)} for label, value in pairs if value not in (None, "")]


def _when(job: Values) -> str:
    if not job.get("booked_on"):
        return "still to be agreed"
    return day(job["booked_on"]) + (f", {job['booked_at']}" if job.get("booked_at") else "")


def confirmation(
    client: Values, home: Values, job: Values, installations: Sequence[Values], price: str, minutes: float, issue: Issue
) -> dict[str, Any]:
    """What the client is asked to confirm. price: with its currency; minutes: how long the visit takes."""
    names = ", ".join(installation["name"] for installation in installations if installation.get("name"))
    left_out = "; ".join(line.strip() for line in (job.get("leave_out") or "").splitlines() if line.strip())
    agreed = ", ".join(
        part for part in (job.get("agreed_with"), job.get("agreed_on") and day(job["agreed_on"])) if part
    )
    occupier = ", ".join(part for part in (home.get("occupier_name"), home.get("occupier_phone")) if part)
    hours = round(minutes / 30) / 2
    repairs = job.get("work") == REPAIRS
    asked = "repairs to" if repairs else "a periodic inspection and test of"
    return letter(
        issue,
        column="",
        subject=f"{'Repairs' if repairs else 'Inspection'} at {home.get('address') or 'your property'}: please confirm",
        to=", ".join(part for part in (client.get("name"), client.get("address")) if part) or "To our client",
        opening=f"You asked us for {asked} the electrical installation at this address. "
        "This is what we agreed; please tell us if anything here is not as you meant it.",
        facts=_facts(
            ("Job", job.get("number")),
            ("Property", home.get("address")),
            ("Installations, a report each", "" if repairs else names),
            ("Purpose", job.get("purpose")),
            ("Extent", job.get("extent")),
            ("Left out", left_out),
            ("Because", job.get("leave_out_reason")),
            ("Agreed", agreed),
            ("Visit", _when(job)),
            ("Time on site, about", f"{hours:g} hours"),
            ("Power off", job.get("power_off")),
            ("Must stay on", home.get("must_stay_on")),
            ("Access", home.get("access")),
            ("Keys", home.get("key_place")),
            ("Occupier", occupier),
            ("Price, as offered" if repairs else "Price, estimated", price),
        ),
        body=[
            "The power will be off for part of the visit. We tell the occupier when; whoever depends on power for "
            "their health must be known to us before the day.",
            _AS_OFFERED if repairs else _AS_FOUND,
            "A defect that is dangerous is told to the person in charge on the spot and confirmed in writing.",
        ],
        foot=f"Job {job.get('number') or '–'} · {rule_book().name}",
    )  # fmt: skip


def power_off_notice(home: Values, job: Values, issue: Issue) -> dict[str, Any]:
    """What the occupier is told about the day."""
    return letter(
        issue,
        column="",
        subject="Your electricity will be off for a while",
        to=", ".join(part for part in (home.get("occupier_name") or "To the occupier", home.get("address")) if part),
        opening=f"We are coming to {'work on' if job.get('work') == REPAIRS else 'inspect and test'} the electrical "
        "installation of your home. To do that safely we have to switch the power off for part of the visit.",
        facts=_facts(
            ("When we come", _when(job)),
            ("Power off, about", job.get("power_off") or "told to you on arrival"),
            ("What stays on, as agreed", home.get("must_stay_on")),
            ("Our number", issue.firm_phone),
        ),
        body=[
            "Please call us before the day if anybody in the home depends on medical equipment, or if a freezer, a "
            "fish tank or an alarm has to stay on: we find a way together.",
            "Please save your work on computers before we begin, and clear the way to the meter and to the fuse board. "
            "We need to reach sockets and switches in every room.",
            "Nobody may switch anything back on while our lock and tag are on the board.",
        ],
        foot=f"Job {job.get('number') or '–'}",
    )
