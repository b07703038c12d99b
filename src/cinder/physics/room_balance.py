"""The temperatures at which the rooms of a house settle together, and the coolest water that serves them all.

One balance: what a room's emitters give at the flow temperature = what it loses to the outside and to rooms beside it.
Rooms whose emitters close (thermostatic valves) are held at their target once they reach it, open ones float above.
"""

from __future__ import annotations

from copy import copy
from dataclasses import dataclass, replace
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from cinder.errors import PhysicsError
from cinder.physics.quantity import Array
from cinder.physics.radiator import Mask

MOST_STEPS = 90
FULL_STEPS = 14
CALM = (0.5, 0.3, 0.7, 0.5, 0.9)
ENOUGH_K = 1e-4
"""The last step of Newton's method: what it leaves is some thousandths of it."""
SLOWEST_SWEEPS = 400
SWEPT_ENOUGH_K = 1e-6
LEAST_X_K = 0.001
SAME_LN_X = 1e-9
LN_X = np.linspace(np.log(LEAST_X_K), np.log(5000.0), 48)
LN_X_STEP = float(LN_X[1] - LN_X[0])
LARGEST_U = 40.0
LARGEST_V = 1.999999
MOST_OVER_K = 4900.0
HALVINGS = 50
NO_WATER_C = -1000.0
TINY = 1e-9
BLIND_K = 5.0
TRACE = 1e-6

Rows: TypeAlias = NDArray[np.intp]


@dataclass(frozen=True, slots=True)
class Emitters:
    """Emitters of rooms, padded with 0: (R, E). `rated_w` at `reference_k`, `design_w` the heat each one's water flow
    was set for at `spread_k`: that flow stays, so the spread shrinks with the heat given. No design heat: no flow.

    `arithmetic`: the excess that counts is the arithmetic one. `closes`: a valve holds the room at its target.
    """

    rated_w: Array
    exponent: Array
    spread_k: Array
    design_w: Array
    arithmetic: Mask
    closes: Mask
    reference_k: float


@dataclass(frozen=True, slots=True)
class Rooms:
    """What rooms lose: `own_w` (K, R) to everything but other rooms while at their targets, W; `own_per_k` (R,) its
    slope over the room's own temperature; `trade_w_k` (R, R) W per kelvin between rooms i and j; `heater_w` (K, R) what
    heaters of their own may add, W, held at the target by thermostats. Rooms that are not `known` stay at their target.
    """

    target_c: Array
    own_w: Array
    own_per_k: Array
    trade_w_k: Array
    heater_w: Array
    known: Mask


@dataclass(frozen=True, slots=True)
class Settled:
    """`flow_c` (K,) and the temperatures (K, R) at which the rooms settle at it; `per_k` (K, R) how much each follows a
    kelvin of flow; `binding` (K,) the room that asks for the flow (-1: none does, the flow is then NaN)."""

    flow_c: Array
    room_c: Array
    per_k: Array
    binding: Rows


@dataclass(frozen=True, slots=True)
class Given:
    """Heat (…, R) of the emitters that never close and of all, W, with their slopes over flow - room, W/K."""

    stays: Array
    whole: Array
    stays_x: Array
    whole_x: Array


