"""What is drawn in a day: the household's own draws, or the standard pattern that holds them."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from cinder.design.hot_water.store import TAP_C
from cinder.library import TappingEntry, load
from cinder.model import Job
from cinder.physics.store.cylinder import WATER_WH_L_K
from cinder.physics.store.store_day import Draws

OWN = "own"
HANDS_C = 25.0
"""From there on water at a basin is of use in the patterns (from memory)."""


class Tapping(NamedTuple):
    """The day's draws in order of time, what each is, and where the pattern comes from."""

    key: str
    label: str
    why: str
    draws: Draws
    what: tuple[str, ...]
    kwh: float


def tapping_of(job: Job, cold_c: float, people_kwh: float | None) -> Tapping | None:
    """The chosen pattern; else own draws; else the smallest standard one that holds what the people draw; None for nobody and nothing."""
    household, table = job.survey.household, load().tapping
    chosen = household.tapping
    if household.draws and chosen in (None, OWN):
        return _own(job, cold_c)
    if chosen in table:
        return _pattern(table[chosen], "chosen", cold_c)
    if people_kwh is None:
        return None
    ordered = sorted(table.values(), key=lambda one: one.kwh)
    enough = next((one for one in ordered if one.kwh >= people_kwh), ordered[-1])
    holds = enough.kwh >= people_kwh
    why = f"the smallest standard day that holds the {people_kwh:.1f} kWh these people draw"
    return _pattern(
        enough, why if holds else f"the largest standard day; these people draw {people_kwh:.1f} kWh", cold_c
    )


def _pattern(entry: TappingEntry, why: str, cold_c: float) -> Tapping:
    litres = [draw.kwh * 1000 / WATER_WH_L_K / (TAP_C - cold_c) for draw in entry.draws]
    useful = [HANDS_C if draw.counts_from_c == HANDS_C else TAP_C for draw in entry.draws]
    return _made(
        entry.id, entry.label, why, cold_c, [d.minute for d in entry.draws], litres, [d.flow_l_min for d in entry.draws],
        [TAP_C] * len(litres), useful, [d.what for d in entry.draws],
    )  # fmt: skip


def _own(job: Job, cold_c: float) -> Tapping:
    rows = sorted(job.survey.household.draws.items(), key=lambda item: (item[1].minute, item[0]))
    each = [draw for _, draw in rows]
    useful = [draw.tap_c if draw.useful_c is None else min(draw.useful_c, draw.tap_c) for draw in each]
    return _made(
        OWN, "This household's own day", "as entered", cold_c, [d.minute for d in each], [d.tap_l for d in each],
        [d.flow_l_min for d in each], [d.tap_c for d in each], useful, [d.what or "draw" for d in each],
    )  # fmt: skip


def _made(
    key: str, label: str, why: str, cold_c: float, minute: list[int], litres: list[float], flow: list[float], tap: list[float],
    useful: list[float], what: list[str],
) -> Tapping:  # fmt: skip
    draws = Draws(np.array(minute, dtype=np.intp), *(np.array(of, dtype=float) for of in (litres, flow, tap, useful)))
    kwh = float((draws.litres * (draws.tap_c - cold_c)).clip(min=0).sum()) * WATER_WH_L_K / 1000
    return Tapping(key, label, why, draws, tuple(what), kwh)
