"""The store's day as it is drawn on a paper: draws, layers by warmth, who heats it."""

from __future__ import annotations

from html import escape

from cinder.design.apart.water_day.result import WaterDay
from cinder.design.apart.water_day.say import clock

WIDE, TALL = 700.0, 250.0
LEFT, RIGHT = 62.0, 8.0
DRAWN_TOP, DRAWN_FOOT = 10.0, 60.0
STORE_TOP, STORE_FOOT = 72.0, 186.0
MACHINE, IMMERSION, BEAT = 194.0, 210.0, 11.0
INK, MUTED, WATER, HEAT, COOL, WARM = "#1c2226", "#5c666b", "#2f5f7d", "#c2451a", (217, 229, 236), (194, 69, 26)
COOLEST_C, WARMEST_C, STEP_C, USEFUL_C = 15, 65, 5, 40.0
MINUTES = 1440
FONT = 'font-family="Atkinson, sans-serif" font-size="11"'


def _tone(c: float) -> str:
    part = min(max((c - COOLEST_C) / (WARMEST_C - COOLEST_C), 0.0), 1.0)
    return "#" + "".join(f"{round(a + part * (b - a)):02x}" for a, b in zip(COOL, WARM, strict=True))


def begins(layers: list[float], c: float) -> float:
    """How high in the store (0 below, 1 above) water begins to be at least so warm.

    >>> begins([10.0, 10.0, 50.0, 50.0], 30.0)
    0.5
    """
    if layers[0] >= c:
        return 0.0
    if layers[-1] < c:
        return 1.0
    k = next(n for n in range(len(layers) - 1) if layers[n + 1] >= c)
    low, high = layers[k], layers[k + 1]
    return (k + 0.5 + (c - low) / ((high - low) or 1.0)) / len(layers)


def strip(day: WaterDay) -> str:
    """One day from midnight to midnight, as SVG."""

    def x(minute: float) -> float:
        return LEFT + minute / MINUTES * (WIDE - LEFT - RIGHT)

    def edge(c: float) -> str:
        points = [(x(n * day.step_min), begins(layers, c)) for n, layers in enumerate(day.layers_c)]
        points.append((x(MINUTES), begins(day.layers_c[-1], c)))
        return "L".join(f"{px:.1f} {STORE_FOOT - part * (STORE_FOOT - STORE_TOP):.1f}" for px, part in points)

    def text(px: float, py: float, said: str, anchor: str = "end", colour: str = MUTED) -> str:
        return f'<text x="{px:.1f}" y="{py:.1f}" text-anchor="{anchor}" fill="{colour}" {FONT}>{escape(said)}</text>'

    out = [f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDE:.0f} {TALL:.0f}" role="img">']
    width, height = WIDE - LEFT - RIGHT, STORE_FOOT - STORE_TOP
    out.append(
        f'<rect x="{LEFT}" y="{STORE_TOP}" width="{width:.1f}" height="{height:.1f}" fill="{_tone(COOLEST_C)}"/>'
    )
    out += [
        f'<path d="M{LEFT} {STORE_TOP}L{edge(c)}L{x(MINUTES):.1f} {STORE_TOP}Z" fill="{_tone(c)}"/>'
        for c in range(COOLEST_C, WARMEST_C + 1, STEP_C)
    ]
    out.append(f'<path d="M{edge(USEFUL_C)}" fill="none" stroke="{INK}" stroke-width="1.3"/>')
    most = max([20.0, *(draw.litres for draw in day.draws)])
    for draw in day.draws:
        tall = max((DRAWN_FOOT - DRAWN_TOP) * draw.litres / most, 1.2)
        wide = max(draw.litres / draw.flow_l_min / MINUTES * width, 2.0)
        colour = HEAT if draw.short_min > 0 else WATER
        out.append(
            f'<rect x="{x(draw.minute):.1f}" y="{DRAWN_FOOT - tall:.1f}" width="{wide:.1f}" height="{tall:.1f}" fill="{colour}"/>'
        )
        if draw.short_min > 0:
            said = f"{clock(draw.minute)}: {max(round(draw.short_min), 1)} min too cool"
            late = draw.minute > MINUTES * 0.8
            out.append(text(x(draw.minute), DRAWN_FOOT - tall - 2, said, "end" if late else "start", INK))
    for one in day.stretches:
        y = IMMERSION if one.by in ("immersion", "sun") else MACHINE
        wide = max(x(one.to_minute) - x(one.from_minute), 1.2)
        colour = MUTED if one.by in ("immersion", "sun") else HEAT
        pale = 0.5 if one.by == "on and off" else 1.0
        out.append(
            f'<rect x="{x(one.from_minute):.1f}" y="{y}" width="{wide:.1f}" height="{BEAT}" fill="{colour}" opacity="{pale}"/>'
        )
    out += [
        text(LEFT - 6, DRAWN_FOOT, "drawn"), text(LEFT - 6, STORE_TOP + 10, "top"), text(LEFT - 6, STORE_FOOT - 2, "bottom"),
        text(LEFT - 6, MACHINE + 10, "machine"), text(LEFT - 6, IMMERSION + 10, "immersion"),
    ]  # fmt: skip
    out += [text(x(hour * 60), TALL - 12, f"{hour}:00", "middle") for hour in range(0, 24, 3)]
    return "".join([*out, "</svg>"])
