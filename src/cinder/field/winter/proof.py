"""The first week: which of four things is not as it was thought, by four comparisons that each fault moves alone.

Heat over what the house should lose says the fabric; heat over what emitters should give at that water says the emitters; water over its line
says the curve; flow over its design says whether water gets there. Each comparison has its own doubt; each fault is as large as it usually
is; together they make a chance (Bayes). Two faults at once are not weighed.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np

from cinder.design.base import Result
from cinder.field.result import Chance
from cinder.physics.flow.fluid import PLAIN, Fluid
from cinder.physics.quantity import Array
from cinder.physics.rooms import radiator
from cinder.physics.rooms.radiator import Mask

HOURS = 7 * 24
LEAST_HOURS = 48
LEAST_BELOW_C = 8.0
"""Hours warmer than this say little: valves close, and a machine stands."""
WARM_K = 0.5
FAULT_SIDE = {"fabric": 1.0, "emitters": -1.0, "flow": -1.0}
BENIGN = {"fabric": "less loss is no fault", "emitters": "more heat is no fault", "flow": "more water is no fault"}
"""The side on which a comparison is a fault, and what the other is called: there it counts as if nothing were off."""
SUN_K = 0.012
"""What sun on the level is worth, K for every W/m2: some 4 m2 of glass in a house of 240 W/K (our choice)."""
PRIOR = {"as thought": 0.4, "fabric": 0.15, "emitters": 0.15, "curve": 0.15, "flow": 0.15}
LABELS = {
    "as thought": "No fault to be seen", "fabric": "The fabric loses more than thought", "emitters": "Emitters give too little",
    "curve": "The line is not where it should be", "flow": "Water does not get there",
}  # fmt: skip
TESTS = {
    "as thought": "Nothing to look for: read the same again in colder weather.",
    "fabric": "On a still, dark, cold evening read the heat meter and the rooms at ten and again at six: heat over the difference inside to "
    "outside is what the house loses.",
    "emitters": "Feel emitters from top to bottom and end to end for air and sludge, and hold their plates or sizes against the list.",
    "curve": "Read the line off the controller and the thermometer at the flow in the same minute, with the outdoor sensor in the shade.",
    "flow": "Set the pump a step higher for an hour: does the spread at the machine shrink? Then the strainer, then valves half shut.",
}
SD = {"fabric": 0.085, "emitters": 0.085, "curve": 0.7, "flow": 0.07}
"""What each comparison is off by where nothing is wrong: the design's own honest errors and instruments (our choice, set on the even seeds of
`bench/weeks.py`)."""
MOVES = {"fabric": (0.28, 0.11), "emitters": (-0.38, 0.15), "curve": (5.0, 2.0), "flow": (-0.55, 0.22)}
"""How large a fault usually is, with its spread: logarithms, the curve in K either way (our choice)."""


class Comparison(Result):
    """One of the four: what was read over what was expected (the curve: K beside its line); `off` in standard deviations."""

    key: str
    label: str
    value: float
    unit: str
    off: float
    why: str
    """Why it counts for nothing, whatever it shows; empty where it counts."""


class Proof(Result):
    """`chances` of every verdict, highest first; `lacks` what could not be compared."""

    verdict: str
    label: str
    chance: float
    chances: list[Chance]
    comparisons: list[Comparison]
    lacks: list[str]
    test: str
    first: str
    hours: int


@dataclass(frozen=True, slots=True)
class Thought:
    """What was designed: loss, W/K, below the rooms less `below_k`, in which a sun of `sun_w_m2` is held; emitters (E,) by rating, exponent
    and kind of excess, their reference, K; the line over outdoor temperature; the flow, L/h, or the spread, K, that a driven pump keeps; how
    warm the rooms are wanted; what the water is."""

    loss_w_k: float
    below_k: float
    sun_w_m2: float
    rated_w: Array
    exponent: Array
    arithmetic: Mask
    reference_k: float
    line_out_c: Array
    line_c: Array
    flow_lph: float | None
    spread_k: float | None
    wanted_c: float
    fluid: Fluid = PLAIN


@dataclass(frozen=True, slots=True)
class Week:
    """Hours (N,), NaN where nobody read: deg C, W, L/h; `on` the part of each hour the machine ran; what the emitters get and give back where
    that is not the machine's own water."""

    outdoor_c: Array
    inside_c: Array
    heat_w: Array
    supply_c: Array
    return_c: Array
    flow_lph: Array
    on: Array
    sun_w_m2: Array
    feed_c: Array | None = None
    back_c: Array | None = None


COMPARED = {
    "fabric": "Heat over what the house should lose", "emitters": "Heat over what emitters should give", "curve": "Water beside its line",
    "flow": "Flow over its design",
}  # fmt: skip
LACKS = {
    "fabric": "heat, outdoor and rooms together", "emitters": "heat with flow and return",
    "curve": "the flow's temperature while the machine runs", "flow": "the flow, and what it should be",
}  # fmt: skip


