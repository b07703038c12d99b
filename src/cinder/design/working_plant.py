"""Workings of water, machine, pipes, cylinder and curve."""

from __future__ import annotations

from cinder.design.emitters import reference_of
from cinder.design.hot_water import charging_water_c
from cinder.design.result import HeatedResult, RoomResult
from cinder.design.working_parts import Desk, Input, Step, Working, num
from cinder.physics import radiator

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
        numbers=f"{num(h.flux_w_m2, 0)} W/m² of at most {num(h.most_w_m2, 0)}; limit {num(h.limit_c, 0)} °C, {h.limit_why}",
        result=f"{num(h.surface_most_c)} °C",
    )  # fmt: skip


def room_flow(desk: Desk, names: list[str]) -> Working:
    room = desk.room(names[0])
    arithmetic = desk.job.practice.excess == "arithmetic"
    reference = reference_of(desk.job.practice)
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
                numbers=f"θ_i {num(room.target_c)}, ΔT {num(excess, 2)}, σ {num(spread)} K",
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
            Input(label="Spread across", value=f"{num(desk.design.waterline.spread_k)} K", how="practice, where none is given"),
        ],
        source="EN 442-2, EN 1264 (from memory); ratings by face: common practice, about ±15 %",
        school=f"Excess temperature: {desk.design.schools['Excess temperature']}; heated floors: "
        f"{desk.design.schools['Heated floors']}",
        cautions=desk.cautions("waterline"), screen="waterline",
    )  # fmt: skip


def room_reached(desk: Desk, names: list[str]) -> Working:
    room = desk.room(names[0])
    line = desk.design.waterline
    loss = None
    if room.reached_c is not None and room.room_emitter_load_w is not None and room.loss_per_k is not None:
        loss = room.room_emitter_load_w - room.loss_per_k * (room.target_c - room.reached_c)
    enough = room.reached_c is not None and room.reached_c >= room.target_c - 0.005
    steps = [
        Step(
            label="Loss falls with the room", formula="Φ(θ) = Φ_target − H (θ_target − θ)",
            numbers=f"{num(room.room_emitter_load_w, 0)} − {num(room.loss_per_k)} × ({num(room.target_c)} − "
            f"{num(room.reached_c, 2)})", result=f"{num(loss, 0)} W",
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
        school=f"Excess temperature: {desk.design.schools['Excess temperature']}",
        cautions=desk.cautions("waterline"), screen="waterline",
    )  # fmt: skip


def house_flow(desk: Desk, names: list[str]) -> Working:
    line = desk.design.waterline
    asking = sorted(
        (r for r in desk.design.rooms if r.needed_flow_c is not None), key=lambda r: -(r.needed_flow_c or 0)
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
            numbers=" , ".join(num(r.needed_flow_c) for r in asking[:6]), result=f"{num(line.needed_flow_c)} °C",
        )
    )  # fmt: skip
    outside = num(desk.design.house.outdoor_c)
    return Working(
        key="flow", title=f"Flow temperature at {outside} °C outside", value=f"{num(line.chosen_flow_c)} °C",
        steps=steps, inputs=[Input(label="The line", value=f"{num(line.chosen_flow_c)} °C", how=line.chosen_why)],
        source="EN 442-2 (from memory)", school=f"Emitter spread: {desk.design.schools['Emitter spread']}",
        cautions=desk.cautions("waterline"), screen="waterline",
    )  # fmt: skip


