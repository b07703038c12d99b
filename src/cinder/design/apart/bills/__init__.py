"""Last year's fuel against the calculated loss."""

from cinder.design.apart.bills.decide import judge

__all__ = ["judge"]  # fmt: skip
