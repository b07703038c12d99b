"""The application: routes, the one dependency that says who asks, static pages."""

from __future__ import annotations

import secrets
from collections.abc import AsyncIterator
from contextlib import asynccontextmanager
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from fastapi import FastAPI
from starlette.responses import FileResponse, RedirectResponse, Response

from cinder import ENGINE_VERSION
from cinder.errors import Forbidden, NotFound
from cinder.service.people import DEMO, DEMO_COMPANY, DEMO_PERSON
from cinder.service.services import Services
from cinder.store.database import engine, migrate
from cinder.web import events
from cinder.web.compress import Compressed
from cinder.web.events import News
from cinder.web.gate import PAIR_COOKIE, Gate
from cinder.web.problems import ErrorOut, install
from cinder.web.routes import (
    bundles,
    catalogues,
    company,
    doubts,
    edits,
    emitters,
    fabric,
    fire_up,
    handover,
    jobs,
    library,
    machines,
    measures,
    papers,
    photos,
    practice,
    readings,
    survey,
    tariff,
    water,
    ways,
    weather,
    year,
)

PAIRED_S = 30 * 24 * 3600


@dataclass(frozen=True)
class Tablet:
    """What lets a tablet on the local network in: this machine's names, the pairing code, the certificate."""

    hosts: tuple[str, ...]
    code: str
    certificate: Path


ROUTES = (
    library, jobs, edits, doubts, photos, survey, bundles, company, fabric, weather, year, water, fire_up, measures, papers, ways, emitters,
    catalogues, machines, tariff, readings, practice, handover,
)  # fmt: skip
"""One router a concept."""
REFUSALS: dict[int | str, dict[str, Any]] = {
    status: {"model": ErrorOut} for status in (400, 403, 404, 409, 413, 415, 422)
}


def create_app(database: str, pages: Path | None = None, *, tablet: Tablet | None = None) -> FastAPI:
    """The application over a database; migrations run as it starts. `tablet`: the local network may reach it."""
    on = Services.over(engine(database), database)
    news = News(database)

    @asynccontextmanager
    async def lifespan(app: FastAPI) -> AsyncIterator[None]:
        migrate(on.engine)
        on.log.ensure_person(DEMO, company=DEMO_COMPANY, person=DEMO_PERSON)
        news.start()
        yield
        news.stop()
        on.close()

    app = FastAPI(
        title="Mellow Cinder", version=ENGINE_VERSION, lifespan=lifespan, docs_url=None, redoc_url=None,
        openapi_url="/api/openapi.json", responses=REFUSALS, separate_input_output_schemas=False,
    )  # fmt: skip
    install(app)
    app.state.services = on
    for route in ROUTES:
        route.install(app, on)
    events.install(app, news)
    if tablet is not None:
        _pairing(app, tablet)
    if pages is not None and pages.is_dir():
        _pages(app, pages)
    app.add_middleware(Compressed)
    app.add_middleware(Gate, hosts=tablet.hosts if tablet else (), pairing=tablet.code if tablet else None)
    return app


def _pairing(app: FastAPI, tablet: Tablet) -> None:
    @app.get("/pair/{code}", include_in_schema=False)
    def pair(code: str) -> Response:
        """Give a tablet that knows the code the cookie it needs from then on."""
        if not secrets.compare_digest(code.encode(), tablet.code.encode()):
            raise Forbidden("That is not the code ./start --tls printed.")
        answer = RedirectResponse("/", status_code=303)
        answer.set_cookie(
            PAIR_COOKIE, tablet.code, max_age=PAIRED_S, httponly=True, secure=True, samesite="strict", path="/"
        )
        return answer

    @app.get("/certificate", include_in_schema=False)
    def certificate() -> Response:
        """The self-signed certificate, to be trusted by the tablet."""
        name = {"content-disposition": 'attachment; filename="mellow-cinder.crt"'}
        return FileResponse(tablet.certificate, media_type="application/x-x509-ca-cert", headers=name)


def _pages(app: FastAPI, pages: Path) -> None:
    """The built pages; unknown paths outside /api fall back to the single page."""
    root = pages.resolve()

    @app.get("/{path:path}", include_in_schema=False)
    def page(path: str) -> Response:
        if path.startswith("api/"):
            raise NotFound("There is no such address.")
        try:
            wanted = (root / path).resolve()
            there = wanted.is_relative_to(root) and wanted.is_file()
        except (OSError, ValueError):  # longer than a name may be, or with U+0000 in it
            there = False
        if there:
            kept = "public, max-age=31536000, immutable" if "/immutable/" in f"/{path}" else "no-cache"
            return FileResponse(wanted, headers={"cache-control": kept})
        return FileResponse(root / "index.html", headers={"cache-control": "no-cache"})
