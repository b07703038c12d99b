"""Practice: the same seed is the same house, finding pays, turning things without need does not."""

import pytest

from cinder.errors import Refused
from cinder.library import shipped_year
from cinder.model import parse
from cinder.twin.faults import FAULTS
from cinder.twin.of_job import twin_of
from cinder.twin.practice import LEVELS, REPAIRS, Deed, begin_faults, run
from cinder.twin.practice import _place_of as place_of
from tests.conftest import tansy_cut


@pytest.fixture(scope="module")
def house():
    twin = twin_of(parse(tansy_cut()))
    return twin, shipped_year(twin.view.climate.year_sha256)


def mended(twin, faults):
    return [Deed("repair", key=key, place=place_of(twin, key, at)) for key, at in faults]


def test_every_fault_has_its_repair():
    assert set(REPAIRS) == set(FAULTS)


@pytest.mark.parametrize("level", LEVELS)
def test_who_finds_all_gets_all_and_who_does_nothing_does_not(house, level):
    twin, year = house
    faults = begin_faults(twin, level, 5)
    assert len(faults) == LEVELS[level][0]
    good = run(twin, year, level, 5, [*mended(twin, faults), Deed("wait", days=2), Deed("finish")]).score
    bad = run(twin, year, level, 5, [Deed("finish")]).score
    assert good.total == 100
    assert good.found == good.of
    assert bad.found == 0
    assert bad.total < good.total - 30
    assert all(one.first_day is None or 1 <= one.first_day <= 28 for one in bad.told)


def test_a_repair_where_nothing_is_wrong_costs(house):
    twin, year = house
    wrong = {key for key, _ in begin_faults(twin, "easy", 5)}
    blind = [Deed("repair", key=key) for key in ("strainer", "glycol", "low-pump") if key not in wrong][:2]
    found = run(twin, year, "easy", 5, [*blind, Deed("finish")]).score
    assert found.unnecessary == len(blind)
    assert found.moves == 10 - 4 * len(blind)


def test_an_attempt_is_run_again_to_the_bit_and_ends_with_its_visits(house):
    twin, year = house
    deeds = [Deed("wait", days=1), Deed("curve", cold_c=50.0, mild_c=32.0), Deed("wait", days=1)]
    assert run(twin, year, "usual", 3, deeds) == run(twin, year, "usual", 3, deeds)
    last = run(twin, year, "usual", 3, [Deed("wait", days=1)] * 3)
    assert last.over
    assert last.score is not None
    with pytest.raises(Refused, match="over"):
        run(twin, year, "usual", 3, [Deed("wait", days=1)] * 4)


@pytest.mark.parametrize("deed", [Deed("curve", cold_c=20.0, mild_c=50.0), Deed("repair", key="magic"), Deed("dance")])
def test_what_cannot_be_done_is_refused(house, deed):
    with pytest.raises(Refused):
        run(*house, "easy", 1, [deed])
