"""Pipes laid over the plan by rule: from the store to every emitter, trunks shared, sized for their flow."""

from __future__ import annotations

import math
from collections.abc import Iterator
from itertools import pairwise

import numpy as np
from shapely.geometry import Polygon

from cinder.design.apart.routing.field import CELL_M, Field, field, tree
from cinder.design.apart.routing.result import ProposedRun, RiserSpot, RoutesFound, StoreyPlan
from cinder.design.apart.routing.spots import Place, spots_of, start_of, storeys_of
from cinder.design.findings import Findings
from cinder.design.house.routes import along_m
from cinder.design.house.view import HouseView, view
from cinder.design.judgement import design as judged
from cinder.design.result import Design
from cinder.library import PipeFamilyEntry, load
from cinder.model import Job
from cinder.model.scheme import PipeAction
from cinder.model.survey import PipePoint, PipeRun
from cinder.physics.flow import pipe
from cinder.physics.flow.fluid import Fluid

FAMILY = "copper"
MOST_PA_M, SMALL_M_S, MICROBORE_M, MICROBORE_M_S = 250.0, 1.0, 0.0105, 0.6
"""A pipe is taken so wide that it stays below (guides of the practice: 100-350 Pa/m, 0.3-1.0 m/s, 0.5-0.6 in microbore)."""
LEAST_TAIL_M = 0.3
USUAL_LPH = 60.0
Point3 = tuple[float, float, float]


def judge(job: Job, design: Design) -> RoutesFound:
    """The plan for pipes, and a tree by rule for the scheme shown (or the house as found)."""
    house = view(job, Findings())
    storeys = storeys_of(house)
    spots, places = spots_of(house)
    start = start_of(house)
    risers = [
        RiserSpot(id=key, label=one.label or "A riser", at_m=[one.x_m, one.y_m])
        for key, one in sorted(job.survey.risers.items(), key=lambda item: (item[1].pos, item[0]))
    ]
    now = [p.length_m for p in design.pipework.pipes if p.length_m is not None]
    plain = RoutesFound(
        sentence="", lacks="", storeys=storeys, spots=spots, start_m=[], start_from="", risers=risers, keeps=None, runs=[], total_m=0.0,
        now_m=sum(now) if now else None, index_kpa=None, head_used=None, now_index_kpa=design.pipework.index_kpa, left_out=[], notes=[],
    )  # fmt: skip
    if start is None or not spots:
        lacks = "Rooms that stand on the plan, and emitters in them: then pipes can be laid from one to the other."
        return plain.model_copy(update={"sentence": lacks, "lacks": lacks})
    level = {one.id: one.level_m for one in storeys}
    plain = plain.model_copy(update={"start_m": [start[0], start[1], level.get(start[2], 0.0)], "start_from": start[3]})
    on = field(_floors(house, storeys), [(r.at_m[0], r.at_m[1]) for r in risers])
    if on is None:
        lacks = "The house is larger than can be laid at once: draw its pipes by hand."
        return plain.model_copy(update={"sentence": lacks, "lacks": lacks})
    runs, lost = _laid(house, design, on, storeys, places, start)
    keeps = _kept_root(house)
    adopted = judged(with_runs(job, house, runs, keeps))
    total = sum(one.length_m for one in runs)
    left = [spot.label for spot in spots if spot.emitter in lost]
    made = plain.model_copy(
        update={
            "keeps": keeps, "runs": runs, "total_m": total, "index_kpa": adopted.pipework.index_kpa,
            "head_used": adopted.pipework.head_used, "left_out": left, "notes": _notes(start[3], risers),
        }
    )  # fmt: skip
    return made.model_copy(update={"sentence": _sentence(made)})


def _floors(house: HouseView, storeys: list[StoreyPlan]) -> list[tuple[float, list[Polygon], list[bool]]]:
    """Every storey's level and rooms, and in which of them a riser may stand: not where people live and sleep."""
    shapes = {room.id: room.shape.polygon for room in house.rooms if room.shape is not None}
    lived = {room.id: room.habitable for room in house.rooms}
    return [
        (one.level_m, [shapes[room.room] for room in one.rooms], [not lived[room.room] for room in one.rooms])
        for one in storeys
    ]


def _kept_root(house: HouseView) -> str | None:
    """The run from the machine that leads on, where there is just one."""
    leads = {run.parent for run, _ in house.pipes.values()}
    roots = [
        key
        for key, (run, _) in house.pipes.items()
        if run.parent not in house.pipes and run.emitter is None and key in leads
    ]
    return roots[0] if len(roots) == 1 else None


