"""The quick rule as a card to print and take along."""

from __future__ import annotations

from cinder.design.emitters.quick_rule import TYPES, w_per_m2
from cinder.exchange.packaged import FONTS, PACKAGED
from cinder.exchange.papers import pdf
from cinder.library import load
from cinder.model.imperial import Told

METRIC = Told(feet=False)

MEANS_C = (30, 35, 40, 45, 50, 55, 60)


def html(*, room_c: float, told: Told = METRIC) -> str:
    """One page, A6: W per m2 of face by type and mean water, rounded to ten; an empty sum to fill in."""
    faces = "".join(
        f"@font-face {{ font-family: A; src: url({PACKAGED}{name}); font-weight: {weight} }}"
        for name, weight in ((FONTS[0], 400), (FONTS[1], 700))
    )
    head = "".join(f"<th>{load().emitter_types[key].label.split(',')[0].replace('Panel ', '')}</th>" for key in TYPES)
    rows = "".join(
        f"<tr><th>{told.amount(mean, '°C')}</th>"
        + "".join(f"<td>{told.fig(w_per_m2(key, mean_c=mean, room_c=room_c), 'W/m²', -1)}</td>" for key in TYPES)
        + "</tr>"
        for mean in MEANS_C
        if mean > room_c
    )
    return (
        f"<html lang='en'><head><title>Quick rule</title><style>{faces} @page {{ size: A6; margin: 7mm }} "
        "body { font: 9pt/1.35 A; margin: 0 } h1 { font-size: 13pt; margin: 0 0 2mm } table { width: 100%; border-collapse: collapse } "
        "td, th { text-align: right; padding: 1mm 2mm; border-bottom: 0.3pt solid #999 } th:first-child { text-align: left } "
        "p { margin: 2mm 0 } .line { border-bottom: 0.5pt solid #000; display: inline-block; width: 18mm }</style></head><body>"
        f"<h1>{told.name('W/m²')} of face, room {told.amount(room_c, '°C')}</h1>"
        f"<table><tr><th>Mean water</th>{head}</tr>{rows}</table>"
        f"<p>Mean water is half way from flow to return: with {told.amount(5, 'K')} across it is the flow less {told.fig(2.5, 'K', 1)}.</p>"
        f"<p>Load <span class='line'></span> {told.name('W')} ÷ <span class='line'></span> {told.name('W/m²')} = <span class='line'></span> "
        f"{told.name('m²')} of face</p>"
        f"<p>÷ height <span class='line'></span> {told.name('m')} = <span class='line'></span> {told.name('m')} long</p>"
        f"<p>Panels about {told.amount(600, 'mm')} high, ± 15 %, common practice. An estimate: the maker's figures decide.</p></body></html>"
    )


def write(*, room_c: float, told: Told = METRIC) -> bytes:
    """The card as PDF. Raises `PhysicsError` for a room as warm as the water."""
    return pdf(html(room_c=room_c, told=told), styled=True)
