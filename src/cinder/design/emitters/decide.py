"""What each emitter is rated at, as arrays per room."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import dataclass
from functools import cached_property, partial
from typing import TypeAlias

import numpy as np

from cinder.design.emitters import heated
from cinder.design.emitters.heated import HeatedSurface
from cinder.design.findings import Findings
from cinder.design.house.overlay import EmitterView
from cinder.design.house.rooms import RoomView
from cinder.design.house.view import HouseView
from cinder.design.kept import Afresh, Kept, Needs, entries
from cinder.library import ValveEntry
from cinder.model import EmitterSpec, Practice
from cinder.physics import altitude
from cinder.physics.flow import pipe
from cinder.physics.quantity import Array
from cinder.physics.rooms import radiator
from cinder.physics.rooms.radiator import Mask

DEFAULT_EXPONENT = 1.3
FAN_EXPONENT = 1.05
DEFAULT_VALVE = "lockshields"
MM = 1000
WATER_KINDS = ("panel", "stated", "fan", "floor", "wall")
THIN_AIR = {
    "panel": altitude.radiator_share,
    "stated": altitude.radiator_share,
    "fan": altitude.fan_share,
}
"""What is left of a rating in air of a density: of floors and walls two thirds radiate, and their plate lets through most
of the rest; a heater of its own gives its watts anywhere."""
CATALOGUE_K = radiator.LOG_REFERENCE_K
"""75/65/20: the excess lists mean by their 50 K, as a log mean."""


@dataclass(slots=True, kw_only=True)
class Rating:
    """What an emitter by itself is rated at, at the reference excess, W; None when its spec is not complete.

    `fixed_w`: heat it gives without any water.
    """

    rated_w: float | None
    description: str
    exponent: float = DEFAULT_EXPONENT
    water_l: float = 0.0
    fixed_w: float = 0.0
    surface: HeatedSurface | None = None
    electric_w: float = 0.0


@dataclass(slots=True, kw_only=True)
class Rated(Rating):
    """An emitter with its rating where it hangs. `factor`: what thin air, connection and obstructions leave of its output."""

    view: EmitterView
    valve: ValveEntry | None
    valve_key: str
    spread_k: float
    factor: float = 1.0
    factor_words: str = ""

    @property
    def wet(self) -> bool:
        return self.view.spec.kind != "electric"


Hung: TypeAlias = tuple[tuple[Rated, ...], tuple[int | None, ...]]
"""What hangs in a room, and the place of each among those that have an output (None: it has none)."""


@dataclass
class EmitterArrays:
    """Ratings by room and emitter, padded with 0: (R, E). `slots` names the emitter at each place.

    `spread_k` and `arithmetic` (R, E): the spread across each, and whether its excess is the arithmetic one.
    `same` (R,): whether all of a room share both, so that one closed formula serves. `fixed_w` (R,) needs no water.
    """

    rated: list[Rated]
    rated_w: Array
    exponent: Array
    spread_k: Array
    arithmetic: Mask
    same: Mask
    fixed_w: Array
    slots: list[list[int]]
    reference_k: float

    @cached_property
    def closes(self) -> Mask:
        """Emitters with valves that hold their room at its target (R, E)."""
        return np.asarray(self._each(lambda one: one.valve is not None and one.valve.closes)) > 0

    @cached_property
    def surface_m2(self) -> Array:
        """Heated area (R, E); 0 where it is no floor or wall."""
        return self._each(lambda one: one.surface.area_m2 if one.surface is not None else 0.0)

    @cached_property
    def hung(self) -> dict[str, Hung]:
        """By room, what hangs in it."""
        place = {n: e for row in self.slots for e, n in enumerate(row)}
        by_room: dict[str, list[int]] = {}
        for n, one in enumerate(self.rated):
            by_room.setdefault(one.view.room, []).append(n)
        return {room: (tuple(self.rated[n] for n in of), tuple(map(place.get, of))) for room, of in by_room.items()}

    def _each(self, of: Callable[[Rated], float]) -> Array:
        out = np.zeros(self.rated_w.shape)
        for r, row in enumerate(self.slots):
            out[r, : len(row)] = [of(self.rated[n]) for n in row]
        return out


def factor_of(house: HouseView, spec: EmitterSpec) -> tuple[float, str]:
    """What thin air, connection and obstructions leave of an output, and what they are."""
    left, words = THIN_AIR.get(spec.kind, lambda _: 1.0)(house.air_density), []
    if left < 1:
        words.append(f"thin air at {house.altitude_m:.0f} m")
    for key in [*([spec.connection] if spec.connection else []), *spec.obstructions]:
        entry = house.tables.emitter_factors.get(key)
        if entry is None or (spec.length_m or 0.0) < entry.least_length_m:
            continue
        left *= (entry.low + entry.high) / 2
        if entry.high < 1:
            words.append(entry.label)
    return left, ", ".join(words)


def _incomplete(view: EmitterView, lacks: list[str], findings: Findings, mend: str) -> None:
    findings.add(
        "stops", "emitters", view.path, f"{view.label or 'An emitter'} lacks {', '.join(lacks)}.",
        why="What it gives cannot be estimated.", mend=mend,
    )  # fmt: skip


def reference_of(practice: Practice) -> float:
    """The excess at which emitters are rated, K, by the school of excess temperature."""
    return radiator.ARITHMETIC_REFERENCE_K if practice.excess == "arithmetic" else radiator.LOG_REFERENCE_K


def rate(house: HouseView, view: EmitterView, findings: Findings, *, reference_k: float) -> Rated:
    """Rate one emitter from its face, its speeds, its pipes, or from what is stated."""
    spec = view.spec
    valve_key = spec.valve or DEFAULT_VALVE
    left, words = factor_of(house, spec)
    made = RATE[spec.kind](house, view, findings, reference_k)
    return Rated(
        view=view, valve=house.tables.valves.get(valve_key), valve_key=valve_key, spread_k=spec.spread_k or house.spread_k,
        factor=left, factor_words=words, rated_w=made.rated_w * left if made.rated_w is not None else None,
        description=made.description, exponent=made.exponent, water_l=made.water_l, fixed_w=made.fixed_w,
        surface=made.surface, electric_w=made.electric_w,
    )  # fmt: skip


def _stated(house: HouseView, view: EmitterView, findings: Findings, reference_k: float) -> Rating:
    spec = view.spec
    exponent = spec.exponent or DEFAULT_EXPONENT
    rated = None
    if spec.output_w is not None:
        rated = spec.output_w * (reference_k / (spec.excess_k or reference_k)) ** exponent
    else:
        _incomplete(view, ["its output"], findings, "Enter watts and the excess they are stated at.")
    text = f"{spec.output_w:.0f} W at {spec.excess_k or reference_k:.0f} K" if spec.output_w else "no output yet"
    return Rating(rated_w=rated, exponent=exponent, water_l=spec.water_l or 0.0, description=text)


def _by_product(spec: EmitterSpec, exponent: float, reference_k: float) -> float | None:
    """A rating from a list's output, where one stands in the spec. Lists rate at 75/65/20, whatever they call it."""
    if spec.output_w is None:
        return None
    stated = spec.excess_k
    if stated is None or abs(stated - radiator.ARITHMETIC_REFERENCE_K) < 0.2 or abs(stated - CATALOGUE_K) < 0.2:
        return spec.output_w
    return float(spec.output_w * (reference_k / stated) ** exponent)


