"""What water each outdoor temperature needs, and the setting that serves it."""

from cinder.design.curve import show
from cinder.design.curve.decide import CurveArrays, judge, looks_at, nothing

__all__ = ["CurveArrays", "judge", "looks_at", "nothing", "show"]
