"""What is proposed: an overlay on the survey, which it never changes."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, model_validator

from cinder.model.base import (
    Id,
    LibraryKey,
    Minor,
    Note,
    NotNegative,
    OutdoorCelsius,
    Part,
    Position,
    Positive,
    RoomCelsius,
    Share,
    Title,
    WaterCelsius,
)
from cinder.model.room import BeyondKind
from cinder.model.survey import EmitterSpec, PipeRun


class Measure(Part):
    """A change to the fabric: another construction for a face or an opening, or for every place built like `was`;
    a tighter house; heat recovered from the air."""

    kind: Literal["opening", "face", "construction", "tightness", "ventilation"]
    label: Title = ""
    from_table: LibraryKey | None = None
    """The row of the measures table it came from."""
    was: Id | None = None
    part: Id | None = None
    beyond: Annotated[list[BeyondKind], Field(max_length=6)] = []
    """Of a construction or a face: done only where this lies beyond; nothing named: where heat is lost (outside, ground,
    an unheated space)."""
    recovery: Share | None = None
    flow_m3h: NotNegative | None = None
    cost_minor: Minor | None = None
    disturbance: Annotated[int, Field(ge=0, le=3)] | None = None
    pos: Position = 0
    room: Id | None = None
    face: Id | None = None
    opening: Id | None = None
    construction: Id | None = None
    n50_per_h: Annotated[float, Field(gt=0, le=60, allow_inf_nan=False)] | None = None
    note: Note = ""

    @model_validator(mode="after")
    def _whole(self) -> Measure:
        wanted = {
            "opening": ("room", "face", "opening", "construction"),
            "face": ("room", "face", "construction"),
            "construction": ("was", "construction"),
            "tightness": ("n50_per_h",),
            "ventilation": ("recovery",),
        }[self.kind]
        for name in wanted:
            if getattr(self, name) is None:
                raise ValueError(f"a measure of kind {self.kind} needs {name}")
        return self


class EmitterAction(Part):
    """What happens to an emitter of the survey, or one that is added."""

    action: Literal["keep", "remove", "replace", "add"]
    pos: Position = 0
    label: Title = ""
    room: Id | None = None
    spec: EmitterSpec | None = None
    pin: Literal["must", "must not", "prefer"] | None = None
    cost_minor: Minor | None = None
    note: Note = ""


class PipeAction(Part):
    action: Literal["remove", "replace", "add"]
    run: PipeRun | None = None


class Backup(Part):
    """What gives heat beside a machine: a heater in the water, a boiler that stays or is new, a stove."""

    kind: Literal["heater", "boiler", "new boiler", "stove", "none"] = "heater"
    mode: Literal["parallel", "alternate", "price", "carbon"] = "parallel"
    """Beside the machine, in its place when it cannot carry the house, or whichever is cheaper (or less carbon) that hour."""
    fuel: LibraryKey | None = None
    efficiency: Annotated[float, Field(gt=0.1, le=1.1, allow_inf_nan=False)] | None = None
    hot_water: bool = False
    """It makes the hot water too."""
    service_minor: Minor | None = None
    cost_minor: Minor | None = None


class Candidate(Part):
    machine: Id
    pos: Position = 0
    place: Id | None = None
    backup: Backup = Backup()
    quiet: bool = False
    """At night it runs in its quiet mode."""
    cost_minor: Minor | None = None
    """Of machine and work, before grants; what its place and its backup cost is counted beside."""
    service_minor: Minor | None = None
    note: Note = ""


class Window(Part):
    """A time of the day."""

    from_minute: Annotated[int, Field(ge=0, le=1439)]
    to_minute: Annotated[int, Field(ge=1, le=1440)]

    @model_validator(mode="after")
    def _runs(self) -> Window:
        if self.to_minute <= self.from_minute:
            raise ValueError("a time must end after it begins; one over midnight is two")
        return self


class HotWater(Part):
    """The store and how it is charged; what is not said is taken as usual (`design/hot_water/usual`)."""

    label: Title = ""
    keeps: Id | None = None
    """A store of the survey that stays."""
    volume_l: Positive | None = None
    store_c: Annotated[float, Field(ge=35, le=75, allow_inf_nan=False)] | None = None
    cold_c: Annotated[float, Field(ge=1, le=25, allow_inf_nan=False)] | None = None
    coil_m2: Positive | None = None
    coil_u_w_m2k: Annotated[float, Field(ge=50, le=2000, allow_inf_nan=False)] | None = None
    exchanger: Literal["coil", "plate"] = "coil"
    plate_ua_w_k: Positive | None = None
    plate_flow_lph: Positive | None = None
    """What the exchanger's own pump moves on the store's side."""
    sensor_share: Share | None = None
    band_k: Annotated[float, Field(ge=1, le=30, allow_inf_nan=False)] | None = None
    windows: Annotated[list[Window], Field(max_length=6)] = []
    """When it may be charged; none: at any time."""
    immersion_kw: Annotated[float, Field(ge=0, le=12, allow_inf_nan=False)] | None = None
    standing_kwh_per_day: NotNegative | None = None
    air_around_c: Annotated[float, Field(ge=-20, le=40, allow_inf_nan=False)] | None = None
    """The air it stands in, mean of the year."""
    distribution_kwh_per_day: NotNegative | None = None
    diameter_m: Annotated[float, Field(gt=0.1, le=3, allow_inf_nan=False)] | None = None
    height_m: Annotated[float, Field(gt=0.1, le=5, allow_inf_nan=False)] | None = None
    empty_kg: Annotated[float, Field(gt=0, le=2000, allow_inf_nan=False)] | None = None
    accumulator_l: NotNegative | None = None


ControllerKind = Literal["two_point", "slope", "numbered", "offset", "fixed"]
Priority = Literal["comfort", "economy"]
DialStep = Annotated[float, Field(gt=0, le=5, allow_inf_nan=False)]
LevelKelvin = Annotated[float, Field(ge=-30, le=30, allow_inf_nan=False)]
CurveNumber = Annotated[float, Field(ge=-100, le=1000, allow_inf_nan=False)]


class SlopeDial(Part):
    """A controller told a slope and a level about a pivot."""

    slope: Annotated[float, Field(ge=0, le=10, allow_inf_nan=False)] | None = None
    level_k: LevelKelvin | None = None
    slope_step: DialStep = 0.1
    pivot_c: RoomCelsius = 20.0
    """Where air and water are as warm as each other by slope alone."""
    exponent: Annotated[float, Field(ge=0.4, le=1.5, allow_inf_nan=False)] = 1.0
    """1: straight; 0.75 or so bends it as radiators do."""
    room_c: RoomCelsius | None = None
    room_shifts: bool = False
    """Whether the wanted room set at the controller moves the pivot."""


class KnownCurve(Part):
    """Two points of a line, as read off the manual or the display."""

    number: CurveNumber | None = None
    cold_out_c: OutdoorCelsius | None = None
    cold_flow_c: WaterCelsius | None = None
    mild_out_c: OutdoorCelsius | None = None
    mild_flow_c: WaterCelsius | None = None


class NumberedDial(Part):
    """A controller with numbered lines: one known line, or two, make the family."""

    known: KnownCurve = KnownCurve()
    other: KnownCurve = KnownCurve()
    least: CurveNumber = 0.1
    greatest: CurveNumber = 4.0
    step: DialStep = 0.1
    number: CurveNumber | None = None
    shifts: bool = True
    """Whether the line can be moved up and down as well."""
    level_k: LevelKelvin | None = None


class OffsetDial(Part):
    """A built-in line, moved by a button."""

    built_in: KnownCurve = KnownCurve()
    most_k: Annotated[float, Field(ge=0, le=30, allow_inf_nan=False)] = 5.0
    offset_k: LevelKelvin | None = None


class FixedDial(Part):
    """One temperature; another for milder weather where somebody changes it by hand."""

    flow_c: WaterCelsius | None = None
    mild_flow_c: WaterCelsius | None = None
    change_out_c: OutdoorCelsius | None = None


class BoilerDial(Part):
    """What a hybrid's own controller asks for beside the line."""

    checks_minutes: Annotated[float, Field(ge=1, le=240, allow_inf_nan=False)] | None = None
    """How often it looks whether the water rises as it should before it calls the boiler."""
    prices_by: Title = ""
    """Who enters new prices."""


