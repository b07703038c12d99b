"""The room controller's advice, held to runs of its own."""

import numpy as np
import pytest

from cinder.design import design
from cinder.library import load, shipped_year
from cinder.model import parse
from cinder.twin import absences, loop, room_control, scenarios
from cinder.twin.of_job import reference_room, twin_of
from tests.conftest import counting_house, tansy_cut

YEAR = shipped_year(load().climates["mild-maritime"].year_sha256)


def with_rule(document, **rule):
    scheme = document["schemes"][document["active_scheme"]]
    scheme["control"] = scheme.get("control", {}) | {"room": rule}
    return document


def advised(job):
    return room_control.judge(job, scenarios.judge(job, YEAR), absences.judge(job))


@pytest.fixture(scope="module")
def found():
    job = parse(counting_house())
    return advised(job)


def test_longer_absences_save_more_and_the_cold_saves_more_than_mild_weather(found):
    cold, mild = found.absences[:3], found.absences[3:]
    for rows in (cold, mild):
        assert [one.hours for one in rows] == [9, 48, 168]
        saved = [one.saved_minor for one in rows]  # its boiler burns: kilowatt-hours of two prices are no measure
        assert saved == sorted(saved)
    assert all(c.saved_minor > m.saved_minor for c, m in zip(cold, mild, strict=True))
    assert all(one.falls_to_c >= found.away_c - 1.0 for one in found.absences)


def test_a_lead_time_brings_the_room_back(found):
    """Two routes: the advice's hours, and the twin held at 16 for two days and then run for that long by itself."""
    twin = twin_of(parse(counting_house()))
    at = twin.rooms.index(reference_room(twin.view))
    one = next(a for a in found.absences if a.hours == 48 and a.outdoor_c == -8.0)
    house = absences._plainly(twin)
    rest = absences._rest(twin, -8.0)
    held = house._replace(
        control=house.control._replace(thermostat=at, thermostat_c=16.0),
        rooms=house.rooms._replace(target_c=np.minimum(house.rooms.target_c, 16.0)),
    )
    _, state, _ = loop.run(held, absences._still(twin, -8.0, 48, home=False), rest.state)
    back, _, _ = loop.run(house, absences._still(twin, -8.0, one.lead_h, home=False), state)
    assert back.room_c[-1, at] == pytest.approx(house.rooms.target_c[at] - 0.3, abs=0.15)


def test_a_heavier_house_starts_earlier():
    leads = []
    for heavy in ("light", "very heavy"):
        document = counting_house()
        document["survey"]["heaviness"] = heavy
        found = absences.judge(parse(document))
        leads.append(next(a.lead_h for a in found.absences if a.hours == 168 and a.outdoor_c == -8.0))
    assert leads[1] > leads[0]


def test_what_is_set_goes_into_the_year():
    plain = scenarios.judge(parse(tansy_cut()), YEAR, only=("setback", "thermostat"))
    night = scenarios.judge(
        parse(with_rule(tansy_cut(), setback_k=5.0, night_from_h=22.0, night_to_h=6.0)), YEAR, only=("now",)
    )
    setback = next(row for row in plain.rows if row.key == "setback")
    assert night.rows[0].electricity_kwh == pytest.approx(setback.electricity_kwh, rel=1e-9)
    assert "5 K cooler at night" in night.rows[0].what
    charged = scenarios.judge(parse(with_rule(tansy_cut(), in_charge="thermostat")), YEAR, only=("now",))
    thermostat = next(row for row in plain.rows if row.key == "thermostat")
    assert charged.rows[0].electricity_kwh == pytest.approx(thermostat.electricity_kwh, rel=1e-9)


def test_the_plain_page_says_what_was_set():
    document = with_rule(
        tansy_cut(),
        setback_k=2.0,
        least_c=18.0,
        greatest_c=22.0,
        quiet_from_h=22.0,
        quiet_to_h=7.0,
        call="Wren Tolley, 0 12",
    )
    document["tariff"] = {"prepaid": True}
    job = parse(document)
    found = advised(job)
    page = " ".join(found.occupant)
    for said in (
        "from 22 to 6",
        "from 18 up to 22 °C",
        "From 22 to 7",
        "Wren Tolley, 0 12",
        "lukewarm",
        "Do not touch",
    ):
        assert said in page
    credit = next(one for one in found.advice if one.key == "credit")
    assert "before going away" in credit.set_to
    assert f"{found.a_day_kwh:.0f} kWh" in credit.why
    for word in ("safe", "legal", "approved"):
        assert word not in page.lower()


def test_landlords_limits_that_cross_are_named():
    findings = design(parse(with_rule(tansy_cut(), least_c=24.0, greatest_c=18.0))).findings
    assert any("landlord's limits cross" in one.what for one in findings)


def test_going_up_costs_more_a_kelvin_than_going_down_saves(found):
    """*Common practice*."""
    offset = next(one for one in found.advice if one.key == "offset")
    assert "the machine gets better as it gets cooler" in offset.why


def test_the_plain_page_claims_nothing_the_settings_do_not_bear_out():
    document = with_rule(tansy_cut(), least_c=24.0, greatest_c=18.0)
    document["schemes"]["lukewarm"]["control"] |= {"least_flow_c": 60.0}
    job = parse(document)
    page = " ".join(absences.judge(job).occupant)
    assert "lukewarm" not in page
    assert "landlord" not in page


def test_living_with_it_needs_no_year():
    """The occupant's page hangs on the house at rest alone; advice on nights needs the year, and says so."""
    job = parse(counting_house())
    away = absences.judge(job)
    assert away.occupant
    advice = room_control.judge(job, scenarios.judge(job, None), away)
    assert "hourly year" in advice.lacks
    assert advice.advice == []
    assert advice.occupant == away.occupant
