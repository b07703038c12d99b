"""Pipes that nobody can see, from what the water does: bores and lengths fitted to flows read at several heads of the pump."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from scipy.optimize import least_squares

from cinder.errors import PhysicsError
from cinder.physics.flow import hydraulic_tree
from cinder.physics.flow.hydraulic_tree import Tree
from cinder.physics.quantity import Array
from cinder.physics.rooms.radiator import Mask

BORES_M = (0.004, 0.08)
LENGTHS_M = (0.05, 400.0)
"""Between these a fit looks."""
BY_BORE = 4.75
"""Friction of turbulent water in a smooth pipe goes by this power of one over the bore (Blasius)."""
NUDGE, MOST_TRIES, LEAST_LPH = 1e-4, 80, 1e-3


@dataclass(frozen=True, slots=True)
class Reading:
    """One state of the pump. `open` (E,): ends whose valves stand wide open, the others are shut. `head_pa` over the network, known to
    `head_spread` (sd of its logarithm). `total_lph` and `end_lph` (E,), L/h, NaN where nobody read them, with the sd of their logarithms."""

    open: Mask
    head_pa: float
    head_spread: float
    total_lph: float
    total_spread: float
    end_lph: Array
    end_spread: Array


@dataclass(frozen=True, slots=True)
class Prior:
    """Standard deviations of logarithms before anything was read: of bores (P,), lengths (P,), fittings together, valves and emitters."""

    bore: Array
    length: Array
    fittings: float = 0.25
    ends: float = 0.20


@dataclass(frozen=True, slots=True)
class Fitted:
    """`tree` with the most likely bores and lengths. Standard deviations of logarithms (P,): of the bore, of the length, and of what a pipe
    takes (`takes_sd`: length over bore to the 4.75th, known far better than its parts), `took_sd` the same before the readings.

    `linked` (P,): how far a length follows its bore, both as logarithms (regression).
    `off` (N, 1 + E): what was read over what the fit gives, in standard deviations, the whole flow first; `chi2`: their squares over
    their number. `narrows` (E,): the part of the doubt about what pipes take (mean of their variances) that one more reading with only this
    end open would take away."""

    tree: Tree
    bore_sd: Array
    length_sd: Array
    linked: Array
    takes_sd: Array
    took_sd: Array
    off: Array
    chi2: float
    narrows: Array


@dataclass(frozen=True, slots=True)
class _Unknown:
    """Everything that may be otherwise, as normal numbers z of its own scale: bores, lengths, fittings, ends, heads of the readings."""

    tree: Tree
    scale: Array
    moves: Mask

    @property
    def pipes(self) -> int:
        return len(self.tree.bore_m)

    def by(self, z: Array) -> Array:
        full = np.zeros(len(self.scale))
        full[self.moves] = z
        return full * self.scale

    def shaped(self, by: Array) -> Tree:
        p, e = self.pipes, len(self.tree.end_pa)
        return replace(
            self.tree, bore_m=np.clip(self.tree.bore_m * np.exp(by[:p]), *BORES_M),
            length_m=np.where(self.tree.length_m > 0, np.clip(self.tree.length_m * np.exp(by[p : 2 * p]), *LENGTHS_M), 0.0),
            k_sum=self.tree.k_sum * np.exp(by[2 * p]), end_pa=self.tree.end_pa * np.exp(by[2 * p + 1 : 2 * p + 1 + e]),
        )  # fmt: skip

    def heads(self, by: Array) -> Array:
        return np.exp(by[2 * self.pipes + 1 + len(self.tree.end_pa) :])

    def friction(self) -> Array:
        """What makes the logarithm of a pipe's resistance of z (P, Z)."""
        p = self.pipes
        out = np.zeros((p, len(self.scale)))
        out[np.arange(p), np.arange(p)] = -BY_BORE
        out[np.arange(p), p + np.arange(p)] = 1.0
        return np.asarray((out * self.scale)[:, self.moves])