def _laid(
    house: HouseView,
    design: Design,
    on: Field,
    storeys: list[StoreyPlan],
    places: dict[str, Place],
    start: tuple[float, float, str, str],
) -> tuple[list[ProposedRun], set[str]]:
    number = {one.id: n for n, one in enumerate(storeys)}
    root = on.nearest(start[0], start[1], number.get(start[2], 0))
    cells = {key: on.nearest(x, y, number[storey]) for key, (x, y, storey) in places.items() if storey in number}
    parent, unreached = tree(on, root, list(cells.values()))
    lost = {key for key, cell in cells.items() if cell in unreached}
    ends: dict[int, list[str]] = {}
    for key, cell in cells.items():
        if key not in lost:
            ends.setdefault(cell, []).append(key)
    children: dict[int, list[int]] = {}
    for cell, before in parent.items():
        children.setdefault(before, []).append(cell)
    spot = {key: (x, y, storeys[number[storey]].level_m) for key, (x, y, storey) in places.items() if storey in number}
    rows = list(_runs(on, root, children, ends, spot))
    flow = {e.id: e.flow_lph for room in design.rooms for e in room.emitters}
    beyond: dict[str, float] = {}
    for key, _, emitter, _, _ in reversed(rows):
        own = (flow.get(emitter) or USUAL_LPH) if emitter else 0.0
        beyond[key] = own + sum(beyond[other] for other, up, _, _, _ in rows if up == key)
    labels = {room.id: room.label for room in design.rooms}
    names = {e.id: f"to {labels.get(e.room, 'a room')}" for e in house.emitters}
    family = (
        load().pipe_families[FAMILY]
        if FAMILY not in house.job.library.pipe_families
        else house.job.library.pipe_families[FAMILY].data
    )
    out, trunks = [], 0
    for name, up, emitter, way, dug in rows:
        if emitter is None:
            trunks += 1
        rises = any(a[2] != b[2] for a, b in pairwise(way))
        out.append(
            _sized(
                name, up, emitter, names.get(emitter or "", "") if emitter
                else f"{'Through the ground' if dug else 'Riser' if rises else 'Main'} {trunks}", way,
                beyond[name], family, house.fluid, (design.waterline.chosen_flow_c or 45.0) - house.spread_k / 2,
                branch=up is not None, buried=dug,
            )
        )  # fmt: skip
    return out, lost


def _runs(
    on: Field, root: int, children: dict[int, list[int]], ends: dict[int, list[str]], spot: dict[str, Point3]
) -> Iterator[tuple[str, str | None, str | None, list[Point3], bool]]:
    """Runs from the root outwards: id, parent, emitter, points, whether it lies in the ground; a parent before its children."""

    def linked(a: int, b: int) -> bool:
        return (a, b) in on.links or (b, a) in on.links

    count = 0
    stack: list[tuple[int, str | None]] = [(root, None)]
    while stack:
        at, up = stack.pop()
        here: Point3 = (float(on.at_m[at, 0]), float(on.at_m[at, 1]), float(on.at_m[at, 2]))
        alone = at != root and not children.get(at)
        for emitter in ends.get(at, []):
            if alone and len(ends[at]) == 1:
                continue  # the run that comes here ends at it
            count += 1
            yield f"run-{count}", up, emitter, [here, spot[emitter]], False
        for first in children.get(at, []):
            cells = [at, first]
            dug = linked(at, first)
            while len(children.get(cells[-1], [])) == 1 and not ends.get(cells[-1]) and not dug:
                then = children[cells[-1]][0]
                if linked(cells[-1], then):
                    break  # what lies in the ground is a run of its own
                cells.append(then)
            last = cells[-1]
            way = _corners([(float(x), float(y), float(z)) for x, y, z in on.at_m[cells]])
            serves = ends.get(last, [])
            served = serves[0] if len(serves) == 1 and not children.get(last) else None
            if served is not None:
                way = [*way, spot[served]]
            count += 1
            key = f"run-{count}"
            yield key, up, served, way, dug
            if served is None:
                stack.append((last, key))


def _corners(points: list[Point3]) -> list[Point3]:
    """The points where a way turns, its ends among them."""
    out = points[:1]
    for n in range(1, len(points) - 1):
        a, b, c = np.array(points[n - 1]), np.array(points[n]), np.array(points[n + 1])
        if not np.allclose((b - a) / np.linalg.norm(b - a), (c - b) / np.linalg.norm(c - b), atol=1e-6):
            out.append(points[n])
    return [*out, points[-1]]


