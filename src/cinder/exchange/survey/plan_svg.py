"""Storey plans as one SVG, to scale: 1 m is 40 units; heat through a face as its thickness is the screen's affair."""

from __future__ import annotations

from html import escape

from cinder.design.plan.layout import Layout, layout
from cinder.design.plan.shape import Shape
from cinder.model import Job

SCALE = 40.0
MARGIN = 40.0
INK, GLASS, PAPER = "#1C2226", "#2F5F7D", "#FBFCFB"


def write(job: Job) -> bytes:
    """Every storey with placed rooms, one above the other, upper storeys first."""
    laid = layout(job.survey)
    order = sorted(job.survey.storeys.items(), key=lambda item: -item[1].pos)
    groups = [(storey.label or key, [b for b in laid.shapes.values() if b.placed and job.survey.rooms[b.id].storey == key])
              for key, storey in order]  # fmt: skip
    loose = [b for b in laid.shapes.values() if b.placed and job.survey.rooms[b.id].storey not in job.survey.storeys]
    groups.append(("No storey", loose))
    parts: list[str] = []
    top, wide = MARGIN, 300.0
    for label, bodies in groups:
        if not bodies:
            continue
        x0, y0, x1, y1 = _bounds(bodies)
        parts.append(f'<g transform="translate({MARGIN - x0 * SCALE:.2f} {top + 24 + y1 * SCALE:.2f})">')
        parts.append(
            f'<text x="{x0 * SCALE:.2f}" y="{-y1 * SCALE - 12:.2f}" font-size="15" font-weight="700">{escape(label)}</text>'
        )
        parts += [_room(job, laid, body) for body in bodies]
        parts.append("</g>")
        top += (y1 - y0) * SCALE + 24 + MARGIN
        wide = max(wide, (x1 - x0) * SCALE + 2 * MARGIN)
    head = (
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:.0f}" height="{top:.0f}" viewBox="0 0 {wide:.0f} {top:.0f}" '
        f'font-family="sans-serif" fill="{INK}"><title>{escape(job.title)}</title>'
        f'<rect width="100%" height="100%" fill="{PAPER}"/>'
    )
    return (head + "".join(parts) + "</svg>\n").encode("utf-8")


def _bounds(bodies: list[Shape]) -> tuple[float, float, float, float]:
    boxes = [body.polygon.bounds for body in bodies]
    return min(b[0] for b in boxes), min(b[1] for b in boxes), max(b[2] for b in boxes), max(b[3] for b in boxes)


def _room(job: Job, laid: Layout, body: Shape) -> str:
    room = job.survey.rooms[body.id]
    points = " ".join(f"{wall.a[0] * SCALE:.2f},{-wall.a[1] * SCALE:.2f}" for wall in body.walls)
    out = [f'<polygon points="{points}" fill="none" stroke="#8A9498" stroke-width="1"/>']
    for wall in body.walls:
        for piece in laid.faces[body.id][wall.id]:
            if piece.beyond.kind in ("outside", "space", "neighbour", "ground") and piece.from_m is not None:
                out.append(_line(wall.a, wall.b, wall.length_m, piece.from_m, piece.to_m or 0.0, INK, 4))
        face = room.faces.get(wall.id)
        for opening in face.openings.values() if face else ():
            if opening.offset_m is not None and opening.width_m is not None:
                out.append(
                    _line(wall.a, wall.b, wall.length_m, opening.offset_m, opening.offset_m + opening.width_m, GLASS, 7)
                )
    middle = body.polygon.representative_point()
    out.append(
        f'<text x="{middle.x * SCALE:.2f}" y="{-middle.y * SCALE:.2f}" font-size="12" text-anchor="middle">'
        f'{escape(room.label)}<tspan x="{middle.x * SCALE:.2f}" dy="14">{body.polygon.area:.1f} m²</tspan></text>'
    )
    return "".join(out)


def _line(
    a: tuple[float, float], b: tuple[float, float], length: float, s0: float, s1: float, color: str, width: int
) -> str:
    if length <= 0:
        return ""
    ux, uy = (b[0] - a[0]) / length, (b[1] - a[1]) / length
    x1, y1, x2, y2 = a[0] + ux * s0, a[1] + uy * s0, a[0] + ux * s1, a[1] + uy * s1
    return (
        f'<line x1="{x1 * SCALE:.2f}" y1="{-y1 * SCALE:.2f}" x2="{x2 * SCALE:.2f}" y2="{-y2 * SCALE:.2f}" '
        f'stroke="{color}" stroke-width="{width}"/>'
    )
