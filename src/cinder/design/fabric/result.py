"""Results of what the house is built of."""

from __future__ import annotations

from typing import Literal

from cinder.design.base import Result


class SlabResult(Result):
    """A build of floor on the ground: B' = A / (0.5 P) is that of the whole floor the house stands on, with P its
    exposed perimeter only. `edge_m`: how far a strip of insulation along its own edge counts."""

    part: str
    construction_label: str
    area_m2: float
    exposed_perimeter_m: float
    whole_m2: float
    whole_perimeter_m: float
    characteristic_m: float | None
    u_w_m2k: float
    depth_m: float
    edge_u_w_m2k: float
    edge_m: float | None


class SpaceResult(Result):
    """An unheated space: how cold it gets on the design day, and how that is known."""

    id: str
    label: str
    how: Literal["solved", "stated", "table"]
    b: float
    temperature_c: float | None
    in_w_k: float | None
    out_w_k: float | None


class SectionLayer(Result):
    """A layer of a section: how thick, how much it resists, and whether it counts at all."""

    label: str
    kind: Literal["material", "air", "open", "resistance"]
    thickness_m: float | None
    lambda_w_mk: float | None
    r_m2kw: float
    bridge_label: str
    bridge_share: float
    sd_m: float | None
    counted: bool


class Section(Result):
    """A construction cut through, on the design day: temperatures from the inside surface to the outside surface.

    `temperature_c` has one more entry than the layers that count; `wet` are interfaces where condensate may form.
    """

    element: str
    label: str
    u_w_m2k: float
    r_total_m2kw: float | None
    r_upper_m2kw: float | None
    r_lower_m2kw: float | None
    limits_ratio: float
    rsi_m2kw: float
    rse_m2kw: float
    inside_c: float
    outside_c: float
    humidity: float
    surface_c: float
    dew_point_c: float
    mould_c: float
    layers: list[SectionLayer]
    temperature_c: list[float]
    wet: list[int]
    warnings: list[str]
    sentence: str
