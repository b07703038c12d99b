"""Glycol in water against CoolProp: its ASHRAE set by volume at temperatures and shares no table row has, and its other set by mass."""

from __future__ import annotations

import numpy as np
import pytest
from CoolProp.CoolProp import PropsSI

from cinder.design.house.water import mixed, table
from cinder.errors import PhysicsError
from cinder.physics.flow import fluid, separation, water
from cinder.physics.flow.fluid import PLAIN

SETS = {"propylene": ("APG", "MPG", 1036.0), "ethylene": ("AEG", "MEG", 1113.0)}
"""CoolProp's set by volume, its other one by mass, and the density of the pure glycol at 20 deg C, kg/m3 (from memory)."""
ZERO = 273.15


@pytest.mark.parametrize("glycol", SETS)
@pytest.mark.parametrize("share", [0.12, 0.25, 0.33, 0.47])
@pytest.mark.parametrize("celsius", [12.0, 38.0, 47.5, 61.0])
def test_the_table_gives_what_coolprop_gives_between_its_rows(glycol, share, celsius):
    mine, name = mixed(glycol, share), f"INCOMP::{SETS[glycol][0]}[{share}]"
    theirs = [PropsSI(what, "T", celsius + ZERO, "P", 2e5, name) for what in ("D", "C", "V")]
    assert float(mine.density_kg_m3(temperature_c=celsius)) == pytest.approx(theirs[0], rel=3e-4)
    assert float(mine.specific_heat_j_kgk(temperature_c=celsius)) == pytest.approx(theirs[1], rel=2e-3)
    assert float(mine.viscosity_pa_s(temperature_c=celsius)) == pytest.approx(theirs[2], rel=0.015)
    assert mine.freezes_c == pytest.approx(PropsSI("T_freeze", "T", 300, "P", 2e5, name) - ZERO, abs=0.15)


@pytest.mark.parametrize("glycol", SETS)
def test_the_other_published_set_lies_as_far_off_as_is_said(glycol):
    """By mass, from its own measurements: density and heat within 2 %, cold viscosity up to 18 % (ethylene)."""
    _, other, pure = SETS[glycol]
    share, celsius = 0.25, 10.0
    mass = share * pure / (share * pure + (1 - share) * 999.0)
    mine, name = mixed(glycol, share), f"INCOMP::{other}[{mass}]"
    theirs = [PropsSI(what, "T", celsius + ZERO, "P", 2e5, name) for what in ("D", "C", "V")]
    assert float(mine.density_kg_m3(temperature_c=celsius)) == pytest.approx(theirs[0], rel=0.02)
    assert float(mine.specific_heat_j_kgk(temperature_c=celsius)) == pytest.approx(theirs[1], rel=0.03)
    assert float(mine.viscosity_pa_s(temperature_c=celsius)) == pytest.approx(theirs[2], rel=0.2)


def test_water_without_glycol_is_the_water_of_every_other_figure():
    assert mixed("propylene", 0.0) is PLAIN
    at = np.array([10.0, 40.0, 70.0])
    assert np.array_equal(PLAIN.density_kg_m3(temperature_c=at), water.density_kg_m3(temperature_c=at))
    for n, celsius in enumerate((10.0, 40.0, 70.0)):
        row = table("propylene")
        k = int(np.searchsorted(row.temperature_c, celsius))
        assert row.density_kg_m3[0, k] == pytest.approx(float(water.density_kg_m3(temperature_c=at)[n]), rel=3e-4)
        assert row.viscosity_pa_s[0, k] == pytest.approx(float(water.viscosity_pa_s(temperature_c=at)[n]), rel=0.01)


def test_a_quarter_of_glycol_as_the_practice_has_it():
    """25 % by volume: about -12 deg C for ethylene, -10 for propylene; at 40 deg C c 3.75-3.9 and about 3.95 kJ/kgK, density 1 020-1 030
    and about 1 010 (handbook; common practice says -10 for either)."""
    ethylene, propylene = mixed("ethylene", 0.25), mixed("propylene", 0.25)
    assert ethylene.freezes_c == pytest.approx(-12, abs=0.5)
    assert propylene.freezes_c == pytest.approx(-10, abs=0.5)
    assert 3750 <= float(ethylene.specific_heat_j_kgk(temperature_c=40.0)) <= 3900
    assert float(propylene.specific_heat_j_kgk(temperature_c=40.0)) == pytest.approx(3950, rel=0.01)
    assert 1020 <= float(ethylene.density_kg_m3(temperature_c=40.0)) <= 1030
    assert float(propylene.density_kg_m3(temperature_c=40.0)) == pytest.approx(1012, abs=4)


@pytest.mark.parametrize("glycol", SETS)
@pytest.mark.parametrize("frost", [-4.0, -10.0, -22.0])
def test_the_share_for_a_frost_freezes_there(glycol, frost):
    share = fluid.share_for(table(glycol), frost)
    assert mixed(glycol, share).freezes_c == pytest.approx(frost, abs=1e-6)


