"""The inspection as a JSON document: reading it, with the place of every mistake, and writing it.

    {"format": "dorrik-inspection", "version": 3, "inspection": {…, "boards": [{…, "circuits": […]}], …}}

Values stand as they were kept: readings as text, dates as year-month-day. Version 1 had other names for a few parts
(`former_names`), versions 1 and 2 said in words what is a field today (`earlier_versions`); they are read as well.
"""

from collections.abc import Iterator, Mapping
from datetime import datetime
from typing import Any

from dorrik.core.inspection import earlier_versions, former_names
from dorrik.core.inspection.field_spec import FieldError
from dorrik.core.inspection.kinds import KINDS, EntityKind
from dorrik.core.inspection.records import Inspection, in_order

FORMAT = "dorrik-inspection"
VERSION = 3
#: What this program reads.
READS = (1, 2, 3)


class DocumentError(ValueError):
    """The document cannot be read; `path` says where, the message why."""

    def __init__(self, path: str, reason: str) -> None:
        super().__init__(f"{path}: {reason}")
        self.path = path
        self.reason = reason


def parse(document: object, now: datetime | None = None) -> Inspection:
    """Read a document. Raises DocumentError with the path of the first thing that is wrong.

    now: the moment beyond which its dates lie ahead; without it none is too late, as in what we wrote ourselves.
    """
    if not isinstance(document, Mapping):
        raise DocumentError("document", "is not an inspection document.")
    if document.get("format") != FORMAT:
        raise DocumentError("format", f"is not {FORMAT!r}.")
    if document.get("version") not in READS:
        raise DocumentError("version", f"is not {' or '.join(map(str, READS))}, the versions this program reads.")
    inspection: Inspection = _entity(KINDS["inspection"], document.get("inspection"), "inspection", {}, now)
    return earlier_versions.upgraded(inspection, document["version"])


def _entity(kind: EntityKind, given: object, path: str, seen: dict[str, str], now: datetime | None) -> Any:
    if not isinstance(given, Mapping):
        raise DocumentError(path, "is not an object.")
    children = {child.plural: child for child in KINDS.values() if kind.name in child.parents}
    identity = given.get("id")
    if not isinstance(identity, str) or not 1 <= len(identity) <= 36:
        raise DocumentError(f"{path}.id", "is missing or not an identifier.")
    if identity in seen:
        raise DocumentError(f"{path}.id", f"stands already at {seen[identity]}.")
    seen[identity] = path
    values: dict[str, Any] = {"id": identity}
    for given_name, value in given.items():
        if given_name == "id":
            continue
        name = former_names.part(kind.name, given_name, value) if isinstance(given_name, str) else given_name
        if name in values:
            raise DocumentError(f"{path}.{given_name}", f"stands there a second time, as {name}.")
        if name in children:
            if not isinstance(value, list | tuple):
                raise DocumentError(f"{path}.{name}", "is not a list.")
            child = children[name]
            entities = [_entity(child, one, f"{path}.{name}[{i}]", seen, now) for i, one in enumerate(value)]
            values[name] = in_order(entities)
        elif name in kind.fields:
            spec = kind.fields[name]
            try:
                values[name] = spec.revive(spec.clean(value, now))
            except FieldError as error:
                raise DocumentError(f"{path}.{name}", str(error)) from None
        else:
            raise DocumentError(f"{path}.{str(name)[:60]}", f"is not a field of {kind.name}.")
    return kind.type(**values)


def build(kind: EntityKind, identity: str, kept: Mapping[str, Any], **children: tuple[Any, ...]) -> Any:
    """An entity from values that were cleaned when they were kept; used by the store, which holds such values."""
    values = {name: kept[name] for name in kind.fields}
    for name in kind.revived:
        if values[name] is not None:
            values[name] = kind.fields[name].revive(values[name])
    return kind.type(id=identity, **values, **children)


def write(inspection: Inspection) -> dict[str, Any]:
    """The document of an inspection; empty fields are left out."""
    return {"format": FORMAT, "version": VERSION, "inspection": _write(KINDS["inspection"], inspection)}


def _write(kind: EntityKind, entity: Any) -> dict[str, Any]:
    out: dict[str, Any] = {"id": entity.id}
    for name, spec in kind.fields.items():
        value = getattr(entity, name)
        if value is not None:
            out[name] = spec.plain(value)
    for child in KINDS.values():
        if kind.name in child.parents:
            out[child.plural] = [_write(child, part) for part in getattr(entity, child.plural)]
    return out


def ids(value: Any) -> Iterator[str]:
    """Every id in a written document, or a part of one, in the order in which they stand there."""
    if isinstance(value, Mapping):
        if isinstance(value.get("id"), str):
            yield value["id"]
        for part in value.values():
            yield from ids(part)
    elif isinstance(value, list | tuple):
        for part in value:
            yield from ids(part)
