"""Whether the service answers; every table of the library."""

from __future__ import annotations

from functools import lru_cache
from typing import Any

import orjson
from fastapi import FastAPI
from sqlalchemy import text
from starlette.responses import Response

from cinder import ENGINE_VERSION
from cinder.design.fabric.u_values import Transmittances
from cinder.library import EDITION, FROZEN, entry_sha256, load
from cinder.service.services import Services
from cinder.web import answers


@lru_cache(maxsize=1)
def library_answer() -> bytes:
    """The library as the API gives it, worked out once."""
    library = load()
    u = Transmittances(library.constructions)
    body: dict[str, Any] = {
        kind: {key: entry.model_dump(mode="json") for key, entry in getattr(library, kind).items()} for kind in FROZEN
    }
    body["cautions"] = {key: entry.model_dump(mode="json") for key, entry in library.cautions.items()}
    body["enquiry"] = {key: q.model_dump(mode="json", by_alias=True) for key, q in library.enquiry.items()}
    body["walk_round"] = {key: item.model_dump(mode="json") for key, item in library.walk_round.items()}
    body["materials"] = {key: entry.model_dump(mode="json") for key, entry in library.materials.items()}
    body["measures"] = {key: entry.model_dump(mode="json") for key, entry in library.measures.items()}
    body["emitter_prices"] = {key: entry.model_dump(mode="json") for key, entry in library.emitter_prices.items()}
    for kind in ("coverings", "heated_builds", "manifold_parts", "tapping", "pumps", "plant_parts", "labour", "trades"):
        body[kind] = {key: entry.model_dump(mode="json") for key, entry in getattr(library, kind).items()}
    body["sha256"] = {
        kind: {key: entry_sha256(entry) for key, entry in getattr(library, kind).items()} for kind in FROZEN
    }
    body["u_values"] = {key: u.u(key) for key in library.constructions}
    return orjson.dumps({"edition": EDITION, **body})


def install(app: FastAPI, on: Services) -> None:
    @app.get("/api/health", response_model=answers.Health)
    def health() -> dict[str, str]:
        """Whether the service and its database answer."""
        with on.engine.connect() as c:
            c.execute(text("SELECT 1"))
        return {"engine": ENGINE_VERSION, "database": "answers"}

    @app.get("/api/library", responses={200: {"model": answers.LibraryOut}})
    def library() -> Response:
        """Every table of the library, with fingerprints for freezing."""
        return Response(library_answer(), media_type="application/json")
