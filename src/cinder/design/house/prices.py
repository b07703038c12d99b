"""What a kilowatt-hour costs in this job."""

from __future__ import annotations

from cinder.design.house.overlay import whole_tables
from cinder.library import FuelEntry
from cinder.model import Job
from cinder.model.defaults import CALL_FUELS

ELECTRICITY = "electricity"


def fuel(job: Job, key: str) -> FuelEntry | None:
    """A fuel of the job's tables; None when there is none of that name."""
    frozen = job.library.tables.get("standard")
    return whole_tables(frozen.data if frozen else None).fuels.get(key)


def price_minor_per_kwh(job: Job, key: str = ELECTRICITY) -> float:
    """Price of a kWh in minor units: the job's own, else the table's; 0 for a fuel nobody knows."""
    own = job.prices.get(key)
    if own is not None:
        return own
    known = fuel(job, key)
    return known.price_minor_per_kwh if known else 0.0


def carbon_kg_per_kwh(job: Job, key: str) -> float:
    """Carbon of a kWh of a fuel, kg; 0 of one nobody knows."""
    found = fuel(job, key)
    return found.carbon_kg_per_kwh if found else 0.0


def present_fuel(job: Job) -> str | None:
    """What heats the house today, by its key in the tables: as entered, as the bills say, as the first call said."""
    if job.site.present.fuel is not None:
        return job.site.present.fuel
    bought: dict[str, float] = {}
    for bill in job.site.bills.values():
        entry = fuel(job, bill.fuel)
        per = entry.gross_kwh_per_unit if entry and bill.unit == "unit" else 1.0
        bought[bill.fuel] = bought.get(bill.fuel, 0.0) + (bill.amount or 0.0) * per
    if bought:
        return max(bought, key=lambda key: bought[key])
    return CALL_FUELS.get(str(job.site.answers.get("fuel")))
