"""The choice at one flow temperature: solved, judged by the chain, solved again until both agree."""

from __future__ import annotations

import math
import time
from collections.abc import Mapping
from dataclasses import replace

import numpy as np

from cinder.design.apart.ways import rules
from cinder.design.apart.ways.cheapest import ENOUGH_W, Cheapest, Choice, Together, cheapest
from cinder.design.apart.ways.combine import unbeaten
from cinder.design.apart.ways.options import FLOWS_C, GRID_C, Chosen, HouseOptions, _mark, applied, with_measures
from cinder.design.apart.ways.shared import losses_of
from cinder.design.judgement import Trial, trial
from cinder.design.waterline.decide import meets
from cinder.errors import NotFound

MOST_ROUNDS = 40
EXACT_ROUNDS = 12
WIDE_ROUNDS = 6
SAME_COST = 0.5


def at(found: HouseOptions, flow_c: float, *, until: float = math.inf) -> Chosen:
    """The cheapest set at one whole flow temperature from 30 to 60 deg C that the whole chain agrees with.

    What a set of measures does less than the sum of them, and what the chain finds lacking, goes back into the choice
    until every room lives on that water. `proved` only where the chain agreed and nothing but sets of measures had to be
    corrected, each where exactly it is taken. `until`: a moment of the monotonic clock beyond which no further round begins;
    then nothing is possible and nothing proved.
    """
    k = round(flow_c) - FLOWS_C[0]
    if not 0 <= k < len(GRID_C):
        raise NotFound(f"Sets are known from {FLOWS_C[0]} to {FLOWS_C[-1]} °C, not for {flow_c:g} °C.")
    less: dict[tuple[int, int], float] = {}
    told: list[frozenset[str]] = []  # sets that did less than was counted, at this temperature
    exact = all(found.rooms[n].whole for n in found.served)
    bound = 0.0  # no set that serves costs less
    for n in range(MOST_ROUNDS):
        if n and time.monotonic() > until:
            break
        wide = n >= EXACT_ROUNDS
        answer = _solved(found, k, less, dict.fromkeys(told, wide))
        if not wide and not less and answer.proved:
            bound = answer.cost
        sure = not less and (not wide or answer.cost <= bound + SAME_COST)
        if not answer.possible:
            return Chosen(replace(answer, proved=answer.proved and not less and not wide), [], [], 0.0, 0.0)
        keys = frozenset(answer.shared)
        if n < EXACT_ROUNDS + WIDE_ROUNDS and keys not in told and _does_less(found, answer):
            told.append(keys)
            continue
        chosen = _taken(found, replace(answer, proved=answer.proved and exact and sure))
        chosen.after = trial(applied(found, chosen, GRID_C[k]), found.kept)
        short = _short(found, chosen.after, GRID_C[k])
        if not short:
            return chosen
        for r, lacks in short.items():
            n, c = found.served[r], int(answer.chosen[r])
            less[n, c] = less.get((n, c), 0.0) + lacks + ENOUGH_W
    return Chosen(replace(answer, possible=False, proved=False), [], [], 0.0, 0.0)


def _solved(
    found: HouseOptions, k: int, less: dict[tuple[int, int], float], told: Mapping[frozenset[str], bool]
) -> Cheapest:
    """The cheapest set, with what is known by now of what sets do together; by each whether it is taken widely."""
    place = {n: r for r, n in enumerate(found.served)}
    rooms = [_choices(found, n, k, place, less) for n in found.served]
    together = [replace(found.together[keys], wide=wide) for keys, wide in told.items()]
    return cheapest(found.load_w[found.served], rooms, found.shared, together=together)


def _tells(one: Together) -> bool:
    return bool(one.more_w.any()) or any(one.less_w)


def _does_less(found: HouseOptions, answer: Cheapest) -> bool:
    """Work out what the measures of an answer do together; whether that is less than was counted.

    With them on the house a room kept cooler saves less, and so does a floor that takes its own loss off its room.
    """
    keys = frozenset(answer.shared)
    if not keys:
        return False
    if keys in found.together:
        return _tells(found.together[keys])
    parts = [key for name in answer.shared for key in found.packages.get(name, (name,))]
    house, arrays, losses = losses_of(with_measures(found, parts), found.kept)
    counted = sum((one.takes_w for one in found.shared if one.key in keys), np.zeros(len(found.served)))
    more = counted - (found.load_w - losses.emitter_load_w)[found.served]
    less: list[dict[str, float]] = []
    for n in found.served:
        room = house.rooms[n]
        slope = float(found.slope_w_k[n] - losses.loss_per_k[n])
        before, before_k = rules.floor_loss_w(found.house, found.arrays, found.house.rooms[n])
        after, after_k = rules.floor_loss_w(house, arrays, room)
        mine = {}
        for mark, (cooler, share) in found.marks[n].items():
            watts = slope * cooler + share * (before - after - (before_k - after_k) * cooler)
            if watts > 0:
                mine[mark] = watts
        less.append(mine)
    found.together[keys] = Together(keys, np.where(more > ENOUGH_W, more, 0.0), less)
    return _tells(found.together[keys])


def _taken(found: HouseOptions, answer: Cheapest) -> Chosen:
    ways = [(n, way) for r, n in enumerate(found.served) for way in found.rooms[n].picks[int(answer.chosen[r])]]
    shared = [key for name in answer.shared for key in found.packages.get(name, (name,))]
    cost = sum(way.cost_minor for _, way in ways if way.to_c is None)
    cost += sum(found.tried[key].option.cost_minor for key in shared)
    return Chosen(answer, ways, shared, cost, sum(way.yearly_minor for _, way in ways))


def _short(found: HouseOptions, after: Trial, flow_c: float) -> dict[int, float]:
    """Served rooms (by place) that the chain says need warmer water, and about how many watts they lack."""
    out: dict[int, float] = {}
    for r, n in enumerate(found.served):
        needed, load = float(after.needed_c[n]), float(after.load_w[n])
        if math.isinf(needed):
            out[r] = load
        elif not meets(needed, flow_c):
            out[r] = max(load - float(after.given_w[n]), 0.0)
    return out


def _choices(
    found: HouseOptions, n: int, k: int, place: dict[int, int], less: Mapping[tuple[int, int], float]
) -> list[Choice]:
    """What may be done in a room at one temperature; a room left cooler draws on those beside it.

    `less`: what the chain says a combination (room, number) gives less than was counted, W.
    """
    mine = found.rooms[n]
    gives_w = mine.gives_w[:, k].copy()
    for (room, c), watts in less.items():
        if room == n:
            gives_w[c] -= watts
    out = []
    target = found.house.rooms[n].target_c
    alone = not any(mine.changes) and not any(found.marks[n])
    rows = unbeaten(mine.cost, gives_w[:, None]) if alone else np.arange(len(mine.cost))
    for c in rows.tolist():
        cost = float(mine.cost[c])
        to = mine.to_c[c]
        adds: tuple[tuple[int, float], ...] = ()
        if to is not None:
            drawn = found.arrays.trade_w_k[:, n] * (target - to)
            adds = tuple((place[m], float(drawn[m])) for m in np.nonzero(drawn)[0].tolist() if m in place and m != n)
        out.append(Choice(str(c), cost, float(gives_w[c]), adds, mine.changes[c], _mark(mine.picks[c])))
    return out
