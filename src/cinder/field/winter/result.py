"""What a winter of readings says."""

from __future__ import annotations

import datetime as dt
from typing import Any, Literal

from cinder.design.apart.running.result import Span
from cinder.design.base import Result
from cinder.field.winter.proof import Proof

Verdict = Literal["as designed", "loses less", "loses more", "unknown"]


class DayPoint(Result):
    """A day: heat for the rooms, kWh; outdoor and inside means, deg C; `odd` why it does not count, empty where it does; `fits` what the
    signature makes of it."""

    day: dt.date
    days: int = 1
    """How many days the point stands for: more where a meter was read now and then; heat is that of one of them."""
    outdoor_c: float
    inside_c: float
    sun_w_m2: float | None
    heat_kwh: float
    normal_kwh: float | None
    """With the rooms as they are wanted."""
    fits_kwh: float | None
    odd: str


class SignatureFound(Result):
    """H in W/K; the limit as outdoor temperature at the wanted inside one, deg C; base in kWh a day; `design_*` what the design has."""

    h_w_k: Span
    limit_c: Span
    base_kwh: Span
    below_k: float
    """Heating begins so far below the rooms without sun, K; and so much lower for every W/m2 of it."""
    sun_k_per_w_m2: float
    design_h_w_k: Span | None
    design_limit_c: float | None
    inside_c: float
    wanted_c: float
    days: int
    left_out: int
    chance_above: float | None
    """That the house loses more than the design's middle."""
    line: list[list[float]]
    """Outdoor temperature, heat a day: measured, at the wanted inside temperature."""
    band: list[list[float]]
    """Outdoor temperature, lower and upper."""
    design_line: list[list[float]]
    design_band: list[list[float]]
    verdict: Verdict
    sentence: str


class Proposal(Result):
    """A doubt the winter has something to say of: its factor before and after (1: as in the design), P10, middle, P90. `operations`: the edit
    that takes it; empty where there is none to make."""

    key: str
    label: str
    before: Span
    after: Span
    settled: float
    """Part of its spread that is gone."""
    says: str
    take_label: str
    operations: list[dict[str, Any]]


class MachineMonth(Result):
    month: str
    heat_kwh: float
    water_kwh: float
    electric_kwh: float
    performance: float | None
    expected: float | None


class MachineFound(Result):
    """Of the days with heat and electricity; `performance` for heating, `expected` by the map at the same air and water."""

    lacks: str
    performance: float | None
    expected: float | None
    ratio: float | None
    whole: float | None
    heat_kwh: float
    water_kwh: float
    electric_kwh: float
    water_share: float | None
    starts_a_day: float | None
    standby_w: float | None
    defrost_share: float | None
    heater_kwh: float | None
    off_line_k: float | None
    """Water as it came over the water the line asks for, K, mean of the heating hours."""
    cost_minor: float | None
    today_minor: float | None
    months: list[MachineMonth]
    sentence: str


class Advice(Result):
    """Something that changed: since when, by how much, what it may be, what to do first."""

    key: str
    label: str
    since: dt.date
    seen: dt.date
    change: str
    why: str
    first: str
    certain: float


class RoomSeen(Result):
    """A room through the winter, deg C: its mean, and that of the hours colder than `cold_below_c` outside (None where there were none)."""

    id: str
    mean_c: float
    cold_c: float | None
    cold_below_c: float


class WinterFound(Result):
    lacks: str
    sentence: str
    label: str
    simulated: bool
    first: dt.date | None
    last: dt.date | None
    points: list[DayPoint]
    rooms: list[RoomSeen]
    signature: SignatureFound | None
    signature_lacks: str
    proposals: list[Proposal]
    machine: MachineFound | None
    proof: Proof | None = None
    """Of the first two cold weeks, which of four things is not as it was thought."""
    emitters_ratio: float | None = None
    """Heat that came over what the emitters should give at that water and those rooms, in the cold hours; None where it cannot be told."""
    advice: list[Advice]
    notes: list[str]
