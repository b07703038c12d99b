"""What a measured loss says of the doubts: every sampled house weighed by how well it fits, its causes read again (Bayes)."""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from cinder.design.apart.doubts.decide import PROPOSED, Sampled
from cinder.design.apart.running.result import Span
from cinder.design.explained import num
from cinder.field.winter.result import Proposal
from cinder.library import ConstructionEntry
from cinder.model import Job, freeze
from cinder.physics.quantity import Array

MOST = 6
MOVES = 0.06
"""A cause is told of where its middle moves by so much, or its spread shrinks by a third (our choice)."""
SHRINKS = 0.33
LEAST_FIT = 40.0
"""Houses that must still be in play: with fewer the measured loss lies beyond what was thought possible."""


def weighed(sampled: Sampled, ratio: float, sd: float) -> Array:
    """Weights (S,) of the sampled houses by a measured loss, as a ratio to the design's with its standard deviation."""
    off = sampled.house_w / sampled.single_w - ratio
    weight = np.exp(-0.5 * (off / sd) ** 2)
    return np.asarray(weight / max(float(weight.sum()), 1e-300))


def proposals(job: Job, sampled: Sampled, ratio: float, sd: float) -> tuple[list[Proposal], str]:
    """What to think of every doubt now, those that moved most first, and what is to be said where none of it fits."""
    weight = weighed(sampled, ratio, sd)
    alive = 1 / float((weight**2).sum()) if weight.sum() > 0.5 else 0.0
    if alive < LEAST_FIT:
        return [], (
            "What was measured lies beyond everything the survey thought possible: look for something that was not seen at all "
            "(a meter, a stove, an unheated room, a mistake in the plan) before any single doubt is moved."
        )
    out = []
    for n, cause in enumerate(sampled.causes):
        factors = sampled.factors[:, n]
        before, after = _span(factors, np.full(len(factors), 1 / len(factors))), _span(factors, weight)
        settled = 1 - (after.high - after.low) / max(before.high - before.low, 1e-9)
        moved = after.mid / before.mid - 1
        if abs(moved) < MOVES and settled < SHRINKS:
            continue
        label, operations = _taken(job, cause.key, cause.label, cause.paths, after)
        out.append(
            Proposal(
                key=cause.key, label=cause.label, before=before, after=after, settled=max(settled, 0.0), says=_says(cause.label, moved, settled),
                take_label=label, operations=operations,
            )
        )  # fmt: skip
    return sorted(out, key=lambda one: -abs(math.log(one.after.mid / one.before.mid)))[:MOST], ""


def _span(values: Array, weight: Array) -> Span:
    order = np.argsort(values)
    total = np.cumsum(weight[order])
    low, mid, high = (
        float(values[order][min(int(np.searchsorted(total, q)), len(values) - 1)]) for q in (0.1, 0.5, 0.9)
    )
    return Span(low=low, mid=mid, high=high)


def _says(label: str, moved: float, settled: float) -> str:
    way = "loses less than was told" if moved < 0 else "loses more than was told"
    sure = "probably" if abs(moved) > 0.1 else "perhaps"
    said = f"{label}: {sure} {way}, by about {num(abs(moved) * 100, 0)} %"
    return said + (f"; {num(settled * 100, 0)} % of its doubt is settled" if settled > 0.05 else "")


def _taken(job: Job, key: str, label: str, paths: list[str], after: Span) -> tuple[str, list[dict[str, Any]]]:
    """The edit that takes a proposal: the tightness anew, or a construction with the loss the winter shows in place of the told one."""
    spread = min(max((after.high - after.low) / (2 * after.mid), 0.02), 0.9)
    known = {"how": "inferred", "via": "winter's readings", "spread": round(spread, 3)}
    scheme = job.schemes.get(job.active_scheme or "")
    sealed = scheme is not None and any(one.kind == "tightness" for one in scheme.measures.values())
    if key == "tightness" and job.survey.tightness.n50_per_h is not None and not sealed:
        value = round(job.survey.tightness.n50_per_h * after.mid, 2)
        return f"n50 {num(value, 1)} by the winter", [
            {"op": "add", "path": "/survey/tightness/n50_per_h", "value": value},
            {"op": "add", "path": "/survey/tightness/known", "value": _all(job.survey.tightness.known) | {"n50_per_h": known}},
        ]  # fmt: skip
    frozen = job.library.constructions.get(key.removeprefix("construction:"))
    if frozen is None or not paths or PROPOSED in paths:
        return "", []
    return _other(job, key.removeprefix("construction:"), frozen.data, after.mid, known)


def _all(known: Any) -> dict[str, Any]:
    return {key: one.model_dump(mode="json", exclude_none=True) for key, one in known.items()}


def _other(
    job: Job, key: str, entry: ConstructionEntry, factor: float, known: dict[str, Any]
) -> tuple[str, list[dict[str, Any]]]:
    """A construction of the same element that loses so much, wherever the told one stands in the survey as found."""
    from cinder.design.fabric.section import section

    if entry.element in ("window", "ground"):
        return "", []
    u = section(entry, inside_c=20.0, outside_c=0.0).u_w_m2k * factor
    own = f"{key[:40]}-winter"
    label = f"{entry.label}, by the winter's readings"[:190]
    data = {
        "id": own,
        "label": label,
        "element": entry.element,
        "stated_u_w_m2k": round(u, 3),
        "source": "the winter's readings",
    }
    made = freeze(ConstructionEntry.model_validate(data, strict=False)) | {"origin": "job"}
    out: list[dict[str, Any]] = [{"op": "add", "path": f"/library/constructions/{own}", "value": made}]
    survey = job.survey
    for part, row in survey.parts.items():
        out += [
            {"op": "replace", "path": f"/survey/parts/{part}/constructions/{element}", "value": own}
            for element, name in row.constructions.items()
            if name == key
        ]
    for room, held in survey.rooms.items():
        for face, one in held.faces.items():
            at = f"/survey/rooms/{room}/faces/{face}"
            if one.construction == key:
                out.append({"op": "replace", "path": f"{at}/construction", "value": own})
                out.append({"op": "add", "path": f"{at}/known", "value": _all(one.known) | {"construction": known}})
    return f"U {num(u, 2)} W/m²K instead", out if len(out) > 1 else []
