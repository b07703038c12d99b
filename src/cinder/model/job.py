"""The job: one recorded document, complete in itself."""

from __future__ import annotations

from typing import Annotated, Generic, Literal, TypeVar

from pydantic import Field

from cinder.library import (
    ClimateEntry,
    ConstructionEntry,
    EmitterTypeEntry,
    Entry,
    GrantRule,
    MachineEntry,
    PipeFamilyEntry,
    PlaceRuleEntry,
    TablesEntry,
)
from cinder.model.base import (
    Coordinate,
    Evidence,
    Id,
    LibraryKey,
    Minor,
    Note,
    NotNegative,
    OutdoorCelsius,
    Part,
    Position,
    Positive,
    Share,
    Title,
)
from cinder.model.fire_up import FireUp
from cinder.model.handover import Handover
from cinder.model.practice import Practice
from cinder.model.scheme import Scheme
from cinder.model.survey import Answer, Survey
from cinder.model.upgrade import SCHEMA

Day = Annotated[str, Field(pattern=r"^\d{4}-\d{2}-\d{2}$")]
FORMAT = "mellow-cinder-job"
E = TypeVar("E", bound=Entry)


class Frozen(Part, Generic[E]):
    """A copy of a library entry as it was when the job took it."""

    origin: Literal["library", "company", "job"] = "library"
    edition: Title
    sha256: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    data: E


class LibraryCopies(Part):
    constructions: Annotated[dict[Id, Frozen[ConstructionEntry]], Field(max_length=300)] = {}
    emitter_types: Annotated[dict[Id, Frozen[EmitterTypeEntry]], Field(max_length=100)] = {}
    pipe_families: Annotated[dict[Id, Frozen[PipeFamilyEntry]], Field(max_length=50)] = {}
    machines: Annotated[dict[Id, Frozen[MachineEntry]], Field(max_length=50)] = {}
    climates: Annotated[dict[Id, Frozen[ClimateEntry]], Field(max_length=20)] = {}
    tables: Annotated[dict[Id, Frozen[TablesEntry]], Field(max_length=5)] = {}
    place_rules: Annotated[dict[Id, Frozen[PlaceRuleEntry]], Field(max_length=40)] = {}
    """The company's own distances about a unit, beside or instead of the general ones."""


class Bill(Part):
    """A year's fuel, or part of one: what was bought, in what, from when to when, and what else it fed."""

    label: Title = ""
    pos: Position = 0
    fuel: LibraryKey
    amount: NotNegative | None = None
    unit: Literal["kwh_gross", "kwh_net", "unit"] = "kwh_gross"
    """`unit`: in the fuel's own unit (litres, kilograms, cubic metres)."""
    from_day: Day | None = None
    to_day: Day | None = None
    efficiency: Annotated[float, Field(gt=0.1, le=1.1, allow_inf_nan=False)] | None = None
    """Seasonal, on the same basis as the amount's gross or net."""
    old_boiler: bool = True
    hot_water: bool = True
    """Whether it also made the hot water."""
    cooking_kwh: NotNegative | None = None
    cost_minor: Minor | None = None
    known: Evidence = {}


class Living(Part):
    """How the house was lived in while the bills ran: what a bill is judged by."""

    kept_c: Annotated[float, Field(ge=5, le=30, allow_inf_nan=False)] | None = None
    """Mean indoor temperature really kept, day and night, over the heated part."""
    heated_share: Share | None = None
    hot_water_l_per_day: NotNegative | None = None
    known: Evidence = {}


class Present(Part):
    """What heats the house today: what a machine's running cost is compared with."""

    fuel: LibraryKey | None = None
    """None: as the bills say, else as the first call said."""
    efficiency: Annotated[float, Field(gt=0.1, le=1.1, allow_inf_nan=False)] | None = None
    service_minor: Minor | None = None
    stays: bool = False
    """Its meter stays for something else, so its standing charge is not saved."""
    how: Literal["storage", "nothing"] | None = None
    """Electric heat that is stored in the cheap hours; or nothing heats it."""


Price = Annotated[float, Field(ge=-1000, le=1000, allow_inf_nan=False)]
DayOfPrices = Annotated[list[Price], Field(min_length=24, max_length=24)]


