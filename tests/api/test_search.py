"""The search against a plain reading of the same names: whatever stands in one is found by it, and nothing else is."""

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from dorrik.store.database.engine import new_id
from dorrik.store.database.tables import search_subject
from dorrik.store.register import reindex, search
from dorrik.store.register.search import Subject, words
from tests.examples import examples

NAMES = (
    "14 Lookout Row, Kelder Haven", "4 Lookout Row, Kelder Haven", "Flat 2, The Net Loft, Capstan Lane",
    "The Pilot's House, Signal Hill", "Müller & Söhne", "1 Extraordinarilylongharbourwalkname Terrace, Low Ferry",
    "J-0209", "K-0147 b", "%_\\ odd", "40 Row",
)  # fmt: skip


@pytest.fixture(scope="module")
def kept(engine):
    """A firm whose subjects are these names; the names by id."""
    from dorrik.store.people import people

    with engine.begin() as connection:
        firm = people.add_firm(connection, "Searchers", "1 Quay", "0")
        named = {new_id(): name for name in NAMES}
        search.keep(connection, firm, [Subject("property", one, name, "", (name,)) for one, name in named.items()])
    return firm, named


def found(engine, firm, text):
    with engine.connect() as connection:
        return {hit.title for hit in search.find(connection, firm, text, 50)}


@given(st.data())
@settings(max_examples=examples(150), deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_any_part_of_a_name_finds_it(engine, kept, data):
    firm, _ = kept
    name = data.draw(st.sampled_from(NAMES))
    plain = " ".join(words(name))
    first = data.draw(st.integers(0, len(plain) - 1))
    part = plain[first : data.draw(st.integers(first + 1, len(plain)))].strip()
    # What begins within a house number is part of another number: a figure beside words stands for itself.
    cut = first > 0 and plain[first - 1].isdigit() and part[:1].isdigit() and " " in part
    if words(part) and not cut:
        assert name in found(engine, firm, part), part


@given(st.lists(st.sampled_from(sorted({w for n in NAMES for w in words(n)})), min_size=1, max_size=3, unique=True))
@settings(max_examples=examples(100), deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_words_in_any_order_find_what_has_all_of_them_and_nothing_else(engine, kept, asked):
    firm, _ = kept
    text = " ".join(asked)
    hits = found(engine, firm, text)
    for name in NAMES:
        own = words(name)
        if name in hits:
            # Every word asked for stands in a word of it.
            assert all(any(word in one for one in own) for word in asked), (text, name)
        elif text in " ".join(own):
            raise AssertionError((text, name))


@pytest.mark.parametrize(
    ("text", "titles"),
    [
        ("muller", {"Müller & Söhne"}),
        ("SÖHNE", {"Müller & Söhne"}),
        ("ordinarilylongharbourwalkname terr", {NAMES[5]}),
        ("extraordinarilylongharbourwalkname", {NAMES[5]}),
        ("extraordinarilylongharbourwalkless", set()),
        ("row 40", {"40 Row"}),
        ("j-02", {"J-0209"}),
        ("4 lookout", {NAMES[1]}),
        ("%", set()),
        ("odd", {"%_\\ odd"}),
        ("_", set()),
        ("a" * 500, set()),
    ],
)
def test_accents_long_words_house_numbers_and_signs(engine, kept, text, titles):
    assert found(engine, kept[0], text) == titles


def test_what_was_kept_before_there_was_a_search_is_found_after_a_start(inspector, engine):
    inspection = inspector.begin()
    inspector.send(inspection, inspector.change("inspection", inspection, "reference", "Z-77-OLD"))
    with engine.begin() as connection:
        connection.execute(search_subject.delete().where(search_subject.c.id == inspection))
    assert found(engine, inspector.me["firm_id"], "77-old") == set()
    assert reindex.inspections(engine) >= 1
    assert found(engine, inspector.me["firm_id"], "77-old") == {"Inspection Z-77-OLD"}
    assert reindex.inspections(engine) == 0
