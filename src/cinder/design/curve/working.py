"""Working of the curve's setting."""

from __future__ import annotations

from cinder.design.explained import Input, Step, Working, num
from cinder.design.sheet import Sheet


def curve_setting(sheet: Sheet, names: list[str]) -> Working:
    curve = sheet.design.curve
    if curve.cold_flow_c is None:
        raise KeyError
    tolerance = curve.tolerance_k
    kind = curve.kind_label[0].lower() + curve.kind_label[1:]
    two = curve.kind == "two_point" or bool(curve.lacks)
    steps = [
        Step(
            label="Cold end", formula="the settled house's need" if curve.cold_end == "settled" else "the waterline",
            result=f"{num(curve.cold_flow_c)} °C", numbers=f"{num(curve.cold_out_c)} °C outside",
        ),
        Step(
            label="What each outdoor temperature needs",
            formula="warmest room's θ_i + excess for its load there; the spread shrinks with the load",
            numbers="bent: a straight line runs low in the middle", result="",
        ),
        Step(
            label="Mild end", formula=f"least whole step that leaves no room more than {tolerance:g} K short",
            numbers=f"at {num(curve.mild_out_c)} °C outside", result=f"{num(curve.mild_flow_c)} °C",
        )
        if two
        else Step(
            label="Fitted", formula=f"every step of {kind}; of those that leave no room more than {tolerance:g} K short the one with "
            "least water above the need, weighed by hours and loss",
            numbers=", ".join(f"{one.label.lower()} {num(one.value, one.digits)}" for one in curve.dial), result="",
        ),
        Step(
            label="What is left over", formula="line − need",
            numbers=f"greatest excess at {num(curve.excess_at_c, 0)} °C outside", result=f"{num(curve.excess_k)} K",
        ),
        Step(
            label="What is short", formula="below what the room is meant to have", numbers=f"tolerance {tolerance:g} K",
            result=f"{num(curve.short_room_k)} K",
        ),
    ]  # fmt: skip
    return Working(
        key="curve", title="The weather curve", value=f"{num(curve.cold_flow_c)} / {num(curve.mild_flow_c)} °C",
        steps=steps,
        inputs=[Input(label="Setting", value="fitted" if curve.fitted else "entered by hand", how="scheme")],
        source="EN 442-2 solved at each outdoor temperature; two points are algebra, other kinds a search over their steps",
        school=f"Control: {sheet.design.schools['Control']}; start of the curve: at design",
        cautions=sheet.cautions("curve"), screen="curve",
    )  # fmt: skip
