"""The next inspection and the duties that follow the report (rules 14.1 and 14.2)."""

from collections.abc import Iterable, Iterator
from datetime import date

from dorrik.core.basics.record import record
from dorrik.core.book import intervals
from dorrik.core.book.codes import UNSATISFACTORY
from dorrik.core.electrical import devices, insulation, trend
from dorrik.core.home.ages import parts
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging.topics.context import NOMINAL_V, Context, Note

LET = ("let dwelling", "shared house let by the room", "holiday let")


@record
class DutyDue:
    """A duty of a landlord: what, whose, counted from which event, and its last day where that is known.

    short: in a few words; only_if: the outcome that it follows from, '' for every one.
    """

    duty: str
    who: str
    days: int | None
    counted_from: str
    due: str | None
    short: str
    only_if: str


def notes(context: Context) -> Iterator[Note]:
    """A note where the interval is longer than is usual for the tenure."""
    i = context.inspection
    if i.next_years is None or i.tenure is None:
        return
    verdict = intervals.judge(i.next_years, i.tenure, i.nation or "all")
    if verdict is not None:
        yield Note("inspection", i.id, "next_years", "Next inspection", verdict)


def proposal(context: Context, suggested: Iterable[str]) -> intervals.IntervalProposal | None:
    """What the inspection itself leads to; None while its tenure is not known. suggested: codes not recorded yet."""
    i = context.inspection
    if i.tenure is None:
        return None
    codes = [o.code for o in i.observations if o.code] + list(suggested)
    signs = intervals.Signs(
        condition=i.condition_on_sight,
        improvements=codes.count("C3"),
        put_right=sum(code in UNSATISFACTORY for code in codes),
        low_by=_low_by(context),
        older_devices=_older(context),
        damp=bool(i.damp),
        oldest=_oldest(i),
    )
    year = date.fromisoformat(i.inspected_on).year if i.inspected_on else None
    return intervals.propose(i.tenure, i.nation or "all", signs, year)


def _oldest(i: Inspection) -> tuple[str, int] | None:
    """The part that is the oldest by its evidence, and the latest year that it can be of; None where nothing says so.
    What does not agree proves no age (rule 13.6)."""
    if not i.datings:
        return None
    dated = [(part.to_year, part.name) for part in parts(i) if part.agrees and part.to_year is not None]
    if not dated:
        return None
    year, name = min(dated)
    return name, year


def _older(context: Context) -> bool:
    for _, circuit in context.circuits:
        if circuit.device_standard and circuit.device_type and circuit.device_rating_a:
            try:
                if not devices.find(circuit.device_standard, circuit.device_type, circuit.device_rating_a).current:
                    return True
            except LookupError:
                continue
    return False


def _low_by(context: Context) -> int | None:
    """The first year in which a circuit's insulation would reach its minimum if it goes on as it did."""
    i, years = context.inspection, []
    if not i.inspected_on:
        return None
    today = date.fromisoformat(i.inspected_on)
    for _, circuit in context.circuits:
        for figure in ("insulation_lne_mohm", "insulation_ln_mohm"):
            now = getattr(circuit, figure)
            history = [
                (date.fromisoformat(e.measured_on), e.reading)
                for e in circuit.earlier
                if e.figure == figure and e.measured_on and e.reading is not None
            ]
            if now is None or not history:
                continue
            leads = trend.project_insulation([*history, (today, now)], insulation.minimum_mohm(NOMINAL_V))
            if leads is not None and leads.reaches is not None and leads.reaches > today:
                years.append(leads.reaches.year)
    return min(years, default=None)


def duties(context: Context) -> tuple[DutyDue, ...]:
    """The duties that follow the report of a let home, as understood; () for other tenures."""
    i = context.inspection
    if i.tenure not in LET or i.nation is None:
        return ()
    on = date.fromisoformat(i.inspected_on) if i.inspected_on else None
    return tuple(
        DutyDue(
            duty.duty,
            duty.who,
            duty.days,
            duty.counted_from,
            due.isoformat()
            if on is not None and duty.counted_from.startswith("inspection") and (due := duty.due(on))
            else None,
            duty.short,
            duty.only_if,
        )
        for duty in intervals.duties(i.nation)
    )
