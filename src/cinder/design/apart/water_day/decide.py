"""A day of the store on the design day and in the mean of the year, and what other sizes, temperatures and schools would make of it."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from itertools import groupby
from typing import Literal

import numpy as np

from cinder.design.apart.running.shift import HOLDS_WH_PER_M2K
from cinder.design.apart.water_day.draws import Tapping, tapping_of
from cinder.design.apart.water_day.result import (
    Drawn,
    Hygiene,
    StoreSize,
    StoreTemperature,
    Stretch,
    WaterDay,
    WaterDays,
    Who,
)
from cinder.design.apart.water_day.say import notes, of_days
from cinder.design.findings import Findings
from cinder.design.hot_water.charging import Exchanger, charged, exchanger, machine_at
from cinder.design.hot_water.store import BLEEDS, COIL_TO, IMMERSION_AT, TAP_C, Store, least_store_c, store_of
from cinder.design.house.tariff import mean_minor_per_kwh
from cinder.design.house.view import HouseView, view
from cinder.design.machine.load import performance_map, standing_of
from cinder.design.result import Design
from cinder.library import MachineEntry
from cinder.model import Job
from cinder.physics.machine.heat_pump import PerformanceMap
from cinder.physics.quantity import Array
from cinder.physics.store import store_day
from cinder.physics.store.charging import Machine
from cinder.physics.store.cylinder import stored_heat_kwh
from cinder.physics.store.store_day import MINUTES, NEVER, NO_SUN, Day, Rule, Vessel

SHOWN_EVERY_MIN = 10
LAYER_L, MOST_LAYERS = 6.0, 24
SIZES_L = (100.0, 120.0, 150.0, 180.0, 210.0, 250.0, 300.0, 400.0, 500.0)
TEMPERATURES_C = (45.0, 48.0, 50.0, 52.0, 55.0, 60.0)
HYGIENE_FROM = 2 * 60
"""The cycle begins at two in the morning (common practice: at night)."""
DAYS = 365
SPARE_TO_C = 60.0
"""What the sun has to spare heats a store so far (our choice: under the usual limit of an immersion)."""
TURNS_K = 1.0
TIMES = {"weekly": 52, "fortnightly": 24, "machine": 52, "fresh_water": 0}
NO_MACHINE = Machine(np.array([20.0, 60.0]), np.zeros(2), np.zeros(2), np.ones(2), 1000.0)


@dataclass(frozen=True, slots=True)
class Plan:
    """A store that is to be tried: itself, its draws, the exchanger, and how it is kept clean."""

    house: HouseView
    store: Store
    tapping: Tapping
    by: Exchanger
    table: PerformanceMap | None
    volume_l: float

    @property
    def layers(self) -> int:
        return min(max(int(self.volume_l / LAYER_L), store_day.LEAST_LAYERS), MOST_LAYERS)

    def machine(self, outdoor_c: float) -> Machine | None:
        return machine_at(self.table, outdoor_c, self.by.flow_w_k) if self.table is not None else None


def judge(job: Job, design: Design, spare_w: Array | None = None) -> WaterDays:
    """The store's day, and the sizes, temperatures and schools of hygiene beside it. Without a store, people or a design temperature
    what lacks is said and the rest stands empty."""
    house = view(job, Findings())
    store, entry = store_of(house), house.machine
    people_kwh = None
    if design.hot_water.tap_l_per_day is not None:
        people_kwh = stored_heat_kwh(
            volume_l=max(design.hot_water.tap_l_per_day, 1e-3), cold_c=store.cold_c, hot_c=max(TAP_C, store.cold_c)
        )
    tapping = tapping_of(job, store.cold_c, people_kwh)
    practice = house.practice
    least = least_store_c(practice.mixer, store.cold_c)
    made = WaterDays(
        sentence="", machine=entry.label if entry else None, pattern=tapping.key if tapping else "",
        pattern_label=tapping.label if tapping else "", pattern_why=tapping.why if tapping else "",
        pattern_kwh=tapping.kwh if tapping else 0.0, people_kwh=people_kwh, mixer=practice.mixer, least_store_c=least, days=[],
        sizes=[], least_volume_l=None, temperatures=[], hygiene=[], notes=[],
    )  # fmt: skip
    if tapping is None or store.volume_l is None or house.outdoor_c is None:
        return made.model_copy(update={"sentence": of_days(made, store, outdoor=house.outdoor_c is not None)})
    plan = plan_of(house, store, tapping, entry)
    days = [_shown(plan, "design", "On the design day", house.outdoor_c, design)]
    mean_c = house.climate.annual_mean_c if house.climate else None
    if mean_c is not None:
        days.append(_shown(plan, "mean", "In the mean of the year", mean_c, design))
    if mean_c is not None and spare_w is not None and spare_w.any() and store.immersion_kw > 0:
        days.append(_shown(plan, "sun", "The same with what the sun has to spare", mean_c, design, spare_w))
    sizes = _sizes(plan, house.outdoor_c)
    passes = [one.volume_l for one in sizes if one.short_draws == 0]
    made = made.model_copy(
        update={
            "days": days,
            "sizes": sizes,
            "least_volume_l": min(passes, default=None),
            "temperatures": _temperatures(plan, house.outdoor_c, mean_c, design),
            "hygiene": _hygiene(plan, mean_c if mean_c is not None else house.outdoor_c),
        }
    )
    return made.model_copy(
        update={
            "sentence": of_days(made, store, outdoor=True),
            "notes": notes(made, store, design, practice, _maker(house)),
        }
    )


def _maker(house: HouseView) -> str:
    """What makes the hot water in place of the machine, if anything does."""
    scheme = house.scheme
    backup = scheme.candidates[scheme.chosen].backup if scheme and scheme.chosen in scheme.candidates else None
    return house.burner if backup is not None and backup.hot_water and backup.kind not in ("heater", "none") else ""


def plan_of(house: HouseView, store: Store, tapping: Tapping, entry: MachineEntry | None) -> Plan:
    table = performance_map(entry, standing_of(house)) if entry is not None else None
    none = Exchanger(1.0, 1.0, 1000.0, 1000.0, False, None)
    by = exchanger(store, table, house.tables, entry.rated_flow_lph if entry else None) if table is not None else none
    return Plan(house, store, tapping, by, table, store.volume_l or 0.0)


def run(plan: Plan, outdoor_c: float, *, hygiene: str | None = None, spare_w: Array = NO_SUN) -> Day:
    """One day at an outdoor temperature; with `hygiene` the night has a cycle of that school; `spare_w` (1440,) of the house's own sun."""
    store, count, practice = plan.store, plan.layers, plan.house.practice
    top = count - 1
    vessel = Vessel(
        plan.volume_l, store.loss_w_k * (plan.volume_l / (store.volume_l or plan.volume_l)) ** (2 / 3), store.around_c, 0,
        max(int(COIL_TO * count) - 1, 0), min(int(store.sensor_at * count), top), min(int(IMMERSION_AT * count), top),
    )  # fmt: skip
    allowed = np.full(MINUTES, not store.windows)
    for first, last in store.windows:
        allowed[first:last] = True
    rule = Rule(
        store.store_c, store.band_k, allowed, plan.by.ua_w_k, store.plate, plan.by.store_w_k, store.immersion_kw * 1000.0, True,
        HYGIENE_FROM if hygiene not in (None, "fresh_water") else NEVER, practice.hygiene_c, practice.hygiene_minutes,
        hygiene == "machine", 1 - BLEEDS if practice.mixer == "thermostatic" else 1.0, spare_w, SPARE_TO_C,
    )  # fmt: skip
    return store_day.simulate(
        plan.machine(outdoor_c) or NO_MACHINE, draws=plan.tapping.draws, vessel=vessel, rule=rule, layers=count,
        cold_c=store.cold_c,
    )  # fmt: skip


