"""Newton's method on the rooms of a house, one outdoor temperature after another, compiled.

The loops of `room_balance`. Rooms trade heat with few others: in an order that keeps those near each
other the matrix is a band (`Band`), and solving it costs what lies in the band.
"""

from __future__ import annotations

import math
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray
from scipy.sparse import csr_matrix
from scipy.sparse.csgraph import reverse_cuthill_mckee

from cinder.physics.compiled import compiled
from cinder.physics.quantity import Array

MOST_STEPS = 90
FULL_STEPS = 14
CALM = (0.5, 0.3, 0.7, 0.5, 0.9)
ENOUGH_K, ENOUGH_CALM_K = 1e-4, 1e-6
"""The last step of Newton's method: what a whole one leaves goes with its square, about a hundredth of that in kelvin; a part of one
leaves the rest."""
LEAST_X_K = 0.001
MOST_OVER_K = 4900.0
TINY = 1e-9
ABOUT = 0.05
"""How far at most, in ln x, a room's x lies from a straight line between two steps: ten times what it does."""
NEAR_K, APART_K = 3.0, 0.1
"""Two outdoor temperatures whose flows to begin with lie nearer have rooms alike; nearer still, they tell nothing of a slope."""
BLIND_K = 5.0
LARGEST_V = 1.999999
LN_LARGEST_U = math.log(40.0)
LN_LARGEST_V = math.log(LARGEST_V)
LN_FIRST_V = math.log(1.9)

Ints = NDArray[np.intp]
Bools = NDArray[np.bool_]


class Band(NamedTuple):
    """The rooms in an order that keeps those that trade near each other: `order` (R,), and how far apart the furthest lie.
    Room r takes heat from `others` between `starts` r and r + 1."""

    order: Ints
    width: int
    starts: Ints
    others: Ints


def band_of(trade: Array) -> Band:
    """An order for a house by what its rooms trade (R, R), by the reverse Cuthill-McKee method."""
    gives, others = np.nonzero(trade)
    starts = np.searchsorted(gives, np.arange(len(trade) + 1))
    if not len(others):
        return Band(np.arange(len(trade)), 0, starts, others)
    touching = (trade != 0) | (trade != 0).T
    order = np.asarray(reverse_cuthill_mckee(csr_matrix(touching), symmetric_mode=True), dtype=np.intp)
    place = np.empty_like(order)
    place[order] = np.arange(len(order))
    first, second = np.nonzero(touching)
    return Band(order, int(np.abs(place[first] - place[second]).max(initial=0)), starts, others)


class Table(NamedTuple):
    """What emitters give over ln x: `cubic` (R E (X - 1), 4) from step to step, which begin at `ln_x0`, `step` apart; (R, E):
    flow `per_x` W/K, whether it gives at all, by the arithmetic excess, and closes."""

    cubic: Array
    ln_x0: float
    step: float
    per_x: Array
    live: Bools
    plain: Bools
    closes: Bools


class House(NamedTuple):
    """Rooms as the balance has them: loss = base + slope T - trade T of the others. `base`, `heater` (K, R), W; `slope`, `target`
    (R,); `trade` (R, R); `moves` (R,): what has a temperature of its own; `closing` (K, R): what is held at its target."""

    base: Array
    heater: Array
    slope: Array
    target: Array
    trade: Array
    moves: Bools
    closing: Bools


