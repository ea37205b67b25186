"""`python -m dorrik judge`, as a person or a script runs it."""

import json
import subprocess
import sys

import pytest

from tests.core.homes import cottage, spoilt


def run(*arguments, stdin=None):
    command = [sys.executable, "-m", "dorrik", "judge", *arguments]
    return subprocess.run(command, input=stdin, capture_output=True, text=True, check=False)


def test_judges_a_file(tmp_path):
    file = tmp_path / "home.json"
    file.write_text(json.dumps(spoilt("c2", zs_ohm="1.90")))
    done = run(str(file))
    assert done.returncode == 0
    assert any(n["status"] == "fail" and n["field"] == "zs_ohm" for n in json.loads(done.stdout)["notes"])


def test_judges_standard_input_for_a_person():
    done = run("-", "--text", stdin=json.dumps(cottage()))
    assert "satisfactory" in done.stdout
    assert "BS 7671:2018" in done.stdout


@pytest.mark.parametrize(
    ("text", "told"),
    [
        ('{"format": ', ":1:12: not JSON"),
        (json.dumps(spoilt("c1", zs_ohm=">>5")), "inspection.boards[0].circuits[0].zs_ohm: “>>5”"),
        ("[]", "document: is not an inspection document"),
    ],
)
def test_a_damaged_file_is_told_with_its_place(text, told):
    done = run("-", stdin=text)
    assert done.returncode == 2
    assert told in done.stderr


def test_a_missing_file():
    done = run("/nowhere/home.json")
    assert done.returncode == 2
    assert "cannot be read" in done.stderr


def test_the_core_starts_without_the_web_or_the_database():
    foreign = ("fastapi", "sqlalchemy", "pydantic", "typst")
    program = f"import sys, dorrik.core; print([m for m in {foreign} if m in sys.modules])"
    done = subprocess.run([sys.executable, "-c", program], capture_output=True, text=True, check=True)
    assert done.stdout.strip() == "[]"


def test_the_example_is_judged_in_words_with_what_it_would_raise():
    done = run("docs/inspection.example.json", "--text")
    assert done.returncode == 0
    for words in (
        "is on a spur of about",
        "over the years",
        "2 of the 4 points drawn from 4 were opened",
        "not opened yet",
    ):
        assert words in done.stdout


def test_what_follows_from_a_cause_is_told_in_one_line_with_it():
    home = spoilt("c3", r1_r2_ohm="OL", zs_ohm="OL")
    told = run("-", "--text", stdin=json.dumps(home)).stdout
    assert "and what follows from it: 3 Lights: Zs OL" in told
    assert told.count("  suggest  ") == 1
