"""The report says what the screens say, lets nobody's text become markup, and fetches nothing from anywhere."""

import html as plain_html
import io
import re
import zlib
from datetime import UTC, date, datetime
from functools import cache

import pypdf
import pytest

from cinder.design import design, year
from cinder.design.apart import bills as bill_check
from cinder.design.apart import (
    controllers,
    doubts,
    flows,
    materials,
    plant,
    protecting,
    routing,
    running,
    separating,
    water_day,
)
from cinder.design.apart.doubts import gaps
from cinder.design.explained import num
from cinder.errors import Refused
from cinder.exchange import packaged, papers
from cinder.exchange.report import PAPERS, heat_loss
from cinder.exchange.report.written import Material
from cinder.exchange.survey import form_pdf, quick_card
from cinder.field import wiring
from cinder.field.fire_up import day
from cinder.handover import offer as offers
from cinder.handover import pack, upkeep
from cinder.handover.guide import guide
from cinder.handover.pack import Facts
from cinder.handover.promise import promise
from cinder.library import load, shipped_year
from cinder.model import parse
from cinder.model.imperial import Told
from cinder.twin import absences
from tests.conftest import counting_house, house, oat_store, tansy_cut

PARTS = load().plant_parts


def material(document):
    job = parse(document)
    result = design(job)
    weather = shipped_year(load().climates["mild-maritime"].year_sha256)
    runs = running.judge(job, result, weather, loss_range=(0.9, 1.1))
    bought, fire = materials.judge(job, result, PARTS), day.judge(job, weather)
    facts = Facts(
        job=job, design=result, materials=bought, runs=runs, fire_up=fire, wiring=wiring.judge(job), accepted=False, offer_issued=False,
        moved=[], today=date(2026, 1, 2),
    )  # fmt: skip
    laid = offers.Laid(job, result, bought, runs)
    return Material(
        offer=lambda: (offers.judge(job, lambda key: laid, labour=load().labour, trades=load().trades), None),
        pack=lambda: pack.judge(facts), upkeep=lambda: upkeep.plan(job, result, today=date(2026, 1, 2)),
        promise=lambda: promise(job, result, doubts.judge(job), runs, weather),
        guide=lambda: guide(job, result, absences.judge(job), constant_h=40.0),
        doubts_leaving=lambda: gaps.leaving(job), picture=lambda sha256: b"", fingerprint="f" * 64,
        job=job, design=result, doubts=cache(lambda: doubts.judge(job)), year=cache(lambda: year.judge(job, result, weather)),
        bill=cache(lambda: bill_check.judge(job, result, weather)), version=7,
        runs=lambda: runs, water=cache(lambda: water_day.judge(job, result)), flows=cache(lambda: flows.judge(job, result)),
        controllers=cache(lambda: controllers.judge(job, result, loss_range=(0.9, 1.1))),
        fire_up=lambda: fire, wiring=lambda: wiring.judge(job),
        separating=cache(lambda: separating.judge(job, result, PARTS)), protecting=cache(lambda: protecting.judge(job, result, PARTS)),
        plant=cache(lambda: plant.judge(job, result, PARTS)), materials=lambda: bought, routes=cache(lambda: routing.judge(job, result)),
        written_at=datetime(2026, 1, 2, 3, 4, tzinfo=UTC),
        company="Reedmace <Heating>",
    )  # fmt: skip


@pytest.fixture(scope="module")
def written():
    made_of = material(tansy_cut())
    return made_of, heat_loss.html(made_of)


def words(page):
    text = re.sub(r"<style.*?</style>", "", page, flags=re.DOTALL)
    return re.sub(r"\s+", " ", plain_html.unescape(re.sub(r"<[^>]+>", " ", text)))


def test_the_same_numbers_as_the_screen(written):
    made_of, page = written
    total, text = made_of.design.house, words(page)
    assert f"{num(total.loss_w / 1000, 2)} kW" in text
    for room in made_of.design.rooms:
        assert room.label in text
        assert f" {num(room.room_emitter_load_w, 0)} " in text
        assert f" {num(room.room_share_of_house_w, 0)} " in text
    for way in total.air:
        assert f"{way.label}" in text
        assert f" {num(way.loss_w, 0)} " in text
    for leak in total.leaks:
        assert leak.label in text
    assert made_of.design.sentences["losses"].replace("**", "") in re.sub(r" ([,.:])", r"\1", text)


