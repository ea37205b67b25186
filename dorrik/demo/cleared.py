"""What has happened since Flat 2's report: one thing put right and retested, one reported, one booked, a copy given."""

from datetime import timedelta

from sqlalchemy import Engine

from dorrik.core.work.remedials import Kind
from dorrik.office import after_report, clearing
from dorrik.office.after_report import AfterReport
from dorrik.store.database.engine import now
from dorrik.store.inspections import inspections
from dorrik.store.people.people import Person
from dorrik.store.reports import copies
from dorrik.store.reports.remedials import By

ELECTRICIAN = "Kelder Electric"


def some_of_it(engine: Engine, inspection_id: str, who: Person) -> None:
    """Take the steps as that inspector."""
    today = now().date()
    on = (today - timedelta(days=3)).isoformat()
    with engine.begin() as connection:
        inspections.hold(connection, inspection_id, who.firm_id)

        def state() -> AfterReport:
            return after_report.after(connection, who.firm_id, inspection_id)

        by_key = {item.required.key: item.required for item in state().items}

        def take(key: str, kind: Kind, **what: object) -> None:
            clearing.take_step(connection, state(), inspection_id, by_key[key].id, kind, what, By(who.id))

        slow = by_key["rcd-slow"]
        take("rcd-slow", "done", by=ELECTRICIAN, on=on, words="New RCD fitted.", certificate="KE-0771")
        (figure,) = slow.figures
        again = clearing.retest(connection, inspection_id, figure.entity_id, figure.field, "27")
        take("rcd-slow", "retest", **clearing.as_step(again, on, ""))
        take("rcd-slow", "accepted", words="")
        take("ring-open", "done", by=ELECTRICIAN, on=on, words="Neutral joined again behind socket 3.", certificate="")
        investigated = next(item.required for item in state().items if item.required.code == "FI")
        take(investigated.key, "booked", by=ELECTRICIAN, on=(today + timedelta(days=9)).isoformat(), own=False)
        copies.note(
            connection, inspection_id, state().issued.id, "occupier", "Davy Marlow", "by hand",
            now().replace(microsecond=0) - timedelta(days=5), person_id=who.id,
        )  # fmt: skip
        after_report.remember(connection, who.firm_id, inspection_id)
