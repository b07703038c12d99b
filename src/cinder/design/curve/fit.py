"""The setting of a controller, of any kind, that serves a need: what a person dialled in first, the rest fitted to the rooms."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace

import numpy as np

from cinder.model import Practice
from cinder.model.base import Part
from cinder.model.scheme import Control, KnownCurve
from cinder.physics.machine import curve as law
from cinder.physics.quantity import Array

MILD_OUT_C = 15.0
LEAST_FLOW_C = 20.0
GREATEST_FLOW_C = 80.0
ABOVE_COLD_POINT_K = 3.0
ECONOMY_SHORT_K = 1.0
"""How much short a customer who puts economy first puts up with (our choice)."""
WARM_K = {"comfort": 1.5, "economy": 0.5}
"""How much above what was asked for is still let be, by the customer's word (our choice)."""
SLOPES = (0.0, 4.0)
LEVELS_K = (-15.0, 20.0)
SHIFTS_K = (-10.0, 15.0)
MOST_NUMBERS = 2000
MOST_PAIRS = 20_000
NO_LEAST_C, NO_GREATEST_C = -1000.0, 1000.0
KINDS = {
    "two_point": "Two points",
    "slope": "Slope and level",
    "numbered": "A numbered line",
    "offset": "A built-in line, moved by a button",
    "fixed": "One temperature",
}


def tolerance_k(practice: Practice, control: Control) -> float:
    """How far below its target a room may be left by a fit, K: the practice's, or more where economy comes first."""
    if control.priority == "economy":
        return max(practice.room_tolerance_k, ECONOMY_SHORT_K)
    return practice.room_tolerance_k


def warm_k(control: Control) -> float:
    """How far above its target a room may be before it is too warm, K."""
    return WARM_K["economy" if control.priority == "economy" else "comfort"]


HAND_SET = (
    "cold_out_c", "cold_flow_c", "mild_out_c", "mild_flow_c", "greatest_flow_c", "slope/slope", "slope/level_k",
    "numbered/number", "numbered/level_k", "offset/offset_k", "fixed/flow_c", "fixed/mild_flow_c",
)  # fmt: skip
"""What of a controller a person sets by hand, by its place below it; the rest is what the controller is."""


def set_at(control: Control, place: str) -> float | None:
    """What stands at a place of `HAND_SET`."""
    at: object = control
    for name in place.split("/"):
        at = getattr(at, name)
    return at if isinstance(at, float) else None


def freed(control: Control) -> Control:
    """The same controller with nothing on it set by hand."""
    changed: dict[str, object] = {}
    for place in HAND_SET:
        name, _, inner = place.partition("/")
        if not inner:
            changed[name] = None
            continue
        part = changed.get(name, getattr(control, name))
        assert isinstance(part, Part)
        changed[name] = part.model_copy(update={inner: None})
    return control.model_copy(update=changed)


def by_hand(control: Control) -> bool:
    """Whether a person has set the line itself."""
    own: dict[str, tuple[float | None, ...]] = {
        "two_point": (),
        "slope": (control.slope.slope, control.slope.level_k),
        "numbered": (control.numbered.number, control.numbered.level_k),
        "offset": (control.offset.offset_k,),
        "fixed": (control.fixed.flow_c, control.fixed.mild_flow_c),
    }
    return any(one is not None for one in (control.cold_flow_c, control.mild_flow_c, *own[control.kind]))


@dataclass(frozen=True, slots=True)
class Asked:
    """What a line is to serve. Over outdoor temperatures (K,): the least water allowed, deg C, what a kelvin above it weighs.

    `cold_out_c`, `cold_flow_c`: the cold end and the water it is to have; `limit_c`: no warmer than this where nobody says more.
    """

    outdoor_c: Array
    allowed_c: Array
    weight: Array
    cold_out_c: float
    cold_flow_c: float
    limit_c: float | None


@dataclass(frozen=True, slots=True)
class Fitted:
    """A setting; the two ends it is told by; what the mild end of a two-point controller was fitted to; what a kind lacks."""

    setting: law.Setting
    cold_out_c: float
    mild_out_c: float
    fitted_mild_c: float | None
    lacks: str = ""
    where: str = ""
    """Which part of the controller's settings it lacks it in."""


