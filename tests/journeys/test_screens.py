"""What each screen lets one do, screen by screen."""

import json
import re

from playwright.sync_api import Page, expect

from tests.journeys.conftest import CHANGES, document_of, figure, saved

# What people type, and what it must be understood as, in metres (a foot is 0.3048 m, an inch 0.0254 m).
TYPED = [
    ("2.4", 2.4),
    ("2,45", 2.45),
    ("2400", 2.4),
    ("99", 99.0),
    ("100", 0.1),
    ("2400mm", 2.4),
    ("240 cm", 2.4),
    ("2.4 m", 2.4),
    ("8'", 2.4384),
    ("8' 3\"", 2.5146),
    ("8' 3 1/2\"", 2.5273),
    ("8ft 3in", 2.5146),
    ('98 3/8"', 2.4987),
    ("7’ 11″", 2.4130),
]
NOT_TYPED = ["two", "2.4.1", "8' x", "1e3", "--2", "2.4 stone", "'", "3/0x"]


def test_lengths_as_people_type_them(page: Page, job):
    """The value understood is echoed before it is taken; what is no length says so and keeps the old one."""
    page.goto(f"/job/{job}/rooms")
    field = page.get_by_label("Height of Hall")
    for text, metres in TYPED:
        field.fill(text)
        expect(page.locator(".echo")).to_contain_text(f"= {metres:.3f} m")
        field.press("Escape")
    for text in NOT_TYPED:
        field.fill(text)
        expect(page.locator(".echo")).to_contain_text("kept: 2.550")
        field.press("Escape")
    expect(field).to_have_value("2.550")
    expect(page.get_by_text(re.compile("version 1$"))).to_be_visible()


def test_emptying_a_field_makes_the_value_unknown(page: Page, server, job):
    page.goto(f"/job/{job}/rooms")
    page.get_by_label("Height of Hall").fill("")
    page.get_by_label("Height of Hall").press("Enter")
    expect(page.locator("tr[data-room=Hall]").get_by_text("lacks something")).to_be_visible()
    expect(page.get_by_text("Not counted: Hall.")).to_be_visible()
    saved(page)
    assert "height_m" not in document_of(server, job)["survey"]["rooms"]["hall"]
    page.locator("body").press("Control+z")
    expect(page.get_by_label("Height of Hall")).to_have_value("2.550")


def test_a_value_no_room_can_have_is_told_with_the_room(page: Page, server, job):
    page.goto(f"/job/{job}/rooms")
    field = page.get_by_label("Height of Hall")
    field.fill("99999")  # understood as millimetres, like any bare number as large
    field.press("Enter")
    told = page.get_by_role("alert")
    expect(told).to_contain_text("Hall, height in m: must be at most 30; 99.999 was sent")
    expect(told).to_contain_text("2.550 is kept")
    expect(told).not_to_contain_text("/survey/")
    expect(field).to_have_value("99999")
    assert document_of(server, job)["survey"]["rooms"]["hall"]["height_m"] == 2.55


def test_why_a_figure_is_refused_can_be_read_at_the_edge_of_the_window(page: Page, job):
    page.goto(f"/job/{job}/site")
    field = page.get_by_label("Thermal bridges", exact=True)
    field.fill("7")
    field.press("Enter")
    told = page.get_by_role("alert")
    expect(told).to_contain_text("must be at most 1")
    box, wide = told.bounding_box(), page.viewport_size
    assert box is not None
    assert wide is not None
    assert box["x"] >= 0
    assert box["x"] + box["width"] <= wide["width"]


def test_findings_lead_to_their_screens(page: Page, job):
    page.goto(f"/job/{job}/rooms")
    page.get_by_role("heading", name="Rooms").click()
    page.keyboard.press("f")
    drawer = page.get_by_role("complementary", name="Findings")
    expect(drawer.get_by_text("covers 93% of the design day")).to_be_visible()
    drawer.get_by_role("link", name="Machine").first.click()
    expect(page.get_by_role("heading", name="Machine", level=1)).to_be_visible()


def test_escape_clears_what_the_edit_did(page: Page, job):
    page.goto(f"/job/{job}/rooms")
    page.get_by_label("Height of Hall").fill("2.9")
    page.get_by_label("Height of Hall").press("Enter")
    chip = page.locator("[data-figure=loss]").get_by_text("▲")
    expect(chip).to_be_visible()
    page.get_by_role("heading", name="Rooms").click()
    page.keyboard.press("Escape")
    expect(chip).to_have_count(0)


