"""A device that is taken along: its PIN, ten wrong ones, a lost one, and what it hands to another without a server."""

import io
import re
from contextlib import contextmanager

import pytest
from PIL import Image
from playwright.sync_api import expect

from dorrik.store.people import people
from tests.chromium import FLAGS, without_windows
from tests.conftest import PASSWORD
from tests.e2e.on_device import device_page, kept_on_the_device, nothing_to_read
from tests.e2e.walk import all_kept, cell, figure


@pytest.fixture
def playwright_again(browser):
    """Opens a browser whose camera sees a film."""

    @contextmanager
    def open_browser(film):
        flags = [
            *FLAGS, "--use-fake-ui-for-media-stream", "--use-fake-device-for-media-stream",
            f"--use-file-for-fake-video-capture={film}",
        ]  # fmt: skip
        again = browser.browser_type.launch(executable_path=without_windows(), args=flags)
        try:
            yield again
        finally:
            again.close()

    return open_browser


def choose_pin(page, pin):
    page.get_by_role("button", name="Choose a PIN").click()
    page.get_by_label("New PIN", exact=True).fill(pin)
    page.get_by_label("New PIN again").fill(pin)
    page.get_by_role("dialog").get_by_role("button", name="Choose a PIN").click()
    expect(page.get_by_text("Sealed, with a PIN.")).to_be_visible()


def say(page, pin):
    for one in pin:
        page.get_by_role("button", name=one, exact=True).click()
    page.get_by_role("button", name="Open", exact=True).click()


def known_by_key(supervisor, engine, email):
    """Wait until a device of somebody was in touch, so that the server knows its key."""
    with engine.connect() as connection:
        person = people.by_address(connection, email).id
    for _ in range(200):
        if any(d["person_id"] == person for d in supervisor.request.get("/api/devices/of-the-firm").json()):
            return
        supervisor.wait_for_timeout(200)
    raise AssertionError("Its device was not heard of.")


def test_a_pin_is_asked_for_also_without_a_server_and_opens_what_waits(at_work, place):
    page = at_work("Cooker", stage="Dead tests", base=place.base, on_device=True)
    all_kept(page)
    kept_on_the_device(page)
    work = page.url
    device_page(page, place.base)
    choose_pin(page, "2468")
    page.goto(work)
    say(page, "2468")
    expect(cell(page, "1 Cooker, R1+R2 Ω")).to_be_visible()
    place.down()
    figure(page, "1 Cooker, R1+R2 Ω", "0.12")
    expect(page.get_by_text("1 to send")).to_be_visible()
    page.reload()
    expect(page.get_by_role("heading", name="PIN of this device")).to_be_visible()
    expect(page.get_by_text("Lookout Row")).to_have_count(0)
    nothing_to_read(page, "0.12", "Lookout Row")
    say(page, "1357")
    expect(page.get_by_role("alert")).to_contain_text("9 tries are left")
    # By a keyboard as by a glove.
    page.keyboard.type("2468")
    page.keyboard.press("Enter")
    expect(cell(page, "1 Cooker, R1+R2 Ω")).to_have_value("0.12")
    place.up()
    all_kept(page)


def test_ten_wrong_pins_wipe_the_device_and_end_its_session(signed_in, firm):
    page = signed_in()
    device_page(page)
    choose_pin(page, "2468")
    page.reload()
    for left in range(9, 0, -1):
        say(page, "0000")
        expect(page.get_by_role("alert")).to_contain_text("One try is left" if left == 1 else f"{left} tries are left")
    with page.expect_response(lambda answer: answer.url.endswith("/api/session") and answer.request.method == "DELETE"):
        say(page, "0000")
    expect(page.get_by_text("This device was wiped")).to_be_visible()
    assert page.request.get("/api/home").status == 401
    page.get_by_label("Email").fill(firm.inspector_email)
    page.get_by_label("Password").fill(PASSWORD)
    page.get_by_role("button", name="Sign in").click()
    expect(page.get_by_text("Sealed by this browser, without a PIN.")).to_be_visible()
    page.reload()
    expect(page.get_by_text("Sealed by this browser, without a PIN.")).to_be_visible()


def test_a_lost_device_is_ended_by_a_supervisor_who_sees_what_had_not_arrived(at_work, signed_in, firm):
    page = at_work("Cooker", stage="Dead tests")
    figure(page, "1 Cooker, R1+R2 Ω", "0.1..2")
    expect(page.get_by_text("1 not accepted")).to_be_visible()
    office = signed_in(firm.supervisor_email)

    def waits():
        return [
            d["waiting"] for d in office.request.get("/api/devices/of-the-firm").json() if d["person"] != "Sol Visor"
        ]

    for _ in range(100):
        if waits() == [1]:
            break
        office.wait_for_timeout(200)
    office.goto("/people")
    office.get_by_role("button", name="1 thing waits there: Ines Pector").click()
    told = office.get_by_role("dialog")
    expect(told).to_contain_text("1 not arrived")
    expect(told).to_contain_text("R1+R2")
    told.get_by_role("button", name="Close").click()
    office.get_by_role("button", name=re.compile("End the device of Ines Pector")).click()
    office.get_by_role("dialog").get_by_role("button", name="End this device").click()
    expect(office.get_by_text("1 not arrived")).to_be_visible()
    figure(page, "1 Cooker, L–N MΩ", ">500")
    expect(page.get_by_role("dialog").get_by_text("Your session has ended.")).to_be_visible()


