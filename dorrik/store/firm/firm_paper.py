"""What a firm has settled about its letters and its numbers."""

from dataclasses import dataclass

from sqlalchemy import Connection, select
from sqlalchemy.dialects.mysql import insert as upsert

from dorrik.store.database.engine import now
from dorrik.store.database.mail_tables import firm_paper


@dataclass(frozen=True, slots=True)
class FirmPaper:
    """texts: by `core.firm_texts.TEXTS`; remind_days: days before a legal date; first_reference, first_job: where the
    numbers of reports and jobs begin, None as it always was."""

    texts: dict[str, str]
    remind_days: list[int]
    first_reference: str | None
    first_job: str | None


def of(connection: Connection, firm_id: str) -> FirmPaper:
    """What a firm has settled; nothing where it never did."""
    row = connection.execute(select(firm_paper).where(firm_paper.c.firm_id == firm_id)).one_or_none()
    if row is None:
        return FirmPaper({}, [], None, None)
    return FirmPaper(row.texts, row.remind_days, row.first_reference, row.first_job)


def settle(connection: Connection, firm_id: str, person_id: str, paper: FirmPaper) -> None:
    """Settle all of it."""
    values = {
        "texts": paper.texts, "remind_days": paper.remind_days, "first_reference": paper.first_reference,
        "first_job": paper.first_job, "changed_at": now(), "changed_by": person_id,
    }  # fmt: skip
    connection.execute(upsert(firm_paper).values(firm_id=firm_id, **values).on_duplicate_key_update(**values))


def reminding(connection: Connection) -> dict[str, FirmPaper]:
    """Firms that remind their clients, by id."""
    firm_papers = {row.firm_id: of(connection, row.firm_id) for row in connection.execute(select(firm_paper.c.firm_id))}
    return {firm_id: paper for firm_id, paper in firm_papers.items() if paper.remind_days}