@compiled
def given(table: Table, room: int, x: float) -> tuple[float, float, float, float]:
    """What the emitters of a room give at x = flow - room: those that never close and all, W, each with its slope, W/K."""
    stays = stays_x = whole = whole_x = 0.0
    if x < LEAST_X_K:
        return stays, whole, stays_x, whole_x
    emitters = table.per_x.shape[1]
    cells = table.cubic.shape[0] // (table.per_x.shape[0] * emitters)
    at = (math.log(x) - table.ln_x0) / table.step
    cell = min(max(int(at), 0), cells - 1)
    s = at - cell
    for e in range(emitters):
        if not table.live[room, e]:
            continue
        part = table.cubic[(room * emitters + e) * cells + cell]
        u = math.exp(part[0] + s * (part[1] + s * (part[2] + s * part[3])))
        bend = (part[1] + s * (2 * part[2] + s * 3 * part[3])) / table.step
        if table.plain[room, e]:
            lost, grows = u, u
        else:
            lost = -math.expm1(-u)  # 1 - e^-u, the share of x the water is cooled by
            grows = (1 - lost) * u
        heat, by_x = table.per_x[room, e] * lost * x, table.per_x[room, e] * (lost + grows * bend)
        whole += heat
        whole_x += by_x
        if not table.closes[room, e]:
            stays += heat
            stays_x += by_x
    return stays, whole, stays_x, whole_x


@compiled
def given_at(table: Table, x: Array, out: Array) -> None:
    """`given` at x (K, R), into (4, K, R)."""
    for k in range(x.shape[0]):
        for r in range(x.shape[1]):
            out[0, k, r], out[1, k, r], out[2, k, r], out[3, k, r] = given(table, r, x[k, r])


@compiled
def solve_band(matrix: Array, right: Array, width: int) -> None:
    """Solve a banded system in place, without pivoting: `matrix` (R, 2 width + 1), `right` (R, C), one column for every right side. Its
    rows must outweigh what lies beside their diagonal, as those of a network of conductances do."""
    count, sides = right.shape
    for i in range(count):
        for j in range(i + 1, min(i + width + 1, count)):
            below = matrix[j, width + i - j]
            if below == 0.0:
                continue
            factor = below / matrix[i, width]
            for c in range(1, width + 1):
                if i + c < count:
                    matrix[j, width + i + c - j] -= factor * matrix[i, width + c]
            for s in range(sides):
                right[j, s] -= factor * right[i, s]
    for i in range(count - 1, -1, -1):
        for c in range(1, width + 1):
            if i + c < count:
                for s in range(sides):
                    right[i, s] -= matrix[i, width + c] * right[i + c, s]
        for s in range(sides):
            right[i, s] /= matrix[i, width]


@compiled
def bounded(flow: float, step: float, target: float) -> float:
    """A step of the flow that stays between what asks for it and many times as far: emitters follow a power of that."""
    over = max(flow - target, LEAST_X_K)
    if not math.isfinite(step):
        step = -over
    step = min(max(step, -0.8 * over), 4.0 * over + 5.0)
    return min(step, MOST_OVER_K - over)


@compiled
def begin(k: int, asked_for: Array, flow: Array, room: Array, settled: Bools) -> None:
    """Where to begin at an outdoor temperature whose flow lies near that of the one before: where that came to rest, and on by as much
    as it had moved on itself. What is held at its target stays there."""
    if k == 0 or not settled[k - 1] or abs(asked_for[k] - asked_for[k - 1]) > NEAR_K:
        return
    flow[k] += flow[k - 1] - asked_for[k - 1]
    room[k] = room[k - 1]
    before = asked_for[k - 1] - asked_for[k - 2] if k > 1 and settled[k - 2] else 0.0
    if APART_K < abs(before) < NEAR_K:
        on = min(max((asked_for[k] - asked_for[k - 1]) / before, 0.0), 1.5)
        flow[k] += on * (flow[k - 1] - asked_for[k - 1] - flow[k - 2] + asked_for[k - 2])
        room[k] += on * (room[k - 1] - room[k - 2])


