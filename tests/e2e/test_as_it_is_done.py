"""At the points as people do it: both gangs, one pair all round and then the other, ends opened at a socket, and a
trainee who reads while somebody signs."""

import re

import pytest
from playwright.sync_api import expect

from tests.e2e import seeding
from tests.e2e.test_bench import at_point, at_the_ring, readings
from tests.e2e.walk import all_kept, cell, stage


def enter(page, *texts):
    for text in texts:
        page.keyboard.type(text)
        page.keyboard.press("Enter")


def at_ring(at_work, **device):
    page = at_work("Ring sockets", "Cooker", stage="Dead tests", **device)
    at_the_ring(page)
    cell(page, "1 Sockets, Line end to end").click()
    enter(page, "0.46", "0.46", "0.75")
    return page


def test_each_gang_has_its_figures_and_a_contact_of_one_is_no_spur(at_work):
    page = at_ring(at_work)
    page.get_by_role("button", name="Landing: two gangs, each tested").click()
    at_point(page, "Landing", "neutral").click()
    enter(page, "0.23", "0.29")
    # The second gang is next, then the next socket.
    expect(cell(page, "Landing, Line to neutral, second gang")).to_be_focused()
    enter(page, "0.23", "0.61")
    expect(at_point(page, "Front bed L", "neutral")).to_be_focused()
    margin = page.get_by_label("Margin", exact=True)
    expect(margin.get_by_text("The second gang reads 0.32 Ω more", exact=False)).to_be_visible()
    expect(page.get_by_role("img", name=re.compile("Ring of 9")).get_by_text("spur")).to_have_count(0)
    expect(page.get_by_text("Highest 0.61 Ω at Landing.", exact=False)).to_be_visible()
    all_kept(page)


def test_next_goes_round_with_one_pair_where_that_is_how_this_person_does_it(at_work):
    page = at_ring(at_work)
    neutral, cpc = zip(*readings(), strict=True)
    enter(page, neutral[0])
    # Not the other pair of this socket: the same pair at the next one. From then on it leads there.
    at_point(page, "Front bed L", "neutral").click()
    enter(page, neutral[1])
    expect(at_point(page, "Front bed R", "neutral")).to_be_focused()
    enter(page, *neutral[2:])
    # All round; the other pair begins where the first did.
    expect(at_point(page, "Landing")).to_be_focused()
    enter(page, *cpc)
    expect(page.get_by_role("button", name=re.compile("Record 0.30 Ω|Record 0.3"))).to_be_visible()
    page.get_by_role("button", name="All circuits").click()
    expect(page.get_by_role("link", name="9/9 points of 1 Sockets tested")).to_be_visible()


def test_ends_opened_at_a_socket_are_counted_from_there_and_go_back_there(at_work):
    page = at_ring(at_work)
    page.get_by_label("Ends opened at").select_option("Box room")
    drawn = page.get_by_role("img", name=re.compile("Ring of 9"))
    expect(drawn.get_by_text("ends", exact=True)).to_be_visible()
    page.get_by_role("button", name="to put back").click()
    expect(page.get_by_role("dialog").get_by_text("in their terminals at Box room", exact=False)).to_be_visible()


def test_a_trainees_readings_are_marked_and_countersigned(at_work):
    page = at_work("Cooker", stage="Dead tests")
    inspection = page.url.split("/")[-2]
    seeding.trainee(page.context.request, inspection, "Piet Rook")
    page.reload()
    page.get_by_role("button", name="Trainee").click()
    page.get_by_role("button", name="Piet Rook reads").click()
    page.get_by_role("dialog").get_by_role("button", name="Close").click()
    cell(page, "1 Cooker, R1+R2 Ω").click()
    enter(page, "0.21")
    mark = page.get_by_title("Read by Piet Rook, not countersigned")
    expect(mark).to_have_count(1)
    all_kept(page)
    page.reload()
    expect(mark).to_have_count(1)
    # After a reload who reads is who is signed in.
    page.get_by_role("button", name="Trainee: 1 to sign").click()
    page.get_by_role("button", name="Countersign it").click()
    expect(page.get_by_text("Every reading of a trainee is countersigned.")).to_be_visible()
    page.get_by_role("dialog").get_by_role("button", name="Close").click()
    expect(mark).to_have_count(0)
    stage(page, "Dead tests")
    expect(page.get_by_text("not countersigned")).to_have_count(0)


@pytest.fixture
def lights(at_work):
    """At the bench of a lighting circuit with three points; a second circuit has two."""
    page = at_work("Lights", "Cooker", stage="Dead tests")
    inspection = page.url.split("/")[-2]
    seeding.points(page.context.request, inspection, "Lights", "Hall", "Kitchen", "Loft")
    seeding.points(page.context.request, inspection, "Cooker", "Outlet", "Hob")
    page.reload()
    page.get_by_role("link", name="0/3 points of 1 Lights tested").click()
    # The first figure without a reading waits.
    expect(cell(page, "Hall, Line to cpc")).to_be_focused()
    return page


def test_the_last_key_records_what_the_points_lead_to_and_goes_on(lights):
    page = lights
    # As fast as keys come: what is recorded is the highest of all, the last one with it.
    enter(page, "0.21", "0.42", "0.90", "")
    expect(cell(page, "Outlet, Line to cpc")).to_be_focused()
    page.get_by_role("button", name="All circuits").click()
    expect(cell(page, "1 Lights, R1+R2 Ω")).to_have_value("0.90")
    polarity = cell(page, "1 Lights, Polarity")
    expect(polarity.locator("xpath=..").locator("svg")).to_be_visible()
    all_kept(page)
    page.get_by_role("button", name="Undo", exact=True).click()
    expect(cell(page, "1 Lights, R1+R2 Ω")).to_have_value("")


def test_what_would_be_recorded_is_said_before_and_nothing_is_without_a_server(lights):
    page = lights
    enter(page, "0.21", "0.42", "0.90")
    done = page.get_by_label("Reading pad").get_by_role("button", name=re.compile("^done"))
    expect(done).to_contain_text("R1+R2 0.90 Ω, polarity correct, on to 2 Cooker")
    page.route("**/api/**", lambda route: route.abort())
    # Another reading stands, unjudged, as the key is pressed: what was offered before is not recorded for it.
    cell(page, "Loft, Line to cpc").click()
    enter(page, "1.40", "")
    expect(page.get_by_text("nothing was recorded", exact=False)).to_be_visible()
    expect(cell(page, "Outlet, Line to cpc")).to_be_focused()
    page.unroute("**/api/**")
    all_kept(page)
    page.get_by_role("button", name="All circuits").click()
    expect(cell(page, "1 Lights, R1+R2 Ω")).to_have_value("")


def test_what_a_point_read_before_stands_beside_the_figure_that_is_due(lights):
    page = lights
    inspection = page.url.split("/")[-2]
    seeding.earlier(
        page.context.request, inspection, "Hall", figure="line_cpc_ohm", reading="0.19", measured_on="2021-05-04"
    )
    page.reload()
    cell(page, "Hall, Line to cpc").click()
    expect(page.get_by_label("Reading pad").get_by_text("2021: 0.19", exact=False)).to_be_visible()
    enter(page, "0.84")
    margin = page.get_by_label("Margin", exact=True)
    expect(margin.get_by_text("since 2021-05-04", exact=False)).to_be_visible()
