"""When a part was fitted: evidence of its years, each piece by itself (rule 13.6)."""

from dorrik.core.basics.record import record
from dorrik.core.inspection import fields as f
from dorrik.core.inspection.circuit import DATED_BY

#: What has years of its own. An extension, or the alarms, is a part of the home with a name.
OF = ("inspection", "board", "circuit")


@record(kw_only=True)
class Dating:
    """A piece of evidence: of what, the years that it leaves open, and what it is known by. part: the name of a part of
    the home that has no other place, '' for the home itself."""

    id: str
    about_entity: str | None = f.choice("About", *OF)
    about_id: str | None = f.identity("About which")
    part: str | None = f.text("Part of the home", 80)
    from_year: int | None = f.integer("Not before", 1900, 2100)
    to_year: int | None = f.integer("Not after", 1900, 2100)
    known_by: str | None = f.choice("Known by", *DATED_BY)
    says: str | None = f.text("Evidence", 200)
    removed: bool | None = f.flag("Removed")
