"""A client's page: for whoever has its link, and nobody else; what it shows, and what its holder can say."""

import base64
import hashlib
import io
import random
import re
from datetime import timedelta

import pytest
from PIL import Image
from sqlalchemy import update
from starlette.testclient import TestClient

from dorrik.store.database.engine import new_id, now
from dorrik.store.database.follow_up_tables import client_link
from dorrik.store.reports import remedials
from tests.api.clearing import DONE, after, clear, confirm, issued, link, step, unsatisfactory
from tests.pictures import picture


class Holder:
    """Whoever has a link, on a telephone of their own."""

    def __init__(self, http: TestClient, token: str) -> None:
        self._http = http
        self._head = {"Authorization": f"Bearer {token}"}

    def get(self, path="", **more):
        return self._http.get(f"/api/shared{path}", headers=self._head, **more)

    def post(self, path, **more):
        return self._http.post(f"/api/shared{path}", headers=self._head, **more)


@pytest.fixture
def report(inspector, supervisor, ready):
    inspection, items = unsatisfactory(inspector, ready, "C2", "FI", "C3", occupier_name="Davy Marlow")
    issued(inspector, supervisor, inspection)
    return inspection, items


@pytest.fixture
def holder(inspector, report, place):
    return lambda role="client", **more: Holder(place(), link(inspector, report[0], role, **more))


def test_its_holder_sees_the_result_what_to_do_and_by_when(holder, report):
    inspection, (c2, fi, c3) = report
    una = holder()
    shown = una.get().json()
    assert (shown["one"], shown["role"], shown["may_report"], shown["name"]) == (True, "client", True, "Una Marlow")
    (home,) = shown["homes"]
    assert (home["id"], home["state"], home["cleared"], home["counting"]) == (inspection, "to put right", 0, 2)
    page = una.get(f"/homes/{inspection}").json()
    assert page["outcome"] == "unsatisfactory" and "may become dangerous" in page["sentence"]
    assert [(one["id"], one["counts"], one["said"]) for one in page["items"]] == [
        (c2, True, "open"), (fi, True, "open"), (c3, False, "open"),
    ]  # fmt: skip
    assert page["due"] == "2026-12-01" and len(page["meaning"]) == 4
    assert {"copy to the occupier", "work done"} <= {duty["short"] for duty in page["duties"]}
    pdf = una.get(f"/homes/{inspection}/report.pdf")
    assert pdf.content.startswith(b"%PDF") and pdf.headers["content-type"] == "application/pdf"
    assert una.get(f"/homes/{inspection}/price-request.pdf").content.startswith(b"%PDF")
    assert una.get(f"/homes/{inspection}/confirmation.pdf").status_code == 404
    # Who lives there is nobody's business here.
    assert "Marlow" not in str({key: value for key, value in page.items() if key != "copies"})


def test_that_it_was_opened_is_known(holder, inspector, report):
    una = holder()
    assert after(inspector, report[0])["links"][0]["opened"] == 0
    una.get()
    una.get()
    (known,) = after(inspector, report[0])["links"]
    assert known["opened"] == 2 and known["last_opened_at"]


@pytest.mark.parametrize("token", ["", "a" * 43, "short", "x" * 200, "täglich" * 6])
def test_a_token_that_is_none_opens_nothing(place, report, token):
    http = place()
    head = {"Authorization": f"Bearer {token}".encode()} if token else {}
    for path in ("", f"/homes/{report[0]}", f"/homes/{report[0]}/report.pdf"):
        assert http.get(f"/api/shared{path}", headers=head).status_code == 401


def test_guessing_is_slowed_and_whoever_has_a_link_is_not(holder, place, report, inspector):
    guesser = place()
    codes = [
        guesser.get("/api/shared", headers={"Authorization": f"Bearer {new_id()}x{n}"}).status_code for n in range(25)
    ]
    assert codes[0] == 401 and codes[-1] == 429
    same_place = Holder(guesser, link(inspector, report[0]))
    assert same_place.get().status_code == 200


