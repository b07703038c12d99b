"""The cheapest way to cooler water: ask, refuse, take, undo, and keep another beside it."""

import re

from playwright.sync_api import Page, expect

from tests.journeys.conftest import document_of, figure, saved


def pounds(text):
    return float(re.search(r"£([\d,]+)", text).group(1).replace(",", ""))


def test_from_what_it_needs_today_to_42_with_a_refusal(page: Page, server, job):
    surveyed = document_of(server, job)["survey"]
    page.goto(f"/job/{job}/waterline")
    way = page.get_by_role("region", name="The cheapest way to cooler water")
    expect(way.get_by_text(re.compile("Nothing need be changed for"))).to_be_visible(timeout=60_000)
    way.get_by_label("Flow temperature wanted").fill("42")
    way.get_by_label("Flow temperature wanted").press("Enter")
    expect(way.get_by_text("Proved: no cheaper set of these serves every room.")).to_be_visible()
    kitchen = way.locator("li", has_text="Kitchen")
    expect(kitchen).to_be_visible()
    before = pounds(way.locator("dl dd").first.inner_text())
    kitchen.get_by_role("button", name=re.compile("^Refuse Kitchen")).click()
    expect(way.get_by_text("Kitchen: By the table stays")).to_be_visible()
    expect(way.locator("li", has_text="By the table: ")).to_have_count(0, timeout=60_000)
    saved(page)
    assert document_of(server, job)["schemes"]["lukewarm"]["refused"] == ["emitter:r-kitchen"]
    expect(way.get_by_role("button", name="Take into “Lukewarm water”")).to_be_enabled(timeout=60_000)
    assert pounds(way.locator("dl dd").first.inner_text()) > before
    season = figure(page, "season")
    way.get_by_role("button", name="Take into “Lukewarm water”").click()
    expect(page.locator("[data-figure=flow]").get_by_text("▼")).to_be_visible()
    saved(page)
    assert figure(page, "flow") == 42.0
    assert figure(page, "season") > season
    now = document_of(server, job)
    assert now["schemes"]["lukewarm"]["flow_c"] == 42.0
    assert "r-kitchen" not in now["schemes"]["lukewarm"]["emitters"]
    assert now["survey"] == surveyed  # what was found stays as it was found
    page.locator("body").press("Control+z")
    expect(page.locator("[data-figure=flow]").get_by_text("▲")).to_be_visible()
    saved(page)
    assert (figure(page, "flow"), figure(page, "season")) == (48.0, season)
    way.get_by_role("button", name="allow again").click()
    saved(page)
    assert document_of(server, job)["schemes"]["lukewarm"]["refused"] == []


def test_a_point_of_the_front_is_chosen_by_hand_or_key(page: Page, job):
    page.goto(f"/job/{job}/waterline")
    way = page.get_by_role("region", name="The cheapest way to cooler water")
    dot = way.get_by_role("button", name=re.compile("^44 °C: £"))
    expect(dot).to_be_visible(timeout=60_000)
    dot.focus()
    page.keyboard.press("Enter")
    expect(way.get_by_label("Flow temperature wanted")).to_have_value("44")
    way.get_by_label(re.compile("^Cooler by")).click()
    expect(way.get_by_label("Flow temperature wanted")).to_have_value("43")
    way.get_by_label("Flow temperature wanted").fill("31")
    way.get_by_label("Flow temperature wanted").press("Enter")
    expect(way.get_by_text(re.compile("Garden room lacks \\d+ W"))).to_be_visible()
    expect(way.get_by_role("button", name=re.compile("^Take into"))).to_have_count(0)


def test_under_each_column_stands_what_would_lower_it(page: Page, job):
    page.goto(f"/job/{job}/waterline")
    way = page.get_by_role("region", name="The cheapest way to cooler water")
    way.get_by_label("Flow temperature wanted").fill("42", timeout=60_000)
    way.get_by_label("Flow temperature wanted").press("Enter")
    column = page.get_by_role("button", name=re.compile("^Kitchen: needs"))
    listed = way.locator("li", has_text="Kitchen")
    expect(column).to_contain_text(f"£{pounds(listed.inner_text()):,.0f}")
    expect(page.get_by_role("button", name=re.compile("^Garden room: needs"))).not_to_contain_text("£")
    column.focus()
    page.keyboard.press("Enter")
    ways = page.get_by_role("region", name="What may be done: Kitchen")
    expect(ways).to_be_in_viewport()
    expect(ways.get_by_text("42 °C are asked for")).to_be_visible()
    serving = ways.locator("tr.serves").first
    serving.hover()  # where the room would stand then is drawn into its column
    needed = re.search(r"(\d+\.\d)°C", serving.inner_text()).group(1)
    assert float(needed) <= 42.05
    expect(column.locator(".ghostword")).to_have_text(needed)


