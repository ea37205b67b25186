"""A landlord's page of a month: what was done, what has to be put right or sent, and what is due next."""

from collections.abc import Sequence
from datetime import date
from typing import Any

from dorrik.core.work.portfolio import Standing
from dorrik.core.work.portfolio_view import ViewedProperty
from dorrik.report import press
from dorrik.report.content.words import day


def page(
    client: str, firm: dict[str, str], on: date, properties: Sequence[ViewedProperty],
    done: Sequence[tuple[str, date, str]],
) -> bytes:  # fmt: skip
    """The page as PDF. on: the day that it is of; done: address, day and result of each inspection of that month.
    Raises press.TypesettingTooLarge or Late."""
    return press.letter("month_page", said(client, firm, on, properties, done), on)


def said(
    client: str, firm: dict[str, str], on: date, properties: Sequence[ViewedProperty],
    done: Sequence[tuple[str, date, str]],
) -> dict[str, Any]:  # fmt: skip
    """What the page says, each property once, what presses first."""
    open_ones = [home for home in properties if home.line.first.state != "done"]
    late = sum(home.line.first.late for home in properties)
    return {
        "title": f"{on:%B %Y}",
        "client": client,
        "firm": firm["name"],
        "contact": " · ".join(part for part in (firm.get("phone"), firm.get("email")) if part),
        "on": day(on),
        "count": len(properties),
        "late": late,
        "done": [{"home": home, "on": day(when), "result": result} for home, when, result in done],
        "open": [
            {
                "home": open_one.address,
                "reference": open_one.reference,
                "state": open_one.line.first.state,
                "late": open_one.line.first.late,
                "on": day(open_one.line.first.on) if open_one.line.first.on else "no day yet",
                "next": open_one.line.first.next_step,
                "holder": "" if open_one.line.first.holder == "nobody" else open_one.line.first.holder,
                "also": [_also(standing) for standing in open_one.line.also if standing.state != "done"],
            }
            for open_one in open_ones
        ],
        "rest": len(properties) - len(open_ones),
    }


def _also(standing: Standing) -> str:
    by = f" by {day(standing.on)}" if standing.on else ""
    return f"{standing.state}{by}{', late' if standing.late else ''}"
