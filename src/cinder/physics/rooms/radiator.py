"""Emitters whose output follows a power of the excess temperature (EN 442)."""

from __future__ import annotations

import math
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from cinder.physics.compiled import compiled
from cinder.physics.quantity import Array, Num, flat, plain, require_positive

Mask: TypeAlias = NDArray[np.bool_]

LOG_REFERENCE_K = 49.83  # log mean of 75/65/20, the excess at which EN 442 rates an emitter
ARITHMETIC_REFERENCE_K = 50.0
_LEAST_EXCESS_K = 1e-9
_LEAST_SPREAD_K = 1e-9


def log_excess(*, flow_c: Num, return_c: Num, room_c: Num) -> Num:
    """Logarithmic excess, K: (f - r) / ln((f - i)/(r - i)); 0 where the return is not above the room.

    Valid for: flow >= return. Source: EN 442-2 (from memory).

    >>> round(float(log_excess(flow_c=75.0, return_c=65.0, room_c=20.0)), 2)
    49.83
    """
    hot = np.asarray(flow_c, float) - room_c
    cold = np.asarray(return_c, float) - room_c
    safe_hot = np.maximum(hot, _LEAST_EXCESS_K)
    safe_cold = np.maximum(cold, _LEAST_EXCESS_K)
    ratio = safe_hot / safe_cold
    near = np.abs(ratio - 1) < 1e-6
    log_ratio = np.where(near, 1.0, np.log(ratio))
    excess = np.where(near, (safe_hot + safe_cold) / 2, (safe_hot - safe_cold) / log_ratio)
    out = np.where(cold <= 0, 0.0, excess)
    return out if out.ndim else float(out)


def arithmetic_excess(*, flow_c: Num, return_c: Num, room_c: Num) -> Num:
    """Arithmetic excess, K: (f + r)/2 - i, never below 0. Source: common practice.

    >>> arithmetic_excess(flow_c=75.0, return_c=65.0, room_c=20.0)
    50.0
    """
    out = np.maximum((np.asarray(flow_c, float) + return_c) / 2 - room_c, 0.0)
    return out if out.ndim else float(out)


def output(*, rated_w: Num, exponent: Num, excess_k: Num, reference_k: float = LOG_REFERENCE_K) -> Num:
    """Output, W: rated x (excess / reference)^n. Valid for: excess >= 0. Source: EN 442 (from memory).

    >>> round(output(rated_w=1000.0, exponent=1.3, excess_k=30.0, reference_k=50.0))
    515
    """
    return rated_w * (excess_k / reference_k) ** exponent


def excess_for_output(
    *, wanted_w: Array, rated_w: Array, exponent: Array, reference_k: float = LOG_REFERENCE_K
) -> Array:
    """Common excess, K, at which several emitters together give `wanted_w`.

    Solves sum_e rated (x / ref)^n = wanted by Newton's method in ln x, where the sum is nearly straight.

    Shapes: `wanted_w` (..., R); `rated_w`, `exponent` (R, E), rated 0 where there is no emitter.
    Returns (..., R); infinite where a room has no emitter, 0 where nothing is wanted.
    Raises `PhysicsError` on an exponent that is not positive. Source: EN 442 (from memory).

    >>> excess_for_output(wanted_w=np.array([500.0]), rated_w=np.array([[1000.0, 0.0]]),
    ...                   exponent=np.array([[1.0, 1.3]]), reference_k=50.0).round(3)
    array([25.])
    """
    require_positive("exponent", exponent)
    out = np.empty(wanted_w.shape)
    rows = (math.prod(wanted_w.shape[:-1]), len(rated_w))
    _common_excess(
        plain(wanted_w).reshape(rows), plain(rated_w), plain(exponent), float(reference_k), out.reshape(rows)
    )
    return out


