"""Surge protective devices: indicator and the optional varistor test (rules 10.1 and 10.2)."""

from dorrik.core.basics.readings import Reading
from dorrik.core.basics.verdict import Verdict

SOURCE = "varistor test, U_ac = U_dc / 1.6; not required by the standard · rule 10.1"
DC_TO_AC = 1.6
LOWEST, HIGHEST = -0.15, 0.20


def judge_varistor(u_dc_v: Reading | None, uc_v: float) -> Verdict:
    """Hold the direct voltage at which 1 mA flows (V) against the marked Uc (V a.c.).

    U_ac = U_dc / 1.6 is expected within −15 % to +20 % of Uc, a house rule.
    """
    if u_dc_v is None or u_dc_v.kind != "number" or u_dc_v.value is None or u_dc_v.bound == "<":
        over = u_dc_v is not None and u_dc_v.kind == "over-range"
        reason = "No current flowed up to the top of the range: its voltage is needed." if over else "Needs a figure."
        return Verdict(status="unknown", reason=reason, source=SOURCE, limit=uc_v)
    u_ac = u_dc_v.value / DC_TO_AC
    low, high = uc_v * (1 + LOWEST), uc_v * (1 + HIGHEST)
    text = f"{u_dc_v} V d.c. is {u_ac:.0f} V a.c.; marked Uc {uc_v:g} V"
    if u_dc_v.bound == ">" and u_ac <= high + 1e-9:
        return Verdict(status="unknown", reason=f"{text}: the bound cannot say.", source=SOURCE, limit=uc_v)
    if low - 1e-9 <= u_ac <= high + 1e-9:
        return Verdict(
            status="pass", reason=f"{text}: sound.", source=SOURCE, limit=uc_v, margin=min(u_ac - low, high - u_ac)
        )
    return Verdict(
        status="fail",
        reason=f"{text}: outside {low:.0f} to {high:.0f} V, the varistor is {'worn' if u_ac < low else 'open'}.",
        source=SOURCE,
        limit=uc_v,
        margin=u_ac - low if u_ac < low else high - u_ac,
        next_step="Isolate. Replace the module; look at the indicator and the device in front of it.",
        observation="spd-spent",
    )


def judge_state(state: str | None) -> Verdict | None:
    """Judge what the indicator shows: 'sound', 'spent', 'none' (no device), 'not verified' or None (rule 10.1)."""
    source = "BS 7671 443.4, 534 · rule 10.1"
    if state == "spent":
        return Verdict(
            status="attention",
            reason="The indicator of the SPD shows that it is spent.",
            source=source,
            next_step="Isolate. Replace the module; take it out before insulation tests above 250 V.",
            observation="spd-spent",
        )
    if state == "none":
        return Verdict(
            status="attention",
            reason="There is no surge protection, which is expected today.",
            source=source,
            next_step="No code for age alone: what met the edition of its day and is sound may stay.",
            observation="no-surge-protection",
        )
    if state == "sound":
        return Verdict(
            status="pass",
            reason="The indicator shows it sound; take it out before insulation tests above 250 V.",
            source=f"{source}, 10.2",
        )
    return None
