"""What every emitter really gets, with nothing balanced and balanced; what rooms that makes; the pump's room; what would help."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import replace

import numpy as np

from cinder.design import chain
from cinder.design.apart.flows.network import Circuits, circuits_of, drawn_w, fittings_pa, kv_for
from cinder.design.apart.flows.result import EmitterFlow, FlowsFound, Help, Point, PumpLine, RoomFlow
from cinder.design.apart.flows.say import notes, sentence
from cinder.design.emitters.decide import EmitterArrays
from cinder.design.findings import Findings
from cinder.design.house.view import HouseView
from cinder.design.hydraulics.pipes import curve_of
from cinder.design.kept import Afresh, Kept
from cinder.design.losses.evaluate import LossArrays, Losses
from cinder.design.result import Design
from cinder.design.separation import Separated
from cinder.design.step import walk
from cinder.design.waterline import settled
from cinder.design.waterline.decide import WaterlineArrays
from cinder.library import load
from cinder.model import Job
from cinder.model.survey import PipeRun
from cinder.physics.flow import hydraulic_tree, pipe, pump
from cinder.physics.flow.fluid import MEAN_WATER_C
from cinder.physics.quantity import Array

PUMP_EFFICIENCY = 0.3
"""What of a small pump's electricity becomes pressure (our choice)."""
SAMPLES, SEED = 600, 1908
Z90 = 1.2815515655446004
BORE_SPREAD = {"measured": 0.01, "read": 0.02, "told": 0.05, "inferred": 0.06, "assumed": 0.08}
LENGTH_SPREAD = {"measured": 0.03, "read": 0.05, "told": 0.15, "inferred": 0.20, "assumed": 0.30}
"""P10 and P90 lie so far from a bore and from a length, by how they are known (our choice: pipes cannot be seen)."""
SPREADS_K = (6.0, 7.0, 8.0)
MOST_PIPES = 3
DRAWN_TO = 1.4


def judge(job: Job, design: Design, kept: Kept | None = None) -> FlowsFound:
    """The network of a job's pipes, solved. Where something is lacking it is said, and the rest stands empty."""
    known = walk(chain.SEASON, {"job": job}, Findings(), kept or Afresh())
    house: HouseView = known["house"]
    circuits = circuits_of(house, design, known["emitters"])
    if circuits is None:
        return _nothing(design)
    flow = circuits.flow_lph
    total = float(flow.sum())
    taken = circuits.taken_pa(flow)
    index = float(taken.max())
    drop = index - taken
    curve = _curve(house, design.separation)
    head = float(curve(total)) if curve is not None else None
    two = design.separation.two
    driven = bool(not two and house.machine and house.machine.contains.pump not in (None, "fixed"))
    loose = _flows(circuits.tree, circuits, curve, driven)
    tight = _flows(circuits.dropping(drop), circuits, curve, driven)
    low, high = _doubt(circuits)
    rooms = _rooms(known, design, circuits, loose.end_lph, tight.end_lph)
    table = sorted((one.turns, one.kv_m3h) for one in house.practice.lockshield)
    rows = []
    for n in np.argsort(-taken):
        kv = kv_for(flow_lph=float(flow[n]), drop_kpa=float(drop[n]) / 1000)
        rows.append(
            EmitterFlow(
                emitter=circuits.emitters[n],
                label=circuits.labels[n],
                room=circuits.rooms[n],
                design_lph=float(flow[n]),
                unbalanced_lph=float(loose.end_lph[n]),
                balanced_lph=float(tight.end_lph[n]),
                drop_kpa=float(drop[n]) / 1000,
                kv_m3h=kv,
                turns=_turns(table, kv),
            )
        )
    used = [one / head if head else None for one in (low / 1000, high / 1000)] if head else [None, None]
    made = FlowsFound(
        sentence="", lacks="", driven=driven, flow_lph=total, index_kpa=index / 1000, p10_kpa=low / 1000, p90_kpa=high / 1000,
        head_kpa=head, used_p10=used[0], used_p90=used[1],
        power_w=None if head is not None and index / 1000 > head else drawn_w(
            flow_lph=total, head_kpa=index / 1000 if driven or head is None else head, efficiency=PUMP_EFFICIENCY
        ),
        unbalanced_total_lph=loose.total_lph, rows=rows, rooms=rooms, system=_system(circuits, drop), pumps=_pumps(house, design, total),
        helps=_helps(house, design, circuits, curve), notes=[],
    )  # fmt: skip
    return made.model_copy(
        update={
            "sentence": sentence(made, design.pipework.limit),
            "notes": notes(made, circuits.left_out, house.machine),
        }
    )


