"""Flow, velocity and loss in every pipe; every circuit; the index circuit against the pump."""

from __future__ import annotations

from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from cinder.design.emitters.decide import EmitterArrays, Rated
from cinder.design.findings import Findings
from cinder.design.house.view import HouseView
from cinder.design.hydraulics.result import Circuit, Pipe, Pipework
from cinder.design.losses.result import RoomResult
from cinder.design.waterline.decide import WaterlineArrays
from cinder.library import PipeFamilyEntry
from cinder.model import PipeRun
from cinder.physics import network, pipe, pump, water
from cinder.physics.quantity import Array

MICROBORE_M = 0.0105
MICROBORE_LIMIT_M_S = 0.6
SMALL_BORE_LIMIT_M_S = 1.0
LARGE_BORE_M = 0.03
LARGE_BORE_LIMIT_M_S = 1.5


@dataclass(slots=True)
class Hydraulics:
    """Pipes as arrays (P,), in the order of `keys`."""

    keys: list[str]
    runs: list[PipeRun]
    bore_m: Array
    roughness_m: Array
    length_m: Array
    k_sum: Array
    flow_lph: Array
    temperature_c: float


def judge(
    house: HouseView, emitters: EmitterArrays, rooms: list[RoomResult], line: WaterlineArrays, findings: Findings
) -> Pipework:
    """Losses pipe by pipe and circuit by circuit at the design flows (heat over spread)."""
    rated, waterline = emitters.rated, line.result
    flow_lph = {e.id: e.flow_lph for room in rooms for e in room.emitters if e.flow_lph is not None}
    loop_kpa = {e.id: e.heated.loop_kpa for room in rooms for e in room.emitters if e.heated and e.heated.loop_kpa}
    temperature = (waterline.chosen_flow_c or 45.0) - house.spread_k / 2
    parents = {key: run.parent if run.parent in house.pipes else None for key, (run, _) in house.pipes.items()}
    flows = network.downstream_sum(
        parents,
        {key: flow_lph.get(run.emitter, 0.0) for key, (run, _) in house.pipes.items() if run.emitter is not None},
    )
    hydraulics = _hydraulics(house, flows, temperature)
    losses = _losses(hydraulics)
    served = {run.emitter: key for key, (run, _) in house.pipes.items() if run.emitter is not None}
    circuits = _circuits(house, rated, flow_lph, loop_kpa, parents, hydraulics, losses, served, findings)
    index = circuits[0] if circuits else None
    total_flow = sum(flow for key, flow in flow_lph.items() if key in served) or None
    index_kpa = index.loss_kpa if index else None
    head, used = _pump(house, index_kpa, total_flow, findings)
    worst = _worst(house, hydraulics, losses, index) if index else None
    return Pipework(
        flow_lph=total_flow,
        water_c=temperature if waterline.chosen_flow_c is not None else None,
        pipes=_rows(house, rated, hydraulics, losses, parents, index, flow_lph, loop_kpa),
        circuits=circuits,
        index=index.emitter if index else None,
        index_kpa=index_kpa,
        head_kpa=head,
        head_used=used,
        limit=house.practice.pump_limit,
        least_flow_lph=house.machine.least_flow_lph if house.machine else None,
        pump_flow_lph=house.machine.pump_flow_lph if house.machine else [],
        pump_head_kpa=house.machine.pump_head_kpa if house.machine else [],
        worst_pipe=worst.pipe if worst else None,
        worst_saving_kpa=worst.saving_kpa if worst else None,
        worst_next_size=worst.next_size if worst else None,
    )


def nothing(house: HouseView, *_: object) -> Pipework:
    """Where it cannot be worked out."""
    return Pipework(
        flow_lph=None, water_c=None, pipes=[], circuits=[], index=None, index_kpa=None, head_kpa=None, head_used=None,
        limit=house.practice.pump_limit, least_flow_lph=None, pump_flow_lph=[], pump_head_kpa=[], worst_pipe=None,
        worst_saving_kpa=None, worst_next_size=None,
    )  # fmt: skip


def _family(house: HouseView, run: PipeRun) -> PipeFamilyEntry | None:
    frozen = house.job.library.pipe_families.get(run.family or "")
    return frozen.data if frozen else None


def _hydraulics(house: HouseView, flows: dict[str, float], temperature_c: float) -> Hydraulics:
    keys = list(house.pipes)
    runs = [house.pipes[key][0] for key in keys]
    bores, rough = [], []
    for run in runs:
        family = _family(house, run)
        known = family is not None and run.size is not None
        bores.append(family.sizes[run.size].bore_m if known and family and run.size else np.nan)
        rough.append(family.roughness_m if family else 0.0)
    fittings = house.tables.fittings_k
    return Hydraulics(
        keys=keys,
        runs=runs,
        bore_m=np.array(bores, dtype=float),
        roughness_m=np.array(rough, dtype=float),
        length_m=np.array([run.length_m if run.length_m is not None else np.nan for run in runs], dtype=float),
        k_sum=np.array(
            [sum(fittings.get(name, 0.0) * n for name, n in run.fittings.items()) for run in runs], dtype=float
        ),
        flow_lph=np.array([flows[key] for key in keys], dtype=float),
        temperature_c=temperature_c,
    )