class Law:
    """What the emitters of rooms give over x = flow - room, by constant water flow, with the slope.

    With return - room = x e^-u: log excess x (1 - e^-u)/u, heat x (1 - e^-u) design/spread; so
    n ln((1 - e^-u)/u) - ln(1 - e^-u) = (1 - n) ln x + c. The arithmetic excess x (1 - v/2), v the spread over x:
    n ln(1 - v/2) - ln v on the same right side. ln u is all but straight over ln x: it is worked out once at even steps
    of ln x, and cubics that share its slope there serve every x between.
    """

    def __init__(self, emitters: Emitters) -> None:
        e = emitters
        live = (e.rated_w > 0) & (e.design_w > 0) & (e.spread_k > 0)
        self.live = live
        self.any = live.any(axis=1)
        self.per_x = np.where(live, e.design_w / np.where(live, e.spread_k, 1.0), 0.0)
        self.plain = e.arithmetic & live
        self.some_plain = bool(self.plain.any())
        self._close(e.closes)
        n = np.where(live, e.exponent, 1.0)
        c = np.log(np.where(live, self.per_x, 1.0)) - np.log(np.where(live, e.rated_w, 1.0)) + n * np.log(e.reference_k)
        ln_u, slope = self._solved(n[..., None], c[..., None], self.plain[..., None])
        rise = np.diff(ln_u, axis=-1)
        first, last = slope[..., :-1] * LN_X_STEP, slope[..., 1:] * LN_X_STEP
        self.cubic = np.stack([ln_u[..., :-1], first, 3 * rise - 2 * first - last, first + last - 2 * rise], axis=-1)
        self.cubic = self.cubic.reshape(-1, 4)
        self.rows = (np.arange(live.size) * (len(LN_X) - 1)).reshape(live.shape)
        self.ln_steps: Array | None = None

    def _close(self, closes: Mask) -> None:
        self.closes = closes & self.live
        self.some_close = bool(self.closes.any())
        self.stays = np.where(self.closes, 0.0, self.per_x)

    def closing(self, closes: Mask) -> Law:
        """The same emitters with other valves (R, E)."""
        other = copy(self)
        other._close(closes)
        return other

    def between(self, load_w: Array) -> tuple[Array, Array, Array]:
        """Steps of ln x between which rooms give `load_w` (K, R), and about where: heat is all but a power of x."""
        if self.ln_steps is None:
            at = np.broadcast_to(np.exp(LN_X)[:, None], (len(LN_X), self.any.size))
            self.ln_steps = np.log(np.maximum(self(at).whole, TINY))
        ln_load, last = np.log(load_w), len(LN_X) - 2
        about = np.empty_like(ln_load)
        for r in range(self.any.size):
            about[:, r] = np.interp(ln_load[:, r], self.ln_steps[:, r], LN_X)
        cell = np.clip(((about - LN_X[0]) / LN_X_STEP).astype(np.intp), 0, last)
        return LN_X[np.maximum(cell - 1, 0)], LN_X[np.minimum(cell + 2, last + 1)], about

    @staticmethod
    def _solved(n: Array, c: Array, plain: Mask) -> tuple[Array, Array]:
        """ln u and its slope over ln x at every step (R, E, X), by Newton's method in ln u."""
        right = (1 - n) * LN_X + c
        y = np.minimum(-right, np.log(LARGEST_U))
        y = np.where(plain, np.minimum(y, np.log(1.9)), y)
        slope = np.ones_like(y)
        for _ in range(MOST_STEPS):
            u = np.exp(y)
            lost = -np.expm1(-u)
            share = np.where(u < 1e-8, 1.0, u * (1 - lost) / np.where(lost > 0, lost, 1.0))
            left = (n - 1) * np.log(lost) - n * y
            slope = n - (n - 1) * share
            if plain.any():
                v = np.minimum(u, LARGEST_V)
                left = np.where(plain, n * np.log1p(-v / 2) - y, left)
                slope = np.where(plain, 1 + n * (v / 2) / (1 - v / 2), slope)
            step = np.clip((left - right) / slope, -3.0, 3.0)
            after = y + step
            after = np.where(
                plain, np.minimum(after, (y + np.log(LARGEST_V)) / 2), np.minimum(after, np.log(LARGEST_U))
            )
            moved = float(np.abs(after - y).max(initial=0.0))
            y = after
            if moved < 1e-12:
                break
        return y, (n - 1) / slope

    def __call__(self, x: Array) -> Given:
        """What is given at x (…, R)."""
        wet = np.maximum(x, LEAST_X_K)[..., None]
        at = (np.log(wet) - LN_X[0]) / LN_X_STEP
        cell = np.clip(at.astype(np.intp), 0, len(LN_X) - 2)
        part = self.cubic[self.rows + cell]
        s = at - cell
        ln_u = part[..., 0] + s * (part[..., 1] + s * (part[..., 2] + s * part[..., 3]))
        bend = (part[..., 1] + s * (2 * part[..., 2] + s * 3 * part[..., 3])) / LN_X_STEP
        u = np.exp(ln_u)
        lost = -np.expm1(-u)  # 1 - e^-u, the share of x the water is cooled by
        grows = (1 - lost) * u
        if self.some_plain:
            lost, grows = np.where(self.plain, u, lost), np.where(self.plain, u, grows)
        each, by_x = lost * wet, lost + grows * bend
        whole, whole_x = (self.per_x * each).sum(axis=-1), (self.per_x * by_x).sum(axis=-1)
        dry = x < LEAST_X_K
        if dry.any():
            whole, whole_x = np.where(dry, 0.0, whole), np.where(dry, 0.0, whole_x)
        if not self.some_close:
            return Given(whole, whole, whole_x, whole_x)
        stays, stays_x = (self.stays * each).sum(axis=-1), (self.stays * by_x).sum(axis=-1)
        return Given(np.where(dry, 0.0, stays), whole, np.where(dry, 0.0, stays_x), whole_x)


