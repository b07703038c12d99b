"""The field belongs to the hand while the hand is in it."""

import re
import time

import httpx
import pytest
from playwright.sync_api import Page, expect

from tests.journeys.conftest import CHANGES, document_of, onward, saved

NEWS = re.compile(r"/events$")


def slow_line(page: Page, seconds: float) -> None:
    """Every edit takes its time on the way."""

    def wait(route):
        time.sleep(seconds)
        route.continue_()

    page.route(CHANGES, wait)


def by_another(server, job, path, value):
    """An edit from another desk."""
    version = httpx.get(f"{server.url}/api/jobs/{job}").json()["version"]
    sent = httpx.post(
        f"{server.url}/api/jobs/{job}/changes",
        json={
            "id": f"other-{time.time_ns()}", "base_version": version, "schema_version": 1, "label": "From another desk",
            "operations": [{"op": "replace", "path": path, "value": value}],
        },
    )  # fmt: skip
    assert sent.status_code == 200, sent.text


@pytest.mark.parametrize("pause", [0, 40, 250])
def test_a_number_typed_while_the_last_is_on_its_way_is_the_one_that_stays(page: Page, job, server, pause):
    slow_line(page, 0.2)
    page.goto(f"/job/{job}/rooms")
    field = page.get_by_label("Height of Hall", exact=True)
    field.click()
    for text in ("2.40", "2.55", "2.61"):
        page.keyboard.type(text, delay=pause)
        page.keyboard.press("Enter")
    saved(page)
    assert document_of(server, job)["survey"]["rooms"]["hall"]["height_m"] == 2.61
    expect(field).to_have_value("2.610")
    page.keyboard.type("2.7")  # the hand is still in it, and what stands there is marked to be replaced
    page.wait_for_timeout(600)
    expect(field).to_have_value("2.7")
    field.blur()
    saved(page)
    assert document_of(server, job)["survey"]["rooms"]["hall"]["height_m"] == 2.7


def test_words_typed_while_the_last_are_on_their_way(page: Page, job, server):
    slow_line(page, 0.4)
    page.goto(f"/job/{job}/rooms")
    field = page.get_by_label("Name of Hall", exact=True).first
    field.click()
    field.fill("Front hall")
    page.keyboard.press("Enter")
    page.keyboard.type(", stone floor")
    page.wait_for_timeout(900)
    page.keyboard.press("Enter")
    saved(page)
    assert document_of(server, job)["survey"]["rooms"]["hall"]["label"] == "Front hall, stone floor"


def test_anothers_edit_is_shown_beside_and_never_typed_over(page: Page, job, server):
    page.goto(f"/job/{job}/rooms")
    field = page.get_by_label("Height of Hall", exact=True)
    field.click()
    page.keyboard.type("2.4")
    by_another(server, job, "/survey/rooms/hall/height_m", 3.1)
    expect(page.get_by_text("meanwhile 3.100")).to_be_visible()
    expect(field).to_have_value("2.4")
    page.keyboard.type("2")
    page.keyboard.press("Enter")
    saved(page)
    assert document_of(server, job)["survey"]["rooms"]["hall"]["height_m"] == 2.42
    assert page.get_by_text("meanwhile").count() == 0


def test_under_a_hand_that_types_nothing_the_figure_stays_until_it_leaves(page: Page, job, server):
    page.goto(f"/job/{job}/rooms")
    field = page.get_by_label("Height of Kitchen", exact=True)
    before = field.input_value()
    field.click()
    by_another(server, job, "/survey/rooms/kitchen/height_m", 2.9)
    expect(page.get_by_text("meanwhile 2.900")).to_be_visible()
    expect(field).to_have_value(before)
    field.blur()
    expect(field).to_have_value("2.900")
    assert document_of(server, job)["survey"]["rooms"]["kitchen"]["height_m"] == 2.9


