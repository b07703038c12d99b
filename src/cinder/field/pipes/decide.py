"""Step the pump, read flows and tails, and fit the bores and lengths that nobody can see.

The network is the house as found, every valve wide open. An emitter's flow is read on its indicator, or follows from its heat by its own law
(EN 442) over its spread. The fit knows how well each pipe was surveyed: what was measured hardly moves.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np

from cinder.design import chain
from cinder.design.apart.flows.decide import BORE_SPREAD, LENGTH_SPREAD
from cinder.design.apart.flows.network import OPEN_KV
from cinder.design.apart.running.result import Span
from cinder.design.emitters.decide import EmitterArrays, Rated
from cinder.design.findings import Findings
from cinder.design.house.view import HouseView
from cinder.design.hydraulics.pipes import Tree, tree_of
from cinder.design.kept import Afresh
from cinder.design.result import Design
from cinder.design.step import walk
from cinder.errors import PhysicsError
from cinder.field.pipes import say
from cinder.field.pipes.result import PipeFitted, PipesTested, ReadingJudged, SizeChance
from cinder.library import PipeFamilyEntry
from cinder.model import Job
from cinder.model.survey import PipeTest
from cinder.physics.flow import hydraulic_tree, pipe
from cinder.physics.measured.pipe_fit import Fitted, Prior, Reading, fit
from cinder.physics.quantity import Array
from cinder.physics.rooms import radiator
from cinder.physics.rooms.radiator import Mask

Z90 = 1.2815515655446004
SEEN = ("measured", "read")
HIDDEN_BORE, UNKNOWN_BORE = 0.35, 0.45
"""Sd of the logarithm of a bore somebody guessed, and of one nobody did (our choice: one or two sizes off)."""
UNKNOWN_LENGTH, GUESSED_M = 0.7, 6.0
USUAL_BORE_M = 0.0132
METER, DISPLAY, GAUGES, INDICATOR = 0.03, 0.07, 0.03, 0.07
"""Sd of the logarithm of a flow by the meter, of a head off a pump's display and between gauges, of a flow indicator (our choice)."""
RATING, PROBES_K, LEAST_SPREAD_K = 0.12, 0.7, 1.5
"""What an emitter's rating is worth, what two clip probes differ by; a spread under the last says nothing about the flow (our choice)."""
ODD = 2.5
LIKELY = 0.6
"""A size less likely than this is not proposed."""
WATER_C = 45.0
AT_LPH = 100.0
USUAL_ROOM_C = 20.0


@dataclass(slots=True)
class _End:
    """An emitter at the end of a pipe, with its law."""

    emitter: str
    label: str
    room: str
    pipe: str
    end_pa: float
    """What valve, emitter and loop take wide open, Pa at 1 L/h."""
    rated_w: float
    exponent: float
    arithmetic: bool


@dataclass(slots=True)
class _Taken:
    """Readings that can be used, with their names, and what was said about the others."""

    ids: list[str] = field(default_factory=list)
    readings: list[Reading] = field(default_factory=list)
    odd: dict[str, list[str]] = field(default_factory=dict)


