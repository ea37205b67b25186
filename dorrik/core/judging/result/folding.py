"""One cause, one voice: what follows from something already said is folded under it (the first principle of the rules).

A topic folds what it sees itself; here stand the consequences that reach across topics. A note with `because_of` raises
no observation and stands under its cause.
"""

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import replace

from dorrik.core.basics.verdict import Status
from dorrik.core.electrical import loop, overload, supply
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.inspection.records import Board, Circuit
from dorrik.core.judging.topics.context import Context, cable_of, find_zs_limit, is_measured
from dorrik.core.judging.topics.loops import r1_r2
from dorrik.core.judging.topics.note import Figure, Note

_WRONG: tuple[Status, ...] = ("fail", "attention")


def wrong(notes: Iterable[Note]) -> Iterator[tuple[int, Note]]:
    """The notes that can be a cause or a consequence, each with its place. What passes is neither, unless the inspector
    says that it fails."""
    for place, note in enumerate(notes):
        if note.verdict.status in _WRONG or (note.overruled is not None and note.status in _WRONG):
            yield place, note


def fold(context: Context, notes: Iterable[Note]) -> tuple[Note, ...]:
    """What is wrong, with what explains each of it, where something does."""
    every = list(notes)
    for rule in RULES:
        for index, cause in rule(context, every).items():
            if every[index].because_of is None and every[index].verdict.status in _WRONG:
                every[index] = replace(every[index], because_of=cause)
    return tuple(_to_the_root(every))


def _to_the_root(notes: Sequence[Note]) -> Iterable[Note]:
    """A consequence of a consequence stands under the first cause; loops, should rules ever make one, are cut."""
    own = {
        note.figure: note.because_of for note in notes if note.because_of is not None and note.because_of != note.figure
    }
    roots = {note.figure for note in notes if note.because_of is None and note.verdict.status in ("fail", "attention")}
    for note in notes:
        cause, seen = note.because_of, {note.figure}
        while cause is not None and cause not in roots and cause in own and cause not in seen:
            seen.add(cause)
            cause = own[cause]
        yield note if cause == note.because_of else replace(note, because_of=cause)


Causes = dict[int, Figure]


def _zs_notes(notes: Sequence[Note]) -> Iterable[tuple[int, Note]]:
    for index, note in enumerate(notes):
        if note.field == "zs_ohm" and note.entity == "circuit" and note.verdict.status in ("fail", "attention"):
            yield index, note


def _failing(notes: Sequence[Note], field: str, entity_id: str | None = None) -> Note | None:
    return next(
        (
            n
            for n in notes
            if n.field == field and n.status == "fail" and (entity_id is None or n.entity_id == entity_id)
        ),
        None,
    )


def by_the_earth(context: Context, notes: Sequence[Note]) -> Causes:
    """An earth that is too high, at the origin or at an electrode, explains every Zs that would hold without it."""
    circuits = context.circuit_of
    ze = _failing(notes, "ze_ohm")
    electrodes = {n.entity_id: n for n in notes if n.field == "electrode_ohm" and n.status in ("fail", "attention")}
    weak = next((n for n in notes if n.field == "ze_ohm" and n.verdict.observation == "electrode-above-200"), None)
    if ze is None and weak is None and not electrodes:
        return {}
    causes: Causes = {}
    for index, note in _zs_notes(notes):
        place = circuits.get(note.entity_id)
        if place is None:
            continue
        earth = context.earth(place[0])
        if earth.electrode_of is not None:
            cause = electrodes.get(earth.electrode_of.id)
            if cause is not None:
                causes[index] = cause.figure
        elif note.verdict.observation == "electrode-above-200" and (ze or weak):
            cause = ze or weak
            assert cause is not None
            causes[index] = cause.figure
        elif ze is not None and _explains(context, ze, place):
            causes[index] = ze.figure
    if ze is not None:
        for index, note in enumerate(notes):
            if note.field == "zdb_ohm" and note.entity == "board" and note.status != "fail":
                causes[index] = ze.figure
            if note.field == "pefc_ka" and ze.verdict.observation == "no-earth-at-origin":
                causes[index] = ze.figure
    return causes