def proved(thought: Thought, week: Week, *, first: str = "") -> Proof | None:
    """The verdict of a week; None where it has too few hours to say anything."""
    cold = np.isfinite(week.outdoor_c) & (week.outdoor_c < LEAST_BELOW_C)
    if cold.sum() < LEAST_HOURS:
        return None
    values: dict[str, float] = {}
    balance = cold & np.isfinite(week.heat_w) & np.isfinite(week.inside_c)
    if balance.sum() >= LEAST_HOURS and thought.loss_w_k > 0:
        sunnier = np.where(np.isfinite(week.sun_w_m2), week.sun_w_m2 - thought.sun_w_m2, 0.0)
        below = thought.below_k + SUN_K * sunnier
        should = thought.loss_w_k * np.maximum(week.inside_c - week.outdoor_c - below, 0.0)
        if should[balance].sum() > 0 and week.heat_w[balance].sum() > 0:
            values["fabric"] = math.log(float(week.heat_w[balance].sum() / should[balance].sum()))
    runs = cold & (np.nan_to_num(week.on, nan=1.0) > 0.6) & np.isfinite(week.supply_c)
    feed = week.feed_c if week.feed_c is not None else week.supply_c
    back = week.back_c if week.back_c is not None else week.return_c
    by_law = runs & balance & np.isfinite(week.return_c) & (week.heat_w > 0)
    if by_law.sum() >= LEAST_HOURS / 2 and thought.rated_w.sum() > 0:
        gives = radiator.side_by_side_w(
            flow_c=feed[by_law], return_c=back[by_law], room_c=week.inside_c[by_law], rated_w=thought.rated_w,
            exponent=thought.exponent, arithmetic=thought.arithmetic, reference_k=thought.reference_k,
        )  # fmt: skip
        if gives.sum() > 0:
            values["emitters"] = math.log(float(week.heat_w[by_law].sum() / gives.sum()))
    if runs.sum() >= LEAST_HOURS / 2 and len(thought.line_c):
        line = np.interp(week.outdoor_c[runs], thought.line_out_c, thought.line_c)
        values["curve"] = float(np.median(week.supply_c[runs] - line))
    flows = runs & np.isfinite(week.flow_lph) & (week.flow_lph > 0)
    if flows.sum() >= LEAST_HOURS / 2 and (thought.flow_lph or thought.spread_k):
        if thought.spread_k:
            with_heat = flows & np.isfinite(week.heat_w) & (week.heat_w > 0)
            if with_heat.any():
                water = np.nanmean(np.stack([week.supply_c[with_heat], week.return_c[with_heat]]), axis=0)
                carries = thought.fluid.w_k_per_lph(temperature_c=water)
                meant = week.heat_w[with_heat] / carries / thought.spread_k
                values["flow"] = math.log(float(np.median(week.flow_lph[with_heat] / meant)))
        else:
            values["flow"] = math.log(float(np.median(week.flow_lph[flows])) / float(thought.flow_lph or 1.0))
    if not values:
        return None
    warm = bool(balance.any()) and float(np.median(week.inside_c[balance])) > thought.wanted_c - WARM_K
    why = {key: _no_fault(key, value, warm=warm) for key, value in values.items()}
    seen = {key: 0.0 if why[key] else value for key, value in values.items()}
    weight = {
        key: math.log(prior) + _likely(key, seen) for key, prior in PRIOR.items() if key == "as thought" or key in seen
    }
    most = max(weight.values())
    total = sum(math.exp(one - most) for one in weight.values())
    chances = {key: math.exp(one - most) / total for key, one in sorted(weight.items(), key=lambda pair: -pair[1])}
    verdict = next(iter(chances))
    return Proof(
        verdict=verdict, label=LABELS[verdict], chance=chances[verdict],
        chances=[Chance(key=key, label=LABELS[key], chance=value) for key, value in chances.items()],
        comparisons=[
            Comparison(
                key=key, label=COMPARED[key], value=value if key == "curve" else math.exp(value), unit="K" if key == "curve" else "",
                off=value / SD[key], why=why[key],
            )
            for key, value in values.items()
        ],
        lacks=[LACKS[key] for key in COMPARED if key not in values], test=TESTS[_decides(chances)], first=first, hours=int(cold.sum()),
    )  # fmt: skip


def _no_fault(key: str, value: float, *, warm: bool) -> str:
    """Why a comparison counts as if nothing were off, whatever it shows; empty where it counts."""
    if key == "emitters" and value < 0 and warm:
        return "the rooms are warm enough: valves close, and emitters give less than they could"
    return BENIGN[key] if key in BENIGN and value * FAULT_SIDE[key] < 0 else ""


def _decides(chances: dict[str, float]) -> str:
    """The test of the verdict; where two are close, of the fault among them, for it tells both."""
    best, *rest = chances
    return rest[0] if best == "as thought" and rest and chances[rest[0]] > 0.1 else best


def _likely(fault: str, values: dict[str, float]) -> float:
    """Logarithm of how likely the comparisons are together."""
    out = 0.0
    for key, value in values.items():
        if key != fault:
            out += _normal(value, 0.0, SD[key])
        elif key == "curve":
            mean, spread = MOVES[key]
            low, high = (_normal(value, sign * mean, math.hypot(spread, SD[key])) for sign in (-1.0, 1.0))
            out += float(np.logaddexp(low, high)) - math.log(2.0)
        else:
            mean, spread = MOVES[key]
            out += _normal(value, mean, math.hypot(spread, SD[key]))
    return out


def _normal(value: float, mean: float, sd: float) -> float:
    return -0.5 * ((value - mean) / sd) ** 2 - math.log(sd)
