"""The house as found."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from cinder.model.base import (
    Coordinate,
    Evidence,
    Id,
    Length,
    LibraryKey,
    Note,
    NotNegative,
    Part,
    Position,
    Positive,
    Share,
    Title,
)
from cinder.model.fire_up import Instant, SeenCelsius, TailCelsius
from cinder.model.room import Room

Answer = bool | Annotated[float, Field(ge=-1e7, le=1e7, allow_inf_nan=False)] | Title
"""What somebody said or saw: yes or no, a number, or a word of the table."""


class EdgeInsulation(Part):
    """Insulation along the edge of a slab: lying on the level, or standing at the edge."""

    kind: Literal["horizontal", "vertical"]
    width_m: Annotated[float, Field(gt=0, le=5, allow_inf_nan=False)]
    """How far it reaches in from the edge, or down."""
    thickness_m: Annotated[float, Field(gt=0, le=1, allow_inf_nan=False)]
    lambda_w_mk: Annotated[float, Field(gt=0, le=1, allow_inf_nan=False)] = 0.036
    known: Evidence = {}


class HousePart(Part):
    """A part of the house with its own age: its default constructions and how tight it is built."""

    label: Title = ""
    pos: Position = 0
    built: Annotated[int, Field(ge=1000, le=2200)] | None = None
    age: LibraryKey | None = None
    constructions: dict[
        Literal["wall", "inner_wall", "party_wall", "roof", "ground", "floor", "window", "door"], Id
    ] = {}
    wall_thickness_m: Length | None = None
    edge: EdgeInsulation | None = None
    """A strip of insulation along the edge of its slab, if there is one."""
    loft: Id | None = None
    """The unheated space over its uppermost ceilings; absent: they lie under the roof itself."""
    signs: Annotated[dict[LibraryKey, Answer], Field(max_length=40)] = {}
    """What was seen that tells how its walls are built (bond, thickness, air bricks and so on)."""
    known: Evidence = {}


class Storey(Part):
    label: Title = ""
    pos: Position = 0
    level_m: Coordinate | None = None
    height_m: Length | None = None
    known: Evidence = {}


class SpaceFace(Part):
    """A face of an unheated space towards the outside or the ground."""

    label: Title = ""
    pos: Position = 0
    beyond: Literal["outside", "ground"] = "outside"
    area_m2: NotNegative
    construction: Id
    known: Evidence = {}


class Cellar(Part):
    """What an unheated basement needs beside its faces to the outside: how it sits in the ground."""

    area_m2: Positive
    exposed_perimeter_m: NotNegative
    depth_m: Annotated[float, Field(gt=0, le=10, allow_inf_nan=False)]
    wall: Id
    floor: Id
    known: Evidence = {}


class Space(Part):
    """An unheated space: solved from its own faces when they are given, else its factor b, else its kind's."""

    label: Title = ""
    pos: Position = 0
    kind: LibraryKey | None = None
    b: Share | None = None
    faces: Annotated[dict[Id, SpaceFace], Field(max_length=40)] = {}
    cellar: Cellar | None = None
    volume_m3: NotNegative | None = None
    air: LibraryKey | None = None
    """How much air moves through it, a word of the tables."""
    known: Evidence = {}


class Neighbour(Part):
    label: Title = ""
    pos: Position = 0
    temperature_c: Annotated[float, Field(ge=-20, le=30, allow_inf_nan=False)] | None = None
    known: Evidence = {}


class FanSpeed(Part):
    """One speed of a fan-assisted emitter: what it gives at the excess of its spec, and what the fan draws."""

    label: Title = ""
    output_w: Positive
    electric_w: NotNegative = 0.0
    sound_db: Annotated[float, Field(ge=0, le=120, allow_inf_nan=False)] | None = None


class Heated(Part):
    """Pipes in a floor or a wall: how they are laid, what lies over them, what limits their surface."""

    method: Literal["wet", "entered"] = "wet"
    """`wet`: worked out from the layers; `entered`: the maker's characteristic for boards and plates."""
    build: Title = ""
    area_m2: Positive | None = None
    spacing_m: Annotated[float, Field(gt=0, le=1, allow_inf_nan=False)] | None = None
    cover_m: Annotated[float, Field(gt=0, le=0.5, allow_inf_nan=False)] | None = None
    cover_lambda_w_mk: Annotated[float, Field(gt=0, le=10, allow_inf_nan=False)] = 1.2
    covering_r_m2kw: Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)] = 0.0
    covering: LibraryKey | None = None
    covering_limit_c: Annotated[float, Field(ge=15, le=60, allow_inf_nan=False)] | None = None
    """The warmest surface the covering bears."""
    pipe_m: Annotated[float, Field(gt=0, le=0.05, allow_inf_nan=False)] = 0.016
    pipe_wall_m: Annotated[float, Field(gt=0, le=0.01, allow_inf_nan=False)] = 0.002
    pipe_lambda_w_mk: Annotated[float, Field(gt=0, le=400, allow_inf_nan=False)] = 0.35
    k_w_m2k: Positive | None = None
    below_r_m2kw: Annotated[float, Field(ge=0, le=20, allow_inf_nan=False)] = 0.0
    """Insulation laid with the pipes, over what the floor itself is made of."""
    zone: Literal["stay", "edge", "bath"] = "stay"
    loops: Annotated[int, Field(ge=1, le=60)] = 1
    supply_m: NotNegative = 0.0
    """From the manifold to the heated area, one way; the water goes there and back."""


