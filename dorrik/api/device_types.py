"""Devices that people work on, and what is handed over between them, over the line."""

import base64
import binascii
from typing import Annotated, Literal

from pydantic import AfterValidator, BaseModel, Field

from dorrik.api.change_types import Batch
from dorrik.api.common_types import Moment, Strict, Words
from dorrik.store.people.work_devices import KEY_BYTES

#: So much of what waits on a device is named.
MOST_NAMED = 2000


def _bytes(text: str) -> str:
    try:
        base64.b64decode(text, validate=True)
    except (binascii.Error, ValueError):
        raise ValueError("is not base64") from None
    return text


Base64 = Annotated[str, AfterValidator(_bytes)]


def _key(text: str) -> str:
    if len(base64.b64decode(text)) != KEY_BYTES:
        raise ValueError(f"has not {KEY_BYTES} bytes")
    return text


class WorkDeviceIn(Strict):
    """A device as its browser names itself; key: by which it signs from now on what it hands over."""

    name: Words = Field(min_length=1, max_length=80)
    key: Annotated[Base64, AfterValidator(_key)] = Field(max_length=60)


class KnownOut(BaseModel):
    """How much had waited in this browser before it cleared its storage, and has not arrived; heard_at: as it said
    then."""

    gone: int
    heard_at: Moment | None


class WaitingEntry(Strict):
    id: str = Field(max_length=36)
    inspection_id: str = Field(max_length=36)
    entity: str = Field(max_length=30)
    entity_id: str = Field(max_length=36)
    field: str = Field(max_length=40)
    made_at: str = Field(max_length=40)


class WaitingPhotoIn(Strict):
    sha256: str = Field(pattern=r"^[0-9a-f]{64}$")
    inspection_id: str = Field(max_length=36)


class WaitingIn(Strict):
    """What has not arrived, as the device says itself: no values, only what it is of."""

    entries: list[WaitingEntry] = Field(max_length=MOST_NAMED)
    photos: list[WaitingPhotoIn] = Field(max_length=MOST_NAMED)


class WorkDeviceOut(BaseModel):
    """A device of somebody. waiting: how much had not arrived when it was heard of last, and has not since; this: is it
    the one that asks?"""

    id: str
    person_id: str
    person: str
    name: str
    made_at: Moment
    heard_at: Moment
    ended_at: Moment | None
    waiting: int


class EntryFate(BaseModel):
    """What became of something that waited on a device. what: in words; inspection: by its reference or address."""

    what: str
    inspection: str
    made_at: Moment | None
    fate: Literal["arrived", "not arrived"]


class HandoverIn(Strict):
    """What one device wrote and another sends. bundle: the text that was signed (JSON of HandoverBundle)."""

    bundle: str = Field(max_length=1_900_000)
    signature: Base64 = Field(max_length=100)


class OfInspection(Strict):
    """Changes of one inspection in the order in which they were made; photos: digests of those that belong to it."""

    inspection_id: str = Field(max_length=36)
    changes: Batch


class HandoverBundle(Strict):
    """Who wrote it on which device, when, and what."""

    version: Literal[1]
    id: str = Field(max_length=36)
    person: str = Field(max_length=36)
    person_name: Words = Field(default="", max_length=120)
    firm: str = Field(max_length=36)
    device: str = Field(max_length=36)
    made_at: str = Field(max_length=40)
    inspections: list[OfInspection] = Field(max_length=200)
    photos: list[WaitingPhotoIn] = Field(default_factory=list, max_length=MOST_NAMED)


class NotTaken(BaseModel):
    id: str
    inspection_id: str
    reason: str


class HandedOver(BaseModel):
    """What became of what was handed over. refused: why, for each that was not taken."""

    author: str
    kept: int
    already: int
    refused: list[NotTaken]
