"""The house in time, driven for real."""

import re

from playwright.sync_api import Page, expect

from tests.journeys.conftest import document_of, saved


def test_a_week_is_run_as_it_is_set_and_in_another_way(page: Page, job):
    page.goto(f"/job/{job}/twin")
    chart = page.get_by_role("group", name=re.compile("^the coldest week: rooms, water"))
    expect(chart).to_be_visible(timeout=60_000)
    expect(page.get_by_text(re.compile("^The coldest week, as it is set"))).to_be_visible()
    rows = page.locator("main table tbody tr")
    expect(rows.filter(has_text="Off at night")).to_be_visible(timeout=90_000)
    rows.filter(has_text="Off at night").get_by_role("button").click()
    expect(page.get_by_text(re.compile("^The coldest week, off at night"))).to_be_visible(timeout=60_000)
    parlour = page.get_by_role("button", name=re.compile("^Parlour"))
    parlour.click()
    expect(parlour).to_have_attribute("aria-pressed", "true")
    chart.focus()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_text(re.compile(r"day 1, 00:15 · outside .* Parlour"))).to_be_visible()
    page.get_by_label("Which week").select_option("mild")
    expect(page.get_by_text(re.compile("^A mild week, off at night"))).to_be_visible(timeout=60_000)
    page.get_by_label("How heavy the house is").select_option("very heavy")
    saved(page)
    page.get_by_text("Reckoned with").click()
    expect(page.get_by_text("hold heat as a very heavy house")).to_be_visible(timeout=90_000)


def test_a_house_without_a_machine_says_what_to_do_first(page: Page, job):
    page.goto(f"/job/{job}/twin")
    expect(page.get_by_label("Which week")).to_be_visible()
    page.get_by_label("Scheme on show").select_option("")
    expect(page.get_by_text("As found there is no machine to run").first).to_be_visible(
        timeout=60_000
    )  # of the year and of the week
    expect(page.get_by_role("link", name="To the machine")).to_be_visible()


def test_the_room_controller_is_set_and_its_plain_page_read(page: Page, server, job):
    page.goto(f"/job/{job}/twin")
    expect(page.get_by_text(re.compile("^In charge: "))).to_be_visible(timeout=90_000)
    expect(page.get_by_role("row", name=re.compile("^a weekend")).first).to_be_visible()
    page.get_by_label("Off the water at night").fill("4")
    page.get_by_label("Off the water at night").press("Enter")
    page.get_by_label("Whom to call").fill("Wren Tolley")
    page.get_by_label("Whom to call").press("Enter")
    saved(page)
    kept = document_of(server, job)["schemes"]["lukewarm"]["control"]["room"]
    assert (kept["setback_k"], kept["call"]) == (4.0, "Wren Tolley")
    expect(page.get_by_text("the line of the curve desk, 4 K cooler at night")).to_be_visible(timeout=90_000)
    page.get_by_role("link", name="Page for those who live here").click()
    paper = page.frame_locator("iframe")
    expect(paper.get_by_role("heading", name="Living with the heating")).to_be_visible(timeout=90_000)
    expect(paper.get_by_text("Call Wren Tolley")).to_be_visible()
