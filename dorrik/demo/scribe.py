"""Entering an inspection as a user does: one change a field, in batches through the journal."""

from collections.abc import Callable
from typing import Any

from PIL.Image import Image
from sqlalchemy import Engine

from dorrik.core.inspection.change import Change
from dorrik.journal.apply import apply
from dorrik.journal.change import Author
from dorrik.store.database.engine import new_id, now


class Scribe:
    """Writes one inspection. Nothing is kept until `send`; a refused change is an error in the demo itself."""

    def __init__(self, engine: Engine, firm_id: str, author: Author) -> None:
        self._engine = engine
        self._firm_id = firm_id
        self._author = author
        self._changes: list[Change] = []
        self.inspection = new_id()
        #: Of the property, once it is set.
        self.address = ""
        #: Photos to be drawn: by what, of which entity, and what else is known of each.
        self.photos: list[tuple[Callable[[], Image], tuple[str, str], dict[str, Any]]] = []
        #: Second opinions to come: of which observation, which code and why.
        self.opinions: list[tuple[str, str, str]] = []
        self._note("inspection", self.inspection, "firm", firm_id)

    def _note(self, entity: str, entity_id: str, field: str, value: Any) -> None:
        self._changes.append(Change(new_id(), entity, entity_id, field, value, 0, now(), "demo tablet"))

    @property
    def noted(self) -> tuple[Change, ...]:
        """What was noted and not kept yet."""
        return tuple(self._changes)

    def signed(self, author: Author) -> None:
        """From here on somebody else writes; what was noted before is to be sent before."""
        self._author = author

    def origin(self, **fields: Any) -> None:
        """Fields of the inspection itself."""
        self.address = fields.get("property_address", self.address)
        self.set("inspection", self.inspection, **fields)

    def add(self, entity: str, parent: str, parent_id: str, **fields: Any) -> str:
        """A new entity in its parent; returns its id."""
        entity_id = new_id()
        self._note(entity, entity_id, parent, parent_id)
        self.set(entity, entity_id, **fields)
        return entity_id

    def set(self, entity: str, entity_id: str, **fields: Any) -> None:
        """Fields of an entity that stands."""
        for field, value in fields.items():
            self._note(entity, entity_id, field, value)

    def send(self) -> None:
        """Keep everything noted so far."""
        with self._engine.begin() as connection:
            applied = apply(connection, self._firm_id, self._author, self.inspection, self._changes)
        if applied is None:
            raise RuntimeError("The demo's inspection could not be made.")
        refused = [result.reason for result in applied.results if result.state == "refused"]
        if refused:
            raise RuntimeError(f"The demo holds a change that is refused: {refused[0]}")
        self._changes = []