HourOfDay = Annotated[float, Field(ge=0, le=24, allow_inf_nan=False)]


class RoomRule(Part):
    """How the occupant's room controller is set; what is absent is as the curve desk has it: continuous, the line in charge."""

    in_charge: Literal["curve", "thermostat"] = "curve"
    setback_k: Annotated[float, Field(ge=0, le=15, allow_inf_nan=False)] | None = None
    """Off the water at night, K."""
    night_from_h: HourOfDay | None = None
    night_to_h: HourOfDay | None = None
    away_c: RoomCelsius | None = None
    """What the house is held at while everybody is away."""
    boost_hours: Annotated[float, Field(ge=0, le=12, allow_inf_nan=False)] | None = None
    least_c: RoomCelsius | None = None
    greatest_c: RoomCelsius | None = None
    """A landlord's limits of what may be wanted."""
    quiet_from_h: HourOfDay | None = None
    quiet_to_h: HourOfDay | None = None
    call: Title = ""
    """Whom the occupant calls."""


class Control(Part):
    """Settings a person has chosen for the controller; absent ones are fitted.

    `cold_flow_c` and `mild_flow_c` are where a line of any kind is wanted to pass; what is dialled in for a kind goes before them.
    """

    kind: ControllerKind = "two_point"
    priority: Priority | None = None
    """The customer's word: how much short or warm is tolerated; nobody asked yet where there is none."""
    cold_out_c: OutdoorCelsius | None = None
    cold_flow_c: WaterCelsius | None = None
    mild_out_c: OutdoorCelsius | None = None
    mild_flow_c: WaterCelsius | None = None
    least_flow_c: WaterCelsius | None = None
    greatest_flow_c: WaterCelsius | None = None
    step_k: DialStep = 1.0
    slope: SlopeDial = SlopeDial()
    numbered: NumberedDial = NumberedDial()
    offset: OffsetDial = OffsetDial()
    fixed: FixedDial = FixedDial()
    boiler: BoilerDial = BoilerDial()
    room: RoomRule = RoomRule()


