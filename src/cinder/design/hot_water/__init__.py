"""The cylinder: how large, how long it takes to reheat, what it takes out of the day, what it asks of its place."""

from cinder.design.hot_water.decide import judge, looks_at, nothing
from cinder.design.hot_water.store import COLD_C, TAP_C

__all__ = ["COLD_C", "TAP_C", "judge", "looks_at", "nothing"]
