"""Workings of what the house is made of: a construction, a floor on the ground, an unheated space."""

from __future__ import annotations

from cinder.design.explained import Input, Step, Working, num
from cinder.design.fabric.below_ground import GroundSlab, of_house
from cinder.design.fabric.u_values import Transmittances, air_resistance, counted, is_open, metal_bridged
from cinder.design.findings import Findings
from cinder.design.house.view import view
from cinder.design.sheet import Sheet
from cinder.library import ConstructionEntry, LayerEntry
from cinder.physics.losses import fabric, ground


def _line(label: str, formula: str, numbers: str, result: str) -> Step:
    return Step(label=label, formula=formula, numbers=numbers, result=result)


def construction(sheet: Sheet, names: list[str]) -> Working:
    entry = sheet.job.library.constructions[names[0]].data
    worked = Transmittances({names[0]: entry}).detail(names[0])
    source = "ISO 6946:2017 (from memory)"
    if isinstance(worked, fabric.Transmittance):
        u, steps = worked.u_w_m2k, _layer_steps(entry, worked)
    elif entry.glazing is not None:
        u, g, source = worked, entry.glazing, "ISO 10077-1:2017 (from memory)"
        steps = [
            _line("Glass, frame, edge", "U = (1 − f) U_g + f U_f + (l/A) ψ",
                f"{num(1 - g.frame_share, 2)} × {num(g.glass_u_w_m2k, 2)} W/m²K + {num(g.frame_share, 2)} × "
                f"{num(g.frame_u_w_m2k, 2)} W/m²K + {num(g.edge_m_per_m2, 1)} m/m² × {num(g.edge_psi_w_mk, 3)} W/mK",
                f"{num(u, 3)} W/m²K",
            )
        ]  # fmt: skip
    else:
        u, source = worked, entry.source
        steps = [_line("Declared", "U as stated", entry.source, f"{num(u, 3)} W/m²K")]
    if entry.element == "ground":
        steps.append(
            _line("Into the ground", "U by B' = A / ½P and d_t", "see the floor's own working",
                "the layers above are only the floor itself",
            )
        )  # fmt: skip
    frozen = sheet.job.library.constructions[names[0]]
    return Working(
        key=f"construction:{names[0]}", title=entry.label, value=f"{num(u, 2)} W/m²K", steps=steps,
        inputs=[Input(label="Belongs to", value=entry.age or "–", how=entry.source)], source=source,
        school=f"{frozen.origin}, edition {frozen.edition}", cautions=sheet.cautions("constructions"),
        screen="constructions",
    )  # fmt: skip


def _layer_steps(entry: ConstructionEntry, worked: fabric.Transmittance) -> list[Step]:
    inner = counted(entry)
    steps = [_layer_step(layer, entry, r) for layer, r in zip(inner, worked.r_layers, strict=True)]
    steps += [
        _line(layer.label, "open to the outside", "it and what lies outside of it", "0")
        for layer in entry.layers[len(inner) :]
    ]
    out = "R_si twice, the outer one behind the ventilated layer" if is_open(entry) else "Rsi + Rse"
    steps.append(
        _line("Surfaces", out, f"{num(worked.rsi, 2)} + {num(worked.rse, 2)} m²K/W",
            f"{num(worked.rsi + worked.rse, 2)} m²K/W",
        )
    )  # fmt: skip
    steps.append(
        _line("Both limits", "R = (R_upper + R_lower) / 2",
            f"({num(worked.r_upper, 3)} + {num(worked.r_lower, 3)} m²K/W) / 2",
            f"{num(worked.r_total, 3)} m²K/W",
        )
    )  # fmt: skip
    if metal_bridged(entry) or worked.limits_ratio > fabric.COMBINED_RATIO:
        steps.append(
            _line("Outside the method", "not for metal bridges, nor R_upper / R_lower above 1.5",
                f"R_upper / R_lower = {num(worked.limits_ratio, 2)}", "take a declared U-value",
            )
        )  # fmt: skip
    u = worked.u_w_m2k
    return [*steps, _line("U-value", "U = 1/R", f"1 / {num(worked.r_total, 3)} m²K/W", f"{num(u, 3)} W/m²K")]


def _layer_step(layer: LayerEntry, entry: ConstructionEntry, r: float) -> Step:
    formula = "R = d/λ"
    if layer.r_m2kw:
        formula, numbers = "R as stated", "stated"
    elif layer.air is not None:
        emissivity = layer.emissivity or fabric.BLACK_EMISSIVITY
        formula = "R = 1/(h_a + h_r)" + (", half of it: slightly ventilated" if layer.air == "slight" else "")
        numbers = f"{num((layer.thickness_m or 0) * 1000, 0)} mm, emissivity {num(emissivity, 2)}"
        numbers += f", alone {num(air_resistance(layer, entry.element), 3)} m²K/W" if layer.bridge_share else ""
    else:
        numbers = f"{num(layer.thickness_m, 4)} m / {num(layer.lambda_w_mk, 3)} W/mK"
    if layer.bridge_share:
        numbers += f", {layer.bridge_share:.0%} {layer.bridge_label} at {num(layer.bridge_lambda_w_mk, 2)} W/mK"
    return _line(layer.label, formula, numbers, f"{num(r, 3)} m²K/W")


