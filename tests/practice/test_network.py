import pytest

from dorrik.practice.network import Network


def net(*edges):
    found = Network()
    for edge in edges:
        found.add(*edge)
    return found


def test_series_and_parallel():
    assert net(("a", "b", 1.0), ("b", "c", 2.0)).resistance("a", "c") == pytest.approx(3)
    assert net(("a", "b", 2.0), ("a", "b", 3.0)).resistance("a", "b") == pytest.approx(1.2)


def test_a_bridge_that_is_neither():
    # Wheatstone bridge 1, 2, 3, 4 with 5 across: by hand, delta to star at a-b-c.
    bridge = net(("a", "b", 1.0), ("a", "c", 2.0), ("b", "d", 3.0), ("c", "d", 4.0), ("b", "c", 5.0))
    star_a, star_b, star_c = 1 * 2 / 8, 1 * 5 / 8, 2 * 5 / 8
    expected = star_a + 1 / (1 / (star_b + 3) + 1 / (star_c + 4))
    assert bridge.resistance("a", "d") == pytest.approx(expected)


def test_joined_nodes_are_one_and_a_copy_is_its_own():
    one = net(("a", "b", 1.0), ("c", "d", 2.0))
    other = one.copy()
    other.join("b", "c")
    assert other.resistance("a", "d") == pytest.approx(3)
    assert one.resistance("a", "d") == float("inf")
    assert other.resistance("b", "c") == 0


def test_a_resistance_must_be_one():
    with pytest.raises(ValueError, match="above nothing"):
        net(("a", "b", 0.0))
