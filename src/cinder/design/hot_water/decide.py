"""The cylinder: how large by bedrooms and by people, how long it takes to reheat through its coil, what it takes out of the day."""

from __future__ import annotations

import math

from cinder.design.findings import Findings
from cinder.design.hot_water import checks
from cinder.design.hot_water.charging import MILD_DAY_C, Charged, charged, exchanger, mild_w
from cinder.design.hot_water.result import Fits, HotWaterResult
from cinder.design.hot_water.store import COLD_C, STORE_C, TAP_C, Store, store_of
from cinder.design.house.view import HouseView
from cinder.design.kept import Needs
from cinder.model.scheme import HotWater as Chosen
from cinder.physics.machine import heat_pump
from cinder.physics.store.charging import flow_w_k
from cinder.physics.store.cylinder import stored_heat_kwh

USABLE = 0.8
"""The part of a store that still comes out warm (our choice), where it is sized by people."""
REHEATS = 2


def judge(house: HouseView, performance: heat_pump.PerformanceMap | None, findings: Findings) -> HotWaterResult:
    """Volume by bedrooms and by people, reheat through the exchanger on the design day and on a mild one, heat per day, and what the
    store asks of its place and of the main."""
    chosen = house.scheme.hot_water if house.scheme else Chosen()
    household, store = house.job.survey.household, store_of(house)
    low, high = _rule(house)
    tap_l, daily = _daily(house, store)
    if household.people is None and house.scheme and house.scheme.chosen:
        findings.add(
            "doubt", "hot-water", "/survey/household/people", "Nobody is entered as living here.",
            why="The machine's cover is reckoned without hot water.", mend="Say how many people there are.",
        )  # fmt: skip
    day = mild = by = coil = None
    if performance is not None and house.outdoor_c is not None:
        rated = house.machine.rated_flow_lph if house.machine else None
        by = exchanger(store, performance, house.tables, rated)
        day = charged(performance, house.outdoor_c, store, house.tables, rated)
        mild = charged(performance, MILD_DAY_C, store, house.tables, rated)
        a, b = (of * mild_w(performance) / 1000 for of in house.tables.coil_m2_per_kw)
        coil = None if store.plate else (a, b)
        if day is None or day.warmest_c < store.store_c:
            findings.add(
                "short", "hot-water", f"/schemes/{house.job.active_scheme}/hot_water",
                f"The machine cannot heat a store to {store.store_c:.0f} °C on the design day.",
                why="It does not run then." if day is None else f"Its water gets to {day.warmest_c:.0f} °C.",
                mend="A cooler store with an immersion, or another machine.",
            )  # fmt: skip
    volume = store.volume_l
    stored = (
        stored_heat_kwh(volume_l=volume, cold_c=store.cold_c, hot_c=store.store_c)
        if volume and store.store_c > store.cold_c
        else None
    )
    verdict = _verdict(volume, low, high)
    if verdict == "small":
        findings.add(
            "short", "hot-water", f"/schemes/{house.job.active_scheme}/hot_water/volume_l",
            f"{volume:.0f} L is less than the {low:.0f}–{high:.0f} L usual here.",
            why=f"Bedrooms: {bedrooms_of(house)}.", mend="A larger store, or agree on shorter showers in writing.",
        )  # fmt: skip
    if store.coil_m2 is not None and coil is not None and store.coil_m2 < coil[0]:
        findings.add(
            "short", "hot-water", f"/schemes/{house.job.active_scheme}/hot_water/coil_m2",
            f"A coil of {store.coil_m2:.1f} m² is small for this machine.",
            why=f"{coil[0]:.1f}–{coil[1]:.1f} m² is usual at its mild-day output.",
            mend="A cylinder made for heat pumps, or a plate exchanger.",
        )  # fmt: skip
    asked = [*checks.of_place(house, store, chosen), *checks.of_main(house, chosen)]
    power = day.power_w if day else None
    by_people = _by_people(store, tap_l)
    result = HotWaterResult(
        bedrooms=bedrooms_of(house),
        people=household.people,
        label=store.label,
        kept=store.kept,
        rule_low_l=low,
        rule_high_l=high,
        people_low_l=by_people / REHEATS if by_people is not None else None,
        people_high_l=by_people,
        tap_l_per_day=tap_l,
        volume_l=volume,
        store_c=store.store_c,
        cold_c=store.cold_c,
        exchanger="plate" if store.plate else "coil",
        coil_m2=store.coil_m2,
        coil_taken_m2=by.coil_m2 if by else None,
        coil_low_m2=coil[0] if coil else None,
        coil_high_m2=coil[1] if coil else None,
        ua_w_k=by.ua_w_k if by else None,
        flow_lph=by.flow_w_k / flow_w_k(flow_lph=1.0) if by else None,
        power_w=power,
        cop=day.cop if day else None,
        charging_c=day.leaving_c if day else None,
        warmest_c=day.warmest_c if day else None,
        limit_c=day.limit_c if day else None,
        stall_c=day.stall_c if day else None,
        stored_kwh=stored,
        reheat_minutes=_minutes(stored, day),
        reheat_mild_minutes=_minutes(stored, mild),
        never=bool(stored is not None and by is not None and (day is None or math.isinf(day.minutes))),
        standing_kwh=store.standing_kwh if volume is not None else None,
        standing_known=store.label_known,
        distribution_kwh=store.distribution_kwh,
        daily_kwh=daily,
        hours_per_day=daily * 1000 / power if daily is not None and power else None,
        verdict=verdict,
        checks=asked,
        beside=checks.beside_it(house, store),
        full_kg=checks.weight_kg(store, chosen),
    )
    checks.findings_of(house, store, asked, findings)
    checks.of_exchanger(house, store, result, findings)
    return result