def slab(sheet: Sheet, names: list[str]) -> Working:
    """A ground floor as a whole, `slab:N` in the order of the Design."""
    house = view(sheet.job, Findings())
    built = of_house(house)
    number = int(names[0]) if names[0].isdigit() else -1
    if not 0 <= number < len(built.floors):
        raise KeyError
    (_, construction_key, _), floor = list(built.floors.items())[number]
    entry = house.constructions[construction_key]
    lam = house.practice.ground_detail.lambda_w_mk
    steps = [
        _line("Characteristic dimension", "B′ = A / ½P",
            f"{num(floor.whole_m2, 2)} m² / (½ × {num(floor.whole_perimeter_m, 2)} m)",
            f"{num(floor.worked.b_m, 2)} m",
        ),
        *_floor_steps(floor, lam, built.u.resistance(construction_key)),
    ]  # fmt: skip
    if floor.edge_u_w_m2k:
        steps.append(
            _line("Strip of insulation along the edge",
                f"U − |ΔΨ| P/A of this part (annex D), {num(floor.edge_m, 2)} m of it counted",
                f"{num(floor.worked.u_w_m2k if isinstance(floor.worked, ground.GroundFloor) else 0, 3)} W/m²K "
                f"{num(floor.edge_u_w_m2k, 3)} W/m²K",
                f"{num(floor.u_w_m2k, 3)} W/m²K",
            )
        )  # fmt: skip
    shown = sheet.design.house.slabs[number]
    measured = f"{num(floor.whole_m2, 2)} m², {num(floor.whole_perimeter_m, 2)} m"
    return Working(
        key=f"slab:{number}", title=f"{entry.label}{', ' + shown.part if shown.part else ''}",
        value=f"{num(floor.u_w_m2k, 3)} W/m²K", steps=steps,
        inputs=[
            Input(label="Conductivity of the ground", value=f"{num(lam)} W/mK", how="practice"),
            Input(label="Whole floor the house stands on: area and exposed edge", value=measured, how="from the plan"),
        ],
        source="ISO 13370:2017 (from memory)", school=f"Ground: {sheet.design.schools['Ground']}",
        cautions=sheet.cautions("rooms"), screen="losses",
    )  # fmt: skip


VOID_FORMULA = "U_x = 2 h U_w / B′ + 1450 ε v f_w / B′"


def _floor_steps(floor: GroundSlab, lam: float, floor_r: float) -> list[Step]:
    worked = floor.worked
    if isinstance(worked, ground.SuspendedFloor):
        return [
            _line("The floor itself", "U_f", "its layers between two inside surfaces", f"{num(worked.floor_u_w_m2k, 3)} W/m²K"),
            _line("Void to the ground", "U_g", "a slab without insulation", f"{num(worked.ground_u_w_m2k, 3)} W/m²K"),
            _line("Void to the outside", VOID_FORMULA, "its walls and its air bricks", f"{num(worked.void_u_w_m2k, 3)} W/m²K"),
            _line("Together", "1/U = 1/U_f + 1/(U_g + U_x)",
                f"1 / {num(worked.floor_u_w_m2k, 3)} W/m²K + 1 / ({num(worked.ground_u_w_m2k, 3)} + "
                f"{num(worked.void_u_w_m2k, 3)} W/m²K)",
                f"{num(worked.u_w_m2k, 3)} W/m²K",
            ),
        ]  # fmt: skip
    equivalent = _line("Equivalent thickness", "d_t = w + λ (R_si + R_f + R_se)",
        f"w + {num(lam)} W/mK × (0.17 + {num(floor_r, 3)} + 0.04 m²K/W)", f"{num(worked.dt_m, 2)} m",
    )  # fmt: skip
    if isinstance(worked, ground.Basement):
        return [
            equivalent,
            _line(f"Floor, {num(floor.depth_m)} m deep", "as a slab with d_t + z/2",
                f"{num(worked.dt_m, 2)} + {num(floor.depth_m / 2, 2)} m", f"{num(worked.floor_u_w_m2k, 3)} W/m²K",
            ),
            _line("Walls in the ground", "2λ/(πz) (1 + ½ d_t/(d_t + z)) ln(z/d_w + 1)",
                f"z {num(floor.depth_m)} m, d_w {num(worked.dw_m, 2)} m", f"{num(worked.wall_u_w_m2k, 3)} W/m²K",
            ),
        ]  # fmt: skip
    formula = "λ / (0.457 B′ + d_t)" if worked.well_insulated else "2λ/(πB′ + d_t) ln(πB′/d_t + 1)"
    numbers = f"λ {num(lam)} W/mK, B′ {num(worked.b_m, 2)} m, d_t {num(worked.dt_m, 2)} m"
    return [equivalent, _line("Slab", formula, numbers, f"{num(worked.u_w_m2k, 3)} W/m²K")]
