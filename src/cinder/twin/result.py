"""What a house in time comes to, as it is shown."""

from __future__ import annotations

from typing import Literal

from cinder.design.base import Result

Week = Literal["cold", "mild", "sunny"]


class Scenario(Result):
    """A year of the house run in one way. `more_kwh`, `more_minor` beside the way it is set now.

    `short_h`, `warm_h`: hours, of all rooms together between six and ten in the evening while heating is on, in which a room lies more than
    what is put up with below or above what it asks for; `coldest_room` the one that is short longest, `coldest_k` how far on its coldest
    hundredth. `backup_kwh` of a second source, within the heat; `performance` of the machine alone.
    """

    key: str
    label: str
    what: str
    heat_kwh: float
    hot_water_kwh: float
    backup_kwh: float
    electricity_kwh: float
    fuel_kwh: float
    """What the second source burns."""
    bought_kwh: float
    """Both together."""
    performance: float | None
    starts: int
    starts_a_day: float
    short_h: float
    warm_h: float
    coldest_k: float
    coldest_room: str
    more_kwh: float
    cost_minor: float
    more_minor: float
    says: str


class RoomTrace(Result):
    id: str
    label: str
    target_c: float
    room_c: list[float]


class TwinWeek(Result):
    """A week of it, a row for every quarter of an hour from Monday midnight of the house's clock."""

    key: Week
    scenario: str
    label: str
    first_day: int
    step_min: int
    outdoor_c: list[float]
    wanted_c: list[float]
    supply_c: list[float]
    return_c: list[float]
    heat_w: list[float]
    electric_w: list[float]
    mode: list[int]
    rooms: list[RoomTrace]
    starts: int
    heat_kwh: float
    electricity_kwh: float
    fuel_kwh: float
    sentence: str


class TwinFound(Result):
    lacks: str
    sentence: str
    rows: list[Scenario]
    assumed: list[str]
    heating_days: int


class WeekFound(Result):
    lacks: str
    week: TwinWeek | None


class Absence(Result):
    """Everybody away for so long at one outdoor temperature: how far the house falls, how long before coming home it must start
    (None: not within two days), and what that saves beside staying as it is, with the warming up in it."""

    label: str
    hours: int
    outdoor_c: float
    falls_to_c: float
    lead_h: float | None
    saved_kwh: float
    saved_minor: float


class RoomAdvice(Result):
    """One thing to set, to what, and why for this house."""

    key: str
    label: str
    set_to: str
    why: str


class AbsencesFound(Result):
    """The house left alone and come home to, and the plain page of those who live in it."""

    lacks: str
    room: str
    target_c: float
    away_c: float
    absences: list[Absence]
    a_day_kwh: float
    """What frost hold and the machine's own draw take on a day as cold as it is designed for."""
    occupant: list[str]
    """The plain page, line by line."""


class RoomControlFound(AbsencesFound):
    sentence: str
    advice: list[RoomAdvice]
