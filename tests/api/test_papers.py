"""Earlier papers: files of every sort read or refused with words, columns matched, carried over whole or not at all."""

import io
import json
import zipfile

import openpyxl
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from dorrik.report import papers
from tests.api.reviewed import issue
from tests.core.homes import cottage
from tests.examples import examples

CSV = "Way;Circuit;Cable;Device;R1+R2;Insulation L-E;Zs\n1;Küche;2,5/1,5;B32;0,27;>200;0,46\n2;Lights;1.5/1;B6;;;\n"


def read(inspector, data, name="chart.csv"):
    return inspector.http.post("/api/papers", params={"name": name}, content=data)


def chart(inspector, data):
    table = read(inspector, data).json()["tables"][0]
    return {"rows": table["rows"], "columns": table["columns"], "first": table["head"] + 1}


def workbook(*rows):
    book = openpyxl.Workbook()
    for row in rows:
        book.active.append(row)
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "latin-1", "utf-16"])
def test_a_csv_with_semicolons_and_decimal_commas_in_any_encoding(inspector, encoding):
    found = read(inspector, CSV.encode(encoding)).json()["tables"][0]
    assert found["rows"][1][:4] == ["1", "Küche", "2,5/1,5", "B32"]
    assert found["columns"] == [
        "way", "designation", "cable", "device", "r1_r2_ohm", "insulation_lne_mohm", "zs_ohm",
    ]  # fmt: skip
    lines = inspector.http.post("/api/papers/chart", json=chart(inspector, CSV.encode(encoding))).json()
    assert lines["sound"] == 2
    assert lines["lines"][0]["fields"]["line_csa_mm2"] == 2.5
    assert lines["lines"][0]["figures"]["zs_ohm"] == "0,46"


def test_a_chart_is_carried_over_unconfirmed_with_earlier_figures(inspector):
    inspection = inspector.begin()
    given = {"chart": chart(inspector, CSV.encode()), "measured_on": "2021-04-03", "source": "chart.csv"}
    answer = inspector.http.post(f"/api/inspections/{inspection}/carry-over", json=given)
    assert answer.status_code == 201, answer.text
    assert (answer.json()["boards"], answer.json()["circuits"]) == (1, 2)
    entities = inspector.http.get(f"/api/inspections/{inspection}").json()["entities"]
    circuits = [e["values"] for e in entities if e["kind"] == "circuit"]
    assert all(c["unconfirmed"] for c in circuits)
    assert not any("r1_r2_ohm" in c or "zs_ohm" in c for c in circuits)
    earlier = {e["values"]["figure"]: e["values"] for e in entities if e["kind"] == "earlier"}
    assert earlier["zs_ohm"] == {
        "figure": "zs_ohm", "measured_on": "2021-04-03", "reading": "0,46", "source": "chart.csv",
    }  # fmt: skip


def test_rows_with_mistakes_are_shown_and_left_out(inspector):
    table = chart(inspector, b"Way,Circuit,Device\n1,Cooker,B32\n2,Shower,forty amps\n")
    lines = inspector.http.post("/api/papers/chart", json=table).json()
    assert lines["sound"] == 1
    assert lines["lines"][1]["wrong"] == [
        {"column": 2, "text": "forty amps", "reason": "Device: “forty amps” is not such as B32."}
    ]


def test_columns_matched_twice_and_five_thousand_rows_are_told_and_nothing_is_kept(inspector):
    inspection = inspector.begin()
    many = "Way,Circuit\n" + "".join(f"{n},Circuit {n}\n" for n in range(5000))
    table = chart(inspector, many.encode())
    for wrong, said in (
        (table, "at most 600"),
        (table | {"columns": ["way", "way"]}, "Two columns"),
    ):
        answer = inspector.http.post(f"/api/inspections/{inspection}/carry-over", json={"chart": wrong})
        assert answer.status_code == 422
        assert said in answer.json()["fields"][0]["message"]
    assert len(inspector.http.get(f"/api/inspections/{inspection}").json()["entities"]) == 1