def _explains(context: Context, ze: Note, place: tuple[Board, Circuit]) -> bool:
    """Would the circuit's Zs be within its limit with a Ze as it should be? Its own share beyond Ze is what counts;
    with no earth at the origin at all, what is measured and sound of the circuit itself."""
    board, circuit = place
    i, zs = context.inspection, circuit.zs_ohm
    limit = context.zs_limit(board, circuit)
    usual = supply.DECLARED_MAXIMUM_OHM.get(i.earthing or "") or max(supply.DECLARED_MAXIMUM_OHM.values())
    if ze.verdict.observation == "no-earth-at-origin":
        own_ohm = _own_share_ohm(board, circuit)
        if own_ohm is None or own_ohm > loop.FEW_OHMS:
            return False
        return not isinstance(limit, tuple) or own_ohm <= limit[0]
    if zs is None or zs.value is None or i.ze_ohm is None or i.ze_ohm.value is None:
        return zs is not None and zs.kind != "over-range"
    before = board.zdb_ohm if board.zdb_ohm is not None and board.zdb_ohm.value is not None else i.ze_ohm
    origin = min(before.value or 0.0, i.ze_ohm.value) if context.tree.feed(board) is None else i.ze_ohm.value
    if not isinstance(limit, tuple):
        return not loop.is_far_above(zs, loop.calculated(board.zdb_ohm, circuit.r1_r2_ohm))
    return zs.value - origin + usual <= limit[0] + 0.05 * zs.value


def _own_share_ohm(board: Board, circuit: Circuit) -> float | None:
    """What a circuit itself adds to its loop (Ω): its R1+R2, else, where that was not measured, Zs above Zdb."""
    own = r1_r2(circuit)
    if own is not None and is_measured(own):
        return own.value
    zs, zdb = circuit.zs_ohm, board.zdb_ohm
    if zs is None or zdb is None or zs.value is None or zdb.value is None or zs.bound or zdb.bound:
        return None
    return max(zs.value - zdb.value, 0.0)


def by_the_board(context: Context, notes: Sequence[Note]) -> Causes:
    """The way of the earth to a board that is poor explains the loops behind it that would hold without it (rule
    3.1)."""
    poor = {n.entity_id: n for n in notes if n.field == "zdb_ohm" and n.verdict.observation == "board-earth-poor"}
    if not poor:
        return {}
    circuits = context.circuit_of
    causes: Causes = {}
    for index, note in _zs_notes(notes):
        place = circuits.get(note.entity_id)
        if place is None:
            continue
        cause = next((poor[b.id] for b, _ in context.tree.upwards(place[0]) if b.id in poor), None)
        if cause is not None and _holds_without(context, cause, place):
            causes[index] = cause.figure
    # A board fed from a poor one reads poorly too.
    for index, note in enumerate(notes):
        if note.field == "zdb_ohm" and note.entity_id not in poor:
            board = next((b for b in context.inspection.boards if b.id == note.entity_id), None)
            above = [b.id for b, _ in context.tree.upwards(board)][1:] if board is not None else []
            cause = next((poor[one] for one in above if one in poor), None)
            if cause is not None:
                causes[index] = cause.figure
    return causes


def _holds_without(context: Context, cause: Note, place: tuple[Board, Circuit]) -> bool:
    """Would the loop be within its limit without what the way to the board adds (the negative margin of its note)?"""
    board, circuit = place
    zs, limit = circuit.zs_ohm, context.zs_limit(board, circuit)
    own = r1_r2(circuit)
    if not is_measured(zs):
        zs = loop.calculated(board.zdb_ohm, own)
    if zs is None or zs.value is None:
        return zs is not None and zs.kind == "over-range" and own is not None and own.value is not None
    if cause.verdict.margin is None:
        return own is not None and own.value is not None and own.value <= loop.FEW_OHMS
    return not isinstance(limit, tuple) or zs.value + cause.verdict.margin <= limit[0] + 0.05 * zs.value


def by_a_shared_neutral(context: Context, notes: Sequence[Note]) -> Causes:
    """A neutral shared with a circuit of another device sends current past an RCD: that trips it, or the one before
    it."""
    links = [
        n for n in notes if n.field == "joined_by" and n.verdict.observation in ("shared-neutral", "rings-bridged")
    ]
    if not links:
        return {}
    causes: Causes = {}
    for index, note in enumerate(notes):
        trouble = note.field in ("half", "rcd_half", "zs_ohm")
        if not trouble or note.verdict.observation not in ("rcd-trips-on-test", None):
            continue
        if note.field == "zs_ohm" and note.verdict != loop.TRIPS_ON_TEST:
            continue
        behind = set(note.touches) or {note.entity_id}
        cause = next((link for link in links if behind & _joined(context, link)), None)
        if cause is not None:
            causes[index] = cause.figure
    return causes


