"""A repair of one's own: as found, what was done with which parts, and as left (rule 13.5)."""

from dorrik.core.basics.record import record
from dorrik.core.book.works import works
from dorrik.core.inspection import fields as f

#: What a repair and its figures can be of.
OF = ("inspection", "bond", "board", "rcd", "circuit", "point", "room")


@record(kw_only=True)
class AsFound:
    """What stood in a field before the work: a reading that the work undid, or a mark of the part that was replaced.
    value: as it was written, None where nothing was."""

    id: str
    about_entity: str | None = f.choice("About", *OF)
    about_id: str | None = f.identity("About which")
    field: str | None = f.text("Figure", 40, keeps="key")
    value: str | None = f.text("As found", 200)
    removed: bool | None = f.flag("Removed")


@record(kw_only=True)
class Repair:
    """Work on a finding. begun_at: from when on what the work undoes is tested again; certificate, certified_at: the
    minor works certificate that was issued for it."""

    id: str
    observation_id: str | None = f.identity("Of which observation")
    about_entity: str | None = f.choice("About", *OF)
    about_id: str | None = f.identity("About which")
    place: str | None = f.text("Where", 200)
    found: str | None = f.text("As found", 500)
    work: str | None = f.choice("Kind of work", *works())
    done: str | None = f.text("What was done", 500)
    parts: str | None = f.text("Parts used", 300)
    as_left: str | None = f.text("As left", 500)
    begun_at: str | None = f.instant("Work begun")
    done_at: str | None = f.instant("Work done")
    by: str | None = f.text("Done by", 120)
    departures: str | None = f.text("Departures from the standard", 300)
    existing: str | None = f.text("On the existing installation", 500)
    certificate: str | None = f.text("Certificate", 60, keeps="number")
    certified_at: str | None = f.instant("Certificate issued at")
    removed: bool | None = f.flag("Removed")
    as_founds: tuple[AsFound, ...] = ()
