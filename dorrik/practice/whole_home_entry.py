"""How a home was tested and written down: in part, in one style or another, with the slips of tired hands."""

import random
from dataclasses import dataclass

from dorrik.practice.entered import Document
from dorrik.practice.whole_home import Cause

#: Figures that may be missing at a circuit, and what may stand in their place.
_PARTS = (
    ("zs_ohm", "LIM no access"),
    ("insulation_lne_mohm", "N/V"),
    ("r1_r2_ohm", "LIM furniture"),
    ("rcd_trip_ms", "LIM"),
)


def in_part(document: Document, chance: random.Random, keep: tuple[str, ...] = ()) -> None:
    """Leave some of the tests out, as limitations or not made at all. keep: figures that are left alone."""
    share = chance.uniform(0.05, 0.4)
    for board in document["inspection"]["boards"]:
        for circuit in board["circuits"]:
            for field, word in _PARTS:
                if field in circuit and field not in keep and chance.random() < share:
                    if chance.random() < 0.5:
                        circuit[field] = word
                    else:
                        del circuit[field]
            for outlet in circuit["points"]:
                if chance.random() < share:
                    for field in ("line_neutral_ohm", "line_cpc_ohm", "r2_ohm", "line_neutral_v", "polarity"):
                        outlet.pop(field, None)
    for bond in document["inspection"]["bonds"]:
        if "at_pipe_ohm" in bond and chance.random() < share:
            del bond["at_pipe_ohm"]
    if chance.random() < share:
        document["inspection"]["ze_parallel_removed"] = False


def cpc_pair_only(document: Document) -> None:
    """Ring points measured line to cpc alone, as most inspectors do."""
    for board in document["inspection"]["boards"]:
        for circuit in board["circuits"]:
            for outlet in circuit["points"]:
                if circuit["form"] == "ring":
                    outlet.pop("line_neutral_ohm", None)


@dataclass(frozen=True, slots=True)
class Slipped:
    """A slip that was made: the truth of it, and the readings that it leaves in doubt."""

    cause: Cause
    doubtful: frozenset[tuple[str, str]] = frozenset()


def slip(document: Document, chance: random.Random, taken: set[str]) -> Slipped | None:
    """One slip of the inspector's in what is written; None where there is no place for it.

    taken: designations of the circuits that something is wrong with, which are left alone.
    """
    kind = chance.choice(
        ("unit", "turned round", "null", "under Zdb", "seconds", "hundredfold", "zero", "not applicable")
    )
    inspection = document["inspection"]
    sound = [
        c
        for c in inspection["boards"][0]["circuits"]
        if c["designation"] not in taken and not c.get("no_cpc") and str(c.get("zs_ohm", "L"))[0].isdigit()
    ]
    if kind == "unit":
        return _unit(inspection, chance)
    if kind == "turned round":
        return _turned_round(sound)
    if kind == "under Zdb":
        return _under_zdb(inspection, sound, chance)
    if kind == "seconds":
        return _seconds(inspection)
    if kind == "hundredfold":
        return _hundredfold(sound)
    if kind in ("zero", "not applicable"):
        return _not_a_test(kind, sound, chance)
    return _null(document)


def _asked(name: str, entity: str, *fields: str) -> Cause:
    evidence = tuple((entity, field) for field in fields)
    return Cause(name, None, frozenset((entity,)), "", evidence, frozenset(fields))


def _unit(inspection: Document, chance: random.Random) -> Slipped | None:
    """PEFC in amperes, or the ohms of Ze written where the kiloamperes belong."""
    if inspection["earthing"] == "TT" or not str(inspection.get("ze_ohm", "O"))[0].isdigit():
        return None
    ze = float(inspection["ze_ohm"])
    if not 0.05 < ze < 0.34:
        return None
    pefc = float(inspection["pefc_ka"])
    inspection["pefc_ka"] = f"{pefc * 1000:.0f}" if chance.random() < 0.5 else inspection["ze_ohm"]
    inspection.pop("pscc_ka", None)
    return Slipped(_asked("unit slip at PEFC", inspection["id"], "pefc_ka"))


def _turned_round(sound: list[Document]) -> Slipped | None:
    """The digits of a ring's neutral turned round, by enough to matter."""
    for circuit in sound:
        text = str(circuit.get("rn_ohm", ""))
        if len(text) == 4 and text[0] == "0" and abs(int(text[2]) - int(text[3])) >= 1:
            if circuit.get("r1_ohm") != text:
                circuit["r1_ohm"] = text
            circuit["rn_ohm"] = f"0.{text[3]}{text[2]}"
            for outlet in circuit["points"]:
                outlet.pop("line_neutral_ohm", None)
            return Slipped(_asked("digits turned round", circuit["id"], "rn_ohm", "r1_ohm"))
    return None


