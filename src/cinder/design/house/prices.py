"""What a kilowatt-hour costs in this job."""

from __future__ import annotations

from cinder.design.house.overlay import whole_tables
from cinder.library import FuelEntry
from cinder.model import Job


def fuel(job: Job, key: str) -> FuelEntry | None:
    """A fuel of the job's tables; None when there is none of that name."""
    frozen = job.library.tables.get("standard")
    return whole_tables(frozen.data if frozen else None).fuels.get(key)


def price_minor_per_kwh(job: Job, key: str = "electricity") -> float:
    """Price of a kWh in minor units: the job's own, else the table's; 0 for a fuel nobody knows."""
    own = job.prices.get(key)
    if own is not None:
        return own
    known = fuel(job, key)
    return known.price_minor_per_kwh if known else 0.0
