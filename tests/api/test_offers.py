"""Offers over the wire: made of the firm's rates, frozen, accepted once, and told where something has changed since."""

from io import BytesIO

import pytest
from pypdf import PdfReader

from dorrik.store.database.engine import new_id


@pytest.fixture
def found(inspector):
    """A home with an RCD that is too slow (C2) and sockets without one (C3): inspection, RCD, circuit."""
    inspection = inspector.begin()
    for field, value in (
        ("reference", f"Q-{new_id()[-8:]}"),
        ("client_name", "Harbour Trust"),
        ("client_address", "2 Quay Street, Kelder Haven"),
        ("property_address", "9 Rope Walk, Kelder Haven"),
        ("inspected_on", "2026-11-10"),
    ):
        inspector.send(inspection, inspector.change("inspection", inspection, field, value))
    board, circuit = inspector.board(inspection)
    rcd = inspector.add(inspection, "rcd", "board", board, name="RCD 1", place="whole board")
    for key, code, about in (
        ("rcd-slow", "C2", {"about_entity": "rcd", "about_id": rcd}),
        ("rcd-missing-sockets", "C3", {"about_entity": "circuit", "about_id": circuit}),
    ):
        words = {"text": key, "catalogue_key": key, "code": code}
        inspector.add(inspection, "observation", "inspection", inspection, **words, **about)
    return inspection, rcd, circuit


def choose(who, inspection, remedy, entity, entity_id, alternative=1, **more):
    return who.add(
        inspection, "offer_line", "inspection", inspection,
        alternative=alternative, remedy=remedy, about_entity=entity, about_id=entity_id, **more,
    )  # fmt: skip


def price(who, inspection):
    answer = who.http.get(f"/api/inspections/{inspection}/price")
    assert answer.status_code == 200, answer.text
    return answer.json()


def make(who, inspection, **more):
    return who.http.post(f"/api/inspections/{inspection}/offers", json=more)


def accept(who, inspection, offer, alternative=1, **more):
    path = f"/api/inspections/{inspection}/offers/{offer}/accept"
    return who.http.post(path, json={"alternative": alternative} | more)


def settle(supervisor, **rates):
    answer = supervisor.http.put("/api/firm/repair-rates", json={"rates": rates, "terms": "Without value added tax."})
    assert answer.status_code == 200, answer.text


def test_two_prices_one_accepted_a_job(inspector, supervisor, found):
    """The issue's own: alternatives beside each other, one accepted, a job with its scope."""
    inspection, rcd, circuit = found
    settle(supervisor, rcd={"price": 118, "minutes": 40})
    choose(inspector, inspection, "rcd", "rcd", rcd)
    choose(inspector, inspection, "rcd", "rcd", rcd, alternative=2)
    choose(inspector, inspection, "rcbo", "circuit", circuit, alternative=2, price=70)
    told = price(inspector, inspection)
    one, two = told["alternatives"]
    assert (one["price"], one["minutes"], two["price"]) == (118, 40, 188)
    assert one["says"].startswith("Stays: 1 C3.") and not two["stays"]
    made = make(inspector, inspection)
    assert made.status_code == 201, made.text
    offer = made.json()
    assert offer["number"].endswith("-Q1") and offer["job"] is None and not offer["moved"]
    pdf = PdfReader(BytesIO(inspector.http.get(f"/api/reports/{offer['id']}.pdf").content))
    text = " ".join("".join(page.extract_text() for page in pdf.pages).split())
    for said in ("Harbour Trust", "Alternative 2", "£118.00", "£188.00", "RCD renewed", "Without value added tax."):
        assert said in text, said
    job = accept(inspector, inspection, offer["id"], 2)
    assert job.status_code == 200, job.text
    whole = inspector.http.get(f"/api/jobs/{job.json()['id']}").json()
    values = whole["job"]["values"]
    assert (values["work"], values["state"], values["inspection_id"]) == ("repairs", "confirmed", inspection)
    assert "RCD renewed" in values["extent"] and "rcd-slow" in values["extent"]
    assert (whole["estimate"]["price"], whole["estimate"]["minutes"]) == (188, 70)
    assert whole["property"]["values"]["address"] == "9 Rope Walk, Kelder Haven"
    # Repairs are not another inspection.
    assert whole["beginnings"] == []


