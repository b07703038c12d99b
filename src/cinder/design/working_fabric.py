"""Workings of losses: house, room, face, opening, construction."""

from __future__ import annotations

from cinder.design.air import HYGIENIC_AIR_PER_H
from cinder.design.fabric import Transmittances
from cinder.design.losses import GROUND_FACTOR
from cinder.design.result import Face, FacePiece, RoomResult
from cinder.design.working_parts import Desk, Input, Step, Working, num
from cinder.physics import fabric


def house_loss(desk: Desk, names: list[str]) -> Working:
    house = desk.design.house
    rooms = [r for r in desk.design.rooms if r.room_share_of_house_w is not None]
    left_out = [r.label for r in desk.design.rooms if r.room_share_of_house_w is None]
    steps = [
        Step(
            label="Sum of the rooms' parts of the house",
            formula="Φ_house = Σ room_share_of_house_w",
            numbers=" + ".join(num(r.room_share_of_house_w, 0) for r in rooms) or "no complete room",
            result=f"{num(house.loss_w, 0)} W",
        ),
        Step(
            label="Where it goes",
            formula="fabric + ground + thermal bridges + air",
            numbers=" + ".join(num(v, 0) for v in (house.fabric_w, house.ground_w, house.bridges_w, house.air_w)),
            result=f"{num(house.loss_w, 0)} W",
        ),
        Step(
            label="Specific loss",
            formula="H = Φ_house / (θ_i − θ_e)",
            numbers=f"{num(house.loss_w, 0)} W over the mean room temperature less {num(house.outdoor_c)} °C",
            result=f"{num(house.h_w_k, 0)} W/K",
        ),
        Step(
            label="The other school of air",
            formula="by tightness | by table",
            numbers=f"{num(house.loss_air_tightness_w, 0)} W | {num(house.loss_air_table_w, 0)} W",
            result="the table mostly overstates (common practice)",
        ),
        Step(
            label="What the emitters meet together",
            formula="Σ room_emitter_load_w",
            numbers="windward air, cold neighbours and heat given to colder rooms are in it",
            result=f"{num(house.emitter_loads_w, 0)} W",
        ),
    ]
    inputs = [
        Input(label="Outside, design day", value=f"{num(house.outdoor_c)} °C", how=house.climate_label or "entered"),
        Input(label="Tightness n50", value=f"{num(house.n50_per_h)} 1/h", how=house.n50_why),
        Input(label="Heated floor", value=f"{num(house.area_m2)} m²", how="from the walks"),
    ]
    if left_out:
        inputs.append(Input(label="Left out", value=", ".join(left_out), how="incomplete"))
    schools = desk.design.schools
    school = "; ".join(f"{name}: {schools[name]}" for name in ("Air", "Ground", "Neighbour's home", "Thermal bridges"))
    return Working(
        key="house", title="House loss on the design day", value=f"{num((house.loss_w or 0) / 1000, 2)} kW",
        steps=steps, inputs=inputs, source="EN 12831-1 (from memory), ISO 6946, ISO 13370", school=school,
        cautions=desk.cautions("rooms"), screen="rooms",
    )  # fmt: skip


def _air_step(desk: Desk, room: RoomResult) -> Step:
    practice = desk.job.practice
    difference = f"({num(room.target_c)} − {num(desk.design.house.outdoor_c)})"
    flow = (room.air_per_h or 0.0) * (room.volume_m3 or 0.0)
    if practice.air == "table":
        label, formula = "Air, by table", "Φ_V = 0.34 n V (θ_i − θ_e)"
    else:
        label = f"Air, by tightness (windward × {practice.windward_factor:g}, at least "
        label += f"{HYGIENIC_AIR_PER_H:g} per hour)" if practice.hygienic_minimum == "habitable" else "nothing)"
        formula = "Φ_V = 0.34 q (θ_i − θ_e),  q = n50/20 · shelter · V_house · share · windward + openings"
    return Step(
        label=label,
        formula=formula,
        numbers=f"0.34 × {num(flow)} m³/h × {difference}   ({num(room.air_per_h, 2)} changes an hour)",
        result=f"{num(room.air_w, 0)} W",
    )


def _bridge(desk: Desk, face: Face | FacePiece) -> float:
    """Thermal-bridge addition of a face, W/m2K."""
    return desk.job.practice.thermal_bridge_w_m2k if face.beyond in ("outside", "space") else 0.0


def _factor(desk: Desk, face: Face | FacePiece) -> str:
    """The factor a loss carries beside its temperature difference, as text."""
    practice = desk.job.practice
    if face.beyond == "ground" and practice.ground == "annual_mean":
        return f" × {GROUND_FACTOR:g}" + (" × 1.15" if practice.ground_detail.water_near else "")
    return " × b" if face.beyond == "space" else ""


