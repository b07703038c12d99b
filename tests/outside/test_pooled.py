"""Houses taken together against `statsmodels`' meta-analysis, and groups drawn to everyone by hand."""

import numpy as np
import pytest
from statsmodels.stats.meta_analysis import combine_effects

from cinder.physics.measured.pooled import Pool, drawn_to, pooled


@pytest.mark.parametrize("seed", range(6))
def test_random_effects_are_those_of_statsmodels(seed):
    rng = np.random.default_rng(seed)
    sds = rng.uniform(0.03, 0.15, 9)
    values = np.log(0.88) + rng.normal(0, 0.12, 9) + rng.normal(0, 1, 9) * sds
    found = pooled(values, sds)
    theirs = combine_effects(values, sds**2, method_re="dl")
    assert found.between**2 == pytest.approx(max(theirs.tau2, 0.0), abs=1e-12)
    assert found.mean == pytest.approx(theirs.mean_effect_re)
    assert found.mean_sd == pytest.approx(theirs.sd_eff_w_re)


def test_the_next_house_lies_where_it_says():
    """P10 to P90 for a house nobody has measured hold it in about eight of ten, from ten houses each time (400 worlds)."""
    rng, hit = np.random.default_rng(8), []
    for _ in range(400):
        mean, between = rng.normal(-0.1, 0.1), rng.uniform(0.05, 0.2)
        sds = rng.uniform(0.03, 0.1, 10)
        found = pooled(mean + rng.normal(0, between, 10) + rng.normal(0, 1, 10) * sds, sds)
        hit.append(abs(mean + rng.normal(0, between) - found.mean) <= 1.2815515655446004 * found.next_sd)
    assert 0.7 <= np.mean(hit) <= 0.86


def test_a_single_house_of_a_kind_is_drawn_to_everyone_and_many_are_not():
    """One house 30 % under, measured to 10 %, houses differing by 10 %: by hand half way between (its variance 0.02 against 0.01 + what
    everyone's mean is off)."""
    everyone = Pool(0.0, 0.0, 0.1, 20)
    one = drawn_to(None, np.array([-0.3]), np.array([0.1]), everyone)
    assert one.mean == pytest.approx(-0.3 * 0.01 / (0.01 + 0.02), rel=1e-6)
    many = drawn_to(None, np.full(40, -0.3), np.full(40, 0.1), everyone)
    assert many.mean == pytest.approx(-0.3, abs=0.02)
    assert pooled(np.array([0.1, 0.2]), np.array([0.1, 0.1])) is None
