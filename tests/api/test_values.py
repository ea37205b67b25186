"""Whatever JSON and Unicode can say is kept, or refused alone: no failure of the server, no loss of anything else."""

import json

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from dorrik.core.inspection.kinds import KINDS
from dorrik.core.work.register import REGISTER
from dorrik.store.database.engine import new_id
from tests.api.reviewed import issue
from tests.examples import examples

MOMENTS = ["0001-01-01T00:00:00+14:00", "0001-01-01T00:00:00-14:00", "9999-12-31T23:59:59-14:00", "9999-12-31"]
WORDS = ["\ud83d", "\x00", "王小明", "👩🏽‍🔧", "2026-11-03", ">299", "LIM \x07", "1e400", "٣", *MOMENTS]
numbers = st.one_of(st.integers(), st.just(10**400), st.floats(allow_nan=False, allow_infinity=False))
scalar = st.one_of(st.none(), st.booleans(), numbers, st.text(max_size=40), st.sampled_from(WORDS))


def _nested(inner):
    return st.one_of(st.lists(inner, max_size=3), st.dictionaries(st.text(max_size=8), inner, max_size=3))


anything = st.recursive(scalar, _nested, max_leaves=6)
FIELDS = [(kind.name, field) for kind in KINDS.values() for field in kind.fields]
QUICK = {"deadline": None, "suppress_health_check": [HealthCheck.function_scoped_fixture]}


def post(http, path, body, method="POST"):
    """Sent as Python writes it, with what only JSON can say: halves of characters, endless numbers."""
    return http.request(method, path, content=json.dumps(body), headers={"Content-Type": "application/json"})


@settings(max_examples=examples(120), **QUICK)
@given(st.lists(st.tuples(st.sampled_from(FIELDS), anything), min_size=1, max_size=12))
def test_changes_of_any_field_to_anything(begun, entered):
    inspector, inspection, ids = begun
    changes = [inspector.change(kind, ids[kind], field, value) for (kind, field), value in entered]
    changes.append(inspector.change("inspection", inspection, "extent", f"kept {new_id()}"))
    answer = post(inspector.http, f"/api/inspections/{inspection}/changes", {"changes": changes})
    assert answer.status_code == 200, answer.text
    results = answer.json()["results"]
    assert len(results) == len(changes)
    assert results[-1]["state"] == "kept"
    assert all(r["state"] == "kept" or r["reason"] for r in results)


@pytest.fixture(scope="module")
def begun(app, engine):
    from tests.api.conftest import Inspector
    from tests.conftest import Firm

    inspector = Inspector(app, Firm(engine).supervisor_email)
    inspection = inspector.begin()
    ids = {"inspection": inspection}
    for kind in KINDS.values():
        if kind.name != "inspection":
            ids[kind.name] = inspector.add(inspection, kind.name, kind.parent, ids[kind.parent])
    return inspector, inspection, ids


@settings(max_examples=examples(60), **QUICK)
@given(st.sampled_from([(kind, field) for kind in REGISTER for field in REGISTER[kind].fields]), anything)
def test_fields_of_the_register(begun, place, value):
    inspector, _, _ = begun
    kind, field = place
    if REGISTER[kind].parent != "firm":
        return
    entry = {"parent_id": inspector.me["firm_id"], "values": {field: value}}
    answer = post(inspector.http, f"/api/register/{kind}", entry)
    assert answer.status_code in (201, 422), answer.text
    assert answer.status_code == 201 or answer.json()["fields"]


OTHERS = [
    ("PUT", "/api/firm/rules", "house_rules"),
    ("PUT", "/api/firm/rates", "rates"),
    ("POST", "/api/papers/chart", "rows"),
    ("POST", "/api/links/use", "firm"),
    ("POST", "/api/session", "email"),
    ("POST", "/api/people", "name"),
]


@settings(max_examples=examples(60), **QUICK)
@given(anything, st.sampled_from(OTHERS))
def test_other_bodies(begun, value, place):
    inspector, _, _ = begun
    method, path, field = place
    answer = post(inspector.http, path, {field: value}, method)
    assert answer.status_code in (400, 401, 413, 422, 429), answer.text