class Separation(Part):
    """One circuit, or the emitters' own behind a separator; a vessel that adds open water; a bypass to try direct running by."""

    kind: Literal["direct", "header", "buffer 2", "buffer 3", "buffer 4"] = "direct"
    volumiser_l: NotNegative | None = None
    """In the return of a direct circuit."""
    buffer_l: NotNegative | None = None
    machine_lph: Positive | None = None
    """What the machine moves on its own side; as it is rated where nothing is said."""
    pump: LibraryKey | None = None
    """Class of the pump on the emitters' side."""
    bypass: bool = False
    """A valve that takes the separator out of the circuit."""


class Zone(Part):
    """Rooms whose water opens and closes together, or that are blended to water of their own."""

    label: Title = ""
    pos: Position = 0
    rooms: Annotated[list[Id], Field(max_length=400)] = []
    mixed: bool = False
    """Behind a blending valve with a pump of its own."""
    control: Control | None = None
    """Of a blended circuit: its own line; of the house's kind and fitted where there is none."""


class Protection(Part):
    """What keeps the water outdoors from freezing; `None`: nobody has chosen yet."""

    kind: Literal["none", "glycol", "valves"] | None = None
    glycol: Literal["propylene", "ethylene"] = "propylene"
    glycol_share: Annotated[float, Field(ge=0, le=0.6, allow_inf_nan=False)] | None = None
    """By volume; as much as `frost_c` asks for where nothing is said."""
    frost_c: OutdoorCelsius | None = None
    """How cold it may get outside."""
    refills: Title = ""
    """Who fills the system again after a power cut has opened the valves."""
    cost_minor: Minor | None = None


class Vessel(Part):
    """The expansion vessel of the heating water beside what the machine holds, its pre-charge and the relief valve."""

    volume_l: Positive | None = None
    precharge_bar: Annotated[float, Field(ge=0, le=6, allow_inf_nan=False)] | None = None
    relief_bar: Annotated[float, Field(ge=1, le=10, allow_inf_nan=False)] | None = None


class Scheme(Part):
    label: Title = ""
    pos: Position = 0
    flow_c: WaterCelsius | None = None
    spread_k: Annotated[float, Field(ge=0.1, le=20, allow_inf_nan=False)] | None = None
    measures: Annotated[dict[Id, Measure], Field(max_length=500)] = {}
    refused: Annotated[list[Title], Field(max_length=100)] = []
    """What the customer does not want, by key: `emitter:<id>` stays, `new:<room>` no further one, `fan:<room>`,
    `floor:<room>`, `faces:<room>`, `measure:<row>:<was>`, or one exact way, `way:<way>`."""
    wishes: Annotated[dict[Title, Literal["must", "prefer"]], Field(max_length=100)] = {}
    """What must be done, or is to be preferred, by the same keys."""
    allowed: Annotated[list[Title], Field(max_length=100)] = []
    """What is only done where somebody allowed it: `electric:<room>`, a heater of its own."""
    concessions: Annotated[dict[Id, RoomCelsius], Field(max_length=400)] = {}
    """Rooms that may stay cooler than asked for, with their least temperature."""
    targets: Annotated[dict[Id, RoomCelsius], Field(max_length=400)] = {}
    emitters: Annotated[dict[Id, EmitterAction], Field(max_length=1000)] = {}
    candidates: Annotated[dict[Id, Candidate], Field(max_length=20)] = {}
    chosen: Id | None = None
    pipes: Annotated[dict[Id, PipeAction], Field(max_length=2000)] = {}
    separation: Separation = Separation()
    vessel: Vessel = Vessel()
    protection: Protection = Protection()
    zones: Annotated[dict[Id, Zone], Field(max_length=60)] = {}
    hot_water: HotWater = HotWater()
    control: Control = Control()
    note: Note = ""
