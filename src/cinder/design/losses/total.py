"""The house as a whole, from the arrays."""

from __future__ import annotations

import numpy as np

from cinder.design.air.decide import Compared, compare
from cinder.design.air.decide import looks_at as air_looks_at
from cinder.design.air.decide import results as air_results
from cinder.design.air.tightness import envelope_m2
from cinder.design.fabric import spaces
from cinder.design.fabric.result import SlabResult
from cinder.design.house.view import HouseView
from cinder.design.kept import Kept
from cinder.design.losses import leaks
from cinder.design.losses.evaluate import LossArrays, Losses
from cinder.design.losses.result import HouseResult

NOTHING_W = 1e-9
"""What is left of sums that cancel out."""


def finite(value: float) -> float | None:
    """A float, or None where there is no number."""
    return float(value) if np.isfinite(value) else None


def air_compared(house: HouseView, arrays: LossArrays, kept: Kept) -> Compared | None:
    """Every way to count air, on the rooms of the design day; None without a design temperature."""
    if house.outdoor_c is None:
        return None
    volume, difference = arrays.volume_m3 * arrays.complete, arrays.target_c - house.outdoor_c
    sizes = (volume.tobytes(), difference.tobytes(), arrays.complete.tobytes(), arrays.exposed_m2.tobytes())
    needs = (arrays.air, arrays.tightness, *sizes, air_looks_at(house))
    return kept.of("air compared", needs, lambda: compare(
        house, arrays.tightness, arrays.air, volume=volume, exposed=arrays.exposed_m2, difference_k=difference,
        complete=np.asarray(arrays.complete, float),
    ))  # fmt: skip


def total(house: HouseView, arrays: LossArrays, design_day: Losses, compared: Compared | None) -> HouseResult:
    """The house on the design day: sums over the rooms that are complete."""
    losses = design_day if house.outdoor_c is not None else None
    known = losses is not None and bool(arrays.complete.any())
    share = float(losses.share_of_house_w.sum()) if known and losses is not None else None
    area = float(arrays.area_m2.sum())
    complete_area = float(arrays.area_m2[arrays.complete].sum())
    air = float(losses.air_house_w.sum()) if known and losses is not None else None
    fabric = ground_w = bridges = 0.0
    leaving = leaks.leaving(arrays, losses) if losses is not None else None
    if leaving is not None:
        bridges = float(leaving.bridges_w.sum())
        ground_w = float(leaving.plain_w[arrays.piece_ground].sum())
        fabric = float(leaving.plain_w[~arrays.piece_ground].sum())
    inside = float((arrays.target_c * arrays.area_m2)[arrays.complete].sum() / complete_area) if complete_area else None
    h = None
    if share is not None and inside is not None and house.outdoor_c is not None and inside > house.outdoor_c:
        h = share / (inside - house.outdoor_c)
    extras = None
    if share is not None and losses is not None:
        rest = share - fabric - ground_w - bridges - (air or 0.0) - float(losses.down_house_w.sum())
        extras = rest if abs(rest) > NOTHING_W else 0.0
    without_air = share - air if share is not None and air is not None else None
    methods = air_results(house, compared, without_air) if (
        compared is not None and without_air is not None
    ) else []  # fmt: skip
    by_method = {one.key: one.loss_w for one in methods}
    return HouseResult(
        outdoor_c=house.outdoor_c,
        climate_label=house.climate.label if house.climate else "",
        area_m2=area,
        volume_m3=float(arrays.volume_m3.sum()),
        loss_w=share,
        fabric_w=fabric if known else None,
        ground_w=ground_w if known else None,
        bridges_w=bridges if known else None,
        air_w=air,
        down_w=float(losses.down_house_w.sum()) if known and losses is not None else None,
        extras_w=extras,
        loss_air_tightness_w=by_method.get("tightness"),
        loss_air_table_w=by_method.get("table"),
        h_w_k=h,
        w_per_m2=share / complete_area if share is not None and complete_area else None,
        n50_per_h=arrays.tightness.n50_per_h,
        n50_why=arrays.tightness.why,
        emitter_loads_w=float(losses.emitter_load_w.sum()) if known and losses is not None else None,
        complete=bool(arrays.complete.all()) and bool(house.rooms),
        slabs=[
            SlabResult(
                part=house.job.survey.parts[part].label if part in house.job.survey.parts else "",
                construction_label=house.construction_label(construction),
                area_m2=slab.area_m2,
                exposed_perimeter_m=slab.exposed_perimeter_m,
                whole_m2=slab.whole_m2,
                whole_perimeter_m=slab.whole_perimeter_m,
                characteristic_m=finite(slab.worked.b_m),
                u_w_m2k=slab.u_w_m2k,
                depth_m=slab.depth_m,
                edge_u_w_m2k=slab.edge_u_w_m2k,
                edge_m=slab.edge_m,
            )
            for (part, construction, _), slab in arrays.fabric.floors.items()
        ],
        spaces=[spaces.result(house, key, arrays.spaces.get(key), arrays.target_c) for key in house.job.survey.spaces],
        air=methods,
        leaks=leaks.ranked(house, arrays, losses, leaving)
        if known and losses is not None and leaving is not None
        else [],
        envelope_m2=envelope_m2(house),
    )
