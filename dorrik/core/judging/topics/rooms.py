"""What the eyes found room by room: checks of rooms, alarms by their date, downlights by what lies above them, points
found defective that no observation speaks of (rules 11, 12, 13.2)."""

from collections.abc import Iterator

from dorrik.core.basics.verdict import Verdict
from dorrik.core.home.place_checks import room_checks
from dorrik.core.home.placing import room_name
from dorrik.core.inspection.circuit import Circuit
from dorrik.core.inspection.point import DEFECT, Point
from dorrik.core.inspection.records import Room
from dorrik.core.judging.topics.context import Context, Note, name_of

#: Whether a ceiling holds back fire between two dwellings, by its openings.
_FIRE = "BS 7671 527.2 · observations"


def notes(context: Context) -> Iterator[Note]:
    """Notes on every room's checks, and on points by what was seen of them."""
    for number, room in enumerate(context.inspection.rooms, 1):
        yield from _checks(room, room_name(room, number))
    about = {observation.about_id for observation in context.inspection.observations}
    for circuit, name, point in context.points():
        title = _told(circuit, name)
        if point.kind == "alarm" and point.replace_by:
            yield from _alarm(context, point, title)
        if point.kind == "downlights":
            yield from _downlights(context, point, title)
        if point.looked == DEFECT and point.id not in about and not point.defect:
            verdict = Verdict(
                status="fail",
                reason="Marked as a defect, but no observation.",
                source="rule 13.1",
                next_step="Add an observation, or mark the point OK.",
            )
            yield Note("point", point.id, "looked", title, verdict)


def _told(circuit: Circuit | None, name: str) -> str:
    return f"{name_of(circuit)}: {name}" if circuit is not None else name


def _checks(room: Room, name: str) -> Iterator[Note]:
    items = room_checks()
    for check in room.checks:
        item = items.get(check.item or "") if check.state == "not good" else None
        if item is not None:
            verdict = Verdict(
                status="fail",
                reason=(check.note or item.wrong),
                source=f"{item.source} · looked at",
                observation=item.observation or None,
            )
            yield Note("check", check.id, "state", f"{name}: {item.label.lower()}", verdict, stage="walk")


def _alarm(context: Context, point: Point, title: str) -> Iterator[Note]:
    """An alarm is held against its date on the day of the inspection."""
    on = context.inspection.inspected_on
    if on is None or point.replace_by is None:
        return
    past = point.replace_by < on
    soon = not past and point.replace_by[:4] == on[:4]
    if past or soon:
        verdict = Verdict(
            status="attention",
            reason=f"Its replace-by date is {'past' if past else 'this year'}: {_month(point.replace_by)}.",
            source="maker's date · observations",
            next_step="Press its button; then replace it." if past else "Say so to whoever looks after the home.",
            observation="alarm-old" if past else None,
        )
        yield Note("point", point.id, "replace_by", title, verdict)


def _month(day: str) -> str:
    return f"{day[5:7]}/{day[:4]}"


def _downlights(context: Context, point: Point, title: str) -> Iterator[Note]:
    if point.above in ("insulation laid on it", "timber close to it"):
        verdict = Verdict(
            status="attention",
            reason=f"Above it: {point.above}. It gets hotter there than it is made for.",
            source="BS 7671 421.1.2 · observations",
            next_step="Look for heat marks above; clear it, or fit one made to be covered.",
            observation="downlight-heat",
        )
        yield Note("point", point.id, "above", title, verdict)
    elif point.above == "another dwelling" and not point.fire_rated:
        marked = "carries no mark that it holds back fire" if point.fire_rated is False else "may not hold back fire"
        verdict = Verdict(
            status="attention",
            reason=f"It {marked}, and another dwelling lies above.",
            source=_FIRE,
            next_step="Read the marking on the fitting, or look for a hood above it.",
            observation="downlight-fire" if point.fire_rated is False else None,
        )
        yield Note("point", point.id, "fire_rated", title, verdict)