def test_accepted_twice_it_is_one_job_and_another_alternative_is_told(inspector, found):
    inspection, rcd, circuit = found
    choose(inspector, inspection, "rcd", "rcd", rcd)
    choose(inspector, inspection, "rcbo", "circuit", circuit, alternative=2)
    offer = make(inspector, inspection).json()["id"]
    first, again = accept(inspector, inspection, offer), accept(inspector, inspection, offer)
    assert first.json() == again.json() and first.status_code == again.status_code == 200
    other = accept(inspector, inspection, offer, 2)
    assert other.status_code == 409
    assert f"Alternative 1 was accepted already: job {first.json()['number']}" in other.json()["message"]
    assert accept(inspector, inspection, offer, 3).status_code == 404


def test_a_rate_that_changed_since_is_told_and_the_offer_can_still_hold(inspector, supervisor, found):
    inspection, rcd, _ = found
    settle(supervisor, rcd={"price": 118})
    choose(inspector, inspection, "rcd", "rcd", rcd)
    offer = make(inspector, inspection).json()["id"]
    settle(supervisor, rcd={"price": 125})
    (told,) = price(inspector, inspection)["offers"]
    assert told["moved"] == ["RCD renewed costs £125.00 by today's rates, £118.00 when offered."]
    refused = accept(inspector, inspection, offer)
    assert refused.status_code == 409 and "£125.00" in refused.json()["message"]
    job = accept(inspector, inspection, offer, as_offered=True).json()
    assert inspector.http.get(f"/api/jobs/{job['id']}").json()["estimate"]["price"] == 118


def test_what_was_found_or_put_right_since_is_told(inspector, found):
    inspection, rcd, circuit = found
    choose(inspector, inspection, "rcd", "rcd", rcd)
    make(inspector, inspection)
    more = {"text": "Cracked socket", "catalogue_key": "accessory-heat", "code": "C2"}
    inspector.add(inspection, "observation", "inspection", inspection, about_entity="circuit", about_id=circuit, **more)
    whole = inspector.http.get(f"/api/inspections/{inspection}").json()
    slow = next(e["id"] for e in whole["entities"] if e["values"].get("catalogue_key") == "rcd-slow")
    done = {"mended": True, "as_left": "new RCD", "retest": "28 ms"}
    inspector.send(inspection, *(inspector.change("observation", slow, f, v) for f, v in done.items()))
    (told,) = price(inspector, inspection)["offers"]
    assert told["moved"] == ["No longer to be put right: rcd-slow.", "Found since, and not in it: Cracked socket."]


def test_an_offer_stays_as_it_was_and_a_later_one_is_another(inspector, found):
    inspection, rcd, _ = found
    line = choose(inspector, inspection, "rcd", "rcd", rcd, price=99)
    offer = make(inspector, inspection).json()
    before = inspector.http.get(f"/api/reports/{offer['id']}.pdf").content
    inspector.send(inspection, inspector.change("offer_line", line, "price", 140))
    later = make(inspector, inspection).json()
    assert later["number"].endswith("-Q2")
    assert inspector.http.get(f"/api/reports/{offer['id']}.pdf").content == before
    first, _ = price(inspector, inspection)["offers"]
    assert first["alternatives"][0]["price"] == 99
    assert "A later offer was made since." in first["moved"]


def test_asked_for_again_with_nothing_changed_it_is_the_same_offer(inspector, found):
    inspection, rcd, _ = found
    line = choose(inspector, inspection, "rcd", "rcd", rcd)
    first, again = make(inspector, inspection).json(), make(inspector, inspection).json()
    assert first["id"] == again["id"]
    assert make(inspector, inspection, valid_days=60).json()["number"].endswith("-Q2")
    inspector.send(inspection, inspector.change("offer_line", line, "price", 101))
    assert make(inspector, inspection).json()["number"].endswith("-Q3")


