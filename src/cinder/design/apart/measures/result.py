"""Results of ways to lose less."""

from __future__ import annotations

from cinder.design.base import Result


class Option(Result):
    """One way to lose less, at one thickness, alone on the scheme shown."""

    key: str
    measure: str
    label: str
    detail: str
    was: str | None
    was_label: str
    becomes_label: str
    area_m2: float | None
    u_before_w_m2k: float | None
    u_after_w_m2k: float | None
    cost_minor: float
    disturbance: int
    note: str
    cautions: list[str]
    adopted: bool


class Effects(Result):
    """What a set of measures does: before less after."""

    loss_w: float
    flow_c: float | None
    cover: float | None
    season: float | None
    bought_kwh: float | None
    """Electricity, and what burns beside the machine."""
    heat_kwh: float | None
    sun_kwh: float
    """Heat the sun no longer gives through new panes: taken off what is saved."""
    bill_minor: float | None
    cost_minor: float
    payback_years: float | None


class Tried(Result):
    """An option with its effect."""

    option: Option
    effect: Effects


class Measures(Result):
    """Every option of the scheme shown with its effect; and the chosen ones together."""

    base_loss_w: float | None
    base_flow_c: float | None
    base_season: float | None
    base_bill_minor: float | None
    price_minor_per_kwh: float
    tried: list[Tried]
    together: Effects | None
    sun: str
    """How the sun that new panes keep out was counted."""
    sentence: str
