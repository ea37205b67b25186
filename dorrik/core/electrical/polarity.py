"""What the voltages at a point say: polarity, a lost neutral, a missing earth, joined circuits (rules 4.6, 9.5)."""

from functools import lru_cache

from dorrik.core.basics.verdict import Verdict

SOURCE = "BS 7671 643.6, voltages at the point · rule 4.6"
#: Below this a conductor counts as being at earth (V), above the second as live (V).
EARTH_V, LIVE_V = 30.0, 190.0
#: Neutral to earth from which the neutral is looked at (V), rule 4.6.
NEUTRAL_LOOK_V = 10.0
#: Metal to earth from which it is looked at, and from which it is dangerous (V), rule 4.6.
METAL_LOOK_V, METAL_LIVE_V = 10.0, 50.0

#: Most points have no voltages: it is said once for all of them.
_NEEDS_TWO = Verdict(status="unknown", reason="Needs two of L–N, L–E and N–E.", source=SOURCE)
_LIVE_EARTH = "Treat the earth as live. Keep people away. Isolate the circuit and prove it dead."


@lru_cache(4096)
def judge_voltages(line_neutral_v: float | None, line_earth_v: float | None, neutral_earth_v: float | None) -> Verdict:
    """Judge the voltages of a point, named as its terminals are marked (V); two of them say as much as three.

    Line and neutral swapped, an open neutral, a missing earth and a point that is dead are told apart (rule 4.6).
    """
    volts = _completed(line_neutral_v, line_earth_v, neutral_earth_v)
    if volts is None:
        return _NEEDS_TWO
    named = (("L–N", line_neutral_v), ("L–E", line_earth_v), ("N–E", neutral_earth_v))
    shown = ", ".join([f"{name} {measured:g}" for name, measured in named if measured is not None]) + " V"
    ln, le, ne = volts
    if le >= LIVE_V and ne < EARTH_V and ln >= LIVE_V:
        if ne <= NEUTRAL_LOOK_V:
            return Verdict(status="pass", reason=f"{shown}: as it should be.", source=SOURCE)
        return Verdict(
            status="attention",
            reason=f"{shown}: N–E above {NEUTRAL_LOOK_V:g} V; the neutral has a poor connection or carries much.",
            source=SOURCE,
            limit=NEUTRAL_LOOK_V,
            margin=NEUTRAL_LOOK_V - ne,
            next_step="Isolate and prove dead. Check the connections of the neutral. Restore, test again.",
        )
    if ne >= LIVE_V and le < EARTH_V and ln >= LIVE_V:
        return _failing(f"{shown}: line and neutral swapped here.", _SWAPPED_STEP, "socket-polarity")
    if le >= LIVE_V and ne >= LIVE_V and ln < EARTH_V:
        return _failing(
            f"{shown}: the earth pin may be live, line and earth swapped; or the neutral is open and floats.",
            _LIVE_EARTH,
            "metal-live",
        )
    if le >= LIVE_V:
        return _failing(f"{shown}: neutral open (floating).", _FLOATING_STEP, "neutral-lost")
    if ln >= LIVE_V:
        return _failing(f"{shown}: no earth here.", _NO_EARTH_STEP, "no-cpc-at-point")
    return Verdict(
        status="unknown",
        reason=f"{shown}: no supply at this point.",
        source=SOURCE,
        next_step="Switches on, fuse of the unit in, both ways of a two-way switch.",
    )


def _completed(ln: float | None, le: float | None, ne: float | None) -> tuple[float, float, float] | None:
    """All three voltages (V), the one that was not measured as the other two lead to it; None with fewer than two.

    The three lie on one line: the third is the difference of the others, or their sum where both are of a conductor
    that floats. Where both could be, the dangerous one is taken.
    """
    if [ln, le, ne].count(None) > 1:
        return None

    def third(one: float, other: float) -> float:
        floating = EARTH_V <= one < LIVE_V and EARTH_V <= other < LIVE_V
        return one + other if floating else abs(one - other)

    if ln is None:
        assert le is not None and ne is not None
        return third(le, ne), le, ne
    if le is None:
        assert ne is not None
        return ln, third(ln, ne), ne
    return ln, le, third(ln, le) if ne is None else ne


def judge_metal(metal_earth_v: float) -> Verdict:
    """Voltage from touchable metal to earth (V): above 10 V it is looked at, above 50 V it is dangerous (rule 4.6)."""
    source = "BS 7671 411.3.2, 415.2.2 · rule 4.6"
    shown = f"Metal to earth {metal_earth_v:g} V"
    if metal_earth_v > METAL_LIVE_V:
        return Verdict(
            status="fail",
            reason=f"{shown}: metal that can be touched is live.",
            source=source,
            limit=METAL_LIVE_V,
            margin=METAL_LIVE_V - metal_earth_v,
            next_step="Keep off. Keep people away. Isolate the circuit and prove it dead.",
            observation="metal-live",
        )
    if metal_earth_v > METAL_LOOK_V:
        return Verdict(
            status="attention",
            reason=f"{shown}: more than {METAL_LOOK_V:g} V.",
            source=source,
            limit=METAL_LOOK_V,
            margin=METAL_LOOK_V - metal_earth_v,
            next_step="Treat as live until the cause is known. Isolate; check the cpc there and the bonding. Restore, "
            "test again.",
        )
    return Verdict(status="pass", reason=f"{shown}.", source=source, limit=METAL_LOOK_V)


def _failing(reason: str, step: str, key: str) -> Verdict:
    return Verdict(status="fail", reason=reason, source=SOURCE, next_step=step, observation=key)


_SWAPPED_STEP = "Isolate and prove dead. Remove the front, reconnect line and neutral, test again."
_FLOATING_STEP = "Isolate the circuit now: what is plugged in carries line voltage on its neutral. Find the break."
_NO_EARTH_STEP = "Keep off metal here. Isolate and prove dead. Check the cpc terminal. Restore, test again."


#: Two circuits found joined, by what joins them.
JOINED = {
    "neutral": Verdict(
        status="fail",
        reason="Its neutral is shared with another circuit: switched off alone it can still be live.",
        source="BS 7671 314.4 · rule 9.5",
        next_step="Isolate both circuits before anything is opened; then separate the neutrals.",
        observation="shared-neutral",
    ),
    "line": Verdict(
        status="fail",
        reason="Its line is joined with another circuit: switched off alone it stays live.",
        source="BS 7671 314.4 · rule 4.1",
        next_step="Isolate both circuits before anything is opened; then find the link.",
        observation="rings-bridged",
    ),
    "all conductors": Verdict(
        status="fail",
        reason="It is bridged with another circuit: switched off alone it stays live.",
        source="BS 7671 314.4 · rule 4.1",
        next_step="Isolate both circuits before anything is opened; then find the accessory that joins them.",
        observation="rings-bridged",
    ),
    "exchanged ends": Verdict(
        status="fail",
        reason="Its ends are exchanged with those of another ring: neither closes by itself.",
        source="BS 7671 643.2 · rule 4.1",
        next_step="Isolate and prove dead. Put the ends back in pairs at the board, then test both rings again.",
        observation="rings-bridged",
    ),
}