def test_method_evidence_range_schools_cautions(written):
    made_of, page = written
    text = words(page)
    for name, school in made_of.design.schools.items():
        assert name in text
        assert school in text
    assert f"{made_of.doubts().house.p10_w / 1000:.1f}–{made_of.doubts().house.p90_w / 1000:.1f} kW" in text
    assert "version 7" in text
    for hazard in ("Gas, oil, flue, carbon monoxide", "Fibres and dust", "Structure and damp"):
        assert hazard in text
    assert {"measured", "inferred", "read"} <= set(text.split())
    for word in (" safe ", " legal ", " approved "):
        assert word not in text.lower()


NUMBER = r"(−?[\d\u2009]+(?:\.\d+)?)"
ROW = re.compile(rf"<td>{NUMBER}</td><td>{NUMBER}</td><td>{NUMBER}</td><td>{NUMBER}</td><td>(?:{NUMBER})?</td></tr>")


def figures(row):
    return [float(text.replace("\u2009", "").replace("−", "-")) if text else 0.0 for text in row]


@pytest.mark.parametrize("document", [tansy_cut(), oat_store(), house("bungalow"), house("two-storeys-open")],
                         ids=["demo", "terrace", "bungalow", "two storeys"])  # fmt: skip
def test_every_row_of_a_face_multiplies_out_and_a_room_is_the_sum_of_its_rows(document):
    """As a reader with a pocket calculator: area x U x K is the W of its row, to what was rounded; with the bridges in their
    own column the rows of a room make its fabric, ground, bridges and trade."""
    document["site"]["units"] = "metric"
    made_of = material(document)
    page = heat_loss.html(made_of).split("<h2>Every face</h2>")[1].split("<h2>How the constructions")[0]
    parts = re.split(r"<h3>", page)[1:]
    rooms = [room for room in made_of.design.rooms if room.room_emitter_load_w is not None]
    assert len(parts) == len(rooms)
    rows = 0
    for part, room in zip(parts, rooms, strict=True):
        through = bridges = 0.0
        for found in ROW.findall(part):
            area, u, kelvin, watts, bridge = figures(found)
            slack = 0.05 + abs(0.005 * u * kelvin) + abs(0.0005 * area * kelvin) + abs(0.005 * area * u)
            assert area * u * kelvin == pytest.approx(watts, abs=slack), (room.label, found)
            through, bridges, rows = through + watts, bridges + bridge, rows + 1
        lines = sum(line.loss_w for face in room.faces for line in face.bridges)
        count = len(ROW.findall(part))
        assert bridges + lines == pytest.approx(room.bridges_w, abs=0.06 * count)
        assert through == pytest.approx(room.fabric_w + room.ground_w + room.trade_w, abs=0.06 * count)
    assert rows >= 10


def test_one_number_for_one_thing(written):
    """The season by bins is that of the machine page, beside the year hour by hour; each by its name."""
    made_of, page = written
    text = words(page)

    def whole(value):
        return num(value, 0).replace("\u2009", " ")

    assert f"it is {whole(made_of.design.season.heat_kwh)} kWh of heat" in text
    assert f"and {whole(made_of.design.season.electricity_kwh)} kWh of electricity" in text
    assert words(made_of.year().by_bins) in text
    assert f"draws {whole(made_of.year().electricity_kwh)} kWh" in text
    more = made_of.design.season.electricity_kwh / made_of.year().electricity_kwh - 1
    assert f"({abs(more):.1%} {'more' if more > 0 else 'less'})" in text


def test_text_of_users_stays_text():
    document = tansy_cut()
    evil = "<script>alert(1)</script>\"'><img src=x>"
    document["title"] = evil
    document["survey"]["rooms"]["parlour"]["label"] = evil
    document["site"]["place"] = "</style><b>here</b>"
    page = heat_loss.html(material(document))
    assert "<script>" not in page
    assert "<img" not in page
    assert page.count("</style>") == 1
    assert "Reedmace &lt;Heating&gt;" in page
    style = page.split("<style>")[1].split("</style>")[0]
    assert "alert(1)" not in style  # in the page's foot every sign but letters is escaped


