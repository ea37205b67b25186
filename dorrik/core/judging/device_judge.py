"""The judge of a device: the inspection that is open there, as the server sent it and as it was changed since.

A device that has no server judges by the same rules: it runs this very code in the browser. What goes in and comes out
is text (JSON), for that is what crosses from one language to the other quickly. Each answer says what became different
since the one before, as the server's do (`delta`).
"""

import json
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from typing import Any

from dorrik.core.home.journal_facts import JournalFacts
from dorrik.core.inspection import former_names
from dorrik.core.inspection.change import Change, Refusal
from dorrik.core.inspection.change_checks import FORM, PLACE, kept_value
from dorrik.core.inspection.field_spec import FieldError
from dorrik.core.inspection.kept_inspection import KeptEntity, KeptInspection, assemble, new_entity, put
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.inspection.records import Inspection
from dorrik.core.judging import delta
from dorrik.core.judging.judgement import Judgement
from dorrik.core.judging.lasting_judge import LastingJudge
from dorrik.core.judging.wire.judgement import as_json


class OtherEditionError(ValueError):
    """The inspection holds what these rules do not know: it was entered in another edition of the application."""


@dataclass(slots=True)
class _Local:
    """What stood where something was entered on this device, so that the server's refusal can put it back."""

    kind: str
    entity_id: str
    name: str
    before: Any


@dataclass(slots=True)
class _Open:
    kept: KeptInspection
    facts: JournalFacts
    blind: frozenset[str]
    lasting: LastingJudge = field(default_factory=LastingJudge)
    judgement: dict[str, Any] | None = None
    #: By change id, in the order in which they were entered.
    local: dict[str, _Local] = field(default_factory=dict)


