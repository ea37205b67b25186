"""How long visits are expected to take: a job's estimate, held against what this firm's own visits took (rule 16.1)."""

from collections import Counter, defaultdict
from collections.abc import Mapping

from sqlalchemy import Connection

from dorrik.core.work import visit_lengths
from dorrik.core.work.planning import Rates, on_site_min
from dorrik.core.work.register import REPAIRS
from dorrik.core.work.visit_lengths import ExpectedLength, Factor, RecordedVisit
from dorrik.office.estimates import size_of
from dorrik.store.planning import open_work
from dorrik.store.planning.open_work import Attended
from dorrik.store.register import portfolio_rows, register
from dorrik.store.register.register import RegisterRecord


def factors(connection: Connection, firm_id: str, rates: Rates) -> tuple[Mapping[str, Factor], Factor | None]:
    """What the firm's recorded visits say of its estimates: by kind, and all of them."""
    recorded = recorded_visits(connection, firm_id, rates)
    return visit_lengths.factors(recorded, lambda visit: visit.kind), visit_lengths.factor(recorded)


def recorded_visits(connection: Connection, firm_id: str, rates: Rates) -> list[RecordedVisit]:
    """Visits whose time is known, each beside its job's estimate: by who arrived and left, else as the job says."""
    # A job with several installations was estimated as a whole: its inspections are one visit.
    spans: dict[str, list[Attended]] = defaultdict(list)
    for attended in open_work.attended(connection, firm_id):
        spans[attended.job_id].append(attended)
    clients = portfolio_rows.clients(connection, firm_id)
    visits = []
    for job in register.entries(connection, firm_id, "job"):
        some = spans.get(job.id, [])
        minutes = visit_lengths.on_site_min((attendance.arrived_at, attendance.left_at) for attendance in some)
        if not some:
            minutes = float(job.values.get("spent_min") or 0)
        if not minutes or job.values.get("work") == REPAIRS:
            continue
        who = (
            Counter(attendance.who for attendance in some).most_common(1)[0][0]
            if some
            else str(job.values.get("booked_with") or "")
        )
        visits.append(
            RecordedVisit(
                estimated_min=estimated(job, rates), actual_min=minutes, kind=kind_of(job),
                client_id=clients.get(job.parent_id, ""), inspector_id=who,
            )
        )  # fmt: skip
    return visits


def kind_of(job: RegisterRecord) -> str:
    """Which kind of visit a job is, by the size of the home."""
    return visit_lengths.kind_of(int(job.values.get("rings") or 0) + int(job.values.get("radials") or 0))


def estimated(job: RegisterRecord, rates: Rates) -> float:
    """How long a job takes on site by the estimate alone (minutes)."""
    if job.values.get("work") == REPAIRS:
        return float(job.values.get("offered_min") or 60)
    return on_site_min(size_of(job.values), rates)


def expected(
    job: RegisterRecord, rates: Rates, by_kind: Mapping[str, Factor], of_firm: Factor | None
) -> ExpectedLength:
    """How long a job's visit takes: as somebody said, else by the estimate and the firm's own visits."""
    visit_min = job.values.get("visit_min")
    if visit_min:
        return ExpectedLength(float(visit_min), float(visit_min), float(visit_min), 0)
    return visit_lengths.expected(estimated(job, rates), by_kind.get(kind_of(job)), of_firm)