def test_half_a_house_makes_a_report_too_and_says_what_is_left_out():

    document = oat_store()
    text = words(heat_loss.html(material(document)))
    assert "Not in these figures" in text
    assert "Bathroom" in text


def test_only_what_is_packaged_is_fetched():
    assert papers.pdf("<p>Nothing but words</p>")[:5] == b"%PDF-"
    for page in (
        '<img src="http://example.invalid/x.png">', '<link rel=stylesheet href="file:///etc/passwd">',
        '<style>@import url("http://example.invalid/a.css")</style>', '<img src="packaged:../../secrets">',
    ):  # fmt: skip
        with pytest.raises(Refused, match="nothing is fetched but what is packaged"):
            papers.pdf(f"<html><body>{page}</body></html>")


def test_the_paper_is_a_pdf_with_its_fonts(written):
    made_of, _ = written
    data = papers.pdf(heat_loss.html(made_of, for_print=True))
    assert data[:5] == b"%PDF-"
    assert len(data) > 40_000
    streams = [zlib.decompress(part) for part in re.findall(rb"stream\n(x.*?)\nendstream", data, re.DOTALL)]
    fonts = {name for part in streams for name in re.findall(rb"/FontName/\w+\+?([\w-]+)", part.replace(b" ", b""))}
    assert any(b"Atkinson" in name for name in fonts), fonts
    assert "http" not in heat_loss.html(made_of, for_print=True).replace("http-equiv", "")


@pytest.fixture(scope="module")
def pages(written):
    made_of, _ = written
    data = papers.pdf(heat_loss.html(made_of, for_print=True))
    return [page.extract_text() for page in pypdf.PdfReader(io.BytesIO(data)).pages]


def test_a_paper_has_a_title_block_running_heads_and_numbered_pages(written, pages):
    _, page_of = written
    for word in ("Written by", "Design day", "Standing", "Rooms counted", "version 7 of the job"):
        assert word in pages[0]
    for n, page in enumerate(pages):
        assert f"page {n + 1} of {len(pages)}" in page
        assert n == 0 or "The lock-keeper's house, Tansy Cut" in page, n
        assert "version 7 · engine" in page
        assert "ffffffffffff · 02.01.2026" in page
    # the list of contents gives the page each part really begins on
    names = [plain_html.unescape(one) for one in re.findall(r'<td class="l"><a href="#\w+">(.*?)</a></td>', page_of)]
    assert len(names) > 10
    for name in names:
        number = int(re.search(rf"{re.escape(name)} (\d+)\b", pages[0])[1])
        assert name.split(",")[0] in pages[number - 1], name


def test_every_storey_is_drawn_with_its_losses(written, pages):
    made_of, page = written
    drawn = page.split('id="plans"')[1].split('id="rooms"')[0]
    assert drawn.count("<svg") == 2
    for room in made_of.design.rooms:
        assert f">{room.label}</text>" in drawn
        assert f">{num(round(room.room_emitter_load_w, -1), 0)} W</text>" in drawn
    plan = next(text for text in pages if "On the plan" in text and "Ground floor" in text)
    assert "Upper floor" in plan
    # thickness is heat: the wall that loses most is drawn widest, and nothing wider
    walls = [p.loss_w or 0 for r in made_of.design.rooms for f in r.faces if f.kind == "wall" for p in f.pieces]
    windows = [o.loss_w or 0 for r in made_of.design.rooms for f in r.faces for o in f.openings]
    assert max(float(w) for w in re.findall(r'stroke-width="([\d.]+)"', drawn)) == pytest.approx(4.0)
    assert max(walls + windows) > 0


def test_a_party_wall_is_drawn_as_one():
    document = tansy_cut()
    document["survey"]["neighbours"] = {"no5": {"label": "No. 5", "pos": 1}}
    document["survey"]["rooms"]["scullery"]["faces"].setdefault("w1", {"openings": {}})["spans"] = {
        "all": {"beyond": {"kind": "neighbour", "neighbour": "no5"}}
    }
    page = heat_loss.html(material(document))
    drawn = page.split('id="plans"')[1].split('id="rooms"')[0]
    plain = heat_loss.html(material(tansy_cut())).split('id="plans"')[1].split('id="rooms"')[0]
    assert drawn.count('stroke="#1c2226"') == plain.count('stroke="#1c2226"') + 1


