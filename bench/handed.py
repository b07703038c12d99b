"""What is handed over and what comes back: a whole pack, a year of readings brought in and drawn."""

from __future__ import annotations

import io
import json
import secrets
import statistics
import time
from collections.abc import Iterator

import httpx
import numpy as np
from bench.table import beat

Row = tuple[str, str, str, float | None, float | None]
MINUTES = 365 * 24 * 60
CHANNELS = {
    "Outside": "outdoor_c", "Flow": "supply_c", "Return": "return_c", "Litres": "flow_lph", "Drawn": "electric_w", "Given": "heat_w",
}  # fmt: skip
NOISE = {
    "Outside": (6.0, 5.0),
    "Flow": (35.0, 2.0),
    "Return": (31.0, 2.0),
    "Litres": (900.0, 20.0),
    "Drawn": (1200.0, 90.0),
    "Given": (4000.0, 300.0),
}
PAUSE_S = 2.0
"""Between two packs: nobody issues the next the moment the last is there."""
PLAIN = 20 - len(CHANNELS)


def packs(url: str, times: int = 8) -> Iterator[Row]:
    """The pack of the sample job, from the order to the zip being there; the first is a worker's first. The yardstick is taken before
    and after each: while one is drawn there is no core left to take it on."""
    took, yards = [], []
    with httpx.Client(base_url=url, timeout=120) as client:
        while not client.get("/api/jobs/tansy-cut/papers").json()["writer"]:
            time.sleep(0.2)
        before = _pace()
        for _ in range(times):
            key, begun = secrets.token_hex(8), time.perf_counter()
            client.post("/api/jobs/tansy-cut/issued", json={"id": key, "kind": "pack"}).raise_for_status()
            while (state := _state(client, key)) not in ("ready", "failed"):
                time.sleep(0.2)  # asking costs the same two cores
            if state == "failed":
                raise RuntimeError("the pack was not written")
            took.append((time.perf_counter() - begun) * 1000)
            after = _pace()
            yards.append(2 * took[-1] / (before + after))
            time.sleep(PAUSE_S)
            before = _pace()
    first, middle = took[0], statistics.median(took[1:])
    yield "the pack of all papers, a worker's first", f"{first / 1000:.1f} s", "none", first, yards[0]
    shown = statistics.median(yards[1:])
    yield "the pack of all papers, median of those after", f"{middle / 1000:.1f} s", "≤ 2 000 yardsticks", middle, shown


def _pace() -> float:
    return statistics.median([beat() for _ in range(15)])


def _state(client: httpx.Client, key: str) -> str:
    found = client.get("/api/jobs/tansy-cut/papers").json()["papers"]
    return str(next(one["state"] for one in found if one["id"] == key))


def year_of_minutes() -> bytes:
    """A year at one-minute steps of 20 channels, as CSV."""
    rng = np.random.default_rng(1)
    names = [*CHANNELS, *(f"Probe {n}" for n in range(PLAIN))]
    figures = np.stack(
        [mean + spread * rng.standard_normal(MINUTES) for mean, spread in (*NOISE.values(), *[(20.0, 0.3)] * PLAIN)],
        axis=1,
    )
    at = np.datetime_as_string(np.datetime64("2025-07-01T00:00") + np.arange(MINUTES).astype("timedelta64[m]"))
    out = io.StringIO()
    out.write(",".join(["time", *names]) + "\n")
    for first in range(0, MINUTES, 10_000):
        rows = zip(at[first : first + 10_000], figures[first : first + 10_000].tolist(), strict=True)
        out.writelines(f"{when}Z,{','.join(f'{one:.2f}' for one in row)}\n" for when, row in rows)
    return out.getvalue().encode()


def readings(url: str) -> Iterator[Row]:
    """A year of minutes brought in; drawn whole, and a week of it."""
    data = year_of_minutes()
    probes = {f"Probe {n}": "" for n in range(PLAIN)}
    with httpx.Client(base_url=url, timeout=300) as client:
        begun = time.perf_counter()
        answer = client.post(
            "/api/jobs/tansy-cut/readings", params={"label": "a year", "mapped": json.dumps(CHANNELS | probes)}, content=data,
            headers={"content-type": "text/csv"},
        )  # fmt: skip
        answer.raise_for_status()
        took = (time.perf_counter() - begun) * 1000
        yield f"{answer.json()['added']:,} rows of readings brought in", f"{took / 1000:.1f} s", "≤ 60 s", took, None
        path = f"/api/jobs/tansy-cut/readings/{answer.json()['source']}/drawn"
        for name, span in (
            ("the year", {}),
            ("a week", {"first": "2026-01-05T00:00:00Z", "last": "2026-01-12T00:00:00Z"}),
        ):
            begun = time.perf_counter()
            client.get(path, params={"channels": ",".join(CHANNELS.values()), **span}).raise_for_status()
            took = (time.perf_counter() - begun) * 1000
            yield f"{name} of six channels drawn", f"{took:.0f} ms", "≤ 1 000 ms", took, None
