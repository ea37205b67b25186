"""The rules as they are shipped to devices say what the server's say, letter by letter: the same homes, opened and gone
on with, by Python in the browser's form (run in Node) and by this Python."""

import hashlib
import json
import random
import subprocess
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from dorrik.api.rules_edition import edition
from dorrik.core.inspection.kinds import KINDS
from dorrik.core.judging.device_judge import DeviceJudge
from dorrik.practice.whole_home_draw import draw
from tests.core.judging.on_device import NOW, changed, new_id, opened, with_uuids
from tests.core.judging.test_lasting_judge import RULES, value
from tests.examples import EVERY
from tests.report import full_homes

WEB = Path(__file__).parents[3] / "web"
#: The thousand of `make fuzz`, and what stands for them otherwise.
HOMES = 1000 if EVERY else 24


@pytest.fixture(scope="module", autouse=True)
def packed() -> dict[str, Any]:
    """What was packed last (make test does that where a rule changed)."""
    told: dict[str, Any] = json.loads((WEB / "dist-rules/current.json").read_text())
    return told


def questions(seed: int) -> Iterator[tuple[str, str]]:
    """What a device asks of one home: to open it, then what is entered there, some of it refused."""
    chance = random.Random(seed)
    document = with_uuids(full_homes.everything() if seed == 0 else draw(seed).document)
    asked = opened(document)
    yield "open", json.dumps(asked)
    for _ in range(6):
        one = chance.choice(asked["entities"])
        name = chance.choice([name for name in KINDS[one["kind"]].fields if name not in RULES])
        given = value(chance, KINDS[one["kind"]].fields[name], [e["id"] for e in asked["entities"]])
        change = changed(one["kind"], one["id"], name, given, id=new_id(chance))
        yield "write", json.dumps({"changes": [change], "now": NOW})


def here(asked: list[tuple[str, str]]) -> list[str]:
    judge = DeviceJudge()
    return [hashlib.sha256(judge.answer(what, text).encode()).hexdigest() for what, text in asked]


def test_the_rules_on_a_device_say_letter_by_letter_what_the_servers_say():
    every = [list(questions(seed)) for seed in range(HOMES)]
    lines = "".join(f"{json.dumps(asked)}\n" for asked in every)
    done = subprocess.run(
        ["node", "rules/judge-homes.mjs"], cwd=WEB, input=lines, capture_output=True, text=True, check=True
    )
    told = [json.loads(line) for line in done.stdout.splitlines()]
    assert len(told) == HOMES
    assert [seed for seed in range(HOMES) if told[seed] != here(every[seed])] == []


def test_a_device_needs_no_file_for_any_table():
    """It has none: what was not read before its memory was packed would be missed where a circuit first asks for it."""
    asked = (
        "import os; assert not os.path.exists('/rules')\n"
        "from dorrik.core.book import reference; reference.read_all(); print('read')"
    )
    script = (
        "import { packedPython } from './rules/packed.mjs'; const python = await packedPython();"
        f"python.runPython({json.dumps(asked)}); process.exit(0);"
    )
    done = subprocess.run(
        ["node", "--input-type=module", "-e", script], cwd=WEB, capture_output=True, text=True, check=False
    )
    assert done.stdout.strip() == "read", done.stderr[-2000:]


def test_what_is_packed_is_the_edition_that_the_server_judges_by(packed):
    assert packed["edition"] == edition()
    folder = WEB / "dist-rules" / packed["folder"]
    assert {path.name: path.stat().st_size for path in folder.iterdir() if path.suffix not in (".br", ".gz")} == packed[
        "files"
    ]
