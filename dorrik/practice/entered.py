"""What a document says of a home, read from its plain text: the facts that move a code, apart from the rules that
judge it.

Used to tell the truth of simulated homes; nothing here asks the rules.
"""

from collections.abc import Iterator
from typing import Any

from dorrik.core.electrical import devices

Document = dict[str, Any]


def circuits(document: Document) -> Iterator[tuple[Document, Document]]:
    """Every circuit with its board."""
    for board in document["inspection"]["boards"]:
        for circuit in board["circuits"]:
            yield board, circuit


def circuit_of(document: Document, circuit_id: str) -> tuple[Document, Document]:
    """A circuit and its board by its id."""
    return next((b, c) for b, c in circuits(document) if c["id"] == circuit_id)


def figure(text: object) -> float | None:
    """A plain number, None for everything else."""
    try:
        return float(str(text))
    except ValueError:
        return None


def rcds_before(document: Document, board: Document, circuit: Document) -> list[Document]:
    """The devices before a circuit, the nearest first, each with its fields by the names of a device."""
    rcds = []
    place: tuple[Document, Document] | None = (board, circuit)
    while place is not None:
        here, way = place
        own = next((r for r in here.get("rcds", []) if r["id"] == way.get("rcd_id")), None)
        if own is not None:
            rcds.append(own)
        elif way.get("rcd_rated_ma"):
            rcds.append({k.removeprefix("rcd_"): v for k, v in way.items() if k.startswith("rcd_")})
        rcds += [r for r in here.get("rcds", []) if r.get("place") == "whole board"]
        fed = here.get("fed_by")
        place = circuit_of(document, fed) if fed else None
    return rcds


def works(rcd: Document) -> bool:
    """Was a device tested, in time, and not found wanting?"""
    trip, five = figure(rcd.get("trip_ms")), figure(rcd.get("five_ms"))
    if trip is None or trip < 1 or rcd.get("button") == "incorrect" or rcd.get("five_ms") == "OL":
        return False
    if rcd.get("delay") == "S":
        return 130 <= trip <= 500
    return trip <= 300 and (five is None or five <= 40)


def protected(document: Document, board: Document, circuit: Document) -> bool:
    """Does a working device protect a circuit?"""
    return any(works(rcd) for rcd in rcds_before(document, board, circuit))


def protected_throughout(document: Document) -> bool:
    """Does a working device protect every circuit that feeds no board?"""
    feeding = {b.get("fed_by") for b in document["inspection"]["boards"]}
    return all(protected(document, b, c) for b, c in circuits(document) if c["id"] not in feeding)


def zs_limit(document: Document, board: Document, circuit: Document) -> float | None:
    """The published limit of the circuit's device (Ω) on TN; None where it has none."""
    sockets = circuit.get("serves") == "sockets"
    rating = circuit.get("device_rating_a", 0)
    final = circuit.get("serves") != "distribution" and (rating <= 32 or (sockets and rating <= 63))
    try:
        return devices.zs_limit_ohm(circuit["device_standard"], circuit["device_type"], rating, 0.4 if final else 5.0)
    except (LookupError, KeyError):
        return None


def on_electrode(document: Document, board: Document) -> bool:
    """Has a board the earth of an electrode, its own or that of a board before it?"""
    here: Document | None = board
    while here is not None:
        if here.get("earthing") == "own electrode":
            return True
        fed = here.get("fed_by")
        here = circuit_of(document, fed)[0] if fed else None
    return bool(document["inspection"]["earthing"] == "TT")


def loops_within(document: Document) -> bool:
    """Are all the loops that were tested on the supply's earth within their limits, and one at least was?"""
    seen = False
    for board, circuit in circuits(document):
        zs, limit = circuit.get("zs_ohm"), zs_limit(document, board, circuit)
        if on_electrode(document, board) or limit is None:
            continue
        if zs == "OL":
            return False
        value = figure(zs)
        if value is not None:
            seen = True
            if value > limit:
                return False
    return seen


def loop_as_calculated(board: Document, circuit: Document) -> bool:
    """Is Zs what Zdb + (R1+R2) leads to, within max(0.05 Ω, 15 %), or less?"""
    zs, zdb = figure(circuit.get("zs_ohm")), figure(board.get("zdb_ohm"))
    own = figure(circuit.get("r1_r2_ohm"))
    if own is None and figure(circuit.get("long_lead_r2_ohm")) is not None:
        # By the ratio of the two conductors of one cable, whose sizes are its areas.
        r2 = figure(circuit["long_lead_r2_ohm"]) or 0.0
        own = r2 * (1 + circuit["cpc_csa_mm2"] / circuit["line_csa_mm2"])
    if zs is None or zdb is None or own is None:
        return False
    total = zdb + own
    return zs <= total + max(0.05, 0.15 * total) + 0.005
