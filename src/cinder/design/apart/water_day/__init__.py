"""The day of a hot-water store: draws against layers, coil and machine; the sizes and temperatures that would serve it."""

from cinder.design.apart.water_day.decide import judge
from cinder.design.apart.water_day.result import WaterDays

__all__ = ["WaterDays", "judge"]
