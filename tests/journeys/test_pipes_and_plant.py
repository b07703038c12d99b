"""Pipes over the plan, one circuit or two, frost, the plant's picture and what to buy: each driven as an engineer would."""

from __future__ import annotations

import re
from itertools import pairwise

import httpx
import pytest
from playwright.sync_api import Page, expect

from tests.conftest import tansy_cut
from tests.journeys.conftest import document_of, figure, saved

NUMBERS = iter(range(100))
COPIES = "lukewarm"


@pytest.fixture
def lock(server):
    """The lock-keeper's house under a name of its own."""
    document = tansy_cut() | {"id": f"pipes-{next(NUMBERS)}"}
    assert httpx.post(f"{server.url}/api/jobs/import", json=document).status_code == 201
    return document["id"]


def tab(page: Page, name: str) -> None:
    page.get_by_role("tab", name=name).click()


def settled(page: Page) -> None:
    expect(page.locator("[aria-busy=true]")).to_have_count(0, timeout=30_000)


def asked(server, job: str, what: str) -> dict:
    return httpx.get(f"{server.url}/api/jobs/{job}/{what}", timeout=60).json()[what]


def pipes_of(server, job: str) -> dict:
    return document_of(server, job)["schemes"][COPIES]["pipes"]


def test_the_pump_is_stepped_and_a_hidden_pipe_found_and_written_down(page: Page, server, job):
    page.goto(f"/job/{job}/pipework")
    tab(page, "What tests say")
    expect(page.get_by_text("“to bedroom 2” is probably 10 x 0.6")).to_be_visible(timeout=60_000)
    row = page.get_by_role("row", name=re.compile("^to bedroom 2"))
    expect(row).to_contain_text("Copper 15 x 0.7")
    page.get_by_role("button", name="Add a test, everything open").click()
    page.get_by_label("Head, test 9").fill("8")
    page.get_by_label("Head, test 9").press("Enter")
    page.get_by_label("Whole flow, test 9").fill("3000")  # four times what these pipes let through
    page.get_by_label("Whole flow, test 9").press("Enter")
    saved(page)
    expect(page.get_by_text(re.compile("the whole flow: read more than these pipes could give"))).to_be_visible(
        timeout=60_000
    )
    page.get_by_role("button", name="take out test 9").click()
    saved(page)
    row.get_by_role("button", name="Write it down").click()
    saved(page)
    run = document_of(server, job)["survey"]["pipes"]["p-bed2"]
    assert run["size"] == "10"
    assert 3 < run["length_m"] < 6
    assert run["known"]["size"]["how"] == "inferred"
    expect(page.get_by_text(re.compile("is probably .*, not what was written down"))).to_have_count(0, timeout=60_000)


