"""Wherever a text becomes part of a protocol, another reader finds the same text there and nothing else changed."""

import io
import json
import re
import string
from datetime import UTC, date, datetime
from email import message_from_bytes, policy
from email.header import decode_header, make_header
from email.utils import parseaddr
from urllib.parse import unquote
from xml.etree import ElementTree

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from PIL import Image
from pypdf import PdfReader

from dorrik.api.files import disposition
from dorrik.core.basics.text import tidy, why_not
from dorrik.core.book import catalogue
from dorrik.core.inspection import document
from dorrik.core.judging.judgement import judge
from dorrik.pictures import marked
from dorrik.report import catalogue_table, circuit_chart, drawn, mail, papers, pdf
from dorrik.report.content import Issue, content
from dorrik.report.tables import as_text, from_text
from tests.core.homes import cottage
from tests.examples import examples

#: What one of the protocols reads as something else than text.
PIECES = (
    "=?utf-8?q?a=0ABcc=3A_a=40b=2Ecd?=", "=?utf-8?b?YQpi?=", "=?", "?=", "\\", '"', "'", "''", "<", ">", ",", ";", ":",
    "@", "(", ")", "[", "]", "{", "}", "#", "$", "*", "_", "`", "~", "%", "&", "&amp;", "&#10;", "]]>", "<!--", "-->",
    "</text>", "<script>", "=1", "+1", "-1", "@a", "＝1", "|", "\t", "\n", "\n.\n", "\nFrom ", "%0d%0a", "../", "C:\\",
    "a" * 80, "é", "漢字", "😀", "ß", "\u00a0", "\u200b", "\u2028", "#eval(\"1\")", "#read(\"x\")", "$x^2$", "//", "/*",
    "{{a}}", "${a}", "NaN", "null", " ", "  ",
)  # fmt: skip


def _kept(text: str) -> str:
    """The text as every door keeps it."""
    return tidy("".join(sign for sign in text if why_not(sign) is None))


TEXT = st.lists(st.sampled_from(PIECES) | st.text(max_size=6), max_size=12).map("".join).map(_kept)


def _in_one_line(text):
    return " ".join(text.split())


# Mail


@settings(max_examples=examples(1500))
@given(sender=TEXT, subject=TEXT, body=TEXT, attached=st.booleans())
def test_mail(sender, subject, body, attached):
    files = [mail.Attachment("notice.pdf", b"%PDF-")] if attached else []

    def composed(*words):
        made = mail.compose(words[0], "office@firm.example", "ines@firm.example", "a@b.example", *words[1:], files)
        return made, message_from_bytes(made, policy=policy.compat32), message_from_bytes(made, policy=policy.default)

    made, old, new = composed(sender, subject, body)
    _, plain, _ = composed("x", "x", "x")
    assert [name for name, _ in old.items()] == [name for name, _ in plain.items()]
    assert [part.get_content_type() for part in old.walk()] == [part.get_content_type() for part in plain.walk()]
    head = made.partition(b"\r\n\r\n")[0]
    assert head.isascii() and all(len(line) < 200 for line in head.split(b"\r\n"))
    assert b"\n" not in head.replace(b"\r\n", b"") and b"\r" not in head.replace(b"\r\n", b"")
    # Two readers of different making: the one takes the head apart by the grammar, the other by hand.
    name, address = parseaddr(str(old["From"]).replace("\r\n", ""))
    assert address == new["From"].addresses[0].addr_spec == "office@firm.example"
    assert len(new["From"].addresses) == len(new["To"].addresses) == 1
    assert _in_one_line(str(make_header(decode_header(name))) if name else "") == _in_one_line(sender)
    # This one puts a blank between two encoded words of a name, where none is.
    assert _without_blanks(new["From"].addresses[0].display_name) == _without_blanks(sender)
    for found in (
        str(make_header(decode_header(old["Subject"].replace("\r\n", "")))) if subject else "",
        new["Subject"],
    ):
        assert _in_one_line(found) == _in_one_line(subject)
    part = next(one for one in new.walk() if one.get_content_type() == "text/plain")
    assert part.get_content().replace("\r\n", "\n") == body.replace("\r\n", "\n")


#: To, Reply-To, From, Subject, Date, Message-ID and three of the content.
PLAIN_HEADS = 9
LOCAL = st.text(string.ascii_letters + "!#$%&'*+/=?^_`{|}~-.é", min_size=1, max_size=30)


