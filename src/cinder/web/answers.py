"""What the API gives. The TypeScript types are generated from these."""

from __future__ import annotations

from datetime import date, datetime
from typing import Any, Literal

from pydantic import BaseModel

from cinder.design import Design, Effect
from cinder.design.apart.alternatives.result import Alternatives
from cinder.design.apart.bills.result import BillCheck
from cinder.design.apart.compare import Side
from cinder.design.apart.controllers import ControllersFound
from cinder.design.apart.doubts.result import Doubts, Leaving
from cinder.design.apart.flows import FlowsFound
from cinder.design.apart.materials import MaterialsFound
from cinder.design.apart.measures.result import Measures
from cinder.design.apart.moved import Moved
from cinder.design.apart.plant import PlantFound
from cinder.design.apart.protecting import ProtectingFound
from cinder.design.apart.routing import RoutesFound
from cinder.design.apart.running.result import Runs
from cinder.design.apart.separating import SeparatingFound
from cinder.design.apart.water_day import WaterDays
from cinder.design.apart.ways.result import Front, Holding, RoomOptions
from cinder.design.fabric.result import Section
from cinder.design.machine.look import Look
from cinder.design.year.result import Year
from cinder.field.fire_up.result import FireUpFound
from cinder.field.lessons import LessonsFound
from cinder.field.pipes import PipesTested
from cinder.field.result import CorrectionFound
from cinder.field.winter import WinterFound
from cinder.field.wiring import WiringFound
from cinder.handover.kept import Kept
from cinder.handover.offer import OfferFound
from cinder.handover.pack import PackFound
from cinder.handover.promise import Promise
from cinder.handover.upkeep import UpkeepFound
from cinder.library import (
    CatalogueEntry,
    CautionEntry,
    ClimateEntry,
    ConstructionEntry,
    CoveringEntry,
    EmitterPriceEntry,
    EmitterTypeEntry,
    GrantEntry,
    HeatedBuildEntry,
    ItemEntry,
    LabourEntry,
    MachineEntry,
    ManifoldKindEntry,
    MaterialEntry,
    MeasureEntry,
    PipeFamilyEntry,
    PlaceRuleEntry,
    PlantPartEntry,
    PumpEntry,
    QuestionEntry,
    TablesEntry,
    TappingEntry,
    TradeEntry,
)
from cinder.model import Job
from cinder.twin.practice import PracticeFound
from cinder.twin.result import RoomControlFound, TwinFound, WeekFound


class OperationOut(BaseModel):
    op: Literal["add", "replace", "remove", "test"]
    path: str
    value: Any = None


class Head(BaseModel):
    """A job at a version, and what the edit did."""

    version: int
    person: str
    sample: bool
    replayed: bool
    effect: Effect | None
    undo_label: str | None
    redo_label: str | None
    can_undo: bool
    can_redo: bool
    changed_at: datetime
    moved: Moved | None
    """What an earlier version said of the job, where this one says otherwise."""
    put_away: bool
    kept: list[str]
    """Of a row of changes those that were kept. The first one missing was refused: send it alone."""


class Answer(Head):
    """The whole: the job and its Design."""

    job: Job
    design: Design


class Onward(Head):
    """What changed since the version `since`, which the page holds: operations on its job, a difference of its Design
    (`[value]` where something is another, an object of what lies in it between; None where nothing is)."""

    since: int
    operations: list[OperationOut]
    difference: dict[str, Any] | list[Any] | None


class WhatIfAnswer(BaseModel):
    version: int
    design: Design
    effect: Effect


class WhatIfOnward(BaseModel):
    """As `Onward`."""

    version: int
    since: int
    difference: dict[str, Any] | list[Any] | None
    effect: Effect


class FingerprintOut(BaseModel):
    version: int
    sha256: str


class Summary(BaseModel):
    engine: str | None = None
    edition: str | None = None
    rooms: int
    loss_w: float | None
    flow_c: float | None
    flow_lacks: str = ""
    """Why there is no flow temperature, in the words of the bar."""
    cover: float | None
    season: float | None
    season_burns: bool = False
    """What burns beside the machine is counted in: no COP."""
    findings: int
    scheme_label: str


class JobSummary(BaseModel):
    id: str
    title: str
    place: str
    version: int
    changed_at: datetime
    summary: Summary | None


class JobList(BaseModel):
    company: str
    person: str
    jobs: list[JobSummary]


class HistoryEntry(BaseModel):
    version: int
    change_id: str
    person: str
    kind: Literal["create", "edit", "undo", "redo", "migration"]
    label: str
    at: datetime
    effect: Effect | None


class History(BaseModel):
    entries: list[HistoryEntry]