class EmitterSpec(Part):
    """What the emitter is: a radiator or skirting by type and face, a stated output, a fan unit by its speeds, pipes in
    a floor or wall, or a heater of its own that needs no water."""

    kind: Literal["panel", "stated", "fan", "floor", "wall", "electric"] = "panel"
    type: Id | None = None
    product: Title = ""
    """A product of a list whose figures stand below, as it was called there."""
    length_m: Length | None = None
    height_m: Length | None = None
    output_w: Positive | None = None
    excess_k: Annotated[float, Field(ge=1, le=100, allow_inf_nan=False)] | None = None
    exponent: Annotated[float, Field(ge=0.8, le=2, allow_inf_nan=False)] | None = None
    water_l: NotNegative | None = None
    valve: LibraryKey | None = None
    spread_k: Annotated[float, Field(ge=0.1, le=40, allow_inf_nan=False)] | None = None
    connection: LibraryKey | None = None
    obstructions: Annotated[list[LibraryKey], Field(max_length=10)] = []
    speeds: Annotated[list[FanSpeed], Field(max_length=8)] = []
    speed: Annotated[int, Field(ge=0, le=7)] = 0
    """The greatest speed that is accepted, the quietest being 0."""
    heated: Heated | None = None


class FreeWall(Part):
    """The wall there is for a bigger emitter."""

    length_m: Length | None = None
    height_m: Length | None = None
    note: Note = ""


class Emitter(Part):
    label: Title = ""
    pos: Position = 0
    room: Id
    face: Id | None = None
    offset_m: NotNegative | None = None
    spec: EmitterSpec = EmitterSpec()
    free_wall: FreeWall | None = None
    known: Evidence = {}


class PipePoint(Part):
    """A bend of a pipe on the plan, at a height over the same level as the storeys'."""

    x_m: Coordinate
    y_m: Coordinate
    z_m: Coordinate = 0.0


class RunPart(Part):
    """What hangs in a run and takes pressure by its kv: a diverter, a filter, a meter."""

    label: Title = ""
    pos: Position = 0
    kv_m3h: Annotated[float, Field(gt=0, le=1000, allow_inf_nan=False)]


class PipeRun(Part):
    """A stretch of pipe, there and back: `length_m` is one way. The root starts at the machine."""

    label: Title = ""
    pos: Position = 0
    parent: Id | None = None
    emitter: Id | None = None
    family: Id | None = None
    size: LibraryKey | None = None
    length_m: Length | None = None
    fittings: Annotated[dict[LibraryKey, Annotated[int, Field(ge=0, le=500)]], Field(max_length=20)] = {}
    by_kv: Annotated[dict[Id, RunPart], Field(max_length=20)] = {}
    reach: Literal["easy", "lift a board", "open a wall", "not at all"] | None = None
    way: Annotated[list[PipePoint], Field(max_length=60)] = []
    """Where it lies on the plan, from its parent's end to its own; its length, where none is said."""
    proposed: bool = False
    """Laid by rule; nobody has confirmed it yet."""
    lies: Literal["inside", "outdoors", "buried"] | None = None
    insulation_m: Annotated[float, Field(ge=0, le=0.3, allow_inf_nan=False)] | None = None
    known: Evidence = {}


class PipeTest(Part):
    """One state of the pump with valves wide open, to find pipes that nobody sees. `only`: the emitter that alone was open, all of them
    where it is left out. `returns`, `gauges`: return tail, deg C, and flow on its indicator, L/h, by emitter; `rooms`: air about it."""

    pos: Position = 0
    at: Instant | None = None
    head_kpa: Annotated[float, Field(gt=0, le=300, allow_inf_nan=False)] | None = None
    head_by: Literal["display", "gauges"] = "display"
    flow_lph: NotNegative | None = None
    only: Id | None = None
    supply_c: TailCelsius | None = None
    returns: Annotated[dict[Id, TailCelsius], Field(max_length=600)] = {}
    gauges: Annotated[dict[Id, NotNegative], Field(max_length=600)] = {}
    rooms: Annotated[dict[Id, SeenCelsius], Field(max_length=400)] = {}
    note: Note = ""


class Riser(Part):
    """Where pipes go from one storey to the next, on the plan."""

    label: Title = ""
    pos: Position = 0
    x_m: Coordinate
    y_m: Coordinate


