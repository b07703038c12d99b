"""U-values by ISO 6946 (from memory): a case by hand, and two-dimensional conduction as the independent route."""

import math
from itertools import pairwise

import numpy as np
import pytest

from cinder.design.fabric.section import section
from cinder.design.fabric.u_values import Transmittances
from cinder.library import ConstructionEntry, layer_of, load
from cinder.physics.losses import fabric
from tests.outside.conduction import Field, graded, rectangle, where

MATERIALS = load().materials


def entry(*layers, element="wall", **more):
    return ConstructionEntry.model_validate(
        {"id": "test", "label": "Test", "element": element, "source": "test",
         "layers": [layer_of(text, MATERIALS) if isinstance(text, str) else text for text in layers], **more}, strict=False,
    )  # fmt: skip


def u_of(*layers, element="wall", **more):
    return Transmittances({"test": entry(*layers, element=element, **more)}).u("test")


def conducted(layers, *, share, spacing=0.6, rsi=0.13, rse=0.04):
    """U of a wall with studs by finite elements: `layers` of (thickness, lambda, lambda of the stud there)."""
    edges = np.concatenate([[0.0], np.cumsum([d for d, _, _ in layers])])
    x = np.unique(np.round(np.concatenate([np.linspace(a, b, 14) for a, b in pairwise(edges)]), 9))
    stud = spacing * share
    y = graded((0, stud / 2, 14, 1.0), (stud / 2, spacing / 2, 40, 1.03))
    mesh = rectangle(x, y)

    def conductivity(px, py):
        n = np.searchsorted(edges, px) - 1
        plain, crossing = np.array([k for _, k, _ in layers])[n], np.array([c for _, _, c in layers])[n]
        return np.where(py < stud / 2, crossing, plain)

    field = Field(
        mesh, conductivity,
        {"in": (where(mesh, lambda px, py: px < 1e-9), 1 / rsi, 1.0),
         "out": (where(mesh, lambda px, py: px > edges[-1] - 1e-9), 1 / rse, 0.0)},
    )  # fmt: skip
    return field.heat_w_m("in") / (spacing / 2)


@pytest.mark.parametrize("share", [0.06, 0.10, 0.14])
def test_timber_studs_lie_between_the_limits_and_near_their_mean(share):
    """Plasterboard, wool between timber studs, boards: the solved field lies between both limits; the mean is 3 % off."""
    layers = [(0.0125, 0.21, 0.21), (0.14, 0.040, 0.13), (0.018, 0.13, 0.13)]
    truth = 1 / conducted(layers, share=share)
    worked = fabric.transmittance(
        [fabric.homogeneous_layer(thickness_m=0.0125, lambda_w_mk=0.21),
         fabric.bridged_layer(thickness_m=0.14, lambda_w_mk=0.040, bridge_lambda_w_mk=0.13, share=share),
         fabric.homogeneous_layer(thickness_m=0.018, lambda_w_mk=0.13)], rsi=0.13, rse=0.04,
    )  # fmt: skip
    assert worked.r_lower - 1e-9 < truth < worked.r_upper + 1e-9
    assert worked.r_total == pytest.approx(truth, rel=0.03)


def test_a_metal_stud_is_far_outside_the_method():
    """Sheet steel of 1 mm in 500: the combined method says one thing, conduction another, and the tool says so."""
    truth = conducted([(0.0125, 0.21, 0.21), (0.09, 0.040, 50.0), (0.0125, 0.21, 0.21)], share=0.002, spacing=0.5)
    steel = entry("plasterboard 12.5", "mineral-wool 90 / steel 0.2%", "plasterboard 12.5")
    worked = Transmittances({"test": steel}).detail("test")
    assert abs(worked.u_w_m2k / truth - 1) > 0.05
    said = section(steel, inside_c=20.0, outside_c=0.0).warnings
    assert any("metal" in text and "not valid" in text for text in said)


def test_cavity_wall_of_100_by_hand():
    """ISO 6946 from memory. 0.13 + 0.013/0.57 + 0.1/0.15 + 0.1/0.035 + 0.1025/0.77 + 0.04
    = 0.13 + 0.0228 + 0.6667 + 2.8571 + 0.1331 + 0.04 = 3.8497 -> 0.2598."""
    u = u_of("plaster 13", "block-aerated 100", "mineral-wool-dense 100", "brick 102.5")
    assert u == pytest.approx(0.2598, abs=2e-4)


# ISO 6946:2017 table 8 (from memory): still air across, up, down, m2K/W, by thickness in mm.
STILL_AIR = {
    5: (0.11, 0.11, 0.11),
    10: (0.15, 0.15, 0.15),
    15: (0.17, 0.16, 0.17),
    25: (0.18, 0.16, 0.19),
    50: (0.18, 0.16, 0.21),
}