def judge(job: Job) -> PipesTested:
    """The pipes of the house as found, by its tests. Where something is lacking it is said, and nothing is fitted."""
    found = job.model_copy(update={"active_scheme": None})
    known = walk(chain.CHAIN, {"job": found}, Findings(), Afresh())
    house, emitters = known["house"], known["emitters"]
    tree = tree_of(house)
    ends = _ends(house, tree, emitters, known["design"])
    tests = dict(sorted(job.survey.pipe_tests.items(), key=lambda pair: (pair[1].pos, pair[0])))
    labels = {
        key: say.test(n, test, {one.emitter: one.label for one in ends})
        for n, (key, test) in enumerate(tests.items(), start=1)
    }
    if not ends:
        return _nothing(
            "No pipe that was found leads to an emitter yet: draw the runs first, a guess will do.", tests, labels, {}
        )
    taken = _taken(tests, ends, emitters, house)
    if not taken.readings:
        return _nothing(
            "No test yet that names the pump's head and a flow." if tests else say.HOW, tests, labels, taken.odd
        )
    network, prior, hidden = _guessed(house, tree, ends)
    if not hidden.any():
        return _nothing(
            "Every pipe was measured or read off: there is nothing hidden to find.", tests, labels, taken.odd
        )
    try:
        fitted = fit(network, prior, taken.readings)
    except PhysicsError as why:
        return _nothing(f"These readings fit no pipes at all: {why}", tests, labels, taken.odd)
    rank = np.argsort(-np.where(hidden, fitted.took_sd, 0.0), kind="stable")
    pipes = [_pipe(house, tree, fitted, int(n)) for n in rank if hidden[n]]
    pipes.sort(key=lambda one: one.size is None or one.agrees)  # what is otherwise than written down comes first
    readings = _judged(tests, labels, taken, fitted, ends)
    best = int(np.argmax(fitted.narrows))
    return PipesTested(
        lacks="", sentence=say.sentence(pipes, fitted.chi2), pipes=pipes, readings=readings,
        next_emitter=ends[best].emitter if fitted.narrows[best] > 0.05 else None,
        next_says=say.following(ends[best].label, float(fitted.narrows[best])), notes=say.notes(fitted.chi2, len(taken.readings)),
    )  # fmt: skip


def _nothing(
    lacks: str, tests: Mapping[str, PipeTest], labels: Mapping[str, str], odd: Mapping[str, list[str]]
) -> PipesTested:
    return PipesTested(
        lacks=lacks, sentence=lacks, pipes=[],
        readings=[
            ReadingJudged(id=key, label=labels[key], read_lph=one.flow_lph, fits_lph=None, odd=odd.get(key, []))
            for key, one in tests.items()
        ],
        next_emitter=None, next_says="", notes=[],
    )  # fmt: skip


def _ends(house: HouseView, tree: Tree, emitters: EmitterArrays, design: Design) -> list[_End]:
    names = {room.id: room.name for room in house.rooms}
    loops = {
        one.id: one.heated.loop_kpa * 1000 / one.flow_lph**2
        for room in design.rooms
        for one in room.emitters
        if one.heated and one.heated.loop_kpa and one.flow_lph
    }
    out = []
    for r, slots in enumerate(emitters.slots):
        for e, slot in enumerate(slots):
            one = emitters.rated[slot]
            pipe_id = tree.served.get(one.view.id)
            if pipe_id is None or not one.wet:
                continue
            label = f"{names.get(one.view.room, '')}: {one.view.label or one.description}"
            radiates = one.surface is None and bool(one.rated_w)
            out.append(
                _End(
                    one.view.id, label, one.view.room, pipe_id, _open_pa(one) + loops.get(one.view.id, 0.0),
                    float(emitters.rated_w[r, e]) if radiates else 0.0,
                    float(emitters.exponent[r, e]), bool(emitters.arithmetic[r, e]),
                )
            )  # fmt: skip
    return out


def _guessed(house: HouseView, tree: Tree, ends: list[_End]) -> tuple[hydraulic_tree.Tree, Prior, Mask]:
    """The network with what is guessed of every pipe, how sure that is, and which pipes nobody saw (P,)."""
    how = [{name: one.how for name, one in run.known.items()} for run in tree.runs]
    sized, long = np.isfinite(tree.bore_m), np.isfinite(tree.length_m)
    bores_seen = np.array([one.get("size", "assumed") in SEEN for one in how]) & sized
    lengths_seen = np.array([one.get("length_m", "assumed") in SEEN for one in how]) & long
    middle = np.array([_middle(_family(house, run.family)) for run in tree.runs])
    bore_sd = np.where(
        bores_seen,
        [BORE_SPREAD[one.get("size", "assumed")] / Z90 for one in how],
        np.where(sized, HIDDEN_BORE, UNKNOWN_BORE),
    )
    length_sd = np.where(long, [LENGTH_SPREAD[one.get("length_m", "assumed")] / Z90 for one in how], UNKNOWN_LENGTH)
    network = hydraulic_tree.Tree(
        hydraulic_tree.paths(tree.parents, [one.pipe for one in ends]), np.where(sized, tree.bore_m, middle),
        np.where(tree.roughness_m > 0, tree.roughness_m, 7e-6), np.where(long, tree.length_m, GUESSED_M), tree.k_sum,
        np.array([one.end_pa for one in ends]), float(house.fluid.density_kg_m3(temperature_c=WATER_C)),
        float(house.fluid.viscosity_pa_s(temperature_c=WATER_C)), tree.kv_pa,
    )  # fmt: skip
    return network, Prior(bore_sd, length_sd), ~(bores_seen & lengths_seen)


