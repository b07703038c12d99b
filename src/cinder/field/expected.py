"""The house as it is expected to stand: rooms at rest at any outdoor air and any water, by the design's own balance.

Each room loses what is its own through the year (no windward air on every room at once) less what people and devices give, which is
what a thermometer in it sees; the sizing's stricter reading is for choosing emitters.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from cinder.design.chain import CHAIN
from cinder.design.curve import fit
from cinder.design.curve.decide import CurveArrays
from cinder.design.findings import Findings
from cinder.design.house.view import HouseView
from cinder.design.kept import Afresh, Kept
from cinder.design.result import Design
from cinder.design.step import walk
from cinder.library import HourlyYear
from cinder.model import Job
from cinder.physics.machine import curve as law
from cinder.physics.quantity import Array
from cinder.physics.rooms.room_balance import Balance, Settled
from cinder.twin.of_job import Twin, twin_of, weather_of

Bools = NDArray[np.bool_]


def meters_lph(design: Design) -> float | None:
    """What the machine's own meter shows with everything open, L/h: behind a separator what its own side moves."""
    between = design.separation
    return between.machine_lph if between.two else design.pipework.flow_lph


def machines_line(design: Design) -> tuple[list[float], list[float]]:
    """Outdoor temperatures, and the machine's own water the line asks for at each, deg C: behind a separator so much hotter."""
    outdoor, line = design.curve.outdoor_c, np.array(design.curve.line_c)
    return outdoor, (line + design.separation.lift_at(np.array(outdoor))).tolist()


@dataclass(frozen=True, slots=True)
class Expected:
    """A job's house at rest. `house` its twin; `line` what the controller would be set to with nothing on it set by hand."""

    house: Twin
    balance: Balance
    free_w: Array
    """People and devices by room (R,), W."""
    sun_m2: Array
    """What a room gets of the sun on the level, by the day and in the heating season (R,), W per W/m2."""
    line: law.Setting
    control_line: law.Setting
    """As it is set now."""

    def emitters_c(self, water_c: Array, outdoor_c: Array) -> Array:
        """What the emitters get of the water that leaves the machine, deg C: behind a separator so much cooler."""
        return np.asarray(water_c - self.house.design.separation.lift_at(outdoor_c))

    def at(
        self, outdoor_c: Array, flow_c: Array, sun_w_m2: Array, *, more_w: Array | None = None, opens: int | None = None
    ) -> Settled:
        """Rooms at rest (J, R) at outdoor air, water, and sun on the level through the day before (J,).

        `more_w` (J, R): what rooms lose beside; `opens`: a room whose valves never close.
        """
        rooms, twin = self.balance.rooms, self.house.house.rooms
        base = _table(twin.base_from_c, twin.base_w, outdoor_c) - self.free_w - sun_w_m2[:, None] * self.sun_m2
        if more_w is not None:
            base = base + more_w
        heater = np.broadcast_to(twin.heater_w, base.shape)
        now = rooms._replace(
            own_w=base + self.balance.own_per_k * rooms.target_c, heater_w=np.ascontiguousarray(heater)
        )
        given, emitters = self.balance.given, self.balance.emitters
        if opens is not None:
            closes = emitters.closes.copy()
            closes[opens] = False
            given = given.closing(closes)
        return Balance(now, emitters, given=given, band=self.balance.band).settle(flow_c=np.asarray(flow_c, float))

    def load_w(self, outdoor_c: Array) -> Array:
        """What each room loses at its target (J, R), beside its neighbours at theirs, W, never below nought."""
        twin, target = self.house.house.rooms, self.balance.rooms.target_c
        base = _table(twin.base_from_c, twin.base_w, outdoor_c) - self.free_w
        return np.maximum(base + twin.slope_w_k * target - twin.trade_w_k @ target, 0.0)

    @property
    def closes(self) -> Bools:
        """Rooms that valves hold at their target (R,)."""
        return np.asarray((self.balance.emitters.closes & (self.balance.emitters.rated_w > 0)).any(axis=1))

    @property
    def heated(self) -> Bools:
        """Rooms with an emitter (R,)."""
        return np.asarray((self.balance.emitters.rated_w > 0).any(axis=1))


def expected_of(job: Job, year: HourlyYear | None, *, kept: Kept | None = None) -> Expected:
    """The expected house of a job; `year` of its climate, for what sun does to its rooms (none: nothing).

    Raises `ValueError` with what it lacks (`twin.of_job.lacks`)."""
    kept = kept or Afresh()
    house = twin_of(job, kept=kept)
    known = walk(CHAIN, {"job": job}, Findings(), kept)
    need: CurveArrays = known["need"]
    view: HouseView = known["house"]
    assert need.need is not None
    assert need.fitted is not None
    practice = view.practice
    people = practice.people_w_per_m2 if practice.year_gains != "none" else 0.0
    return Expected(
        house,
        need.need.house,
        house.area_m2 * people,
        _sun_m2(house, year),
        _line(job, view, need, kept),
        need.fitted.setting,
    )


def _sun_m2(house: Twin, year: HourlyYear | None) -> Array:
    if year is None:
        return np.zeros(len(house.rooms))
    weather = weather_of(house, year, step_s=3600.0)
    cold = weather.outdoor_c < house.house.control.heating_limit_c
    total = float(weather.ghi_w_m2[cold].sum())
    return np.asarray(weather.sun_w[cold].sum(axis=0) / total) if total > 0 else np.zeros(len(house.rooms))


def _line(job: Job, view: HouseView, need: CurveArrays, kept: Kept) -> law.Setting:
    """The line with nothing set by hand: what the design itself would dial in."""
    assert need.fitted is not None
    if view.scheme is None or not fit.by_hand(view.scheme.control):
        return need.fitted.setting
    plain = view.scheme.model_copy(update={"control": fit.freed(view.scheme.control)})
    free = job.model_copy(update={"schemes": {**job.schemes, job.active_scheme or "": plain}})
    known: dict[str, object] = walk(CHAIN, {"job": free}, Findings(), kept)
    found = known["need"]
    assert isinstance(found, CurveArrays)
    assert found.fitted is not None
    return found.fitted.setting


def _table(first: float, rows: Array, at: Array) -> Array:
    """Rows over whole degrees from `first` on, straight between, their ends beyond."""
    place = np.clip(np.asarray(at, float) - first, 0.0, len(rows) - 1.000001)
    low = place.astype(int)
    return np.asarray(rows[low] + (rows[low + 1] - rows[low]) * (place - low)[:, None])
