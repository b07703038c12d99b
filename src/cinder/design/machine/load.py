"""The machine's load over the year, and its performance."""

from __future__ import annotations

from collections.abc import Hashable
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from cinder.design.curve.decide import CurveArrays
from cinder.design.curve.heating_limit import heating_limit_c
from cinder.design.emitters.decide import EmitterArrays
from cinder.design.hot_water.charging import Charged, charged
from cinder.design.hot_water.store import Store, store_of
from cinder.design.house.view import HouseView
from cinder.design.kept import Kept, to_the_letter
from cinder.design.losses.evaluate import LossArrays, Losses
from cinder.design.outdoor_pipes import OutdoorPipes
from cinder.design.separation import Separated
from cinder.design.waterline.decide import WaterlineArrays
from cinder.library import MachineEntry, TablesEntry
from cinder.model.scheme import Candidate
from cinder.physics.machine import curve as law
from cinder.physics.machine import heat_pump
from cinder.physics.quantity import Array


@dataclass(slots=True)
class Bins:
    """The season's load after gains (K,), W, with its hours and the water then; what heaters of their own give beside; what of the load
    pipes lose outdoors."""

    outdoor_c: Array
    hours: Array
    season_w: Array
    flow_c: Array
    own_w: Array
    needed_c: Array
    lost_w: Array

    def part(self, at: slice) -> Bins:
        """Some of them."""
        return Bins(
            self.outdoor_c[at], self.hours[at], self.season_w[at], self.flow_c[at], self.own_w[at], self.needed_c[at], self.lost_w[at]
        )  # fmt: skip


class Standing(NamedTuple):
    """What of a job and its candidate bears on a machine's map: glycol in its water, the altitude, its quiet nights."""

    glycol_share: float = 0.0
    altitude_m: float = 0.0
    quiet: bool = False

    @classmethod
    def of(cls, house: HouseView, candidate: Candidate | None) -> Standing:
        if candidate is None:
            return cls(house.fluid.share, house.altitude_m)
        return cls(house.fluid.share, house.altitude_m, candidate.quiet)


QUIET_FROM_H, QUIET_TO_H = 22, 7
"""Hours of the night in which a machine that is told to be quiet is (our choice)."""
QUIET_PART = ((QUIET_TO_H - QUIET_FROM_H) % 24) / 24
PLAINLY = Standing()


class Looks:
    """Looks into the maps of machines, each kept: most edits leave the water as it was."""

    def __init__(self, kept: Kept) -> None:
        self.kept = kept

    def map(self, entry: MachineEntry, standing: Standing) -> heat_pump.PerformanceMap:
        """Its map where it stands."""
        return self.kept.of(("map", entry.id), (entry, standing), lambda: performance_map(entry, standing))

    def store(self, house: HouseView) -> Store:
        """The store that is charged: the same as long as nothing of it changes."""
        now = store_of(house)
        return self.kept.of("store", (to_the_letter(tuple(now)),), lambda: now)

    def at(
        self, table: heat_pump.PerformanceMap, slot: Hashable, outdoor_c: Array, water_c: Array
    ) -> heat_pump.Operation:
        """A machine over outdoor air and leaving water (K,), a quiet night counted into its greatest output; kept under a name."""
        needs = (table, outdoor_c.tobytes(), water_c.tobytes())
        return self.kept.of(
            ("operated", slot), needs, lambda: heat_pump.operate(table, outdoor_c=outdoor_c, water_c=water_c)
        )

    def charged(
        self, table: heat_pump.PerformanceMap, slot: Hashable, outdoor_c: float, store: Store, tables: TablesEntry, rated_lph: float | None
    ) -> Charged | None:  # fmt: skip
        """A machine topping up the store at an outdoor temperature; None where it does not run."""
        needs = (table, outdoor_c, store, tables, rated_lph)
        return self.kept.of(("charged", slot), needs, lambda: charged(table, outdoor_c, store, tables, rated_lph))


@dataclass(slots=True)
class Load:
    """The house over the outdoor grid (K,), as it is drawn: full loss by the design day's reading, the season's load, W;
    and over the climate's own bins, as the season is summed. `fans_w`: what fan units draw while heating goes."""

    drawn: Bins
    full_w: Array
    bins: Bins
    design_w: float
    fans_w: float
    separated: Separated
    looks: Looks

    def always_on_w(self, entry: MachineEntry) -> float:
        """Drawn beside a machine while it heats, W: what it states, and a second pump."""
        return entry.always_on_w + self.separated.pump_w


def performance_map(entry: MachineEntry, standing: Standing = PLAINLY) -> heat_pump.PerformanceMap:
    """A library machine as the physics sees it where it stands; with no least output said it is taken to have none. Quiet
    nights take their part of the day off its greatest output."""
    quiet = 1 - QUIET_PART * (1 - entry.quiet_output_share) if standing.quiet else 1.0
    return heat_pump.corrected(
        tested_map(entry), frost_included=entry.defrost_included, glycol_share=standing.glycol_share,
        altitude_m=standing.altitude_m, output_share=quiet,
    )  # fmt: skip


