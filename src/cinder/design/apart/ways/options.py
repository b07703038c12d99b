"""What can be chosen from: ways of every room and measures of the house, the same for every flow temperature, and the choice at one."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

import numpy as np

from cinder.design.apart import measures
from cinder.design.apart.ways import rules
from cinder.design.apart.ways.cheapest import Cheapest, Shared, Together
from cinder.design.apart.ways.combine import Combined, combine, weighed
from cinder.design.apart.ways.products import PANELS
from cinder.design.apart.ways.shared import losses_of, measure_pins, of_the_house
from cinder.design.apart.ways.way import Costs, Lists, Prices, Table, Way, beyond_it, gives
from cinder.design.curve.fit import freed
from cinder.design.emitters.decide import rate, reference_of
from cinder.design.findings import Findings
from cinder.design.house.rooms import RoomView
from cinder.design.house.tariff import mean_minor_per_kwh
from cinder.design.house.view import HouseView, view
from cinder.design.judgement import Trial, design
from cinder.design.kept import Kept
from cinder.design.losses.assemble import of_house
from cinder.design.losses.evaluate import LossArrays, evaluate
from cinder.design.machine.beside import bill_minor
from cinder.design.result import Design
from cinder.errors import NotFound
from cinder.library import EDITION, EmitterTypeEntry, HourlyYear, entry_sha256, load
from cinder.model import Frozen, Job
from cinder.physics.quantity import Array

FLOWS_C = range(30, 61)
GRID_C = np.array([float(flow) for flow in FLOWS_C])
YEARS = 15
"""A room that needs no warmer water than this above the chosen is served, as the chain says it."""
USUAL_SEASON = 3.0
"""Season assumed where no machine is chosen yet, to weigh plain electricity against it (our choice)."""


NEVER_W = -1e6
"""What a way counts as giving at a temperature it is not to be taken at."""


@dataclass(slots=True)
class HouseOptions:
    """Everything the cheapest set is chosen from, the same for every flow temperature."""

    job: Job
    house: HouseView
    arrays: LossArrays
    costs: Costs
    base: Design
    load_w: Array
    ways: list[list[Way]]
    rooms: list[Combined]
    shared: list[Shared]
    tried: dict[str, measures.OptionParts]
    packages: dict[str, tuple[str, ...]]
    served: list[int]
    """Rooms that have a load and belong to the choice."""
    unmet: list[str]
    slope_w_k: Array
    marks: dict[int, dict[str, tuple[float, float]]]
    """What a choice of a room may be worth less under measures of the house, by mark: kelvin cooler, part of its floor."""
    sun: measures.KeptOut
    """What new panes keep out, and how it was counted."""
    sun_said: str
    together: dict[frozenset[str], Together] = field(default_factory=dict)
    """What sets of measures do less than one by one, once they were looked at."""
    built: dict[tuple[str, ...], Job] = field(default_factory=dict)
    """The job with measures of the house on it, once it was made."""
    kept: Kept = field(default_factory=Kept)
    """What the chains run for it have in common."""


@dataclass(slots=True)
class Chosen:
    """The answer at one flow temperature: what is done in which room, and on the house; `after`, what the chain says of it."""

    answer: Cheapest
    ways: list[tuple[int, Way]]
    shared: list[str]
    cost_minor: float
    yearly_minor: float
    after: Trial | None = None


def options_of(
    job: Job,
    prices: Prices,
    table: Table,
    lists: Lists = (),
    *,
    weather: HourlyYear | None = None,
    shift_k: float = 0.0,
) -> HouseOptions:
    """Ways of every room and measures of the house, with what each takes off every room's load.

    `lists`: the company's lists of products, beside the generic sizes; `weather`: the hours by which the sun counts that new panes keep
    out. Raises `NotFound` where there is no scheme to change
    or no climate.
    """
    if job.active_scheme is None:
        raise NotFound("There is no scheme to change: begin one.")
    known = _with_types(job)
    kept = Kept()
    house = view(known, Findings(), kept)
    if house.outdoor_c is None:
        raise NotFound("There is no climate yet, so no load.")
    arrays = of_house(house, Findings(), kept)
    worked = evaluate(arrays, house.outdoor_c)
    load_w = np.asarray(worked.emitter_load_w)
    base = design(job, kept)
    costs = _costs(job, base, prices, table, (load().catalogues["generic"], *lists))
    every = [rules.of_room(house, arrays, room, costs, load_w=float(load_w[n])) for n, room in enumerate(house.rooms)]
    wishes = job.schemes[job.active_scheme].wishes
    rooms = [combined(house, arrays, n, ways, wishes) for n, ways in enumerate(every)]
    served = [n for n, watts in enumerate(load_w) if watts > 0]
    shared, tried, packages = of_the_house(job, table, load_w, served, kept)
    marks = {n: {_mark(pick): _marked(house.rooms[n], pick) for pick in rooms[n].picks} for n in served}
    found = HouseOptions(
        job, house, arrays, costs, base, load_w, every, rooms, shared, tried, packages, served, [],
        np.asarray(worked.loss_per_k), marks, *measures.kept_out(job, weather, shift_k=shift_k), kept=kept,
    )  # fmt: skip
    found.unmet = _unmet(found, wishes)
    return found


def _marked(room: RoomView, pick: tuple[Way, ...]) -> tuple[float, float]:
    """How many kelvin a combination leaves its room cooler, and what part of its floor's loss it takes off."""
    cooler = sum(room.target_c - way.to_c for way in pick if way.to_c is not None)
    return cooler, sum(way.floor_share for way in pick)


