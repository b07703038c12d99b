"""The plant as a picture, and what it is made of."""

from cinder.design.apart.plant.decide import judge
from cinder.design.apart.plant.result import PlantFound

__all__ = ["PlantFound", "judge"]
