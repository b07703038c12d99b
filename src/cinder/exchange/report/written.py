"""What every paper is made of, and how one is written: templates whose text is escaped, only packaged files ever fetched."""

from __future__ import annotations

import re
from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime
from functools import lru_cache
from typing import Any, Protocol

from jinja2 import Environment, PackageLoader, StrictUndefined, select_autoescape
from markupsafe import Markup, escape

from cinder import ENGINE_VERSION
from cinder.design import Design
from cinder.design.apart.bills.result import BillCheck
from cinder.design.apart.controllers import ControllersFound
from cinder.design.apart.doubts.result import Doubts, Leaving
from cinder.design.apart.flows import FlowsFound
from cinder.design.apart.materials import MaterialsFound
from cinder.design.apart.plant import PlantFound
from cinder.design.apart.protecting import ProtectingFound
from cinder.design.apart.routing import RoutesFound
from cinder.design.apart.running.result import Runs
from cinder.design.apart.separating import SeparatingFound
from cinder.design.apart.water_day import WaterDays
from cinder.design.explained import num
from cinder.design.year.result import Year
from cinder.exchange.packaged import PACKAGED, house_style
from cinder.field.fire_up.result import FireUpFound
from cinder.field.wiring import WiringFound
from cinder.handover.guide import Guide
from cinder.handover.offer import OfferFound
from cinder.handover.pack import PackFound
from cinder.handover.promise import Promise
from cinder.handover.upkeep import UpkeepFound
from cinder.model import Job
from cinder.model.imperial import Told


class AsIssued(Protocol):
    """How something was issued: its number, when, and who took it."""

    @property
    def number(self) -> int: ...
    @property
    def at(self) -> datetime: ...
    @property
    def accepted(self) -> dict[str, Any] | None: ...


@dataclass(frozen=True)
class Material:
    """Everything a report is made of; what gives a part gives the same each time."""

    job: Job
    design: Design
    doubts: Callable[[], Doubts]
    """Asked for where a paper needs it, as all that follows: some of it takes seconds."""
    year: Callable[[], Year]
    bill: Callable[[], BillCheck]
    runs: Callable[[], Runs]
    water: Callable[[], WaterDays]
    flows: Callable[[], FlowsFound]
    controllers: Callable[[], ControllersFound]
    separating: Callable[[], SeparatingFound]
    protecting: Callable[[], ProtectingFound]
    fire_up: Callable[[], FireUpFound]
    wiring: Callable[[], WiringFound]
    plant: Callable[[], PlantFound]
    materials: Callable[[], MaterialsFound]
    routes: Callable[[], RoutesFound]
    offer: Callable[[], tuple[OfferFound, AsIssued | None]]
    """The offer a paper shows, and how it was issued where it was."""
    pack: Callable[[], PackFound]
    upkeep: Callable[[], UpkeepFound]
    promise: Callable[[], Promise]
    guide: Callable[[], Guide]
    doubts_leaving: Callable[[], Leaving]
    """What the survey still lacks."""
    picture: Callable[[str], bytes]
    """A photo of the survey by its fingerprint, as JPEG."""
    fingerprint: str
    """Of job and Design."""
    version: int
    written_at: datetime
    company: str


@lru_cache(maxsize=1)
def _environment() -> Environment:
    made = Environment(
        loader=PackageLoader("cinder.exchange.report", ""), autoescape=select_autoescape(default=True),
        undefined=StrictUndefined, trim_blocks=True, lstrip_blocks=True,
    )  # fmt: skip
    made.filters["n"] = num
    made.filters["said"] = said
    made.filters["css"] = css_text
    return made


def css_text(text: str) -> Markup:
    """Text for a string inside a style sheet: everything but plain letters as CSS escapes, which HTML leaves alone."""
    return Markup("".join(c if (c.isalnum() and c.isascii()) or c == " " else f"\\{ord(c):x} " for c in text))


def said(text: str) -> Markup:
    """A sentence of ours with its **stress**; whatever a user wrote into it is escaped first."""
    return Markup(re.sub(r"\*\*(.+?)\*\*", r"<b>\1</b>", str(escape(text))))


def written(template: str, title: str, material: Material, *, for_print: bool, **more: Any) -> str:
    """A paper as one HTML page. `for_print`: without what `papers.pdf` lays under every paper; else complete, with fonts by the
    application's own address."""
    job, told = material.job, Told(material.job.site.units == "feet")
    return _environment().get_template(template).render(
        title=title, m=material, job=job, d=material.design, house=material.design.house,
        style="" if for_print else house_style().replace(PACKAGED, "/api/report-fonts/"), told=told,
        u=lambda unit: told.name(unit).replace("/", "/\u2060"),
        engine=ENGINE_VERSION, **more,
    )  # fmt: skip
