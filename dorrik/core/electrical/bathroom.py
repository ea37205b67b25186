"""Bathroom zones and the protection they ask for (rules 11.1 and 11.2, BS 7671 section 701)."""

from typing import Literal

from dorrik.core.basics.verdict import Verdict

Zone = Literal["0", "1", "2", "outside"]
SOURCE = "BS 7671 701.32, 701.512.2 · rule 11"
HEIGHT_M = 2.25
ZONE_2_M = 0.6
NO_BASIN_ZONE_1_M = 1.2
SOCKET_M = 2.5


def zone(
    height_m: float,
    distance_m: float,
    *,
    inside_basin: bool = False,
    basin: bool = True,
    shower_head_m: float | None = None,
    behind_partition: bool = False,
) -> Zone:
    """The zone of a point.

    height_m: above the finished floor (m); distance_m: horizontally from the edge of bath or tray, 0 above it, round a
    fixed partition where there is one; without a basin from the fixed water outlet (m); inside_basin: within bath or
    tray; basin: there is a bath or tray; shower_head_m: height of a fixed shower head (m), which lifts the zones
    where it is above 2.25 m; behind_partition: fully screened by a fixed partition. Raises ValueError for a
    negative distance or height.
    """
    if height_m < 0 or distance_m < 0:
        raise ValueError("Heights and distances are not negative.")
    top = max(HEIGHT_M, shower_head_m or 0.0)
    if inside_basin and basin:
        return "0"
    if not basin:
        if distance_m <= NO_BASIN_ZONE_1_M and not behind_partition:
            return "0" if height_m < 0.1 else "1" if height_m <= top else "outside"
        return "outside"
    if behind_partition or height_m > top:
        return "outside"
    if distance_m == 0:
        return "1"
    return "2" if distance_m <= ZONE_2_M else "outside"


def required_ip(zone: Zone, *, jets: bool = False) -> str | None:
    """The least degree of protection against water in a zone; None outside. jets: water jets are used for cleaning."""
    if zone == "0":
        return "IPX7"
    if zone in ("1", "2"):
        return "IPX5" if jets else "IPX4"
    return None


def socket_allowed(distance_from_zone_1_m: float) -> bool:
    """May a socket stand there? At least 2.5 m horizontally from the edge of zone 1 (BS 7671 701.512.3)."""
    return distance_from_zone_1_m >= SOCKET_M - 1e-9


def switch_allowed(zone: Zone, *, cord_only: bool, shaver_supply: bool = False) -> bool:
    """May an accessory with a switch or socket stand in the zone? A cord may hang in any; its body stays out of 0,
    1 and 2, where only a shaver supply unit may stand in 2 (BS 7671 701.512.3)."""
    return cord_only or zone == "outside" or (shaver_supply and zone == "2")


def judge_protection(zone: Zone, ipx: int | None, *, jets: bool = False, unmarked: bool = False) -> Verdict:
    """Hold a fitting's protection against water (second IP digit) against its zone (rule 11.2).

    unmarked: its marking was looked for and none was found. That is an answer, and shows no protection.
    """
    needed = required_ip(zone, jets=jets)
    if needed is None:
        return Verdict(status="pass", reason="It is outside the zones.", source=SOURCE)
    least = int(needed[-1])
    if ipx is None and unmarked:
        return Verdict(
            status="attention",
            reason=f"Zone {zone} needs {needed}; no marking was found on the fitting, so that nothing shows it.",
            source=SOURCE,
            limit=float(least),
            next_step="Look it up by maker and type; where that shows nothing, have it replaced.",
            observation="ip-not-marked",
        )
    if ipx is None:
        reason = f"Zone {zone} asks for {needed}; the marking is needed."
        return Verdict(status="unknown", reason=reason, source=SOURCE, limit=float(least))
    if ipx < least:
        return Verdict(
            status="fail",
            reason=f"IPX{ipx} in zone {zone}, which asks for {needed}.",
            source=SOURCE,
            limit=float(least),
            margin=float(ipx - least),
            next_step="Check the marking on the fitting itself; then replace it or move it out of the zone.",
            observation="bathroom-ip",
        )
    reason = f"IPX{ipx} suits zone {zone} ({needed})."
    return Verdict(status="pass", reason=reason, source=SOURCE, limit=float(least), margin=float(ipx - least))


def judge_socket(distance_from_zone_1_m: float) -> Verdict:
    """Hold a socket's distance from the edge of zone 1 (m) against 2.5 m (rule 11.2)."""
    margin = distance_from_zone_1_m - SOCKET_M
    fits = socket_allowed(distance_from_zone_1_m)
    return Verdict(
        status="pass" if fits else "fail",
        reason=f"{distance_from_zone_1_m:g} m from zone 1; a socket keeps {SOCKET_M:g} m.",
        source="BS 7671 701.512.3 · rule 11.2",
        limit=SOCKET_M,
        margin=margin,
        next_step=None if fits else "A shaver supply unit is another thing; measure again round the partitions.",
        observation=None if fits else "bathroom-socket",
    )


def judge_switch(zone: Zone, *, shaver_supply: bool = False) -> Verdict:
    """Judge the body of a switch, fused unit or other accessory by its zone; a cord may hang in any (rule 11.2)."""
    fits = switch_allowed(zone, cord_only=False, shaver_supply=shaver_supply)
    return Verdict(
        status="pass" if fits else "fail",
        reason="It is where an accessory may be." if fits else f"The body of an accessory is in zone {zone}.",
        source="BS 7671 701.512.3 · rule 11.2",
        next_step=None if fits else "A pull cord may hang there; its switch stays out of zones 0, 1 and 2.",
        observation=None if fits else "bathroom-accessory",
    )
