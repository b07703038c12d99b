"""A house that cannot live on lukewarm water: the four ways on, a hybrid on its flat roof, what it costs and who hears it."""

import re
from datetime import datetime, timedelta

import httpx
import pytest
from playwright.sync_api import Page, expect

from tests.conftest import counting_house
from tests.journeys.conftest import document_of, saved

NUMBERS = iter(range(100))


@pytest.fixture
def bare(server):
    """The counting-house before anybody has chosen anything for it."""
    document = counting_house() | {"id": f"bare-{next(NUMBERS)}"}
    scheme = document["schemes"]["hybrid"]
    scheme |= {"candidates": {}, "label": "To be decided"}
    for name in ("chosen", "flow_c", "spread_k"):
        scheme.pop(name, None)
    document["site"]["supply"] |= {"spare_way": True}
    assert httpx.post(f"{server.url}/api/jobs/import", json=document).status_code == 201
    return document["id"]


def tab(page: Page, name: str) -> None:
    page.get_by_role("tab", name=name).click()


def compared(page: Page) -> None:
    """Some machine is compared, so that the tabs are there."""
    page.get_by_role("button", name="Compare five about its size").click()
    expect(page.get_by_role("tab", name="Four ways on")).to_be_visible()
    saved(page)


def test_a_hybrid_is_begun_from_the_four_ways_and_put_on_the_roof(page: Page, server, bare):
    page.goto(f"/job/{bare}/machine")
    compared(page)
    tab(page, "Four ways on")
    table = page.get_by_role("table").filter(has_text="Keeps open")
    expect(table).to_be_visible(timeout=60_000)
    found = httpx.get(f"{server.url}/api/jobs/{bare}/alternatives", timeout=60).json()["alternatives"]
    ways = {one["key"]: one for one in found["rows"]}
    # no machine makes such water in such cold for the whole of it: it says so, and the hybrid can be had
    assert "No machine on the shelf makes" in ways["hot"]["lacks"]
    expect(table.get_by_text(ways["hot"]["lacks"])).to_be_visible()
    assert ways["hybrid"]["flow_c"] >= 55
    buttons = table.get_by_role("button", name="Begin a scheme of it")
    expect(buttons).to_have_count(3)
    buttons.nth(1).click()
    saved(page)
    document = document_of(server, bare)
    scheme = document["schemes"][document["active_scheme"]]
    assert scheme["label"] == "A hybrid now"
    assert next(iter(scheme["candidates"].values()))["backup"]["kind"] == "boiler"
    # what the boiler carries is no shortfall of the house
    findings = httpx.get(f"{server.url}/api/jobs/{bare}").json()["design"]["findings"]
    assert not [f for f in findings if f["severity"] == "short" and f["screen"] in ("machine", "waterline")]
    tab(page, "Its size")
    page.get_by_text(f"How warm {ways['hybrid']['machine']} makes water").click()
    limits = page.get_by_role("img", name=f"How warm {ways['hybrid']['machine']} makes water")
    expect(limits.get_by_text("this job's curve")).to_be_visible()
    # the curve ends inside what it can make at the mild end, whose limit lies higher on the chart
    heights = limits.evaluate(
        "(svg) => ['its limit', 'the store', \"this job's curve\"].map((said) => "
        "Number([...svg.querySelectorAll('text')].find((t) => t.textContent === said).getAttribute('y')))"
    )
    assert heights[0] < heights[1] < heights[2]
    tab(page, "Through the year")
    row = page.get_by_role("row", name=re.compile(f"^{ways['hybrid']['machine']}"))
    expect(row).to_contain_text("the boiler that is there (natural gas)")
    expect(row).to_contain_text("fuel counted in")
    tab(page, "Where it stands")
    page.get_by_role("button", name=re.compile("^Kitchen roof, a place")).click()
    roof = page.get_by_role("region", name=re.compile("^Kitchen roof"))
    roof.get_by_role("button", name=re.compile("^Put .* here")).click()
    expect(roof.get_by_text("stands here")).to_be_visible()
    expect(roof.get_by_text(re.compile("pipes 9.0 m, as drawn on the site"))).to_be_visible()
    # a second bend makes the way longer, and the root pipe with it
    roof.get_by_role("button", name="+ a bend in the pipes").click()
    site = page.get_by_role("group", name="The site with the places for the unit")
    bend = site.get_by_role("button", name="bend 2 of the pipes")
    bend.focus()
    for _ in range(3):
        page.keyboard.press("Shift+ArrowRight")
    saved(page)
    longer = httpx.get(f"{server.url}/api/jobs/{bare}").json()["design"]
    place = next(p for p in longer["places"]["places"] if p["chosen"])
    assert place["run"]["length_m"] > 9.1
    root = next(p for p in longer["pipework"]["pipes"] if p["parent"] is None)
    assert root["length_m"] == pytest.approx(place["run"]["length_m"])
    # over a loft: its rise and fall count, and stay where the bend is moved along the plan
    high = roof.get_by_label("Height of bend 2 of the pipes")
    high.fill("6.0")
    high.press("Enter")
    saved(page)
    bend.focus()
    page.keyboard.press("ArrowRight")
    saved(page)
    over = httpx.get(f"{server.url}/api/jobs/{bare}").json()["design"]["places"]["places"]
    # from 3.5 m up to 6.0 and down to the store's 1.0 m: 7.5 m instead of 2.5
    assert next(p for p in over if p["chosen"])["run"]["length_m"] > place["run"]["length_m"] + 4.9
    bend.focus()
    page.keyboard.press("Delete")
    expect(bend).to_be_hidden()
    expect(roof.get_by_text(re.compile("pipes 9.0 m, as drawn on the site"))).to_be_visible()


