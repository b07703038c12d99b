"""Last year's fuel against the calculated loss: what the house says about itself."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from typing import Literal

import numpy as np

from cinder.design import hot_water, losses
from cinder.design.air.tightness import Tightness
from cinder.design.apart import doubts
from cinder.design.apart.bills.result import BillCheck, BillResult
from cinder.design.findings import Findings
from cinder.design.house.prices import fuel
from cinder.design.house.view import view
from cinder.design.result import Design
from cinder.design.year.decide import work, year_loss
from cinder.library import HourlyYear
from cinder.model import Bill, Job
from cinder.physics.climate.weather import HOURS
from cinder.physics.quantity import Array
from cinder.physics.store.cylinder import WATER_WH_L_K, stored_heat_kwh

FACTOR = 1.3
"""Beyond this either way the bill and the calculation disagree (common practice)."""
CLOSE = 0.1
"""Nearer than this they agree; beyond it, with ranges that meet, they differ within their doubt (our choice)."""
USUAL_PEOPLE, MOST_PEOPLE = 2.5, 5.0
"""People assumed where neither they nor the bedrooms are known, and at most; at least one (our choice)."""
KEPT_C, KEPT_IN_TURNS_C = 19.0, 17.5
UNHEATED_COOLER_K = 4.0
WARM_C, COLD_C = 45.0, 10.0
COOKING_KWH = 0.0
AT_C = 5.0
"""Outdoor temperature at which the two losses are compared: an ordinary heating day."""
ROUNDS = 40
SHARP_BITS = 1e-4


def _days(bill: Bill) -> tuple[int, list[int]]:
    """Days a bill covers and which days of an ordinary year (0..364) they are; a whole year when it does not say."""
    if bill.from_day is None or bill.to_day is None:
        return 365, list(range(365))
    try:
        first, last = date.fromisoformat(bill.from_day), date.fromisoformat(bill.to_day)
    except ValueError:
        return 365, list(range(365))
    count = (last - first).days + 1
    if count < 1:
        return 0, []
    start = min(first.timetuple().tm_yday, 365) - 1
    return count, [(start + n) % 365 for n in range(min(count, 3 * 365))]


def _line(job: Job, design: Design, key: str, bill: Bill) -> BillResult:
    entry = fuel(job, bill.fuel)
    days, _ = _days(bill)
    bought = None
    if bill.amount is not None and entry is not None:
        per = {"kwh_gross": 1.0, "kwh_net": 1 / (entry.net_share or 1.0), "unit": entry.gross_kwh_per_unit}[bill.unit]
        bought = bill.amount * per
    low, high = (entry.old_efficiency if bill.old_boiler else entry.new_efficiency) if entry else (0.6, 0.9)
    why = (
        f"usual for {'an old' if bill.old_boiler else 'a newer'} heater on {entry.label if entry else bill.fuel}, gross"
    )
    efficiency = (low + high) / 2
    if bill.efficiency is not None:
        efficiency = low = high = bill.efficiency
        why = "as entered"
    a_day = _hot_water(job, design) if bill.hot_water else HotWater(0.0, 0.0, 0.0, "not by this")
    water, least, most = a_day.kwh * days, a_day.low_kwh * days, a_day.high_kwh * days
    cooking = bill.cooking_kwh or COOKING_KWH

    def rooms(share: float, water: float) -> float | None:
        return max((bought - cooking) * share - water, 0.0) if bought is not None else None

    return BillResult(
        id=key, label=bill.label or (entry.label if entry else bill.fuel), fuel=bill.fuel, days=days, bought_kwh=bought,
        efficiency=efficiency, efficiency_why=why, hot_water_kwh=water, hot_water_low_kwh=least, hot_water_high_kwh=most,
        hot_water_why=a_day.why, cooking_kwh=cooking,
        rooms_kwh=rooms(efficiency, water), rooms_low_kwh=rooms(low, most), rooms_high_kwh=rooms(high, least),
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class HotWater:
    """Hot water a day, kWh, with the range it may lie in, and why."""

    kwh: float
    low_kwh: float
    high_kwh: float
    why: str


def _hot_water(job: Job, design: Design) -> HotWater:
    litres = job.site.living.hot_water_l_per_day
    if litres is not None:
        told = litres * WATER_WH_L_K * (WARM_C - COLD_C) / 1000
        return HotWater(told, told, told, "as entered")
    if design.hot_water.daily_kwh is not None:
        by_people = design.hot_water.daily_kwh
        return HotWater(by_people, by_people, by_people, "by people")
    each = stored_heat_kwh(
        volume_l=view(job, Findings()).tables.hot_water_l_per_person_day,
        cold_c=hot_water.COLD_C,
        hot_c=hot_water.TAP_C,
    )
    bedrooms = job.survey.household.bedrooms
    usual, most = (float(bedrooms), bedrooms + 1.0) if bedrooms else (USUAL_PEOPLE, MOST_PEOPLE)
    why = f"assumed for {usual:g} people ({'by bedrooms' if bedrooms else 'an ordinary household'}), between 1 and {most:g}"
    return HotWater(each * usual, each, each * most, why)


def _kept(job: Job) -> tuple[float, str]:
    """Mean indoor temperature really kept, and why."""
    living = job.site.living
    kept, why = living.kept_c, "as entered"
    if kept is None:
        by_turns = job.site.answers.get("how_now") in ("times", "some", "one")
        kept, why = (KEPT_IN_TURNS_C, "assumed: heated at times") if by_turns else (KEPT_C, "assumed")
    if living.heated_share is not None and living.heated_share < 1:
        kept -= (1 - living.heated_share) * UNHEATED_COOLER_K
        why += f", {1 - living.heated_share:.0%} of the house {UNHEATED_COOLER_K:g} K cooler"
    return kept, why


def loss_from_life(*, heat_kwh: float, outdoor_c: Array, kept_c: float, gains_w: float) -> tuple[float, float, float]:
    """H (W/K), base temperature (deg C) and degree days (K d) with heat = H 24 DD(base) and base = kept - gains / H.

    `outdoor_c` (N,) the hours the heat was used in. Found by halving H until the heat it asks for is that of the bill:
    more H asks for more, both by its own and by its higher base. Source: common practice; a root of one equation.

    >>> h, base, dd = loss_from_life(heat_kwh=4800.0, outdoor_c=np.full(2400, 8.0), kept_c=18.0, gains_w=0.0)
    >>> round(h), round(base), round(dd)
    (200, 18, 1000)
    """

    def asked(h: float) -> tuple[float, float, float]:
        base = kept_c - gains_w / h
        hours = float(np.maximum(base - outdoor_c, 0.0).sum())
        return h * hours / 1000, base, hours / 24

    low, high = 1.0, 20_000.0
    for _ in range(ROUNDS):
        middle = (low * high) ** 0.5
        if asked(middle)[0] < heat_kwh:
            low = middle
        else:
            high = middle
        if high / low - 1 < SHARP_BITS:
            break
    h = (low * high) ** 0.5
    _, base, degree_days = asked(h)
    return h, base, degree_days


def judge(job: Job, design: Design, weather: HourlyYear | None, *, shift_k: float = 0.0) -> BillCheck:
    """The bills of the job against the house as found (never a scheme's). Source: common practice."""
    found = job.model_copy(update={"active_scheme": None})
    house = view(found, Findings())
    lines = [
        _line(job, design, key, bill) for key, bill in sorted(job.site.bills.items(), key=lambda i: (i[1].pos, i[0]))
    ]
    kept, why = _kept(job)
    counted = [line for line in lines if line.rooms_kwh is not None and line.days > 0]
    lacks = ""
    if not counted:
        lacks = "Enter last year's fuel: what was bought, and of what."
    elif weather is None:
        lacks = "This climate carries no hourly year to count degree days from."
    elif not any(room.volume_m3 for room in house.rooms):
        lacks = "No room is complete yet."
    if lacks or weather is None:
        return _unknown(lines, kept, why, lacks)
    arrays = losses.of_house(house, Findings())
    loss = year_loss(house, arrays)
    worked = work(house, weather, loss=loss, shift_k=shift_k)
    on = worked.demand.on
    gains = float(worked.demand.gains_w[on].mean()) if on.any() else 0.0
    outdoor = worked.outdoor_c
    days = {line.id: _days(job.site.bills[line.id])[1] for line in counted}
    covered = max(days.values(), key=len)
    hours = np.concatenate([outdoor[d * 24 : d * 24 + 24] for d in covered])
    sums = [
        sum(getattr(line, name) or 0.0 for line in counted) for name in ("rooms_kwh", "rooms_low_kwh", "rooms_high_kwh")
    ]
    findings = Findings()
    guessed = [line for line in counted if line.hot_water_high_kwh > line.hot_water_low_kwh]
    if guessed:
        least, most = (sum(getattr(line, f"hot_water_{name}_kwh") for line in guessed) for name in ("low", "high"))
        findings.add(
            "doubt", "losses", "/survey/household/people", "Nobody is entered as living here.",
            why=f"Hot water on the bills may be anything from {least:.0f} to {most:.0f} kWh.",
            mend="Say how many people there were, or the hot water a day.",
        )  # fmt: skip
    h, base, degree_days = loss_from_life(heat_kwh=sums[0], outdoor_c=hours, kept_c=kept, gains_w=gains)
    low = loss_from_life(heat_kwh=sums[1], outdoor_c=hours, kept_c=kept, gains_w=gains)[0]
    high = loss_from_life(heat_kwh=sums[2], outdoor_c=hours, kept_c=kept, gains_w=gains)[0]
    calculated = float(loss.loss_w(AT_C)) / (loss.inside_c - AT_C)
    ratio = h / calculated if calculated > 0 else None
    sampled = doubts.judge(found)
    least, most = calculated, calculated
    if sampled.house is not None and sampled.single_w:
        least, most = (calculated * w / sampled.single_w for w in (sampled.house.p10_w, sampled.house.p90_w))
    told = Compared(h, low, high, calculated, min(least, calculated), max(most, calculated))
    if told.apart:
        findings.add(
            "doubt", "losses", "/site/bills", told.said,
            why=(told.reasons(arrays.tightness, job, why) or [""])[0], mend="Look at the reasons beside the bills before you size.",
        )  # fmt: skip
    lived = work(house, weather, loss=loss.kept_at(kept, ordinary_c=AT_C), shift_k=shift_k)
    return BillCheck(
        lacks="",
        lines=lines,
        rooms_kwh=sums[0],
        degree_days_kd=degree_days,
        base_c=base,
        kept_c=kept,
        kept_why=why,
        h_life_w_k=h,
        h_life_low_w_k=low,
        h_life_high_w_k=high,
        h_calculated_w_k=calculated,
        h_calculated_low_w_k=told.least_w_k,
        h_calculated_high_w_k=told.most_w_k,
        ratio=ratio,
        verdict=told.verdict,
        reasons=told.reasons(arrays.tightness, job, why),
        as_lived_kwh=float(lived.demand.heat_w.sum()) / 1000 * len(covered) * 24 / HOURS,
        as_designed_kwh=float(worked.demand.heat_w.sum()) / 1000,
        basis="gross calorific value; as-found house, never the scheme's",
        findings=findings.ranked(),
        sentence=told.sentence,
    )


def _unknown(lines: list[BillResult], kept: float, why: str, lacks: str) -> BillCheck:
    return BillCheck(
        lacks=lacks, lines=lines, rooms_kwh=None, degree_days_kd=None, base_c=None, kept_c=kept, kept_why=why,
        h_life_w_k=None, h_life_low_w_k=None, h_life_high_w_k=None, h_calculated_w_k=None,
        h_calculated_low_w_k=None, h_calculated_high_w_k=None, ratio=None, verdict="unknown", reasons=[],
        as_lived_kwh=None, as_designed_kwh=None, basis="gross calorific value", findings=[],
        sentence=lacks,
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class Compared:
    """The loss from life and the calculated one, W/K, each with its range."""

    life_w_k: float
    low_w_k: float
    high_w_k: float
    calculated_w_k: float
    least_w_k: float
    most_w_k: float

    @property
    def ratio(self) -> float | None:
        return self.life_w_k / self.calculated_w_k if self.calculated_w_k > 0 else None

    @property
    def apart(self) -> bool:
        """Whether they disagree: more than 10 % apart with ranges that do not meet, or by more than a factor of 1.3."""
        ratio = self.ratio
        if ratio is None or abs(ratio - 1) <= CLOSE:
            return False
        return not 1 / FACTOR <= ratio <= FACTOR or not self.meet

    @property
    def meet(self) -> bool:
        return self.low_w_k <= self.most_w_k and self.high_w_k >= self.least_w_k

    @property
    def verdict(self) -> Literal["agrees", "within doubt", "life is lower", "life is higher", "unknown"]:
        if self.ratio is None:
            return "unknown"
        if self.apart:
            return "life is higher" if self.ratio > 1 else "life is lower"
        return "agrees" if abs(self.ratio - 1) <= CLOSE else "within doubt"

    @property
    def said(self) -> str:
        return (
            f"The bill says {self.life_w_k:.0f} W/K ({self.low_w_k:.0f} to {self.high_w_k:.0f}), the calculation "
            f"{self.calculated_w_k:.0f} W/K ({self.least_w_k:.0f} to {self.most_w_k:.0f}): "
            + (f"more than a factor of {FACTOR:g} apart." if self.meet else "neither's range reaches the other's.")
        )

    @property
    def sentence(self) -> str:
        ratio = self.ratio
        if ratio is None:
            return "The bill cannot be compared yet."
        said = f"The bill says **{self.life_w_k:.0f} W/K**, the calculation **{self.calculated_w_k:.0f} W/K**"
        if self.verdict == "agrees":
            return f"{said}: **they agree** within {abs(ratio - 1):.0%}."
        word = f"**{abs(ratio - 1):.0%} {'higher' if ratio > 1 else 'lower'}**"
        if self.verdict == "within doubt":
            return (
                f"{said}: life is {word}, which the doubt of the two can explain. Narrow it before you size by either."
            )
        return f"{said}: life is {word}. Look at the reasons before you size."

    def reasons(self, tightness: Tightness, job: Job, kept_why: str) -> list[str]:
        """Likely reasons, the likeliest first, for a difference."""
        ratio = self.ratio
        if ratio is None or self.verdict == "agrees":
            return []
        return _lower(tightness, job, kept_why) if ratio < 1 else _higher(tightness)


def _lower(tightness: Tightness, job: Job, kept_why: str) -> list[str]:
    out = ["The rooms were kept colder than reckoned, or for fewer hours" + (f" ({kept_why})." if kept_why else ".")]
    if job.site.living.heated_share is None:
        out.append("Part of the house was not heated: say how much of it was.")
    if job.practice.air == "table":
        out.append("The air table overstates the loss; count air by tightness instead.")
    elif tightness.why.startswith("assumed"):
        out.append(f"The house is tighter than its assumed n50 of {tightness.n50_per_h:g}.")
    if len(job.site.bills) < 2:
        out.append("Another fuel helped (a stove, an electric fire) and is not on the bill.")
    out.append("A wall or roof is better than recorded: look for insulation nobody remembers.")
    return out


def _higher(tightness: Tightness) -> list[str]:
    out = ["A wall, roof or floor is worse than recorded, or wind blows through the insulation."]
    if tightness.why.startswith("assumed"):
        out.append(f"The house leaks more than its assumed n50 of {tightness.n50_per_h:g}.")
    out += [
        "The heater wastes more than its assumed efficiency.",
        "The rooms were kept warmer than reckoned, or windows stood open.",
        "Hot water took more than reckoned (a circulation pipe, a bare tank).",
    ]
    return out