def test_proposed_routes_are_taken_up_and_corrected_by_hand(page: Page, server, lock):
    page.goto(f"/job/{lock}/pipework")
    page.get_by_label("Lay pipes by rule").check()
    plan = asked(server, lock, "routes")
    expect(page.get_by_text(f"{len(plan['runs'])} runs, {plan['total_m']:.0f} m one way")).to_be_visible(timeout=30_000)
    page.get_by_role("button", name="Take them up").click()
    saved(page)
    laid = {key: one["run"] for key, one in pipes_of(server, lock).items() if one["action"] == "add"}
    assert len(laid) == len(plan["runs"])
    assert all(one["proposed"] for one in laid.values())
    # what was promised is what the whole house now takes
    head = page.locator("[data-figure=head]")
    expect(head.get_by_text("▼")).to_be_visible()
    assert figure(page, "head") == pytest.approx(100 * plan["head_used"], abs=0.1)
    # one of them lies elsewhere: opened, its bend moved by key, then by hand
    page.get_by_role("button", name="Open to Kitchen").click()
    key = next(key for key, one in laid.items() if one["label"] == "to Kitchen")
    before = laid[key]["way"]
    point = page.get_by_role("button", name=re.compile("^Point 2 of to Kitchen"))
    point.focus()
    point.press("Shift+ArrowUp")
    saved(page)
    moved = pipes_of(server, lock)[key]["run"]["way"]
    assert moved[1]["y_m"] == pytest.approx(before[1]["y_m"] + 0.5, abs=0.011)
    assert moved[0]["y_m"] == pytest.approx(before[0]["y_m"], abs=0.006)  # drawn to the centimetre
    box = point.bounding_box()
    assert box
    page.mouse.move(box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.down()
    page.mouse.move(box["x"] + box["width"] / 2 - 30, box["y"] + box["height"] / 2 + 20, steps=4)
    page.mouse.up()
    saved(page)
    dragged = pipes_of(server, lock)[key]["run"]["way"]
    assert dragged[1]["x_m"] < moved[1]["x_m"]
    assert dragged[1]["y_m"] < moved[1]["y_m"]
    assert dragged[1]["z_m"] == moved[1]["z_m"]
    # its length is the way's
    drawn = sum(
        ((a["x_m"] - b["x_m"]) ** 2 + (a["y_m"] - b["y_m"]) ** 2 + (a["z_m"] - b["z_m"]) ** 2) ** 0.5
        for a, b in pairwise(dragged)
    )
    expect(page.get_by_role("region", name="Run to Kitchen").get_by_label("Length of to Kitchen")).to_have_attribute(
        "placeholder", f"{drawn:.1f}"
    )
    # it lies so: no longer by rule
    page.get_by_role("button", name="It lies so").click()
    saved(page)
    assert not pipes_of(server, lock)[key]["run"].get("proposed")
    page.get_by_role("button", name=re.compile(r"^All \d+ lie as drawn$")).click()
    saved(page)
    assert not any(one["run"].get("proposed") for one in pipes_of(server, lock).values() if one["action"] == "add")


def test_a_run_is_laid_bent_and_taken_off_the_plan(page: Page, server, lock):
    page.goto(f"/job/{lock}/pipework")
    page.get_by_role("button", name="Open to the landing").click()
    side = page.get_by_role("region", name="Run to the landing")
    side.get_by_role("button", name="Off the plan").click()
    saved(page)
    expect(page.get_by_text("1 run not on the plan yet")).to_be_visible()
    side.get_by_role("button", name="Lay it on the plan").click()
    saved(page)
    run = document_of(server, lock)["survey"]["pipes"]["p-landing"]
    assert len(run["way"]) >= 2
    assert run.get("length_m") is None
    side.get_by_role("button", name="A piece further").click()
    saved(page)
    side.get_by_role("button", name="Down a storey").click()
    saved(page)
    run = document_of(server, lock)["survey"]["pipes"]["p-landing"]
    assert run["way"][-1]["z_m"] == 0.0
    # a filter in it, by its kv
    side.get_by_label("What hangs in to the landing").select_option("Magnetic filter")
    saved(page)
    hung = next(iter(document_of(server, lock)["survey"]["pipes"]["p-landing"]["by_kv"].values()))
    assert hung["kv_m3h"] == 10.0
    side.get_by_role("button", name="Take Magnetic filter out of to the landing").click()
    saved(page)
    assert not document_of(server, lock)["survey"]["pipes"]["p-landing"]["by_kv"]
    # it lies outdoors now, and what it loses there is said
    side.get_by_label("Where to the landing lies").select_option("outdoors")
    saved(page)
    expect(side.get_by_text(re.compile(r"Loses \d+ W on its way"))).to_be_visible()
    expect(page.locator("[data-figure=cover]").get_by_text("▼")).to_be_visible()


def test_direct_against_buffer_is_decided_by_figures(page: Page, server, lock):
    page.goto(f"/job/{lock}/pipework")
    tab(page, "One circuit or two")
    expect(page.get_by_text("The figures speak for one circuit")).to_be_visible(timeout=30_000)
    found = asked(server, lock, "separating")
    row = page.get_by_role("row").filter(has_text="a buffer on four connections")
    expect(row).to_contain_text("does all of it")
    page.get_by_role("button", name="a buffer on four connections", exact=True).click()
    buffer = next(one for one in found["variants"] if one["key"] == "buffer 4")
    expect(page.get_by_role("img", name=f"the machine makes {buffer['machine_flow_c']:.1f} °C")).to_be_visible()
    season = figure(page, "season")
    page.get_by_role("button", name="Choose a buffer on four connections").click()
    saved(page)
    settled(page)
    expect(page.locator("[data-figure=season]").get_by_text("▼")).to_be_visible()
    assert figure(page, "season") == pytest.approx(buffer["season"], abs=0.006)
    assert figure(page, "season") < season
    assert figure(page, "open") == pytest.approx(buffer["open_l"], abs=0.6)
    expect(page.get_by_text("Chosen is a buffer on four connections")).to_be_visible()
    # less on the machine's own side, and it must run hotter
    page.get_by_label("Flow on the machine’s own side").fill("900")
    page.get_by_label("Flow on the machine’s own side").press("Enter")
    saved(page)
    assert document_of(server, lock)["schemes"][COPIES]["separation"]["machine_lph"] == 900
    expect(page.locator("[data-figure=season]").get_by_text("▼")).to_be_visible()
    # back to one circuit
    page.get_by_role("button", name="Choose one circuit").click()
    saved(page)
    assert document_of(server, lock)["schemes"][COPIES]["separation"].get("kind") in (None, "direct")
    assert figure(page, "season") == pytest.approx(season)


def test_emitters_are_closed_and_opened_while_the_litres_are_watched(page: Page, server, lock):
    page.goto(f"/job/{lock}/pipework")
    tab(page, "One circuit or two")
    before = figure(page, "open")
    page.get_by_role("button", name="Parlour: Under the bay, open: change").click()
    saved(page)
    expect(page.locator("[data-figure=open]").get_by_text("▼")).to_be_visible()
    assert document_of(server, lock)["survey"]["emitters"]["r-parlour"]["spec"]["valve"] == "thermostatic"
    settled(page)
    assert figure(page, "open") < before - 30
    page.get_by_role("button", name="Parlour: Under the bay, closes: change").click()
    saved(page)
    settled(page)
    assert figure(page, "open") == pytest.approx(before)
    # zones: two bedrooms behind a blending valve
    page.get_by_text("Name zones, blend them").click()
    page.get_by_role("button", name="Another zone").click()
    saved(page)
    page.get_by_label("Bedroom 1 in Zone 1").check()
    saved(page)
    page.get_by_label("Bedroom 2 in Zone 1").check()
    saved(page)
    page.get_by_label("Zone 1 is blended").check()
    saved(page)
    settled(page)
    zone = next(iter(document_of(server, lock)["schemes"][COPIES]["zones"].values()))
    assert zone["rooms"] == ["bed1", "bed2"]
    assert zone["mixed"] is True
    expect(page.get_by_role("row").filter(has_text="Zone 1 · blended")).to_be_visible()


def test_frost_glycol_or_valves(page: Page, server, lock):
    page.goto(f"/job/{lock}/pipework")
    tab(page, "Frost")
    expect(page.get_by_text("the figures speak for propylene glycol")).to_be_visible(timeout=30_000)
    page.get_by_label("Who refills after a power cut").fill("The lock-keeper")
    page.get_by_label("Who refills after a power cut").press("Enter")
    saved(page)
    settled(page)
    expect(page.get_by_text("the figures speak for freeze-opening valves")).to_be_visible()
    head = figure(page, "head")
    page.get_by_role("button", name="Choose propylene glycol").click()
    saved(page)
    settled(page)
    expect(page.locator("[data-figure=head]").get_by_text("▲")).to_be_visible()
    assert figure(page, "head") > head
    page.get_by_label("Glycol by volume").fill("95")
    page.get_by_label("Glycol by volume").press("Enter")
    expect(page.get_by_role("alert").filter(has_text="60")).to_be_visible()
    assert document_of(server, lock)["schemes"][COPIES]["protection"].get("glycol_share") is None
    page.get_by_role("button", name="Choose freeze-opening valves").click()
    saved(page)
    assert document_of(server, lock)["schemes"][COPIES]["protection"]["kind"] == "valves"
    assert figure(page, "head") == pytest.approx(head)


def test_the_plant_shows_its_states_and_what_each_part_is_for(page: Page, server, lock):
    page.goto(f"/job/{lock}/plant")
    picture = page.get_by_role("img", name=re.compile("^Sedge 9 feeds"))
    expect(picture).to_be_visible(timeout=30_000)
    expect(picture.get_by_text("Diverter")).to_be_visible()
    heating = picture.locator("path.moves").count()
    page.get_by_role("radio", name="Hot water").click()
    expect(page.get_by_text("the rooms wait")).to_be_visible()
    assert 0 < picture.locator("path.moves").count() < heating
    page.get_by_role("radio", name="Off").click()
    expect(picture.locator("path.moves")).to_have_count(0)
    page.get_by_role("button", name="Air separator").click()
    expect(page.get_by_text("quick water carries bubbles past a simple vent (essential; flow)")).to_be_visible()
    with page.expect_download() as caught:
        page.get_by_role("link", name="Drawing (SVG)").click()
    assert "<svg" in caught.value.path().read_text()


def test_materials_by_the_companys_prices_and_as_a_table(page: Page, server, lock):
    page.goto(f"/job/{lock}/materials")
    expect(page.get_by_text(re.compile(r"\d+ lines to buy, \d+ of them essential"))).to_be_visible(timeout=30_000)
    before = asked(server, lock, "materials")
    row = page.get_by_role("row").filter(has_text="Magnetic filter with a large strainer").first
    expect(row).to_contain_text("our guess")
    page.get_by_text("What parts cost the company").click()
    field = page.get_by_label("Magnetic filter with a large strainer, one of it")
    field.fill("199.50")
    field.press("Enter")
    expect(row).to_contain_text("the company's table", timeout=30_000)
    after = asked(server, lock, "materials")
    was, now = (next(one for one in found["rows"] if one["key"] == "strainer") for found in (before, after))
    assert now["minor"] == 19950
    assert after["sums"]["total_minor"] == pytest.approx(before["sums"]["total_minor"] + now["minor"] - was["minor"])
    page.get_by_role("button", name="back to ours").first.click()
    expect(row).to_contain_text("our guess", timeout=30_000)
    # only what is essential
    page.get_by_label(re.compile("^good")).uncheck()
    expect(page.get_by_role("row").filter(has_text="without it no season is known")).to_have_count(0)
    for form in ("CSV", "XLSX"):
        with page.expect_download() as caught:
            page.get_by_role("link", name=f"Table ({form})").click()
        assert caught.value.path().stat().st_size > 1000
