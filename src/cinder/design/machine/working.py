"""Workings of cover and season."""

from __future__ import annotations

from cinder.design.explained import Input, Step, Working, num
from cinder.design.machine.result import CandidateResult, chosen_of
from cinder.design.machine.say import season_label
from cinder.design.sheet import Sheet


def cover(sheet: Sheet, names: list[str]) -> Working:
    row = next(r for r in sheet.design.machine.rows if r.chosen) if sheet.design.machine.chosen else None
    if row is None:
        raise KeyError
    water, line, house = sheet.design.hot_water, sheet.design.waterline, sheet.design.house
    steps = [
        Step(
            label="Output on the design day", formula="from the machine's test points, straight between them",
            numbers=f"air {num(house.outdoor_c, 0)} °C, water {num(line.chosen_flow_c, 0)} °C"
            + (", extrapolated by the Carnot fraction" if row.extrapolated else ""),
            result=f"{num(row.output_w, 0)} W, COP {num(row.cop, 2)}",
        ),
        _hours(sheet, row),
        Step(
            label="Cover", formula="P (24 − t) / (24 Φ_house)",
            numbers=f"{num(row.output_w, 0)} W × (24 − {num(row.hot_water_hours or 0, 2)}) / (24 × {num(house.loss_w, 0)} W)",
            result=f"{num((row.cover or 0) * 100, 0)} %",
        ),
        Step(
            label="Without hot water", formula="P / Φ_house",
            numbers=f"{num(row.output_w, 0)} W / {num(house.loss_w, 0)} W",
            result=f"{num((row.cover_without_hot_water or 0) * 100, 0)} %",
        ),
    ]  # fmt: skip
    return Working(
        key="cover", title=f"{row.label}: cover of the design day", value=f"{num((row.cover or 0) * 100, 0)} %",
        steps=steps,
        inputs=[
            Input(label="House loss", value=f"{num(house.loss_w, 0)} W", how="the sum of the rooms' parts"),
            Input(label="People", value=num(water.people, 0), how="survey"),
        ],
        source="EN 14511 test points of an invented machine; day balance: energy balance",
        school="Machine size: covers all at the calculated loss; 100–120 % is the usual aim (common practice)",
        cautions=sheet.cautions("machine"), screen="machine",
    )  # fmt: skip


def _hours(sheet: Sheet, row: CandidateResult) -> Step:
    """What hot water leaves of the design day."""
    water = sheet.design.hot_water
    if water.daily_kwh is None:
        numbers = "nobody is entered as living here: none counted"
    elif row.makes_water:
        numbers = f"{row.beside} makes it"
    else:
        numbers = f"{num(water.daily_kwh, 2)} kWh / {num((water.power_w or 0) / 1000, 2)} kW at {num(water.charging_c, 0)} °C water"
    return Step(
        label="Hours hot water takes", formula="t = Q_day / P at the charging temperature", numbers=numbers,
        result=f"{num(row.hot_water_hours or 0, 2)} h",
    )  # fmt: skip


def season(sheet: Sheet, names: list[str]) -> Working:
    """Of electricity alone, or blended with what burns beside the machine: then by a name of its own, the machine's beside it."""
    result = sheet.design.season
    if result.performance is None:
        raise KeyError
    curve = sheet.design.curve
    rest = "Σ (Φ − P)" if result.fuel or result.short_kwh else "backup"
    steps = [
        Step(
            label="Heat of the season", formula="Σ hours · max(0, Φ(θ_e) − gains), below the heating limit",
            numbers=f"{num(result.heating_hours, 0)} h under {num(curve.heating_limit_c)} °C outside, "
            f"gains {num(sheet.job.practice.gains_w_per_m2)} W/m²", result=f"{num(result.heat_kwh, 0)} kWh",
        ),
        Step(
            label="Water in each bin", formula="from this job's weather curve, not a fixed number",
            numbers=f"{num(curve.cold_flow_c)} °C at {num(curve.cold_out_c)} °C, {num(curve.mild_flow_c)} °C at "
            f"{num(curve.mild_out_c)} °C", result="",
        ),
        Step(
            label="Electricity",
            formula="Σ min(Φ, P)/COP + always on; cycling: COP·CR/(Cc·CR + 1 − Cc)" if result.fuel or result.short_kwh
            else "Σ min(Φ, P)/COP + backup + always on; cycling: COP·CR/(Cc·CR + 1 − Cc)",
            numbers=f"Cc {num(sheet.job.practice.cycling_degradation, 2)}, {num(result.cycling_hours, 0)} h cycling"
            + ("" if result.fuel or result.short_kwh else f", {num(result.backup_kwh, 0)} kWh backup"),
            result=f"{num(result.electricity_kwh, 0)} kWh",
        ),
    ]  # fmt: skip
    given = (result.heat_kwh or 0.0) - result.short_kwh
    if result.fuel:
        steps += [
            Step(
                label=f"Burnt by {result.beside}", formula=f"{rest} / η", numbers=f"{num(result.backup_kwh, 0)} kWh of heat",
                result=f"{num(result.fuel_kwh, 0)} kWh",
            ),
            Step(
                label="Season of the machine alone", formula="its heat / its electricity", numbers="",
                result=num(result.machine_performance, 2),
            ),
        ]  # fmt: skip
    elif result.short_kwh:
        steps.append(
            Step(label="Heat nobody gives", formula=rest, numbers="no backup stands beside it", result=f"{num(result.short_kwh, 0)} kWh")
        )  # fmt: skip
    steps.append(
        Step(
            label=season_label(chosen_of(sheet.design.machine)),
            formula="heat / (electricity + fuel): a blend, no COP" if result.fuel else "heat / electricity",
            numbers=f"{num(given, 0)} kWh / {num(result.bought_kwh, 0)} kWh", result=num(result.performance, 2),
        )
    )  # fmt: skip
    if result.with_hot_water is not None:
        burnt = f" and {num(result.hot_water_fuel_kwh, 0)} kWh of fuel" if result.hot_water_fuel_kwh else ""
        steps.append(
            Step(
                label="Season with hot water", formula="(heat + hot water) / all that is bought",
                numbers=f"{num(result.hot_water_kwh, 0)} kWh of hot water takes "
                f"{num(result.hot_water_electricity_kwh, 0)} kWh of electricity{burnt}", result=num(result.with_hot_water, 2),
            )
        )  # fmt: skip
    return Working(
        key="season",
        title="Heat over electricity and fuel, of machine and what burns beside it (an estimate; no COP)" if result.fuel
        else "Season performance, heating (an estimate)", value=num(result.performance, 2), steps=steps,
        inputs=[Input(label="Climate", value=result.climate_label, how="generic: nobody's measured weather")],
        source="EN 14825 bin method (from memory); this is the house's own season, not a standard-test figure",
        school=f"Gains: {sheet.design.schools['Gains']}; Control: {sheet.design.schools['Control']}",
        cautions=sheet.cautions("machine"), screen="machine",
    )  # fmt: skip
