"""Certificates of repairs over the wire: not before the retest, once, frozen, with their data inside."""

import json
from io import BytesIO

import pytest
from pypdf import PdfReader

from dorrik.store.database.engine import new_id

DEVICE = {"device_standard": "BS EN 60898", "device_type": "B", "device_rating_a": 32}


@pytest.fixture
def worked_on(inspector):
    """A cooker circuit whose joint was remade and that is not tested again yet: inspection, circuit and repair."""
    inspection = inspector.begin()
    reference = f"C-{new_id()[-8:]}"
    inspector.send(
        inspection,
        inspector.change("inspection", inspection, "earthing", "TN-C-S"),
        inspector.change("inspection", inspection, "reference", reference),
    )
    board = inspector.add(inspection, "board", "inspection", inspection, name="House")
    circuit = inspector.add(
        inspection, "circuit", "board", board, way="1", designation="Cooker", serves="fixed", form="radial", **DEVICE
    )
    seen = inspector.add(
        inspection, "observation", "inspection", inspection,
        about_entity="circuit", about_id=circuit, text="Terminal loose", code="C2",
    )  # fmt: skip
    repair = inspector.add(
        inspection, "repair", "inspection", inspection, observation_id=seen, about_entity="circuit",
        about_id=circuit, work="joint", done="Terminal remade", begun_at="2026-11-03T11:02:00Z",
    )  # fmt: skip
    about = {"about_entity": "circuit", "about_id": circuit}
    inspector.add(inspection, "as_found", "repair", repair, field="zs_ohm", value="1.9", **about)
    return inspection, circuit, repair


READINGS = {"r1_r2_ohm": "0.12", "insulation_lne_mohm": ">500", "polarity": "correct", "zs_ohm": "0.35"}


def read(who, inspection, circuit, **readings):
    who.send(inspection, *(who.change("circuit", circuit, field, value) for field, value in readings.items()))


def path(inspection, repair):
    return f"/api/inspections/{inspection}/repairs/{repair}/certificate"


def test_it_is_issued_after_its_retests_once_and_stays_as_it_was(inspector, worked_on):
    inspection, circuit, repair = worked_on
    early = inspector.http.post(path(inspection, repair))
    assert early.status_code == 422 and "Zs again" in early.json()["message"]
    read(inspector, inspection, circuit, **READINGS | {"zs_ohm": "9.1"})
    failed = inspector.http.post(path(inspection, repair))
    assert failed.status_code == 422 and "Zs 9.1: does not hold" in failed.json()["message"]
    read(inspector, inspection, circuit, zs_ohm="0.35")
    made = inspector.http.post(path(inspection, repair))
    assert (made.status_code, made.json()["number"]) == (201, 1)
    # Asked for again, and after something changed, it is the same.
    read(inspector, inspection, circuit, zs_ohm="0.41")
    assert inspector.http.post(path(inspection, repair)).json()["sha256"] == made.json()["sha256"]
    whole = inspector.http.get(f"/api/inspections/{inspection}").json()
    (told,) = whole["judgement"]["repairs"]
    reference = next(e for e in whole["entities"] if e["id"] == inspection)["values"]["reference"]
    assert told["certificate"] == f"{reference}-M1"
    pdf = PdfReader(BytesIO(inspector.http.get(f"/api/reports/{made.json()['id']}.pdf").content))
    text = " ".join("".join(page.extract_text() for page in pdf.pages).split())
    for said in ("Terminal loose (C2)", "Terminal remade", "1.9 Ω", "0.35 Ω", "1 Cooker"):
        assert said in text, said
    assert "Draft" not in text
    inside = json.loads(pdf.attachments["certificate.json"][0])
    assert inside["format"] == "dorrik-minor-works"
    assert {"label": "Zs", "found": "1.9 Ω", "left": "0.35 Ω"}.items() <= inside["certificate"]["tests"][-1].items()
    # The report has numbers of its own.
    assert inspector.http.get(f"/api/inspections/{inspection}/reports").json() == []
    assert [one["id"] for one in inspector.http.get(f"/api/inspections/{inspection}/certificates").json()] == [
        made.json()["id"]
    ]


def test_nobody_gives_a_repair_its_number_by_hand_and_the_office_signs_none(inspector, office, worked_on):
    inspection, circuit, repair = worked_on
    read(inspector, inspection, circuit, **READINGS)
    answer = inspector.send(inspection, inspector.change("repair", repair, "certificate", "K-0001-M1"))
    assert answer["results"][0]["state"] == "refused" and "as it is issued" in answer["results"][0]["reason"]
    assert office.http.post(path(inspection, repair)).status_code == 403


def test_a_certificate_is_of_ones_own_firm(inspector, stranger, worked_on):
    inspection, _, repair = worked_on
    assert stranger.http.post(path(inspection, repair)).status_code == 404
    assert stranger.http.get(f"{path(inspection, repair)}.pdf").status_code == 404
    assert stranger.http.get(f"/api/inspections/{inspection}/certificates").status_code == 404
    assert inspector.http.get(f"{path(inspection, new_id())}.pdf").status_code == 404
