"""The cylinder: how large, how long it takes to reheat, what it takes out of the day."""

from cinder.design.hot_water.decide import DEFAULT_COLD_C, TAP_C, judge, looks_at, nothing

__all__ = ["DEFAULT_COLD_C", "TAP_C", "judge", "looks_at", "nothing"]  # fmt: skip
