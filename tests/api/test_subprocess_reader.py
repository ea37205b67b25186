"""Files from outside are read in a process of their own: bounded in time and memory, and ended when nobody waits."""

import io
import os
import zipfile
from pathlib import Path

import pytest

from dorrik.report import subprocess_reader
from dorrik.report.papers import UnreadablePaper
from tests.clock import within
from tests.running import run


async def here():
    return False


def read(data, name="x.xlsx"):
    return run(subprocess_reader.read(data, name, here))


OFFICE = "http://schemas.openxmlformats.org"
SHEETS = "application/vnd.openxmlformats-officedocument.spreadsheetml"
KIND = f"{OFFICE}/officeDocument/2006/relationships"
MAIN = f"{OFFICE}/spreadsheetml/2006/main"


def workbook(sheet):
    """A workbook with those rows, as XML, in its only sheet."""

    def related(identity, kind, target):
        one = f'<Relationship Id="{identity}" Type="{KIND}/{kind}" Target="{target}"/>'
        return f'<Relationships xmlns="{OFFICE}/package/2006/relationships">{one}</Relationships>'

    types = (
        '<Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/>'
        f'<Override PartName="/xl/workbook.xml" ContentType="{SHEETS}.sheet.main+xml"/>'
        f'<Override PartName="/xl/s.xml" ContentType="{SHEETS}.worksheet+xml"/>'
    )
    sheets = '<sheets><sheet name="S" sheetId="1" r:id="r"/></sheets>'
    parts = {
        "[Content_Types].xml": f'<Types xmlns="{OFFICE}/package/2006/content-types">{types}</Types>',
        "_rels/.rels": related("a", "officeDocument", "xl/workbook.xml"),
        "xl/_rels/workbook.xml.rels": related("r", "worksheet", "s.xml"),
        "xl/workbook.xml": f'<workbook xmlns="{MAIN}" xmlns:r="{KIND}">{sheets}</workbook>',
        "xl/s.xml": f'<worksheet xmlns="{MAIN}"><sheetData>{sheet}</sheetData></worksheet>',
    }
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        for name, part in parts.items():
            packed.writestr(name, part)
    return out.getvalue()


def test_what_a_file_holds_comes_through_as_it_was():
    row = '<row r="1"><c r="A1" t="inlineStr"><is><t>Way</t></is></c><c r="B1"><v>2.5</v></c></row>'
    (table,) = read(workbook(row)).tables
    assert (table.sheet, table.rows) == ("S", (("Way", "2.5"),))
    assert read(b"Way;Circuit\n1;Cooker\n", "x.csv").tables[0].rows[1] == ("1", "Cooker")


@pytest.mark.parametrize("data", [b"", b"%PDF-1.7 broken", b"PK\x03\x04 broken", b"{", b"\xd0\xcf\x11\xe0"])
def test_what_cannot_be_read_says_why(data):
    with pytest.raises(UnreadablePaper):
        read(data)


def test_a_small_file_that_would_take_minutes_is_ended(monkeypatch):
    """228 kB took 132 s in an audit. The limits are lowered here, so that the test need not wait for them."""
    monkeypatch.setattr(subprocess_reader, "CLOCK_S", -3)
    data = workbook('<row r="1">' + '<c r="A1"><v>1</v></c>' * 3_000_000 + "</row>")
    assert len(data) < 228_000
    with within(20), pytest.raises(UnreadablePaper, match="takes too long"):
        read(data)
    assert children() == []


def test_a_file_that_would_take_gigabytes_is_not_read_to_its_end():
    data = b'{"inspection": [' + b'{"a":[]},' * 2_100_000 + b"{}]}"
    with pytest.raises(UnreadablePaper, match="memory"):
        read(data, "x.json")


def test_who_goes_away_ends_the_reading():
    async def gone():
        return next(looks)

    looks = iter([False, False, True, True, True])
    data = workbook('<row r="1">' + '<c r="A1"><v>1</v></c>' * 3_000_000 + "</row>")

    async def going_away():
        with pytest.raises(subprocess_reader.Gone):
            await subprocess_reader.read(data, "x.xlsx", gone)

    with within(10):
        run(going_away())
    assert children() == []


def children():
    """Readers that are still at work."""
    found = []
    for process in Path("/proc").iterdir():
        try:
            parent = int((process / "stat").read_text().rsplit(")", 1)[1].split()[1])
            if parent == os.getpid() and b"dorrik.report.reader" in (process / "cmdline").read_bytes():
                found.append(process.name)
        except OSError:
            continue
    return found


def test_over_the_wire_a_cell_that_cannot_be_kept_is_shown_and_said(inspector):
    data = "Way,Circuit\n1,Coo\x07ker\n2,\ue000Lights\n".encode()
    answer = inspector.http.post("/api/papers", params={"name": "a\u202eb.csv"}, content=data).json()
    assert answer["cleaned"] == 2
    assert answer["tables"][0]["rows"][1][1] == "Coo\ufffdker"
    assert answer["name"] == "a\ufffdb.csv"
