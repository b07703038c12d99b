"""Working of the reheat."""

from __future__ import annotations

from cinder.design.explained import Input, Step, Working, num
from cinder.design.hot_water.decide import charging_water_c
from cinder.design.sheet import Sheet


def reheat(sheet: Sheet, names: list[str]) -> Working:
    store = sheet.design.hot_water
    if store.stored_kwh is None:
        raise KeyError
    steps = [
        Step(
            label="Heat in the store", formula="V ρ c (θ_hot − θ_cold)",
            numbers=f"{num(store.volume_l, 0)} L × 1.163 Wh/L·K × ({num(store.store_c, 0)} − {num(store.cold_c, 0)} °C)",
            result=f"{num(store.stored_kwh, 2)} kWh",
        ),
        Step(
            label="Machine while charging", formula="output at the design day and store + 5 K",
            numbers=f"{num(charging_water_c(store.store_c), 0)} °C water",
            result=f"{num((store.power_w or 0) / 1000, 2)} kW, COP {num(store.cop, 2)}",
        ),
        Step(
            label="Cold to hot", formula="t = Q / P",
            numbers=f"{num(store.stored_kwh, 2)} kWh / {num((store.power_w or 0) / 1000, 2)} kW",
            result=f"{num(store.reheat_minutes, 0)} min",
        ),
        Step(
            label="Volume by bedrooms", formula="usual range (common practice)",
            numbers=f"{num(store.bedrooms, 0)} bedrooms",
            result=f"{num(store.rule_low_l, 0)}–{num(store.rule_high_l, 0)} L",
        ),
    ]  # fmt: skip
    return Working(
        key="reheat", title="Reheating the cylinder", value=f"{num(store.reheat_minutes, 0)} min", steps=steps,
        inputs=[Input(label="Store", value=f"{num(store.store_c, 0)} °C", how="scheme")],
        source="Energy balance; bedroom rule: common practice",
        school="Hygiene: weekly, one to two hours at 60 °C, at night (or the school your company follows)",
        cautions=sheet.cautions("hot-water"), screen="hot-water",
    )  # fmt: skip
