"""Ways over the site: the primary pipes from a unit to the store, its cable to the meter."""

from __future__ import annotations

import math
from collections.abc import Sequence
from itertools import pairwise
from typing import NamedTuple

from cinder.model import Job
from cinder.model.job import Site, SitePoint, UnitPlace
from cinder.model.scheme import Candidate
from cinder.model.survey import PipePoint


class Way(NamedTuple):
    """A way over the plan with its length, m, every rise and fall in it (over a loft and down again counts both); the points it
    is drawn through, and how its length is known."""

    length_m: float | None
    points: list[list[float]]
    why: str


def primary(site: Site, place: UnitPlace) -> Way:
    """The primary pipes one way: as measured, else as drawn from the unit over its bends to the store."""
    return _way(site, place, place.route, "store", place.run_m)


def cable(site: Site, place: UnitPlace) -> Way:
    """The cable: as measured, else as drawn from the unit over its bends to the meter."""
    return _way(site, place, place.cable, "meter", place.cable_m)


def _way(site: Site, place: UnitPlace, bends: Sequence[SitePoint], kind: str, typed: float | None) -> Way:
    end = next((one for _, one in sorted(site.marks.items()) if one.kind == kind), None)
    points = [[place.x_m, place.y_m], *([one.x_m, one.y_m] for one in bends)]
    heights = [place.height_m, *(one.height_m for one in bends if one.height_m is not None)]
    if end is not None:
        points.append([end.x_m, end.y_m])
        heights.append(end.height_m)
    rise = sum(abs(b - a) for a, b in pairwise(heights))
    drawn = sum(math.dist(a, b) for a, b in pairwise(points)) + rise
    if typed is not None:
        return Way(typed, points, "as measured")
    if end is None:
        return Way(None, points, f"the {kind} is not on the site")
    return Way(drawn, points, "as drawn on the site, with its rise")


def along_m(way: Sequence[PipePoint]) -> float:
    """Length of a pipe along its points, risers in it, m.

    >>> along_m([PipePoint(x_m=0.0, y_m=0.0), PipePoint(x_m=3.0, y_m=4.0), PipePoint(x_m=3.0, y_m=4.0, z_m=2.5)])
    7.5
    """
    return sum(math.dist((a.x_m, a.y_m, a.z_m), (b.x_m, b.y_m, b.z_m)) for a, b in pairwise(way))


def cost_minor(job: Job, candidate: Candidate) -> float:
    """What the place of a candidate costs: pipes and cable by the metre, access for service; and a larger board
    where the present one is full."""
    place, supply = job.site.places.get(candidate.place or ""), job.site.supply
    board = (supply.board_minor or 0.0) if supply.spare_way is False else 0.0
    if place is None:
        return board
    pipes, wire, p = primary(job.site, place).length_m or 0.0, cable(job.site, place).length_m or 0.0, job.practice
    return pipes * p.primary_minor_per_m + wire * p.cable_minor_per_m + (place.access_minor or 0.0) + board