class Collectors(Part):
    """Solar collectors that heat the store, as they are there."""

    area_m2: Positive
    tilt_deg: Annotated[float, Field(ge=0, le=90, allow_inf_nan=False)] = 40.0
    bearing_deg: Annotated[float, Field(ge=0, le=360, allow_inf_nan=False)] = 180.0
    efficiency: Annotated[float, Field(gt=0, le=0.9, allow_inf_nan=False)] = 0.4
    """Of the sun on them, over the year, pipes and store in it."""


class HourPrices(Part):
    """Prices by the half-hour or hour, as the mean of every hour of the day (standard time) in every month: the year they were
    paid in is not the year of the weather, so their single days are not kept."""

    label: Title = ""
    by_month: Annotated[list[DayOfPrices], Field(min_length=12, max_length=12)]


class Solar(Part):
    """The house's own solar electricity and what it is used for."""

    peak_kw: Positive
    tilt_deg: Annotated[float, Field(ge=0, le=90, allow_inf_nan=False)] = 35.0
    bearing_deg: Annotated[float, Field(ge=0, le=360, allow_inf_nan=False)] = 180.0
    """Compass bearing it looks at."""
    shaded: Share = 0.0
    """Part of the sun it loses to trees and houses."""
    household_kwh: NotNegative = 2700.0
    """What the house draws a year beside heat: it takes the sun first."""
    export_minor: NotNegative = 0.0
    """What is paid for a kWh that leaves the house."""
    diverter: bool = False
    """What is left over heats the store."""


class Tariff(Part):
    """How energy is paid for, beside its price for a kWh: minor units; hours of the clock in standard time."""

    night_minor: NotNegative | None = None
    """Price of a kWh of electricity in the cheap hours; absent: one price all day."""
    night_from_h: Annotated[int, Field(ge=0, le=23)] = 0
    night_to_h: Annotated[int, Field(ge=0, le=24)] = 7
    hours: HourPrices | None = None
    """Prices by the hour; they stand before one price and the night's."""
    prepaid: bool = False
    standing_minor: Annotated[dict[LibraryKey, NotNegative], Field(max_length=30)] = {}
    """Standing charges a year, by fuel."""
    spread: Share | None = None
    """How far prices may come to lie off, either way."""
    rise: Annotated[float, Field(ge=-0.2, le=0.5, allow_inf_nan=False)] | None = None
    """Rise of all prices a year."""


class SitePoint(Part):
    """A point of the plan; of a way over the site perhaps with its height above the ground."""

    x_m: Coordinate
    y_m: Coordinate
    height_m: Annotated[float, Field(ge=-20, le=60, allow_inf_nan=False)] | None = None


Line = Annotated[list[SitePoint], Field(max_length=60)]


class UnitPlace(Part):
    """Where a machine may stand, in the plan's coordinates: the middle of the unit, the height of its own middle above the
    ground, and the way it blows."""

    label: Title = ""
    pos: Position = 0
    x_m: Coordinate
    y_m: Coordinate
    facing_deg: Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False)] = 0.0
    """Clockwise from the plan's upward direction."""
    height_m: Annotated[float, Field(ge=-20, le=60, allow_inf_nan=False)] = 0.6
    on: Literal["ground", "wall", "roof"] = "ground"
    run_m: NotNegative | None = None
    """Primary pipe one way, where somebody measured it."""
    cable_m: NotNegative | None = None
    route: Line = []
    """Bends of the primary pipes on their way to the store, from the unit on; a length that was measured wins."""
    cable: Line = []
    """Bends of the cable on its way to the meter."""
    meltwater: Literal["gully", "soakaway", "heated pipe", "onto the ground"] | None = None
    """Where the water of defrosting goes."""
    access_minor: Minor | None = None
    """How it is reached for service where it hangs or stands high, and what that costs."""
    note: Note = ""


class Receiver(Part):
    """A neighbour's window or a place to sit at which the unit is heard."""

    label: Title = ""
    pos: Position = 0
    x_m: Coordinate
    y_m: Coordinate
    height_m: Annotated[float, Field(ge=-20, le=60, allow_inf_nan=False)] = 1.5
    screened: Literal["none", "partly", "hidden"] = "none"


