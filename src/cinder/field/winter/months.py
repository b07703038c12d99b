"""Meters read now and then: heat of the weeks between two readings, against the days' temperatures of those weeks."""

from __future__ import annotations

import datetime as dt
from collections.abc import Mapping
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from cinder.design.explained import num
from cinder.physics.measured import degree_days, signature
from cinder.physics.quantity import Array

SPARSE_H = 36.0
"""Readings further apart than this are no days (our choice)."""
LEAST_SPAN, MOST_SPAN = 6, 100
"""Days between two readings that count as one; shorter ones are joined to the next (our choice)."""
ORDINARY_SHARE = 0.08
"""What H may be off, one standard deviation, where an ordinary year stands in for the weather that was (our choice: a kelvin or so a
month)."""
ROOMS_SHARE = 0.14
"""The same where nobody read the rooms every time: rooms that are warmer in mild weather hide a sixth of the slope (our choice, from the
twin, whose rooms float)."""
SEASON_SHARE = 0.12
"""The same where heat is electricity times the season's performance of the design (our choice)."""


@dataclass(frozen=True, slots=True)
class Span:
    """The days between two readings, `last` not among them, and the heat of all of them, kWh; mean of the rooms, NaN where nobody said."""

    first: dt.date
    last: dt.date
    kwh: float
    inside_c: float

    @property
    def days(self) -> int:
        return (self.last - self.first).days


@dataclass(slots=True)
class Spans:
    found: list[Span] = field(default_factory=list)
    by_electricity: bool = False
    notes: list[str] = field(default_factory=list)


def sparse(at: NDArray[np.datetime64]) -> bool:
    """Whether readings are too far apart to be days."""
    return len(at) >= 2 and float(np.median(np.diff(at.astype("datetime64[s]")).astype(float))) > SPARSE_H * 3600


def spans(at: NDArray[np.datetime64], column: Mapping[str, Array], zone: dt.tzinfo) -> Spans:
    """What was used between readings (N,), by the heat meter, by the electricity meter where there is no heat meter. A meter that falls
    was changed: that stretch is left out and said."""
    out = Spans()
    heat = np.asarray(column.get("heat_kwh", np.full(len(at), np.nan)), float)
    if np.isfinite(heat).sum() < 2:
        heat = np.asarray(column.get("electric_kwh", np.full(len(at), np.nan)), float)
        out.by_electricity = True
    inside = np.asarray(column.get("room:all", np.full(len(at), np.nan)), float)
    known = np.flatnonzero(np.isfinite(heat))
    days = [
        dt.datetime.fromtimestamp(int(at[n].astype("datetime64[s]").astype(int)), dt.UTC).astimezone(zone).date()
        for n in known
    ]
    begun = 0
    for k in range(1, len(known)):
        used, count = float(heat[known[k]] - heat[known[begun]]), (days[k] - days[begun]).days
        if heat[known[k]] < heat[known[k - 1]]:
            out.notes.append(
                f"Between {days[k - 1]:%d.%m.%Y} and {days[k]:%d.%m.%Y} the meter falls: it was changed; left out."
            )
            begun = k
        elif count > MOST_SPAN:
            out.notes.append(f"{days[begun]:%d.%m.%Y} to {days[k]:%d.%m.%Y} is too long to be one reading; left out.")
            begun = k
        elif count >= LEAST_SPAN:
            rooms = inside[known[begun] + 1 : known[k] + 1]  # what is written down is the mean since the reading before
            out.found.append(
                Span(days[begun], days[k], used, float(np.nanmean(rooms)) if np.isfinite(rooms).any() else float("nan"))
            )
            begun = k
    return out


@dataclass(frozen=True, slots=True)
class Weather:
    """Days of an ordinary year (365,): outdoor temperature, sun on the level as the house's windows take it; `seen`: daily means that were
    read, by date."""

    outdoor_c: Array
    sun_w_m2: Array
    seen: Mapping[dt.date, float]


@dataclass(frozen=True, slots=True)
class Fitted:
    """The signature by spans (M,), with the means of each: outdoor, sun, heat a day, kWh."""

    fit: signature.Fit
    spans: list[Span]
    outdoor_c: Array
    sun_w_m2: Array
    heat_kwh: Array
    notes: list[str]


