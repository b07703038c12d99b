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
from cinder.design.apart.measures.sun import KeptOut, Sun, kept_out, other_glass

__all__ = [
    "LEAST_AREA_M2", "OWN", "KeptOut", "OptionParts", "Sun", "Use", "applied", "becomes", "combined", "found_in", "frozen", "judge",
    "kept_out", "needed_water", "operations", "other_glass", "together", "u_values", "uses",
]  # fmt: skip
