"""Arguments settled for this house: the ways of running it through the same year, and a week of any of them."""

from __future__ import annotations

from collections.abc import Callable, Collection
from dataclasses import dataclass
from functools import partial

import numpy as np
from numpy.typing import NDArray

from cinder.design.judgement import design as judged
from cinder.design.kept import Kept
from cinder.design.machine.beside import beside_chosen
from cinder.design.separation.decide import STIRRED, USUAL_PUMP
from cinder.errors import NotFound
from cinder.library import HourlyYear, load
from cinder.model import Job
from cinder.patience import go_on
from cinder.physics.climate.weather import HOURS
from cinder.physics.flow.separation import lift_k, mixing_share
from cinder.physics.quantity import Array
from cinder.physics.running import running_mean
from cinder.twin import loop, network
from cinder.twin.bought import KWH, Worth, bought, worth_of
from cinder.twin.of_job import Twin, lacks, litre_j_k, reference_room, twin_of, weather_of
from cinder.twin.parts import Buffer, House, Weather
from cinder.twin.result import RoomTrace, Scenario, TwinFound, TwinWeek, Week, WeekFound

SETBACK_K = 5.0
WARMER_K = 5.0
BUFFER_L = 100.0
AWAKE_H = (6.0, 22.0)
STEP_S = 300.0
WEEK_STEP_S = 60.0
WEEK_H = 7 * 24
QUARTER_MIN = 15
RUN_IN_H = 72
MILD_C = 8.0
SUNNY_BELOW_C = 10.0
TOLD_KWH = 5.0


@dataclass(frozen=True, slots=True)
class Way:
    """One way of running the house: what is changed on the twin."""

    key: str
    label: str
    what: str
    change: Callable[[Twin], House]


def _lined(twin: Twin, line: Array) -> House:
    return twin.house._replace(control=twin.house.control._replace(line_c=line))


def _set_back(twin: Twin) -> House:
    return twin.house._replace(
        control=twin.house.control._replace(setback_k=SETBACK_K, setback_from_h=22.0, setback_to_h=6.0)
    )


def _off_at_night(twin: Twin) -> House:
    return twin.house._replace(control=twin.house.control._replace(off_from_h=22.0, off_to_h=5.0))


def _buffered(twin: Twin) -> House:
    """With a vessel where there is none, or without the one there is; the emitters keep their water, so the machine's line moves by what
    lies between, and the second pump comes or goes."""
    house, between, per_litre = twin.house, twin.design.separation, litre_j_k(twin.view)
    out = house.control.line_from_c + np.arange(float(len(house.control.line_c)))
    if house.buffer.machine_w_k > 0:
        return _parted(house, Buffer(0.0, 0.0), -between.lift_at(out), -between.pump_w)
    takes = float(house.emitters.flow_w_k.sum()) * 3600.0 / per_litre
    moves = (twin.view.machine.rated_flow_lph if twin.view.machine else None) or takes
    stirred = STIRRED["buffer 4"]
    lift = lift_k(
        heat_w=twin.design.house.emitter_loads_w or 0.0, machine_lph=moves, emitters_lph=takes, stirred=stirred, fluid=twin.view.fluid
    )  # fmt: skip
    vessel = Buffer(
        BUFFER_L * per_litre, moves * per_litre / 3600.0, mixing_share(stirred=stirred, flows=moves / takes)
    )
    hotter = between.model_copy(update={"lift_k": lift}).lift_at(out)
    return _parted(house, vessel, hotter, load().pumps[USUAL_PUMP].rated_w)


def _parted(house: House, buffer: Buffer, hotter_k: Array, pump_w: float) -> House:
    return house._replace(
        buffer=buffer, control=house.control._replace(line_c=house.control.line_c + hotter_k),
        machine=house.machine._replace(pump_w=house.machine.pump_w + pump_w),
    )  # fmt: skip


