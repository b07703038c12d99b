"""The machine in the browser: brought in from a sheet and picked among three, typed with its map, a hybrid, the price of a year."""

import re

import httpx
from playwright.sync_api import Page, expect

from tests.journeys.conftest import document_of, figure, saved

SHEET = """id;name;refrigerant;outdoor_c;water_c;output_kw;cop;least_kw;sound_db
heron-7;Heron 7;R290;-7;35;6,1;3,1;1,9;54
heron-7;Heron 7;R290;2;35;6,8;3,6;2,1;
heron-7;Heron 7;R290;7;35;8,0;4,6;2,2;
heron-7;Heron 7;R290;-7;55;5,8;2,2;;
heron-7;Heron 7;R290;7;55;7,4;2,9;;
heron-11;Heron 11;R32;-7;35;9,6;3,0;3,2;58
heron-11;Heron 11;R32;7;35;12,0;4,5;3,6;
heron-11;Heron 11;R32;7;55;11,1;2,8;;
"""


def bring(page: Page, text: str, name: str = "ours.csv") -> None:
    page.get_by_label("Bring in machines").set_input_files(
        {"name": name, "mimeType": "text/csv", "buffer": text.encode()}
    )


def test_machines_brought_in_from_a_sheet_and_one_picked_among_three(page: Page, server, job):
    page.goto(f"/job/{job}/machine")
    page.get_by_text("The company's own machines").click()
    bring(
        page,
        SHEET.replace("6,8;3,6", "6,8;9,6").replace("heron-11;Heron 11;R32;7;35;12,0", "heron-11;Heron 11;R32;7;35;x"),
    )
    said = page.get_by_role("alert")
    expect(said).to_contain_text("row 3, cop: COP 9.6 at A2/W35 is 103% of Carnot: not credible")
    expect(said).to_contain_text("row 8, output_kw: is no number; x stands there")
    expect(said).to_contain_text("No machine of it was taken")
    bring(page, SHEET)
    expect(
        page.get_by_text("Heron 7 is kept, edition 1; 1 of its points are worked out from their neighbours.")
    ).to_be_visible()
    expect(page.get_by_text("the pressure its pump has left").first).to_be_visible()
    pick = page.get_by_label("Put another machine beside them")
    for key, name in (("heron-7", "Heron 7"), ("heron-11", "Heron 11")):
        pick.select_option(key)
        expect(page.get_by_role("row", name=re.compile(f"^{name}"))).to_be_visible()
    saved(page)
    row = page.get_by_role("row", name=re.compile("^Heron 11"))
    before = figure(page, "cover")
    row.get_by_role("button", name="Choose").click()
    expect(row.get_by_text("chosen")).to_be_visible()
    saved(page)
    assert figure(page, "cover") > before
    page.get_by_label("Lay another machine over it").select_option(label="Heron 7")
    expect(page.get_by_role("img", name=re.compile("^Heron 11: house load"))).to_contain_text("Heron 7")
    copies = document_of(server, job)["library"]["machines"]
    assert copies["heron-11"]["origin"] == "company"
    assert copies["heron-11"]["data"]["cop"][1] == [4.5, 2.8]  # as the sheet says them
    # the company may forget it; the job keeps its copy
    page.get_by_text("Heron 11R32, edition 1").or_(page.locator("p", has_text="Heron 11")).get_by_role(
        "button", name="forget it"
    ).first.click()
    page.reload()
    expect(page.get_by_role("row", name=re.compile("^Heron 11")).get_by_text("chosen")).to_be_visible()


def test_a_machine_is_typed_and_its_map_grows(page: Page, server, job):
    page.goto(f"/job/{job}/machine")
    page.get_by_text("The company's own machines").click()
    page.get_by_role("button", name="Type one").click()
    form = page.get_by_role("region", name="A machine that is typed")
    keep = form.get_by_role("button", name="Keep it for the company")
    expect(form.get_by_text("Its map appears here with the third test point.")).to_be_visible()
    form.get_by_label("Name of the machine").fill("Bittern 5")

    def point(n: int, gives: str, cop: str) -> None:
        form.get_by_label(f"Point {n}, Gives, kW").fill(gives)
        form.get_by_label(f"Point {n}, COP").fill(cop)

    point(1, "4.4", "3.0")
    point(3, "5.5", "4.5")
    expect(keep).to_be_disabled()
    point(6, "5.1", "0.7")
    expect(form.get_by_role("alert")).to_contain_text(
        "point 3, cop: COP 0.7 at A7/W55 is below 1: a plain heater gives more"
    )
    point(6, "5.1", "2.8")
    expect(form.get_by_role("img", name="most it gives, kW over the air outside")).to_be_visible()
    expect(form.get_by_text("3 points tested, 1 worked out.")).to_be_visible()
    expect(form.get_by_text("how far it turns down")).to_be_visible()
    keep.click()
    expect(form).to_be_hidden()
    page.get_by_label("Put another machine beside them").select_option("bittern-5")
    row = page.get_by_role("row", name=re.compile("^Bittern 5"))
    row.get_by_role("button", name="Choose").click()
    saved(page)
    page.get_by_role("button", name=re.compile("^Findings")).click()
    expect(page.get_by_text("Nobody says how far Bittern 5 turns down.")).to_be_visible()
    expect(page.get_by_text("Nobody says what pressure Bittern 5 has left for the pipes.")).to_be_visible()