def test_a_row_is_never_cut_by_the_end_of_a_page(written, pages):
    """Every face's row stands whole on one page: its last figure on the page its first word is on."""
    made_of, _ = written
    room = next(r for r in made_of.design.rooms if r.id == "parlour")
    page = next(text for text in pages if text.count("air changes per hour") and f"{room.label}, 21.0 °C" in text)
    for face in room.faces:
        for opening in face.openings:
            line = page[page.index(opening.label) :][:160]
            assert num(opening.area_m2, 2) in line
            assert num(opening.loss_w - (opening.bridge_w or 0), 1) in line


def test_a_job_in_feet_has_a_paper_in_feet():
    document = tansy_cut()
    document["site"]["units"] = "feet"
    made_of = material(document)
    text = words(heat_loss.html(made_of))
    text = text.replace("\u2060", "")
    left = re.findall(r"\d[\u2009\u00a0 ](?:°C|kW|W|K|kPa|L/h|m²|m³|W/m²K?|W/K|L|m)(?![\w²³/·])", text)
    assert left == []
    loss = num(made_of.design.house.loss_w * 3.412142, -1).replace("\u2009", " ")
    assert f"{loss} Btu/h" in text
    assert "26.6 °F outside" in text
    assert "U Btu/h·ft²·°F" in text
    # as a reader in feet multiplies: area x U x difference is the Btu/h of the row
    rows = ROW.findall(heat_loss.html(made_of).split("<h2>Every face</h2>")[1].split("<h2>How the")[0])
    assert len(rows) > 60
    for found in rows:
        area, u, difference, heat, _ = figures(found)
        slack = 0.05 + abs(0.00005 * area * difference) + abs(0.05 * u * difference) + 0.005 * area * u
        assert area * u * difference == pytest.approx(heat, abs=slack), found


def test_a_font_by_another_name():
    with pytest.raises(KeyError):
        packaged.font("../report/heat_loss.html.j2")


def test_form_and_card_are_in_the_units_of_the_job():
    feet, ours = form_pdf.html("Weir cottage", Told(feet=True)), form_pdf.html("Weir cottage")
    assert "Use, °F" in feet
    assert "Use, °C" in ours
    assert "psi" in feet
    assert ">bar<" not in feet
    card = quick_card.html(room_c=20.0, told=Told(feet=True))
    assert "Btu/h·ft² of face, room 68 °F" in card
    # the same figures, each in its own unit
    row = re.search(r"<th>122 °F</th>(.*?)</tr>", card).group(1)
    watts = re.search(r"<th>50 °C</th>(.*?)</tr>", quick_card.html(room_c=20.0)).group(1)
    pairs = zip(re.findall(r"<td>(\d+)</td>", row), re.findall(r"<td>(\d+)</td>", watts), strict=True)
    assert all(abs(int(other) - int(w) * 0.316998) < 2.2 for other, w in pairs)
    assert "{" not in card.split("</style>")[1]
    for page in (feet, card):
        assert re.findall(r"\d[\u2009\u00a0 ](?:°C|kW|W|K|kPa|L/min|m²)(?![\w²³/·])", words(page)) == []


def test_the_machine_its_year_and_its_place_stand_in_the_report(written):
    """The same figures as the results; a place and a hybrid only where there are any."""
    made_of, page = written
    text = words(page)
    assert "The machine and its season: Lukewarm water" in text
    for row in made_of.runs().rows:
        low, high = (num(end / 100, 0) for end in (row.cost_minor.low, row.cost_minor.high))
        assert f"{low} to {high}" in text
        assert num(row.whole if row.whole is not None else row.blended, 2) in text
    assert "machine and fuel blended, no COP" in text  # the demo compares a small machine with the boiler that is there
    assert "Where it stands: Garden gable" in text
    heard = made_of.design.places.places[0].heard[0]
    assert f"{heard.label} {num(heard.distance_m, 1)} {num(heard.level_db, 1)}" in text
    document = tansy_cut()
    document["site"]["places"] = {}
    for scheme in document["schemes"].values():
        for candidate in scheme["candidates"].values():
            candidate.pop("place", None)
            candidate.pop("backup", None)
    plain = words(heat_loss.html(material(document)))
    assert "Where it stands" not in plain
    assert "machine and fuel blended" not in plain