class ManifoldPart(Part):
    """What hangs at a manifold or in front of it: in a system of one temperature much of it goes."""

    kind: LibraryKey
    label: Title = ""
    pos: Position = 0
    count: Annotated[int, Field(ge=1, le=60)] = 1
    rooms: Annotated[list[Id], Field(max_length=60)] = []
    keep: Note = ""
    """Why it stays all the same."""
    known: Evidence = {}


class Store(Part):
    label: Title = ""
    pos: Position = 0
    volume_l: Positive | None = None
    coil_m2: Positive | None = None
    vented: bool | None = None
    also: Annotated[list[Literal["collectors", "boiler", "stove"]], Field(max_length=3)] = []
    """What heats it and would stay."""
    known: Evidence = {}


class Source(Part):
    label: Title = ""
    pos: Position = 0
    fuel: Title = ""
    output_w: Positive | None = None
    known: Evidence = {}
    note: Note = ""


class Tightness(Part):
    n50_per_h: Annotated[float, Field(gt=0, le=60, allow_inf_nan=False)] | None = None
    q50_m3h_m2: Annotated[float, Field(gt=0, le=60, allow_inf_nan=False)] | None = None
    """Leakage at 50 Pa per square metre of envelope; counts where no n50 is given."""
    shelter: LibraryKey | None = None
    known: Evidence = {}


class Ventilation(Part):
    """Fans that run all the time: only drawing air out, or balanced through a heat exchanger."""

    kind: Literal["natural", "extract", "balanced"] = "natural"
    flow_m3h: NotNegative | None = None
    """Of the whole house, shared by volume where rooms state no flow of their own."""
    recovery: Share | None = None
    known: Evidence = {}


class Draw(Part):
    """Hot water drawn once a day: when, how much at the tap, how quickly, how warm."""

    what: Title = ""
    minute: Annotated[int, Field(ge=0, le=1439)]
    tap_l: Annotated[float, Field(gt=0, le=2000, allow_inf_nan=False)]
    flow_l_min: Annotated[float, Field(gt=0, le=100, allow_inf_nan=False)] = 8.0
    tap_c: Annotated[float, Field(ge=20, le=65, allow_inf_nan=False)] = 40.0
    useful_c: Annotated[float, Field(ge=10, le=65, allow_inf_nan=False)] | None = None
    """The least that is still of use; as warm as wanted where nothing is said."""


class Household(Part):
    people: Annotated[int, Field(ge=0, le=200)] | None = None
    bedrooms: Annotated[int, Field(ge=0, le=100)] | None = None
    tapping: LibraryKey | None = None
    """The pattern of the day, if somebody chose one; `own`: the draws below."""
    draws: Annotated[dict[Id, Draw], Field(max_length=60)] = {}


class Seen(Part):
    """One item of the walk-round: what was seen, or why it could not be."""

    value: Answer | None = None
    unseen: Note | None = None
    note: Note = ""
    known: Evidence = {}


class Photo(Part):
    """A picture, kept as a blob under its fingerprint, tied to what it shows."""

    sha256: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")]
    pos: Position = 0
    caption: Title = ""
    room: Id | None = None
    face: Id | None = None
    emitter: Id | None = None
    item: LibraryKey | None = None
    by: Title = ""
    at: Title = ""


class Survey(Part):
    parts: Annotated[dict[Id, HousePart], Field(max_length=30)] = {}
    storeys: Annotated[dict[Id, Storey], Field(max_length=30)] = {}
    rooms: Annotated[dict[Id, Room], Field(max_length=400)] = {}
    spaces: Annotated[dict[Id, Space], Field(max_length=60)] = {}
    neighbours: Annotated[dict[Id, Neighbour], Field(max_length=30)] = {}
    emitters: Annotated[dict[Id, Emitter], Field(max_length=1000)] = {}
    pipes: Annotated[dict[Id, PipeRun], Field(max_length=2000)] = {}
    pipe_tests: Annotated[dict[Id, PipeTest], Field(max_length=100)] = {}
    risers: Annotated[dict[Id, Riser], Field(max_length=40)] = {}
    manifolds: Annotated[dict[Id, ManifoldPart], Field(max_length=100)] = {}
    stores: Annotated[dict[Id, Store], Field(max_length=20)] = {}
    sources: Annotated[dict[Id, Source], Field(max_length=20)] = {}
    heaviness: Literal["very light", "light", "medium", "heavy", "very heavy"] | None = None
    """How much heat walls and floors hold on the rooms' side; medium where nobody says."""
    tightness: Tightness = Tightness()
    ventilation: Ventilation = Ventilation()
    household: Household = Household()
    walk_round: Annotated[dict[LibraryKey, Seen], Field(max_length=200)] = {}
    photos: Annotated[dict[Id, Photo], Field(max_length=600)] = {}
