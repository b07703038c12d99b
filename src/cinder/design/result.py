"""The Design: one typed result tree, the same for screens, command line and reports.

Absent figures are None: a section that lacks input says what it lacks in the findings.
"""

from __future__ import annotations

from typing import Literal

from cinder.design.result_base import AirKey, FaceKind, Result, Screen, Severity, Status
from cinder.design.result_survey import Asked, FirstGuess, WallVerdict


class Finding(Result):
    """Something the engineer should know: where, what, why, and what would mend it."""

    severity: Severity
    screen: Screen
    where: str
    what: str
    why: str = ""
    mend: str = ""


class Caution(Result):
    id: str
    hazard: str
    what: str
    who: str
    rule: str


class Figure(Result):
    """A headline figure of the chain."""

    key: str
    label: str
    value: float | None
    unit: str
    digits: int
    better: Literal["lower", "higher", "neither"]
    working: str
    screen: Screen
    lacks: str = ""


class Opening(Result):
    id: str
    label: str
    kind: str
    found: str | None
    construction: str | None
    construction_label: str
    u_w_m2k: float | None
    bridge_u_w_m2k: float
    area_m2: float | None
    difference_k: float | None
    factor: float | None
    loss_w: float | None
    bridge_w: float | None
    measure: str | None


class FacePiece(Result):
    """A stretch of a face: what lies beyond it, how that is known, and what goes through it.

    Walls: `from_m`..`to_m` along the run, `low_m`..`high_m` above the floor. `hole`: open, as a stairwell is.
    `factor` stands beside the temperature difference: b of a space by table, 1.45 towards the ground. `loss_w` = net area
    x (U + bridges) x factor x difference, of which `bridge_w` by the bridges.
    """

    beyond: str
    beyond_label: str
    beyond_room: str | None
    how: Literal["stated", "derived", "assumed"]
    area_m2: float
    net_m2: float
    from_m: float | None
    to_m: float | None
    low_m: float | None
    high_m: float | None
    hole: bool
    construction_label: str
    u_w_m2k: float | None
    bridge_u_w_m2k: float
    difference_k: float | None
    factor: float | None
    loss_w: float | None
    bridge_w: float | None


class BridgeLine(Result):
    """A junction of a face with the outside or an unheated space, when bridges are counted one by one."""

    key: str
    label: str
    length_m: float
    psi_w_mk: float
    loss_w: float | None


class Face(Result):
    key: str
    label: str
    kind: FaceKind
    beyond: str
    beyond_label: str
    stated: bool
    found: str | None
    construction: str | None
    construction_label: str
    u_w_m2k: float | None
    gross_m2: float | None
    net_m2: float | None
    difference_k: float | None
    loss_w: float | None
    measure: str | None
    openings: list[Opening]
    pieces: list[FacePiece]
    bridges: list[BridgeLine]


class HeatedResult(Result):
    """A heated floor or wall at the chosen flow temperature: its surface against its limit, its loops.

    `k_w_m2k` by the school followed, `other_k_w_m2k` by the other one; `method` by which, `outside` what of it lies outside
    the standard's range, where conduction serves by either school.
    """

    k_w_m2k: float
    other_k_w_m2k: float | None
    method: Literal["standard", "conduction", "entered"]
    outside: str
    area_m2: float
    flux_w_m2: float | None
    most_w_m2: float
    surface_mean_c: float | None
    surface_most_c: float | None
    limit_c: float
    limit_why: str
    most_flow_c: float | None
    """The warmest water, straight through at its spread, that keeps its surface within the limit."""
    down_w: float | None
    loop_m: float | None
    loops: int
    loop_lph: float | None
    loop_kpa: float | None


class PreviewRow(Result):
    """A heated floor or wall at one pipe spacing; `profile_c` its surface from over a pipe to the middle between two."""

    spacing_m: float | None
    chosen: bool
    k_w_m2k: float
    other_k_w_m2k: float | None
    method: Literal["standard", "conduction", "entered"]
    outside: str
    flux_w_m2: float
    output_w: float
    surface_mean_c: float
    surface_most_c: float
    limit_c: float
    limit_why: str
    within: bool
    loop_m: float | None
    longest_m: float
    loops: int
    loop_lph: float | None
    loop_kpa: float | None
    profile_c: list[float]


class HeatedPreview(Result):
    excess_k: float
    room_c: float
    flow_c: float
    spread_k: float
    rows: list[PreviewRow]


class EmitterResult(Result):
    """`output_w` when the room's need is just met; `at_line_w` at the chosen water with the room at its target."""

    id: str
    room: str
    kind: str
    label: str
    description: str
    rated_w: float | None
    exponent: float | None
    water_l: float
    valve: str | None
    valve_label: str
    closes: bool
    action: str
    share: float | None
    output_w: float | None
    at_line_w: float | None
    flow_lph: float | None
    spread_k: float | None
    factor: float
    factor_words: str
    electric_w: float
    heated: HeatedResult | None


