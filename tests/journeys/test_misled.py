"""A hand that is never misled: refusals beside the field, odd values asked about, readings never swallowed."""

import re

import httpx
import pytest
from playwright.sync_api import Page, expect

from tests.journeys.conftest import NUMBER, document_of, saved


@pytest.fixture
def walk(page: Page, server):
    """The walk of a first room in an empty job: gives a function that types an entry into the wanted field."""
    job = f"odd-readings-{next(NUMBER)}"
    assert httpx.post(f"{server.url}/api/jobs", json={"id": job, "title": "Odd readings"}).status_code == 201
    page.goto(f"/job/{job}/plan?walk=new")
    field = page.locator("#wanted")
    expect(field).to_be_focused()

    def say(text: str) -> None:
        field.fill(text)
        field.press("Enter")

    return page, field, say, job, server.url


def survey(url: str, job: str) -> dict:
    return httpx.get(f"{url}/api/jobs/{job}").json()["job"]["survey"]


def test_a_refused_figure_stays_in_its_field_with_the_reason_beside_it(page: Page, job):
    page.goto(f"/job/{job}/rooms")
    field = page.get_by_label("Height of Kitchen")
    field.fill("-2")
    field.press("Enter")
    said = page.get_by_role("alert")
    expect(said).to_contain_text("must be more than 0")
    expect(said).to_contain_text("2.550 is kept")
    expect(said).not_to_contain_text("/survey")
    expect(field).to_have_value("-2")
    field.press("Tab")
    expect(field).to_have_value("-2")
    field.press("Escape")
    expect(field).to_have_value("2.550")
    expect(said).to_have_count(0)


@pytest.mark.parametrize("typed", ["24.5", "0.245"])
def test_an_odd_height_is_asked_about_and_one_key_puts_it_right(page: Page, job, typed):
    page.goto(f"/job/{job}/rooms")
    field = page.get_by_label("Height of Kitchen")
    field.fill(typed)
    field.press("Tab")
    expect(page.get_by_text("Did you mean 2.450?")).to_be_visible()
    expect(field).to_be_focused()
    saved(page)
    field.press("Enter")
    expect(field).to_have_value("2.450")
    expect(page.get_by_text("Did you mean")).to_have_count(0)


def test_numbers_are_read_as_they_are_printed(page: Page, job, server):
    page.goto(f"/job/{job}/pipework")
    field = page.get_by_label("Volumiser in the return")
    for typed, meant in (("1 200", 1200), ("1,200.5", 1200.5), ("1.200,5", 1200.5), ("1,200", 1200), ("12,5", 12.5)):
        field.fill(typed)
        field.press("Enter")
        saved(page)
        schemes = httpx.get(f"{server.url}/api/jobs/{job}").json()["job"]["schemes"].values()
        assert meant in [one.get("separation", {}).get("volumiser_l") for one in schemes], typed


def test_a_second_room_of_one_name_is_said(page: Page, job):
    page.goto(f"/job/{job}/rooms")
    page.get_by_label("Name of Scullery").fill("Kitchen")
    page.get_by_label("Name of Scullery").press("Enter")
    saved(page)
    page.keyboard.press("Escape")
    page.keyboard.press("f")
    expect(page.get_by_text("Two rooms are called Kitchen.")).to_be_visible()


def test_the_quick_form_keeps_what_the_hand_says_of_its_evidence(page: Page, job, server):
    page.goto(f"/job/{job}/rooms")
    page.get_by_role("button", name="Add room").click()
    form = page.get_by_role("form", name="Add a room")
    form.get_by_label("Name, or all of it in a line").fill("Wash house")
    form.get_by_label("Height").fill("2.3")
    form.get_by_label("Width").fill("3.1~")
    form.get_by_label("Length").fill("2.2")
    form.get_by_role("button", name="Add it").click()
    saved(page)
    rooms = httpx.get(f"{server.url}/api/jobs/{job}").json()["job"]["survey"]["rooms"].values()
    known = next(room for room in rooms if room["label"] == "Wash house")["known"]
    assert (known["height_m"]["how"], known["walk"]["how"]) == ("measured", "told")
    expect(form.get_by_label("Name, or all of it in a line")).to_be_focused()


def test_a_reading_after_a_room_is_done_is_refused_aloud_and_a_name_is_taken(walk):
    page, field, say, job, url = walk
    for entry in ("Snug", "2.4", "3.6", "4.2", "", "", ""):
        say(entry)
    expect(page.locator("[data-wanted=done]")).to_be_visible()
    say("3.1")
    expect(page.get_by_text("The number was not taken")).to_be_visible()
    expect(field).to_have_value("3.1")
    say("Box room")
    expect(page.locator("[data-wanted=height]")).to_be_visible()
    say("2.4")
    saved(page)
    assert sorted(room["label"] for room in survey(url, job)["rooms"].values()) == ["Box room", "Snug"]
    # a name typed while openings are asked for is the next room's
    for entry in ("2.0", "2.2", "", "Attic"):
        say(entry)
    saved(page)
    assert sorted(room["label"] for room in survey(url, job)["rooms"].values()) == ["Attic", "Box room", "Snug"]


def test_a_walk_with_every_turn_the_wrong_way_is_mirrored_by_one_key(walk):
    page, field, say, job, url = walk
    for entry in ("Snug", "2.4", "4l", "3l", "4l", "3l"):
        say(entry)
    expect(page.get_by_text("It runs anticlockwise.")).to_be_visible()
    field.press("m")
    expect(page.get_by_text("It runs anticlockwise.")).to_have_count(0)
    saved(page)
    room = next(iter(survey(url, job)["rooms"].values()))
    assert [run["turn_deg"] for run in room["walk"]] == [90, 90, 90, 90]


