"""Four ways on from a hard house: fabric first, a hybrid now, the whole heat with large emitters, a high-temperature machine."""

from __future__ import annotations

import time
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

import numpy as np

from cinder.design.apart import measures, running, ways
from cinder.design.apart.alternatives.result import Alternative, Alternatives, Key
from cinder.design.apart.alternatives.say import decisions, of_all, of_later
from cinder.design.apart.running.money import fifteen_years
from cinder.design.apart.running.result import Present, Running, Span
from cinder.design.apart.ways.cheapest import Cheapest
from cinder.design.apart.ways.options import Chosen, HouseOptions, applied
from cinder.design.apart.ways.way import Lists, Table
from cinder.design.apart.ways.way import Prices as Panels
from cinder.design.curve.fit import freed
from cinder.design.findings import Findings
from cinder.design.house.prices import present_fuel
from cinder.design.house.tariff import prices_of
from cinder.design.house.view import view
from cinder.design.judgement import design
from cinder.design.machine.load import Standing, performance_map, standing_of, tested_map
from cinder.design.result import Design
from cinder.errors import NotFound
from cinder.library import EDITION, HourlyYear, MachineEntry, entry_sha256
from cinder.model import Frozen, Job, Scheme
from cinder.model.practice import Practice
from cinder.model.scheme import Backup, Candidate
from cinder.patience import go_on
from cinder.physics.machine import heat_pump

TITLES: dict[Key, str] = {
    "fabric": "Fabric first", "hybrid": "A hybrid now", "full": "The whole heat, large emitters",
    "hot": "A high-temperature machine",
}  # fmt: skip
HYBRID_SHARE = 0.5
"""Of the design day's loss the machine of a hybrid covers at the least (our choice)."""
HYBRID_AIR_C = 2.0
"""Down to here it must reach the water the emitters ask for (our choice)."""
FULL_FLOWS_C = (45, 48, 50, 52, 55)
"""Water the large emitters are chosen for: the first of these with a set that serves every room (our choice)."""
LONGEST_S = 15.0
"""Beyond this nobody waits for the set of large emitters (our choice, as for the front)."""
RATED_AIR_C, RATED_WATER_C = 2.0, 35.0
"""Where the size of a machine is told by which it is priced (our choice)."""
PAYS_WITHIN = 25.0
"""Years within which a measure of the house pays by what it saves of today's fuel, to be taken first (our choice)."""
KWH_PER_W = 2.0
"""Heat a year for a watt of the design day's loss, where no season is known (common practice)."""
LEAST_WATER_C, MOST_WATER_C = 30.0, 75.0
CANDIDATE = "alternative"
MACHINE = "alternative"


@dataclass(frozen=True, slots=True)
class Given:
    """What every way is worked from."""

    job: Job
    bare: Job
    weather: HourlyYear | None
    shift_k: float
    loss_range: tuple[float, float] | None
    shelf: Mapping[str, MachineEntry]
    panels: Panels
    table: Table
    lists: Lists
    today: Present | None
    today_lacks: str
    """What heats the house today, in the house as found; else why there is nothing to compare with."""
    standing: Standing
    """What the place takes off every machine: glycol, thin air."""