def _mark(pick: tuple[Way, ...]) -> str:
    return " ".join(way.key for way in pick if way.to_c is not None or way.floor_share)


def _with_types(job: Job) -> Job:
    """The job with every panel of the library at hand, so that what is not in it yet can be rated."""
    types = {key: frozen_type(key) for key in PANELS} | dict(job.library.emitter_types)
    return job.model_copy(update={"library": job.library.model_copy(update={"emitter_types": types})})


def frozen_type(key: str) -> Frozen[EmitterTypeEntry]:
    entry = load().emitter_types[key]
    return Frozen[EmitterTypeEntry](origin="library", edition=EDITION, sha256=entry_sha256(entry), data=entry)


def _costs(job: Job, base: Design, prices: Prices, table: Table, lists: Lists) -> Costs:
    price = mean_minor_per_kwh(job)
    heat, loss = base.season.heat_kwh, base.house.loss_w
    bill = bill_minor(job, base.season)
    given = (heat or 0.0) - base.season.short_kwh
    each = bill / given if bill is not None and given > 0 else price / USUAL_SEASON
    return Costs(
        prices=prices, table=table, lists=lists, kwh_per_w=heat / loss if heat and loss else 2.0,
        extra_minor_per_kwh=max(price - each, 0.0), minor_per_kwh=price,
        heating_hours=base.season.heating_hours or 5000.0,
    )  # fmt: skip


def combined(house: HouseView, arrays: LossArrays, n: int, ways: list[Way], wishes: Mapping[str, str]) -> Combined:
    """A room's combinations, for its target and for every temperature that is accepted instead."""
    room = house.rooms[n]
    preferred = {key for key, wish in wishes.items() if wish == "prefer"}
    must = {key for key, wish in wishes.items() if wish == "must"} & {pin for way in ways for pin in way.pins}
    levels: list[Way | None] = [None, *(way for way in ways if way.to_c is not None)]
    out: list[Combined] = []
    for level in levels:
        asked = {key for key in must if level is None or key not in level.pins}
        if level is None and any(key.startswith((f"accept:{room.id}", f"way:accept-{room.id}")) for key in must):
            continue
        made = _at_target(
            house, room, ways, level.to_c if level and level.to_c is not None else room.target_c, preferred, asked
        )
        if level is not None and level.to_c is not None:
            cooler = room.target_c - level.to_c
            less = float(evaluate(arrays, house.outdoor_c or 0.0).loss_per_k[n]) * cooler
            made = Combined(
                [(*pick, level) for pick in made.picks], made.cost + level.cost_minor, made.gives_w + less, made.changes,
                [level.to_c] * len(made.picks), made.whole,
            )  # fmt: skip
        out.append(made)
    return Combined(
        [pick for one in out for pick in one.picks], np.concatenate([one.cost for one in out]),
        np.concatenate([one.gives_w for one in out]), [c for one in out for c in one.changes],
        [to for one in out for to in one.to_c], all(one.whole for one in out),
    )  # fmt: skip