def _panel(house: HouseView, view: EmitterView, findings: Findings, reference_k: float) -> Rating:
    spec = view.spec
    frozen = house.job.library.emitter_types.get(spec.type or "")
    entry = frozen.data if frozen else None
    by_length = entry is not None and entry.form == "length"
    exponent = spec.exponent or (entry.exponent if entry else DEFAULT_EXPONENT)
    size = f"{spec.length_m * MM:.0f} × {spec.height_m * MM:.0f}" if spec.length_m and spec.height_m else ""
    listed = _by_product(spec, exponent, reference_k)
    lacks = [
        word
        for word, missing in (
            ("its type", entry is None), ("its length", spec.length_m is None),
            ("its height", spec.height_m is None and not by_length),
        )
        if missing
    ]  # fmt: skip
    if listed is not None and (spec.length_m is None or entry is None):
        text = spec.product or f"{listed:.0f} W"
        return Rating(rated_w=listed, exponent=exponent, water_l=spec.water_l or 0.0, description=text)
    if lacks or entry is None or spec.length_m is None:
        _incomplete(view, lacks, findings, "Look down at its top for the type; measure its face.")
        return Rating(rated_w=None, description="not complete")
    tall = 0.6 if by_length else spec.height_m or 0.0  # skirting is rated by its length alone
    low, high = radiator.FACE_HEIGHTS_M
    if listed is None and not low <= tall <= high:
        findings.add(
            "doubt", "emitters", view.path, f"{view.label or 'A radiator'} is {tall:.2f} m tall: outputs by face hold from "
            f"{low:g} to {high:g} m.", why="Its output is carried on beyond them, and may be far off.",
            mend="Measure it again, or enter what its maker states.",
        )  # fmt: skip
    rated = radiator.panel_rating(
        length_m=spec.length_m,
        height_m=tall,
        w_per_m_at_600=entry.w_per_m_at_600,
        height_exponent=entry.height_exponent,
    )
    water = entry.water_l_per_m_at_600 * spec.length_m * tall / 0.6
    short_name = entry.label.split(",")[0].replace("Panel ", "")
    text = spec.product or (f"{short_name} {spec.length_m * MM:.0f}" if by_length else f"{short_name} {size}")
    return Rating(
        rated_w=listed if listed is not None else rated, exponent=exponent, description=text,
        water_l=spec.water_l if spec.water_l is not None else water,
    )  # fmt: skip


