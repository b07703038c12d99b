"""The report says what the screens say, lets nobody's text become markup, and fetches nothing from anywhere."""

import html as plain_html
import re
import zlib
from datetime import UTC, datetime

import pytest

from cinder.design import design, year
from cinder.design.apart import bills as bill_check
from cinder.design.apart import doubts
from cinder.design.explained import num
from cinder.errors import Refused
from cinder.exchange import papers
from cinder.exchange.report import heat_loss
from cinder.library import load, shipped_year
from cinder.model import parse
from tests.conftest import house, oat_store, tansy_cut


def material(document):
    job = parse(document)
    result = design(job)
    weather = shipped_year(load().climates["mild-maritime"].year_sha256)
    return heat_loss.Material(
        job=job, design=result, doubts=doubts.judge(job), year=year.judge(job, result, weather),
        bill=bill_check.judge(job, result, weather), version=7, written_at=datetime(2026, 1, 2, 3, 4, tzinfo=UTC),
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
    assert f"{made_of.doubts.house.p10_w / 1000:.1f}–{made_of.doubts.house.p90_w / 1000:.1f} kW" in text
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
    assert words(made_of.year.by_bins) in text
    assert f"draws {whole(made_of.year.electricity_kwh)} kWh" in text
    more = made_of.design.season.electricity_kwh / made_of.year.electricity_kwh - 1
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


def test_a_font_by_another_name():
    with pytest.raises(KeyError):
        papers.font("../report/heat_loss.html.j2")
