"""design(job): the chain walked from a job to its Design."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder.design.chain import CHAIN, SEASON
from cinder.design.findings import Findings
from cinder.design.kept import Afresh, Kept
from cinder.design.machine.result import SeasonResult
from cinder.design.result import Design
from cinder.design.step import walk
from cinder.design.waterline.room_emitters import given_w
from cinder.model import Job
from cinder.physics.quantity import Array


def design(job: Job, kept: Kept | None = None) -> Design:
    """Judge a job. Pure: the same document gives the same Design, whatever was `kept` of the job before.

    Every section computes what it can; what it lacks is a finding. Valid for: a parsed job.
    """
    found: Design = walk(CHAIN, {"job": job}, Findings(), kept or Afresh())["design"]
    return found


@dataclass(slots=True)
class Trial:
    """What a set of changes is judged by, per room (R,): the flow temperature needed, deg C (NaN: nothing to meet, inf: no
    emitter), the load, W, and what the emitters give at the chosen water, W; and the season of the chosen machine."""

    needed_flow_c: float | None
    needed_c: Array
    load_w: Array
    given_w: Array
    season: SeasonResult


def trial(job: Job, kept: Kept | None = None) -> Trial:
    """The chain as far as water and season, without what is only shown: the same figures as `design` gives."""
    known = walk(SEASON, {"job": job}, Findings(), kept or Afresh())
    house, arrays, day, line = (known[name] for name in ("house", "losses", "design_day", "waterline"))
    complete = np.asarray(arrays.complete) & (house.outdoor_c is not None)
    return Trial(
        line.result.needed_flow_c, np.where(complete, line.needed_c, np.nan),
        np.where(complete, day.emitter_load_w, 0.0), given_w(known["emitters"], line, arrays.target_c), known["season"],
    )  # fmt: skip
