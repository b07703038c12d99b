"""How far the losses may be off, and what the survey still lacks."""

from cinder.design.apart.doubts.decide import drawn, gather, judge
from cinder.design.apart.doubts.gaps import leaving

__all__ = ["drawn", "gather", "judge", "leaving"]  # fmt: skip
