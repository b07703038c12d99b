"""Valves that close leave the others more water: the twin's table against the whole network solved with a part of the valves shut."""

import numpy as np
import pytest

from cinder.design.apart.flows.network import circuits_of
from cinder.model import parse
from cinder.physics.flow import hydraulic_tree
from cinder.twin import loop, network
from cinder.twin.of_job import twin_of, weather_of
from cinder.twin.sample import one_room
from tests.conftest import counting_house, tansy_cut


@pytest.fixture(scope="module", params=[tansy_cut, counting_house], ids=["tansy-cut", "counting-house"])
def twin(request):
    return twin_of(parse(request.param()))


def test_with_everything_open_every_emitter_has_its_design_flow(twin):
    circuits = circuits_of(twin.view, twin.design, twin.arrays)
    flow = network.flow_of(circuits, twin.view, twin.design, np.ones(len(circuits.emitters)))
    assert flow == pytest.approx(circuits.flow_lph, rel=1e-3)


def test_a_part_of_the_valves_shut_in_any_mixture(twin):
    """The table knows how much is open, not which: within 6 % of the network that knows both."""
    circuits = circuits_of(twin.view, twin.design, twin.arrays)
    share, gives = network.table(twin.view, twin.design, twin.arrays, set(circuits.emitters[::2]))
    rng = np.random.default_rng(2)
    for _ in range(12):
        openings = np.where(
            np.arange(len(circuits.emitters)) % 2 == 0, rng.uniform(0.05, 1.0, len(circuits.emitters)), 1.0
        )
        whole = network.flow_of(circuits, twin.view, twin.design, openings)
        still = float((circuits.flow_lph * openings).sum() / circuits.flow_lph.sum())
        by_table = circuits.flow_lph * openings * np.interp(still, share, gives)
        assert np.abs(by_table[1::2] / whole[1::2] - 1.0).max() < 0.06
        assert by_table.sum() == pytest.approx(whole.sum(), rel=0.06)


def test_shut_valves_are_felt_by_those_that_stay_open_by_hand():
    """Two equal branches behind a common pipe, head held: one shut, the other gets sqrt(R / (R - 3 Rc)) of its flow, Rc the common part at the
    design's flow of both (4 Rc q^2 at 2 q)."""
    common, branch = 2.0, 5.0  # Pa per (L/h)^2
    head = (common * 4 + branch) * 100.0**2  # 100 L/h each
    alone = np.sqrt(head / (common + branch))
    tree = hydraulic_tree.Tree(
        np.ones((1, 1)), np.array([1.0]), np.array([1e-6]), np.array([0.0]), np.array([0.0]), np.array([branch]), 990.0, 6e-4,
        np.array([common]),
    )  # fmt: skip
    found = hydraulic_tree.solve(tree, lambda _: head, begin_lph=np.array([100.0]))
    assert found.end_lph[0] == pytest.approx(alone, rel=1e-4)


def test_the_twin_moves_what_the_table_says(twin):
    """Every valve held half shut by rooms at their targets: what moves is the openings' share with what it gives."""
    house = twin.house
    emitters = house.emitters
    weather = weather_of(twin, _flat(), hours=2, step_s=60.0)
    state = loop.start(house, room_c=house.rooms.target_c, supply_c=35.0, outdoor_c=3.0)
    series, _, _ = loop.run(house, weather, state)
    opening = np.where(emitters.closes, 0.5, 1.0)
    live = (emitters.water_j_k > 0) & (emitters.rated_w > 0)
    still = float((emitters.flow_w_k * opening).sum() / emitters.flow_w_k.sum())
    wanted = float((emitters.flow_w_k * opening)[live].sum()) * np.interp(
        still, emitters.open_share, emitters.open_gives
    )
    assert series.flow_w_k[0] == pytest.approx(wanted, rel=0.02)


def test_where_nothing_is_known_every_emitter_keeps_its_water():
    house, weather = one_room()
    series, _, _ = loop.run(house, weather, loop.start(house, supply_c=35.0, outdoor_c=0.0))
    assert series.flow_w_k.max() == pytest.approx(400.0)


def _flat():
    from cinder.library import load, shipped_year

    return shipped_year(load().climates["mild-maritime"].year_sha256)
