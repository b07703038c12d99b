"""Changes that wait here: sent from whatever page is open, once, and never against one's own."""

import json
import re

import httpx
from playwright.sync_api import Page, expect

from tests.journeys.conftest import CHANGES, document_of, saved
from tests.journeys.test_hands import by_another

HEARD = re.compile(r"/events$")


def cut(page: Page) -> None:
    page.route(CHANGES, lambda route: route.abort())


def mend(page: Page) -> None:
    page.unroute(CHANGES)


def put(page: Page, label: str, text: str) -> None:
    field = page.get_by_label(label, exact=True)
    field.fill(text)
    field.press("Enter")


def height(server, job, room):
    return document_of(server, job)["survey"]["rooms"][room]["height_m"]


def comes(page: Page, server, job, room, value) -> None:
    """The server has it after a while."""
    for _ in range(100):
        if height(server, job, room) == value:
            return
        page.wait_for_timeout(200)
    raise AssertionError(f"{room} is {height(server, job, room)}, not {value}")


def test_what_waits_is_sent_from_the_list_of_jobs(page: Page, job, server):
    page.goto(f"/job/{job}/rooms")
    cut(page)
    put(page, "Height of Hall", "2.47")
    put(page, "Height of Kitchen", "2.48")
    expect(page.get_by_text("2 edits kept here")).to_be_visible()
    page.goto("/")  # the page that made them is gone
    expect(page.get_by_text("2 edits here, not sent yet")).to_be_visible()
    mend(page)
    comes(page, server, job, "kitchen", 2.48)
    assert height(server, job, "hall") == 2.47
    expect(page.get_by_text("not sent yet")).to_have_count(0)


def test_what_waits_is_sent_from_another_job(page: Page, job, server):
    other = document_of(server, job) | {"id": f"{job}-twin"}
    assert httpx.post(f"{server.url}/api/jobs/import", json=other).status_code == 201
    page.goto(f"/job/{job}/rooms")
    cut(page)
    put(page, "Height of Hall", "2.46")
    expect(page.get_by_text("1 edit kept here")).to_be_visible()
    page.goto(f"/job/{other['id']}/rooms")
    expect(page.get_by_label("Height of Hall", exact=True)).to_be_visible()
    mend(page)
    comes(page, server, job, "hall", 2.46)
    saved(page)
    assert height(server, other["id"], "hall") != 2.46


def test_two_pages_of_one_hand_never_stand_aside_against_each_other(page: Page, job, server):
    second = page.context.new_page()
    second.route(HEARD, lambda route: route.abort())  # it never hears of the other's edits
    page.goto(f"/job/{job}/rooms")
    second.goto(f"{server.url}/job/{job}/rooms")
    expect(second.get_by_label("Height of Hall", exact=True)).to_be_visible()
    put(page, "Height of Hall", "2.41")
    saved(page)
    put(second, "Height of Hall", "2.42")
    saved(second)
    assert height(server, job, "hall") == 2.42
    cut(page)
    cut(second)
    put(page, "Height of Kitchen", "2.43")
    put(second, "Height of Kitchen", "2.44")
    for one in (page, second):
        expect(one.get_by_text("1 edit kept here")).to_be_visible()
    mend(page)
    comes(page, server, job, "kitchen", 2.43)
    mend(second)
    comes(page, server, job, "kitchen", 2.44)
    for one in (page, second):
        saved(one)
        expect(one.get_by_text("set aside")).to_have_count(0)


def test_nothing_is_listed_twice(page: Page, job, server):
    page.goto(f"/job/{job}/rooms")
    cut(page)
    put(page, "Height of Hall", "2.45")
    expect(page.get_by_text("1 edit kept here")).to_be_visible()
    second = page.context.new_page()
    asked = []
    second.on("request", lambda r: asked.append(r.url) if CHANGES.search(r.url) else None)
    second.goto(f"{server.url}/job/{job}/rooms")
    expect(second.get_by_label("Height of Hall", exact=True)).to_be_visible()
    by_another(server, job, "/survey/rooms/hall/height_m", 2.9)
    second.wait_for_timeout(5000)  # longer than a page takes to look for what was left behind
    assert asked == []  # the page that made it lives, and sends it itself
    mend(page)
    for one in (page, second):
        expect(one.get_by_role("button", name="1 edit set aside")).to_be_visible()
    second.get_by_role("button", name="1 edit set aside").click()
    expect(second.get_by_role("button", name="Apply it anyway")).to_have_count(1)
    second.get_by_role("button", name="Let it go").click()
    for one in (page, second):
        expect(one.get_by_text("edit set aside")).to_have_count(0)
    assert height(server, job, "hall") == 2.9