def _one_temperature(twin: Twin) -> House:
    line = twin.house.control.line_c
    return _lined(twin, np.full_like(line, twin.design.curve.cold_flow_c or float(line.max())))


def _valves(twin: Twin) -> House:
    emitters = twin.house.emitters
    all_close = not emitters.closes.all()
    share, gives = network.table(twin.view, twin.design, twin.arrays, set(twin.emitters) if all_close else set())
    changed = emitters._replace(closes=np.full_like(emitters.closes, all_close), open_share=share, open_gives=gives)
    return twin.house._replace(emitters=changed)


def _thermostat(twin: Twin) -> House:
    at = twin.rooms.index(reference_room(twin.view))
    target = float(twin.house.rooms.target_c[at])
    return twin.house._replace(control=twin.house.control._replace(thermostat=at, thermostat_c=target))


def _as_set(twin: Twin) -> str:
    control = twin.house.control
    said = "a thermostat in charge" if control.thermostat >= 0 else "the line of the curve desk"
    return f"{said}, {control.setback_k:g} K cooler at night" if control.setback_k else f"{said}, continuous"


def ways(twin: Twin) -> list[Way]:
    """What is argued about, as it stands for this house."""
    buffered, all_close = twin.house.buffer.machine_w_k > 0, bool(twin.house.emitters.closes.all())
    key = reference_room(twin.view)
    named = next(room.name for room in twin.view.rooms if room.id == key)
    return [
        Way("now", "As it is set", _as_set(twin), lambda t: t.house),
        Way("setback", f"Water {SETBACK_K:g} K cooler at night", "from 22 to 6", _set_back),
        Way("off", "Off at night", "from 22 to 5", _off_at_night),
        Way("fixed", "One temperature", "the water of the coldest day all the year", _one_temperature),
        Way("warmer", f"Line {WARMER_K:g} K warmer", "as many a house is left", lambda t: _lined(t, t.house.control.line_c + WARMER_K)),
        Way("cooler", f"Line {WARMER_K - 2:g} K cooler", "started low", lambda t: _lined(t, t.house.control.line_c - (WARMER_K - 2))),
        Way("valves", "Valves open in every room" if all_close else "A valve in every room", "the same line", _valves),
        Way("thermostat", "A thermostat in charge", f"in {named}, the line behind it", _thermostat),
        Way(
            "buffer", "Straight, no buffer" if buffered else f"Behind {BUFFER_L:g} L on four connections",
            "a second pump more or less, the emitters keep their water", _buffered,
        ),
    ]  # fmt: skip


def _made(_: str, make: Callable[[], Scenario]) -> Scenario:
    return make()


def judge(
    job: Job, year: HourlyYear | None, *, shift_k: float = 0.0, kept: Kept | None = None, only: Collection[str] = (),
    remembered: Callable[[str, Callable[[], Scenario]], Scenario] = _made,
) -> TwinFound:  # fmt: skip
    """Every way of running the scheme shown through the climate's year at five-minute steps; or as it is set and `only` these.

    `remembered`: gives a way's row by its key, made where it is not known, so that work that was given up is taken up where it ended.
    """
    kept = kept or Kept()
    missing = lacks(job, judged(job, kept)) or _no_year(year)
    if missing or year is None:
        return TwinFound(lacks=missing, sentence=missing, rows=[], assumed=[], heating_days=0)
    twin = twin_of(job, kept=kept)
    weather = weather_of(twin, year, shift_k=shift_k, step_s=STEP_S)
    rows: list[Scenario] = []
    for way in ways(twin):
        if only and way.key not in ("now", *only):
            continue
        go_on()
        rows.append(remembered(way.key, partial(_row, twin, way, weather, rows[0] if rows else None)))
    days = int(_heated(twin.house, weather).reshape(-1, round(24 * 3600 / STEP_S)).any(axis=1).sum())
    return TwinFound(
        lacks="", sentence=_sentence(rows, worth_of(job)), rows=rows, assumed=_assumed(twin), heating_days=days
    )