def test_escape_takes_what_came_from_elsewhere(page: Page, job, server):
    page.goto(f"/job/{job}/rooms")
    field = page.get_by_label("Height of Kitchen", exact=True)
    field.click()
    page.keyboard.type("2.2")
    by_another(server, job, "/survey/rooms/kitchen/height_m", 2.8)
    expect(page.get_by_text("meanwhile 2.800")).to_be_visible()
    page.keyboard.press("Escape")
    expect(field).to_have_value("2.800")
    field.blur()
    assert document_of(server, job)["survey"]["rooms"]["kitchen"]["height_m"] == 2.8


def test_who_leaves_a_screen_ends_its_questions(page: Page, job):
    """The year of the twin takes seconds: the next screen does not stand behind it, nor does an edit for want of a connection."""
    of_year = re.compile(r"/api/.*/twin$")
    page.goto("/")
    with page.expect_request(of_year):
        page.goto(f"/job/{job}/twin")
    with page.expect_event("requestfailed", lambda request: bool(of_year.search(request.url))):
        onward(page, job, "fire-up")
    expect(page.locator("main [aria-busy=true]")).to_have_count(0)
    expect(page.locator("main").get_by_role("heading", level=2).first).to_be_visible()
    with page.expect_request(of_year):  # and asks it again
        onward(page, job, "twin")


def test_a_job_put_away_meanwhile_says_so_to_who_works_on_it(page: Page, job, server):
    page.goto(f"/job/{job}/rooms")
    said = page.get_by_role("status").filter(has_text="This job is put away.")
    field = page.get_by_label("Height of Hall", exact=True)
    expect(field).to_be_visible()
    expect(said).to_have_count(0)
    httpx.post(f"{server.url}/api/jobs/{job}/archive", json={"archived": True})
    expect(said).to_be_visible()
    field.fill("2.6")
    field.press("Enter")
    saved(page)
    assert document_of(server, job)["survey"]["rooms"]["hall"]["height_m"] == 2.6
    page.reload()
    said.get_by_role("button", name="Take it out").click()
    expect(said).to_have_count(0)
    assert job in {line["id"] for line in httpx.get(f"{server.url}/api/jobs").json()["jobs"]}


def test_what_is_done_before_the_first_news_is_heard_too(page: Page, job, server):
    """Between reading the job and listening for its news somebody edits it and puts it away."""

    def meanwhile(route):
        by_another(server, job, "/survey/rooms/hall/height_m", 2.7)
        httpx.post(f"{server.url}/api/jobs/{job}/archive", json={"archived": True})
        route.continue_()

    page.route(NEWS, meanwhile, times=1)
    page.goto(f"/job/{job}/rooms")
    expect(page.get_by_label("Height of Hall", exact=True)).to_have_value("2.700")
    expect(page.get_by_role("status").filter(has_text="This job is put away.")).to_be_visible()


def seen(page: Page, yes: bool) -> None:
    """Whether somebody looks at a page; of a browser without windows all are looked at."""
    page.evaluate(
        "(hidden) => { Object.defineProperty(document, 'hidden', { value: hidden, configurable: true });"
        " document.dispatchEvent(new Event('visibilitychange')); }",
        not yes,
    )


def test_with_eight_pages_open_the_last_is_there_and_the_first_looks_up_what_it_missed(page: Page, job):
    """A browser has six connections for all its pages of one server, and a stream of news takes one."""
    pages = [page, *(page.context.new_page() for _ in range(7))]
    for one in pages:
        one.goto(f"/job/{job}/rooms")
        expect(one.locator("main h1")).to_be_visible()
        expect(one.get_by_text(re.compile(r"^Saved .* version 1$"))).to_be_visible()
        if one is not pages[-1]:
            seen(one, False)
    height = pages[-1].get_by_label("Height of Hall").first
    height.fill("2.9")
    height.press("Enter")
    expect(pages[-1].get_by_text(re.compile(r"version 2$"))).to_be_visible()
    expect(page.get_by_text(re.compile(r"version 1$"))).to_be_visible()
    seen(page, True)
    expect(page.get_by_text(re.compile(r"version 2$"))).to_be_visible()
