"""What goes with every answer, how the front end's files are served, and what a watcher is told."""

import gzip
import os
import subprocess
import sys

import brotli
import pytest
from starlette.testclient import TestClient

from dorrik.api import health
from dorrik.api.app import create_app


@pytest.fixture
def https(app):
    return TestClient(app, base_url="https://dorrik.example")


def test_over_tls_browsers_are_told_to_stay_there(app, https):
    assert https.get("/api/health").headers["strict-transport-security"].startswith("max-age=")
    assert "strict-transport-security" not in TestClient(app).get("/api/health").headers


def test_over_tls_the_cookie_stays_there_too(https, firm):
    from tests.conftest import PASSWORD

    answer = https.post("/api/session", json={"email": firm.inspector_email, "password": PASSWORD})
    assert "Secure" in answer.headers["set-cookie"]


def test_signing_out_takes_what_the_browser_kept_with_it(inspector):
    assert inspector.http.delete("/api/session").headers["clear-site-data"] == '"cache"'


@pytest.mark.parametrize("path", ["/api/home", "/api/health", "/", "/people", "/icon.svg"])
def test_a_head_is_what_a_get_would_be_without_its_body(inspector, built_web, path):
    head, get = inspector.http.head(path), inspector.http.get(path)
    assert (head.status_code, head.content) == (200, b"")
    for name in ("content-type", "cache-control", "content-security-policy"):
        assert head.headers[name] == get.headers[name]


def test_the_contract_is_for_those_who_are_signed_in(app, inspector):
    assert TestClient(app).get("/api/openapi.json").status_code == 401
    assert "/api/home" in inspector.http.get("/api/openapi.json").json()["paths"]


def test_a_page_of_nobody_is_no_error(app):
    answer = TestClient(app).get("/api/session")
    assert (answer.status_code, answer.json()) == (200, None)


@pytest.fixture
def script(built_web):
    """The largest script of the front end."""
    return max((built_web / "assets").glob("*.js"), key=lambda path: path.stat().st_size)


@pytest.mark.parametrize(("encoding", "unpack"), [("br", brotli.decompress), ("gzip", gzip.decompress)])
def test_scripts_go_over_the_wire_packed_and_stay_for_a_year(app, script, encoding, unpack):
    with TestClient(app).stream("GET", f"/assets/{script.name}", headers={"Accept-Encoding": encoding}) as answer:
        raw = b"".join(answer.iter_raw())
    assert answer.headers["content-encoding"] == encoding
    assert answer.headers["cache-control"] == "public, max-age=31536000, immutable"
    assert "Accept-Encoding" in answer.headers["vary"]
    assert len(raw) < script.stat().st_size / 3
    assert unpack(raw) == script.read_bytes()


def test_a_browser_that_packs_nothing_gets_the_file_as_it_is(app, script):
    answer = TestClient(app).get(f"/assets/{script.name}", headers={"Accept-Encoding": "identity"})
    assert "content-encoding" not in answer.headers and answer.content == script.read_bytes()


def test_the_page_is_asked_for_again_each_time_and_not_sent_again(app, built_web):
    http = TestClient(app)
    first = http.get("/inspection/x/brief")
    assert first.headers["cache-control"] == "no-cache"
    again = http.get("/", headers={"If-None-Match": first.headers["etag"]})
    assert (again.status_code, again.content) == (304, b"")


def test_the_page_says_what_it_is(app, built_web):
    http = TestClient(app)
    page = http.get("/").text
    assert 'name="description"' in page and 'rel="manifest"' in page
    manifest = http.get("/dorrik.webmanifest").json()
    for icon in manifest["icons"]:
        assert http.get(icon["src"]).headers["content-type"] == icon["type"]


def test_what_is_not_there_is_no_page(app, built_web):
    for path in ("/assets/../index.html", "/assets/none.css", "/.dorrik-stamp"):
        assert TestClient(app).get(path).status_code in (404, 200)
    assert TestClient(app).get("/assets/none.css").status_code == 404


def test_a_watcher_is_told_whether_it_lives_and_whether_it_can_work(app, monkeypatch):
    http = TestClient(app)
    assert (http.get("/api/health").json(), http.get("/api/ready").status_code) == ({"state": "ok"}, 200)
    monkeypatch.setattr(health, "LITTLE_ROOM", 10**18)
    assert http.get("/api/health").json() == {"state": "disk nearly full"}
    assert (http.get("/api/health").status_code, http.get("/api/ready").status_code) == (200, 503)


def test_a_disk_that_is_nearly_full_is_told_on_the_home_screen(inspector, monkeypatch):
    assert inspector.http.get("/api/home").json()["trouble"] is None
    monkeypatch.setattr(health, "LITTLE_ROOM", 10**18)
    assert "nearly full" in inspector.http.get("/api/home").json()["trouble"]


def test_without_its_database_it_lives_and_is_not_ready():
    from dorrik.store.database.engine import make_engine

    http = TestClient(create_app(make_engine("mysql+pymysql://none:x@127.0.0.1:9/none")))
    assert http.get("/api/health").json() == {"state": "no database"}
    assert http.get("/api/ready").status_code == 503


def test_counts_are_for_the_machine_itself_or_for_who_has_the_token(app, monkeypatch):
    local, far = (TestClient(app, client=(host, 1)) for host in ("127.0.0.1", "192.0.2.1"))
    told = local.get("/api/metrics").text
    assert 'dorrik_requests_total{method="GET",route="/api/' in told
    assert far.get("/api/metrics").status_code == 404
    monkeypatch.setenv("DORRIK_METRICS_TOKEN", "a token")
    assert local.get("/api/metrics").status_code == 404
    assert far.get("/api/metrics", headers={"Authorization": "Bearer a token"}).status_code == 200


def test_counts_and_log_name_routes_and_nobody(engine, inspector, monkeypatch, caplog):
    monkeypatch.setenv("DORRIK_ACCESS_LOG", "1")
    inspection = inspector.begin()
    http = TestClient(create_app(engine), cookies=dict(inspector.http.cookies))
    with caplog.at_level("INFO", logger="dorrik.access"):
        http.get(f"/api/inspections/{inspection}?secret=Tregear")
    (line,) = [record.getMessage() for record in caplog.records if record.name == "dorrik.access"]
    assert '"route": "/api/inspections/{inspection_id}"' in line and '"status": 200' in line
    assert inspection not in line and "Tregear" not in line


def test_a_photo_for_which_there_is_no_room_leaves_no_half_behind(tmp_path):
    """A process that may write 8 kB a file stands in for a disk that is full."""
    program = (
        "import hashlib, resource, signal\n"
        "from dorrik.store.files.photos import PhotoStore\n"
        "signal.signal(signal.SIGXFSZ, signal.SIG_IGN)\n"
        "resource.setrlimit(resource.RLIMIT_FSIZE, (8000, 8000))\n"
        "photo = b'\\xff\\xd8\\xff' + b'x' * 50000\n"
        f"store = PhotoStore({str(tmp_path)!r})\n"
        "try:\n    store.keep('firm', hashlib.sha256(photo).hexdigest(), photo)\n"
        "except OSError as error:\n    print(type(error).__name__, error.errno)\n"
    )
    done = subprocess.run([sys.executable, "-c", program], capture_output=True, text=True, check=True, env=os.environ)
    assert done.stdout.startswith("OSError")
    assert [path for path in tmp_path.rglob("*") if path.is_file()] == []