class Balance:
    """The rooms of a house with their emitters; made once, then asked at any flow temperatures.

    >>> one = Rooms(target_c=np.array([20.0]), own_w=np.array([[1000.0]]), own_per_k=np.array([40.0]),
    ...     trade_w_k=np.zeros((1, 1)), heater_w=np.zeros((1, 1)), known=np.array([True]))
    >>> panel = Emitters(rated_w=np.array([[1000.0]]), exponent=np.array([[1.3]]), spread_k=np.array([[10.0]]),
    ...     design_w=np.array([[1000.0]]), arithmetic=np.array([[False]]), closes=np.array([[False]]), reference_k=49.83)
    >>> Balance(one, panel).settle(flow_c=np.array([75.0])).room_c.round(2)
    array([[20.]])
    >>> Balance(one, panel).settle(flow_c=np.array([50.0]), asked=np.array([True])).flow_c.round(1)
    array([75.])
    """

    def __init__(self, rooms: Rooms, emitters: Emitters, *, given: Law | None = None) -> None:
        k, r = rooms.own_w.shape
        if rooms.target_c.shape != (r,) or rooms.trade_w_k.shape != (r, r) or emitters.rated_w.shape[0] != r:
            raise PhysicsError("own_w", (k, r), "does not fit the other rooms or the emitters")
        self.rooms, self.emitters = rooms, emitters
        self.given = given or Law(emitters)
        self.trade = np.where(rooms.known[:, None], rooms.trade_w_k, 0.0)
        across = self.trade.sum(axis=1)
        # a room nothing leads heat from has no balance: it stays where it is wanted
        self.moves = rooms.known & (rooms.own_per_k + across > 0)
        # rooms closed in by rooms alone lose a trace outwards, so that they have a temperature at all
        own_per_k = np.maximum(rooms.own_per_k, TRACE * (1.0 + across))
        self.slope = own_per_k + across
        self.base = rooms.own_w - own_per_k * rooms.target_c  # loss = base + slope T - trade T of the others
        self.heated = bool(rooms.heater_w.any())

    def wanting(self, target_c: Array) -> Balance:
        """The same house with other temperatures wanted (R,)."""
        r = self.rooms
        own = r.own_w + r.own_per_k * (target_c - r.target_c)
        return Balance(replace(r, target_c=target_c, own_w=own), self.emitters, given=self.given)

    def at(self, rows: Rows) -> Balance:
        """The same at some of the outdoor temperatures."""
        r = self.rooms
        return Balance(replace(r, own_w=r.own_w[rows], heater_w=r.heater_w[rows]), self.emitters, given=self.given)

    def settle(
        self, *, flow_c: Array, asked: Mask | None = None, slack_k: float = 0.0, start: Settled | None = None
    ) -> Settled:
        """Temperatures at which all rooms settle together, deg C.

        At the given flow temperatures (K,); or, with `asked` (R,), at the least flow at which each of those rooms with
        emitters comes within `slack_k` of its target, `flow_c` then being where to begin. Emitters give by EN 442, each
        with the water flow it was set for. `start`: where the rooms may be sought first.

        Newton's method on all rooms at once (its matrix is that of a network of conductances, so it comes down on the
        one solution); where it does not settle, rooms are balanced in turn, which always does. Source: energy balance.
        """
        if flow_c.shape != self.rooms.own_w.shape[:1]:
            raise PhysicsError("flow_c", flow_c.shape, "one for every outdoor temperature")
        binds = asked & self.given.any & self.moves if asked is not None else None
        if binds is not None and not binds.any():
            none = np.full(flow_c.shape, -1, dtype=np.intp)
            return Settled(np.full(flow_c.shape, np.nan), self.without(), np.zeros_like(self.rooms.own_w), none)
        found, settled = self._newton(np.array(flow_c, float), binds, slack_k, start)
        if not settled.all():
            late = np.nonzero(~settled)[0]
            slow = self.at(late)._in_turn(found.flow_c[late], binds, slack_k)
            for name in ("flow_c", "room_c", "per_k", "binding"):
                getattr(found, name)[late] = getattr(slow, name)
        return found

    def needs(self, load_w: Array) -> Array:
        """Flow temperature (K, R) at which a room's emitters give `load_w` (K, R) with the room at its target, deg C.

        NaN where nothing is wanted or nothing can be given.
        """
        wanted = (load_w > 0) & self.given.any
        load = np.where(wanted, load_w, 1.0)
        low, high, ln_x = self.given.between(load)
        for _ in range(MOST_STEPS):
            x = np.exp(ln_x)
            now = self.given(x)
            over = np.log(np.maximum(now.whole, TINY) / load)
            low, high = np.where(over > 0, low, ln_x), np.where(over > 0, ln_x, high)
            tried = ln_x - over / np.maximum(now.whole_x * x / np.maximum(now.whole, TINY), 0.1)
            after = np.where((tried >= low) & (tried <= high), tried, (low + high) / 2)
            moved = float(np.abs(np.where(wanted, after - ln_x, 0.0)).max(initial=0.0))
            ln_x = after
            if moved < SAME_LN_X:
                break
        return np.where(wanted, self.rooms.target_c + np.exp(ln_x), np.nan)

    def without(self) -> Array:
        """Where the rooms settle without any water (K, R), heaters of their own at work."""
        k, r = self.rooms.own_w.shape
        if not self.heated:
            matrix = np.where(self.moves[:, None], -self.trade, 0.0)
            matrix[np.arange(r), np.arange(r)] += np.where(self.moves, self.slope, 1.0)
            right = np.where(self.moves, -self.base, self.rooms.target_c)
            return np.asarray(np.linalg.solve(matrix, right.T).T)
        dry = Balance(self.rooms, replace(self.emitters, rated_w=self.emitters.rated_w * 0.0))
        return dry.settle(flow_c=np.full(k, NO_WATER_C)).room_c

    def _newton(self, flow: Array, binds: Mask | None, slack_k: float, start: Settled | None) -> tuple[Settled, Mask]:
        """The balance, and at which outdoor temperatures it has settled.

        Rooms that can close are held at their target, give all they have, or have shut what closes; which of the three is
        found as one goes, from what each then has too much or too little.
        """
        rooms, target = self.rooms, self.rooms.target_c
        k, r = rooms.own_w.shape
        room = np.array(np.broadcast_to(target, (k, r))) if start is None else start.room_c.copy()
        flow = np.where(np.isfinite(flow), flow, target.max(initial=20.0) + 20.0)
        binding, eye = np.full(k, -1, dtype=np.intp), np.arange(r)
        closing = (self.given.closes.any(axis=1) | (rooms.heater_w > 0)) & self.moves
        valves = bool(closing.any())
        never_short = closing & binds if binds is not None and slack_k == 0 else np.zeros_like(closing)
        least = target - slack_k
        held = np.broadcast_to(closing, (k, r)) & (np.abs(room - target) < TINY)
        shut = np.broadcast_to(closing, (k, r)) & (room > target + TINY)
        for n in range(MOST_STEPS):
            now = self.given(flow[:, None] - room)
            need = self.base + self.slope * room - room @ self.trade.T
            whole, same = now.whole + rooms.heater_w, True
            if valves:
                more = held & (whole < need) & ~never_short  # gives all it has and stays short
                less = held & (now.stays > need)
                back = closing & ~held & np.where(shut, room < target, room > target)
                same = not (more.any() or less.any() or back.any())
                shut = (shut & ~back) | less
                held = (held & ~more & ~less) | back
            fixed = held | ~self.moves
            gives, by_x = np.where(shut, now.stays, whole), np.where(shut, now.stays_x, now.whole_x)
            matrix = np.where(fixed[..., None], 0.0, -self.trade)
            matrix[:, eye, eye] += np.where(fixed, 1.0, self.slope + by_x)
            right = np.empty((k, r, 2))
            right[..., 0] = np.where(fixed, target - room, gives - need)
            right[..., 1] = np.where(fixed, 0.0, by_x)
            both = np.linalg.solve(matrix, right)
            moved, follows = both[..., 0], np.maximum(both[..., 1], 0.0)
            step = np.zeros(k)
            if binds is not None:
                # water that reaches no room yet must first be warmer than the rooms that are short
                blind = np.where(
                    room + moved < least - TINY, np.maximum(target - flow[:, None], 0.0) + BLIND_K, -np.inf
                )
                wants = np.where(follows > TINY, (least - room - moved) / np.maximum(follows, TINY), blind)
                if held.any():
                    # a held room stands at its target: what its emitters could give there says what it asks for
                    over = whole - need - (self.slope + now.whole_x) * (least - room) + moved @ self.trade.T
                    gains = np.maximum(now.whole_x + follows @ self.trade.T, TINY)
                    wants = np.where(held, -over / gains, wants)
                wants = np.where(binds & ~shut, wants, -np.inf)
                binding = wants.argmax(axis=1)
                step = self._bounded(flow, wants.max(axis=1, initial=-np.inf), target[binding])
            moved = moved + follows * step[:, None]
            if n > FULL_STEPS:  # going to and fro between two sides of a bend: meet half-way
                moved, step = moved * CALM[n % len(CALM)], step * CALM[n % len(CALM)]
            room, flow = np.where(held, target, room + moved), flow + step
            settled = (np.abs(moved).max(axis=1, initial=0.0) < ENOUGH_K) & (np.abs(step) < ENOUGH_K)
            if same and settled.all():
                break
        found = Settled(flow, room, follows, binding)
        return (found, settled) if binds is None else self._idle(found, settled, binds, slack_k)

    @staticmethod
    def _bounded(flow: Array, step: Array, target: Array) -> Array:
        """A step of the flow that stays between what asks for it and many times as far: emitters follow a power of that."""
        over = np.maximum(flow - target, LEAST_X_K)
        step = np.clip(np.where(np.isfinite(step), step, -over), -0.8 * over, 4.0 * over + 5.0)
        return np.asarray(np.minimum(step, MOST_OVER_K - over))

    def _idle(self, found: Settled, settled: Mask, binds: Mask, slack_k: float) -> tuple[Settled, Mask]:
        """No flow where every room that could ask for it is warm enough without."""
        without = self.without()
        idle = np.asarray((without[:, binds] >= self.rooms.target_c[binds] - slack_k - TINY).all(axis=1))
        if not idle.any():
            return found, settled
        return Settled(
            np.where(idle, np.nan, found.flow_c), np.where(idle[:, None], without, found.room_c),
            np.where(idle[:, None], 0.0, found.per_k), np.where(idle, -1, found.binding),
        ), settled | idle  # fmt: skip

    # ---- the slow way, for what Newton's method does not settle

    def _in_turn(self, flow: Array, binds: Mask | None, slack_k: float = 0.0) -> Settled:
        """The same by halving: the flow between too cool and too warm; at a flow, every room in turn between its bounds."""
        k, r = self.rooms.own_w.shape
        if binds is None:
            return Settled(flow, self._each(flow), np.zeros((k, r)), np.full(k, -1, dtype=np.intp))
        target = self.rooms.target_c
        low, high = np.full(k, NO_WATER_C), np.full(k, float(target.max(initial=20.0)) + MOST_OVER_K)
        for _ in range(HALVINGS):
            middle = np.where(high - low > 200.0, low + (high - low) / 8, (low + high) / 2)
            short = (self.settle(flow_c=middle).room_c[:, binds] < target[binds] - slack_k - SWEPT_ENOUGH_K).any(axis=1)
            low, high = np.where(short, middle, low), np.where(short, high, middle)
            if (high - low).max(initial=0.0) < SWEPT_ENOUGH_K:
                break
        room = self.settle(flow_c=high).room_c
        over = np.where(binds, room - target, np.inf)
        return Settled(high, room, np.zeros((k, r)), np.asarray(over.argmin(axis=1)))

    def _each(self, flow: Array) -> Array:
        """Temperatures (K, R) by balancing every room between its neighbours until none moves."""
        rooms, target = self.rooms, self.rooms.target_c
        slope = np.where(self.slope > 0, self.slope, 1.0)
        room = np.array(np.broadcast_to(target, rooms.own_w.shape))
        for _ in range(SLOWEST_SWEEPS):
            before, from_others = room, room @ self.trade.T
            cold = (from_others - self.base) / slope  # without any heat
            warm = (from_others + rooms.heater_w - self.base) / slope
            low = np.minimum(cold, target) - 1.0
            high = np.maximum(np.maximum(warm, flow[:, None]), target) + 1.0
            for _ in range(HALVINGS):
                middle = (low + high) / 2
                now = self.given(flow[:, None] - middle)
                gives = np.where(middle < target, now.whole + rooms.heater_w, now.stays)
                over = gives < self.base + self.slope * middle - from_others
                low, high = np.where(over, low, middle), np.where(over, middle, high)
            room = np.where(self.moves, (low + high) / 2, target)
            if np.abs(room - before).max(initial=0.0) < SWEPT_ENOUGH_K:
                break
        return room