def test_a_chart_too_large_for_an_inspection_leaves_nothing_behind(inspector):
    # 600 circuits with eight figures each are more than the 5,000 entries that an inspection holds.
    head = "Board,Way,Circuit,r1,rn,r2,R1+R2,L-N,L+N-E,Zs,RCD time\n"
    rows = "".join(f"DB{n // 40},{n},Circuit {n},0.4,0.4,0.6,0.25,>200,>200,0.5,22\n" for n in range(600))
    inspection = inspector.begin()
    table = chart(inspector, (head + rows).encode())
    answer = inspector.http.post(f"/api/inspections/{inspection}/carry-over", json={"chart": table})
    assert answer.status_code == 422
    assert "Nothing was copied: An inspection holds at most 5000 entries." in answer.json()["message"]
    found = inspector.http.get(f"/api/inspections/{inspection}").json()
    assert (len(found["entities"]), found["seq"]) == (1, 1)


def test_a_workbook_gives_figures_and_never_runs_a_formula(inspector):
    data = workbook(["Way", "Circuit", "Zs"], [1, "Cooker", 0.41], [2, "=1+1", "=SUM(A1:A9)"])
    found = read(inspector, data, "chart.xlsx").json()["tables"][0]
    # A formula that was never worked out has no kept value: its cell is empty, not run.
    assert found["rows"] == [["Way", "Circuit", "Zs"], ["1", "Cooker", "0.41"], ["2", "", ""]]


def bomb():
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        for n in range(3):
            packed.writestr(f"xl/worksheets/sheet{n}.xml", b"\0" * 50_000_000)
    return out.getvalue()


def old_pdf():
    from pypdf import PdfWriter

    writer = PdfWriter()
    writer.add_blank_page(200, 200)
    out = io.BytesIO()
    writer.write(out)
    return out.getvalue()


def pdf_of(document):
    from pypdf import PdfWriter

    writer = PdfWriter()
    writer.add_blank_page(200, 200)
    writer.add_attachment("inspection.json", json.dumps(document).encode())
    out = io.BytesIO()
    writer.write(out)
    return out.getvalue()


@pytest.mark.parametrize(
    ("data", "name", "said"),
    [
        (b"", "chart.csv", "is empty"),
        (b"\n \n", "chart.csv", "is empty"),
        (workbook(["Way"], ["1"])[:900], "chart.xlsx", "damaged or not complete"),
        (workbook(), "chart.xlsx", "no cell"),
        (b"PK\x03\x04 nonsense", "chart.xlsx", "damaged or not complete"),
        (b"\xd0\xcf\x11\xe0 old", "chart.xls", "old kind"),
        (old_pdf(), "report.pdf", "carries no inspection data"),
        (old_pdf()[:200], "report.pdf", "PDF"),
        (b"%PDF-1.7 nothing more", "report.pdf", "PDF"),
        (b'{"format": "dorrik-inspection"', "inspection.json", "not complete"),
        (b'{"format": "other"}', "inspection.json", "is not 'dorrik-inspection'"),
        (pdf_of({"format": "dorrik-inspection", "version": 99, "inspection": {"id": "x"}}), "r.pdf", "version"),
        (b"[]", "inspection.json", "does not hold an inspection"),
        (b"\xff\xd8\xff\xe0\0\x10JFIF", "photo.jpg", "neither a report"),
        (b"\0\0\0\x18ftypheic\0\0", "photo.heic", "neither a report"),
    ],
)
def test_files_that_cannot_be_used_are_told_why(inspector, data, name, said):
    answer = read(inspector, data, name)
    assert answer.status_code == 422, answer.text
    assert said in answer.json()["fields"][0]["message"]


def test_a_workbook_that_swells_and_a_file_that_is_too_large_are_refused(inspector):
    answer = read(inspector, bomb(), "chart.xlsx")
    assert "far larger unpacked" in answer.json()["message"]
    answer = read(inspector, b"a" * 20_000_001)
    assert answer.status_code == 413


any_file = st.one_of(st.binary(max_size=300), st.text(max_size=200).map(str.encode), st.just(CSV.encode()))


@settings(max_examples=examples(200), deadline=None)
@given(any_file)
def test_any_bytes_are_read_or_refused_but_never_break(data):
    try:
        paper = papers.read(data, "x")
    except papers.UnreadablePaper as error:
        assert str(error)
    else:
        assert paper.tables or paper.document


