"""What stands beside a machine: what it burns, how well, and when it gives heat."""

from __future__ import annotations

from math import inf
from typing import NamedTuple

from cinder.design.house.prices import ELECTRICITY, carbon_kg_per_kwh, present_fuel, price_minor_per_kwh
from cinder.design.house.prices import fuel as fuel_of
from cinder.design.house.tariff import Prices, levels, mean_minor_per_kwh, prices_of
from cinder.design.house.view import HouseView
from cinder.design.machine.result import SeasonResult
from cinder.model import Job
from cinder.model.scheme import Backup
from cinder.physics.machine.season import Mode, Second, break_even_cop
from cinder.physics.quantity import Num

WAYS: dict[str, Mode] = {"parallel": "parallel", "alternate": "alternate", "price": "cheaper", "carbon": "cheaper"}


class Beside(NamedTuple):
    """What stands beside a machine, with everything that is known of it: plain values, so that what hangs on it is kept.

    `worth`: the COPs from which the machine is the better one, each with its share of the hours (electricity has a price by the hour)."""

    kind: str
    fuel: str
    efficiency: float
    label: str
    mode: str
    worth: tuple[tuple[float, float], ...]
    hot_water: bool

    @property
    def electric(self) -> bool:
        return self.fuel == ELECTRICITY

    @property
    def missing(self) -> bool:
        """Nothing stands there: what the machine leaves, nobody gives."""
        return self.kind == "none"

    @property
    def makes_water(self) -> bool:
        """It burns for the hot water too."""
        return self.hot_water and not self.electric

    @property
    def way(self) -> Mode:
        """As physics shares the heat out."""
        return WAYS[self.mode]

    @property
    def in_water(self) -> bool:
        """It is a heater in the machine's own water."""
        return self.electric and not self.missing

    def second(self, worth_cop: Num = 0.0) -> Second:
        """The same with the COP from which the machine is the better one."""
        return Second(self.way, worth_cop, self.in_water)

    def burnt_kwh(self, heat_kwh: float) -> float:
        """Fuel for so much heat, kWh; none where it is electricity, or nothing stands there."""
        return 0.0 if self.electric else heat_kwh / self.efficiency


def beside(job: Job, backup: Backup) -> Beside:
    """What stands beside a machine; a boiler that stays burns what the house burns today, one that is new gas."""
    if backup.kind in ("heater", "none"):
        mode = backup.mode if backup.kind == "heater" else "parallel"
        name = "a heater in the water" if backup.kind == "heater" else "nothing"
        return Beside(backup.kind, ELECTRICITY, 1.0, name, mode, _worth(job, mode, ELECTRICITY, 1.0), False)
    key = backup.fuel
    if key is None:
        key = "logs" if backup.kind == "stove" else (present_fuel(job) or "gas") if backup.kind == "boiler" else "gas"
    entry = fuel_of(job, key)
    usual = (
        (0.6, 0.8) if entry is None else entry.new_efficiency if backup.kind == "new boiler" else entry.old_efficiency
    )
    efficiency = backup.efficiency or sum(usual) / 2
    name = {"boiler": "the boiler that is there", "new boiler": "a new boiler", "stove": "a stove"}[backup.kind]
    return Beside(
        backup.kind, key, efficiency, f"{name} ({entry.label if entry else key})", backup.mode,
        _worth(job, backup.mode, key, efficiency), backup.hot_water,
    )  # fmt: skip


def _worth(job: Job, mode: str, fuel: str, efficiency: float) -> tuple[tuple[float, float], ...]:
    """The COPs from which the machine is the better one, with their shares of the hours; by carbon one, otherwise it always is."""
    if mode == "price":
        prices = prices_of(job)
        each = prices.of(fuel)
        return tuple((share, price / each * efficiency if each > 0 else inf) for share, price in levels(prices))
    if mode == "carbon":
        return ((1.0, break_even_cop(
            electricity_per_kwh=carbon_kg_per_kwh(job, ELECTRICITY), fuel_per_kwh=carbon_kg_per_kwh(job, fuel),
            efficiency=efficiency,
        )),)  # fmt: skip
    return ((1.0, 0.0),)


def worth_by_hour(other: Beside, prices: Prices) -> Num:
    """The COP from which the machine is the better one in every hour (8760,), by that hour's price; one for all where it does not change."""
    if other.mode != "price":
        return other.worth[0][1]
    each = prices.of(other.fuel)
    return prices.electricity / each * other.efficiency if each > 0 else inf


def beside_chosen(house: HouseView) -> Beside:
    """What stands beside the chosen machine."""
    scheme = house.scheme
    candidate = scheme.candidates.get(scheme.chosen) if scheme and scheme.chosen else None
    return beside(house.job, candidate.backup if candidate else Backup(kind="none"))


def bill_minor(job: Job, season: SeasonResult) -> float | None:
    """What a season's heat costs, electricity at its mean price and the fuel beside it, minor units; None without a season."""
    if season.electricity_kwh is None:
        return None
    burnt = season.fuel_kwh * price_minor_per_kwh(job, season.fuel) if season.fuel else 0.0
    return season.electricity_kwh * mean_minor_per_kwh(job) + burnt