def _shown(
    plan: Plan,
    key: Literal["design", "mean", "sun"],
    label: str,
    outdoor_c: float,
    design: Design,
    spare_w: Array = NO_SUN,
) -> WaterDay:
    day = run(plan, outdoor_c, spare_w=spare_w)
    draws = _draws(plan, day)
    short = [one for one in draws if one.short_min > 0]
    charging = day.machine_w > 0
    longest = max((sum(1 for _ in of) for on, of in groupby(charging.tolist()) if on), default=0)
    drop = None
    if key == "design" and design.house.loss_w is not None and design.house.area_m2 > 0:
        drop = design.house.loss_w * longest / 60 / (HOLDS_WH_PER_M2K * design.house.area_m2)
    heat, electric = float(day.machine_w.sum()) / 60000, float(day.electric_w.sum()) / 60000
    by_hand = float(day.immersion_w.sum()) / 60000
    return WaterDay(
        key=key, label=label, outdoor_c=outdoor_c, runs=plan.machine(outdoor_c) is not None, step_min=SHOWN_EVERY_MIN,
        layers_c=day.layers_c[::SHOWN_EVERY_MIN].round(1).tolist(), stretches=_stretches(day), draws=draws,
        short_draws=len(short), short_min=sum(one.short_min for one in short),
        coolest_c=min((one.least_c for one in draws if one.useful_c >= TAP_C - 1), default=None),
        tapped_kwh=float(day.drawn_w.sum()) / 60000, machine_kwh=heat, immersion_kwh=by_hand, sun_kwh=float(day.sun_w.sum()) / 60000,
        lost_kwh=float(day.lost_w.sum()) / 60000, electricity_kwh=electric + by_hand, cop=heat / electric if electric > 0 else None,
        charging_min=int(charging.sum()), longest_min=longest, on_and_off_min=int(day.stalls.sum()),
        takes_turns=abs(day.ended_c - day.began_c) > TURNS_K, room_drop_k=drop,
    )  # fmt: skip


