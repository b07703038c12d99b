"""The speeds we hold ourselves to, measured here and now.

    .venv/bin/python bench/run.py [chain losses survey twin correction week signatures handed edits crowd busy pages]

Machines are noisy, so each figure stands beside a yardstick taken in the same run (a fixed piece of numpy and Python
work), and beside the goal of docs/architecture.md. Starts a PostgreSQL and a server of its own on loopback; both end
with it.
"""

from __future__ import annotations

import copy
import gzip
import hashlib
import itertools
import os
import random
import secrets
import shutil
import statistics
import sys
import threading
import time
from collections import Counter
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import contextmanager
from pathlib import Path

import httpx
import numpy as np

ROOT = Path(__file__).parents[1]
sys.path.insert(0, str(ROOT))

from tests.conftest import Server, counting_house, free_port, house, new_cluster, tansy_cut, whole  # noqa: E402

from cinder import memory  # noqa: E402
from cinder.design import design, year  # noqa: E402
from cinder.design.apart import alternatives, doubts, flows, measures, running, water_day, ways  # noqa: E402
from cinder.design.emitters import heated  # noqa: E402
from cinder.design.findings import Findings  # noqa: E402
from cinder.design.kept import Kept  # noqa: E402
from cinder.design.plan.layout import derive  # noqa: E402
from cinder.exchange.jobs.starter import start_job  # noqa: E402
from cinder.library import load, shipped_year  # noqa: E402
from cinder.model import Heated, freeze, parse  # noqa: E402
from cinder.physics.flow import hydraulic_tree  # noqa: E402


def timed(work: Callable[[], object], times: int) -> list[float]:
    work()
    out = []
    for _ in range(times):
        start = time.perf_counter()
        work()
        out.append((time.perf_counter() - start) * 1000)
    return sorted(out)


def yardstick() -> object:
    """A fixed piece of work: 200 small numpy calls and a Python loop."""
    a = np.arange(400.0)
    for _ in range(200):
        a = np.sqrt(a * a + 1.0)
    return sum(i * i for i in range(20_000))


def fourteen_rooms() -> dict:
    """The demo house with four of its rooms a second time, in a wing of their own to the east."""
    document = tansy_cut()
    rooms, emitters = document["survey"]["rooms"], document["survey"]["emitters"]
    for key in ("kitchen", "bed2", "hall", "landing"):
        place = rooms[key]["position"]
        rooms[f"{key}-2"] = rooms[key] | {"position": place | {"x_m": place["x_m"] + 12.0}}
        emitters[f"r-{key}-2"] = emitters[f"r-{key}"] | {"room": f"{key}-2"}
    return document


def row(name: str, value: str, goal: str, milliseconds: float | None) -> None:
    """A line of the table; the yardstick is taken beside every one, since a machine may change its pace meanwhile."""
    ratio = f"{milliseconds / paced():8.1f}" if milliseconds is not None else " " * 8
    print(f"{name:52}{value:>24}{ratio}   {goal}", flush=True)


def paced() -> float:
    """The yardstick as it is now, ms."""
    return statistics.median(timed(yardstick, 15))


def main() -> None:
    """All of the table, or the parts that are named."""
    parts = {
        part.__name__: part
        for part in (chain, losses, survey, twin, correction, week, signatures, handed, edits, crowd, busy, pages)
    }
    asked = sys.argv[1:] or list(parts)
    if wrong := [name for name in asked if name not in parts]:
        sys.exit(f"No such part: {', '.join(wrong)}. There are {', '.join(parts)}.")
    print(f"{'':52}{'measured':>24}{'/ yard':>8}   goal        (yardstick {paced():.2f} ms)")
    memory.settle()  # as the service does
    for name in asked:
        parts[name]()


def chain() -> None:
    """The Design of an edit, and fresh."""
    for name, document, goal, fresh in (
        ("14 rooms", fourteen_rooms(), "≤ 1.6 yardsticks", "≤ 4.5 yardsticks"),
        ("60 rooms", house("sixty-rooms"), "≤ 2.5 yardsticks", "none"),
    ):
        jobs = [parse(document) for document in windows(document, 60)]
        first = iter(jobs)  # each read anew: of one and the same survey its plan would be known
        median = statistics.median(timed(lambda first=first: design(next(first)), 30))
        row(f"a fresh Design, {name}, median", f"{median:.1f} ms", fresh, median)
        kept, turn = Kept(), iter(jobs)
        times = timed(lambda kept=kept, turn=turn: design(next(turn), kept), len(jobs) - 1)
        median = statistics.median(times)
        row(f"Design after a window of one room, {name}, median", f"{median:.1f} ms", goal, median)
    moved, kept = fourteen_rooms(), Kept()

    def wall() -> None:
        moved["survey"]["rooms"]["hall"]["height_m"] += 0.001
        design(parse(moved), kept)

    median = statistics.median(timed(wall, 40))
    row("a wall moved, 14 rooms: parsed, geometry, Design", f"{median:.1f} ms", "none", median)
    document = fourteen_rooms()
    times = timed(lambda: parse(document), 60)
    row(
        "parse and check a job, 14 rooms, median",
        f"{statistics.median(times):.1f} ms",
        "none",
        statistics.median(times),
    )


