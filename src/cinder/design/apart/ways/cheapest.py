"""The cheapest set of changes that lets every room live on a flow temperature: an exact choice in whole numbers."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import Bounds, LinearConstraint, milp
from scipy.sparse import coo_matrix

from cinder.physics.quantity import Array

Ints: TypeAlias = NDArray[np.intp]
ENOUGH_W = 0.05
"""A room that lacks less is served (our choice)."""
LIMIT_S = 5.0
PROVED = 1e-6


@dataclass(frozen=True, slots=True)
class Choice:
    """One thing that may be done in a room (or nothing): what it costs, what the room's emitters then give, W.

    `mark`: what a measure of the whole house may make less of; choices of unlike marks do not stand for each other.
    """

    key: str
    cost: float
    gives_w: float
    adds_w: tuple[tuple[int, float], ...] = ()
    """What it adds to the loads of other rooms (by index), W: a room left cooler draws on its neighbours."""
    changes: frozenset[str] = frozenset()
    """Groups of shared things that cannot be done as well."""
    mark: str = ""


@dataclass(frozen=True, slots=True)
class Shared:
    """One thing that is done to the house: what it costs, and what it takes off every room's load (R,), W.

    Of those with one `group` (alternatives on one construction) at most one is taken; "" stands alone. A package, made
    of several, names all their groups in `groups`. Of those with one of `must` at least one is taken.
    """

    key: str
    cost: float
    takes_w: Array
    group: str = ""
    groups: tuple[str, ...] = ()
    must: tuple[str, ...] = ()

    @property
    def every_group(self) -> tuple[str, ...]:
        return (self.group, *self.groups) if self.group else self.groups


@dataclass(frozen=True, slots=True)
class Together:
    """What exactly these shared things (by key) leave on the rooms (R,), W, beyond what they take off one by one, and
    what the choices of each room (R lists of W by mark) are then worth less. `wide`: also counted where further ones
    are taken beside them, which do no more for there being others (a guess)."""

    keys: frozenset[str]
    more_w: Array
    less_w: list[dict[str, float]]
    wide: bool = False


@dataclass(frozen=True, slots=True)
class Cheapest:
    """The set, by room and for the house; `proved` that no cheaper one exists, else how far it may be off (`gap`).

    Where there is none, `short_w` says by how many watts each room would still be short with all that could be done.
    """

    possible: bool
    chosen: tuple[str, ...]
    shared: tuple[str, ...]
    cost: float
    proved: bool
    gap: float
    short_w: Array


def cheapest(
    load_w: Array,
    rooms: list[list[Choice]],
    shared: list[Shared],
    *,
    together: Sequence[Together] = (),
    limit_s: float = LIMIT_S,
) -> Cheapest:
    """Solve: one choice a room, sum of what is given and what is taken off at least the load, least cost.

    `load_w` (R,); `rooms` one list of choices a room, never empty; `together`: sets of shared things that do less than
    the sum of them, counted where exactly that set is taken, or where it is wide with others beside it. No heat is credited from room to room.
    Source: integer programme, solved by HiGHS (`scipy.optimize.milp`).
    """
    count = len(rooms)
    best = np.array([max(choice.gives_w for choice in choices) for choices in rooms]) if count else np.zeros(0)
    most = _most_off(shared, count)
    short = np.maximum(load_w - best - most - ENOUGH_W, 0.0)
    if short.any():
        return Cheapest(False, (), (), float("inf"), True, 0.0, short)
    offered = [_worth_it(choices) for choices in rooms]
    nothing = _nothing_needed(load_w, offered, shared)
    if nothing is not None:
        return Cheapest(True, nothing, (), 0.0, True, 0.0, short)
    starts = np.concatenate([[0], np.cumsum([len(choices) for choices in offered])]).astype(np.intp)
    size = int(starts[-1]) + len(shared)
    cost = np.array([choice.cost for choices in offered for choice in choices] + [one.cost for one in shared])
    entries: list[tuple[int, int, float]] = []
    low: list[float] = []
    high: list[float] = []
    for r, choices in enumerate(offered):
        row = len(low)
        entries += [(row, int(starts[r]) + n, 1.0) for n in range(len(choices))]
        low.append(1.0)
        high.append(1.0)
        entries += [(row + 1, int(starts[r]) + n, choice.gives_w) for n, choice in enumerate(choices)]
        entries += [
            (row + 1, int(starts[-1]) + k, float(one.takes_w[r])) for k, one in enumerate(shared) if one.takes_w[r]
        ]
        entries += [
            (row + 1, int(starts[q]) + n, -watts)
            for q, others in enumerate(offered)
            if q != r
            for n, choice in enumerate(others)
            for at, watts in choice.adds_w
            if at == r
        ]
        low.append(float(load_w[r]) - ENOUGH_W)
        high.append(np.inf)
    for one in together:
        for r, choices in enumerate(offered):
            worth_less = [one.less_w[r].get(choice.mark, 0.0) for choice in choices]
            left = float(one.more_w[r])
            swing = left + max(worth_less)
            if swing <= 0:
                continue
            # with anything done otherwise the row asks for no more than the plain one: `swing` for every difference
            row = len(low)
            entries += [(row, column, watts) for at, column, watts in entries if at == 2 * r + 1]
            entries += [(row, int(starts[r]) + n, -watts) for n, watts in enumerate(worth_less)]
            entries += [
                (row, int(starts[-1]) + k, -swing if s.key in one.keys else swing)
                for k, s in enumerate(shared)
                if s.key in one.keys or not one.wide
            ]
            low.append(float(load_w[r]) - ENOUGH_W + left - swing * len(one.keys))
            high.append(np.inf)
    for columns, at_least, at_most in _rules(offered, shared, starts):
        entries += [(len(low), column, 1.0) for column in columns]
        low.append(at_least)
        high.append(at_most)
    if size == 0:
        return Cheapest(True, (), (), 0.0, True, 0.0, short)
    places = np.array([entry[:2] for entry in entries], dtype=int).T
    values = np.array([entry[2] for entry in entries])
    matrix = coo_matrix((values, (places[0], places[1])), shape=(len(low), size)).tocsc()
    found = milp(
        cost, constraints=LinearConstraint(matrix, low, high), integrality=np.ones(size), bounds=Bounds(0, 1),
        options={"time_limit": limit_s, "mip_rel_gap": 0.0},
    )  # fmt: skip
    if found.x is None:
        return Cheapest(False, (), (), float("inf"), found.status == 2, float("inf"), short)
    taken = found.x > 0.5
    chosen = tuple(
        next(choice.key for n, choice in enumerate(choices) if taken[starts[r] + n])
        for r, choices in enumerate(offered)
    )
    gap = float(found.mip_gap or 0.0)
    return Cheapest(
        True, chosen, tuple(one.key for k, one in enumerate(shared) if taken[starts[-1] + k]), float(cost @ taken),
        found.status == 0 and gap <= PROVED, gap, short,
    )  # fmt: skip


def _nothing_needed(load_w: Array, offered: list[list[Choice]], shared: list[Shared]) -> tuple[str, ...] | None:
    """The choices that cost nothing and touch nothing, where they serve every room and nothing must be done."""
    if any(one.must for one in shared):
        return None
    out = []
    for r, choices in enumerate(offered):
        first = choices[0]
        if first.cost > 0 or first.adds_w or first.gives_w < load_w[r] - ENOUGH_W:
            return None
        out.append(first.key)
    return tuple(out)


Rule = tuple[list[int], float, float]


def _rules(offered: list[list[Choice]], shared: list[Shared], starts: Ints) -> list[Rule]:
    """Columns of which at most one is taken (alternatives), or at least one (what must be)."""
    first = int(starts[-1])
    out: list[Rule] = []
    for group in sorted({group for one in shared for group in one.every_group}):
        together = [first + k for k, one in enumerate(shared) if group in one.every_group]
        out.append((together, 0.0, 1.0))
        for r, choices in enumerate(offered):
            mine = [int(starts[r]) + n for n, choice in enumerate(choices) if group in choice.changes]
            if mine:
                out.append((mine + together, 0.0, 1.0))
    for must in sorted({must for one in shared for must in one.must}):
        out.append(([first + k for k, one in enumerate(shared) if must in one.must], 1.0, np.inf))
    return out


def _most_off(shared: list[Shared], count: int) -> Array:
    """What all shared measures together could take off each room at best, one of every group (packages added up)."""
    groups: dict[str, Array] = {}
    for n, one in enumerate(shared):
        name = one.group or (f"package {n}" if one.groups else f"#{n}")
        groups[name] = np.maximum(groups.get(name, np.zeros(count)), one.takes_w)
    return np.asarray(sum(groups.values(), np.zeros(count)))


def _worth_it(choices: list[Choice]) -> list[Choice]:
    """Choices that no other beats in both cost and output; one that touches nothing else beats one that does."""
    out: list[Choice] = []
    best: dict[tuple[frozenset[str], tuple[tuple[int, float], ...], str], float] = {}
    for choice in sorted(choices, key=lambda c: (c.cost, -c.gives_w)):
        mine, free = (choice.changes, choice.adds_w, choice.mark), (frozenset[str](), (), "")
        if choice.gives_w > max(best.get(mine, -np.inf), best.get(free, -np.inf)) + 1e-9:
            out.append(choice)
            best[mine] = choice.gives_w
    return out
