"""The house's pipes as a network that can be solved: its circuits, what each takes at the flows wanted, what each must drop."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace

import numpy as np

from cinder.design.emitters.decide import EmitterArrays
from cinder.design.house.view import HouseView
from cinder.design.hydraulics.pipes import Tree, primaries, tree_of
from cinder.design.result import Design
from cinder.physics.flow import hydraulic_tree, pipe
from cinder.physics.quantity import Array

OPEN_KV = 3.0
"""A circuit without any valve still has the bends of its emitter, m3/h (our choice, as the table's "no valve")."""


@dataclass(frozen=True, slots=True)
class Circuits:
    """Circuits (E,) that can be reckoned: the emitter, its room and name, the flow it is meant to have, L/h; over the pipes (P,) of
    `keys`. `tree`: as a network with every valve open."""

    emitters: list[str]
    rooms: list[str]
    labels: list[str]
    flow_lph: Array
    keys: list[str]
    tree: hydraulic_tree.Tree
    lies: Tree
    left_out: int

    def taken_pa(self, flow_lph: Array) -> Array:
        """What every circuit takes at flows (E,), Pa."""
        t = self.tree
        return np.asarray(t.on_path.T @ hydraulic_tree.pipes_pa(t, t.on_path @ flow_lph) + t.end_pa * flow_lph**2)

    def dropping(self, drop_pa: Array) -> hydraulic_tree.Tree:
        """The same network with lockshields that drop so much at the flows wanted."""
        return replace(self.tree, end_pa=self.tree.end_pa + drop_pa / np.square(self.flow_lph))


def circuits_of(house: HouseView, design: Design, emitters: EmitterArrays) -> Circuits | None:
    """Every circuit with a flow, a valve and a whole way of known pipes; None where there is none."""
    lies = tree_of(house)
    wanted = {e.id: e for room in design.rooms for e in room.emitters if e.flow_lph}
    sized = np.isfinite(lies.bore_m) & np.isfinite(lies.length_m)
    row = {key: n for n, key in enumerate(lies.keys)}
    labels = {room.id: room.label for room in design.rooms}
    ends, names, rooms, flows, kv, loops, left = [], [], [], [], [], [], 0
    for one in emitters.rated:
        key = one.view.id
        if key not in wanted:
            continue
        leaf = lies.served.get(key)
        if leaf is None or not all(sized[row[step]] for step in lies.paths[leaf]):
            left += 1
            continue
        result = wanted[key]
        ends.append(leaf)
        names.append((key, f"{labels.get(one.view.room, '')}: {one.view.label or one.description}"))
        rooms.append(one.view.room)
        flows.append(float(result.flow_lph or 0.0))
        kv.append(one.valve.kv_m3h if one.valve else OPEN_KV)
        loops.append((result.heated.loop_kpa or 0.0) if result.heated else 0.0)
    if not ends:
        return None
    flow = np.array(flows)
    temperature = (design.waterline.chosen_flow_c or 45.0) - house.spread_k / 2
    end_pa = hydraulic_tree.valve_pa(kv_m3h=np.array(kv)) + np.array(loops) * 1000 / np.square(flow)
    mine = primaries(lies) if design.separation.two else []
    length, fittings, hung = np.where(sized, lies.length_m, 0.0), lies.k_sum.copy(), lies.kv_pa.copy()
    for key in mine:  # the machine's own side of a separator is none of the circuits'
        length[row[key]] = fittings[row[key]] = hung[row[key]] = 0.0
    tree = hydraulic_tree.Tree(
        hydraulic_tree.paths(lies.parents, ends), np.where(sized, lies.bore_m, 0.02), lies.roughness_m,
        length, fittings, end_pa, float(house.fluid.density_kg_m3(temperature_c=temperature)),
        float(house.fluid.viscosity_pa_s(temperature_c=temperature)), hung,
    )  # fmt: skip
    return Circuits([k for k, _ in names], rooms, [label for _, label in names], flow, lies.keys, tree, lies, left)


def kv_for(*, flow_lph: float, drop_kpa: float) -> float | None:
    """The kv of a valve that drops so much at a flow; None where it need drop nothing. Source: definition of kv.

    >>> kv_for(flow_lph=100.0, drop_kpa=1.0)
    1.0
    """
    if drop_kpa <= 0.05:
        return None
    return flow_lph / 1000 / math.sqrt(drop_kpa / 100)


def drawn_w(*, flow_lph: float, head_kpa: float, efficiency: float) -> float:
    """Electricity of a pump, W: flow by pressure over what of it becomes pressure.

    >>> round(drawn_w(flow_lph=900.0, head_kpa=50.0, efficiency=0.3), 1)
    41.7
    """
    return flow_lph / 3.6e6 * head_kpa * 1000 / efficiency


def fittings_pa(circuits: Circuits, bore_m: Array) -> Array:
    """What fittings of every pipe take at the flows wanted were their bores these (…, P), Pa."""
    t = circuits.tree
    through = t.on_path @ circuits.flow_lph
    speed = pipe.velocity_m_s(flow_lph=through, bore_m=bore_m)
    by_k = np.asarray(pipe.fitting_pa(k_sum=t.k_sum, velocity_m_s=speed, density_kg_m3=t.density_kg_m3))
    return by_k + t.parts_pa * np.square(through)
