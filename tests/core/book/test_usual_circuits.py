"""What is offered at a board: every usual circuit can be entered as it stands, and is sound by the tables."""

import pytest

from dorrik.core.book.usual_circuits import USUAL_CABLES, usual_circuits
from dorrik.core.inspection.kinds import KINDS

#: What a cable carries clipped direct (A), BS 7671 table 4D5.
CARRIES = {1.0: 16, 1.5: 20, 2.5: 27, 4.0: 37, 6.0: 47, 10.0: 64, 16.0: 85}
NAMES = [usual_circuit.name for usual_circuit in usual_circuits()]


@pytest.mark.parametrize("one", usual_circuits(), ids=NAMES)
def test_a_usual_circuit_can_be_entered_as_it_stands(one):
    fields = KINDS["circuit"].fields
    for name, value in one.fields.items():
        assert fields[name].clean(value) == value


@pytest.mark.parametrize("one", [c for c in usual_circuits() if "device_rating_a" in c.fields], ids=lambda c: c.name)
def test_a_usual_breaker_is_not_too_large_for_its_cable(one):
    """In a ring two cables share; 433.1.204 asks 20 A of each."""
    rating, cable = one.fields["device_rating_a"], CARRIES[one.fields["line_csa_mm2"]]
    assert cable >= 20 if one.fields["form"] == "ring" else rating <= cable
    assert (one.fields["line_csa_mm2"], one.fields["cpc_csa_mm2"]) in USUAL_CABLES


def test_no_name_is_offered_twice_and_buttons_stand_in_an_order():
    assert len(set(NAMES)) == len(NAMES)
    places = [usual_circuit.at for usual_circuit in usual_circuits() if usual_circuit.button]
    assert sorted(places) == list(range(1, len(places) + 1))