def cover(desk: Desk, names: list[str]) -> Working:
    row = next(r for r in desk.design.machine.rows if r.chosen) if desk.design.machine.chosen else None
    if row is None:
        raise KeyError
    water, line, house = desk.design.hot_water, desk.design.waterline, desk.design.house
    steps = [
        Step(
            label="Output on the design day", formula="from the machine's test points, straight between them",
            numbers=f"A{num(house.outdoor_c, 0)} / W{num(line.chosen_flow_c, 0)}"
            + (", extrapolated by the Carnot fraction" if row.extrapolated else ""),
            result=f"{num(row.output_w, 0)} W, COP {num(row.cop, 2)}",
        ),
        Step(
            label="Hours hot water takes", formula="t = Q_day / P at the charging temperature",
            numbers=f"{num(water.daily_kwh, 2)} kWh / {num((water.power_w or 0) / 1000, 2)} kW "
            f"at {num(charging_water_c(water.store_c), 0)} °C water" if water.daily_kwh is not None
            else "nobody is entered as living here: none counted",
            result=f"{num(row.hot_water_hours or 0, 2)} h",
        ),
        Step(
            label="Cover", formula="P (24 − t) / (24 Φ_house)",
            numbers=f"{num(row.output_w, 0)} × (24 − {num(row.hot_water_hours or 0, 2)}) / (24 × {num(house.loss_w, 0)})",
            result=f"{num((row.cover or 0) * 100, 0)} %",
        ),
        Step(
            label="Without hot water", formula="P / Φ_house",
            numbers=f"{num(row.output_w, 0)} / {num(house.loss_w, 0)}",
            result=f"{num((row.cover_without_hot_water or 0) * 100, 0)} %",
        ),
    ]  # fmt: skip
    return Working(
        key="cover", title=f"{row.label}: cover of the design day", value=f"{num((row.cover or 0) * 100, 0)} %",
        steps=steps,
        inputs=[
            Input(label="House loss", value=f"{num(house.loss_w, 0)} W", how="Σ room_share_of_house_w"),
            Input(label="People", value=num(water.people, 0), how="survey"),
        ],
        source="EN 14511 test points of an invented machine; day balance: energy balance",
        school="Machine size: covers all at the calculated loss; 100–120 % is the usual aim (common practice)",
        cautions=desk.cautions("machine"), screen="machine",
    )  # fmt: skip


def season(desk: Desk, names: list[str]) -> Working:
    result = desk.design.season
    if result.performance is None:
        raise KeyError
    curve = desk.design.curve
    steps = [
        Step(
            label="Heat of the season", formula="Σ hours · max(0, Φ(θ_e) − gains), below the heating limit",
            numbers=f"{num(result.heating_hours, 0)} h under {num(curve.heating_limit_c)} °C outside, "
            f"gains {num(desk.job.practice.gains_w_per_m2)} W/m²", result=f"{num(result.heat_kwh, 0)} kWh",
        ),
        Step(
            label="Water in each bin", formula="from this job's weather curve, not a fixed number",
            numbers=f"{num(curve.cold_flow_c)} °C at {num(curve.cold_out_c)} °C, {num(curve.mild_flow_c)} °C at "
            f"{num(curve.mild_out_c)} °C", result="",
        ),
        Step(
            label="Electricity", formula="Σ min(Φ, P)/COP + backup + always on; cycling: COP·CR/(Cc·CR + 1 − Cc)",
            numbers=f"Cc {num(desk.job.practice.cycling_degradation, 2)}, {num(result.cycling_hours, 0)} h cycling, "
            f"{num(result.backup_kwh, 0)} kWh backup", result=f"{num(result.electricity_kwh, 0)} kWh",
        ),
        Step(
            label="Season, heating", formula="heat / electricity",
            numbers=f"{num(result.heat_kwh, 0)} / {num(result.electricity_kwh, 0)}", result=num(result.performance, 2),
        ),
    ]  # fmt: skip
    if result.with_hot_water is not None:
        steps.append(
            Step(
                label="Season with hot water", formula="(heat + hot water) / all electricity",
                numbers=f"{num(result.hot_water_kwh, 0)} kWh of hot water takes "
                f"{num(result.hot_water_electricity_kwh, 0)} kWh", result=num(result.with_hot_water, 2),
            )
        )  # fmt: skip
    return Working(
        key="season", title="Season performance, heating (an estimate)", value=num(result.performance, 2), steps=steps,
        inputs=[Input(label="Climate", value=result.climate_label, how="generic: nobody's measured weather")],
        source="EN 14825 bin method (from memory); this is the house's own season, not a standard-test figure",
        school=f"Gains: {desk.design.schools['Gains']}; Control: {desk.design.schools['Control']}",
        cautions=desk.cautions("machine"), screen="machine",
    )  # fmt: skip