@compiled
def settle(
    house: House,
    table: Table,
    band: Band,
    flow: Array,
    room: Array,
    binds: Bools,
    asked: bool,
    slack_k: float,
    follows: Array,
    binding: Ints,
    settled: Bools,
    onward: bool,
) -> None:
    """Settle the rooms at every outdoor temperature: `flow` (K,) and `room` (K, R) hold where to begin and then what was found,
    `follows` (K, R) how much each room follows the flow, `binding` (K,), `settled` (K,) whether it came to rest.

    With `asked` the flow is the least at which every room that `binds` (R,) comes within `slack_k` of its target. Rooms that can
    close are held at their target, give all they have, or have shut what closes; which of the three is found as one goes.
    `onward`: one temperature begins where the one before came to rest.
    """
    count, rooms = room.shape
    whole, stays = np.empty(rooms), np.empty(rooms)
    whole_x, stays_x, need = np.empty(rooms), np.empty(rooms), np.empty(rooms)
    moved, follow = np.empty(rooms), np.empty(rooms)
    held, shut = np.empty(rooms, dtype=np.bool_), np.empty(rooms, dtype=np.bool_)
    target, trade, closing = house.target, house.trade, house.closing
    order, width, starts, others = band
    matrix, right = np.empty((rooms, 2 * width + 1)), np.empty((rooms, 2))
    asked_for = flow.copy()
    for k in range(count):
        if onward:
            begin(k, asked_for, flow, room, settled)
        for r in range(rooms):
            held[r] = closing[k, r] and abs(room[k, r] - target[r]) < TINY
            shut[r] = closing[k, r] and room[k, r] > target[r] + TINY
        settled[k] = False
        for n in range(MOST_STEPS):
            same = True
            for r in range(rooms):
                stays[r], whole[r], stays_x[r], whole_x[r] = given(table, r, flow[k] - room[k, r])
                whole[r] += house.heater[k, r]
                need[r] = house.base[k, r] + house.slope[r] * room[k, r]
                for m in range(starts[r], starts[r + 1]):
                    need[r] -= trade[r, others[m]] * room[k, others[m]]
                if closing[k, r]:
                    if held[r]:
                        # with the flow asked for without slack, a room that binds is never left short
                        if whole[r] < need[r] and not (asked and slack_k == 0.0 and binds[r]):
                            held[r], same = False, False  # gives all it has and stays short
                        elif stays[r] > need[r]:
                            held[r], shut[r], same = False, True, False
                    elif room[k, r] < target[r] if shut[r] else room[k, r] > target[r]:
                        held[r], shut[r], same = True, False, False
            for i in range(rooms):
                r = order[i]
                for c in range(2 * width + 1):
                    matrix[i, c] = 0.0
                if held[r] or not house.moves[r]:
                    matrix[i, width] = 1.0
                    right[i, 0], right[i, 1] = target[r] - room[k, r], 0.0
                    continue
                for c in range(max(width - i, 0), min(2 * width + 1, rooms + width - i)):
                    matrix[i, c] = -trade[r, order[i + c - width]]
                by_x = stays_x[r] if shut[r] else whole_x[r]
                matrix[i, width] += house.slope[r] + by_x
                right[i, 0] = (stays[r] if shut[r] else whole[r]) - need[r]
                right[i, 1] = by_x
            solve_band(matrix, right, width)
            for i in range(rooms):
                moved[order[i]], follow[order[i]] = right[i, 0], max(right[i, 1], 0.0)
            step = 0.0
            if asked:
                most, who = -np.inf, 0
                for r in range(rooms):
                    if not binds[r] or shut[r]:
                        continue
                    least = target[r] - slack_k
                    if held[r]:
                        # a held room stands at its target: what its emitters could give there says what it asks for
                        over = whole[r] - need[r] - (house.slope[r] + whole_x[r]) * (least - room[k, r])
                        gains = whole_x[r]
                        for m in range(starts[r], starts[r + 1]):
                            over += trade[r, others[m]] * moved[others[m]]
                            gains += trade[r, others[m]] * follow[others[m]]
                        wants = -over / max(gains, TINY)
                    elif follow[r] > TINY:
                        wants = (least - room[k, r] - moved[r]) / follow[r]
                    elif room[k, r] + moved[r] < least - TINY:
                        # water that reaches no room yet must first be warmer than the rooms that are short
                        wants = max(target[r] - flow[k], 0.0) + BLIND_K
                    else:
                        continue
                    if wants > most:
                        most, who = wants, r
                binding[k] = who
                step = bounded(flow[k], most, target[who])
            calm = CALM[n % 5] if n > FULL_STEPS else 1.0  # going to and fro between two sides of a bend: meet half-way
            furthest = abs(step) * calm
            for r in range(rooms):
                by = (moved[r] + follow[r] * step) * calm
                furthest = max(furthest, abs(by))
                room[k, r] = target[r] if held[r] else room[k, r] + by
            flow[k] += step * calm
            if same and furthest < (ENOUGH_K if calm == 1.0 else ENOUGH_CALM_K):
                settled[k] = True
                break
        for r in range(rooms):
            follows[k, r] = follow[r]


