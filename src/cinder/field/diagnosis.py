"""Why a house is cold or warm: every cause weighed against what was seen.

Each cause says how the looks would stray from the expected house: all rooms together as if the water were cooler or warmer than it is
(by one amount at the cold end and one at the mild end); or one room by itself (`causes`). Amounts, and how far every thermometer is off,
are unknown with a spread of their own, so that what a cause explains is a Gaussian integral in closed form; causes that
explain more with less win. Source: Bayesian comparison of linear models; the spreads are our choice.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from scipy.linalg import cho_factor, cho_solve

from cinder.field.causes import KINDS, SLACK_K, Cause, causes
from cinder.field.expected import Expected
from cinder.field.seen import Seen, odd_ones, sun_swing_k
from cinder.field.spreads import log_ratios
from cinder.physics.machine import curve as law
from cinder.physics.quantity import Array
from cinder.physics.rooms.radiator import Mask

NOISE_K, OFFSET_K = 0.3, 0.4
"""Of one look at a room about where it settles; of its thermometer against the truth."""
VALVED_NOISE_K, VALVED_OFFSET_K = 0.5, 0.55
"""The same where a valve holds the room: it lets it go up and down by half a kelvin."""
TOGETHER_K = 0.2
"""Instruments that are off together, those of the air and the water among them."""
LOOK_K = 0.25
"""What one day does to the whole house that a house at rest does not show."""
SHIFT_K, SHARED = 3.0, 0.5
"""How far the house's water may be off at either end, and how much of that both ends share."""
BENDS = 0.08
"""How much of the house's own shift its rooms may share otherwise."""
SUN_EACH_K = 2.0
"""What sun may do to any room in a bright afternoon."""
SOUND_PRIOR = 0.6
MEANS_K = 1.5
"""Water by which a line is off that instruments can tell, K."""
TURNS_PART = 0.3
"""How seldom a line is wrong at both ends the opposite way, beside the others."""
SURE = 0.5
SUN_MEANS_K = 1.5
"""How much warmer a room gets in full sun than through its day that is worth a valve, K."""
SUN_LOWERS_K = 5.0
"""A line that is warm by less than this may be so by the sun alone."""
SURE_BESIDE = 0.9
NOT_FOLLOWED, UNDECIDED = "not followed", "undecided"
STRAYS_K, STRAYS_FLOW_K = 1.5, 3.0
"""Asked for so far off the line that is set, the controller does not do as it was told; the water itself strays by more (it goes on and off)."""
SHAPES = {
    (0, 0): "right", (1, 0): "steeper", (-1, 0): "flatter", (1, 1): "level up", (-1, -1): "level down", (0, 1): "mild end up",
    (0, -1): "mild end down", (1, -1): "turn steeper", (-1, 1): "turn flatter",
}  # fmt: skip
DRAWS = 4000
HUBER_K = 0.8


@dataclass(frozen=True, slots=True)
class Diagnosis:
    """What it comes to. `verdict` one of `SHAPES`, `KINDS`, "not followed" or "undecided"; `chance` of it; `chances` of every verdict.

    `cold_k`, `mild_k` by how much the water is to change at the two ends, with `cold_sd_k`, `mild_sd_k`. `odd` readings left out (J, R);
    `residual_k` (J, R) of each look from the expected house at the water as measured; `off_k` (R,) each room beside what all do together;
    `strays_k` the water asked for beside the line that is set; `swing_k` (R,) by the sun; `spread_ratio` (E,) measured over expected.
    """

    verdict: str
    chance: float
    chances: dict[str, float]
    room: int | None
    cold_k: float
    mild_k: float
    cold_sd_k: float
    mild_sd_k: float
    odd: Mask
    residual_k: Array
    off_k: Array
    strays_k: float
    swing_k: Array
    spread_ratio: Array


def diagnose(house: Expected, seen: Seen, *, cold_c: float, mild_c: float) -> Diagnosis:
    """Weigh every cause. `cold_c`, `mild_c`: the two ends of the line, outdoors. Raises `ValueError` where nothing can be weighed."""
    usable = np.isfinite(seen.outdoor_c) & np.isfinite(seen.flow_c)
    usable &= np.isfinite(seen.room_c[:, house.heated]).any(axis=1)
    if not usable.any():
        raise ValueError("No look carries outdoor air, water and a heated room together.")
    looks = seen.rows(usable)
    residual = looks.room_c - house.at(looks.outdoor_c, looks.flow_c, looks.sun_w_m2).room_c
    odd = odd_ones(looks, residual)
    swing = sun_swing_k(looks)
    sunny = np.where(house.heated, np.nan_to_num(swing), 0.0)
    # a room the sun heats says nothing about the water
    kept = looks.without(odd | (sunny > SUN_MEANS_K)[None, :])
    part = (mild_c - looks.outdoor_c) / max(mild_c - cold_c, 1.0)
    ends = np.clip(np.stack([part, 1.0 - part], axis=1), -0.5, 1.5)  # (J, 2): how much each end counts at every look
    weighed = _weigh(house, kept, ends)
    by, room, mean, sd = _verdicts(house, weighed, sunny, cold_c, mild_c)
    name = max(by, key=lambda one: by[one])
    strays = strays_k(house, looks)
    if abs(strays) > (STRAYS_K if np.isfinite(looks.wanted_c).any() else STRAYS_FLOW_K):
        name = NOT_FOLLOWED
        by = {**dict.fromkeys(by, 0.0), NOT_FOLLOWED: 1.0}
    return Diagnosis(
        verdict=name if by[name] >= SURE else UNDECIDED, chance=by[name], chances=by, room=room if name in KINDS else None,
        cold_k=float(mean[0]), mild_k=float(mean[1]), cold_sd_k=float(sd[0]), mild_sd_k=float(sd[1]),
        odd=_all(odd.astype(float), usable, fill=0.0) > 0.5, residual_k=_all(residual, usable, fill=np.nan),
        off_k=weighed.fits[weighed.best].off_k,
        strays_k=strays, swing_k=swing, spread_ratio=np.exp(log_ratios(house, looks)),
    )  # fmt: skip


