"""The other system of units: its factors against SciPy's constants (CODATA and NIST), its text against a hand's own."""

import json
from pathlib import Path

import pytest
from scipy import constants as c

from cinder.model import imperial

TEXTS = json.loads((Path(__file__).parents[1] / "fixtures" / "imperial.json").read_text())
FAHRENHEIT = 1 / c.degree_Fahrenheit
BTU_H = c.hour / c.Btu_IT
FEET = 1 / c.foot
GALLON = c.liter / c.gallon_US
WATER_KG_M3 = 1000.0
"""Of the conventional foot of water (from memory)."""
FACTORS = {
    "°C": FAHRENHEIT, "K": FAHRENHEIT, "W": BTU_H, "kW": 1000 * BTU_H, "W/m²": BTU_H / FEET**2, "W/K": BTU_H / FAHRENHEIT,
    "W/m²K": BTU_H / FEET**2 / FAHRENHEIT, "W/mK": BTU_H / FEET / FAHRENHEIT, "m²K/W": FEET**2 * FAHRENHEIT / BTU_H,
    "m²": FEET**2, "m³": FEET**3, "m³/h": FEET**3 / 60, "L": GALLON, "L/h": GALLON / 60, "L/min": GALLON, "m": FEET,
    "mm": 0.001 / c.inch, "km": 1000 / c.mile, "kg": 1 / c.pound, "bar": c.bar / c.psi,
    "kPa": 1000 / (WATER_KG_M3 * c.g) * FEET, "Wh/L·K": c.hour / c.Btu_IT / GALLON / FAHRENHEIT,
    "Wh/m³K": BTU_H / (FEET**3 / 60) / FAHRENHEIT,
}  # fmt: skip


@pytest.mark.parametrize("unit", FACTORS)
def test_factors(unit):
    assert imperial.UNITS[unit].factor == pytest.approx(FACTORS[unit], rel=2e-5)


def test_known_points():
    # the points every handbook has: water freezes and boils, a ton of air conditioning, R-11 loft wool (common practice)
    assert imperial.shown(0, "°C") == 32
    assert imperial.shown(100, "°C") == pytest.approx(212)
    assert imperial.shown(3.517, "kW") == pytest.approx(12_000, rel=2e-4)
    assert imperial.shown(1.94, "m²K/W") == pytest.approx(11, rel=5e-3)
    assert imperial.shown(2.98907, "kPa") == pytest.approx(1)
    assert imperial.shown(1, "bar") == pytest.approx(14.5038, rel=1e-5)


@pytest.mark.parametrize(("text", "expected"), TEXTS)
def test_text(text, expected):
    assert imperial.told(text) == expected


def test_a_text_without_figures_stays():
    assert imperial.told("Bedroom 2: wall 3, n50 5.0, U-value") == "Bedroom 2: wall 3, n50 5.0, U-value"
