"""The machine against the house: output, cover, cycling, backup, season; every candidate alike."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from cinder.design.curve import CurveArrays
from cinder.design.emitters import EmitterArrays
from cinder.design.findings import Findings
from cinder.design.heating_season import heating_limit_c
from cinder.design.hot_water import charging_water_c
from cinder.design.house import HouseView
from cinder.design.losses import evaluate
from cinder.design.result import HotWater, House, Machine, MachineRow, Season, Waterline
from cinder.design.waterline import WaterlineArrays
from cinder.library import MachineEntry
from cinder.physics import curve as law
from cinder.physics import heat_pump
from cinder.physics.quantity import Array
from cinder.physics.season import Season as Summed
from cinder.physics.season import season_over_bins

DAY_H = 24.0
DAYS = 365.0
MOST_CYCLING = 0.5
"""Part of its heating hours that a machine may run on and off before it is said (our choice: most of them)."""


@dataclass(slots=True)
class Bins:
    """The season's load after gains (K,), W, with its hours and the water then; what heaters of their own give beside."""

    outdoor_c: Array
    hours: Array
    season_w: Array
    flow_c: Array
    own_w: Array
    needed_c: Array


@dataclass(slots=True)
class Load:
    """The house over the outdoor grid (K,), as it is drawn: full loss by the design day's reading, the season's load, W;
    and over the climate's own bins, as the season is summed. `fans_w`: what fan units draw while heating goes."""

    drawn: Bins
    full_w: Array
    bins: Bins
    design_w: float
    fans_w: float = 0.0


def performance_map(entry: MachineEntry) -> heat_pump.PerformanceMap:
    """A library machine as the physics sees it."""
    return heat_pump.PerformanceMap(
        outdoor_c=np.array(entry.outdoor_c),
        water_c=np.array(entry.water_c),
        greatest_w=np.array(entry.greatest_w),
        least_w=np.array(entry.least_w),
        cop=np.array(entry.cop),
        evaporator_approach_k=entry.evaporator_approach_k,
        condenser_approach_k=entry.condenser_approach_k,
        lowest_outdoor_c=entry.lowest_outdoor_c,
        limit_outdoor_c=np.array(entry.limit_outdoor_c),
        limit_water_c=np.array(entry.limit_water_c),
    )


def load_line(
    house: HouseView, curve: CurveArrays, emitters: EmitterArrays, line: WaterlineArrays, *, area_m2: float,
    loss_w: float | None,
) -> Load:  # fmt: skip
    """The machine's load over the year: the house's loss without what belongs to the design day, less the gains; nothing
    above the heating limit, which stands for gains (without any there is none). Rooms with heaters of their own take
    their share of it out.
    """
    gains = house.practice.gains_w_per_m2 * area_m2
    limit = heating_limit_c(house.practice, gains=gains > 0)

    def season(outdoor_c: Array, hours: Array, share_w: Array) -> Bins:
        whole, own = _shares(share_w, line.own_share)
        on = outdoor_c < limit if limit is not None else True
        load = np.where(on, np.maximum(whole - gains, 0.0), 0.0)
        part = np.where(whole > 0, own / np.where(whole > 0, whole, 1.0), 0.0)
        flow = law.flow_at(curve.setting, outdoor_c=outdoor_c) if curve.setting else np.full_like(outdoor_c, np.nan)
        known = np.isfinite(curve.needed_c)
        need = (
            np.interp(outdoor_c, curve.outdoor_c[known], curve.needed_c[known])
            if known.any()
            else np.full_like(flow, np.nan)
        )
        return Bins(outdoor_c, hours, load * (1 - part), flow, load * part, need)

    drawn = season(curve.outdoor_c, curve.hours, curve.year_losses.share_of_house_w)
    bins = season(np.zeros(0), np.zeros(0), np.zeros((0, len(house.rooms))))
    if house.climate is not None:
        at = np.array(house.climate.bin_outdoor_c)
        bins = season(at, np.array(house.climate.bin_hours), evaluate(curve.year, at).share_of_house_w)
    whole, own = _shares(curve.losses.share_of_house_w, line.own_share)
    part = np.where(whole > 0, own / np.where(whole > 0, whole, 1.0), 0.0)
    design_w = (loss_w or 0.0) * (1 - _part_at(curve.outdoor_c, part, house.outdoor_c))
    return Load(drawn, whole - own, bins, design_w, sum(one.electric_w for one in emitters.rated))