def windows(document: dict, times: int) -> list[dict]:
    """The document with one window of one room a little wider each time; everything else the same."""
    out = []
    for n in range(times):
        document = copy.deepcopy(document)
        window = next(
            opening
            for room in document["survey"]["rooms"].values()
            for face in room.get("faces", {}).values()
            for opening in face.get("openings", {}).values()
        )
        window["width_m"] = 0.8 + n / 200
        out.append(document)
    return out


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
        row(f"{count} machines through a year of hours, thrice", f"{middle:.0f} ms", goal, middle)
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


LOOKED_AT, NEVER_SEEN = range(0, 200, 2), range(2001, 2201, 2)
"""Seeds the diagnosis was written with, and seeds nobody looked at while it was."""


def correction() -> None:
    """The correction desk over 200 houses with something known wrong with them: how many it tells right, and what it takes for what."""
    from bench.cases import make

    from cinder.field.diagnosis import diagnose
    from cinder.field.expected import expected_of

    houses = []
    for document in (tansy_cut(), counting_house()):
        job = parse(document)
        entry = job.library.climates[job.climate.entry or ""].data
        year = shipped_year(entry.year_sha256 or "")
        assert year is not None
        houses.append((expected_of(job, year), year))
    took: list[float] = []
    table: Counter[tuple[str, str]] = Counter()
    for name, seeds in (("looked at while it was written", LOOKED_AT), ("never seen", NEVER_SEEN)):
        right = 0
        for seed in seeds:
            one = make(houses, seed)
            begun = time.perf_counter()
            found = diagnose(one.house, one.seen, cold_c=one.cold_c, mild_c=one.mild_c)
            took.append((time.perf_counter() - begun) * 1000)
            told = (
                found.verdict if one.room is None or found.room in (one.room, None) else f"{found.verdict}, other room"
            )
            table[one.truth, told] += 1
            right += told == one.truth
        row(
            f"correction, {len(seeds)} houses {name}",
            f"{right / len(seeds):.0%} right",
            "≥ 90 %",
            statistics.median(took),
        )
    told_as = sorted({told for _, told in table})
    print("\n| it was \\ it is told as | " + " | ".join(told_as) + " |")
    print("|---" * (len(told_as) + 1) + "|")
    for truth in sorted({truth for truth, _ in table}):
        print(f"| {truth} | " + " | ".join(str(table[truth, told] or "") for told in told_as) + " |")


def week() -> None:
    """The first week over 200 houses with one of four things wrong, or none: told right, and what is taken for what."""
    from bench.weeks import simulated

    from cinder.field.winter.proof import Thought, Week, proved

    table: Counter[tuple[str, str]] = Counter()
    for name, seeds in (("by which spreads were set", range(0, 200, 2)), ("never seen", range(1, 201, 2))):
        right, took = 0, []
        for seed in seeds:
            one = simulated(seed)
            thought = Thought(
                one.loss_w_k, one.below_k, 0.0, one.rated_w, one.exponent, np.full(len(one.rated_w), fill_value=False), 50.0,
                one.line_out_c, one.line_c, one.flow_lph, None, one.wanted_c,
            )  # fmt: skip
            begun = time.perf_counter()
            found = proved(
                thought,
                Week(
                    one.outdoor_c,
                    one.inside_c,
                    one.heat_w,
                    one.supply_c,
                    one.return_c,
                    one.read_lph,
                    one.on,
                    one.sun_w_m2,
                ),
            )
            took.append((time.perf_counter() - begun) * 1000)
            told = found.verdict if found else "too mild"
            table[one.truth, told] += 1
            right += told == one.truth
        row(f"first week, 100 houses {name}", f"{right} % right", "≥ 85 %", statistics.median(took))
    told_as = sorted({told for _, told in table})
    print("\n| it was \\ it is told as | " + " | ".join(told_as) + " |")
    print("|---" * (len(told_as) + 1) + "|")
    for truth in sorted({truth for truth, _ in table}):
        print(f"| {truth} | " + " | ".join(str(table[truth, told] or "") for told in told_as) + " |")


