"""From the offer to the winters: two variants and one accepted; a pack issued and the design moved; a foreign winter read, its fault found."""

import io
import re

import httpx
import numpy as np
import pytest
from playwright.sync_api import Page, expect

from cinder.library import shipped_year
from cinder.model import parse
from cinder.twin.of_job import twin_of
from cinder.twin.winters import winter
from tests.conftest import house
from tests.journeys.conftest import document_of, saved

LONG = 150_000


def foreign_winter(document):
    """A winter of the twin as a logger of somebody else tells it: its own names, semicolons, decimal commas, days first."""
    job = parse(document)
    year = shipped_year(job.library.climates["mild-maritime"].data.year_sha256)
    twin = twin_of(job)
    told = winter(twin, year, seed=25, loses=0.85, clog_per_day=0.006, clogs_from_day=103)
    names = {
        "outdoor_c": "Outside", "supply_c": "Flow temp", "return_c": "Return temp", "wanted_c": "Flow target", "flow_lph": "Volume flow m3/h",
        "electric_w": "Electricity kW", "heat_w": "Heat output kW", "sun_w_m2": "Solar", "mode": "Mode",
    }  # fmt: skip
    labels = {f"room:{key}": job.survey.rooms[key].label for key in twin.rooms}
    keys = [*names, *labels]
    scale = {"flow_lph": 0.001, "electric_w": 0.001, "heat_w": 0.001}
    step = 2
    table = np.stack([told.channels[key][::step] * scale.get(key, 1.0) for key in keys], axis=1)
    at = (np.datetime64("2025-10-01T00:00:00") + told.seconds[::step].astype("timedelta64[s]")).astype(object)
    out = io.StringIO()
    out.write("Logged;" + ";".join([*names.values(), *(labels[key] for key in keys[len(names) :])]) + "\n")
    for moment, row in zip(at, table, strict=True):
        out.write(f"{moment:%d.%m.%Y %H:%M};" + ";".join(f"{v:.3f}".replace(".", ",") for v in row) + "\n")
    return out.getvalue().encode()


def test_an_offer_in_two_variants_is_issued_and_one_accepted(page: Page, server, job, worker):
    page.goto(f"/job/{job}/offer")
    expect(page.get_by_text("2 variants")).to_be_visible(timeout=LONG)
    page.get_by_role("tab", name="Lines").click()
    hours = page.get_by_role("textbox", name="Hours of Survey, design and papers")
    hours.fill("16")
    hours.press("Enter")
    saved(page)
    assert document_of(server, job)["handover"]["offer"]["tasks"]["design"]["hours"] == 16
    page.get_by_role("button", name="Issue the offer").click()
    line = page.locator("article[data-issued]")
    expect(line).to_have_attribute("data-issued", "ready", timeout=LONG)
    page.get_by_role("textbox", name="Who accepts offer 1").fill("The keeper")
    page.get_by_role("button", name="Accepted").click()
    expect(page.get_by_text("accepted: Lukewarm water, The keeper")).to_be_visible()
    page.goto(f"/job/{job}/pack")
    expect(page.locator("[data-record]", has_text="The offer that was accepted")).to_have_attribute(
        "data-record", "ready", timeout=LONG
    )


def test_a_pack_is_issued_and_what_moves_afterwards_is_named(page: Page, server, job, worker):
    page.goto(f"/job/{job}/pack")
    expect(page.get_by_role("heading", name=re.compile("From others"))).to_be_visible(timeout=LONG)
    row = page.locator("[data-record]", has_text="Delivery check")
    row.get_by_role("button", name="not needed").click()
    field = page.get_by_role("textbox", name="Why Delivery check is not needed")
    field.fill("it stood here already")
    field.press("Enter")
    saved(page)
    expect(row).to_have_attribute("data-record", "not needed", timeout=LONG)
    page.get_by_role("tab", name="Questions and review").click()
    by = page.get_by_role("textbox", name="Reviewed by")
    by.fill("R. Sallow")
    by.press("Enter")
    expect(page.get_by_text(re.compile("the review is by a second person"))).to_be_visible()
    by.fill("W. Teasel")
    by.press("Enter")
    saved(page)
    page.get_by_role("textbox", name="The remark").fill("48 °C holds the parlour by a hair: leave a kelvin.")
    page.get_by_role("button", name="Remark").click()
    saved(page)
    expect(page.locator("[data-remark=open]")).to_have_count(1, timeout=LONG)
    page.get_by_role("button", name="Issue the pack").click()
    expect(page.locator("article[data-issued]")).to_have_attribute("data-issued", "ready", timeout=LONG)
    page.get_by_role("textbox", name=re.compile("^Answer to: 48")).fill("It is set at 49.")
    page.get_by_role("textbox", name=re.compile("^Answer to: 48")).press("Enter")
    saved(page)
    body = {
        "id": f"moves-{job}", "base_version": httpx.get(f"{server.url}/api/jobs/{job}").json()["version"], "label": "warmer water",
        "operations": [{"op": "add", "path": "/schemes/lukewarm/flow_c", "value": 52.0}],
    }  # fmt: skip
    assert httpx.post(f"{server.url}/api/jobs/{job}/changes", json=body).status_code == 200
    page.reload()
    expect(page.get_by_text("The design has moved since:")).to_be_visible(timeout=LONG)
    expect(page.locator("article[data-issued]")).to_contain_text("52")


def test_a_foreign_winter_is_read_its_fault_found_a_doubt_settled_and_the_line_taken(page: Page, server, job):
    data = foreign_winter(document_of(server, job))
    page.goto(f"/job/{job}/winters")
    page.get_by_role("button", name="Bring readings").first.click(timeout=LONG)
    page.locator("input[type=file]").first.set_input_files(
        {"name": "logger.csv", "mimeType": "text/csv", "buffer": data}
    )
    expect(page.get_by_role("heading", name="Which column is which")).to_be_visible(timeout=LONG)
    assert page.get_by_role("combobox", name="What Logged is").input_value() == "time"
    page.get_by_role("button", name="Take them").click()
    expect(page.get_by_text(re.compile("moments kept"))).to_be_visible(timeout=LONG)
    page.get_by_role("tab", name="The house").click()
    fault = page.locator("[data-advice=flow-down]")
    expect(fault).to_be_visible(timeout=LONG)
    expect(fault).to_contain_text(re.compile("Jan|Feb"))
    page.get_by_role("button", name=re.compile("Take the step")).click(timeout=LONG)
    saved(page)
    assert document_of(server, job)["fire_up"]["corrections"]
    wall = page.locator("[data-proposal^='construction:wall']").first
    expect(wall).to_contain_text("loses less than was told", timeout=LONG)
    before = document_of(server, job)
    wall.get_by_role("button", name=re.compile("Take it")).click()
    saved(page)
    assert document_of(server, job)["survey"] != before["survey"]
    page.get_by_role("tab", name="The promise").click()
    expect(page.get_by_text("As it was lived")).to_be_visible(timeout=LONG)
    expect(page.get_by_text("Nobody can explain").first).to_be_visible()


@pytest.mark.parametrize("screen", ["offer", "pack", "winters"])
def test_a_job_without_a_machine_says_what_to_do_first(page: Page, server, screen):
    document = house("one-room") | {"id": f"bare-{screen}"}
    assert httpx.post(f"{server.url}/api/jobs/import", json=document).status_code == 201
    page.goto(f"/job/{document['id']}/{screen}")
    work = page.get_by_role("main")
    expect(work).to_contain_text(re.compile("machine|No winter was read yet|lack"), timeout=LONG)
