"""Workings of pump head, pipes and open water."""

from __future__ import annotations

from cinder.design.explained import Input, Step, Working, num
from cinder.design.sheet import Sheet


def head(sheet: Sheet, names: list[str]) -> Working:
    pipes = sheet.design.pipework
    if pipes.index is None:
        raise KeyError
    by_id = {p.id: p for p in pipes.pipes}
    steps = []
    for key in pipes.circuits[0].path:
        piece = by_id[key]
        valve = f" + valve {num(piece.valve_kpa, 2)} kPa" if piece.valve_kpa is not None else ""
        steps.append(
            Step(
                label=piece.label or "pipe", formula="2 L R + Σ K ρ v²/2" + (" + (Q/kv)²" if valve else ""),
                numbers=f"2 × {num(piece.length_m, 1)} m × {num(piece.pa_per_m, 0)} Pa/m = "
                f"{num(piece.friction_kpa, 2)} kPa + fittings {num(piece.fittings_kpa, 2)} kPa{valve}",
                result=f"{num(piece.total_kpa, 2)} kPa",
            )
        )  # fmt: skip
    steps.append(
        Step(
            label="Against the pump", formula="index loss / head left at this flow",
            numbers=f"{num(pipes.index_kpa, 1)} kPa / {num(pipes.head_kpa, 1)} kPa at {num(pipes.flow_lph, 0)} L/h",
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
        school=f"Pump flagged above {pipes.limit:.0%} of its head", cautions=sheet.cautions("pipework"),
        screen="pipework",
    )  # fmt: skip


def pipe(sheet: Sheet, names: list[str]) -> Working:
    piece = next(iter([p for p in sheet.design.pipework.pipes if p.id == names[0]]), None)
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
            numbers=f"water at {num(sheet.design.pipework.water_c)} °C", result=f"{num(piece.pa_per_m, 0)} Pa/m",
        ),
        Step(
            label="There and back", formula="2 L R + fittings + valve",
            numbers=f"{num(piece.friction_kpa, 2)} + {num(piece.fittings_kpa, 2)} + {num(piece.valve_kpa or 0, 2)} kPa",
            result=f"{num(piece.total_kpa, 2)} kPa",
        ),
    ]  # fmt: skip
    return Working(
        key=f"pipe:{piece.id}", title=piece.label or "Pipe", value=f"{num(piece.total_kpa, 2)} kPa", steps=steps,
        inputs=[Input(label="Length, one way", value=f"{num(piece.length_m, 1)} m", how="informed guess")],
        source="Darcy–Weisbach with Colebrook (from memory)", school=sheet.design.schools["Emitter spread"],
        cautions=sheet.cautions("pipework"), screen="pipework",
    )  # fmt: skip


def open_water(sheet: Sheet, names: list[str]) -> Working:
    litres = sheet.design.volume
    steps = [
        Step(
            label="Water nothing can shut off", formula="pipes + emitters without a closing valve + machine + volumiser",
            numbers=" + ".join(num(v) for v in (litres.pipes_l, litres.emitters_l, litres.machine_l, litres.volumiser_l)) + " L",
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
        cautions=sheet.cautions("pipework"), screen="pipework",
    )  # fmt: skip
