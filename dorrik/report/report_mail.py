"""The mails that go with a report, with its confirmation, and before a legal date: plain words, and the link."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

from dorrik.report.content.words import day


@dataclass(frozen=True, slots=True)
class MailWords:
    """Subject and text of a mail."""

    subject: str
    text: str


def words(
    facts: Mapping[str, Any],
    of: str,
    name: str,
    own: str,
    address: str,
    who: str,
    firm: str,
    texts: Mapping[str, str] | None = None,
) -> MailWords:
    """The mail with a report or its confirmation. facts: of the report (`content.for_client`); own: what the sender
    adds; address: of its page; texts: the firm's own (`core.work.firm_texts`)."""
    texts = texts or {}
    home = facts["home"] or "your home"
    if of == "confirmation":
        subject = f"Put right: {home}"
        opening = (
            f"Everything that the report {facts['reference']} required is cleared. The confirmation is attached; it "
            "closes the report without a new inspection. Keep both together."
        )
    else:
        subject = f"Electrical report: {home}"
        result = f"{facts['outcome']}. {facts['sentence']}"
        opening = f"The electrical report on {home} is attached. Its result: {result}"
    extra = texts.get("confirmation_mail" if of == "confirmation" else "report_mail", "")
    parts = [
        f"{name},", opening, own, extra,
        f"See what was found, what to do and by when, with pictures:\n{address}",
        "The link is for you: whoever has it can open the page.",
        f"{who}\n{firm}",
    ]  # fmt: skip
    return MailWords(subject, "\n\n".join(part for part in parts if part) + "\n")


def reminder(
    report_words: Mapping[str, Any], what: str, due: Any, left: str, address: str, firm: str, own: str = ""
) -> MailWords:
    """A reminder before a legal date. what: the duty; due: its last day; left: what is not done."""
    home = report_words["home"] or "your home"
    parts = [
        f"By {day(due)}: {what} ({home}, report {report_words['reference']}).",
        left,
        own,
        f"What is left, and what it means:\n{address}",
        "Check the law that applies to you.",
        firm,
    ]
    return MailWords(f"By {day(due)}: {home}", "\n\n".join(part for part in parts if part) + "\n")


def due_reminder(homes: Sequence[str], due: date, firm: str, phone: str) -> MailWords:
    """That the next inspection of homes is due."""
    many = f"{len(homes)} homes" if len(homes) > 1 else homes[0]
    parts = [
        f"By {day(due)} the electrical installation of {'these homes' if len(homes) > 1 else 'this home'} has to be "
        "inspected and tested again:",
        "\n".join(f"- {home}" for home in homes),
        "Call or write to us to agree the days; with occupiers and keys that takes some weeks.",
        "Check the law that applies to you.",
        f"{firm}\n{phone}".strip(),
    ]
    return MailWords(f"Inspection due by {day(due)}: {many}", "\n\n".join(parts) + "\n")