def test_an_ended_link_and_one_whose_time_is_over_open_nothing(holder, inspector, stranger, report, engine):
    una = holder()
    assert una.get().status_code == 200
    (known,) = after(inspector, report[0])["links"]
    assert stranger.http.post(f"/api/links/{known['id']}/end").status_code == 404
    assert inspector.http.post(f"/api/links/{known['id']}/end").status_code == 204
    answer = una.get()
    assert answer.status_code == 401 and "Ask the sender" in answer.json()["message"]
    late = holder(days=1)
    assert late.get().status_code == 200
    with engine.begin() as connection:
        (newest, *_) = after(inspector, report[0])["links"]
        connection.execute(
            update(client_link).where(client_link.c.id == newest["id"]).values(expires_at=now() - timedelta(minutes=1))
        )
    assert late.get().status_code == 401
    assert late.get(f"/homes/{report[0]}/report.pdf").status_code == 401


def test_a_link_opens_its_own_home_alone(holder, inspector, supervisor, ready, report):
    other, _ = unsatisfactory(inspector, ready, "C2")
    issued(inspector, supervisor, other)
    una = holder()
    for path in ("", "/report.pdf", "/price-request.pdf", f"/files/{new_id()}", f"/photos/{'0' * 64}"):
        assert una.get(f"/homes/{other}{path}").status_code == 404
    body = DONE | {"items": [report[1][0]]}
    assert una.post(f"/homes/{other}/done", json=body).status_code == 404
    # A link is no session, and a session no link.
    assert una._http.get(f"/api/inspections/{report[0]}", headers=una._head).status_code == 401
    assert inspector.http.get("/api/shared").status_code == 401


@pytest.mark.parametrize("role", ["occupier", "authority", "other"])
def test_whoever_only_gets_a_copy_reads_and_says_nothing(holder, report, role):
    inspection, (c2, *_) = report
    reader = holder(role)
    page = reader.get(f"/homes/{inspection}").json()
    assert (page["may_report"], page["duties"], page["copies"]) == (False, [], [])
    assert reader.post(f"/homes/{inspection}/done", json=DONE | {"items": [c2]}).status_code == 403
    file = reader.post(f"/homes/{inspection}/files", params={"kind": "photo", "name": "a"}, content=picture())
    assert file.status_code == 403
    copy = {"role": "occupier", "name": "x", "how": "by hand", "on": "2026-11-12"}
    assert reader.post(f"/homes/{inspection}/copies", json=copy).status_code == 403


def test_what_was_done_is_said_with_a_certificate_and_looked_at_by_the_firm(holder, inspector, report, certificate):
    inspection, (c2, fi, _) = report
    una = holder()
    file = una.post(
        f"/homes/{inspection}/files", params={"kind": "certificate", "name": "KE-77.pdf"}, content=certificate
    )
    assert file.status_code == 201, file.text
    body = {"items": [c2], "by": "Kelder Electric", "on": "2026-11-20", "files": [file.json()["id"]]}
    page = una.post(f"/homes/{inspection}/done", json=body).json()
    assert [(one["state"], one["said"]) for one in page["items"] if one["id"] == c2] == [
        ("done", "reported, to be checked")
    ]
    # Sent again after a broken connection it is the same.
    assert una.post(f"/homes/{inspection}/done", json=body).status_code == 200
    found = next(one for one in after(inspector, inspection)["items"] if one["id"] == c2)
    (told,) = found["steps"]
    assert (told["by"], told["role"], told["of_firm"]) == ("Una Marlow", "client", False)
    kept = inspector.http.get(f"/api/inspections/{inspection}/after/files/{told['files'][0]['id']}")
    assert kept.content == certificate and "attachment" in kept.headers["content-disposition"]
    # It clears nothing by itself.
    assert una.get().json()["homes"][0]["cleared"] == 0
    assert inspector.http.get("/api/to-put-right").json()["reports"][0]["reported"] == 1
    step(inspector, inspection, c2, "accepted")
    step(inspector, inspection, fi, "found", code="none", words="A lamp was left in", on="2026-11-20")
    step(inspector, inspection, fi, "accepted", seen=9)
    assert una.get().json()["homes"][0]["state"] == "to be confirmed"
    assert confirm(inspector, inspection).status_code == 201
    assert una.get().json()["homes"][0]["state"] == "put right"
    assert una.get(f"/homes/{inspection}/confirmation.pdf").content.startswith(b"%PDF")