FOR_ONE = (
    "customer",
    "noise",
    "hot-water",
    "hydraulic",
    "balancing",
    "curve-card",
    "fire-up",
    "controller",
    "occupant",
    "materials",
    "electrics",
)
LONGER = ("hot-water", "hydraulic", "balancing", "materials", "fire-up", "controller")
"""Papers that list more than a page holds."""


@pytest.fixture(scope="module")
def on_a_site():
    """The demo with a script for a name, a heater in its machine, another unit and a grant that holds."""
    document = tansy_cut()
    document["title"] = "<script>alert(1)</script> & Sons"
    document["library"]["machines"]["sedge-9"]["data"]["contains"] = {"heater_kw": 4.6}
    document["site"]["marks"]["other"] = {
        "kind": "unit",
        "label": "The ferry's unit",
        "x_m": 25.0,
        "y_m": 5.0,
        "power_db": 58.0,
    }
    document["grants"] = {"g": {"label": "Towpath grant", "amount_minor": 250000.0}}
    return material(document)


@pytest.mark.parametrize("kind", FOR_ONE)
def test_a_paper_for_one_reader_is_a_page_that_promises_nothing(on_a_site, kind):
    page = PAPERS[kind][1](on_a_site, for_print=True)
    assert "<script>" not in page
    text = words(page)
    assert "<script>alert(1)</script> & Sons" in text
    for word in (" safe ", " legal ", " approved ", " compliant "):
        assert word not in text.lower()
    # the customer's is one page; the others may run over where there is more to list
    most = {"customer": 1, "hydraulic": 4, "materials": 4, "fire-up": 5}.get(kind, 2)
    assert len(pypdf.PdfReader(io.BytesIO(papers.pdf(page))).pages) <= most


@pytest.mark.parametrize("kind", [kind for kind in FOR_ONE if kind not in LONGER])
def test_a_paper_for_one_reader_is_one_page_for_an_ordinary_house(written, kind):
    page = PAPERS[kind][1](written[0], for_print=True)
    assert len(pypdf.PdfReader(io.BytesIO(papers.pdf(page))).pages) == 1


def test_the_customers_page_is_a_range_against_today(on_a_site):
    text = words(PAPERS["customer"][1](on_a_site))
    row = next(one for one in on_a_site.runs().rows if one.chosen)
    for span in (row.cost_minor, row.saves_minor, on_a_site.runs().present.cost_minor):
        assert f"{num(span.low / 100, 0)} to {num(span.high / 100, 0)}" in text
    offered = next(one for one in on_a_site.offer()[0].variants if one.scheme == on_a_site.job.active_scheme)
    assert words(f"{num(offered.sums.pay / 100, 0)} GBP once") in text  # the sum the offer names, no other
    assert f"Towpath grant {num(2500, 0)} GBP" in text
    assert (
        f"between {on_a_site.doubts().house.p10_w / 1000:.1f} and {on_a_site.doubts().house.p90_w / 1000:.1f} kW"
        in text
    )
    assert "Electric shock, fire" in text


def test_the_noise_sheet_shows_its_sum_and_both_ways(on_a_site):
    text = words(PAPERS["noise"][1](on_a_site))
    place = next(one for one in on_a_site.design.places.places if one.chosen)
    for heard in place.heard:
        assert f"{heard.level_db:.1f}" in text
        assert f"{heard.label}, the unit alone at most 37:" in text
    assert "The ferry's unit 58.0" in text
    assert "Lines of equal level" in text
    plain = material(tansy_cut())
    heard = next(one for one in plain.design.places.places if one.chosen).heard[0]
    assert (
        f"56.0 + 10 log({heard.directivity:.0f} / (4π · {heard.distance_m:.2f}²)) − 0 = {heard.level_db:.1f} dB(A)"
        in words(PAPERS["noise"][1](plain))
    )


