"""Everything chosen so far as a list to buy by."""

from cinder.design.apart.materials.decide import judge
from cinder.design.apart.materials.result import MaterialsFound

__all__ = ["MaterialsFound", "judge"]
