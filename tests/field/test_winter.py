"""A winter of readings: what it says is what the twin that told it is; odd days and foreign plants are named."""

import datetime as dt

import numpy as np
import pytest

from cinder.design import design, losses
from cinder.design.apart.doubts.decide import sampled_causes
from cinder.design.findings import Findings
from cinder.design.house.view import view
from cinder.design.year.decide import year_loss
from cinder.field.winter import judge
from cinder.field.winter.daily import days_of, hours_of, sunny_sensor
from cinder.field.winter.decide import ORDINARY_C, Source, weights_of
from cinder.field.winter.doubts import weighed
from cinder.field.winter.watch import changed, without_weather
from cinder.library import shipped_year
from cinder.model import parse
from cinder.twin.of_job import twin_of
from cinder.twin.winters import winter
from tests.conftest import tansy_cut

PER_HOUR = 12


@pytest.fixture(scope="module")
def house():
    job = parse(tansy_cut())
    year = shipped_year(job.library.climates[job.climate.entry].data.year_sha256)
    return job, design(job), year, twin_of(job), sampled_causes(job, ORDINARY_C)


def hourly(told, first="2024-10-01"):
    """Means by the hour as the database gives them."""
    count = len(told.seconds) // PER_HOUR
    at = (np.datetime64(f"{first}T00:00:00") + (np.arange(count) + 1) * np.timedelta64(3600, "s")).astype(
        "datetime64[s]"
    )
    by = {k: v[: count * PER_HOUR].reshape(count, PER_HOUR) for k, v in told.channels.items()}
    column = {k: v.mean(axis=1) for k, v in by.items()}
    mode = by["mode"]
    column |= {
        "hot_water_share": (mode == 3).mean(axis=1),
        "defrost_share": (mode == 2).mean(axis=1),
        "on_share": (mode > 0).mean(axis=1),
    }
    for name, key in (("hot_water_heat_w", "heat_w"), ("hot_water_electric_w", "electric_w")):
        column[name] = np.where(mode == 3, by[key], 0.0).mean(axis=1)
    return at, column


def told(house, **how):
    job, result, year, twin, sampled = house
    at, column = hourly(winter(twin, year, **{"seed": 5, **how}))
    return judge(job, result, Source("told", True, at, column), sampled, loss_range=(0.9, 1.1), weather=year)


def test_what_the_twin_loses_is_read_off_its_winter(house):
    """The twin's own loss for a kelvin outside, straight from its arrays, beside what its winters show: for three houses within 5 %; and
    the design's own, by a third route."""
    job, _, _, twin, _ = house
    whole = -float(np.diff(twin.house.rooms.base_w.sum(axis=1))[20])
    for loses in (0.8, 1.0, 1.2):
        found = told(house, loses=loses, shift_k=-1.0).signature
        assert found.h_w_k.mid == pytest.approx(whole * loses, rel=0.05)
        assert found.h_w_k.low < found.h_w_k.mid < found.h_w_k.high
    own = year_loss(view(job, Findings()), losses.of_house(view(job, Findings()), Findings())).per_k
    assert own == pytest.approx(whole, rel=0.01)


def test_a_strainer_that_clogs_from_january_is_found_and_a_sound_winter_is_left_alone(house):
    clogged = told(house, clog_per_day=0.006, clogs_from_day=103)
    flow = next(one for one in clogged.advice if one.key == "flow-down")
    assert dt.date(2025, 1, 12) <= flow.since <= dt.date(2025, 2, 10)
    assert "strainer" in flow.why
    assert "2025" in clogged.sentence
    false = [
        one.key
        for seed in range(12)
        for one in told(house, seed=seed, shift_k=0.2 * seed - 1, loses=1 + 0.03 * (seed % 5)).advice
    ]
    assert len(false) <= 1, false


@pytest.fixture(scope="module")
def sound(house):
    _, _, year, twin, _ = house
    return hourly(winter(twin, year, seed=5))


FROM_DAY = 103
"""12 January: what is wrong begins that day, grows for six weeks or is there at once."""