def _joined(context: Context, link: Note) -> set[str]:
    """Ids of the circuits that a link joins, where they are not behind one and the same device."""
    ids = set(link.touches) or {link.entity_id}
    chains = [frozenset(d.id for d in context.rcds_before(c)) for _, c in context.circuits if c.id in ids]
    return ids if len(ids) < 2 or len(set(chains)) > 1 else set()


def by_no_rcd(context: Context, notes: Sequence[Note]) -> Causes:
    """On an electrode without an RCD no overcurrent limit can be met: the missing RCD says it for all."""
    causes = [n for n in notes if n.verdict.observation == "tt-without-rcd"]
    if not causes:
        return {}
    return {
        index: cause.figure
        for index, note in _zs_notes(notes)
        for cause in causes
        if note.entity_id in cause.touches and _is_earthed(context, note)
    }


def _is_earthed(context: Context, note: Note) -> bool:
    circuit = context.circuit_of[note.entity_id][1] if note.entity_id in context.circuit_of else None
    return circuit is None or circuit.zs_ohm is None or circuit.zs_ohm.kind != "over-range"


def by_the_cpc(context: Context, notes: Sequence[Note]) -> Causes:
    """A cpc that is open, loose or not there explains the loop, the recorded R1+R2 and the voltages behind it."""
    causes: Causes = {}
    for members in _by_circuit(context, notes, _is_cause_at_cpc).values():
        cause = min((n for _, n in members if _is_open_cpc(n)), key=_nearest_the_break, default=None)
        loose = next((n for _, n in members if _is_loose_cpc(n)), None)
        for index, note in members:
            if cause is not None and note is not cause and _follows_open_cpc(note, cause):
                causes[index] = cause.figure
            elif cause is None and loose is not None and note.field == "zs_ohm":
                causes[index] = loose.figure
    return causes


def _nearest_the_break(note: Note) -> int:
    """A circuit without a cpc or a ring open in it, then the point where the break begins, then the end of the line."""
    if note.field in ("r1_r2_ohm", "long_lead_r2_ohm"):
        return 2
    return 1 if note.entity == "point" else 0


def _is_open_cpc(note: Note) -> bool:
    if note.because_of is not None or note.status != "fail":
        return False
    if note.verdict.observation == "cpc-lost" and note.field == "r1_r2_ohm":
        return True
    if note.field == "zs_ohm":
        return False
    ring = note.verdict.observation == "ring-open" and note.entity == "circuit"
    return ring or note.verdict.observation in ("no-cpc-at-point", "circuit-without-cpc") or note.field == "no_cpc"


def _is_cause_at_cpc(note: Note) -> bool:
    return _is_loose_cpc(note) or _is_open_cpc(note)


def _is_loose_cpc(note: Note) -> bool:
    return note.verdict.observation == "ring-cpc-high"


def _follows_open_cpc(note: Note, cause: Note) -> bool:
    if note.field == "zs_ohm" and note.verdict.observation == "no-cpc-at-point":
        # No earth at all: a ring that is broken in its line or neutral does not explain that.
        return cause.field not in ("r1_ohm", "rn_ohm")
    if note.field in ("zs_ohm", "r1_r2_ohm", "long_lead_r2_ohm") and note.entity == "circuit":
        return True
    whole = cause.entity == "circuit" or bool(cause.touches)
    same = note.verdict.observation == "no-cpc-at-point" and note.entity == "point"
    return same and whole and (cause.entity == "circuit" or note.entity_id in cause.touches)


def by_polarity(context: Context, notes: Sequence[Note]) -> Causes:
    """The voltages at a point say what its polarity is; the point's and the circuit's own ticks follow from them."""
    causes: Causes = {}
    supplied = _failing(notes, "supply_polarity")
    for circuit_id, members in _by_circuit(context, notes, _polar).items():
        polar = [(i, n) for i, n in members if _polar(n)]
        explained = [(i, n) for i, n in polar if n.field == "line_neutral_v"] or [
            (i, n) for i, n in polar if n.entity == "point"
        ]
        if supplied is not None:
            exchanged = [i for i, n in polar if n.verdict.observation in ("socket-polarity", "polarity-wrong")]
            causes.update((index, supplied.figure) for index in exchanged)
            continue
        whole = _one_for_all(context, circuit_id, [n for _, n in explained])
        for index, note in polar:
            cause = _cause_of_polarity(note, [n for _, n in explained], whole)
            if cause is not None and cause is not note:
                causes[index] = cause.figure
        if explained:
            causes |= _behind_points(members, [n for _, n in explained])
    return causes


