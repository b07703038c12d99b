"""What may come in at all: our own page on loopback, strict JSON, nothing oversized.

Until there are accounts, no other web page may write into a job: Host and Origin are checked, and
every write must declare JSON, which a foreign form cannot.
"""

from __future__ import annotations

from collections.abc import Awaitable, Callable, MutableMapping
from typing import Any

from starlette.responses import Response

from cinder.errors import CinderError, Forbidden, MalformedJson, TooLarge, UnsupportedMedia
from cinder.exchange import strict_json
from cinder.web.problems import problem_response

Scope = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[MutableMapping[str, Any]]]
Send = Callable[[MutableMapping[str, Any]], Awaitable[None]]
App = Callable[[Scope, Receive, Send], Awaitable[None]]

LOOPBACK = ("127.0.0.1", "localhost", "[::1]")
WRITES = ("POST", "PUT", "PATCH", "DELETE")
SECURITY_HEADERS = [
    (b"x-content-type-options", b"nosniff"),
    (b"referrer-policy", b"no-referrer"),
    (b"x-frame-options", b"DENY"),
]


class Gate:
    """ASGI middleware around the whole application."""

    def __init__(self, app: App, *, max_bytes: int = strict_json.MAX_BYTES) -> None:
        self.app = app
        self.max_bytes = max_bytes

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        headers = {key.decode("latin-1").lower(): value.decode("latin-1") for key, value in scope["headers"]}
        try:
            self._origin(headers)
            body = await self._body(scope, headers, receive)
        except CinderError as error:
            response: Response = problem_response(error)
            await response(scope, receive, send)
            return
        await self.app(scope, body or receive, self._with_headers(send))

    def _origin(self, headers: dict[str, str]) -> None:
        host = headers.get("host", "")
        name = host.rsplit(":", 1)[0] if not host.endswith("]") else host
        if name not in LOOPBACK:
            raise Forbidden(f"The host {host!r} is not this machine's own address.")
        origin = headers.get("origin")
        if origin is not None and origin not in (f"http://{host}", f"https://{host}"):
            raise Forbidden(f"The page {origin!r} may not use this application.")
        if headers.get("sec-fetch-site") == "cross-site":
            raise Forbidden("Another web page may not use this application.")

    async def _body(self, scope: Scope, headers: dict[str, str], receive: Receive) -> Receive | None:
        if scope["method"] not in WRITES:
            return None
        if headers.get("content-type", "").split(";")[0].strip().lower() != "application/json":
            raise UnsupportedMedia("Send JSON: the content type must be application/json.")
        declared = headers.get("content-length", "0")
        if declared.isdigit() and int(declared) > self.max_bytes:
            raise TooLarge(f"{int(declared):,} bytes; at most {self.max_bytes:,} are taken.")
        chunks: list[bytes] = []
        size, more = 0, True
        while more:
            message = await receive()
            if message["type"] == "http.disconnect":
                raise MalformedJson("The connection ended in the middle of the request.")
            chunks.append(message.get("body", b""))
            size += len(chunks[-1])
            if size > self.max_bytes:
                raise TooLarge(f"More than {self.max_bytes:,} bytes.")
            more = message.get("more_body", False)
        data = b"".join(chunks)
        strict_json.loads(data)
        sent = False

        async def replay() -> MutableMapping[str, Any]:
            nonlocal sent
            if sent:
                return await receive()
            sent = True
            return {"type": "http.request", "body": data, "more_body": False}

        return replay

    def _with_headers(self, send: Send) -> Send:
        async def out(message: MutableMapping[str, Any]) -> None:
            if message["type"] == "http.response.start":
                message["headers"] = [*message.get("headers", []), *SECURITY_HEADERS]
            await send(message)

        return out