def half_hours() -> bytes:
    """A year of half-hours, dear from four to seven in the afternoon, cheap at night."""
    first = datetime(2025, 1, 1)
    rows = (first + timedelta(minutes=30 * n) for n in range(365 * 48))
    return b"from,price\n" + b"".join(
        f"{at:%Y-%m-%dT%H:%M},{11 if at.hour < 5 else 42 if 16 <= at.hour < 19 else 24}\n".encode() for at in rows
    )


def test_prices_by_the_hour_the_roofs_sun_and_a_grant(page: Page, server, job):
    page.goto(f"/job/{job}/machine")
    tab(page, "What it costs")
    row = page.get_by_role("row", name=re.compile("^Sedge 9"))
    expect(row).to_contain_text("£", timeout=60_000)

    def cost() -> float:
        saved(page)
        found = httpx.get(f"{server.url}/api/jobs/{job}/running", timeout=60).json()["running"]
        return next(r for r in found["rows"] if r["chosen"])["cost_minor"]["mid"]

    before = cost()
    page.get_by_label("Bring in prices by the hour").set_input_files(
        {"name": "wrong.csv", "mimeType": "text/csv", "buffer": b"from,price\n2025-01-01T00:00,dear\n"}
    )
    expect(page.get_by_text("line 2, price: is no price")).to_be_visible()
    page.get_by_label("Bring in prices by the hour").set_input_files(
        {"name": "row-tariff.csv", "mimeType": "text/csv", "buffer": half_hours()}
    )
    expect(page.get_by_text("17,520 prices, 2025-01-01 to 2025-12-31, steps of 30 minutes.")).to_be_visible()
    expect(page.get_by_role("img", name=re.compile("^Prices by hour and month, 11.0 to 42.0"))).to_be_visible()
    assert cost() != before
    expect(page.get_by_text("into the six cheapest hours", exact=False).first).to_be_visible()
    by_hours = cost()
    page.get_by_role("button", name="There are solar modules").click()
    expect(page.get_by_text(re.compile("They make about"))).to_be_visible()
    assert cost() < by_hours
    page.get_by_role("button", name="Take Grant for a machine off").click()
    page.get_by_role("button", name="+ a grant").click()
    # a share told in per cent and an amount in pounds are refused as they were typed
    for label, typed, said in (
        ("Share of A grant", "500", "must be at most 100; 500 was sent"),
        ("Amount of A grant", "-5", "must be at least 0; -5 was sent"),
        ("Prices may be off by", "150", "must be at most 100; 150 was sent"),
    ):
        field = page.get_by_label(label, exact=True)
        field.fill(typed)
        field.press("Enter")
        expect(page.get_by_role("alert").filter(has_text=said)).to_be_visible()
        field.press("Escape")
    page.get_by_label("Prices may be off by").fill("20")
    page.get_by_label("Prices may be off by").press("Enter")
    saved(page)
    assert document_of(server, job)["tariff"]["spread"] == 0.2
    name = page.get_by_label("Name of the grant")
    name.fill("Lock fund")
    name.press("Enter")
    amount = page.get_by_label("Amount of Lock fund")
    amount.fill("2000")
    amount.press("Enter")
    expect(page.get_by_text("£2,000 for Sedge 9")).to_be_visible()
    page.get_by_role("button", name="keep it for the company").click()
    expect(page.get_by_text("Lock fund is kept for the company.")).to_be_visible()
    page.get_by_role("button", name="Take Lock fund off").click()
    page.get_by_role("button", name="Take the company’s").click()
    expect(page.get_by_label("Amount of Lock fund")).to_have_value("2000")
    page.get_by_text("Sedge 9's year is summed").click()
    expect(page.get_by_role("row", name=re.compile("^electricity bought"))).to_be_visible()
    page.get_by_role("button", name="back to one price").click()
    expect(page.get_by_label("Price of electricity", exact=True)).to_be_visible()