def test_an_odd_reading_of_the_walk_is_asked_about(walk):
    page, field, say, job, url = walk
    for entry in ("Snug", "24.5"):
        say(entry)
    expect(page.get_by_text("Enter takes 2.450 m")).to_be_visible()
    field.press("Enter")
    saved(page)
    assert next(iter(survey(url, job)["rooms"].values()))["height_m"] == 2.45


def test_undo_works_in_the_empty_field_of_the_walk_and_the_walk_fits_a_tablet(walk):
    page, field, say, job, url = walk
    page.set_viewport_size({"width": 834, "height": 1112})
    for entry in ("Snug", "2.4", "3.6"):
        say(entry)
    saved(page)
    field.press("Control+z")
    saved(page)
    assert next(iter(survey(url, job)["rooms"].values()))["walk"] == []
    say("3.6")
    say("4.2")
    bar = page.get_by_label("The chain in six figures").bounding_box()["y"]
    for part in (field, page.get_by_role("img", name="Walk so far"), page.get_by_role("button", name="Turn right")):
        box = part.bounding_box()
        assert 0 <= box["y"] <= bar - box["height"]
    assert field.bounding_box()["height"] >= 40


def test_the_skip_link_leads_to_the_work_and_escape_leaves_a_field(page: Page, job):
    page.goto(f"/job/{job}/rooms")
    expect(page.locator("main h1")).to_be_visible()
    page.keyboard.press("Tab")
    expect(page.get_by_role("link", name="To the work")).to_be_focused()
    page.keyboard.press("Enter")
    expect(page.locator("#work")).to_be_focused()
    field = page.get_by_label("Height of Kitchen")
    field.focus()
    page.keyboard.press("Escape")
    expect(field).not_to_be_focused()


def test_measuring_one_side_proves_nothing_of_the_other(page: Page, server, job):
    page.goto(f"/job/{job}/rooms")
    page.get_by_label("Open Bedroom 3").click()

    width = page.get_by_label(re.compile("^Width of .*indow")).first
    height = page.get_by_label(re.compile("^Height of .*indow")).first
    size = document_of(server, job)["survey"]["rooms"]["bed3"]["faces"]
    assert any(one.get("openings") for one in size.values())
    face = next(key for key, one in size.items() if one.get("openings"))
    opening = next(iter(size[face]["openings"]))

    def known():
        saved(page)
        found = document_of(server, job)["survey"]["rooms"]["bed3"]["faces"][face]["openings"][opening]["known"]
        return {side: one["how"] for side, one in found.items() if side in ("width_m", "height_m", "size")}

    width.fill("1.11~")
    width.press("Enter")
    expect(width).to_have_value("1.110")
    height.fill("1.22~")
    height.press("Enter")
    expect(height).to_have_value("1.220")
    assert known() == {"width_m": "told", "height_m": "told", "size": "told"}
    width.fill("1.13!")
    width.press("Enter")
    expect(width).to_have_value("1.130")
    assert known() == {"width_m": "measured", "height_m": "told", "size": "told"}
    height.fill("1.21!")
    height.press("Enter")
    expect(height).to_have_value("1.210")
    assert known() == {"width_m": "measured", "height_m": "measured", "size": "measured"}


def test_a_neighbour_is_made_at_the_wall_and_drawn_as_a_party_wall(page: Page, server, job):
    page.goto(f"/job/{job}/losses")
    plan = page.get_by_role("group", name=re.compile("^Losses on the plan"))
    expect(plan).to_be_visible()
    expect(plan.locator("line.party")).to_have_count(0)
    page.goto(f"/job/{job}/rooms")
    page.get_by_label("Open Scullery").click()
    page.get_by_label("Beyond Wall 1 of Scullery").select_option(label="a neighbour’s home, new")
    saved(page)
    expect(page.get_by_label("Beyond Wall 1 of Scullery")).to_have_value(re.compile("^neighbour:"))
    saved(page)
    found = document_of(server, job)["survey"]
    (key,) = found["neighbours"]
    assert found["rooms"]["scullery"]["faces"]["w1"]["spans"]["all"]["beyond"] == {
        "kind": "neighbour",
        "neighbour": key,
    }
    expect(page.get_by_label("Beyond Wall 1 of Scullery")).to_have_value(f"neighbour:{key}")
    page.goto(f"/job/{job}/losses")
    expect(plan.locator("line.party")).to_have_count(1)
    expect(page.get_by_text("party wall", exact=True)).to_be_visible()


def test_a_window_once_more_in_the_table_and_on_the_walk(page: Page, server, job):
    def windows(room):
        faces = document_of(server, job)["survey"]["rooms"][room]["faces"]
        return [(o["width_m"], o["height_m"]) for face in faces.values() for o in face.get("openings", {}).values()]

    page.goto(f"/job/{job}/rooms")
    page.get_by_label("Open Kitchen").click()
    before = windows("kitchen")
    page.get_by_role("button", name=re.compile("once more$")).first.click()
    saved(page)
    after = windows("kitchen")
    assert len(after) == len(before) + 1
    assert any(after.count(one) > before.count(one) for one in before)
    page.goto(f"/job/{job}/plan?walk=new")
    wanted = page.locator("#wanted")
    for text in ("Snug", "2.4", "3", "2.5", "", "1.2", "1.0"):
        wanted.fill(text)
        wanted.press("Enter")
    expect(page.locator("[data-wanted=openings]")).to_be_visible()
    wanted.press("ArrowDown")
    wanted.press("+")
    saved(page)
    rooms = document_of(server, job)["survey"]["rooms"]
    snug = next(room for room in rooms.values() if room["label"] == "Snug")
    assert [len(snug["faces"].get(wall, {}).get("openings", {})) for wall in ("w1", "w2")] == [1, 1]
