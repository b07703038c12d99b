"""Emitters: every kind recorded, its wall drawn, a floor laid, products brought in, the manifold cleared, the way pinned."""

import re

from playwright.sync_api import Page, expect

from tests.journeys.conftest import document_of, figure, saved


def fill(where, label, value):
    where.get_by_label(label, exact=True).fill(value)
    where.get_by_label(label, exact=True).press("Enter")


def test_a_radiator_on_its_wall_and_what_fits_there(page: Page, server, job):
    page.goto(f"/job/{job}/emitters?emitter=r-kitchen")
    editor = page.get_by_role("region", name="By the table")
    wall = editor.get_by_role("img", name="The wall of By the table, to scale")
    expect(wall).to_contain_text("wall 3.80 m long")
    expect(wall).to_contain_text("1500 × 600")
    expect(wall).to_contain_text("free wall 1700 × 750")
    editor.get_by_role("button", name=re.compile("full cover")).click()
    expect(editor.get_by_text("leaves 75 %")).to_be_visible()
    before = figure(page, "flow")
    editor.get_by_role("button", name=re.compile("full cover")).click()
    saved(page)
    row = editor.get_by_role("row", name=re.compile("T33 1600 × 700"))
    row.hover(timeout=60_000)  # a wait, not a speed: the ways of the room are weighed first
    expect(wall).to_contain_text("1600 × 700")  # the ghost of what might hang there
    row.get_by_role("button", name=re.compile("^Take:")).click()
    expect(editor.get_by_text("replaced in this scheme")).to_be_visible()
    saved(page)
    now = document_of(server, job)
    assert now["schemes"]["lukewarm"]["emitters"]["r-kitchen"]["spec"]["length_m"] == 1.6
    assert now["survey"]["emitters"]["r-kitchen"]["spec"]["length_m"] == 1.5
    assert figure(page, "flow") <= before
    fill(editor, "Length of By the table", "4.2")
    expect(wall).to_contain_text("4200 × 700")
    page.get_by_role("button", name=re.compile("^Findings")).click()
    expect(page.get_by_text(re.compile("its wall is 3.80 m")).first).to_be_visible()


def test_a_new_floor_of_odd_values(page: Page, server, job):
    page.goto(f"/job/{job}/emitters?emitter=r-scullery")
    page.get_by_label("Kind of Beside the door").select_option("floor")
    editor = page.get_by_role("region", name="Beside the door")
    fill(editor, "Heated area of Beside the door", "6.4")
    fill(editor, "Pipe spacing of Beside the door", "0.125")
    editor.get_by_label("Covering of Beside the door").select_option("timber-solid")
    expect(editor.get_by_text("limit 27", exact=True)).to_be_visible()
    expect(editor.get_by_role("img", name=re.compile("Surface across the pipes"))).to_contain_text("pipes 125 mm apart")
    loop = editor.get_by_role("row", name=re.compile("^125 mm"))
    expect(loop).to_contain_text("51 m")
    editor.get_by_role("button", name="100 mm").click()
    expect(editor.get_by_role("row", name=re.compile("^100 mm"))).to_contain_text("64 m")
    saved(page)
    laid = document_of(server, job)["survey"]["emitters"]["r-scullery"]["spec"]
    assert (laid["kind"], laid["heated"]["spacing_m"], laid["heated"]["covering_limit_c"]) == ("floor", 0.1, 27.0)
    assert "type" not in laid
    fill(editor, "Pipe spacing of Beside the door", "0.9")
    expect(editor.get_by_text(re.compile("0.05 to 0.375 m"))).to_be_visible()


def test_a_fan_unit_and_the_speed_that_is_accepted(page: Page, server, job):
    page.goto(f"/job/{job}/emitters?emitter=r-bed2")
    page.get_by_label("Kind of Under the window").select_option("fan")
    editor = page.get_by_role("region", name="Under the window")
    fill(editor, "Output at speed 1 of Under the window", "640")
    editor.get_by_role("button", name="+ a faster speed").click()
    fill(editor, "Output at speed 2 of Under the window", "1500")
    editor.get_by_role("radio").nth(1).check()
    expect(editor.get_by_text("1500 W at 49.8 K")).to_be_visible()
    saved(page)
    spec = document_of(server, job)["survey"]["emitters"]["r-bed2"]["spec"]
    assert (spec["kind"], spec["speed"], len(spec["speeds"])) == ("fan", 1, 2)