class DeviceJudge:
    """Judges the one inspection that is open. Each method takes and gives plain data; `answer` takes and gives text."""

    def __init__(self) -> None:
        self._open: _Open | None = None

    def open(self, given: Mapping[str, Any]) -> dict[str, Any]:
        """Take an inspection in hand.

        given: `id`, `firm_id`, `entities` (kind, id, parent_id, values) in any order, `facts` (see JournalFacts.read),
        `entered` since they were told (id, field, value, at, read_by), `blind` (ids of observations whose code this
        person does not see), `changes` that wait on the device, `now`. Raises OtherEditionError.
        """
        self.close()
        kept = KeptInspection(given["id"], given["firm_id"], 0)
        for item in given["entities"]:
            kept.entities[item["id"]] = _entity(item)
        if kept.id not in kept.entities:
            kept.entities[kept.id] = new_entity("inspection", kept.id, given["firm_id"])
        facts = JournalFacts.read(given["facts"])
        for item in given["entered"]:
            of = kept.entities.get(item["id"])
            value = item["value"] if of is None else _as_kept(of.kind, item["field"], item["value"])
            facts.entered(item["id"], item["field"], value, item["at"], item.get("read_by"))
        self._open = _Open(kept, facts, frozenset(given["blind"]))
        return self.write(given)

    def close(self) -> None:
        """Let go of what is in hand, and of all that is remembered of it."""
        if self._open is not None:
            self._open.lasting.forget()
        self._open = None

    def write(self, given: Mapping[str, Any]) -> dict[str, Any]:
        """What was entered on this device: `changes` in their order, `now` (ISO 8601). The answer says of each what
        would be refused, and why."""
        now = datetime.fromisoformat(given["now"])
        hand = self._hand()
        results = [self._take(hand, change, now) for change in given["changes"]]
        return {"refused": [result for result in results if result is not None], **self._judged(hand)}

    def heard(self, given: Mapping[str, Any]) -> dict[str, Any]:
        """What others wrote, as the server keeps it: `entries` in the order of the journal."""
        hand = self._hand()
        for entry in given["entries"]:
            kind = former_names.kind(entry["entity"])
            name = former_names.field(kind, entry["field"])
            _known(kind, name)
            put(hand.kept, kind, entry["entity_id"], name, _as_kept(kind, name, entry["value"]))
            at = entry.get("read_at") or entry["made_at"]
            hand.facts.entered(entry["entity_id"], name, entry["value"], at, entry.get("read_by"))
        return {"refused": [], **self._judged(hand)}

    def settled(self, given: Mapping[str, Any]) -> dict[str, Any]:
        """What the server said to changes of this device: `kept` and `refused`, ids. What it refused is put back,
        unless something was entered there since."""
        hand = self._hand()
        for change_id in given["refused"]:
            order = list(hand.local)
            local = hand.local.pop(change_id, None)
            if local is None:
                continue
            since = [hand.local[one] for one in order[order.index(change_id) + 1 :]]
            later = [one for one in since if (one.entity_id, one.name) == (local.entity_id, local.name)]
            if later:
                later[0].before = local.before
            elif local.name not in KINDS[local.kind].parents:
                put(hand.kept, local.kind, local.entity_id, local.name, local.before)
        for change_id in given["kept"]:
            hand.local.pop(change_id, None)
        return {"refused": [], **self._judged(hand)}

    def whole(self, given: Mapping[str, Any]) -> dict[str, Any]:
        """The judgement whole, worked out from nothing: whoever asks has lost count of the changes."""
        hand = self._hand()
        hand.lasting.forget()
        hand.judgement = None
        return {"refused": [], **self._judged(hand)}

    def in_hand(self) -> tuple[Inspection, Judgement]:
        """The open inspection as it stands here, and the judgement on it. Raises LookupError where none is open."""
        return self._judgement_on(self._hand())

    def answer(self, what: str, text: str) -> str:
        """Ask one of the methods by its name, in JSON. Raises LookupError where there is none of that name."""
        method = {
            "open": self.open, "write": self.write, "heard": self.heard, "settled": self.settled, "whole": self.whole,
        }[what]  # fmt: skip
        return json.dumps(method(json.loads(text)), ensure_ascii=False, separators=(",", ":"))

    def _hand(self) -> _Open:
        if self._open is None:
            raise LookupError("No inspection is open.")
        return self._open

    def _take(self, hand: _Open, given: Mapping[str, Any], now: datetime) -> dict[str, Any] | None:
        """Apply one change; what is refused stays out, with the reason."""
        change = _change(given)
        try:
            for check in FORM:
                check(hand.kept, change)
            value = kept_value(change, now)
            if not (change.entity == "inspection" and change.field == "firm"):
                for check in PLACE:
                    check(hand.kept, change)
        except Refusal as refusal:
            return {"id": change.id, "reason": str(refusal)}
        before = put(hand.kept, change.entity, change.entity_id, change.field, value)
        hand.local[change.id] = _Local(change.entity, change.entity_id, change.field, before)
        at = (change.read_at or change.made_at).isoformat()
        hand.facts.entered(change.entity_id, change.field, value, at, change.read_by)
        return None

    def _judgement_on(self, hand: _Open) -> tuple[Inspection, Judgement]:
        inspection = assemble(hand.kept)
        measured_at, not_countersigned = hand.facts.measured_at(inspection), hand.facts.not_countersigned(inspection)
        return inspection, hand.lasting.judge(inspection, measured_at, not_countersigned)

    def _judged(self, hand: _Open) -> dict[str, Any]:
        _, judgement = self._judgement_on(hand)
        judged_json = as_json(judgement, hand.blind, hand.lasting.written)
        before, hand.judgement = hand.judgement, judged_json
        if before is None:
            return {"judgement": judged_json, "change": None}
        return {"judgement": None, "change": delta.difference(before, judged_json)}


def _entity(given: Mapping[str, Any]) -> KeptEntity:
    kind = former_names.kind(given["kind"])
    _known(kind)
    entity = new_entity(kind, given["id"], given["parent_id"])
    for name, value in given["values"].items():
        name = former_names.field(kind, name)
        _known(kind, name)
        entity.values[name] = _as_kept(kind, name, value)
    return entity


def _as_kept(kind: str, name: str, value: Any) -> Any:
    """A value of the server's as the server keeps it: on its way through the page a whole number lost its point, and
    what was sent from there is there as it was entered. What an earlier edition kept and this one would refuse stays.
    """
    spec = KINDS[kind].fields.get(name)
    if spec is None:
        return value
    try:
        return spec.clean(value)
    except FieldError:
        return value


def _known(kind: str, name: str | None = None) -> None:
    known = kind in KINDS and (name is None or name in KINDS[kind].fields or name in KINDS[kind].parents)
    if not known:
        raise OtherEditionError(f"These rules do not know {kind} {name or ''}.")


def _change(given: Mapping[str, Any]) -> Change:
    kind = former_names.kind(given["entity"])
    read_at = given.get("read_at")
    return Change(
        given["id"], kind, given["entity_id"], former_names.field(kind, given["field"]), given["value"],
        given["based_on"], datetime.fromisoformat(given["made_at"]), given["device"], given.get("instrument_id"),
        datetime.fromisoformat(read_at) if read_at else None, given.get("read_by"),
    )  # fmt: skip