def _all(some: Array, usable: Mask, *, fill: float) -> Array:
    out = np.full((len(usable), *some.shape[1:]), fill, dtype=some.dtype)
    out[usable] = some
    return out


def strays_k(house: Expected, seen: Seen) -> float:
    """By how much the water asked for (or, where nobody read that, the water given) lies off the line that was set then, K: the middle of
    all looks."""
    now = law.flow_at(house.control_line, outdoor_c=seen.air_c)
    set_to = np.where(np.isfinite(seen.set_c), seen.set_c, now)
    asked = np.where(np.isfinite(seen.wanted_c), seen.wanted_c, seen.flow_c) - set_to
    asked = asked[np.isfinite(asked)]
    return float(np.median(asked)) if len(asked) else 0.0


@dataclass(frozen=True, slots=True)
class _Fit:
    """By one cause: by how much the water is to change at both ends (2,), how sure that is (2, 2), every room's own offset (R,)."""

    mean: Array
    cov: Array
    off_k: Array


@dataclass(frozen=True, slots=True)
class _Weighed:
    """The first is no room's fault."""

    causes: list[Cause | None]
    chances: Array
    fits: list[_Fit]

    @property
    def best(self) -> int:
        return int(np.argmax(self.chances))


def _shift_prior() -> Array:
    return SHIFT_K**2 * np.array([[1.0, SHARED], [SHARED, 1.0]])


def _common(house: Expected, seen: Seen, ends: Array) -> Array:
    """By how much the water is worth less than measured (2,), K, at the two ends: what fits all rooms best, none of them much."""
    shift = np.zeros(2)
    prior = np.linalg.inv(_shift_prior())
    for _ in range(5):
        at = house.at(seen.outdoor_c, seen.flow_c - ends @ shift, seen.sun_w_m2)
        residual = seen.room_c - at.room_c
        rows, rooms = np.nonzero(np.isfinite(residual) & house.heated & (at.per_k > 0.1))
        if not len(rows):
            break
        slope = -at.per_k[rows, rooms][:, None] * ends[rows]
        value = residual[rows, rooms]
        weight = (
            1.0 / (NOISE_K**2 + 0.25) / np.maximum(1.0, np.abs(value) / HUBER_K)
        )  # one room does not carry the house
        count = len(np.unique(rooms))
        weight = weight / count * min(count, 6)
        right = slope.T @ (weight * value) - prior @ shift
        step = np.linalg.solve(slope.T @ (slope * weight[:, None]) + prior, right)
        shift = np.clip(shift + step, -12.0, 12.0)
        if np.abs(step).max() < 0.02:
            break
    return shift


