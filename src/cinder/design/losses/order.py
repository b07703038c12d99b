"""What the pieces of a house are, in their order, apart from their figures: most edits change figures alone."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple, TypeAlias

import numpy as np
from numpy.typing import NDArray

from cinder.physics.rooms.radiator import Mask

Places: TypeAlias = NDArray[np.intp]


class Kind(NamedTuple):
    """What a piece is."""

    face: str
    opening: str | None
    group: str
    construction: str | None
    space: str | None
    neighbour_room: str | None
    junction: str | None


class Trading(NamedTuple):
    """Pieces that lead to another room: which they are, whose, and the room beyond, (T,) each."""

    piece: Places
    own: Places
    other: Places


@dataclass(frozen=True, slots=True, eq=False)
class Order:
    """Of the pieces (F,): the room each is of, and whether it leads to a neighbour's home or into the ground. `starts`: where the pieces
    of each room that has any begin; `ends` (R + 1,): between which lie those of each room.

    `plain`: by room and face, the pieces of the wall, floor or roof itself; `spaces`: those towards each unheated space;
    `built` (F,): which of `constructions` a piece is made of, -1 for a thermal bridge by its length.
    """

    room: Places
    starts: Places
    ends: list[int]
    neighbour: Mask
    ground: Mask
    trading: Trading
    plain: dict[tuple[int, str], list[int]]
    spaces: dict[str, list[int]]
    constructions: tuple[str, ...]
    built: Places


def order_of(rooms: Sequence[str], kinds: Sequence[tuple[Kind, ...]]) -> Order:
    """The order of a house: its rooms by id, and what the pieces of each are."""
    index = {key: n for n, key in enumerate(rooms)}
    flat = [(n, kind) for n, of in enumerate(kinds) for kind in of]
    room = np.array([n for n, _ in flat], dtype=np.intp)
    trading = [(k, n, index[kind.neighbour_room]) for k, (n, kind) in enumerate(flat) if kind.neighbour_room in index]
    plain: dict[tuple[int, str], list[int]] = {}
    spaces: dict[str, list[int]] = {}
    codes: dict[str, int] = {}
    built = np.full(len(flat), -1, dtype=np.intp)
    for k, (n, kind) in enumerate(flat):
        if kind.space is not None:
            spaces.setdefault(kind.space, []).append(k)
        if kind.junction is None:
            built[k] = codes.setdefault(kind.construction or "", len(codes))
            if kind.opening is None:
                plain.setdefault((n, kind.face), []).append(k)
    return Order(
        room=room,
        starts=np.flatnonzero(np.diff(room, prepend=-1)),
        ends=np.searchsorted(room, np.arange(len(rooms) + 1)).tolist(),
        neighbour=np.array([kind.group == "neighbour" for _, kind in flat], dtype=bool),
        ground=np.array([kind.group == "ground" for _, kind in flat], dtype=bool),
        trading=Trading(*np.array(trading, dtype=np.intp).reshape(-1, 3).T),
        plain=plain,
        spaces=spaces,
        constructions=tuple(codes),
        built=built,
    )