@pytest.mark.parametrize(
    ("key", "says", "spoils"),
    [
        ("cop-down", "refrigerant", {"electric_w": lambda was, grown, _: was * (1 + 0.22 * grown)}),
        ("off-line-up", "sensor drifts", {"supply_c": lambda was, grown, _: was + 3 * grown}),
        ("flow-down", "strainer", {"flow_lph": lambda was, grown, _: was * (1 - 0.18 * grown)}),
        ("room-scullery-down", "valve sticks shut", {"room:scullery": lambda was, _, there: was - 2.5 * there}),
        ("room-bed1-up", "valve sticks open", {"room:bed1": lambda was, _, there: was + 2.5 * there}),
        ("loss-up", "windows", {"heat_w": lambda was, _, there: was * (1 + 0.25 * there),
                                "electric_w": lambda was, _, there: was * (1 + 0.25 * there)}),
    ],
)  # fmt: skip
def test_lost_charge_drift_glycol_valves_and_windows_are_dated_and_nothing_else_is_said(
    house, sound, key, says, spoils
):
    """Put into the readings of a sound winter: found, dated within a week of its beginning, and no other word."""
    job, result, year, _, _ = house
    at, column = sound
    hours = np.arange(len(at)) - FROM_DAY * 24
    grown, there = np.clip(hours / (42 * 24), 0, 1), (hours >= 0) * 1.0
    spoilt = column | {name: how(column[name], grown, there) for name, how in spoils.items()}
    found = judge(job, result, Source("told", True, at, spoilt), None, loss_range=(0.9, 1.1), weather=year)
    assert [one.key for one in found.advice] == [key]
    assert abs((found.advice[0].since - dt.date(2025, 1, 12)).days) <= 8
    assert says in found.advice[0].why


@pytest.mark.parametrize("loses", [0.85, 1.0, 1.2])
def test_days_months_and_the_first_weeks_say_one_loss(house, loses):
    """Three routes to one number, from one winter of the twin: the signature by days, the same heat read off a meter every four weeks by
    degree days, and the heat of a fortnight over what the house should lose."""
    job, result, year, twin, _ = house
    at, column = hourly(winter(twin, year, seed=5, loses=loses))
    by_days = judge(job, result, Source("told", True, at, column), None, loss_range=(0.9, 1.1), weather=year)
    measured = by_days.signature.h_w_k.mid / by_days.signature.design_h_w_k.mid
    fortnight = next(one for one in by_days.proof.comparisons if one.key == "fabric").value
    assert fortnight == pytest.approx(measured, rel=0.12)
    rooms = np.nan_to_num(column["heat_w"] - column["hot_water_heat_w"]) / 1000
    day = (at - np.timedelta64(1, "s")).astype("datetime64[D]")
    air = {one.item(): float(column["outdoor_c"][day == one].mean()) for one in np.unique(day)}
    every = np.arange(0, len(at), 28 * 24)
    weights = weights_of(result)
    inside = np.average([column[f"room:{key}"] for key in weights], axis=0, weights=list(weights.values()))
    since = np.array([inside[max(n - 28 * 24, 0) : n + 1].mean() for n in every])
    read = {"heat_kwh": np.cumsum(rooms)[every] + 1000.0}

    def by_meter(column):
        meter = Source("meter", True, at[every], column)
        return judge(job, result, meter, None, loss_range=(0.9, 1.1), weather=year, air=air).signature

    followed, not_followed = by_meter(read | {"room:all": since}), by_meter(read)
    assert followed.h_w_k.mid == pytest.approx(by_days.signature.h_w_k.mid, rel=0.08)
    for one in (followed, not_followed):  # bands that meet; how often each holds what is so is tried over other houses
        assert one.h_w_k.low < by_days.signature.h_w_k.high
        assert by_days.signature.h_w_k.low < one.h_w_k.high
    assert not_followed.h_w_k.mid == pytest.approx(by_days.signature.h_w_k.mid, rel=0.2)
    assert not_followed.h_w_k.high / not_followed.h_w_k.low > 1.2 * followed.h_w_k.high / followed.h_w_k.low


