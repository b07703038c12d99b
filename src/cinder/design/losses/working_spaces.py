"""Working of an unheated space."""

from __future__ import annotations

from cinder.design import losses
from cinder.design.explained import Input, Working, num
from cinder.design.fabric.spaces import outward_w_k
from cinder.design.fabric.working import _line
from cinder.design.findings import Findings
from cinder.design.house.view import view
from cinder.design.sheet import Sheet


def space(sheet: Sheet, names: list[str]) -> Working:
    """How cold an unheated space gets."""
    key = names[0]
    shown = next(iter([s for s in sheet.design.house.spaces if s.id == key]), None)
    if shown is None:
        raise KeyError
    found, outdoor = sheet.job.survey.spaces[key], sheet.design.house.outdoor_c
    house = view(sheet.job, Findings())
    if shown.how != "solved":
        how = "entered" if shown.how == "stated" else "by its kind"
        steps = [
            _line("Factor", "b", how, num(shown.b, 2)),
            _line("About as cold as", "θ_i − b (θ_i − θ_e)", f"θ_e {num(outdoor)} °C",
                f"{num(shown.temperature_c)} °C",
            ),
        ]  # fmt: skip
    else:
        arrays = losses.of_house(house, Findings())
        solved = arrays.spaces[key]
        out, under = outward_w_k(house, arrays.fabric.u, found)
        total = f"({num(out, 1)} + {num(under, 1)}) / {num(solved.in_w_k + out + under, 1)}"
        rate = house.tables.space_air_per_h.get(found.air or "ordinary", 1.0)
        steps = [
            _line("From the rooms", "Σ A (U + ΔU)", "every face of a room towards it", f"{num(solved.in_w_k, 1)} W/K"),
            _line("To the outside", "Σ A U + ρ c n V",
                f"its faces, with {num(house.air_heat_wh_m3k * rate * (found.volume_m3 or 0), 1)} W/K of air at {sheet.air_heat} Wh/m³K",
                f"{num(out, 1)} W/K",
            ),
            _line("To the ground", "Σ A U by ISO 13370", "its faces on and in the ground", f"{num(under, 1)} W/K"),
            _line("Its temperature", "θ_u = Σ H_j θ_j / Σ H_j", "rooms, outside and ground, each by its conductance",
                f"{num(shown.temperature_c)} °C",
            ),
            _line("As a factor", "b = (H_out + H_ground) / Σ H", total, num(shown.b, 2)),
        ]  # fmt: skip
    known = found.known.get("kind")
    return Working(
        key=f"space:{key}", title=shown.label, value=f"{num(shown.temperature_c)} °C", steps=steps,
        inputs=[Input(label="Kind", value=found.kind or "not said", how=known.how if known else "assumed")],
        source="ISO 13789, EN 12831-1 table of b (from memory)", school="solved where its faces are known, else by table",
        cautions=sheet.cautions("rooms"), screen="losses",
    )  # fmt: skip
