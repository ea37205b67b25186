"""What stays open on the day: things to come back to, and what the client and the occupier asked about."""

from dorrik.core.basics.record import record
from dorrik.core.inspection import fields as f

#: What a thing to come back to can be about: everything that is inspected or tested, and a check of it.
PARKABLE = ("inspection", "bond", "board", "rcd", "circuit", "point", "room", "check")
#: What a thing to come back to turned into, where it was not simply done.
LIMITED, OBSERVED = BECAME = ("limitation", "observation")
#: Who asked about something.
ASKED_BY = ("client", "occupier", "landlord", "agent")


@record(kw_only=True)
class ComeBack:
    """Something left for later: about what (and which figure of it), what is still to be done, and how it ended.

    place: what the thing was called when it was left, which is said where the thing itself is no longer there; done_at:
    when it was done or moved; became, became_id: the limitation or observation it was moved to; asked_by: the reviewer
    who asks, None where whoever inspects left it for later; answer: what they are told.
    """

    id: str
    about_entity: str | None = f.choice("About", *PARKABLE)
    about_id: str | None = f.identity("About which")
    field: str | None = f.text("Figure", 40, keeps="key")
    place: str | None = f.text("Where", 200)
    what: str | None = f.text("What is still to do", 300)
    asked_by: str | None = f.text("Asked in review by", 120)
    answer: str | None = f.text("Answer", 500)
    done_at: str | None = f.instant("Done at")
    became: str | None = f.choice("Moved to", *BECAME)
    became_id: str | None = f.identity("Moved to which")
    removed: bool | None = f.flag("Removed")

    @property
    def open(self) -> bool:
        """Is it still to be done?"""
        return self.done_at is None and self.became is None


@record(kw_only=True)
class Concern:
    """What somebody asked about or says misbehaves, and what was found. observation_id: the observation that answers
    it, None where words alone do."""

    id: str
    position: int | None = f.integer("Position", 0, 999)
    asked_by: str | None = f.choice("Asked by", *ASKED_BY)
    what: str | None = f.text("What they ask about", 300)
    answer: str | None = f.text("What was found", 1000)
    observation_id: str | None = f.identity("Answered by observation")
    removed: bool | None = f.flag("Removed")
