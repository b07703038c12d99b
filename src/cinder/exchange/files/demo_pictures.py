"""Drawn stand-ins for survey photos, for the sample jobs: simple pictures made here, of nothing that exists."""

from __future__ import annotations

import hashlib
import io
from collections.abc import Callable
from typing import Any

from PIL import Image, ImageDraw

SIZE = (960, 720)
Pen = ImageDraw.ImageDraw
SKY, WALL, DARK, GLASS, WARM = "#d5dfe3", "#b9a98d", "#4a4438", "#8fb0c0", "#c2451a"


def _front(pen: Pen) -> None:
    pen.rectangle((0, 560, 960, 720), fill="#8d9a6f")
    pen.rectangle((180, 240, 780, 600), fill=WALL, outline=DARK, width=4)
    for y in range(260, 600, 22):
        pen.line((180, y, 780, y), fill="#9d8d72", width=2)
    pen.polygon([(150, 240), (810, 240), (700, 110), (260, 110)], fill="#6b5a4b", outline=DARK)
    pen.rectangle((170, 60, 230, 240), fill="#a05a41", outline=DARK, width=3)
    for x, y in ((240, 290), (620, 290), (240, 430), (620, 430)):
        pen.rectangle((x, y, x + 100, y + 90), fill=GLASS, outline="white", width=8)
    pen.rectangle((440, 430, 520, 600), fill="#3f5a4b", outline=DARK, width=4)


def _boiler(pen: Pen) -> None:
    pen.rectangle((0, 0, 960, 720), fill="#cfc8ba")
    pen.rectangle((300, 170, 640, 640), fill="#7d8488", outline=DARK, width=6)
    pen.rectangle((350, 230, 590, 340), fill="#2f3639")
    pen.ellipse((430, 430, 510, 510), fill=WARM, outline=DARK, width=4)
    pen.rectangle((440, 20, 500, 170), fill="#5b5f62")
    for x in (680, 740):
        pen.rectangle((x, 120, x + 22, 660), fill="#b5713d")


def _meter(pen: Pen) -> None:
    pen.rectangle((0, 0, 960, 720), fill="#ded8c8")
    pen.rectangle((280, 120, 680, 560), fill="#f2f0e8", outline=DARK, width=6)
    pen.rectangle((350, 200, 610, 290), fill="#1c2226")
    pen.text((370, 225), "0 4 7 3 1 9", fill="#d9e4d0", font_size=44)
    pen.rectangle((400, 380, 560, 480), fill="#b8b2a2", outline=DARK, width=4)
    pen.text((430, 405), "80 A", fill=DARK, font_size=44)


def _radiator(pen: Pen) -> None:
    pen.rectangle((0, 0, 960, 720), fill="#e6dfd0")
    pen.rectangle((260, 80, 700, 330), fill=GLASS, outline="white", width=14)
    pen.rectangle((180, 420, 780, 640), fill="#f4f2ec", outline="#9b9688", width=4)
    for x in range(200, 780, 24):
        pen.line((x, 425, x, 635), fill="#cfc9ba", width=3)
    pen.rectangle((150, 600, 180, 640), fill="#b5713d")


def _wall(pen: Pen) -> None:
    pen.rectangle((0, 0, 960, 720), fill="#a7977b")
    for y in range(0, 720, 60):
        pen.line((0, y, 960, y), fill="#84765e", width=5)
    pen.rectangle((620, 80, 900, 560), fill=GLASS, outline="white", width=18)
    pen.line((560, 600, 620, 600), fill=WARM, width=6)
    pen.text((500, 620), "150 mm", fill=DARK, font_size=40)


DRAWN: dict[str, tuple[Callable[[Pen], None], str, dict[str, str]]] = {
    "front": (_front, "The house from the lock side", {"item": "front"}),
    "boiler": (_boiler, "Pellet boiler and its two pipes", {"item": "heat-source"}),
    "meter": (_meter, "Meter and cut-out", {"item": "main-fuse"}),
    "wall": (_wall, "Reveal of the parlour bay", {"item": "bond"}),
    "radiator": (_radiator, "Under the bay", {"room": "parlour", "emitter": "r-parlour"}),
}


def drawn() -> list[tuple[str, bytes, dict[str, Any]]]:
    """The pictures: fingerprint, JPEG bytes, and the photo entry that ties each to what it shows."""
    out = []
    for n, (draw, caption, about) in enumerate(DRAWN.values()):
        image = Image.new("RGB", SIZE, SKY)
        draw(ImageDraw.Draw(image))
        data = io.BytesIO()
        image.save(data, "JPEG", quality=84)
        sha256 = hashlib.sha256(data.getvalue()).hexdigest()
        entry = {"sha256": sha256, "pos": float(n), "caption": caption, **about, "by": "Sample engineer"}
        out.append((sha256, data.getvalue(), entry))
    return out
