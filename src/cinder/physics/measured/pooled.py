"""Ratios of many houses taken together: what they share, and how far one house lies from another."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder.physics.quantity import Array

LEAST = 3


@dataclass(frozen=True, slots=True)
class Pool:
    """`mean` of logarithms with its standard deviation, `between` houses (sd, beside what each was measured wrong), how many."""

    mean: float
    mean_sd: float
    between: float
    houses: int

    @property
    def next_sd(self) -> float:
        """For a house nobody has measured yet."""
        return float(np.hypot(self.mean_sd, self.between))


def pooled(values: Array, sds: Array) -> Pool | None:
    """Values (N,) with their own standard deviations, of which the houses' own differences are told apart. None under three.

    Source: DerSimonian and Laird 1986, random effects by moments (from memory).
    """
    if len(values) < LEAST:
        return None
    weight = 1 / np.square(sds)
    fixed = float((weight * values).sum() / weight.sum())
    q = float((weight * np.square(values - fixed)).sum())
    c = float(weight.sum() - np.square(weight).sum() / weight.sum())
    between = max((q - (len(values) - 1)) / c, 0.0)
    weight = 1 / (np.square(sds) + between)
    return Pool(
        float((weight * values).sum() / weight.sum()),
        float(np.sqrt(1 / weight.sum())),
        float(np.sqrt(between)),
        len(values),
    )


def drawn_to(own: Pool | None, values: Array, sds: Array, everyone: Pool) -> Pool:
    """A group of few houses, drawn to what everyone's say: its mean is weighed with theirs, of which groups differ as houses do.

    `own` its pool where it has one; `values`, `sds` its houses, one at least.
    """
    spread = own.between if own is not None else everyone.between
    weight = 1 / (np.square(sds) + spread**2 + 1e-12)
    mean, sd = float((weight * values).sum() / weight.sum()), float(np.sqrt(1 / weight.sum()))
    prior = max(everyone.between, 0.02) ** 2 + everyone.mean_sd**2
    both = 1 / (1 / sd**2 + 1 / prior)
    return Pool((mean / sd**2 + everyone.mean / prior) * both, float(np.sqrt(both)), spread, len(values))
