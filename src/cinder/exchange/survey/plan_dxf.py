"""Storey plans as DXF, out and in. Closed polylines on a layer named for the storey are rooms."""

from __future__ import annotations

import io
import math
import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from cinder.design.plan.layout import layout
from cinder.errors import InvalidJob, MalformedJson, Problem, TooLarge
from cinder.model import Job, new_id
from cinder.model.operation import Operation
from cinder.model.parts import part_key

MAX_BYTES = 8 * 1024 * 1024
MAX_ROOMS = 300
MAX_ENTITIES = 30_000
ENTITY = re.compile(rb"(?m)^[ \t]*0[ \t]*\r?$")
"""A group code 0 begins an entity, a vertex or a table entry."""
LEAST_RUN_M = 0.01
LEAST_AREA_M2 = 0.25
METRES_PER_UNIT = {1: 0.0254, 2: 0.3048, 4: 0.001, 5: 0.01, 6: 1.0}
TEXT_M = 0.18
SHOWN = 20


def write(job: Job) -> bytes:
    """Every placed room as a closed polyline with its name, in metres; one layer a storey, openings on their own."""
    from ezdxf.filemanagement import new  # slow to import: only where a drawing is read or written

    drawing = new("R2010", setup=True)
    drawing.header["$INSUNITS"] = 6
    space = drawing.modelspace()
    laid = layout(job.survey)
    for key, body in laid.shapes.items():
        if not body.placed:
            continue
        room = job.survey.rooms[key]
        storey = job.survey.storeys.get(room.storey or "")
        layer = _layer((storey.label if storey else "") or room.storey or "Rooms")
        for name, color in ((layer, 7), (f"{layer} windows", 5)):
            if name not in drawing.layers:
                drawing.layers.add(name, color=color)
        points = [wall.a for wall in body.walls]
        space.add_lwpolyline(points, close=True, dxfattribs={"layer": layer})
        middle = body.polygon.representative_point()
        label = space.add_text(room.label or key, height=TEXT_M, dxfattribs={"layer": layer})
        label.set_placement((middle.x, middle.y))
        for wall in body.walls:
            face = room.faces.get(wall.id)
            for opening in face.openings.values() if face else ():
                if opening.offset_m is None or opening.width_m is None or wall.length_m <= 0:
                    continue
                ux, uy = (wall.b[0] - wall.a[0]) / wall.length_m, (wall.b[1] - wall.a[1]) / wall.length_m
                ends = [
                    (wall.a[0] + ux * s, wall.a[1] + uy * s)
                    for s in (opening.offset_m, opening.offset_m + opening.width_m)
                ]
                space.add_line(ends[0], ends[1], dxfattribs={"layer": f"{layer} windows"})
    out = io.StringIO()
    drawing.write(out)
    return out.getvalue().encode("utf-8")


def _layer(name: str) -> str:
    return "".join("-" if c in '<>/\\":;?*|=`,' else c for c in name)[:80] or "Rooms"


@dataclass(frozen=True, slots=True)
class Drawn:
    """What of a drawing may become rooms: closed outlines and texts by layer, m."""

    outlines: list[tuple[str, list[tuple[float, float]]]]
    texts: list[tuple[str, str, float, float]]


def changes(job: Job, data: bytes, *, by: str, at: str) -> list[Operation]:
    """The operations that take the rooms of a drawing into a job; nothing is changed here.

    Rooms are closed polylines; the layer names the storey (unknown layers go to the lowest one, and the room keeps the
    layer's name in its note). Lengths come in as *told*. Raises `TooLarge`, `MalformedJson`, or `InvalidJob` naming
    every curve or open line on a layer with rooms.
    """
    return changes_of(job, read(data), by=by, at=at)


def changes_of(job: Job, drawn: Drawn, *, by: str, at: str) -> list[Operation]:
    """The same from what `read` found."""
    return list(_rooms(job, drawn.outlines, drawn.texts, by, at))


def read(data: bytes) -> Drawn:
    """Closed polylines and texts of a drawing. Raises as `changes`."""
    from ezdxf import recover

    if len(data) > MAX_BYTES:
        raise TooLarge(f"The drawing has {len(data):,} bytes; at most {MAX_BYTES:,} are taken.")
    marks = len(ENTITY.findall(data))
    if marks > MAX_ENTITIES:
        raise TooLarge(f"The drawing holds {marks:,} things; at most {MAX_ENTITIES:,} are taken. Save the plan alone.")
    try:
        drawing, _ = recover.read(io.BytesIO(data))
        return _drawn(drawing)
    except (InvalidJob, TooLarge, MemoryError):
        raise
    except Exception as error:  # a damaged drawing breaks its reader in more ways than can be listed
        raise MalformedJson(f"Not a DXF drawing we can read: {type(error).__name__}, {_plain(error)}.") from None


def _plain(error: Exception) -> str:
    """What an error says, without text that cannot be sent on."""
    return str(error)[:120].encode("utf-8", "replace").decode()


