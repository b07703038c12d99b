"""The pieces a house loses heat through: every stretch of every face, every opening, every junction."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from cinder.design.fabric import below_ground, bridges, spaces
from cinder.design.fabric.below_ground import Fabric
from cinder.design.findings import Findings
from cinder.design.house.overlay import surfaces_inside
from cinder.design.house.rooms import FaceView, OpeningView, RoomView
from cinder.design.house.view import HouseView
from cinder.design.losses.order import Kind
from cinder.physics.quantity import Array

GROUND_FACTOR = 1.45  # EN 12831-1 simplified, from memory
GROUND_WATER_FACTOR = 1.15


@dataclass(frozen=True, slots=True)
class Piece:
    """One stretch of a face, or one opening: k A (U + dU) (room - (w outside + x0))."""

    room: int
    face: str
    stretch: int
    opening: str | None
    area_m2: float
    u: float
    bridge: float
    factor: float
    house_factor: float
    outside_weight: float
    fixed_c: float
    house_fixed_c: float
    group: str
    construction: str | None = None
    space: str | None = None
    neighbour_room: str | None = None
    junction: str | None = None
    """A thermal bridge by its length: `area_m2` is then a length in m, `bridge` a psi in W/mK."""


COLUMNS = (
    "area_m2", "u", "bridge", "factor", "house_factor", "outside_weight", "fixed_c", "house_fixed_c",
)  # fmt: skip
"""What of a piece is reckoned with, in the order of the columns."""


@dataclass(frozen=True, slots=True)
class RoomPieces:
    """A room's pieces, the same as columns (F, 8), whether nothing is missing in it, and what the pieces are."""

    pieces: tuple[Piece, ...]
    columns: Array
    complete: bool
    kinds: tuple[Kind, ...]


NOTHING = RoomPieces((), np.zeros((0, len(COLUMNS))), False, ())


def columns_of(pieces: Sequence[Piece]) -> Array:
    """Pieces as columns (F, 8)."""
    rows = [
        (p.area_m2, p.u, p.bridge, p.factor, p.house_factor, p.outside_weight, p.fixed_c, p.house_fixed_c)
        for p in pieces
    ]
    return np.array(rows, dtype=float).reshape(-1, len(COLUMNS))


def of_room(house: HouseView, fabric: Fabric, index: int, room: RoomView, findings: Findings) -> RoomPieces:
    """The pieces of a room that has a size; what is missing in it is a finding."""
    pieces: list[Piece] = []
    complete = True
    for face in room.faces:
        complete &= _face_pieces(house, fabric, index, room, face, pieces, findings)
    if house.practice.bridges == "list" and complete:
        _bridge_lines(house, index, room, pieces)
    kinds = tuple(
        Kind(p.face, p.opening, p.group, p.construction, p.space, p.neighbour_room, p.junction) for p in pieces
    )
    return RoomPieces(tuple(pieces), columns_of(pieces), complete, kinds)


def _bridge_lines(house: HouseView, index: int, room: RoomView, pieces: list[Piece]) -> None:
    """A piece for every junction: its length is its area, psi its only conductance."""
    for line in bridges.junctions(room):
        psi = bridges.psi_w_mk(house, line.junction)
        if not psi or line.length_m <= 0:
            continue
        beyond = line.face.pieces[line.stretch].stretch.beyond
        space = beyond.space if beyond.kind == "space" else None
        b = spaces.factor(house, house.job.survey.spaces[space]) if space else 1.0
        pieces.append(
            Piece(
                index, line.face.key, line.stretch, None, line.length_m, 0.0, psi, b, b, 1.0, 0.0, 0.0, "fabric",
                space=space, junction=line.junction,
            )
        )  # fmt: skip