def _fan(house: HouseView, view: EmitterView, findings: Findings, reference_k: float) -> Rating:
    """A fan unit at the greatest speed that is accepted."""
    spec = view.spec
    exponent = spec.exponent or FAN_EXPONENT
    if not spec.speeds:
        _incomplete(view, ["its speeds"], findings, "Read its plate: output and watts at every speed.")
        return Rating(rated_w=None, exponent=exponent, description="fan unit, not complete")
    if spec.speed >= len(spec.speeds):
        findings.add(
            "doubt", "emitters", view.path, f"{view.label or 'A fan unit'} has only {len(spec.speeds)} speeds.",
            why="A speed it lacks was accepted; its fastest is taken.", mend="Choose one of its speeds.",
        )  # fmt: skip
    at = spec.speeds[min(spec.speed, len(spec.speeds) - 1)]
    rated = _by_product(spec.model_copy(update={"output_w": at.output_w}), exponent, reference_k)
    text = f"{spec.product or 'fan unit'}, {at.label or f'speed {spec.speed + 1}'}"
    return Rating(
        rated_w=rated, exponent=exponent, water_l=spec.water_l or 0.0, description=text,
        electric_w=at.electric_w,
    )  # fmt: skip


def _heated(house: HouseView, view: EmitterView, findings: Findings, reference_k: float) -> Rating:
    spec = view.spec
    wall = spec.kind == "wall"
    found = heated.of_emitter(house, view, house.targets.get(view.room, 20.0), findings)
    word = "heated wall" if wall else "heated floor"
    if found is None or spec.heated is None:
        return Rating(rated_w=None, exponent=1.0, description=f"{word}, not complete")
    laid = spec.heated
    bore = max(laid.pipe_m - 2 * laid.pipe_wall_m, 0.001)
    metres = (found.loop_m or 0.0) * found.loops
    pipes = f", {laid.spacing_m * MM:.0f} mm" if laid.spacing_m else ""
    return Rating(
        rated_w=found.k_w_m2k * found.area_m2 * reference_k, exponent=1.0, surface=found,
        water_l=spec.water_l if spec.water_l is not None else float(pipe.water_content_l(bore_m=bore, length_m=metres)),
        description=f"{word} {found.area_m2:.1f} m²{pipes}",
    )  # fmt: skip


def _electric(house: HouseView, view: EmitterView, findings: Findings, reference_k: float) -> Rating:
    watts = view.spec.output_w
    if watts is None:
        _incomplete(view, ["its output"], findings, "Enter the watts on its plate.")
    text = f"heater of its own, {watts:.0f} W" if watts else "heater of its own, no output yet"
    return Rating(rated_w=None, fixed_w=watts or 0.0, description=text)


RATE = {"panel": _panel, "stated": _stated, "fan": _fan, "floor": _heated, "wall": _heated, "electric": _electric}


def rate_all(
    house: HouseView, views: Iterable[EmitterView], findings: Findings, kept: Kept, *, reference_k: float
) -> list[Rated]:
    """Emitters rated at a reference excess, each kept by what it hangs on."""
    views, types, targets = tuple(views), house.job.library.emitter_types, house.targets
    rooms = {room.id: room for room in house.rooms}
    stands = tuple(rooms.get(view.room) if view.spec.kind in ("floor", "wall") else None for view in views)
    shared = kept.steady("shared by ratings", (house.spread_k, house.practice, house.tables, house.air_density))
    each = (reference_k, shared, entries(types), *targets.values(), *views, *stands)
    made = partial(_rate_each, house, views, stands, shared, kept, reference_k=reference_k)
    return kept.told(("rated", len(views), reference_k), each, findings, made)


def _rate_each(
    house: HouseView, views: tuple[EmitterView, ...], stands: tuple[RoomView | None, ...], shared: Needs, kept: Kept, findings: Findings,
    *, reference_k: float,
) -> list[Rated]:  # fmt: skip
    types, targets, out = house.job.library.emitter_types, house.targets, []
    for view, room in zip(views, stands, strict=True):
        needs = (view, types.get(view.spec.type or ""), targets.get(view.room), room, shared)
        made = partial(rate, house, view, reference_k=reference_k)
        out.append(kept.told(("rated", view.id, reference_k), needs, findings, made))
    return out


