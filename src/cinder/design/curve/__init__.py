"""What water each outdoor temperature needs, and the setting that serves it."""

from cinder.design.curve import show
from cinder.design.curve.decide import CurveArrays, judge, nothing

__all__ = ["CurveArrays", "judge", "nothing", "show"]
