"""A portfolio, of a client or of the whole firm: where each property stands today (rules 14.1 and 14.2)."""

import threading
from collections import OrderedDict
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import date

from sqlalchemy import Connection

from dorrik.core.work import portfolio
from dorrik.core.work.coordinates import MapSpot, doubts
from dorrik.core.work.portfolio import PropertyFacts
from dorrik.core.work.portfolio_view import ViewedProperty
from dorrik.store.register import portfolio_rows
from dorrik.store.register.portfolio_rows import KeptProperty, ReportRow

#: Firms whose portfolios a process remembers.
_FIRMS = 8


@dataclass(frozen=True, slots=True)
class Portfolio:
    """Every property of a firm with where it stands; doubts: coordinates that cannot be right, by property: why."""

    properties: tuple[ViewedProperty, ...]
    doubts: Mapping[str, str]

    def of_client(self, client_id: str | None) -> list[ViewedProperty]:
        """Those of one client, or all."""
        return [home for home in self.properties if client_id is None or home.client_id == client_id]


@dataclass(slots=True)
class _Remembered:
    today: date
    fingerprints: dict[str, tuple[int, ...]]
    parts: dict[str, list[ViewedProperty]]
    whole: Portfolio


class Portfolios:
    """Portfolios as they are now; of what is remembered, only parts that changed are read anew."""

    def __init__(self) -> None:
        self._lock = threading.Lock()
        self._firms: OrderedDict[str, _Remembered] = OrderedDict()

    def now(self, connection: Connection, firm_id: str, today: date) -> Portfolio:
        """A firm's portfolio as the connection's transaction sees it."""
        fingerprints = portfolio_rows.fingerprints(connection, firm_id)
        with self._lock:
            before = self._firms.get(firm_id)
        if before is not None and before.today != today:
            before = None
        if before is not None and before.fingerprints == fingerprints:
            return before.whole
        parts = dict(before.parts) if before is not None else {}
        known = before.fingerprints if before is not None else {}
        changed = {part for part, figures in fingerprints.items() if known.get(part) != figures}
        parts |= {part: [] for part in changed}
        for row in portfolio_rows.rows(connection, firm_id, changed):
            parts[row.id[-2:]].append(_viewed(row, today))
        properties = tuple(home for part in parts.values() for home in part)
        spots = [MapSpot(home.id, home.latitude, home.longitude, home.nation) for home in properties]
        whole = Portfolio(properties, doubts(spots))
        with self._lock:
            self._firms[firm_id] = _Remembered(today, fingerprints, parts, whole)
            self._firms.move_to_end(firm_id)
            while len(self._firms) > _FIRMS:
                self._firms.popitem(last=False)
        return whole


def _viewed(row: KeptProperty, today: date) -> ViewedProperty:
    facts = facts_of(row)
    return ViewedProperty(
        row.id, row.address or "No address yet", row.client, row.client_id, row.reference, row.nation, row.latitude,
        row.longitude, facts.due_on, portfolio.line(facts, today),
    )  # fmt: skip


def facts_of(row: KeptProperty) -> PropertyFacts:
    """What is known of a property, as the rules take it."""
    reports = list(row.reports.values())
    open_work = [report for report in reports if report.counting > report.cleared]
    copies = [report.copy_due for report in reports if report.copy_due is not None]
    held = [inspection for inspection in row.in_hand if inspection[0]]
    return PropertyFacts(
        inspected_on=_latest([*(report.inspected_on for report in reports), row.inspected_on]),
        due_on=_first(_due(report, row) for report in reports) if reports else row.due_on,
        unreported=_unreported(row),
        asked=bool(row.jobs),
        booked_on=_first(booked for _, booked in row.jobs),
        in_hand=bool(row.in_hand),
        held=bool(held) and len(held) == len(row.in_hand),
        return_on=_first(return_on for _, return_on, _ in held),
        held_by_operator=any(by_operator for _, _, by_operator in held),
        required=sum(report.counting - report.cleared for report in open_work),
        dangerous=any(report.worst == "C1" for report in open_work),
        required_by=_first(report.work_due for report in open_work),
        copies=bool(copies),
        copies_by=_first(copies),
    )


def _due(report: ReportRow, row: KeptProperty) -> date | None:
    reported = None if report.inspected_on is None else (report.inspected_on, report.due_on)
    return portfolio.due_on(reported, row.inspected_on, row.due_on)


def _unreported(row: KeptProperty) -> tuple[str, ...]:
    """Installations that no report speaks of, where the register knows no day either."""
    if row.due_on is not None or None in row.reports:
        return ()
    return tuple(name for key, name in row.installations.items() if key not in row.reports)


def _first(days: Iterable[date | None]) -> date | None:
    return min((day for day in days if day is not None), default=None)


def _latest(days: Iterable[date | None]) -> date | None:
    return max((day for day in days if day is not None), default=None)
