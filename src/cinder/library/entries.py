"""What an entry of the library holds. Entries travel into jobs as frozen copies, so they are complete."""

from __future__ import annotations

from itertools import pairwise
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

Finite = Annotated[float, Field(allow_inf_nan=False)]
Positive = Annotated[float, Field(ge=1e-9, le=1e7, allow_inf_nan=False)]
NotNegative = Annotated[float, Field(ge=0, le=1e7, allow_inf_nan=False)]
Share = Annotated[float, Field(ge=0, le=1, allow_inf_nan=False)]
Celsius = Annotated[float, Field(ge=-60, le=130, allow_inf_nan=False)]
Pair = Annotated[list[NotNegative], Field(min_length=2, max_length=2)]
Text = Annotated[str, Field(max_length=300)]
Key = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9_.-]{0,63}$")]
UValue = Annotated[float, Field(gt=0, le=10, allow_inf_nan=False)]
"""No plane element conducts better than about 7 W/m2K, its two surfaces alone being 0.17 m2K/W."""
Thickness = Annotated[float, Field(gt=0, le=3, allow_inf_nan=False)]
Conductivity = Annotated[float, Field(gt=0, le=500, allow_inf_nan=False)]

Element = Literal["wall", "roof", "ground", "floor", "window", "door"]
FloorKind = Literal["slab", "suspended"]


class Entry(BaseModel):
    model_config = ConfigDict(strict=True, extra="forbid", frozen=True)


class MaterialEntry(Entry):
    """A material by its design conductivity and vapour resistance factor."""

    id: Key
    label: Text
    lambda_w_mk: Conductivity
    mu: Positive
    source: Text


class LayerEntry(Entry):
    """One layer, inside first: a material by thickness and conductivity, an air layer by thickness, or a stated
    resistance; a material or air layer may be crossed by a bridge that takes a share of the area.

    `air`: still; slight (a few openings, counts half); open (ventilated to the outside: it and what lies outside of it
    count as nothing, with an inside surface in their place).
    """

    label: Text
    material: Key | None = None
    thickness_m: Thickness | None = None
    lambda_w_mk: Conductivity | None = None
    mu: Positive | None = None
    r_m2kw: Positive | None = None
    air: Literal["still", "slight", "open"] | None = None
    emissivity: Annotated[float, Field(gt=0, le=1)] | None = None
    bridge_label: Text | None = None
    bridge_lambda_w_mk: Conductivity | None = None
    bridge_share: Share | None = None

    @model_validator(mode="after")
    def _one_way(self) -> LayerEntry:
        ways = (
            self.thickness_m is not None and self.lambda_w_mk is not None,
            self.r_m2kw is not None,
            self.air is not None,
        )
        if sum(ways) != 1:
            raise ValueError("a layer has a thickness and a conductivity, or is air, or has a resistance")
        if self.air is not None and self.thickness_m is None:
            raise ValueError("an air layer needs its thickness")
        if (self.bridge_share is None) != (self.bridge_lambda_w_mk is None):
            raise ValueError("a bridged layer names the share and the conductivity of its bridge")
        if self.bridge_share is not None and self.r_m2kw is not None:
            raise ValueError("a layer of stated resistance cannot be bridged: give its thickness and conductivity")
        return self


class GlazingEntry(Entry):
    """A window by its parts."""

    glass_u_w_m2k: UValue
    frame_u_w_m2k: UValue
    frame_share: Share
    edge_psi_w_mk: NotNegative
    edge_m_per_m2: NotNegative
    g_value: Share


class ConstructionEntry(Entry):
    """A wall, roof, floor or door by its layers, a window by its parts; or by a declared U-value alone."""

    id: Key
    label: Text
    element: Element
    build: Text = ""
    age: Text = ""
    floor_kind: FloorKind | None = None
    layers: Annotated[list[LayerEntry], Field(max_length=20)] = []
    glazing: GlazingEntry | None = None
    stated_u_w_m2k: UValue | None = None
    source: Text

    @model_validator(mode="after")
    def _complete(self) -> ConstructionEntry:
        if (self.element == "window") != (self.glazing is not None):
            raise ValueError("a window is described by its glazing, everything else by layers")
        if self.element != "window" and not self.layers and self.stated_u_w_m2k is None:
            raise ValueError("needs at least one layer")
        if self.layers and self.stated_u_w_m2k is not None:
            raise ValueError("has layers or a declared U-value, not both")
        if self.layers and self.layers[0].air == "open":
            raise ValueError("the innermost layer cannot be ventilated to the outside")
        if (self.element == "ground") != (self.floor_kind is not None):
            raise ValueError("a ground floor is a slab or suspended")
        return self


