"""The temperatures at which the rooms of a house settle together, and the coolest water that serves them all.

One balance: what a room's emitters give at the flow temperature = what it loses to the outside and to rooms beside it.
Rooms whose emitters close (thermostatic valves) are held at their target once they reach it, open ones float above.
"""

from __future__ import annotations

from typing import NamedTuple, TypeAlias

import numpy as np
from numpy.typing import NDArray

from cinder.errors import PhysicsError
from cinder.physics.quantity import Array
from cinder.physics.rooms import room_newton as newton
from cinder.physics.rooms.radiator import Mask
from cinder.physics.rooms.room_newton import LEAST_X_K, Band, band_of

SLOWEST_SWEEPS = 400
SWEPT_ENOUGH_K = 1e-6
SAME_LN_X = 1e-6
"""The last step of Newton's method where heat is all but straight: what it leaves is less than its square."""
LN_X = np.linspace(np.log(LEAST_X_K), np.log(5000.0), 48)
LN_X_STEP = float(LN_X[1] - LN_X[0])
HALVINGS = 50
NO_WATER_C = -1000.0
TRACE = 1e-6
NOTHING_W = 1e-9
"""A load that is only what sums leave that cancel out."""

Rows: TypeAlias = NDArray[np.intp]


class Emitters(NamedTuple):
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


class Rooms(NamedTuple):
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


class Settled(NamedTuple):
    """`flow_c` (K,) and the temperatures (K, R) at which the rooms settle at it; `per_k` (K, R) how much each follows a
    kelvin of flow; `binding` (K,) the room that asks for the flow (-1: none does, the flow is then NaN)."""

    flow_c: Array
    room_c: Array
    per_k: Array
    binding: Rows


