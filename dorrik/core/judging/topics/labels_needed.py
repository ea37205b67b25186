"""Labels one by one: which are needed by what the home has, which are missing, and a test interval of earlier days."""

from collections.abc import Iterator

from dorrik.core.basics.record import record
from dorrik.core.basics.verdict import Verdict
from dorrik.core.book import board_checks
from dorrik.core.inspection.check import NOT_GOOD
from dorrik.core.inspection.labels import FITTED, INTERVALS, MISSING, OLD, REMOVED, LabelKind, label_kinds
from dorrik.core.inspection.records import Board, Inspection, Label
from dorrik.core.judging.topics.context import Context, Note

_RCD = "rcd-test"


@record(kw_only=True)
class LabelView:
    """A label at its place. needed: by what is known of the home; id: of what was recorded of it, '' for nothing."""

    kind: str
    label: str
    entity: str
    entity_id: str
    where: str
    needed: bool
    id: str
    state: str
    interval: str


def labels(context: Context) -> Iterator[LabelView]:
    """Every kind of label at the origin and at each board, in the order in which they are looked for."""
    i = context.inspection
    recorded = {(label.about_id, label.kind): label for label in i.labels if label.kind}
    places: list[tuple[str, str, str, Board | None]] = [("inspection", i.id, "Origin of the supply", None)]
    places += [("board", board.id, board.name or "Board", board) for board in i.boards]
    for entity, key, where, board in places:
        for kind in label_kinds().values():
            if (kind.at == "board") is not (board is not None):
                continue
            recorded_label = recorded.get((key, kind.key))
            yield LabelView(
                kind=kind.key,
                label=kind.label,
                entity=entity,
                entity_id=key,
                where=where,
                needed=kind.always or _needed(i, board, kind),
                id=recorded_label.id if recorded_label is not None else "",
                state=(recorded_label.state or "") if recorded_label is not None else "",
                interval=(recorded_label.interval or "") if recorded_label is not None else "",
            )


def _needed(i: Inspection, board: Board | None, kind: LabelKind) -> bool:
    """Does something that the home has need this label?"""
    if board is None:
        return kind.key == "dual-supply" and i.other_source not in (None, "none")
    match kind.key:
        case "rcd-test":
            return bool(board.rcds) or any(circuit.rcd_rated_ma for circuit in board.circuits)
        case "two-colours":
            return len({circuit.core_colours for circuit in board.circuits if circuit.core_colours}) > 1
        case "no-cpc":
            return bool(board.no_cpc_notice)
        case "surge":
            return board.spd_state == "sound"
    return False


def notes(context: Context) -> Iterator[Note]:
    """One note for all labels of a place that are missing, and one for a test interval of earlier days."""
    i = context.inspection
    if not i.labels:
        return
    kinds, boards = label_kinds(), {board.id: board for board in i.boards}
    missing: dict[tuple[str, str], list[LabelKind]] = {}
    for label in i.labels:
        kind, place = kinds.get(label.kind or ""), label.about_id or i.id
        if kind is None or (place not in boards and place != i.id):
            continue
        if label.state in (MISSING, REMOVED):
            missing.setdefault((place, kind.observation), []).append(kind)
        elif label.kind == _RCD and label.state != FITTED and (label.state == OLD or _is_earlier(label.interval)):
            yield _note(i, boards.get(place), "rcd_label", "RCD test notice", _old(label))
    from_checks = _told_by_checks(i)
    for (place, observation), gone in missing.items():
        verdict = Verdict(
            status="attention",
            reason=f"Missing: {', '.join(kind.label for kind in gone)}.",
            source=", ".join(dict.fromkeys(kind.source for kind in gone)),
            next_step="Fit it today, or record it.",
            observation=observation if observation and (place, observation) not in from_checks else None,
        )
        yield _note(i, boards.get(place), f"labels {observation}".strip(), "Labels", verdict)


def _note(i: Inspection, board: Board | None, field: str, what: str, verdict: Verdict) -> Note:
    if board is None:
        return Note("inspection", i.id, field, f"Origin of the supply: {what}", verdict, stage="intake")
    return Note("board", board.id, field, f"{board.name or 'Board'}: {what}", verdict)


def _is_earlier(interval: str | None) -> bool:
    return interval is not None and interval != INTERVALS[0]


def _old(label: Label) -> Verdict:
    text = f"It says {label.interval}" if label.interval else "It is out of date"
    return Verdict(
        status="attention",
        reason=f"{text}; today's notice says {INTERVALS[0]}. The words of its day are no defect.",
        source="BS 7671 514.12.2 · rule 13.6",
        next_step="Fit today's notice.",
    )


def _told_by_checks(i: Inspection) -> set[tuple[str, str]]:
    """Boards whose check of the same says already that something is missing: one cause, one voice."""
    items = board_checks.items()
    return {
        (board.id, items[check.item].observation)
        for board in i.boards
        for check in board.checks
        if check.item in items and check.state == NOT_GOOD
    }
