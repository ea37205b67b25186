"""A sheet for prices: what is to be put right, for any contractor to fill in. It names nobody who lives there."""

from collections.abc import Sequence
from datetime import date
from typing import Any

from dorrik.core.work.remedials import Required
from dorrik.report import press
from dorrik.report.content.words import day


def sheet(words: dict[str, Any], items: Sequence[Required]) -> bytes:
    """The sheet as PDF. words: of the report (`content.for_client`); items: what is not cleared. Raises
    press.TypesettingTooLarge or Late."""
    return press.letter("price_request", said(words, items), date.fromisoformat(words["issued_on"]))


def said(words: dict[str, Any], items: Sequence[Required]) -> dict[str, Any]:
    """What the sheet says."""
    return {
        "title": f"Prices for {words['home']}",
        "home": words["home"],
        "reference": words["reference"],
        "report": f"{words['title']}, issue {words['number']} of {day(words['issued_on'])}",
        "inspected_on": day(words["inspected_on"]) if words["inspected_on"] else "",
        "by": words["firm"]["name"],
        "rule_book": words["rule_book"],
        "items": [
            {
                "number": at,
                "code": one.code,
                "title": one.title,
                "text": one.text if one.text != one.title else "",
                "where": one.place,
                "todo": one.todo,
                "counts": one.counts,
                "figures": [f"{figure.label} {figure.value} {figure.unit}".strip() for figure in one.figures],
            }
            for at, one in enumerate(items, 1)
        ],
    }