@given(LOCAL | st.builds("=?utf-8?q?{}=0A{}?=".format, LOCAL, LOCAL))
def test_an_address_is_one_address_or_none(local):
    try:
        to = mail.recipient(f"{local}@b.example")
    except mail.NotSent as error:
        assert error.at_address
        return
    made = mail.compose("Firm", "office@firm.example", to, to, "x", "x", [])
    for head in (policy.default, policy.SMTPUTF8):
        message = message_from_bytes(made, policy=head)
        names = [name for name, _ in message.items()]
        assert sorted(names[:2]) == ["Reply-To", "To"] and len(names) == len(set(names)) == PLAIN_HEADS
        found = [
            address.addr_spec.encode("utf-8", "surrogateescape").decode() for address in message["Reply-To"].addresses
        ]
        assert found == [to]
    assert f"To: {to}\r\n".encode() in made


@pytest.mark.parametrize("local", ["=?utf-8?q?a=0ABcc=3A?=", "a=?utf-8?q?b?=", "=?x?q?=0D=0A?="])
def test_an_address_written_as_an_encoded_word_is_none(local):
    with pytest.raises(mail.NotSent):
        mail.recipient(f"{local}@b.example")


# Tables


def _read_by_hand(table: str) -> list[list[str]]:
    """The cells of a table by RFC 4180, sign by sign."""
    rows: list[list[str]] = [[""]]
    quoted = False
    signs = iter(range(len(table)))
    for at in signs:
        sign, following = table[at], table[at + 1 : at + 2]
        if quoted:
            if sign == '"' and following == '"':
                rows[-1][-1] += '"'
                next(signs)
            elif sign == '"':
                quoted = False
            else:
                rows[-1][-1] += sign
        elif sign == '"':
            quoted = True
        elif sign == ",":
            rows[-1].append("")
        elif sign == "\r" and following == "\n":
            rows.append([""])
            next(signs)
        else:
            rows[-1][-1] += sign
    return rows[:-1]


@settings(max_examples=examples(1000))
@given(TEXT)
def test_a_cell(text):
    cell = as_text(text)
    assert not cell.startswith(("=", "+", "-", "@", "\t", "\r", "＝", "＋", "－", "＠"))
    assert from_text(cell) == text


OWN = st.fixed_dictionaries(
    {"title": TEXT.map(lambda text: text[:80].strip() or "x"), "remedy": TEXT, "code": st.just("C2")}
)


@settings(max_examples=examples(400))
@given(st.lists(OWN, min_size=1, max_size=4, unique_by=lambda one: one["title"]))
def test_the_catalogue_as_a_table(said):
    entries = []
    for number, one in enumerate(said):
        checked = catalogue.check({name: text[:300] for name, text in one.items()} | {"key": f"own-{number}"})
        with catalogue.with_own([checked]):
            entries.append(catalogue.entries()[checked["key"]])
    table = catalogue_table.write(entries)
    rows = _read_by_hand(table)
    assert [len(row) for row in rows] == [len(catalogue_table.COLUMNS)] * (len(entries) + 1)
    for row, entry in zip(rows[1:], entries, strict=True):
        assert [from_text(cell) for cell in row] == [getattr(entry, name) for name in catalogue_table.COLUMNS]
    # What comes back by our own door is what went out.
    found, wrong = catalogue_table.read(papers.read(("\ufeff" + table).encode(), "catalogue.csv").tables)
    assert wrong == []
    for back, entry in zip(found, entries, strict=True):
        assert back["title"] == entry.title and back.get("remedy", "") == entry.remedy


@settings(max_examples=examples(300))
@given(st.lists(TEXT, min_size=3, max_size=3))
def test_the_circuit_chart(texts):
    home = cottage()
    board = home["inspection"]["boards"][0]
    board["name"] = texts[0][:60].strip() or "Board"
    for circuit, text in zip(board["circuits"], texts, strict=False):
        circuit["designation"] = text[:80].strip() or None
    inspection = document.parse(home)
    table = circuit_chart.chart(inspection)
    rows = _read_by_hand(table)
    circuits = [circuit for board in inspection.boards for circuit in board.circuits]
    assert [len(row) for row in rows] == [len(circuit_chart.HEAD)] * (len(circuits) + 1)
    for row, circuit in zip(rows[1:], circuits, strict=True):
        assert (circuit.designation or "") in [from_text(cell) for cell in row]
    (read,) = papers.read(("\ufeff" + table).encode(), "chart.csv").tables
    assert [len(row) for row in read.rows] == [len(circuit_chart.HEAD)] * (len(circuits) + 1)