@pytest.fixture
def certificate(inspector, report):
    """Some PDF."""
    return inspector.http.get(f"/api/inspections/{report[0]}/after/price-request.pdf").content


@pytest.mark.parametrize(
    ("change", "field"),
    [({"by": ""}, "by"), ({"on": "2999-01-01"}, "on"), ({"files": ["nothing"]}, "files"), ({"items": []}, "items")],
)
def test_what_is_missing_is_told_at_its_field(holder, report, change, field):
    inspection, (c2, *_) = report
    answer = holder().post(f"/homes/{inspection}/done", json=DONE | {"items": [c2]} | change)
    assert answer.status_code == 422
    assert field in [field["field"].split(".")[-1] for field in answer.json()["fields"]]


def test_a_certificate_that_is_no_pdf_is_refused_and_a_large_body_of_a_stranger_is_not_read(holder, place, report):
    inspection, _ = report
    una = holder()
    path = f"/homes/{inspection}/files"
    answer = una.post(path, params={"kind": "certificate", "name": "x.pdf"}, content=b"MZ" * 40_000)
    assert answer.status_code == 422 and answer.json()["fields"][0]["field"] == "file"
    stranger = Holder(place(), "a" * 43)
    assert stranger.post(path, params={"kind": "photo", "name": "x"}, content=b"x" * 40_000).status_code == 401
    too_large = una.post(path, params={"kind": "photo", "name": "x"}, content=b"x" * 10_000_001)
    assert too_large.status_code == 413


def test_a_link_in_wrong_hands_fills_nothing_up(holder, report, monkeypatch):
    inspection, (c2, *_) = report
    monkeypatch.setattr(remedials, "MOST_WAITING", 2)
    monkeypatch.setattr(remedials, "MOST_OF_A_LINK", 2)
    una = holder()
    path, params = f"/homes/{inspection}/files", {"kind": "photo", "name": "a"}
    codes = [una.post(path, params=params, content=picture(colour=(n * 100, 90, 10))).status_code for n in range(3)]
    assert codes == [201, 201, 409]
    said = [DONE | {"items": [c2], "words": f"Said {n}"} for n in range(3)]
    codes = [una.post(f"/homes/{inspection}/done", json=one).status_code for one in said]
    assert codes == [200, 200, 409]


def test_somebody_elses_file_is_not_taken_for_ones_own(holder, inspector, report):
    inspection, (c2, *_) = report
    path = f"/api/inspections/{inspection}/after/files"
    file = inspector.http.post(path, params={"kind": "photo", "name": "a"}, content=picture()).json()["id"]
    answer = holder().post(f"/homes/{inspection}/done", json=DONE | {"items": [c2], "files": [file]})
    assert answer.status_code == 422
    # Nor is it handed out before it belongs to something that was said.
    assert holder().get(f"/homes/{inspection}/files/{file}").status_code == 404


def test_a_copy_that_the_landlord_gave_ticks_the_duty(holder, inspector, report):
    inspection, _ = report
    una = holder("landlord")
    copy = {"role": "occupier", "name": "the tenant", "how": "by hand", "on": "2026-11-12"}
    for _ in range(2):
        page = una.post(f"/homes/{inspection}/copies", json=copy).json()
    assert len(page["copies"]) == 1
    assert next(duty for duty in page["duties"] if duty["short"] == "copy to the occupier")["done_on"] == "2026-11-12"
    (noted,) = after(inspector, inspection)["copies"]
    assert (noted["by"], noted["of_firm"], noted["how"]) == ("Una Marlow", False, "by hand")


# Photos