class SiteOpening(Part):
    """What gas must not reach: a window, door, drain, light shaft, socket."""

    label: Title = ""
    pos: Position = 0
    x_m: Coordinate
    y_m: Coordinate
    height_m: Annotated[float, Field(ge=-20, le=60, allow_inf_nan=False)] = 0.0


class SiteMark(Part):
    """Something that stands about the house: a tree, a patio or path, the meter, the main tap, the store, another unit that is
    heard at the same time."""

    kind: Literal["tree", "patio", "meter", "tap", "store", "unit"]
    label: Title = ""
    pos: Position = 0
    x_m: Coordinate
    y_m: Coordinate
    height_m: Annotated[float, Field(ge=-20, le=60, allow_inf_nan=False)] = 0.0
    power_db: Annotated[float, Field(ge=20, le=110, allow_inf_nan=False)] | None = None
    """Sound power of another unit."""


class Supply(Part):
    """The electric supply: arithmetic only, a licensed electrician decides."""

    fuse_a: Positive | None = None
    present_a: NotNegative | None = None
    """Greatest demand after diversity as the electrician states it."""
    spare_way: bool | None = None
    board_minor: Minor | None = None
    """What a larger board costs where there is no spare way."""
    interlocked: bool = False
    """The heater never works beside the machine."""


class Site(Part):
    place: Title = ""
    places: Annotated[dict[Id, UnitPlace], Field(max_length=12)] = {}
    receivers: Annotated[dict[Id, Receiver], Field(max_length=40)] = {}
    openings: Annotated[dict[Id, SiteOpening], Field(max_length=60)] = {}
    marks: Annotated[dict[Id, SiteMark], Field(max_length=60)] = {}
    boundary: Line = []
    """Corners of the plot, in turn."""
    place_rules: Annotated[dict[LibraryKey, NotNegative], Field(max_length=40)] = {}
    """Distances as the unit's manual says them, instead of the general ones, m."""
    supply: Supply = Supply()
    present: Present = Present()
    solar: Solar | None = None
    collectors: Collectors | None = None
    altitude_m: Coordinate | None = None
    north_deg: Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False)] | None = None
    """Compass bearing of the plan's upward direction."""
    answers: Annotated[dict[LibraryKey, Answer], Field(max_length=100)] = {}
    known: Evidence = {}
    bills: Annotated[dict[Id, Bill], Field(max_length=60)] = {}
    living: Living = Living()
    units: Literal["metric", "feet"] = "metric"
    note: Note = ""


class ClimateChoice(Part):
    """A climate of the job's library, which of its design temperatures counts, and one that overrides it."""

    entry: Id | None = None
    rule: Literal["stated", "p996", "p99", "day", "three_days", "long_term_p996", "long_term_p99"] = "stated"
    correct_height: bool = False
    """Carry the climate to the altitude of the site, -0.6 K per 100 m."""
    design_c: OutdoorCelsius | None = None


class Visit(Part):
    label: Title = ""
    pos: Position = 0
    at: Title = ""
    note: Note = ""


class Job(Part):
    format: Literal["mellow-cinder-job"]
    schema_version: Annotated[int, Field(alias="schema", ge=SCHEMA, le=SCHEMA)]
    id: Id
    title: Title
    time_zone: Title = "UTC"
    prices: Annotated[dict[LibraryKey, NotNegative], Field(max_length=30)] = {}
    """Price of a kWh by fuel, in minor units, instead of the table's."""
    tariff: Tariff = Tariff()
    grants: Annotated[dict[Id, GrantRule], Field(max_length=20)] = {}
    currency: Annotated[str, Field(pattern=r"^[A-Z]{3}$")] = "GBP"
    site: Site = Site()
    climate: ClimateChoice = ClimateChoice()
    practice: Practice = Practice()
    library: LibraryCopies = LibraryCopies()
    survey: Survey = Survey()
    schemes: Annotated[dict[Id, Scheme], Field(max_length=30)] = {}
    active_scheme: Id | None = None
    visits: Annotated[dict[Id, Visit], Field(max_length=200)] = {}
    fire_up: FireUp = FireUp()
    handover: Handover = Handover()
