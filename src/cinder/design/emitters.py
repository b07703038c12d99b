"""What each emitter is rated at, as arrays per room."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder.design.findings import Findings
from cinder.design.house import EmitterView, HouseView
from cinder.library import ValveEntry
from cinder.physics import radiator
from cinder.physics.quantity import Array

DEFAULT_EXPONENT = 1.3
DEFAULT_VALVE = "lockshields"


@dataclass(slots=True)
class Rated:
    """An emitter with its rating at the reference excess, W; rated None when its spec is not complete."""

    view: EmitterView
    rated_w: float | None
    exponent: float
    water_l: float
    valve: ValveEntry | None
    valve_key: str
    description: str


@dataclass(slots=True)
class EmitterArrays:
    """Ratings by room and emitter, padded with 0: (R, E). `slots` names the emitter at each place."""

    rated: list[Rated]
    rated_w: Array
    exponent: Array
    slots: list[list[int]]
    reference_k: float
    arithmetic: bool


def rate(house: HouseView, view: EmitterView, findings: Findings, *, reference_k: float) -> Rated:
    """Rate one emitter from its face or from what is stated."""
    spec = view.spec
    valve_key = spec.valve or DEFAULT_VALVE
    valve = house.tables.valves.get(valve_key)
    name = view.label or "An emitter"
    if spec.kind == "stated":
        exponent = spec.exponent or DEFAULT_EXPONENT
        rated = None
        if spec.output_w is not None:
            stated_at = spec.excess_k or reference_k
            rated = spec.output_w * (reference_k / stated_at) ** exponent
        else:
            findings.add(
                "stops", "rooms", view.path, f"{name} has no output.",
                why="A stated emitter needs its output.", mend="Enter watts and the excess they are stated at.",
            )  # fmt: skip
        text = f"{spec.output_w:.0f} W at {spec.excess_k or reference_k:.0f} K" if spec.output_w else "no output yet"
        return Rated(view, rated, exponent, spec.water_l or 0.0, valve, valve_key, text)
    frozen = house.job.library.emitter_types.get(spec.type or "")
    if frozen is None or spec.length_m is None or spec.height_m is None:
        lacks = [
            word
            for word, missing in (
                ("type", frozen is None), ("length", spec.length_m is None), ("height", spec.height_m is None)
            )
            if missing
        ]  # fmt: skip
        findings.add(
            "stops", "rooms", view.path, f"{name} lacks its {', '.join(lacks)}.",
            why="Its output cannot be estimated.", mend="Look down at its top for the type; measure its face.",
        )  # fmt: skip
        return Rated(view, None, DEFAULT_EXPONENT, 0.0, valve, valve_key, "not complete")
    entry = frozen.data
    rated = radiator.panel_rating(
        length_m=spec.length_m,
        height_m=spec.height_m,
        w_per_m_at_600=entry.w_per_m_at_600,
        height_exponent=entry.height_exponent,
    )
    water = entry.water_l_per_m_at_600 * spec.length_m * spec.height_m / 0.6
    short_name = entry.label.split(",")[0].replace("Panel ", "")
    text = f"{short_name} {spec.length_m * 1000:.0f} × {spec.height_m * 1000:.0f}"
    exponent = spec.exponent or entry.exponent
    return Rated(view, rated, exponent, spec.water_l or water, valve, valve_key, text)


def arrays(house: HouseView, room_index: dict[str, int], findings: Findings) -> EmitterArrays:
    """All emitters of the house by room."""
    arithmetic = house.practice.excess == "arithmetic"
    reference = radiator.ARITHMETIC_REFERENCE_K if arithmetic else radiator.LOG_REFERENCE_K
    rated = [rate(house, view, findings, reference_k=reference) for view in house.emitters]
    slots: list[list[int]] = [[] for _ in room_index]
    for n, one in enumerate(rated):
        if one.rated_w is not None:
            slots[room_index[one.view.room]].append(n)
    width = max((len(s) for s in slots), default=0) or 1
    watts = np.zeros((len(slots), width))
    exponent = np.full((len(slots), width), DEFAULT_EXPONENT)
    for r, row in enumerate(slots):
        for e, n in enumerate(row):
            watts[r, e] = rated[n].rated_w
            exponent[r, e] = rated[n].exponent
    return EmitterArrays(rated, watts, exponent, slots, reference, arithmetic)


def needed_flow(emitters: EmitterArrays, *, load_w: Array, target_c: Array, spread_k: Array) -> tuple[Array, Array]:
    """Flow temperature (…, R) each room needs for its load, and the excess behind it.

    NaN where a room has no load, infinite where it has no emitter.
    """
    excess = radiator.excess_for_output(
        wanted_w=load_w,
        rated_w=emitters.rated_w,
        exponent=emitters.exponent,
        reference_k=emitters.reference_k,
    )
    solve = (
        radiator.flow_for_arithmetic_excess(excess_k=excess, spread_k=spread_k, room_c=target_c)
        if emitters.arithmetic
        else radiator.flow_for_log_excess(excess_k=excess, spread_k=spread_k, room_c=target_c)
    )
    return np.where(load_w > 0, solve, np.nan), excess


def output_at(emitters: EmitterArrays, excess_k: Array) -> Array:
    """Output of each emitter (R, E) at each room's excess (R,), W."""
    safe = np.where(np.isfinite(excess_k), np.maximum(excess_k, 0.0), 0.0)
    return np.asarray(emitters.rated_w * (safe[:, None] / emitters.reference_k) ** emitters.exponent)