def _nothing(design: Design) -> FlowsFound:
    lacks = (
        "No circuit can be reckoned yet: every emitter wants a pipe of known size and length that leads to it, a load and "
        "a flow temperature."
    )
    return FlowsFound(
        sentence=lacks, lacks=lacks, driven=False, flow_lph=None, index_kpa=None, p10_kpa=None, p90_kpa=None, head_kpa=None,
        used_p10=None, used_p90=None, power_w=None, unbalanced_total_lph=None, rows=[], rooms=[], system=[], pumps=[], helps=[],
        notes=[],
    )  # fmt: skip


class _Curve:
    """The head of a pump at full speed, kPa over L/h; nothing beyond its last point."""

    def __init__(self, flow_lph: list[float], head_kpa: list[float]) -> None:
        self.flow, self.head = np.array(flow_lph), np.array(head_kpa)

    def __call__(self, flow_lph: float) -> float:
        return float(pump.head_kpa(flow_lph=flow_lph, curve_flow_lph=self.flow, curve_head_kpa=self.head))


def _curve(house: HouseView, separated: Separated) -> _Curve | None:
    """The pump that drives the circuits."""
    found = curve_of(house, separated)
    return _Curve(found.flow_lph, found.head_kpa) if len(found.flow_lph) >= 2 else None


def pumped(house: HouseView, design: Design) -> Callable[[float], float] | None:
    """Head, Pa, over flow, L/h, of a pump that does not follow the spread; None where it does, or nobody knows its curve."""
    two = design.separation.two
    if not two and house.machine and house.machine.contains.pump not in (None, "fixed"):
        return None
    curve = _curve(house, design.separation)
    return (lambda flow_lph: curve(flow_lph) * 1000.0) if curve is not None else None


def _flows(tree: hydraulic_tree.Tree, circuits: Circuits, curve: _Curve | None, driven: bool) -> hydraulic_tree.Flows:
    """A pump that follows the spread gives the flow wanted together as long as it can; another, or one at its end, what its curve
    leaves. Without a curve the flow wanted is taken for granted."""
    flow, total = circuits.flow_lph, float(circuits.flow_lph.sum())
    if driven or curve is None:
        found = hydraulic_tree.at_total(tree, total, begin_lph=flow)
        if curve is None or found.head_pa <= curve(total) * 1000:
            return found
    at = curve

    def head(flow_lph: float) -> float:
        last, top = float(at.flow[-1]), float(at.head[-1])
        # beyond its last point the curve goes on falling, so that a flow is found at all
        return (at(flow_lph) if flow_lph <= last else top - (flow_lph - last) * 0.05) * 1000

    return hydraulic_tree.solve(tree, head, begin_lph=flow)


def _turns(table: list[tuple[float, float]], kv: float | None) -> float | None:
    """Turns open for a kv, straight between the rows of the table and held at its ends; None: wide open."""
    if kv is None or kv >= table[-1][1]:
        return None
    return float(np.interp(kv, [row[1] for row in table], [row[0] for row in table]))


def _rooms(known: dict[str, object], design: Design, circuits: Circuits, loose: Array, tight: Array) -> list[RoomFlow]:
    """Where the rooms settle on the design day with these flows, the chosen water and the valves as they are."""
    house, arrays, day = known["house"], known["losses"], known["design_day"]
    emitters, line = known["emitters"], known["waterline"]
    assert isinstance(house, HouseView)
    assert isinstance(arrays, LossArrays)
    assert isinstance(day, Losses)
    assert isinstance(emitters, EmitterArrays)
    assert isinstance(line, WaterlineArrays)
    chosen = line.result.chosen_flow_c
    if chosen is None or house.outdoor_c is None:
        return []
    closes = emitters.closes
    per_w = float(house.fluid.flow_for_heat_lph(heat_w=1.0, spread_k=1.0, temperature_c=MEAN_WATER_C))
    found = []
    for flows in (loose, tight):
        gets = dict(zip(circuits.emitters, flows.tolist(), strict=True))
        heat = line.flows.heat_w.copy()
        through = np.zeros(len(house.rooms))
        for r, slots in enumerate(emitters.slots):
            for e, slot in enumerate(slots):
                own = gets.get(emitters.rated[slot].view.id)
                if own is not None:
                    heat[r, e] = own / per_w * emitters.spread_k[r, e]
                through[r] += heat[r, e] / emitters.spread_k[r, e] if emitters.spread_k[r, e] > 0 else 0.0
        balance = settled.balance(
            arrays, day, emitters, settled.DesignFlows(heat, line.flows.served), closes=closes, own_share=line.own_share
        )
        room = balance.settle(flow_c=np.array([chosen])).room_c[0]
        gives = balance.given(np.maximum(chosen - room, 0.0)[None, :]).whole[0]
        asks = balance.base[0] + balance.slope * room - balance.trade @ room
        held = closes.any(axis=1) & (room >= arrays.target_c - 1e-3)
        spread = np.where(
            through > 0, np.where(held, np.minimum(asks, gives), gives) / np.maximum(through, 1e-9), np.nan
        )
        found.append((room, spread))
    served = set(circuits.rooms)
    return [
        RoomFlow(
            room=room.id, label=room.name, target_c=float(arrays.target_c[n]), unbalanced_c=_number(found[0][0][n]),
            balanced_c=_number(found[1][0][n]), unbalanced_spread_k=_number(found[0][1][n]),
            balanced_spread_k=_number(found[1][1][n]),
        )
        for n, room in enumerate(house.rooms)
        if room.id in served and arrays.complete[n]
    ]  # fmt: skip


