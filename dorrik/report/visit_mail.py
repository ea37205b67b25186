"""Mails to who lives there: when somebody could come, that the power goes off, and a reminder the day before."""

from collections.abc import Mapping
from typing import Any

from dorrik.report.content.words import day
from dorrik.report.report_mail import MailWords

Values = Mapping[str, Any]


def _signed(*parts: str) -> str:
    return "\n\n".join(part for part in parts if part) + "\n"


def _name(home: Values) -> str:
    return f"{home.get('occupier_name') or 'To the occupier'},"


def times(home: Values, hours: float, address: str, firm: str, phone: str) -> MailWords:
    """When somebody could come, to be chosen by a link. hours: how long it takes, about."""
    where = home.get("address") or "your home"
    return MailWords(
        f"When can we come? Electrical inspection, {where}",
        _signed(
            _name(home),
            "We have to inspect and test the electrical installation of your home. "
            f"It takes about {hours:g} hours; the power is off for part of it.",
            f"Choose a time, or propose another:\n{address}",
            "Please tell us if anybody in the home depends on medical equipment. The link is for you: whoever has it "
            "can answer.",
            f"{firm}\n{phone}".strip(),
        ),
    )


def notice(home: Values, job: Values, firm: str, phone: str) -> MailWords:
    """That the power will be off; the notice itself is attached."""
    when = day(job["booked_on"]) + (f", {job['booked_at']}" if job.get("booked_at") else "")
    return MailWords(
        f"Electricity off for a while: {when}",
        _signed(
            _name(home),
            f"We come on {when} to inspect and test the electrical installation of your home. The power is off for "
            "part of the visit; the notice is attached.",
            "Please call us before the day if anybody depends on medical equipment, or if something has to stay on.",
            f"{firm}\n{phone}".strip(),
        ),
    )


def reminder(home: Values, job: Values, firm: str, phone: str) -> MailWords:
    """The day before."""
    when = day(job["booked_on"]) + (f", {job['booked_at']}" if job.get("booked_at") else "")
    return MailWords(
        f"Tomorrow: electrical inspection, {home.get('address') or 'your home'}",
        _signed(
            _name(home),
            f"We come tomorrow, {when}. The power is off for part of the visit.",
            "If nobody can let us in, please call us today.",
            f"{firm}\n{phone}".strip(),
        ),
    )
