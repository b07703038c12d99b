"""Ways to lose less: options by rule, each tried through the whole chain; several together; adopted as one change."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Callable
from dataclasses import dataclass
from functools import partial

from cinder.design.apart.measures.builds import KEY_LENGTH, MM, Use, becomes, u_values
from cinder.design.apart.measures.result import Effects, Measures, Option, Tried
from cinder.design.apart.measures.sun import Sun, kept_out
from cinder.design.curve.fit import freed
from cinder.design.explained import num
from cinder.design.findings import Findings
from cinder.design.house.overlay import LOSING, reaches
from cinder.design.house.tariff import mean_minor_per_kwh
from cinder.design.house.view import HouseView, view
from cinder.design.judgement import design
from cinder.design.kept import Kept
from cinder.design.losses.assemble import of_house
from cinder.design.losses.evaluate import LossArrays
from cinder.design.machine.beside import bill_minor
from cinder.design.result import Design
from cinder.errors import NotFound
from cinder.library import ConstructionEntry, HourlyYear, MeasureEntry, entry_sha256, load
from cinder.model import Frozen, Job, Measure
from cinder.model.operation import Operation

LEAST_AREA_M2 = 0.5
Design1 = Callable[[Job], Design]
MOST_SAID_K = 60.0
"""A house that asks for water no machine has tells nothing by how much less it would ask for."""
OWN = "job"
"""Edition of a construction that was made in the job."""


@dataclass(slots=True)
class OptionParts:
    """An option with the model parts that make it: constructions to take into the job, measures of the scheme."""

    option: Option
    constructions: dict[str, ConstructionEntry]
    measures: list[Measure]


def uses(house: HouseView, arrays: LossArrays) -> list[Use]:
    """Every construction that loses heat to outside, ground or an unheated space, by its build as found and as it is now."""
    out: dict[tuple[str, str], Use] = {}
    for piece, house_factor in zip(arrays.pieces, arrays.piece_house_factor, strict=True):
        if piece.junction is not None or piece.construction is None or (piece.opening is None and house_factor == 0):
            continue
        face = next(f for f in house.rooms[piece.room].faces if f.key == piece.face)
        beyond = face.pieces[piece.stretch].stretch.beyond.kind
        if beyond not in LOSING:
            continue
        root = face.found
        if piece.opening is not None:
            root = next(o.found for o in face.openings if o.id == piece.opening)
        key = root or piece.construction
        one = out.get((key, piece.construction))
        if one is None:
            done = tuple(m.from_table or "" for m in _applied(house, key, beyond))
            one = out[key, piece.construction] = Use(key, house.constructions[piece.construction], {}, done)
        one.areas[beyond] = one.areas.get(beyond, 0.0) + piece.area_m2
    several = Counter(one.root for one in out.values())
    for one in out.values():
        if several[one.root] > 1:  # else options of both would have one key
            one.name = one.now.id
    return list(out.values())


def _applied(house: HouseView, root: str, beyond: str) -> list[Measure]:
    """The scheme's measures that changed a construction on its way."""
    now, out = root, []
    for _, measure in sorted(house.measures("construction"), key=lambda item: (item[1].pos, item[0])):
        if measure.was == now and measure.construction is not None and reaches(measure, beyond):
            now = measure.construction
            out.append(measure)
    return out


def options(house: HouseView, arrays: LossArrays, table: dict[str, MeasureEntry]) -> list[OptionParts]:
    """Every option that fits this house, in the order of the table."""
    used = uses(house, arrays)
    out: list[OptionParts] = []
    for entry in table.values():
        if entry.element == "air":
            out += _tighter(house, arrays.tightness.n50_per_h, entry)
            continue
        for whole in used:
            use = whole.suited(entry)
            if use.now.element != entry.element or entry.id in use.by_measures or use.area_m2 < LEAST_AREA_M2:
                continue
            for thickness in entry.thickness_m or [0.0]:
                for made in becomes(house, use, entry, thickness):
                    found = _option(house, use, entry, thickness, made)
                    if found is not None:
                        out.append(found)
    return out


def _option(
    house: HouseView, use: Use, entry: MeasureEntry, thickness_m: float, becomes: ConstructionEntry
) -> OptionParts | None:
    before, after = u_values(use, becomes)
    if after > before * (1 - entry.least_gain):
        return None
    cost = float(round(entry.fixed_minor + use.area_m2 * (entry.m2_minor + entry.m2_minor_per_m * thickness_m), -2))
    detail = f"{round(thickness_m * MM)} mm" if thickness_m else (becomes.label if entry.put else "")
    tail = f"{round(thickness_m * MM)}" if thickness_m else (becomes.id if entry.put else "")
    option = Option(
        key=":".join(part for part in (entry.id, use.name, tail) if part),
        measure=entry.id,
        label=entry.label,
        detail=detail,
        was=use.name,
        was_label=use.now.label,
        becomes_label=becomes.label,
        area_m2=use.area_m2,
        u_before_w_m2k=before,
        u_after_w_m2k=after,
        cost_minor=cost,
        disturbance=entry.disturbance,
        note=entry.note,
        cautions=list(entry.caution),
        adopted=False,
    )
    measure = Measure(
        kind="construction", label=f"{entry.label}{', ' + detail if detail else ''}"[:200], from_table=entry.id,
        was=use.now.id, construction=becomes.id, cost_minor=cost, disturbance=entry.disturbance,
        beyond=sorted(use.areas),  # type: ignore[arg-type]
    )  # fmt: skip
    return OptionParts(option, {becomes.id: becomes}, [measure])