def arrays(house: HouseView, findings: Findings, kept: Kept | None = None) -> EmitterArrays:
    """All emitters of the house by room."""
    kept = kept or Afresh()
    reference = reference_of(house.practice)
    rated = rate_all(house, house.emitters, findings, kept, reference_k=reference)
    ids = tuple(room.id for room in house.rooms)
    by_mean = house.practice.excess == "arithmetic"
    needs = (ids, by_mean, house.spread_k, reference, *rated)
    return kept.of("emitter arrays", needs, partial(_arrays, ids, rated, house.spread_k, reference, by_mean=by_mean))


def _arrays(
    ids: tuple[str, ...], rated: list[Rated], spread_k: float, reference: float, *, by_mean: bool
) -> EmitterArrays:
    room_index = {key: n for n, key in enumerate(ids)}
    slots: list[list[int]] = [[] for _ in room_index]
    fixed = np.zeros(len(slots))
    for n, one in enumerate(rated):
        if one.rated_w is not None:
            slots[room_index[one.view.room]].append(n)
        fixed[room_index[one.view.room]] += one.fixed_w
    width = max((len(s) for s in slots), default=0) or 1
    watts = np.zeros((len(slots), width))
    exponent = np.full((len(slots), width), DEFAULT_EXPONENT)
    spread = np.full((len(slots), width), spread_k)
    mean = np.zeros((len(slots), width), dtype=bool)
    same = np.ones(len(slots), dtype=bool)
    for r, row in enumerate(slots):
        for e, n in enumerate(row):
            watts[r, e], exponent[r, e], spread[r, e] = rated[n].rated_w, rated[n].exponent, rated[n].spread_k
            mean[r, e] = by_mean and rated[n].surface is None  # EN 1264 knows the log mean only
        if row:
            used = slice(0, len(row))
            same[r] = len(set(spread[r, used].tolist())) == 1 and len(set(mean[r, used].tolist())) == 1
            spread[r, len(row) :], mean[r, len(row) :] = spread[r, 0], mean[r, 0]
    return EmitterArrays(rated, watts, exponent, spread, mean, same, fixed, slots, reference)


def own_share(emitters: EmitterArrays, load_w: Array) -> Array:
    """Part of each room's load (R,) that heaters of its own carry on the design day; it is kept for the whole season."""
    safe = np.where(load_w > 0, load_w, 1.0)
    return np.asarray(np.where(load_w > 0, np.minimum(emitters.fixed_w / safe, 1.0), 0.0))


def needed_flow(
    emitters: EmitterArrays, *, load_w: Array, target_c: Array, part: Array | float = 1.0
) -> tuple[Array, Array]:
    """Flow temperature (…, R) each room needs for the load its water must meet, and each emitter's excess (…, R, E).

    `part` (…, R): the share of the design load this is; spreads shrink with it, the flow being the design one.
    NaN where a room's water has nothing to meet, infinite where it has no emitter.
    """
    share = np.broadcast_to(np.asarray(part, float), load_w.shape)
    room_spread = emitters.spread_k[:, 0] * share
    common = radiator.excess_for_output(
        wanted_w=load_w, rated_w=emitters.rated_w, exponent=emitters.exponent, reference_k=emitters.reference_k
    )
    flow = np.asarray(radiator.flow_for_log_excess(excess_k=common, spread_k=room_spread, room_c=target_c))
    if emitters.arithmetic.any():
        plain = np.asarray(radiator.flow_for_arithmetic_excess(excess_k=common, spread_k=room_spread, room_c=target_c))
        flow = np.where(emitters.arithmetic[:, 0], plain, flow)
    excess = np.repeat(common[..., None], emitters.rated_w.shape[-1], axis=-1)
    mixed = ~emitters.same
    if mixed.any():
        spread = emitters.spread_k[mixed] * share[..., mixed, None]
        room = np.broadcast_to(target_c, load_w.shape)[..., mixed]
        found = radiator.flow_for_mix(
            wanted_w=load_w[..., mixed], rated_w=emitters.rated_w[mixed], exponent=emitters.exponent[mixed], spread_k=spread,
            room_c=room, reference_k=emitters.reference_k, arithmetic=emitters.arithmetic[mixed],
        )  # fmt: skip
        flow[..., mixed] = found
        safe = np.where(np.isfinite(found), found, room)
        excess[..., mixed, :] = radiator.mixed_excess(
            flow_c=safe[..., None], spread_k=spread, room_c=room[..., None], arithmetic=emitters.arithmetic[mixed]
        )
    return np.where(load_w > 0, flow, np.nan), excess


def output_at(emitters: EmitterArrays, excess_k: Array) -> Array:
    """Output of each emitter (R, E) at its own excess (R, E), W."""
    safe = np.where(np.isfinite(excess_k), np.maximum(excess_k, 0.0), 0.0)
    return np.asarray(
        radiator.output(
            rated_w=emitters.rated_w, exponent=emitters.exponent, excess_k=safe, reference_k=emitters.reference_k
        )
    )