def judge(
    job: Job, *, panels: Panels, table: Table, lists: Lists, shelf: Mapping[str, MachineEntry], weather: HourlyYear | None,
    shift_k: float = 0.0, loss_range: tuple[float, float] | None = None,
) -> Alternatives:  # fmt: skip
    """The four ways from the house as it was found, each run through the whole chain and the hours of a year.

    `shelf`: the machines one may be chosen from. Raises nothing: what cannot be had says why.
    """
    if job.active_scheme is None:
        return _nothing("There is no scheme to begin from: choose one at the top left.")
    bare = _at_its_water(_bare(job))
    found = design(bare)
    now, lacks = running.present_of(bare, found, weather, shift_k=shift_k, loss_range=loss_range)
    given = Given(
        job,
        bare,
        weather,
        shift_k,
        loss_range,
        shelf,
        panels,
        table,
        lists,
        now,
        lacks,
        standing_of(view(bare, Findings())),
    )
    if found.house.loss_w is None or found.house.outdoor_c is None or not found.curve.line_c:
        return _nothing("The house or its climate is not complete yet.")
    try:
        options = ways.options_of(given.bare, panels, table, lists, weather=weather, shift_k=shift_k)
    except NotFound as error:
        return _nothing(error.message)
    rows = [_fabric(given, options), _hybrid(given, found)]
    go_on()
    rows += [_full(given, options), _hot(given, found)]
    return Alternatives(
        lacks="", rows=rows, later=of_later(rows[1], rows[2], job.currency),
        sentence=of_all(rows, job.currency), priced=_priced(given),
    )  # fmt: skip


def _nothing(lacks: str) -> Alternatives:
    return Alternatives(lacks=lacks, rows=[], later="", sentence=lacks, priced="")


def _bare(job: Job) -> Job:
    """The active scheme with what the customer wants and rules out, and nothing done yet."""
    key = job.active_scheme or ""
    scheme = job.schemes[key]
    empty: dict[str, Any] = {
        "measures": {}, "emitters": {}, "candidates": {}, "chosen": None, "flow_c": None, "pipes": {},
        "control": freed(scheme.control),
    }  # fmt: skip
    return job.model_copy(update={"schemes": {**job.schemes, key: scheme.model_copy(update=empty)}})


def _at_its_water(bare: Job) -> Job:
    """With the water every room asks for as it is, as far as anything makes it."""
    needed = design(bare).waterline.needed_flow_c
    return bare if needed is None else _with(bare, flow_c=float(np.clip(np.ceil(needed), LEAST_WATER_C, MOST_WATER_C)))


def _scheme(job: Job) -> Scheme:
    return job.schemes[job.active_scheme or ""]


def _with(job: Job, **changed: Any) -> Job:
    key = job.active_scheme or ""
    return job.model_copy(update={"schemes": {**job.schemes, key: job.schemes[key].model_copy(update=changed)}})


def _rated_w(entry: MachineEntry) -> float:
    """Its size, as machines are priced by it, W."""
    at = heat_pump.operate(tested_map(entry), outdoor_c=np.array(RATED_AIR_C), water_c=np.array(RATED_WATER_C))
    return float(at.greatest_w)


def _gives_w(given: Given, entry: MachineEntry, outdoor_c: float, water_c: float) -> float:
    """Its greatest output where it would stand, W; 0 outside its envelope."""
    table = performance_map(entry, given.standing)
    return float(heat_pump.operate(table, outdoor_c=np.array(outdoor_c), water_c=np.array(water_c)).greatest_w)


def _smallest(given: Given, points: list[tuple[float, float]], watts: float) -> MachineEntry | None:
    """The smallest machine that reaches every (outdoor, water) and gives so much at the first of them."""
    able = [
        (_gives_w(given, entry, *points[0]), key, entry)
        for key, entry in given.shelf.items()
        if _gives_w(given, entry, *points[0]) >= watts
        and all(_gives_w(given, entry, *point) > 0 for point in points[1:])
    ]
    return min(able, key=lambda row: row[:2])[2] if able else None


def _placed(given: Given, job: Job, entry: MachineEntry, backup: Backup) -> Job:
    """The job with a machine as the only candidate, at the place and price of one like it where there is one."""
    mine = [
        one
        for one in _scheme(given.job).candidates.values()
        if given.job.library.machines[one.machine].data.id == entry.id
    ]
    place = next((one.place for one in _scheme(given.job).candidates.values() if one.place), None)
    cost = mine[0].cost_minor if mine and mine[0].cost_minor is not None else _price(given, entry)
    candidate = Candidate(
        machine=MACHINE, place=mine[0].place if mine and mine[0].place else place, backup=backup, cost_minor=cost,
        service_minor=next((one.service_minor for one in mine), None),
    )  # fmt: skip
    frozen = Frozen[MachineEntry](origin="library", edition=EDITION, sha256=entry_sha256(entry), data=entry)
    library = job.library.model_copy(update={"machines": {**job.library.machines, MACHINE: frozen}})
    job = job.model_copy(update={"library": library})
    return _with(job, candidates={CANDIDATE: candidate}, chosen=CANDIDATE)