def signatures() -> None:
    """The signature of a winter over 500 houses of three nodes: how many of their bands hold what is so, and what one takes."""
    from bench.houses import simulated

    from cinder.physics.measured import signature

    took, hit = [], []
    for seed in (*range(250), *range(1000, 1250)):
        one = simulated(seed)
        begun = time.perf_counter()
        found = signature.fit(
            heat_kwh=one.heat_kwh, outdoor_c=one.outdoor_c, inside_c=one.inside_c, sun_w_m2=one.sun_w_m2, base_known=0.0
        )
        took.append((time.perf_counter() - begun) * 1000)
        hit.append(abs(one.true_w_k - found.h_w_k) <= signature.Z10 * found.h_sd)
    row(
        "signature of a winter, 500 houses",
        f"{statistics.fmean(hit):.1%} in P10 to P90",
        "80 ± 4 %; ≤ 25 yd",
        statistics.median(took),
    )


def handed() -> None:
    """A pack written, and a winter's readings brought in and drawn."""
    from bench.handed import packs, readings

    with whole() as served:
        for one in itertools.chain(packs(served.url), readings(served.url)):
            row(*one)


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


def edits() -> None:
    cluster, folder = new_cluster()
    served = Server(cluster.start(), free_port())
    try:
        editor = Editor(served.url, "bench")
        editor.edits(30, pause_s=0.05)
        editor.bytes.clear()
        times = editor.edits(200, pause_s=0.05)  # an engineer's next edit is never sooner
        row("one edit, HTTP to HTTP with commit, median", f"{times[100]:.1f} ms", "none", times[100])
        row("one edit, HTTP to HTTP with commit, p95", f"{times[190]:.1f} ms", "≤ 8 yardsticks", times[190])
        row("its answer, median", f"{statistics.median(editor.bytes) / 1000:.1f} kB", "≤ 20 kB", None)
        row("its answer, greatest", f"{max(editor.bytes) / 1000:.1f} kB", "none", None)
        whole = editor.client.get("/api/jobs/bench")
        sent = int(whole.headers.get("content-length", 0)) / 1000
        row(
            "the whole answer, and what of it goes over the line",
            f"{len(whole.content) / 1000:.0f}, {sent:.0f} kB",
            "none",
            None,
        )
        row("memory of the service after that", f"{resident_mb(served.process.pid):.0f} MB", "none", None)
    finally:
        served.stop()
        cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)


def resident_mb(process: int) -> float:
    """What a process and those it started hold, MB."""
    children = Path(f"/proc/{process}/task/{process}/children").read_text().split()
    pages = int(Path(f"/proc/{process}/statm").read_text().split()[1])
    return pages * 4096 / 1e6 + sum(resident_mb(int(child)) for child in children)


class Editor:
    """Somebody who edits a job of fourteen rooms, one field after the other, as a page does: holding what it was told."""

    def __init__(self, url: str, job: str, *, seed: int = 0) -> None:
        line = httpx.Limits(keepalive_expiry=75.0)  # a browser keeps its line as long as the server does
        self.client, self.job = httpx.Client(base_url=url, timeout=120, limits=line), job
        self.random = random.Random(seed)
        self.document = fourteen_rooms() | {"id": job}
        answer = self.client.post("/api/jobs/import", json=self.document).json()
        self.version, self.emitters = answer["version"], list(answer["job"]["survey"]["emitters"].items())
        self.rooms, self.bytes = list(self.document["survey"]["rooms"]), []

    def operation(self) -> dict:
        """What engineers do most: a height, a window, a temperature, a name, a radiator."""
        room = self.random.choice(self.rooms)
        path, faces = f"/survey/rooms/{room}", self.document["survey"]["rooms"][room].get("faces", {})
        windows = [
            f"{path}/faces/{f}/openings/{o}/width_m" for f, face in faces.items() for o in face.get("openings", {})
        ]
        kind = self.random.randrange(6)
        if kind == 0:
            return {"op": "replace", "path": f"{path}/height_m", "value": round(self.random.uniform(2.3, 2.6), 3)}
        if kind == 1:
            known = self.document["survey"]["rooms"][room]
            op = "replace" if "target_c" in known else "add"
            known["target_c"] = round(self.random.uniform(18, 21), 1)
            return {"op": op, "path": f"{path}/target_c", "value": known["target_c"]}
        if kind == 2:
            return {"op": "replace", "path": f"{path}/label", "value": f"Room {self.version}"}
        if kind == 3 or not windows:
            key = self.random.choice([k for k, e in self.emitters if e["spec"].get("length_m")])
            value = round(self.random.uniform(0.6, 1.6), 2)
            return {"op": "replace", "path": f"/survey/emitters/{key}/spec/length_m", "value": value}
        return {"op": "replace", "path": self.random.choice(windows), "value": round(self.random.uniform(0.6, 1.2), 3)}

    def edit(self) -> float:
        """One edit; how long it took, ms."""
        body = {"id": secrets.token_urlsafe(9), "base_version": self.version, "operations": [self.operation()]}
        start = time.perf_counter()
        answer = self.client.post(f"/api/jobs/{self.job}/changes", params={"holds": self.version}, json=body)
        took = (time.perf_counter() - start) * 1000
        assert answer.status_code == 200, answer.text
        self.version = answer.json()["version"]
        self.bytes.append(len(answer.content))
        return took

    def edits(self, times: int, *, pause_s: float = 0.02) -> list[float]:
        found = []
        for _ in range(times):
            found.append(self.edit())
            time.sleep(pause_s)
        return sorted(found)

    def paced(self, every_s: float, until: float) -> list[float]:
        """Edits with a pause between them, begun at a moment of one's own."""
        found = []
        time.sleep(self.random.uniform(0, every_s))
        while time.monotonic() < until:
            begun = time.monotonic()
            found.append(self.edit())
            time.sleep(max(every_s - (time.monotonic() - begun), 0.0))
        return found