def test_a_fault_is_called_a_fault_and_the_rest_goes_on(page: Page, job, server, quiet_console):
    met = []

    def spoilt(route):
        if "hall/height_m" not in (route.request.post_data or ""):
            return route.continue_()
        met.append(route.request.url)
        fault = {"code": "fault", "message": "A fault of ours, number 3f9a1c: it stands in the log under that number.",
                 "kept": "Nothing was changed.", "problems": [], "detail": {"number": "3f9a1c"}}  # fmt: skip
        return route.fulfill(status=500, content_type="application/json", body=json.dumps(fault))

    page.route(CHANGES, spoilt)
    page.goto(f"/job/{job}/rooms")
    put(page, "Height of Hall", "2.45")
    notice = page.get_by_role("alert")
    expect(notice).to_contain_text("number 3f9a1c")
    expect(notice).to_contain_text("tried again")
    put(page, "Height of Kitchen", "2.46")
    expect(page.get_by_text("No line")).to_have_count(0)
    expect(page.get_by_role("button", name="1 edit set aside")).to_be_visible()
    comes(page, server, job, "kitchen", 2.46)
    saved(page)
    assert len(met) in (3, 4)  # three tries alone, and once in a letter with the one behind it
    page.get_by_role("button", name="1 edit set aside").click()
    expect(page.get_by_role("complementary", name="Set aside")).to_contain_text("3f9a1c")
    quiet_console[:] = [said for said in quiet_console if "status of 500" not in said]  # brought about here


def test_a_busy_server_is_waited_for(page: Page, job, server):
    times = []

    def busy(route):
        times.append(1)
        if len(times) < 3:
            body = {"code": "busy", "message": "Busy.", "kept": "", "problems": [], "detail": {}}
            return route.fulfill(status=503, content_type="application/json", body=json.dumps(body))
        return route.continue_()

    page.route(CHANGES, busy)
    page.goto(f"/job/{job}/rooms")
    put(page, "Height of Hall", "2.45")
    comes(page, server, job, "hall", 2.45)
    saved(page)
    expect(page.get_by_text("set aside")).to_have_count(0)


def test_the_browser_is_asked_to_keep_what_is_kept_here(page: Page):
    page.add_init_script(
        "window.asked = 0; navigator.storage.persist = () => { window.asked++; return Promise.resolve(true); };"
    )
    page.goto("/")
    page.wait_for_function("() => window.asked > 0")


def test_an_answer_carries_what_changed_and_the_page_proves_what_it_holds(page: Page, server, job):
    """What comes is put together to the whole; a page that holds something else than the server notices and takes the whole."""
    told = []
    page.on("response", lambda r: told.append(r) if CHANGES.search(r.url) else None)
    page.clock.install()
    page.goto(f"/job/{job}/rooms")
    put(page, "Height of Hall", "2.71")
    expect(page.get_by_text(re.compile("^Saved"))).to_be_visible()
    answer = told[0].json()
    assert answer["since"] == 1
    assert "design" not in answer
    assert len(told[0].body()) < 60_000
    whole = httpx.get(f"{server.url}/api/jobs/{job}").json()
    loss = next(f["value"] for f in whole["design"]["headline"] if f["key"] == "loss")
    bar = page.get_by_label("The chain in six figures")
    expect(bar).to_contain_text(f"{loss:.2f}")

    def spoilt(route):
        came = route.fetch()
        body = came.json()
        body["difference"]["headline"] = {"0": {"value": [99.0]}}
        route.fulfill(response=came, body=json.dumps(body))

    page.route(CHANGES, spoilt)
    put(page, "Height of Hall", "2.72")
    expect(bar).to_contain_text("99.00")
    page.unroute(CHANGES)
    page.clock.fast_forward(9_000)
    expect(bar).not_to_contain_text("99.00")
    loss = next(
        f["value"] for f in httpx.get(f"{server.url}/api/jobs/{job}").json()["design"]["headline"] if f["key"] == "loss"
    )
    expect(bar).to_contain_text(f"{loss:.2f}")