def _no_year(year: HourlyYear | None) -> str:
    return (
        ""
        if year is not None
        else "This climate carries no hourly year: bring a weather file, or choose a generic one."
    )


def _heated(house: House, weather: Weather) -> NDArray[np.bool_]:
    """Steps at which heating is on by the season (N,), as the controller would see it."""
    keep = float(np.exp(-weather.step_s / loop.DAY_S))
    mean = running_mean(weather.outdoor_c, keep=keep, start=float(weather.outdoor_c[0]))
    return np.asarray(mean < house.control.heating_limit_c, dtype=np.bool_)


def _row(twin: Twin, way: Way, weather: Weather, now: Scenario | None) -> Scenario:
    house = way.change(twin)
    series, _, sums = loop.run(house, weather, _begun(house, weather))
    hour = (weather.hour + np.arange(len(weather.outdoor_c)) * weather.step_s / 3600.0) % 24
    counts = _heated(twin.house, weather) & (hour >= AWAKE_H[0]) & (hour < AWAKE_H[1])
    over = series.room_c[counts] - twin.house.rooms.target_c
    short, warm = twin.design.curve.tolerance_k, twin.design.curve.warm_k
    step_h = weather.step_s / 3600.0
    shortness = (over < -(short + 0.2)).sum(axis=0)
    worst = int(shortness.argmax())
    deep = float(max(-np.quantile(over[:, worst], 0.01), 0.0)) if over.size else 0.0
    heat, store, drawn = (sums[name] / KWH for name in ("heat", "store", "electric"))
    heat -= sums["defrost"] / KWH
    heat += sums["heaters"] / KWH
    backup, by_machine = sums["backup"] / KWH, drawn - (sums["backup"] / KWH if house.machine.backup_electric else 0.0)
    taken = bought(twin, sums)
    days = max(float(counts.sum()) * step_h / (AWAKE_H[1] - AWAKE_H[0]), 1.0)
    row = Scenario(
        key=way.key, label=way.label, what=way.what, heat_kwh=heat, hot_water_kwh=store, backup_kwh=backup, electricity_kwh=drawn,
        fuel_kwh=taken.fuel_kwh, bought_kwh=taken.kwh,
        performance=(heat + store - backup) / by_machine if by_machine > 0 else None, starts=int(series.starts.sum()),
        starts_a_day=float(series.starts.sum()) / days, short_h=float(shortness.sum()) * step_h,
        warm_h=float((over > warm).sum()) * step_h, coldest_k=deep, coldest_room=twin.view.rooms[worst].name if deep > short else "",
        more_kwh=taken.kwh - (now.bought_kwh if now else taken.kwh), cost_minor=taken.cost_minor,
        more_minor=taken.cost_minor - (now.cost_minor if now else taken.cost_minor), says="",
    )  # fmt: skip
    return row.model_copy(update={"says": _says(row, now, worth_of(twin.view.job))})


def _begun(house: House, weather: Weather) -> loop.State:
    """At rest near where it would be: water at the line."""
    air = float(weather.outdoor_c[: round(loop.DAY_S / weather.step_s)].mean())
    line = float(np.interp(air, house.control.line_from_c + np.arange(len(house.control.line_c)), house.control.line_c))
    return loop.start(house, supply_c=line, outdoor_c=air)


def _says(row: Scenario, now: Scenario | None, worth: Worth) -> str:
    """A way beside the way it is set now, in words."""
    if now is None:
        return "what the others stand beside"
    said = []
    if abs(row.more_minor) < worth.least(TOLD_KWH):
        said.append("costs the same")
    else:
        said.append(
            f"{'costs' if row.more_minor > 0 else 'saves'} {worth.words(abs(row.more_kwh), abs(row.more_minor))}"
        )
    if row.short_h > now.short_h + 24:
        said.append(f"{row.coldest_room or 'a room'} up to {row.coldest_k:.1f} K short")
    elif row.short_h < now.short_h - 24:
        said.append("rooms less often short")
    if row.warm_h > now.warm_h * 1.2 + 24:
        said.append("rooms too warm more often")
    elif row.warm_h < now.warm_h * 0.8 - 24:
        said.append("rooms less often too warm")
    if row.starts > now.starts * 1.3 + 30:
        said.append("more starts")
    elif row.starts < now.starts * 0.7 - 30:
        said.append("fewer starts")
    return ", ".join(said)


