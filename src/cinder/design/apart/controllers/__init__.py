"""The kinds of controller beside each other, on this house."""

from cinder.design.apart.controllers.decide import judge
from cinder.design.apart.controllers.result import ControllersFound

__all__ = ["ControllersFound", "judge"]
