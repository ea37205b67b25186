"""What the voltages at a point say: polarity, a lost neutral, a missing earth, joined circuits (rules 4.6, 9.5)."""

from dorrik.core.verdict import Verdict

SOURCE = "BS 7671 643.6, voltages at the point · rule 4.6"
#: Below this a conductor counts as being at earth (V), above the second as live (V).
EARTH_V, LIVE_V = 30.0, 190.0


def judge_voltages(line_neutral_v: float | None, line_earth_v: float | None, neutral_earth_v: float | None) -> Verdict:
    """Judge the three voltages of a point, named as its terminals are marked (V).

    Line and neutral exchanged, a neutral or an earth that does not arrive, and a point that is dead are told apart.
    """
    if line_neutral_v is None or line_earth_v is None or neutral_earth_v is None:
        return Verdict(status="unknown", reason="Needs all three voltages.", source=SOURCE)
    said = f"L–N {line_neutral_v:g}, L–E {line_earth_v:g}, N–E {neutral_earth_v:g} V"
    if line_earth_v >= LIVE_V and neutral_earth_v < EARTH_V and line_neutral_v >= LIVE_V:
        return Verdict(status="pass", reason=f"{said}: as it should be.", source=SOURCE)
    if neutral_earth_v >= LIVE_V and line_earth_v < EARTH_V and line_neutral_v >= LIVE_V:
        return Verdict(
            status="fail",
            reason=f"{said}: line and neutral are exchanged here.",
            source=SOURCE,
            next_step="A plug-in tester sees this one; open the point and reconnect.",
            observation="socket-polarity",
        )
    if line_earth_v >= LIVE_V and neutral_earth_v >= LIVE_V and line_neutral_v < EARTH_V:
        return Verdict(
            status="fail",
            reason=f"{said}: the earth pin may be live, line and earth exchanged; or the neutral is lost and floats.",
            source=SOURCE,
            next_step="Take the earth for live until it is proved: keep people off, isolate the circuit, test it dead.",
            observation="polarity-wrong",
        )
    if line_earth_v >= LIVE_V:
        return Verdict(
            status="fail",
            reason=f"{said}: the neutral does not arrive and floats.",
            source=SOURCE,
            next_step="Isolate the circuit now: what is plugged in carries line voltage on its neutral.",
            observation="neutral-lost",
        )
    if line_neutral_v >= LIVE_V:
        return Verdict(
            status="fail",
            reason=f"{said}: the earth does not arrive.",
            source=SOURCE,
            next_step="Do not touch metal here; isolate, look at the cpc terminal.",
            observation="no-cpc-at-point",
        )
    return Verdict(
        status="unknown",
        reason=f"{said}: no supply at this point.",
        source=SOURCE,
        next_step="Switches on, fuse of the unit in, both ways of a two-way switch.",
    )


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
        next_step="Put the ends back in pairs at the board, then test both rings again.",
        observation="rings-bridged",
    ),
}
