"""Flow, velocity and loss in every pipe; every circuit; the index circuit against the pump."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import partial
from itertools import pairwise
from typing import NamedTuple

import numpy as np

from cinder.design.emitters.decide import EmitterArrays, Rated
from cinder.design.findings import Findings
from cinder.design.house.view import HouseView
from cinder.design.hydraulics.result import Circuit, Pipe, Pipework, Primary
from cinder.design.kept import Kept, Needs, entries, to_the_letter
from cinder.design.losses.result import RoomResult
from cinder.design.separation import Separated
from cinder.design.waterline.decide import WaterlineArrays
from cinder.library import PipeFamilyEntry, load
from cinder.model import PipeRun
from cinder.physics.flow import network, pipe, pump
from cinder.physics.flow.fluid import Fluid
from cinder.physics.quantity import Array, Num

MICROBORE_M = 0.0105
MICROBORE_LIMIT_M_S = 0.6
SMALL_BORE_LIMIT_M_S = 1.0
LARGE_BORE_M = 0.03
LARGE_BORE_LIMIT_M_S = 1.5
LONGEST_M = 200.0
"""As in the job: no run of a house is longer one way."""


@dataclass(frozen=True, slots=True)
class Tree:
    """The pipes (P,) as they lie, in the order of `keys`: what no flow changes. `paths`: from each to the root, itself first;
    `shown`: the order in which each stands below its parent; `parts` (P,): what a row shows of each beside its figures."""

    keys: list[str]
    runs: list[PipeRun]
    parents: dict[str, str | None]
    paths: dict[str, list[str]]
    shown: list[int]
    ends: list[tuple[str, str]]
    """Each pipe that ends at an emitter, and that emitter."""
    served: dict[str, str]
    bore_m: Array
    roughness_m: Array
    length_m: Array
    k_sum: Array
    kv_pa: Array
    """What hangs in each by its kv, Pa at 1 L/h."""
    parts: list[Part]


class Part(NamedTuple):
    """What is known of a pipe without its flow."""

    size_label: str
    bore_m: float | None
    water_l: float
    limit_m_s: float
    action: str


class Flowing(NamedTuple):
    """What flows through every pipe (P,): L/h, m/s, friction there and back, fittings and what hangs in it by kv, Pa."""

    flow_lph: Array
    velocity_m_s: Array
    friction_pa: Array
    fittings_pa: Array


def judge(
    house: HouseView,
    emitters: EmitterArrays,
    rooms: list[RoomResult],
    line: WaterlineArrays,
    separated: Separated,
    findings: Findings,
    kept: Kept,
) -> Pipework:
    """Losses pipe by pipe and circuit by circuit at the design flows (heat over spread). Behind a separator the pipes that start at the
    machine are its own side, at its own flow."""
    rated, waterline = emitters.rated, line.result
    flow_lph = {e.id: e.flow_lph for room in rooms for e in room.emitters if e.flow_lph is not None}
    loop_kpa = {e.id: e.heated.loop_kpa for room in rooms for e in room.emitters if e.heated and e.heated.loop_kpa}
    temperature = (waterline.chosen_flow_c or 45.0) - house.spread_k / 2
    families = house.job.library.pipe_families
    tree = kept.of("pipe tree", (house.pipes, house.tables, entries(families)), partial(tree_of, house))
    flows = dict.fromkeys(tree.keys, 0.0)
    for key, emitter in tree.ends:
        for step in tree.paths[key]:
            flows[step] += flow_lph.get(emitter, 0.0)
    mine = primaries(tree) if separated.two else []
    if separated.machine_lph is not None:
        flows |= dict.fromkeys(mine, separated.machine_lph)
    flowing = _flowing(tree, np.array([flows[key] for key in tree.keys], dtype=float), temperature, house.fluid)
    valve_kpa = {
        one.view.id: _valve_kpa(one, flow) + loop_kpa.get(one.view.id, 0.0)
        for one in rated
        if (flow := flow_lph.get(one.view.id)) is not None
    }
    _lies(house, tree, findings)
    circuits = _circuits(house, rated, valve_kpa, tree, flowing, frozenset(mine), findings)
    index = circuits[0] if circuits else None
    total_flow = sum(flow for key, flow in flow_lph.items() if key in tree.served) or None
    index_kpa = index.loss_kpa if index else None
    curve = curve_of(house, separated)
    head, used = _pump(house, curve, index_kpa, total_flow, separated, findings)
    primary = _primary(house, tree, flowing, mine, separated, findings)
    worst = _worst(house, tree, flowing, temperature, index) if index else None
    return Pipework(
        flow_lph=total_flow,
        water_c=temperature if waterline.chosen_flow_c is not None else None,
        pipes=_pipes(tree, flowing, index, valve_kpa, kept),
        circuits=circuits,
        index=index.emitter if index else None,
        index_kpa=index_kpa,
        head_kpa=head,
        head_used=used,
        limit=house.practice.pump_limit,
        least_flow_lph=house.machine.least_flow_lph if house.machine else None,
        pump_flow_lph=curve.flow_lph,
        pump_head_kpa=curve.head_kpa,
        pump_label=curve.label,
        primary=primary,
        worst_pipe=worst.pipe if worst else None,
        worst_saving_kpa=worst.saving_kpa if worst else None,
        worst_next_size=worst.next_size if worst else None,
    )


def looks_at(
    house: HouseView, emitters: EmitterArrays, rooms: list[RoomResult], line: WaterlineArrays, separated: Separated
) -> Needs:
    """What pipes and pump hang on."""
    flows = to_the_letter(
        [(e.id, e.flow_lph, e.heated.loop_kpa if e.heated else None) for room in rooms for e in room.emitters]
    )
    names = to_the_letter([(room.id, room.room.label) for room in house.rooms])
    return (
        house.pipes, house.tables, house.fluid, entries(house.job.library.pipe_families), house.machine, house.practice, house.spread_k,
        line.result.chosen_flow_c, separated, house.job.active_scheme, flows, names, *emitters.rated,
    )  # fmt: skip


def nothing(house: HouseView, *_: object) -> Pipework:
    """Where it cannot be worked out."""
    return Pipework(
        flow_lph=None, water_c=None, pipes=[], circuits=[], index=None, index_kpa=None, head_kpa=None, head_used=None,
        limit=house.practice.pump_limit, least_flow_lph=None, pump_flow_lph=[], pump_head_kpa=[], pump_label="",
        primary=None, worst_pipe=None,
        worst_saving_kpa=None, worst_next_size=None,
    )  # fmt: skip


def _family(house: HouseView, run: PipeRun) -> PipeFamilyEntry | None:
    frozen = house.job.library.pipe_families.get(run.family or "")
    return frozen.data if frozen else None


def tree_of(house: HouseView) -> Tree:
    """The pipes of a house as they lie."""
    keys = list(house.pipes)
    runs = [house.pipes[key][0] for key in keys]
    parents = {key: run.parent if run.parent in house.pipes else None for key, run in zip(keys, runs, strict=True)}
    bores, rough, labels = [], [], []
    for run in runs:
        family = _family(house, run)
        size = family.sizes[run.size] if family and run.size else None
        bores.append(size.bore_m if size else math.nan)
        rough.append(family.roughness_m if family else 0.0)
        labels.append(f"{family.label} {size.label}" if family and size else "size not known")
    fittings = house.tables.fittings_k
    ends = [(key, run.emitter) for key, run in zip(keys, runs, strict=True) if run.emitter is not None]
    parts: list[Part] = []
    for run, bore, label in zip(runs, bores, labels, strict=True):
        known = math.isfinite(bore)
        litres = 0.0
        if known and run.length_m is not None:
            litres = float(pipe.water_content_l(bore_m=bore, length_m=2 * run.length_m))
        parts.append(Part(label, bore if known else None, litres, _limit_m_s(bore), house.pipes[keys[len(parts)]][1]))
    return Tree(
        keys=keys,
        runs=runs,
        parents=parents,
        paths={key: network.path_to_root(parents, key) for key in keys},
        shown=_tree_order(keys, parents),
        ends=ends,
        served={emitter: key for key, emitter in ends},
        bore_m=np.array(bores, dtype=float),
        roughness_m=np.array(rough, dtype=float),
        length_m=np.array([run.length_m if run.length_m is not None else np.nan for run in runs], dtype=float),
        k_sum=np.array(
            [sum(fittings.get(name, 0.0) * n for name, n in run.fittings.items()) for run in runs], dtype=float
        ),
        kv_pa=np.array([sum(0.1 / one.kv_m3h**2 for one in run.by_kv.values()) for run in runs], dtype=float),
        parts=parts,
    )


def _tree_order(keys: list[str], parents: dict[str, str | None]) -> list[int]:
    children: dict[str | None, list[int]] = {}
    for n, key in enumerate(keys):
        children.setdefault(parents[key], []).append(n)
    out: list[int] = []
    stack = list(reversed(children.get(None, [])))
    while stack:
        out.append(stack.pop())
        stack.extend(reversed(children.get(keys[out[-1]], [])))
    return out


def _friction(flow_lph: Num, bore_m: Num, roughness_m: Num, length_m: Num, temperature_c: float, fluid: Fluid) -> Array:
    """Friction there and back in pipes whose bore is known, Pa (P,)."""
    per_m = pipe.friction_pa_per_m(
        flow_lph=flow_lph,
        bore_m=bore_m,
        roughness_m=roughness_m,
        density_kg_m3=fluid.density_kg_m3(temperature_c=temperature_c),
        viscosity_pa_s=fluid.viscosity_pa_s(temperature_c=temperature_c),
    )
    return per_m * 2 * length_m


def _flowing(tree: Tree, flow_lph: Array, temperature_c: float, fluid: Fluid) -> Flowing:
    if not tree.keys:
        none = np.zeros(0)
        return Flowing(none, none, none, none)
    known = np.isfinite(tree.bore_m)
    bore = np.where(known, tree.bore_m, 1.0)
    velocity = np.where(known, pipe.velocity_m_s(flow_lph=flow_lph, bore_m=bore), np.nan)
    density = fluid.density_kg_m3(temperature_c=temperature_c)
    fittings = np.asarray(pipe.fitting_pa(k_sum=tree.k_sum, velocity_m_s=velocity, density_kg_m3=density))
    friction = _friction(flow_lph, bore, tree.roughness_m, tree.length_m, temperature_c, fluid)
    return Flowing(flow_lph, velocity, np.where(known, friction, np.nan), fittings + tree.kv_pa * np.square(flow_lph))


def _valve_kpa(one: Rated, flow: float) -> float:
    return float(pipe.valve_pa(flow_lph=flow, kv_m3h=one.valve.kv_m3h)) / 1000 if one.valve else 0.0


def _lies(house: HouseView, tree: Tree, findings: Findings) -> None:
    """Runs that lead to nowhere, and ways over the plan no house has."""
    leads = {parent for parent in tree.parents.values() if parent is not None}
    for key, run in zip(tree.keys, tree.runs, strict=True):
        name = run.label or "A pipe"
        if run.emitter is None and key not in leads and len(tree.keys) > 1:
            findings.add(
                "doubt", "pipework", _path_of(house, key), f"{name} leads to nowhere.",
                why="Nothing flows through it; its water counts among what can be shut off.",
                mend="Say what it serves, or take it away.",
            )  # fmt: skip
        if run.length_m is not None and run.length_m > LONGEST_M:
            findings.add(
                "doubt", "pipework", _path_of(house, key), f"{name} is {run.length_m:.0f} m long as it is drawn.",
                why="No pipe of a house runs so far one way.", mend="Look at its points on the plan.",
            )  # fmt: skip


def _path_of(house: HouseView, key: str) -> str:
    """Where a run lies in the job."""
    scheme = house.scheme
    own = scheme is not None and key in scheme.pipes and scheme.pipes[key].run is not None
    return f"/schemes/{house.job.active_scheme}/pipes/{key}" if own else f"/survey/pipes/{key}"


def _circuits(
    house: HouseView,
    rated: list[Rated],
    valve_kpa: dict[str, float],
    tree: Tree,
    flowing: Flowing,
    mine: frozenset[str],
    findings: Findings,
) -> list[Circuit]:
    each = dict(zip(tree.keys, (flowing.friction_pa + flowing.fittings_pa).tolist(), strict=True))
    out: list[tuple[float, str, str, list[str]]] = []
    labels = {room.id: room.room.label for room in house.rooms}
    for one in rated:
        key, name = one.view.id, one.view.label or one.description
        valve = valve_kpa.get(key)
        if valve is None:
            continue
        if key not in tree.served:
            findings.add(
                "doubt", "pipework", one.view.path, f"{labels.get(one.view.room)}: no pipe leads to {name}.",
                why="Its circuit and flow are left out.", mend="Add a run that ends at it; a guess is better than none.",
            )  # fmt: skip
            continue
        path = tree.paths[tree.served[key]]
        if mine:
            path = [step for step in path if step not in mine]
        total = sum(map(each.__getitem__, path))
        if not math.isfinite(total):
            lacking = next(p for p in path if not math.isfinite(each[p]))
            run = house.pipes[lacking][0]
            findings.add(
                "doubt", "pipework", f"/survey/pipes/{lacking}", f"{run.label or 'A pipe'} has no size or length.",
                why=f"The circuit to {name} cannot be reckoned.", mend="Enter an informed guess.",
            )  # fmt: skip
            continue
        out.append((total / 1000 + valve, key, f"{labels.get(one.view.room, '')}: {name}", path[::-1]))
    out.sort(key=lambda row: -row[0])
    return [
        Circuit(emitter=key, label=label, loss_kpa=loss, to_drop_kpa=out[0][0] - loss, path=path)
        for loss, key, label, path in out
    ]


def _limit_m_s(bore_m: float) -> float:
    if bore_m < MICROBORE_M:
        return MICROBORE_LIMIT_M_S
    return LARGE_BORE_LIMIT_M_S if bore_m > LARGE_BORE_M else SMALL_BORE_LIMIT_M_S


def _pipes(tree: Tree, flowing: Flowing, index: Circuit | None, valve_kpa: dict[str, float], kept: Kept) -> list[Pipe]:
    columns = np.column_stack(flowing)
    on_index = frozenset(index.path if index else ())
    rows = []
    for n in tree.shown:
        key, run, mine = tree.keys[n], tree.runs[n], columns[n]
        beside = (valve_kpa.get(run.emitter or ""), key in on_index)
        needs = (run, tree.parts[n], tree.parents[key], len(tree.paths[key]), mine.tobytes(), *beside)
        rows.append(kept.of(("pipe", key), needs, partial(_pipe, tree, n, mine, *beside)))
    return rows


def _pipe(tree: Tree, n: int, figures: Array, valve: float | None, on_index: bool) -> Pipe:
    flow, velocity, friction_pa, fittings_pa = figures.tolist()
    key, run, part = tree.keys[n], tree.runs[n], tree.parts[n]
    bore, length = part.bore_m, run.length_m
    known = math.isfinite(friction_pa)
    friction = friction_pa / 1000 if known else None
    fittings = fittings_pa / 1000 if bore is not None else None
    return Pipe(
        id=key,
        label=run.label,
        parent=tree.parents[key],
        emitter=run.emitter,
        size_label=part.size_label,
        bore_m=bore,
        length_m=length,
        flow_lph=flow,
        velocity_m_s=velocity if bore is not None else None,
        pa_per_m=friction_pa / 2 / length if known and length else None,
        friction_kpa=friction,
        fittings_kpa=fittings,
        valve_kpa=valve,
        total_kpa=(friction or 0.0) + (fittings or 0.0) + (valve or 0.0) if known else None,
        water_l=part.water_l,
        on_index=on_index,
        fast=bore is not None and velocity > part.limit_m_s,
        action=part.action,
        depth=len(tree.paths[key]) - 1,
    )


class Curve(NamedTuple):
    """A pump, and what it gives."""

    label: str
    flow_lph: list[float]
    head_kpa: list[float]

    def head(self, flow_lph: float) -> float:
        """Its head at a flow, kPa."""
        flow, head = np.array(self.flow_lph), np.array(self.head_kpa)
        return float(pump.head_kpa(flow_lph=flow_lph, curve_flow_lph=flow, curve_head_kpa=head))


def curve_of(house: HouseView, separated: Separated) -> Curve:
    """The pump that drives the circuits."""
    if separated.two:
        entry = load().pumps[separated.pump]
        return Curve(f"the second pump ({entry.label})", entry.flow_lph, entry.head_kpa)
    return _own_curve(house)


def _own_curve(house: HouseView) -> Curve:
    machine = house.machine
    return Curve("the pump", machine.pump_flow_lph, machine.pump_head_kpa) if machine else Curve("the pump", [], [])


def primaries(tree: Tree) -> list[str]:
    """The pipes that start at the machine and lead on: its own side of a separator."""
    leads = {parent for parent in tree.parents.values() if parent is not None}
    return [key for key in tree.keys if tree.parents[key] is None and key in leads]


def _primary(
    house: HouseView, tree: Tree, flowing: Flowing, mine: list[str], separated: Separated, findings: Findings
) -> Primary | None:
    """The machine's own side of a separator."""
    if not separated.two or separated.machine_lph is None or not mine or house.machine is None:
        return None
    at = [tree.keys.index(key) for key in mine]
    loss = float(max(flowing.friction_pa[n] + flowing.fittings_pa[n] for n in at)) / 1000
    if not math.isfinite(loss):
        return None
    head = _own_curve(house).head(separated.machine_lph) if house.machine.pump_flow_lph else None
    used = loss / head if head else None
    where = f"/schemes/{house.job.active_scheme}/separation/machine_lph"
    if head is not None and (used is None or used > 1):
        findings.add(
            "short", "pipework", where,
            f"The machine's own side wants {loss:.1f} kPa; its pump has {head:.1f} kPa left at {separated.machine_lph:.0f} L/h.",
            why="It would not move what it is rated for.", mend="Wider primaries, or less flow on its own side.",
        )  # fmt: skip
    _least_flow(house, separated.machine_lph, findings)
    return Primary(flow_lph=separated.machine_lph, loss_kpa=loss, head_kpa=head, used=used)


