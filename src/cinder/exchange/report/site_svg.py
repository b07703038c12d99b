"""The site drawn to scale for a paper: the house, the edge of the plot, the unit, who hears it and how loud it is where."""

from __future__ import annotations

import math
from html import escape

from cinder.design import Design
from cinder.design.machine.clear import UNIT_DEEP_M, UNIT_WIDE_M
from cinder.design.machine.result import PlaceResult
from cinder.model import Job

WIDE, TALL = 700.0, 330.0
INK, MUTED, WATER, HEAT, ASH, SHORT = "#1c2226", "#8a9498", "#2f5f7d", "#c2451a", "#e4e8e6", "#b07a00"
AROUND_M = 4.0
FONT = 'font-family="Atkinson, sans-serif" font-size="12"'
Point = tuple[float, float]


def site(job: Job, design: Design, place: PlaceResult) -> str:
    """The site about one place as SVG, the plan's upward direction up."""
    return _Pen(job, design, place).drawn()


class _Pen:
    def __init__(self, job: Job, design: Design, place: PlaceResult) -> None:
        self.job, self.design, self.place = job, design, place
        where = job.site
        dots = [
            *((one.x_m, one.y_m) for one in where.receivers.values()),
            *((one.x_m, one.y_m) for one in where.openings.values()),
            *((one.x_m, one.y_m) for one in where.marks.values()),
            *((one.x_m, one.y_m) for one in where.boundary),
            *((p[0], p[1]) for ring in design.places.outline for p in ring),
            (place.x_m, place.y_m),
        ]
        self.left, self.low = min(x for x, _ in dots) - AROUND_M, min(y for _, y in dots) - AROUND_M
        right, high = max(x for x, _ in dots) + AROUND_M, max(y for _, y in dots) + AROUND_M
        self.high = high
        self.scale = min(WIDE / (right - self.left), TALL / (high - self.low))
        self.tall = (high - self.low) * self.scale
        self.dx = (WIDE - (right - self.left) * self.scale) / 2
        self.out: list[str] = []

    def at(self, x: float, y: float) -> str:
        return f"{self.dx + (x - self.left) * self.scale:.1f},{(self.high - y) * self.scale:.1f}"

    def line(self, points: list[Point], style: str, *, closed: bool = False) -> None:
        if points:
            tag = "polygon" if closed else "polyline"
            self.out.append(f'<{tag} points="{" ".join(self.at(*p) for p in points)}" {style}/>')

    def text(self, x: float, y: float, said: str, *, up: float = 4.0, right: float = 9.0) -> None:
        px, py = (float(v) for v in self.at(x, y).split(","))
        end = px > WIDE * 0.75
        place = f'x="{px + (-right if end else right):.1f}" y="{py + up:.1f}" text-anchor="{"end" if end else "start"}" {FONT}'
        # the halo is a text of its own: what makes the PDF draws a stroke over its fill
        self.out.append(f'<text {place} fill="none" stroke="#fff" stroke-width="3">{escape(said)}</text>')
        self.out.append(f'<text {place} fill="{INK}">{escape(said)}</text>')

    def drawn(self) -> str:
        where, place = self.job.site, self.place
        corners = [(one.x_m, one.y_m) for one in where.boundary]
        self.line(corners, f'fill="none" stroke="{MUTED}" stroke-dasharray="14 4 2 4"', closed=len(corners) > 2)
        for ring in self.design.places.outline:
            self.line([(p[0], p[1]) for p in ring], f'fill="{ASH}" stroke="{INK}" stroke-width="1.5"', closed=True)
        self._levels()
        for way, style in (
            (place.run, f'stroke="{HEAT}" stroke-width="2.5"'), (place.cable, f'stroke="{INK}" stroke-dasharray="5 3"'),
        ):  # fmt: skip
            self.line([(p[0], p[1]) for p in way.points], f'fill="none" {style}')
        for one in where.openings.values():
            self._dot(one.x_m, one.y_m, INK, one.label or "an opening")
        for mark in where.marks.values():
            self._dot(mark.x_m, mark.y_m, MUTED, mark.label or mark.kind)
        heard = {h.id: h for h in place.heard}
        for key, ear in where.receivers.items():
            level = heard.get(key)
            said = f" {level.level_db:.1f} dB(A)" if level else ""
            self._dot(ear.x_m, ear.y_m, SHORT if level and not level.met else WATER, f"{ear.label or 'a window'}{said}")
        self._unit()
        bar = 5 * self.scale
        self.out.append(
            f'<line x1="10" y1="{self.tall - 10:.1f}" x2="{10 + bar:.1f}" y2="{self.tall - 10:.1f}" stroke="{INK}" '
            f'stroke-width="2.5"/><text x="{16 + bar:.1f}" y="{self.tall - 6:.1f}" {FONT} fill="{INK}">5 m</text>'
        )
        return f'<svg class="site" viewBox="0 0 {WIDE:.0f} {self.tall:.0f}">{"".join(self.out)}</svg>'

    def _levels(self) -> None:
        place, style = self.place, f'fill="none" stroke="{WATER}" stroke-dasharray="2 4"'
        px, py = (float(v) for v in self.at(place.x_m, place.y_m).split(","))
        if place.contours:
            for contour in place.contours:
                for line in contour.lines:
                    self.line([(p[0], p[1]) for p in line], style)
                tops = [p for line in contour.lines for p in line]
                if tops:
                    top = max(tops, key=lambda p: p[1])
                    self.text(top[0], top[1], f"{contour.level_db:.0f}", up=-3, right=0)
            return
        for ring in place.levels:
            r = ring.radius_m * self.scale
            self.out.append(f'<circle cx="{px:.1f}" cy="{py:.1f}" r="{r:.1f}" {style}/>')
            aslant = ring.radius_m * math.sqrt(0.5)
            self.text(place.x_m + aslant, place.y_m - aslant, f"{ring.level_db:.0f}", up=10, right=3)

    def _dot(self, x: float, y: float, colour: str, said: str) -> None:
        px, py = self.at(x, y).split(",")
        self.out.append(f'<circle cx="{px}" cy="{py}" r="5" fill="#fff" stroke="{colour}" stroke-width="2"/>')
        self.text(x, y, said)

    def _unit(self) -> None:
        place = self.place
        a = math.radians(place.facing_deg)
        across, ahead = (math.cos(a), -math.sin(a)), (math.sin(a), math.cos(a))
        w, d = UNIT_WIDE_M / 2, UNIT_DEEP_M / 2
        corners = [
            (place.x_m + sx * w * across[0] + sy * d * ahead[0], place.y_m + sx * w * across[1] + sy * d * ahead[1])
            for sx, sy in ((-1, -1), (1, -1), (1, 1), (-1, 1))
        ]
        self.line(corners, f'fill="#fff" stroke="{INK}" stroke-width="2"', closed=True)
        self.line([(place.x_m + d * ahead[0], place.y_m + d * ahead[1]),
                   (place.x_m + 1.2 * ahead[0], place.y_m + 1.2 * ahead[1])], f'stroke="{WATER}" stroke-width="2.5"')  # fmt: skip
        self.text(place.x_m, place.y_m, place.label, up=20)
