"""What the rooms lose: a house into pieces and arrays, evaluated at any outdoor temperature."""

from cinder.design.losses.assemble import assemble, of_house
from cinder.design.losses.evaluate import LossArrays, Losses, evaluate, loads, on_design_day, through_the_year
from cinder.design.losses.piece import Piece

__all__ = [
    "LossArrays", "Losses", "Piece", "assemble", "evaluate", "loads", "of_house", "on_design_day", "through_the_year",
]  # fmt: skip
