"""Devices that people work on: made known, heard of, ended when they are lost, with what waited there named."""

import base64
from collections.abc import Iterable, Mapping
from datetime import UTC, datetime
from typing import Annotated, Any

from fastapi import Path, Request
from sqlalchemy import Connection

from dorrik.api.device_types import EntryFate, KnownOut, WaitingIn, WorkDeviceIn, WorkDeviceOut
from dorrik.api.problems import RESPONSES, ProblemError, not_found
from dorrik.api.routing import router as make_router
from dorrik.api.work import note, work
from dorrik.core.inspection.kinds import KINDS
from dorrik.store.inspections import listing
from dorrik.store.people import work_devices
from dorrik.store.people.people import Person
from dorrik.store.people.work_devices import WorkDevice

router = make_router("/api/devices", "devices", RESPONSES)
_Id = Annotated[str, Path(pattern="^[0-9a-f-]{36}$")]
ENDED = "This device was reported lost and ended. It needs to be set up anew."


@router.get("")
def own(request: Request) -> list[WorkDeviceOut]:
    """One's own devices, the one heard of last first."""
    with work(request) as (connection, me):
        return _listed(connection, me, work_devices.of_firm(connection, me.firm_id, me.id))


@router.get("/of-the-firm")
def of_the_firm(request: Request) -> list[WorkDeviceOut]:
    """Devices of all the firm's people."""
    with work(request, "manage people") as (connection, me):
        return _listed(connection, me, work_devices.of_firm(connection, me.firm_id))


def _listed(connection: Connection, me: Person, devices: list[WorkDevice]) -> list[WorkDeviceOut]:
    there = _arrived(connection, me, devices)
    return [
        WorkDeviceOut(
            id=device.id, person_id=device.person_id, person=device.person, name=device.name,
            made_at=device.made_at, heard_at=device.heard_at, ended_at=device.ended_at,
            waiting=sum(key not in there for key in _keys(device)),
        )
        for device in devices
    ]  # fmt: skip


@router.put("/{device_id}")
def know(request: Request, device_id: _Id, given: WorkDeviceIn) -> KnownOut:
    """This session is on that device, which signs by this key from now on. 409 (`ended`) where the device was ended and
    still has the key of then. Where the session was on another device until now, its browser has cleared what it kept:
    what had waited there and has not arrived is told."""
    with work(request) as (connection, me):
        key = base64.b64decode(given.key)
        before = work_devices.on(connection, me.session, me.id)
        try:
            first = work_devices.know(connection, device_id, me.id, me.session, given.name, key)
        except work_devices.EndedError:
            raise ProblemError(409, "ended", ENDED) from None
        if first:
            note(request, connection, me, "device known", given.name)
        if before in (None, device_id):
            return KnownOut(gone=0, heard_at=None)
        (cleared,) = _listed(connection, me, [_there(connection, me, str(before), me.id)])
        return KnownOut(gone=cleared.waiting, heard_at=cleared.heard_at)


@router.put("/{device_id}/waiting", status_code=204)
def hear(request: Request, device_id: _Id, given: WaitingIn) -> None:
    """What waits on that device now. 404 where it is not known as this person's: it makes itself known anew."""
    with work(request) as (connection, me):
        if not work_devices.hear(connection, device_id, me.id, me.session, given.model_dump()):
            raise not_found("device")


@router.post("/{device_id}/end", status_code=204)
def end_own(request: Request, device_id: _Id) -> None:
    """One's own device is lost."""
    with work(request) as (connection, me):
        _end(request, connection, me, device_id, me.id)


@router.post("/{device_id}/of/{person_id}/end", status_code=204)
def end(request: Request, device_id: _Id, person_id: _Id) -> None:
    """A device is lost: its sessions end, and what it signs from now on is not taken."""
    with work(request, "manage people") as (connection, me):
        _end(request, connection, me, device_id, person_id)


def _end(request: Request, connection: Connection, me: Person, device_id: str, person_id: str) -> None:
    device = _there(connection, me, device_id, person_id)
    if not work_devices.end(connection, device_id, person_id, me.id):
        raise ProblemError(409, "ended", "That device was ended before.")
    note(request, connection, me, "device ended", f"{device.name}, {device.person}")


@router.get("/{device_id}/of/{person_id}/waiting")
def waiting(request: Request, device_id: _Id, person_id: _Id) -> list[EntryFate]:
    """What waited on a device when it was heard of last, and what of it has arrived since, from there or through
    another. What was entered there afterwards is known to nobody."""
    with work(request, "manage people") as (connection, me):
        device = _there(connection, me, device_id, person_id)
        there = _arrived(connection, me, [device])
        names = listing.names(
            connection, me.firm_id, {e["inspection_id"] for e in _waiting(device, "entries", "photos")}
        )

    def told(what: str, inspection_id: str, made_at: str | None, key: str) -> EntryFate:
        return EntryFate(
            what=what,
            inspection=names.get(inspection_id, "a new inspection"),
            made_at=_moment(made_at),
            fate="arrived" if key in there else "not arrived",
        )

    return [
        *(told(_label(e), e["inspection_id"], e["made_at"], e["id"]) for e in _waiting(device, "entries")),
        *(told("Photo", p["inspection_id"], None, p["sha256"]) for p in _waiting(device, "photos")),
    ]


def _there(connection: Connection, me: Person, device_id: str, person_id: str) -> WorkDevice:
    devices = work_devices.of_firm(connection, me.firm_id, person_id)
    device_here = next((device for device in devices if device.id == device_id), None)
    if device_here is None:
        raise not_found("device")
    return device_here


def _waiting(device: WorkDevice, *kinds: str) -> list[Mapping[str, Any]]:
    waiting_there = device.waiting or {}
    return [thing for kind in kinds for thing in waiting_there.get(kind, ())]


def _keys(device: WorkDevice) -> list[str]:
    return [str(thing.get("id") or thing["sha256"]) for thing in _waiting(device, "entries", "photos")]


def _arrived(connection: Connection, me: Person, devices: Iterable[WorkDevice]) -> frozenset[str]:
    """Ids of entries and digests of photos that have arrived, of all that these devices named."""
    devices = list(devices)
    entries = [entry for device in devices for entry in _waiting(device, "entries")]
    photos = [str(photo["sha256"]) for device in devices for photo in _waiting(device, "photos")]
    return work_devices.arrived(connection, entries) | work_devices.arrived_photos(connection, me.firm_id, photos)


def _label(entry: Mapping[str, Any]) -> str:
    """What an entry was of: the field in words, of what kind of thing."""
    kind = KINDS.get(entry["entity"])
    spec = kind.fields.get(entry["field"]) if kind is not None else None
    return spec.label if spec is not None else f"New {entry['entity'].replace('_', ' ')}"


def _moment(text: str | None) -> datetime | None:
    try:
        return datetime.fromisoformat(text).astimezone(UTC).replace(tzinfo=None) if text else None
    except ValueError:
        return None