def test_the_electricians_sheet_is_a_sum_with_room_to_write(on_a_site):
    text = words(PAPERS["electrics"][1](on_a_site))
    # 38 A of the house, 17 A of the machine, 4.6 kW at 230 V
    assert "its heater, at the same time 20.0" in text
    assert "Together 75.0" in text
    assert "Left under it 5.0" in text
    assert "Loop impedance at the board" in text
    full = tansy_cut()
    full["site"]["supply"] |= {"spare_way": False, "board_minor": 64000.0}
    assert "a larger board or a second one is priced work, 640 GBP" in words(PAPERS["electrics"][1](material(full)))


@pytest.mark.parametrize("kind", FOR_ONE)
def test_a_paper_of_a_house_without_a_machine_says_what_is_missing(kind):
    document = tansy_cut()
    document["schemes"]["lukewarm"].pop("chosen")
    text = words(PAPERS[kind][1](material(document)))
    assert re.search("none chosen|no machine is chosen yet|A scheme with a chosen machine", text)


def test_the_hydraulic_sheet_says_what_the_screens_say(written):
    """Index, open water, one circuit or two, frost, the plant: the figures of the Design and of the slow sections."""
    made_of, _ = written
    text, work = words(PAPERS["hydraulic"][1](made_of)), made_of.design.pipework
    assert f"Together; the pump has {num(work.head_kpa, 1)} kPa at {num(work.flow_lph, 0)} L/h" in text
    for circuit in work.circuits[:1]:
        assert circuit.label in text
    for row in made_of.separating().variants:
        assert row.label in text
    for guard in made_of.protecting().rows:
        assert guard.label in text
    assert "Circuits: one circuit. Freeze protection: not chosen yet." in text
    page = PAPERS["hydraulic"][1](made_of)
    assert page.count("<svg") == 2  # pipes on the plan, the plant
    labels = {re.sub(r"\s+", " ", line) for part in made_of.plant().parts for line in part.lines}
    assert {label for label in labels if label not in text} == set()


def test_the_list_of_materials_adds_up_on_paper(written):
    made_of, _ = written
    text = words(PAPERS["materials"][1](made_of))
    assert {row.label for row in made_of.materials().rows if row.label not in text} == set()
    assert re.sub(r"\s+", " ", num(made_of.materials().sums.total_minor / 100, 2)) in text


def test_the_list_of_materials_in_feet_is_the_same_money():
    """So many feet at the price of a foot come to what the metres came to."""
    document = tansy_cut()
    document["site"]["units"] = "feet"
    made_of = material(document)
    page = PAPERS["materials"][1](made_of)
    text = words(page)
    row = next(one for one in made_of.materials().rows if one.part == "pipe")
    told = Told(feet=True)
    assert f"{told.fig(row.count, 'm', 0)} ft" in text
    assert not re.search(r"\d (m|L)\b", text)
    assert row.count * told.factor("m") * (row.minor / told.factor("m")) == pytest.approx(row.total_minor)
    assert re.sub(r"\s+", " ", num(row.minor / told.factor("m") / 100, 2)) in text


@pytest.mark.parametrize("document", [tansy_cut(), counting_house()], ids=["floors", "hybrid"])
def test_the_curve_card_is_one_page(document):
    page = PAPERS["curve-card"][1](material(document), for_print=True)
    assert len(pypdf.PdfReader(io.BytesIO(papers.pdf(page))).pages) == 1
    assert ("cheaper while its COP is above" in words(page)) == (document["title"] == "The counting-house")


def test_the_curve_card_says_what_the_desk_says(written):
    made_of, _ = written
    text = words(PAPERS["curve-card"][1](made_of))
    curve = made_of.design.curve
    for row in (one for one in (*curve.dial, *curve.limits) if one.key != "mild_out"):
        assert row.label in text
        assert f"{num(row.value, row.digits)} °C" in text
    for out, water in zip(curve.outdoor_c, curve.line_c, strict=True):
        if out in (0.0, 5.0, 10.0, 15.0):
            assert f"{num(water, 0)} °C" in text
    assert "wait two days" in text