def fit(control: Control, asked: Asked) -> Fitted:
    """The setting of this kind of controller on its own steps; two points where the kind lacks what it is built of."""
    mild_out = max(control.mild_out_c if control.mild_out_c is not None else MILD_OUT_C, asked.cold_out_c + 1.0)
    if control.kind == "two_point":
        return _two_points(control, asked, mild_out)
    try:
        setting = _searched(control, asked, mild_out)
    except Lacks as lack:
        plain = _two_points(control, asked, mild_out)
        return Fitted(plain.setting, plain.cold_out_c, mild_out, plain.fitted_mild_c, str(lack), lack.where)
    return Fitted(setting, asked.cold_out_c, mild_out, None)


class Lacks(Exception):
    """A kind of controller lacks what it is built of."""

    def __init__(self, what: str, where: str) -> None:
        super().__init__(what)
        self.where = where


def _two_points(control: Control, asked: Asked, mild_out: float) -> Fitted:
    """The cold end as it is asked for, the mild end fitted to it."""
    fitted = LEAST_FLOW_C
    if asked.outdoor_c.size:
        fitted = law.least_mild_flow(
            cold_out_c=asked.cold_out_c,
            cold_flow_c=asked.cold_flow_c,
            mild_out_c=mild_out,
            outdoor_c=asked.outdoor_c,
            allowed_c=asked.allowed_c,
            step_k=control.step_k,
            greatest_c=asked.cold_flow_c,
        )
    mild = control.mild_flow_c if control.mild_flow_c is not None else max(fitted, LEAST_FLOW_C)
    least, greatest = _limits(control, asked, max(asked.cold_flow_c, mild))
    return Fitted(
        law.TwoPoint(asked.cold_out_c, asked.cold_flow_c, mild_out, mild, least, greatest), asked.cold_out_c, mild_out, fitted
    )  # fmt: skip


def _limits(control: Control, asked: Asked, top: float) -> tuple[float, float]:
    """The controller's lower and upper limit: as entered, else the usual ones about a line whose warmest end is `top`."""
    least = control.least_flow_c if control.least_flow_c is not None else LEAST_FLOW_C
    greatest = control.greatest_flow_c
    if greatest is None:
        greatest = max(asked.limit_c, top) if asked.limit_c is not None else top + ABOVE_COLD_POINT_K
        return least, max(greatest, least)
    return least, max(greatest, LEAST_FLOW_C)


def _searched(control: Control, asked: Asked, mild_out: float) -> law.Setting:
    """Every setting the controller's steps allow, and of them the one that serves with the least water above the need."""
    search = _SEARCHES[control.kind](control)
    out = np.concatenate([asked.outdoor_c, [asked.cold_out_c, mild_out]])
    allowed = np.concatenate([asked.allowed_c, [asked.cold_flow_c, 0.0]])
    weight = np.concatenate([asked.weight, [0.0, 0.0]])
    wished = np.full(len(out), np.nan)
    wished[-2] = control.cold_flow_c if control.cold_flow_c is not None else np.nan
    wished[-1] = control.mild_flow_c if control.mild_flow_c is not None else np.nan
    least = control.least_flow_c if control.least_flow_c is not None else LEAST_FLOW_C
    lines = np.maximum(search.draw(out), least)
    best = search.setting(law.cheapest(lines, allowed_c=allowed, weight=weight, wished_c=wished))
    ends = law.unlimited(best, outdoor_c=np.array([asked.cold_out_c, mild_out]))
    low, high = _limits(control, asked, float(ends.max()))
    return replace(best, least_flow_c=low, greatest_flow_c=high)


@dataclass(frozen=True, slots=True)
class Search:
    """All lines a controller can be told: drawn at outdoor temperatures (N, K), and the n-th as a setting without limits."""

    draw: Callable[[Array], Array]
    setting: Callable[[int], law.Setting]


def _slopes(control: Control) -> Search:
    dial = control.slope
    slope, level = _pairs(
        _one(dial.slope, _steps(*SLOPES, dial.slope_step)), _one(dial.level_k, _steps(*LEVELS_K, control.step_k))
    )
    room = dial.room_c if dial.room_c is not None else dial.pivot_c
    pivot = room if dial.room_shifts else dial.pivot_c
    return Search(
        lambda out: law.bent(slope[:, None], level[:, None], outdoor_c=out, exponent=dial.exponent, pivot_c=pivot),
        lambda n: law.SlopeLevel(
            float(slope[n]),
            float(level[n]),
            dial.pivot_c,
            dial.exponent,
            room,
            dial.room_shifts,
            NO_LEAST_C,
            NO_GREATEST_C,
        ),
    )