# Names of files


@settings(max_examples=examples(1000))
@given(TEXT, st.sampled_from(["", ".pdf", ".csv", ".zip"]))
def test_the_name_of_a_file(stem, end):
    header = disposition(stem + end)
    match = re.fullmatch(r"attachment; filename=\"([A-Za-z0-9._-]+)\"; filename\*=UTF-8''([A-Za-z0-9._~%-]+)", header)
    assert match is not None
    whole = unquote(match[2], errors="strict")
    assert not re.search(r'[\x00-\x1f\x7f<>:"/\\|?*]', whole) and whole not in ("", ".", "..")
    assert whole.endswith(end) and match[1].endswith(end) and len(whole.encode()) <= 180
    kept = re.sub(r'[\x00-\x1f\x7f<>:"/\\|?*\s.-]+', "", stem)[:20]
    assert re.sub(r"[\s.-]+", "", whole).startswith(kept) or not kept


# Drawings

SVG = "{http://www.w3.org/2000/svg}"


@settings(max_examples=examples(300))
@given(TEXT, TEXT)
def test_the_drawing_of_the_intake(meter, board):
    def shown(*words):
        origin = {
            "meter_number": words[0][:40].strip() or None,
            "boards": [{"id": "b", "name": words[1][:60].strip() or "b"}],
        }
        inspection = document.parse({"format": "dorrik-inspection", "version": 2, "inspection": {"id": "i"} | origin})
        return inspection, ElementTree.fromstring(drawn.svg(judge(inspection).intake_drawing))

    inspection, root = shown(meter, board)
    _, plain = shown("x" if inspection.meter_number else "", "x")
    assert [(one.tag, sorted(one.attrib)) for one in root.iter()] == [
        (one.tag, sorted(one.attrib)) for one in plain.iter()
    ]


@settings(max_examples=examples(200))
@given(TEXT)
def test_what_stands_in_for_a_photo(words):
    jpeg = io.BytesIO()
    Image.new("RGB", (8, 8)).save(jpeg, "JPEG")
    root = ElementTree.fromstring(marked.svg(jpeg.getvalue(), [], "small", words))
    assert root.attrib["aria-label"] == words
    assert [one.tag for one in root.iter()] == [f"{SVG}svg", f"{SVG}image"]


# Papers

ISSUE = Issue(1, date(2026, 11, 23), "Ines Pector", "inspector", "Firm", "1 Test Quay", "0")
#: Of what a font of ours sets letter by letter: its text comes back out of a PDF as it went in.
PRINTED = st.lists(
    st.sampled_from([piece for piece in PIECES if piece.isascii()]) | st.text(string.printable, max_size=6), max_size=10
)


def _without_blanks(text):
    return "".join(text.split())


@settings(max_examples=examples(120))
@given(PRINTED.map("".join).map(_kept))
def test_a_letter(text):
    said = {
        "subject": "s" + text, "firm": {"name": "f" + text, "address": text, "phone": "", "email": "", "line": text},
        "to": text, "on": "o", "signed_by": "x", "role": "r", "foot": text, "opening": text, "column": "",
        "facts": [{"label": "l", "value": text}], "body": [text],
    }  # fmt: skip
    reader = PdfReader(io.BytesIO(pdf.letter("facts_letter", said, date(2026, 11, 3))))
    found = _without_blanks("".join(page.extract_text() for page in reader.pages)).replace("-", "")
    # In the letter's head, in a fact and in its body; a line that is broken may end in a hyphen.
    assert found.count(_without_blanks(text).replace("-", "")) >= 3
    assert reader.metadata is not None and reader.metadata.title is not None
    assert _without_blanks(reader.metadata.title) == _without_blanks("s" + text)


@settings(max_examples=examples(40))
@given(TEXT)
def test_the_data_in_a_report(text):
    home = cottage()
    home["inspection"]["boards"][0]["circuits"][0]["designation"] = text[:80].strip() or None
    home["inspection"]["extent"] = text or None
    inspection = document.parse(home)
    made = pdf.pdf(
        content(inspection, judge(inspection), ISSUE), document.write(inspection), datetime(2026, 11, 23, tzinfo=UTC)
    )
    (attached,) = PdfReader(io.BytesIO(made)).attachments["inspection.json"]
    assert document.parse(json.loads(attached)) == inspection