def fit(tree: Tree, prior: Prior, readings: Sequence[Reading]) -> Fitted:
    """Most likely pipes of `tree` (its bores and lengths are the guess) and how sure they are, by Bayes' rule about the best fit.

    Valid for: some L/h through every pipe that is to be known; doubts of logarithms taken as normal. Raises `PhysicsError` where there is
    nothing to fit to, or a reading cannot be. Source: least squares with normal priors, Laplace's approximation (textbook).
    """
    read, spread = _read(readings)
    known = np.isfinite(read) & (read > 0)
    if not known.any():
        raise PhysicsError("readings", len(readings), "no flow was read")
    ends = len(tree.end_pa)
    scale = np.concatenate(
        (prior.bore, prior.length, [prior.fittings], np.full(ends, prior.ends), [one.head_spread for one in readings])
    )
    unknown = _Unknown(tree, scale, scale > 0)
    begin = [_begin(one) for one in readings]

    def residuals(z: Array) -> Array:
        by = unknown.by(z)
        shape, heads = unknown.shaped(by), unknown.heads(by)
        flow = np.stack([_at(shape, one.open, one.head_pa * heads[n], begin[n]) for n, one in enumerate(readings)])
        begin[:] = flow[:, 1:]  # the next try begins where this one ended
        return np.concatenate(((np.log(read[known]) - np.log(np.maximum(flow[known], LEAST_LPH))) / spread[known], z))

    def slopes(z: Array) -> Array:
        by = unknown.by(z)
        shape, heads = unknown.shaped(by), unknown.heads(by)
        all_of = np.stack(
            [_slope(shape, one, n, len(readings), one.head_pa * heads[n], begin[n]) for n, one in enumerate(readings)]
        )[known]
        return np.concatenate((-(all_of * unknown.scale)[:, unknown.moves] / spread[known][:, None], np.eye(len(z))))

    found = least_squares(residuals, np.zeros(int(unknown.moves.sum())), jac=slopes, max_nfev=MOST_TRIES)
    covariance = np.linalg.inv(found.jac.T @ found.jac)  # the priors keep it invertible
    by, p = unknown.by(found.x), unknown.pipes
    sd = unknown.by(np.sqrt(np.diag(covariance)))
    by_friction = unknown.friction()
    off = np.full(read.shape, np.nan)
    off[known] = found.fun[: int(known.sum())]
    return Fitted(
        tree=unknown.shaped(by), bore_sd=sd[:p], length_sd=sd[p : 2 * p], linked=_linked(unknown, covariance),
        takes_sd=np.sqrt(np.einsum("pz,zy,py->p", by_friction, covariance, by_friction)),
        took_sd=np.sqrt(np.square(by_friction).sum(axis=1)), off=off, chi2=float(np.nanmean(np.square(off))),
        narrows=_narrows(unknown, found.x, covariance, readings),
    )  # fmt: skip


def _linked(unknown: _Unknown, covariance: Array) -> Array:
    full = np.zeros((len(unknown.scale), len(unknown.scale)))
    full[np.ix_(unknown.moves, unknown.moves)] = covariance
    full *= np.outer(unknown.scale, unknown.scale)
    pipes = np.arange(unknown.pipes)
    of_bore = full[pipes, pipes]
    return np.where(of_bore > 0, full[pipes, unknown.pipes + pipes] / np.where(of_bore > 0, of_bore, 1.0), 0.0)


def _read(readings: Sequence[Reading]) -> tuple[Array, Array]:
    """Flows as they were read and the sd of their logarithms (N, 1 + E), NaN where an end was shut."""
    for n, one in enumerate(readings):
        if not (one.head_pa > 0 and np.isfinite(one.head_pa)):
            raise PhysicsError(f"readings[{n}].head_pa", one.head_pa, "must be above 0")
        if not one.open.any():
            raise PhysicsError(f"readings[{n}].open", one.open.tolist(), "with every end shut nothing flows")
    if not readings:
        raise PhysicsError("readings", 0, "no flow was read")
    read = [np.concatenate(([one.total_lph], np.where(one.open, one.end_lph, np.nan))) for one in readings]
    return np.stack(read), np.stack([np.concatenate(([one.total_spread], one.end_spread)) for one in readings])


