"""Labels one by one at a board, printed from there; the firm's rates for repairs, settled by who may."""

from io import BytesIO

from playwright.sync_api import expect
from pypdf import PdfReader

from tests.e2e import seeding
from tests.e2e.walk import all_kept


def test_an_old_interval_is_told_and_a_missing_label_is_one_suggestion(at_work):
    page = at_work("Cooker", "Lights", stage="Boards")
    labels = page.get_by_role("region", name="Labels").first
    main = labels.get_by_role("group", name="Main switch named", exact=False)
    main.get_by_role("button", name="missing").click()
    labels.get_by_role("group", name="Date of the next inspection", exact=False).get_by_role(
        "button", name="removed"
    ).click()
    margin = page.get_by_label("Margin", exact=True)
    expect(margin).to_contain_text("Missing: Main switch named, Date of the next inspection.")
    labels.get_by_text("more, where the home has what they are for").click()
    notice = labels.get_by_role("group", name="RCD test notice", exact=False)
    notice.get_by_role("button", name="found").click()
    labels.get_by_role("group", name="Test interval on it").get_by_role("button", name="quarterly").click()
    expect(margin).to_contain_text("It says quarterly; today's notice says six-monthly.")
    # Fitted today: nothing is left to say.
    notice.get_by_role("button", name="fitted").click()
    main.get_by_role("button", name="fitted").click()
    expect(margin).not_to_contain_text("quarterly")
    expect(margin).to_contain_text("Missing: Date of the next inspection.")
    all_kept(page)


def test_the_next_date_is_printed_once_it_is_chosen(at_work):
    page = at_work("Cooker", stage="Boards")
    inspection = page.url.split("/inspection/")[1].split("/")[0]
    expect(page.get_by_text("To print labels, choose the next inspection under Report.")).to_be_visible()
    early = page.request.get(f"/api/inspections/{inspection}/labels.pdf")
    assert early.status == 409 and "Choose the next inspection under Report" in early.json()["message"]
    told = [
        seeding.change("inspection", inspection, "inspected_on", "2026-11-03"),
        seeding.change("inspection", inspection, "next_years", 5),
    ]
    assert page.request.post(f"/api/inspections/{inspection}/changes", data={"changes": told}).ok
    page.reload()
    path = page.get_by_role("link", name="Print labels").get_attribute("href")
    text = "".join(one.extract_text() for one in PdfReader(BytesIO(page.request.get(path).body())).pages)
    assert "November 2031" in text and "Last inspected 3 November 2026" in text


def test_rates_for_repairs_are_settled_by_who_may_and_refused_by_name(signed_in, firm):
    page = signed_in(home=False, email=firm.supervisor_email)
    page.goto("/firm/rates")
    rates = page.get_by_role("region", name="Repairs")
    line = rates.get_by_role("listitem").filter(has_text="RCD renewed")
    line.get_by_label("Price", exact=False).fill("118")
    line.get_by_label("Price", exact=False).blur()
    expect(line).to_contain_text("usual: 98")
    line.get_by_label("Price", exact=False).fill("a lot")
    line.get_by_label("Price", exact=False).blur()
    expect(line).to_contain_text("Enter a number from 0 to 100000.")
    line.get_by_label("Price", exact=False).fill("98")
    line.get_by_label("Price", exact=False).blur()
    expect(line).not_to_contain_text("usual: 98")