def test_no_share_protects_from_everything_and_none_is_wanted_above_freezing():
    assert fluid.share_for(table("propylene"), -80.0) is None
    assert fluid.share_for(table("propylene"), 2.0) == 0.0
    with pytest.raises(PhysicsError, match=r"between 0 and 0\.6"):
        mixed("propylene", 0.95)


def test_one_kilowatt_at_five_kelvin_is_172_litres_an_hour():
    """Common practice, water at about 20 deg C; with a quarter of glycol some 4 to 7 % more."""
    plain = float(PLAIN.flow_for_heat_lph(heat_w=1000.0, spread_k=5.0, temperature_c=20.0))
    assert plain == pytest.approx(172, abs=1)
    for glycol in SETS:
        more = float(mixed(glycol, 0.25).flow_for_heat_lph(heat_w=1000.0, spread_k=5.0, temperature_c=40.0))
        assert 1.02 < more / float(PLAIN.flow_for_heat_lph(heat_w=1000.0, spread_k=5.0, temperature_c=40.0)) < 1.08


@pytest.mark.parametrize("celsius", [5.0, 20.0, 38.0, 55.0, 80.0])
def test_plain_water_against_the_steam_tables_equation(celsius):
    """CoolProp's water is IAPWS-95: density within 0.03 %, heat 0.2 %, viscosity 0.7 %."""
    theirs = [PropsSI(what, "T", celsius + ZERO, "P", 2e5, "Water") for what in ("D", "C", "V")]
    assert float(water.density_kg_m3(temperature_c=celsius)) == pytest.approx(theirs[0], rel=3e-4)
    assert float(water.specific_heat_j_kgk(temperature_c=celsius)) == pytest.approx(theirs[1], rel=2e-3)
    assert float(water.viscosity_pa_s(temperature_c=celsius)) == pytest.approx(theirs[2], rel=7e-3)


def test_seven_kilowatts_want_some_1200_litres_an_hour():
    """Common practice, at 5 K."""
    assert float(PLAIN.flow_for_heat_lph(heat_w=7000.0, spread_k=5.0, temperature_c=30.0)) == pytest.approx(
        1200, rel=0.02
    )


class TestSeparation:
    """Mixing by hand."""

    def test_the_supply_is_thinned_with_return(self):
        # 600 L/h at 45 and 400 L/h at 35 make 1 000 L/h at 41
        got = separation.supply_c(machine_c=45.0, return_c=35.0, machine_lph=600.0, emitters_lph=1000.0)
        assert got == pytest.approx((600 * 45 + 400 * 35) / 1000)

    def test_the_lift_brings_the_emitters_what_they_ask_for(self):
        """Machine water hotter by the lift, thinned by the mixing law, is what the emitters wanted: two routes to one number."""
        heat, machine, emitters, flow_c = 6000.0, 700.0, 1300.0, 45.0
        back = flow_c - heat / separation.carried_w_k(flow_lph=emitters, fluid=PLAIN)
        lift = separation.lift_k(heat_w=heat, machine_lph=machine, emitters_lph=emitters, stirred=0.0, fluid=PLAIN)
        got = separation.supply_c(machine_c=flow_c + lift, return_c=back, machine_lph=machine, emitters_lph=emitters)
        assert got == pytest.approx(flow_c, abs=1e-9)

    def test_equal_flows_in_layers_cost_nothing_and_stirred_the_machines_spread(self):
        layers = separation.lift_k(heat_w=6000.0, machine_lph=1000.0, emitters_lph=1000.0, stirred=0.0, fluid=PLAIN)
        stirred = separation.lift_k(heat_w=6000.0, machine_lph=1000.0, emitters_lph=1000.0, stirred=1.0, fluid=PLAIN)
        assert layers == 0.0
        assert stirred == pytest.approx(6000.0 / separation.carried_w_k(flow_lph=1000.0, fluid=PLAIN))

    def test_stirred_through_is_never_better_than_layers(self):
        for emitters in (500.0, 1000.0, 2000.0, 9000.0):
            layers, stirred = (
                separation.lift_k(heat_w=6000.0, machine_lph=1000.0, emitters_lph=emitters, stirred=s, fluid=PLAIN)
                for s in (0.0, 1.0)
            )
            assert layers <= stirred

    def test_water_for_a_defrost(self):
        """rho c V dT = E: 100 L that fall by 5 K give 0.577 kWh."""
        energy = 100 * 0.9922 * 4180 * 5
        assert separation.litres_for(energy_j=energy, drop_k=5.0, fluid=PLAIN) == pytest.approx(100, rel=1e-3)

    @pytest.mark.parametrize("bad", [{"stirred": 1.2}, {"machine_lph": 0.0}, {"heat_w": -1.0}])
    def test_what_cannot_be_is_refused(self, bad):
        asked = {"heat_w": 5000.0, "machine_lph": 900.0, "emitters_lph": 900.0, "stirred": 0.1, "fluid": PLAIN} | bad
        with pytest.raises(PhysicsError):
            separation.lift_k(**asked)
