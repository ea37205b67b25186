"""The note a topic gives: a verdict, the figure it speaks of, the circuits it touches, and what it follows from."""

from collections.abc import Mapping
from typing import Any, Literal

from dorrik.core.basics.record import record
from dorrik.core.basics.verdict import Status, Verdict
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.inspection.records import Overruling
from dorrik.core.inspection.stages import Stage

#: One figure: entity id and field.
Figure = tuple[str, str]


@record(kw_only=True)
class Action:
    """Something that a note offers, to be carried out in one tap.

    kind: 'set' a field to a value, 'observe' (raise the observation of the note), 'letter' to the network operator,
    that the operator was 'call'ed now, 'hold' the job; entity, entity_id, field, value: of 'set'; key: of 'observe'.
    """

    kind: Literal["set", "observe", "letter", "hold", "call"]
    label: str
    entity: str = ""
    entity_id: str = ""
    field: str = ""
    value: Any = None
    key: str = ""


@record
class Note:
    """A verdict and the field it speaks of.

    title: names the circuit and the figure; offers: what it offers beside its observation; touches: ids of the circuits
    that the statement is about where it is not about one alone; because_of: the figure that explains this one, under
    which it is folded; overruled: how the inspector sees it, where that differs.
    """

    entity: str
    entity_id: str
    field: str
    title: str
    verdict: Verdict
    offers: tuple[Action, ...] = ()
    touches: tuple[str, ...] = ()
    because_of: Figure | None = None
    overruled: Overruling | None = None
    stage: Stage | Literal[""] = ""

    @property
    def figure(self) -> Figure:
        """The figure that the note speaks of."""
        return (self.entity_id, self.field)

    @property
    def status(self) -> Status:
        """The status that counts: the inspector's where the verdict was overruled."""
        if self.overruled is not None and self.overruled.status is not None:
            return _STATUS[self.overruled.status]
        return self.verdict.status

    @property
    def of(self) -> str:
        """The name of what it speaks of: titles begin with it."""
        return self.title.split(": ", 1)[0]

    @property
    def words(self) -> str:
        """What was looked at or measured, without the name and the figure, as its field is called."""
        spec = KINDS[self.entity].fields.get(self.field)
        return spec.label if spec is not None else self.title.split(": ", 1)[-1]

    @property
    def pressing(self) -> bool:
        """Is it worth a look, and no mere consequence of another?"""
        return self.because_of is None and self.status in ("fail", "attention")


_STATUS: Mapping[str, Status] = {"pass": "pass", "attention": "attention", "fail": "fail"}


def set_field(entity: str, entity_id: str, field: str, value: Any, label: str) -> Action:
    """The offer to set a field."""
    return Action(kind="set", label=label, entity=entity, entity_id=entity_id, field=field, value=value)
