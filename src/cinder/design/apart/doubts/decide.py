"""How far the losses may be off: every cause drawn once per sample, all together, through the same evaluation.

A doubt belongs to its cause (a construction used on forty faces, the bias of the laser), not to each face. Causes act
as factors: in logarithms each sample is one row of draws times a matrix of which cause touches which piece.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, field, replace

import numpy as np

from cinder.design import emitters as emitter_design
from cinder.design import losses
from cinder.design.air.decide import sampled
from cinder.design.apart.doubts.result import Cause, Doubts, Range
from cinder.design.base import Screen
from cinder.design.emitters.decide import EmitterArrays, needed_flow, own_share
from cinder.design.findings import Findings
from cinder.design.house.view import HouseView, view
from cinder.design.losses.evaluate import LossArrays, Losses
from cinder.library import load
from cinder.model import Job, Known
from cinder.model.parts import part_key
from cinder.physics.quantity import Array

SAMPLES = 4000
SEED = 1908
Z90 = 1.2815515655446004
PROPOSED = "proposed"
"""In place of a path: what a scheme puts in has none in the survey."""
WEAKEST = ("assumed", "inferred", "told", "read", "measured")
OUTPUT_OF = {"stated": "stated emitters", "fan": "fan units", "floor": "heated floors", "wall": "heated walls"}
LEAST_KELVIN = 0.005
LEAST_WATTS = 0.5


@dataclass(slots=True)
class _Cause:
    """A cause being gathered: its spread, and its power on each piece's U and area, each room's size and radiators."""

    key: str
    label: str
    how: str
    low: float
    high: float
    mend: str
    screen: Screen
    paths: list[str] = field(default_factory=list)
    u: dict[int, float] = field(default_factory=dict)
    area: dict[int, float] = field(default_factory=dict)
    bridge: float = 0.0
    volume: dict[int, float] = field(default_factory=dict)
    leak: float = 0.0
    rating: dict[int, float] = field(default_factory=dict)

    def mean_and_sigma(self) -> tuple[float, float]:
        """Of the logarithm: P10 = 1 - low, P90 = 1 + high."""
        a, b = math.log(max(1 - self.low, 0.05)), math.log(1 + self.high)
        return (a + b) / 2, (b - a) / (2 * Z90)


def _weakest(known: Iterable[Known | None]) -> Known:
    found = [k or Known(how="assumed") for k in known]
    return min(found, key=lambda k: WEAKEST.index(k.how), default=Known(how="assumed"))


def _spread(kind: str, known: Known) -> tuple[float, float]:
    if known.spread is not None:
        return min(known.spread, 0.95), known.spread
    entry = load().spreads[kind]
    row = (
        entry.tape
        if kind == "length" and known.how == "measured" and known.via == "tape"
        else getattr(entry, known.how)
    )
    return float(row[0]), float(row[1])


def _make(
    kind: str, key: str, label: str, known: Known, mend: str, screen: Screen, paths: list[str] | None = None
) -> _Cause:
    low, high = _spread(kind, known)
    return _Cause(key, label, known.how, low, high, mend, screen, paths or [])


def gather(house: HouseView, arrays: LossArrays, rated: EmitterArrays) -> list[_Cause]:
    """Every cause of doubt of this house, with what it touches."""
    out = [*_constructions(house, arrays), *_sizes(house, arrays), *_openings(house, arrays)]
    known = house.job.survey.tightness.known.get("n50_per_h")
    if house.job.survey.tightness.n50_per_h is None or known is None:
        known = Known(how="assumed")
    tight = _make("air", "tightness", "How tight the house is", known, "A blower-door test.", "site",
                  ["/survey/tightness/known/n50_per_h"])  # fmt: skip
    tight.leak = 1.0
    site = house.job.site.known
    bridge = _make("bridge", "bridges", "Thermal bridges", site.get("bridges") or Known(how="assumed"),
                   "Look at corners, sills and floor edges; or list them one by one.", "site", ["/site/known/bridges"])  # fmt: skip
    bridge.bridge = 1.0
    ground = _make("ground", "ground", "The ground under the floor", site.get("ground") or Known(how="assumed"),
                   "Clay, sand or rock? Is there water near?", "site", ["/site/known/ground"])  # fmt: skip
    ground.u = {n: 1.0 for n, p in enumerate(arrays.pieces) if p.group == "ground"}
    out += [tight, bridge, *([ground] if ground.u else []), *_spaces(house, arrays), *_radiators(house, rated)]
    return out


def _constructions(house: HouseView, arrays: LossArrays) -> list[_Cause]:
    """One cause per construction, known as well as the least known place that uses it."""
    pieces: dict[str, list[int]] = {}
    evidence: dict[str, dict[str, Known | None]] = {}
    for n, piece in enumerate(arrays.pieces):
        if piece.junction is not None:
            continue
        room = house.rooms[piece.room]
        face = next(f for f in room.faces if f.key == piece.face)
        doc = room.room.faces.get(piece.face)
        if piece.opening is not None:
            opening = next(o for o in face.openings if o.id == piece.opening)
            key, kind = opening.construction, opening.kind
            own = doc.openings[piece.opening] if doc else None
            path = f"/survey/rooms/{room.id}/faces/{piece.face}/openings/{piece.opening}/known/construction"
            stated, proof = bool(own and own.construction), own.known.get("construction") if own else None
            proposed = opening.measure is not None
        else:
            key = face.pieces[piece.stretch].construction
            kind = house.constructions[key].element if key else ""
            path = f"/survey/rooms/{room.id}/faces/{piece.face}/known/construction"
            stated, proof = bool(doc and doc.construction), doc.known.get("construction") if doc else None
            proposed = face.measure is not None and key == face.construction
        if key is None:
            continue
        if proposed:  # nobody has measured what is not built yet: it is known from the library it was chosen in
            pieces.setdefault(key, []).append(n)
            evidence.setdefault(key, {})[PROPOSED] = Known(how="read")
            continue
        if not stated:
            parts = house.job.survey.parts
            part = part_key(house.job.survey, room.room.part) or ""
            usual = "party_wall" if piece.group == "neighbour" and kind == "wall" else kind
            name = next((e for e, c in parts[part].constructions.items() if c == key), usual) if part else usual
            path = f"/survey/parts/{part}/known/{name}"
            proof = parts[part].known.get(name) if part else None
        pieces.setdefault(key, []).append(n)
        evidence.setdefault(key, {})[path] = proof
    out = []
    for key, which in pieces.items():
        label = house.construction_label(key)
        known = _weakest(evidence[key].values())
        windows = house.constructions[key].element in ("window", "door")
        mend = "Read the spacer or the label." if windows else "Look: reveal, bond, a lifted board, a drilled hole."
        paths = [path for path in evidence[key] if path != PROPOSED]
        if not paths:
            mend = "A proposal: see that it is built so."
        cause = _make("construction", f"construction:{key}", label, known, mend, "rooms", paths)
        cause.u = dict.fromkeys(which, 1.0)
        out.append(cause)
    return out


def _sizes(house: HouseView, arrays: LossArrays) -> list[_Cause]:
    """Measured lengths share one bias; what was told or assumed is a doubt of its own room."""
    out: dict[str, _Cause] = {}
    for r, room in enumerate(house.rooms):
        if not arrays.complete[r]:
            continue
        for name, word in (("walk", "walls"), ("height_m", "height")):
            known = room.room.known.get(name) or Known(how="assumed")
            path = f"/survey/rooms/{room.id}/known/{name}"
            if known.how == "measured":
                via = known.via or "laser"
                key, label = f"lengths:{via}", f"Lengths by {via}"
                mend = "Measure one long wall twice; compare with a tape."
            else:
                key, label = f"size:{room.id}:{name}", f"{room.name}, {word}"
                mend = "Measure it."
            cause = out.setdefault(key, _make("length", key, label, known, mend, "plan"))
            cause.paths.append(path)
            _scale(cause, arrays, r, plan=name == "walk")
    return list(out.values())


def _scale(cause: _Cause, arrays: LossArrays, room: int, *, plan: bool) -> None:
    """Floors grow with the square of the walk, walls with walk and height, the volume with both."""
    for n, piece in enumerate(arrays.pieces):
        if piece.room != room or piece.opening is not None:
            continue
        level = piece.face in ("floor", "ceiling")
        power = (2.0 if level else 1.0) if plan else (0.0 if level else 1.0)
        if piece.junction is not None:
            power = 1.0 if plan else 0.0
        if power:
            cause.area[n] = cause.area.get(n, 0.0) + power
    cause.volume[room] = cause.volume.get(room, 0.0) + (2.0 if plan else 1.0)


def _openings(house: HouseView, arrays: LossArrays) -> list[_Cause]:
    out: dict[str, _Cause] = {}
    for n, piece in enumerate(arrays.pieces):
        if piece.opening is None:
            continue
        room = house.rooms[piece.room]
        known = room.room.faces[piece.face].openings[piece.opening].known.get("size") or Known(how="assumed")
        key = f"windows:{known.how}"
        cause = out.setdefault(key, _make("window", key, f"Window and door sizes, {known.how}", known,
                                          "Measure width and height of each.", "rooms"))  # fmt: skip
        cause.paths.append(f"/survey/rooms/{room.id}/faces/{piece.face}/openings/{piece.opening}/known/size")
        cause.area[n] = 1.0
    return list(out.values())


def _spaces(house: HouseView, arrays: LossArrays) -> list[_Cause]:
    out: dict[str, _Cause] = {}
    for n, piece in enumerate(arrays.pieces):
        face = next(f for f in house.rooms[piece.room].faces if f.key == piece.face)
        beyond = face.pieces[piece.stretch].stretch.beyond
        if beyond.kind != "space":
            continue
        space = house.job.survey.spaces[beyond.space or ""]
        cause = out.setdefault(
            f"space:{beyond.space}",
            _make("space", f"space:{beyond.space}", f"How cold it gets in the {(space.label or 'space').lower()}",
                  space.known.get("kind") or Known(how="assumed"), "How is it closed against the outside?", "site",
                  [f"/survey/spaces/{beyond.space}/known/kind"]),
        )  # fmt: skip
        cause.u[n] = 1.0
    return list(out.values())


def _radiators(house: HouseView, rated: EmitterArrays) -> list[_Cause]:
    """One cause per kind of radiator; it moves the water, not the loss."""
    out: dict[str, _Cause] = {}
    for r, slots in enumerate(rated.slots):
        total = float(rated.rated_w[r].sum())
        for e, slot in enumerate(slots):
            one = rated.rated[slot]
            doc = house.job.survey.emitters.get(one.view.id)
            proof = (doc.known.get("spec") if doc else None) if one.view.action == "keep" else Known(how="read")
            known = proof or Known(how="assumed")
            kind = one.view.spec.type or one.view.spec.kind
            entry = house.job.library.emitter_types.get(kind)
            label = f"Output of {entry.data.label if entry else OUTPUT_OF.get(kind, kind)}, {known.how}"
            key = f"emitter:{kind}:{known.how}"
            cause = out.setdefault(key, _make("emitter", key, label, known, "Find its plate or catalogue.", "rooms"))
            if entry is not None and entry.data.spread is not None and one.view.spec.output_w is None:
                cause.low, cause.high = max(cause.low, entry.data.spread[0]), max(cause.high, entry.data.spread[1])
            if one.view.action == "keep":
                cause.paths.append(f"/survey/emitters/{one.view.id}/known/spec")
            cause.rating[r] = cause.rating.get(r, 0.0) + float(rated.rated_w[r, e]) / total if total else 0.0
    return list(out.values())


def _matrix(causes: list[_Cause], name: str, width: int) -> Array:
    out = np.zeros((len(causes), width))
    for c, cause in enumerate(causes):
        for n, power in getattr(cause, name).items():
            out[c, n] = power
    return out


def drawn(arrays: LossArrays, causes: list[_Cause], logs: Array) -> tuple[LossArrays, Array]:
    """The house under each row of draws: `logs` (S, C) logarithms of each cause's factor.

    Returns the arrays with a leading sample axis, and the factor (S, R) on each room's radiators.
    """
    pieces, rooms = len(arrays.pieces), len(arrays.room_index)
    volume = np.exp(logs @ _matrix(causes, "volume", rooms))
    leak = np.exp(logs @ np.array([c.leak for c in causes]))
    bridge = np.exp(logs @ np.array([c.bridge for c in causes]))
    base = arrays.volume_m3 * arrays.complete
    share = base / base.sum() if base.sum() > 0 else base
    return (
        replace(
            arrays,
            piece_u=arrays.piece_u * np.exp(logs @ _matrix(causes, "u", pieces)),
            piece_area=arrays.piece_area * np.exp(logs @ _matrix(causes, "area", pieces)),
            piece_bridge=arrays.piece_bridge * bridge[:, None],
            air=sampled(arrays.air, leak=leak, volume=volume, mean_volume=volume @ share),
        ),
        np.exp(logs @ _matrix(causes, "rating", rooms)),
    )


def _range(watts: Array) -> Range:
    low, middle, high = np.percentile(watts, [10, 50, 90])
    return Range(p10_w=float(low), p50_w=float(middle), p90_w=float(high))


def _highest_flow(arrays: LossArrays, worked: Losses, rated: EmitterArrays, factor: Array) -> Array:
    """Flow temperature (S,) that serves every room with an emitter; a weaker radiator is a greater load."""
    load = worked.emitter_load_w
    water = load * (1 - own_share(rated, load))
    needed, _ = needed_flow(rated, load_w=water / factor, target_c=arrays.target_c)
    usable = np.where(np.isfinite(needed), needed, -np.inf)
    return np.asarray(usable.max(axis=-1)) if usable.shape[-1] else np.full(len(factor), -np.inf)


@dataclass(frozen=True, slots=True)
class Sampled:
    """Every cause of doubt in every sample: `factors` (S, C) on what each touches, `house_w` (S,) at an ordinary outdoor temperature, and
    `single_w`, the same with every cause at one."""

    causes: list[_Cause]
    factors: Array
    house_w: Array
    single_w: float


def sampled_causes(job: Job, outdoor_c: float, *, samples: int = SAMPLES, seed: int = SEED) -> Sampled | None:
    """What the range is made of, for who has measured the house; None where there is none yet."""
    findings = Findings()
    house = view(job, findings)
    arrays = losses.of_house(house, findings)
    if house.outdoor_c is None or not arrays.complete.any():
        return None
    causes = gather(house, arrays, emitter_design.arrays(house, findings))
    mean, sigma = (np.array(column) for column in zip(*(c.mean_and_sigma() for c in causes), strict=True))
    logs = mean + sigma * np.random.default_rng(seed).standard_normal((samples, len(causes)))
    made, _ = drawn(arrays, causes, logs)
    worked = losses.evaluate(made, outdoor_c).house_w
    return Sampled(causes, np.exp(logs), np.asarray(worked), float(losses.evaluate(arrays, outdoor_c).house_w))


def judge(job: Job, *, samples: int = SAMPLES, seed: int = SEED) -> Doubts:
    """P10 to P90 of the house and every room, and every doubt ranked by what it moves.

    Reproducible: the same job, samples and seed give the same figures. Spreads are P10 to P90, lognormal.
    Source: handbook spreads are our choice (library `spreads`); sampling after JCGM 101 (from memory).
    """
    findings = Findings()
    house = view(job, findings)
    arrays = losses.of_house(house, findings)
    if house.outdoor_c is None or not arrays.complete.any():
        lacks = "no climate" if house.outdoor_c is None else "no complete room"
        return Doubts(samples=0, seed=seed, house=None, rooms={}, flow_p10_c=None, flow_p90_c=None, causes=[],
                      single_w=None, sentence=f"No range yet: there is {lacks}.")  # fmt: skip
    rated = emitter_design.arrays(house, findings)
    causes = gather(house, arrays, rated)
    mean, sigma = (np.array(column) for column in zip(*(c.mean_and_sigma() for c in causes), strict=True))
    draws = np.random.default_rng(seed).standard_normal((samples, len(causes)))
    sampled, factor = drawn(arrays, causes, mean + sigma * draws)
    worked = losses.evaluate(sampled, house.outdoor_c)
    flows = _highest_flow(arrays, worked, rated, factor)
    flows = flows[np.isfinite(flows)]
    single = float(losses.evaluate(arrays, house.outdoor_c).house_w)
    names = list(arrays.room_index)
    total = _range(worked.house_w)
    ranked = _ranked(house, arrays, rated, causes, mean, sigma)
    return Doubts(
        samples=samples,
        seed=seed,
        house=total,
        rooms={names[r]: _range(worked.emitter_load_w[:, r]) for r in range(len(names)) if arrays.complete[r]},
        flow_p10_c=float(np.percentile(flows, 10)) if flows.size else None,
        flow_p90_c=float(np.percentile(flows, 90)) if flows.size else None,
        causes=ranked,
        single_w=single,
        sentence=_sentence(total, ranked),
    )


def _ranked(
    house: HouseView, arrays: LossArrays, rated: EmitterArrays, causes: list[_Cause], mean: Array, sigma: Array
) -> list[Cause]:
    """Each cause alone from its P10 to its P90, all others at their middle."""
    count = len(causes)
    logs = np.zeros((2 * count, count))
    for c in range(count):
        logs[c, c] = mean[c] - Z90 * sigma[c]
        logs[count + c, c] = mean[c] + Z90 * sigma[c]
    swung, factor = drawn(arrays, causes, logs)
    worked = losses.evaluate(swung, house.outdoor_c or 0.0)
    watts = np.abs(worked.house_w[count:] - worked.house_w[:count])
    flow = _highest_flow(arrays, worked, rated, factor)
    with np.errstate(invalid="ignore"):
        kelvin = np.nan_to_num(np.abs(flow[count:] - flow[:count]))
    out = [
        Cause(
            key=c.key, label=c.label, how=c.how, low_share=c.low, high_share=c.high, watts_w=float(watts[n]),
            flow_k=float(kelvin[n]), paths=c.paths, mend=c.mend, screen=c.screen,
        )
        for n, c in enumerate(causes)
        if watts[n] > LEAST_WATTS or kelvin[n] > LEAST_KELVIN
    ]  # fmt: skip
    return sorted(out, key=lambda c: -(c.watts_w + 1e-3 * c.flow_k))


def _sentence(total: Range, causes: list[Cause]) -> str:
    text = f"The house loses **{total.p10_w / 1000:.1f} to {total.p90_w / 1000:.1f} kW**."
    if causes:
        first = causes[0]
        text += f" **{first.label}** ({first.how}) moves it most, by {first.watts_w / 1000:.2f} kW: {first.mend}"
    return text
