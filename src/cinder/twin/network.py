"""What valves that close do to the water of those that stay open: the house's own pipes and pump, solved once, as a table.

Branches lie behind common pipes under one pump: the fewer take water, the more head is left for the rest, the further the pump goes up its
curve. The pump is taken as set so that with everything open every emitter has its design flow; one that follows the spread keeps it so.
"""

from __future__ import annotations

import numpy as np

from cinder.design.apart.flows.decide import pumped
from cinder.design.apart.flows.network import Circuits, circuits_of
from cinder.design.emitters.decide import EmitterArrays
from cinder.design.house.view import HouseView
from cinder.design.result import Design
from cinder.errors import PhysicsError
from cinder.physics.flow import hydraulic_tree
from cinder.physics.quantity import Array

OPENINGS = (1.0, 0.85, 0.7, 0.55, 0.4, 0.28, 0.18, 0.1, 0.05)
ALONE = (np.array([0.0, 1.0]), np.array([1.0, 1.0]))
"""Where nothing is known of pipes or pump: every emitter keeps its water."""


def table(house: HouseView, design: Design, emitters: EmitterArrays, closes: set[str]) -> tuple[Array, Array]:
    """Shares of all openings still open, rising (K,), and the water an open emitter then has over its design flow (K,).

    `closes`: emitters whose valves close; the others stay open.
    """
    circuits = circuits_of(house, design, emitters)
    if circuits is None:
        return ALONE
    try:
        found = [at_opening(circuits, house, design, closes, opening) for opening in OPENINGS]
    except PhysicsError:
        return ALONE
    at, gives = np.array(found).T[:, ::-1]
    if np.ptp(at) < 1e-9 or not np.isfinite(gives).all() or gives[-1] <= 0:
        return ALONE
    return np.ascontiguousarray(at), np.ascontiguousarray(gives / gives[-1])


def at_opening(
    circuits: Circuits, house: HouseView, design: Design, closes: set[str], opening: float
) -> tuple[float, float]:
    """The share of openings, and the water of an open emitter over its design flow, with every valve that closes so far open."""
    mine = np.array([key in closes for key in circuits.emitters])
    flow = circuits.flow_lph
    openings = np.where(mine, opening, 1.0)
    end = flow_of(circuits, house, design, openings)
    share = float((flow * openings).sum() / flow.sum())
    ratio = end / flow / openings
    still = ~mine if (~mine).any() else np.ones_like(mine)
    return share, float(np.average(ratio[still], weights=flow[still]))


def flow_of(circuits: Circuits, house: HouseView, design: Design, openings: Array) -> Array:
    """Flows of a balanced network (E,), L/h, with each branch so far open that under the design's head it took that part of its flow."""
    flow = circuits.flow_lph
    taken = circuits.taken_pa(flow)
    balanced = circuits.dropping(taken.max() - taken)
    whole = taken.max() / np.square(flow)
    throttled = whole / np.square(openings) - (whole - balanced.end_pa)
    tree = hydraulic_tree.Tree(
        balanced.on_path, balanced.bore_m, balanced.roughness_m, balanced.length_m, balanced.k_sum, np.maximum(throttled, 1e-9),
        balanced.density_kg_m3, balanced.viscosity_pa_s, balanced.parts_pa,
    )  # fmt: skip
    head = pumped(house, design)
    if head is None:  # it follows the spread, or nobody knows it: the head of the design is held
        return np.asarray(hydraulic_tree.solve(tree, lambda _: float(taken.max()), begin_lph=flow * openings).end_lph)
    # set so that it gives the design's flow at the design's head: the same curve, moved to there
    total = float(flow.sum())
    offset = float(taken.max()) - head(total)
    return np.asarray(
        hydraulic_tree.solve(tree, lambda q: max(head(q) + offset, 1.0) - 1e-3 * q, begin_lph=flow * openings).end_lph
    )
