"""Which figures take what an instrument shows: every reading has its function, nothing else has one."""

import pytest

from dorrik.core.inspection.instrument_functions import FUNCTIONS, function_of
from dorrik.core.inspection.kinds import KINDS


def of(kind, field):
    found = function_of(KINDS[kind].fields[field])
    return found and found.key


def test_every_reading_that_is_measured_takes_one_function_in_its_own_unit():
    for kind in KINDS.values():
        for name, spec in kind.fields.items():
            function = function_of(spec)
            if spec.kind == "reading" and (kind.name, name) != ("earlier", "reading"):
                assert function is not None, (kind.name, name)
                assert spec.unit == function.units[0], (kind.name, name)


@pytest.mark.parametrize(
    ("kind", "field", "function"),
    [
        ("circuit", "r1_ohm", "continuity"),
        ("circuit", "insulation_lne_mohm", "insulation"),
        ("circuit", "zs_ohm", "loop"),
        ("board", "zdb_ohm", "loop"),
        ("board", "electrode_ohm", "loop"),
        ("inspection", "pscc_ka", "fault-current"),
        ("inspection", "pefc_ka", "fault-current"),
        ("rcd", "trip_ms", "rcd"),
        ("rcd", "five_ms", "rcd-five"),
        ("circuit", "rcd_five_ms", "rcd-five"),
        ("rcd", "leakage_ma", "leakage"),
        ("board", "spd_u_dc_v", "varistor"),
        ("lead_null", "reading_ohm", "null"),
        ("point", "metal_earth_v", "voltage"),
        ("point", "line_neutral_v", "voltage"),
        # Read off a plate, set by somebody, or only ticked: no instrument shows them.
        ("board", "spd_uc_v", None),
        ("rcd", "rated_ma", None),
        ("rcd", "button", None),
        ("circuit", "insulation_test_v", None),
        ("circuit", "cable_length_m", None),
    ],
)
def test_what_a_figure_takes(kind, field, function):
    assert of(kind, field) == function


def test_a_fault_current_shown_in_amperes_fits_its_figure_in_kiloamperes():
    assert FUNCTIONS["fault-current"].units == ("kA", "A")
    spec = KINDS["inspection"].fields["pscc_ka"]
    assert spec.revive(spec.clean("618 A")).value == pytest.approx(0.618)