def test_what_waits_goes_to_another_device_and_arrives_under_its_authors_name(
    at_work, signed_in, firm, engine, place, tmp_path
):  # fmt: skip
    page = at_work("Cooker", stage="Dead tests", base=place.base, on_device=True)
    all_kept(page)
    kept_on_the_device(page)
    work = page.url
    other = signed_in(firm.supervisor_email, base=place.base, on_device=True)
    other.evaluate("navigator.serviceWorker.ready.then(() => true)")
    known_by_key(other, engine, firm.inspector_email)
    device_page(other, place.base)
    place.down()
    figure(page, "1 Cooker, R1+R2 Ω", "0.12")
    figure(page, "1 Cooker, L–N MΩ", ">500")
    expect(page.get_by_text("2 to send")).to_be_visible()
    page.goto(f"{place.base}/device")
    with page.expect_download() as saved:
        page.get_by_role("button", name="Save as a file").click()
    file = tmp_path / "handed.dorrik"
    saved.value.save_as(file)
    # The battery is empty.
    page.context.set_offline(True)
    other.get_by_label("Take a file that another device handed over").set_input_files(file)
    expect(other.get_by_text("2 entries and 0 photos of Ines Pector are on this device now.")).to_be_visible()
    expect(other.get_by_text("Waits for the server")).to_be_visible()
    place.up()
    expect(other.get_by_text("2 entries arrived")).to_be_visible()
    other.goto(work)
    expect(cell(other, "1 Cooker, R1+R2 Ω")).to_have_value("0.12")
    cell(other, "1 Cooker, R1+R2 Ω").click()
    other.get_by_role("button", name="history").click()
    expect(other.get_by_role("dialog", name="History of this figure")).to_contain_text("Ines Pector")
    # Charged again, it sends the same: it counts once.
    page.context.set_offline(False)
    page.goto(work)
    all_kept(page)
    found = work.split("/inspection/")[1].split("/")[0]
    circuit = next(
        e for e in other.request.get(f"/api/inspections/{found}").json()["entities"] if e["kind"] == "circuit"
    )
    history = other.request.get(f"/api/inspections/{found}/history?entity_id={circuit['id']}&field=r1_r2_ohm").json()
    assert [entry["value"] for entry in history] == ["0.12"]


def video(pictures, to):
    """A film of pictures, as Chromium takes one for a camera (Y4M): each for a fifth of a second."""
    side = 720
    with to.open("wb") as film:
        film.write(f"YUV4MPEG2 W{side} H{side} F5:1 Ip A1:1 C420jpeg\n".encode())
        for picture in pictures:
            grey = Image.open(io.BytesIO(picture)).convert("L").resize((side, side))
            film.write(b"FRAME\n" + grey.tobytes() + bytes([128]) * (side * side // 2))


def test_codes_on_one_screen_are_read_by_the_camera_of_another(
    at_work, signed_in, firm, engine, place, tmp_path, playwright_again
):  # fmt: skip
    page = at_work("Cooker", stage="Dead tests", base=place.base, on_device=True)
    all_kept(page)
    kept_on_the_device(page)
    office = signed_in(firm.supervisor_email, base=place.base)
    known_by_key(office, engine, firm.inspector_email)
    place.down()
    for label, value in (("R1+R2 Ω", "0.12"), ("L–N MΩ", ">500"), ("L–E MΩ", ">500"), ("R2 Ω", "0.08")):
        if cell(page, f"1 Cooker, {label}").count():
            figure(page, f"1 Cooker, {label}", value)
    expect(page.get_by_text(re.compile(r"^\d+ to send$"))).to_be_visible()
    entries = int(page.get_by_text(re.compile(r"^\d+ to send$")).inner_text().split()[0])
    page.goto(f"{place.base}/device")
    page.get_by_role("button", name="Show as codes").click()
    code = page.get_by_role("img", name="A code for the other device")
    expect(code).to_be_visible()
    shown = [code.screenshot() for _ in range(14)]
    # A camera that comes too late, and misses every third.
    film = tmp_path / "codes.y4m"
    video([one for at, one in enumerate(shown[2:]) if at % 3], film)
    # The battery is empty.
    page.context.set_offline(True)
    place.up()
    with playwright_again(film) as browser:
        context = browser.new_context(base_url=place.base, permissions=["camera"])
        answer = context.request.post(
            "/api/session", data={"email": firm.supervisor_email, "password": PASSWORD}
        )  # fmt: skip
        assert answer.ok
        other = context.new_page()
        device_page(other)
        other.get_by_role("button", name="Read codes with the camera").click()
        told = f"{entries} {'entry' if entries == 1 else 'entries'} and 0 photos of Ines Pector are on this device now."
        expect(other.get_by_text(told)).to_be_visible()
        expect(other.get_by_text(f"{entries} {'entry' if entries == 1 else 'entries'} arrived")).to_be_visible()


CLEAR = """async () => {
    localStorage.clear();
    for (const { name } of await indexedDB.databases()) indexedDB.deleteDatabase(name);
}"""


def test_a_browser_that_cleared_what_it_kept_says_what_is_gone(at_work):
    page = at_work("Cooker", stage="Dead tests")
    figure(page, "1 Cooker, R1+R2 Ω", "0.1..2")
    expect(page.get_by_text("1 not accepted")).to_be_visible()
    for _ in range(200):
        if [d["waiting"] for d in page.request.get("/api/devices").json()] == [1]:
            break
        page.wait_for_timeout(200)
    page.evaluate(CLEAR)
    page.goto("/")
    told = page.get_by_role("alert").filter(has_text="cleared what was kept on this device")
    expect(told).to_contain_text("One thing had not arrived")
    told.get_by_role("button", name="Seen").click()
    expect(told).to_have_count(0)