def test_the_site_is_drawn_and_the_companys_distances_are_followed(page: Page, server, job):
    page.goto(f"/job/{job}/machine")
    tab(page, "Where it stands")
    place = page.get_by_role("region", name=re.compile("^Garden gable"))
    expect(place.get_by_role("row", name=re.compile("^From the edge of the plot"))).to_contain_text("met")
    site = page.get_by_role("group", name="The site with the places for the unit")
    # the east side of the plot comes to a metre from the unit
    for corner in (2, 3):
        site.get_by_role("button", name=f"corner {corner} of the plot").focus()
        for _ in range(4):
            page.keyboard.press("Shift+ArrowLeft")
    expect(place.get_by_role("row", name=re.compile("^From the edge of the plot"))).to_contain_text("not met")
    page.get_by_label("Put something else on the site").select_option("unit")
    power = page.get_by_label("Sound power of Another unit")
    power.fill("70")
    power.press("Enter")
    expect(page.get_by_text(re.compile(r"^others \d+\.\d$")).first).to_be_visible()
    rules = httpx.get(f"{server.url}/api/place-rules.csv").text
    assert "tree,From a tree or hedge,tree,1," in rules
    page.get_by_label("Bring in distances").set_input_files(
        {"name": "ours.csv", "mimeType": "text/csv", "buffer": rules.replace("hedge,tree,1,", "hedge,tree,9,").encode()}
    )
    expect(page.get_by_text("Kept for the company: From a tree or hedge.")).to_be_visible()
    page.get_by_role("button", name="Follow the company’s (1)").click()
    tree = place.get_by_role("row", name=re.compile("^From a tree or hedge"))
    expect(tree).to_contain_text("9.00 m")
    expect(tree).to_contain_text("not met")
    page.get_by_role("button", name="back to the general ones").click()
    expect(tree).to_contain_text("1.00 m")


def test_papers_for_one_reader_are_shown_and_written(page: Page, server, job, worker):
    page.goto(f"/job/{job}/report")
    papers = {
        "The customer's page": "What changes in the house", "Noise assessment": "At every window",
        "For the electrician": "What is asked for at once",
    }  # fmt: skip
    for name, said in papers.items():
        page.get_by_label("Which paper").select_option(label=name)
        expect(page.frame_locator(f'iframe[title="{name}"]').get_by_role("heading", name=said)).to_be_visible(
            timeout=60_000
        )
        page.get_by_role("button", name="Write the PDF").click()
        written = page.locator("[data-paper]").first
        expect(written).to_contain_text(name)
        expect(written.get_by_role("link", name="Take the PDF")).to_be_visible(timeout=90_000)
