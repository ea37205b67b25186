"""Taking a firm's work along and in again: one inspection or the whole firm, as an archive (ZIP) of open formats.

    inspection.json, circuits.csv, circuits.xlsx, photos/SHA-256, papers/…pdf           of one inspection
    firm.json, inspections/ID/inspection.json …, photos/SHA-256, papers/…pdf            of a firm

What is issued goes along as it is and is not taken in: it was issued by who issued it, where it was issued.
"""

import io
import json
import zipfile
from collections.abc import Callable, Iterator
from contextlib import suppress
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import IO, Any

from sqlalchemy import Connection, Engine

from dorrik.core.inspection import document
from dorrik.core.inspection.change import IMPORTED, Change
from dorrik.core.inspection.document import DocumentError
from dorrik.core.inspection.kept_inspection import assemble
from dorrik.core.work.register import REGISTER
from dorrik.journal import blind, taking_in
from dorrik.journal.apply import apply
from dorrik.journal.change import Author, Result
from dorrik.office import firm_settings
from dorrik.report import circuit_chart, workbook
from dorrik.store.database.engine import new_id, now
from dorrik.store.files.photos import NotAPhoto, PhotoStore
from dorrik.store.firm import numbers
from dorrik.store.inspections import inspections, listing
from dorrik.store.people.people import Person
from dorrik.store.register import register
from dorrik.store.reports import reports

FORMAT, VERSION = "dorrik-firm", 1
#: The largest that is read of one file of an archive (bytes), and how many files one has at most.
LARGEST, MOST_FILES = 60_000_000, 200_000
#: Changes of a batch.
BATCH = 400
#: Kinds of papers that go along.
PAPERS = (reports.REPORT, reports.MINOR_WORKS, reports.OFFER, reports.CONFIRMATION)

Put = Callable[[str, bytes], Iterator[bytes]]


class UnreadableArchive(ValueError):
    """The archive cannot be taken in; the message says why."""


# Taking along


def of_inspection(
    connection: Connection, store: PhotoStore, who: Person, inspection_id: str, put: Put, into: str = ""
) -> Iterator[bytes]:
    """Pack one inspection as that person may see it, part by part, in the caller's transaction; a photo that has not
    arrived is left out. put: adds a file to the archive; into: folder of the inspection's own files."""
    firm_id = who.firm_id
    kept = inspections.load(connection, inspection_id, firm_id)
    if kept is None:
        return
    # A code that they are to say blind stays blind.
    inspection = assemble(blind.seen(connection, kept, who).kept)
    written = json.dumps(document.write(inspection), ensure_ascii=False, indent=1).encode()
    yield from put(f"{into}inspection.json", written)
    yield from put(f"{into}circuits.csv", ("\ufeff" + circuit_chart.chart(inspection)).encode())
    yield from put(f"{into}circuits.xlsx", workbook.write(inspection))
    for sha256 in dict.fromkeys(photo.sha256 for photo in inspection.photos if photo.sha256):
        photo = store.get(firm_id, sha256)
        if photo is not None:
            yield from put(f"photos/{sha256}", photo)
    for kind in PAPERS:
        for issue in reports.issues(connection, inspection_id, kind):
            frozen = reports.frozen_pdf(connection, issue.id, firm_id)
            if frozen is not None:
                yield from put(f"papers/{issue.id}-{frozen[0]}", frozen[1])


def of_firm(connection: Connection, store: PhotoStore, who: Person, put: Put) -> Iterator[bytes]:
    """Pack everything of that person's firm, part by part."""
    firm_id = who.firm_id
    entries = [entry for kind in REGISTER for entry in register.entries(connection, firm_id, kind)]
    settings = {
        "format": FORMAT,
        "version": VERSION,
        "settings": firm_settings.written(connection, firm_id),
        "register": [
            {"kind": entry.kind, "id": entry.id, "parent_id": entry.parent_id, "values": _plain(entry.values)}
            for entry in entries
        ],
    }
    yield from put("firm.json", json.dumps(settings, ensure_ascii=False, indent=1).encode())
    seen: set[str] = set()

    def once(name: str, content: bytes) -> Iterator[bytes]:
        # A photo that two inspections show is packed once.
        if name not in seen:
            seen.add(name)
            yield from put(name, content)

    for inspection_id in listing.ids_of(connection, firm_id):
        yield from of_inspection(connection, store, who, inspection_id, once, f"inspections/{inspection_id}/")


def _plain(values: dict[str, Any]) -> dict[str, Any]:
    return {name: value for name, value in values.items() if value is not None}


# Taking in


@dataclass(slots=True)
class TakenIn:
    """What was taken in. told: what could not be taken as it was, in words."""

    inspections: list[tuple[str, str]] = field(default_factory=list)
    entries: int = 0
    photos: int = 0
    told: list[str] = field(default_factory=list)


