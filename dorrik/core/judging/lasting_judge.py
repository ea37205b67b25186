"""A judge that stays with an inspection and works out only what a change touches."""

from collections.abc import Mapping
from typing import Any

from dorrik.core.basics.cells import Cells
from dorrik.core.basics.identity_cache import IdentityCache
from dorrik.core.book.house_rules import HouseRules
from dorrik.core.home import instruments
from dorrik.core.home.instruments import MeasuredAt
from dorrik.core.home.read_right import read_right
from dorrik.core.inspection.incremental_rewrite import Rewritten
from dorrik.core.inspection.records import Inspection
from dorrik.core.inspection.tracked_inspection import TrackedInspection
from dorrik.core.judging import steps
from dorrik.core.judging.judgement import Judgement, assemble, judged_by
from dorrik.core.judging.served.repairs import settled
from dorrik.core.judging.topics.context import Context
from dorrik.core.judging.topics.note import Figure


class LastingJudge:
    """Judges one inspection again and again while it changes, and works out only what a change touches.

    What it says is what `judge` says of the same inspection. Of one thread at a time; after anything raised it begins
    anew. written: what was written of its judgements, for `as_json`.
    """

    def __init__(self) -> None:
        self._by: object = None
        self._most = 0
        self._cells = Cells()
        self._contexts: dict[bool, tuple[TrackedInspection, TrackedInspection, Context]] = {}
        self.written = IdentityCache()

    def judge(
        self,
        inspection: Inspection,
        measured_at: MeasuredAt | None = None,
        by_trainees: Mapping[str, tuple[Figure, ...]] | None = None,
    ) -> Judgement:
        """As `judge`. Entities that are the same objects as the time before are not looked at."""
        by = _rules_of(inspection)
        # Cells of what was taken out or said otherwise stay: with too many of them everything is thrown away.
        if by != self._by or len(self._cells) > self._most > 0:
            self._begin(inspection, by)
        try:
            with judged_by(inspection):
                judgement = self._judge(inspection, measured_at or {}, by_trainees or {})
            self._most = self._most or _TIMES * len(self._cells) + _AT_LEAST
            return judgement
        except BaseException:
            self._by = None
            raise

    def forget(self) -> None:
        """Let go of everything that is kept; the next judgement begins anew."""
        self._by = None
        self._cells.clear()
        self._contexts = {}
        self.written = IdentityCache()

    def _begin(self, inspection: Inspection, by: object) -> None:
        self.forget()
        self._by = by
        self._most = 0
        self._house = HouseRules.using(inspection.house_rules)
        self._cells = Cells()
        self._rewritten = Rewritten()
        self.written = IdentityCache()

    def _judge(
        self, inspection: Inspection, measured_at: MeasuredAt, by_trainees: Mapping[str, tuple[Figure, ...]]
    ) -> Judgement:
        self._cells.put("measured at", measured_at)
        self._cells.put("by trainees", by_trainees)
        right = read_right(inspection, self._house, self._rewritten)
        context = after = self._context(inspection, right, settled=False)
        work = self._cells.made(steps.repair_views, context)
        if work:
            after = self._context(settled(inspection, work), settled(right, work), settled=True)
        return assemble(context, after)

    def _context(self, entered: Inspection, right: Inspection, *, settled: bool) -> Context:
        known = self._contexts.get(settled)
        if known is None:
            watched = TrackedInspection(self._cells), TrackedInspection(self._cells)
            watched[0].becomes(entered)
            watched[1].becomes(right)
            context = Context(watched[0].top, watched[1].top, self._house, self._cells)
            self._contexts[settled] = (*watched, context)
            return context
        known[0].becomes(entered)
        known[1].becomes(right)
        return known[2]


#: How many cells there may be, as a multiple of those of the first judgement, and beyond that.
_TIMES, _AT_LEAST = 2, 500


def _rules_of(inspection: Inspection) -> tuple[Any, ...]:
    """What an inspection is judged by. Where that becomes another, everything is worked out anew."""
    i = inspection
    return (
        i.rule_book, i.house_rules, i.table_corrections, i.catalogue, instruments.accuracy(i.instruments_used),
    )  # fmt: skip
