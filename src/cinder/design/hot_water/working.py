"""Working of the reheat."""

from __future__ import annotations

from cinder.design.explained import Input, Step, Working, num
from cinder.design.hot_water.result import HotWaterResult
from cinder.design.hot_water.store import COIL_U_HIGH, COIL_U_LOW
from cinder.design.sheet import Sheet


def reheat(sheet: Sheet, names: list[str]) -> Working:
    store = sheet.design.hot_water
    if store.stored_kwh is None:
        raise KeyError
    took = f"{num(store.reheat_minutes, 0)} min" if store.reheat_minutes is not None else "never"
    steps = [
        Step(
            label="Heat in the store", formula="V ρ c (θ_hot − θ_cold)",
            numbers=f"{num(store.volume_l, 0)} L × 1.163 Wh/L·K × ({num(store.store_c, 0)} − {num(store.cold_c, 0)} °C)",
            result=f"{num(store.stored_kwh, 2)} kWh",
        ),
        *_exchanger(store),
        Step(
            label="Cold to hot on the design day", formula="t = ∫ V ρ c dθ / P(θ), the store stirred",
            numbers=f"{num(store.stored_kwh, 2)} kWh, never more than the machine gives nor the exchanger passes",
            result=took,
        ),
        Step(
            label="Volume by bedrooms", formula="usual range (common practice)",
            numbers=f"{num(store.bedrooms, 0)} bedrooms",
            result=f"{num(store.rule_low_l, 0)}–{num(store.rule_high_l, 0)} L",
        ),
        Step(
            label="Volume by people", formula="V_tap (40 − θ_cold) / (θ_hot − θ_cold) / 0.8, heated twice a day to once",
            numbers=f"{num(store.tap_l_per_day, 0)} L a day at the tap" if store.tap_l_per_day is not None
            else "nobody is entered as living here",
            result=f"{num(store.people_low_l, 0)}–{num(store.people_high_l, 0)} L",
        ),
    ]  # fmt: skip
    return Working(
        key="reheat", title="Reheating the cylinder", value=took, steps=steps,
        inputs=[Input(label="Store", value=f"{num(store.store_c, 0)} °C", how="scheme")],
        source="Energy balance; effectiveness of a coil in a stirred store; bedroom rule: common practice",
        school=sheet.design.schools.get("Hot water hygiene", ""),
        cautions=sheet.cautions("hot-water"), screen="hot-water",
    )  # fmt: skip


def _exchanger(store: HotWaterResult) -> list[Step]:
    if store.ua_w_k is None or store.power_w is None:
        return []
    if store.exchanger == "plate":
        first = Step(
            label="Plate exchanger", formula="UA, with a pump of its own on the store's side",
            numbers=f"{num(store.flow_lph, 0)} L/h through the machine", result=f"{num(store.ua_w_k, 0)} W/K",
        )  # fmt: skip
    else:
        how = "as it is" if store.coil_m2 is not None else "as the rule wants it: nobody knows this one"
        first = Step(
            label=f"Coil, {how}", formula=f"A U, with U {COIL_U_LOW:.0f}–{COIL_U_HIGH:.0f} W/m²K in practice",
            numbers=f"{num(store.coil_taken_m2, 2)} m², {num(store.flow_lph, 0)} L/h through it",
            result=f"{num(store.ua_w_k, 0)} W/K",
        )  # fmt: skip
    out = [
        first,
        Step(
            label="Topping up", formula="the water leaves as warm as the exchanger needs it",
            numbers=f"{num(store.charging_c, 1)} °C in the mean, at most {num(store.warmest_c, 0)} °C",
            result=f"{num(store.power_w / 1000, 2)} kW, COP {num(store.cop, 2)}",
        ),
    ]  # fmt: skip
    if store.limit_c is not None and store.stall_c is not None:
        out.append(
            Step(
                label="Where the exchanger is the limit",
                formula="θ = θ_warmest − P / (what it passes per kelvin)",
                numbers=f"the machine's least output no longer passes from {num(store.stall_c, 1)} °C in the store on",
                result=f"from {num(store.limit_c, 1)} °C on",
            )
        )
    return out
