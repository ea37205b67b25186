"""Typesetting apart: the same pages as in one's own process, within limits, and nobody held up by another's report."""

import errno
import io
import signal
import threading
import time
from datetime import UTC, date, datetime

import pytest
from pypdf import PdfReader

from dorrik.core.inspection import document
from dorrik.core.judging.judgement import judge
from dorrik.report import pdf, press
from dorrik.report.content import Issue, content
from tests.core.homes import cottage

AT = datetime(2026, 11, 23, 12, 0, tzinfo=UTC)
ISSUE = Issue(1, date(2026, 11, 23), "Ines Pector", "inspector", "Firm", "1 Test Quay", "0")


def made(home):
    inspection = document.parse(home)
    return content(inspection, judge(inspection), ISSUE), document.write(inspection)


def large(count):
    """A home with so many observations, each as long as one may be."""
    words = "The plate at the skirting is cracked and a finger reaches the line terminal. " * 25
    home = cottage()
    home["inspection"]["observations"] = [{"id": f"o{n}", "text": words[:1900], "code": "C2"} for n in range(count)]
    return home


@pytest.fixture
def one():
    """A typesetter of the test's own."""
    found = press._Typesetter()
    yield found
    found.end()


def test_a_report_from_the_other_process_is_the_same_to_the_byte():
    said, attached = made(cottage())
    assert press.pdf(said, attached, AT) == pdf.pdf(said, attached, AT)


def test_one_process_sets_one_report_after_another(one):
    damp = cottage()
    damp["inspection"]["condition"] = "Sound and dry"
    jobs = [{"what": "report", "content": made(home)[0], "document": {}, "at": AT.isoformat()}
            for home in (cottage(), damp, cottage())]  # fmt: skip
    first = one.do(jobs[0])[1]
    process = one._process
    second, third = one.do(jobs[1])[1], one.do(jobs[2])[1]
    assert one._process is process
    assert first == third
    assert "Sound and dry" in "".join(page.extract_text() for page in PdfReader(io.BytesIO(second)).pages)


def test_a_report_of_many_hundred_observations_is_set_within_the_limits(tmp_path):
    said, _ = made(large(600))
    sizes = press.pages(said, tmp_path)
    assert len(sizes) == len(list(tmp_path.iterdir())) > 100
    # Page by page: what is looked at is fetched, and none of it is large.
    assert max(page.stat().st_size for page in tmp_path.iterdir()) < 400_000


@pytest.fixture
def tightened(monkeypatch):
    """Limits of the process tightened, as long as they are held so: not the report grown to them."""
    limits, real = {}, press.subprocess.Popen

    def popen(command, **more):
        set_first = "".join(f"typesetter.{name} = {value}; " for name, value in limits.items())
        return real([command[0], "-c", f"from dorrik.report import typesetter; {set_first}typesetter.main()"], **more)

    monkeypatch.setattr(press.subprocess, "Popen", popen)
    return limits


@pytest.mark.parametrize(
    ("name", "value", "told"),
    [
        ("CLOCK_S", 1, press.TypesettingLate),
        ("PROCESSOR_S", 1, press.TypesettingTooLarge),
        ("MEMORY", 200 * 1024 * 1024, press.TypesettingTooLarge),
    ],
)
def test_what_takes_more_than_a_report_may_is_ended_and_the_next_one_is_set(one, tightened, name, value, told):
    """On the clock it is the machine that was late: asked for again it may be set."""
    tightened[name] = value
    said, _ = made(large(3000))
    with pytest.raises(told, match="Everything that was entered is saved"):
        one.do({"what": "report", "content": said, "document": {}, "at": AT.isoformat()})
    tightened.clear()
    small, _ = made(cottage())
    assert one.do({"what": "report", "content": small, "document": {}, "at": AT.isoformat()})[1].startswith(b"%PDF")


def test_a_disk_without_room_is_told_as_one(one, tightened, tmp_path):
    """Files of no more than 4 kB stand in for a disk that is full: the server answers with 507."""
    tightened["LARGEST_FILE"] = 4096
    with pytest.raises(OSError) as told:
        one.do({"what": "pages", "content": made(cottage())[0], "folder": str(tmp_path)})
    assert told.value.errno in (errno.EFBIG, errno.ENOSPC)


def test_one_that_ended_meanwhile_is_started_anew(one):
    job = {"what": "report", "content": made(cottage())[0], "document": {}, "at": AT.isoformat()}
    one.do(job)
    one._process.send_signal(signal.SIGKILL)
    one._process.wait()
    assert one.do(job)[1].startswith(b"%PDF")


@pytest.mark.parametrize(("name", "value"), [("MOST_KEPT", 1), ("IDLE_S", 0.0)])
def test_one_that_ends_while_it_is_given_a_job_leaves_it_to_the_next(one, tightened, name, value):
    """It may have grown, or waited long enough, at the very moment at which the next job is in its pipe."""
    job = {"what": "report", "content": made(cottage())[0], "document": {}, "at": AT.isoformat()}
    tightened[name] = value
    for _ in range(4):
        assert one.do(job)[1].startswith(b"%PDF")


def test_a_mistake_of_ours_is_told_as_one(one):
    with pytest.raises(RuntimeError, match="does not contain key"):
        one.do({"what": "letter", "name": "facts_letter", "content": {}, "on": "2026-11-23"})
    assert one._process.poll() is None


def test_letters_wait_for_nobodys_report():
    """Every typesetter of reports is taken; a letter is set all the same."""
    said = {
        "firm": {"name": "Firm", "address": "", "phone": "", "email": "", "line": ""}, "subject": "S", "to": "T",
        "on": "23 November 2026", "opening": "O", "facts": [], "body": [], "signed_by": "I", "role": "", "foot": "",
    }  # fmt: skip
    with press._reports.one(), press._reports.one():
        found = []
        letter = threading.Thread(target=lambda: found.append(press.letter("facts_letter", said, date(2026, 11, 23))))
        letter.start()
        letter.join(60)
    assert found and found[0].startswith(b"%PDF")


def test_a_typesetter_without_work_ends_by_itself(one, tightened):
    tightened["IDLE_S"] = 0.2
    job = {"what": "report", "content": made(cottage())[0], "document": {}, "at": AT.isoformat()}
    assert one.do(job)[1].startswith(b"%PDF")
    late = time.monotonic() + 60
    while one._process.poll() is None:
        assert time.monotonic() < late
        time.sleep(0.05)
    assert one.do(job)[1].startswith(b"%PDF")
