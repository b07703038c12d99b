"""Air that has to be heated, and how tight the house is."""

from cinder.design.air.decide import AirArrays, arrays, as_stated, compare, stated_rooms
from cinder.design.air.tightness import Tightness, tightness

__all__ = ["AirArrays", "Tightness", "arrays", "as_stated", "compare", "stated_rooms", "tightness"]  # fmt: skip
