"""Measures of the whole house with what each takes off every room, and packages where two do not add up."""

from __future__ import annotations

import numpy as np

from cinder.design.apart import measures
from cinder.design.apart.ways.cheapest import Shared
from cinder.design.apart.ways.way import PREFERRED, Table
from cinder.design.findings import Findings
from cinder.design.house.view import HouseView, view
from cinder.design.kept import Kept
from cinder.design.losses.assemble import of_house
from cinder.design.losses.evaluate import LossArrays, Losses, evaluate
from cinder.model import Job
from cinder.physics.quantity import Array

INTERACTS_W = 1.0
MOST_PACKAGES = 60


def of_the_house(
    job: Job, table: Table, load_w: Array, served: list[int], kept: Kept
) -> tuple[list[Shared], dict[str, measures.OptionParts], dict[str, tuple[str, ...]]]:
    """Measures of the whole house with what each takes off; where two do not simply add up, they stand as a package too."""
    scheme = job.schemes[job.active_scheme or ""]
    refused = set(scheme.refused)
    shared: list[Shared] = []
    tried: dict[str, measures.OptionParts] = {}
    off: dict[str, Array] = {}
    for found in measures.found_in(job, table, kept):
        option = found.option
        pins = measure_pins(found)
        if refused.intersection(pins):
            continue
        takes = load_w - loads_w(measures.applied(job, found, measures.OWN), kept)
        if np.maximum(takes, 0.0).sum() <= INTERACTS_W:
            continue
        wish = {scheme.wishes.get(pin) for pin in pins}
        cost = option.cost_minor * (PREFERRED if "prefer" in wish else 1.0)
        must = tuple(pin for pin in pins if scheme.wishes.get(pin) == "must")
        off[option.key] = takes
        tried[option.key] = found
        shared.append(Shared(option.key, cost, np.maximum(takes, 0.0)[served], option.was or "air", must=must))
    packages: dict[str, tuple[str, ...]] = {}
    spaced = _spaced(job, kept)
    new = {entry.id for entry in table.values() if entry.put}
    for one in list(shared):
        others = [
            two for two in shared if two.groups == () and _may_interact(tried[one.key], tried[two.key], spaced, new)
        ]
        if not others or len(packages) >= MOST_PACKAGES:
            continue
        first = measures.applied(job, tried[one.key], measures.OWN)
        fits = {found.option.key: found for found in measures.found_in(first, table, kept)}
        for two in others:
            key, back = f"{one.key} + {two.key}", f"{two.key} + {one.key}"
            if two.key not in fits or back in packages:
                continue
            both = _both(off[one.key], tried[one.key], fits[two.key], spaced)
            if both is None:
                both = load_w - loads_w(measures.applied(first, fits[two.key], measures.OWN), kept)
            if one.group != two.group and np.abs(both - off[one.key] - off[two.key]).max() <= INTERACTS_W:
                continue
            packages[key] = (one.key, two.key)
            groups = tuple(dict.fromkeys((one.group, two.group)))
            takes = np.maximum(both, 0.0)[served]
            shared.append(Shared(key, one.cost + two.cost, takes, groups=groups, must=one.must + two.must))
    left = _unbeaten(shared)
    return left, tried, {key: parts for key, parts in packages.items() if any(one.key == key for one in left)}


def _both(
    first_off: Array, first: measures.OptionParts, second: measures.OptionParts, spaced: dict[str, set[str]]
) -> Array | None:
    """What two layers on one construction take off together, by their U-values; None where that is not all there is to it."""
    one, two = first.option, second.option
    if one.was != two.was or one.was in spaced or first.measures[0].kind != "construction":
        return None
    if next(iter(first.constructions.values())).element not in ("wall", "roof"):
        return None
    before, middle, after = one.u_before_w_m2k, one.u_after_w_m2k, two.u_after_w_m2k
    if before is None or middle is None or after is None or before - middle < 1e-6:
        return None
    return np.asarray(first_off * (before - after) / (before - middle))


def _unbeaten(shared: list[Shared]) -> list[Shared]:
    """Measures without those another one on the same constructions beats in cost and effect."""
    out: list[Shared] = []
    for one in sorted(shared, key=lambda s: (s.cost, -float(s.takes_w.sum()))):
        if one.must or not any(
            other.every_group == one.every_group and bool((other.takes_w >= one.takes_w - 1e-9).all()) for other in out
        ):
            out.append(one)
    return out


def measure_pins(found: measures.OptionParts) -> tuple[str, str]:
    """The keys under which a measure of the house is pinned or refused: itself, or all of its kind on one construction."""
    option = found.option
    return f"measure:{option.key}", f"measure:{option.measure}:{option.was or ''}"


def _spaced(job: Job, kept: Kept) -> dict[str, set[str]]:
    """Constructions by the solved unheated spaces they border."""
    house = view(job, Findings(), kept)
    arrays = of_house(house, Findings(), kept)
    out: dict[str, set[str]] = {}
    for piece in arrays.pieces:
        if piece.space in arrays.spaces and piece.construction is not None:
            out.setdefault(piece.construction, set()).add(piece.space or "")
    return out


def _may_interact(
    one: measures.OptionParts, two: measures.OptionParts, spaced: dict[str, set[str]], new: set[str]
) -> bool:
    """Two layers on one construction, or two constructions of one unheated space; all else adds up."""
    a, b = one.option, two.option
    if a.was is None or b.was is None or a.measure == b.measure:
        return False
    if a.was == b.was and any(name in new for name in (a.measure, b.measure)):
        return False  # what is put in anew takes the place of the other
    return a.was == b.was or bool(spaced.get(a.was, set()) & spaced.get(b.was, set()))


def losses_of(job: Job, kept: Kept) -> tuple[HouseView, LossArrays, Losses]:
    """House and losses of a job on its design day."""
    house = view(job, Findings(), kept)
    arrays = of_house(house, Findings(), kept)
    return house, arrays, evaluate(arrays, house.outdoor_c or 0.0)


def loads_w(job: Job, kept: Kept) -> Array:
    return np.asarray(losses_of(job, kept)[2].emitter_load_w)