def _begin(one: Reading) -> Array:
    whole = one.total_lph if np.isfinite(one.total_lph) and one.total_lph > 0 else 100.0 * one.open.sum()
    return np.where(one.open, whole / one.open.sum(), 0.0)


def _at(tree: Tree, opened: Mask, head_pa: float, begin: Array) -> Array:
    """The whole flow and those of the ends (1 + E,), L/h, the shut ones 0."""
    part = replace(tree, on_path=tree.on_path[:, opened], end_pa=tree.end_pa[opened])
    flow = hydraulic_tree.solve(part, lambda _: head_pa, begin_lph=begin[opened]).end_lph
    out = np.zeros(1 + len(opened))
    out[0] = flow.sum()
    out[1:][opened] = flow
    return out


def _slope(tree: Tree, one: Reading, n: int, readings: int, head_pa: float, begin: Array) -> Array:
    """How the logarithms of the whole flow and of the ends' (1 + E,) answer to everything unknown, by the rule of implicit functions:
    every way round keeps taking what the pump gives. Columns: bores, lengths, fittings, ends, heads; a shut end has none."""
    ends, p = len(tree.end_pa), len(tree.bore_m)
    part = replace(tree, on_path=tree.on_path[:, one.open], end_pa=tree.end_pa[one.open])
    flow = hydraulic_tree.solve(part, lambda _: head_pa, begin_lph=begin[one.open]).end_lph
    through = part.on_path @ flow
    used = part.on_path.any(axis=1)
    takes = hydraulic_tree.pipes_pa(part, through)
    wider = hydraulic_tree.pipes_pa(replace(part, bore_m=part.bore_m * (1 + NUDGE)), through)
    smooth = hydraulic_tree.pipes_pa(replace(part, k_sum=part.k_sum * 0.0), through)
    rough = smooth - part.parts_pa * np.square(through)
    more = hydraulic_tree.pipes_pa(part, through * (1 + NUDGE))
    rises = np.where(used, (more - takes) / (np.maximum(through, LEAST_LPH) * NUDGE), 0.0)
    matrix = part.on_path.T @ (rises[:, None] * part.on_path) + np.diag(2 * part.end_pa * flow)
    way = part.on_path.T
    by_bore = way * np.where(used, (wider - takes) / NUDGE, 0.0)
    by_end = np.zeros((len(flow), ends))
    by_end[:, one.open] = np.diag(part.end_pa * np.square(flow))
    by_head = np.zeros((len(flow), readings))
    by_head[:, n] = -head_pa
    all_of = np.concatenate(
        (
            by_bore,
            way * np.where(used, rough, 0.0),
            (way @ np.where(used, takes - smooth, 0.0))[:, None],
            by_end,
            by_head,
        ),
        axis=1,
    )
    moves = -np.linalg.solve(matrix, all_of)
    out = np.zeros((1 + ends, 2 * p + 1 + ends + readings))
    out[0] = moves.sum(axis=0) / flow.sum()
    out[1:][one.open] = moves / flow[:, None]
    return out


def _narrows(unknown: _Unknown, z: Array, covariance: Array, readings: Sequence[Reading]) -> Array:
    """What one more reading of the whole flow would tell, every end alone in turn, at the mean of the heads that were read."""
    ends = len(unknown.tree.end_pa)
    head = float(np.exp(np.mean([np.log(one.head_pa) for one in readings])))
    noise = float(np.median([np.hypot(one.total_spread, one.head_spread / 2) for one in readings]))
    begin, shape = np.full(ends, 100.0), unknown.shaped(unknown.by(z))
    by_friction = unknown.friction()
    before = float(np.einsum("pz,zy,py->", by_friction, covariance, by_friction))
    out = np.zeros(ends)
    for e in range(ends):
        only = np.arange(ends) == e
        alone = replace(readings[0], open=only)
        slope = _slope(shape, alone, 0, len(readings), head, begin)[0]
        slope[-len(readings) :] = 0.0  # the new reading has a head of its own, counted in its noise
        slope = (slope * unknown.scale)[unknown.moves]
        tells = covariance @ slope
        gain = float(np.square(by_friction @ tells).sum()) / (noise**2 + float(slope @ tells))
        out[e] = gain / before if before > 0 else 0.0
    return out
