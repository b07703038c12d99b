"""The chain in six figures, and what an edit did to them."""

from __future__ import annotations

from pydantic import BaseModel

from cinder.design.result import Design, Figure, House, MachineRow, Pipework, Season, Volume, Waterline


def figures(
    house: House,
    waterline: Waterline,
    machine: MachineRow | None,
    season: Season,
    pipework: Pipework,
    volume: Volume,
) -> list[Figure]:
    """The ember bar, in working order."""
    at = "on the design day"
    if house.outdoor_c is not None:
        at = f"at {house.outdoor_c:g} °C".replace("-", "−")
    used = pipework.head_used
    return [
        Figure(
            key="loss", label="House loss", value=house.loss_w / 1000 if house.loss_w is not None else None,
            unit="kW", digits=2, better="lower", working="house", screen="rooms",
            lacks="no climate" if house.outdoor_c is None else "no complete room" if house.loss_w is None else "",
        ),
        Figure(
            key="flow", label=f"Flow {at}", value=waterline.chosen_flow_c, unit="°C", digits=1,
            better="lower", working="flow", screen="waterline",
            lacks="" if waterline.chosen_flow_c is not None else "no room with an emitter",
        ),
        Figure(
            key="cover", label="Machine cover", value=machine.cover * 100 if machine and machine.cover is not None else None,
            unit="%", digits=0, better="higher", working="cover", screen="machine",
            lacks="no machine" if machine is None else "" if machine.cover is not None else "no loss",
        ),
        Figure(
            key="season", label="Season, heating", value=season.performance, unit="", digits=2, better="higher",
            working="season", screen="machine",
            lacks="" if season.performance is not None else "no machine or climate",
        ),
        Figure(
            key="head", label="Pump head used", value=used * 100 if used is not None else None, unit="%", digits=1,
            better="lower", working="head", screen="pipework",
            lacks="" if used is not None else "no head left" if pipework.head_kpa == 0 else "no pipes or machine",
        ),
        Figure(
            key="open", label="Open water", value=volume.open_l, unit="L", digits=0, better="higher",
            working="open", screen="pipework", lacks="" if volume.open_l is not None else "no water yet",
        ),
    ]  # fmt: skip


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
    season_kwh: Move


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
        season_kwh=Move(before=before.season.electricity_kwh, after=after.season.electricity_kwh),
    )
