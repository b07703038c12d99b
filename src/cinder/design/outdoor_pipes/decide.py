"""What pipes lose outdoors and in the ground: it is the machine's to make, and warms nobody."""

from __future__ import annotations

from cinder.design.findings import Findings
from cinder.design.house.view import HouseView
from cinder.design.kept import Needs, entries
from cinder.design.outdoor_pipes.result import OutdoorPipe, OutdoorPipes
from cinder.design.waterline.decide import WaterlineArrays
from cinder.model.survey import PipeRun
from cinder.physics.flow import pipe_loss

INSULATION_M = {"outdoors": 0.025, "buried": 0.035}
LAMBDA_W_MK = 0.035
DEPTH_M, APART_M, SOIL_W_MK = 0.8, 0.15, 1.5
"""A buried pair nobody has measured (our choice)."""
WALL_M = 0.001
GROUND_C = 10.0
MUCH_W = 300.0


def judge(house: HouseView, line: WaterlineArrays, findings: Findings) -> OutdoorPipes:
    """Every run that is said to lie outdoors or in the ground."""
    ground = house.climate.annual_mean_c if house.climate is not None else GROUND_C
    flow = line.result.chosen_flow_c
    water = flow - house.spread_k / 2 if flow is not None else None
    rows = []
    for key, (run, _) in house.pipes.items():
        if run.lies in ("outdoors", "buried") and run.length_m is not None:
            rows.append(_row(house, key, run, water, ground))
    made = OutdoorPipes(
        rows=rows,
        air_w_k=sum(row.w_mk * row.length_m for row in rows if row.lies == "outdoors"),
        ground_w_k=sum(row.w_mk * row.length_m for row in rows if row.lies == "buried"),
        ground_c=ground,
        loss_w=sum(row.loss_w or 0.0 for row in rows) if water is not None else None,
    )
    for row in rows:
        if row.loss_w is not None and row.loss_w > MUCH_W:
            findings.add(
                "doubt", "pipework", f"/survey/pipes/{row.pipe}",
                f"{row.label or 'A pipe'} loses {row.loss_w:.0f} W on its way on the design day.",
                why="The machine makes it, and nobody is warmed by it.", mend="Thicker insulation, or a shorter way.",
            )  # fmt: skip
    return made


def _row(house: HouseView, key: str, run: PipeRun, water: float | None, ground: float) -> OutdoorPipe:
    family = house.job.library.pipe_families.get(run.family or "")
    size = family.data.sizes.get(run.size or "") if family else None
    outer = (size.bore_m if size else 0.022) + 2 * WALL_M
    lies = run.lies or "outdoors"
    thick = run.insulation_m if run.insulation_m is not None else INSULATION_M[lies]
    if lies == "buried":
        one = pipe_loss.buried_mk_w(
            outer_m=outer, insulation_m=thick, lambda_w_mk=LAMBDA_W_MK, depth_m=DEPTH_M, apart_m=max(APART_M, outer + 2 * thick),
            soil_w_mk=SOIL_W_MK,
        )  # fmt: skip
    else:
        one = pipe_loss.in_air_mk_w(outer_m=outer, insulation_m=thick, lambda_w_mk=LAMBDA_W_MK)
    around = ground if lies == "buried" else house.outdoor_c
    pair, length = 2 / one, run.length_m or 0.0
    loss = pair * length * max(water - around, 0.0) if water is not None and around is not None else None
    return OutdoorPipe(
        pipe=key, label=run.label, lies=lies, length_m=length, insulation_m=thick, w_mk=pair, loss_w=loss
    )


def looks_at(house: HouseView, line: WaterlineArrays) -> Needs:
    """What they hang on."""
    return (
        house.pipes, entries(house.job.library.pipe_families), house.climate, house.outdoor_c, house.spread_k,
        line.result.chosen_flow_c,
    )  # fmt: skip


def nothing(*_: object) -> OutdoorPipes:
    """Where it cannot be worked out."""
    return OutdoorPipes(rows=[], air_w_k=0.0, ground_w_k=0.0, ground_c=GROUND_C, loss_w=None)
