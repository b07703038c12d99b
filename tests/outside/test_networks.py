"""Whole pipe networks against EPANET (through `wntr`, Darcy-Weisbach): what every end gets when nothing is balanced."""

from __future__ import annotations

import logging
import tempfile
import time
import warnings

import numpy as np
import pytest
from scipy.constants import g

from cinder.physics.flow import hydraulic_tree, water
from cinder.physics.flow.hydraulic_tree import Tree, at_total, pipes_pa, solve

wntr = pytest.importorskip("wntr")
ENepanet = wntr.epanet.toolkit.ENepanet
VISCOSITY_OF_EPANET = 1.0219e-6
"""Kinematic viscosity EPANET counts its own in, m2/s (water at 20 deg C, from its manual, from memory)."""
LPH = 3.6e6
END_BORE = 0.02


def tree(seed: int, ends: int, trunk: tuple, branch: tuple, tail: tuple, kv: float, water_c: float):
    """A random tree: a trunk of pipes in a row, branches off it in pieces, a tail to every end; bore, length, pieces."""
    rng = np.random.default_rng(seed)
    rows: dict[str, tuple[str | None, float, float, float]] = {}
    last = None
    for n in range(trunk[2]):
        rows[f"t{n}"] = (last, trunk[0], trunk[1] * rng.uniform(0.6, 1.4), rng.uniform(1, 4))
        last = f"t{n}"
    stems = list(rows)
    leaves = []
    for n in range(ends):
        up = stems[rng.integers(len(stems))] if n else stems[-1]
        for m in range(branch[2]):
            rows[f"b{n}.{m}"] = (up, branch[0], branch[1] * rng.uniform(0.4, 1.6), rng.uniform(1, 3))
            up = f"b{n}.{m}"
        rows[f"e{n}"] = (up, tail[0], tail[1] * rng.uniform(0.4, 1.8), rng.uniform(1, 5))
        leaves.append(f"e{n}")
    columns = [np.array([row[k] for row in rows.values()], dtype=float) for k in (1, 2, 3)]
    parents = {key: row[0] for key, row in rows.items()}
    made = Tree(
        hydraulic_tree.paths(parents, leaves), columns[0], np.full(len(rows), 7e-6), columns[1], columns[2],
        hydraulic_tree.valve_pa(kv_m3h=np.full(ends, kv)), float(water.density_kg_m3(temperature_c=water_c)),
        float(water.viscosity_pa_s(temperature_c=water_c)),
    )  # fmt: skip
    return parents, leaves, made


def epanet(parents: dict, leaves: list, on: Tree, curve: list[tuple[float, float]]) -> np.ndarray:
    """The same network in EPANET: flow at every end, L/h."""
    with warnings.catch_warnings(), tempfile.TemporaryDirectory() as folder:
        warnings.simplefilter("ignore")
        found = (
            wntr.sim.EpanetSimulator(as_wntr(parents, leaves, on, curve))
            .run_sim(file_prefix=f"{folder}/network")
            .link["flowrate"]
            .iloc[0]
        )
    return np.array([found[f"v{key}"] for key in leaves]) * LPH


def epanet_alone(parents: dict, leaves: list, on: Tree, curve: list[tuple[float, float]], times: int) -> list[float]:
    """What EPANET itself takes for the network once it is in memory, ms: nothing read, nothing written."""
    with warnings.catch_warnings(), tempfile.TemporaryDirectory() as folder:
        warnings.simplefilter("ignore")
        wntr.network.write_inpfile(as_wntr(parents, leaves, on, curve), f"{folder}/n.inp")
        solver = ENepanet()
        solver.ENopen(f"{folder}/n.inp", f"{folder}/n.rpt", f"{folder}/n.bin")
        solver.ENopenH()
        taken = []
        for _ in range(times):
            start = time.perf_counter()
            solver.ENinitH(10)
            solver.ENrunH()
            taken.append((time.perf_counter() - start) * 1000)
        solver.ENcloseH()
        solver.ENclose()
    return taken


def as_wntr(parents: dict, leaves: list, on: Tree, curve: list[tuple[float, float]]) -> wntr.network.WaterNetworkModel:
    """The same network as EPANET takes it."""
    with warnings.catch_warnings():
        warnings.simplefilter("ignore")
        logging.getLogger("wntr").setLevel(logging.ERROR)
        model = wntr.network.WaterNetworkModel()
        how = model.options.hydraulic
        how.headloss, how.inpfile_units, how.accuracy, how.trials = "D-W", "LPS", 1e-9, 500
        how.viscosity = on.viscosity_pa_s / on.density_kg_m3 / VISCOSITY_OF_EPANET
        model.add_reservoir("from", base_head=0.0)
        model.add_reservoir("back", base_head=0.0)
        model.add_junction("root", base_demand=0, elevation=0)
        model.add_curve("pump", "HEAD", [(flow / LPH, head / on.density_kg_m3 / g) for flow, head in curve])
        model.add_pump("machine", "from", "root", pump_type="HEAD", pump_parameter="pump")
        for n, (key, up) in enumerate(parents.items()):
            model.add_junction(f"j{key}", base_demand=0, elevation=0)
            model.add_pipe(
                f"p{key}", f"j{up}" if up else "root", f"j{key}", length=2 * on.length_m[n], diameter=on.bore_m[n],
                roughness=on.roughness_m[n], minor_loss=on.k_sum[n],
            )  # fmt: skip
        area = np.pi / 4 * END_BORE**2
        for n, key in enumerate(leaves):
            k = on.end_pa[n] * (LPH * area) ** 2 * 2 / on.density_kg_m3
            model.add_pipe(f"v{key}", f"j{key}", "back", length=1e-3, diameter=END_BORE, roughness=1e-7, minor_loss=k)
    return model