def _shares(share_w: Array, own_share: Array) -> tuple[Array, Array]:
    """Loss of the house (K,), and what heaters of their own carry of it, from the rooms' shares (K, R), W."""
    whole = np.maximum(share_w.sum(axis=-1), 0.0)
    return whole, np.minimum(np.maximum((share_w * own_share).sum(axis=-1), 0.0), whole)


def _part_at(outdoor_c: Array, part: Array, at_c: float | None) -> float:
    return float(np.interp(at_c, outdoor_c, part)) if at_c is not None else 0.0


def cover(*, output_w: float, loss_w: float, hot_water_hours: float) -> float:
    """Share of the design day's loss the machine gives in the hours hot water leaves it."""
    return output_w * (DAY_H - hot_water_hours) / (DAY_H * loss_w)


def no_season(house: HouseView) -> Season:
    return Season(
        performance=None, with_hot_water=None, heat_kwh=None, electricity_kwh=None, backup_kwh=None,
        hot_water_kwh=None, hot_water_electricity_kwh=None, cycling_hours=None, heating_hours=None,
        excess_kwh=None, own_heat_kwh=0.0, fans_kwh=0.0, climate_label=house.climate.label if house.climate else "",
    )  # fmt: skip


def nothing(house: HouseView) -> tuple[Machine, Season]:
    """Where neither can be worked out."""
    return Machine(outdoor_c=[], load_w=[], season_load_w=[], hours=[], rows=[], chosen=None), no_season(house)


def judged(
    house: HouseView, curve: CurveArrays, emitters: EmitterArrays, line: WaterlineArrays, total: House,
    hot_water: HotWater, findings: Findings,
) -> tuple[Machine, Season]:  # fmt: skip
    """Every candidate of the scheme over the load of the house, and the season of the chosen one."""
    load = load_line(house, curve, emitters, line, area_m2=total.area_m2, loss_w=total.loss_w)
    machines, season = solve(house, load, line.result, hot_water, findings)
    season.excess_kwh = excess_electricity_kwh(house, load, season)
    return machines, season


def season_of(
    house: HouseView, curve: CurveArrays, emitters: EmitterArrays, line: WaterlineArrays, hot_water: HotWater, *,
    area_m2: float, loss_w: float | None,
) -> Season:  # fmt: skip
    """The season of the chosen machine alone, as `judged` gives it."""
    scheme = house.scheme
    if scheme is None or scheme.chosen not in scheme.candidates:
        return no_season(house)
    load = load_line(house, curve, emitters, line, area_m2=area_m2, loss_w=loss_w)
    entry = house.job.library.machines[scheme.candidates[scheme.chosen].machine].data
    row, summed = _row(house, scheme.chosen, entry, load, line.result, hot_water)
    season = _season(house, entry, load, summed, row, hot_water) if summed is not None else no_season(house)
    season.excess_kwh = excess_electricity_kwh(house, load, season)
    return season


def solve(
    house: HouseView, load: Load, waterline: Waterline, hot_water: HotWater, findings: Findings
) -> tuple[Machine, Season]:
    """Every candidate of the scheme, and the season of the chosen one."""
    empty = no_season(house)
    machine = Machine(
        outdoor_c=load.drawn.outdoor_c.tolist(),
        load_w=load.full_w.tolist(),
        season_load_w=load.drawn.season_w.tolist(),
        hours=load.drawn.hours.tolist(),
        rows=[],
        chosen=None,
    )
    scheme = house.scheme
    if scheme is None or not scheme.candidates:
        findings.add(
            "stops", "machine", f"/schemes/{house.job.active_scheme}", "No machine is chosen.",
            why="Cover, season and pump need one.", mend="Compare machines and choose one.",
        )  # fmt: skip
        return machine, empty
    season = empty
    for key, candidate in sorted(scheme.candidates.items(), key=lambda item: (item[1].pos, item[0])):
        entry = house.job.library.machines[candidate.machine].data
        row, summed = _row(house, key, entry, load, waterline, hot_water)
        machine.rows.append(row)
        if key == scheme.chosen:
            machine.chosen = key
            _findings(house, row, findings)
            if summed is not None:
                season = _season(house, entry, load, summed, row, hot_water)
    if machine.chosen is None:
        findings.add(
            "stops", "machine", f"/schemes/{house.job.active_scheme}/chosen", "No machine is chosen.",
            why="Cover, season and pump need one.", mend="Choose one of the candidates.",
        )  # fmt: skip
    return machine, season


