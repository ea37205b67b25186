"""The firm's logo: a picture or an SVG of which only shapes are kept; printed on report and letters."""

import io

import pytest
from PIL import Image
from pypdf import PdfReader

from dorrik.pictures import logo
from tests.api.reviewed import issue
from tests.pictures import picture

ANCHOR = (
    '<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 120 40" onload="steal()">'
    "<style>.sea{fill:#0b5c5c;background:url(https://evil.example/x)}</style><title>Breakwater</title>"
    '<script>steal()</script><g class="sea" onclick="steal()"><path d="M0 0L120 0L60 40Z"/></g>'
    '<a href="https://evil.example"><circle cx="9" cy="9" r="4"/></a>'
    '<rect x="1" y="1" width="9" height="9" style="fill:url(#there);stroke:red" fill="url(https://evil.example/y)"/>'
    '<foreignObject><body xmlns="http://www.w3.org/1999/xhtml">x</body></foreignObject>'
    '<use href="#a"/></svg>'
)


def put(who, content):
    return who.http.put("/api/firm/logo", content=content)


def test_of_a_drawing_only_shapes_and_colours_are_kept():
    kept = logo.cleaned(ANCHOR.encode())
    for gone in ("script", "steal", "onload", "onclick", "evil", "foreignObject", "<a", "use", "title", "style"):
        assert gone not in kept
    for stays in (
        'd="M0 0L120 0L60 40Z"',
        'fill="#0b5c5c"',
        'viewBox="0 0 120 40"',
        'stroke="red"',
        'fill="url(#there)"',
    ):
        assert stays in kept


@pytest.mark.parametrize(
    ("content", "told"),
    [
        (b'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><script>x</script></svg>', "no shape"),
        (b'<!DOCTYPE svg [<!ENTITY a "b">]><svg viewBox="0 0 9 9"><path d="M0 0"/></svg>', "entities"),
        (b'<svg viewBox="0 0 9 9"><text>Firm</text></svg>', "text in it"),
        (b'<svg viewBox="0 0 9 9"><image href="file:///etc/passwd"/></svg>', "picture in it"),
        (b'<svg viewBox="0 0 9 9"><path', "cannot be read"),
        (b'<svg><path d="M0 0"/></svg>', "how large"),
        (b'<svg viewBox="0 0 9 0"><path d="M0 0"/></svg>', "larger than nothing"),
        (b'<svg viewBox="0 0 9 9">' + b"<g/>" * 5000 + b"</svg>", "shapes"),
        (b'<svg viewBox="0 0 9 9">' + b"<g>" * 60 + b"</g>" * 60 + b"</svg>", "shapes"),
        ('<svg viewBox="0 0 9 9"><path d="M0 0"/></svg>'.encode("utf-16"), "JPEG"),
        (b"not a picture at all", "JPEG"),
    ],
)
def test_what_is_no_logo_is_refused_with_words_and_the_one_before_stays(supervisor, content, told):
    assert put(supervisor, picture(300, 100)).status_code == 204
    before = supervisor.http.get("/api/firm/logo").content
    answer = put(supervisor, content)
    assert answer.status_code == 422 and told in answer.json()["message"]
    assert answer.json()["fields"][0]["field"] == "logo"
    assert supervisor.http.get("/api/firm/logo").content == before


def test_a_picture_of_many_million_pixels_is_not_unfolded(supervisor):
    out = io.BytesIO()
    Image.new("1", (20_000, 20_000)).save(out, "PNG")
    assert len(out.getvalue()) < logo.LARGEST
    answer = put(supervisor, out.getvalue())
    assert answer.status_code == 422 and "unfolds" in answer.json()["message"]
    assert put(supervisor, b"\x89PNG" + bytes(logo.LARGEST)).status_code == 413


@pytest.mark.parametrize("content", [ANCHOR.encode(), picture(900, 300)], ids=["drawing", "picture"])
def test_it_is_printed_on_what_is_issued_from_now_on(inspector, supervisor, ready, content):
    before, after = ready(), ready()
    plain = issue(inspector, supervisor, before).json()
    assert put(supervisor, content).status_code == 204
    assert supervisor.http.get("/api/firm").json()["logo"] is True
    carried = issue(inspector, supervisor, after).json()
    pages = [PdfReader(io.BytesIO(supervisor.http.get(f"/api/reports/{one['id']}.pdf").content)).pages[0]
             for one in (plain, carried)]  # fmt: skip
    # Its length says nothing: the code that leads to the check is another on each report. What is drawn tells: the blue
    # of the anchor (#0b5c5c), or one more picture, described; the firm's name stays in words.
    drawn = [(page.get_contents().get_data(), len(page.images)) for page in pages]
    blue, described = b"0.043137256 0.36078432 0.36078432 scn", b"Alt(Logo of "
    assert [blue in stream or images > drawn[0][1] for stream, images in drawn] == [False, True]
    assert [described in stream for stream, _ in drawn] == [False, True]
    assert all(supervisor.me["firm_name"] in page.extract_text() for page in pages)
    # A letter carries it too.
    fields = {"earthing": "TN-S", "ze_ohm": "1.20"}
    third = inspector.begin()
    inspector.send(third, *(inspector.change("inspection", third, f, v) for f, v in fields.items()))
    assert inspector.http.get(f"/api/inspections/{third}/operator-letter.pdf").content[:5] == b"%PDF-"


def test_it_is_seen_by_its_firm_alone_and_taken_off_again(supervisor, inspector, stranger):
    put(supervisor, ANCHOR.encode())
    shown = inspector.http.get("/api/firm/logo")
    assert shown.headers["content-type"].startswith("image/svg+xml")
    assert "default-src 'none'" in shown.headers["content-security-policy"]
    assert stranger.http.get("/api/firm/logo").status_code == 404
    assert put(inspector, ANCHOR.encode()).status_code == 403
    assert supervisor.http.delete("/api/firm/logo").status_code == 204
    assert inspector.http.get("/api/firm/logo").status_code == 404
