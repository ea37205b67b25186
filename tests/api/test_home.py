"""The list of a firm's inspections, and what a field's declaration tells the screens."""

import pytest


def test_what_is_in_hand_says_what_is_left_and_what_fails(inspector):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    inspector.send(inspection, inspector.change("circuit", circuit, "zs_ohm", "1.90"))
    (line,) = inspector.http.get("/api/home").json()["in_hand"]
    stages = inspector.http.get(f"/api/inspections/{inspection}").json()["judgement"]["stages"]
    assert line["left"] == sum(stage["left"] for stage in stages) > 0
    assert line["failing"] == 1


def test_the_one_changed_last_stands_first(inspector):
    first, second = inspector.begin(), inspector.begin()
    inspector.send(first, inspector.change("inspection", first, "client_name", "A"))
    assert [line["id"] for line in inspector.http.get("/api/home").json()["in_hand"]] == [first, second]


@pytest.mark.parametrize(
    ("used", "following"),
    [(["K-0147"], "K-0148"), (["K-9", "K-10"], "K-11"), (["K-0999"], "K-1000"), (["Quay"], "K-0001"), ([], "K-0001")],
)
def test_the_next_reference_counts_on(inspector, used, following):
    for reference in used:
        inspection = inspector.begin()
        inspector.send(inspection, inspector.change("inspection", inspection, "reference", reference))
    assert inspector.http.get("/api/home").json()["next_reference"] == following


def test_screens_are_told_labels_units_and_choices(inspector):
    reference = inspector.http.get("/api/reference").json()
    zs = reference["fields"]["circuit"]["zs_ohm"]
    assert (zs["kind"], zs["label"], zs["unit"]) == ("reading", "Zs", "Ω")
    assert reference["fields"]["inspection"]["earthing"]["choices"] == ["TN-C-S", "TN-S", "TT"]
    assert reference["rule_book"].startswith("BS 7671:2018")
    assert len(reference["catalogue"]) >= 75
    assert {"standard": "BS 3036", "type": "rewirable"}.items() <= next(
        device for device in reference["devices"] if device["standard"] == "BS 3036"
    ).items()


def test_security_headers_stand_on_pages_and_answers(inspector):
    answer = inspector.http.get("/api/home")
    assert answer.headers["cache-control"] == "no-store"
    assert "frame-ancestors 'none'" in answer.headers["content-security-policy"]
    assert answer.headers["x-content-type-options"] == "nosniff"
