"""The project's guide to its rules, rule by rule, for the screens that cite them."""

import re
from functools import cache
from pathlib import Path

from fastapi import Request
from pydantic import BaseModel

from dorrik.api.problems import RESPONSES
from dorrik.api.routing import router as make_router
from dorrik.api.work import work
from dorrik.core.book.rule_book import rule_book
from dorrik.core.book.terms import TERMS
from dorrik.store.firm import firm_rules

router = make_router("/api", "reference", RESPONSES)

GUIDE = Path(__file__).parents[2] / "docs" / "rules.md"


class RuleOut(BaseModel):
    """One rule: its number as the margin cites it, its title, its paragraphs; a formula begins with `= `."""

    number: str
    title: str
    text: list[str]


@cache
def guide() -> tuple[RuleOut, ...]:
    """Every rule of docs/rules.md in its order; marks of emphasis are taken off."""
    rules_out: list[RuleOut] = []
    for part in re.split(r"^### ", GUIDE.read_text(encoding="utf-8"), flags=re.M)[1:]:
        head, _, body = part.partition("\n")
        number, _, title = head.partition(" ")
        body = re.split(r"^## ", body, flags=re.M)[0]
        rules_out.append(RuleOut(number=number, title=title.strip(), text=_paragraphs(body)))
    return tuple(rules_out)


def _paragraphs(body: str) -> list[str]:
    text: list[str] = []
    for line in body.splitlines():
        if line.startswith("    "):
            text.append(f"= {line.strip()}")
        elif line.strip():
            text.append(re.sub(r"[*`]", "", line.strip()))
    return text


class TermOut(BaseModel):
    word: str
    means: str


class TermsOut(BaseModel):
    """Words of one kind."""

    title: str
    terms: list[TermOut]


@router.get("/terms")
def terms(request: Request) -> list[TermsOut]:
    """The words on the screens, as the firm's rule book has them."""
    with work(request) as (connection, me):
        key, _ = firm_rules.rules(connection, me.firm_id)
    book = rule_book(key)
    return [
        TermsOut(title=title, terms=[TermOut(word=book.translate(word), means=means) for word, means in words])
        for title, words in TERMS.items()
    ]


@router.get("/rules")
def rules(request: Request) -> list[RuleOut]:
    """The rules of the job as they are told to people."""
    with work(request):
        return list(guide())