def test_a_list_is_brought_in_with_its_errors_and_a_product_put_there(page: Page, server, job, tmp_path):
    good = tmp_path / "Willow list.csv"
    good.write_text(
        "id,kind,name,length_mm,height_mm,output_w,exponent,price\nw1,panel,Willow 14,1400,600,3900,1.3,395\n"
    )
    bad = tmp_path / "Torn list.csv"
    bad.write_text("id,kind,name,output_w\nw1,panel,Willow 14,plenty\n")
    page.goto(f"/job/{job}/emitters?emitter=r-bed2")
    page.get_by_text("Sizes and products").click()
    page.get_by_label("Bring in a list of products").set_input_files(bad)
    expect(page.get_by_text("row 2, output_w: is no number; plenty stands there")).to_be_visible()
    page.get_by_label("Bring in a list of products").set_input_files(good)
    expect(page.get_by_text("“Willow list” is kept, edition 1: 1 product.")).to_be_visible()
    page.get_by_label("Search the products").fill("willow")
    page.get_by_role("button", name="Put Willow 14 here").click()
    expect(page.get_by_role("navigation", name="Emitters by room").get_by_text("Willow 14")).to_be_visible()
    saved(page)
    spec = document_of(server, job)["survey"]["emitters"]["r-bed2"]["spec"]
    assert (spec["product"], spec["output_w"]) == ("Willow 14", 3900.0)
    page.get_by_role("button", name="forget this list").click()
    expect(page.get_by_role("button", name="forget this list")).to_have_count(0)


def test_the_manifold_clears_as_the_water_cools(page: Page, server, job):
    page.goto(f"/job/{job}/emitters?emitter=loop-garden")
    hung = page.get_by_role("region", name="At the manifolds")
    valve = hung.get_by_role("row", name=re.compile("^Blending valve"))
    expect(valve).to_contain_text("stays")
    expect(valve).to_contain_text("It goes once the water is at 41 °C or cooler")
    httpx_job = document_of(server, job)
    assert httpx_job["active_scheme"] == "lukewarm"
    page.goto(f"/job/{job}/waterline")
    line = page.get_by_label("Design flow temperature", exact=True).and_(page.locator("input"))
    line.fill("40")
    line.press("Enter")
    saved(page)
    page.goto(f"/job/{job}/emitters?emitter=loop-garden")
    expect(valve).to_contain_text("remove")
    hung.get_by_label("Found at a manifold").select_option("zone-valve")
    expect(hung.get_by_role("row", name=re.compile("^Zone valve"))).to_contain_text("leave open")
    fill(hung, "Why Zone valve stays", "the annexe is let")
    expect(hung.get_by_role("row", name=re.compile("^Zone valve"))).to_contain_text("stays")
    saved(page)
    with page.expect_download() as table:
        page.get_by_role("link", name="Schedule, CSV").click()
    assert "Floor loops" in table.value.path().read_text("utf-8-sig")


def test_a_way_is_pinned_a_room_may_stay_cooler_and_one_gets_a_heater(page: Page, server, job):
    page.goto(f"/job/{job}/waterline")
    page.get_by_role("button", name=re.compile("^Parlour: needs")).first.click()
    ways = page.get_by_role("region", name="What may be done: Parlour")
    expect(ways.get_by_text(re.compile("Parlour asks for"))).to_be_visible(timeout=60_000)
    ways.get_by_role("button", name=re.compile("^all ")).click()
    row = ways.get_by_role("row", name=re.compile("a new heated floor.*100 mm"))
    row.get_by_role("button", name="must").click()
    expect(row).to_contain_text("must be", timeout=60_000)
    way = page.get_by_role("region", name="The cheapest way to cooler water")
    expect(way.get_by_text("must be done")).to_be_visible(timeout=60_000)
    expect(way.locator("li", has_text="a new heated floor").first).to_be_visible(timeout=60_000)
    way.get_by_role("button", name="unpin").click()
    expect(way.get_by_text("must be done")).to_have_count(0, timeout=60_000)
    fill(ways, "Least temperature accepted in Parlour", "19")
    expect(ways.get_by_role("row", name=re.compile("accept 19 °C instead of 21"))).to_contain_text(
        "a concession, no saving", timeout=60_000
    )
    ways.get_by_label("a heater of its own is allowed here").check()
    expect(ways.get_by_role("row", name=re.compile("a heater of its own, ")).first).to_be_visible(timeout=60_000)
    saved(page)
    scheme = document_of(server, job)["schemes"]["lukewarm"]
    assert scheme["concessions"] == {"parlour": 19.0}
    assert scheme["allowed"] == ["electric:parlour"]
    held = page.get_by_role("region", name="What taking one room out would do")
    expect(held.get_by_role("row", name=re.compile("^Parlour"))).to_contain_text("kWh", timeout=60_000)


def test_a_radiator_in_one_line(page: Page, job, server):
    page.goto(f"/job/{job}/emitters")
    line = page.get_by_label("A radiator of Scullery in one line")
    line.fill("t33")
    line.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("t22 1200x600")
    line.fill("t33 700x450")
    line.press("Enter")
    saved(page)
    line.fill("0,9 x 0,6")  # of the kind hung last
    line.press("Enter")
    saved(page)
    survey = document_of(server, job)["survey"]
    hung = [one for one in survey["emitters"].values() if one["room"] == "scullery"]
    sizes = {(one["spec"]["type"], one["spec"]["length_m"], one["spec"]["height_m"]) for one in hung}
    assert {("t33", 0.7, 0.45), ("t33", 0.9, 0.6)} <= sizes
    assert all(one["known"]["spec"]["how"] == "measured" for one in hung if one["spec"]["type"] == "t33")