def _number(value: float) -> float | None:
    return float(value) if np.isfinite(value) else None


def _doubt(circuits: Circuits) -> tuple[float, float]:
    """P10 and P90 of the index circuit at the flows wanted, Pa, every pipe's length and bore drawn for itself."""
    t, rng = circuits.tree, np.random.default_rng(SEED)
    known = [{key: one.how for key, one in run.known.items()} for run in circuits.lies.runs]
    long = np.array([LENGTH_SPREAD[one.get("length_m", "assumed")] for one in known]) / Z90
    wide = np.array([BORE_SPREAD[one.get("size", "assumed")] for one in known]) / Z90
    shape = (SAMPLES, len(known))
    length = t.length_m * np.exp(rng.standard_normal(shape) * long)
    bore = t.bore_m * np.exp(rng.standard_normal(shape) * wide)
    per_m = pipe.friction_pa_per_m(
        flow_lph=t.on_path @ circuits.flow_lph, bore_m=bore, roughness_m=t.roughness_m, density_kg_m3=t.density_kg_m3,
        viscosity_pa_s=t.viscosity_pa_s,
    )  # fmt: skip
    takes = per_m * 2 * length + fittings_pa(circuits, bore)
    index = (takes @ t.on_path + t.end_pa * circuits.flow_lph**2).max(axis=1)
    return float(np.quantile(index, 0.1)), float(np.quantile(index, 0.9))


def _system(circuits: Circuits, drop: Array) -> list[Point]:
    """What the balanced house takes over the flow through the machine."""
    out = []
    for part in np.linspace(0.1, DRAWN_TO, 14):
        flow = circuits.flow_lph * part
        takes = circuits.taken_pa(flow) + drop * part**2
        out.append(Point(flow_lph=float(flow.sum()), head_kpa=float(takes.max()) / 1000))
    return out


def _points(flow: list[float], head: list[float]) -> list[Point]:
    return [Point(flow_lph=a, head_kpa=b) for a, b in zip(flow, head, strict=True)]


def _pumps(house: HouseView, design: Design, total: float) -> list[PumpLine]:
    out, machine, own = [], house.machine, _curve(house, design.separation)
    if machine is not None and own is not None and not design.separation.two:
        out.append(
            PumpLine(
                key="own",
                label=f"in {machine.label}",
                curve=_points(machine.pump_flow_lph, machine.pump_head_kpa),
                head_kpa=own(total),
            )
        )
    for key, entry in load().pumps.items():
        out.append(
            PumpLine(
                key=key,
                label=entry.label,
                curve=_points(entry.flow_lph, entry.head_kpa),
                head_kpa=_Curve(entry.flow_lph, entry.head_kpa)(total),
            )
        )
    return out