def _row(
    house: HouseView, key: str, entry: MachineEntry, load: Load, waterline: Waterline, hot_water: HotWater
) -> tuple[MachineRow, Summed | None]:
    table = performance_map(entry)
    flow = waterline.chosen_flow_c if waterline.chosen_flow_c is not None else 45.0
    outdoor = house.outdoor_c if house.outdoor_c is not None else 0.0
    water = np.concatenate([load.drawn.flow_c, load.bins.flow_c])
    charging = charging_water_c(hot_water.store_c)
    # the design day with heating water, with hot water, the grid that is drawn, the season's bins: one look into the map
    every = heat_pump.operate(
        table,
        outdoor_c=np.concatenate([[outdoor, outdoor], load.drawn.outdoor_c, load.bins.outdoor_c]),
        water_c=np.concatenate([[flow, charging], np.where(np.isfinite(water), water, flow)]),
    )
    count = 2 + len(load.drawn.outdoor_c)
    at, over, in_bins = _part(every, 0), _part(every, slice(2, count)), _part(every, slice(count, None))
    hours = _hot_water_hours(house, hot_water, float(every.greatest_w[1]))
    known = load.design_w > 0 and waterline.chosen_flow_c is not None and house.outdoor_c is not None
    summed = None
    if known and house.climate is not None:
        summed = _beside(
            load,
            season_over_bins(
                hours=load.bins.hours,
                load_w=load.bins.season_w,
                operation=in_bins,
                degradation=house.practice.cycling_degradation,
                always_on_w=entry.always_on_w,
            ),
        )
    heating_h = summed.heating_hours if summed else 0.0
    both = _with_hot_water(house, table, hot_water, summed)
    row = MachineRow(
        id=key,
        machine=entry.id,
        label=entry.label,
        refrigerant=entry.refrigerant,
        chosen=bool(house.scheme and house.scheme.chosen == key),
        output_w=float(at.greatest_w),
        least_w=float(at.least_w),
        cop=float(at.cop),
        extrapolated=bool(at.extrapolated),
        inside=bool(at.inside),
        cover=cover(output_w=float(at.greatest_w), loss_w=load.design_w, hot_water_hours=hours or 0.0)
        if known
        else None,
        cover_without_hot_water=float(at.greatest_w) / load.design_w if known else None,
        hot_water_hours=hours,
        bivalent_c=_crossing(load.drawn.outdoor_c, over.greatest_w - load.full_w) if known else None,
        cycles_above_c=_crossing(load.drawn.outdoor_c, over.least_w - load.drawn.season_w) if known else None,
        cycling_share=summed.cycling_hours / heating_h if summed and heating_h else None,
        backup_share=summed.backup_total_kwh / summed.heat_total_kwh if summed and summed.heat_total_kwh else None,
        season=summed.performance if summed and summed.electricity_total_kwh > 0 else None,
        season_with_hot_water=both[0],
        electricity_kwh=summed.electricity_total_kwh if summed else None,
        sound_power_day_db=entry.sound_power_day_db,
        greatest_curve_w=over.greatest_w.round(1).tolist(),
        least_curve_w=over.least_w.round(1).tolist(),
    )
    return row, summed


def _own_kwh(load: Load) -> float:
    return float((load.bins.hours * load.bins.own_w).sum()) / 1000


def _fans_kwh(load: Load, summed: Summed) -> float:
    return load.fans_w * summed.heating_hours / 1000


def _beside(load: Load, summed: Summed) -> Summed:
    """The season with what heaters of their own and fan units draw beside the machine."""
    own = _own_kwh(load)
    if not own and not load.fans_w:
        return summed
    heat = summed.heat_total_kwh + own
    drawn = summed.electricity_total_kwh + own + _fans_kwh(load, summed)
    return replace(
        summed,
        heat_total_kwh=heat,
        electricity_total_kwh=drawn,
        performance=heat / drawn if drawn > 0 else summed.performance,
    )


def _part(whole: heat_pump.Operation, at: int | slice) -> heat_pump.Operation:
    """Some of many operating points."""
    return heat_pump.Operation(
        whole.greatest_w[at], whole.least_w[at], whole.cop[at], whole.inside[at], whole.extrapolated[at]
    )


def _hot_water_hours(house: HouseView, hot_water: HotWater, power_w: float) -> float | None:
    """Hours of the design day that hot water takes, at the machine's output while it charges the store."""
    if hot_water.daily_kwh is None or house.outdoor_c is None:
        return None
    return min(hot_water.daily_kwh * 1000 / power_w, DAY_H) if power_w > 0 else None