def test_a_wall_that_is_better_than_told_shows_in_the_doubts(house):
    found = told(house, loses=0.86)
    assert found.signature.verdict == "loses less"
    wall = next(one for one in found.proposals if one.key.startswith("construction:wall"))
    assert wall.after.mid < wall.before.mid
    assert wall.after.high - wall.after.low < wall.before.high - wall.before.low
    assert wall.operations
    assert told(house, loses=1.0).signature.verdict == "as designed"


def test_a_loss_beyond_all_that_was_thought_possible_moves_no_single_doubt(house):
    found = told(house, loses=0.6)
    assert found.proposals == []
    assert any("beyond everything" in note for note in found.notes)


def test_weights_are_those_of_bayes(house):
    """By hand over three sampled houses: likelihoods of a normal measurement."""
    sampled = house[4]
    few = type(sampled)(
        sampled.causes, sampled.factors[:3], np.array([0.9, 1.0, 1.2]) * sampled.single_w, sampled.single_w
    )
    expected = np.exp(-0.5 * (np.array([0.0, 0.1, 0.3]) / 0.1) ** 2)
    np.testing.assert_allclose(weighed(few, 0.9, 0.1), expected / expected.sum(), rtol=1e-12)


def test_taking_a_proposal_is_an_edit_the_job_takes(house):
    from jsonpatch import JsonPatch

    document = tansy_cut()
    for one in told(house, loses=0.86).proposals:
        if one.operations:
            after = parse(JsonPatch(one.operations).apply(document))
            assert design(after).house.loss_w < design(parse(document)).house.loss_w


def hours(**columns):
    count = 24 * 40
    at = (np.datetime64("2025-01-01T00:00:00") + (np.arange(count) + 1) * np.timedelta64(3600, "s")).astype(
        "datetime64[s]"
    )
    rng = np.random.default_rng(2)
    out = 4 + 3 * np.sin(np.arange(count) / 24 * 2 * np.pi) + rng.normal(0, 1, count)
    base = {
        "outdoor_c": out,
        "room:all": np.full(count, 20.0),
        "heat_w": 180 * (20 - out),
        "electric_w": 180 * (20 - out) / 3.4,
    }
    return hours_of(at, base | columns, {})


def at_day(n):
    return slice(24 * n, 24 * (n + 1))


def test_days_that_cannot_be_are_named():
    plain = hours()
    electric, heat, out = plain.electric_w.copy(), plain.heat_w.copy(), plain.outdoor_c.copy()
    electric[at_day(3)] = 0.0
    electric[at_day(4)] /= 12
    heat[at_day(6)] = np.nan
    for one in (heat, out, electric):
        one[at_day(9)] = one[at_day(8)]
    days = days_of(hours(electric_w=electric, heat_w=heat, outdoor_c=out), dt.UTC)
    assert "without electricity" in days.odd[3]
    assert "41 times as much heat" in days.odd[4]
    assert "only 0 hours" in days.odd[6]
    assert "copy" in days.odd[9]
    assert [n for n, odd in enumerate(days.odd) if odd] == [3, 4, 6, 9]


def test_a_sensor_in_the_sun_is_told_from_warm_days():
    count = 24 * 40
    hour = np.arange(count) % 24
    sun = (
        np.maximum(np.sin((hour - 7) / 10 * np.pi), 0)
        * 500
        * np.repeat(np.random.default_rng(1).random(40), 24)
        * ((hour > 7) & (hour < 17))
    )
    warm = np.zeros(count)
    for n in range(1, count):
        warm[n] = 0.9 * warm[n - 1] + 0.0015 * sun[n]  # air follows the sun by hours
    noise = np.random.default_rng(4).normal(0, 0.2, count)
    shaded = hours(outdoor_c=4 + warm + noise, sun_w_m2=sun)
    lit = hours(outdoor_c=4 + warm + noise + 0.015 * sun, sun_w_m2=sun)
    assert sunny_sensor(shaded) < 0.006
    assert sunny_sensor(lit) == pytest.approx(0.015, abs=0.004)


