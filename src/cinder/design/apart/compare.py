"""Schemes side by side: the same chain run for every one of them, and for the house as found."""

from __future__ import annotations

from cinder.design.apart.measures import KeptOut, kept_out, other_glass
from cinder.design.base import Result
from cinder.design.headline import Figure
from cinder.design.judgement import design
from cinder.design.kept import Kept
from cinder.design.machine.beside import bill_minor
from cinder.design.result import Design
from cinder.library import HourlyYear
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
    sun: str
    """How the sun that new panes keep out was counted; empty where no scheme has any."""


def side_by_side(job: Job, weather: HourlyYear | None = None, *, shift_k: float = 0.0) -> Side:
    """As found first, then every scheme in its order; `weather`: the hours by which the sun counts that new panes keep out."""
    ordered = sorted(job.schemes.items(), key=lambda item: (item[1].pos, item[0]))
    kept = Kept()
    sun, said = kept_out(job, weather, shift_k=shift_k)
    rows = [_figures(job, None, None, kept, sun)]
    rows += [_figures(job, key, scheme, kept, sun) for key, scheme in ordered]
    changed = any(other_glass(job, scheme.measures.values()) for scheme in job.schemes.values())
    return Side(rows=rows, sun=said if changed else "")


def _figures(job: Job, key: str | None, scheme: Scheme | None, kept: Kept, sun: KeptOut) -> SchemeFigures:
    shown = job.model_copy(update={"active_scheme": key})
    result: Design = design(shown, kept)
    less, bill, season = sun(shown, result), bill_minor(job, result.season), result.season
    measures = list(scheme.measures.values()) if scheme else []
    emitters = [one for one in scheme.emitters.values() if one.action != "keep"] if scheme else []
    costs = [one.cost_minor for one in measures] + [one.cost_minor for one in emitters]
    return SchemeFigures(
        id=key, label=result.scheme_label, shown=key == job.active_scheme, figures=result.headline,
        electricity_kwh=season.electricity_kwh + less.electricity_kwh if season.electricity_kwh is not None else None,
        fuel_kwh=season.fuel_kwh + less.fuel_kwh, bill_minor=bill + less.bill_minor if bill is not None else None,
        cost_minor=sum(cost or 0.0 for cost in costs), changes=len(measures) + len(emitters),
        short=len(result.waterline.short),
    )  # fmt: skip