def _open_pa(one: Rated) -> float:
    kv = one.valve.kv_m3h if one.valve else OPEN_KV
    return float(hydraulic_tree.valve_pa(kv_m3h=np.array([kv]))[0])


def _family(house: HouseView, key: str | None) -> PipeFamilyEntry | None:
    frozen = house.job.library.pipe_families.get(key or "")
    return frozen.data if frozen else None


def _middle(family: PipeFamilyEntry | None) -> float:
    """The bore to begin with where nobody named a size, m."""
    small = [one.bore_m for one in family.sizes.values() if one.bore_m <= 0.028] if family else []
    return float(np.exp(np.mean(np.log(small)))) if small else USUAL_BORE_M


def _taken(tests: Mapping[str, PipeTest], ends: list[_End], emitters: EmitterArrays, house: HouseView) -> _Taken:
    out = _Taken()
    row = {one.emitter: n for n, one in enumerate(ends)}
    for key, test in tests.items():
        odd: list[str] = []
        out.odd[key] = odd
        if test.only is not None and test.only not in row:
            odd.append("The emitter left open hangs on no pipe that was found.")
            continue
        if test.head_kpa is None:
            odd.append("The pump's head is missing: read it off the pump or between two gauges.")
            continue
        opened = np.ones(len(ends), dtype=bool) if test.only is None else np.arange(len(ends)) == row[test.only]
        lph, spread = _by_ends(test, ends, opened, emitters, house, odd)
        if test.flow_lph is None and not np.isfinite(lph).any():
            odd.append("No flow: the meter's, an indicator's, or a return with the water that goes out.")
            continue
        if test.flow_lph is not None and test.flow_lph <= 0:
            odd.append("The whole flow is nought: nothing can be learned from it.")
            continue
        out.ids.append(key)
        out.readings.append(
            Reading(
                opened, test.head_kpa * 1000, GAUGES if test.head_by == "gauges" else DISPLAY,
                test.flow_lph if test.flow_lph is not None else math.nan, METER, lph, spread,
            )
        )  # fmt: skip
    return out


def _by_ends(
    test: PipeTest, ends: list[_End], opened: Mask, emitters: EmitterArrays, house: HouseView, odd: list[str]
) -> tuple[Array, Array]:
    """What each emitter takes by its own reading (E,), L/h, NaN where there is none, and the sd of its logarithm."""
    lph, spread = np.full(len(ends), np.nan), np.full(len(ends), INDICATOR)
    for n, one in enumerate(ends):
        if not opened[n]:
            continue
        gauge, back = test.gauges.get(one.emitter), test.returns.get(one.emitter)
        if gauge is not None:
            if gauge > 0:
                lph[n] = gauge
            else:
                odd.append(f"{one.label}: its indicator says nothing flows, with its valve open; left out.")
            continue
        if back is None or test.supply_c is None:
            continue
        apart, room = test.supply_c - back, test.rooms.get(one.room, USUAL_ROOM_C)
        if one.rated_w <= 0:
            odd.append(f"{one.label}: its heat is not known, so its return says no flow.")
        elif back <= room or apart < LEAST_SPREAD_K:
            odd.append(
                f"{one.label}: {apart:.1f} K between the tails "
                + (
                    "is too little to tell a flow by; left out."
                    if back > room
                    else "with a return colder than the room; left out."
                )
            )
        else:
            heat = radiator.side_by_side_w(
                flow_c=np.array([test.supply_c]), return_c=np.array([back]), room_c=np.array([room]), rated_w=np.array([one.rated_w]),
                exponent=np.array([one.exponent]), arithmetic=np.array([one.arithmetic]), reference_k=emitters.reference_k,
            )[0]  # fmt: skip
            lph[n] = float(house.fluid.flow_for_heat_lph(heat_w=heat, spread_k=apart, temperature_c=WATER_C))
            spread[n] = math.hypot(RATING, PROBES_K / apart)
    return lph, spread