CURVE = [(0.0, 60e3), (1000.0, 52e3), (2500.0, 20e3)]
"""A pump of three points: EPANET draws h = a - b Q^c through them."""


def pump(flow: float) -> float:
    (_, top), (q1, h1), (q2, h2) = CURVE
    power = np.log((top - h2) / (top - h1)) / np.log(q2 / q1)
    return float(top - (top - h1) * (max(flow, 0.0) / q1) ** power)


NETWORKS = {
    "four in copper": (1, 4, (0.0202, 4.0, 3), (0.0136, 3.0, 1), (0.0136, 2.0), 2.0, 42.0),
    "nine on thin tails": (2, 9, (0.0202, 5.0, 4), (0.007, 4.0, 1), (0.007, 3.0), 1.0, 38.0),
    "seven in hotter water": (5, 7, (0.0262, 4.0, 3), (0.0136, 2.0, 2), (0.0100, 3.0), 1.2, 55.0),
    "twenty-five, 120 pipes": (3, 25, (0.0262, 3.0, 20), (0.0136, 2.0, 3), (0.0100, 3.0), 0.8, 42.0),
}  # fmt: skip


@pytest.mark.parametrize("name", NETWORKS)
def test_what_every_end_gets_when_nothing_is_balanced(name: str, capsys: pytest.CaptureFixture[str]):
    """Within 2 % of EPANET where no pipe on the way lies between Re 2000 and 4000, where the two laws are joined otherwise; there
    the difference is printed."""
    parents, leaves, on = tree(*NETWORKS[name])
    found = solve(on, pump, begin_lph=np.full(len(leaves), 60.0))
    there = epanet(parents, leaves, on, CURVE)
    speed = found.pipe_lph / LPH / (np.pi / 4 * on.bore_m**2)
    re = on.density_kg_m3 * speed * on.bore_m / on.viscosity_pa_s
    joined = (re > 2000) & (re < 4000)
    doubtful = (on.on_path.T @ joined.astype(float)) > 0
    off = np.abs(found.end_lph / there - 1)
    if doubtful.any():
        with capsys.disabled():
            print(f"\n{name}: {doubtful.sum()} ends by way of Re 2000-4000 differ by up to {off[doubtful].max():.1%}")
    if not doubtful.any():
        assert off.max() < 0.005
    assert found.total_lph == pytest.approx(there.sum(), rel=0.01)
    assert np.all(off[~doubtful] < 0.02)
    assert off.max() < 0.10


def test_at_least_three_networks_stand_clear_of_the_join():
    clear = 0
    for name in NETWORKS:
        _, leaves, on = tree(*NETWORKS[name])
        found = solve(on, pump, begin_lph=np.full(len(leaves), 60.0))
        re = on.density_kg_m3 * found.pipe_lph / LPH / (np.pi / 4 * on.bore_m**2) * on.bore_m / on.viscosity_pa_s
        clear += not np.any((re > 2000) & (re < 4000))
    assert clear >= 3


def test_every_way_round_takes_what_the_pump_gives():
    _, leaves, on = tree(*NETWORKS["nine on thin tails"])
    found = solve(on, pump, begin_lph=np.full(len(leaves), 10.0))
    way = on.on_path.T @ pipes_pa(on, on.on_path @ found.end_lph) + on.end_pa * found.end_lph**2
    assert way == pytest.approx(np.full(len(leaves), found.head_pa), rel=1e-6)
    assert found.head_pa == pytest.approx(pump(found.total_lph))


def test_a_pump_driven_to_a_flow_gives_that_flow_and_the_same_shares():
    _, leaves, on = tree(*NETWORKS["four in copper"])
    free = solve(on, pump, begin_lph=np.full(len(leaves), 60.0))
    driven = at_total(on, free.total_lph, begin_lph=np.full(len(leaves), 60.0))
    assert driven.total_lph == pytest.approx(free.total_lph, rel=1e-3)
    assert driven.end_lph == pytest.approx(free.end_lph, rel=2e-3)
    assert driven.head_pa == pytest.approx(free.head_pa, rel=5e-3)


def test_one_pipe_by_hand():
    # laminar: 4 m there and back of 7 mm, no valve to speak of: dp = 128 mu L Q / (pi d^4); head 250 Pa at any flow
    on = Tree(
        np.array([[1.0]]),
        np.array([0.007]),
        np.array([0.0]),
        np.array([2.0]),
        np.array([0.0]),
        np.array([1e-12]),
        992.0,
        6.5e-4,
    )
    found = solve(on, lambda flow: 250.0, begin_lph=np.array([5.0]))
    by_hand = np.pi * 0.007**4 * 250.0 / (128 * 6.5e-4 * 4.0) * LPH
    assert found.end_lph[0] == pytest.approx(by_hand, rel=1e-4)
    assert 4 * 992.0 * by_hand / LPH / (np.pi * 0.007 * 6.5e-4) < 2000  # laminar
