"""The report says what the screens say, lets nobody's text become markup, and fetches nothing from anywhere."""

import html as plain_html
import re
import zlib
from datetime import UTC, datetime

import pytest

from cinder.design import bill_check, design, doubts, year
from cinder.design.working_parts import num
from cinder.errors import Refused
from cinder.exchange import papers
from cinder.exchange.report import heat_loss
from cinder.library import load, shipped_year
from cinder.model import parse
from tests.conftest import oat_store, tansy_cut


def material(document):
    job = parse(document)
    result = design(job)
    weather = shipped_year(load().climates["mild-maritime"].year_sha256)
    return heat_loss.Material(
        job=job, design=result, doubts=doubts.solve(job), year=year.solve(job, result, weather),
        bill=bill_check.solve(job, result, weather), version=7, written_at=datetime(2026, 1, 2, 3, 4, tzinfo=UTC),
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
    house, text = made_of.design.house, words(page)
    assert f"{num(house.loss_w / 1000, 2)} kW" in text
    for room in made_of.design.rooms:
        assert room.label in text
        assert f" {num(room.room_emitter_load_w, 0)} " in text
        assert f" {num(room.room_share_of_house_w, 0)} " in text
    for way in house.air:
        assert f"{way.label}" in text
        assert f" {num(way.loss_w, 0)} " in text
    for leak in house.leaks:
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


def test_every_face_that_loses_heat_is_listed_with_its_watts(written):
    made_of, page = written
    text = words(page)
    for room in made_of.design.rooms:
        for face in room.faces:
            for piece in face.pieces:
                if piece.loss_w:
                    assert (
                        f" {num(piece.net_m2, 2)} {num(piece.u_w_m2k, 2)} {num(piece.difference_k)} {num(piece.loss_w, 0)} "
                        in text
                    )


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
