"""The list of materials: everything chosen once, with its reason; sums by hand; the tables it is handed on as."""

from __future__ import annotations

import csv
import io
from collections import Counter

import pytest
from openpyxl import load_workbook

from cinder.design import design
from cinder.design.apart import materials
from cinder.exchange.tables import shopping
from cinder.library import load
from cinder.model import parse
from tests.conftest import tansy_cut

PARTS = load().plant_parts


def scheme_of(document: dict) -> dict:
    return document["schemes"][document["active_scheme"]]


def listed(document: dict, parts=PARTS, own=frozenset()):
    job = parse(document)
    shown = design(job)
    return shown, materials.judge(job, shown, parts, own)


@pytest.fixture(scope="module")
def found():
    return listed(tansy_cut())


def test_every_line_has_a_reason_and_stands_once(found):
    _, made = found
    assert all(row.why and row.label for row in made.rows)
    assert max(Counter(row.key for row in made.rows).values()) == 1


def test_new_pipes_are_bought_there_and_back_by_size(found):
    shown, made = found
    new = [p for p in shown.pipework.pipes if p.action in ("add", "replace")]
    assert new
    bought = sum(row.count for row in made.rows if row.part == "pipe")
    assert bought == pytest.approx(2 * sum(p.length_m for p in new), abs=len({p.size_label for p in new}))
    one = next(row for row in made.rows if row.part == "pipe")
    bore = next(p.bore_m for p in new if p.size_label == one.label)
    assert one.minor == pytest.approx(PARTS["pipe"].minor + PARTS["pipe"].minor_per_size * bore * 1000)


def test_sums_are_those_of_the_lines(found):
    _, made = found
    for need, total in (
        ("essential", made.sums.essential_minor), ("good", made.sums.good_minor), ("by circumstance", made.sums.circumstance_minor),
    ):  # fmt: skip
        assert total == pytest.approx(sum(row.total_minor or 0 for row in made.rows if row.need == need))
    assert made.sums.unpriced == sum(row.minor is None for row in made.rows)
    assert all(row.total_minor == pytest.approx(row.minor * row.count) for row in made.rows if row.minor is not None)


def test_what_is_chosen_comes_and_goes_with_the_choice():
    document = tansy_cut()
    keys = {row.key for row in listed(document)[1].rows}
    assert "inhibitor" in keys
    assert not keys & {"buffer", "second-pump", "glycol", "freeze-valves"}
    scheme_of(document)["separation"] = {"kind": "buffer 4", "buffer_l": 90.0}
    scheme_of(document)["protection"] = {"kind": "glycol"}
    after = {row.key: row for row in listed(document)[1].rows}
    assert {"buffer", "second-pump", "flow-sensor", "glycol", "glycol-fill"} <= after.keys()
    assert after["buffer"].minor == pytest.approx(PARTS["buffer"].minor + 90.0 * PARTS["buffer"].minor_per_size)
    assert "inhibitor" not in after


def test_an_inhibitor_for_every_hundred_litres_as_it_is_sold(found):
    """A litre for each 100 L (common practice), to half a litre upwards."""
    shown, made = found
    litres = shown.volume.open_l + shown.volume.closed_l
    row = next(one for one in made.rows if one.key == "inhibitor")
    assert litres / 100 <= row.count < litres / 100 + 0.5


def test_the_companys_prices_stand_in_place_of_ours():
    dear = PARTS["strainer"].model_copy(update={"minor": 99900.0})
    row = next(
        one
        for one in listed(tansy_cut(), {**PARTS, "strainer": dear}, frozenset({"strainer"}))[1].rows
        if one.key == "strainer"
    )
    assert row.minor == 99900.0
    assert row.price_from == "the company's table"


def test_the_tables_hold_the_same_lines(found):
    _, made = found
    rows = list(csv.reader(io.StringIO(shopping.to_csv(made, "GBP").decode("utf-8-sig"))))
    assert len(rows) == 1 + len(made.rows)
    at = rows[0].index("Together, GBP")
    assert sum(float(row[at] or 0) for row in rows[1:]) == pytest.approx(
        made.sums.total_minor / 100, abs=0.01 * len(rows)
    )
    sheet = load_workbook(io.BytesIO(shopping.to_xlsx(made, "GBP"))).active
    assert [cell.value for cell in sheet[1]] == rows[0]
    assert sheet.cell(2, 2).value == made.rows[0].label


def test_a_name_that_a_spreadsheet_would_run_is_guarded():
    document = tansy_cut()
    key = next(iter(scheme_of(document)["emitters"]))
    room = document["survey"]["emitters"].get(key, {}).get("room") or scheme_of(document)["emitters"][key]["room"]
    document["survey"]["rooms"][room]["label"] = "=cmd()"
    made = listed(document)[1]
    assert any(row.label.startswith("=cmd()") for row in made.rows)
    said = list(csv.reader(io.StringIO(shopping.to_csv(made, "GBP").decode("utf-8-sig"))))
    assert not any(cell.startswith("=") for row in said for cell in row)


def test_without_a_machine_it_says_what_it_lacks():
    document = tansy_cut()
    scheme_of(document)["chosen"] = None
    made = listed(document)[1]
    assert made.lacks
    assert not made.rows