def _under_zdb(inspection: Document, sound: list[Document], chance: random.Random) -> Slipped | None:
    """A Zs that is less than what it flows through."""
    zdb = str(inspection["boards"][0].get("zdb_ohm", "O"))
    if not sound or not zdb[0].isdigit() or float(zdb) < 0.25:
        return None
    circuit = chance.choice(sound)
    circuit["zs_ohm"] = f"{float(zdb) * 0.4:.2f}"
    return Slipped(_asked("Zs under Zdb", circuit["id"], "zs_ohm"))


#: What a bad contact put into a null takes off every reading after it (Ω).
_BAD_NULL_OHM = 0.14


def _null(document: Document) -> Slipped:
    """The leads nulled on a bad contact: every continuity reading after it is too low, and the log shows the null."""
    inspection = document["inspection"]
    known = {"leads_id": "leads", "name": "Short leads", "known_ohm": 0.08}
    inspection["lead_nulls"] = [
        {"id": "null0", **known, "reading_ohm": "0.08", "nulled_at": "2026-11-03T09:00:00Z"},
        {"id": "null1", **known, "reading_ohm": f"{0.08 + _BAD_NULL_OHM:.2f}", "nulled_at": "2026-11-03T09:30:00Z"},
    ]
    doubtful: set[tuple[str, str]] = set()

    def lower(entity: Document, *fields: str) -> None:
        for field in fields:
            text = str(entity.get(field, ""))
            if text[:1].isdigit():
                entity[field] = f"{max(0.0, float(text) - _BAD_NULL_OHM):.2f}"
                doubtful.add((entity["id"], field))

    for board in inspection["boards"]:
        for circuit in board["circuits"]:
            lower(circuit, "r1_ohm", "rn_ohm", "r2_ohm", "r1_r2_ohm", "long_lead_r2_ohm")
            for outlet in circuit["points"]:
                lower(outlet, "line_neutral_ohm", "line_cpc_ohm", "r2_ohm")
    for bond in inspection["bonds"]:
        lower(bond, "at_clamp_ohm", "at_pipe_ohm")
    return Slipped(_asked("null on a bad contact", "null1", "reading_ohm"), frozenset(doubtful))


def _seconds(inspection: Document) -> Slipped | None:
    """Every trip time written in seconds; None where one is slow or missing, which is a fault of its own."""
    timed_devices = [(rcd, "trip_ms") for board in inspection["boards"] for rcd in board.get("rcds", [])]
    timed_devices += [(circuit, "rcd_trip_ms") for board in inspection["boards"] for circuit in board["circuits"]]
    timed_devices = [(one, field) for one, field in timed_devices if field in one]
    times = [float(text) if (text := str(one[field]))[:1].isdigit() else 1e9 for one, field in timed_devices]
    if not times or max(times) > 300:
        return None
    for (one, field), time_ms in zip(timed_devices, times, strict=True):
        one[field] = f"{time_ms / 1000:.3f}"
    places = frozenset((one["id"], field) for one, field in timed_devices)
    cause = Cause(
        "trip time in seconds", None, frozenset(place for place, _ in places), "", tuple(sorted(places)),
        frozenset(("trip_ms", "rcd_trip_ms")),
    )  # fmt: skip
    return Slipped(cause, places)


def _hundredfold(sound: list[Document]) -> Slipped | None:
    """The three ends of a ring written in hundredths of an ohm."""
    ends = ("r1_ohm", "rn_ohm", "r2_ohm")
    for circuit in sound:
        if all(str(circuit.get(end, "O"))[0].isdigit() for end in ends):
            for end in ends:
                circuit[end] = f"{float(circuit[end]) * 100:.0f}"
            return Slipped(
                _asked("ring ends a hundredfold", circuit["id"], *ends), frozenset((circuit["id"], end) for end in ends)
            )
    return None


def _not_a_test(kind: str, sound: list[Document], chance: random.Random) -> Slipped | None:
    """A loop of nothing at all, or N/A where a test applies."""
    if not sound:
        return None
    circuit = chance.choice(sound)
    if kind == "zero":
        circuit["zs_ohm"] = "0.00"
        return Slipped(_asked("Zs of zero", circuit["id"], "zs_ohm"), frozenset(((circuit["id"], "zs_ohm"),)))
    field = chance.choice(("insulation_lne_mohm", "polarity", "zs_ohm"))
    circuit[field] = "N/A"
    return Slipped(_asked("N/A without its fact", circuit["id"], field), frozenset(((circuit["id"], field),)))
