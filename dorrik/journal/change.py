"""Who makes changes, and what becomes of each."""

from dataclasses import dataclass
from typing import Any, Literal


@dataclass(frozen=True, slots=True)
class Author:
    """Who makes changes: who they are, and their role, which says what they may. issues: does the server itself write
    what it has just issued?"""

    id: str
    role: str
    issues: bool = False


@dataclass(frozen=True, slots=True)
class Overtaken:
    """A colleague's change to the same field that this one came after without having seen it."""

    seq: int
    author_id: str
    value: Any


@dataclass(frozen=True, slots=True)
class Result:
    """What became of one change.

    state: kept, already (sent before, applied once) or refused; seq: its place in the journal; reason: why it was
    refused, for the person at the field; waits: is it refused only until somebody says that it is meant for what is
    there now?; overtook: see Overtaken; value: as it is kept, None where it was refused.
    """

    id: str
    state: Literal["kept", "already", "refused"]
    seq: int | None = None
    reason: str | None = None
    overtook: Overtaken | None = None
    waits: bool = False
    value: Any = None
