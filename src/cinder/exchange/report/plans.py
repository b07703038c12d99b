"""The storeys of a house drawn to scale for a paper, with the heat through every wall as its thickness."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from html import escape

from cinder.design import Design
from cinder.design.losses.result import FacePiece, FaceResult, RoomResult
from cinder.model import Job

WIDE_MM, TALL_MM = 176.0, 118.0
SCALES = (50, 75, 100, 125, 150, 200, 250, 500)
MARGIN_MM = 7.0
HEAT, GLASS, INK, MUTED, PAPER = "#c2451a", "#2f5f7d", "#1c2226", "#8a9498", "#ffffff"
THIN_MM, THICK_MM = 0.5, 4.0
PARTY_MM = 0.45
"""Each of the two lines of a party wall."""
GROWS_MM = (3.1, 3.4, 2.6)
Point = tuple[float, float]
Amount = Callable[[float, str, int], str]


@dataclass(frozen=True)
class Drawn:
    """A storey: its name, its drawing as SVG, at 1 : `scale`."""

    label: str
    svg: str
    scale: int


def storeys(job: Job, design: Design, amount: Amount) -> list[Drawn]:
    """Every storey with placed rooms, lowest first, all at one scale; `amount` writes a figure with its unit."""
    placed = [room for room in design.rooms if room.placed and len(room.outline_m) > 3]
    by_storey = [
        (storey.label or key, [room for room in placed if job.survey.rooms[room.id].storey == key])
        for key, storey in sorted(job.survey.storeys.items(), key=lambda item: item[1].pos)
    ]
    by_storey.append(
        ("No storey", [room for room in placed if job.survey.rooms[room.id].storey not in job.survey.storeys])
    )
    filled = [(label, rooms) for label, rooms in by_storey if rooms]
    if not filled:
        return []
    sizes = [_bounds(rooms) for _, rooms in filled]
    most = [max(box[2] - box[0] for box in sizes), max(box[3] - box[1] for box in sizes)]
    inner = [WIDE_MM - 2 * MARGIN_MM, TALL_MM - 2 * MARGIN_MM]
    scale = next(
        (one for one in SCALES if all(m * 1000 / one <= i for m, i in zip(most, inner, strict=True))), SCALES[-1]
    )
    hottest = max(
        [piece.loss_w or 0.0 for room in placed for face in room.faces for piece in face.pieces if face.kind == "wall"]
        + [opening.loss_w or 0.0 for room in placed for face in room.faces for opening in face.openings]
        + [1.0]
    )
    warmest = max([room.w_per_m2 or 0.0 for room in placed] + [1.0])
    pen = _Pen(job, scale, hottest, warmest, amount)
    return [Drawn(label, pen.storey(rooms), scale) for label, rooms in filled]


def _bounds(rooms: list[RoomResult]) -> tuple[float, float, float, float]:
    xs = [p[0] for room in rooms for p in room.outline_m]
    ys = [p[1] for room in rooms for p in room.outline_m]
    return min(xs), min(ys), max(xs), max(ys)


class _Pen:
    def __init__(self, job: Job, scale: int, hottest: float, warmest: float, amount: Amount) -> None:
        self.job, self.per = job, 1000 / scale
        self.hottest, self.warmest, self.amount = hottest, warmest, amount
        self.origin: Point = (0.0, 0.0)

    def storey(self, rooms: list[RoomResult]) -> str:
        x0, y0, x1, y1 = _bounds(rooms)
        self.origin = (MARGIN_MM - x0 * self.per, MARGIN_MM + y1 * self.per)
        wide, tall = (x1 - x0) * self.per + 2 * MARGIN_MM, (y1 - y0) * self.per + 2 * MARGIN_MM
        parts = [self._floor(room) for room in rooms]
        parts += [self._walls(room) for room in rooms]
        parts += [self._words(room) for room in rooms]
        parts += [self._north(wide)]
        return (
            f'<svg width="{wide:.1f}mm" height="{tall:.1f}mm" '
            f'viewBox="0 0 {wide:.2f} {tall:.2f}" font-family="Atkinson, AtkinsonX, sans-serif" fill="{INK}">'
            f"{''.join(parts)}</svg>"
        )

    def _at(self, point: Point) -> str:
        return f"{self.origin[0] + point[0] * self.per:.2f},{self.origin[1] - point[1] * self.per:.2f}"

    def _floor(self, room: RoomResult) -> str:
        points = " ".join(self._at((p[0], p[1])) for p in room.outline_m)
        tone = 0.04 + 0.26 * max(room.w_per_m2 or 0.0, 0.0) / self.warmest
        return f'<polygon points="{points}" fill="{HEAT}" fill-opacity="{tone:.3f}"/>'

    def _walls(self, room: RoomResult) -> str:
        parts: list[str] = []
        walls = [face for face in room.faces if face.kind == "wall"]
        for face, a, b in zip(walls, room.outline_m, room.outline_m[1:], strict=False):
            start, end = (a[0], a[1]), (b[0], b[1])
            parts += [self._piece(piece, start, end) for piece in face.pieces if not piece.hole]
            parts += self._openings(room, face, start, end)
        return "".join(parts)

    def _piece(self, piece: FacePiece, a: Point, b: Point) -> str:
        length = math.dist(a, b)
        ends = _along(a, b, piece.from_m or 0.0), _along(a, b, length if piece.to_m is None else piece.to_m)
        if piece.beyond in ("heated", "room"):
            return self._line(*ends, MUTED, 0.25)
        thick = self._thick(piece.loss_w)
        if piece.beyond != "neighbour":
            return self._line(*ends, HEAT, thick)
        inside = HEAT if (piece.loss_w or 0.0) > 0 else PAPER
        return self._line(*ends, INK, max(thick, 0.8) + 2 * PARTY_MM) + self._line(*ends, inside, max(thick, 0.8))

    def _openings(self, room: RoomResult, face: FaceResult, a: Point, b: Point) -> list[str]:
        """Windows and doors where they are measured to be, else side by side about the middle."""
        length = math.dist(a, b)
        given = self.job.survey.rooms[room.id].faces.get(face.key)
        found = [
            (one, given.openings.get(one.id) if given else None, math.sqrt(one.area_m2 or 0.5)) for one in face.openings
        ]
        widths = [(doc.width_m if doc and doc.width_m else wide) for _, doc, wide in found]
        free = (length - sum(widths)) / 2
        parts = []
        for (one, doc, _), wide in zip(found, widths, strict=True):
            start = doc.offset_m if doc and doc.offset_m is not None else max(free, 0.0)
            free += wide
            ends = _along(a, b, start), _along(a, b, min(start + wide, length))
            thick = max(self._thick(one.loss_w), 1.2)
            parts.append(self._line(*ends, HEAT, thick) + self._line(*ends, GLASS, thick * 0.45))
        return parts

    def _thick(self, watts: float | None) -> float:
        return THIN_MM + (THICK_MM - THIN_MM) * math.sqrt(max(watts or 0.0, 0.0) / self.hottest)

    def _line(self, a: Point, b: Point, color: str, wide: float) -> str:
        (x1, y1), (x2, y2) = self._at(a).split(","), self._at(b).split(",")
        return f'<line x1="{x1}" y1="{y1}" x2="{x2}" y2="{y2}" stroke="{color}" stroke-width="{wide:.2f}"/>'

    def _words(self, room: RoomResult) -> str:
        xs, ys = [p[0] for p in room.outline_m], [p[1] for p in room.outline_m]
        x, y = self._at(((min(xs) + max(xs)) / 2, (min(ys) + max(ys)) / 2)).split(",")
        wide = (max(xs) - min(xs)) * self.per - 3
        name, load, tone = GROWS_MM
        fit = min(name, wide / max(len(room.label), 1) / 0.55)
        watts = room.room_emitter_load_w
        lines = [(escape(room.label), fit, 400)]
        lines.append(
            (self.amount(round(watts, -1), "W", -1) if watts is not None else "not counted", min(load, wide / 6), 700)
        )
        if room.w_per_m2 is not None and wide > 16:
            lines.append((self.amount(room.w_per_m2, "W/m²", 0), tone, 400))
        top = float(y) - sum(size for _, size, _ in lines) * 1.2 / 2
        out = []
        for text, size, weight in lines:
            top += size * 1.2
            out.append(
                f'<text x="{x}" y="{top - size * 0.25:.2f}" font-size="{size:.2f}" font-weight="{weight}" '
                f'text-anchor="middle">{text}</text>'
            )
        return "".join(out)

    def _north(self, wide: float) -> str:
        if self.job.site.north_deg is None:
            return ""
        return (
            f'<g transform="translate({wide - 3.5:.2f} 4.5) rotate({-self.job.site.north_deg:.1f})"><path d="M0 -3 L0.9 2 L0 1.2 L-0.9 2 Z"/>'
            '</g><text font-size="2.2" text-anchor="middle" '
            f'x="{wide - 3.5:.2f}" y="9.8">N</text>'
        )


def _along(a: Point, b: Point, at: float) -> Point:
    length = math.dist(a, b) or 1.0
    part = min(max(at / length, 0.0), 1.0)
    return a[0] + (b[0] - a[0]) * part, a[1] + (b[1] - a[1]) * part
