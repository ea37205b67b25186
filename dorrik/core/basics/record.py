"""Records: frozen dataclasses with slots that start quickly.

A dataclass compiles six methods of its own when its class is made; with some seventy classes that was two thirds of the
time in which the core starts, and the core also starts in a browser. Five of the six are shared here, and the sixth,
`__init__`, is compiled when the first record of its class is made.
"""

from collections.abc import Callable
from dataclasses import MISSING, FrozenInstanceError, dataclass, field, fields
from typing import Any, TypeVar, cast, dataclass_transform, overload

_C = TypeVar("_C", bound=type)


def _repr(self: Any) -> str:
    fields_text = ", ".join(f"{name}={getattr(self, name)!r}" for name in self.__dataclass_fields__)
    return f"{type(self).__qualname__}({fields_text})"


def _eq(self: Any, other: Any) -> Any:
    if type(other) is not type(self):
        return NotImplemented
    return all(getattr(self, name) == getattr(other, name) for name in self.__dataclass_fields__)


def _hash(self: Any) -> int:
    return hash(tuple(getattr(self, name) for name in self.__dataclass_fields__))


def _setattr(self: Any, name: str, value: object) -> None:
    raise FrozenInstanceError(f"cannot assign to field {name!r}")


def _delattr(self: Any, name: str) -> None:
    raise FrozenInstanceError(f"cannot delete field {name!r}")


def _getstate(self: Any) -> list[Any]:
    return [getattr(self, name) for name in self.__dataclass_fields__]


def _setstate(self: Any, state: list[Any]) -> None:
    for name, value in zip(self.__dataclass_fields__, state, strict=True):
        object.__setattr__(self, name, value)


_WRITTEN = {"json_schema_serialization_defaults_required": True}
_SHARED: dict[str, Any] = {
    "__repr__": _repr,
    "__eq__": _eq,
    "__hash__": _hash,
    "__setattr__": _setattr,
    "__delattr__": _delattr,
    "__getstate__": _getstate,
    "__setstate__": _setstate,
}


def _compiled(cls: type) -> Callable[..., None]:
    """`__init__` of a record class: its fields as parameters, in their order, with their defaults."""
    known: dict[str, Any] = {"_missing": MISSING}
    parameters: list[str] = ["self"]
    body: list[str] = []
    for declared in sorted(fields(cls), key=lambda declared: declared.kw_only is True):
        taken = declared.name
        if declared.kw_only is True and "*" not in parameters:
            parameters.append("*")
        if declared.default is not MISSING:
            known[f"_default_{declared.name}"] = declared.default
            parameters.append(f"{declared.name}=_default_{declared.name}")
        elif declared.default_factory is not MISSING:
            known[f"_make_{declared.name}"] = declared.default_factory
            parameters.append(f"{declared.name}=_missing")
            taken = f"_make_{declared.name}() if {declared.name} is _missing else {declared.name}"
        else:
            parameters.append(declared.name)
        # The slot itself is quicker than a look for it by its name.
        known[f"_set_{declared.name}"] = getattr(cls, declared.name).__set__
        body.append(f" _set_{declared.name}(self, {taken})")
    exec(f"def __init__({', '.join(parameters)}):\n" + "\n".join(body), known)
    made: Callable[..., None] = known["__init__"]
    made.__qualname__ = f"{cls.__qualname__}.__init__"
    return made


def _first(self: Any, *given: Any, **named: Any) -> None:
    """`__init__` until the first record of a class is made."""
    cls = type(self)
    cls.__init__ = _compiled(cls)
    cls.__init__(self, *given, **named)


@overload
def record(cls: _C, /) -> _C: ...
@overload
def record(*, kw_only: bool = False) -> Callable[[_C], _C]: ...


@dataclass_transform(frozen_default=True, field_specifiers=(field,))
def record(cls: _C | None = None, /, *, kw_only: bool = False) -> _C | Callable[[_C], _C]:
    """Make a class a frozen dataclass with slots, compared, hashed and shown by its fields.

    kw_only: its fields are given by name only.
    """

    def make(field_values: _C) -> _C:
        for name, method in _SHARED.items():
            if name not in vars(field_values):
                setattr(field_values, name, method)
        turn: Any = dataclass(slots=True, kw_only=kw_only, init=False, eq=False, repr=False)
        made: Any = turn(field_values)
        made.__init__ = _first
        # A plain mapping that schemas are made by: what has a default is there all the same where a record is written.
        made.__pydantic_config__ = _WRITTEN
        return cast(_C, made)

    return make if cls is None else make(cls)


_PLAIN = frozenset((str, int, bool, type(None)))
#: Decimals of a written figure: more than anything is measured to, and fewer than those in which two machines differ
#: (logarithms, sines), so that a device writes what the server writes.
_DECIMALS = 9
_writers: dict[type, Callable[[Any], dict[str, Any]]] = {}


def plain(value: Any) -> Any:
    """A record, with all that is in it, as data that JSON knows: fields by name, tuples as lists. What is not a record,
    a tuple, a list, a mapping or a plain value raises AttributeError. Made at every keystroke, so nothing is copied."""
    kind: Any = type(value)
    if kind in _PLAIN:
        return value
    if kind is float:
        return round(value, _DECIMALS)
    if kind is tuple or kind is list:
        return [plain(item) for item in value]
    if kind is dict:
        return {name: plain(item) for name, item in value.items()}
    writer = _writers.get(kind)
    if writer is None:
        writer = _writers[kind] = _writer(kind)
    return writer(value)


def _writer(cls: type) -> Callable[[Any], dict[str, Any]]:
    """What writes a record of that class, compiled when the first is written. Raises AttributeError for another
    class."""
    names: list[str] = list(cls.__dataclass_fields__)  # type: ignore[attr-defined]
    # By number: a field may have any name, also one that is used here.
    taken = "".join(f" _{at} = _record.{name}\n" for at, name in enumerate(names))
    items = ", ".join(f"{name!r}: _{at} if type(_{at}) in _PLAIN else plain(_{at})" for at, name in enumerate(names))
    known: dict[str, Any] = {"_PLAIN": _PLAIN, "plain": plain}
    exec(f"def write(_record):\n{taken} return {{{items}}}", known)
    writer: Callable[[Any], dict[str, Any]] = known["write"]
    return writer
