"""Papers: each a page and a PDF, made of one and the same material."""

from collections.abc import Callable

from cinder.exchange.report import handed, heat_loss, sheets
from cinder.exchange.report.written import Material

PAPERS: dict[str, tuple[str, Callable[..., str]]] = {
    "heat-loss": ("Heat loss to machine", heat_loss.html),
    "customer": ("The customer's page", sheets.customer),
    "noise": ("Noise assessment", sheets.noise),
    "hot-water": ("Hot water", sheets.hot_water),
    "hydraulic": ("Hydraulic sheet", sheets.hydraulic),
    "balancing": ("Balancing card", sheets.balancing),
    "curve-card": ("Curve card", sheets.curve_card),
    "occupant": ("For those who live here", sheets.occupant),
    "fire-up": ("Commissioning record", sheets.fire_up),
    "controller": ("Controller record", sheets.controller),
    "materials": ("Materials", sheets.materials),
    "electrics": ("For the electrician", sheets.electrics),
    "survey": ("Survey record", handed.survey),
    "offer": ("Offer", handed.offer),
    "upkeep": ("Maintenance plan", handed.upkeep),
    "promise": ("What is promised", handed.promise),
    "review": ("Questions and review", handed.review),
    "permissions": ("Certificates and permissions", handed.permissions),
    "warranties": ("Serial numbers and warranties", handed.warranties),
    "pack": ("The pack", handed.index),
}
"""What may be written, by its key: its name and what writes it (`material`, `for_print`)."""

__all__ = ["PAPERS", "Material"]