def test_meters_alone_give_the_days_too():
    plain = hours()
    meter = np.cumsum(plain.heat_w) / 1000 + 5000
    counted = days_of(hours(heat_w=np.full(len(meter), np.nan), heat_kwh=meter), dt.UTC)
    np.testing.assert_allclose(counted.heat_kwh[1:-1], days_of(plain, dt.UTC).heat_kwh[1:-1], rtol=0.02)


def test_the_houses_own_day_is_taken_with_its_summer_time():
    from zoneinfo import ZoneInfo

    count = 24 * 4
    at = (np.datetime64("2025-03-28T23:00:00") + (np.arange(count) + 1) * np.timedelta64(3600, "s")).astype(
        "datetime64[s]"
    )
    column = {"outdoor_c": np.full(count, 5.0), "heat_w": np.full(count, 1000.0), "room:all": np.full(count, 20.0)}
    days = days_of(hours_of(at, column, {}), ZoneInfo("Europe/Berlin"))
    assert str(days.day[0]) == "2025-03-29"
    assert days.odd[1] == ""  # the day of 23 hours is whole


def test_a_change_is_dated_and_a_quiet_row_has_none():
    rng = np.random.default_rng(6)
    row = 100 + rng.normal(0, 2, 180)
    assert changed(row, least=0.1, relative=True, up=False) is None
    row[90:] -= 20
    found = changed(row, least=0.1, relative=True, up=False)
    assert 88 <= found.begun <= 92
    assert found.before == pytest.approx(100, abs=2)
    assert found.after == pytest.approx(80, abs=3)


def test_what_the_weather_alone_does_is_taken_out():
    out = 8 + 6 * np.sin(np.arange(180) / 30)
    row = 3 + 0.4 * out + np.random.default_rng(1).normal(0, 0.1, 180)
    assert without_weather(row, out).std() < 0.15


def by_hand(h_w_k=230.0, first=dt.date(2024, 10, 1), every=28, count=8, changed=None, electric=False):
    """A heat meter read every four weeks in a house that loses `h_w_k` below 17 °C, the air that of the days read beside it."""
    rng = np.random.default_rng(4)
    days = every * count
    air = {first + dt.timedelta(n): 9 - 7 * np.sin(np.pi * n / days) + rng.normal(0, 2.5) for n in range(days)}
    use = np.array([0.024 * h_w_k * max(17.0 - t, 0.0) + 6.0 for t in air.values()])
    total = np.concatenate(([0.0], np.cumsum(use)))[::every] + 4000.0
    if changed is not None:
        total[changed:] -= total[changed] - 3.0
    at = np.array(
        [np.datetime64(first + dt.timedelta(every * n), "s") + np.timedelta64(12, "h") for n in range(count + 1)]
    )
    key = "electric_kwh" if electric else "heat_kwh"
    return Source("Meters", False, at, {key: total / (3.5 if electric else 1.0)}), air


def test_meters_read_now_and_then_say_what_the_house_loses(house):
    """By degree days below 17 °C, as the readings were made; the sun the house is taken to have draws the base up a little."""
    job, built, *_ = house
    source, air = by_hand()
    found = judge(job, built, source, None, loss_range=None, weather=None, air=air)
    assert found.lacks == ""
    assert found.signature is not None
    assert found.signature.h_w_k.low < 230.0 < found.signature.h_w_k.high
    assert found.signature.h_w_k.high / found.signature.h_w_k.low < 1.5
    assert [one.days for one in found.points] == [28] * 8
    assert sum(one.heat_kwh * one.days for one in found.points) == pytest.approx(
        float(source.column["heat_kwh"][-1] - source.column["heat_kwh"][0]), rel=1e-3
    )


