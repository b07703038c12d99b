"""The chain: its steps in working order, and nothing else."""

from __future__ import annotations

from cinder.design import air, curve, emitters, hot_water, losses, machine, outdoor_pipes, separation, waterline
from cinder.design.curve import show as curve_shown
from cinder.design.fabric import below_ground
from cinder.design.house import copies, view
from cinder.design.hydraulics import pipes, vessel, volume
from cinder.design.kept import entries
from cinder.design.losses import total
from cinder.design.machine import place
from cinder.design.result import composed
from cinder.design.step import Section, Step
from cinder.design.survey import first_guess, signs, words
from cinder.design.waterline import rooms

OPENING = (
    Step("house", ("job",), view),
    Step("fabric", ("house",), below_ground.of_house),
    Step("tightness", ("house",), air.tightness),
    Step("losses", ("house", "fabric", "tightness"), losses.assemble),
    Step(
        "design_day", ("house", "losses"), losses.on_design_day, kept_by=lambda house, arrays: (house.outdoor_c, arrays)
    ),
    Step("emitters", ("house",), emitters.arrays),
    Step(
        "performance",
        ("house",),
        machine.performance,
        kept_by=lambda house: (house.machine, machine.standing_of(house)),
    ),
    Step("waterline", ("house", "losses", "design_day", "emitters"), waterline.judge),
)
"""From the job to the water it needs."""

NEED = Step(
    "need", ("house", "losses", "emitters", "waterline"), curve.judge,
    Section("curve", "The weather curve", curve.nothing), kept_by=curve.looks_at,
)  # fmt: skip
HOT_WATER = Step(
    "hot_water",
    ("house", "performance"),
    hot_water.judge,
    Section("hot-water", "Hot water", hot_water.nothing),
    kept_by=hot_water.looks_at,
)
SEPARATED = Step(
    "separated", ("house", "losses", "design_day", "emitters", "waterline"), separation.judge,
    Section("pipework", "What lies between machine and emitters", separation.nothing), kept_by=separation.looks_at,
)  # fmt: skip
OUTDOOR_PIPES = Step(
    "outdoor_pipes", ("house", "waterline"), outdoor_pipes.judge,
    Section("pipework", "What pipes lose outdoors", outdoor_pipes.nothing), kept_by=outdoor_pipes.looks_at,
)  # fmt: skip
LOAD = (
    "house", "losses", "design_day", "need", "emitters", "waterline", "hot_water", "separated", "outdoor_pipes",
)  # fmt: skip

SEASON = (
    *OPENING,
    NEED,
    HOT_WATER,
    SEPARATED,
    OUTDOOR_PIPES,
    Step("season", LOAD, machine.season_of, Section("machine", "The season", machine.no_season)),
)
"""As far as water and season, without what is only shown: what a set of changes is tried by."""

CHAIN = (
    *OPENING,
    Step("air", ("house", "losses"), total.air_compared),
    Step("rooms", ("house", "losses", "design_day", "emitters", "waterline", "air"), rooms.results),
    Step("total", ("house", "losses", "design_day", "air"), total.total),
    NEED,
    SEPARATED,
    Step(
        "curve", ("house", "losses", "waterline", "performance", "emitters", "separated", "need"), curve_shown.show,
        Section("curve", "The weather curve", curve_shown.nothing), kept_by=curve_shown.looks_at,
    ),
    HOT_WATER,
    OUTDOOR_PIPES,
    Step(
        "machine", LOAD, machine.judge, Section("machine", "The machine and its season", machine.nothing),
        kept_by=machine.looks_at,
    ),
    Step(
        "pipework", ("house", "emitters", "rooms", "waterline", "separated"), pipes.judge,
        Section("pipework", "The pipework", pipes.nothing), kept_by=pipes.looks_at,
    ),
    Step(
        "volume", ("house", "emitters", "pipework", "machine", "separated"), volume.judge,
        Section("pipework", "The water that stays open", volume.nothing),
    ),
    Step(
        "vessel", ("house", "volume", "curve", "hot_water"), vessel.judge,
        Section("pipework", "The expansion vessel", vessel.nothing), kept_by=vessel.looks_at,
    ),
    Step(
        "places", ("house",), place.judge, Section("machine", "The places for a unit", place.nothing),
        kept_by=place.looks_at,
    ),
    Step("words", ("house",), words.judge, kept_by=words.looks_at),
    Step("copies", ("job",), copies.judge, kept_by=copies.looks_at),
    Step("first_guess", ("job",), first_guess.judge, kept_by=first_guess.looks_at),
    Step("walls", ("job",), signs.judge, kept_by=lambda job: entries(job.survey.parts)),
    Step(
        "design", (
            "job", "house", "total", "rooms", "waterline", "curve", "machine", "hot_water", "separated", "outdoor_pipes", "pipework",
            "volume", "vessel", "first_guess", "walls", "places",
        ), composed,
    ),
)  # fmt: skip
"""The whole Design."""
