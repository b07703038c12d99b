"""A hard house: four ways on from here, each a whole chain run, side by side."""

from cinder.design.apart.alternatives.decide import judge, machine_goods_minor

__all__ = ["judge", "machine_goods_minor"]
