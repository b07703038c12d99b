"""Losses, from the engineer's side: where it goes, what it is built of, how air is counted, the weather, the bill, what
would help, and the report."""

import re

import httpx
import pytest
from playwright.sync_api import Page, expect

from cinder.exchange.weather.weather_file import write_epw
from cinder.library import HourlyYear, load, shipped_year
from tests.journeys.conftest import document_of, figure, go, saved

MEASURED = "Upper Sedge"


def number(text):
    return float(re.sub(r"[^\d.−-]", "", text).replace("−", "-"))


def test_where_the_heat_goes_on_the_plan_and_in_the_list(page: Page, job):
    page.goto(f"/job/{job}/losses")
    expect(page.get_by_text(re.compile("Most goes through"))).to_be_visible()
    first = page.locator(".leak").first
    expect(first).to_contain_text("Timber frame, weatherboard, 50 mm wool")
    whole = page.locator(".picture line.wall").count()
    assert page.locator(".picture line.faint").count() == 0
    first.click()
    expect(first).to_have_attribute("aria-pressed", "true")
    faint = page.locator(".picture line.wall.faint").count()
    assert 0 < faint < whole  # the frame walls stay, everything else steps back
    page.get_by_role("tab", name="Upper floor").click()
    expect(page.locator("[data-heat-room='Bedroom 1']")).to_be_visible()
    page.locator("[data-heat-room='Bedroom 1']").focus()
    page.keyboard.press("Enter")
    drawer = page.get_by_role("complementary", name="Working")
    expect(drawer.get_by_role("heading", name="Bedroom 1: what its emitter must meet")).to_be_visible()
    loss = page.get_by_label("House loss: show the working").inner_text()
    assert number(loss) == pytest.approx(figure(page, "loss") * 1000, abs=6)
    page.get_by_label(re.compile("^U of .*show the working")).first.click()
    expect(drawer.get_by_text("B′ = A / ½P")).to_be_visible()
    page.get_by_label("Temperature of Loft: show the working").click()
    expect(drawer.get_by_text("θ_i − b (θ_i − θ_e)")).to_be_visible()


def test_a_construction_chosen_by_age_and_build_moves_the_chain(page: Page, server, job):
    page.goto(f"/job/{job}/constructions")
    before = figure(page, "loss")
    page.get_by_role("button", name="Choose from the library").click()
    page.get_by_label("Part of the shell").select_option("wall")
    page.get_by_label("Build", exact=True).select_option("timber frame, clad in boards")
    library = page.get_by_role("region", name="Library")
    library.get_by_role("button", name=re.compile("90 mm wool, 60 mm wood fibre outside")).click()
    expect(page.get_by_role("img", name=re.compile("cut through: 5 layers"))).to_be_visible()
    expect(page.get_by_text("does not count").first).to_be_visible()  # behind the ventilated space
    page.get_by_label("Put it instead of").select_option(label="Timber frame, weatherboard, 50 mm wool")
    expect(page.locator("[data-figure=loss]").get_by_text("▼")).to_be_visible()
    assert figure(page, "loss") < before
    saved(page)
    part = document_of(server, job)["survey"]["parts"]["main"]
    assert part["constructions"]["wall"] == "wall-frame-1900-wool90-outside60"
    page.locator("body").press("Control+z")
    expect(page.locator("[data-figure=loss]").get_by_text("▲")).to_be_visible()
    saved(page)
    assert figure(page, "loss") == before


