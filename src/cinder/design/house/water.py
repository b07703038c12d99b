"""The heating water of a scheme: plain, or with so much glycol as it says or its frost asks for."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from cinder.library import load
from cinder.model import Scheme
from cinder.physics.flow import fluid

UNDER_DESIGN_K = 5.0
"""How much colder than the design day it may get (our choice)."""


@lru_cache(maxsize=4)
def table(glycol: str) -> fluid.Table:
    """The library's glycol as physics takes it."""
    entry = load().glycols[glycol]
    return fluid.Table(
        np.array(entry.share), np.array(entry.freezes_c), np.array(entry.temperature_c), np.array(entry.density_kg_m3),
        np.array(entry.specific_heat_j_kgk), np.array(entry.viscosity_mpa_s) / 1000,
    )  # fmt: skip


@lru_cache(maxsize=64)
def mixed(glycol: str, share: float) -> fluid.Fluid:
    """Water with a share of a glycol; the same object for the same mixture."""
    return fluid.mixed(table(glycol), share)


def frost_c(scheme: Scheme, outdoor_c: float | None) -> float | None:
    """How cold the water outdoors may get; None where neither the scheme nor a climate says."""
    said = scheme.protection.frost_c
    return said if said is not None else outdoor_c - UNDER_DESIGN_K if outdoor_c is not None else None


def glycol_share(scheme: Scheme | None, outdoor_c: float | None) -> float:
    """Glycol in a scheme's water by volume: as it says, else what its frost asks for, the most there is where none is enough."""
    if scheme is None or scheme.protection.kind != "glycol":
        return 0.0
    if scheme.protection.glycol_share is not None:
        return scheme.protection.glycol_share
    frost = frost_c(scheme, outdoor_c)
    if frost is None:
        return 0.0
    found = fluid.share_for(table(scheme.protection.glycol), frost)
    return fluid.MOST_SHARE if found is None else round(found, 3)


def of(scheme: Scheme | None, outdoor_c: float | None) -> fluid.Fluid:
    """The heating water of a scheme."""
    share = glycol_share(scheme, outdoor_c)
    return mixed(scheme.protection.glycol, share) if scheme is not None and share > 0 else fluid.PLAIN