def head(desk: Desk, names: list[str]) -> Working:
    pipes = desk.design.pipework
    if pipes.index is None:
        raise KeyError
    by_id = {p.id: p for p in pipes.pipes}
    steps = []
    for key in pipes.circuits[0].path:
        piece = by_id[key]
        valve = f" + valve {num(piece.valve_kpa, 2)}" if piece.valve_kpa is not None else ""
        steps.append(
            Step(
                label=piece.label or "pipe", formula="2 L R + Σ K ρ v²/2" + (" + (Q/kv)²" if valve else ""),
                numbers=f"2 × {num(piece.length_m, 1)} m × {num(piece.pa_per_m, 0)} Pa/m = "
                f"{num(piece.friction_kpa, 2)} + fittings {num(piece.fittings_kpa, 2)}{valve}",
                result=f"{num(piece.total_kpa, 2)} kPa",
            )
        )  # fmt: skip
    steps.append(
        Step(
            label="Against the pump", formula="index loss / head left at this flow",
            numbers=f"{num(pipes.index_kpa, 1)} / {num(pipes.head_kpa, 1)} kPa at {num(pipes.flow_lph, 0)} L/h",
            result=f"{num((pipes.head_used or 0) * 100, 0)} %" if pipes.head_used is not None else "no head left",
        )
    )  # fmt: skip
    return Working(
        key="head", title=f"Index circuit: {pipes.circuits[0].label}",
        value=f"{num(pipes.index_kpa, 1)} kPa", steps=steps,
        inputs=[
            Input(label="Mean water", value=f"{num(pipes.water_c)} °C", how="flow less half the spread"),
            Input(label="Lengths", value="informed guesses", how="pipes cannot be seen"),
        ],
        source="Darcy–Weisbach with Colebrook (from memory); bores and K-values: common practice",
        school=f"Pump flagged above {pipes.limit:.0%} of its head", cautions=desk.cautions("pipework"),
        screen="pipework",
    )  # fmt: skip


def pipe(desk: Desk, names: list[str]) -> Working:
    piece = next(iter([p for p in desk.design.pipework.pipes if p.id == names[0]]), None)
    if piece is None:
        raise KeyError
    steps = [
        Step(
            label="Flow", formula="Σ Φ / (ρ c σ) of every emitter beyond it", numbers=piece.size_label,
            result=f"{num(piece.flow_lph, 0)} L/h",
        ),
        Step(
            label="Velocity", formula="v = Q / (π d²/4)",
            numbers=f"{num(piece.flow_lph, 0)} L/h in a bore of {num((piece.bore_m or 0) * 1000, 1)} mm",
            result=f"{num(piece.velocity_m_s, 2)} m/s",
        ),
        Step(
            label="Friction", formula="R = f ρ v² / 2d, f by Colebrook",
            numbers=f"water at {num(desk.design.pipework.water_c)} °C", result=f"{num(piece.pa_per_m, 0)} Pa/m",
        ),
        Step(
            label="There and back", formula="2 L R + fittings + valve",
            numbers=f"{num(piece.friction_kpa, 2)} + {num(piece.fittings_kpa, 2)} + {num(piece.valve_kpa or 0, 2)}",
            result=f"{num(piece.total_kpa, 2)} kPa",
        ),
    ]  # fmt: skip
    return Working(
        key=f"pipe:{piece.id}", title=piece.label or "Pipe", value=f"{num(piece.total_kpa, 2)} kPa", steps=steps,
        inputs=[Input(label="Length, one way", value=f"{num(piece.length_m, 1)} m", how="informed guess")],
        source="Darcy–Weisbach with Colebrook (from memory)", school=desk.design.schools["Emitter spread"],
        cautions=desk.cautions("pipework"), screen="pipework",
    )  # fmt: skip