@compiled
def begin_x(ln_load: float, steps: Array, ln_steps: Array) -> tuple[int, float]:
    """The step of ln x (X,) between whose heats (X,) a load lies, and about where."""
    last = len(steps) - 2
    cell = min(max(int(np.searchsorted(ln_steps, ln_load)) - 1, 0), last)
    rise = ln_steps[cell + 1] - ln_steps[cell]
    part = min(max((ln_load - ln_steps[cell]) / rise, 0.0), 1.0) if rise > 0 else 0.0
    return cell, steps[cell] + part * (steps[cell + 1] - steps[cell])


@compiled
def find_x(
    table: Table, room: int, ln_load: float, cell: int, ln_x: float, steps: Array, most: int, same: float
) -> float:
    """x at which a room gives a load, by Newton's method in ln x, in which heat is all but straight."""
    low, high = steps[max(cell - 1, 0)], steps[min(cell + 2, len(steps) - 1)]
    for _ in range(most):
        x = math.exp(ln_x)
        _, whole, _, whole_x = given(table, room, x)
        over = math.log(max(whole, TINY)) - ln_load
        if over > 0:
            high = ln_x
        else:
            low = ln_x
        tried = ln_x - over / max(whole_x * x / max(whole, TINY), 0.1)
        after = tried if low <= tried <= high else (low + high) / 2
        moved = abs(after - ln_x)
        ln_x = after
        if moved < same:
            break
    return math.exp(ln_x)


@compiled
def heats(table: Table, steps: Array, ln_steps: Array, unknown: Bools) -> None:
    """ln of the heat of rooms (R, X) at the steps of ln x, for those it is `unknown` of."""
    for r in range(len(unknown)):
        if unknown[r]:
            for n in range(len(steps)):
                _, whole, _, _ = given(table, r, math.exp(steps[n]))
                ln_steps[r, n] = math.log(max(whole, TINY))
            unknown[r] = False


@compiled
def needed_x(
    table: Table, load: Array, wanted: Bools, steps: Array, ln_steps: Array, most: int, same: float, out: Array
) -> None:
    """x = flow - room at which rooms give `load` (K, R), into (K, R), where it is `wanted`: sought from where it lies between the steps of
    ln x (X,) by the heat there (R, X)."""
    for k in range(load.shape[0]):
        for r in range(load.shape[1]):
            if wanted[k, r]:
                ln_load = math.log(load[k, r])
                cell, about = begin_x(ln_load, steps, ln_steps[r])
                out[k, r] = find_x(table, r, ln_load, cell, about, steps, most, same)


@compiled
def most_needed(
    table: Table,
    load: Array,
    wanted: Bools,
    target: Array,
    steps: Array,
    ln_steps: Array,
    most: int,
    same: float,
    out: Array,
) -> None:
    """The greatest flow temperature, into (K,), at which rooms give `load` (K, R) at their `target` (R,), NaN where none is `wanted`: only
    rooms that come near it are worked out to the end."""
    rooms = load.shape[1]
    cells, about, ln_load = np.empty(rooms, dtype=np.intp), np.empty(rooms), np.empty(rooms)
    for k in range(load.shape[0]):
        highest = -np.inf
        for r in range(rooms):
            if wanted[k, r]:
                ln_load[r] = math.log(load[k, r])
                cells[r], about[r] = begin_x(ln_load[r], steps, ln_steps[r])
                highest = max(highest, target[r] + math.exp(about[r] - ABOUT))
        out[k] = -np.inf
        for r in range(rooms):
            if wanted[k, r] and target[r] + math.exp(about[r] + ABOUT) >= highest:
                out[k] = max(out[k], target[r] + find_x(table, r, ln_load[r], cells[r], about[r], steps, most, same))
        if out[k] == -np.inf:
            out[k] = np.nan


