"""What a company's own winters teach it: by how much houses, machines and emitters were other than designed, by age and build."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from cinder.design.apart.doubts.decide import Sampled
from cinder.design.apart.running.result import Span
from cinder.design.base import Result
from cinder.design.explained import num
from cinder.field.winter import doubts
from cinder.field.winter.result import Proposal, WinterFound
from cinder.model import Job
from cinder.physics.measured.pooled import LEAST, Pool, drawn_to, pooled
from cinder.physics.quantity import Array

Z10 = 1.2815515655446004
MAP_SD, EMITTER_SD = 0.05, 0.08
"""What a winter's COP over the map, and heat over the emitters' rating, may be off by itself (our choice: meter and clip probes)."""

LEAST_BETWEEN = 0.05
"""No two houses are more alike than that, whatever a few of them happen to show (our choice)."""


class HouseSeen(Result):
    """A house with winters: what was measured over what was designed. `winters` of them; `simulated` where they are."""

    job: str
    title: str
    age: str
    build: str
    winters: int
    simulated: bool
    loss: Span | None
    machine: float | None
    emitters: float | None


class Lesson(Result):
    """Houses of one kind: the bias of what was designed (measured over designed, with its band), and where the next house will lie."""

    kind: str
    label: str
    houses: int
    bias: Span
    next_house: Span


class LessonsFound(Result):
    """`own`: the lesson that fits this job; `range_w` of its loss before and by that lesson; what it says of the job's doubts."""

    lacks: str
    sentence: str
    houses: list[HouseSeen]
    losses: list[Lesson]
    machines: list[Lesson]
    emitters: list[Lesson]
    own: Lesson | None
    before_w: Span | None
    after_w: Span | None
    proposals: list[Proposal]
    notes: list[str]


@dataclass(frozen=True, slots=True)
class Winter:
    """One winter of one job. `loss` its H over the design's, with the sd of its logarithm."""

    job: str
    title: str
    age: str
    build: str
    simulated: bool
    loss: float | None
    loss_sd: float
    machine: float | None
    emitters: float | None


def winter_of(job: Job, found: WinterFound) -> Winter:
    """A winter that was judged, as a lesson."""
    age, build = kind_of(job)
    one = found.signature
    ratio = sd = None
    if one is not None and one.design_h_w_k is not None and one.h_w_k.mid > 0:
        ratio = one.h_w_k.mid / one.design_h_w_k.mid
        sd = max((one.h_w_k.high - one.h_w_k.low) / (2 * Z10 * one.h_w_k.mid), 0.01)
    return Winter(
        job.id, job.title, age, build, found.simulated, ratio, sd or 0.0, found.machine.ratio if found.machine else None,
        found.emitters_ratio,
    )  # fmt: skip


def kind_of(job: Job) -> tuple[str, str]:
    """Age and build of a house: of the part with most rooms."""
    rooms = [room.part or "" for room in job.survey.rooms.values()]
    parts = job.survey.parts
    if not parts:
        return "", ""
    main = max(parts, key=lambda key: (rooms.count(key), -list(parts).index(key)))
    return parts[main].age or "", str(parts[main].signs.get("bond") or job.site.answers.get("walls") or "")


def judge(winters: Sequence[Winter], job: Job, sampled: Sampled | None) -> LessonsFound:
    """Lessons over all jobs with winters, this job's own left out of what is said to it. `sampled`: the job's doubts."""
    houses = _houses(winters)
    others = [one for one in houses if one.job != job.id]
    losses = _lessons(others, "loss")
    notes = [
        "A house counts once, however many winters it has; few houses of one kind are drawn to what all of them say.",
        "Houses differ from each other beside what each was measured wrong: the next one lies within the wider range.",
    ]
    found = LessonsFound(
        lacks="", sentence="", houses=houses, losses=losses, machines=_lessons(others, "machine"), emitters=_lessons(others, "emitters"),
        own=None, before_w=None, after_w=None, proposals=[], notes=notes,
    )  # fmt: skip
    if not losses:
        many = f"{len(others) or 'No'} other house{'' if len(others) == 1 else 's'} with a winter"
        lacks = f"{many}: {LEAST} are needed before anything is learned of them."
        return found.model_copy(update={"lacks": lacks, "sentence": lacks})
    age, build = kind_of(job)
    own = next(
        (one for wanted in (f"build:{build}", f"age:{age}", "all") for one in losses if one.kind == wanted), losses[0]
    )
    found = found.model_copy(update={"own": own, "sentence": _sentence(own)})
    if sampled is None:
        return found
    ratio = own.next_house.mid
    sd = ratio * math.log(own.next_house.high / own.next_house.low) / (2 * Z10)
    proposed, beyond = doubts.proposals(job, sampled, ratio, sd)
    even = np.full(len(sampled.house_w), 1 / len(sampled.house_w))
    return found.model_copy(
        update={
            "proposals": proposed, "before_w": _within(sampled.house_w, even),
            "after_w": None if beyond else _within(sampled.house_w, doubts.weighed(sampled, ratio, sd)),
            "notes": [*notes, beyond] if beyond else notes,
        }
    )  # fmt: skip


