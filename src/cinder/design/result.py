"""The Design: one typed result tree, the same for screens, command line and reports.

Absent figures are None: a section that lacks input says what it lacks in the findings.
"""

from __future__ import annotations

from cinder import ENGINE_VERSION
from cinder.design import cautions as step_cautions
from cinder.design import headline
from cinder.design.base import Result
from cinder.design.cautions import Caution
from cinder.design.curve import say as curve_say
from cinder.design.curve.result import Curve
from cinder.design.findings import Finding, Findings
from cinder.design.headline import Figure
from cinder.design.hot_water import say as hot_water_say
from cinder.design.hot_water.result import HotWaterResult
from cinder.design.house import climate
from cinder.design.house import say as house_say
from cinder.design.house.result import ClimateView
from cinder.design.house.view import HouseView
from cinder.design.hydraulics import say as hydraulics_say
from cinder.design.hydraulics.result import Pipework, VesselFound, Volume
from cinder.design.kept import Kept, entries
from cinder.design.losses import say as losses_say
from cinder.design.losses.result import HouseResult, RoomResult
from cinder.design.machine import say as machine_say
from cinder.design.machine.result import MachineResult, PlacesResult, SeasonResult, chosen_of
from cinder.design.next import NextWork, next_work
from cinder.design.outdoor_pipes import OutdoorPipes
from cinder.design.schools import schools
from cinder.design.separation import Separated
from cinder.design.survey import say as survey_say
from cinder.design.survey.first_guess import asked
from cinder.design.survey.result import Asked, FirstGuess, WallVerdict
from cinder.design.waterline import say as waterline_say
from cinder.design.waterline.decide import WaterlineArrays
from cinder.design.waterline.result import Waterline
from cinder.model import Job


class Design(Result):
    engine: str
    scheme: str | None
    scheme_label: str
    headline: list[Figure]
    sentences: dict[str, str]
    climate: ClimateView
    house: HouseResult
    rooms: list[RoomResult]
    waterline: Waterline
    curve: Curve
    machine: MachineResult
    season: SeasonResult
    hot_water: HotWaterResult
    separation: Separated
    outdoor_pipes: OutdoorPipes
    pipework: Pipework
    volume: Volume
    vessel: VesselFound
    findings: list[Finding]
    next: NextWork
    asked: list[Asked]
    first_guess: FirstGuess
    walls: list[WallVerdict]
    places: PlacesResult
    cautions: dict[str, list[Caution]]
    schools: dict[str, str]


def composed(
    job: Job,
    house: HouseView,
    total: HouseResult,
    rooms: list[RoomResult],
    waterline: WaterlineArrays,
    curve: Curve,
    machine: tuple[MachineResult, SeasonResult],
    hot_water: HotWaterResult,
    separated: Separated,
    outdoor_pipes: OutdoorPipes,
    pipework: Pipework,
    volume: Volume,
    vessel: VesselFound,
    first_guess: FirstGuess,
    walls: list[WallVerdict],
    places: PlacesResult,
    findings: Findings,
    kept: Kept,
) -> Design:
    """The Design of what the concepts found."""
    machines, season = machine
    line = waterline.result
    chosen = chosen_of(machines)
    ranked = findings.ranked()
    machine_name = house.machine.label if house.machine is not None else ""
    return Design(
        engine=ENGINE_VERSION,
        scheme=job.active_scheme,
        scheme_label=house.scheme.label if house.scheme else "As found",
        headline=headline.figures(total, rooms, line, chosen, season, pipework, volume),
        sentences={
            "call": first_guess.sentence,
            "walk-round": survey_say.walk_round(walls),
            "plan": losses_say.plan(rooms, house.layout.meetings),
            "site": losses_say.site(total),
            "rooms": losses_say.rooms(total, rooms),
            "climate": house_say.climate(house),
            "constructions": losses_say.constructions(total),
            "losses": losses_say.losses(total, rooms),
            "air": losses_say.air(total),
            "report": losses_say.report(total),
            "emitters": waterline_say.emitters(rooms, line),
            "waterline": waterline_say.waterline(line, rooms),
            "machine": machine_say.machine(machines, season),
            "hot-water": hot_water_say.hot_water(hot_water),
            "pipework": hydraulics_say.pipework(pipework, volume),
            "plant": hydraulics_say.plant(house, separated, hot_water),
            "materials": hydraulics_say.materials(house, pipework),
            "curve": curve_say.curve(curve, rooms),
            "twin": curve_say.twin(curve, house.machine is not None),
            "correction": curve_say.correction(curve, house.machine is not None),
            "fire-up": curve_say.fire_up(curve, machine_name),
            "wiring": curve_say.wiring(len(curve.circuits), separated.two, machine_name),
            "practice": curve_say.practice(len(rooms), sum(len(room.emitters) for room in rooms), machine_name),
        },
        climate=kept.of(
            "climate shown",
            (job.climate, job.site, house.climate, house.outdoor_c, entries(job.library.climates)),
            lambda: climate.shown(job, house.climate, house.outdoor_c),
        ),
        house=total,
        rooms=rooms,
        waterline=line,
        curve=curve,
        machine=machines,
        season=season,
        hot_water=hot_water,
        separation=separated,
        outdoor_pipes=outdoor_pipes,
        pipework=pipework,
        volume=volume,
        vessel=vessel,
        findings=ranked,
        next=next_work(total, rooms, line, machines, chosen, hot_water, pipework, ranked),
        asked=kept.of("asked", (job.site, job.survey.household), lambda: asked(job)),
        first_guess=first_guess,
        walls=walls,
        places=places,
        cautions=step_cautions.by_step(),
        schools=schools(house),
    )