class RoomResult(Result):
    """One room of the chain. Two loads, two names: what its emitter meets, and its part of the house."""

    id: str
    label: str
    use: str
    target_c: float
    target_why: str
    area_m2: float | None
    height_m: float | None
    volume_m3: float | None
    closing_error_m: float | None
    closing_share: float | None
    closing_suspects: list[str]
    closing_correction_m: float | None
    outline_m: list[list[float]]
    placed: bool
    bottom_m: float | None
    top_m: float | None
    perimeter_m: float | None
    exposed_perimeter_m: float | None
    fabric_w: float | None
    ground_w: float | None
    bridges_w: float | None
    air_w: float | None
    trade_w: float | None
    extras_w: float | None
    down_w: float | None
    room_emitter_load_w: float | None
    room_share_of_house_w: float | None
    air_tightness_w: float | None
    air_table_w: float | None
    air_per_h: float | None
    exposed_faces: int
    usual_low_w_per_m2: float | None
    usual_high_w_per_m2: float | None
    odd: Literal["", "more than usual", "less than usual"]
    loss_per_k: float | None
    w_per_m2: float | None
    rated_w: float | None
    needed_flow_c: float | None
    reached_c: float | None
    status: Status
    faces: list[Face]
    emitters: list[EmitterResult]


class Slab(Result):
    """A build of floor on the ground: B' = A / (0.5 P) is that of the whole floor the house stands on, with P its
    exposed perimeter only. `edge_m`: how far a strip of insulation along its own edge counts."""

    part: str
    construction_label: str
    area_m2: float
    exposed_perimeter_m: float
    whole_m2: float
    whole_perimeter_m: float
    characteristic_m: float | None
    u_w_m2k: float
    depth_m: float
    edge_u_w_m2k: float
    edge_m: float | None


class SpaceResult(Result):
    """An unheated space: how cold it gets on the design day, and how that is known."""

    id: str
    label: str
    how: Literal["solved", "stated", "table"]
    b: float
    temperature_c: float | None
    in_w_k: float | None
    out_w_k: float | None


class AirMethod(Result):
    """One way to count the air, for the whole house and for every room's emitter."""

    key: AirKey
    label: str
    chosen: bool
    flow_m3h: float
    air_per_h: float | None
    air_w: float
    emitters_w: float
    loss_w: float
    rooms_w: dict[str, float]


class Leak(Result):
    """A way out for heat: everything built alike, or air, or bridges; the greatest first."""

    key: str
    label: str
    kind: str
    construction: str | None
    area_m2: float | None
    u_w_m2k: float | None
    loss_w: float
    share: float
    rooms: int
    worst: str


class House(Result):
    outdoor_c: float | None
    climate_label: str
    area_m2: float
    volume_m3: float
    loss_w: float | None
    fabric_w: float | None
    ground_w: float | None
    bridges_w: float | None
    air_w: float | None
    extras_w: float | None
    down_w: float | None
    loss_air_tightness_w: float | None
    loss_air_table_w: float | None
    h_w_k: float | None
    w_per_m2: float | None
    n50_per_h: float | None
    n50_why: str
    emitter_loads_w: float | None
    complete: bool
    slabs: list[Slab]
    spaces: list[SpaceResult]
    air: list[AirMethod]
    leaks: list[Leak]
    envelope_m2: float


class ClimateMonth(Result):
    """A month of the climate the job runs in."""

    name: str
    outdoor_c: float
    degree_days_kd: float


class ClimateView(Result):
    """What the climate says once it stands at the height of the site: its rules, months and degree days."""

    shift_k: float
    rules_c: dict[str, float | None]
    months: list[ClimateMonth]
    degree_base_c: float
    degree_days_kd: float | None
    below_hours: float | None


class ManifoldLine(Result):
    """A thing at a manifold: whether it goes, is left open, stays or is looked at, and why."""

    id: str
    kind: str
    label: str
    count: int
    fate: Literal["remove", "open", "keep", "check"]
    why: str
    how: str
    rooms: list[str]
    emitter: str | None


class Waterline(Result):
    chosen_flow_c: float | None
    chosen_why: str
    needed_flow_c: float | None
    next_flow_c: float | None
    holding: list[str]
    short: list[str]
    spread_k: float
    manifolds: list[ManifoldLine]


class MachineRow(Result):
    """A candidate at this job's design day and over its season."""

    id: str
    machine: str
    label: str
    refrigerant: str
    chosen: bool
    output_w: float
    least_w: float
    cop: float
    extrapolated: bool
    inside: bool
    cover: float | None
    cover_without_hot_water: float | None
    hot_water_hours: float | None
    bivalent_c: float | None
    cycles_above_c: float | None
    cycling_share: float | None
    backup_share: float | None
    season: float | None
    season_with_hot_water: float | None
    electricity_kwh: float | None
    sound_power_day_db: float
    greatest_curve_w: list[float]
    least_curve_w: list[float]


