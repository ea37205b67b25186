"""What the verdicts would raise, and the sample, as a tablet gets them with every change."""


def judgement(inspector, inspection, *changes):
    return inspector.send(inspection, *changes)["judgement"]


def test_a_suggestion_is_there_until_it_is_recorded_or_the_figure_is_mended(inspector):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    device = {"device_standard": "BS EN 60898", "device_type": "B", "zs_ohm": "2.40"}
    found = judgement(inspector, inspection, *(inspector.change("circuit", circuit, f, v) for f, v in device.items()))
    (suggestion,) = [s for s in found["suggested"] if s["key"] == "zs-above-limit"]
    assert (suggestion["entity_id"], suggestion["code"], suggestion["recorded"]) == (circuit, "C2", None)
    assert "2.40 Ω is above" in suggestion["because"][0]

    own = inspector.add(
        inspection, "observation", "inspection", inspection, about_entity="circuit", about_id=circuit,
        catalogue_key="zs-above-limit", text="Zs too high", code="C2",
    )  # fmt: skip
    whole = inspector.http.get(f"/api/inspections/{inspection}").json()["judgement"]
    assert [s["recorded"] for s in whole["suggested"] if s["key"] == "zs-above-limit"] == [own]
    assert whole["outcome"] == "unsatisfactory"

    found = judgement(inspector, inspection, inspector.change("circuit", circuit, "zs_ohm", "0.60"))
    assert not [s for s in found["suggested"] if s["key"] == "zs-above-limit"]
    assert found["outcome"] == "unsatisfactory"  # what was written stays until the inspector takes it back


def test_the_house_s_school_decides_where_a_suggestion_starts(inspector, supervisor):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    supervisor.send(inspection, supervisor.change("inspection", inspection, "house_rules", {"coding_school": "milder"}))
    found = judgement(
        inspector,
        inspection,
        inspector.change("circuit", circuit, "insulation_lne_mohm", "0.3"),
    )
    codes = {s["code"] for s in found["suggested"] if s["key"] == "insulation-below-minimum"}
    assert codes == {"FI"}


def test_a_sample_grows_with_what_is_found(inspector):
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    start = {"records": "good", "condition_on_sight": "good", "sampling_seed": 11}
    inspector.send(inspection, *(inspector.change("inspection", inspection, f, v) for f, v in start.items()))
    points = [
        inspector.add(
            inspection, "point", "circuit", circuit, position=n, name=f"socket {n}", room="hall", kind="socket"
        )
        for n in range(12)
    ]
    sample = inspector.http.get(f"/api/inspections/{inspection}").json()["judgement"]["sampling"]
    assert (sample["population"], len(sample["planned"]), sample["seed"]) == (12, 3, 11)
    first = sample["planned"][0]
    opened = next(p for n, p in enumerate(points) if first.endswith(f"socket {n}"))
    found = judgement(
        inspector,
        inspection,
        inspector.change("point", opened, "opened", True),
        inspector.change("point", opened, "defect", "loose terminal"),
    )
    assert len(found["sampling"]["planned"]) == 6
    assert first not in found["sampling"]["left"]
    assert "1 of the 3 points drawn from 12 were opened, 2 were not and 1 had a defect" in found["sampling"]["says"]
