"""The quick rule as a card to print and take along."""

from __future__ import annotations

from cinder.design.emitters.quick_rule import TYPES, w_per_m2
from cinder.exchange.papers import FONTS, PACKAGED, pdf
from cinder.library import load

MEANS_C = (30, 35, 40, 45, 50, 55, 60)


def html(*, room_c: float) -> str:
    """One page, A6: W per m2 of face by type and mean water, rounded to ten; an empty sum to fill in."""
    faces = "".join(
        f"@font-face {{ font-family: A; src: url({PACKAGED}{name}); font-weight: {weight} }}"
        for name, weight in ((FONTS[0], 400), (FONTS[1], 700))
    )
    head = "".join(f"<th>{load().emitter_types[key].label.split(',')[0].replace('Panel ', '')}</th>" for key in TYPES)
    rows = "".join(
        f"<tr><th>{mean} °C</th>"
        + "".join(f"<td>{round(w_per_m2(key, mean_c=mean, room_c=room_c), -1):.0f}</td>" for key in TYPES)
        + "</tr>"
        for mean in MEANS_C
        if mean > room_c
    )
    return (
        f"<html lang='en'><head><title>Quick rule</title><style>{faces} @page {{ size: A6; margin: 7mm }} "
        "body { font: 9pt/1.35 A; margin: 0 } h1 { font-size: 13pt; margin: 0 0 2mm } table { width: 100%; border-collapse: collapse } "
        "td, th { text-align: right; padding: 1mm 2mm; border-bottom: 0.3pt solid #999 } th:first-child { text-align: left } "
        "p { margin: 2mm 0 } .line { border-bottom: 0.5pt solid #000; display: inline-block; width: 18mm }</style></head><body>"
        f"<h1>W per m² of face, room {room_c:g} °C</h1>"
        f"<table><tr><th>Mean water</th>{head}</tr>{rows}</table>"
        "<p>Mean water is half way from flow to return: with 5 K across it is the flow less 2.5.</p>"
        "<p>Load <span class='line'></span> W ÷ <span class='line'></span> W/m² = <span class='line'></span> m² of face</p>"
        "<p>÷ height <span class='line'></span> m = <span class='line'></span> m long</p>"
        "<p>Panels about 600 mm high, ± 15 %, common practice. An estimate: the maker's figures decide.</p></body></html>"
    )


def write(*, room_c: float) -> bytes:
    """The card as PDF. Raises `PhysicsError` for a room as warm as the water."""
    return pdf(html(room_c=room_c))