def _helps(house: HouseView, design: Design, circuits: Circuits, curve: _Curve | None) -> list[Help]:
    """What would leave the pump more room, each worked out through the whole network: what is done to pipes and settings
    first, by its effect."""
    out = [*_wider(house, circuits, curve), *_spreads(house, circuits, curve)]
    total = float(circuits.flow_lph.sum())
    index = float(circuits.taken_pa(circuits.flow_lph).max()) / 1000
    two, drives = design.separation.two, design.separation.pump
    for key, entry in load().pumps.items():
        if key == drives:
            continue
        head = _Curve(entry.flow_lph, entry.head_kpa)(total)
        out.append(
            _help(
                f"pump:{key}",
                "pump",
                f"The second pump of the {entry.label}" if two else f"A second pump, {entry.label}",
                total,
                index,
                head,
                "a pump, its wiring and isolators",
                f"{entry.rated_w:.0f} watts of electricity all winter"
                + ("" if two else "; it must stop with the machine's own, or be separated from it"),
            )
        )
    if two:
        return sorted(out, key=_by_effect)
    root = [n for n, key in enumerate(circuits.keys) if circuits.lies.parents[key] is None]
    takes = hydraulic_tree.pipes_pa(circuits.tree, circuits.tree.on_path @ circuits.flow_lph)
    alone = float(takes[root].max(initial=0.0)) / 1000
    out.append(
        _help(
            "separate",
            "separate",
            "A separator, and a second pump behind it",
            total,
            alone,
            curve(total) if curve else None,
            "a header or buffer, a pump, space for both",
            "with equal flows it costs almost nothing; with unequal ones the machine must run hotter",
        )
    )
    return sorted(out, key=_by_effect)


def _by_effect(one: Help) -> tuple[bool, float]:
    return one.kind in ("pump", "separate"), one.used if one.used is not None else one.index_kpa


def _help(
    key: str, kind: str, label: str, flow: float, index: float, head: float | None, effort: str, drawback: str,
    pipe_key: str | None = None, family: str | None = None, size: str | None = None,
) -> Help:  # fmt: skip
    return Help.model_validate(
        {
            "key": key, "kind": kind, "label": label, "flow_lph": flow, "index_kpa": index, "head_kpa": head,
            "used": index / head if head else None, "effort": effort, "drawback": drawback, "pipe": pipe_key, "family": family,
            "size": size,
        }
    )  # fmt: skip


REACH = {
    "easy": "easily reached",
    "lift a board": "a board to lift",
    "open a wall": "a wall to open",
    "not at all": "cannot be reached",
}


def _wider(house: HouseView, circuits: Circuits, curve: _Curve | None) -> list[Help]:
    """The pieces of the index circuit whose next size up helps most."""
    t, flow = circuits.tree, circuits.flow_lph
    taken = circuits.taken_pa(flow)
    on_index = np.flatnonzero(t.on_path[:, int(taken.argmax())])
    total, found = float(flow.sum()), []
    for n in on_index:
        run: PipeRun = circuits.lies.runs[n]
        frozen = house.job.library.pipe_families.get(run.family or "")
        if frozen is None or run.reach == "not at all" or not t.length_m[n]:
            continue
        larger = sorted((s.bore_m, key) for key, s in frozen.data.sizes.items() if s.bore_m > t.bore_m[n] + 1e-9)
        if not larger:
            continue
        bores = t.bore_m.copy()
        bores[n] = larger[0][0]
        index = float(replace(circuits, tree=replace(t, bore_m=bores)).taken_pa(flow).max()) / 1000
        found.append((index, int(n), run, frozen.data.label, frozen.data.sizes[larger[0][1]].label, larger[0][1]))
    found.sort(key=lambda one: one[0])
    return [
        _help(
            f"pipe:{circuits.keys[n]}", "pipe", f"{run.label or 'A pipe'} in {label} {size}", total, index,
            curve(total) if curve else None,
            f"{run.length_m or 0.0:.1f} m there and as much back, {REACH.get(run.reach or '', 'nobody said how it is reached')}",
            "floors and walls opened, made good again" if run.reach != "easy" else "little",
            circuits.keys[n], run.family, key,
        )
        for index, n, run, label, size, key in found[:MOST_PIPES]
    ]  # fmt: skip


def _spreads(house: HouseView, circuits: Circuits, curve: _Curve | None) -> list[Help]:
    """A larger spread: less flow, and warmer water for the same mean."""
    out = []
    for spread in SPREADS_K:
        if spread <= house.spread_k:
            continue
        flow = circuits.flow_lph * house.spread_k / spread
        total = float(flow.sum())
        out.append(
            _help(
                f"spread:{spread:g}",
                "spread",
                f"{spread:g} K between flow and return",
                total,
                float(circuits.taken_pa(flow).max()) / 1000,
                curve(total) if curve else None,
                "a setting",
                f"emitters want their flow some {(spread - house.spread_k) / 2:.1f} K warmer",
            )
        )
    return out
