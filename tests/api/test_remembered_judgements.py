"""What a process remembers of an inspection and its judgement never shows in what it answers."""

import random

import pytest

from dorrik.api.app import create_app
from dorrik.core.judging import delta
from tests.api.conftest import Inspector

CHANGES = (
    *(("zs_ohm", value) for value in ("0.31", "0.92", "6.40", "OL", "LIM")),
    *(("designation", value) for value in ("Sockets", "Shower")),
    *(("removed", value) for value in (True, None, None)),
    *(("r1_r2_ohm", "0.4"), ("insulation_lne_mohm", "0.2"), ("rcd_rated_ma", 30), ("device_rating_a", 63)),
)


@pytest.fixture
def devices(app, firm, engine, tmp_path):
    """Somebody at two servers of the same firm, and at a third that remembers nothing."""
    found = [Inspector(app, firm.inspector_email)]
    for _ in range(2):
        other = create_app(engine, photos=str(tmp_path / "photos"), drafts=tmp_path / "drafts")
        found.append(Inspector(other, firm.inspector_email))
    return found


def applied(receipt, before):
    """The judgement after a change, as a device has it."""
    if receipt["change"] is None:
        return receipt["judgement"]
    parts = {
        name: [{k: v for k, v in run.items() if v is not None} for run in runs]
        for name, runs in receipt["change"]["lists"].items()
    }
    return delta.applied(before, receipt["change"] | {"lists": parts})


@pytest.mark.parametrize("seed", range(3))
def test_two_servers_that_judge_the_same_inspection_in_turn_say_the_same(devices, seed):
    chance = random.Random(seed)
    *two, forgetful = devices
    one = two[0].begin()
    _, circuit = two[0].board(one)
    path = f"/api/inspections/{one}"
    seen = {device.http: (0, {}) for device in two}
    for _ in range(25):
        device = chance.choice(two)
        if chance.random() < 0.25:
            whole = device.http.get(path).json()
            seen[device.http] = (whole["seq"], whole["judgement"])
        else:
            seq, before = seen[device.http]
            change = device.change("circuit", circuit, *chance.choice(CHANGES))
            receipt = device.http.post(f"{path}/changes", json={"changes": [change], "judged": seq}).json()
            seen[device.http] = (receipt["seq"], applied(receipt, before))
        forgetful.http.app.state.remembered.forget()
        whole = forgetful.http.get(path).json()
        assert seen[device.http] == (whole["seq"], whole["judgement"])
        assert device.http.get(path).json() == whole
        since = device.http.get(f"{path}/changes", params={"since": whole["seq"] - 1}).json()
        assert (since["seq"], since["judgement"]) == (whole["seq"], whole["judgement"])


def test_somebody_of_another_firm_gets_nothing_of_what_is_remembered(inspector, stranger):
    one = inspector.begin()
    inspector.board(one)
    path = f"/api/inspections/{one}"
    inspector.http.get(path)
    assert stranger.http.get(path).status_code == 404
    assert stranger.http.get(f"{path}/changes", params={"since": 0}).status_code == 404
    assert inspector.http.get(path).status_code == 200
