"""What an edit did: headline figures, rooms and the curve's two points, before and after."""

from __future__ import annotations

from pydantic import BaseModel

from cinder.design.result import Design


class Move(BaseModel):
    """A figure before and after an edit."""

    before: float | None
    after: float | None


class RoomMoves(BaseModel):
    loss_w: Move
    needed_flow_c: Move
    reached_c: Move


class Effect(BaseModel):
    """What one edit did: headline figures that moved, rooms that moved, the curve's two points."""

    edits: int = 1
    """How many edits it tells of: several that came in one row are worked out once, together."""
    headline: dict[str, Move]
    rooms: dict[str, RoomMoves]
    curve: dict[str, Move]
    needed_flow_c: Move


def _moved(before: float | None, after: float | None) -> bool:
    if before is None or after is None:
        return before is not after
    return abs(after - before) > 1e-6 * max(1.0, abs(before))


def effect(before: Design, after: Design) -> Effect:
    """Compare two designs of one job; only what moved is listed."""
    old = {figure.key: figure.value for figure in before.headline}
    headline = {
        figure.key: Move(before=old.get(figure.key), after=figure.value)
        for figure in after.headline
        if _moved(old.get(figure.key), figure.value)
    }
    rooms_before = {room.id: room for room in before.rooms}
    rooms = {}
    for room in after.rooms:
        was = rooms_before.get(room.id)
        moves = RoomMoves(
            loss_w=Move(before=was.room_emitter_load_w if was else None, after=room.room_emitter_load_w),
            needed_flow_c=Move(before=was.needed_flow_c if was else None, after=room.needed_flow_c),
            reached_c=Move(before=was.reached_c if was else None, after=room.reached_c),
        )
        if any(_moved(m.before, m.after) for m in (moves.loss_w, moves.needed_flow_c, moves.reached_c)):
            rooms[room.id] = moves
    points = {}
    for name in ("cold_flow_c", "mild_flow_c"):
        a, b = getattr(before.curve, name), getattr(after.curve, name)
        if _moved(a, b):
            points[name] = Move(before=a, after=b)
    return Effect(
        headline=headline,
        rooms=rooms,
        curve=points,
        needed_flow_c=Move(before=before.waterline.needed_flow_c, after=after.waterline.needed_flow_c),
    )