def _least_flow(house: HouseView, flow_lph: float, findings: Findings) -> None:
    least = house.machine.least_flow_lph if house.machine else None
    if least is not None and flow_lph < least:
        findings.add(
            "short", "pipework", f"/schemes/{house.job.active_scheme}",
            f"{flow_lph:.0f} L/h is less than the {least:.0f} L/h the machine must have.",
            why="It would trip on low flow.", mend="A smaller spread, or a smaller machine.",
        )  # fmt: skip


def _pump(
    house: HouseView,
    curve: Curve,
    index_kpa: float | None,
    total_flow: float | None,
    separated: Separated,
    findings: Findings,
) -> tuple[float | None, float | None]:
    """Head of the pump at the flow, kPa, and the share of it the index circuit takes."""
    if house.machine is None or total_flow is None or index_kpa is None:
        return None, None
    if not separated.two:
        _least_flow(house, total_flow, findings)
    if not curve.flow_lph:
        findings.add(
            "doubt", "pipework", f"/schemes/{house.job.active_scheme}/chosen",
            f"Nobody says what pressure {house.machine.label} has left for the pipes.",
            why="Whether its pump reaches the far emitter cannot be judged.", mend="Enter its pump curve.",
        )  # fmt: skip
        return None, None
    heads = curve.head_kpa
    if any(b > a for a, b in pairwise(heads)):
        at = next(n for n, (a, b) in enumerate(pairwise(heads)) if b > a)
        findings.add(
            "doubt", "pipework", f"/schemes/{house.job.active_scheme}/chosen",
            f"The pump curve of {house.machine.label} rises from {heads[at]:.0f} to {heads[at + 1]:.0f} kPa at "
            f"{curve.flow_lph[at + 1]:.0f} L/h.",
            why="No pump gives more pressure the more flows.", mend="Look at the maker's curve once more.",
        )  # fmt: skip
    head = curve.head(total_flow)
    used = index_kpa / head if head > 0 else None
    limit = house.practice.pump_limit
    where = f"/schemes/{house.job.active_scheme}"
    if used is None or used > 1:
        findings.add(
            "short", "pipework", where,
            f"The index circuit wants {index_kpa:.1f} kPa; {curve.label} has {head:.1f} kPa left "
            f"at {total_flow:.0f} L/h.",
            why="The far emitter would not get its flow.",
            mend="A wider pipe on its worst piece, or a stronger second pump."
            if separated.two
            else "A wider pipe on its worst piece, or a second pump.",
        )  # fmt: skip
    elif used > limit:
        findings.add(
            "doubt", "pipework", where, f"{curve.label[:1].upper()}{curve.label[1:]} would run at {used:.0%} of its head all its life.",
            why=f"Above {limit:.0%} it will not last.", mend="A wider pipe on the worst piece.",
        )  # fmt: skip
    return head, used


class Worst(NamedTuple):
    """A piece of pipe, what its next size up would save, kPa, and that size."""

    pipe: str
    saving_kpa: float | None
    next_size: str | None


def _worst(house: HouseView, tree: Tree, flowing: Flowing, temperature_c: float, index: Circuit) -> Worst | None:
    """The piece of the index path that takes most, and what its next size up would save."""
    friction = dict(zip(tree.keys, flowing.friction_pa.tolist(), strict=True))
    worst = max(index.path, key=friction.__getitem__)
    n = tree.keys.index(worst)
    family = _family(house, tree.runs[n])
    if family is None:
        return None
    larger = sorted((s.bore_m, s.label) for s in family.sizes.values() if s.bore_m > tree.bore_m[n] + 1e-9)
    if not larger:
        return Worst(worst, None, None)
    wider = _friction(
        float(flowing.flow_lph[n]), larger[0][0], float(tree.roughness_m[n]), float(tree.length_m[n]), temperature_c, house.fluid
    )  # fmt: skip
    return Worst(worst, (friction[worst] - float(wider)) / 1000, f"{family.label} {larger[0][1]}")