@compiled
def _common_excess(wanted: Array, rated: Array, exponent: Array, reference: float, out: Array) -> None:
    """`excess_for_output` for rows of rooms (L, R)."""
    rooms, emitters = rated.shape
    for r in range(rooms):
        total, weighted = 0.0, 0.0
        for e in range(emitters):
            total += rated[r, e]
            weighted += rated[r, e] * exponent[r, e]
        for k in range(len(wanted)):
            if not total > 0:
                out[k, r] = np.inf
            elif not wanted[k, r] > 0:
                out[k, r] = 0.0
            else:
                target = math.log(wanted[k, r])
                x = (target - math.log(total)) / (weighted / total)
                for _ in range(12):
                    given, slope = 0.0, 0.0
                    for e in range(emitters):
                        if rated[r, e] > 0:
                            term = rated[r, e] * math.exp(exponent[r, e] * x)
                            given += term
                            slope += term * exponent[r, e]
                    step = (math.log(given) - target) / (slope / given)
                    x -= step
                    if abs(step) < 1e-12:
                        break
                out[k, r] = reference * math.exp(x)


def flow_for_log_excess(*, excess_k: Num, spread_k: Num, room_c: Num) -> Num:
    """Flow temperature, deg C, whose log excess over the room is `excess_k` with a spread `spread_k`.

    From L = s / ln((y + s)/y) with y = return - room: y = s / (exp(s/L) - 1), flow = room + y + s.
    Valid for: excess > 0, spread >= 0. Source: algebra.

    >>> round(float(flow_for_log_excess(excess_k=49.83, spread_k=10.0, room_c=20.0)), 1)
    75.0
    """
    shape, (excess, spread, room) = flat(excess_k, spread_k, room_c)
    out = np.empty(len(excess))
    _flows(excess, spread, room, out)
    return out.reshape(shape) if shape else float(out[0])


@compiled
def _flows(excess_k: Array, spread_k: Array, room_c: Array, out: Array) -> None:
    for n in range(len(out)):
        if math.isinf(excess_k[n]):
            out[n] = np.inf
            continue
        above = max(excess_k[n], _LEAST_EXCESS_K)
        if spread_k[n] >= _LEAST_SPREAD_K:
            above = spread_k[n] / math.expm1(min(spread_k[n] / above, 700.0)) + spread_k[n]
        out[n] = room_c[n] + above


def flow_for_arithmetic_excess(*, excess_k: Num, spread_k: Num, room_c: Num) -> Num:
    """Flow temperature, deg C, for an arithmetic excess: room + excess + spread/2. Source: algebra.

    >>> flow_for_arithmetic_excess(excess_k=50.0, spread_k=10.0, room_c=20.0)
    75.0
    """
    return room_c + excess_k + spread_k / 2


def flow_for_mix(
    *,
    wanted_w: Array,
    rated_w: Array,
    exponent: Array,
    spread_k: Array,
    room_c: Array,
    reference_k: float,
    arithmetic: Mask,
) -> Array:
    """Flow temperature, deg C, at which emitters with spreads of their own together give `wanted_w`.

    Solves sum_e rated (x_e / ref)^n = wanted with x_e the excess at (flow, flow - spread_e), by Newton's method in
    ln(flow - room), bisection where a step leaves what is still possible.

    Shapes: `wanted_w`, `room_c` (..., R); `rated_w`, `exponent`, `arithmetic` (R, E); `spread_k` (..., R, E).
    Returns (..., R): infinite where a room has no emitter, the room's temperature where nothing is wanted.
    Raises `PhysicsError` on an exponent that is not positive. Source: EN 442, EN 1264 (from memory).

    >>> flow_for_mix(wanted_w=np.array([1000.0]), rated_w=np.array([[1000.0]]), exponent=np.array([[1.3]]),
    ...     spread_k=np.array([[10.0]]), room_c=np.array([20.0]), reference_k=LOG_REFERENCE_K,
    ...     arithmetic=np.array([[False]])).round(1)
    array([75.])
    """
    require_positive("exponent", exponent)
    present = (rated_w.sum(axis=-1) > 0) & np.ones_like(wanted_w, dtype=bool)
    solve = present & (wanted_w > 0)
    target = np.log(np.where(solve, wanted_w, 1.0))
    low, high = np.full(wanted_w.shape, np.log(1e-3)), np.full(wanted_w.shape, np.log(1e6))
    x = np.log(40.0 + 0 * target)
    room = np.broadcast_to(np.asarray(room_c, float), wanted_w.shape)[..., None]

    def given(at: Array) -> Array:
        """ln of what all give at ln(flow - room)."""
        flow = room + np.exp(at)[..., None]
        excess = mixed_excess(flow_c=flow, spread_k=spread_k, room_c=room, arithmetic=arithmetic)
        each = output(rated_w=rated_w, exponent=exponent, excess_k=excess, reference_k=reference_k)
        watts = np.asarray(each).sum(axis=-1)
        return np.asarray(np.log(np.maximum(watts, 1e-12)))

    for _ in range(60):
        over = given(x) - target
        low, high = np.where(over > 0, low, x), np.where(over > 0, x, high)
        slope = np.maximum((given(x + 1e-4) - over - target) / 1e-4, 1e-3)
        tried = x - over / slope
        after = np.where((tried > low) & (tried < high), tried, (low + high) / 2)
        moved = np.abs(np.where(solve, after - x, 0.0)).max(initial=0.0)
        x = after
        if moved < 1e-10:
            break
    flow = np.where(solve, room[..., 0] + np.exp(x), room[..., 0])
    return np.where(present, flow, np.where(wanted_w > 0, np.inf, room[..., 0]))


