"""The plant as a drawing of its own, for papers and for a file."""

from __future__ import annotations

from html import escape

from cinder.design.apart.plant.result import PlantFound, PlantPart, PlantPipe

INK, MUTED, HEAT, WATER, PAPER, WALL = "#1c2226", "#545e63", "#c2451a", "#2f5f7d", "#f2f4f2", "#cdd4d1"
COLOURS = {"flow": HEAT, "return": WATER, "between": MUTED, "tap": MUTED, "cable": MUTED}
COLD = {"flow": WATER, "return": HEAT}
"""Defrosting, what leaves the machine is colder than what comes back."""
LINE = 16.0


def drawn(plant: PlantFound, state: str = "heating") -> str:
    """The plant in a state, as SVG: what moves in it is drawn full, with its direction; what stands still is drawn thin."""
    out = [
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {plant.width:.0f} {plant.height:.0f}" role="img" '
        'font-family="Atkinson, sans-serif">',
        f"<title>{escape(plant.sentence.replace('**', ''))}</title>",
        f'<rect width="{plant.width:.0f}" height="{plant.height:.0f}" fill="#ffffff"/>',
    ]
    for band in plant.bands:
        wide = band.to_x - band.from_x
        out.append(
            f'<rect x="{band.from_x:.0f}" y="30" width="{wide:.0f}" height="{plant.height - 40:.0f}" '
            f'fill="{WALL if band.label == "Wall" else PAPER}"/>'
        )
        if band.label != "Wall":
            out.append(
                f'<text x="{band.from_x + 6:.0f}" y="22" font-size="15" fill="{MUTED}">{escape(band.label)}</text>'
            )
    out += [_pipe(pipe, state) for pipe in plant.pipes]
    out += [f'<circle cx="{one.x:.1f}" cy="{one.y:.1f}" r="3" fill="{INK}"/>' for one in plant.joints]
    out += [_part(part) for part in plant.parts]
    return "".join([*out, "</svg>"])


def _pipe(pipe: PlantPipe, state: str) -> str:
    moves = state in pipe.states
    colours = COLD if state == "defrost" and pipe.side in COLD else COLOURS
    path = "M" + "L".join(f"{x:.1f} {y:.1f}" for x, y in pipe.points)
    dash = ' stroke-dasharray="4 4"' if pipe.side == "cable" else ""
    out = f'<path d="{path}" fill="none" stroke="{colours[pipe.side]}" stroke-width="{4 if moves else 1.5}"{dash}/>'
    return out + (_arrow(pipe, colours[pipe.side]) if moves else "")


def _arrow(pipe: PlantPipe, colour: str) -> str:
    """The way the water takes, in the middle of the longest stretch."""
    (ax, ay), (bx, by) = max(
        zip(pipe.points, pipe.points[1:], strict=False),
        key=lambda one: abs(one[1][0] - one[0][0]) + abs(one[1][1] - one[0][1]),
    )
    long = abs(bx - ax) + abs(by - ay)
    if long < 34:
        return ""
    x, y, dx, dy = (ax + bx) / 2, (ay + by) / 2, (bx - ax) / long, (by - ay) / long
    tip, left, right = (
        (x + 8 * dx, y + 8 * dy),
        (x - 5 * dx - 7 * dy, y - 5 * dy + 7 * dx),
        (x - 5 * dx + 7 * dy, y - 5 * dy - 7 * dx),
    )
    return '<path d="M' + "L".join(f"{px:.1f} {py:.1f}" for px, py in (tip, left, right)) + f'Z" fill="{colour}"/>'


def _part(part: PlantPart) -> str:
    out = ""
    if part.box:
        out += (
            f'<rect x="{part.x - part.width / 2:.1f}" y="{part.y - part.height / 2:.1f}" width="{part.width:.1f}" height="{part.height:.1f}" '
            f'rx="3" fill="#ffffff" stroke="{INK}" stroke-width="1.5"/>'
        )
    if part.mark:
        out += (
            f'<path transform="translate({part.x:.1f} {part.y:.1f})" d="{part.mark}" fill="{"none" if part.box else "#ffffff"}" '
            f'stroke="{INK}" stroke-width="1.5" stroke-linejoin="round"/>'
        )
    words = "".join(
        f'<tspan x="{part.text_x:.1f}" dy="{0 if n == 0 else LINE:g}"{_more(part, n)}>{escape(line)}</tspan>'
        for n, line in enumerate(part.lines)
    )
    return (
        out
        + f'<text x="{part.text_x:.1f}" y="{part.text_y:.1f}" font-size="14" text-anchor="{part.anchor}" fill="{INK}">{words}</text>'
    )


def _more(part: PlantPart, n: int) -> str:
    """Sizes in a lighter tone than names."""
    return (
        f' fill="{MUTED}"'
        if n and part.words and "".join(part.lines[n:]).replace(" ", "") in part.words.replace(" ", "")
        else ""
    )
