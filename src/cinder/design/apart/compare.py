"""Schemes side by side: the same chain run for every one of them, and for the house as found."""

from __future__ import annotations

from cinder.design.base import Result
from cinder.design.headline import Figure
from cinder.design.judgement import design
from cinder.design.kept import Kept
from cinder.design.machine.beside import bill_minor
from cinder.design.result import Design
from cinder.model import Job, Scheme


class SchemeFigures(Result):
    """One scheme: its headline, what its season draws and burns, and what is written into it as cost."""

    id: str | None
    label: str
    shown: bool
    figures: list[Figure]
    electricity_kwh: float | None
    fuel_kwh: float
    """Burnt beside the machine."""
    bill_minor: float | None
    cost_minor: float
    changes: int
    short: int


class Side(Result):
    rows: list[SchemeFigures]


def side_by_side(job: Job) -> Side:
    """As found first, then every scheme in its order."""
    ordered = sorted(job.schemes.items(), key=lambda item: (item[1].pos, item[0]))
    kept = Kept()
    rows = [_figures(job, None, None, kept)]
    rows += [_figures(job, key, scheme, kept) for key, scheme in ordered]
    return Side(rows=rows)


def _figures(job: Job, key: str | None, scheme: Scheme | None, kept: Kept) -> SchemeFigures:
    result: Design = design(job.model_copy(update={"active_scheme": key}), kept)
    measures = list(scheme.measures.values()) if scheme else []
    emitters = [one for one in scheme.emitters.values() if one.action != "keep"] if scheme else []
    costs = [one.cost_minor for one in measures] + [one.cost_minor for one in emitters]
    return SchemeFigures(
        id=key, label=result.scheme_label, shown=key == job.active_scheme, figures=result.headline,
        electricity_kwh=result.season.electricity_kwh, fuel_kwh=result.season.fuel_kwh, bill_minor=bill_minor(job, result.season),
        cost_minor=sum(cost or 0.0 for cost in costs), changes=len(measures) + len(emitters),
        short=len(result.waterline.short),
    )  # fmt: skip