def _price(given: Given, entry: MachineEntry) -> float:
    """Machine and work where nobody has priced them: by the practice, with the machine's own price where it has one."""
    return given.job.practice.machine_work_minor + machine_goods_minor(given.job.practice, entry)


def machine_goods_minor(practice: Practice, entry: MachineEntry) -> float:
    """A machine alone: its own price, else the practice's by what it gives at A7/W35."""
    if entry.price_minor is not None:
        return entry.price_minor
    return practice.machine_minor_per_kw * _rated_w(entry) / 1000


def _priced(given: Given) -> str:
    p = given.job.practice
    currency = given.job.currency
    return (
        f"A machine nobody has priced counts {p.machine_work_minor / 100:g} {currency} of work and "
        f"{p.machine_minor_per_kw / 100:g} for each kW it gives at A{RATED_AIR_C:g}/W{RATED_WATER_C:g} (our choice)."
    )


def _fabric(given: Given, options: HouseOptions) -> Alternative:
    """Measures of the house that pay by what they save of today's fuel; the present heater stays."""
    present = given.today
    if present is None:
        return _lacking("fabric", given.today_lacks)
    per_kwh = (present.cost_minor.mid / (present.fuel_kwh * present.efficiency)) if present.fuel_kwh else 0.0
    keys: list[str] = []
    seen: set[str] = set()
    tried = measures.judge(given.bare, table=given.table, weather=given.weather, shift_k=given.shift_k).tried
    worth = sorted(tried, key=lambda one: one.option.cost_minor / max(one.effect.loss_w, 1e-9))
    for one in worth:
        heat = one.effect.heat_kwh if one.effect.heat_kwh else one.effect.loss_w * KWH_PER_W
        pays = one.effect.loss_w > 0 and one.option.cost_minor <= PAYS_WITHIN * heat * per_kwh
        mark = one.option.was or one.option.measure
        if pays and mark not in seen and one.option.key in options.tried:
            seen.add(mark)
            keys.append(one.option.key)
    if not keys:
        return _lacking("fabric", f"No measure the tool knows pays within {PAYS_WITHIN:g} years against today's fuel.")
    answer = Cheapest(True, (), (), 0.0, True, 0.0, np.zeros(0))
    after = _at_its_water(applied(options, Chosen(answer, [], keys, 0.0, 0.0), None))
    result = design(after)
    now, _ = running.present_of(after, result, given.weather, shift_k=given.shift_k, loss_range=given.loss_range)
    once = _done_minor(after)
    fifteen = fifteen_years(now.cost_minor, once, prices_of(given.job).rise) if now else None
    saves = None
    if now is not None:
        pairs = zip(
            (present.cost_minor.low, present.cost_minor.mid, present.cost_minor.high),
            (now.cost_minor.low, now.cost_minor.mid, now.cost_minor.high),
            strict=True,
        )
        low, mid, high = (was - will for was, will in pairs)
        saves = Span(low=min(low, mid, high), mid=mid, high=max(low, mid, high))
    return _alternative(
        given, "fabric", after, result, machine="", backup=f"{present.label}, as today", row=None,
        figures={
            "cost_minor": now.cost_minor if now else None, "saves_minor": saves, "carbon_kg": now.carbon_kg.mid if now else None,
            "once_minor": once, "fifteen_minor": fifteen,
        },
    )  # fmt: skip


