"""Pictures."""

from __future__ import annotations

import hashlib
from typing import Any

from fastapi import FastAPI, Request
from sqlalchemy.orm import Session
from starlette.responses import Response

from cinder.errors import Problem, Refused
from cinder.exchange.apart import apart
from cinder.exchange.files import pictures
from cinder.service.services import Services
from cinder.store.photos import PhotoShelf, Size
from cinder.store.record import Who
from cinder.web import answers
from cinder.web.asking import Asker
from cinder.web.respond import IMMUTABLE


def install(app: FastAPI, on: Services) -> None:
    photos, lanes = on.photos, on.lanes

    @app.put("/api/photos/{sha256}", response_model=answers.PhotoOut)
    async def put_photo(who: Asker, sha256: str, request: Request) -> dict[str, Any]:
        """Keep a picture (the body is the file). It comes before the change that refers to it."""
        data = await request.body()
        return await lanes.files.run(lambda: _keep(photos, who, sha256, data))

    @app.get("/api/photos/{sha256}")
    def get_photo(who: Asker, sha256: str, size: Size = "view") -> Response:
        """A picture as JPEG: full, view (1600 dots) or thumb (320)."""
        return Response(photos.get(who, sha256, size), media_type="image/jpeg", headers={"cache-control": IMMUTABLE})


def _keep(shelf: PhotoShelf, who: Who, sha256: str, data: bytes) -> dict[str, Any]:
    if hashlib.sha256(data).hexdigest() != sha256:
        raise Refused("The picture does not match its fingerprint: it was cut off on the way.",
                      problems=(Problem("/photo", "sha256 differs"),))  # fmt: skip
    made = apart(pictures.prepare, data)
    put_picture(shelf, who, sha256, made, None)
    return {"sha256": sha256, "width_px": made.width_px, "height_px": made.height_px}


def put_picture(shelf: PhotoShelf, who: Who, sha256: str, made: pictures.Picture, session: Session | None) -> None:
    shelf.put(
        who, sha256, width_px=made.width_px, height_px=made.height_px, full=made.full, view=made.view, thumb=made.thumb,
        session=session,
    )  # fmt: skip
