"""Photos: kept whole under their digest or refused with words, for their own firm only."""

import hashlib

import pytest

from dorrik.store.database.engine import new_id
from tests.pictures import picture

JPEG = picture()


@pytest.fixture
def put(inspector):
    inspection = inspector.begin()

    def send(content, sha256=None, where=inspection, who=inspector):
        sha256 = sha256 or hashlib.sha256(content).hexdigest()
        return who.http.put(f"/api/inspections/{where}/photos/{sha256}", content=content)

    send.inspection = inspection
    return send


def test_a_photo_is_kept_once_and_handed_out_as_it_was(put, inspector, stranger):
    for _ in range(2):
        assert put(JPEG).status_code == 204
    path = f"/api/inspections/{put.inspection}/photos/{hashlib.sha256(JPEG).hexdigest()}"
    answer = inspector.http.get(path)
    assert (answer.content, answer.headers["content-type"]) == (JPEG, "image/jpeg")
    # The browser may keep it, and asks each time: after signing out there is nothing to be seen.
    assert answer.headers["cache-control"] == "private, no-cache"
    again = inspector.http.get(path, headers={"If-None-Match": answer.headers["etag"]})
    assert (again.status_code, again.content) == (304, b"")
    inspector.http.delete("/api/session")
    assert inspector.http.get(path, headers={"If-None-Match": answer.headers["etag"]}).status_code == 401
    assert stranger.http.get(path).status_code == 404
    own = path.replace(put.inspection, stranger.begin())
    assert stranger.http.get(own).status_code == 404


def test_a_photo_belongs_to_an_inspection_of_the_firm(put, stranger):
    assert put(JPEG, who=stranger).status_code == 404
    assert put(JPEG, where=new_id()).status_code == 404


@pytest.mark.parametrize(
    ("content", "said"),
    [
        (b"", "is empty"),
        (b"\0\0\0\x18ftypheic\0\0\0\0mif1", "no photo that can be shown"),
        (b"\xff\xd8\xff\xe0" + b"begins like one" * 50, "no photo that can be shown"),
        (JPEG[: len(JPEG) // 2], "damaged"),
        (b"%PDF-1.7", "no photo that can be shown"),
        (b"<svg onload='alert(1)'/>", "no photo that can be shown"),
    ],
)
def test_what_is_no_photo_is_told(put, content, said):
    answer = put(content)
    assert answer.status_code == 422
    assert said in answer.json()["fields"][0]["message"]


def test_half_a_photo_is_not_kept(put, inspector):
    whole = hashlib.sha256(JPEG).hexdigest()
    assert "did not arrive whole" in put(JPEG[:-9], whole).json()["message"]
    assert inspector.http.get(f"/api/inspections/{put.inspection}/photos/{whole}").status_code == 404


def test_thirty_megabytes_are_refused_with_the_limit(put):
    answer = put(JPEG + bytes(30_000_000))
    assert answer.status_code == 413
    assert "MB" in answer.json()["message"]
    answer = put(JPEG + bytes(13_000_000))
    assert answer.status_code == 413
    assert "at most 12 MB" in answer.json()["message"]


def test_a_name_that_is_no_digest_is_refused(put, inspector):
    assert inspector.http.put(f"/api/inspections/{put.inspection}/photos/..%2f..%2fx", content=JPEG).status_code in (
        404,
        405,
    )
    assert put(JPEG, "a" * 63).status_code == 422