def _hybrid(given: Given, found: Design) -> Alternative:
    """Everything in the rooms stays; a machine carries what it can, the boiler the rest."""
    flow, loss, outdoor = found.waterline.chosen_flow_c, found.house.loss_w or 0.0, found.house.outdoor_c or 0.0
    mild = float(np.interp(HYBRID_AIR_C, found.curve.outdoor_c, found.curve.line_c))
    entry = _smallest(given, [(HYBRID_AIR_C, mild)], HYBRID_SHARE * loss)
    if entry is None:
        return _lacking("hybrid", f"No machine on the shelf makes {mild:.0f} °C water at {HYBRID_AIR_C:g} °C outside.")
    fuel = present_fuel(given.job)
    there = fuel is not None and fuel != "electricity"
    reaches = flow is not None and _gives_w(given, entry, outdoor, flow) > 0
    backup = Backup(kind="boiler" if there else "new boiler", mode="parallel" if reaches else "alternate")
    job = _placed(given, given.bare, entry, backup)
    result = design(job)
    return _of_machine(given, "hybrid", job, result, entry)


def _full(given: Given, options: HouseOptions) -> Alternative:
    """The cheapest set of emitters and measures at which the machine carries the house alone."""
    until = time.monotonic() + LONGEST_S
    for flow in FULL_FLOWS_C:
        chosen = ways.at(options, float(flow), until=until)
        if not chosen.answer.possible:
            if time.monotonic() > until:
                return _lacking("full", "Too many ways to combine: the cheapest set could not be weighed in time.")
            continue
        job = applied(options, chosen, float(flow))
        result = design(job)
        entry = _smallest(given, [(result.house.outdoor_c or 0.0, float(flow))], result.house.loss_w or 0.0)
        if entry is None:
            return _lacking(
                "full", f"No machine on the shelf carries {(result.house.loss_w or 0) / 1000:.1f} kW at {flow} °C."
            )
        job = _placed(given, job, entry, Backup())
        return _of_machine(given, "full", job, design(job), entry)
    return _lacking("full", f"No set of changes the tool knows serves every room at {FULL_FLOWS_C[-1]} °C or below.")


def _hot(given: Given, found: Design) -> Alternative:
    """Everything in the rooms stays; a machine that makes the water they ask for."""
    flow, outdoor = found.waterline.chosen_flow_c, found.house.outdoor_c or 0.0
    if flow is None:
        return _lacking("hot", "The rooms have no emitters whose water could be told.")
    entry = _smallest(given, [(outdoor, flow)], found.house.loss_w or 0.0)
    if entry is None:
        return _lacking(
            "hot", f"No machine on the shelf makes {flow:.0f} °C at {outdoor:.0f} °C outside with output enough."
        )
    job = _placed(given, given.bare, entry, Backup())
    return _of_machine(given, "hot", job, design(job), entry)


def _of_machine(given: Given, key: Key, job: Job, result: Design, entry: MachineEntry) -> Alternative:
    runs = running.judge(job, result, given.weather, shift_k=given.shift_k, loss_range=given.loss_range)
    row: Running | None = next(iter(runs.rows), None)
    once = _done_minor(job) + (row.once_minor or 0.0 if row else 0.0)
    saves = row.saves_minor if row else None
    was = given.today
    if saves is not None and was is not None and runs.present is not None:
        # a row compares with today's heater in the house as it then is; here what the house itself no longer asks is saved too
        less = [getattr(was.cost_minor, n) - getattr(runs.present.cost_minor, n) for n in ("low", "mid", "high")]
        saves = Span(low=saves.low + less[0], mid=saves.mid + less[1], high=saves.high + less[2])
    rise = prices_of(given.job).rise
    return _alternative(
        given, key, job, result, machine=entry.label, backup=row.backup if row else "", row=row,
        figures={
            "cost_minor": row.cost_minor if row else None, "saves_minor": saves,
            "carbon_kg": row.carbon_kg.mid if row else None, "once_minor": once,
            "fifteen_minor": fifteen_years(row.cost_minor, once, rise) if row else None,
        },
    )  # fmt: skip


