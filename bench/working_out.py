"""The chain, its slow sections and the house run: what is worked out, without a page."""

from __future__ import annotations

import itertools
import secrets
import statistics
import time

import httpx
import numpy as np
from bench.table import fourteen_rooms, row, timed, windows
from tests.conftest import house, whole

from cinder.design import design, year
from cinder.design.apart import alternatives, doubts, flows, measures, running, water_day, ways
from cinder.design.emitters import heated
from cinder.design.findings import Findings
from cinder.design.kept import Kept
from cinder.design.plan.layout import derive
from cinder.exchange.jobs.starter import start_job
from cinder.library import load, shipped_year
from cinder.model import Heated, freeze, parse
from cinder.physics.flow import hydraulic_tree


def chain() -> None:
    """The Design of an edit, and fresh."""
    for name, document, goal, fresh in (
        ("14 rooms", fourteen_rooms(), "≤ 1.6 yardsticks", "≤ 4.5 yardsticks"),
        ("60 rooms", house("sixty-rooms"), "≤ 2.5 yardsticks", "none"),
    ):
        jobs = [parse(document) for document in windows(document, 60)]
        first = iter(jobs)  # each read anew: of one and the same survey its plan would be known
        times = timed(lambda first=first: design(next(first)), 30)
        median = statistics.median(times)
        row(f"a fresh Design, {name}, median", f"{median:.1f} ms", fresh, median, yards=times.yards)
        kept, turn = Kept(), iter(jobs)
        times = timed(lambda kept=kept, turn=turn: design(next(turn), kept), len(jobs) - 1)
        median = statistics.median(times)
        row(f"Design after a window of one room, {name}, median", f"{median:.1f} ms", goal, median, yards=times.yards)
    moved, kept = fourteen_rooms(), Kept()

    def wall() -> None:
        moved["survey"]["rooms"]["hall"]["height_m"] += 0.001
        design(parse(moved), kept)

    times = timed(wall, 40)
    median = statistics.median(times)
    row("a wall moved, 14 rooms: parsed, geometry, Design", f"{median:.1f} ms", "none", median, yards=times.yards)
    document = fourteen_rooms()
    times = timed(lambda: parse(document), 60)
    row(
        "parse and check a job, 14 rooms, median",
        f"{statistics.median(times):.1f} ms",
        "none",
        statistics.median(times),
    )