@settings(max_examples=examples(8), deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(any_file)
def test_any_bytes_over_the_wire(inspector, data):
    assert read(inspector, data).status_code in (200, 422)


def test_the_chart_goes_out_with_formulas_as_text_and_comes_back_as_it_was(inspector):
    inspection = inspector.begin()
    board = inspector.add(inspection, "board", "inspection", inspection, name="Board 1")
    names = ("=HYPERLINK(A1)", "+cmd", "@net loft", "-", "'quoted", "Küche, hinten")
    for way, name in enumerate(names, 1):
        inspector.add(
            inspection, "circuit", "board", board, position=way, way=str(way), designation=name, zs_ohm="0,41",
            device_standard="BS EN 60898", device_type="B", device_rating_a=32, line_csa_mm2=2.5,
        )  # fmt: skip
    answer = inspector.http.get(f"/api/inspections/{inspection}/circuits.csv")
    assert answer.headers["content-type"].startswith("text/csv")
    # No cell begins as a formula does.
    for line in answer.text.splitlines()[1:]:
        assert not any(cell.strip('"').startswith(("=", "+", "@")) for cell in line.split(",")), line
    back = inspector.http.post("/api/papers/chart", json=chart(inspector, answer.content)).json()
    assert [line["fields"].get("designation") for line in back["lines"]] == [*names[:3], None, *names[4:]]
    assert back["sound"] == len(names)
    assert back["lines"][0]["figures"] == {"zs_ohm": "0,41"}


def test_our_own_json_and_pdf_are_carried_over(inspector, supervisor, ready):
    source = ready()
    issued = issue(inspector, supervisor, source).json()
    pdf = inspector.http.get(f"/api/reports/{issued['id']}.pdf").content
    for data, name in ((pdf, "report.pdf"), (json.dumps(cottage()).encode(), "home.json")):
        found = read(inspector, data, name).json()
        assert found["found"]["circuits"] >= 1
        inspection = inspector.begin()
        answer = inspector.http.post(f"/api/inspections/{inspection}/carry-over", json={"document": found["document"]})
        assert answer.status_code == 201, answer.text
        assert answer.json()["circuits"] == found["found"]["circuits"]
        values = inspector.values(inspection, inspection)
        assert values["property_address"] == found["found"]["property_address"]


def test_an_inspection_of_the_firm_is_carried_over_and_what_stands_is_not_overwritten(inspector, stranger, ready):
    source = ready()
    inspection = inspector.begin()
    inspector.send(inspection, inspector.change("inspection", inspection, "client_name", "Somebody else"))
    path = f"/api/inspections/{inspection}/carry-over"
    answer = inspector.http.post(path, json={"inspection_id": source})
    assert answer.status_code == 201, answer.text
    values = inspector.values(inspection, inspection)
    assert values["client_name"] == "Somebody else"
    assert values["property_address"] == "1 Lookout Row"
    assert values["carried_from"].startswith("Report T-")
    itself = inspector.http.post(path, json={"inspection_id": inspection})
    assert (itself.status_code, itself.json()["fields"][0]["field"]) == (422, "inspection_id")
    theirs = stranger.begin()
    answer = stranger.http.post(f"/api/inspections/{theirs}/carry-over", json={"inspection_id": source})
    assert answer.status_code == 404
    assert stranger.http.post(path, json={"inspection_id": theirs}).status_code == 404


def test_carried_over_circuits_are_confirmed_like_any_field_and_listed_before_issuing(inspector, ready):
    inspection = ready()
    _board, circuit = inspector.board(inspection)
    inspector.send(inspection, inspector.change("circuit", circuit, "unconfirmed", True))
    points = inspector.http.get(f"/api/inspections/{inspection}/preview").json()["points"]
    assert any("1 copied" in p["text"] and "1 Cooker" in p["text"] for p in points)
    inspector.send(inspection, inspector.change("circuit", circuit, "unconfirmed", None))
    points = inspector.http.get(f"/api/inspections/{inspection}/preview").json()["points"]
    assert not any("copied from" in p["text"] for p in points)
