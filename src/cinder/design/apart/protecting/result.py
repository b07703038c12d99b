"""Results of what keeps the water outdoors from freezing."""

from __future__ import annotations

from cinder.design.base import Result


class Guard(Result):
    """One way, through the whole chain. `share` and `glycol_l` of glycol; `freezes_c`; what it costs at once, again every `again_years`,
    in electricity, and over all `years`. `lacks`: why it does not do."""

    key: str
    kind: str
    glycol: str
    label: str
    chosen: bool
    share: float
    freezes_c: float | None
    glycol_l: float
    flow_lph: float | None
    index_kpa: float | None
    head_used: float | None
    output_w: float | None
    cover: float | None
    season: float | None
    vessel_l: float | None
    once_minor: float
    again_minor: float
    again_years: int | None
    energy_minor: float | None
    total_minor: float
    years: int
    lacks: list[str]
    words: list[str]


class Dose(Result):
    """What is added to the water, L."""

    key: str
    label: str
    litres: float
    why: str


class ProtectingFound(Result):
    """`frost_c`: down to where; `system_l`: all of the heating water; `best` by the school: freeze valves where the maker allows them and
    somebody refills, glycol otherwise."""

    sentence: str
    lacks: str
    frost_c: float | None
    frost_from: str
    system_l: float
    rows: list[Guard]
    best: str
    reasons: list[str]
    where: list[str]
    doses: list[Dose]