def people(count: int, every_s: float, seconds: float) -> tuple[list[float], float]:
    """Times of the edits of many engineers, each at a house of their own, with a process for every core; memory, MB."""
    cluster, folder = new_cluster()
    served = Server(cluster.start(), free_port(), "--processes", str(os.cpu_count() or 1))
    try:
        editors = [Editor(served.url, f"crowd-{n}", seed=n) for n in range(count)]
        for editor in editors:
            editor.edit()
        until = time.monotonic() + seconds
        with ThreadPoolExecutor(count) as pool:
            found = list(pool.map(lambda editor: editor.paced(every_s, until), editors))
        return sorted(one for times in found for one in times), resident_mb(served.process.pid)
    finally:
        served.stop()
        cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)


def crowd() -> None:
    for count, every_s, goal in ((50, 2.0, "≤ 250 ms"), (200, 8.0, "≤ 300 ms")):
        times, memory = people(count, every_s, 40.0)
        p95 = times[int(len(times) * 0.95)]
        row(
            f"{count} engineers, {every_s:g} s between edits, median",
            f"{statistics.median(times):.0f} ms",
            "none",
            None,
        )
        row(f"{count} engineers, {every_s:g} s between edits, p95", f"{p95:.0f} ms", goal, None)
        row(f"memory of the service with {count} engineers", f"{memory:.0f} MB", "none", None)


def hostile() -> dict[str, tuple[str, str, str, bytes]]:
    """Bodies and files made to hold a server: method, path, media type, data."""
    from tests.exchange.test_apart import drawing, png, workbook

    sheet = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
    picture = png(4800, 4800)
    deep = b'{"a":' + b"[[]," * 1_900_000 + b"[]"
    return {
        "a body of 8 MB": ("POST", "/api/jobs/import", "application/json", deep),
        "a workbook of 1.6 million cells": ("POST", "/api/jobs/busy/sheet", sheet, workbook(4000, 400)),
        "a picture of 23 million dots": (
            "PUT", f"/api/photos/{hashlib.sha256(picture).hexdigest()}", "image/png", picture,
        ),
        "a drawing of 3 MB": ("POST", "/api/jobs/busy/drawing", "image/vnd.dxf", drawing(60_000)),
    }  # fmt: skip


@contextmanager
def beside(url: str, method: str, path: str, media: str, data: bytes) -> Iterator[None]:
    """Somebody who sends the same thing again and again meanwhile."""
    stop = threading.Event()

    def send() -> None:
        with httpx.Client(base_url=url, timeout=120) as client:
            while not stop.is_set():
                client.request(method, path, content=data, headers={"content-type": media})

    sender = threading.Thread(target=send)
    sender.start()
    try:
        yield
    finally:
        stop.set()
        sender.join()


