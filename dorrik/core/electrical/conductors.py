"""Resistance and length of conductors (rules 2.1 and 2.2)."""

from dorrik.core.book.reference import cached, number, rows

SOURCE = "conductor resistance, BS EN 60228 · rule 2.1"

#: Per kelvin, from 20 °C: the simplified coefficient used throughout the trade.
TEMPERATURE_COEFFICIENT = 0.004


#: Cables that capacities are tabulated for, the usual one of homes first.
FLAT_TWIN = "flat twin and earth"
CABLE_TYPES = (FLAT_TWIN, "singles", "armoured 70 °C", "armoured 90 °C", "mineral insulated")


@cached
def _imperial() -> dict[str, tuple[float, float]]:
    return {row["name"]: (float(row["area_mm2"]), float(row["metric_mm2"])) for row in rows("imperial")}


def imperial_names() -> tuple[str, ...]:
    """Imperial sizes by strands and diameter, as they are called: `7/.029`."""
    return tuple(_imperial())


def imperial_mm2(name: str) -> tuple[float, float]:
    """Area of an imperial size and the metric size it is taken for (mm² both). Raises KeyError for an unknown one."""
    return _imperial()[name]


@cached
def _per_metre() -> dict[float, float]:
    return {float(row["csa_mm2"]): float(row["milliohm_per_m"]) / 1000 for row in rows("conductors")}


@cached
def cpc_choices_mm2(line_csa_mm2: float) -> tuple[float, ...]:
    """Cpc sizes met in flat twin-and-earth of that line size (mm²), the usual one first; () if not listed."""
    for row in rows("conductors"):
        if float(row["csa_mm2"]) == line_csa_mm2:
            sizes_mm2 = (number(row["cpc_mm2"]), number(row["older_cpc_mm2"] or ""))
            return tuple(size for size in sizes_mm2 if size is not None)
    return ()


def per_metre_ohm(csa_mm2: float) -> float:
    """Resistance of one metre of copper at 20 °C (Ω/m). Raises LookupError for a size not in the table.

    The area of an imperial size is taken by its share of 1 mm² (rule 2.1).
    """
    try:
        return _per_metre()[float(csa_mm2)]
    except KeyError:
        if any(csa_mm2 == area for area, _ in _imperial().values()):
            return _per_metre()[1.0] / csa_mm2
        raise LookupError(f"No resistance is tabulated for {csa_mm2:g} mm².") from None


def resistance_ohm(csa_mm2: float, length_m: float, temperature_c: float = 20.0) -> float:
    """Resistance of a copper conductor (Ω): R = ρ(csa)·L·(1 + 0.004·(T − 20)), rule 2.1.

    csa_mm2: cross-section (mm²); length_m: length (m); temperature_c: conductor temperature (°C).
    """
    return per_metre_ohm(csa_mm2) * length_m * (1 + TEMPERATURE_COEFFICIENT * (temperature_c - 20.0))


def length_m(csa_mm2: float, resistance_ohm: float) -> float:
    """Length of a copper conductor (m) from its resistance at 20 °C (Ω), rule 2.1 turned round."""
    return resistance_ohm / per_metre_ohm(csa_mm2)


def cpc_ratio_span(line_csa_mm2: float, cpc_csa_mm2: float) -> tuple[float, float]:
    """Least and greatest accepted ratio r2/r1: by area and by resistance both are in use (rule 2.2)."""
    by_area = line_csa_mm2 / cpc_csa_mm2
    by_resistance = per_metre_ohm(cpc_csa_mm2) / per_metre_ohm(line_csa_mm2)
    return (min(by_area, by_resistance), max(by_area, by_resistance))
