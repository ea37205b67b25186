"""What is fetched before something is drawn: little, and nothing that only later screens need."""

import pytest

from benchmarks import page_weight


def test_sign_in_and_home_weigh_no_more_than_a_hundred_kilobytes(built_web):
    assert page_weight.weight_kb(page_weight.with_the_page()) <= page_weight.AIM_KB


def test_neither_the_component_library_nor_the_devices_database_comes_with_the_page(built_web):
    scripts = {name: (built_web / "assets" / name).read_text() for name in page_weight.with_the_page()}
    for sign in ("data-emotion", "IDBKeyRange", "DexieError"):
        assert not [name for name, text in scripts.items() if sign in text], sign


@pytest.mark.parametrize("name", ["inspection", "readings"])
def test_the_tests_of_an_inspection_are_drawn_without_the_component_library(built_web, name):
    assets = built_web / "assets"
    needed = page_weight.for_a_part(name, page_weight.with_the_page())
    assert not [name for name in needed if "data-emotion" in (assets / name).read_text()]


def test_the_component_library_is_recognised(built_web):
    """The sign that the tests above look for is still in the library itself."""
    assets = built_web / "assets"
    looks = page_weight.for_a_part("looks", set())
    assert [name for name in looks if "data-emotion" in (assets / name).read_text()]