_POLARITY = ("socket-polarity", "polarity-wrong", "neutral-lost", "metal-live")


def _polar(note: Note) -> bool:
    return note.verdict.status == "fail" and note.verdict.observation in _POLARITY


def _cause_of_polarity(note: Note, explained: Sequence[Note], whole: Note | None) -> Note | None:
    if note.entity == "circuit":
        return explained[0] if explained else None
    if whole is not None and note in explained and note.verdict.observation == whole.verdict.observation:
        return whole
    same = next((n for n in explained if n.entity_id == note.entity_id), None)
    return whole if same is not None and whole is not None and _same_kind(same, whole) else same


def _same_kind(note: Note, other: Note) -> bool:
    return note.verdict.observation == other.verdict.observation


def _one_for_all(context: Context, circuit_id: str, explained: Sequence[Note]) -> Note | None:
    """The first of the points where one break or exchange shows at every one from there to the end of the walk."""
    if len(explained) < 2:
        return None
    circuit = next((c for _, c in context.circuits if c.id == circuit_id), None)
    if circuit is None:
        return None
    order = [point.id for point in circuit.points]
    wrong = {n.entity_id: n for n in explained}
    first = next((at for at, point_id in enumerate(order) if point_id in wrong), None)
    if first is None or (circuit.form == "ring" and first > 0):
        return None
    tail = [wrong.get(point_id) for point_id in order[first:]]
    # A point that was not tested says nothing; one that is sound ends the matter.
    tested = {p.id for p in circuit.points if p.line_neutral_v is not None or p.polarity is not None}
    sound = [at for at, note in enumerate(tail) if note is None and order[first + at] in tested]
    kinds = {n.verdict.observation for n in tail if n is not None}
    return None if sound or len(kinds) > 1 else wrong[order[first]]


def _behind_points(members: Sequence[tuple[int, Note]], indices: Sequence[Note]) -> Causes:
    """Dead readings at a point whose voltages say what is wrong there."""
    causes: Causes = {}
    by_point = {n.entity_id: n for n in indices if n.field == "line_neutral_v"}
    for index, note in members:
        cause = by_point.get(note.entity_id)
        if cause is None or note is cause or note.field not in ("line_cpc_ohm", "line_neutral_ohm"):
            continue
        causes[index] = cause.figure
    return causes


def by_a_link(context: Context, notes: Sequence[Note]) -> Causes:
    """Two circuits joined or exchanged: what their ends, loops and insulation show follows from it."""
    causes: Causes = {}
    links = [n for n in notes if n.field == "joined_by"]
    for link in links:
        for index, note in enumerate(notes):
            if note.entity != "circuit" or note.entity_id not in link.touches or note is link:
                continue
            if note.field in ("r1_ohm", "rn_ohm", "r2_ohm", "r1_r2_ohm", "joined_by"):
                causes[index] = link.figure
    return causes


def by_the_rcd(context: Context, notes: Sequence[Note]) -> Causes:
    """No loop test because an RCD trips: its half test, or what leaks behind it, has said why."""
    causes: Causes = {}
    why = [n for n in notes if n.field in ("half", "rcd_half", "leakage_ma") and n.status in ("fail", "attention")]
    if not why:
        return {}
    for index, note in _zs_notes(notes):
        if note.verdict != loop.TRIPS_ON_TEST:
            continue
        cause = next((n for n in why if note.entity_id in n.touches), None)
        if cause is not None:
            causes[index] = cause.because_of or cause.figure
    return causes


def by_the_cable(context: Context, notes: Sequence[Note]) -> Causes:
    """A device too large for its cable lets too much through its cpc as well."""
    causes: Causes = {}
    circuits = context.circuit_of
    for circuit_id, members in _by_circuit(context, notes, _is_too_large).items():
        cause = next((n for _, n in members if _is_too_large(n)), None)
        if cause is None:
            continue
        for index, note in members:
            loop_too = note.field == "zs_ohm" and _fits_a_smaller(context, circuits[circuit_id], notes)
            if note.field == "cpc_csa_mm2" or loop_too:
                causes[index] = cause.figure
    return causes


def _is_too_large(note: Note) -> bool:
    return note.field == "device_rating_a" and note.status == "fail"


