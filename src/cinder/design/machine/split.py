"""Refrigerant lines of a split machine: length, lift and charge by the maker's table. Certified work only."""

from __future__ import annotations

from cinder.design.house.view import HouseView
from cinder.design.machine.result import LinesResult
from cinder.library import MachineEntry
from cinder.model.job import UnitPlace


def refrigerant_lines(
    house: HouseView, machine: MachineEntry | None, place: UnitPlace, run_m: float | None
) -> LinesResult | None:
    """The lines from a unit to the indoor part, taken to hang where the store is; None for a machine without any.

    Source: length and charge by the maker's table of the machine.
    """
    if machine is None or machine.lines is None:
        return None
    table = machine.lines
    store = next((one for _, one in sorted(house.job.site.marks.items()) if one.kind == "store"), None)
    lift = abs(place.height_m - store.height_m) if store is not None else None
    extra = None if run_m is None else max(run_m - table.charged_length_m, 0.0) * table.extra_g_per_m
    charge = None
    if extra is not None and machine.refrigerant_kg is not None:
        charge = machine.refrigerant_kg + extra / 1000
    met = None
    if run_m is not None:
        met = run_m <= table.most_length_m and (lift is None or lift <= table.most_lift_m)
    return LinesResult(
        length_m=run_m, lift_m=lift, most_length_m=table.most_length_m, most_lift_m=table.most_lift_m,
        gas_mm=table.gas_mm, liquid_mm=table.liquid_mm, extra_g=extra, charge_kg=charge, met=met,
    )  # fmt: skip
