"""Workings of the water a room and the house need, and of what a room reaches."""

from __future__ import annotations

from cinder.design.emitters.decide import reference_of
from cinder.design.emitters.result import HeatedResult
from cinder.design.explained import Input, Step, Working, num
from cinder.design.losses.result import RoomResult
from cinder.design.sheet import Sheet
from cinder.physics.rooms import radiator

METHODS = {
    "standard": "by EN 1264-2", "conduction": "by conduction in the plate", "entered": "as its maker says",
}  # fmt: skip


def _emitter_steps(room: RoomResult, reference: float) -> list[Step]:
    """What each emitter of a room gives, by its kind."""
    steps = []
    for e in room.emitters:
        formula, numbers = "Φ = Φ_rated (ΔT/ΔT_ref)^n", (
            f"{e.description}: {num(e.rated_w, 0)} W at {num(reference, 2)} K, n {num(e.exponent, 2)}, σ {num(e.spread_k)} K"
        )  # fmt: skip
        if e.kind == "electric":
            formula, numbers = "needs no water; the same part of the load all season", e.description
        elif e.heated is not None:
            h = e.heated
            formula = "Φ = K A ΔT_log"
            numbers = f"{num(h.k_w_m2k, 2)} W/m²K × {num(h.area_m2, 1)} m², σ {num(e.spread_k)} K"
            numbers += f", {METHODS[h.method]}"
            if h.outside:
                numbers += f", being outside the standard's range: {h.outside}"
            if h.other_k_w_m2k is not None:
                numbers += f" (by the other school {num(h.other_k_w_m2k, 2)})"
        if e.factor < 1:
            numbers += f", × {num(e.factor, 2)} for {e.factor_words}"
        steps.append(Step(label=e.label, formula=formula, numbers=numbers, result=f"{num(e.output_w, 0)} W here"))
        if e.heated is not None:
            steps.append(_surface_step(e.heated))
    return steps


def _surface_step(h: HeatedResult) -> Step:
    return Step(
        label="Its surface, hottest over the pipes", formula="q = 8.92 (θ_F − θ_i)^1.1, times how uneven it is",
        numbers=f"{num(h.flux_w_m2, 0)} W/m² of at most {num(h.most_w_m2, 0)} W/m²; limit {num(h.limit_c, 0)} °C, {h.limit_why}",
        result=f"{num(h.surface_most_c)} °C",
    )  # fmt: skip


def room_flow(sheet: Sheet, names: list[str]) -> Working:
    room = sheet.room(names[0])
    arithmetic = sheet.job.practice.excess == "arithmetic"
    reference = reference_of(sheet.job.practice)
    steps = _emitter_steps(room, reference)
    spreads = {e.spread_k for e in room.emitters if e.spread_k is not None}
    load = (room.room_emitter_load_w or 0.0) - sum(e.output_w or 0.0 for e in room.emitters if e.kind == "electric")
    if room.needed_flow_c is not None and len(spreads) == 1 and load > 0:
        spread = spreads.pop()
        flow, back = room.needed_flow_c, room.needed_flow_c - spread
        plain = arithmetic and all(e.heated is None for e in room.emitters)
        mean = radiator.arithmetic_excess if plain else radiator.log_excess
        excess = float(mean(flow_c=flow, return_c=back, room_c=room.target_c))
        steps += [
            Step(
                label="Excess that gives the load", formula="Σ Φ_rated (ΔT/ΔT_ref)^n = Φ_room, solved for ΔT",
                numbers=f"{num(load, 0)} W", result=f"{num(excess, 2)} K",
            ),
            Step(
                label="Flow with that excess",
                formula="θ_f = θ_i + ΔT + σ/2" if plain else "θ_f = θ_i + σ / (1 − e^(−σ/ΔT))",
                numbers=f"θ_i {num(room.target_c)} °C, ΔT {num(excess, 2)} K, σ {num(spread)} K",
                result=f"{num(flow, 1)} °C",
            ),
        ]  # fmt: skip
    elif room.needed_flow_c is not None:
        steps.append(
            Step(
                label="The flow at which they give it together", formula="Σ Φ_e(θ_f, θ_f − σ_e) = Φ_room, solved for θ_f",
                numbers=f"{num(load, 0)} W", result=f"{num(room.needed_flow_c)} °C",
            )
        )  # fmt: skip
    return Working(
        key=f"room-flow:{room.id}", title=f"{room.label}: the water it needs", value=f"{num(room.needed_flow_c)} °C",
        steps=steps,
        inputs=[
            Input(label="Load of the emitters", value=f"{num(room.room_emitter_load_w, 0)} W", how="worked out"),
            Input(label="Room temperature", value=f"{num(room.target_c)} °C", how=room.target_why),
            Input(label="Spread across", value=f"{num(sheet.design.waterline.spread_k)} K", how="practice, where none is given"),
        ],
        source="EN 442-2, EN 1264 (from memory); ratings by face: common practice, about ±15 %",
        school=f"Excess temperature: {sheet.design.schools['Excess temperature']}; heated floors: "
        f"{sheet.design.schools['Heated floors']}",
        cautions=sheet.cautions("waterline"), screen="waterline",
    )  # fmt: skip


