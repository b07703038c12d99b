"""Thin air: what it carries, and what emitters give to it."""

import math

import pytest

from cinder.physics import altitude

# density, kg/m3, by altitude, m: U.S. Standard Atmosphere 1976, table I (from memory)
STANDARD = {0: 1.2250, 500: 1.1673, 1000: 1.1117, 1500: 1.0581, 2000: 1.0066, 3000: 0.9093}


@pytest.mark.parametrize("metres", STANDARD)
def test_density_is_that_of_the_standard_atmosphere(metres):
    assert altitude.air_density_ratio(metres) == pytest.approx(STANDARD[metres] / STANDARD[0], rel=1e-3)


def test_below_300_m_nothing_is_taken_off():
    assert altitude.noticed_density_ratio(299.9) == altitude.noticed_density_ratio(-400.0) == 1.0
    assert altitude.noticed_density_ratio(300.0) == pytest.approx(0.9715, abs=5e-4)


def nusselt_at_a_wall(rayleigh, prandtl=0.71):
    """Free convection at a vertical plate: Churchill and Chu 1975 (from memory), a law of its own beside the power."""
    return (0.825 + 0.387 * rayleigh ** (1 / 6) / (1 + (0.492 / prandtl) ** (9 / 16)) ** (8 / 27)) ** 2


@pytest.mark.parametrize("metres", [500, 1500, 3000])
@pytest.mark.parametrize(("tall_m", "warmer_k"), [(0.3, 20.0), (0.6, 30.0), (0.9, 50.0)])
def test_what_a_radiator_convects_falls_as_at_a_warm_wall(metres, tall_m, warmer_k):
    """Ra = g beta dT L3 / (nu alpha), and nu and alpha both go with 1 / density."""
    thin = STANDARD[metres] / STANDARD[0]
    rayleigh = 9.81 / 310.0 * warmer_k * tall_m**3 / (16.7e-6 * 23.6e-6)
    wall = nusselt_at_a_wall(rayleigh * thin**2) / nusselt_at_a_wall(rayleigh)
    share = altitude.RADIATOR_RADIANT_SHARE
    assert altitude.radiator_share(thin) == pytest.approx(share + (1 - share) * wall, abs=0.01)


def test_at_sea_level_everything_is_as_rated():
    assert altitude.radiator_share(1.0) == altitude.fan_share(1.0) == 1.0


@pytest.mark.parametrize("units", [0.5, 1.0, 1.5])
@pytest.mark.parametrize("metres", [500, 1500, 3000])
def test_a_fan_unit_gives_as_an_exchanger_with_thinner_air(metres, units):
    """Q ~ C (1 - exp(-NTU)): as many m3 carry C ~ density, and the coil's h ~ Re^0.8 makes NTU ~ density^-0.2."""
    thin = STANDARD[metres] / STANDARD[0]
    exchanger = thin * math.expm1(-units * thin**-0.2) / math.expm1(-units)
    assert altitude.fan_share(thin) == pytest.approx(exchanger, abs=0.035)
