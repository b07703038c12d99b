"""The survey form as PDF, empty, to print and fill by hand: the walk-round, then a page of rooms."""

from __future__ import annotations

from html import escape

from cinder.exchange.papers import pdf
from cinder.library import load
from cinder.model.imperial import Told

METRIC = Told(feet=False)

SECTIONS = {
    "outside": "Outside", "plant": "Plant and hot water", "electrics": "Electrics and water",
    "rooms": "Rooms", "loft": "Loft and floors", "places": "Places for the unit",
}  # fmt: skip
ROOMS = 10
STYLE = """
@page { size: A4; margin: 14mm 14mm 16mm; @bottom-left { content: "Survey form. Local codes, the maker's manual and licensed
practice decide."; font: 8pt sans-serif; color: #4d575c } @bottom-right { content: counter(page) " of " counter(pages);
font: 8pt sans-serif; color: #4d575c } }
body { font: 9.5pt/1.35 sans-serif; color: #1c2226 } h1 { font-size: 17pt; margin: 0 0 3mm } h2 { font-size: 12pt;
margin: 6mm 0 1.5mm; border-bottom: 0.8pt solid #1c2226 } table { width: 100%; border-collapse: collapse }
td, th { border-bottom: 0.4pt solid #8a9498; padding: 1.6mm 1mm; vertical-align: top; text-align: left }
th { font-size: 8pt; color: #4d575c; font-weight: 400 } .what { width: 46% } .look { color: #4d575c; font-size: 8pt }
.line { border-bottom: 0.6pt solid #1c2226; height: 6mm } .caution { color: #6e5000; font-size: 8pt }
.room { page-break-inside: avoid; margin-top: 4mm; border: 0.6pt solid #1c2226; padding: 2mm 3mm } .grid { height: 34mm;
background: repeating-linear-gradient(#dde2df 0 0.2mm, transparent 0.2mm 5mm), repeating-linear-gradient(90deg, #dde2df 0
0.2mm, transparent 0.2mm 5mm) } .room td { height: 6mm }
"""


def html(title: str, told: Told = METRIC) -> str:
    """The form as HTML, in the units of the job; text from users is escaped."""
    library = load()
    parts = [f"<h1>Survey: {escape(title)}</h1><table><tr><th>Address</th><th>Date</th><th>Surveyor</th></tr>"
             "<tr><td class=line></td><td class=line></td><td class=line></td></tr></table>"]  # fmt: skip
    for key, heading in SECTIONS.items():
        if key == "rooms":
            continue
        parts.append(f"<h2>{heading}</h2><table>")
        for item in library.walk_round.values():
            if item.section != key:
                continue
            caution = library.cautions.get(item.caution or "")
            said = f"<div class=caution>{escape(caution.hazard)}: {escape(caution.who)}</div>" if caution else ""
            choice = " · ".join(escape(option) for option in item.options.values())
            picture = " · picture" if item.picture else ""
            parts.append(
                f"<tr><td class=what>{escape(item.label)}<div class=look>{escape(told.text(item.look))}{picture}</div>{said}</td>"
                f"<td class=look>{choice or ('yes · no' if item.kind == 'yesno' else escape(told.name(item.unit)))}</td>"
                "<td style='width:30%'></td></tr>"
            )
        parts.append("</table>")
    parts.append("<h2 style='page-break-before: always'>Rooms</h2>")
    parts.append("<p class=look>Height, then clockwise wall by wall with a sketch; then each window, each radiator with its "
                 "free wall. How known: measured, read, told, inferred, assumed.</p>")  # fmt: skip
    for _ in range(ROOMS):
        parts.append(
            "<div class=room><table><tr><th>Room</th><th>Storey</th>"
            f"<th>Use, {told.name('°C')}</th><th>Height</th><th>Walls, clockwise</th></tr>"
            "<tr><td style='width:22%'></td><td></td><td></td><td></td><td style='width:40%'></td></tr></table>"
            "<div class=grid></div><table><tr><th>Windows, doors: wall, width × height, type</th>"
            "<th>Radiators: type, length × height, tails, free wall</th></tr><tr><td style='width:50%'></td><td></td></tr>"
            "<tr><td></td><td></td></tr></table></div>"
        )
    return f"<!doctype html><html lang=en><head><meta charset=utf-8><style>{STYLE}</style></head><body>{''.join(parts)}</body></html>"


def write(title: str, told: Told = METRIC) -> bytes:
    """The form as PDF. Nothing is fetched while it is drawn."""
    return pdf(html(title, told), styled=True)