@pytest.mark.parametrize(("mm", "wanted"), STILL_AIR.items())
def test_air_layers_against_the_table(mm, wanted):
    for flow, r in zip(("across", "up", "down"), wanted, strict=True):
        assert fabric.air_layer_resistance(thickness_m=mm / 1000, flow=flow) == pytest.approx(r, abs=0.011)


def test_a_bright_face_doubles_a_wide_gap():
    """One face of emissivity 0.05: h_r = 5.148 / (1/0.05 + 1/0.9 - 1) = 0.256; across 50 mm h_a = 1.25 -> 0.664."""
    r = fabric.air_layer_resistance(thickness_m=0.05, flow="across", emissivity=0.05)
    assert r == pytest.approx(0.664, abs=0.004)


def test_a_slightly_ventilated_gap_counts_half_and_an_open_one_ends_the_wall():
    gap = fabric.air_layer_resistance(thickness_m=0.04, flow="across")
    brick, wool = 0.1025 / 0.77, 0.1 / 0.035
    shut = u_of("mineral-wool-dense 100", "gap 40", "brick 102.5")
    slight = u_of("mineral-wool-dense 100", "gap 40 slight", "brick 102.5")
    away = u_of("mineral-wool-dense 100", "gap 40 open", "brick 102.5")
    assert 1 / shut == pytest.approx(0.13 + wool + gap + brick + 0.04, abs=1e-6)
    assert 1 / slight == pytest.approx(0.13 + wool + gap / 2 + brick + 0.04, abs=1e-6)
    assert 1 / away == pytest.approx(0.13 + wool + 0.13, abs=1e-6)  # an inside surface in the place of what is outside


def test_temperatures_through_a_wall_against_conduction():
    """The drawn line against the solved field of the same layers."""
    cut = section(entry("plaster 13", "brick 220"), inside_c=20.0, outside_c=-5.0)
    r = np.array([0.13, 0.013 / 0.57, 0.22 / 0.77, 0.04])
    fallen = 20.0 - 25.0 * np.cumsum(r) / r.sum()
    assert cut.temperature_c == pytest.approx(fallen[:3], abs=1e-6)
    assert cut.surface_c == pytest.approx(20.0 - cut.u_w_m2k * 0.13 * 25.0, abs=1e-6)


def magnus(temperature_c, humidity):
    """Dew point by the Magnus formula with Sonntag's 1990 constants (from memory), deg C."""
    g = math.log(humidity) + 17.62 * temperature_c / (243.12 + temperature_c)
    return 243.12 * g / (17.62 - g)


def test_dew_point_and_mould_against_magnus():
    cut = section(entry("plaster 13", "brick 220"), inside_c=20.0, outside_c=-5.0)
    assert cut.dew_point_c == pytest.approx(magnus(20.0, 0.5), abs=0.15)
    assert cut.mould_c == pytest.approx(magnus(20.0, 0.5 / 0.8), abs=0.15)


def test_a_single_pane_runs_with_water_and_an_insulated_wall_does_not():
    single = load().constructions["window-single-wood"]
    assert "below the dew point" in section(single, inside_c=20.0, outside_c=-10.0).sentence
    warm = section(entry("plaster 13", "brick 220", "eps-grey 160", "thin-render 8"), inside_c=20.0, outside_c=-10.0)
    assert "dew point" not in warm.sentence
    assert warm.surface_c > 18.5


def test_condensate_where_diffusion_puts_it():
    """Wool inside of brick, nothing to stop the vapour: by Fick's law the pressure at the cold face of the wool would
    exceed saturation. Board 4 x 0.0125, wool 1 x 0.1, brick 10 x 0.22 m of still air."""
    built = entry("plasterboard 12.5", "mineral-wool 100", "brick 220")
    cut = section(built, inside_c=20.0, outside_c=-10.0)
    sd = np.array([4 * 0.0125, 0.1, 10 * 0.22])
    saturated = 610.94 * np.exp(17.625 * np.array(cut.temperature_c) / (243.04 + np.array(cut.temperature_c)))
    inside, outside = 0.5 * 2339.0, 0.85 * 611.0 * math.exp(22.44 * -10 / (272.44 - 10))
    straight = inside - (inside - outside) * np.concatenate([[0.0], np.cumsum(sd)]) / sd.sum()
    assert straight[2] > saturated[2]  # between wool and brick
    assert 2 in cut.wet
    tight = section(
        entry("plasterboard 12.5", "pir 60", "mineral-wool 40", "brick 220"), inside_c=20.0, outside_c=-10.0
    )
    assert tight.wet == []


def test_a_declared_u_value_stands():
    stated = entry(stated_u_w_m2k=0.31)
    assert Transmittances({"test": stated}).u("test") == 0.31
    assert section(stated, inside_c=20.0, outside_c=0.0).surface_c == pytest.approx(20 - 0.31 * 0.13 * 20)
