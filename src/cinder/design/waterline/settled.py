"""The rooms of a house as they settle together, read in two ways by one balance.

For sizing, every room that has enough is held at its target, so that no neighbour is counted warmer than it must be; for
the weather curve only rooms with thermostatic valves are held, and open ones float above.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder.design.emitters.decide import EmitterArrays, output_at
from cinder.design.kept import Afresh, Kept
from cinder.design.losses.evaluate import Loads, LossArrays, Losses
from cinder.physics.quantity import Array
from cinder.physics.rooms.radiator import Mask
from cinder.physics.rooms.room_balance import Balance, Emitters, Law, Rooms
from cinder.physics.rooms.room_newton import Band, band_of

__all__ = ["Balance", "DesignFlows", "balance", "design_flows"]


@dataclass(slots=True)
class DesignFlows:
    """What the water flow of every emitter is set for (R, E), W, and the rooms whose water has something to do (R,)."""

    heat_w: Array
    served: Mask
    law: Law | None = None
    """What the emitters give with these flows, once somebody has asked."""
    band: Band | None = None
    """The order of the rooms in which their balance is solved, once somebody has asked."""


def design_flows(emitters: EmitterArrays, *, excess_k: Array, water_load_w: Array) -> DesignFlows:
    """Flows as they are set on the design day: each emitter carries its share of the heat its room needs then."""
    given = output_at(emitters, excess_k)
    total = given.sum(axis=1)
    load = np.where(np.isfinite(water_load_w), np.maximum(water_load_w, 0.0), 0.0)
    heat = np.where(total[:, None] > 0, given * (load / np.where(total > 0, total, 1.0))[:, None], 0.0)
    return DesignFlows(heat, (load > 0) & (emitters.rated_w.sum(axis=1) > 0))


def balance(
    arrays: LossArrays,
    losses: Losses | Loads,
    emitters: EmitterArrays,
    flows: DesignFlows,
    *,
    closes: Mask,
    own_share: Array,
    gains_w: Array | float = 0.0,
    kept: Kept | None = None,
) -> Balance:
    """The balance of all rooms at the outdoor temperatures of `losses` (K, R) or at one (R,), W.

    `own_share` (R,): the part of its load each room's own heater may carry; `gains_w` (R,): what people and devices give.
    """
    load = np.atleast_2d(losses.emitter_load_w)
    trade, target = arrays.trade_w_k, arrays.target_c
    across = trade.sum(axis=1)
    rooms = Rooms(
        target_c=target,
        own_w=load - (across * target - trade @ target) - gains_w,
        own_per_k=np.maximum(losses.loss_per_k - across - arrays.kept_w_k, 0.0),
        trade_w_k=trade,
        heater_w=np.maximum(load, 0.0) * own_share,
        known=np.asarray(arrays.complete),
    )
    set_for = Emitters(
        rated_w=emitters.rated_w,
        exponent=emitters.exponent,
        spread_k=emitters.spread_k,
        design_w=flows.heat_w,
        arithmetic=emitters.arithmetic,
        closes=closes,
        reference_k=emitters.reference_k,
    )
    if flows.law is None or flows.band is None:
        kept = kept or Afresh()
        e = set_for
        by = (e.rated_w, e.exponent, e.spread_k, e.design_w, e.arithmetic)
        needs = (e.reference_k, e.rated_w.shape, *(one.tobytes() for one in by))
        flows.law = kept.of("emitters' law", needs, lambda: Law(set_for, like=kept.latest("emitters' law")))
        between = np.where(rooms.known[:, None], trade, 0.0)
        flows.band = kept.of("order of rooms", (len(target), (between != 0).tobytes()), lambda: band_of(between))
    return Balance(rooms, set_for, given=flows.law.closing(closes), band=flows.band)
