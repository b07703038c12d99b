"""The house hour by hour through a year."""

from cinder.design.year.decide import judge

__all__ = ["judge"]  # fmt: skip
