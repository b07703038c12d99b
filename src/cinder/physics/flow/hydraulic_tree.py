"""The steady flow through a branching pipe tree with a pump at its root: what every end really gets."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

import numpy as np

from cinder.errors import PhysicsError
from cinder.physics.flow import network, pipe
from cinder.physics.quantity import Array, require_not_negative, require_positive

MOST_STEPS, WHOLE_STEPS = 120, 20
SAME_LPH = 1e-6
LEAST_LPH = 1e-3
NUDGE = 1e-4


@dataclass(frozen=True, slots=True)
class Tree:
    """Pipes (P,) there and back, and the ends they lead to (E,).

    `on_path` (P, E): 1 where a pipe lies on the way to an end. `bore_m`, `roughness_m`, `length_m` (one way), `k_sum` of fittings (P,);
    `parts_pa` (P,): what hangs in a pipe,
    `end_pa` (E,): what valve and emitter at an end take, Pa at 1 L/h, by the square of its flow. `density_kg_m3`, `viscosity_pa_s`
    of the water.
    """

    on_path: Array
    bore_m: Array
    roughness_m: Array
    length_m: Array
    k_sum: Array
    end_pa: Array
    density_kg_m3: float
    viscosity_pa_s: float
    parts_pa: Array | float = 0.0


@dataclass(frozen=True, slots=True)
class Flows:
    """Flow of every end and pipe, L/h (E,), (P,); what every pipe takes, Pa (P,); the pump's head, Pa, at its flow, L/h."""

    end_lph: Array
    pipe_lph: Array
    pipe_pa: Array
    head_pa: float
    total_lph: float


def paths(parents: Mapping[str, str | None], ends: list[str]) -> Array:
    """Which pipe lies on the way to which end (P, E), pipes in the order of `parents`. Raises `PhysicsError` on a circle.

    >>> paths({"a": None, "b": "a", "c": "a"}, ["b", "c"]).tolist()
    [[1.0, 1.0], [1.0, 0.0], [0.0, 1.0]]
    """
    row = {key: n for n, key in enumerate(parents)}
    out = np.zeros((len(row), len(ends)))
    for e, end in enumerate(ends):
        for key in network.path_to_root(parents, end):
            out[row[key], e] = 1.0
    return out


def valve_pa(*, kv_m3h: Array) -> Array:
    """What a valve takes at 1 L/h, Pa, from its kv. Source: definition of kv.

    >>> valve_pa(kv_m3h=np.array([1.0])).round(6).tolist()
    [0.1]
    """
    require_positive("kv_m3h", kv_m3h)
    return 1e5 / np.square(kv_m3h * 1000.0)


def pipes_pa(tree: Tree, flow_lph: Array) -> Array:
    """What every pipe takes at a flow (P,), there and back with its fittings, Pa."""
    per_m = pipe.friction_pa_per_m(
        flow_lph=flow_lph, bore_m=tree.bore_m, roughness_m=tree.roughness_m, density_kg_m3=tree.density_kg_m3,
        viscosity_pa_s=tree.viscosity_pa_s,
    )  # fmt: skip
    velocity = pipe.velocity_m_s(flow_lph=flow_lph, bore_m=tree.bore_m)
    fittings = pipe.fitting_pa(k_sum=tree.k_sum, velocity_m_s=velocity, density_kg_m3=tree.density_kg_m3)
    return np.asarray(per_m * 2 * tree.length_m + fittings + tree.parts_pa * np.square(flow_lph))


def solve(tree: Tree, head_pa: Callable[[float], float], *, begin_lph: Array) -> Flows:
    """The flows at which every way round takes what the pump gives.

    `head_pa` of the total flow, L/h, must not rise with it. `begin_lph` (E,): where to begin. Newton's method on the flows of the ends:
    its matrix is symmetric and positive, as pipes and valves take more the more flows. Valid for: a tree, every pipe with a bore.
    Raises `PhysicsError` where it does not settle. Source: Kirchhoff's laws, Darcy-Weisbach.
    """
    require_not_negative("length_m", tree.length_m)
    require_positive("bore_m", tree.bore_m)
    if tree.on_path.shape != (len(tree.bore_m), len(tree.end_pa)):
        raise PhysicsError("on_path", tree.on_path.shape, "must be pipes by ends")
    if not tree.end_pa.size:
        return Flows(np.zeros(0), np.zeros(len(tree.bore_m)), np.zeros(len(tree.bore_m)), head_pa(0.0), 0.0)
    used = tree.on_path.any(axis=1)
    flow = np.maximum(np.asarray(begin_lph, float), 1.0)
    for tried in range(MOST_STEPS):
        through = tree.on_path @ flow
        takes = np.where(used, pipes_pa(tree, through), 0.0)
        nudged = np.where(used, pipes_pa(tree, through * (1 + NUDGE)), 0.0)
        slope = (nudged - takes) / (np.maximum(through, LEAST_LPH) * NUDGE)
        total = float(flow.sum())
        head, step = head_pa(total), max(total, 1.0) * NUDGE
        falls = min((head_pa(total + step) - head) / step, 0.0)
        over = tree.on_path.T @ takes + tree.end_pa * flow * flow - head
        matrix = tree.on_path.T @ (slope[:, None] * tree.on_path) - falls
        matrix[np.diag_indices_from(matrix)] += 2 * tree.end_pa * flow + 1e-9
        change = np.linalg.solve(matrix, over)
        # where laminar meets turbulent the slope jumps, and whole steps can go to and fro across it
        after = np.maximum(flow - (change if tried < WHOLE_STEPS else 0.4 * change), 0.2 * flow)
        moved, flow = float(np.abs(after - flow).max()), after
        if moved < SAME_LPH * max(total, 1.0):
            break
    else:
        raise PhysicsError("flow", flow.tolist(), "the flows do not settle")
    through = tree.on_path @ flow
    takes = np.where(used, pipes_pa(tree, through), 0.0)
    return Flows(flow, through, takes, head_pa(float(flow.sum())), float(flow.sum()))


def at_total(tree: Tree, total_lph: float, *, begin_lph: Array) -> Flows:
    """The flows when the pump is driven so that together they are `total_lph`: the same pressure over every way round.

    Source: as `solve`, the head found with the flows.
    """
    require_positive("total_lph", total_lph)
    stiff = 1e6  # Pa for every L/h off the total: a pump that gives this flow whatever it meets

    def head(flow: float) -> float:
        return stiff * (total_lph - flow) + base

    base = float(np.max(tree.on_path.T @ pipes_pa(tree, tree.on_path @ begin_lph), initial=1000.0))
    found = solve(tree, head, begin_lph=begin_lph)
    way = tree.on_path.T @ found.pipe_pa + tree.end_pa * np.square(found.end_lph)
    return Flows(found.end_lph, found.pipe_lph, found.pipe_pa, float(way.mean()), found.total_lph)
