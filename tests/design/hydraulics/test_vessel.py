"""The heating water's vessel by hand, and under a plan."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from cinder.design import design
from cinder.errors import PhysicsError
from cinder.model import parse
from cinder.physics.flow import expansion
from tests.conftest import tansy_cut


def test_a_vessel_by_the_standard_by_hand():
    # EN 12828 (from memory): 400 L, e 0.0224: 8.96 L; reserve 3 L; relief 3 bar, so 2.5; pre-charge 1.0: (8.96 + 3) 3.5/1.5 = 27.9 L
    found = expansion.vessel(system_l=400.0, share=0.0224, precharge_bar=1.0, relief_bar=3.0)
    assert found.least_l == pytest.approx((400 * 0.0224 + 3.0) * 3.5 / 1.5)
    assert found.greatest_bar == 2.5
    # a small one: 80 L, 1.79 L of growth, a fifth of itself held back: 1.79 x 2.333 / (1 - 0.4667) = 7.84 L
    small = expansion.vessel(system_l=80.0, share=0.0224, precharge_bar=1.0, relief_bar=3.0)
    assert small.least_l == pytest.approx(80 * 0.0224 * (3.5 / 1.5) / (1 - 0.2 * 3.5 / 1.5))
    assert small.reserve_l == pytest.approx(0.2 * small.least_l)


def test_water_grows_as_the_steam_tables_say():
    # 999.70 at 10, 977.76 at 70, 983.20 at 60 deg C (steam tables, from memory)
    assert expansion.growth(cold_c=10, hot_c=70) == pytest.approx(999.70 / 977.76 - 1, rel=5e-3)
    assert expansion.growth(cold_c=10, hot_c=60) == pytest.approx(999.70 / 983.20 - 1, rel=5e-3)


@given(st.floats(20, 2000), st.floats(0.005, 0.045), st.floats(0.3, 1.8), st.floats(2.5, 6.0))
def test_the_least_vessel_goes_to_the_greatest_pressure_and_no_further(
    system: float, share: float, charge: float, relief: float
):
    """Two routes: the standard's formula, and Boyle's law from the filling to the hottest water."""
    if charge >= expansion.greatest_bar(relief_bar=relief) - 0.1:
        return
    found = expansion.vessel(system_l=system, share=share, precharge_bar=charge, relief_bar=relief)
    hot = expansion.reached_bar(vessel_l=found.least_l, taken_l=found.reserve_l + found.grows_l, precharge_bar=charge)
    assert hot == pytest.approx(found.greatest_bar, abs=1e-6)
    cold = expansion.fill_bar(vessel_l=found.least_l, reserve_l=found.reserve_l, precharge_bar=charge)
    assert charge < cold < hot + 1e-9


def test_refusals_name_what_is_wrong():
    with pytest.raises(PhysicsError, match="precharge_bar"):
        expansion.vessel(system_l=100.0, share=0.02, precharge_bar=2.6, relief_bar=3.0)
    with pytest.raises(PhysicsError, match="reserve_l"):
        expansion.fill_bar(vessel_l=3.0, reserve_l=3.0, precharge_bar=1.0)
    with pytest.raises(PhysicsError, match="hot_c"):
        expansion.growth(cold_c=60.0, hot_c=10.0)
    assert math.isinf(expansion.reached_bar(vessel_l=5.0, taken_l=6.0, precharge_bar=1.0))
    assert expansion.greatest_bar(relief_bar=10.0) == 9.0


def test_the_vessel_of_the_lock_keepers_house():
    """The highest emitter hangs on the upper floor; all of the water counts, behind valves too; the relief is the machine's."""
    shown = design(parse(tansy_cut()))
    found = shown.vessel
    assert found.system_l == pytest.approx(shown.volume.open_l + shown.volume.closed_l)
    upper = max(room.bottom_m for room in shown.rooms if room.emitters)
    assert found.static_m == pytest.approx(
        upper - min(0.0, *(room.bottom_m for room in shown.rooms if room.emitters)) + 1.0
    )
    assert found.precharge_bar == pytest.approx(found.static_m * 0.0980665 + 0.3)
    assert (found.relief_bar, found.relief_from) == (2.5, "in the machine")
    assert found.hot_bar == pytest.approx(found.greatest_bar)
    document = tansy_cut()
    document["schemes"]["lukewarm"]["vessel"] = {"volume_l": 5.0}
    small = design(parse(document))
    assert small.vessel.verdict == "small"
    assert any("expansion vessel" in finding.what for finding in small.findings)
    document["schemes"]["lukewarm"]["vessel"] = {"volume_l": 18.0, "precharge_bar": 0.3, "relief_bar": 3.0}
    larger = design(parse(document))
    assert larger.vessel.verdict == "meets"
    assert any("pre-charge of 0.3 bar" in finding.what for finding in larger.findings)
    document["schemes"]["lukewarm"]["vessel"] = {"volume_l": 18.0, "precharge_bar": 2.9}
    none = design(parse(document))
    assert none.vessel.least_l is None
    assert any("no room under a relief" in finding.what for finding in none.findings)
