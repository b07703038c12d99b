"""A set, or one way, taken into the active scheme as one change."""

from __future__ import annotations

import numpy as np

from cinder.design.apart import measures
from cinder.design.apart.ways.cheapest import Cheapest
from cinder.design.apart.ways.choose import at
from cinder.design.apart.ways.front import lacking
from cinder.design.apart.ways.options import Chosen, HouseOptions, applied, options_of
from cinder.design.apart.ways.way import Lists, Prices, Table
from cinder.design.curve.fit import HAND_SET, set_at
from cinder.errors import NotFound
from cinder.model import Job
from cinder.model.operation import Operation


def operations(job: Job, flow_c: float, prices: Prices, table: Table, lists: Lists = ()) -> list[Operation]:
    """The one change that takes the cheapest set at a temperature into the active scheme.

    Raises `NotFound` where no set serves every room, naming the rooms and what they lack.
    """
    return operations_of(options_of(job, prices, table, lists), flow_c)


def operations_of(found: HouseOptions, flow_c: float) -> list[Operation]:
    """The same from what can be chosen from."""
    job, chosen = found.job, at(found, flow_c)
    if not chosen.answer.possible:
        lacks = [f"{one.label} by {one.short_w:.0f} W ({one.mend})" for one in lacking(found, chosen.answer)]
        raise NotFound(
            f"No set of changes serves every room at {flow_c:g} °C: short {', '.join(lacks) or 'by what excludes each other'}."
        )
    return _difference(job, applied(found, chosen, flow_c))


def operations_of_way(found: HouseOptions, key: str) -> list[Operation]:
    """The one change that takes a single way into the active scheme, the water left as it is.

    Raises `NotFound` for a way that is not on offer.
    """
    if key.removeprefix("measure:") in found.tried:
        return measures.operations(found.job, [key.removeprefix("measure:")], found.costs.table)
    for n, ways in enumerate(found.ways):
        for way in ways:
            if f"way:{way.key}" == key:
                answer = Cheapest(True, (), (), 0.0, True, 0.0, np.zeros(0))
                after = applied(found, Chosen(answer, [(n, way)], [], way.cost_minor, way.yearly_minor), None)
                return _difference(found.job, after)
    raise NotFound("That is not on offer here any more.")


def _difference(job: Job, after: Job) -> list[Operation]:
    """The operations that lead from one job to the other: library, measures, emitters, targets, water, curve."""
    key = job.active_scheme or ""
    out: list[Operation] = []
    for kind in ("constructions", "emitter_types"):
        for name, frozen in getattr(after.library, kind).items():
            if name not in getattr(job.library, kind):
                out.append({"op": "add", "path": f"/library/{kind}/{name}", "value": frozen.model_dump(mode="json")})
    before, now = job.schemes[key], after.schemes[key]
    for kind in ("measures", "emitters", "targets"):
        known = getattr(before, kind)
        for name, one in getattr(now, kind).items():
            if known.get(name) != one:
                value = one if kind == "targets" else one.model_dump(mode="json", exclude_none=True)
                out.append(
                    {
                        "op": "replace" if name in known else "add",
                        "path": f"/schemes/{key}/{kind}/{name}",
                        "value": value,
                    }
                )
    if now.flow_c != before.flow_c:
        out.append(
            {"op": "add" if before.flow_c is None else "replace", "path": f"/schemes/{key}/flow_c", "value": now.flow_c}
        )
    out += [
        {"op": "remove", "path": f"/schemes/{key}/control/{name}"}
        for name in HAND_SET
        if set_at(before.control, name) is not None and set_at(now.control, name) is None
    ]
    return out
