"""Every screen in both themes before axe-core: no violation of WCAG 2.1 A and AA."""

from pathlib import Path

import httpx
import pytest
from playwright.sync_api import Page, expect

from tests.conftest import tansy_cut
from tests.journeys.conftest import NUMBER

EVERY = (
    "call", "site", "climate", "walk-round", "plan", "rooms", "emitters", "constructions", "doubts", "losses", "air", "year",
    "measures", "waterline", "machine", "hot-water", "pipework", "plant", "materials", "report",
    "curve", "twin", "correction", "fire-up", "wiring", "practice",
)  # fmt: skip
AXE = Path(__file__).parents[2] / "frontend" / "node_modules" / "axe-core" / "axe.min.js"
OFF = "label-content-name-mismatch"
"""Experimental in axe-core, and off unless asked for by its tag."""
ALL = f"""runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa'], rules: {{'{OFF}': {{enabled: false}}}}"""
COLOURS = "runOnly: {type: 'rule', values: ['color-contrast', 'link-in-text-block']}"
"""What a theme can change: a page is looked at whole in one of them."""
RUN = """async () => (await axe.run(document, {%s, resultTypes: ['violations']})).violations.flatMap(
  (v) => v.nodes.map((n) => `${v.id}: ${n.target.join(' ')} ${n.html.slice(0, 140)} ${(n.any[0] ?? n.all[0])?.message ?? ''}`))"""


ARRIVED = """async () => {
  const after = (ms) => new Promise((seen) => setTimeout(seen, ms));
  await after(150);
  const ends = (one) => Number.isFinite(one.effect?.getComputedTiming().endTime);  // what turns for ever never arrives
  await Promise.race([after(5000), Promise.all(document.getAnimations().filter(ends).map((one) => one.finished.catch(() => null)))]);
}"""


@pytest.fixture(scope="module")
def job(server):
    """One for every look, since none edits it: what one screen had worked out stands for the next."""
    document = tansy_cut() | {"id": f"looked-at-{next(NUMBER)}"}
    assert httpx.post(f"{server.url}/api/jobs/import", json=document).status_code == 201
    return document["id"]


def violations(page: Page, rules: str = ALL) -> list[str]:
    if not page.evaluate("() => 'axe' in window"):
        page.evaluate(AXE.read_text())  # not as a script tag: our policy lets none in
    return page.evaluate(RUN % rules)


def in_theme(page: Page, theme: str) -> list[str]:
    """Violations once every colour has arrived: a busy machine may take long over a transition of a tenth of a second."""
    page.emulate_media(reduced_motion="reduce")
    page.evaluate(f"document.documentElement.dataset.theme = '{theme}'")
    page.evaluate(ARRIVED)
    return violations(page, COLOURS if theme == "dusk" else ALL)


@pytest.mark.parametrize(
    "path", ["/", *EVERY, "plan?walk=new", "emitters?emitter=loop-garden", "emitters?emitter=r-kitchen"]
)
def test_no_violation_by_day_and_at_dusk(page: Page, job, path):
    page.goto(path if path == "/" else f"/job/{job}/{path}")
    expect(page.locator("main h1")).to_be_visible()
    expect(page.locator("[aria-busy=true]")).to_have_count(0)  # what is being worked out stands paler meanwhile
    for theme in ("day", "dusk"):
        assert "\n".join(in_theme(page, theme)) == "", theme


@pytest.mark.parametrize("tab", ["Through the year", "What it costs", "Where it stands", "Four ways on"])
def test_no_violation_on_the_tabs_of_the_machine(page: Page, job, tab):
    page.goto(f"/job/{job}/machine")
    page.get_by_role("tab", name=tab).click()
    expect(page.get_by_role("tab", name=tab)).to_have_attribute("aria-selected", "true")
    if tab != "Where it stands":
        expect(page.locator("[aria-busy=false]").first).to_be_visible()
    page.get_by_text("The company's own machines").click()
    page.get_by_role("button", name="Type one").click()
    assert "\n".join(violations(page)) == ""


@pytest.mark.parametrize(
    ("screen", "tab"),
    [
        ("pipework", "Who gets what"), ("pipework", "The pump, and what helps"), ("pipework", "One circuit or two"),
        ("pipework", "Frost"), ("plant", None), ("materials", None),
    ],
)  # fmt: skip
def test_no_violation_once_the_water_is_worked_out(page: Page, job, screen, tab):
    page.goto(f"/job/{job}/{screen}")
    if tab is not None:
        page.get_by_role("tab", name=tab).click()
    expect(page.locator("main table:visible").first).to_be_visible(timeout=60_000)
    expect(page.locator("[aria-busy=true]")).to_have_count(0)
    for theme in ("day", "dusk"):
        assert "\n".join(in_theme(page, theme)) == "", theme


def test_no_violation_in_drawer_keys_and_jump(page: Page, job):
    page.goto(f"/job/{job}/rooms")
    page.get_by_role("button", name="Show the working").first.click()
    expect(page.get_by_role("complementary", name="Working")).to_be_visible()
    assert "\n".join(violations(page)) == ""
    for key in ("f", "?", "/"):
        page.keyboard.press(key)
        page.wait_for_timeout(400)
        assert "\n".join(violations(page)) == "", key
        if key != "f":
            page.keyboard.press("Escape")
