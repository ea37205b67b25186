"""Heads and cookies that nobody thought of, fifty at once: no answer says that the server failed, and nobody waits.

The cookies' own properties and those of text that becomes a protocol are in `tests`; `make fuzz` runs them with every
example.
"""

import os

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from dorrik.store.database import migrate
from dorrik.store.database.mariadb import PrivateMariaDB
from tests.api.test_heads import FIELDS, FILLINGS, _head, _too_long_ms
from tests.serving import Server, free_port

EXAMPLES = int(os.environ.get("FUZZ_EXAMPLES", "60"))

#: A few signs again and again, as what is slow to read is made; any byte that a field may hold, and some it may not.
_part = st.one_of(
    st.sampled_from(sorted(FILLINGS.values())),
    st.binary(min_size=1, max_size=4),
    st.text('\\";,=%[]()<>@:/?{} \t', min_size=1, max_size=6).map(str.encode),
)
_filled = st.tuples(_part, st.integers(0, 60_000)).map(lambda one: (one[0] * (one[1] // len(one[0]) + 1))[: one[1]])
_value = st.lists(_filled, min_size=1, max_size=4).map(lambda parts: b"".join(parts)[:60_000])
_name = st.one_of(
    st.sampled_from(FIELDS).map(str.encode), st.text("abcXYZ-_09", min_size=1, max_size=30).map(str.encode)
)
_cookies = st.lists(
    st.tuples(st.sampled_from([b"dorrik_session", b"dorrik_device", b"x", b""]), _value), min_size=1, max_size=40
).map(lambda pairs: b"Cookie: " + b"; ".join(name + b"=" + value for name, value in pairs)[:60_000])


@pytest.fixture(scope="module")
def alone(tmp_path_factory):
    """A server that no other test asks."""
    with PrivateMariaDB(tmp_path_factory.mktemp("db")) as database:
        migrate.upgrade(database.url)
        found = Server(database.url, free_port())
        yield found
        found.kill()


@settings(max_examples=EXAMPLES, deadline=None, suppress_health_check=list(HealthCheck))
@given(fields=st.lists(st.tuples(_name, _value), max_size=6), target=_value, method=st.sampled_from([b"GET", b"POST"]))
def test_nobody_waits_for_any_head(alone, fields, target, method):
    lines = [name + b": " + value for name, value in fields]
    for where in (b"/api/session", b"/api/" + target, b"/api/search?text=" + target):
        assert _too_long_ms(alone.port, _head(method, where, lines)) is None


@settings(max_examples=EXAMPLES, deadline=None, suppress_health_check=list(HealthCheck))
@given(cookie=_cookies, again=st.booleans())
def test_nobody_waits_for_any_cookie(alone, cookie, again):
    assert _too_long_ms(alone.port, _head(fields=[cookie] * (1 + again))) is None