class LibraryOut(BaseModel):
    edition: str
    constructions: dict[str, ConstructionEntry]
    u_values: dict[str, float]
    emitter_types: dict[str, EmitterTypeEntry]
    pipe_families: dict[str, PipeFamilyEntry]
    machines: dict[str, MachineEntry]
    climates: dict[str, ClimateEntry]
    tables: dict[str, TablesEntry]
    place_rules: dict[str, PlaceRuleEntry]
    materials: dict[str, MaterialEntry]
    measures: dict[str, MeasureEntry]
    emitter_prices: dict[str, EmitterPriceEntry]
    coverings: dict[str, CoveringEntry]
    heated_builds: dict[str, HeatedBuildEntry]
    manifold_parts: dict[str, ManifoldKindEntry]
    tapping: dict[str, TappingEntry]
    pumps: dict[str, PumpEntry]
    plant_parts: dict[str, PlantPartEntry]
    labour: dict[str, LabourEntry]
    trades: dict[str, TradeEntry]
    cautions: dict[str, CautionEntry]
    enquiry: dict[str, QuestionEntry]
    walk_round: dict[str, ItemEntry]
    sha256: dict[str, dict[str, str]]


class Health(BaseModel):
    engine: str
    database: Literal["answers", "silent"]


class DoubtsOut(BaseModel):
    """The slow part of the Design, stamped with the version it belongs to."""

    version: int
    doubts: Doubts
    leaving: Leaving


class PhotoOut(BaseModel):
    sha256: str
    width_px: int
    height_px: int


class TakenIn(BaseModel):
    """What a file would do to the job: one change, to be sent as any other."""

    operations: list[OperationOut]
    rooms: int
    emitters: int


class OperationsOut(BaseModel):
    """What something would do to the job: one change, to be sent as any other."""

    operations: list[OperationOut]


class CompanyEntry(BaseModel):
    """Something the company keeps for itself; `entry` is a construction, a climate or a measure."""

    id: str
    edition: int
    sha256: str
    u_w_m2k: float | None
    entry: (
        ConstructionEntry
        | ClimateEntry
        | MeasureEntry
        | EmitterPriceEntry
        | CatalogueEntry
        | PlantPartEntry
        | MachineEntry
        | PlaceRuleEntry
        | GrantEntry
    )


class CompanyEntries(BaseModel):
    entries: list[CompanyEntry]


class WeatherOut(BaseModel):
    """A weather file as it was read: its climate, and what had to be mended."""

    id: str
    edition: int
    sha256: str
    entry: ClimateEntry
    notes: list[str]


class SectionOut(BaseModel):
    section: Section
    entry: ConstructionEntry
    sha256: str


class SectionsOut(BaseModel):
    version: int
    sections: dict[str, Section]


class YearOut(BaseModel):
    version: int
    year: Year


class RunningOut(BaseModel):
    version: int
    running: Runs


class AlternativesOut(BaseModel):
    version: int
    alternatives: Alternatives


class TwinOut(BaseModel):
    version: int
    twin: TwinFound


class RoomControlOut(BaseModel):
    version: int
    room_control: RoomControlFound


class TwinWeekOut(BaseModel):
    version: int
    week: WeekFound


class ControllersOut(BaseModel):
    version: int
    controllers: ControllersFound


class WaterDaysOut(BaseModel):
    version: int
    water_days: WaterDays


class FlowsOut(BaseModel):
    version: int
    flows: FlowsFound


class SeparatingOut(BaseModel):
    version: int
    separating: SeparatingFound


class ProtectingOut(BaseModel):
    version: int
    protecting: ProtectingFound


class PipesTestedOut(BaseModel):
    version: int
    tested: PipesTested


class PlantOut(BaseModel):
    version: int
    plant: PlantFound


class RoutesOut(BaseModel):
    version: int
    routes: RoutesFound


class MaterialsOut(BaseModel):
    version: int
    materials: MaterialsFound


class BillsOut(BaseModel):
    version: int
    bills: BillCheck


class MeasuresOut(BaseModel):
    version: int
    measures: Measures


class FrontOut(BaseModel):
    version: int
    front: Front


class RoomOptionsOut(BaseModel):
    version: int
    room: RoomOptions


class HoldingOut(BaseModel):
    version: int
    holding: Holding


class CatalogueSummary(BaseModel):
    edition: str
    own: bool
    list: CatalogueEntry


class CataloguesOut(BaseModel):
    """Lists of products; `columns` are those a CSV to be brought in may have."""

    lists: list[CatalogueSummary]
    columns: list[str]


class CatalogueTaken(BaseModel):
    id: str
    label: str
    edition: int
    products: int


