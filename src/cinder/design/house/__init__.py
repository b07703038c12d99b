"""The house as a design sees it: the survey with the active scheme laid over it, its rooms and their faces."""

from cinder.design.house.overlay import LOSING, EmitterView, reaches, surfaces_inside, whole_tables
from cinder.design.house.rooms import FaceView, OpeningView, PieceView, RoomView
from cinder.design.house.view import HouseView, view

__all__ = [
    "LOSING", "EmitterView", "FaceView", "HouseView", "OpeningView", "PieceView", "RoomView", "reaches", "surfaces_inside",
    "view", "whole_tables",
]  # fmt: skip
