"""What water each outdoor temperature needs with all rooms settling together, and the two-point setting that serves it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from cinder.design.curve.fit import Asked, Fitted, fit, tolerance_k
from cinder.design.emitters.decide import EmitterArrays
from cinder.design.house.view import HouseView
from cinder.design.kept import Afresh, Kept, Needs
from cinder.design.losses.evaluate import Loads, LossArrays, loads, through_the_year
from cinder.design.waterline import settled
from cinder.design.waterline.decide import WaterlineArrays
from cinder.model.scheme import Control
from cinder.physics.machine import curve as law
from cinder.physics.quantity import Array
from cinder.physics.rooms.room_balance import Settled

Mask: TypeAlias = NDArray[np.bool_]
LEAST_FOLLOWED = 0.05
EXACT_K = 0.01
"""How near a line without a cold end of its own comes to the water needed on the design day."""
TOLD_APART_K = 0.1
"""Two temperatures of water nearer than this are one to an engineer."""


@dataclass(slots=True)
class Need:
    """The water the house needs over outdoor temperatures (K,), and the rooms then.

    `standard_c` (K,) the sizing's stricter reading; `allowed_c` (K,) what leaves no room short by more than the
    practice's tolerance; `binding` (K,) the room that holds it (-1: none). `wanted_c` (R,): the targets, lower where the
    chosen water leaves a room short.
    """

    needed_c: Array
    standard_c: Array
    allowed_c: Array
    binding: NDArray[np.intp]
    wanted_c: Array
    asked: Mask
    beyond: bool
    """Whether rooms without emitters draw so much that the settled house would need more than the stricter reading."""
    house: settled.Balance
    found: Settled


@dataclass(slots=True)
class CurveArrays:
    """On the outdoor grid (K,): the house's losses by the design day's reading and through the year, W; the need, the
    line. `at_c` and `whole_line_c` have the design day after it, where it is known; `off` (as they): nothing is heated.
    `in_bins_w` (B, R): the rooms' shares of the house's loss through the year at the climate's own bins.
    `need` None where nothing could be worked out."""

    outdoor_c: Array
    hours: Array
    losses: Loads
    year: LossArrays
    year_losses: Loads
    in_bins_w: Array
    needed_c: Array
    line_c: Array
    fitted: Fitted | None
    control: Control
    at_c: Array
    whole_line_c: Array
    off: Mask
    need: Need | None

    @property
    def setting(self) -> law.Setting | None:
        """What the controller is told."""
        return self.fitted.setting if self.fitted else None


def outdoor_grid(house: HouseView) -> tuple[Array, Array]:
    """Whole degrees from below the design day to 20 deg C, with the climate's hours where it has any.

    Bins between two whole degrees are shared out between them by their distance, so that hours and degree hours stay.
    """
    design = house.outdoor_c if house.outdoor_c is not None else -5.0
    bins = np.array(house.climate.bin_outdoor_c if house.climate else [], dtype=float)
    low = int(np.floor(min([design - 4.0, *bins])))
    grid = np.arange(low, max(21, low + 2), dtype=float)
    hours = np.zeros_like(grid)
    if house.climate:
        counts = np.array(house.climate.bin_hours)
        below = np.floor(bins)
        for degrees, share in ((below, 1 - (bins - below)), (below + 1, bins - below)):
            place = (degrees - low).astype(int)
            on = (place < len(grid)) & (share > 0)
            np.add.at(hours, place[on], (counts * share)[on])
    return grid, hours


def judge(
    house: HouseView, arrays: LossArrays, emitters: EmitterArrays, waterline: WaterlineArrays, kept: Kept | None = None
) -> CurveArrays:
    """Need of the house over the outdoor grid, and the line fitted to it: what a season is worked out from.

    A room that is short at the chosen water on the design day is reckoned at the temperature it then reaches.
    """
    kept = kept or Afresh()
    grid, hours = kept.of("outdoor grid", (house.climate, house.outdoor_c), lambda: outdoor_grid(house))
    at = grid if house.outdoor_c is None else np.append(grid, house.outdoor_c)
    year = through_the_year(house, arrays)
    bins = np.array(house.climate.bin_outdoor_c if house.climate else (), dtype=float)
    losses, over_year = loads(arrays, at), loads(year, np.concatenate([at, bins]))
    year_losses = over_year.first(len(at))
    off = at >= house.practice.heating_limit_c
    control = house.scheme.control if house.scheme else Control()
    cold_out = control.cold_out_c if control.cold_out_c is not None else house.outdoor_c
    fits = ~off & (at > cold_out) if cold_out is not None else np.zeros_like(off)
    need = _need(
        house, arrays, year, losses, year_losses, emitters, waterline, fits, tolerance_k(house.practice, control)
    )
    count = len(grid)
    weight = np.zeros_like(at)  # the design day is no day of the year
    weight[:count] = hours * np.maximum(year_losses.share_of_house_w[:count].sum(axis=1), 0.0)
    asked = _asked(house, control, waterline, need, at, weight, cold_out, fits)
    fitted = fit(control, asked) if asked is not None else None
    line = law.flow_at(fitted.setting, outdoor_c=at) if fitted else np.full_like(at, np.nan)
    return CurveArrays(
        grid, hours, losses.first(count), year, year_losses.first(count), over_year.share_of_house_w[len(at) :],
        need.needed_c[:count], line[:count], fitted, control, at, line, off, need,
    )  # fmt: skip


def looks_at(house: HouseView, arrays: LossArrays, emitters: EmitterArrays, waterline: WaterlineArrays) -> Needs:
    """What the need hangs on."""
    return (arrays, emitters, waterline, house.practice, house.scheme, house.climate, house.outdoor_c)


def nothing(house: HouseView, arrays: LossArrays, emitters: EmitterArrays, waterline: WaterlineArrays) -> CurveArrays:
    """Where it cannot be worked out: the grid, with no need and no line on it."""
    grid, hours = outdoor_grid(house)
    year = through_the_year(house, arrays)
    none = np.full_like(grid, np.nan)
    bins = np.array(house.climate.bin_outdoor_c if house.climate else (), dtype=float)
    return CurveArrays(
        grid, hours, loads(arrays, grid), year, loads(year, grid), loads(year, bins).share_of_house_w, none, none, None,
        Control(), grid, none, np.ones(len(grid), dtype=bool), None,
    )  # fmt: skip


def _need(
    house: HouseView,
    arrays: LossArrays,
    year: LossArrays,
    losses: Loads,
    year_losses: Loads,
    emitters: EmitterArrays,
    waterline: WaterlineArrays,
    fits: Mask,
    slack_k: float,
) -> Need:
    """The least water at which every room reaches its target with all of them settling together."""
    own, flows = waterline.own_share, waterline.flows
    gains = house.practice.curve_gains_w_per_m2 * arrays.area_m2
    whole = settled.balance(year, year_losses, emitters, flows, closes=emitters.closes, own_share=own, gains_w=gains)
    asked = flows.served & np.asarray(arrays.complete)
    wanted = arrays.target_c
    chosen = waterline.result.chosen_flow_c
    if chosen is not None and house.outdoor_c is not None:
        reached = whole.at(np.array([-1])).settle(flow_c=np.array([chosen])).room_c[0]
        wanted = np.where(asked, np.minimum(wanted, reached), wanted)
        whole = whole.wanting(wanted)
    cooler = losses.loss_per_k * (arrays.target_c - wanted)
    standard = whole.most_needed(np.maximum(losses.emitter_load_w - cooler, 0.0) * (1 - own), asked)
    found = whole.settle(flow_c=standard, asked=asked)
    needed = np.fmin(found.flow_c, standard)
    allowed, rows = needed.copy(), np.nonzero(fits)[0]
    if rows.size:
        near = _near(some(found, rows), slack_k=slack_k)
        slack = whole.at(rows).settle(flow_c=near.flow_c, asked=asked, slack_k=slack_k, start=near)
        allowed[rows] = np.fmin(slack.flow_c, needed[rows])
    over = found.flow_c[-1] - standard[-1] if house.outdoor_c is not None else 0.0
    return Need(
        needed_c=needed, standard_c=standard,
        allowed_c=allowed, binding=np.where(np.isfinite(needed), found.binding, -1), wanted_c=wanted,
        asked=asked, beyond=bool(over > TOLD_APART_K), house=whole, found=found,
    )  # fmt: skip


def some(found: Settled, rows: NDArray[np.intp]) -> Settled:
    return Settled(found.flow_c[rows], found.room_c[rows], found.per_k[rows], found.binding[rows])


def _near(found: Settled, *, slack_k: float) -> Settled:
    """About where the rooms stand when the one that holds the water may be that much short: a place to begin from."""
    follows = found.per_k[np.arange(len(found.binding)), found.binding]  # of none at all: nobody looks at it
    less = np.where(
        (follows > LEAST_FOLLOWED) & np.isfinite(found.flow_c), slack_k / np.maximum(follows, LEAST_FOLLOWED), 0.0
    )
    return Settled(found.flow_c - less, found.room_c - found.per_k * less[:, None], found.per_k, found.binding)


def _asked(
    house: HouseView,
    control: Control,
    waterline: WaterlineArrays,
    need: Need,
    at: Array,
    weight: Array,
    cold_out: float | None,
    fits: Mask,
) -> Asked | None:
    """What a line is to serve: the water set by hand at the cold end, else that of the school that is followed."""
    limit = waterline.result.chosen_flow_c
    cold_flow = control.cold_flow_c
    if cold_flow is None:
        cold_flow = limit
        if limit is not None and house.practice.cold_end == "settled" and np.isfinite(need.needed_c[-1]):
            step = control.step_k if control.kind == "two_point" else EXACT_K
            cold_flow = min(float(np.ceil(need.needed_c[-1] / step - 1e-6) * step), limit)
    if cold_out is None or cold_flow is None:
        return None
    use = np.isfinite(need.allowed_c) & fits
    return Asked(
        at[use], need.allowed_c[use], weight[use], cold_out, cold_flow,
        limit if house.practice.cold_end == "settled" else None,
    )  # fmt: skip
