"""Prices: of emitters, fuels, measures, parts; work by task and what an hour of it costs."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from cinder.library.entries.base import Element, Entry, Key, NotNegative, Pair, Positive, Share, Text


class EmitterPriceEntry(Entry):
    """What a panel costs, minor units: material per metre at 600 mm, labour on the same pipe centres, with new tails
    where it is longer, in a new place. A floor: `m_minor` per m2, `new_minor` per room."""

    id: Key
    m_minor: NotNegative
    same_minor: NotNegative
    longer_minor: NotNegative
    new_minor: NotNegative


class FuelEntry(Entry):
    """A fuel: heat content gross, net as a share of gross, usual seasonal efficiencies, price and carbon."""

    label: Text
    unit: Text
    gross_kwh_per_unit: Positive
    net_share: Share
    new_efficiency: Pair
    old_efficiency: Pair
    price_minor_per_kwh: NotNegative
    carbon_kg_per_kwh: NotNegative


NEEDS = ("essential", "good", "by circumstance")
"""How much a part of a plant is wanted."""


class PlantPartEntry(Entry):
    """A part of a plant: what it is for, how much it is wanted, what it costs fitted, minor units: one of it, and for every litre it
    holds (a pipe: every mm of its bore)."""

    id: Key
    label: Text
    unit: Literal["each", "pair", "set", "m", "L"]
    need: Literal["essential", "good", "by circumstance"]
    minor: NotNegative
    minor_per_size: NotNegative = 0.0
    why: Text

    def price_minor(self, count: float = 1.0, size: float = 0.0) -> float:
        """What so many of a size cost."""
        return count * (self.minor + self.minor_per_size * size)


DISTURBS = ("none", "little", "some", "much")
"""What how much a change disturbs is called, from 0 to 3."""


class MeasureEntry(Entry):
    """A way to lose less: what it is done to, what it adds or puts in, what it costs and how much it disturbs.

    `add`: a layer of `material` in each of `thickness_m`, at `where` (inside, outside, on top; or in the cavity, which
    it fills); `put`: one of these constructions instead; `tighter`: n50 times this factor.
    Cost in minor units: `fixed_minor` once, `m2_minor` per square metre, `m2_minor_per_m` more per metre of thickness.
    """

    id: Key
    label: Text
    element: Element | Literal["air"]
    add: Key | None = None
    where: Literal["inside", "outside", "top", "below", "cavity", "slope"] | None = None
    finish: list[Text] = []
    thickness_m: list[Positive] = []
    put: list[Key] = []
    only_single: bool = False
    """Only on windows of one pane: it keeps that pane."""
    tighter: Share | None = None
    recover: Share | None = None
    least_gain: Share = 0.1
    disturbance: Annotated[int, Field(ge=0, lt=len(DISTURBS))]
    fixed_minor: NotNegative
    m2_minor: NotNegative = 0.0
    m2_minor_per_m: NotNegative = 0.0
    caution: list[Key] = []
    note: Text = ""
    source: Text = "common practice, a guess to be replaced by the company's own prices"


TRADES = ("engineer", "helper", "electrician", "registered")
"""Who works, by the keys of the table."""


class TradeEntry(Entry):
    """What an hour of somebody costs, minor units."""

    id: Key
    label: Text
    minor_per_h: NotNegative


class LabourEntry(Entry):
    """A task: hours once and for every `per`, of a trade, with a helper for a share of them. `fits`: the group of materials whose prices
    hold this work where they are prices of things fitted; `site`: done at the house; `off`: no heat meanwhile."""

    id: Key
    label: Text
    trade: Literal["engineer", "electrician", "registered"]
    hours: NotNegative
    per: Text
    each: NotNegative
    helper: Share = 0.0
    site: bool = False
    off: bool = False
    fits: Literal["", "Machine and place", "Plant room", "Hot water", "Pipes", "Emitters"] = ""
    why: Text