def room_reached(sheet: Sheet, names: list[str]) -> Working:
    room = sheet.room(names[0])
    line = sheet.design.waterline
    loss = None
    if room.reached_c is not None and room.room_emitter_load_w is not None and room.loss_per_k is not None:
        loss = room.room_emitter_load_w - room.loss_per_k * (room.target_c - room.reached_c)
    enough = room.reached_c is not None and room.reached_c >= room.target_c - 0.005
    steps = [
        Step(
            label="Loss falls with the room", formula="Φ(θ) = Φ_target − H (θ_target − θ)",
            numbers=f"{num(room.room_emitter_load_w, 0)} W − {num(room.loss_per_k)} W/K × ({num(room.target_c)} − "
            f"{num(room.reached_c, 2)} °C)", result=f"{num(loss, 0)} W",
        ),
        Step(
            label="It has enough and is held at what is asked" if enough else "Where emitter and loss agree",
            formula="Φ_emitter(θ_flow, σ·Φ/Φ_target, θ) = Φ(θ) + Σ H_ij (θ_j,target − θ_j), solved for every room at once",
            numbers=f"flow {num(line.chosen_flow_c)} °C, design spread {num(line.spread_k)} K; rooms beside it no warmer than "
            "asked for, cooler where they fall short",
            result=f"{num(room.reached_c)} °C",
        ),
    ]  # fmt: skip
    return Working(
        key=f"room-reached:{room.id}", title=f"{room.label}: the temperature it reaches",
        value=f"{num(room.reached_c)} °C", steps=steps,
        inputs=[Input(label="Flow", value=f"{num(line.chosen_flow_c)} °C", how=line.chosen_why)],
        source="Energy balance with EN 442-2 (from memory)",
        school=f"Excess temperature: {sheet.design.schools['Excess temperature']}",
        cautions=sheet.cautions("waterline"), screen="waterline",
    )  # fmt: skip


def house_flow(sheet: Sheet, names: list[str]) -> Working:
    line = sheet.design.waterline
    asking = sorted(
        (r for r in sheet.design.rooms if r.needed_flow_c is not None), key=lambda r: -(r.needed_flow_c or 0)
    )
    steps = [
        Step(
            label=room.label, formula="the water this room needs", result=f"{num(room.needed_flow_c)} °C",
            numbers=f"{num(room.room_emitter_load_w, 0)} W from {num(room.rated_w, 0)} W rated",
        )
        for room in asking[:6]
    ]  # fmt: skip
    steps.append(
        Step(
            label="The house", formula="the warmest of all, since one temperature serves every room",
            numbers=", ".join(f"{num(r.needed_flow_c)} °C" for r in asking[:6]), result=f"{num(line.needed_flow_c)} °C",
        )
    )  # fmt: skip
    outside = num(sheet.design.house.outdoor_c)
    return Working(
        key="flow", title=f"Flow temperature at {outside} °C outside", value=f"{num(line.chosen_flow_c)} °C",
        steps=steps, inputs=[Input(label="The line", value=f"{num(line.chosen_flow_c)} °C", how=line.chosen_why)],
        source="EN 442-2 (from memory)", school=f"Emitter spread: {sheet.design.schools['Emitter spread']}",
        cautions=sheet.cautions("waterline"), screen="waterline",
    )  # fmt: skip
