"""Ways to lose less, each tried through the whole chain."""

from cinder.design.apart.measures.builds import Use, becomes, u_values
from cinder.design.apart.measures.decide import (
    LEAST_AREA_M2,
    OWN,
    OptionParts,
    applied,
    combined,
    found_in,
    frozen,
    judge,
    needed_water,
    operations,
    together,
    uses,
)

__all__ = [
    "LEAST_AREA_M2", "OWN", "OptionParts", "Use", "applied", "becomes", "combined", "found_in", "frozen", "judge", "needed_water",
    "operations", "together", "u_values", "uses",
]  # fmt: skip
