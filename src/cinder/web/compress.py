"""Answers in JSON go over the line compressed; pictures, papers and pages are so already, or are fetched once."""

from __future__ import annotations

from starlette.middleware.gzip import GZipMiddleware
from starlette.types import ASGIApp, Receive, Scope, Send

LEAST_BYTES = 1500
LEVEL = 3
"""Of gzip: beyond it answers get hardly smaller and take twice as long (measured)."""
PLAIN = ("/file", "/bundle", "/events", ".pdf", ".xlsx", ".epw")


class Compressed:
    """Compresses what the API says in words."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app
        self.gzip = GZipMiddleware(app, minimum_size=LEAST_BYTES, compresslevel=LEVEL)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        path = scope.get("path", "")
        words = path.startswith(("/api/jobs", "/api/library", "/api/catalogues", "/api/company")) and not path.endswith(
            PLAIN
        )
        await (self.gzip if words else self.app)(scope, receive, send)
