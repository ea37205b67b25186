"""What is read while others write is of one moment: its verdicts are those of the sequence number that it names."""

from concurrent.futures import ThreadPoolExecutor
from threading import Event

from tests.api.conftest import Inspector

READINGS = 60


def test_verdicts_are_of_the_sequence_number_that_they_come_with(app, firm, inspector):
    """One writes as fast as it goes, three ask for news and one for the whole; each judgement is compared with the one
    that the writer was given for that sequence number."""
    inspection = inspector.begin()
    _, circuit = inspector.board(inspection)
    ended = Event()

    def heard(device):
        reader, got, since = Inspector(app, firm.supervisor_email, device), [], 0
        while not ended.is_set():
            found = reader.http.get(f"/api/inspections/{inspection}/changes", params={"since": since}).json()
            assert found["seq"] == max([entry["seq"] for entry in found["entries"]], default=found["seq"])
            if found["entries"]:
                got.append((found["seq"], found["judgement"]))
            since = found["seq"]
        return got

    def opened(device):
        reader, got = Inspector(app, firm.supervisor_email, device), []
        while not ended.is_set():
            found = reader.http.get(f"/api/inspections/{inspection}").json()
            got.append((found["seq"], found["judgement"]))
        return got

    written = {}
    with ThreadPoolExecutor(4) as pool:
        readers = [pool.submit(heard, f"tablet {n}") for n in range(3)] + [pool.submit(opened, "phone")]
        try:
            for number in range(READINGS):
                zs = inspector.change("circuit", circuit, "zs_ohm", f"0.{number + 10}")
                whole = inspector.change("circuit", circuit, "r1_r2_ohm", f"0.{number + 10}")
                receipt = inspector.send(inspection, zs, whole)
                written[receipt["seq"]] = receipt["judgement"]
        finally:
            ended.set()
        compared = [one for reader in readers for one in reader.result() if one[0] in written]
    # Enough to tell: how many come between two writings is the machine's.
    assert len(compared) > READINGS / 6
    for seq, judgement in compared:
        assert judgement == written[seq], seq