@compiled
def cooled(n: float, c: float, plain: bool, ln_x: Array, ln_u: Array, slope: Array) -> None:
    """ln u and its slope over ln x at every step (X,), by Newton's method in ln u, each step begun from the one before.

    n ln((1 - e^-u)/u) - ln(1 - e^-u) = (1 - n) ln x + c; with the arithmetic excess n ln(1 - v/2) - ln v on the left.
    """
    most = LN_LARGEST_V if plain else LN_LARGEST_U
    y = min(-((1 - n) * ln_x[0] + c), LN_FIRST_V if plain else LN_LARGEST_U)
    for k in range(len(ln_x)):
        right = (1 - n) * ln_x[k] + c
        bend = 1.0
        for _ in range(MOST_STEPS):
            u = math.exp(y)
            if plain:
                v = min(u, LARGEST_V)
                left = n * math.log1p(-v / 2) - y
                bend = 1 + n * (v / 2) / (1 - v / 2)
            else:
                lost = -math.expm1(-u)
                left = (n - 1) * math.log(lost) - n * y
                share = u * (1 - lost) / lost if u >= 1e-8 and lost > 0 else 1.0
                bend = n - (n - 1) * share
            after = y + min(max((left - right) / bend, -3.0), 3.0)
            after = min(after, (y + most) / 2 if plain else most)
            moved = abs(after - y)
            y = after
            if moved < 1e-12:
                break
        ln_u[k], slope[k] = y, (n - 1) / bend


@compiled
def cool_all(rows: Ints, n: Array, c: Array, plain: Bools, ln_x: Array, cubic: Array) -> None:
    """Cubics of ln u from step to step of ln x, for some rows of emitters; `n`, `c`, `plain` (E,), `cubic` (E, X - 1, 4)."""
    ln_u, slope = np.empty(len(ln_x)), np.empty(len(ln_x))
    for row in rows:
        cooled(n[row], c[row], plain[row], ln_x, ln_u, slope)
        for k in range(len(ln_x) - 1):
            apart, rise = ln_x[k + 1] - ln_x[k], ln_u[k + 1] - ln_u[k]
            first, last = slope[k] * apart, slope[k + 1] * apart
            cubic[row, k, 0], cubic[row, k, 1] = ln_u[k], first
            cubic[row, k, 2], cubic[row, k, 3] = 3 * rise - 2 * first - last, first + last - 2 * rise


@compiled
def dry(house: House, band: Band, out: Array) -> None:
    """Where rooms settle without any heat, into (K, R): what they lose is straight over their temperatures."""
    count, rooms = out.shape
    order, width, starts, others = band
    place = np.empty(rooms, dtype=np.intp)
    for i in range(rooms):
        place[order[i]] = i
    matrix, right = np.zeros((rooms, 2 * width + 1)), np.empty((rooms, count))
    for i in range(rooms):
        r = order[i]
        matrix[i, width] = house.slope[r] if house.moves[r] else 1.0
        if house.moves[r]:
            for m in range(starts[r], starts[r + 1]):
                matrix[i, width + place[others[m]] - i] = -house.trade[r, others[m]]
        for k in range(count):
            right[i, k] = -house.base[k, r] if house.moves[r] else house.target[r]
    solve_band(matrix, right, width)
    for i in range(rooms):
        for k in range(count):
            out[k, order[i]] = right[i, k]
