"""The cylinder: how large by bedrooms, how long it takes to reheat, what it takes out of the day."""

from __future__ import annotations

from typing import Literal

from cinder.design.findings import Findings
from cinder.design.hot_water.result import HotWaterResult
from cinder.design.house.view import HouseView
from cinder.design.kept import Needs
from cinder.model.scheme import HotWater as Chosen
from cinder.physics import heat_pump
from cinder.physics.cylinder import reheat_minutes, stored_heat_kwh

DEFAULT_STORE_C = 48.0
DEFAULT_COLD_C = 10.0
TAP_C = 40.0
COIL_DRIVE_K = 5.0
MILD_DAY_C = 7.0


def charging_water_c(store_c: float) -> float:
    """Leaving water that charges a store: the store's temperature plus 5 K (our choice)."""
    return store_c + COIL_DRIVE_K


def judge(house: HouseView, performance: heat_pump.PerformanceMap | None, findings: Findings) -> HotWaterResult:
    """Volume by bedrooms, reheat time on the design day and on a mild one, coil by rule, heat per day."""
    chosen = house.scheme.hot_water if house.scheme else Chosen()
    household = house.job.survey.household
    bedrooms = bedrooms_of(house)
    store = chosen.store_c if chosen.store_c is not None else DEFAULT_STORE_C
    cold = chosen.cold_c if chosen.cold_c is not None else DEFAULT_COLD_C
    low, high = _rule(house)
    daily = None
    if household.people is not None:
        litres = max(household.people, 1) * house.tables.hot_water_l_per_person_day
        daily = stored_heat_kwh(volume_l=litres, cold_c=cold, hot_c=TAP_C) if litres > 0 else 0.0
        daily += chosen.standing_kwh_per_day or 0.0
    elif house.scheme and house.scheme.chosen:
        findings.add(
            "doubt", "hot-water", "/survey/household/people", "Nobody is entered as living here.",
            why="The machine's cover is reckoned without hot water.", mend="Say how many people there are.",
        )  # fmt: skip
    power = cop = mild = None
    coil_low = coil_high = None
    if performance is not None and house.outdoor_c is not None:
        at = heat_pump.operate(performance, outdoor_c=house.outdoor_c, water_c=charging_water_c(store))
        power, cop = float(at.greatest_w), float(at.cop)
        day = heat_pump.operate(performance, outdoor_c=MILD_DAY_C, water_c=charging_water_c(store))
        mild = float(day.greatest_w)
        a, b = house.tables.coil_m2_per_kw
        coil_low, coil_high = a * mild / 1000, b * mild / 1000
        if power <= 0:
            findings.add(
                "short", "hot-water", f"/schemes/{house.job.active_scheme}/hot_water",
                f"The machine cannot make {charging_water_c(store):.0f} °C water on the design day.",
                why="It lies outside its envelope.", mend="A cooler store with an immersion, or another machine.",
            )  # fmt: skip
    volume = chosen.volume_l
    stored = stored_heat_kwh(volume_l=volume, cold_c=cold, hot_c=store) if volume and store > cold else None
    minutes = (
        reheat_minutes(volume_l=volume, cold_c=cold, hot_c=store, power_w=power)
        if stored and volume and power
        else None
    )
    mild_minutes = (
        reheat_minutes(volume_l=volume, cold_c=cold, hot_c=store, power_w=mild) if stored and volume and mild else None
    )
    verdict = _verdict(volume, low, high)
    if verdict == "small":
        findings.add(
            "short", "hot-water", f"/schemes/{house.job.active_scheme}/hot_water/volume_l",
            f"{volume:.0f} L is less than the {low:.0f}–{high:.0f} L usual here.",
            why=f"Bedrooms: {bedrooms}.", mend="A larger store, or agree on shorter showers in writing.",
        )  # fmt: skip
    if chosen.coil_m2 is not None and coil_low is not None and chosen.coil_m2 < coil_low:
        findings.add(
            "short", "hot-water", f"/schemes/{house.job.active_scheme}/hot_water/coil_m2",
            f"A coil of {chosen.coil_m2:.1f} m² is small for this machine.",
            why=f"{coil_low:.1f}–{coil_high:.1f} m² is usual at its mild-day output.",
            mend="A cylinder made for heat pumps, or a plate exchanger.",
        )  # fmt: skip
    return HotWaterResult(
        bedrooms=bedrooms,
        people=household.people,
        rule_low_l=low,
        rule_high_l=high,
        volume_l=volume,
        store_c=store,
        cold_c=cold,
        coil_m2=chosen.coil_m2,
        coil_low_m2=coil_low,
        coil_high_m2=coil_high,
        power_w=power,
        cop=cop,
        stored_kwh=stored,
        reheat_minutes=minutes,
        reheat_mild_minutes=mild_minutes,
        daily_kwh=daily,
        hours_per_day=daily * 1000 / power if daily is not None and power else None,
        verdict=verdict,
    )


def nothing(house: HouseView, *_: object) -> HotWaterResult:
    """Where it cannot be worked out."""
    household = house.job.survey.household
    return HotWaterResult(
        bedrooms=bedrooms_of(house), people=household.people, rule_low_l=None, rule_high_l=None, volume_l=None,
        store_c=DEFAULT_STORE_C, cold_c=DEFAULT_COLD_C, coil_m2=None, coil_low_m2=None, coil_high_m2=None, power_w=None,
        cop=None, stored_kwh=None, reheat_minutes=None, reheat_mild_minutes=None, daily_kwh=None, hours_per_day=None,
        verdict="unknown",
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


def _verdict(
    volume: float | None, low: float | None, high: float | None
) -> Literal["meets", "small", "large", "unknown"]:
    if volume is None or low is None or high is None:
        return "unknown"
    return "small" if volume < low else "large" if volume > 1.3 * high else "meets"


def looks_at(house: HouseView, performance: heat_pump.PerformanceMap | None) -> Needs:
    """What hot water hangs on."""
    return (
        performance, house.scheme, house.job.active_scheme, house.tables, house.outdoor_c, house.job.survey.household,
        bedrooms_of(house),
    )  # fmt: skip