def losses() -> None:
    """What is asked for apart from the edit: the year, the bills, the measures, and the report as a queued paper."""
    job = parse(fourteen_rooms())
    result, weather = design(job), shipped_year(load().climates["mild-maritime"].year_sha256)
    start = time.perf_counter()
    year.judge(job, result, weather)
    first = (time.perf_counter() - start) * 1000
    times = timed(lambda: year.judge(job, result, weather), 30)
    middle = statistics.median(times)
    row("year hour by hour, 14 rooms, median", f"{middle:.1f} ms", "≤ 120 ms", middle)
    row("the same, first time (pvlib imported, sun's path)", f"{first:.0f} ms", "none", first)
    document = fourteen_rooms()
    for count, goal in ((1, "≤ 10 yardsticks"), (12, "≤ 75 yardsticks")):
        machines = list(load().machines.values())[:count]
        document["library"]["machines"] = {m.id: freeze(m) for m in machines}
        scheme = document["schemes"][document["active_scheme"]]
        scheme |= {"candidates": {m.id: {"machine": m.id, "pos": n} for n, m in enumerate(machines)}}
        scheme["chosen"] = machines[0].id
        document["schemes"] = {document["active_scheme"]: scheme}  # the others hold machines that are not there now
        compared = parse(document)
        shown = design(compared)
        found = running.judge(compared, shown, weather, loss_range=(0.9, 1.1))
        assert len(found.rows) == count
        kept = Kept()
        times = timed(
            lambda job=compared, on=shown, kept=kept: running.judge(job, on, weather, loss_range=(0.9, 1.1), kept=kept),
            15,
        )
        middle = statistics.median(times)
        row(f"{count} machines through a year of hours, thrice", f"{middle:.0f} ms", goal, middle, yards=times.yards)
    lists = {"panels": load().emitter_prices, "table": load().measures, "lists": (), "shelf": load().machines}
    times = timed(lambda: alternatives.judge(job, weather=weather, **lists), 3)
    row("four ways on, each a chain and a year", f"{statistics.median(times):.0f} ms", "none", statistics.median(times))
    house_of = water_day.decide.view(job, Findings())
    store = water_day.decide.store_of(house_of)
    tapping = water_day.decide.tapping_of(job, store.cold_c, 12.0)
    plan = water_day.decide.plan_of(house_of, store, tapping, house_of.machine)
    middle = statistics.median(timed(lambda: water_day.decide.run(plan, -3.0), 15))
    row("a hot-water day, layer by layer", f"{middle:.1f} ms", "≤ 15 yardsticks", middle)
    middle = statistics.median(timed(lambda: water_day.judge(job, result), 5))
    row("the same with sizes, temperatures and hygiene", f"{middle:.0f} ms", "none", middle)
    middle = statistics.median(timed(lambda: flows.judge(job, result), 5))
    row("who gets what, the pump and what helps", f"{middle:.0f} ms", "none", middle)
    networks()
    times = timed(lambda: measures.judge(job), 3)
    row(
        "every measure through the chain, median",
        f"{statistics.median(times):.0f} ms",
        "none",
        statistics.median(times),
    )
    panels, table = load().emitter_prices, load().measures
    found = ways.options_of(job, panels, table)
    times = timed(lambda: ways.at(found, 42.0), 10)
    row(
        "cheapest set at one temperature, 14 rooms",
        f"{statistics.median(times):.0f} ms",
        "≤ 100 ms",
        statistics.median(times),
    )
    times = timed(lambda: [ways.at(found, float(flow)) for flow in ways.FLOWS_C], 3)
    row("the sets of the whole front", f"{statistics.median(times):.0f} ms", "≤ 1000 ms", statistics.median(times))
    times = timed(lambda: ways.options_of(job, panels, table), 3)
    middle = statistics.median(times)
    row("ways of every room and measures of the house", f"{middle:.0f} ms", "none", middle)
    numbers = itertools.count()

    def loop() -> None:  # a floor never seen before: both characteristics, surface limit, loops
        laid = Heated(area_m2=12.0, spacing_m=0.15, cover_m=0.045 + next(numbers) * 1e-6, supply_m=4.0)
        heated.surface(laid, wall=False, room_c=20.0, school="standard")

    middle = statistics.median(timed(loop, 200))
    row("a heated floor, both schools, limit and loops", f"{middle:.2f} ms", "≤ 1 ms", middle)
    times = timed(lambda: ways.front(job, panels, table), 2)
    row(
        "the front with every season by the chain",
        f"{statistics.median(times):.0f} ms",
        "≤ 400 yardsticks",
        statistics.median(times),
    )
    with whole() as served, httpx.Client(base_url=served.url, timeout=60) as client:
        while not client.get("/api/jobs/tansy-cut/papers").json()["writer"]:
            time.sleep(0.2)
        middle = statistics.median([_paper(client) for _ in range(6)][1:]) * 1000
    row("report as PDF, asked for until ready, median", f"{middle / 1000:.2f} s", "≤ 4 s", middle)


def networks() -> None:
    """25 emitters on 120 pipes, unbalanced and balanced, and the same through wntr (EPANET) and back."""
    from tests.outside.test_networks import CURVE, NETWORKS, epanet, epanet_alone, pump, tree

    parents, leaves, on = tree(*NETWORKS["twenty-five, 120 pipes"])
    begin = np.full(len(leaves), 60.0)
    free = statistics.median(timed(lambda: hydraulic_tree.solve(on, pump, begin_lph=begin), 15))
    row("25 emitters, 120 pipes: unbalanced", f"{free:.2f} ms", "≤ 2 yardsticks", free)
    wanted = hydraulic_tree.solve(on, pump, begin_lph=begin).end_lph * 0.9

    def balanced() -> None:
        on.on_path.T @ hydraulic_tree.pipes_pa(on, on.on_path @ wanted) + on.end_pa * wanted**2

    middle = statistics.median(timed(balanced, 15))
    row("the same at the flows wanted (balanced)", f"{middle:.2f} ms", "≤ 1.3 yardsticks", middle)
    trip = statistics.median(timed(lambda: epanet(parents, leaves, on, CURVE), 3))
    row("the same through wntr and back", f"{trip:.0f} ms", f"≥ 10 times ours: {trip / free:.0f}", trip)
    alone = statistics.median(epanet_alone(parents, leaves, on, CURVE, 15))
    row("EPANET alone, the network in memory", f"{alone:.2f} ms", "shown beside", alone)


