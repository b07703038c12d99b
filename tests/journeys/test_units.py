"""A job in feet: degrees Fahrenheit, Btu/h, square feet, gallons and feet of head, typed and read, on every screen."""

import re

import httpx
import pytest
from playwright.sync_api import Page, expect

from tests.conftest import counting_house, tansy_cut
from tests.journeys.conftest import document_of, figure, onward, saved
from tests.journeys.test_access import EVERY

OURS = re.compile(
    r"(?:[\d–] ?|\u2009|, |^)(?:°C|kW|W|K|kPa|L/h|L/min|m²|m³|W/m²K?|W/K|W/mK|m²K/W|m³/h|L|Pa/m|m)(?![\w²³/·])"
)
"""A unit of ours where a figure or the head of a column has it."""
ALLOWED = re.compile(r"^L · a shower|metres, °C, watts|, m mirrors|m mirrors its walk|^W\t|Rating, kW")
"""A pattern of draws, the choice of units itself, the key that mirrors a room, the west, and what electricity is rated in everywhere."""
SEEN = """() => [document.body.innerText, ...[...document.querySelectorAll('svg text, svg title, [placeholder], [aria-label]')]
  .map((e) => `${e.closest('svg') ? e.textContent : ''}\\n${e.placeholder ?? ''}\\n${e.getAttribute('aria-label') ?? ''}`)].join('\\n')"""


def in_ours(page: Page) -> list[str]:
    return [line for line in page.evaluate(SEEN).split("\n") if OURS.search(ALLOWED.sub("", line.strip()))]


def in_feet(server, name: str) -> str:
    document = tansy_cut() | {"id": name}
    document["site"] = document["site"] | {"units": "feet", "solar": {"peak_kw": 4.0}, "collectors": {"area_m2": 4.0}}
    document["grants"] = {"g": {"label": "A grant", "most_flow_c": 50.0}}
    assert httpx.post(f"{server.url}/api/jobs/import", json=document).status_code == 201
    return name


def test_no_screen_of_a_job_in_feet_shows_a_unit_of_ours(page: Page, server):
    job = in_feet(server, "in-feet")
    for name in (*EVERY, "plan?room=bed3", "emitters?emitter=loop-garden", "emitters?emitter=r-kitchen"):
        onward(page, job, name)
        expect(page.locator("main h1")).to_be_visible()
        if name in ("year", "measures", "waterline", "plant", "materials", "twin"):
            expect(page.locator("main table:visible").first).to_be_visible()
        page.wait_for_timeout(250)
        assert in_ours(page) == [], name
    for screen, tabs in (
        ("pipework", ("Who gets what", "The pump, and what helps", "One circuit or two", "Frost")),
        ("hot-water", ("How large", "How warm", "Kept clean", "Place and main")),
        ("curve", ("Other kinds of controller",)),
    ):
        onward(page, job, screen)
        for tab in tabs:
            page.get_by_role("tab", name=tab).click()
            expect(page.locator("main table:visible").first).to_be_visible(timeout=60_000)
            page.wait_for_timeout(250)
            assert in_ours(page) == [], tab
    page.goto(f"/job/{job}/machine")
    for tab in ("Through the year", "What it costs", "Where it stands", "Four ways on"):
        page.get_by_role("tab", name=tab).click()
        expect(page.locator("main table:visible").first).to_be_visible(timeout=60_000)
        page.wait_for_timeout(250)
        assert in_ours(page) == [], tab
    # the workings behind the six figures of the bar
    for key in ("loss", "flow", "cover", "season", "head", "open"):
        page.locator(f"[data-figure={key}]").click()
        expect(page.get_by_role("complementary", name="Working").locator("ol")).to_be_visible()
        page.wait_for_timeout(200)
        assert in_ours(page) == [], key


def test_the_bungalow_in_feet_is_read_in_feet(page: Page, server):
    page.goto("/job/oat-store/rooms")
    expect(page.get_by_role("columnheader", name="Wanted, °F")).to_be_visible()
    expect(page.locator("[data-figure=loss] .u")).to_have_text("Btu/h")
    kw = httpx.get(f"{server.url}/api/jobs/oat-store").json()["design"]["house"]["loss_w"] / 1000
    assert figure(page, "loss") == round(kw * 3412.142 / 10) * 10
    page.goto("/")  # the list of jobs has no units of its own
    expect(page.get_by_role("row", name=re.compile("oat", re.I)).get_by_text("kW")).to_be_visible()


def test_what_is_typed_is_taken_in_either_unit(page: Page, server):
    job = in_feet(server, "typed-in-feet")
    page.goto(f"/job/{job}/rooms")
    wanted = page.get_by_label("Wanted temperature in Kitchen")

    def kept():
        saved(page)
        return document_of(server, job)["survey"]["rooms"]["kitchen"]["target_c"]

    wanted.fill("68")
    expect(page.get_by_text("= 68.0 °F (20.0 °C)")).to_be_visible()
    wanted.press("Enter")
    expect(wanted).to_have_value("68.0")
    assert kept() == 20
    wanted.fill("21 C")
    wanted.press("Enter")
    expect(wanted).to_have_value("69.8")
    assert kept() == 21
    # 21 alone is 21 °F here, below the frost guard: not taken, and told as it was typed; what stood there is kept
    wanted.fill("21")
    wanted.press("Enter")
    expect(page.get_by_role("alert").filter(has_text="must be at least 41.0; 21.0 was sent")).to_be_visible()
    expect(page.get_by_text("69.8 °F is kept")).to_be_visible()
    assert document_of(server, job)["survey"]["rooms"]["kitchen"]["target_c"] == 21
    # 45 °F is possible for a cold store: taken, and asked about
    wanted.fill("45")
    wanted.press("Enter")
    expect(page.get_by_text("45.0 °F is unusual")).to_be_visible()
    assert kept() == pytest.approx(7.222, abs=0.001)
    expect(page.get_by_text("45.0 °F is unusual")).to_be_visible()
    wanted.press("Escape")
    # the way back: everything is told in ours again, and nothing of the house has moved
    loss = figure(page, "loss")
    page.goto(f"/job/{job}/site")
    page.get_by_label("Units", exact=True).select_option("metric")
    expect(page.locator("[data-figure=loss] .u")).to_have_text("kW")
    assert abs(figure(page, "loss") * 3412.142 - loss) < 25


CUT_OFF = """() => [...document.querySelectorAll('main table')].flatMap((table) => [
  ...(table.offsetWidth > table.parentElement.clientWidth ? [`the table: ${table.offsetWidth} px`] : []),
  ...[...table.querySelectorAll('input[inputmode]')].filter((one) => one.scrollWidth > one.clientWidth)
    .map((one) => `${one.getAttribute('aria-label')}: ${one.value}`)])"""


@pytest.mark.parametrize("units", ["metric", "feet"])
def test_no_figure_of_the_rooms_is_cut_off_with_the_working_open(page: Page, server, units):
    document = counting_house() | {"id": f"beside-{units}"}
    document["site"]["units"] = units
    assert httpx.post(f"{server.url}/api/jobs/import", json=document).status_code == 201
    page.goto(f"/job/{document['id']}/rooms")
    expect(page.get_by_label("Height of Kitchen", exact=True)).to_be_visible()
    assert page.evaluate(CUT_OFF) == []
    page.get_by_role("button", name="Show the working").first.click()
    expect(page.get_by_role("complementary", name="Working")).to_be_visible()
    page.wait_for_timeout(300)
    assert page.evaluate(CUT_OFF) == []
