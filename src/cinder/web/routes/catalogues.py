"""Lists of products."""

from __future__ import annotations

import re
from typing import Any

from fastapi import FastAPI, Request
from starlette.responses import Response

from cinder.exchange.apart import apart
from cinder.library import CatalogueEntry, catalogue, load
from cinder.library.loader import generic_csv
from cinder.service.services import Services
from cinder.store.company import CompanyShelf
from cinder.store.record import Who
from cinder.web import answers
from cinder.web.asking import Asker
from cinder.web.respond import KINDS, attached, json_response

KEY_LENGTH = 60


def install(app: FastAPI, on: Services) -> None:
    company, lanes = on.company, on.lanes

    @app.get("/api/catalogues", responses={200: {"model": answers.CataloguesOut}})
    def lists(who: Asker) -> Response:
        """The generic sizes and the lists the company brought in."""
        own = company.entries(who, "catalogues").items()
        kept = [
            {"edition": str(edition), "own": True, "list": entry.model_dump(mode="json")} for _, (edition, entry) in own
        ]
        generic = {"edition": "ours", "own": False, "list": load().catalogues["generic"].model_dump(mode="json")}
        return json_response({"lists": [generic, *kept], "columns": list(catalogue.COLUMNS)})

    @app.post("/api/catalogues", responses={200: {"model": answers.CatalogueTaken}})
    async def take_list(who: Asker, request: Request, label: str = "") -> Response:
        """Read a maker's list (the body is the CSV) and keep it for the company, or its new edition."""
        data = await request.body()
        return await lanes.files.run(lambda: _take_list(company, who, data, label.strip()[:200] or "A list"))

    @app.get("/api/catalogue.csv")
    def generic(who: Asker) -> Response:
        """The generic sizes as CSV: the form a list has to have."""
        return attached(generic_csv(), "generic-sizes.csv", KINDS["csv"])


def _key(label: str) -> str:
    return (re.sub(r"[^a-z0-9]+", "-", label.lower()).strip("-") or "list")[:KEY_LENGTH]


def _take_list(company: CompanyShelf, who: Who, data: bytes, label: str) -> Response:
    key = _key(label)
    made = apart(
        catalogue.read, data, key=key, label=label, source="brought in by the company", types=set(load().emitter_types)
    )
    edition, entry = company.put(who, "catalogues", key, made.model_dump(mode="json"))
    products = entry.products if isinstance(entry, CatalogueEntry) else []
    body: dict[str, Any] = {"id": key, "label": label, "edition": edition, "products": len(products)}
    return json_response(body)
