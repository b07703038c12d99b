"""A run of the twin as a table that any program reads."""

from __future__ import annotations

import csv
import io

import numpy as np

from cinder.design.judgement import design as judged
from cinder.design.kept import Kept
from cinder.errors import Refused
from cinder.library import shipped_year
from cinder.model import Job
from cinder.physics.quantity import Array
from cinder.twin import loop
from cinder.twin.of_job import lacks, twin_of, weather_of

MODES = {loop.OFF: "off", loop.HEATING: "heating", loop.DEFROST: "defrost", loop.HOT_WATER: "hot water"}


COLUMNS = (
    "hour_of_year", "outdoor_c", "wanted_c", "supply_c", "return_c", "flow_lph", "heat_w", "store_w", "electric_w", "mode",
)  # fmt: skip


def trace_csv(job: Job, *, days: int, first_day: int, step_min: int) -> str:
    """Rows of `step_min` minutes, hour of the climate's year (standard time) first, in deg C, W and L/h.

    Raises `Refused` for a job with no machine, no line, or a climate without an hourly year of ours.
    """
    kept = Kept()
    found = judged(job, kept)
    if missing := lacks(job, found):
        raise Refused(missing)
    twin = twin_of(job, kept=kept)
    climate = twin.view.climate
    if climate is None or climate.year_sha256 is None:
        raise Refused("This climate carries no hourly year: choose a generic one.")
    year = shipped_year(climate.year_sha256)
    if year is None:
        raise Refused("The hourly year of this climate is not shipped: run it in the application, which keeps it.")
    first_hour = (first_day - 1) * 24
    weather = weather_of(twin, year, first_hour=first_hour, hours=days * 24, step_s=60.0)
    series, _, _ = loop.run(twin.house, weather, loop.start(twin.house, outdoor_c=float(weather.outdoor_c[0])))
    steps = len(weather.outdoor_c) // step_min * step_min
    names = [one.name for one in twin.view.rooms]
    out = io.StringIO()
    table = csv.writer(out, lineterminator="\n")
    table.writerow(
        [
            "hour_of_year",
            "outdoor_c",
            "wanted_c",
            "supply_c",
            "return_c",
            "flow_lph",
            "heat_w",
            "store_w",
            "electric_w",
            "mode",
            *names,
        ]
    )

    def rows(values: Array) -> Array:
        return np.asarray(values[:steps].reshape(-1, step_min, *values.shape[1:]).mean(axis=1))

    flow = twin.flow_lph(series.flow_w_k, series.supply_c, series.return_c)
    columns = [rows(one) for one in (weather.outdoor_c, series.wanted_c, series.supply_c, series.return_c,
                                     flow, series.heat_w, series.store_w, series.electric_w)]  # fmt: skip
    rooms, mode = rows(series.room_c), series.mode[:steps].reshape(-1, step_min)[:, -1].astype(int)
    for n in range(len(mode)):
        figures = [f"{one[n]:.2f}" for one in columns[:4]] + [f"{one[n]:.0f}" for one in columns[4:]]
        table.writerow(
            [f"{first_hour + n * step_min / 60:.2f}", *figures, MODES[mode[n]], *(f"{t:.2f}" for t in rooms[n])]
        )
    return out.getvalue()