def _friction(h: Hydraulics, bore_m: Array) -> Array:
    density = water.density_kg_m3(temperature_c=h.temperature_c)
    viscosity = water.viscosity_pa_s(temperature_c=h.temperature_c)
    safe = np.where(np.isfinite(bore_m), bore_m, 0.01)
    per_m = pipe.friction_pa_per_m(
        flow_lph=h.flow_lph,
        bore_m=safe,
        roughness_m=h.roughness_m,
        density_kg_m3=density,
        viscosity_pa_s=viscosity,
    )
    return np.where(np.isfinite(bore_m), per_m, np.nan)


def _losses(h: Hydraulics) -> tuple[Array, Array, Array]:
    """Velocity m/s, friction there and back Pa, fittings Pa, each (P,)."""
    if not h.keys:
        none = np.zeros(0)
        return none, none, none
    velocity = pipe.velocity_m_s(flow_lph=h.flow_lph, bore_m=np.where(np.isfinite(h.bore_m), h.bore_m, 1.0))
    velocity = np.where(np.isfinite(h.bore_m), velocity, np.nan)
    friction = _friction(h, h.bore_m) * 2 * h.length_m
    density = water.density_kg_m3(temperature_c=h.temperature_c)
    return (
        velocity,
        friction,
        np.asarray(pipe.fitting_pa(k_sum=h.k_sum, velocity_m_s=velocity, density_kg_m3=density)),
    )


def _valve_kpa(one: Rated, flow: float) -> float:
    return float(pipe.valve_pa(flow_lph=flow, kv_m3h=one.valve.kv_m3h)) / 1000 if one.valve else 0.0


def _circuits(
    house: HouseView,
    rated: list[Rated],
    flow_lph: dict[str, float],
    loop_kpa: dict[str, float],
    parents: dict[str, str | None],
    h: Hydraulics,
    losses: tuple[Array, Array, Array],
    served: dict[str, str],
    findings: Findings,
) -> list[Circuit]:
    position = {key: n for n, key in enumerate(h.keys)}
    out: list[tuple[float, str, str, list[str]]] = []
    labels = {room.id: room.room.label for room in house.rooms}
    for one in rated:
        key, name = one.view.id, one.view.label or one.description
        flow = flow_lph.get(key)
        if flow is None:
            continue
        if key not in served:
            findings.add(
                "doubt", "pipework", one.view.path, f"{labels.get(one.view.room)}: no pipe leads to {name}.",
                why="Its circuit and flow are left out.", mend="Add a run that ends at it; a guess is better than none.",
            )  # fmt: skip
            continue
        path = network.path_to_root(parents, served[key])
        total = sum(losses[1][position[p]] + losses[2][position[p]] for p in path)
        if not np.isfinite(total):
            lacking = next(p for p in path if not np.isfinite(losses[1][position[p]]))
            findings.add(
                "doubt", "pipework", f"/survey/pipes/{lacking}",
                f"{h.runs[position[lacking]].label or 'A pipe'} has no size or length.",
                why=f"The circuit to {name} cannot be reckoned.", mend="Enter an informed guess.",
            )  # fmt: skip
            continue
        loss = float(total) / 1000 + _valve_kpa(one, flow) + loop_kpa.get(key, 0.0)
        label = f"{labels.get(one.view.room, '')}: {name}"
        out.append((loss, key, label, path[::-1]))
    out.sort(key=lambda row: -row[0])
    return [
        Circuit(emitter=key, label=label, loss_kpa=loss, to_drop_kpa=out[0][0] - loss, path=path)
        for loss, key, label, path in out
    ]


def _limit_m_s(bore_m: float) -> float:
    if bore_m < MICROBORE_M:
        return MICROBORE_LIMIT_M_S
    return LARGE_BORE_LIMIT_M_S if bore_m > LARGE_BORE_M else SMALL_BORE_LIMIT_M_S


