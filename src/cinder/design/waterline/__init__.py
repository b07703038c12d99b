"""How warm the water must be, and what each room reaches."""

from cinder.design.waterline.decide import WaterlineArrays, judge, meets

__all__ = ["WaterlineArrays", "judge", "meets"]  # fmt: skip