def tested_map(entry: MachineEntry) -> heat_pump.PerformanceMap:
    """The map as it was tested."""
    return heat_pump.PerformanceMap(
        outdoor_c=np.array(entry.outdoor_c),
        water_c=np.array(entry.water_c),
        greatest_w=np.array(entry.greatest_w),
        least_w=np.array(entry.least_w) if entry.least_w is not None else np.zeros_like(np.array(entry.cop)),
        cop=np.array(entry.cop),
        evaporator_approach_k=entry.evaporator_approach_k,
        condenser_approach_k=entry.condenser_approach_k,
        lowest_outdoor_c=entry.lowest_outdoor_c,
        limit_outdoor_c=np.array(entry.limit_outdoor_c),
        limit_water_c=np.array(entry.limit_water_c),
    )


def performance(house: HouseView) -> heat_pump.PerformanceMap | None:
    """The map of the chosen machine, where it stands."""
    return performance_map(house.machine, standing_of(house)) if house.machine else None


def standing_of(house: HouseView) -> Standing:
    """How the chosen machine stands."""
    scheme = house.scheme
    return Standing.of(house, scheme.candidates.get(scheme.chosen) if scheme and scheme.chosen else None)


def load_line(
    house: HouseView,
    arrays: LossArrays,
    design_day: Losses,
    curve: CurveArrays,
    emitters: EmitterArrays,
    line: WaterlineArrays,
    separated: Separated,
    outdoor: OutdoorPipes,
    kept: Kept,
) -> Load:
    """The machine's load over the year: the house's loss without what belongs to the design day, less the gains; nothing
    above the heating limit, which stands for gains (without any there is none). Rooms with heaters of their own take
    their share of it out. Its water is what emitters ask for, and what a separator adds to that.
    """
    gains = house.practice.gains_w_per_m2 * float(arrays.area_m2.sum())
    limit = heating_limit_c(house.practice, gains=gains > 0)

    count = len(curve.outdoor_c)
    outdoor_c, hours, share_w = curve.outdoor_c, curve.hours, curve.year_losses.share_of_house_w
    if house.climate is not None:
        outdoor_c = np.concatenate([outdoor_c, house.climate.bin_outdoor_c])
        hours, share_w = np.concatenate([hours, house.climate.bin_hours]), np.concatenate([share_w, curve.in_bins_w])
    both = _over(house, curve, line, separated, outdoor, outdoor_c, hours, share_w, gains, limit)
    whole, own = _shares(curve.losses.share_of_house_w, line.own_share)
    part = np.where(whole > 0, own / np.where(whole > 0, whole, 1.0), 0.0)
    loss_w = float(design_day.share_of_house_w.sum()) if arrays.complete.any() else 0.0
    design_w = loss_w * (1 - _part_at(curve.outdoor_c, part, house.outdoor_c))
    if design_w > 0:
        design_w += outdoor.loss_w or 0.0
    return Load(
        both.part(slice(count)), whole - own, both.part(slice(count, None)), design_w,
        sum(one.electric_w for one in emitters.rated), separated, Looks(kept),
    )  # fmt: skip


def _over(
    house: HouseView, curve: CurveArrays, line: WaterlineArrays, separated: Separated, outdoor: OutdoorPipes, outdoor_c: Array, hours: Array,
    share_w: Array, gains_w: float, limit_c: float | None,
) -> Bins:  # fmt: skip
    """The season's load over outdoor temperatures (K,), of the rooms' shares of the house's loss (K, R)."""
    whole, own = _shares(share_w, line.own_share)
    on = outdoor_c < limit_c if limit_c is not None else True
    load = np.where(on, np.maximum(whole - gains_w, 0.0), 0.0)
    part = np.where(whole > 0, own / np.where(whole > 0, whole, 1.0), 0.0)
    flow = law.flow_at(curve.setting, outdoor_c=outdoor_c) if curve.setting else np.full_like(outdoor_c, np.nan)
    lift = separated.lift_at(outdoor_c)
    known = np.isfinite(curve.needed_c)
    need = np.full_like(flow, np.nan)
    if known.any():
        need = np.interp(outdoor_c, curve.outdoor_c[known], curve.needed_c[known])
    lost = np.zeros_like(load)
    if outdoor.rows:
        water = np.where(np.isfinite(flow), flow + lift - house.spread_k / 2, outdoor_c)
        lost = np.where(load > 0, outdoor.loss_at(water_c=water, outdoor_c=outdoor_c), 0.0)
    return Bins(outdoor_c, hours, load * (1 - part) + lost, flow + lift, load * part, need + lift, lost)


def _shares(share_w: Array, own_share: Array) -> tuple[Array, Array]:
    """Loss of the house (K,), and what heaters of their own carry of it, from the rooms' shares (K, R), W."""
    whole = np.maximum(share_w.sum(axis=-1), 0.0)
    return whole, np.minimum(np.maximum((share_w * own_share).sum(axis=-1), 0.0), whole)


def _part_at(outdoor_c: Array, part: Array, at_c: float | None) -> float:
    return float(np.interp(at_c, outdoor_c, part)) if at_c is not None else 0.0