def test_windows_doors_and_faces_come_and_go(page: Page, server, job):
    page.goto(f"/job/{job}/rooms")
    page.get_by_label("Open Landing").click()
    before = figure(page, "loss")
    page.get_by_label("Add a window to Wall 3").click()
    page.get_by_label("Width of Window 1").fill("900")
    page.get_by_label("Width of Window 1").press("Enter")
    page.get_by_label("Height of Window 1").fill("1.1")
    page.get_by_label("Height of Window 1").press("Enter")
    expect(page.get_by_text("0.99m²")).to_be_visible()
    assert figure(page, "loss") > before
    page.get_by_label("Remove Window 1").click()
    expect(page.get_by_label("Width of Window 1")).to_have_count(0)
    page.get_by_label("Beyond Wall 2 of Landing").select_option("outside")
    expect(page.locator("tr[data-room=Landing]").get_by_text("▲").first).to_be_visible()
    saved(page)
    face = document_of(server, job)["survey"]["rooms"]["landing"]["faces"]["w2"]
    assert face["spans"]["all"]["beyond"] == {"kind": "outside"}


def test_a_measure_in_the_scheme_leaves_the_survey(page: Page, server, job):
    page.goto(f"/job/{job}/rooms")
    page.get_by_label("Open Parlour").click()
    page.get_by_label("Bay window of Parlour in the scheme").select_option("window-triple")
    expect(page.locator("[data-figure=loss]").get_by_text("▼")).to_be_visible()
    saved(page)
    document = document_of(server, job)
    assert (
        document["survey"]["rooms"]["parlour"]["faces"]["w5"]["openings"]["window1"]["construction"]
        == "window-single-wood"
    )
    assert "window-triple" in document["library"]["constructions"]
    page.get_by_label("Bay window of Parlour in the scheme").select_option("")
    expect(page.locator("[data-figure=loss]").get_by_text("▲")).to_be_visible()
    saved(page)
    measures = document_of(server, job)["schemes"]["lukewarm"]["measures"]
    assert sorted(m["kind"] for m in measures.values()) == ["face", "face", "tightness"]


def test_another_machine_is_compared_chosen_and_dropped(page: Page, job):
    page.goto(f"/job/{job}/machine")
    page.get_by_label("Put another machine beside them").select_option("osier-12")
    row = page.locator("tr", has_text="Osier 12")
    row.get_by_role("button", name="Choose").click()
    expect(row.get_by_text("chosen")).to_be_visible()
    assert figure(page, "cover") > 120
    expect(page.get_by_text("Osier 12 covers")).to_be_visible()
    row.get_by_role("button", name="Stop comparing Osier 12").click()
    expect(page.get_by_text("No machine is chosen.")).to_be_visible()
    expect(page.locator("[data-figure=cover]").get_by_text("no machine")).to_be_visible()


def test_hot_water_follows_the_household(page: Page, job):
    page.goto(f"/job/{job}/hot-water")
    page.get_by_role("tab", name="How large").click()
    expect(page.get_by_text("180–210")).to_have_count(1)
    page.get_by_label("Bedrooms").fill("5")
    page.get_by_label("Bedrooms").press("Enter")
    expect(page.locator("table").get_by_text("small").first).to_be_visible()
    page.get_by_label("Store volume").fill("300")
    page.get_by_label("Store volume").press("Enter")
    expect(page.locator("table").get_by_text("meets").first).to_be_visible()
    for caution in ("Scalding", "Legionella"):
        expect(page.get_by_text(caution, exact=False).first).to_be_visible()
    page.get_by_role("tab", name="How warm").click()
    page.get_by_role("button", name=re.compile(r"^\d+min$")).first.click()
    expect(page.get_by_role("complementary", name="Working").get_by_text("V ρ c (θ_hot − θ_cold)")).to_be_visible()


def test_a_renewed_pipe_frees_the_pump(page: Page, server, job):
    page.goto(f"/job/{job}/pipework")
    page.get_by_label("Scheme on show").select_option("plain")
    saved(page)
    expect(page.locator("tr.index")).to_have_count(4)
    assert figure(page, "head") > 100
    thin = "to bedroom 3, pulled in the nineties"
    page.get_by_role("button", name=f"Open {thin}").click()
    page.get_by_label(f"Renew {thin} in the scheme").click()
    page.get_by_label(f"Size of {thin}").select_option("copper 15")
    expect(page.locator("[data-figure=head]").get_by_text("▼")).to_be_visible()
    saved(page)
    assert figure(page, "head") < 85
    document = document_of(server, job)
    assert document["survey"]["pipes"]["p-bed3"]["family"] == "plastic"
    assert document["schemes"]["plain"]["pipes"]["p-bed3"]["run"]["family"] == "copper"
    page.get_by_label("Volumiser in the return").fill("40")
    page.get_by_label("Volumiser in the return").press("Enter")
    expect(page.locator("[data-figure=open]").get_by_text("▲")).to_be_visible()