def _tighter(house: HouseView, n50_now: float, entry: MeasureEntry) -> list[OptionParts]:
    if any(m.from_table == entry.id for _, m in house.measures("tightness")):
        return []
    n50 = round(n50_now * (entry.tighter or 1.0), 2)
    label = f"n50 {n50_now:.1f} → {n50:.1f} per hour"
    if entry.recover:
        label += f", {entry.recover:.0%} of the heat of the air recovered"
    option = Option(
        key=entry.id, measure=entry.id, label=entry.label, detail=label, was=None, was_label="the whole house",
        becomes_label=label, area_m2=None, u_before_w_m2k=None, u_after_w_m2k=None, cost_minor=entry.fixed_minor,
        disturbance=entry.disturbance, note=entry.note, cautions=list(entry.caution), adopted=False,
    )  # fmt: skip
    made = [
        Measure(
            kind="tightness", label=entry.label, from_table=entry.id, n50_per_h=n50, cost_minor=entry.fixed_minor,
            disturbance=entry.disturbance,
        )
    ]  # fmt: skip
    if entry.recover:
        made.append(Measure(kind="ventilation", label=entry.label, from_table=entry.id, recovery=entry.recover))
    return [OptionParts(option, {}, made)]


def _measure_id(found: OptionParts, n: int) -> str:
    return re.sub(r"[^A-Za-z0-9_-]", "-", f"{found.option.key}{'-' + str(n) if n else ''}")[-KEY_LENGTH:]


def frozen(entry: ConstructionEntry, edition: str) -> Frozen[ConstructionEntry]:
    """A construction made in the job, as it lies there."""
    return Frozen[ConstructionEntry](origin="job", edition=edition, sha256=entry_sha256(entry), data=entry)


def applied(job: Job, found: OptionParts, edition: str) -> Job:
    """The job with an option in its active scheme; the given job is not touched."""
    scheme = job.schemes[job.active_scheme or ""]
    measures = dict(scheme.measures)
    pos = max([m.pos for m in measures.values()], default=-1.0) + 1
    for n, measure in enumerate(found.measures):
        measures[_measure_id(found, n)] = measure.model_copy(update={"pos": pos + n})
    constructions = dict(job.library.constructions)
    for key, entry in found.constructions.items():
        if key not in constructions:
            constructions[key] = frozen(entry, edition)
    return job.model_copy(
        update={
            "library": job.library.model_copy(update={"constructions": constructions}),
            "schemes": {**job.schemes, job.active_scheme or "": scheme.model_copy(update={"measures": measures})},
        }
    )


def found_in(job: Job, table: dict[str, MeasureEntry], kept: Kept | None = None) -> list[OptionParts]:
    """Every option that fits a job as its active scheme leaves it."""
    house = view(job, Findings(), kept)
    return options(house, of_house(house, Findings(), kept), table)


def combined(job: Job, keys: list[str], table: dict[str, MeasureEntry], edition: str) -> tuple[Job, list[OptionParts]]:
    """The job with several options, one after the other; each is looked for on what the ones before left.

    Raises `NotFound` for an option that does not exist, or that another chosen one has made impossible.
    """
    out, taken = job, []
    for key in keys:
        known = {found.option.key: found for found in found_in(out, table)}
        if key not in known:
            raise NotFound(f"The measure {key!r} does not fit this house, or not beside the others chosen.")
        out = applied(out, known[key], edition)
        taken.append(known[key])
    return out, taken


def operations(job: Job, keys: list[str], table: dict[str, MeasureEntry], edition: str = OWN) -> list[Operation]:
    """The one change that adopts these options: constructions into the job, measures into its active scheme."""
    if job.active_scheme is None:
        raise NotFound("There is no scheme to take measures into.")
    after, _ = combined(job, keys, table, edition)
    scheme = job.active_scheme or ""
    out: list[Operation] = []
    for key, kept in after.library.constructions.items():
        if key not in job.library.constructions:
            value = kept.model_dump(mode="json")
            out.append({"op": "add", "path": f"/library/constructions/{key}", "value": value})
    for key, measure in after.schemes[scheme].measures.items():
        if key not in job.schemes[scheme].measures:
            value = measure.model_dump(mode="json", exclude_none=True)
            out.append({"op": "add", "path": f"/schemes/{scheme}/measures/{key}", "value": value})
    return out