class Given(NamedTuple):
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

    def __init__(self, emitters: Emitters, *, like: Law | None = None) -> None:
        """`like`: the law of emitters like these; what is the same is taken from it."""
        e = emitters
        live = (e.rated_w > 0) & (e.design_w > 0) & (e.spread_k > 0)
        per_x = np.where(live, e.design_w / np.where(live, e.spread_k, 1.0), 0.0)
        plain = e.arithmetic & live
        c = np.log(np.where(live, per_x, 1.0)) - np.log(np.where(live, e.rated_w, 1.0))
        c = c + e.exponent * np.log(e.reference_k)
        self._by: Array = np.stack([c, e.exponent, plain, live])
        cubic, changed = np.zeros((live.size, len(LN_X) - 1, 4)), np.ones(live.shape, dtype=bool)
        if like is not None and like._by.shape == self._by.shape:
            cubic, changed = like._cubic.copy(), (self._by != like._by).any(axis=0)
            cubic[changed.ravel()] = 0.0
        rows = np.nonzero((live & changed).ravel())[0]
        newton.cool_all(
            rows, np.ascontiguousarray(e.exponent, dtype=float).ravel(), c.ravel(), plain.ravel(), LN_X, cubic
        )
        self._cubic: Array = cubic
        self.any = live.any(axis=1)
        self.closes = e.closes & live
        self.any_closes = self.closes.any(axis=1)
        self.table = newton.Table(
            cubic.reshape(-1, 4), float(LN_X[0]), LN_X_STEP, np.ascontiguousarray(per_x), live, plain, self.closes
        )
        # ln of the heat of every room (R, X) at the steps of ln x, and whose is still to be worked out
        self._ln_heat: Array = np.empty((self.any.size, len(LN_X)))
        self._unknown: Mask = np.ones(self.any.size, dtype=bool)
        if like is not None and like._by.shape == self._by.shape:
            self._ln_heat, self._unknown = like._ln_heat.copy(), like._unknown | changed.any(axis=1)

    def closing(self, closes: Mask) -> Law:
        """The same emitters with other valves (R, E)."""
        other = object.__new__(Law)
        other.__dict__.update(self.__dict__)
        other.closes = closes & self.table.live
        other.any_closes = other.closes.any(axis=1)
        other.table = self.table._replace(closes=other.closes)
        return other

    def needed_x(self, load_w: Array, wanted: Mask) -> Array:
        """x = flow - room at which rooms give `load_w` (K, R), where it is `wanted`."""
        out = np.ones_like(load_w)
        newton.needed_x(self.table, load_w, wanted, LN_X, self._heats(), newton.MOST_STEPS, SAME_LN_X, out)
        return out

    def most_needed_c(self, load_w: Array, wanted: Mask, target_c: Array) -> Array:
        """The greatest flow temperature (K,) at which rooms at their targets give `load_w` (K, R), where it is `wanted`."""
        out = np.empty(len(load_w))
        newton.most_needed(self.table, load_w, wanted, target_c, LN_X, self._heats(), newton.MOST_STEPS, SAME_LN_X, out)
        return out

    def _heats(self) -> Array:
        if self._unknown.any():
            newton.heats(self.table, LN_X, self._ln_heat, self._unknown)
        return self._ln_heat

    def __call__(self, x: Array) -> Given:
        """What is given at x (K, R)."""
        out = np.empty((4, *x.shape))
        newton.given_at(self.table, np.ascontiguousarray(x, dtype=float), out)
        stays, whole, stays_x, whole_x = out
        return Given(stays, whole, stays_x, whole_x)


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

    def __init__(self, rooms: Rooms, emitters: Emitters, *, given: Law | None = None, band: Band | None = None) -> None:
        k, r = rooms.own_w.shape
        if rooms.target_c.shape != (r,) or rooms.trade_w_k.shape != (r, r) or emitters.rated_w.shape[0] != r:
            raise PhysicsError("own_w", (k, r), "does not fit the other rooms or the emitters")
        self.rooms, self.emitters = rooms, emitters
        self.given = given or Law(emitters)
        self.trade = np.where(rooms.known[:, None], rooms.trade_w_k, 0.0)
        self.band = band or band_of(self.trade)
        across = self.trade.sum(axis=1)
        # a room nothing leads heat from has no balance: it stays where it is wanted
        self.moves = rooms.known & (rooms.own_per_k + across > 0)
        # rooms closed in by rooms alone lose a trace outwards, so that they have a temperature at all
        self.own_per_k = np.maximum(rooms.own_per_k, TRACE * (1.0 + across))
        self.slope = self.own_per_k + across
        self.base = self._at_nought()
        self.heated = bool(rooms.heater_w.any())
        shuts = self.given.any_closes & self.moves
        # what a thermostat holds at its target (K, R)
        self.closing: Mask = np.empty((k, r), dtype=np.bool_)
        self.closing[:] = (shuts | ((rooms.heater_w > 0) & self.moves)) if self.heated else shuts
        self._without: Array | None = None

    def _but(self) -> Balance:
        other = object.__new__(Balance)
        other.__dict__.update(self.__dict__)
        return other

    def _at_nought(self) -> Array:
        """What the rooms lose at 0 deg C (K, R): loss = base + slope T - trade T of the others."""
        return np.asarray(self.rooms.own_w - self.own_per_k * self.rooms.target_c)

    def wanting(self, target_c: Array) -> Balance:
        """The same house with other temperatures wanted (R,)."""
        r, other = self.rooms, self._but()
        own = r.own_w + r.own_per_k * (target_c - r.target_c)
        other.rooms = r._replace(target_c=target_c, own_w=own)
        other.base, other._without = other._at_nought(), None
        return other

    def at(self, rows: Rows) -> Balance:
        """The same at some of the outdoor temperatures."""
        r, some = self.rooms, self._but()
        some.rooms = r._replace(own_w=r.own_w[rows], heater_w=r.heater_w[rows])
        some.base, some.closing = self.base[rows], self.closing[rows]
        some._without = self._without[rows] if self._without is not None else None
        return some

    def settle(
        self, *, flow_c: Array, asked: Mask | None = None, slack_k: float = 0.0, start: Settled | None = None
    ) -> Settled:
        """Temperatures at which all rooms settle together, deg C.

        At the given flow temperatures (K,); or, with `asked` (R,), at the least flow at which each of those rooms with
        emitters comes within `slack_k` of its target, `flow_c` then being where to begin. Emitters give by EN 442, each
        with the water flow it was set for. `start`: where the rooms may be sought first.

        Newton's method on all rooms at once (its matrix is that of a network of conductances, so it comes down on the
        one solution); where it does not settle, rooms are balanced in turn: slower, and short of rest where rooms trade some
        fifty times what they lose. Source: energy balance.
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
        wanted = (load_w > NOTHING_W) & self.given.any
        return np.where(wanted, self.rooms.target_c + self.given.needed_x(load_w, wanted), np.nan)

    def most_needed(self, load_w: Array, asked: Mask) -> Array:
        """The greatest of `needs` among the rooms that are `asked` (R,), deg C (K,); NaN where none needs anything."""
        return self.given.most_needed_c(load_w, (load_w > NOTHING_W) & self.given.any & asked, self.rooms.target_c)

    def without(self) -> Array:
        """Where the rooms settle without any water (K, R), heaters of their own at work."""
        if self._without is None:
            self._without = self._dry()
        return self._without

    def _house(self) -> newton.House:
        r = self.rooms
        return newton.House(self.base, r.heater_w, self.slope, r.target_c, self.trade, self.moves, self.closing)

    def _dry(self) -> Array:
        k, r = self.rooms.own_w.shape
        if not self.heated:
            out = np.empty((k, r))
            newton.dry(self._house(), self.band, out)
            return out
        dry = Balance(self.rooms, self.emitters._replace(rated_w=self.emitters.rated_w * 0.0))
        return dry.settle(flow_c=np.full(k, NO_WATER_C)).room_c

    def _newton(self, flow: Array, binds: Mask | None, slack_k: float, start: Settled | None) -> tuple[Settled, Mask]:
        """The balance, and at which outdoor temperatures it has settled."""
        rooms, target = self.rooms, self.rooms.target_c
        k, r = rooms.own_w.shape
        room = np.empty((k, r))
        room[:] = target if start is None else start.room_c
        if not np.isfinite(flow).all():
            flow = np.where(np.isfinite(flow), flow, target.max(initial=20.0) + 20.0)
        found = Settled(flow, room, np.zeros((k, r)), np.full(k, -1, dtype=np.intp))
        settled = np.zeros(k, dtype=bool)
        newton.settle(
            self._house(), self.given.table, self.band, found.flow_c, found.room_c,
            binds if binds is not None else np.zeros(r, dtype=bool), binds is not None, slack_k, found.per_k, found.binding,
            settled, start is None,
        )  # fmt: skip
        return (found, settled) if binds is None else self._idle(found, settled, binds, slack_k)

    def _idle(self, found: Settled, settled: Mask, binds: Mask, slack_k: float) -> tuple[Settled, Mask]:
        """No flow where every room that could ask for it is warm enough without."""
        without = self.without()
        idle = np.asarray((without[:, binds] >= self.rooms.target_c[binds] - slack_k - newton.TINY).all(axis=1))
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
        low, high = np.full(k, NO_WATER_C), np.full(k, float(target.max(initial=20.0)) + newton.MOST_OVER_K)
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


def ready() -> None:
    """Compile what is compiled, so that the first house does not wait for it; a moment where that was done before."""
    rooms = Rooms(
        target_c=np.array([20.0, 18.0]), own_w=np.array([[900.0, 400.0]]), own_per_k=np.array([40.0, 20.0]),
        trade_w_k=np.array([[0.0, 5.0], [5.0, 0.0]]), heater_w=np.zeros((1, 2)), known=np.array([True, True]),
    )  # fmt: skip
    panels = Emitters(
        rated_w=np.array([[1000.0], [500.0]]), exponent=np.full((2, 1), 1.3), spread_k=np.full((2, 1), 10.0),
        design_w=np.array([[900.0], [400.0]]), arithmetic=np.zeros((2, 1), dtype=bool), closes=np.zeros((2, 1), dtype=bool),
        reference_k=49.83,
    )  # fmt: skip
    balance = Balance(rooms, panels)
    balance.settle(flow_c=np.array([50.0]), asked=np.array([True, True]))
    balance.needs(np.array([[500.0, 300.0]]))
    balance.most_needed(np.array([[500.0, 300.0]]), np.array([True, True]))
