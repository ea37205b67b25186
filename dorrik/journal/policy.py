"""Whose change is rightful: what is asked of who makes it, beside the checks of its form and place."""

from collections.abc import Callable
from datetime import datetime
from typing import Any

from dorrik.core.book import rule_book
from dorrik.core.inspection.change import Change, Refusal
from dorrik.core.inspection.kept_inspection import KeptInspection
from dorrik.core.work import workflow
from dorrik.journal.change import Author
from dorrik.store.firm.firm_rules import Terms


def rightful(kept: KeptInspection, change: Change, value: Any, author: Author, terms: Callable[[], Terms]) -> None:
    """The author's role allows it. terms: what their firm has settled, asked for where it matters only.

    Rules that an inspection is judged by come from the firm: whoever may not settle them can only take the firm's over.
    """
    if change.field in workflow.ISSUED.get(change.entity, ()) and not author.issues:
        raise Refusal("The number of a certificate is given to it as it is issued.")
    held = kept.entities[kept.id].values.get("held_at") is not None
    action = workflow.action_of(change.entity, change.field)
    refusal = workflow.why_not(author.role, action, workflow.state_of(held=held, issued=False))
    if refusal is None:
        return
    if action == "settle rules of an inspection" and author.role == "inspector":
        nation = kept.entities[kept.id].values.get("nation")
        if _of_the_firm(change.field, value, terms(), nation, change.made_at):
            return
    raise Refusal(refusal)


def _of_the_firm(field: str, value: Any, terms: Terms, nation: str | None, at: datetime) -> bool:
    if field == "rule_book":
        usual = rule_book.keys()[0]
        return value in ((terms.rule_book,) if terms.rule_book else (None, usual, rule_book.of_nation(nation)))
    if field == "house_rules":
        return (value or {}) == terms.house_rules
    if field == "catalogue":
        return (value or []) == terms.catalogue
    # A device that was away began with what was in force then.
    return any((value or []) == terms.corrections(moment) for moment in (None, at))