def mixed_excess(*, flow_c: Num, spread_k: Num, room_c: Num, arithmetic: Mask) -> Array:
    """Excess of emitters side by side, K: logarithmic, or arithmetic where the mask says so; 0 without any."""
    back = np.asarray(flow_c, float) - spread_k
    found = np.asarray(log_excess(flow_c=flow_c, return_c=back, room_c=room_c))
    if not np.any(arithmetic):
        return found
    plain = np.asarray(arithmetic_excess(flow_c=flow_c, return_c=back, room_c=room_c))
    return np.asarray(np.where(arithmetic, plain, found))


def side_by_side_w(
    *,
    flow_c: Array,
    return_c: Array,
    room_c: Array,
    rated_w: Array,
    exponent: Array,
    arithmetic: Mask,
    reference_k: float,
) -> Array:
    """Heat of emitters side by side at the same water (N,), W: `flow_c`, `return_c` (N,), `room_c` (N,) or one for each of them (N, E);
    `rated_w`, `exponent`, `arithmetic` (E,). Source: EN 442 (from memory).

    >>> one = np.array([1000.0]), np.array([1.3]), np.array([True])
    >>> water = dict(flow_c=np.array([53.0]), return_c=np.array([47.0]), room_c=np.array([20.0]))
    >>> side_by_side_w(**water, rated_w=one[0], exponent=one[1], arithmetic=one[2], reference_k=50.0).round().tolist()
    [515.0]
    """
    room = room_c if np.ndim(room_c) == 2 else np.asarray(room_c)[:, None]
    hot = np.asarray(flow_c, float)[:, None]
    excess = mixed_excess(
        flow_c=hot, spread_k=hot - np.asarray(return_c, float)[:, None], room_c=room, arithmetic=arithmetic
    )
    each = np.asarray(output(rated_w=rated_w, exponent=exponent, excess_k=excess, reference_k=reference_k))
    return np.asarray(each.sum(axis=-1))


FACE_HEIGHTS_M = (0.2, 1.0)
"""Heights between which outputs by face are known to follow a power of the height (common practice)."""


def panel_rating(*, length_m: float, height_m: float, w_per_m_at_600: float, height_exponent: float) -> float:
    """Rated output of a panel from its face, W: q600 x length x (height / 0.6)^m.

    Valid for: heights 0.2-1.0 m. Source: common practice, from memory, about +-15 %.

    >>> round(panel_rating(length_m=1.0, height_m=0.6, w_per_m_at_600=1750.0, height_exponent=0.8))
    1750
    """
    require_positive("length_m", length_m)
    require_positive("height_m", height_m)
    return float(w_per_m_at_600 * length_m * (height_m / 0.6) ** height_exponent)