def _at_target(
    house: HouseView, room: RoomView, ways: list[Way], target_c: float, preferred: set[str], must: set[str]
) -> Combined:
    arithmetic = house.practice.excess == "arithmetic"
    reference = reference_of(house.practice)
    mine = [one for one in house.emitters if one.room == room.id]
    now = {
        f"emitter:{one.id}": gives(
            rate(house, one, Findings(), reference_k=reference), flows_c=GRID_C, room_c=target_c, arithmetic=arithmetic,
            reference_k=reference,
        )
        for one in mine
    }  # fmt: skip
    names = list(dict.fromkeys([*now, *(way.slot for way in ways if way.to_c is None)]))
    beside = next((f"emitter:{way.beside}" for way in ways if way.beside is not None), None)
    if beside in names:  # the emitter a further one shares its wall with comes just before it
        names.remove(beside)
        names.insert(names.index(f"new:{room.id}"), beside)
    nothing = np.zeros(len(GRID_C))
    slots: list[list[tuple[Way | None, float, Array]]] = []
    for name in names:
        rows: list[tuple[Way | None, float, Array]] = [(None, 0.0, now.get(name, nothing))]
        for way in ways:
            if way.slot == name and way.to_c is None:
                watts = nothing if way.rated is None else gives(
                    way.rated, flows_c=GRID_C, room_c=target_c, arithmetic=arithmetic, reference_k=reference
                )  # fmt: skip
                watts = watts + way.takes_w - way.takes_w_k * (room.target_c - target_c)
                refused = beyond_it(way.rated, flows_c=GRID_C, room_c=target_c)
                rows.append((way, weighed(way, preferred, YEARS), np.where(refused, NEVER_W, watts)))
        slots.append(_worth(rows, preferred | must))
    survey = house.job.survey.emitters
    walls = {
        one.id: wall.length_m
        for one in mine
        if one.id in survey and (wall := survey[one.id].free_wall) is not None and wall.length_m is not None
    }
    lengths = {f"emitter:{one.id}": one.spec.length_m or 0.0 for one in mine}
    if not slots:
        return Combined([()], np.zeros(1), np.zeros((1, len(GRID_C))), [frozenset()], [None])
    return combine(slots, walls=walls, must=must, lengths=lengths)


def _worth(rows: list[tuple[Way | None, float, Array]], pinned: set[str]) -> list[tuple[Way | None, float, Array]]:
    """Ways of a slot that no other beats in what it counts, what it gives at every temperature, and length together."""
    kept: list[tuple[Way | None, float, Array]] = []
    for way, cost, watts in sorted(rows, key=lambda row: (row[1], -float(row[2].sum()))):
        beaten = way is not None and not pinned.intersection(way.pins) and any(
            other is not None and c <= cost and other.length_m <= way.length_m and other.construction == way.construction
            and bool((w >= watts).all())
            for other, c, w in kept
        )  # fmt: skip
        if not beaten:
            kept.append((way, cost, watts))
    return kept


def with_measures(found: HouseOptions, keys: Sequence[str]) -> Job:
    """The job with measures of the house, one after the other, each looked for on what the ones before left."""
    every = tuple(keys)
    if not every:
        return found.job
    if every not in found.built:
        before, last = with_measures(found, every[:-1]), every[-1]
        if len(every) == 1:
            found.built[every] = measures.applied(before, found.tried[last], measures.OWN)
        else:
            found.built[every] = measures.combined(before, [last], found.costs.table, measures.OWN)[0]
    return found.built[every]


def load_off(found: HouseOptions, keys: list[str]) -> Array:
    """What measures of the house, one after the other, take off every room's load (R,), W."""
    return found.load_w - losses_of(with_measures(found, keys), found.kept)[2].emitter_load_w


def _unmet(found: HouseOptions, wishes: Mapping[str, str]) -> list[str]:
    """Wishes nothing on offer can fulfil."""
    offered = {pin for ways in found.ways for way in ways for pin in way.pins}
    offered |= {pin for one in found.tried.values() for pin in measure_pins(one)}
    return [key for key, wish in wishes.items() if wish == "must" and key not in offered]


def applied(found: HouseOptions, chosen: Chosen, flow_c: float | None, *, concede: bool = True) -> Job:
    """The job with a set taken into its active scheme, the water at the temperature and the curve left to follow it.

    Without a temperature water and curve stay as they are.

    `concede` False leaves the rooms' temperatures as they are: a room kept cooler is no saving.
    """
    job = with_measures(found, chosen.shared)
    scheme_key = job.active_scheme or ""
    scheme = job.schemes[scheme_key]
    emitters, types, targets = dict(scheme.emitters), dict(job.library.emitter_types), dict(scheme.targets)
    done, built = dict(scheme.measures), dict(job.library.constructions)
    pos = max([m.pos for m in done.values()], default=-1.0) + 1
    for n, way in chosen.ways:
        if way.emitter is not None and way.action is not None:
            emitters[way.emitter] = way.action
            key = way.action.spec.type if way.action.spec else None
            if key is not None and key not in types:
                types[key] = frozen_type(key)
        if way.to_c is not None and concede:
            targets[found.house.rooms[n].id] = way.to_c
        for key, entry in way.constructions.items():
            built.setdefault(key, measures.frozen(entry, measures.OWN))
        for key, measure in way.measures.items():
            done[key] = measure.model_copy(update={"pos": pos})
            pos += 1
    changed: dict[str, Any] = {"emitters": emitters, "targets": targets, "measures": done}
    if flow_c is not None:
        changed |= {"flow_c": float(flow_c), "control": freed(scheme.control)}
    new = scheme.model_copy(update=changed)
    library = job.library.model_copy(update={"emitter_types": types, "constructions": built})
    return job.model_copy(update={"schemes": {**job.schemes, scheme_key: new}, "library": library})
