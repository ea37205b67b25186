"""Drafts that a device makes by itself: the same words as the server's, and nothing that a device cannot have."""

import hashlib
import json
import subprocess
from datetime import date
from pathlib import Path

import pytest

from dorrik.core.inspection.document import parse
from dorrik.core.judging.device_judge import DeviceJudge
from dorrik.core.judging.judgement import judge
from dorrik.core.judging.readiness import readiness
from dorrik.practice.whole_home_draw import draw
from dorrik.report.content import Issue, content
from dorrik.report.device_papers import PICTURE, DevicePapers
from dorrik.report.letters import danger_notice, network_operator
from tests.core.homes import cottage, spoilt
from tests.core.judging.on_device import opened, with_uuids
from tests.examples import EVERY
from tests.report import full_homes

WEB = Path(__file__).parents[2] / "web"
HEAD = {
    "signed_by": "Ines Pector", "role": "inspector", "firm_name": "Firm & Sons", "firm_address": "1 Test Quay",
    "firm_phone": "0", "firm_email": "", "firm_line": "", "firm_logo": "",
}  # fmt: skip
ON = date(2026, 12, 1)
HOMES = 40 if EVERY else 6


def asked(paper, about=None, sizes=None):
    return {"paper": paper, "about": about, "on": ON.isoformat(), "head": HEAD, "sizes": sizes or {}}


def of_home(document):
    device = DeviceJudge()
    device.open(opened(document))
    return DevicePapers(device)


def plain(said):
    return json.loads(json.dumps(said))


def without_drawings(said):
    """The words of a report, with what only this device says of its photos left out."""
    if isinstance(said, dict):
        return {name: without_drawings(part) for name, part in said.items() if name not in ("drawing", "jpeg")}
    return [without_drawings(part) for part in said] if isinstance(said, list) else said


@pytest.mark.parametrize("seed", range(HOMES))
def test_a_report_on_the_device_says_what_the_servers_says(seed):
    document = with_uuids(full_homes.everything() if seed == 0 else draw(seed).document)
    inspection = parse(document)
    judgement = judge(inspection)
    there = content(inspection, judgement, Issue(0, ON, **HEAD))
    here = of_home(document).draft(asked("report"))
    assert without_drawings(json.loads(here["inputs"]["data"])) == without_drawings(plain(there))
    assert [p["text"] for p in here["points"]] == [p.text for p in readiness(inspection, judgement)]
    assert here["template"] == "condition_report"


def test_letters_on_the_device_say_what_the_servers_say():
    document = with_uuids(spoilt(ze_ohm="0.61"))
    document["inspection"]["observations"] = [
        {"id": "00000000-0000-4000-8000-00000000000a", "code": "C1", "text": "Live parts", "place": "Hall"}
    ]
    inspection = parse(document)
    observation = inspection.observations[0]
    papers = of_home(document)
    issue = Issue(0, ON, **HEAD)
    danger = papers.draft(asked("danger", observation.id))
    assert json.loads(danger["inputs"]["data"]) == plain(danger_notice.words(inspection, observation, issue))
    operator = papers.draft(asked("operator"))
    assert json.loads(operator["inputs"]["data"]) == plain(network_operator.of_ze(inspection, judge(inspection), issue))
    assert (danger["template"], operator["template"]) == ("facts_letter", "facts_letter")


def test_where_there_is_nothing_to_write_it_says_why():
    papers = of_home(with_uuids(cottage()))
    assert "above what the operator usually declares" in papers.draft(asked("operator"))["nothing"]
    assert papers.draft(asked("set aside"))["nothing"]


def test_what_a_letter_was_about_can_be_gone_meanwhile():
    with pytest.raises(LookupError):
        of_home(with_uuids(cottage())).draft(asked("danger", "00000000-0000-4000-8000-00000000000b"))


def test_a_photo_whose_picture_is_here_is_drawn_and_the_other_is_named():
    document = with_uuids(full_homes.everything())
    photos = [p for p in parse(document).photos if p.sha256 and p.print_size != "not"]
    here = photos[0].sha256
    draft = of_home(document).draft(asked("report", sizes={here: [640, 480]}))
    assert draft["drawings"] and {drawing["sha256"] for drawing in draft["drawings"]} == {here}
    for drawing in draft["drawings"]:
        assert PICTURE in drawing["svg"] and 'viewBox="0 0 640 480"' in drawing["svg"]
        assert drawing["name"] in draft["inputs"]["data"]
    others = {p.sha256 for p in photos} - {here}
    assert not others or "has not arrived yet" in draft["inputs"]["data"]


def test_a_draft_names_nobody_who_has_not_signed():
    said = json.loads(of_home(with_uuids(cottage())).draft(asked("report"))["inputs"]["data"])
    assert said["draft"] and [s["name"] for s in said["signatures"]] == ["", ""]


def test_moments_are_told_by_the_clock_on_the_wall_in_summer_too():
    """A device has no clock of its own country: the one that is packed is asked, in July as in December."""
    home = with_uuids(cottage())
    for at, said in (("2026-07-01T09:00:00Z", "10:00"), ("2026-12-01T09:00:00Z", "09:00")):
        home["inspection"]["attendances"] = [
            {"id": "00000000-0000-4000-8000-00000000000c", "who": "Ines", "arrived_at": at}
        ]
        lines = [["open", json.dumps(opened(home))], ["paper", json.dumps(asked("report"))]]
        assert said in json.loads(of_home(home).draft(asked("report"))["inputs"]["data"])["visits"][0]
        assert in_node([lines])[0][1] == digest(of_home(home).answer(json.dumps(asked("report"))))


def test_the_packed_papers_say_letter_by_letter_what_these_say():
    homes = [with_uuids(full_homes.everything()), with_uuids(cottage()), with_uuids(spoilt(ze_ohm="0.61"))]
    every = [
        [["open", json.dumps(opened(home))], *(["paper", json.dumps(asked(p))] for p in ("report", "operator"))]
        for home in homes
    ]
    for home, digests in zip(homes, in_node(every), strict=True):
        papers = of_home(home)
        assert digests[1:] == [digest(papers.answer(json.dumps(asked(p)))) for p in ("report", "operator")]


def in_node(homes):
    lines = "".join(f"{json.dumps(asked)}\n" for asked in homes)
    done = subprocess.run(
        ["node", "rules/judge-homes.mjs"], cwd=WEB, input=lines, capture_output=True, text=True, check=True
    )
    return [json.loads(line) for line in done.stdout.splitlines()]


def digest(text):
    return hashlib.sha256(text.encode()).hexdigest()