def test_the_curve_is_dialled_by_hand_key_and_field(page: Page, job):
    page.goto(f"/job/{job}/curve")
    mild = page.get_by_role("slider", name=re.compile("^Mild point"))
    value = int(mild.get_attribute("aria-valuenow"))
    mild.focus()
    page.keyboard.press("ArrowUp")
    expect(mild).to_have_attribute("aria-valuenow", str(value + 1))
    expect(page.get_by_text("Set by hand")).to_be_visible()
    box = mild.bounding_box()
    page.mouse.move(box["x"] + 26, box["y"] + box["height"] / 2 + 8)
    page.mouse.down()
    page.mouse.move(box["x"] + 26, box["y"] + 90, steps=5)
    page.mouse.up()
    saved(page)
    assert int(mild.get_attribute("aria-valuenow")) < value
    expect(page.get_by_text(re.compile(r"K short at"))).to_be_visible()
    page.get_by_role("button", name="Fit it again").click()
    expect(mild).to_have_attribute("aria-valuenow", str(value))
    page.get_by_label("Never above").fill("45")
    page.get_by_label("Never above").press("Enter")
    expect(page.locator(".dial").filter(has_text="Never above")).to_contain_text("45")


def test_every_kind_of_controller_says_what_to_dial_in(page: Page, server, job):
    page.goto(f"/job/{job}/curve")
    kind = page.get_by_label("Kind of controller")
    dial = page.locator(".dial").first
    kind.select_option("slope")
    expect(dial).to_contain_text("Slope")
    page.get_by_label("Slope", exact=True).fill("1.4")
    page.get_by_label("Slope", exact=True).press("Enter")
    expect(dial).to_contain_text("1.4")
    cold = page.get_by_role("slider", name=re.compile("^Cold point"))
    cold.focus()
    page.keyboard.press("ArrowUp")  # dragging the line takes over from what was dialled in by itself
    saved(page)
    assert "slope" not in document_of(server, job)["schemes"]["lukewarm"]["control"].get("slope", {})
    page.get_by_role("button", name="Fit it again").click()
    kind.select_option("numbered")
    expect(page.get_by_text("make its family known. Until then")).to_be_visible()
    page.get_by_text("What this controller can be told").click()
    for label, value in (
        ("Its number", "1"),
        ("Cold point of it, outside", "-10"),
        ("Cold point of it, water", "55"),
        ("Mild point of it, outside", "20"),
        ("Mild point of it, water", "20"),
    ):
        page.get_by_label(label, exact=True).fill(value)
        page.get_by_label(label, exact=True).press("Enter")
        saved(page)
    expect(dial).to_contain_text("Number of the line")
    page.get_by_role("tab", name="Other kinds of controller").click()
    page.get_by_role("button", name="Choose one temperature").click()
    expect(dial).to_contain_text("switched by hand or by time")
    expect(page.get_by_role("slider", name=re.compile("^Mild point"))).to_have_count(0)
    page.get_by_role("tab", name="Warmer or cooler").click()
    expect(page.get_by_text("Nobody has asked the customer yet")).to_be_visible()
    page.get_by_label("The customer's word").select_option("economy")
    expect(page.get_by_text("Economy first: up to 1 K short")).to_be_visible()
    page.get_by_role("link", name="Curve card").click()
    expect(page.get_by_label("Which paper").locator("option:checked")).to_have_text("Curve card")
    expect(page.frame_locator("iframe").get_by_role("heading", name="Curve card")).to_be_visible()


def test_practice_climate_and_schemes_on_the_site_page(page: Page, server, job):
    page.goto(f"/job/{job}/site")
    before = figure(page, "loss")
    page.get_by_label("School of air").select_option("table")
    expect(page.locator("[data-figure=loss]").get_by_text("▲")).to_be_visible()
    saved(page)
    assert figure(page, "loss") > before
    page.get_by_label("Climate", exact=True).select_option("cold-continental")
    expect(page.get_by_text("Designed for −24 °C outside")).to_be_visible()
    page.get_by_role("button", name="Copy this scheme").click()
    expect(page.get_by_label("Name of scheme Lukewarm water (copy)")).to_be_visible()
    expect(page.get_by_label("Scheme on show").locator("option:checked")).to_have_text("Lukewarm water (copy)")
    page.get_by_label("Remove scheme Lukewarm water (copy)").click()
    expect(page.get_by_label("Scheme on show").locator("option:checked")).to_have_text("As found")
    expect(page.locator("ol li").filter(has_text="Scheme removed")).to_be_visible()
    expect(page.locator("ol li").filter(has_text="Practice: air")).to_contain_text("kW")
    saved(page)
    assert document_of(server, job)["practice"]["air"] == "table"