def open_water(desk: Desk, names: list[str]) -> Working:
    litres = desk.design.volume
    steps = [
        Step(
            label="Water nothing can shut off", formula="pipes + emitters without a closing valve + machine + volumiser",
            numbers=" + ".join(num(v) for v in (litres.pipes_l, litres.emitters_l, litres.machine_l, litres.volumiser_l)),
            result=f"{num(litres.open_l, 0)} L",
        ),
        Step(
            label="What it needs", formula="the machine's least volume", numbers=litres.need_why,
            result=f"{num(litres.need_l, 0)} L",
        ),
        Step(
            label="The rule of thumb beside it", formula="about 20 L per kW (common practice)",
            numbers="at the design day's output", result=f"{num(litres.rule_l, 0)} L",
        ),
    ]  # fmt: skip
    return Working(
        key="open", title="Open water", value=f"{num(litres.open_l, 0)} L", steps=steps,
        inputs=[Input(label="Behind closing valves", value=f"{num(litres.closed_l, 0)} L", how="not counted")],
        source="Common practice; the maker's least volume wins", school="Valves in rooms: as chosen per emitter",
        cautions=desk.cautions("pipework"), screen="pipework",
    )  # fmt: skip


def reheat(desk: Desk, names: list[str]) -> Working:
    store = desk.design.hot_water
    if store.stored_kwh is None:
        raise KeyError
    steps = [
        Step(
            label="Heat in the store", formula="V ρ c (θ_hot − θ_cold)",
            numbers=f"{num(store.volume_l, 0)} L × 1.163 Wh/L·K × ({num(store.store_c, 0)} − {num(store.cold_c, 0)})",
            result=f"{num(store.stored_kwh, 2)} kWh",
        ),
        Step(
            label="Machine while charging", formula="output at the design day and store + 5 K",
            numbers=f"{num(charging_water_c(store.store_c), 0)} °C water",
            result=f"{num((store.power_w or 0) / 1000, 2)} kW, COP {num(store.cop, 2)}",
        ),
        Step(
            label="Cold to hot", formula="t = Q / P",
            numbers=f"{num(store.stored_kwh, 2)} / {num((store.power_w or 0) / 1000, 2)}",
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
        cautions=desk.cautions("hot-water"), screen="hot-water",
    )  # fmt: skip


def curve_setting(desk: Desk, names: list[str]) -> Working:
    curve = desk.design.curve
    if curve.cold_flow_c is None:
        raise KeyError
    tolerance = desk.job.practice.room_tolerance_k
    steps = [
        Step(
            label="Cold end", formula="the waterline at the design day", result=f"{num(curve.cold_flow_c)} °C",
            numbers=f"{num(curve.cold_out_c)} °C outside",
        ),
        Step(
            label="What each outdoor temperature needs",
            formula="warmest room's θ_i + excess for its load there; the spread shrinks with the load",
            numbers="bent: a straight line runs low in the middle", result="",
        ),
        Step(
            label="Mild end", formula=f"least whole step that leaves no room more than {tolerance:g} K short",
            numbers=f"at {num(curve.mild_out_c)} °C outside", result=f"{num(curve.mild_flow_c)} °C",
        ),
        Step(
            label="What is left over", formula="line − need",
            numbers=f"greatest excess at {num(curve.excess_at_c, 0)} °C outside", result=f"{num(curve.excess_k)} K",
        ),
        Step(
            label="What is short", formula="kelvin of room temperature", numbers=f"tolerance {tolerance:g} K",
            result=f"{num(curve.short_room_k)} K",
        ),
    ]  # fmt: skip
    return Working(
        key="curve", title="The two-point curve", value=f"{num(curve.cold_flow_c)} / {num(curve.mild_flow_c)} °C",
        steps=steps,
        inputs=[Input(label="Setting", value="fitted" if curve.fitted else "entered by hand", how="scheme")],
        source="EN 442-2 solved at each outdoor temperature; the two-point line is algebra",
        school=f"Control: {desk.design.schools['Control']}; start of the curve: at design",
        cautions=desk.cautions("curve"), screen="curve",
    )  # fmt: skip