def test_a_meter_that_was_changed_and_air_nobody_read_are_said(house):
    job, built, *_ = house
    source, air = by_hand(changed=3)
    found = judge(job, built, source, None, loss_range=None, weather=None, air=air)
    assert "was changed" in " ".join(found.notes)
    assert sum(one.days for one in found.points) == 28 * 7
    few, _ = by_hand(count=3)
    assert "too few" in judge(job, built, few, None, loss_range=None, weather=None, air=air).lacks
    assert "climate" in judge(job, built, source, None, loss_range=None, weather=None).lacks


def test_electricity_alone_says_it_wider(house):
    job, built, *_ = house
    source, air = by_hand()
    electric, _ = by_hand(electric=True)
    one = judge(job, built, source, None, loss_range=None, weather=None, air=air).signature
    other = judge(job, built, electric, None, loss_range=None, weather=None, air=air)
    assert other.signature.h_w_k.high / other.signature.h_w_k.low > one.h_w_k.high / one.h_w_k.low
    assert "Only electricity" in " ".join(other.notes)


@pytest.mark.parametrize("heat_meter", [True, False])
def test_a_sound_winter_of_a_house_with_glycol_in_thin_air_is_as_mapped(heat_meter):
    """Two routes to one heat: the meter, and litres with their spread. Both stand in water that carries a twentieth less, and the machine in
    air that is thinner: neither is a fault."""
    document = tansy_cut()
    document["site"]["altitude_m"] = 1500.0
    document["schemes"][document["active_scheme"]]["protection"] = {"kind": "glycol", "glycol_share": 0.3}
    job = parse(document)
    year = shipped_year(job.library.climates[job.climate.entry].data.year_sha256)
    at, column = hourly(winter(twin_of(job), year, seed=7, days=120))
    meter = column["heat_w"]
    if not heat_meter:
        column = {key: values for key, values in column.items() if key not in ("heat_w", "hot_water_heat_w")}
    found = judge(job, design(job), Source("told", True, at, column), None, loss_range=None, weather=year)
    assert found.machine.ratio == pytest.approx(1.0, abs=0.03)
    steady = (column["on_share"] == 1) & (column["hot_water_share"] == 0) & (column["defrost_share"] == 0)
    assert steady.sum() > 500
    metered = meter[steady].sum()
    by_its_water, by_plain = (
        hours_of(at, column, {}, *fluid).heat_w[steady].sum() for fluid in ([view(job, Findings()).fluid], [])
    )
    assert by_its_water == pytest.approx(metered, rel=0.02)
    if not heat_meter:
        assert by_plain > 1.04 * by_its_water


def winter_behind(kind, **more):
    document = tansy_cut()
    document["schemes"][document["active_scheme"]]["separation"] = {"kind": kind} | more
    job = parse(document)
    year = shipped_year(job.library.climates[job.climate.entry].data.year_sha256)
    at, column = hourly(winter(twin_of(job), year, seed=11, days=120))
    result = design(job)
    return result, judge(job, result, Source("told", True, at, column), None, loss_range=None, weather=year)


@pytest.fixture(scope="module")
def one_circuit():
    return winter_behind("direct")[1]


@pytest.mark.parametrize(
    ("kind", "more"),
    [("header", {"machine_lph": 1600.0}), ("header", {"machine_lph": 600.0}), ("buffer 4", {})],
    ids=str,
)
def test_a_sound_house_behind_a_separator_has_no_fault(one_circuit, kind, more):
    """Its machine moves other water than its emitters and makes it warmer: that is how it was laid out. The emitters' own law is read from
    what they get and give back, as where there is one circuit."""
    result, found = winter_behind(kind, **more)
    assert result.separation.machine_lph != pytest.approx(result.separation.emitters_lph, rel=0.05)
    assert abs(found.machine.off_line_k) < 0.5
    assert found.machine.ratio == pytest.approx(1.0, abs=0.03)
    assert found.proof.verdict == one_circuit.proof.verdict == "as thought"
    assert found.emitters_ratio == pytest.approx(one_circuit.emitters_ratio, abs=0.04)