def _draws(plan: Plan, day: Day) -> list[Drawn]:
    of = plan.tapping.draws
    return [
        Drawn(
            minute=int(of.minute[n]), what=what, litres=float(of.litres[n]), flow_l_min=float(of.flow_l_min[n]),
            tap_c=float(of.tap_c[n]), useful_c=float(of.useful_c[n]), least_c=float(min(day.least_tap_c[n], of.tap_c[n])),
            short_min=float(day.short_min[n]), short_l=float(day.short_l[n]), hot_l=float(day.hot_l[n]),
        )
        for n, what in enumerate(plan.tapping.what)
    ]  # fmt: skip


def _stretches(day: Day) -> list[Stretch]:
    """Who heats the store, from minute to minute."""
    out: list[Stretch] = []
    machine = np.where(day.stalls, 2, np.where(day.machine_w > 0, 1, 0))
    words: dict[int, Who] = {1: "machine", 2: "on and off", 3: "immersion", 4: "sun"}
    for kinds in (machine, np.where(day.immersion_w > 0, 3, np.where(day.sun_w > 0, 4, 0))):
        edges = np.flatnonzero(np.diff(kinds, prepend=-1, append=-1))
        for first, last in zip(edges[:-1].tolist(), edges[1:].tolist(), strict=True):
            if kinds[first]:
                out.append(Stretch(from_minute=first, to_minute=last, by=words[int(kinds[first])]))
    return out


def _sizes(plan: Plan, outdoor_c: float) -> list[StoreSize]:
    volumes = sorted({*SIZES_L, plan.volume_l})
    out = []
    for volume in volumes:
        day = run(replace(plan, volume_l=volume), outdoor_c)
        out.append(
            StoreSize(
                volume_l=volume,
                short_draws=int((day.short_min > 0).sum()),
                short_min=float(day.short_min.sum()),
                charging_min=int((day.machine_w > 0).sum()),
                chosen=volume == plan.volume_l,
            )
        )
    return out