def test_a_small_machine_with_the_boiler_that_is_there_and_what_a_year_costs(page: Page, server, job):
    page.goto(f"/job/{job}/machine")
    page.get_by_role("row", name=re.compile("^Sedge 6")).get_by_role("button", name=re.compile("^Sedge 6")).click()
    page.get_by_label("What works beside the machine").select_option("boiler")
    saved(page)
    page.get_by_label("When it works").select_option("price")
    saved(page)
    page.get_by_role("tab", name="Through the year").click()
    row = page.get_by_role("row", name=re.compile("^Sedge 6"))
    expect(row).to_contain_text("with the boiler that is there (wood pellets)")
    expect(row).to_contain_text("fuel counted in")
    found = httpx.get(f"{server.url}/api/jobs/{job}/running", timeout=60).json()["running"]
    hybrid = next(r for r in found["rows"] if r["label"] == "Sedge 6")
    assert hybrid["whole"] is None
    assert hybrid["fuel_kwh"] > 0
    price = document_of(server, job).get("prices", {})
    page.get_by_role("tab", name="What it costs").click()
    expect(row).to_contain_text(f"COP {hybrid['break_even_cop']:.2f}")
    # electricity at half the price: the machine gives more of the heat, the year costs less, and the sentence says so
    field = page.get_by_label("Price of electricity", exact=True)
    field.fill("13.5")
    field.press("Enter")
    saved(page)
    expect(row).to_contain_text(f"COP {hybrid['break_even_cop'] / 2:.2f}")
    after = httpx.get(f"{server.url}/api/jobs/{job}/running", timeout=60).json()["running"]
    cheap = next(r for r in after["rows"] if r["label"] == "Sedge 6")
    assert cheap["heat_share"] > hybrid["heat_share"]
    assert cheap["cost_minor"]["mid"] < hybrid["cost_minor"]["mid"]
    assert price != document_of(server, job)["prices"]
    money = page.get_by_label("Cost of machine and work")
    money.fill("9000")
    money.press("Enter")
    saved(page)
    expect(row).to_contain_text("£5,850")  # the grant pays 35 % of it
    assert document_of(server, job)["schemes"]["lukewarm"]["candidates"]


def test_the_unit_is_moved_out_of_an_alley(page: Page, server, job):
    page.goto(f"/job/{job}/machine")
    page.get_by_role("tab", name="Where it stands").click()
    site = page.get_by_role("group", name="The site with the places for the unit")
    expect(site.get_by_role("button", name="Garden gable, a place for the unit")).to_be_visible()
    place = page.get_by_role("region", name=re.compile("^Garden gable"))
    expect(place.get_by_text("everything below is kept")).to_be_visible()
    # turned round it blows at the gable, half a metre away
    turn = place.get_by_label("The way it blows")
    turn.fill("270")
    turn.press("Enter")
    saved(page)
    row = place.get_by_role("row", name=re.compile("^Free in front"))
    expect(row).to_contain_text("not met")
    page.get_by_role("button", name=re.compile("^Findings")).click()
    expect(page.get_by_text(re.compile("Garden gable: 0.4. m where 1 m are kept"))).to_be_visible()
    page.keyboard.press("Escape")
    # out of it by hand: it follows the pointer and is judged where it is let go
    box = site.get_by_role("button", name="Garden gable, a place for the unit").locator("circle").bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.mouse.move(x + 60, y + 4, steps=6)
    page.mouse.up()
    expect(row).to_contain_text("met")
    expect(row).not_to_contain_text("not met")
    saved(page)
    assert document_of(server, job)["site"]["places"]["garden"]["x_m"] > 11
    # the other place is taken by this machine, the first one goes
    site.get_by_role("button", name="Coal yard, a place for the unit").focus()
    page.keyboard.press("Enter")
    yard = page.get_by_role("region", name=re.compile("^Coal yard"))
    expect(yard.get_by_role("row", name=re.compile("^Openings, drains"))).to_contain_text("not met")
    yard.get_by_label("Openings, drains and light shafts outside the protection zone, by the manual").fill("0.8")
    yard.get_by_label("Openings, drains and light shafts outside the protection zone, by the manual").press("Enter")
    expect(yard.get_by_role("row", name=re.compile("^Openings, drains"))).to_contain_text("the manual, as entered")
    yard.get_by_role("button", name="Put Sedge 9 here").click()
    expect(yard.get_by_text("Sedge 9 stands here")).to_be_visible()
    saved(page)
    assert document_of(server, job)["schemes"]["lukewarm"]["candidates"]["sedge-9"]["place"] == "yard"
    yard.get_by_role("button", name="take it off").click()
    expect(site.get_by_role("button", name="Coal yard, a place for the unit")).to_be_hidden()
    saved(page)
    assert "place" not in document_of(server, job)["schemes"]["lukewarm"]["candidates"]["sedge-9"]
    # the neighbour's window, heard by the unit alone
    page.get_by_label("Way of judging noise").select_option("alone")
    expect(page.get_by_role("row").filter(has_text="dB(A)").first).to_contain_text("37.0")
    fuse = page.get_by_label("Main fuse")
    fuse.fill("40")
    fuse.press("Enter")
    expect(page.get_by_text("15 A more than the main fuse")).to_be_visible()
