"""Things to come back to, in walking order: origin, rooms, then boards (stage 4 of the work)."""

from dorrik.core.basics.record import record
from dorrik.core.inspection.follow_up import ComeBack
from dorrik.core.inspection.kinds import KINDS, stage_of
from dorrik.core.inspection.records import Inspection
from dorrik.core.inspection.stages import Stage
from dorrik.core.judging.coverage.walking_order import GONE, Order, Spot, spots


@record(kw_only=True)
class ToComeBack:
    """One open thing. where: what it is about, as it is called now; what: what is still to do, '' for no word; entity,
    entity_id, field: what it is about; stage: where that is entered; board_id: under whose cover it lies, '' for none;
    gone: the thing it is about was removed, so that `where` is what it was called; asked_by: the reviewer who asks, ''
    for nobody."""

    id: str
    where: str
    what: str
    entity: str
    entity_id: str
    field: str
    stage: Stage
    board_id: str
    gone: bool
    asked_by: str = ""


def to_come_back(inspection: Inspection) -> tuple[ToComeBack, ...]:
    """Everything that is still open, in the order in which one walks past it."""
    left = [come_back for come_back in inspection.come_backs if come_back.open]
    if not left:
        return ()
    known = spots(inspection)
    return tuple(view for _, view in sorted((_view(come_back, known) for come_back in left), key=lambda pair: pair[0]))


def _view(come_back: ComeBack, known: dict[str, Spot]) -> tuple[tuple[Order, str], ToComeBack]:
    entity, field = come_back.about_entity or "inspection", come_back.field or ""
    spot = known.get(come_back.about_id or "")
    gone = spot is None
    if spot is None:
        spot = Spot((GONE, 0, 0), come_back.place or "No longer in this inspection")
    whole = entity == "inspection" and not field and come_back.place
    spec = KINDS[entity].fields.get(field)
    where = f"{spot.where}: {spec.label}" if spec is not None and not gone else whole or spot.where
    stage: Stage = "walk" if gone else spot.stage or stage_of(entity, field)
    view = ToComeBack(
        id=come_back.id,
        where=where,
        what=come_back.what or "",
        entity=entity,
        entity_id=come_back.about_id or "",
        field=field,
        stage=stage,
        board_id=spot.board_id,
        gone=gone,
        asked_by=come_back.asked_by or "",
    )
    return (spot.order, come_back.id), view