class EmitterTypeEntry(Entry):
    """A kind of radiator by its face, or of skirting by its length alone (`form` length: height plays no part).

    `spread`: how far its output may lie below and above, as shares, where it is known less well than others.
    """

    id: Key
    label: Text
    w_per_m_at_600: Positive
    height_exponent: Annotated[float, Field(gt=0, le=3)]
    exponent: Annotated[float, Field(ge=0.8, le=2.0)]
    water_l_per_m_at_600: Positive
    depth_m: Positive
    source: Text
    form: Literal["face", "length"] = "face"
    kg_per_m_at_600: NotNegative = 0.0
    spread: Pair | None = None


class EmitterFactorEntry(Entry):
    """What an obstruction or a connection leaves of an emitter's output: between `low` and `high`, the middle counts."""

    label: Text
    kind: Literal["obstruction", "connection"]
    low: Annotated[float, Field(gt=0, le=1)]
    high: Annotated[float, Field(gt=0, le=1)]
    mend: Text = ""
    least_length_m: NotNegative = 0.0
    """A connection that counts only from this length on."""


class CoveringEntry(Entry):
    """What lies over a heated floor: its resistance, m2K/W, and the warmest surface it bears."""

    id: Key
    label: Text
    r_m2kw: NotNegative
    limit_c: Annotated[float, Field(ge=15, le=60)] | None = None
    source: Text


class HeatedBuildEntry(Entry):
    """A way pipes are laid in a floor or wall. `method` wet: worked out from its layers; entered: the maker says."""

    id: Key
    label: Text
    element: Literal["floor", "wall"]
    method: Literal["wet", "entered"]
    cover_m: Positive | None = None
    cover_lambda_w_mk: Positive = 1.2
    pipe_m: Positive = 0.016
    pipe_wall_m: Positive = 0.002
    spacings_m: Annotated[list[Positive], Field(min_length=1)]
    height_m: NotNegative = 0.0
    """What it adds to the floor."""
    below_r_m2kw: NotNegative = 0.0
    new: bool = False
    """Whether it can be laid over an existing floor, and so is offered."""
    note: Text = ""
    source: Text


class ManifoldKindEntry(Entry):
    """What hangs at a manifold, and what becomes of it where one temperature serves the whole house."""

    id: Key
    label: Text
    fate: Literal["remove", "open", "keep", "check"]
    why: Text
    how: Text


class SpeedEntry(Entry):
    label: Text
    output_w: Positive
    electric_w: NotNegative = 0.0
    sound_db: Annotated[float, Field(ge=0, le=120)] | None = None


class ProductEntry(Entry):
    """One size of a list: a panel, a fan unit with its speeds, or a heated board by spacing and covering.

    Outputs W at `at_k` excess. `price_minor` is material only.
    """

    id: Annotated[str, Field(min_length=1, max_length=64)]
    kind: Literal["panel", "fan", "skirting", "loop"]
    label: Text
    type: Key | None = None
    length_m: Positive | None = None
    height_m: Positive | None = None
    depth_m: Positive | None = None
    output_w: Positive | None = None
    at_k: Annotated[float, Field(ge=1, le=100)] = 50.0
    exponent: Annotated[float, Field(ge=0.8, le=2.0)] | None = None
    water_l: NotNegative | None = None
    weight_kg: NotNegative | None = None
    price_minor: NotNegative | None = None
    speeds: list[SpeedEntry] = []
    k_w_m2k: Positive | None = None
    spacing_m: Positive | None = None
    covering_r_m2kw: NotNegative | None = None


class CatalogueEntry(Entry):
    """A list of products: generic sizes of ours, or a maker's list a company brought in."""

    id: Key
    label: Text
    source: Text
    products: Annotated[list[ProductEntry], Field(min_length=1, max_length=4000)]


class EmitterPriceEntry(Entry):
    """What a panel costs, minor units: material per metre at 600 mm, labour on the same pipe centres, with new tails
    where it is longer, in a new place. A floor: `m_minor` per m2, `new_minor` per room."""

    id: Key
    m_minor: NotNegative
    same_minor: NotNegative
    longer_minor: NotNegative
    new_minor: NotNegative


class PipeSizeEntry(Entry):
    label: Text
    bore_m: Annotated[float, Field(gt=0.002, le=0.2)]


class PipeFamilyEntry(Entry):
    id: Key
    label: Text
    roughness_m: Annotated[float, Field(ge=0, le=0.001)]
    sizes: dict[Key, PipeSizeEntry]
    source: Text