def _difference(desk: Desk, room: RoomResult, face: Face) -> float | None:
    """Temperature difference across a face, K; from the outside where the face itself has no opaque part."""
    if face.difference_k is not None:
        return face.difference_k
    outside = desk.design.house.outdoor_c
    return room.target_c - outside if outside is not None and face.beyond in ("outside", "space") else None


def room_loss(desk: Desk, names: list[str]) -> Working:
    room = desk.room(names[0])
    outside = desk.design.house.outdoor_c
    steps = []
    for face in room.faces:
        for piece in face.pieces:
            if piece.loss_w:
                steps.append(
                    Step(
                        label=f"{face.label} → {piece.beyond_label}: {piece.construction_label}",
                        formula="A (U + ΔU) Δθ" + _factor(desk, piece),
                        numbers=f"{num(piece.net_m2, 2)} m² × ({num(piece.u_w_m2k, 3)} + {num(_bridge(desk, piece), 2)})"
                        f" × {num(piece.difference_k)} K{_factor(desk, piece)}",
                        result=f"{num(piece.loss_w, 0)} W",
                    )
                )
        for opening in face.openings:
            if opening.loss_w is not None:
                steps.append(
                    Step(
                        label=f"{opening.label}, {face.label.lower()}: {opening.construction_label}",
                        formula="A (U + ΔU) Δθ" + _factor(desk, face),
                        numbers=f"{num(opening.area_m2, 2)} m² × ({num(opening.u_w_m2k, 3)} + "
                        f"{num(_bridge(desk, face), 2)}) × {num(_difference(desk, room, face))} K{_factor(desk, face)}",
                        result=f"{num(opening.loss_w, 0)} W",
                    )
                )
    if room.air_w is not None:
        steps.append(_air_step(desk, room))
    steps.append(
        Step(
            label="What the emitter must meet",
            formula="room_emitter_load_w = fabric + ground + bridges + air + heat traded with other rooms",
            numbers=" + ".join(
                num(v, 0) for v in (room.fabric_w, room.ground_w, room.bridges_w, room.air_w, room.trade_w)
            ),
            result=f"{num(room.room_emitter_load_w, 0)} W",
        )
    )
    steps.append(
        Step(
            label="Its part of the house",
            formula="room_share_of_house_w: mean air instead of windward, no trade between rooms",
            numbers="only this sums to the machine's load",
            result=f"{num(room.room_share_of_house_w, 0)} W",
        )
    )
    inputs = [
        Input(label="Room temperature", value=f"{num(room.target_c)} °C", how=room.target_why),
        Input(label="Outside", value=f"{num(outside)} °C", how=desk.design.house.climate_label or "entered"),
        Input(label="Height", value=f"{num(room.height_m, 3)} m", how=desk.how(room.id, "height_m")),
        Input(label="Floor area", value=f"{num(room.area_m2, 2)} m²", how=f"walk: {desk.how(room.id, 'walk')}"),
        Input(label="Air by tightness", value=f"{num(room.air_tightness_w, 0)} W", how="for comparison"),
        Input(label="Air by table", value=f"{num(room.air_table_w, 0)} W", how="for comparison"),
    ]
    return Working(
        key=f"room:{room.id}", title=f"{room.label}: what its emitter must meet",
        value=f"{num(room.room_emitter_load_w, 0)} W", steps=steps, inputs=inputs,
        source="EN 12831-1 (from memory)",
        school=f"Air: {desk.design.schools['Air']}; Thermal bridges: {desk.design.schools['Thermal bridges']}",
        cautions=desk.cautions("rooms"), screen="rooms",
    )  # fmt: skip


def face_loss(desk: Desk, names: list[str]) -> Working:
    room, face = desk.room(names[0]), desk.face(names[0], names[1])
    steps = [
        Step(
            label="Area without windows and doors",
            formula="A = gross − openings",
            numbers=f"{num(face.gross_m2, 2)} − {num((face.gross_m2 or 0) - (face.net_m2 or 0), 2)}",
            result=f"{num(face.net_m2, 2)} m²",
        )
    ]
    for piece in face.pieces:
        if piece.hole:
            steps.append(
                Step(label="Open", formula="no wall, no loss", numbers=f"{num(piece.area_m2, 2)} m²", result="0 W")
            )
            continue
        where = ""
        if piece.from_m is not None and len(face.pieces) > 1:
            where = f", {num(piece.from_m, 2)} to {num(piece.to_m, 2)} m along it"
        steps.append(
            Step(
                label=f"To {piece.beyond_label}{where} ({piece.how})",
                formula="Φ = A (U + ΔU) Δθ" + _factor(desk, piece),
                numbers=f"{num(piece.net_m2, 2)} × ({num(piece.u_w_m2k, 3)} + {num(_bridge(desk, piece), 2)}) × "
                f"{num(piece.difference_k)} K{_factor(desk, piece)}",
                result=f"{num(piece.loss_w, 0)} W",
            )
        )
    inputs = [
        Input(label="Construction", value=face.construction_label, how="scheme" if face.measure else "survey"),
        Input(label="Beyond", value=face.beyond_label, how=face.pieces[0].how if face.pieces else "assumed"),
    ]
    return Working(
        key=f"face:{room.id}:{face.key}", title=f"{room.label}: {face.label.lower()}",
        value=f"{num(face.loss_w, 0)} W", steps=steps, inputs=inputs,
        source="EN 12831-1, ISO 6946, ISO 13370 for ground (from memory)",
        school=f"Ground: {desk.design.schools['Ground']}; Thermal bridges: {desk.design.schools['Thermal bridges']}",
        cautions=desk.cautions("rooms"), screen="rooms",
    )  # fmt: skip