def _daily(house: HouseView, store: Store) -> tuple[float | None, float | None]:
    """Litres at the tap a day, and the heat the store must be given for them and for what it and its pipes lose, kWh."""
    people = house.job.survey.household.people
    if people is None:
        return None, None
    litres = max(people, 1) * house.tables.hot_water_l_per_person_day
    tapped = stored_heat_kwh(volume_l=litres, cold_c=store.cold_c, hot_c=TAP_C) if litres > 0 else 0.0
    return litres, tapped + store.standing_kwh + store.distribution_kwh


def _by_people(store: Store, tap_l: float | None) -> float | None:
    """Litres of store that hold a day's draws at once: mixed down to the tap's temperature, its usable part alone."""
    if tap_l is None or store.store_c <= store.cold_c:
        return None
    return tap_l * (TAP_C - store.cold_c) / (max(store.store_c, TAP_C) - store.cold_c) / USABLE


def _minutes(stored: float | None, at: Charged | None) -> float | None:
    return at.minutes if stored is not None and at is not None and math.isfinite(at.minutes) else None


def nothing(house: HouseView, *_: object) -> HotWaterResult:
    """Where it cannot be worked out."""
    household = house.job.survey.household
    return HotWaterResult(
        bedrooms=bedrooms_of(house), people=household.people, label="", kept=False, rule_low_l=None, rule_high_l=None,
        people_low_l=None, people_high_l=None, tap_l_per_day=None, volume_l=None, store_c=STORE_C, cold_c=COLD_C,
        exchanger="coil", coil_m2=None, coil_taken_m2=None, coil_low_m2=None, coil_high_m2=None, ua_w_k=None, flow_lph=None,
        power_w=None, cop=None, charging_c=None, warmest_c=None, limit_c=None, stall_c=None, stored_kwh=None,
        reheat_minutes=None, reheat_mild_minutes=None, never=False, standing_kwh=None, standing_known=False,
        distribution_kwh=0.0, daily_kwh=None, hours_per_day=None, verdict="unknown", checks=[], beside="", full_kg=None,
    )  # fmt: skip


def bedrooms_of(house: HouseView) -> int | None:
    """How many bedrooms: as somebody said, else as many as the survey has rooms of that use."""
    said = house.job.survey.household.bedrooms
    return said if said is not None else sum(room.use == "bedroom" for room in house.job.survey.rooms.values()) or None


def _rule(house: HouseView) -> tuple[float | None, float | None]:
    bedrooms = bedrooms_of(house)
    if not bedrooms:
        return None, None
    table = house.tables.cylinder_l_by_bedrooms
    low, high = table[min(bedrooms, len(table)) - 1]
    return low, high


def _verdict(volume: float | None, low: float | None, high: float | None) -> Fits:
    if volume is None or low is None or high is None:
        return "unknown"
    return "small" if volume < low else "large" if volume > 1.3 * high else "meets"


def looks_at(house: HouseView, performance: heat_pump.PerformanceMap | None) -> Needs:
    """What hot water hangs on."""
    return (
        performance, house.scheme, house.job.active_scheme, house.tables, house.outdoor_c, house.job.survey.household,
        bedrooms_of(house), house.machine, store_of(house), house.practice.mixer,
        tuple(checks.seen(house, item) for item in checks.ITEMS),
    )  # fmt: skip