def test_photos_of_items_are_shown_and_what_nobody_is_to_read_is_unreadable_in_them(
    inspector, supervisor, ready, place, photo_of
):
    inspection, (c2,) = unsatisfactory(inspector, ready, "C2")
    sha256 = photo_of(inspection, c2, marks=[{"kind": "blur", "x": 0.0, "y": 0.0, "x2": 1.0, "y2": 1.0}])
    hidden = photo_of(inspection, inspection, other=True)
    issued(inspector, supervisor, inspection)
    una = Holder(place(), link(inspector, inspection))
    page = una.get(f"/homes/{inspection}").json()
    assert page["items"][0]["photos"] == [sha256]
    shown = una.get(f"/homes/{inspection}/photos/{sha256}")
    assert shown.status_code == 200 and shown.headers["content-type"].startswith("image/svg+xml")
    assert colours(shown.text) <= 40
    # A photo that the list does not show is not shown.
    assert una.get(f"/homes/{inspection}/photos/{hidden}").status_code == 404


def colours(drawing):
    """How many colours the picture in a drawing has, about: of noise hundreds, of blocks a few."""
    jpeg = base64.b64decode(re.search(r"data:image/jpeg;base64,([^\"]+)", drawing)[1])
    image = Image.open(io.BytesIO(jpeg)).convert("RGB").resize((90, 90), Image.Resampling.NEAREST)
    raw = image.tobytes()
    return len({tuple(level // 24 for level in raw[at : at + 3]) for at in range(0, len(raw), 3)})


def noise():
    """A picture in which every point has a colour of its own."""
    out = io.BytesIO()
    Image.frombytes("RGB", (320, 240), random.Random(1).randbytes(320 * 240 * 3)).save(out, "PNG")
    return out.getvalue()


@pytest.fixture
def photo_of(inspector):
    def make(inspection, about, marks=None, other=False):
        content = picture() if other else noise()
        sha256 = hashlib.sha256(content).hexdigest()
        assert inspector.http.put(f"/api/inspections/{inspection}/photos/{sha256}", content=content).status_code == 204
        fields = {"sha256": sha256} | ({"marks": marks} if marks else {})
        kind = "inspection" if about == inspection else "observation"
        inspector.add(inspection, "photo", "inspection", inspection, about_entity=kind, about_id=about, **fields)
        return sha256

    return make


# All homes of a client


def test_a_landlord_sees_all_homes_at_once(inspector, supervisor, stranger, ready, place):
    def entry(kind, parent, **values):
        answer = inspector.http.post(f"/api/register/{kind}", json={"parent_id": parent, "values": values})
        return answer.json()["id"]

    client = entry("client", inspector.me["firm_id"], name="Harbour Trust")
    homes = [entry("property", client, address=f"{n} Lookout Row") for n in (1, 2, 3)]
    elsewhere = entry("property", entry("client", inspector.me["firm_id"], name="Vane"), address="9 The Ropewalk")
    bad, (c2,) = unsatisfactory(inspector, ready, "C2", property_id=homes[0])
    good, _ = unsatisfactory(inspector, ready, property_id=homes[1], declared_outcome="satisfactory")
    other, _ = unsatisfactory(inspector, ready, "C2", property_id=elsewhere)
    for one in (bad, good, other):
        issued(inspector, supervisor, one)
    body = {"role": "agent", "name": "Kelder Lettings"}
    assert stranger.http.post(f"/api/clients/{client}/links", json=body).status_code == 404
    made = inspector.http.post(f"/api/clients/{client}/links", json=body).json()
    agent = Holder(place(), made["address"].partition("#")[2])
    shown = agent.get().json()
    assert not shown["one"]
    assert [(home["id"], home["state"]) for home in shown["homes"]] == [
        (bad, "to put right"), (good, "satisfactory"), (None, "no report"),
    ]  # fmt: skip
    assert agent.get(f"/homes/{good}").json()["outcome"] == "satisfactory"
    assert agent.get(f"/homes/{other}").status_code == 404
    clear(inspector, bad, c2)
    assert agent.get().json()["homes"][0]["state"] == "to be confirmed"
    (listed,) = inspector.http.get(f"/api/clients/{client}/links").json()
    assert (listed["name"], listed["opened"]) == ("Kelder Lettings", 2)