def _temperatures(plan: Plan, outdoor_c: float, mean_c: float | None, design: Design) -> list[StoreTemperature]:
    tapped = None
    if design.hot_water.daily_kwh is not None:
        tapped = design.hot_water.daily_kwh - plan.store.standing_kwh
    out, price = [], mean_minor_per_kwh(plan.house.job)
    entry = plan.house.machine
    for hot in sorted({*TEMPERATURES_C, plan.store.store_c}):
        if hot <= plan.store.cold_c:
            continue
        at = replace(plan, store=plan.store._replace(store_c=hot))
        day = run(at, outdoor_c)
        from_cold = year = None
        if plan.table is not None:
            rated = entry.rated_flow_lph if entry else None
            from_cold = charged(plan.table, outdoor_c, at.store, plan.house.tables, rated)
            year = charged(plan.table, mean_c, at.store, plan.house.tables, rated) if mean_c is not None else None
        used = None
        if tapped is not None and year is not None and year.power_w > 0:
            used = (tapped + at.store.standing_kwh) * DAYS / year.cop
        minutes = from_cold.minutes if from_cold is not None and math.isfinite(from_cold.minutes) else None
        out.append(
            StoreTemperature(
                store_c=hot,
                reached=minutes is not None,
                short_draws=int((day.short_min > 0).sum()),
                reheat_minutes=minutes,
                cop=year.cop if year is not None else None,
                electricity_kwh=used,
                cost_minor=used * price if used is not None else None,
                tap_l=plan.volume_l * (hot - plan.store.cold_c) / (TAP_C - plan.store.cold_c) if hot >= TAP_C else 0.0,
                chosen=hot == plan.store.store_c,
            )
        )
    return out


def _hygiene(plan: Plan, outdoor_c: float) -> list[Hygiene]:
    practice, price = plan.house.practice, mean_minor_per_kwh(plan.house.job)
    plain = run(plan, outdoor_c)
    labels: dict[Literal["weekly", "fortnightly", "machine", "fresh_water"], str] = {
        "weekly": "Immersion, every week", "fortnightly": "Immersion, every 15 days", "machine": "The machine itself, every week",
        "fresh_water": "Nothing stored: warmed as it is drawn",
    }  # fmt: skip
    out, done = [], {}
    for key, label in labels.items():
        by = "immersion" if key in ("weekly", "fortnightly") else key
        if by not in done:
            done[by] = run(plan, outdoor_c, hygiene=by)
        day = done[by]
        # both days end as they began; what the cycle takes more is what it draws more
        more = _electric_kwh(day) - _electric_kwh(plain) if key != "fresh_water" else 0.0
        level = min(int(IMMERSION_AT * plan.layers), plan.layers - 1)
        held = int((day.layers_c[:, level] >= practice.hygiene_c - 0.1).sum())
        out.append(
            Hygiene(
                key=key,
                label=label,
                times=TIMES[key],
                more_kwh=max(more, 0.0),
                by_immersion_kwh=float(day.immersion_w.sum()) / 60000 if key != "fresh_water" else 0.0,
                electricity_kwh=max(more, 0.0) * TIMES[key],
                cost_minor=max(more, 0.0) * TIMES[key] * price,
                reached=key == "fresh_water" or held >= practice.hygiene_minutes,
                chosen=key == practice.hygiene,
            )
        )
    return out


def _electric_kwh(day: Day) -> float:
    """Electricity of a day for as much heat as it used: a store that ends warmer than it began has only shifted it."""
    heat = float((day.machine_w + day.immersion_w + day.sun_w).sum())
    used = float((day.drawn_w + day.lost_w).sum())
    drawn = float((day.electric_w + day.immersion_w).sum()) / 60000
    return drawn * used / heat if heat > 0 else 0.0
