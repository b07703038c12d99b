"""The signature of a winter told beside the design's own loss and limit."""

from __future__ import annotations

from statistics import NormalDist

import numpy as np
from numpy.typing import NDArray

from cinder.design.apart.running.result import Span
from cinder.design.curve.heating_limit import heating_limit_c
from cinder.design.explained import num
from cinder.design.year.decide import YearLoss
from cinder.field.winter.daily import Days, Hours
from cinder.field.winter.result import SignatureFound, Verdict
from cinder.model import Job
from cinder.physics.measured import signature
from cinder.physics.quantity import Array

Z10 = signature.Z10
DRAWN_FROM_C, DRAWN_TO_C = -10, 20


def of_days(
    job: Job, days: Days, good: NDArray[np.bool_], hours: Hours, loss: YearLoss, loss_range: tuple[float, float] | None
) -> tuple[SignatureFound | None, signature.Fit | None, str]:
    at = np.flatnonzero(good)
    if len(at) < signature.LEAST_DAYS:
        return None, None, f"{len(at)} whole days are too few for a signature: {signature.LEAST_DAYS} are needed."
    sun = days.sun_w_m2[at]
    follows = days.follows[at] & np.concatenate(([False], np.diff(at) == 1))
    try:
        fitted = signature.fit(
            heat_kwh=days.heat_kwh[at], outdoor_c=days.outdoor_c[at], inside_c=days.inside_c[at],
            sun_w_m2=sun if np.isfinite(sun).all() else None, follows=follows, base_known=0.0 if hours.apart else None,
        )  # fmt: skip
    except ValueError as why:
        return None, None, f"{str(why).capitalize()}."
    shine = float(np.nanmean(sun)) if np.isfinite(sun).any() else 0.0
    found = told(
        job, loss, loss_range, fitted, inside_c=float(days.inside_c[at].mean()), shine=shine, days=len(at), left_out=int((~good).sum())
    )  # fmt: skip
    return found, fitted, ""


def told(
    job: Job, loss: YearLoss, loss_range: tuple[float, float] | None, fitted: signature.Fit, *, inside_c: float, shine: float, days: int,
    left_out: int,
) -> SignatureFound:  # fmt: skip
    """A fit beside the design's own loss and limit."""
    wanted, inside = loss.inside_c, inside_c
    limit = wanted - fitted.below_k - fitted.sun_k_per_w_m2 * shine
    h = Span(low=fitted.h_w_k - Z10 * fitted.h_sd, mid=fitted.h_w_k, high=fitted.h_w_k + Z10 * fitted.h_sd)
    base = Span(
        low=max(fitted.base_kwh - Z10 * fitted.base_sd, 0.0),
        mid=fitted.base_kwh,
        high=fitted.base_kwh + Z10 * fitted.base_sd,
    )
    design_h = None
    chance = None
    if loss.per_k > 0:
        low, high = loss_range or (1.0, 1.0)
        design_h = Span(low=loss.per_k * low, mid=loss.per_k, high=loss.per_k * high)
        chance = NormalDist().cdf((fitted.h_w_k - loss.per_k) / max(fitted.h_sd, 1e-9))
    air = np.arange(DRAWN_FROM_C, DRAWN_TO_C + 1, dtype=float)
    mean_sun = np.full(len(air), shine)
    line = fitted.at_rest(inside_c=np.full(len(air), wanted), outdoor_c=air, sun_w_m2=mean_sun)
    slope = fitted.h_sd / fitted.h_w_k * np.maximum(line - fitted.base_kwh, 0)
    edge = signature.KWH_PER_WK * fitted.h_w_k * fitted.below_sd * (line > fitted.base_kwh + 1e-9)
    off = Z10 * np.hypot(slope, edge)
    design_limit = heating_limit_c(job.practice, gains=job.practice.year_gains != "none")
    designed = _designed(loss, design_limit, air, fitted.base_kwh)
    scale = loss_range or (1.0, 1.0)
    verdict = _verdict(h, design_h)
    return SignatureFound(
        h_w_k=h, limit_c=Span(low=limit - Z10 * fitted.below_sd, mid=limit, high=limit + Z10 * fitted.below_sd), base_kwh=base,
        below_k=fitted.below_k,
        sun_k_per_w_m2=fitted.sun_k_per_w_m2, design_h_w_k=design_h, design_limit_c=design_limit, inside_c=inside, wanted_c=wanted,
        days=days, left_out=left_out,
        chance_above=chance, line=[[float(a), float(q)] for a, q in zip(air, line, strict=True)],
        band=[[float(a), float(max(q - o, 0)), float(q + o)] for a, q, o in zip(air, line, off, strict=True)],
        design_line=[[float(a), float(q)] for a, q in zip(air, designed, strict=True)],
        design_band=[
            [float(a), *(float((q - fitted.base_kwh) * by + fitted.base_kwh) for by in scale)] for a, q in zip(air, designed, strict=True)
        ],
        verdict=verdict, sentence=_says(h, design_h, verdict, limit),
    )  # fmt: skip


def _designed(loss: YearLoss, limit_c: float | None, air: Array, base: float) -> Array:
    """Heat of a day by the design, kWh: its loss less what people and sun are worth at the limit."""
    edge = float(loss.loss_w(limit_c)) if limit_c is not None else 0.0
    return np.asarray(base + np.maximum(loss.loss_w(air) - edge, 0.0) * 24 / 1000)


def _verdict(h: Span, design: Span | None) -> Verdict:
    if design is None:
        return "unknown"
    if h.high < design.low or (h.high < design.mid and h.mid < 0.9 * design.mid):
        return "loses less"
    if h.low > design.high or (h.low > design.mid and h.mid > 1.1 * design.mid):
        return "loses more"
    return "as designed"


def _says(h: Span, design: Span | None, verdict: Verdict, limit: float) -> str:
    said = f"The house loses **{num(h.mid, 0)} W/K** ({num(h.low, 0)} to {num(h.high, 0)}) and is heated below **{num(limit, 1)} °C**"
    if design is None:
        return said + "."
    off = (h.mid / design.mid - 1) * 100
    words = {
        "as designed": "as it was designed", "loses less": f"{num(-off, 0)} % less than designed",
        "loses more": f"{num(off, 0)} % more than designed",
        "unknown": "",
    }[verdict]  # fmt: skip
    return said + f": **{words}** ({num(design.low, 0)} to {num(design.high, 0)})."
