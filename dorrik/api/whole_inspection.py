"""An inspection with all of its codes, for papers that name them."""

from sqlalchemy import Connection

from dorrik.api.problems import ProblemError, not_found
from dorrik.core.inspection.kept_inspection import KeptInspection
from dorrik.journal import blind
from dorrik.store.inspections import inspections
from dorrik.store.people.people import Person


def load_whole(connection: Connection, me: Person, inspection_id: str, *, lock: bool = False) -> KeptInspection:
    """The inspection; 404 where the firm has none of that id, 409 where a code waits for the person's second opinion.

    lock: hold its row until the transaction ends.
    """
    kept = inspections.load(connection, inspection_id, me.firm_id, lock=lock)
    if kept is None:
        raise not_found()
    if blind.blind_to(connection, kept, me):
        raise ProblemError(409, "blind", "An observation waits for your second opinion. Give it first.")
    return kept