def _fits_a_smaller(context: Context, place: tuple[Board, Circuit], notes: Sequence[Note]) -> bool:
    """Would the loop be within the limit of a device that the cable may have, with earths before it as they should
    be?"""
    board, circuit = place
    measured = circuit.zs_ohm if is_measured(circuit.zs_ohm) else None
    cable, zs = cable_of(circuit), measured or loop.calculated(board.zdb_ohm, r1_r2(circuit))
    if cable is None or zs is None or zs.value is None or circuit.device_rating_a is None:
        return False
    try:
        rating_a = overload.greatest_rating_a(cable.csa_mm2, cable.method, cable.type)
    except LookupError:
        return False
    limit = find_zs_limit(context, board, replace(circuit, device_rating_a=min(rating_a, circuit.device_rating_a)))
    poor = next((n for n in notes if n.verdict.observation == "board-earth-poor" and n.entity_id == board.id), None)
    added = -(poor.verdict.margin or 0.0) if poor is not None else 0.0
    return isinstance(limit, tuple) and zs.value - _above_usual(context) - added <= limit[0]


def _above_usual(context: Context) -> float:
    """What a supply earth that fails adds to every loop (Ω); 0 where it is as declared."""
    i = context.inspection
    usual = supply.DECLARED_MAXIMUM_OHM.get(i.earthing or "")
    if usual is None or i.ze_ohm is None or i.ze_ohm.value is None or i.ze_ohm.value <= usual:
        return 0.0
    return i.ze_ohm.value - min(supply.DECLARED_MAXIMUM_OHM.values())


def by_the_leads(context: Context, notes: Sequence[Note]) -> Causes:
    """Continuity measured with leads in doubt is measured again before anything is made of it (rule 1.4)."""
    null = next((n for n in notes if n.entity == "lead_null" and n.status in ("fail", "attention")), None)
    if null is None or not context.doubtful:
        return {}
    rings = {c.id: ("r1_ohm", "rn_ohm", "r2_ohm") for _, c in context.circuits if c.form == "ring"}
    causes: Causes = {}
    for index, note in enumerate(notes):
        leaned_on = [(note.entity_id, note.field), *((note.entity_id, f) for f in rings.get(note.entity_id, ()))]
        # What reads nothing at all is open whatever the leads add.
        dead = note.field in _CONTINUITY and note.verdict.observation not in _OPEN
        if note is not null and dead and any(figure in context.doubtful for figure in leaned_on):
            causes[index] = null.figure
    return causes


_OPEN = ("ring-open", "no-cpc-at-point", "polarity-wrong", "metal-live")
#: Figures that the leads' own resistance is in.
_CONTINUITY = frozenset(
    name
    for kind in ("circuit", "point", "bond")
    for name, spec in KINDS[kind].fields.items()
    if spec.quantity == "continuity"
)


def by_what_was_seen(context: Context, notes: Sequence[Note]) -> Causes:
    """A tripped-out figure of the device explains the same at another place: one observation, one place."""
    causes: Causes = {}
    seen: dict[tuple[str, str | None], Note] = {}
    for index, note in enumerate(notes):
        key = note.verdict.observation
        if key is None or note.because_of is not None or note.status not in ("fail", "attention"):
            continue
        place = (key, note.entity_id)
        first = seen.setdefault(place, note)
        if first is not note and first.figure != note.figure:
            causes[index] = first.figure
    return causes


def _by_circuit(
    context: Context, notes: Sequence[Note], having: Callable[[Note], bool]
) -> dict[str, list[tuple[int, Note]]]:
    """Notes of a circuit and of its points, for each circuit that has one of which something holds."""
    home = context.circuit_of
    by_circuit: dict[str, list[tuple[int, Note]]] = {
        home[note.entity_id][1].id: [] for note in notes if having(note) and note.entity_id in home
    }
    for index, note in enumerate(notes) if by_circuit else ():
        if note.entity_id in home and (members := by_circuit.get(home[note.entity_id][1].id)) is not None:
            members.append((index, note))
    return by_circuit


#: In the order in which they are asked: what was folded by one rule is left alone by the next.
RULES: tuple[Callable[[Context, Sequence[Note]], Causes], ...] = (
    by_the_leads,
    by_a_link,
    by_polarity,
    by_the_cpc,
    by_the_board,
    by_the_earth,
    by_no_rcd,
    by_a_shared_neutral,
    by_the_rcd,
    by_the_cable,
    by_what_was_seen,
)
