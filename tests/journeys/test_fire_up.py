"""The house in time, driven for real."""

import re

from playwright.sync_api import Page, expect

from tests.journeys.conftest import saved


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
    expect(page.get_by_text("As found there is no machine to run")).to_be_visible(timeout=60_000)
    expect(page.get_by_role("link", name="To the machine")).to_be_visible()
