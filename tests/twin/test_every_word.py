"""Every word a scheme may say of what lies between, of controllers, of what is in the water and beside the machine: the house runs on it."""

import copy

import numpy as np
import pytest

from cinder.library import load, shipped_year
from cinder.model import parse
from cinder.twin import loop
from cinder.twin.of_job import twin_of, weather_of
from tests.conftest import tansy_cut

YEAR = shipped_year(load().climates["mild-maritime"].year_sha256)
BETWEEN = [
    {"kind": kind} | more
    for kind in ("header", "buffer 2", "buffer 3", "buffer 4")
    for more in ({}, {"machine_lph": 400.0})
]
BETWEEN += [{"kind": "buffer 4", "buffer_l": litres, "machine_lph": 3500.0} for litres in (5.0, 1000.0)]
SAID = {
    "separation": BETWEEN,
    "control": [{"kind": kind} for kind in ("slope", "numbered", "offset", "fixed")] + [{"room": {"in_charge": "thermostat"}}],
    "protection": [{"kind": "glycol", "glycol": glycol, "glycol_share": 0.6} for glycol in ("propylene", "ethylene")],
}  # fmt: skip
BESIDE = [{"kind": kind, "hot_water": kind == "boiler"} for kind in ("boiler", "new boiler", "stove", "none")]


def week(document):
    """A cold week, its first days left out: the house, what the rooms were, and what came of the energy."""
    twin = twin_of(parse(document))
    weather = weather_of(twin, YEAR, first_hour=24 * 20, hours=24 * 8, step_s=300.0)
    begun = loop.start(twin.house, outdoor_c=float(weather.outdoor_c[0]))
    series, end, sums = loop.run(twin.house, weather, begun)
    water = twin.house.emitters.water_j_k @ (end.emitter_c - begun.emitter_c)
    water += twin.house.machine.water_j_k * (end.plain - begun.plain)[loop.SUPPLY]
    water += twin.house.buffer.water_j_k * (end.plain - begun.plain)[loop.VESSEL]
    brought = sums["heat"] - sums["defrost"] + sums["gains"] + sums["heaters"]
    return twin, series, brought, sums["loss"] + sums["down"] + sums["held"] + water


@pytest.mark.parametrize(("name", "said"), [(name, said) for name, every in SAID.items() for said in every], ids=str)
def test_a_house_laid_out_in_every_way_there_is_a_word_for(name, said):
    document = copy.deepcopy(tansy_cut())
    scheme = document["schemes"][document["active_scheme"]]
    scheme[name] = (scheme.get(name) or {}) | said
    _, series, brought, kept = week(document)
    assert all(
        np.isfinite(of).all()
        for of in (series.room_c, series.supply_c, series.return_c, series.flow_w_k, series.electric_w)
    )
    assert brought == pytest.approx(kept, rel=0.01)
    late = series.room_c[len(series.room_c) // 2 :]
    assert 14.0 < late.mean() < 26.0
    assert late.min() > 10.0
    assert late.max() < 32.0


@pytest.mark.parametrize("beside", BESIDE, ids=str)
def test_with_everything_that_may_stand_beside_it(beside):
    document = copy.deepcopy(tansy_cut())
    scheme = document["schemes"][document["active_scheme"]]
    scheme["candidates"][scheme["chosen"]]["backup"] = beside
    _, series, brought, kept = week(document)
    assert np.isfinite(series.room_c).all()
    assert brought == pytest.approx(kept, rel=0.01)
    assert 18.0 < series.room_c[len(series.room_c) // 2 :].mean() < 26.0
