"""The day of a hot-water store as it is shown."""

from __future__ import annotations

from typing import Literal

from cinder.design.base import Result

Who = Literal["machine", "on and off", "immersion", "sun"]


class Drawn(Result):
    """One draw: what was wanted at the tap, the least that came, minutes and litres of it too cool to be of use."""

    minute: int
    what: str
    litres: float
    flow_l_min: float
    tap_c: float
    useful_c: float
    least_c: float
    short_min: float
    short_l: float
    hot_l: float


class Stretch(Result):
    """A time of the day in which something heats the store."""

    from_minute: int
    to_minute: int
    by: Who


class WaterDay(Result):
    """One day: the store in layers from the bottom up every `step_min` minutes, who heats it, what is drawn, and its sums.

    `room_drop_k`: how far the rooms cool in the longest charge, the house unheated meanwhile.
    """

    key: Literal["design", "mean", "sun"]
    label: str
    outdoor_c: float
    runs: bool
    """Whether the machine runs at this outdoor temperature."""
    step_min: int
    layers_c: list[list[float]]
    stretches: list[Stretch]
    draws: list[Drawn]
    short_draws: int
    short_min: float
    coolest_c: float | None
    tapped_kwh: float
    machine_kwh: float
    immersion_kwh: float
    sun_kwh: float
    """What the house's own sun had to spare, through the immersion."""
    lost_kwh: float
    electricity_kwh: float
    cop: float | None
    charging_min: int
    longest_min: int
    on_and_off_min: int
    takes_turns: bool
    """The next day is another: it begins as this one ends."""
    room_drop_k: float | None


class StoreSize(Result):
    """A store of another size on the design day."""

    volume_l: float
    short_draws: int
    short_min: float
    charging_min: int
    chosen: bool


class StoreTemperature(Result):
    """The store kept at another temperature: whether the design day is served, from cold on that day, and through the year."""

    store_c: float
    reached: bool
    short_draws: int
    reheat_minutes: float | None
    cop: float | None
    electricity_kwh: float | None
    cost_minor: float | None
    tap_l: float
    """Litres at the tap from a store that is full."""
    chosen: bool


class Hygiene(Result):
    """One way to keep bacteria down: times a year, what a cycle takes more than a plain day, kWh and money a year."""

    key: Literal["weekly", "fortnightly", "machine", "fresh_water"]
    label: str
    times: int
    more_kwh: float
    by_immersion_kwh: float
    electricity_kwh: float
    cost_minor: float
    reached: bool
    chosen: bool


class WaterDays(Result):
    """Everything of the store's day. `pattern_kwh`: heat of the draws; `people_kwh`: what the people of the house draw by the table;
    `least_volume_l`: the smallest store that serves the design day; `least_store_c`: the least a store may fall to for the taps."""

    sentence: str
    machine: str | None
    pattern: str
    pattern_label: str
    pattern_why: str
    pattern_kwh: float
    people_kwh: float | None
    mixer: Literal["thermostatic", "plain"]
    least_store_c: float
    days: list[WaterDay]
    sizes: list[StoreSize]
    least_volume_l: float | None
    temperatures: list[StoreTemperature]
    hygiene: list[Hygiene]
    notes: list[str]