def _pipe(house: HouseView, tree: Tree, found: Fitted, n: int) -> PipeFitted:
    run, family = tree.runs[n], _family(house, tree.runs[n].family)
    bore, long = float(found.tree.bore_m[n]), float(found.tree.length_m[n])
    takes = _takes_kpa(house, found.tree, n)
    told = 1.0 - float((found.takes_sd[n] / found.took_sd[n]) ** 2) if found.took_sd[n] > 0 else 0.0
    sizes = _sizes(family, bore, float(found.bore_sd[n]))
    best = sizes[0] if sizes else None
    write = None
    if best is not None and family is not None and best.chance >= LIKELY:
        # with the bore fixed at a size the length follows, so that the two together take what was read
        write = round(long * math.exp(float(found.linked[n]) * math.log(family.sizes[best.size].bore_m / bore)), 1)
    size = best.size if best is not None and write is not None else None
    made = PipeFitted(
        id=tree.keys[n], label=run.label or say.NAMELESS, surveyed=say.surveyed(tree.parts[n].size_label, run.length_m),
        bore_mm=_span(bore * 1000, float(found.bore_sd[n])), length_m=_span(long, float(found.length_sd[n])),
        takes_kpa=_span(takes, float(found.takes_sd[n])), told=max(told, 0.0), family=run.family, sizes=sizes[:3], size=size,
        write_length_m=write, agrees=size is not None and size == run.size, says="",
    )  # fmt: skip
    return made.model_copy(update={"says": say.pipe(made)})


def _span(mid: float, sd: float) -> Span:
    return Span(low=mid * math.exp(-Z90 * sd), mid=mid, high=mid * math.exp(Z90 * sd))


def _takes_kpa(house: HouseView, tree: hydraulic_tree.Tree, n: int) -> float:
    per_m = pipe.friction_pa_per_m(
        flow_lph=np.array([AT_LPH]), bore_m=tree.bore_m[n : n + 1], roughness_m=tree.roughness_m[n : n + 1],
        density_kg_m3=tree.density_kg_m3, viscosity_pa_s=tree.viscosity_pa_s,
    )  # fmt: skip
    return float(per_m[0]) * 2 * float(tree.length_m[n]) / 1000


def _sizes(family: PipeFamilyEntry | None, bore_m: float, sd: float) -> list[SizeChance]:
    """Sizes of the family by how likely they are, the likeliest first."""
    if family is None or not family.sizes or sd <= 0:
        return []
    off = {key: math.log(one.bore_m / bore_m) / sd for key, one in family.sizes.items()}
    weight = {key: math.exp(-0.5 * min(value * value, 1000.0)) for key, value in off.items()}
    total = sum(weight.values())
    if total <= 0:
        return []
    rank = sorted(weight, key=lambda key: -weight[key])
    return [SizeChance(size=key, label=family.sizes[key].label, chance=weight[key] / total) for key in rank]


def _judged(
    tests: Mapping[str, PipeTest], labels: Mapping[str, str], taken: _Taken, found: Fitted, ends: list[_End]
) -> list[ReadingJudged]:
    out = []
    place = {key: n for n, key in enumerate(taken.ids)}
    for key, test in tests.items():
        odd, n, fits = list(taken.odd[key]), place.get(key), None
        if n is not None:
            off = found.off[n]
            if np.isfinite(off[0]) and test.flow_lph:
                fits = test.flow_lph * math.exp(-float(off[0]) * METER)
            names = ["the whole flow", *(one.label for one in ends)]
            odd += [say.odd(names[m], float(off[m])) for m in np.flatnonzero(np.nan_to_num(np.abs(off)) > ODD)]
        out.append(ReadingJudged(id=key, label=labels[key], read_lph=test.flow_lph, fits_lph=fits, odd=odd))
    return out