def test_a_construction_composed_layer_by_layer(page: Page, server, job):
    page.goto(f"/job/{job}/constructions")
    page.get_by_role("button", name=re.compile("^Solid brick, one and a half brick")).click()
    page.get_by_role("button", name="Change a copy").click()
    page.get_by_label("Name of the construction").fill("Gable with wood fibre")
    page.get_by_label("Name of the construction").press("Tab")
    page.get_by_role("button", name="Add a layer").click()
    expect(page.get_by_label("Layer 3", exact=True)).to_be_visible()
    page.get_by_label("Layer 3", exact=True).select_option("wood-fibre")
    page.get_by_label("Thickness of layer 3").fill("0")
    page.get_by_label("Thickness of layer 3").press("Enter")
    expect(page.get_by_text("must be more than 0")).to_be_visible()
    expect(page.get_by_role("button", name="Keep in this job")).to_be_disabled()
    page.get_by_label("Thickness of layer 3").fill("80")
    page.get_by_label("Thickness of layer 3").press("Enter")
    expect(page.get_by_text("must be more than 0")).to_have_count(0)
    page.get_by_label("What crosses layer 3").select_option("softwood")
    page.get_by_label("Share crossed in layer 3").fill("8")
    page.get_by_label("Share crossed in layer 3").press("Enter")
    # R: one and a half brick 340 mm at 0.77 with 13 mm plaster, then 80 mm at 0.043, 8 % of it 0.13, by both limits
    expect(page.locator(".facts .big")).to_contain_text("0.4")
    page.get_by_role("button", name="Keep for the company").click()
    saved(page)
    expect(page.get_by_text("Used nowhere.")).to_be_visible()
    kept = httpx.get(f"{server.url}/api/company/constructions").json()["entries"]
    mine = next(entry for entry in kept if entry["entry"]["label"] == "Gable with wood fibre")
    page.get_by_label("Use it for").select_option(label="outside walls of House of 1908")
    saved(page)
    job_now = document_of(server, job)
    assert job_now["survey"]["parts"]["main"]["constructions"]["wall"] == mine["id"]
    assert job_now["library"]["constructions"][mine["id"]]["origin"] == "company"
    page.get_by_role("button", name="take out of this job").click()  # in use: refused, and says where
    expect(page.get_by_role("alert")).to_contain_text("House of 1908, wall: points at nothing")
    assert mine["id"] in document_of(server, job)["library"]["constructions"]
    httpx.delete(f"{server.url}/api/company/constructions/{mine['id']}")


def test_a_window_by_its_parts_and_a_declared_u_value(page: Page, job):
    page.goto(f"/job/{job}/constructions")
    page.get_by_text("Compose one").click()
    page.get_by_role("button", name="Windows").click()
    page.get_by_label("Glass U").fill("0.5")
    page.get_by_label("Glass U").press("Enter")
    big = page.locator(".facts .big")
    expect(big).not_to_contain_text("4.7")
    page.get_by_text("Compose one").click()
    page.get_by_role("button", name="Walls").click()
    page.get_by_label("by a declared U-value").check()
    page.get_by_role("textbox", name="Declared U-value").fill("40")
    page.get_by_role("textbox", name="Declared U-value").press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("must be at most 10")
    page.get_by_role("textbox", name="Declared U-value").fill("0.31")
    page.get_by_role("textbox", name="Declared U-value").press("Enter")
    expect(big).to_contain_text("0.31")


def test_air_counted_another_way(page: Page, server, job):
    page.goto(f"/job/{job}/air")
    ways = {key: page.locator(f"[data-air={key}]") for key in ("tightness", "age", "room", "table")}
    for way in ways.values():
        expect(way).to_be_visible()
    said = number(ways["table"].locator("dd.strong").inner_text().replace("kW", ""))
    ways["table"].get_by_role("button", name="Follow this").click()
    expect(ways["table"].get_by_text("followed")).to_be_visible()
    saved(page)
    assert figure(page, "loss") == pytest.approx(said, abs=0.01)
    page.get_by_label("Ventilation").select_option("balanced")
    page.get_by_label("Flow of the house").fill("120=")
    page.get_by_label("Flow of the house").press("Enter")
    page.get_by_label("Heat recovered").fill("82")
    page.get_by_label("Heat recovered").press("Enter")
    page.get_by_label("Vents in Bedroom 1").fill("2")
    page.get_by_label("Vents in Bedroom 1").press("Enter")
    page.get_by_label("Air changes stated for Hall").fill("0.4~")
    page.get_by_label("Air changes stated for Hall").press("Enter")
    saved(page)
    survey = document_of(server, job)["survey"]
    assert survey["ventilation"]["flow_m3h"] == 120
    assert survey["ventilation"]["recovery"] == pytest.approx(0.82)
    assert survey["ventilation"]["known"]["flow_m3h"]["how"] == "read"
    assert survey["rooms"]["bed1"]["air"]["vents"] == 2
    assert survey["rooms"]["hall"]["air"]["known"]["per_h"]["how"] == "told"