def opening_loss(desk: Desk, names: list[str]) -> Working:
    room, face = desk.room(names[0]), desk.face(names[0], names[1])
    opening = next(iter([o for o in face.openings if o.id == names[2]]), None)
    if opening is None:
        raise KeyError
    made = construction(desk, [opening.construction or ""]) if opening.construction else None
    steps = list(made.steps) if made else []
    steps.append(
        Step(
            label="Loss",
            formula="Φ = A (U + ΔU) Δθ" + _factor(desk, face),
            numbers=f"{num(opening.area_m2, 2)} × ({num(opening.u_w_m2k, 3)} + {num(_bridge(desk, face), 2)}) × "
            f"{num(_difference(desk, room, face))} K{_factor(desk, face)}",
            result=f"{num(opening.loss_w, 0)} W",
        )
    )
    how = "scheme" if opening.measure else "survey"
    return Working(
        key=":".join(["opening", *names]), title=f"{room.label}: {opening.label.lower()}",
        value=f"{num(opening.loss_w, 0)} W", steps=steps,
        inputs=[Input(label="Construction", value=opening.construction_label, how=how)],
        source="ISO 10077-1, ISO 6946, EN 12831-1 (from memory)",
        school=f"Thermal bridges: {desk.design.schools['Thermal bridges']}",
        cautions=desk.cautions("rooms"), screen="rooms",
    )  # fmt: skip


def construction(desk: Desk, names: list[str]) -> Working:
    entry = desk.job.library.constructions[names[0]].data
    worked = Transmittances({names[0]: entry}).detail(names[0])
    steps: list[Step] = []
    if isinstance(worked, fabric.Transmittance):
        for layer, r in zip(entry.layers, worked.r_layers, strict=True):
            numbers = "stated" if layer.r_m2kw else f"{num(layer.thickness_m, 4)} / {num(layer.lambda_w_mk, 3)}"
            if layer.bridge_share:
                numbers += f", {layer.bridge_share:.0%} {layer.bridge_label} at {num(layer.bridge_lambda_w_mk, 2)}"
            steps.append(Step(label=layer.label, formula="R = d/λ", numbers=numbers, result=f"{num(r, 3)} m²K/W"))
        steps.append(
            Step(
                label="Surfaces", formula="Rsi + Rse", numbers=f"{num(worked.rsi, 2)} + {num(worked.rse, 2)}",
                result=f"{num(worked.rsi + worked.rse, 2)} m²K/W",
            )
        )  # fmt: skip
        steps.append(
            Step(
                label="Both limits", formula="R = (R_upper + R_lower) / 2",
                numbers=f"({num(worked.r_upper, 3)} + {num(worked.r_lower, 3)}) / 2",
                result=f"{num(worked.r_total, 3)} m²K/W",
            )
        )  # fmt: skip
        u = worked.u_w_m2k
        steps.append(
            Step(label="U-value", formula="U = 1/R", numbers=f"1 / {num(worked.r_total, 3)}", result=num(u, 3))
        )
    else:
        u = worked
        g = entry.glazing
        if g is None:
            raise KeyError
        steps.append(
            Step(
                label="Glass, frame, edge", formula="U = (1 − f) U_g + f U_f + (l/A) ψ",
                numbers=f"{num(1 - g.frame_share, 2)} × {num(g.glass_u_w_m2k, 2)} + {num(g.frame_share, 2)} × "
                f"{num(g.frame_u_w_m2k, 2)} + {num(g.edge_m_per_m2, 1)} × {num(g.edge_psi_w_mk, 3)}",
                result=f"{num(u, 3)} W/m²K",
            )
        )  # fmt: skip
    if entry.element == "ground":
        steps.append(
            Step(
                label="Into the ground", formula="U by B' = A / ½P and d_t", result="see the floor's own working",
                numbers="the layers above are only the floor itself",
            )
        )  # fmt: skip
    return Working(
        key=f"construction:{names[0]}", title=entry.label, value=f"{num(u, 2)} W/m²K", steps=steps,
        inputs=[Input(label="Belongs to", value=entry.age, how=entry.source)],
        source="ISO 6946:2017, ISO 10077-1:2017 (from memory)", school="Library edition "
        + desk.job.library.constructions[names[0]].edition, cautions=desk.cautions("rooms"), screen="rooms",
    )  # fmt: skip