def _numbers(control: Control) -> Search:
    dial = control.numbered
    known = _known(dial.known, numbered=True)
    if known is None:
        raise Lacks("Two points of a numbered line, read off the manual, make its family known.", "numbered/known")
    other = _known(dial.other, numbered=True)
    try:
        family = law.family_of(known, other)
    except ValueError as why:
        raise Lacks(f"The known lines make no family: {why}.", "numbered/known") from why
    number, level = _pairs(
        _one(dial.number, _steps(min(dial.least, dial.greatest), max(dial.least, dial.greatest), dial.step)),
        _one(dial.level_k, _steps(*SHIFTS_K, control.step_k) if dial.shifts else np.zeros(1)),
    )
    if not len(number):
        raise Lacks("No number lies on the controller's steps between its least and its greatest.", "numbered/step")
    return Search(
        lambda out: law.numbered(family, number[:, None], outdoor_c=out) + level[:, None],
        lambda n: law.Numbered(family, float(number[n]), float(level[n]), NO_LEAST_C, NO_GREATEST_C),
    )


def _offsets(control: Control) -> Search:
    dial = control.offset
    known = _known(dial.built_in, numbered=False)
    if known is None:
        raise Lacks(
            "Two points of the line that is built in, read off the manual or the display, make it known.",
            "offset/built_in",
        )
    _, out_a, flow_a, out_b, flow_b = known
    if out_a == out_b:
        raise Lacks("The two points of the built-in line lie at one outdoor temperature.", "offset/built_in")
    offset = _one(dial.offset_k, _steps(-dial.most_k, dial.most_k, control.step_k))
    built_in = law.Moved(out_a, flow_a, out_b, flow_b, 0.0, NO_LEAST_C, NO_GREATEST_C)
    return Search(
        lambda out: law.unlimited(built_in, outdoor_c=out)[None, :] + offset[:, None],
        lambda n: replace(built_in, offset_k=float(offset[n])),
    )


def _fixed(control: Control) -> Search:
    dial = control.fixed
    flows = _steps(LEAST_FLOW_C, GREATEST_FLOW_C, control.step_k)
    change = dial.change_out_c
    if change is None:
        flow = _one(dial.flow_c, flows)
        mild = flow
    else:
        flow, mild = _pairs(_one(dial.flow_c, flows), _one(dial.mild_flow_c, flows))
    at = change if change is not None else 0.0
    return Search(
        lambda out: np.where(out < at, flow[:, None], mild[:, None]),
        lambda n: law.Fixed(float(flow[n]), float(mild[n]), at, NO_LEAST_C, NO_GREATEST_C),
    )


_SEARCHES: dict[str, Callable[[Control], Search]] = {
    "slope": _slopes,
    "numbered": _numbers,
    "offset": _offsets,
    "fixed": _fixed,
}


def _known(curve: KnownCurve, *, numbered: bool) -> law.KnownLine | None:
    """A line read off the manual, if it is whole."""
    number = curve.number if numbered else 0.0
    if number is None or curve.cold_out_c is None or curve.cold_flow_c is None:
        return None
    if curve.mild_out_c is None or curve.mild_flow_c is None:
        return None
    return number, curve.cold_out_c, curve.cold_flow_c, curve.mild_out_c, curve.mild_flow_c


def _steps(low: float, high: float, step: float) -> Array:
    """Whole steps from low to high, both on the step; no more than `MOST_NUMBERS`."""
    first, last = int(np.ceil(low / step - 1e-9)), int(np.floor(high / step + 1e-9))
    return np.round(np.arange(first, min(last, first + MOST_NUMBERS) + 1) * step, 6)


def _pairs(a: Array, b: Array) -> tuple[Array, Array]:
    """Every one of `a` with every one of `b`; coarser where that were too many."""
    while len(a) * len(b) > MOST_PAIRS:
        a, b = (a[::2], b) if len(a) >= len(b) else (a, b[::2])
    one, other = np.meshgrid(a, b, indexing="ij")
    return one.reshape(-1), other.reshape(-1)


def _one(value: float | None, otherwise: Array) -> Array:
    """What a person has dialled in, else every step there is."""
    return np.array([value]) if value is not None else otherwise