def busy() -> None:
    """An edit beside what would hold a server, in edits with nothing beside them; and what a second process brings."""
    cluster, folder = new_cluster()
    database = cluster.start()
    served = Server(database, free_port())
    try:
        editor = Editor(served.url, "busy")
        editor.edits(30)
        alone = statistics.median(editor.edits(60))
        for name, sent in hostile().items():
            with beside(served.url, *sent):
                middle = statistics.median(editor.edits(60))
            row(f"one edit beside {name}", f"{middle / alone:.2f} × alone", "< 3 × alone", middle)
        with ThreadPoolExecutor(120) as pool, httpx.Client(base_url=served.url, timeout=300) as client:
            kinds = ("doubts", "front", "year", "bills", "schemes", "holding")
            asked = [pool.submit(client.get, f"/api/jobs/busy/{kinds[n % len(kinds)]}") for n in range(120)]
            times, health = [], []
            while not all(one.done() for one in asked) and len(times) < 60:
                times.append(editor.edit())
                start = time.perf_counter()
                editor.client.get("/api/health")
                health.append((time.perf_counter() - start) * 1000)
            assert times, "the questions were answered before one edit"
            middle = statistics.median(times)
            row("one edit beside 120 slow questions", f"{middle / alone:.2f} × alone", "< 3 × alone", middle)
            middle = statistics.median(health)
            row("health beside 120 slow questions", f"{middle:.1f} ms", "≤ an edit alone", middle)
    finally:
        served.stop()
    try:
        rates = [_rate(database, processes) for processes in (1, 2)]
        row("edits a second, eight people, one process", f"{rates[0]:.0f} /s", "none", None)
        row("the same, two processes", f"{rates[1] / rates[0]:.2f} × one", "≥ 1.5 × on two cores", None)
    finally:
        cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)


def _rate(database: str, processes: int, people: int = 8, each: int = 25) -> float:
    served = Server(database, free_port(), "--processes", str(processes))
    try:
        editors = [Editor(served.url, f"rate-{processes}-{n}") for n in range(people)]
        for editor in editors:
            editor.edit()
        start = time.perf_counter()
        with ThreadPoolExecutor(people) as pool:
            list(pool.map(lambda editor: [editor.edit() for _ in range(each)], editors))
        return people * each / (time.perf_counter() - start)
    finally:
        served.stop()


def pages() -> None:
    build = ROOT / "frontend" / "build"
    html = (build / "index.html").read_text()
    scripts = {part.split('"')[0] for part in html.split("/_app/immutable/")[1:]}
    size = sum(len(gzip.compress((build / "_app/immutable" / s).read_bytes())) for s in scripts if s.endswith(".js"))
    row("initial script, gzipped", f"{size / 1000:.1f} kB", "≤ 200 kB", None)
    from playwright.sync_api import sync_playwright
    from tests.journeys.conftest import FLAGS

    cluster, folder = new_cluster()
    served = Server(cluster.start(), free_port())
    try:
        with sync_playwright() as p:
            browser = p.chromium.launch(executable_path="/usr/bin/chromium", args=FLAGS)
            times = []
            for _ in range(5):
                page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
                start = time.perf_counter()
                page.goto(f"{served.url}/job/tansy-cut/rooms")
                page.get_by_label("Height of Hall").wait_for()
                times.append((time.perf_counter() - start) * 1000)
                page.context.close()
            dragging(browser, served.url)
            browser.close()
        value = statistics.median(times)
        row("first screen usable on loopback, median of 5", f"{value:.0f} ms", "≤ 1000 ms", value)
    finally:
        served.stop()
        cluster.stop()
        shutil.rmtree(folder, ignore_errors=True)


def dragging(browser, url: str) -> None:
    """Frames a second while a room of the 25 is slid about for two seconds."""
    httpx.post(f"{url}/api/jobs/import", json=four_storeys())
    page = browser.new_context(viewport={"width": 1280, "height": 800}).new_page()
    page.goto(f"{url}/job/storeys/plan")
    room = page.locator("[data-plan-room='Room 5']")
    room.wait_for()
    box = room.bounding_box()
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(x, y)
    page.mouse.down()
    page.evaluate("""() => { window.frames_ = []; const tick = (t) => { window.frames_.push(t); requestAnimationFrame(tick) };
        requestAnimationFrame(tick) }""")
    started = time.perf_counter()
    n = 0
    while time.perf_counter() - started < 2:
        n += 1
        page.mouse.move(x + 60 * np.sin(n / 9), y + 40 * np.cos(n / 7))
    frames = page.evaluate("window.frames_")
    page.mouse.up()
    page.context.close()
    gaps = np.diff(frames)
    row("frames a second while a room is slid, median", f"{1000 / np.median(gaps):.0f} /s", "≥ 50 /s", None)


if __name__ == "__main__":
    main()