def take_in(
    engine: Engine, store: PhotoStore, who: Person, content: IO[bytes], make: Callable[[bytes], Any]
) -> TakenIn:
    """Take an archive or the document of an inspection in, as that person, who is a supervisor. make: renditions of a
    photo by size; what is no photo is told. Raises UnreadableArchive before anything is taken."""
    archive = _archive(content)
    documents = {name: _json(archive, name) for name in archive.namelist() if name.endswith("inspection.json")}
    whole = _json(archive, "firm.json") if "firm.json" in archive.namelist() else None
    if whole is not None and (whole.get("format"), whole.get("version")) != (FORMAT, VERSION):
        raise UnreadableArchive("firm.json is of a version that is not read here.")
    if not documents and whole is None:
        raise UnreadableArchive("There is no inspection in this file.")
    for name, document_text in documents.items():
        try:
            # As this version writes it, whichever version it came from.
            documents[name] = document.write(document.parse(document_text, datetime.now(UTC)))
        except DocumentError as error:
            raise UnreadableArchive(f"{name}: {error}") from None
    taken = TakenIn()
    if whole is not None:
        with engine.begin() as connection:
            _register(connection, who, whole.get("register", []), taken)
            settings = whole.get("settings")
            if isinstance(settings, dict):
                taken.told += firm_settings.take_in(connection, who, settings)
    for document_text in documents.values():
        with engine.begin() as connection:
            _inspection(connection, who, document_text, taken)
    for sha256 in _photos(documents.values()):
        with suppress(KeyError):
            _photo(store, who.firm_id, sha256, _bytes(archive, f"photos/{sha256}"), make, taken)
    return taken


def _archive(content: IO[bytes]) -> zipfile.ZipFile:
    begins = content.read(4)
    content.seek(0)
    if begins.lstrip()[:1] == b"{":
        # A document by itself is an archive of one.
        packed = io.BytesIO()
        with zipfile.ZipFile(packed, "w") as made:
            made.writestr("inspection.json", content.read(LARGEST))
        content = packed
    try:
        archive = zipfile.ZipFile(content)
    except zipfile.BadZipFile:
        raise UnreadableArchive("That is neither an archive (ZIP) nor the document of an inspection (JSON).") from None
    if len(archive.namelist()) > MOST_FILES:
        raise UnreadableArchive("The archive has more files than any of ours.")
    return archive


def _bytes(archive: zipfile.ZipFile, name: str) -> bytes:
    """A file of the archive, whatever length it claims."""
    try:
        with archive.open(name) as file:
            content = file.read(LARGEST + 1)
    except (zipfile.BadZipFile, NotImplementedError, RuntimeError, EOFError, OSError):
        raise UnreadableArchive(f"{name} cannot be unpacked.") from None
    if len(content) > LARGEST:
        raise UnreadableArchive(f"{name} is larger than any file of ours.")
    return content


def _json(archive: zipfile.ZipFile, name: str) -> dict[str, Any]:
    content = _bytes(archive, name)
    try:
        parsed = json.loads(content)
    except (ValueError, RecursionError):
        raise UnreadableArchive(f"{name} is not JSON.") from None
    if not isinstance(parsed, dict):
        raise UnreadableArchive(f"{name} is not what it is called.")
    return parsed


def _register(connection: Connection, who: Person, entries: list[Any], taken: TakenIn) -> None:
    """Entries in the order of their kinds: what belongs to another comes after it."""
    for kind in REGISTER:
        for entry_of_kind in (entry for entry in entries if isinstance(entry, dict) and entry.get("kind") == kind):
            parent = who.firm_id if REGISTER[kind].parent == "firm" else str(entry_of_kind.get("parent_id"))
            try:
                added = register.add(
                    connection, who.firm_id, who.id, kind, parent, entry_of_kind["values"], str(entry_of_kind["id"])
                )
            except (register.Refused, KeyError, AttributeError, TypeError) as error:
                taken.told.append(f"{kind} {entry_of_kind.get('id')}: {error}")
                continue
            if added is None:
                taken.told.append(f"{kind} {entry_of_kind.get('id')}: what it belongs to is not there.")
            else:
                taken.entries += 1


def _inspection(connection: Connection, who: Person, written: dict[str, Any], taken: TakenIn) -> None:
    given = written["inspection"]["id"]
    # One that is here already is taken in beside it.
    inspection_id = given if inspections.is_free(connection, given) else new_id()

    def known(kind: str, entry_id: str) -> bool:
        return register.get(connection, who.firm_id, kind, entry_id) is not None

    changes = taking_in.changes(written, who.firm_id, inspection_id, now(), known)
    reference = written["inspection"].get("reference")
    refused: list[tuple[Change, Result]] = []
    for start in range(0, len(changes), BATCH):
        batch = changes[start : start + BATCH]
        applied = apply(connection, who.firm_id, Author(who.id, who.role, issues=True), inspection_id, batch)
        if applied is None:
            raise UnreadableArchive("The inspection could not be made.")
        results = zip(batch, applied.results, strict=True)
        refused += [(change, result) for change, result in results if result.state == "refused"]
    for change, result in refused:
        taken.told.append(f"{reference or given}, {change.entity} {change.field}: {result.reason}")
        if (change.entity, change.field) == ("inspection", "reference"):
            reference = numbers.next_reference(connection, who.firm_id)
            instead = Change(new_id(), "inspection", inspection_id, "reference", reference, 0, now(), IMPORTED)
            apply(connection, who.firm_id, Author(who.id, who.role), inspection_id, [instead])
    taken.inspections.append((inspection_id, reference or ""))


def _photos(documents: Any) -> Iterator[str]:
    seen: set[str] = set()
    for written in documents:
        for photo in written["inspection"].get("photos", ()):
            sha256 = photo.get("sha256")
            if sha256 and sha256 not in seen:
                seen.add(sha256)
                yield sha256


def _photo(
    store: PhotoStore, firm_id: str, sha256: str, content: bytes, make: Callable[[bytes], Any], taken: TakenIn
) -> None:
    if store.has(firm_id, sha256):
        return
    try:
        store.keep(firm_id, sha256, content, make(content).by_size)
    except (NotAPhoto, ValueError) as error:
        taken.told.append(f"Photo {sha256[:12]}: {error}")
        return
    taken.photos += 1
