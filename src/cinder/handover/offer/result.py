"""An offer: variants with what they cost, how the work goes, what they cost to run, and what has to be permitted."""

from __future__ import annotations

from typing import Literal

from cinder.design.apart.running.result import Granted, Present, Span
from cinder.design.base import Result

Counted = Literal["counted", "in the prices", "falls away"]


class GoodsLine(Result):
    """Goods, minor units; `minor` None: nobody has said what it costs."""

    group: str
    label: str
    words: str
    count: float
    unit: str
    minor: float | None
    why: str


class LabourLine(Result):
    """A task: hours of the trade and of a helper, what was counted for it, and whether it is paid by the hour here."""

    key: str
    label: str
    trade: str
    hours: float
    helper_h: float
    own: bool
    """Somebody said the hours."""
    of: str
    state: Counted
    minor: float
    why: str


class OwnLine(Result):
    key: str
    label: str
    of: Literal["goods", "labour"]
    minor: float


class TaxLine(Result):
    label: str
    share: float
    of: str
    minor: float


class PaymentLine(Result):
    when: str
    label: str
    share: float
    minor: float


class Disturbance(Result):
    """What the work means for those who live there."""

    rooms: list[str]
    floors: list[str]
    """Rooms in which pipes are laid or renewed: carpets come up."""
    walls: list[str]
    days: int
    cold_days: int
    heaters: int
    said: list[str]


class OfferSums(Result):
    """Minor units; `net` without taxes, `gross` with them, `pay` what is left for the customer when grants come."""

    goods: float
    labour: float
    travel: float
    heaters: float
    own: float
    margin: float
    reserve: float
    net: float
    tax: float
    gross: float
    granted: float
    pay: float
    unpriced: int


class OfferVariant(Result):
    scheme: str
    label: str
    first: bool
    lacks: str
    machine: str
    flow_c: float | None
    sentence: str
    goods: list[GoodsLine]
    labour: list[LabourLine]
    own: list[OwnLine]
    sums: OfferSums
    taxes: list[TaxLine]
    granted: list[Granted]
    payments: list[PaymentLine]
    cost_minor: Span | None
    """A year's heat and hot water."""
    saves_minor: Span | None
    carbon_kg: Span | None
    season: float | None
    disturbance: Disturbance
    differs: list[str]
    """From the first variant."""


class PermissionLine(Result):
    key: str
    kind: str
    label: str
    when: Literal["before", "after"]
    by: str
    state: str
    asked: str | None
    decided: str | None
    number: str
    warn: str


class OfferFound(Result):
    lacks: str
    sentence: str
    number: str
    customer: str
    valid_days: int
    prices: str
    """How prices are meant, in words."""
    variants: list[OfferVariant]
    today: Present | None
    permissions: list[PermissionLine]
    terms: list[str]
    notes: list[str]
