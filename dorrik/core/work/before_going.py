"""What is still missing before somebody can go to a job, each thing with what to do; what stops the visit first."""

from collections.abc import Iterator
from datetime import date

from dorrik.core.basics.record import record


@record(kw_only=True)
class GoingFacts:
    """What is known of a job. booked_on, inspector: its day and who goes; last_day: its deadline; occupier, reachable,
    told: who lives there, whether by phone or mail, whether they were told of the power-off; keys, access: how one gets
    in; extent, agreed_with, agreed: the scope, and who agreed to it; left_out, left_out_reason: what is not inspected;
    power_off: when; circuits: how many are expected; confirmed: the client has the confirmation; placed: there are
    coordinates; instruments_due: names of instruments whose calibration ends before the day."""

    booked_on: date | None = None
    inspector: str = ""
    last_day: date | None = None
    occupier: str = ""
    reachable: bool = False
    told: bool = False
    keys: bool = False
    access: bool = False
    extent: bool = False
    agreed_with: bool = False
    left_out: bool = False
    left_out_reason: bool = False
    power_off: bool = False
    circuits: int = 0
    confirmed: bool = False
    placed: bool = False
    instruments_due: tuple[str, ...] = ()


@record
class MissingThing:
    """Something that is missing. stops: nobody can go without it; field: of the job or the property, where it is
    entered, '' where it is done elsewhere."""

    what: str
    next_step: str
    stops: bool
    field: str = ""


def missing(facts: GoingFacts) -> tuple[MissingThing, ...]:
    """What is missing, what stops the visit first."""
    return tuple(sorted(_things(facts), key=lambda thing: not thing.stops))


def _things(facts: GoingFacts) -> Iterator[MissingThing]:
    if facts.booked_on is None:
        yield MissingThing("No day yet", "Plan it, or book a day.", True, "booked_on")
    elif facts.last_day is not None and facts.booked_on > facts.last_day:
        yield MissingThing("Booked after its last day", "Bring it forward, or agree a later day.", True, "booked_on")
    if not facts.inspector:
        yield MissingThing("Nobody is to go", "Plan it, or say who goes.", True, "booked_with")
    if not (facts.keys or facts.access or facts.reachable):
        yield MissingThing("No way in", "Enter where keys are, or how to reach the occupier.", True, "key_place")
    if not facts.extent:
        yield MissingThing("Extent not agreed", "Enter what is inspected.", True, "extent")
    if facts.left_out and not facts.left_out_reason:
        yield MissingThing(
            "Left out without a reason", "Enter why: it is printed as a limitation.", True, "leave_out_reason"
        )
    if not facts.agreed_with:
        yield MissingThing("Scope agreed with nobody", "Enter who agreed to it.", True, "agreed_with")
    for name in facts.instruments_due:
        yield MissingThing(f"{name}: calibration ends before", "Have it calibrated, or take another.", True)
    if not facts.told:
        yield MissingThing("Occupier not told of the power-off", "Mail the notice, or hand it over.", False)
    if not facts.power_off:
        yield MissingThing("Power-off time not agreed", "Agree it: somebody may depend on power.", False, "power_off")
    if not facts.circuits:
        yield MissingThing(
            "Size not known", "Enter boards and circuits: time and price rest on them.", False, "radials"
        )
    if not facts.confirmed:
        yield MissingThing("Client has no confirmation", "Mail it from Letters.", False)
    if not facts.placed:
        yield MissingThing("No coordinates", "Enter them at the property: the way there is a guess.", False, "latitude")