def fitted(read: Spans, weather: Weather, *, inside_c: float, performance: float | None, beside: str = "") -> Fitted:
    """H by degree days. `performance`: heat of the season for each kWh of its electricity; `beside`: what burns beside the machine, whose heat
    is in it. Raises `ValueError` with what is lacking."""
    if read.by_electricity and performance is None:
        raise ValueError("an electricity meter alone says no heat without a machine whose season is known")
    notes = list(read.notes)
    outdoor: list[Array] = []
    kept: list[Span] = []
    ordinary = 0
    for one in read.found:
        days = [one.first + dt.timedelta(n) for n in range(one.days)]
        air = np.array([weather.seen.get(day, float(weather.outdoor_c[_of_year(day)])) for day in days])
        if not np.isfinite(air).all():
            notes.append(f"{one.first:%d.%m.%Y} to {one.last:%d.%m.%Y}: nobody read the air on every day; left out.")
            continue
        ordinary += sum(day not in weather.seen for day in days)
        outdoor.append(air)
        kept.append(one)
    count = len(kept)
    if count < degree_days.LEAST_MONTHS:
        raise ValueError(
            f"{count} stretch{'' if count == 1 else 'es'} between readings {'is' if count == 1 else 'are'} too few: "
            f"{degree_days.LEAST_MONTHS} are needed, of a week or more each"
        )
    sun = np.array(
        [np.mean([weather.sun_w_m2[_of_year(one.first + dt.timedelta(n))] for n in range(one.days)]) for one in kept]
    )
    use = np.array([one.kwh / one.days for one in kept]) * ((performance or 1.0) if read.by_electricity else 1.0)
    rooms = np.array([one.inside_c for one in kept])
    inside = float(np.nanmean(rooms)) if np.isfinite(rooms).any() else inside_c
    followed = bool(np.isfinite(rooms).all())
    found = degree_days.fit(
        use_kwh=use,
        days=np.array([float(one.days) for one in kept]),
        outdoor_c=outdoor,
        inside_c=np.where(np.isfinite(rooms), rooms, inside),
        sun_w_m2=sun,
    )
    total = sum(one.days for one in kept)
    share = ordinary / total
    parts = (ORDINARY_SHARE * share, SEASON_SHARE * read.by_electricity, ROOMS_SHARE * (not followed))
    off = found.h_w_k * float(np.linalg.norm(parts))
    notes.append(
        f"Meters were read {count + 1} times: {count} stretches of {num(total / count, 0)} days, by degree days."
    )
    if ordinary:
        notes.append(
            f"For {ordinary} of {total} days nobody read the air: an ordinary year of the climate stands in, and widens the band."
        )
    if read.by_electricity:
        notes.append(
            f"Only electricity was read: heat is it times {num(performance or 0.0, 2)}, the season of the design"
            + (f" with what {beside} gives in it" if beside else "")
            + ", which widens the band."
        )
    if not followed:
        taken = f"{num(inside, 1)} °C is taken" + ("" if np.isfinite(rooms).any() else ", as designed")
        notes.append(f"The rooms were not read every time: {taken} where they were not, which widens the band.")
    k = found.best
    fit = signature.Fit(
        h_w_k=found.h_w_k, h_sd=float(np.hypot(found.h_sd, off)), below_k=inside - found.base_c, below_sd=found.base_c_sd,
        base_kwh=found.base_kwh, base_sd=found.base_kwh_sd, sun_k_per_w_m2=found.sun_k_per_w_m2, yesterday=0.0, memory=0.5, mass_kwh_k=0.0,
        weight=np.ones(count), resid_kwh=found.resid_kwh, scatter_kwh=float(np.std(found.resid_kwh)),
        heating_days=int(sum(one.days for one, day in zip(kept, outdoor, strict=True) if day.mean() < k.base_c)),
    )  # fmt: skip
    return Fitted(fit, kept, np.array([day.mean() for day in outdoor]), sun, use, notes)


def _of_year(day: dt.date) -> int:
    return min(day.timetuple().tm_yday - 1, 364)
