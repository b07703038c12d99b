"""Sound of a unit against the closed formula, superposition and a rule of the trade."""

import math

import numpy as np
import pytest

from cinder.physics.machine import sound


@pytest.mark.parametrize(("power", "q", "far"), [(60.0, 2.0, 10.0), (56.0, 4.0, 5.0), (65.0, 8.0, 3.5)])
def test_the_closed_formula(power, q, far):
    """Lp = Lw + 10 log10(Q / (4 pi r2)), by the intensity itself: the power spread over a part of a sphere."""
    watts = 1e-12 * 10 ** (power / 10)
    intensity = watts * q / (4 * math.pi * far**2)
    assert sound.level_db(power_db=power, directivity=q, distance_m=far) == pytest.approx(
        10 * math.log10(intensity / 1e-12)
    )


def test_superposition():
    """Two equal units are 3.01 dB louder than one; ten are 10 dB louder."""
    assert sound.together_db([40.0] * 2) == pytest.approx(43.0103)
    assert sound.together_db([40.0] * 10) == pytest.approx(50.0)
    assert sound.together_db([40.0, sound.room_left_db(most_db=42.0, background_db=40.0)]) == pytest.approx(42.0)


def test_five_metres_with_one_wall_behind():
    """Keeping 5 m from a window with one wall behind and 37 dB(A) only holds up to about 56 to 57 dB(A) (common practice)."""
    most = max(p for p in np.arange(50, 65, 0.1) if sound.level_db(power_db=p, directivity=4.0, distance_m=5.0) <= 37.0)
    assert 55.5 < most < 57.0
    assert sound.level_db(power_db=57.0, directivity=4.0, distance_m=5.9) <= 37.0 + 0.1


def test_how_far_would_pass():
    far = sound.distance_for_m(power_db=62.0, directivity=4.0, most_db=37.0, screened_db=5.0)
    assert sound.level_db(power_db=62.0, directivity=4.0, distance_m=far, screened_db=5.0) == pytest.approx(37.0)