class MachineEntry(Entry):
    """An invented machine: test points on a grid, envelope, hydraulics."""

    id: Key
    label: Text
    refrigerant: Text
    refrigerant_kg: Positive
    flammable: bool
    outdoor_c: list[Celsius]
    water_c: list[Celsius]
    greatest_w: list[list[Positive]]
    least_w: list[list[Positive]]
    cop: list[list[Positive]]
    defrost_included: bool
    evaporator_approach_k: Positive
    condenser_approach_k: Positive
    lowest_outdoor_c: Celsius
    limit_outdoor_c: list[Celsius]
    limit_water_c: list[Celsius]
    least_flow_lph: Positive
    rated_flow_lph: Positive
    pump_flow_lph: list[NotNegative]
    pump_head_kpa: list[NotNegative]
    least_volume_l: Positive
    content_l: Positive
    max_current_a: Positive
    sound_power_day_db: Positive
    sound_power_night_db: Positive
    weight_kg: Positive
    always_on_w: NotNegative
    source: Text

    @model_validator(mode="after")
    def _grid(self) -> MachineEntry:
        rows, cols = len(self.outdoor_c), len(self.water_c)
        if rows < 2 or cols < 2:
            raise ValueError("a map needs at least two outdoor and two water temperatures")
        for name in ("greatest_w", "least_w", "cop"):
            table = getattr(self, name)
            if len(table) != rows or any(len(row) != cols for row in table):
                raise ValueError(f"{name} does not match the grid of test points")
        for name in ("outdoor_c", "water_c", "limit_outdoor_c", "pump_flow_lph"):
            values = getattr(self, name)
            if any(b <= a for a, b in pairwise(values)):
                raise ValueError(f"{name} must rise")
        if len(self.limit_outdoor_c) != len(self.limit_water_c) or not self.limit_outdoor_c:
            raise ValueError("the envelope needs as many water as outdoor temperatures")
        if len(self.pump_flow_lph) != len(self.pump_head_kpa) or len(self.pump_flow_lph) < 2:
            raise ValueError("the pump curve needs at least two points")
        for air, row in zip(self.outdoor_c, self.cop, strict=True):
            for water, cop in zip(self.water_c, row, strict=True):
                fraction = cop * max(water - air, 1.0) / (water + 273.15)
                if fraction > 0.6:
                    raise ValueError(f"COP {cop} at A{air:g}/W{water:g} is {fraction:.0%} of Carnot: not credible")
        return self


class ClimateEntry(Entry):
    """Design temperatures, means, hours per 1 K bin; the hourly year itself lies under `year_sha256`.

    `p996_c`, `p99_c`: not exceeded by 0.4 % and 1 % of this year's hours; `day_c`, `three_days_c`: its coldest days;
    `long_term_p996_c`, `long_term_p99_c`: from the file's header, over many years. `typical`: a year put together of
    average months, which understates extremes.
    """

    id: Key
    label: Text
    design_c: Celsius
    annual_mean_c: Celsius
    bin_outdoor_c: list[Finite]
    bin_hours: list[NotNegative]
    synthetic: bool
    source: Text
    latitude_deg: Annotated[float, Field(ge=-90, le=90)] | None = None
    longitude_deg: Annotated[float, Field(ge=-180, le=180)] | None = None
    utc_offset_h: Annotated[float, Field(ge=-14, le=14)] = 0.0
    altitude_m: Annotated[float, Field(ge=-500, le=6000)] | None = None
    monthly_mean_c: Annotated[list[Finite], Field(max_length=12)] = []
    p996_c: Celsius | None = None
    p99_c: Celsius | None = None
    day_c: Celsius | None = None
    three_days_c: Celsius | None = None
    long_term_p996_c: Celsius | None = None
    long_term_p99_c: Celsius | None = None
    typical: bool = False
    year_sha256: Annotated[str, Field(pattern=r"^[0-9a-f]{64}$")] | None = None

    @model_validator(mode="after")
    def _bins(self) -> ClimateEntry:
        if len(self.bin_outdoor_c) != len(self.bin_hours) or len(self.bin_hours) < 5:
            raise ValueError("as many hours as bins, at least five")
        if any(b <= a for a, b in pairwise(self.bin_outdoor_c)):
            raise ValueError("bins must rise")
        if len(self.monthly_mean_c) not in (0, 12):
            raise ValueError("twelve monthly means, or none")
        return self


class RoomUseEntry(Entry):
    label: Text
    target_c: Celsius
    habitable: bool
    air_older_per_h: NotNegative
    air_intermediate_per_h: NotNegative
    air_recent_per_h: NotNegative


