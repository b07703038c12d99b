"""A winter of readings judged: signature against the design, what it says of the doubts, the machine, what changed and when."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from cinder.design import Design, losses
from cinder.design.apart.doubts.decide import Sampled
from cinder.design.explained import num
from cinder.design.findings import Findings
from cinder.design.house.view import HouseView, view
from cinder.design.machine.result import SeasonResult
from cinder.design.year.decide import YearLoss, work, year_loss
from cinder.field.correction import zone_of
from cinder.field.expected import machines_line
from cinder.field.winter import beside_design, doubts, machine, months, watch, water
from cinder.field.winter.daily import SUNNY_SENSOR_K, Days, Hours, days_of, hours_of, sunny_sensor
from cinder.field.winter.result import Advice, DayPoint, Proposal, RoomSeen, SignatureFound, WinterFound
from cinder.field.winter.watch import Indicator
from cinder.field.winter.water import COLD_C
from cinder.library import HourlyYear
from cinder.model import Job
from cinder.physics.measured import signature
from cinder.physics.quantity import Array

Z10 = signature.Z10
LEAST_COLD_H = 48
COP_FALLS, FLOW_FALLS, OFF_K, STANDBY_W, ROOM_K, LOSS_SHARE = 0.08, 0.10, 2.0, 20.0, 1.2, 0.15
"""Changes that matter (our choice)."""
ORDINARY_C = 5.0


@dataclass(frozen=True, slots=True)
class Source:
    """Readings by the hour as they come out of the shelf."""

    label: str
    simulated: bool
    at: NDArray[np.datetime64]
    column: Mapping[str, Array]


def judge(
    job: Job, design: Design, source: Source, sampled: Sampled | None, *, loss_range: tuple[float, float] | None,
    weather: HourlyYear | None = None, air: Mapping[dt.date, float] | None = None,
) -> WinterFound:  # fmt: skip
    """One source of readings. `sampled`: the doubts' samples at `ORDINARY_C`; `loss_range`: P10 and P90 of the loss over the design's;
    `weather`: of the climate, by which the house's own windows say what a day's sun on the level is worth in every season. `air`: daily
    means of the outdoor temperature that other sources of the job read, for meters that are read now and then."""
    house = view(job, Findings())
    loss = year_loss(house, losses.of_house(house, Findings()))
    if months.sparse(source.at):
        return _by_months(job, design, source, sampled, house, loss, loss_range, weather, air or {})
    hours = hours_of(source.at, source.column, weights_of(design), house.fluid)
    zone = zone_of(job)
    days = days_of(hours, zone)
    if weather is not None:
        days = replace(days, sun_w_m2=days.sun_w_m2 * sun_worth(house, loss, weather)[_of_year(days.day)])
    if not len(days.day):
        return _nothing(source, "There is no reading in it.")
    notes = _notes(hours, days)
    if design.season.fuel:
        notes.append(
            f"Beside the machine {design.season.beside} burns too: its heat is in these figures only where the heat meter has both."
        )
    good = np.array([not one for one in days.odd])
    found, fitted, lacks = beside_design.of_days(job, days, good, hours, loss, loss_range)
    proposed: list[Proposal] = []
    beyond = ""
    if found is not None and fitted is not None and sampled is not None and loss.per_k > 0:
        proposed, beyond = doubts.proposals(job, sampled, fitted.h_w_k / loss.per_k, fitted.h_sd / loss.per_k)
    if beyond:
        notes.append(beyond)
    line = machines_line(design) if design.curve.line_c else None
    gave = machine.judge(house, hours, days, line_c=line, second_w=design.separation.pump_w)
    advice = _watched(house, design, hours, days, fitted, good)
    points = _points(days, good, fitted, loss.inside_c)
    return WinterFound(
        lacks="", sentence=_sentence(found, lacks, gave.sentence if not gave.lacks else "", advice), label=source.label,
        simulated=source.simulated,
        first=watch.date_of(days.day[0]), last=watch.date_of(days.day[-1]), points=points, rooms=_rooms(hours), signature=found,
        signature_lacks=lacks, proposals=proposed,
        machine=gave, emitters_ratio=water.emitters_ratio(house, design, hours),
        proof=water.first_week(house, design, loss, hours, weather), advice=advice, notes=notes,
    )  # fmt: skip


SUN_DAYS = 20


def sun_worth(house: HouseView, loss: YearLoss, weather: HourlyYear) -> Array:
    """What sun on the level brings through this house's windows on every day of the year (365,), over its mean: low winter sun looks into
    windows that the high one passes over. By the house's own glass and the climate's year, smoothed over six weeks."""
    brought = work(house, weather, loss=loss).sun_w.reshape(365, 24).sum(axis=1)
    level = np.asarray(weather.ghi_w_m2).reshape(365, 24).sum(axis=1)
    if brought.sum() <= 0:
        return np.ones(365)
    window = np.ones(2 * SUN_DAYS + 1)

    def smooth(values: Array) -> Array:
        return np.convolve(np.pad(values, SUN_DAYS, mode="wrap"), window, mode="valid")

    worth = smooth(brought) / np.maximum(smooth(level), 1e-9)
    return np.asarray(worth / (brought.sum() / level.sum()))


def _of_year(day: NDArray[np.datetime64]) -> NDArray[np.intp]:
    """Days of an ordinary year, 0 to 364."""
    out: NDArray[np.intp] = np.minimum((day - day.astype("datetime64[Y]")).astype(int), 364).astype(np.intp)
    return out


def weights_of(design: Design) -> dict[str, float]:
    """What every room's temperature counts for in the house's: by what the room loses for a kelvin, since that is what the heat follows; by
    its floor where that is not known."""
    out = {}
    outdoor = design.house.outdoor_c
    for room in design.rooms:
        loses = room.room_share_of_house_w
        lift = room.target_c - outdoor if outdoor is not None else 0.0
        out[room.id] = max(loses / lift, 0.5) if loses is not None and lift > 1 else room.area_m2 or 1.0
    return out


def _nothing(source: Source, lacks: str) -> WinterFound:
    return WinterFound(
        lacks=lacks, sentence=lacks, label=source.label, simulated=source.simulated, first=None, last=None, points=[], rooms=[], signature=None,
        signature_lacks=lacks, proposals=[], machine=None, advice=[], notes=[],
    )  # fmt: skip


def _by_months(
    job: Job, design: Design, source: Source, sampled: Sampled | None, house: HouseView, loss: YearLoss,
    loss_range: tuple[float, float] | None, weather: HourlyYear | None, air: Mapping[dt.date, float],
) -> WinterFound:  # fmt: skip
    """Meters read now and then: what the house loses, by degree days; the machine and what changed need days."""
    read = months.spans(source.at, source.column, zone_of(job))
    if weather is None and not air:
        return _nothing(
            source,
            "Meters read now and then need the climate's hours, or a record of the air: choose a climate with hours.",
        )
    level = (
        np.asarray(weather.ghi_w_m2).reshape(365, 24).mean(axis=1) * sun_worth(house, loss, weather)
        if weather is not None
        else np.zeros(365)
    )
    usual = np.asarray(weather.outdoor_c).reshape(365, 24).mean(axis=1) if weather is not None else np.full(365, np.nan)
    try:
        by = months.fitted(
            read, months.Weather(usual, level, air), inside_c=loss.inside_c, performance=_heat_per_kwh(design.season),
            beside=design.season.beside if design.season.fuel else "",
        )  # fmt: skip
    except ValueError as why:
        return _nothing(source, f"{str(why).capitalize()}.")
    shine = float(np.average(by.sun_w_m2, weights=[one.days for one in by.spans]))
    rooms = np.array([one.inside_c for one in by.spans])
    inside = float(np.nanmean(rooms)) if np.isfinite(rooms).any() else loss.inside_c
    found = beside_design.told(
        job, loss, loss_range, by.fit, inside_c=inside, shine=shine, days=sum(one.days for one in by.spans), left_out=0
    )
    proposed: list[Proposal] = []
    notes = by.notes
    if sampled is not None and loss.per_k > 0:
        proposed, beyond = doubts.proposals(job, sampled, by.fit.h_w_k / loss.per_k, by.fit.h_sd / loss.per_k)
        notes = [*notes, beyond] if beyond else notes
    warmer = signature.KWH_PER_WK * by.fit.h_w_k
    points = [
        DayPoint(
            day=one.first + dt.timedelta(one.days // 2), days=one.days, outdoor_c=round(float(by.outdoor_c[n]), 2),
            inside_c=round(one.inside_c if np.isfinite(one.inside_c) else inside, 2), sun_w_m2=round(float(by.sun_w_m2[n]), 1),
            heat_kwh=round(float(by.heat_kwh[n]), 2),
            normal_kwh=round(float(by.heat_kwh[n] - warmer * ((one.inside_c if np.isfinite(one.inside_c) else inside) - loss.inside_c)), 2),
            fits_kwh=round(float(by.heat_kwh[n] - by.fit.resid_kwh[n]), 2), odd="",
        )
        for n, one in enumerate(by.spans)
    ]  # fmt: skip
    return WinterFound(
        lacks="", sentence=_sentence(found, "", "", []), label=source.label, simulated=source.simulated, first=by.spans[0].first,
        last=by.spans[-1].last, points=points, rooms=[], signature=found, signature_lacks="", proposals=proposed, machine=None, advice=[],
        notes=notes,
    )  # fmt: skip


def _heat_per_kwh(season: SeasonResult) -> float | None:
    """Heat of the season for each kWh of electricity, what burns beside the machine in the heat."""
    if not season.electricity_kwh or season.heat_kwh is None:
        return None
    return (season.heat_kwh - season.short_kwh) / season.electricity_kwh


def _notes(hours: Hours, days: Days) -> list[str]:
    out = []
    why: dict[str, list[dt.date]] = {}
    for day, odd in zip(days.day, days.odd, strict=True):
        if odd:
            why.setdefault(_kind(odd), []).append(watch.date_of(day))
    for what, when in why.items():
        out.append(f"{len(when)} day{'' if len(when) == 1 else 's'} left out, first {when[0]:%d.%m.%Y}: {what}.")
    if not hours.apart:
        out.append("Hot water cannot be told from heating in these readings: it stands in the base load.")
    sun = sunny_sensor(hours)
    if sun is not None and sun > SUNNY_SENSOR_K:
        out.append(
            f"The outdoor sensor seems to hang in the sun: it reads {num(sun * 300, 1)} K more at once for 300 W/m² of it. What is said of the "
            "loss leans on it: move it, or bring another record of the air."
        )
    return out


def _kind(odd: str) -> str:
    """Reasons that differ by their figures alone are one."""
    if "hours of it" in odd:
        return "too few hours were read"
    if "without electricity" in odd:
        return "heat without electricity"
    if "times as much heat" in odd:
        return "more heat for its electricity than any machine gives"
    return "electricity without its heat" if "of electricity for" in odd else odd


def _rooms(hours: Hours) -> list[RoomSeen]:
    out = []
    for key, values in hours.rooms_c.items():
        known = np.isfinite(values)
        if not known.any():
            continue
        cold = known & (hours.outdoor_c < COLD_C)
        out.append(
            RoomSeen(
                id=key, mean_c=float(values[known].mean()), cold_below_c=COLD_C,
                cold_c=float(values[cold].mean()) if cold.sum() >= LEAST_COLD_H else None,
            )
        )  # fmt: skip
    return out


def _points(days: Days, good: NDArray[np.bool_], fitted: signature.Fit | None, wanted_c: float) -> list[DayPoint]:
    fits = np.full(len(days.day), np.nan)
    if fitted is not None:
        fits[good] = days.heat_kwh[good] - fitted.resid_kwh
    normal = np.full(len(days.day), np.nan)
    if fitted is not None:
        warmer = signature.KWH_PER_WK * fitted.h_w_k * (days.inside_c - wanted_c)
        normal = np.where(
            days.heat_kwh > fitted.base_kwh + 0.5, np.maximum(days.heat_kwh - warmer, fitted.base_kwh), days.heat_kwh
        )
    out = []
    for n, day in enumerate(days.day):
        if not np.isfinite(days.heat_kwh[n]) or not np.isfinite(days.outdoor_c[n]):
            continue
        out.append(
            DayPoint(
                day=watch.date_of(day), outdoor_c=round(float(days.outdoor_c[n]), 2), inside_c=round(_plain(days.inside_c[n]), 2),
                sun_w_m2=round(float(days.sun_w_m2[n]), 1) if np.isfinite(days.sun_w_m2[n]) else None,
                heat_kwh=round(float(days.heat_kwh[n]), 2),
                normal_kwh=round(float(normal[n]), 2) if np.isfinite(normal[n]) else None,
                fits_kwh=round(float(fits[n]), 2) if np.isfinite(fits[n]) else None, odd=days.odd[n],
            )
        )  # fmt: skip
    return out


def _plain(value: float) -> float:
    return float(value) if np.isfinite(value) else 0.0


def _watched(
    house: HouseView, design: Design, hours: Hours, days: Days, fitted: signature.Fit | None, good: NDArray[np.bool_]
) -> list[Advice]:
    """Figures a day that should not drift: flow, COP against the map, water against what is asked, standby, every room, the loss itself."""
    day_of = days.of_hour
    count = len(days.day)
    heating = (
        (hours.heat_w > 300)
        & ~(np.nan_to_num(hours.water_share) > 0.05)
        & ~(np.nan_to_num(hours.on_share, nan=1.0) < 0.9)
    )

    def each(values: Array, fit: NDArray[np.bool_]) -> Array:
        known = fit & np.isfinite(values)
        many = np.bincount(day_of[known], None, count)
        with np.errstate(invalid="ignore", divide="ignore"):
            return np.where(many >= 3, np.bincount(day_of[known], values[known], count) / many, np.nan)

    def plainly(values: Array) -> Array:
        return watch.without_weather(values, days.outdoor_c)

    ratio = machine.ratio_by_day(house, hours, days, second_w=design.separation.pump_w)
    rows = [
        Indicator(
            "flow", "Water the pump moves", "L/h", each(hours.flow_lph, heating), FLOW_FALLS, True,
            ("a strainer that fills up, air, a valve that sticks",
             "Clean the strainer and vent; the flow comes back at once or it was something else."),
            None,
        ),
        Indicator(
            "cop", "Performance against the map", "", plainly(ratio), COP_FALLS, True,
            ("refrigerant lost, fins blocked or iced, glycol grown thick, a sensor that drifts",
             "Look at the fins and the drain first; read both meters for an hour by hand; then who holds the refrigerant certificate."),
            None,
        ),
        Indicator(
            "off-line", "Water over what is asked for", "K", plainly(each(hours.supply_c - hours.wanted_c, heating)), OFF_K, False,
            ("the machine no longer reaches what is asked: output, flow or a sensor", "Hold a second thermometer to the flow pipe."),
            ("the flow sensor drifts, or something else heats the water", "Hold a second thermometer to the flow pipe."),
        ),
        Indicator(
            "standby", "Drawn while it stands", "W", each(hours.standby_w, np.ones(len(hours.at), dtype=bool)), STANDBY_W, False, None,
            ("a crankcase or pipe heater that stays on, a pump that never stops", "Look what is warm while the machine stands."),
        ),
    ]  # fmt: skip
    mean = hours.inside_c
    for key, values in hours.rooms_c.items():
        label = next((room.label for k, room in house.job.survey.rooms.items() if k == key and room.label), key)
        rows.append(
            Indicator(
                f"room-{key}", f"{label} against the other rooms", "K", plainly(each(values - mean, np.isfinite(values))), ROOM_K, False,
                ("its valve sticks shut, its lockshield was moved, air in its emitter, a window left open",
                 f"Feel both tails of the emitter in {label}."),
                ("its valve sticks open, or its sensor drifts", f"Turn the head in {label} down for an hour: does the return cool?"),
            )
        )  # fmt: skip
    if fitted is not None:
        loss = np.full(count, np.nan)
        model = days.heat_kwh[good] - fitted.resid_kwh
        loss[np.flatnonzero(good)[model > 15]] = (days.heat_kwh[good] / np.maximum(model, 1e-9))[model > 15]
        rows.append(
            Indicator(
                "loss", "Heat against what the house took at first", "", _smoothed(loss), LOSS_SHARE, True, None,
                ("windows that stay open, wet walls, a door or hatch left ajar", "Walk round on a cold evening; ask what has changed."),
            )
        )  # fmt: skip
    return watch.watched(days.day, rows)


def _smoothed(values: Array) -> Array:
    """The mean of three days: a single odd one is no change."""
    out = values.copy()
    known = np.flatnonzero(np.isfinite(values))
    if len(known) >= 3:
        out[known] = np.convolve(np.pad(values[known], 1, mode="edge"), np.ones(3) / 3, mode="valid")
    return out


def _sentence(found: SignatureFound | None, lacks: str, gave: str, advice: list[Advice]) -> str:
    said = [found.sentence if found is not None else lacks]
    if gave:
        said.append(f"The machine gave {gave}")
    if advice:
        one = advice[0]
        said.append(f"**{one.label}** has changed since **{one.since:%d.%m.%Y}**.")
    return " ".join(said)