def test_weather_brought_along(page: Page, server, job, tmp_path):
    page.goto(f"/job/{job}/climate")
    before = figure(page, "loss")
    climate = load().climates["alpine-valley"].model_copy(update={"label": MEASURED})
    shipped = shipped_year(climate.year_sha256)
    colder = HourlyYear(shipped.outdoor_c - 0.3, shipped.ghi_w_m2, shipped.dni_w_m2, shipped.dhi_w_m2)
    good = tmp_path / "sedge.epw"
    good.write_bytes(write_epw(climate, colder))
    broken = tmp_path / "half.epw"
    broken.write_bytes(b"\n".join(good.read_bytes().splitlines()[:4000]))
    page.get_by_label("Bring a weather file").set_input_files(broken)
    expect(page.get_by_role("alert")).to_contain_text("a year has 8,760")
    page.get_by_label("Bring a weather file").set_input_files(good)
    expect(page.get_by_text(f"{MEASURED}", exact=False).first).to_be_visible()
    saved(page)
    assert figure(page, "loss") > before
    page.get_by_label("Mean of the coldest three days").check()
    saved(page)
    assert document_of(server, job)["climate"]["rule"] == "three_days"
    page.get_by_label(re.compile("Carry the climate to the site")).check()
    page.get_by_label("Altitude of the site").fill("900")
    page.get_by_label("Altitude of the site").press("Enter")
    expect(page.get_by_text(re.compile("Every temperature moves by"))).to_be_visible()
    page.get_by_label("Design temperature").fill("-11")
    page.get_by_label("Design temperature").press("Enter")
    expect(page.get_by_text("entered by hand", exact=False).first).to_be_visible()
    with page.expect_download() as taken:
        page.get_by_role("link", name="Take it as EPW").click()
    assert taken.value.path().read_bytes().startswith(b"LOCATION,Upper Sedge")


def test_the_year_and_last_years_fuel(page: Page, server, job):
    page.goto(f"/job/{job}/year")
    expect(page.get_by_text(re.compile("Through the year the house asks for"))).to_be_visible()
    expect(page.get_by_text("neither's range reaches the other's").first).to_be_visible()
    page.get_by_label("Amount bought").fill("5100")
    page.get_by_label("Amount bought").press("Enter")
    expect(page.get_by_text("they agree").first).to_be_visible()
    page.get_by_label("Amount bought").fill("1900")
    page.get_by_label("Amount bought").press("Enter")
    expect(page.get_by_text("the house used less than calculated")).to_be_visible()
    expect(page.locator(".reasons li").first).to_be_visible()
    page.get_by_label("Gains through the year").select_option("none")
    expect(page.locator("tfoot")).to_contain_text("Year")
    page.get_by_role("button", name="Add a bill").click()
    expect(page.get_by_label("Amount bought")).to_have_count(2)
    saved(page)
    assert len(document_of(server, job)["site"]["bills"]) == 2


def test_the_year_is_asked_for_once_an_edit_and_not_again_by_itself(page: Page, job):
    asked = []
    page.on("request", lambda r: asked.append(r.url) if r.url.endswith(("/year", "/doubts")) else None)
    page.goto(f"/job/{job}/year")
    expect(page.get_by_text(re.compile("Through the year the house asks for"))).to_be_visible()
    page.wait_for_timeout(1500)
    assert len(asked) <= 3
    assert {url.rsplit("/", 1)[1] for url in asked} == {"year", "doubts"}