def test_nothing_is_offered_without_a_price(inspector, found):
    inspection, _, _ = found
    assert make(inspector, inspection).status_code == 422
    line = choose(inspector, inspection, "own", "inspection", inspection, words="Make good the plaster")
    refused = make(inspector, inspection)
    assert refused.status_code == 422 and "Make good the plaster: has no price" in refused.json()["message"]
    inspector.send(inspection, inspector.change("offer_line", line, "price", 45))
    assert make(inspector, inspection).status_code == 201


def test_a_price_that_is_none_is_refused_at_its_field(inspector, found):
    inspection, rcd, _ = found
    line = choose(inspector, inspection, "rcd", "rcd", rcd)
    answer = inspector.send(inspection, inspector.change("offer_line", line, "price", -4))
    assert answer["results"][0]["state"] == "refused"


@pytest.mark.parametrize(
    ("rates", "field"),
    [
        ({"rcd": {"price": -1}}, "rcd.price"),
        ({"rcd": {"minutes": 1.5}}, "rcd.minutes"),
        ({"magic": {"price": 1}}, "magic"),
    ],
)
def test_a_rate_that_cannot_be_is_refused_by_name(supervisor, rates, field):
    answer = supervisor.http.put("/api/firm/repair-rates", json={"rates": rates})
    assert (answer.status_code, answer.json()["fields"][0]["field"]) == (422, field)


def test_an_inspector_reads_the_rates_and_does_not_settle_them(inspector):
    assert inspector.http.get("/api/firm/repair-rates").json()["may_settle"] is False
    assert inspector.http.put("/api/firm/repair-rates", json={"rates": {}}).status_code == 403


def test_another_firm_sees_and_accepts_nothing(inspector, stranger, found):
    inspection, rcd, _ = found
    choose(inspector, inspection, "rcd", "rcd", rcd)
    offer = make(inspector, inspection).json()["id"]
    assert stranger.http.get(f"/api/inspections/{inspection}/price").status_code == 404
    assert make(stranger, inspection).status_code == 404
    assert accept(stranger, inspection, offer).status_code == 404
    assert stranger.http.get(f"/api/reports/{offer}.pdf").status_code == 404


def test_the_offer_is_mailed_as_it_was_made(inspector, found, caught):
    inspection, rcd, _ = found
    choose(inspector, inspection, "rcd", "rcd", rcd)
    offer = make(inspector, inspection).json()["id"]
    path = f"/api/inspections/{inspection}/offers/{offer}/mail"
    assert inspector.http.post(path, json={"to": "nobody"}).status_code == 422
    to = f"trust-{new_id()[-6:]}@harbour.example"
    assert inspector.http.post(path, json={"to": to}).status_code == 200
    (letter,) = caught()
    assert letter["To"] == to
    attached = next(part for part in letter.walk() if part.get_content_type() == "application/pdf")
    assert attached.get_payload(decode=True) == inspector.http.get(f"/api/reports/{offer}.pdf").content


def test_an_offer_is_erased_with_its_client_and_a_report_is_kept_for_its_time(inspector, supervisor, found):
    inspection, rcd, _ = found
    choose(inspector, inspection, "rcd", "rcd", rcd)
    offer = make(inspector, inspection).json()["id"]
    job = accept(inspector, inspection, offer).json()["id"]
    client = inspector.http.get(f"/api/jobs/{job}").json()["client"]["id"]
    assert (
        supervisor.http.put("/api/firm/retention", json={"keep_years": 0, "keep_reports_years": 30}).status_code == 200
    )
    assert supervisor.http.post(f"/api/clients/{client}/erase").status_code == 200
    assert inspector.http.get(f"/api/reports/{offer}.pdf").status_code == 404


def test_a_failure_that_nobody_recorded_stands_in_the_price_and_on_paper(inspector, found):
    inspection, rcd, circuit = found
    inspector.send(inspection, inspector.change("circuit", circuit, "insulation_lne_mohm", "0.2"))
    choose(inspector, inspection, "rcd", "rcd", rcd)
    (only,) = price(inspector, inspection)["alternatives"]
    assert "Not in this price:" in only["says"]
    offer = make(inspector, inspection).json()["id"]
    pdf = PdfReader(BytesIO(inspector.http.get(f"/api/reports/{offer}.pdf").content))
    text = " ".join("".join(page.extract_text() for page in pdf.pages).split())
    assert "Not in this price:" in text
