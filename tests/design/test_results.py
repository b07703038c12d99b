"""Results are made unchecked, for speed: here every kind of result the product gives is held against its own types."""

import pytest
from pydantic import BaseModel, ValidationError

from cinder.design import Design, design, effect, year
from cinder.design.apart import bills as bill_check
from cinder.design.apart import (
    controllers,
    doubts,
    flows,
    materials,
    measures,
    plant,
    protecting,
    routing,
    separating,
    water_day,
    ways,
)
from cinder.design.apart.compare import side_by_side
from cinder.design.apart.doubts import gaps as survey_gaps
from cinder.design.emitters import heated
from cinder.design.emitters.quick_rule import quick_rule
from cinder.design.fabric.section import section
from cinder.design.survey import first_guess
from cinder.errors import CinderError
from cinder.library import load, shipped_year
from cinder.model import Heated, parse
from cinder.twin import absences, room_control, scenarios
from tests.conftest import HOUSES, house, oat_store, tansy_cut

LIBRARY = load()
HOUSE = {path.stem: path.stem for path in sorted(HOUSES.glob("*.toml"))}
EVERY = ["tansy-cut", "oat-store", *HOUSE]
SLOW = {"sixty-rooms", "one-room"}  # their fronts take ten seconds and more


def document(name):
    return {"tansy-cut": tansy_cut, "oat-store": oat_store}.get(name, lambda: house(name))()


def is_what_it_says(result):
    """The whole tree, strictly: a number where a number belongs, words from their list, nothing beside."""
    kind = type(result)
    dumped = result.model_dump()
    again = kind.model_validate(dumped, strict=True)
    assert again.model_dump() == dumped


def weather_of(job):
    climate = job.library.climates.get(job.climate.entry or "")
    return shipped_year(climate.data.year_sha256) if climate and climate.data.year_sha256 else None


@pytest.mark.parametrize("name", EVERY)
def test_the_design_and_what_an_edit_did(name):
    plain = document(name)
    job = parse(plain)
    result = design(job)
    is_what_it_says(result)
    first = next(iter(plain["survey"]["rooms"].values()))
    first["height_m"] = 2.9
    is_what_it_says(effect(result, design(parse(plain))))


@pytest.mark.parametrize("name", EVERY)
def test_what_is_asked_for_apart(name):
    job = parse(document(name))
    result = design(job)
    weather = weather_of(job)
    found = doubts.judge(job)
    is_what_it_says(found)
    is_what_it_says(survey_gaps.leaving(job, doubts=found))
    is_what_it_says(first_guess.judge(job))
    is_what_it_says(year.judge(job, result, weather))
    is_what_it_says(year.judge(job, result, None))
    is_what_it_says(bill_check.judge(job, result, weather))
    is_what_it_says(side_by_side(job))
    is_what_it_says(water_day.judge(job, result))
    is_what_it_says(flows.judge(job, result))
    is_what_it_says(separating.judge(job, result, LIBRARY.plant_parts))
    is_what_it_says(protecting.judge(job, result, LIBRARY.plant_parts))
    is_what_it_says(controllers.judge(job, result, loss_range=(0.9, 1.1)))
    is_what_it_says(plant.judge(job, result, LIBRARY.plant_parts))
    is_what_it_says(materials.judge(job, result, LIBRARY.plant_parts))
    is_what_it_says(routing.judge(job, result))


@pytest.mark.parametrize("name", [name for name in EVERY if name not in SLOW])
def test_measures_and_the_ways_to_cooler_water(name):
    job = parse(document(name))
    try:
        is_what_it_says(measures.judge(job, table=LIBRARY.measures))
        found = ways.options_of(job, LIBRARY.emitter_prices, LIBRARY.measures)
    except CinderError:
        assert name == "oat-store" or job.active_scheme is None
        return
    is_what_it_says(ways.front_of(found))
    is_what_it_says(ways.holding(found))
    for room in list(job.survey.rooms)[:3]:
        is_what_it_says(ways.of_room(found, room))


def test_sections_floors_and_the_quick_rule():
    for entry in list(LIBRARY.constructions.values())[:60]:
        if entry.layers:
            is_what_it_says(section(entry, inside_c=20.0, outside_c=-5.0))
    laid = Heated(area_m2=12.0, spacing_m=0.15, cover_m=0.045, supply_m=4.0)
    looked = heated.preview(laid, wall=False, room_c=20.0, flow_c=35.0, spread_k=5.0, school="standard", need_w=700.0)
    is_what_it_says(looked)
    is_what_it_says(quick_rule(mean_c=45.0, room_c=20.0, load_w=900.0, height_m=0.6))


def test_a_result_of_the_wrong_kind_is_seen():
    dumped = design(parse(house("one-room"))).model_dump()
    with pytest.raises(ValidationError):
        Design.model_validate(dumped | {"engine": 3}, strict=True)
    with pytest.raises(ValidationError):
        Design.model_validate(dumped | {"rooms": [dumped["rooms"][0] | {"status": "fine"}]}, strict=True)
    assert issubclass(Design, BaseModel)


@pytest.mark.parametrize("name", ["tansy-cut", "oat-store"])
def test_the_house_in_time(name):
    job = parse(document(name))
    found = scenarios.judge(job, weather_of(job))
    is_what_it_says(found)
    is_what_it_says(room_control.judge(job, found, absences.judge(job)))
    is_what_it_says(scenarios.week_of(job, weather_of(job), week="mild"))
