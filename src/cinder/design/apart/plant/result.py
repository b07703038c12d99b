"""The plant as a picture: parts with their places, pipes with their ways. Coordinates in units of the drawing, y downward."""

from __future__ import annotations

from typing import Literal

from cinder.design.base import Result

Side = Literal["flow", "return", "between", "tap", "cable"]
State = Literal["heating", "hot water", "defrost"]


class PlantPart(Result):
    """A part where it is drawn: its middle, its size, its mark (`mark`: a path about the middle; `box`: a frame), words beside it.
    Where `kind` is empty it is an end or a group of emitters and no part that is bought."""

    id: str
    kind: str
    label: str
    words: str
    why: str
    need: str
    side: Side
    band: str
    stays: bool
    x: float
    y: float
    width: float
    height: float
    box: bool
    mark: str
    lines: list[str]
    text_x: float
    text_y: float
    anchor: Literal["start", "middle", "end"]


class PlantPipe(Result):
    """A pipe between two parts or joints, as it is drawn; in which states water moves in it, from its first point to its last."""

    id: str
    begins: str
    ends: str
    side: Side
    words: str
    points: list[list[float]]
    states: list[State]


class Joint(Result):
    """Where pipes meet."""

    id: str
    x: float
    y: float


class Band(Result):
    label: str
    from_x: float
    to_x: float


class StateWords(Result):
    key: str
    label: str
    words: str


class PlantFound(Result):
    sentence: str
    lacks: str
    width: float
    height: float
    bands: list[Band]
    parts: list[PlantPart]
    joints: list[Joint]
    pipes: list[PlantPipe]
    states: list[StateWords]
    holds: list[str]
    notes: list[str]