class Machine(Result):
    outdoor_c: list[float]
    load_w: list[float]
    season_load_w: list[float]
    hours: list[float]
    rows: list[MachineRow]
    chosen: str | None


class Season(Result):
    performance: float | None
    with_hot_water: float | None
    heat_kwh: float | None
    electricity_kwh: float | None
    backup_kwh: float | None
    hot_water_kwh: float | None
    hot_water_electricity_kwh: float | None
    cycling_hours: float | None
    heating_hours: float | None
    excess_kwh: float | None
    own_heat_kwh: float
    """Heat of heaters of their own, made of as much electricity; it is in the electricity and the performance."""
    fans_kwh: float
    climate_label: str


class HotWater(Result):
    bedrooms: int | None
    people: int | None
    rule_low_l: float | None
    rule_high_l: float | None
    volume_l: float | None
    store_c: float
    cold_c: float
    coil_m2: float | None
    coil_low_m2: float | None
    coil_high_m2: float | None
    power_w: float | None
    cop: float | None
    stored_kwh: float | None
    reheat_minutes: float | None
    reheat_mild_minutes: float | None
    daily_kwh: float | None
    hours_per_day: float | None
    verdict: Literal["meets", "small", "large", "unknown"]


class Pipe(Result):
    id: str
    label: str
    parent: str | None
    emitter: str | None
    size_label: str
    bore_m: float | None
    length_m: float | None
    flow_lph: float | None
    velocity_m_s: float | None
    pa_per_m: float | None
    friction_kpa: float | None
    fittings_kpa: float | None
    valve_kpa: float | None
    total_kpa: float | None
    water_l: float
    on_index: bool
    fast: bool
    action: str
    depth: int


class Circuit(Result):
    emitter: str
    label: str
    loss_kpa: float
    to_drop_kpa: float
    path: list[str]


class Pipework(Result):
    flow_lph: float | None
    water_c: float | None
    pipes: list[Pipe]
    circuits: list[Circuit]
    index: str | None
    index_kpa: float | None
    head_kpa: float | None
    head_used: float | None
    limit: float
    least_flow_lph: float | None
    pump_flow_lph: list[float]
    pump_head_kpa: list[float]
    worst_pipe: str | None
    worst_saving_kpa: float | None
    worst_next_size: str | None


class Volume(Result):
    open_l: float | None
    closed_l: float
    pipes_l: float
    emitters_l: float
    machine_l: float
    volumiser_l: float
    need_l: float | None
    need_why: str
    rule_l: float | None


class Curve(Result):
    """What water the house needs over the outdoor temperature with all its rooms settling together, and the line.

    `rooms` what each room asks for beside rooms as warm as the need makes them; `holds` the room that asks for most;
    `over_k` how much warmer than asked for each room gets by the line (`design_over_k` on the design day); `floats` rooms
    with a loss and nothing to meet it. `cold_need_c` the need on the design day, `cold_standard_c` the waterline's
    stricter one, `cold_why` what lies between, `cold_end` which of the two is dialled in.
    """

    outdoor_c: list[float]
    needed_c: list[float | None]
    rooms: dict[str, list[float | None]]
    line_c: list[float]
    hours: list[float]
    cop_lines: dict[str, list[float | None]]
    holds: list[str | None]
    over_k: dict[str, list[float | None]]
    floats: list[str]
    design_over_k: dict[str, float]
    cold_need_c: float | None
    cold_standard_c: float | None
    cold_why: list[str]
    cold_end: Literal["settled", "waterline"]
    holds_cold: str | None
    holds_mild: str | None
    cold_out_c: float | None
    cold_flow_c: float | None
    mild_out_c: float | None
    mild_flow_c: float | None
    greatest_flow_c: float | None
    heating_limit_c: float
    fitted: bool
    fitted_mild_flow_c: float | None
    short_k: float | None
    short_room_k: float | None
    short_at_c: float | None
    short_room: str | None
    excess_k: float | None
    excess_at_c: float | None


class Design(Result):
    engine: str
    scheme: str | None
    scheme_label: str
    headline: list[Figure]
    sentences: dict[str, str]
    climate: ClimateView
    house: House
    rooms: list[RoomResult]
    waterline: Waterline
    curve: Curve
    machine: Machine
    season: Season
    hot_water: HotWater
    pipework: Pipework
    volume: Volume
    findings: list[Finding]
    asked: list[Asked]
    first_guess: FirstGuess
    walls: list[WallVerdict]
    cautions: dict[str, list[Caution]]
    schools: dict[str, str]