def _rows(
    house: HouseView,
    rated: list[Rated],
    h: Hydraulics,
    losses: tuple[Array, Array, Array],
    parents: dict[str, str | None],
    index: Circuit | None,
    flow_lph: dict[str, float],
    loop_kpa: dict[str, float],
) -> list[Pipe]:
    by_emitter = {one.view.id: one for one in rated}
    rows: dict[str, Pipe] = {}
    for n, key in enumerate(h.keys):
        run = h.runs[n]
        family = _family(house, run)
        known_bore = bool(np.isfinite(h.bore_m[n]))
        known = known_bore and bool(np.isfinite(losses[1][n]))
        valve = None
        if run.emitter in by_emitter and run.emitter in flow_lph:
            valve = _valve_kpa(by_emitter[run.emitter], flow_lph[run.emitter]) + loop_kpa.get(run.emitter, 0.0)
        friction = float(losses[1][n]) / 1000 if known else None
        fittings = float(losses[2][n]) / 1000 if known_bore else None
        rows[key] = Pipe(
            id=key,
            label=run.label,
            parent=parents[key],
            emitter=run.emitter,
            size_label=f"{family.label} {family.sizes[run.size].label}" if family and run.size else "size not known",
            bore_m=float(h.bore_m[n]) if known_bore else None,
            length_m=run.length_m,
            flow_lph=float(h.flow_lph[n]),
            velocity_m_s=float(losses[0][n]) if known_bore else None,
            pa_per_m=float(losses[1][n] / 2 / h.length_m[n]) if known else None,
            friction_kpa=friction,
            fittings_kpa=fittings,
            valve_kpa=valve,
            total_kpa=(friction or 0.0) + (fittings or 0.0) + (valve or 0.0) if known else None,
            water_l=float(pipe.water_content_l(bore_m=h.bore_m[n], length_m=2 * h.length_m[n])) if known else 0.0,
            on_index=bool(index and key in index.path),
            fast=known_bore and float(losses[0][n]) > _limit_m_s(float(h.bore_m[n])),
            action=house.pipes[key][1],
            depth=len(network.path_to_root(parents, key)) - 1,
        )
    return _tree_order(rows, parents)


def _tree_order(rows: dict[str, Pipe], parents: dict[str, str | None]) -> list[Pipe]:
    children: dict[str | None, list[str]] = {}
    for key in rows:
        children.setdefault(parents[key], []).append(key)
    out: list[Pipe] = []
    stack = list(reversed(children.get(None, [])))
    while stack:
        key = stack.pop()
        out.append(rows[key])
        stack.extend(reversed(children.get(key, [])))
    return out


def _pump(
    house: HouseView, index_kpa: float | None, total_flow: float | None, findings: Findings
) -> tuple[float | None, float | None]:
    """Head of the machine's pump at the flow, kPa, and the share of it the index circuit takes."""
    if house.machine is None or total_flow is None or index_kpa is None:
        return None, None
    head = float(
        pump.head_kpa(
            flow_lph=total_flow,
            curve_flow_lph=np.array(house.machine.pump_flow_lph),
            curve_head_kpa=np.array(house.machine.pump_head_kpa),
        )
    )
    used = index_kpa / head if head > 0 else None
    limit = house.practice.pump_limit
    where = f"/schemes/{house.job.active_scheme}"
    if used is None or used > 1:
        findings.add(
            "short", "pipework", where,
            f"The index circuit wants {index_kpa:.1f} kPa; the pump has {head:.1f} kPa left "
            f"at {total_flow:.0f} L/h.",
            why="The far emitter would not get its flow.", mend="A wider pipe on its worst piece, or a second pump.",
        )  # fmt: skip
    elif used > limit:
        findings.add(
            "doubt", "pipework", where, f"The pump would run at {used:.0%} of its head all its life.",
            why=f"Above {limit:.0%} it will not last.", mend="A wider pipe on the worst piece.",
        )  # fmt: skip
    if total_flow < house.machine.least_flow_lph:
        findings.add(
            "short", "pipework", where,
            f"{total_flow:.0f} L/h is less than the {house.machine.least_flow_lph:.0f} L/h the machine must have.",
            why="It would trip on low flow.", mend="A smaller spread, or a smaller machine.",
        )  # fmt: skip
    return head, used


class Worst(NamedTuple):
    """A piece of pipe, what its next size up would save, kPa, and that size."""

    pipe: str
    saving_kpa: float | None
    next_size: str | None


def _worst(house: HouseView, h: Hydraulics, losses: tuple[Array, Array, Array], index: Circuit) -> Worst | None:
    """The piece of the index path that takes most, and what its next size up would save."""
    position = {key: n for n, key in enumerate(h.keys)}
    worst = max(index.path, key=lambda key: losses[1][position[key]])
    n = position[worst]
    family = _family(house, h.runs[n])
    if family is None:
        return None
    larger = sorted((s.bore_m, s.label) for s in family.sizes.values() if s.bore_m > h.bore_m[n] + 1e-9)
    if not larger:
        return Worst(worst, None, None)
    bores = h.bore_m.copy()
    bores[n] = larger[0][0]
    wider = _friction(h, bores)[n] * 2 * h.length_m[n]
    return Worst(worst, float(losses[1][n] - wider) / 1000, f"{family.label} {larger[0][1]}")
