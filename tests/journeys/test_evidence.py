"""Evidence beside a value: set in the same gesture with one key, shown as a mark, changed by hand."""

import httpx
import pytest
from playwright.sync_api import Page, expect

from tests.journeys.conftest import saved


def room(server, job, key):
    return httpx.get(f"{server.url}/api/jobs/{job}").json()["job"]["survey"]["rooms"][key]


@pytest.mark.parametrize(
    ("typed", "how"),
    [("2.5!", "measured"), ("2.5=", "read"), ("2.5~", "told"), ("2.5 ?", "inferred"), ("2.5*", "assumed")],
)
def test_value_and_how_it_is_known_are_one_gesture(page: Page, job, server, typed, how):
    page.goto(f"/job/{job}/rooms")
    field = page.get_by_label("Height of Hall", exact=True)
    field.fill(typed)
    expect(page.locator(".echo")).to_have_text(f"= 2.500 m, {how}")
    field.press("Enter")
    saved(page)
    kept = room(server, job, "hall")
    assert (kept["height_m"], kept["known"]["height_m"]["how"]) == (2.5, how)
    assert kept["known"]["height_m"]["by"] == "Sample engineer"
    history = httpx.get(f"{server.url}/api/jobs/{job}/history").json()["entries"]
    assert len([e for e in history if e["kind"] == "edit"]) == 1


def test_a_key_alone_changes_how_and_keeps_the_value(page: Page, job, server):
    page.goto(f"/job/{job}/rooms")
    field = page.get_by_label("Height of Garden room", exact=True)
    field.fill("!")
    field.press("Enter")
    saved(page)
    kept = room(server, job, "garden")
    assert (kept["height_m"], kept["known"]["height_m"]["how"]) == (2.6, "measured")


def test_a_mark_is_changed_by_hand_with_note_and_spread(page: Page, job, server):
    page.goto(f"/job/{job}/rooms")
    row = page.locator("tr[data-room='Garden room']")
    row.get_by_role("button", name="told: change how it is known").click()
    page.get_by_label("Note").fill("from the builder's drawing")
    page.get_by_label("May be off by, ± %").fill("4")
    page.get_by_role("menuitem", name="read off a label or paper").click()
    saved(page)
    known = room(server, job, "garden")["known"]["height_m"]
    assert (known["how"], known["note"], known["spread"]) == ("read", "from the builder's drawing", 0.04)
    expect(row.get_by_role("button", name="read: change how it is known")).to_be_visible()


def test_one_stretch_of_a_wall_is_overridden_and_the_rest_stays_derived(page: Page, job, server):
    page.goto(f"/job/{job}/plan?room=kitchen")
    side = page.get_by_role("region", name="Kitchen")
    side.get_by_role("button", name="Wall 1 ").click()
    stretch = page.get_by_label("Beyond Wall 1, 2.40 to 4.20 m")
    stretch.select_option("heated")
    saved(page)
    spans = room(server, job, "kitchen")["faces"]["w1"]["spans"]
    ((_, span),) = spans.items()
    assert (span["from_m"], span["to_m"]) == (pytest.approx(2.4), pytest.approx(4.2))
    pieces = next(
        f["pieces"]
        for r in httpx.get(f"{server.url}/api/jobs/{job}").json()["design"]["rooms"]
        if r["id"] == "kitchen"
        for f in r["faces"]
        if f["key"] == "w1"
    )
    assert {(p["beyond"], p["how"]) for p in pieces} >= {("heated", "stated"), ("room", "derived")}