def _done_minor(job: Job) -> float:
    """What is done to rooms and house costs."""
    scheme = _scheme(job)
    costs = [one.cost_minor for one in scheme.measures.values()] + [one.cost_minor for one in scheme.emitters.values()]
    return sum(cost or 0.0 for cost in costs)


def _alternative(
    given: Given, key: Key, job: Job, result: Design, *, machine: str, backup: str, row: Running | None,
    figures: dict[str, Any],
) -> Alternative:  # fmt: skip
    scheme, labels = _scheme(job), {room.id: room.label for room in result.rooms}
    survey = job.survey.emitters
    touched = [
        action.room or (survey[one].room if one in survey else None) for one, action in scheme.emitters.items()
    ] + [measure.room for measure in scheme.measures.values()]
    by_measure = [measure.disturbance or 0 for measure in scheme.measures.values()]
    cover = next((one.cover for one in result.machine.rows), None)
    keeps, decides = decisions(key, result, row)
    return Alternative.model_validate(
        {
            "key": key, "title": TITLES[key], "what": _what(scheme), "lacks": "", "machine": machine, "backup": backup,
            "flow_c": result.waterline.chosen_flow_c, "loss_w": result.house.loss_w, "cover": cover,
            "heat_share": row.heat_share if row else None, "changes": len(scheme.measures) + len(scheme.emitters),
            "rooms": sorted({labels[room] for room in touched if room in labels}),
            "disturbance": max([*by_measure, 2 if scheme.emitters else 0], default=0),
            "short": [room.label for room in result.rooms if room.status == "short"], "keeps_open": keeps, "decides": decides,
            "operations": _operations(given, job, TITLES[key]), **figures,
        }
    )  # fmt: skip


def _what(scheme: Scheme) -> str:
    said = [measure.label for measure in scheme.measures.values() if measure.label]
    emitters = len(scheme.emitters)
    if emitters:
        said.append(f"{emitters} {'emitter' if emitters == 1 else 'emitters'} changed")
    return "; ".join(dict.fromkeys(said)) or "nothing in the rooms changes"


def _operations(given: Given, job: Job, title: str) -> list[dict[str, Any]]:
    """What begins a scheme of this in the job: copies of the library first."""
    out: list[dict[str, Any]] = []
    for kind in ("constructions", "emitter_types", "machines"):
        for key, frozen in getattr(job.library, kind).items():
            if key in getattr(given.job.library, kind):
                continue
            name = frozen.data.id if kind == "machines" else key
            if name not in getattr(given.job.library, kind):
                out.append({"op": "add", "path": f"/library/{kind}/{name}", "value": frozen.model_dump(mode="json")})
    scheme = _scheme(job)
    machines = {
        key: one.model_copy(update={"machine": job.library.machines[one.machine].data.id})
        for key, one in scheme.candidates.items()
    }
    used = _used(job, scheme)
    out = [
        one
        for one in out
        if not one["path"].startswith("/library/emitter_types/") or one["path"].split("/")[-1] in used
    ]
    value = scheme.model_copy(update={"label": title, "pos": _last(given.job), "candidates": machines})
    out.append({"op": "add", "path": "/schemes/new", "value": value.model_dump(mode="json", exclude_none=True)})
    return out


def _used(job: Job, scheme: Scheme) -> set[str]:
    return {action.spec.type for action in scheme.emitters.values() if action.spec and action.spec.type}


def _last(job: Job) -> float:
    return max((one.pos for one in job.schemes.values()), default=0.0) + 1


def _lacking(key: Key, lacks: str) -> Alternative:
    keeps, decides = decisions(key, None, None)
    return Alternative(
        key=key, title=TITLES[key], what="", lacks=lacks, machine="", backup="", flow_c=None, loss_w=None, cover=None,
        heat_share=None, cost_minor=None, saves_minor=None, carbon_kg=None, once_minor=None, fifteen_minor=None, changes=0,
        rooms=[], disturbance=0, short=[], keeps_open=keeps, decides=decides, operations=[],
    )  # fmt: skip
