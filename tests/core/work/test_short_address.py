"""An address as it stands in a bar."""

import pytest

from dorrik.core.work.short_address import short_address


@pytest.mark.parametrize(
    ("address", "short"),
    [
        ("5 Lookout Row, Kelder Haven", "5 Lookout Row"),
        ("Flat 1, The Net Loft, Capstan Lane, Kelder Haven", "Flat 1, The Net Loft"),
        ("12, Quay Steps, Kelder Haven", "12, Quay Steps"),
        ("The Pilot's House, Signal Hill", "The Pilot's House"),
        ("Flatholm Cottage, The Slip", "Flatholm Cottage"),
        ("Flat 3", "Flat 3"),
        (" , ", "No address yet"),
        ("", "No address yet"),
    ],
)
def test_it_tells_one_home_from_another(address, short):
    assert short_address(address) == short
