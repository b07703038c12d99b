"""A running mean, as what remembers slowly has it: walls, controllers, people."""

from __future__ import annotations

import numpy as np

from cinder.physics.compiled import compiled
from cinder.physics.quantity import Array, plain


def running_mean(values: Array, *, keep: float, start: float) -> Array:
    """Each a part `keep` of the mean before it and the rest of its own value (N,); `start` stands before the first.

    Valid for: `keep` in 0-1. Source: a first-order lag, exp(-step / time constant) of it kept.

    >>> running_mean(np.array([10.0, 10.0]), keep=0.5, start=0.0).tolist()
    [5.0, 7.5]
    """
    out = np.empty(len(values))
    _run(plain(values), float(keep), float(start), out)
    return out


@compiled
def _run(values: Array, keep: float, start: float, out: Array) -> None:
    mean = start
    for n in range(len(out)):
        mean = keep * mean + (1 - keep) * values[n]
        out[n] = mean
