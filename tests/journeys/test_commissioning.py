"""From the curve to the signed record, practice, and the day itself beside a plant whose line is cut: driven for real."""

import re
import subprocess
import sys

import httpx
import numpy as np
import pytest
from playwright.sync_api import Page, expect

from cinder.library import shipped_year
from cinder.model import parse
from cinder.physics.machine import curve as law
from cinder.twin.of_job import twin_of
from cinder.twin.practice import REPAIRS, begin_faults
from cinder.twin.practice import _name as name_of
from cinder.twin.practice import _place_of as place_of
from tests.conftest import GATEWAY, tansy_cut
from tests.journeys.conftest import document_of, saved

LONG = 150_000


def readings_of_a_colder_house(document, *, cold, mild, short_k):
    """A fortnight by the hour of a house whose water is worth so much less than it is."""
    from cinder.field.expected import expected_of

    house = expected_of(
        parse(document), shipped_year(parse(document).library.climates["mild-maritime"].data.year_sha256)
    )
    hours = np.arange(14 * 24)
    out = 5.0 + 6.0 * np.sin(hours / 40.0)
    line = law.flow_at(law.TwoPoint(-3.0, cold, 15.0, mild, 20.0, 60.0), outdoor_c=out)
    rooms = house.at(out, line - short_k, np.full(len(out), 20.0)).room_c
    names = [room.name for room in house.house.view.rooms]
    head = ";".join(["Time", "Outside", "Flow", *(n for r, n in enumerate(names) if house.heated[r])])
    rows = [
        ";".join(
            [
                f"{10 + h // 24:02d}.01.2026 {h % 24:02d}:00",
                *(f"{v:.2f}".replace(".", ",") for v in (out[h], line[h], *rooms[h][house.heated])),
            ]
        )
        for h in hours
    ]
    return ("\n".join([head, *rows]) + "\n").encode()


def test_dialled_in_run_through_a_cold_week_corrected_twice_and_signed(page: Page, server, job):
    page.goto(f"/job/{job}/curve")
    for label, value in ((r"^Water at .3 °C outside", "47"), (r"^Water at 15 °C outside", "31")):
        field = page.get_by_role("textbox", name=re.compile(label))
        field.fill(value)
        field.press("Enter")
        saved(page)
    page.goto(f"/job/{job}/twin")
    expect(page.get_by_text(re.compile("^The coldest week, as it is set"))).to_be_visible(timeout=LONG)
    page.goto(f"/job/{job}/correction")
    expect(page.get_by_role("heading", name="Not decided yet")).to_be_visible(timeout=LONG)
    page.get_by_role("tab", name="Readings").click()
    data = readings_of_a_colder_house(tansy_cut(), cold=47.0, mild=31.0, short_k=6.0)
    page.get_by_label("Bring readings").set_input_files({"name": "january.csv", "mimeType": "text/csv", "buffer": data})
    expect(page.get_by_label("What Outside is")).to_have_value("outdoor_c", timeout=LONG)
    page.get_by_role("button", name="Take them").click()
    expect(page.get_by_text("336 moments kept.")).to_be_visible(timeout=LONG)
    for before, after in (("47", "49"), ("49", "51")):
        expect(page.get_by_role("heading", name="Warmer as a whole")).to_be_visible(timeout=LONG)
        expect(page.get_by_text(f"Water from {before} °C to {after} °C").first).to_be_visible(timeout=LONG)
        page.get_by_role("button", name="Take this step").click()
        saved(page)
        expect(page.get_by_role("row", name=re.compile(f"{before} → {after}"))).to_be_visible()
    kept = document_of(server, job)
    assert len(kept["fire_up"]["corrections"]) == 2
    assert kept["schemes"]["lukewarm"]["control"]["cold_flow_c"] == 51.0
    page.goto(f"/job/{job}/fire-up")
    page.get_by_label("Name of who signs").fill("Wren Tolley")
    page.get_by_label("Name of who signs").press("Enter")
    page.get_by_role("button", name="Sign the record").click()
    saved(page)
    expect(page.get_by_text(re.compile("^Signed by Wren Tolley"))).to_be_visible()
    page.get_by_role("link", name="Commissioning record").click()
    paper = page.frame_locator("iframe")
    expect(paper.get_by_role("heading", name="Commissioning record")).to_be_visible(timeout=LONG)
    expect(paper.get_by_text("Warmer as a whole").first).to_be_visible()
    expect(paper.get_by_text("Wren Tolley").first).to_be_visible()


