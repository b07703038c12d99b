"""What a house in time takes from outside: electricity, and what burns beside its machine."""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

from cinder.design.house.prices import price_minor_per_kwh
from cinder.design.house.tariff import mean_minor_per_kwh
from cinder.design.machine.beside import beside, beside_chosen
from cinder.model import Job
from cinder.twin.of_job import Twin

KWH = 3.6e6
"""J."""


class Bought(NamedTuple):
    """Kilowatt-hours of both, and what they cost, minor units."""

    electricity_kwh: float
    fuel_kwh: float
    cost_minor: float

    @property
    def kwh(self) -> float:
        return self.electricity_kwh + self.fuel_kwh

    def times(self, factor: float) -> Bought:
        return Bought(*(one * factor for one in self))

    def less(self, other: Bought) -> Bought:
        return Bought(*(one - two for one, two in zip(self, other, strict=True)))


class Worth(NamedTuple):
    """How a difference is told: in kilowatt-hours where all is electricity, in money where a fuel stands beside it."""

    burns: bool
    price_minor: float
    currency: str

    def least(self, kwh: float) -> float:
        """So many kWh of electricity, minor units."""
        return kwh * self.price_minor

    def words(self, kwh: float, minor: float) -> str:
        return f"{minor / 100:.0f} {self.currency}" if self.burns else f"{kwh:.0f} kWh"


def worth_of(job: Job) -> Worth:
    """Of the scheme on show."""
    scheme = job.schemes.get(job.active_scheme or "")
    candidate = scheme.candidates.get(scheme.chosen or "") if scheme else None
    burns = candidate is not None and not beside(job, candidate.backup).electric
    return Worth(burns, mean_minor_per_kwh(job), job.currency)


def bought(twin: Twin, *runs: Mapping[str, float]) -> Bought:
    """Of the sums of some runs of it (`loop.run`), J."""
    job, other = twin.view.job, beside_chosen(twin.view)
    drawn = sum(one["electric"] for one in runs) / KWH
    burnt = other.burnt_kwh(sum(one["backup"] for one in runs) / KWH)
    cost = drawn * mean_minor_per_kwh(job) + (burnt * price_minor_per_kwh(job, other.fuel) if burnt else 0.0)
    return Bought(drawn, burnt, cost)
