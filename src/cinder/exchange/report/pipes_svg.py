"""Pipes on the storeys, for papers: as wide as their flow, the index circuit dark, what nobody has confirmed dashed."""

from __future__ import annotations

import math
from html import escape

from cinder.design import Design
from cinder.design.apart.routing.result import RoutesFound
from cinder.model import Job
from cinder.model.survey import PipeRun

WIDE, TALL, GAP, HEAD = 700.0, 330.0, 24.0, 20.0
INK, MUTED, WATER, PAPER, LINE = "#1c2226", "#545e63", "#2f5f7d", "#f2f4f2", "#cdd4d1"
THIN, THICK, EDGE_M = 1.5, 8.0, 0.4


def drawn(job: Job, design: Design, plan: RoutesFound) -> str:
    """The storeys beside each other on one scale; empty where no pipe lies on the plan."""
    runs = {p.id: (p, run) for p in design.pipework.pipes if (run := _run(job, p.id)) is not None and len(run.way) > 1}
    if not plan.storeys or not runs:
        return ""
    points = [(x, y) for s in plan.storeys for r in s.rooms for x, y in r.outline_m]
    points += [(at.x_m, at.y_m) for _, run in runs.values() for at in run.way]
    left, right = min(x for x, _ in points) - EDGE_M, max(x for x, _ in points) + EDGE_M
    low, high = min(y for _, y in points) - EDGE_M, max(y for _, y in points) + EDGE_M
    count = len(plan.storeys)
    scale = min((WIDE - GAP * (count - 1)) / count / (right - left), (TALL - HEAD) / (high - low))
    wide = (right - left) * scale

    def storey(z: float) -> int:
        return min(range(count), key=lambda n: abs(plan.storeys[n].level_m - z))

    def at(x: float, y: float, z: float) -> str:
        return f"{storey(z) * (wide + GAP) + (x - left) * scale:.1f} {HEAD + (high - y) * scale:.1f}"

    tall = HEAD + (high - low) * scale
    out = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {count * wide + GAP * (count - 1):.0f} {tall:.0f}" role="img" '
        'font-family="Atkinson, sans-serif" font-size="10">'
    ]
    for n, one in enumerate(plan.storeys):
        out.append(
            f'<text x="{n * (wide + GAP) + wide / 2:.1f}" y="12" text-anchor="middle" fill="{INK}">{escape(one.label)}</text>'
        )
        for room in one.rooms:
            ring = "L".join(at(x, y, one.level_m) for x, y in room.outline_m)
            out.append(f'<path d="M{ring}Z" fill="{PAPER}" stroke="{LINE}"/>')
            middle = [sum(p[k] for p in room.outline_m) / len(room.outline_m) for k in (0, 1)]
            x, y = at(middle[0], middle[1], one.level_m).split()
            out.append(f'<text x="{x}" y="{y}" text-anchor="middle" fill="{MUTED}">{escape(room.label)}</text>')
    most = max((p.flow_lph or 0.0 for p, _ in runs.values()), default=1.0) or 1.0
    for p, run in runs.values():
        thick = THIN + (THICK - THIN) * math.sqrt((p.flow_lph or 0.0) / most)
        dash = ' stroke-dasharray="6 4"' if run.proposed else ""
        line: list[str] = []
        for n, point in enumerate(run.way):
            if n and storey(run.way[n - 1].z_m) != storey(point.z_m):
                out += [
                    _line(line, p.on_index, thick, dash),
                    _ring(line[-1]),
                    _ring(at(point.x_m, point.y_m, point.z_m)),
                ]
                line = []
            line.append(at(point.x_m, point.y_m, point.z_m))
        out.append(_line(line, p.on_index, thick, dash))
    return "".join([*out, "</svg>"])


def _run(job: Job, key: str) -> PipeRun | None:
    """A run as the scheme shown leaves it."""
    scheme = job.schemes.get(job.active_scheme or "")
    action = scheme.pipes.get(key) if scheme else None
    return action.run if action is not None and action.run is not None else job.survey.pipes.get(key)


def _line(points: list[str], index: bool, thick: float, dash: str) -> str:
    if len(points) < 2:
        return ""
    way = "L".join(points)
    return (
        f'<path d="M{way}" fill="none" stroke="{INK if index else WATER}" stroke-width="{thick:.1f}"{dash} '
        'stroke-linejoin="round"/>'
    )


def _ring(at: str) -> str:
    x, y = at.split()
    return f'<circle cx="{x}" cy="{y}" r="5" fill="#ffffff" stroke="{INK}" stroke-width="1.8"/>'