def _sized(
    key: str, up: str | None, emitter: str | None, label: str, way: list[Point3], flow_lph: float, family: PipeFamilyEntry,
    fluid: Fluid, water_c: float, *, branch: bool, buried: bool,
) -> ProposedRun:  # fmt: skip
    length = max(along_m([PipePoint(x_m=x, y_m=y, z_m=z) for x, y, z in way]), LEAST_TAIL_M if emitter else CELL_M)
    density, viscosity = (
        float(fluid.density_kg_m3(temperature_c=water_c)),
        float(fluid.viscosity_pa_s(temperature_c=water_c)),
    )
    size = wide_enough(flow_lph, family, density, viscosity)
    elbows = max(len(way) - (3 if emitter else 2), 0) + (2 if emitter else 0)
    fittings = {"elbow": elbows} if elbows else {}
    if branch:
        fittings["tee-branch" if emitter else "tee-through"] = 1
    return ProposedRun(
        id=key, label=label, parent=up, emitter=emitter, family=FAMILY, size=size, size_label=f"{family.label} {family.sizes[size].label}",
        length_m=round(length, 2), flow_lph=flow_lph, fittings=fittings, way_m=[[round(c, 3) for c in point] for point in way],
        lies="buried" if buried else None,
    )  # fmt: skip


def wide_enough(flow_lph: float, family: PipeFamilyEntry, density: float, viscosity: float) -> str:
    """The least size of a family that keeps to the guides at a flow; the widest where none does. Nothing below 15 mm."""
    sizes = sorted(family.sizes.items(), key=lambda item: item[1].bore_m)
    for key, one in sizes:
        if one.bore_m < MICROBORE_M:
            continue
        per_m = float(
            pipe.friction_pa_per_m(
                flow_lph=flow_lph,
                bore_m=one.bore_m,
                roughness_m=family.roughness_m,
                density_kg_m3=density,
                viscosity_pa_s=viscosity,
            )
        )
        if per_m <= MOST_PA_M and float(pipe.velocity_m_s(flow_lph=flow_lph, bore_m=one.bore_m)) <= SMALL_M_S:
            return key
    return sizes[-1][0]


def as_run(one: ProposedRun, pos: float, keeps: str | None) -> PipeRun:
    """A proposed run as the job keeps it."""
    return PipeRun(
        label=one.label, pos=pos, parent=one.parent or keeps, emitter=one.emitter, family=one.family, size=one.size,
        fittings=one.fittings, way=[PipePoint(x_m=x, y_m=y, z_m=z) for x, y, z in one.way_m], proposed=True, lies=one.lies,
        length_m=one.length_m if len(one.way_m) < 2 or one.length_m <= LEAST_TAIL_M else None,
    )  # fmt: skip


def with_runs(job: Job, house: HouseView, runs: list[ProposedRun], keeps: str | None) -> Job:
    """The job with a proposal taken up: in the scheme, in place of every other run but the one that is kept; as found, in the survey."""
    new = {one.id: as_run(one, 100.0 + n, keeps) for n, one in enumerate(runs)}
    kept: dict[str, PipeRun] = {key: run for key, (run, _) in house.pipes.items() if key == keeps}
    if any(run.family == FAMILY for run in new.values()) and FAMILY not in job.library.pipe_families:
        from cinder.model import freeze

        library = job.library.model_dump(mode="json")
        library["pipe_families"][FAMILY] = freeze(load().pipe_families[FAMILY])
        job = job.model_copy(update={"library": type(job.library).model_validate(library)})
    key = job.active_scheme
    if key is None or key not in job.schemes:
        survey = job.survey.model_copy(update={"pipes": {**kept, **new}})
        return job.model_copy(update={"survey": survey})
    scheme = job.schemes[key]
    actions = {other: PipeAction(action="remove") for other in job.survey.pipes if other != keeps}
    if keeps in scheme.pipes:
        actions[keeps] = scheme.pipes[keeps]
    actions |= {name: PipeAction(action="add", run=run) for name, run in new.items()}
    changed = scheme.model_copy(update={"pipes": actions})
    return job.model_copy(update={"schemes": {**job.schemes, key: changed}})


def _notes(start_from: str, risers: list[RiserSpot]) -> list[str]:
    out = [f"Begins at {start_from}." if start_from.startswith("the") else f"Begins in {start_from}."]
    out.append(
        "Through the risers that are given."
        if risers
        else "No riser is given: pipes go up along walls that stand over each other, not in rooms people live or sleep in."
    )
    out.append(
        "Along walls first, under open floor where that is shorter; every wall, bend and riser counts. Nobody has seen these pipes."
    )
    return out


def _sentence(found: RoutesFound) -> str:
    bends = sum(one.fittings.get("elbow", 0) for one in found.runs)
    said = f"**{len(found.runs)} runs** of **{found.total_m:.0f} m** one way would serve {len(found.spots) - len(found.left_out)} emitters"
    if found.index_kpa is not None:
        said += f"; the index circuit would take **{found.index_kpa:.0f} kPa**"
        said += f", now {found.now_index_kpa:.0f}" if found.now_index_kpa is not None else ""
    return said + f". {bends} bends are in it." if math.isfinite(found.total_m) else said + "."
