"""The weather curve as it is drawn on the card beside the controller."""

from __future__ import annotations

from html import escape

from cinder.design.curve.result import Curve
from cinder.model.imperial import Told

WIDE, TALL = 700.0, 160.0
LEFT, RIGHT, TOP, FOOT = 46.0, 12.0, 12.0, 38.0
INK, MUTED, WATER, HEAT, RULE = "#1c2226", "#5c666b", "#2f5f7d", "#c2451a", "#cdd4d1"
FONT = 'font-family="Atkinson, sans-serif" font-size="11"'
COLDER_K = 3.0
COOLEST_C, MILDEST_C = 20.0, 20.0


def drawn(curve: Curve, told: Told) -> str:
    """Water over outdoor temperature: what the controller gives, what the house needs; empty without a line."""
    if not curve.line_c or curve.cold_out_c is None:
        return ""
    low, limit = curve.cold_out_c - COLDER_K, curve.heating_limit_c
    inside = [n for n, out in enumerate(curve.outdoor_c) if low <= out <= min(MILDEST_C, limit)]
    top = max([*(curve.line_c[n] for n in inside), 35.0]) + 3

    def x(out: float) -> float:
        return LEFT + (out - low) / (MILDEST_C - low) * (WIDE - LEFT - RIGHT)

    def y(water: float) -> float:
        return TALL - FOOT - (water - COOLEST_C) / (top - COOLEST_C) * (TALL - FOOT - TOP)

    def text(px: float, py: float, said: str, anchor: str = "middle", colour: str = MUTED) -> str:
        return f'<text x="{px:.1f}" y="{py:.1f}" text-anchor="{anchor}" fill="{colour}" {FONT}>{escape(said)}</text>'

    def way(points: list[tuple[float, float]], colour: str, width: float) -> str:
        d = "L".join(f"{x(out):.1f} {y(max(water, COOLEST_C)):.1f}" for out, water in points)
        return f'<path d="M{d}" fill="none" stroke="{colour}" stroke-width="{width}"/>' if points else ""

    out = [f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDE:.0f} {TALL:.0f}" role="img">']
    for mark in range(int(COOLEST_C), int(top) + 1, 5):
        out.append(f'<line x1="{LEFT}" x2="{WIDE - RIGHT}" y1="{y(mark):.1f}" y2="{y(mark):.1f}" stroke="{RULE}"/>')
        out.append(text(LEFT - 6, y(mark) + 4, told.fig(mark, "°C"), "end"))
    for degrees in range(int(low // 5 * 5) + 5, int(MILDEST_C) + 1, 5):
        out.append(f'<line x1="{x(degrees):.1f}" x2="{x(degrees):.1f}" y1="{TOP}" y2="{TALL - FOOT}" stroke="{RULE}"/>')
        out.append(text(x(degrees), TALL - FOOT + 15, told.fig(degrees, "°C")))
    out.append(text(WIDE - RIGHT, TALL - 6, f"outside, {told.name('°C')}", "end"))
    out.append(
        text(LEFT, TALL - 6, f"water, {told.name('°C')}; red: the controller, blue: what the house needs", "start")
    )
    needs = [(curve.outdoor_c[n], needed) for n in inside if (needed := curve.needed_c[n]) is not None]
    out.append(way(needs, WATER, 2))
    out.append(way([(curve.outdoor_c[n], curve.line_c[n]) for n in inside], HEAT, 3))
    off = x(min(limit, MILDEST_C))
    out.append(
        f'<line x1="{off:.1f}" x2="{off:.1f}" y1="{TOP}" y2="{TALL - FOOT}" stroke="{INK}" stroke-dasharray="3 4"/>'
    )
    out.append(text(off + 4, TOP + 10, "off", "start"))
    for at, flow in ((curve.cold_out_c, curve.cold_flow_c), (curve.mild_out_c, curve.mild_flow_c)):
        if at is not None and flow is not None and at <= MILDEST_C:
            out.append(f'<circle cx="{x(at):.1f}" cy="{y(flow):.1f}" r="5" fill="{HEAT}"/>')
            out.append(text(x(at) + 8, y(flow) - 8, told.amount(flow, "°C"), "start", INK))
    out.append("</svg>")
    return "".join(out)