class MachineTaken(BaseModel):
    id: str
    label: str
    edition: int
    worked_out: int
    """Test points filled from their neighbours."""
    lacks: list[str]


class MachinesTaken(BaseModel):
    machines: list[MachineTaken]


class TariffRead(BaseModel):
    by_month: list[list[float]]
    """Mean price of every hour of the day in every month, minor units."""
    label: str
    notes: list[str]


class RuleTaken(BaseModel):
    id: str
    label: str
    edition: int


class RulesTaken(BaseModel):
    rules: list[RuleTaken]
    """What of the file is the company's own: rows that differ from the general ones."""


class MachineLook(BaseModel):
    look: Look
    machine: MachineEntry


class SchemesOut(BaseModel):
    version: int
    side: Side


class FireUpOut(BaseModel):
    version: int
    fire_up: FireUpFound


class WiringOut(BaseModel):
    version: int
    wiring: WiringFound


class AttemptLine(BaseModel):
    """An attempt in the list, with its score where it is over."""

    id: str
    level: str
    at: datetime
    deeds: int
    total: int | None
    found: int | None
    of: int | None


class AttemptOut(BaseModel):
    id: str
    practice: PracticeFound


class AttemptsOut(BaseModel):
    attempts: list[AttemptLine]


class CorrectionOut(BaseModel):
    version: int
    correction: CorrectionFound


class ReadingColumn(BaseModel):
    name: str
    channel: str
    sample: str


class ReadingsLook(BaseModel):
    """What each column of a file seems to be, and what may be said of one."""

    columns: list[ReadingColumn]
    channels: dict[str, str]
    notes: list[str]


class SourceOut(BaseModel):
    id: str
    kind: str
    label: str
    channels: list[str]
    told: list[str]
    at: datetime
    first: datetime | None
    last: datetime | None
    count: int


class SourcesOut(BaseModel):
    sources: list[SourceOut]


class ReadingsTaken(BaseModel):
    source: str
    added: int
    notes: list[str]


class HandRow(BaseModel):
    """What the meters of electricity, heat and heater stood at, kWh, and the rooms' mean, deg C."""

    at: datetime
    figures: list[float | None]


class HandRowsOut(BaseModel):
    rows: list[HandRow]


class DrawnBand(BaseModel):
    mean: list[float | None]
    least: list[float | None]
    greatest: list[float | None]


class DrawnOut(BaseModel):
    at: list[datetime]
    width_s: int
    channels: dict[str, DrawnBand]


class WatchedOut(BaseModel):
    """The plant as it is watched; `figures` of its last reading by channel, `age_s` how old by its own worker's clock, `series` the last
    readings of a few channels for a line."""

    watched: bool
    simulated: bool
    address: str
    listed: list[str]
    worker: bool
    state: Literal["none", "waiting", "live", "lost", "refused", "stopped"]
    said: str
    problems: list[str]
    waiting_orders: int
    at: datetime | None
    heard_s: float | None
    figures: dict[str, float | None]
    series: dict[str, list[float | None]]
    times: list[datetime]


class PaperOut(BaseModel):
    """A document and how far it is."""

    id: str
    job: str
    kind: str
    version: int
    state: Literal["waiting", "working", "ready", "failed"]
    progress: int
    step: str
    seconds: float | None
    at: datetime


class PapersOut(BaseModel):
    papers: list[PaperOut]
    writer: bool


class OfferOut(BaseModel):
    version: int
    offer: OfferFound


class PackOut(BaseModel):
    version: int
    pack: PackFound


class UpkeepOut(BaseModel):
    version: int
    upkeep: UpkeepFound


class PromiseOut(BaseModel):
    version: int
    promise: Promise


class Accepted(BaseModel):
    variant: str
    label: str
    by: str
    day: str


class IssuedLine(BaseModel):
    """Something issued; `differs`: how the job as it stands differs from it. `state` of its file."""

    id: str
    kind: Literal["offer", "pack"]
    number: int
    version: int
    engine: str
    fingerprint: str
    at: datetime
    until: date | None
    accepted: Accepted | None
    differs: list[str]
    state: Literal["waiting", "working", "ready", "failed"]
    progress: int
    step: str
    sentence: str


class IssuedOut(BaseModel):
    version: int
    issued: list[IssuedLine]


class FileOut(BaseModel):
    sha256: str
    media: str
    bytes: int


class WinterOut(BaseModel):
    version: int
    winter: WinterFound


class LessonsOut(BaseModel):
    version: int
    lessons: LessonsFound


class KeptOut(BaseModel):
    version: int
    pack: int | None
    kept: Kept
    promise: Promise
