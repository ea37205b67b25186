"""What comes with the page itself, before anything is drawn: little, and nothing that only later screens need."""

from benchmarks import page_weight


def test_sign_in_and_home_weigh_no_more_than_a_hundred_kilobytes(built_web):
    assert page_weight.weight_kb(page_weight.with_the_page()) <= page_weight.AIM_KB


def test_neither_the_component_library_nor_the_devices_database_comes_with_the_page(built_web):
    scripts = {name: (built_web / "assets" / name).read_text() for name in page_weight.with_the_page()}
    for sign in ("data-emotion", "IDBKeyRange", "DexieError"):
        assert not [name for name, text in scripts.items() if sign in text], sign