def test_a_look_by_hand_becomes_a_point_and_can_be_taken_out(page: Page, server, job):
    page.goto(f"/job/{job}/correction")
    for label, value in (("Outside", "2"), ("Flow", "41,5"), ("Air of Parlour", "19.2")):
        field = page.get_by_role("textbox", name=label, exact=True)
        field.fill(value)
        field.press("Tab")
    page.get_by_role("button", name="Keep this look").click()
    saved(page)
    expect(page.get_by_text(re.compile("^1 look, between 2 °C"))).to_be_visible(timeout=LONG)
    (look,) = document_of(server, job)["fire_up"]["observations"].values()
    assert (look["outdoor_c"], look["flow_c"], look["rooms"]) == (2.0, 41.5, {"parlour": 19.2})
    page.get_by_role("button", name=re.compile("^Take out the look")).click()
    saved(page)
    assert document_of(server, job)["fire_up"]["observations"] == {}


def test_three_faults_are_found_in_practice(page: Page, server, job):
    seed = 5
    httpx.post(f"{server.url}/api/jobs/{job}/practice", json={"level": "hard", "seed": seed}, timeout=60)
    twin = twin_of(parse(tansy_cut()))
    page.goto(f"/job/{job}/practice")
    page.get_by_role("button", name=re.compile("^go on")).click()
    expect(page.get_by_role("heading", name="Do something")).to_be_visible(timeout=LONG)
    for n, (key, at) in enumerate(begin_faults(twin, "hard", seed)):
        page.get_by_label("What to do").select_option(label=REPAIRS[key])
        place = name_of(twin, key, place_of(twin, key, at))
        if place:
            page.get_by_label("Where", exact=True).select_option(label=place)
        page.get_by_role("button", name="Do it", exact=True).click()
        expect(page.get_by_text("That was it.")).to_have_count(n + 1, timeout=LONG)
    page.get_by_role("button", name="2 days").click()
    expect(page.get_by_text(re.compile("^Day 3 of 8"))).to_be_visible(timeout=LONG)
    page.get_by_role("button", name="Finish, and see the winter").click()
    expect(page.get_by_label("100 of 100")).to_be_visible(timeout=LONG)
    expect(page.get_by_text("found", exact=True)).to_have_count(3)
    page.get_by_role("button", name="Back to the attempts").click()
    expect(page.get_by_role("row", name=re.compile("hard .* 3 of 3 100"))).to_be_visible()


@pytest.fixture
def plant():
    """`cinder gateway` at the listed address, to be started and cut."""
    running = []

    def start():
        command = [
            sys.executable,
            "-m",
            "cinder.cli",
            "gateway",
            "--port",
            GATEWAY.rpartition(":")[2],
            "--speed",
            "30",
            "--minutes",
            "9",
        ]
        running.append(subprocess.Popen(command, stdout=subprocess.DEVNULL))

    def cut():
        process = running.pop()
        process.kill()
        process.wait(timeout=20)

    yield start, cut
    while running:
        cut()