def _face_pieces(
    house: HouseView,
    fabric: Fabric,
    index: int,
    room: RoomView,
    face: FaceView,
    pieces: list[Piece],
    findings: Findings,
) -> bool:
    """Append the pieces of one face; False when something needed is missing (a finding says what)."""
    where = f"/survey/rooms/{room.id}/faces/{face.key}"
    name = f"{room.room.label or 'Room'}, {face.label.lower()}"
    opened = sum(o.area_m2 or 0.0 for o in face.openings)
    gross = face.gross_m2 or 0.0
    if opened > gross + 1e-9:
        findings.add(
            "doubt", "rooms", where, f"{name}: its windows and doors ({opened:.2f} m²) are larger than the wall "
            f"({gross:.2f} m²).", why="The wall itself is counted as nothing.", mend="Measure both again.",
        )  # fmt: skip
    ok = True
    for n, piece in enumerate(face.pieces):
        beyond, area = piece.stretch.beyond, piece.stretch.area_m2
        if piece.stretch.how == "assumed" and area > 0:
            findings.add(
                "doubt", "rooms", where, f"{name}: what lies beyond is not said.",
                why=f"Taken as {'ground' if face.kind == 'floor' else 'outside'}.",
                mend="Say what lies beyond it, or put the room in its place on the plan.",
            )  # fmt: skip
        if beyond.kind != "heated" and piece.net_m2 > 0:
            ok &= _piece(house, fabric, index, room, face, n, None, piece.net_m2, findings, pieces)
        for opening in piece.openings:
            if opening.kind == "window" and beyond.kind in ("heated", "room"):
                findings.add(
                    "doubt", "rooms", f"{where}/openings/{opening.id}",
                    f"{name}: {opening.label.lower()} stands in a wall to a heated room.",
                    why="It counts by what lies beyond that wall"
                    + (", which is as warm: it loses nothing." if beyond.kind == "heated" else "."),
                    mend="Say what lies beyond the wall there, or give the window its place along it.",
                )  # fmt: skip
            if piece.stretch.how == "assumed" and area == 0 and beyond.kind == "outside":
                findings.add(
                    "doubt", "rooms", f"{where}/openings/{opening.id}",
                    f"{name}: {opening.label.lower()} stands in a wall that is in the earth all over.",
                    why="It counts as looking into a shaft that is open to the outside.",
                    mend="Check the level of the floor, or give the opening its sill.",
                )  # fmt: skip
            if opening.area_m2 is None:
                findings.add(
                    "doubt", "rooms", f"{where}/openings/{opening.id}", f"{name}: {opening.label.lower()} has no size.",
                    why="It is left out and the wall counted whole.", mend="Measure its width and height.",
                )  # fmt: skip
            elif beyond.kind != "heated":
                ok &= _piece(house, fabric, index, room, face, n, opening, opening.area_m2, findings, pieces)
    return ok


def _piece(
    house: HouseView,
    fabric: Fabric,
    index: int,
    room: RoomView,
    face: FaceView,
    stretch: int,
    opening: OpeningView | None,
    area: float,
    findings: Findings,
    pieces: list[Piece],
) -> bool:
    beyond = face.pieces[stretch].stretch.beyond
    construction = opening.construction if opening else face.pieces[stretch].construction
    where = f"/survey/rooms/{room.id}/faces/{face.key}"
    if construction is None:
        thing = opening.label.lower() if opening else face.label.lower()
        findings.add(
            "stops", "rooms", where, f"{room.room.label or 'Room'}, {thing}: its construction is not known.",
            why="No construction is chosen here and the part of the house has no default.",
            mend="Choose a construction, or the age of the house on the site page.",
        )  # fmt: skip
        return False
    u = fabric.u.u(construction, indoors=surfaces_inside(beyond.kind))
    factor = house_factor = 1.0
    weight, fixed, house_fixed, bridge = 1.0, 0.0, 0.0, 0.0
    group, space = "fabric", None
    practice = house.practice
    if beyond.kind == "outside":
        bridge = practice.thermal_bridge_w_m2k if practice.bridges == "default" else 0.0
    elif beyond.kind == "space":
        space = beyond.space
        factor = house_factor = spaces.factor(house, house.job.survey.spaces[space or ""])
        bridge = practice.thermal_bridge_w_m2k if practice.bridges == "default" else 0.0
    elif beyond.kind == "room":
        weight, fixed, house_factor, group = 0.0, house.targets[beyond.room or ""], 0.0, "trade"
    elif beyond.kind == "neighbour":
        neighbour = house.job.survey.neighbours[beyond.neighbour or ""]
        cold = neighbour.temperature_c if neighbour.temperature_c is not None else practice.neighbour_c
        weight, fixed, house_fixed, group = 0.0, cold, cold, "neighbour"
        factor = 0.0 if practice.neighbour == "adiabatic" else 1.0
        house_factor = 1.0 if practice.neighbour == "cold" else 0.0
    else:
        u = below_ground.u_to_ground(house, fabric, room, face.kind, construction, u, face.pieces[stretch].stretch)
        group = "ground"
        annual = house.climate.annual_mean_c if house.climate else None
        if practice.ground == "annual_mean" and annual is not None:
            factor = GROUND_FACTOR * (GROUND_WATER_FACTOR if practice.ground_detail.water_near else 1.0)
            house_factor, weight, fixed, house_fixed = factor, 0.0, annual, annual
    pieces.append(
        Piece(
            index, face.key, stretch, opening.id if opening else None, area, u, bridge, factor, house_factor,
            weight, fixed, house_fixed, group, construction=construction, space=space, neighbour_room=beyond.room,
        )
    )  # fmt: skip
    return True
