"""Water against steam-table values (IAPWS, from memory)."""

import pytest

from cinder.physics.flow import water


@pytest.mark.parametrize(
    ("t", "rho", "cp", "mu"),
    [
        (0.01, 999.8, 4219.9, 1.7911e-3),
        (10, 999.7, 4195.5, 1.3059e-3),
        (20, 998.2, 4184.4, 1.0016e-3),
        (40, 992.2, 4179.6, 0.6530e-3),
        (60, 983.2, 4185.1, 0.4660e-3),
        (80, 971.8, 4196.9, 0.3540e-3),
        (99, 959.1, 4214.7, 0.2847e-3),
    ],
)
def test_table(t, rho, cp, mu):
    assert water.density_kg_m3(temperature_c=t) == pytest.approx(rho, abs=0.05)
    assert water.specific_heat_j_kgk(temperature_c=t) == pytest.approx(cp, rel=2e-4)
    assert water.viscosity_pa_s(temperature_c=t) == pytest.approx(mu, rel=3e-3)


def test_one_kilowatt_at_five_kelvin():
    """About 172 L/h (common practice, with rho c of 1.163 Wh/LK)."""
    assert water.flow_for_heat_lph(heat_w=1000.0, spread_k=5.0, temperature_c=20.0) == pytest.approx(172.0, rel=0.005)