def _drawn(drawing: Any) -> Drawn:
    scale = METRES_PER_UNIT.get(int(drawing.header.get("$INSUNITS", 6)), 1.0)
    problems: list[Problem] = []
    found: list[tuple[str, list[tuple[float, float]]]] = []
    for entity in drawing.modelspace():
        outline = _outline(entity, scale, problems)
        if outline:
            found.append((entity.dxf.layer, outline))
    if problems:
        raise InvalidJob(
            f"The drawing has {len(problems)} {'things' if len(problems) > 1 else 'thing'} that cannot be a wall run.",
            problems=tuple(problems[:SHOWN]), kept="Nothing of it was taken.",
        )  # fmt: skip
    if not found:
        raise InvalidJob(
            "The drawing holds no closed polyline: nothing in it is a room.", kept="Nothing of it was taken."
        )
    if len(found) > MAX_ROOMS:
        raise TooLarge(f"The drawing has {len(found)} closed polylines; at most {MAX_ROOMS} are taken as rooms.")
    texts = [
        (_sound(entity.dxf.layer), _sound(entity.dxf.text), entity.dxf.insert.x * scale, entity.dxf.insert.y * scale)
        for entity in drawing.modelspace().query("TEXT")
    ]
    return Drawn([(_sound(layer), outline) for layer, outline in found], texts)


def _sound(text: str) -> str:
    """Text of a drawing that can be kept: half a character pair and U+0000 become a question mark."""
    return (
        text.replace("\x00", "?").encode("utf-16", "surrogatepass").decode("utf-16", "replace").replace("\ufffd", "?")
    )


def _outline(entity: Any, scale: float, problems: list[Problem]) -> list[tuple[float, float]] | None:
    kind = entity.dxftype()
    layer = entity.dxf.layer if entity.dxf.hasattr("layer") else "0"
    where = f"layer {layer}, {kind} {entity.dxf.handle}"
    if kind in ("ARC", "CIRCLE", "ELLIPSE", "SPLINE"):
        problems.append(Problem(where, "is a curve; draw the wall as straight runs"))
        return None
    if kind == "LWPOLYLINE":
        points = [(float(x) * scale, float(y) * scale) for x, y in entity.get_points("xy")]
        bulged, closed = entity.has_arc, entity.closed
    elif kind == "POLYLINE" and entity.is_2d_polyline:
        points = [(float(v.dxf.location.x) * scale, float(v.dxf.location.y) * scale) for v in entity.vertices]
        bulged, closed = entity.has_arc, entity.is_closed
    else:
        return None
    if any(not math.isfinite(c) or abs(c) > 1e4 for p in points for c in p):
        problems.append(Problem(where, "lies out of reach (more than 10 km from the origin)"))
        return None
    near = f", near {points[0][0]:.2f}, {points[0][1]:.2f} m" if points else ""
    if bulged:
        problems.append(Problem(where, f"has an arc in it{near}; draw it as straight runs"))
        return None
    if not closed and len(points) > 3 and math.dist(points[0], points[-1]) < LEAST_RUN_M:
        points, closed = points[:-1], True
    if not closed:
        return None
    kept = [p for n, p in enumerate(points) if math.dist(p, points[n - 1]) >= LEAST_RUN_M]
    if len(kept) < 3 or abs(_area(kept)) < LEAST_AREA_M2:
        return None
    return kept


def _area(points: list[tuple[float, float]]) -> float:
    return sum(ax * by - bx * ay for (ax, ay), (bx, by) in zip(points, points[1:] + points[:1], strict=True)) / 2


def _rooms(
    job: Job,
    found: list[tuple[str, list[tuple[float, float]]]],
    texts: list[tuple[str, str, float, float]],
    by: str,
    at: str,
) -> Iterator[Operation]:
    storeys = sorted(job.survey.storeys.items(), key=lambda item: item[1].pos)
    part = part_key(job.survey, None)
    known = {"how": "told", "via": "drawing", "by": by, "at": at}
    for n, (layer, points) in enumerate(found):
        clockwise = points if _area(points) < 0 else points[::-1]
        named = next((key for key, s in storeys if layer.lower() in (key.lower(), _layer(s.label).lower())), None)
        label = next((t for tl, t, x, y in texts if tl == layer and _inside(x, y, clockwise)), f"Room {n + 1}")
        room: dict[str, Any] = {
            "label": label.strip()[:200] or f"Room {n + 1}", "pos": float(len(job.survey.rooms) + n), "faces": {},
            "air": {}, "known": {"walk": known}, **_walk(clockwise),
        }  # fmt: skip
        if storeys:
            room["storey"] = named or storeys[0][0]
        if named is None:
            room["note"] = f"From the layer {layer}."[:4000]
        if part is not None:
            room["part"] = part
        yield {"op": "add", "path": f"/survey/rooms/{new_id()}", "value": room}


def _inside(x: float, y: float, ring: list[tuple[float, float]]) -> bool:
    inside = False
    for (ax, ay), (bx, by) in zip(ring, ring[1:] + ring[:1], strict=True):
        if (ay > y) != (by > y) and x < (bx - ax) * (y - ay) / (by - ay) + ax:
            inside = not inside
    return inside


def _walk(points: list[tuple[float, float]]) -> dict[str, Any]:
    count = len(points)
    headings = [
        math.atan2(-(points[(n + 1) % count][1] - points[n][1]), points[(n + 1) % count][0] - points[n][0])
        for n in range(count)
    ]
    runs = [
        {
            "id": f"w{n + 1}",
            "length_m": round(math.dist(points[n], points[(n + 1) % count]), 4),
            "turn_deg": round(math.degrees(math.remainder(headings[(n + 1) % count] - headings[n], 2 * math.pi)), 6),
        }
        for n in range(count)
    ]
    place = {
        "x_m": round(points[0][0], 4),
        "y_m": round(points[0][1], 4),
        "rotation_deg": round(math.degrees(headings[0]), 6),
    }
    return {"walk": runs, "position": place}
