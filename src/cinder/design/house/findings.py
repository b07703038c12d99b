"""What the plan says that cannot be: walks that miss, windows past their wall, beyonds that contradict each other."""

from __future__ import annotations

from functools import partial
from itertools import combinations

from cinder.design.findings import Findings
from cinder.design.house.rooms import RoomView
from cinder.design.house.view import HouseView
from cinder.design.kept import Afresh, Kept, entries
from cinder.model import Beyond, Span
from cinder.model.defaults import USUAL

OVERLAP_M = 0.01
TRADE_W = 20.0
LOW_M, HIGH_M = USUAL["room_height_m"]


def judge(house: HouseView, findings: Findings, kept: Kept | None = None) -> None:
    """Findings of every walk, every pair of rooms that stand in each other, every contradictory beyond."""
    kept = kept or Afresh()
    survey = house.job.survey
    by_id = {room.id: room for room in house.rooms}
    beside = kept.steady("beside rooms", (entries(survey.spaces), entries(survey.neighbours)))
    for room in house.rooms:
        around = (*map(by_id.get, room.says), beside) if room.says is not None else ()
        needs = (room, house.layout.closings.get(room.id), around)
        kept.told(("plan", room.id), needs, findings, partial(_of_room, house, room))
    named: dict[str, str] = {}
    for room in house.rooms:
        word = room.room.label.strip().casefold()
        if word and word in named:
            findings.add(
                "doubt", "rooms", f"/survey/rooms/{room.id}/label", f"Two rooms are called {room.room.label.strip()}.",
                why="Schedules, papers and the balancing list tell rooms apart by name.", mend="Name one of them anew.",
            )  # fmt: skip
        named.setdefault(word, room.id)
    for one, other, shared in house.layout.meetings:
        names = [house.job.survey.rooms[key].label or "A room" for key in (one, other)]
        findings.add(
            "doubt", "plan", f"/survey/rooms/{one}/position", f"{names[0]} and {names[1]} stand in each other.",
            why=f"They share {shared:.1f} m² of floor at the same height.", mend="Slide one of them clear on the plan.",
        )  # fmt: skip


def _of_room(house: HouseView, room: RoomView, findings: Findings) -> None:
    if not room.lacks:
        _walk(house, room, findings)
    _spans(house, room, findings)


def _spans(house: HouseView, room: RoomView, findings: Findings) -> None:
    name = room.name
    for key, face in room.room.faces.items():
        where = f"/survey/rooms/{room.id}/faces/{key}/spans"
        said = [(span_key, span) for span_key, span in sorted(face.spans.items()) if span.beyond is not None]
        for (_, one), (other_key, other) in combinations(said, 2):
            if one.beyond != other.beyond and _shared_m(one, other) > OVERLAP_M:
                findings.add(
                    "doubt", "plan", f"{where}/{other_key}",
                    f"{name}, {_face_label(room, key)}: two things are said to lie beyond the same stretch.",
                    why=f"{_said(house, one.beyond)} and {_said(house, other.beyond)} overlap by "
                    f"{_shared_m(one, other):.2f} m; the first stands.",
                    mend="Take one back, or give each its own stretch.",
                )  # fmt: skip
        for span_key, span in said:
            _answered(house, room, key, f"{where}/{span_key}", span, findings)


def _shared_m(one: Span, other: Span) -> float:
    far = 1e6
    return min(one.to_m if one.to_m is not None else far, other.to_m if other.to_m is not None else far) - max(
        one.from_m or 0.0, other.from_m or 0.0
    )


def _answered(house: HouseView, room: RoomView, face: str, where: str, span: Span, findings: Findings) -> None:
    """One room says another lies beyond; the other, whose faces are all said, names everything but this room."""
    beyond = span.beyond
    if beyond is None or beyond.kind != "room" or face in ("floor", "ceiling"):
        return
    other = next((r for r in house.rooms if r.id == beyond.room), None)
    if other is None or other.lacks:
        return
    back = [p for f in other.faces for p in f.pieces]
    if any(p.stretch.beyond.kind == "room" and p.stretch.beyond.room == room.id for p in back):
        return
    if any(p.stretch.how != "stated" and p.stretch.beyond.kind in ("outside", "heated") for p in back):
        return
    mine, theirs = room.name, other.room.label or "another room"
    findings.add(
        "doubt", "plan", where, f"{mine} says {theirs} lies beyond {_face_label(room, face)}; {theirs} does not say so back.",
        why="The heat one room gives is not received by the other.", mend="Say the same on both sides of that wall.",
    )  # fmt: skip


def _face_label(room: RoomView, key: str) -> str:
    return next((f.label.lower() for f in room.faces if f.key == key), key)


def _said(house: HouseView, beyond: Beyond | None) -> str:
    if beyond is None:
        return "nothing"
    survey = house.job.survey
    names = {
        "room": survey.rooms[beyond.room].label if beyond.room in survey.rooms else "",
        "space": survey.spaces[beyond.space].label if beyond.space in survey.spaces else "",
        "neighbour": survey.neighbours[beyond.neighbour].label if beyond.neighbour in survey.neighbours else "",
    }
    return names.get(beyond.kind) or {"heated": "a room as warm"}.get(beyond.kind, beyond.kind)


def _walk(house: HouseView, room: RoomView, findings: Findings) -> None:
    """A walk that misses its start, crosses itself, or has a window outside its wall."""
    where, name = f"/survey/rooms/{room.id}", room.name
    height = room.room.height_m
    if height is not None and not LOW_M <= height <= HIGH_M:
        findings.add(
            "doubt", "rooms", f"{where}/height_m", f"{name} is {height:.2f} m high.",
            why=f"Rooms are {LOW_M:g} to {HIGH_M:g} m high; its walls and its air are reckoned with what stands there.",
            mend="Measure it again, or look at the unit it was typed in.",
        )  # fmt: skip
    judged = house.layout.closings.get(room.id)
    if judged is not None and not judged.good and not judged.by_diagonal:
        suspect = ""
        if judged.suspects and judged.correction_m is not None:
            number = [run.id for run in room.room.walk].index(judged.suspects[0]) + 1
            suspect = f" Most likely wall {number}, by {judged.correction_m * 1000:+.0f} mm.".replace("-", "−")
        findings.add(
            "doubt", "plan", f"{where}/walk", f"{name}: the walk misses its start by {judged.error_m * 1000:.0f} mm.",
            why=f"{judged.share:.1%} of the walked length; up to 1 % is good.{suspect}",
            mend="Measure that run again; nothing has been spread.",
        )  # fmt: skip
    if room.shape is not None and not room.shape.valid:
        findings.add(
            "doubt", "plan", f"{where}/walk", f"{name}: its walls cross each other.",
            why="No neighbours can be told from such a walk, and its area is not to be trusted.",
            mend="Check the turns: a left taken as a right?",
        )  # fmt: skip
    lengths = {run.id: run.length_m for run in room.room.walk}
    for key, face in room.room.faces.items():
        for opening_key, opening in face.openings.items():
            long = lengths.get(key)
            reach = (opening.offset_m or 0.0) + (opening.width_m or 0.0)
            if long is not None and reach > long + 0.005:
                findings.add(
                    "doubt", "plan", f"{where}/faces/{key}/openings/{opening_key}",
                    f"{name}: {(opening.label or opening.kind).lower()} reaches past its wall.",
                    why=f"It ends at {reach:.2f} m of a wall of {long:.2f} m.", mend="Measure its place and width again.",
                )  # fmt: skip
