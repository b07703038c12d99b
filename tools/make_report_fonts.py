"""Cuts the report's fonts from the variable fonts of the pages: WeasyPrint takes one weight a file.

python tools/make_report_fonts.py        (after npm has installed the pages' packages)
"""

from pathlib import Path

from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont

ROOT = Path(__file__).parents[1]
FROM = ROOT / "frontend/node_modules/@fontsource-variable"
TO = ROOT / "src/cinder/exchange/report"
CUTS = [
    ("atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2", "atkinson", (400, 700)),
    (
        "atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-ext-wght-normal.woff2",
        "atkinson-ext",
        (400, 700),
    ),
    ("bricolage-grotesque/files/bricolage-grotesque-latin-wght-normal.woff2", "bricolage", (700,)),
]

if __name__ == "__main__":
    for source, name, weights in CUTS:
        for weight in weights:
            cut = instantiateVariableFont(TTFont(FROM / source), {"wght": weight})
            cut.flavor = None  # unpacking one takes longer than drawing a short paper
            cut.save(TO / f"{name}-{weight}.ttf")
            print(name, weight, (TO / f"{name}-{weight}.ttf").stat().st_size)