def _within(watts: Array, weight: Array) -> Span:
    rank = np.argsort(watts)
    total = np.cumsum(weight[rank])
    low, mid, high = (float(watts[rank][int(np.searchsorted(total, at * total[-1]))]) for at in (0.1, 0.5, 0.9))
    return Span(low=low, mid=mid, high=high)


def _houses(winters: Sequence[Winter]) -> list[HouseSeen]:
    out = []
    for key in dict.fromkeys(one.job for one in winters):
        mine = [one for one in winters if one.job == key]
        known = [one for one in mine if one.loss is not None and one.loss > 0]
        loss = None
        if known:
            weight = np.array([1 / one.loss_sd**2 for one in known])
            mean = float((weight * np.log([one.loss for one in known if one.loss])).sum() / weight.sum())
            loss = _span(mean, float(np.sqrt(1 / weight.sum())))

        def middle(values: list[float | None]) -> float | None:
            there = [one for one in values if one is not None and one > 0]
            return float(np.exp(np.mean(np.log(there)))) if there else None

        out.append(
            HouseSeen(
                job=key, title=mine[0].title, age=mine[0].age, build=mine[0].build, winters=len(mine),
                simulated=all(one.simulated for one in mine), loss=loss, machine=middle([one.machine for one in mine]),
                emitters=middle([one.emitters for one in mine]),
            )
        )  # fmt: skip
    return out


def _lessons(houses: Sequence[HouseSeen], of: str) -> list[Lesson]:
    told = []
    for one in houses:
        if of == "loss" and one.loss is not None:
            told.append((one, math.log(one.loss.mid), math.log(one.loss.high / one.loss.low) / (2 * Z10)))
        elif of != "loss" and (value := getattr(one, of)) is not None:
            told.append((one, math.log(value), MAP_SD if of == "machine" else EMITTER_SD))
    values, sds = np.array([row[1] for row in told]), np.array([row[2] for row in told])
    everyone = pooled(values, sds)
    if everyone is None:
        return []
    out = [_lesson("all", "all our houses", everyone)]
    for name in ("age", "build"):
        for kind in dict.fromkeys(getattr(row[0], name) for row in told):
            which = np.array([getattr(row[0], name) == kind for row in told])
            if kind and which.sum() < len(told):
                pool = drawn_to(pooled(values[which], sds[which]), values[which], sds[which], everyone)
                out.append(_lesson(f"{name}:{kind}", f"{name} {kind}", pool))
    return out


def _lesson(kind: str, label: str, pool: Pool) -> Lesson:
    return Lesson(
        kind=kind, label=label.replace("-", " "), houses=pool.houses, bias=_span(pool.mean, pool.mean_sd),
        next_house=_span(pool.mean, math.hypot(pool.mean_sd, max(pool.between, LEAST_BETWEEN))),
    )  # fmt: skip


def _span(mean: float, sd: float) -> Span:
    return Span(low=math.exp(mean - Z10 * sd), mid=math.exp(mean), high=math.exp(mean + Z10 * sd))


def _sentence(own: Lesson) -> str:
    off = (own.bias.mid - 1) * 100
    way = "more" if off > 0 else "less"
    said = f"Of **{own.houses}** houses ({own.label}) our winters measured **{num(abs(off), 0)} % {way}** loss than we had designed"
    low, high = (num(100 * one, 0) for one in (own.next_house.low, own.next_house.high))
    return f"{said}; the next one will lie between {low} and {high} % of its calculation."