def effects(job: Job, before: Design, after: Design, cost_minor: float, sun: Sun) -> Effects:
    """What a change did: kilowatts, flow temperature, season, bill; `sun`: what it keeps out."""
    one, two = before.season, after.season

    def less(a: float | None, b: float | None, more: float = 0.0) -> float | None:
        return a - b - more if a is not None and b is not None else None

    bill = less(bill_minor(job, one), bill_minor(job, two), sun.bill_minor)
    return Effects(
        loss_w=(before.house.loss_w or 0.0) - (after.house.loss_w or 0.0),
        flow_c=less(before.waterline.needed_flow_c, after.waterline.needed_flow_c),
        cover=less(_chosen_cover(before), _chosen_cover(after)),
        season=less(one.performance, two.performance),
        bought_kwh=less(one.bought_kwh, two.bought_kwh, sun.bought_kwh),
        heat_kwh=less(one.heat_kwh, two.heat_kwh, sun.heat_kwh),
        sun_kwh=sun.heat_kwh,
        bill_minor=bill,
        cost_minor=cost_minor,
        payback_years=cost_minor / bill if bill is not None and bill > 0 else None,
    )


def _chosen_cover(result: Design) -> float | None:
    return next((row.cover for row in result.machine.rows if row.chosen), None)


def needed_water(job: Job) -> Job:
    """The job with the water left to follow the rooms, so that a measure's whole effect on the season shows."""
    key = job.active_scheme or ""
    scheme = job.schemes[key]
    control = freed(scheme.control)
    free = scheme.model_copy(update={"flow_c": None, "control": control})
    return job.model_copy(update={"schemes": {**job.schemes, key: free}})


def judge(
    job: Job, *, table: dict[str, MeasureEntry] | None = None, edition: str = OWN, judge: Design1 | None = None,
    weather: HourlyYear | None = None, shift_k: float = 0.0,
) -> Measures:  # fmt: skip
    """Every option alone on the active scheme.

    Effects are reckoned with the water following what the rooms need, before and after: else a fixed flow temperature
    would hide half of the gain. `weather`: the hours by which the sun counts that new panes keep out.
    """
    rows = table if table is not None else load().measures
    price = mean_minor_per_kwh(job)
    if job.active_scheme is None or not job.survey.rooms:
        lacks = "There is no scheme to try measures in." if job.survey.rooms else "No room is recorded yet."
        return Measures(base_loss_w=None, base_flow_c=None, base_season=None, base_bill_minor=None,
                        price_minor_per_kwh=price, tried=[], together=None, sun="", sentence=lacks)  # fmt: skip
    free = needed_water(job)
    judge = judge or partial(design, kept=Kept())
    base = judge(free)
    sun, said = kept_out(job, weather, shift_k=shift_k)
    already = sun(free, base)
    tried = []
    for found in found_in(free, rows):
        after = applied(free, found, edition)
        then = judge(after)
        effect = effects(job, base, then, found.option.cost_minor, sun(after, then).beyond(already))
        tried.append(Tried(option=found.option, effect=effect))
    tried = [one for one in tried if one.effect.loss_w > 1.0 or (one.effect.bought_kwh or 0.0) > 1.0]
    return Measures(
        base_loss_w=base.house.loss_w,
        base_flow_c=base.waterline.needed_flow_c,
        base_season=base.season.performance,
        base_bill_minor=bill + already.bill_minor if (bill := bill_minor(job, base.season)) is not None else None,
        price_minor_per_kwh=price,
        tried=tried,
        together=None,
        sun=said,
        sentence=_sentence(tried, base),
    )


def together(
    job: Job, chosen: list[str], *, table: dict[str, MeasureEntry], edition: str = OWN, judge: Design1 | None = None,
    weather: HourlyYear | None = None, shift_k: float = 0.0,
) -> Effects:  # fmt: skip
    """What the chosen options do all at once, the water following the rooms. Raises `NotFound` for an unknown one."""
    if job.active_scheme is None:
        raise NotFound("There is no scheme to try measures in.")
    free = needed_water(job)
    after, taken = combined(free, chosen, table, edition)
    judge = judge or partial(design, kept=Kept())
    sun, _ = kept_out(job, weather, shift_k=shift_k)
    cost = sum(found.option.cost_minor for found in taken)
    before, then = judge(free), judge(after)
    return effects(job, before, then, cost, sun(after, then).beyond(sun(free, before)))


def _named(one: Tried) -> str:
    """A measure as its row is headed: what, with which thickness or build, on what."""
    option = one.option
    detail = f", {option.detail}" if option.detail else ""
    return f"{option.label}{detail}" + (f" on {option.was_label}" if option.was is not None else "")


def _sentence(tried: list[Tried], base: Design) -> str:
    if not tried:
        return "No measure of the table fits this house any more."
    best = max(tried, key=lambda one: one.effect.loss_w)
    said = f"**{_named(best)}** takes most off: **{best.effect.loss_w / 1000:.1f} kW** of {num((base.house.loss_w or 0) / 1000, 1)}"
    if best.effect.flow_c is not None and 0.05 < best.effect.flow_c < MOST_SAID_K:
        said += f", and {best.effect.flow_c:.1f} K off the water"
    paying = [one for one in tried if one.effect.payback_years is not None]
    if paying:
        first = min(paying, key=lambda one: one.effect.payback_years or 1e9)
        said += f". **{_named(first)}** pays back first, in "
        said += f"{first.effect.payback_years:.0f} years on these prices"
    return said + "."