def test_the_day_beside_a_plant_whose_line_is_cut(page: Page, server, job, worker, plant):
    start, cut = plant
    start()
    page.goto(f"/job/{job}/fire-up")
    page.get_by_role("button", name="Read it").click()
    expect(page.get_by_text("Live.", exact=True)).to_be_visible(timeout=LONG)
    page.get_by_role("button", name=re.compile("^Heating run")).click()
    take = page.get_by_role("button", name="Take them together from the plant")
    expect(take).to_be_enabled(timeout=LONG)
    take.click()
    saved(page)
    expect(page.get_by_text("So it gives")).to_be_visible(timeout=LONG)
    kept = document_of(server, job)["fire_up"]["steps"]["heating-run"]
    assert {"heat/outdoor_c", "heat/flow_c", "heat/return_c", "heat/flow_lph", "heat/electric_w"} <= set(kept["values"])
    assert set(kept["live"]) == {key for key in kept["values"] if key in kept["live"]}
    cut()
    expect(page.get_by_text("The line is cut.", exact=True)).to_be_visible(timeout=LONG)
    expect(take).to_be_disabled()
    expect(page.get_by_text(re.compile("the line is cut$")).first).to_be_visible()
    note = page.get_by_label("Reason")  # what is typed meanwhile is kept
    note.fill("line cut, read again after")
    note.press("Enter")
    saved(page)
    start()
    expect(page.get_by_text("Live.", exact=True)).to_be_visible(timeout=LONG)
    expect(take).to_be_enabled()
    page.get_by_role("button", name=re.compile("^Each emitter")).click()
    page.get_by_role("button", name="Take all tails from the plant").click()
    saved(page)
    expect(page.get_by_text(re.compile("emitters are within a fifth|^Turn |Altogether there is"))).to_be_visible(
        timeout=LONG
    )
    page.get_by_role("button", name="Done", exact=True).click()
    saved(page)
    page.get_by_role("button", name=re.compile("^Curve, limits")).click()
    page.get_by_role("button", name=re.compile("^Write the line to the plant: 46 °C at .3 °C, 30 °C at 15 °C")).click()
    expect(page.get_by_text(re.compile("^Ordered: "))).to_be_visible()
    expect(page.get_by_text("now 46.0 °C")).to_be_visible(timeout=LONG)
    page.get_by_role("button", name="Stop reading").click()
    expect(page.get_by_text("No plant is read.")).to_be_visible()
    assert document_of(server, job)["fire_up"]["steps"]["emitters"]["state"] == "done"


def test_the_controller_record_is_filled_and_a_small_controller_told(page: Page, server, job):
    page.goto(f"/job/{job}/wiring")
    field = page.get_by_label("Terminal of Outdoor sensor, Machine")
    field.fill("X1.3")
    field.press("Enter")
    page.get_by_label("Outdoor sensor, Machine: tried").check()
    outputs = page.get_by_label("Switched outputs")
    outputs.fill("2")
    outputs.press("Enter")
    saved(page)
    expect(page.get_by_text("It needs an extension.")).to_be_visible(timeout=LONG)
    page.get_by_label("A parameter, as the display calls it").fill("Curve 1")
    page.get_by_role("button", name="Write it down").click()
    saved(page)
    before = page.get_by_label("Before, Curve 1")
    before.fill("0.9")
    before.press("Enter")
    saved(page)
    kept = document_of(server, job)["fire_up"]["controller"]
    assert kept["terminals"]["outdoor-sensor"] == {"terminal": "X1.3", "checked": True}
    assert [one["before"] for one in kept["parameters"].values()] == ["0.9"]


def test_a_figure_typed_stands_at_once_and_one_that_cannot_be_is_refused(page: Page, server, job):
    page.goto(f"/job/{job}/fire-up")
    page.get_by_role("button", name=re.compile("^Heating run")).click()
    outdoors = page.get_by_role("textbox", name="Outdoors", exact=True)
    for value in ("4", "5"):
        outdoors.fill(value)
        outdoors.press("Enter")
        saved(page)
        expect(outdoors).to_have_value(f"{value}.0", timeout=1500)  # from the job, not from what is worked out later
    water = page.get_by_role("textbox", name="Water through the machine")
    water.fill("-5")
    water.press("Enter")
    expect(page.get_by_text(re.compile("-5 cannot be; it lies between 0 and 20000"))).to_be_visible()
    assert document_of(server, job)["fire_up"]["steps"]["heating-run"]["values"] == {"heat/outdoor_c": 5.0}