@settings(max_examples=examples(40), **QUICK)
@given(st.dictionaries(st.text(max_size=10), anything, max_size=3))
def test_documents_to_carry_over(begun, document):
    inspector, inspection, _ = begun
    whole = {"format": "dorrik-inspection", "version": 1, "inspection": {"id": "i", **document}}
    for given_ in (document, whole):
        answer = post(inspector.http, f"/api/inspections/{inspection}/carry-over", {"document": given_})
        assert answer.status_code == 422, answer.text


@pytest.mark.parametrize("part", ["id", "entity", "entity_id", "field", "device", "made_at", "based_on"])
@pytest.mark.parametrize("value", ["\ud800", "\x00", "王", None, 10**400, [], {"\udfff": "\ud800"}, "x" * 5000])
def test_a_change_that_is_wrong_in_any_part_is_refused_alone(begun, part, value):
    inspector, inspection, _ = begun
    bad = inspector.change("inspection", inspection, "client_name", "x") | {part: value}
    good = inspector.change("inspection", inspection, "extent", f"kept {new_id()}")
    answer = post(inspector.http, f"/api/inspections/{inspection}/changes", {"changes": [bad, good]})
    states = [r["state"] for r in answer.json()["results"]]
    assert states[1] == "kept"
    assert states[0] == "refused" or part in ("device", "made_at")


PATHS = ["%00", "a%00b", "x" * 900, "..%2f..%2fetc%2fpasswd", "assets/none.js", "a%0d%0ab", "日本", ".git/config%00"]


@pytest.mark.parametrize("path", PATHS)
def test_addresses_that_are_none(inspector, built_web, path):
    assert inspector.http.get(f"/{path}").status_code == 404


FILES = [
    "王小明.pdf",
    'a"b\\c.csv',
    "x" * 400 + ".pdf",
    "..",
    "a\r\nSet-Cookie: x.pdf",
    "",
    "👩🏽‍🔧.zip",
    "C:\\x/y.pdf",
]


@pytest.mark.parametrize("name", FILES)
def test_names_of_files_are_whole_where_they_can_be_and_safe_where_they_cannot(name):
    from urllib.parse import unquote

    from dorrik.api.files import disposition

    header = disposition(name)
    header.encode("latin-1")
    assert "\r" not in header and "\n" not in header
    plain, _, whole = header.removeprefix('attachment; filename="').partition("\"; filename*=UTF-8''")
    assert plain and plain.isascii() and not set(plain) & set('/\\"')
    assert unquote(whole) and not set(unquote(whole)) & set('/\\"')
    if name == "王小明.pdf":
        assert (plain, unquote(whole)) == ("file.pdf", name)


WORLD = "Siân 王小明 Ольга Ελένη محمد משה नेहा สมชาย ሰላም 김철수 👩🏽‍🔧 ☎"


def test_a_report_is_issued_in_every_script_and_says_what_it_has_no_letter_for(inspector, supervisor, ready):
    import io

    import pypdf

    inspection = ready()
    # U+0378 was given to no letter yet: a later Unicode may.
    names = [("client_name", WORLD), ("occupier_name", "\u0378 Reef"), ("condition", "fine " + WORLD)]
    changes = [inspector.change("inspection", inspection, field, value) for field, value in names]
    assert {r["state"] for r in inspector.send(inspection, *changes)["results"]} == {"kept"}
    shown = inspector.http.get(f"/api/inspections/{inspection}/preview").json()
    assert any("U+0378" in p["text"] and p["level"] == "look" for p in shown["points"])
    answer = issue(inspector, supervisor, inspection)
    assert answer.status_code == 201, answer.text
    pdf = inspector.http.get(f"/api/reports/{answer.json()['id']}.pdf")
    text = "".join(page.extract_text() for page in pypdf.PdfReader(io.BytesIO(pdf.content)).pages)
    for word in ("王小明", "Ольга", "김철수", "Siân"):
        assert word in text
    assert "U+0378" in text
