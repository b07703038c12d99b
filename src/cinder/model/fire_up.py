"""What is done and seen when the plant is fired up: observations, corrections of the line, the day's steps, what was wired and set."""

from __future__ import annotations

import datetime as dt
from typing import Annotated, Literal

from pydantic import AfterValidator, Field

from cinder.model.base import Id, LibraryKey, Note, NotNegative, OutdoorCelsius, Part, Position, Title, WaterCelsius


def _instant(text: str) -> str:
    try:
        found = dt.datetime.fromisoformat(text)
    except ValueError as why:
        raise ValueError("a moment is written 2026-01-14T07:30:00Z") from why
    if found.tzinfo is None:
        raise ValueError("a moment carries its zone, Z for universal time")
    return text


Instant = Annotated[str, Field(max_length=40), AfterValidator(_instant)]
SeenCelsius = Annotated[float, Field(ge=-10, le=50, allow_inf_nan=False)]
"""Air of a room as a thermometer shows it."""
TailCelsius = Annotated[float, Field(ge=-10, le=95, allow_inf_nan=False)]
Reading = Annotated[float, Field(ge=-1e6, le=1e6, allow_inf_nan=False)]


LIMITS = (
    ("_c", -10.0, 95.0), ("outdoor_c", -60.0, 50.0), ("frost_c", -60.0, 10.0), ("_lph", 0.0, 20000.0), ("_w", 0.0, 60000.0), ("_kwh", 0.0, 1e6),
    ("_bar", 0.0, 10.0), ("minutes", 0.0, 1440.0), ("/db", 0.0, 120.0), ("starts_a_day", 0.0, 500.0), ("/flow", -10.0, 95.0),
    ("/return", -10.0, 95.0), ("room/", -10.0, 50.0), ("turns/", 0.0, 20.0),
)  # fmt: skip
"""What can be measured at all, by how its key ends (or, with a stroke behind, begins); the last that fits."""


def _measured(values: dict[str, float]) -> dict[str, float]:
    for key, value in values.items():
        fits = [one for one in LIMITS if key.endswith(one[0]) or (one[0].endswith("/") and key.startswith(one[0]))]
        if fits and not fits[-1][1] <= value <= fits[-1][2]:
            raise ValueError(f"{key}: {value:g} cannot be; it lies between {fits[-1][1]:g} and {fits[-1][2]:g}")
    return values


class Observation(Part):
    """One look at the running house by a person. `tails`: return tail of an emitter by its id, deg C; `bright`: whether the sun shone in."""

    pos: Position = 0
    at: Instant
    outdoor_c: OutdoorCelsius | None = None
    flow_c: WaterCelsius | None = None
    return_c: WaterCelsius | None = None
    flow_lph: NotNegative | None = None
    electric_w: NotNegative | None = None
    rooms: Annotated[dict[Id, SeenCelsius], Field(max_length=400)] = {}
    tails: Annotated[dict[Id, TailCelsius], Field(max_length=600)] = {}
    bright: bool | None = None
    note: Note = ""
    by: Title = ""


class Correction(Part):
    """A change of the line, with who and why: water at the two ends before and after, deg C."""

    pos: Position = 0
    at: Instant
    by: Title = ""
    verdict: Title = ""
    why: Note = ""
    cold_out_c: OutdoorCelsius
    mild_out_c: OutdoorCelsius
    cold_before_c: WaterCelsius
    mild_before_c: WaterCelsius
    cold_after_c: WaterCelsius
    mild_after_c: WaterCelsius


class Step(Part):
    """A step of the day as it was done. `values` by key of what is measured; a value off its expected band asks for a `reason`."""

    state: Literal["open", "done", "not needed", "waits"] = "open"
    at: Instant | None = None
    by: Title = ""
    instrument: Title = ""
    visit: Literal["first", "second"] = "first"
    values: Annotated[dict[Title, Reading], Field(max_length=700), AfterValidator(_measured)] = {}
    live: Annotated[dict[Title, Instant], Field(max_length=700)] = {}
    """Which of them the plant itself said, and when."""
    reason: Note = ""
    note: Note = ""


class Terminal(Part):
    """Where a sensor, pump, valve or signal is wired."""

    terminal: Title = ""
    circuit: Title = ""
    checked: bool = False
    note: Title = ""


class Parameter(Part):
    """A parameter of the controller before and after, as its display says."""

    pos: Position = 0
    name: Title
    unit: Title = ""
    before: Title = ""
    after: Title = ""
    by: Title = ""
    way_back: Title = ""


class ControllerRecord(Part):
    """What was wired to which terminal, and what was set. `outputs`: how many switched outputs the controller has."""

    terminals: Annotated[dict[LibraryKey, Terminal], Field(max_length=300)] = {}
    parameters: Annotated[dict[Id, Parameter], Field(max_length=300)] = {}
    outputs: Annotated[int, Field(ge=0, le=200)] | None = None
    inputs: Annotated[int, Field(ge=0, le=200)] | None = None
    may_change: Title = ""
    factory_reset: Note = ""
    """How the maker's settings are brought back, and what is lost by it."""
    covers_earthed: bool = False
    by: Title = ""
    at: Instant | None = None


class Signature(Part):
    """Who signed the record, when; a typed name until there are accounts."""

    by: Title
    at: Instant
    role: Literal["engineer", "electrician", "customer"] = "engineer"


class FireUp(Part):
    observations: Annotated[dict[Id, Observation], Field(max_length=2000)] = {}
    corrections: Annotated[dict[Id, Correction], Field(max_length=500)] = {}
    steps: Annotated[dict[LibraryKey, Step], Field(max_length=200)] = {}
    controller: ControllerRecord = ControllerRecord()
    signatures: Annotated[dict[Id, Signature], Field(max_length=20)] = {}
    second_visit: Title = ""
    """The day somebody comes back, after about a week of running."""
