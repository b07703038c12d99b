"""Ways to live on cooler water: panels that fit each room, measures on the house, and the cheapest set of them for every
flow temperature."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import product
from typing import Any

import numpy as np

from cinder.design import measures
from cinder.design.chain import design
from cinder.design.cheapest import Cheapest, Choice, Shared, cheapest
from cinder.design.emitters import rate
from cinder.design.findings import Findings
from cinder.design.house import EmitterView, HouseView, view
from cinder.design.losses import assemble, evaluate
from cinder.design.money import price_minor_per_kwh
from cinder.design.result_ways import Change, Front, FrontPoint, Lacking
from cinder.design.working_parts import num
from cinder.errors import NotFound
from cinder.library import EDITION, EmitterPriceEntry, EmitterTypeEntry, MeasureEntry, entry_sha256, load
from cinder.model import EmitterSpec, Frozen, Job
from cinder.model.scheme import EmitterAction
from cinder.physics import radiator
from cinder.physics.quantity import Array

Prices = dict[str, EmitterPriceEntry]
Table = dict[str, MeasureEntry]
FLOWS_C = range(30, 61)
YEARS = 15
LENGTHS_M = (0.4, 0.5, 0.6, 0.8, 1.0, 1.2, 1.4, 1.6, 1.8, 2.0, 2.4, 3.0)
NEW_HEIGHT_M = 0.6
NEW_LENGTH_M = 1.2
"""A room without any emitter is offered panels up to this length until a free wall is recorded (our choice)."""
GAP_M = 0.1
MOST_A_ROOM = 40
HAND_SET = ("cold_out_c", "cold_flow_c", "mild_out_c", "mild_flow_c", "greatest_flow_c")
REPLACEABLE = ("t10", "t11", "t20", "t21", "t22", "t33", "column-2", "column-4")


@dataclass(slots=True)
class Way:
    """One emitter changed, or one added: what it becomes, what it costs, and where the scheme says so."""

    key: str
    emitter: str
    action: EmitterAction
    label: str
    cost_minor: float
    disturbance: int
    rated_w: float
    exponent: float
    length_m: float
    beside: str | None = None
    """For a further radiator: the emitter whose free wall it shares."""


@dataclass(slots=True)
class RoomWays:
    """What may be done in a room: every combination of ways that is worth looking at, the first is to do nothing."""

    combinations: list[tuple[Way, ...]]
    kept: list[list[tuple[float, float]]]
    """Ratings and exponents of all that then hangs in the room, by combination."""
    costs: list[float]


def _price(key: str, prices: Prices, length_m: float, height_m: float, labour: str) -> float:
    entry = prices[key]
    return float(round(entry.m_minor * length_m * (height_m / 0.6) + getattr(entry, f"{labour}_minor"), -2))


def _panel(key: str, length_m: float, height_m: float) -> tuple[float, float]:
    """Rating, W, and exponent of a panel of a type."""
    entry = load().emitter_types[key]
    watts = radiator.panel_rating(
        length_m=length_m, height_m=height_m, w_per_m_at_600=entry.w_per_m_at_600, height_exponent=entry.height_exponent
    )
    return watts, entry.exponent


def _of_emitter(house: HouseView, one: EmitterView, prices: Prices) -> list[Way]:
    """Deeper on the same pipe centres; longer within the free wall."""
    spec = one.spec
    if spec.kind != "panel" or spec.type not in REPLACEABLE or spec.length_m is None or spec.height_m is None:
        return []
    survey = house.job.survey.emitters.get(one.id)
    free = survey.free_wall.length_m if survey is not None and survey.free_wall is not None else None
    further = next((e.spec.length_m for e in house.emitters if e.id == f"new-{one.room}"), None)
    if free is not None and further is not None:
        free -= further + GAP_M  # what an earlier set hung there takes its part of the wall
    now = _panel(spec.type, spec.length_m, spec.height_m)[0]
    added = one.action == "add"
    longer = [metres for metres in LENGTHS_M if free is not None and spec.length_m < metres <= free]
    out = []
    for key in prices:
        for length in (spec.length_m, *longer):
            watts, exponent = _panel(key, length, spec.height_m)
            if watts <= now * 1.02:
                continue
            same = length == spec.length_m
            new = spec.model_copy(
                update={"kind": "panel", "type": key, "length_m": length, "output_w": None, "exponent": None}
            )
            size = f"{key.upper()} {length * 1000:.0f} × {spec.height_m * 1000:.0f}"
            where = "on the same pipes" if same else "longer"
            cost = _price(key, prices, length, spec.height_m, "same" if same else "longer")
            action = EmitterAction(
                action="add" if added else "replace", spec=new, label=one.label, room=one.room if added else None,
                cost_minor=cost,
            )  # fmt: skip
            out.append(
                Way(
                    f"{one.id}:{key}:{length:g}",
                    one.id,
                    action,
                    f"{one.label or 'Radiator'}: {size}, {where}",
                    cost,
                    1 if same else 2,
                    watts,
                    exponent,
                    length,
                )
            )
    return out


def _added(house: HouseView, room: str, emitters: list[EmitterView], prices: Prices) -> list[Way]:
    """A further panel where the free wall has room for it; or a first one."""
    free, height, beside = 0.0, NEW_HEIGHT_M, None
    if any(one.id == f"new-{room}" for one in emitters):
        return []  # there is one already in this scheme: it may grow, no second is offered
    for one in emitters:
        survey = house.job.survey.emitters.get(one.id)
        if survey is not None and survey.free_wall is not None and survey.free_wall.length_m and one.spec.length_m:
            left = survey.free_wall.length_m - one.spec.length_m - GAP_M
            if left > free:
                free, height, beside = left, one.spec.height_m or NEW_HEIGHT_M, one.id
    if not emitters:
        free = NEW_LENGTH_M
    out = []
    for key in prices:
        for length in (one for one in LENGTHS_M if one <= free + 1e-9):
            watts, exponent = _panel(key, length, height)
            cost = _price(key, prices, length, height, "new")
            action = EmitterAction(
                action="add", room=room, label="Further radiator" if emitters else "Radiator", cost_minor=cost,
                spec=EmitterSpec(kind="panel", type=key, length_m=length, height_m=height),
            )  # fmt: skip
            size = f"{key.upper()} {length * 1000:.0f} × {height * 1000:.0f}"
            word = "a further radiator" if emitters else "a radiator"
            out.append(
                Way(
                    f"new-{room}:{key}:{length:g}",
                    f"new-{room}",
                    action,
                    f"{word}, {size}",
                    cost,
                    3,
                    watts,
                    exponent,
                    length,
                    beside,
                )
            )
    return out


def room_ways(house: HouseView, room: str, prices: Prices, refused: set[str]) -> RoomWays:
    """Every combination of ways in a room that no other beats in cost and rating."""
    mine = [one for one in house.emitters if one.room == room]
    stays: list[list[Way | None]] = []
    ratings: dict[str, tuple[float, float]] = {}
    for one in mine:
        rated = rate(house, one, Findings(), reference_k=radiator.LOG_REFERENCE_K)
        ratings[one.id] = (rated.rated_w or 0.0, rated.exponent)
        offered = [] if f"emitter:{one.id}" in refused else _of_emitter(house, one, prices)
        stays.append([None, *_best(offered)])
    further = [] if f"new:{room}" in refused else _best(_added(house, room, mine, prices))
    stays.append([None, *further])
    found = []
    for picks in product(*stays):
        ways = tuple(way for way in picks if way is not None)
        if not _fits(house, ways):
            continue
        changed = {way.emitter for way in ways}
        kept = [ratings[one.id] for one in mine if one.id not in changed]
        found.append((sum(way.cost_minor for way in ways), ways, kept + [(way.rated_w, way.exponent) for way in ways]))
    found.sort(key=lambda item: (item[0], -sum(watts for watts, _ in item[2])))
    out, best = RoomWays([], [], []), -1.0
    for cost, ways, all_rated in found:
        total = sum(watts for watts, _ in all_rated)
        if total > best + 1.0 and len(out.combinations) < MOST_A_ROOM:
            out.combinations.append(ways)
            out.kept.append(all_rated)
            out.costs.append(cost)
            best = total
    return out


def _fits(house: HouseView, ways: tuple[Way, ...]) -> bool:
    """Whether a further radiator and the changed one beside it still share their free wall."""
    lengths = {way.emitter: way.length_m for way in ways}
    for way in ways:
        if way.beside is not None and way.beside in lengths:
            wall = house.job.survey.emitters[way.beside].free_wall
            free = wall.length_m if wall is not None and wall.length_m is not None else 0.0
            if lengths[way.beside] + GAP_M + way.length_m > free + 1e-9:
                return False
    return True


def _best(ways: list[Way]) -> list[Way]:
    """Those that no other beats in cost, rating and length together."""
    return [
        way
        for way in ways
        if not any(
            other is not way
            and other.cost_minor <= way.cost_minor
            and other.rated_w >= way.rated_w
            and other.length_m <= way.length_m
            and (other.cost_minor, -other.rated_w, other.length_m, other.key)
            < (way.cost_minor, -way.rated_w, way.length_m, way.key)
            for other in ways
        )
    ]


def relative_excess(*, flow_c: float, spread_k: float, target_c: float, arithmetic: bool) -> float:
    """Excess over the reference at a flow temperature with the design spread; 0 where the return is too cold."""
    back = flow_c - spread_k
    if back <= target_c:
        return 0.0
    mean = radiator.arithmetic_excess if arithmetic else radiator.log_excess
    reference = radiator.ARITHMETIC_REFERENCE_K if arithmetic else radiator.LOG_REFERENCE_K
    return float(mean(flow_c=flow_c, return_c=back, room_c=target_c)) / reference


@dataclass(slots=True)
class Board:
    """Everything the cheapest set is chosen from, the same for every flow temperature."""

    job: Job
    house: HouseView
    load_w: Array
    target_c: Array
    rooms: list[RoomWays]
    shared: list[Shared]
    tried: dict[str, Any]
    served: list[int]
    """Rooms that have a load and belong to the choice."""


def board(job: Job, prices: Prices, table: Table) -> Board:
    """Ways of every room and measures of the house, with what each takes off every room's load.

    Raises `NotFound` where there is no scheme to change or no climate.
    """
    if job.active_scheme is None:
        raise NotFound("There is no scheme to change: begin one.")
    house = view(job, Findings())
    if house.outdoor_c is None:
        raise NotFound("There is no climate yet, so no load.")
    refused = set(job.schemes[job.active_scheme].refused)
    load_w = _loads(job)
    served = [n for n, watts in enumerate(load_w) if watts > 0]
    rooms = [room_ways(house, room.id, prices, refused) for room in house.rooms]
    shared, tried = [], {}
    for found in measures.found_in(job, table):
        if (
            f"measure:{found.option.key}" in refused
            or f"measure:{found.option.measure}:{found.option.was or ''}" in refused
        ):
            continue
        takes = np.maximum(load_w - _loads(measures.applied(job, found, measures.OWN)), 0.0)
        if takes.sum() > 1.0:
            shared.append(Shared(found.option.key, found.option.cost_minor, takes[served], found.option.was or "air"))
            tried[found.option.key] = found
    target = np.array([room.target_c for room in house.rooms])
    return Board(job, house, load_w, target, rooms, shared, tried, served)


def _loads(job: Job) -> Array:
    house = view(job, Findings())
    found = assemble(house, Findings())
    return np.asarray(evaluate(found, house.outdoor_c or 0.0).emitter_load_w)


def at(found: Board, flow_c: float) -> tuple[Cheapest, list[list[tuple[Way, ...]]]]:
    """The cheapest set at one flow temperature, and the combinations its choices point at."""
    arithmetic = found.house.practice.excess == "arithmetic"
    rooms = []
    for n in found.served:
        ways = found.rooms[n]
        x = relative_excess(
            flow_c=flow_c, spread_k=found.house.spread_k, target_c=float(found.target_c[n]), arithmetic=arithmetic
        )
        rooms.append(
            [
                Choice(str(k), ways.costs[k], sum(watts * x**exponent for watts, exponent in rated))
                for k, rated in enumerate(ways.kept)
            ]
        )
    return cheapest(found.load_w[found.served], rooms, found.shared), [
        found.rooms[n].combinations for n in found.served
    ]


def _picked(found: Board, answer: Cheapest, combinations: list[list[tuple[Way, ...]]]) -> list[tuple[int, Way]]:
    return [(found.served[r], way) for r, key in enumerate(answer.chosen) for way in combinations[r][int(key)]]


def applied(found: Board, answer: Cheapest, picked: list[tuple[int, Way]], flow_c: float, table: Table) -> Job:
    """The job with a set taken into its active scheme, the water at the temperature and the curve left to follow it."""
    job = found.job
    if answer.shared:
        job = measures.combined(job, list(answer.shared), table, measures.OWN)[0]
    scheme_key = job.active_scheme or ""
    scheme = job.schemes[scheme_key]
    emitters, types = dict(scheme.emitters), dict(job.library.emitter_types)
    for _, way in picked:
        emitters[way.emitter] = way.action
        key = way.action.spec.type if way.action.spec else None
        if key is not None and key not in types:
            entry = load().emitter_types[key]
            types[key] = Frozen[EmitterTypeEntry](
                origin="library", edition=EDITION, sha256=entry_sha256(entry), data=entry
            )
    control = scheme.control.model_copy(update=dict.fromkeys(HAND_SET))
    new = scheme.model_copy(update={"emitters": emitters, "flow_c": float(flow_c), "control": control})
    library = job.library.model_copy(update={"emitter_types": types})
    return job.model_copy(update={"schemes": {**job.schemes, scheme_key: new}, "library": library})


def _point(found: Board, flow_c: float, table: Table) -> FrontPoint:
    answer, combinations = at(found, flow_c)
    rooms = found.house.rooms
    if not answer.possible:
        lacking = [
            Lacking(room=rooms[n].id, label=rooms[n].room.label, short_w=float(answer.short_w[r]))
            for r, n in enumerate(found.served)
            if answer.short_w[r] > 0
        ]
        return FrontPoint(
            flow_c=flow_c, possible=False, proved=answer.proved, gap=0.0, cost_minor=None, season=None, electricity_kwh=None,
            bill_minor=None, total_minor=None, needed_flow_c=None, changes=[], lacking=lacking,
        )  # fmt: skip
    picked = _picked(found, answer, combinations)
    after = design(applied(found, answer, picked, flow_c, table))
    changes = [
        Change(
            room=rooms[n].id, room_label=rooms[n].room.label, what=way.label, cost_minor=way.cost_minor,
            disturbance=way.disturbance, refuse=f"new:{rooms[n].id}" if way.emitter.startswith("new-") else f"emitter:{way.emitter}",
        )
        for n, way in picked
    ]  # fmt: skip
    for key in answer.shared:
        option = found.tried[key].option
        what = f"{option.label}{', ' + option.detail if option.detail else ''}"
        changes.append(
            Change(room="", room_label="The house", what=what, cost_minor=option.cost_minor, disturbance=option.disturbance,
                   refuse=f"measure:{option.measure}:{option.was or ''}")
        )  # fmt: skip
    drawn, price = after.season.electricity_kwh, price_minor_per_kwh(found.job)
    bill = drawn * price if drawn is not None else None
    return FrontPoint(
        flow_c=flow_c, possible=True, proved=answer.proved, gap=answer.gap, cost_minor=answer.cost,
        season=after.season.performance, electricity_kwh=drawn, bill_minor=bill,
        total_minor=answer.cost + YEARS * bill if bill is not None else None, needed_flow_c=after.waterline.needed_flow_c,
        changes=changes, lacking=[],
    )  # fmt: skip


def front(job: Job, prices: Prices, table: Table) -> Front:
    """The cheapest set for every whole flow temperature from 30 to 60 deg C, with the season it gives.

    Season by the chosen machine's own map at that water; the cost of 15 years without interest or rising prices.
    """
    found = board(job, prices, table)
    points = [_point(found, float(flow), table) for flow in FLOWS_C]
    scheme = job.schemes[job.active_scheme or ""]
    return Front(points=points, refused=list(scheme.refused), years=YEARS, sentence=_sentence(points))


def _sentence(points: list[FrontPoint]) -> str:
    possible = [p for p in points if p.possible and p.cost_minor is not None]
    if not possible:
        return "No set of changes the tool knows serves every room, not even at 60 °C."
    free = next((p for p in possible if p.cost_minor == 0), None)
    lowest = possible[0]
    said = f"The lowest water with what the tool knows is **{num(lowest.flow_c, 0)} °C**"
    if free is not None:
        said = f"Nothing need be changed for **{num(free.flow_c, 0)} °C**; {said[0].lower()}{said[1:]}"
    whole = [p for p in possible if p.total_minor is not None]
    if whole:
        best = min(whole, key=lambda p: p.total_minor or 0.0)
        said += f"; over {YEARS} years **{num(best.flow_c, 0)} °C** comes cheapest"
    return said + "."


def operations(job: Job, flow_c: float, prices: Prices, table: Table) -> list[dict[str, Any]]:
    """The one change that takes the cheapest set at a temperature into the active scheme.

    Raises `NotFound` where no set serves every room, naming the rooms and what they lack.
    """
    found = board(job, prices, table)
    answer, combinations = at(found, flow_c)
    if not answer.possible:
        rooms = found.house.rooms
        lacks = [
            f"{rooms[n].room.label} by {answer.short_w[r]:.0f} W"
            for r, n in enumerate(found.served)
            if answer.short_w[r] > 0
        ]
        raise NotFound(
            f"No set of changes serves every room at {flow_c:g} °C: short {', '.join(lacks) or 'by what excludes each other'}."
        )
    after = applied(found, answer, _picked(found, answer, combinations), flow_c, table)
    key = job.active_scheme or ""
    out: list[dict[str, Any]] = []
    for kind in ("constructions", "emitter_types"):
        for name, frozen in getattr(after.library, kind).items():
            if name not in getattr(job.library, kind):
                out.append({"op": "add", "path": f"/library/{kind}/{name}", "value": frozen.model_dump(mode="json")})
    before, now = job.schemes[key], after.schemes[key]
    for kind in ("measures", "emitters"):
        known = getattr(before, kind)
        for name, one in getattr(now, kind).items():
            if known.get(name) != one:
                value = one.model_dump(mode="json", exclude_none=True)
                out.append(
                    {
                        "op": "replace" if name in known else "add",
                        "path": f"/schemes/{key}/{kind}/{name}",
                        "value": value,
                    }
                )
    out.append(
        {"op": "add" if before.flow_c is None else "replace", "path": f"/schemes/{key}/flow_c", "value": now.flow_c}
    )
    out += [
        {"op": "remove", "path": f"/schemes/{key}/control/{name}"} for name in HAND_SET if getattr(before.control, name) is not None
    ]  # fmt: skip
    return out