def test_what_panels_cost_the_company_moves_the_front(page: Page, server, job):
    page.goto(f"/job/{job}/waterline")
    way = page.get_by_role("region", name="The cheapest way to cooler water")
    way.get_by_label("Flow temperature wanted").fill("44", timeout=60_000)
    way.get_by_label("Flow temperature wanted").press("Enter")
    cost = way.locator("dl dd").first
    expect(cost).to_contain_text("£820")
    under = page.get_by_role("region", name="What the cheapest way is counted from")
    under.get_by_text("What panels cost the company").click()
    under.get_by_label("T33, longer").fill("380")
    under.get_by_label("T33, longer").press("Enter")
    expect(under.get_by_text("your own, edition 1")).to_be_visible()
    expect(cost).not_to_contain_text("£820", timeout=60_000)
    under.get_by_role("button", name="back to ours").click()
    expect(cost).to_contain_text("£820", timeout=60_000)


def test_the_quick_rule_on_site(page: Page, job):
    """1500 W at 50 deg C mean water: about one square metre of T22, 1.67 m at 600 mm (common practice)."""
    page.goto(f"/job/{job}/waterline")
    page.get_by_text("Quick rule for the walk round").click()
    page.get_by_label("Load of the room").fill("1500")
    page.get_by_label("Load of the room").press("Enter")
    page.get_by_label("Mean water").fill("50")
    page.get_by_label("Mean water").press("Enter")
    row = page.get_by_role("row", name=re.compile("^T22"))
    expect(row).to_contain_text("1501")
    expect(row).to_contain_text(re.compile(r"1\.6[67]\d m"))
    page.get_by_label("Mean water").fill("18")
    page.get_by_label("Mean water").press("Enter")
    expect(page.get_by_text(re.compile("no warmer than the room"))).to_be_visible()
    with page.expect_download() as card:
        page.get_by_role("link", name="Print it as a card").click()
    assert card.value.path().read_bytes()[:5] == b"%PDF-"


def test_two_variants_beside_each_other(page: Page, server, job):
    page.goto(f"/job/{job}/waterline")
    way = page.get_by_role("region", name="The cheapest way to cooler water")
    side = page.get_by_role("region", name="Schemes side by side")
    take = way.get_by_role("button", name=re.compile("^Take into"))
    way.get_by_label("Flow temperature wanted").fill("45", timeout=60_000)
    way.get_by_label("Flow temperature wanted").press("Enter")
    take.click()
    expect(page.locator("[data-figure=flow]")).to_contain_text("45.0")
    saved(page)
    side.get_by_role("button", name="Keep this one, go on with a copy").click()
    expect(side.get_by_role("row", name=re.compile("^Lukewarm water \\(copy\\)"))).to_be_visible(timeout=60_000)
    saved(page)
    way.get_by_label("Flow temperature wanted").fill("42")
    way.get_by_label("Flow temperature wanted").press("Enter")
    expect(take).to_be_enabled(timeout=60_000)
    take.click()
    expect(page.locator("[data-figure=flow]")).to_contain_text("42.0")
    saved(page)
    first = side.get_by_role("row", name=re.compile("^Lukewarm water (?!\\(copy)"))
    second = side.get_by_role("row", name=re.compile("^Lukewarm water \\(copy\\)"))
    expect(first).to_contain_text("45.0°C", timeout=60_000)
    expect(second).to_contain_text("42.0°C")
    expect(second).to_contain_text("£")
    side.get_by_role("button", name="Show Lukewarm water", exact=True).click()
    expect(page.locator("[data-figure=flow]")).to_contain_text("45.0")