def test_an_age_brings_its_constructions(page: Page, server, job):
    page.goto(f"/job/{job}/site")
    page.get_by_label("Age of House of 1908").select_option("after-2012")
    expect(page.get_by_label("Outside walls of House of 1908").locator("option:checked")).to_contain_text(
        "Structural insulated panel"
    )
    saved(page)
    part = document_of(server, job)["survey"]["parts"]["main"]
    assert (part["age"], part["constructions"]["ground"]) == ("after-2012", "ground-slab-75")
    page.get_by_role("button", name="+ part with its own age").click()
    expect(page.get_by_label("Age of Extension")).to_be_visible()


def test_a_job_is_put_away_and_taken_out(page: Page, job):
    page.goto("/")
    row = page.locator("tr").filter(has=page.locator(f"a[href='/job/{job}/rooms']"))
    row.get_by_role("button", name="Put away").click()
    expect(row).to_have_count(0)
    page.get_by_role("button", name="Put away").first.click()
    expect(page.get_by_role("heading", name="Jobs put away")).to_be_visible()
    row.get_by_role("button", name="Take out").click()
    expect(row).to_have_count(0)
    page.get_by_role("button", name="Back to the jobs").click()
    expect(row).to_be_visible()


def test_a_job_leaves_as_a_file(page: Page, server, job):
    page.goto("/")
    row = page.locator("tr").filter(has=page.locator(f"a[href='/job/{job}/rooms']"))
    with page.expect_download() as download:
        row.get_by_role("link", name="File").click()
    saved_file = json.loads(download.value.path().read_text())
    assert saved_file == document_of(server, job)


def test_a_job_that_is_not_there(page: Page):
    page.goto("/job/nowhere/rooms")
    expect(page.get_by_text("There is no job 'nowhere'.")).to_be_visible()
    page.get_by_role("link", name="All jobs").click()
    expect(page.get_by_role("heading", name="Jobs")).to_be_visible()


def test_keyboard_alone_reaches_a_number_and_its_working(page: Page, job):
    """Tab order follows the work: from the name of a room to its figures, without a mouse."""
    page.goto(f"/job/{job}/rooms")
    page.get_by_label("Name of Kitchen").focus()
    labels = []
    for _ in range(8):
        page.keyboard.press("Tab")
        labels.append(page.evaluate("document.activeElement.getAttribute('aria-label')"))
    assert labels[:6] == [
        "Use of Kitchen", "Width of Kitchen", "Length of Kitchen", "Height of Kitchen", "Wanted temperature in Kitchen",
        "Loss of Kitchen: show the working",
    ]  # fmt: skip
    page.get_by_label("Loss of Kitchen: show the working").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_role("complementary", name="Working")).to_be_visible()


def test_gestures_made_while_an_earlier_one_is_on_its_way(page: Page, server, job):
    """With a slow line every gesture lands on what the one before it made, and none takes another back."""
    page.goto(f"/job/{job}/rooms")
    page.get_by_label("Open Kitchen").click()

    def slowly(route):
        page.wait_for_timeout(350)
        route.continue_()

    page.route(CHANGES, slowly)
    for label, text in (("Width of Kitchen", "4.5"), ("Length of Kitchen", "3.6"), ("Height of Kitchen", "2.6")):
        page.get_by_label(label, exact=True).fill(text)
        page.keyboard.press("Tab")
    page.get_by_label("By the table in this scheme").select_option("replace")
    page.get_by_label("Length of By the table").fill("2000")
    page.keyboard.press("Tab")
    page.get_by_label("Window 1 of Kitchen in the scheme").first.select_option("window-triple")
    page.get_by_label("Window 1 of Kitchen in the scheme").first.select_option("window-double-argon")
    expect(page.get_by_text(re.compile(r"^Saved .* version 8$"))).to_be_visible(timeout=60_000)
    page.unroute(CHANGES)
    document = document_of(server, job)
    room = document["survey"]["rooms"]["kitchen"]
    assert [run["length_m"] for run in room["walk"]] == [4.5, 3.6, 4.5, 3.6]
    assert room["height_m"] == 2.6
    assert document["survey"]["emitters"]["r-kitchen"]["spec"]["length_m"] == 1.5
    scheme = document["schemes"]["lukewarm"]
    assert scheme["emitters"]["r-kitchen"]["spec"]["length_m"] == 2.0
    kitchen = [m["construction"] for m in scheme["measures"].values() if m.get("room") == "kitchen"]
    assert kitchen == ["window-double-argon"]
