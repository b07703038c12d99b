"""Who hears a unit: its level at every window, alone, with other units and with an assumed background; levels over the site."""

from __future__ import annotations

from typing import Any

import numpy as np
from contourpy import contour_generator

from cinder.design.house.view import HouseView
from cinder.design.machine.clear import distance_m
from cinder.design.machine.result import ContourResult, HeardResult, LevelResult
from cinder.library import MachineEntry
from cinder.model import Practice
from cinder.model.job import SiteMark, UnitPlace
from cinder.physics.machine import sound

LEVELS_DB = (50.0, 45.0, 40.0, 35.0, 30.0)
"""Levels drawn about a unit."""
CELLS = 48
EAR_M = 1.5
OTHER_Q = sound.DIRECTIVITY[0]
"""Another unit is taken as free on the ground."""


def noise_school(p: Practice) -> str:
    """Which of the two ways of judging is followed, in words."""
    if p.noise == "alone":
        return f"the unit alone, at most {p.noise_alone_db:g} dB(A) at a window"
    return f"with an assumed background of {p.noise_background_db:g} dB(A) together at most {p.noise_together_db:g} dB(A) at a window"


def heard_at(house: HouseView, entry: MachineEntry, place: UnitPlace, near: int) -> list[HeardResult]:
    """The unit at every window of the site, together with the other units that run beside it. Source: handbook of the trade,
    inverse square law."""
    if entry.sound_power_day_db is None:
        return []
    p, q = house.practice, sound.DIRECTIVITY[near]
    own = sound.room_left_db(most_db=p.noise_together_db, background_db=p.noise_background_db)
    limit = p.noise_alone_db if p.noise == "alone" else own
    others = sources(house)
    out = []
    for key, one in sorted(house.job.site.receivers.items(), key=lambda item: (item[1].pos, item[0])):
        far, screen = distance_m(place, one), sound.SCREENED_DB[one.screened]

        def level(power_db: float, directivity: float = q, far_m: float = far, screened_db: float = screen) -> float:
            return float(
                sound.level_db(power_db=power_db, directivity=directivity, distance_m=far_m, screened_db=screened_db)
            )

        alone = level(entry.sound_power_day_db)
        rest = [level(source.power_db or 0.0, OTHER_Q, distance_m(source, one), screen) for source in others]
        day = sound.together_db([alone, *rest])
        quiet = None
        if entry.sound_power_night_db is not None:
            quiet = sound.together_db([level(entry.sound_power_night_db), *rest])
        left = limit if not rest else sound.room_left_db(most_db=limit, background_db=sound.together_db(rest))
        needs = float("inf")
        if left > float("-inf"):
            needs = sound.distance_for_m(
                power_db=entry.sound_power_day_db, directivity=q, most_db=left, screened_db=screen
            )
        further = max(needs - far, 0.0)
        out.append(
            HeardResult(
                id=key, label=one.label or "A window", distance_m=far, level_db=day, quiet_db=quiet,
                others_db=sound.together_db(rest) if rest else None, directivity=q, screened_db=screen,
                together_db=sound.together_db([day, p.noise_background_db]), limit_db=limit, met=day <= limit,
                alone_met=day <= p.noise_alone_db, together_met=day <= own,
                further_m=further if further < float("inf") else None,
                passes="" if day <= limit else passes(alone, quiet, left, limit, screen, further),
            )
        )  # fmt: skip
    return out


def sources(house: HouseView) -> list[SiteMark]:
    """The other units of the site whose loudness is known."""
    return [one for _, one in sorted(house.job.site.marks.items()) if one.kind == "unit" and one.power_db is not None]


def passes(alone: float, quiet: float | None, left: float, limit: float, screen: float, further: float) -> str:
    """What would bring a unit under what is left for it, in words."""
    if left == float("-inf"):
        return "nothing at this unit: the others alone are over the limit"
    ways = [f"{further:.1f} m further away"]
    for name, taken in (("a screen that hides it partly", 5.0), ("a screen that hides it", 10.0)):
        if taken > screen and alone - (taken - screen) <= left:
            ways.append(name)
            break
    if quiet is not None and quiet <= limit:
        ways.append("its quiet mode")
    ways.append(f"a unit {alone - left:.1f} dB quieter")
    return ", or ".join(ways)


def levels(machine: MachineEntry | None, near: int) -> list[LevelResult]:
    """How far each level reaches by day, nothing in the way."""
    if machine is None or machine.sound_power_day_db is None:
        return []
    q = sound.DIRECTIVITY[near]
    return [
        LevelResult(
            level_db=level,
            radius_m=sound.distance_for_m(power_db=machine.sound_power_day_db, directivity=q, most_db=level),
        )
        for level in LEVELS_DB
    ]


def contours(
    house: HouseView, place: UnitPlace, near: int, box: tuple[float, float, float, float]
) -> list[ContourResult]:
    """Lines of equal level of the unit and the other units together, over the plan's box (x, y, x, y), 1.5 m above the ground,
    nothing in the way. Empty without other units: rings say it then."""
    others, machine = sources(house), house.machine
    if not others or machine is None or machine.sound_power_day_db is None:
        return []
    x, y = np.linspace(box[0], box[2], CELLS), np.linspace(box[1], box[3], CELLS)
    across, up = np.meshgrid(x, y)
    power = np.zeros_like(across)
    all_sources = [
        (place.x_m, place.y_m, place.height_m, machine.sound_power_day_db, sound.DIRECTIVITY[near]),
        *((o.x_m, o.y_m, o.height_m, o.power_db or 0.0, OTHER_Q) for o in others),
    ]
    for sx, sy, sz, power_db, q in all_sources:
        far = np.sqrt((across - sx) ** 2 + (up - sy) ** 2 + (EAR_M - sz) ** 2)
        power += 10 ** (np.asarray(sound.level_db(power_db=power_db, directivity=q, distance_m=far)) / 10)
    found = contour_generator(x, y, 10 * np.log10(power))
    return [ContourResult(level_db=level, lines=[_rounded(line) for line in found.lines(level)]) for level in LEVELS_DB]


def _rounded(line: Any) -> list[list[float]]:
    rounded: list[list[float]] = np.round(np.asarray(line, float), 2).tolist()
    return rounded