def twin() -> None:
    """The house in time: a week by minutes, a year by five minutes, and a general solver on the same equations."""
    from scipy.integrate import solve_ivp
    from tests.outside.test_twin import any_output, equations, open_everywhere, still

    from cinder.twin import loop
    from cinder.twin.of_job import twin_of, weather_of

    job = parse(fourteen_rooms())
    made, year = twin_of(job), shipped_year(load().climates["mild-maritime"].year_sha256 or "")
    week = weather_of(made, year, first_hour=240, hours=168, step_s=60.0)
    whole = weather_of(made, year, step_s=300.0)
    middle = statistics.median(timed(lambda: loop.run(made.house, week, loop.start(made.house)), 9))
    row("twin, 14 rooms: a week by minutes", f"{middle:.0f} ms", "≤ 30 yardsticks", middle)
    middle = statistics.median(timed(lambda: loop.run(made.house, whole, loop.start(made.house)), 3))
    row("twin, 14 rooms: a year by five minutes", f"{middle:.0f} ms", "≤ 250 yardsticks", middle)
    house = open_everywhere(any_output(made.house))
    state = loop.start(house, room_c=house.rooms.target_c - 1.5, supply_c=35.0)
    y0 = np.concatenate([state.room_c, state.emitter_c, [35.0]])
    calm = still(made, 2880, -2.0)
    ours = statistics.median(timed(lambda: loop.run(house, calm, state), 5))
    start = time.perf_counter()
    solve_ivp(equations(house, -2.0), (0, 172800.0), y0, method="BDF", rtol=1e-6, atol=1e-6, max_step=60.0)
    solved = (time.perf_counter() - start) * 1000
    row(
        "two days, modulating, by solve_ivp at as many steps",
        f"{solved:.0f} ms",
        f"≥ 50 times ours: {solved / ours:.0f}",
        solved,
    )
    start = time.perf_counter()
    solve_ivp(equations(house, -2.0), (0, 172800.0), y0, method="BDF", rtol=1e-6, atol=1e-6)
    free = (time.perf_counter() - start) * 1000
    row("the same with steps as long as it likes", f"{free:.0f} ms", f"shown beside: {free / ours:.0f} times", free)
    ours = statistics.median(timed(lambda: loop.run(house, week, state), 5))
    start = time.perf_counter()
    solve_ivp(equations(house, None, week), (0, 168 * 3600.0), y0, method="BDF", rtol=1e-6, atol=1e-6, max_step=3600.0)
    real = (time.perf_counter() - start) * 1000
    row(
        "a week of real weather, its own steps, at most an hour",
        f"{real:.0f} ms",
        f"≥ 50 times ours: {real / ours:.0f}",
        real,
    )


def _paper(client: httpx.Client) -> float:
    key, start = secrets.token_hex(16), time.perf_counter()
    client.post("/api/jobs/tansy-cut/papers", json={"id": key})
    while (
        next(p for p in client.get("/api/jobs/tansy-cut/papers").json()["papers"] if p["id"] == key)["state"] != "ready"
    ):
        time.sleep(0.05)
    return time.perf_counter() - start


def four_storeys() -> dict:
    """25 rooms on four storeys, side by side and over each other, each with a window and a radiator."""
    library = load()
    document = start_job(
        job_id="storeys", title="25 rooms", age="before-1920", climate="mild-maritime", library=library
    )
    document["library"]["emitter_types"]["t22"] = freeze(library.emitter_types["t22"])
    survey = document["survey"]
    survey["storeys"] = {f"s{k}": {"level_m": 2.8 * k, "pos": float(k), "label": f"Storey {k}"} for k in range(4)}
    places = [(k, r, c) for k in range(4) for r in range(2) for c in range(4 if (k, r) == (0, 0) else 3)]
    for n, (k, r, c) in enumerate(places):
        survey["rooms"][f"r{n}"] = {
            "label": f"Room {n}", "storey": f"s{k}", "part": "main", "use": "bedroom", "height_m": 2.5, "pos": float(n),
            "position": {"x_m": c * 4.1, "y_m": -r * 3.6},
            "walk": [{"id": f"w{i + 1}", "length_m": side} for i, side in enumerate((4.0, 3.5, 4.0, 3.5))],
            "faces": {"w1": {"openings": {"o": {"width_m": 1.2, "height_m": 1.2}}}},
        }  # fmt: skip
        spec = {"type": "t22", "length_m": 1.2, "height_m": 0.6}
        survey["emitters"][f"e{n}"] = {"room": f"r{n}", "spec": spec}
    return document


def survey() -> None:
    document = four_storeys()
    job = parse(document)

    def move() -> None:
        document["survey"]["rooms"]["r12"]["position"]["x_m"] += 0.01
        design(parse(document))

    median = statistics.median(timed(lambda: derive(job.survey), 20))
    row("geometry, 25 rooms on four storeys, median", f"{median:.1f} ms", "none", median)
    median = statistics.median(timed(move, 20))
    row("a room moved: parse, geometry, design, 25 rooms", f"{median:.1f} ms", "≤ 60 ms", median)
    median = statistics.median(timed(lambda: doubts.judge(job), 9))
    row("4 000-sample doubts, 25 rooms, median", f"{median:.0f} ms", "≤ 400 ms", median)
    small = parse(fourteen_rooms())
    median = statistics.median(timed(lambda: doubts.judge(small), 9))
    row("4 000-sample doubts, 14 rooms, median", f"{median:.0f} ms", "≤ 150 ms", median)
