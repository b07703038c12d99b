"""Workings of losses: house, room, face, opening."""

from __future__ import annotations

from cinder.design.air.decide import HYGIENIC_AIR_PER_H, LABELS
from cinder.design.explained import Input, Step, Working, num
from cinder.design.fabric import working as working_builds
from cinder.design.losses.result import FacePiece, FaceResult, OpeningResult, RoomResult
from cinder.design.sheet import Sheet


def house_loss(sheet: Sheet, names: list[str]) -> Working:
    house = sheet.design.house
    rooms = [r for r in sheet.design.rooms if r.room_share_of_house_w is not None]
    extras = [house.extras_w] if house.extras_w is not None and abs(house.extras_w) > 0.5 else []
    left_out = [r.label for r in sheet.design.rooms if r.room_share_of_house_w is None]
    steps = [
        Step(
            label="Sum of the rooms' parts of the house",
            formula="Φ_house = Σ Φ_part of each room",
            numbers=" + ".join(num(r.room_share_of_house_w, 0) for r in rooms) + " W" if rooms else "no complete room",
            result=f"{num(house.loss_w, 0)} W",
        ),
        Step(
            label="Where it goes",
            formula="fabric + ground + thermal bridges + air" + (" + additions by practice" if extras else ""),
            numbers=" + ".join(
                num(v, 0) for v in (house.fabric_w, house.ground_w, house.bridges_w, house.air_w, *extras)
            )
            + " W",
            result=f"{num(house.loss_w, 0)} W",
        ),
        Step(
            label="Specific loss",
            formula="H = Φ_house / (θ_i − θ_e)",
            numbers=f"{num(house.loss_w, 0)} W over the mean room temperature less {num(house.outdoor_c)} °C",
            result=f"{num(house.h_w_k, 0)} W/K",
        ),
        *[
            Step(
                label=("Air as counted: " if one.chosen else "Air, another way: ") + one.label.lower(),
                formula="Φ_V = ρ c Σ q (θ_i − θ_e)",
                numbers=f"{sheet.air_heat} Wh/m³K, {num(one.flow_m3h, 0)} m³/h, {num(one.air_w, 0)} W of air",
                result=f"house {num(one.loss_w, 0)} W",
            )
            for one in house.air
        ],
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
    schools = sheet.design.schools
    school = "; ".join(
        f"{name}: {schools[name]}"
        for name in ("Air", "Thin air", "Ground", "Neighbour's home", "Thermal bridges")
        if name in schools
    )
    return Working(
        key="house", title="House loss on the design day", value=f"{num((house.loss_w or 0) / 1000, 2)} kW",
        steps=steps, inputs=inputs, source="EN 12831-1 (from memory), ISO 6946, ISO 13370", school=school,
        cautions=sheet.cautions("rooms"), screen="rooms",
    )  # fmt: skip


AIR_FORMULA = {
    "tightness": "Φ_V = ρ c q (θ_i − θ_e),  q = n50/20 · shelter · V_house · share · windward + openings",
    "age": "Φ_V = ρ c q (θ_i − θ_e),  q = n50 by age/20 · shelter · V_house · share · windward + openings",
    "room": "Φ_V = ρ c q (θ_i − θ_e),  q = 2 V n50 e ε + openings",
    "table": "Φ_V = ρ c n V (θ_i − θ_e)",
}


def _air_step(sheet: Sheet, room: RoomResult) -> Step:
    practice, fans = sheet.job.practice, sheet.job.survey.ventilation
    difference = f"({num(room.target_c)} − {num(sheet.design.house.outdoor_c)} °C)"
    flow = (room.air_per_h or 0.0) * (room.volume_m3 or 0.0)
    label = f"Air: {LABELS[practice.air].lower()}"
    own = sheet.job.survey.rooms[room.id].air
    if own.per_h is not None:
        label = f"Air: {num(own.per_h, 2)} per hour, stated for this room"
    if practice.hygienic_minimum == "habitable":
        label += f", at least {HYGIENIC_AIR_PER_H:g} per hour where people live"
    if fans.kind != "natural":
        label += f"; {fans.kind} fans, {num((fans.recovery or 0) * 100, 0)} % recovered"
    return Step(
        label=label,
        formula=AIR_FORMULA["table" if own.per_h is not None else practice.air],
        numbers=f"{sheet.air_heat} Wh/m³K × {num(flow)} m³/h × {difference}   ({num(room.air_per_h, 2)} changes an hour)",
        result=f"{num(room.air_w, 0)} W",
    )


def _through(face: FaceResult | FacePiece, area_m2: float | None, part: FacePiece | OpeningResult) -> tuple[str, str]:
    """Formula and numbers of a loss through a part of a face."""
    bridge = part.bridge_u_w_m2k
    formula, numbers = "A U Δθ", f"{num(area_m2, 2)} m² × {num(part.u_w_m2k, 3)} W/m²K × {num(part.difference_k)} K"
    if bridge:
        formula = "A (U + ΔU) Δθ"
        numbers = (
            f"{num(area_m2, 2)} m² × ({num(part.u_w_m2k, 3)} + {num(bridge, 2)} W/m²K) × {num(part.difference_k)} K"
        )
    if part.factor is not None and part.factor != 1.0:
        formula += " × f_g" if face.beyond == "ground" else " × b" if face.beyond == "space" else " × f"
        numbers += f" × {num(part.factor, 3).rstrip('0').rstrip('.')}"
    return formula, numbers


def _bridge_steps(face: FaceResult) -> list[Step]:
    return [
        Step(
            label=f"{face.label}: {line.label}", formula="Ψ l Δθ",
            numbers=f"{num(line.psi_w_mk, 2)} W/mK × {num(line.length_m, 2)} m", result=f"{num(line.loss_w, 0)} W",
        )
        for line in face.bridges
    ]  # fmt: skip


def room_loss(sheet: Sheet, names: list[str]) -> Working:
    room = sheet.room(names[0])
    outside = sheet.design.house.outdoor_c
    steps = []
    for face in room.faces:
        for piece in face.pieces:
            if piece.loss_w:
                formula, numbers = _through(piece, piece.net_m2, piece)
                label = f"{face.label} → {piece.beyond_label}: {piece.construction_label}"
                steps.append(Step(label=label, formula=formula, numbers=numbers, result=f"{num(piece.loss_w, 0)} W"))
        for opening in face.openings:
            if opening.loss_w is not None:
                formula, numbers = _through(face, opening.area_m2, opening)
                label = f"{opening.label}, {face.label.lower()}: {opening.construction_label}"
                steps.append(Step(label=label, formula=formula, numbers=numbers, result=f"{num(opening.loss_w, 0)} W"))
        steps += _bridge_steps(face)
    if room.air_w is not None:
        steps.append(_air_step(sheet, room))
    parts = [room.fabric_w, room.ground_w, room.bridges_w, room.air_w, room.trade_w]
    if room.extras_w:
        parts.append(room.extras_w)
    steps.append(
        Step(
            label="What the emitter must meet",
            formula="room_emitter_load_w = fabric + ground + bridges + air + heat traded with other rooms"
            + (" + additions by practice" if room.extras_w else ""),
            numbers=" + ".join(num(v, 0) for v in parts) + " W",
            result=f"{num(room.room_emitter_load_w, 0)} W",
        )
    )
    steps.append(
        Step(
            label="Its part of the house",
            formula="Φ_part: mean air instead of windward, no trade between rooms",
            numbers="only this sums to the machine's load",
            result=f"{num(room.room_share_of_house_w, 0)} W",
        )
    )
    inputs = [
        Input(label="Room temperature", value=f"{num(room.target_c)} °C", how=room.target_why),
        Input(label="Outside", value=f"{num(outside)} °C", how=sheet.design.house.climate_label or "entered"),
        Input(label="Height", value=f"{num(room.height_m, 3)} m", how=sheet.how(room.id, "height_m")),
        Input(label="Floor area", value=f"{num(room.area_m2, 2)} m²", how=f"walk: {sheet.how(room.id, 'walk')}"),
        Input(label="Air by tightness", value=f"{num(room.air_tightness_w, 0)} W", how="for comparison"),
        Input(label="Air by table", value=f"{num(room.air_table_w, 0)} W", how="for comparison"),
    ]
    return Working(
        key=f"room:{room.id}", title=f"{room.label}: what its emitter must meet",
        value=f"{num(room.room_emitter_load_w, 0)} W", steps=steps, inputs=inputs,
        source="EN 12831-1 (from memory)",
        school=f"Air: {sheet.design.schools['Air']}; Thermal bridges: {sheet.design.schools['Thermal bridges']}",
        cautions=sheet.cautions("rooms"), screen="rooms",
    )  # fmt: skip


def face_loss(sheet: Sheet, names: list[str]) -> Working:
    room, face = sheet.room(names[0]), sheet.face(names[0], names[1])
    steps = [
        Step(
            label="Area without windows and doors",
            formula="A = gross − openings",
            numbers=f"{num(face.gross_m2, 2)} − {num((face.gross_m2 or 0) - (face.net_m2 or 0), 2)} m²",
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
        formula, numbers = _through(piece, piece.net_m2, piece)
        label = f"To {piece.beyond_label}{where} ({piece.how})"
        steps.append(Step(label=label, formula=f"Φ = {formula}", numbers=numbers, result=f"{num(piece.loss_w, 0)} W"))
    steps += _bridge_steps(face)
    inputs = [
        Input(label="Construction", value=face.construction_label, how="scheme" if face.measure else "survey"),
        Input(label="Beyond", value=face.beyond_label, how=face.pieces[0].how if face.pieces else "assumed"),
    ]
    return Working(
        key=f"face:{room.id}:{face.key}", title=f"{room.label}: {face.label.lower()}",
        value=f"{num(face.loss_w, 0)} W", steps=steps, inputs=inputs,
        source="EN 12831-1, ISO 6946, ISO 13370 for ground (from memory)",
        school=f"Ground: {sheet.design.schools['Ground']}; Thermal bridges: {sheet.design.schools['Thermal bridges']}",
        cautions=sheet.cautions("rooms"), screen="rooms",
    )  # fmt: skip


def opening_loss(sheet: Sheet, names: list[str]) -> Working:
    room, face = sheet.room(names[0]), sheet.face(names[0], names[1])
    opening = next(iter([o for o in face.openings if o.id == names[2]]), None)
    if opening is None:
        raise KeyError
    made = working_builds.construction(sheet, [opening.construction or ""]) if opening.construction else None
    steps = list(made.steps) if made else []
    formula, numbers = _through(face, opening.area_m2, opening)
    steps.append(Step(label="Loss", formula=f"Φ = {formula}", numbers=numbers, result=f"{num(opening.loss_w, 0)} W"))
    how = "scheme" if opening.measure else "survey"
    return Working(
        key=":".join(["opening", *names]), title=f"{room.label}: {opening.label.lower()}",
        value=f"{num(opening.loss_w, 0)} W", steps=steps,
        inputs=[Input(label="Construction", value=opening.construction_label, how=how)],
        source="ISO 10077-1, ISO 6946, EN 12831-1 (from memory)",
        school=f"Thermal bridges: {sheet.design.schools['Thermal bridges']}",
        cautions=sheet.cautions("rooms"), screen="rooms",
    )  # fmt: skip
