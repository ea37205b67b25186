"""Two tablets in one home, each away for a while: what they did is put together, and what does not fit is asked."""

import pytest
from playwright.sync_api import expect
from sqlalchemy import insert, select

from dorrik.store.database.engine import new_id, now
from dorrik.store.database.tables import change, issued_report
from tests.e2e import seeding
from tests.e2e.on_device import kept_on_the_device
from tests.e2e.walk import all_kept, cell, figure, stage


@pytest.fixture
def issued_there(engine):
    """Write down that a report of an inspection was issued, as issuing does it, without all that a report needs."""

    def issue(inspection_id):
        with engine.begin() as connection:
            by = connection.execute(select(change.c.author_id).where(change.c.inspection_id == inspection_id)).scalar()
            connection.execute(
                insert(issued_report).values(
                    id=new_id(), inspection_id=inspection_id, kind="report", number=1, issued_at=now(), issued_by=by,
                    seq=1, outcome="satisfactory", document="{}", pdf=b"", sha256="0" * 64,
                )
            )  # fmt: skip

    return issue


def away(*pages):
    for page in pages:
        kept_on_the_device(page)
        page.context.set_offline(True)


def back(page):
    page.context.set_offline(False)
    all_kept(page)


def both_at(at_work, signed_in, firm, *presets, stage_name):
    one = at_work(*presets, stage=stage_name, on_device=True)
    other = signed_in(firm.supervisor_email, on_device=True)
    other.goto(one.url)
    all_kept(one)
    all_kept(other)
    return one, other


def test_a_board_that_both_recorded_becomes_one(at_work, signed_in, firm):
    one, other = both_at(at_work, signed_in, firm, stage_name="Boards")
    away(one, other)
    for page, name, circuit in ((one, "Consumer unit", "+ Cooker"), (other, "CU", "+ Cooker")):
        page.get_by_role("button", name="Add the first board").click()
        page.get_by_label("Name", exact=True).fill(name)
        page.get_by_label("Name", exact=True).blur()
        page.get_by_role("button", name=circuit).click()
        expect(page.locator("table tbody tr")).to_have_count(1)
    back(one)
    back(other)

    other.get_by_role("button", name="Choose what to keep").click()
    asked = other.get_by_role("dialog", name="Choose what to keep")
    expect(asked).to_contain_text("One board, or two?")
    expect(asked).to_contain_text("Ines Pector")
    # Nothing is joined before it is said what stands where the two differ.
    join = asked.get_by_role("button", name="One board: join them")
    expect(join).to_be_disabled()
    asked.get_by_role("button", name="Choose: Consumer unit").click()
    join.click()
    # The two ways of one number are asked for next.
    expect(asked).to_contain_text("One circuit, or two?")
    asked.get_by_role("button", name="One circuit: join them").click()
    expect(asked).to_have_count(0)
    all_kept(other)
    for page in (one, other):
        expect(page.get_by_role("button", name="Choose what to keep")).to_have_count(0)
        stage(page, "Dead tests")
        expect(cell(page, "1 Cooker, R1+R2 Ω")).to_have_count(1)


def test_figures_on_a_circuit_that_was_taken_out_are_brought_back_with_a_tap(at_work, signed_in, firm):
    one, other = both_at(at_work, signed_in, firm, "Cooker", "Shower", stage_name="Dead tests")
    away(one)
    figure(one, "1 Cooker, R1+R2 Ω", "0.19")
    found = other.url.split("/inspection/")[1].split("/")[0]
    known = other.request.get(f"/api/inspections/{found}").json()
    circuit = next(e["id"] for e in known["entities"] if e["kind"] == "circuit" and e["values"].get("way") == "1")
    removal = seeding.change("circuit", circuit, "removed", True) | {"based_on": known["seq"]}
    sent = other.request.post(f"/api/inspections/{found}/changes", data={"changes": [removal]})
    assert sent.ok
    expect(cell(other, "1 Cooker, R1+R2 Ω")).to_have_count(0)
    back(one)
    one.get_by_role("button", name="Choose what to keep").click()
    asked = one.get_by_role("dialog", name="Choose what to keep")
    expect(asked).to_contain_text("was removed, and worked on")
    expect(asked).to_contain_text("0.19")
    asked.get_by_role("button", name="Bring 1 Cooker back").click()
    expect(asked).to_have_count(0)
    for page in (one, other):
        expect(cell(page, "1 Cooker, R1+R2 Ω")).to_have_value("0.19")


def test_what_was_entered_before_the_report_was_issued_waits_for_a_word(at_work, signed_in, firm, issued_there):
    page = at_work("Cooker", stage="Dead tests", on_device=True)
    all_kept(page)
    away(page)
    figure(page, "1 Cooker, R1+R2 Ω", "0.19")
    figure(page, "1 Cooker, L–N MΩ", ">500")
    issued_there(page.url.split("/inspection/")[1].split("/")[0])
    page.context.set_offline(False)
    told = page.get_by_role("alert").filter(has_text="2 entries wait here: issue 1 was signed before they arrived.")
    expect(told).to_be_visible()
    # It outlives the page.
    page.reload()
    expect(told).to_be_visible()
    expect(cell(page, "1 Cooker, R1+R2 Ω")).to_have_value("0.19")
    told.get_by_role("button", name="Enter as a correction").click()
    expect(told).to_have_count(0)
    all_kept(page)
    page.reload()
    expect(cell(page, "1 Cooker, R1+R2 Ω")).to_have_value("0.19")
    # Whoever knows of the issue is not asked again.
    figure(page, "1 Cooker, R1+R2 Ω", "0.21")
    all_kept(page)


def test_what_waited_is_left_out_where_the_report_is_to_stand(at_work, signed_in, firm, issued_there):
    page = at_work("Cooker", stage="Dead tests", on_device=True)
    all_kept(page)
    away(page)
    figure(page, "1 Cooker, R1+R2 Ω", "0.19")
    issued_there(page.url.split("/inspection/")[1].split("/")[0])
    page.context.set_offline(False)
    page.get_by_role("button", name="Leave out").click()
    expect(cell(page, "1 Cooker, R1+R2 Ω")).to_have_value("")
    all_kept(page)