def _with_hot_water(
    house: HouseView, table: heat_pump.PerformanceMap, hot_water: HotWater, summed: Summed | None
) -> tuple[float | None, float, float]:
    """Season with hot water, and its heat and electricity (kWh a year), made at the climate's mean."""
    if summed is None or hot_water.daily_kwh is None or house.climate is None:
        return None, 0.0, 0.0
    water = charging_water_c(hot_water.store_c)
    at = heat_pump.operate(table, outdoor_c=house.climate.annual_mean_c, water_c=water)
    heat = hot_water.daily_kwh * DAYS
    cop = float(at.cop) if bool(at.inside) else 1.0
    total = summed.electricity_total_kwh + heat / cop
    return (summed.heat_total_kwh + heat) / total if total > 0 else None, heat, heat / cop


def _crossing(x: Array, difference: Array) -> float | None:
    """First x, from cold to mild, where the difference turns from below to above zero; None if it does not."""
    sign = np.nonzero((difference[:-1] < 0) & (difference[1:] >= 0))[0]
    if not len(sign):
        return None
    k = int(sign[0])
    return float(x[k] + (0 - difference[k]) / (difference[k + 1] - difference[k]) * (x[k + 1] - x[k]))


def _season(
    house: HouseView, entry: MachineEntry, load: Load, summed: Summed, row: MachineRow, hot_water: HotWater
) -> Season:
    table = performance_map(entry)
    both, heat, electricity = _with_hot_water(house, table, hot_water, summed)
    return Season(
        performance=row.season,
        with_hot_water=both,
        heat_kwh=summed.heat_total_kwh,
        electricity_kwh=summed.electricity_total_kwh,
        backup_kwh=summed.backup_total_kwh,
        hot_water_kwh=heat if both is not None else None,
        hot_water_electricity_kwh=electricity if both is not None else None,
        cycling_hours=summed.cycling_hours,
        heating_hours=summed.heating_hours,
        excess_kwh=None,
        own_heat_kwh=_own_kwh(load),
        fans_kwh=_fans_kwh(load, summed),
        climate_label=house.climate.label if house.climate else "",
    )


def excess_electricity_kwh(house: HouseView, load: Load, season: Season) -> float | None:
    """What the line costs over the season beyond water exactly as warm as needed, kWh."""
    if house.machine is None or season.electricity_kwh is None:
        return None
    bins = load.bins
    exact = np.where(np.isfinite(bins.needed_c), bins.needed_c, bins.flow_c)
    ideal = season_over_bins(
        hours=bins.hours,
        load_w=bins.season_w,
        operation=heat_pump.operate(performance_map(house.machine), outdoor_c=bins.outdoor_c, water_c=exact),
        degradation=house.practice.cycling_degradation,
        always_on_w=house.machine.always_on_w,
    )
    return season.electricity_kwh - _beside(load, ideal).electricity_total_kwh


def _findings(house: HouseView, row: MachineRow, findings: Findings) -> None:
    where = f"/schemes/{house.job.active_scheme}/chosen"
    if not row.inside:
        findings.add(
            "short", "machine", where, f"{row.label} does not run at this design day and flow temperature.",
            why="It lies outside its envelope: no output is counted.", mend="Cooler water, or another machine.",
        )  # fmt: skip
    elif row.cover is not None and row.cover < 1.0:
        findings.add(
            "short", "machine", where, f"{row.label} covers {row.cover:.0%} of the design day.",
            why="A backup would work on the coldest days.", mend="A larger machine, a smaller loss, or cooler water.",
        )  # fmt: skip
    elif row.cover is not None and row.cover > 1.2:
        findings.add(
            "doubt", "machine", where, f"{row.label} covers {row.cover:.0%}: more than the usual 120 %.",
            why="It will switch on and off in mild weather.", mend="Look at the next smaller machine.",
        )  # fmt: skip
    if row.cycling_share is not None and row.cycling_share > MOST_CYCLING:
        findings.add(
            "doubt", "machine", where, f"{row.label} will run on and off for {row.cycling_share:.0%} of its heating hours.",
            why="Its least output is more than the house asks for in mild weather.",
            mend="A machine that turns down further, or enough open water for the runs it then makes (see the pipework).",
        )  # fmt: skip
    if row.extrapolated:
        findings.add(
            "doubt", "machine", where, f"{row.label}: the design day lies outside its test points.",
            why="The figure is extrapolated.", mend="Ask its maker for a test point nearer to it.",
        )  # fmt: skip