def test_measures_tried_combined_taken_and_undone(page: Page, server, job):
    page.goto(f"/job/{job}/measures")
    first = page.locator("[data-measure^='outside-insulation:wall-brick-one-half']")
    expect(first).to_be_visible()
    thin = first.locator(".loss .num").inner_text()
    first.get_by_label(re.compile("^How much")).select_option(label="200 mm")
    assert number(first.locator(".loss .num").inner_text().replace("kW", "")) > number(thin.replace("kW", ""))
    first.get_by_role("checkbox").check()
    page.locator("[data-measure^='secondary-pane:window-single-wood']").get_by_role("checkbox").check()
    together = page.get_by_role("region", name="Together").locator("dl")
    expect(together.get_by_text("Cost")).to_be_visible()
    promised = float(re.search(r"→ ([\d.]+) kW", together.inner_text().replace("\n", " ")).group(1))
    loss, flow = figure(page, "loss"), figure(page, "flow")
    page.get_by_role("button", name="Take into “Lukewarm water”").click()
    expect(page.locator("[data-figure=loss]").get_by_text("▼")).to_be_visible()
    saved(page)
    assert figure(page, "loss") == pytest.approx(promised, abs=0.011)
    now = document_of(server, job)
    assert {m.get("from_table") for m in now["schemes"]["lukewarm"]["measures"].values()} >= {
        "outside-insulation",
        "secondary-pane",
    }
    assert now["survey"]["parts"]["main"]["constructions"]["wall"] == "wall-frame-1900-wool50"
    expect(page.get_by_text("In this scheme already")).to_be_visible()
    page.locator("body").press("Control+z")
    saved(page)
    expect(page.locator("[data-figure=loss]").get_by_text("▲")).to_be_visible()
    assert (figure(page, "loss"), figure(page, "flow")) == (loss, flow)


def test_the_companys_own_prices(page: Page, server, job):
    page.goto(f"/job/{job}/measures")
    row = page.locator("[data-measure='draught-proofing:']")
    expect(row).to_contain_text("£750")
    page.get_by_text("Prices of the company").click()
    page.get_by_label("Draught-proof the house, once").fill("910")
    page.get_by_label("Draught-proof the house, once").press("Enter")
    expect(row).to_contain_text("£910")
    expect(page.get_by_text("your own, edition 1")).to_be_visible()
    page.get_by_role("button", name="back to ours").click()
    expect(row).to_contain_text("£750")


def test_the_report_read_and_taken_along(page: Page, server, job, worker):
    page.goto(f"/job/{job}/report")
    sheet = page.frame_locator("iframe[title='Heat loss to machine']")
    expect(sheet.get_by_role("heading", name="Heat loss", exact=True)).to_be_visible()
    expect(sheet.get_by_text(f"{figure(page, 'loss'):.2f} kW").first).to_be_visible()
    page.get_by_role("button", name="Write the PDF").click()
    expect(page.get_by_role("progressbar").or_(page.get_by_role("link", name="Take the PDF"))).to_be_visible()
    expect(page.get_by_role("link", name="Take the PDF")).to_be_visible(timeout=90_000)
    with page.expect_download() as taken:
        page.get_by_role("link", name="Take the PDF").click()
    assert taken.value.path().read_bytes()[:5] == b"%PDF-"


def test_a_loft_gets_faces_and_finds_its_temperature(page: Page, server, job):
    page.goto(f"/job/{job}/site")
    page.get_by_label("Faces of Loft").click()
    page.get_by_role("button", name="+ face to the outside").click()
    page.get_by_label("Construction of Outer face of Loft").select_option("roof-cover-underlay")
    page.get_by_label("Area of Outer face of Loft").fill("88")
    page.get_by_label("Area of Outer face of Loft").press("Enter")
    page.get_by_label("Volume of Loft").fill("70")
    page.get_by_label("Volume of Loft").press("Enter")
    expect(page.get_by_text(re.compile("From its own faces: b 0.9"))).to_be_visible()
    page.get_by_label("School of thermal bridges").select_option("list")
    page.get_by_text("Ψ of every junction, W/mK").click()
    page.get_by_label("Ψ of lintel").fill("0.6")
    page.get_by_label("Ψ of lintel").press("Enter")
    page.get_by_label("Edge insulation of Garden room of 2007").select_option("vertical")
    saved(page)
    now = document_of(server, job)
    assert now["practice"]["psi_w_mk"] == {"lintel": 0.6}
    assert now["survey"]["parts"]["garden"]["edge"]["kind"] == "vertical"
    go(page, "Losses")
    expect(page.get_by_text("from its own faces")).to_be_visible()


def test_a_folded_trail_finds_every_screen(page: Page, job):
    page.goto(f"/job/{job}/rooms")
    for screen in ("Climate", "Losses", "Report", "Curve desk", "Constructions"):
        go(page, screen)
        expect(page.get_by_role("heading", level=1)).to_be_visible()
        expect(page.locator("nav a[aria-current=page]")).to_contain_text(screen)