class AgeEntry(Entry):
    """What the age of a house suggests: how tight it is, and what it is built of until somebody looks."""

    label: Text
    n50_per_h: Positive
    air_band: Literal["older", "intermediate", "recent"]
    constructions: dict[Literal["wall", "inner_wall", "party_wall", "roof", "ground", "floor", "window", "door"], Key]


class SpaceKindEntry(Entry):
    label: Text
    b: Share


class ValveEntry(Entry):
    label: Text
    kv_m3h: Positive
    closes: bool


class JunctionEntry(Entry):
    """A line where parts of the shell meet: psi in W/mK, inside dimensions, by how well it is built."""

    label: Text
    poor: Finite
    usual: Finite
    good: Finite


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


class TablesEntry(Entry):
    """The small tables of the trade a job follows."""

    id: Key
    label: Text
    room_uses: dict[Key, RoomUseEntry]
    ages: dict[Key, AgeEntry]
    space_kinds: dict[Key, SpaceKindEntry]
    valves: dict[Key, ValveEntry]
    fittings_k: dict[Key, NotNegative]
    shelter: dict[Key, NotNegative]
    chimney_m3h: NotNegative
    flue_m3h: NotNegative
    fan_m3h: NotNegative
    cylinder_l_by_bedrooms: Annotated[list[Pair], Field(min_length=1)]
    hot_water_l_per_person_day: NotNegative
    open_water_l_per_kw: NotNegative
    coil_m2_per_kw: Pair
    source: Text
    vent_m3h: NotNegative = 10.0
    shield_e: dict[Key, Annotated[list[NotNegative], Field(min_length=3, max_length=3)]] = {}
    junctions: dict[Key, JunctionEntry] = {}
    fuels: dict[Key, FuelEntry] = {}
    space_air_per_h: dict[Key, NotNegative] = {}
    emitter_factors: dict[Key, EmitterFactorEntry] = {}


class CautionEntry(Entry):
    id: Key
    hazard: Text
    what: Text
    who: Text
    rule: Text
    steps: list[Key]


class BringsEntry(Entry):
    """What an answer makes the visit bring or look at; `is` lists the answers, "*" any."""

    answers: Annotated[list[bool | Text], Field(alias="is")]
    what: Text


class QuestionEntry(Entry):
    """A question of the first call. `when`: asked only after those answers ("" means unanswered, "*" any)."""

    id: Key
    ask: Text
    kind: Literal["yesno", "choice", "text", "number", "whole", "age"]
    why: Text
    unit: Text = ""
    at: Text = ""
    options: dict[Key, Text] = {}
    when: dict[Key, list[bool | Text]] = {}
    brings: list[BringsEntry] = []


class DensityEntry(Entry):
    """Loss per m2 of floor at about -3 deg C outside, low and high, by how well a house of an age is insulated."""

    id: Key
    bare: Pair
    part: Pair
    good: Pair


class ItemEntry(Entry):
    """An item of the walk-round: what to look at, its picture, its caution; a `sign` is asked of every part."""

    id: Key
    section: Literal["outside", "plant", "electrics", "loft", "places"]
    label: Text
    look: Text = ""
    kind: Literal["seen", "yesno", "choice", "text", "number"]
    unit: Text = ""
    options: dict[Key, Text] = {}
    picture: bool = False
    caution: Key | None = None
    sign: Key | None = None
    optional: bool = False


class WallSignEntry(Entry):
    """A way a wall may be built, and how likely each sign is if it is."""

    id: Key
    label: Text
    construction: Key
    prior: dict[Key, Share]
    bond: dict[Key, Share]
    thickness: Annotated[list[Share], Field(min_length=5, max_length=5)]
    air_bricks: dict[Key, Share]
    plugs: dict[Key, Share]
    glazing: dict[Key, Share]
    told: dict[Key, Share]


class SpreadEntry(Entry):
    """How far a value may be off, P10 below and P90 above as shares, by how it is known."""

    id: Key
    label: Text
    measured: Pair
    tape: Pair = [0.02, 0.02]
    read: Pair
    told: Pair
    inferred: Pair
    assumed: Pair


class MovedEntry(Entry):
    """A rule that moved figures of older jobs: since which edition, which figures of the job list, and what it says."""

    id: Key
    since: Text
    figures: list[Literal["loss", "flow", "cover", "season", "head"]]
    what: Text


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
    tighter: Share | None = None
    recover: Share | None = None
    least_gain: Share = 0.1
    disturbance: Annotated[int, Field(ge=0, le=3)]
    fixed_minor: NotNegative
    m2_minor: NotNegative = 0.0
    m2_minor_per_m: NotNegative = 0.0
    caution: list[Key] = []
    note: Text = ""
    source: Text = "common practice, a guess to be replaced by the company's own prices"
