"""The outdoor temperature a job is designed for, and the climate its season runs in."""

from __future__ import annotations

import numpy as np

from cinder.design.findings import Findings
from cinder.design.house.result import ClimateMonth, ClimateView
from cinder.library import ClimateEntry
from cinder.model import Job
from cinder.physics.climate.weather import MONTH_DAYS, corrected_for_height_c, degree_days_of_bins_kd

RULES = {
    "stated": "the climate's stated design temperature",
    "p996": "not exceeded by 0.4 % of the year's hours",
    "p99": "not exceeded by 1 % of the year's hours",
    "day": "mean of the coldest day",
    "three_days": "mean of the coldest three days",
    "long_term_p996": "99.6 % over many years, from the file's header",
    "long_term_p99": "99 % over many years, from the file's header",
}


def of_rule(climate: ClimateEntry, rule: str) -> float | None:
    """The design temperature a rule gives, deg C; None where the climate does not carry it."""
    return climate.design_c if rule == "stated" else getattr(climate, f"{rule}_c")


def lifted(climate: ClimateEntry, to_m: float) -> ClimateEntry:
    """The climate carried to another altitude: every temperature falls by 0.6 K per 100 m."""
    shift = corrected_for_height_c(temperature_c=0.0, from_m=climate.altitude_m or 0.0, to_m=to_m)
    update: dict[str, object] = {
        "design_c": climate.design_c + shift,
        "annual_mean_c": climate.annual_mean_c + shift,
        "bin_outdoor_c": [t + shift for t in climate.bin_outdoor_c],
        "monthly_mean_c": [t + shift for t in climate.monthly_mean_c],
    }
    for rule in RULES:
        known = None if rule == "stated" else getattr(climate, f"{rule}_c")
        if known is not None:
            update[f"{rule}_c"] = known + shift
    return climate.model_copy(update=update)


def height_shift_k(job: Job, climate: ClimateEntry | None) -> float:
    """What the height correction takes off the climate's temperatures, K (0 unless it is asked for and known)."""
    if not job.climate.correct_height or climate is None or climate.altitude_m is None or job.site.altitude_m is None:
        return 0.0
    return corrected_for_height_c(temperature_c=0.0, from_m=climate.altitude_m, to_m=job.site.altitude_m)


DEGREE_BASE_C = 15.5
"""Base of the degree days shown with a climate (common practice); the year finds its own."""
MONTHS = ("Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec")


def shown(job: Job, climate: ClimateEntry | None, outdoor_c: float | None) -> ClimateView:
    """The climate at the site's height as a screen shows it; `climate` is the one `site_climate` gave."""
    if climate is None:
        return ClimateView(
            shift_k=0.0, rules_c={}, months=[], degree_base_c=DEGREE_BASE_C, degree_days_kd=None, below_hours=None
        )
    frozen = job.library.climates.get(job.climate.entry or "")
    values, hours = np.array(climate.bin_outdoor_c), np.array(climate.bin_hours)
    return ClimateView(
        shift_k=height_shift_k(job, frozen.data if frozen else None),
        rules_c={rule: of_rule(climate, rule) for rule in RULES},
        months=[
            ClimateMonth(name=name, outdoor_c=mean, degree_days_kd=max(DEGREE_BASE_C - mean, 0.0) * days)
            for name, mean, days in zip(MONTHS, climate.monthly_mean_c, MONTH_DAYS, strict=False)
        ],
        degree_base_c=DEGREE_BASE_C,
        degree_days_kd=degree_days_of_bins_kd(outdoor_c=values, hours=hours, base_c=DEGREE_BASE_C),
        below_hours=float(hours[values < outdoor_c].sum()) if outdoor_c is not None else None,
    )


def site_climate(job: Job, findings: Findings) -> tuple[ClimateEntry | None, float | None]:
    """The climate of the job, at the height of the site if asked for, and its design temperature."""
    frozen = job.library.climates.get(job.climate.entry) if job.climate.entry else None
    climate = frozen.data if frozen else None
    where = "/climate"
    if climate is not None and job.climate.correct_height:
        if height_shift_k(job, climate) or (climate.altitude_m is not None and job.site.altitude_m is not None):
            climate = lifted(climate, job.site.altitude_m or 0.0)
        else:
            lacks = "the site's altitude" if job.site.altitude_m is None else "the altitude of its station"
            findings.add(
                "doubt", "climate", where, f"The height correction lacks {lacks}.",
                why="The climate is used as it stands.", mend="Enter it, or leave the correction off.",
            )  # fmt: skip
    outdoor = job.climate.design_c
    if outdoor is None and climate is not None:
        outdoor = of_rule(climate, job.climate.rule)
        if outdoor is None:
            findings.add(
                "doubt", "climate", f"{where}/rule", f"{climate.label} carries no such design temperature.",
                why=f"Asked for: {RULES[job.climate.rule]}. Its stated {climate.design_c:g} °C is used.",
                mend="Choose another rule, or enter the temperature.",
            )  # fmt: skip
            outdoor = climate.design_c
        elif climate.typical and not job.climate.rule.startswith("long_term"):
            findings.add(
                "doubt", "climate", f"{where}/rule", "The design temperature comes from a typical year alone.",
                why="Such a year is put together of average months; long-term extremes lie 2 to 3 K lower.",
                mend="Use the long-term value of the file's header or a national table.",
            )  # fmt: skip
    if outdoor is None:
        findings.add(
            "stops", "climate", where, "No climate and no design temperature.",
            why="Without an outdoor temperature there is no heat loss.", mend="Choose a climate.",
        )  # fmt: skip
    return climate, outdoor