def _weigh(house: Expected, seen: Seen, ends: Array) -> _Weighed:
    """The chance of every cause, and the shift of all rooms by each."""
    shift = _common(house, seen, ends)
    water = seen.flow_c - ends @ shift
    at = house.at(seen.outdoor_c, water, seen.sun_w_m2)
    residual = seen.room_c - at.room_c
    rows, rooms = np.nonzero(np.isfinite(residual) & house.heated[None, :])
    # what always may be: both ends of the water, every thermometer, the sun in every room
    slope = -at.per_k[rows, rooms][:, None] * ends[rows]
    y = residual[rows, rooms] + slope @ shift
    count = residual.shape[1]
    offsets = (rooms[:, None] == np.arange(count)[None, :]).astype(float)
    sunny = offsets * np.nan_to_num(seen.sun)[rows][:, None]
    always = np.concatenate([slope, offsets, sunny], axis=1)
    prior = _always_prior(house, float(np.abs(shift).max()))
    noise = np.where(house.closes[rooms], VALVED_NOISE_K, NOISE_K) ** 2
    same_look = LOOK_K**2 * (rows[:, None] == rows[None, :])
    factor = cho_factor(always @ prior @ always.T + np.diag(noise) + same_look, lower=True)
    log_det = 2.0 * float(np.log(np.diag(factor[0])).sum())
    gain = prior[:2] @ always.T
    cov = prior[:2, :2] - gain @ cho_solve(factor, gain.T)

    def fit(left: Array) -> _Fit:
        return _Fit(gain @ left, cov, (prior[2 : 2 + count] @ always.T) @ left)

    tried = causes(house, seen, water, at.room_c, rows, rooms)
    many = len(tried)
    solved = cho_solve(factor, np.column_stack([y, *(one.unit for one in tried), *(one.does for one in tried)]))
    logs = [-0.5 * (float(y @ solved[:, 0]) + log_det) + np.log(SOUND_PRIOR)]
    fits = [fit(solved[:, 0])]
    amounts = {one.cause: sum(1 for other in tried if other.cause == one.cause) for one in tried}
    of_kind = {kind: sum(1 for cause in amounts if cause.kind == kind) for kind in KINDS}
    kinds = sum(1 for one in of_kind.values() if one) or 1
    for k, one in enumerate(tried):
        left, left_solved = y - one.does, solved[:, 0] - solved[:, 1 + many + k]
        inner, cross = float(one.unit @ solved[:, 1 + k]), float(one.unit @ left_solved)
        # matrix determinant lemma and Sherman-Morrison: so much more or less of it than was tried
        whole = 1.0 + SLACK_K**2 * inner
        log = -0.5 * (float(left @ left_solved) + log_det) + 0.5 * SLACK_K**2 * cross**2 / whole - 0.5 * np.log(whole)
        each = (1.0 - SOUND_PRIOR) / kinds / of_kind[one.cause.kind] / amounts[one.cause]
        logs.append(log + one.beside + np.log(each))
        fits.append(fit(left_solved - SLACK_K**2 * cross / whole * solved[:, 1 + k]))
    chance = np.exp(np.array(logs) - max(logs))
    return _Weighed([None, *(one.cause for one in tried)], chance / chance.sum(), fits)


def _always_prior(house: Expected, shift_k: float) -> Array:
    count = len(house.heated)
    prior = np.zeros((2 + 2 * count, 2 + 2 * count))
    prior[:2, :2] = _shift_prior()
    own = np.where(house.closes, VALVED_OFFSET_K, OFFSET_K) ** 2 + (BENDS * shift_k) ** 2
    at = np.arange(2, len(prior))
    prior[at, at] = np.concatenate([own, np.full(count, SUN_EACH_K**2)])
    prior[2 : 2 + count, 2 : 2 + count] += TOGETHER_K**2
    return prior


def _verdicts(
    house: Expected, weighed: _Weighed, sunny_k: Array, cold_c: float, mild_c: float
) -> tuple[dict[str, float], int | None, Array, Array]:
    """Chances by verdict, the room it concerns, by how much the water is to change at both ends and how sure that is (2,), K."""
    by: dict[str, float] = dict.fromkeys((*SHAPES.values(), *KINDS), 0.0)
    rooms: dict[tuple[str, int], float] = {}
    for chance, cause in zip(weighed.chances, weighed.causes, strict=True):
        if cause is not None:
            by[cause.kind] += float(chance)
            rooms[cause.kind, cause.room] = rooms.get((cause.kind, cause.room), 0.0) + float(chance)
    at = np.array([cold_c, mild_c])
    fit = weighed.fits[weighed.best]
    mean = law.flow_at(house.line, outdoor_c=at) + fit.mean - law.flow_at(house.control_line, outdoor_c=at)
    draws = np.random.default_rng(1).multivariate_normal(mean, fit.cov, size=DRAWS)
    signs = (draws > MEANS_K).astype(int) - (draws < -MEANS_K).astype(int)
    part = {
        name: float((signs == np.array(pair)).all(axis=1).mean()) * (TURNS_PART if pair[0] * pair[1] < 0 else 1.0)
        for pair, name in SHAPES.items()
    }
    for name, one in part.items():
        by[name] += float(weighed.chances[0]) * one / sum(part.values())
    if sunny_k.max(initial=0.0) > SUN_MEANS_K:
        _first_the_sun(by, lowers_k=-float(mean.min()))
        rooms["sun", int(np.argmax(sunny_k))] = 1.0
    top = max(KINDS, key=lambda one: by[one])
    room = max((r for k, r in rooms if k == top), key=lambda r: rooms[top, r], default=None)
    return by, room, mean, np.sqrt(np.diag(fit.cov))


def _first_the_sun(by: dict[str, float], *, lowers_k: float) -> None:
    """What sun brings one room goes round the house: a line that is a little warm, and rooms beside it, may be so by it alone."""
    for pair, name in SHAPES.items():
        if max(pair) < 1 and lowers_k <= SUN_LOWERS_K:
            by["sun"] += by[name]
            by[name] = 0.0
    for name in KINDS:
        if name != "sun":
            taken = min(by[name], SURE_BESIDE)
            by["sun"] += taken
            by[name] -= taken
