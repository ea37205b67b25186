"""Making findable what was kept before there was a search."""

from sqlalchemy import Engine, select

from dorrik.store.database.tables import inspection, search_subject
from dorrik.store.register import search


def inspection_subject(
    inspection_id: str, reference: str | None, address: str | None, client: str | None, occupier: str | None
) -> search.Subject:
    """An inspection as a search finds it."""
    line = " · ".join(part for part in (address, client) if part)
    title = f"Inspection {reference or 'without a reference'}"
    return search.Subject("inspection", inspection_id, title, line, (reference, address, client, occupier))


def inspections(engine: Engine) -> int:
    """Add the inspections that the search does not know; returns how many."""
    i, s = inspection.c, search_subject.c
    query = (
        select(i.id, i.firm_id, i.reference, i.property_address, i.client_name, i.occupier_name)
        .outerjoin(search_subject, (s.firm_id == i.firm_id) & (s.kind == "inspection") & (s.id == i.id))
        .where(s.id.is_(None), i.reference.is_not(None))
    )
    with engine.begin() as connection:
        rows = connection.execute(query).all()
        for row in rows:
            subject = inspection_subject(
                row.id, row.reference, row.property_address, row.client_name, row.occupier_name
            )
            search.keep(connection, row.firm_id, [subject])
    return len(rows)