def _sentence(rows: list[Scenario], worth: Worth) -> str:
    others = [row for row in rows[1:] if row.short_h <= rows[0].short_h + 24]
    dearest = max(rows, key=lambda row: row.more_minor)
    also = f" and burns **{rows[0].fuel_kwh:.0f} kWh**" if rows[0].fuel_kwh else ""
    said = f"As it is set the house draws **{rows[0].electricity_kwh:.0f} kWh**{also} a year"
    said += f" and starts **{rows[0].starts_a_day:.1f}** times a day."
    best = min(others, key=lambda row: row.more_minor, default=None)
    if best is not None and best.more_minor < -worth.least(TOLD_KWH):
        said += f" **{best.label}** would save **{worth.words(-best.more_kwh, -best.more_minor)}** with no room colder."
    if dearest.more_minor > worth.least(TOLD_KWH):
        said += (
            f" Dearest is **{_lower(dearest.label)}**: **{worth.words(dearest.more_kwh, dearest.more_minor)}** more."
        )
    return said


def _lower(label: str) -> str:
    return label[0].lower() + label[1:]


def _assumed(twin: Twin) -> list[str]:
    heavy, other = twin.view.job.survey.heaviness, beside_chosen(twin.view)
    water = (
        "the store is charged at 4:30 and 15:00"
        if len(twin.house.hot_water.at_h)
        else "no hot water: nobody has said who lives here"
    )
    if other.makes_water:
        water = f"{other.label} makes the hot water: what it burns for that is not counted here"
    cold = ["the stove stays cold: somebody must light it"] if other.kind == "stove" else []
    return [
        f"walls and floors hold heat as a {heavy} house" if heavy else "walls and floors hold heat as a medium house: nobody has said",
        "water flows as the balanced design has it; valves in rooms throttle over 1 K",
        "the machine's map at what it is asked for; a start gives half for two minutes; frost is thawed after an hour of running at 2 °C",
        water,
        "rooms lose their part of the house's loss; sun and people as in the year",
        *cold,
    ]  # fmt: skip


def first_hour_of(week: Week, year: HourlyYear, shift_k: float = 0.0) -> int:
    """The first hour of the coldest week, of one about 8 deg C, or of the sunniest that is still heated; whole days."""
    days = (np.asarray(year.outdoor_c) + shift_k).reshape(365, 24).mean(axis=1)
    sun = np.asarray(year.ghi_w_m2).reshape(365, 24).mean(axis=1)
    seven = np.ones(7) / 7
    mean, bright = np.convolve(days, seven, mode="valid"), np.convolve(sun, seven, mode="valid")
    if week == "cold":
        first = int(mean.argmin())
    elif week == "mild":
        first = int(np.abs(mean - MILD_C).argmin())
    else:
        first = int(np.where(mean < max(SUNNY_BELOW_C, mean.min() + 1.0), bright, -1.0).argmax())
    return first * 24


WEEKS = {"cold": "the coldest week", "mild": "a mild week", "sunny": "a sunny week"}


