"""Kinds of emitters, what hangs before them, heated floors, manifolds, valves."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from cinder.library.entries.base import Entry, Key, NotNegative, Pair, Positive, Text


class EmitterTypeEntry(Entry):
    """A kind of radiator by its face, or of skirting by its length alone (`form` length: height plays no part).

    `spread`: how far its output may lie below and above, as shares, where it is known less well than others.
    """

    id: Key
    label: Text
    w_per_m_at_600: Positive
    height_exponent: Annotated[float, Field(gt=0, le=3)]
    exponent: Annotated[float, Field(ge=0.8, le=2.0)]
    water_l_per_m_at_600: Positive
    depth_m: Positive
    source: Text
    form: Literal["face", "length"] = "face"
    kg_per_m_at_600: NotNegative = 0.0
    spread: Pair | None = None


class EmitterFactorEntry(Entry):
    """What an obstruction or a connection leaves of an emitter's output: between `low` and `high`, the middle counts."""

    label: Text
    kind: Literal["obstruction", "connection"]
    low: Annotated[float, Field(gt=0, le=1)]
    high: Annotated[float, Field(gt=0, le=1)]
    mend: Text = ""
    least_length_m: NotNegative = 0.0
    """A connection that counts only from this length on."""


class CoveringEntry(Entry):
    """What lies over a heated floor: its resistance, m2K/W, and the warmest surface it bears."""

    id: Key
    label: Text
    r_m2kw: NotNegative
    limit_c: Annotated[float, Field(ge=15, le=60)] | None = None
    source: Text


class HeatedBuildEntry(Entry):
    """A way pipes are laid in a floor or wall. `method` wet: worked out from its layers; entered: the maker says."""

    id: Key
    label: Text
    element: Literal["floor", "wall"]
    method: Literal["wet", "entered"]
    cover_m: Positive | None = None
    cover_lambda_w_mk: Positive = 1.2
    pipe_m: Positive = 0.016
    pipe_wall_m: Positive = 0.002
    spacings_m: Annotated[list[Positive], Field(min_length=1)]
    height_m: NotNegative = 0.0
    """What it adds to the floor."""
    below_r_m2kw: NotNegative = 0.0
    new: bool = False
    """Whether it can be laid over an existing floor, and so is offered."""
    note: Text = ""
    source: Text


class ManifoldKindEntry(Entry):
    """What hangs at a manifold, and what becomes of it where one temperature serves the whole house."""

    id: Key
    label: Text
    fate: Literal["remove", "open", "keep", "check"]
    why: Text
    how: Text


class ValveEntry(Entry):
    label: Text
    kv_m3h: Positive
    closes: bool