def week_of(
    job: Job,
    year: HourlyYear | None,
    *,
    week: Week,
    scenario: str = "now",
    shift_k: float = 0.0,
    kept: Kept | None = None,
) -> WeekFound:
    """A week of the house run in one way, minute by minute, after three days to settle. Raises `NotFound` for no such way."""
    kept = kept or Kept()
    missing = lacks(job, judged(job, kept)) or _no_year(year)
    if missing or year is None:
        return WeekFound(lacks=missing, week=None)
    twin = twin_of(job, kept=kept)
    way = next((one for one in ways(twin) if one.key == scenario), None)
    if way is None:
        raise NotFound(
            f"no way of running the house is called {scenario!r}; there are {', '.join(one.key for one in ways(twin))}"
        )
    first = first_hour_of(week, year, shift_k)
    weather = weather_of(
        twin, year, shift_k=shift_k, first_hour=(first - RUN_IN_H) % HOURS, hours=RUN_IN_H + WEEK_H, step_s=WEEK_STEP_S
    )
    house = way.change(twin)
    series, _, sums = loop.run(house, weather, _begun(house, weather))
    skip, per = round(RUN_IN_H * 3600 / WEEK_STEP_S), round(QUARTER_MIN * 60 / WEEK_STEP_S)

    def rows(values: Array) -> list[float]:
        return [round(v, 2) for v in values[skip:].reshape(-1, per).mean(axis=1).tolist()]

    starts, drawn = int(series.starts[skip:].sum()), float(series.electric_w[skip:].sum()) * WEEK_STEP_S / KWH
    heat = float(series.heat_w[skip:].sum()) * WEEK_STEP_S / KWH
    burnt = bought(twin, sums).fuel_kwh
    if burnt:  # without what was burnt before the week began
        burnt -= bought(twin, loop.run(house, weather.first(skip), _begun(house, weather))[2]).fuel_kwh
    # of every quarter the mode that tells most: defrost before hot water before heating
    mode = series.mode[skip:].astype(int).reshape(-1, per)
    told = np.where((mode == loop.DEFROST).any(axis=1), loop.DEFROST, np.where((mode == loop.HOT_WATER).any(axis=1), loop.HOT_WATER,
                    np.where((mode == loop.HEATING).any(axis=1), loop.HEATING, loop.OFF)))  # fmt: skip
    traces = [
        RoomTrace(
            id=key,
            label=twin.view.rooms[r].name,
            target_c=float(house.rooms.target_c[r]),
            room_c=rows(series.room_c[:, r]),
        )
        for r, key in enumerate(twin.rooms)
    ]
    return WeekFound(
        lacks="",
        week=TwinWeek(
            key=week, scenario=scenario, label=WEEKS[week], first_day=first // 24 + 1, step_min=QUARTER_MIN,
            outdoor_c=rows(weather.outdoor_c),
            wanted_c=rows(series.wanted_c), supply_c=rows(series.supply_c), return_c=rows(series.return_c),
            heat_w=rows(series.heat_w), electric_w=rows(series.electric_w), mode=told.tolist(), rooms=traces,
            starts=starts, heat_kwh=heat, electricity_kwh=drawn, fuel_kwh=burnt,
            sentence=_of_week(WEEKS[week], way.label, traces, starts, (heat, drawn, burnt)),
        ),
    )  # fmt: skip


def _of_week(label: str, way: str, traces: list[RoomTrace], starts: int, kwh: tuple[float, float, float]) -> str:
    """`kwh`: heat, electricity and fuel of the week."""
    heat, drawn, burnt = kwh
    least = min(traces, key=lambda one: min(one.room_c) - one.target_c)
    most = max(traces, key=lambda one: max(one.room_c) - one.target_c)
    begun = f"**{starts} start{'' if starts == 1 else 's'}**"
    said = f"{label[0].upper()}{label[1:]}, {_lower(way)}: {heat:.0f} kWh of heat for {drawn:.0f} kWh"
    said += f" and {burnt:.0f} kWh of fuel, {begun}; " if burnt > 0.5 else f", {begun}; "
    low, high = min(least.room_c) - least.target_c, max(most.room_c) - most.target_c
    said += (
        f"**{least.label}** falls to {min(least.room_c):.1f} °C"
        if low < -0.5
        else "no room falls below what it asks for"
    )
    return said + (f", **{most.label}** reaches {max(most.room_c):.1f} °C." if high > 0.5 else ".")
