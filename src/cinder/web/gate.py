"""What may come in at all: our own page on loopback, strict JSON, nothing oversized.

Until there are accounts, no other machine reaches it but a paired tablet (`./start --tls`), and no other web page may
write into a job: Host and Origin are checked, and every write must declare JSON, or the media type of the one file it
brings, none of which a foreign form can send.
"""

from __future__ import annotations

import asyncio
import re
import secrets
from collections.abc import Awaitable, Callable, MutableMapping
from http.cookies import SimpleCookie
from typing import Any

from starlette.responses import Response

from cinder.errors import Busy, CinderError, Forbidden, MalformedJson, TooLarge, UnsupportedMedia
from cinder.exchange.files.pictures import MAX_BYTES as MAX_PICTURE
from cinder.exchange.jobs import strict_json
from cinder.service.lane import Lane, has_left
from cinder.web.problems import problem_response

MAX_FILE = 8 * 1024 * 1024
MAX_BUNDLE = 400 * 1024 * 1024
MAX_READINGS = 256 * 1024 * 1024
MAX_EDIT = 2 * 1024 * 1024
SMALL = 64 * 1024
"""A body up to this is checked at once; a longer one on a lane of its own, while others are served."""
Scope = MutableMapping[str, Any]
Receive = Callable[[], Awaitable[MutableMapping[str, Any]]]
Send = Callable[[MutableMapping[str, Any]], Awaitable[None]]
App = Callable[[Scope, Receive, Send], Awaitable[None]]

PLAIN_JSON = "application/json"
SHEETS = ("text/csv", "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet")
FILES = (
    # method, path, media types, most bytes: everything else that is written is JSON
    ("PUT", re.compile(r"/api/photos/[0-9a-f]{64}"), ("image/*", "application/octet-stream"), MAX_PICTURE),
    ("PUT", re.compile(r"/api/files"), ("image/*", "application/pdf"), MAX_PICTURE),
    ("POST", re.compile(r"/api/jobs/bundle"), ("application/zip",), MAX_BUNDLE),
    ("POST", re.compile(r"/api/jobs/[A-Za-z0-9_-]+/sheet"), SHEETS, MAX_FILE),
    ("POST", re.compile(r"/api/weather"), ("text/csv", "text/plain", "application/octet-stream"), MAX_FILE),
    ("POST", re.compile(r"/api/catalogues"), ("text/csv", "text/plain", "application/octet-stream"), MAX_FILE),
    ("POST", re.compile(r"/api/machines"), SHEETS, MAX_FILE),
    ("POST", re.compile(r"/api/machines/look"), SHEETS[:1], SMALL),
    ("POST", re.compile(r"/api/place-rules"), SHEETS, MAX_FILE),
    ("POST", re.compile(r"/api/jobs/[A-Za-z0-9_-]+/readings(/look)?"), SHEETS, MAX_READINGS),
    ("POST", re.compile(r"/api/tariff"), SHEETS[:1], MAX_FILE),
    ("POST", re.compile(r"/api/jobs/[A-Za-z0-9_-]+/drawing"), ("image/vnd.dxf", "application/dxf"), MAX_FILE),
)
HOST = re.compile(r"(?P<name>\[[0-9a-f:.]+\]|[a-z0-9._-]+)(?::\d{1,5})?")
"""A whole name or address, with or without a port; nothing else is one."""
LOOPBACK = ("127.0.0.1", "localhost", "[::1]")
PAIR_COOKIE = "cinder_pair"
IMPORT = "/api/jobs/import"
OPEN_PATHS = ("/pair/", "/certificate")
WRITES = ("POST", "PUT", "PATCH", "DELETE")
QUESTIONS = re.compile(r"/api/jobs/[A-Za-z0-9_-]+/(measures(/change)?|front/(change|way))")
"""Sent with a body, but they write nothing: who leaves does not want to know any more."""
SECURITY_HEADERS = [
    (b"x-content-type-options", b"nosniff"),
    (b"referrer-policy", b"no-referrer"),
    (b"x-frame-options", b"DENY"),
]


def _counted(receive: Receive, most: int) -> Receive:
    """A body on its way, ended once it is longer than it may be."""
    size = 0

    async def counted() -> MutableMapping[str, Any]:
        nonlocal size
        message = await receive()
        size += len(message.get("body", b""))
        if size > most:
            raise TooLarge(f"More than {most:,} bytes.")
        return message

    return counted


async def _gone(receive: Receive) -> None:
    """Until whoever asked has closed the connection."""
    while (await receive())["type"] != "http.disconnect":
        pass


class Gate:
    """ASGI middleware around the whole application."""

    def __init__(
        self,
        app: App,
        *,
        max_bytes: int = strict_json.MAX_BYTES,
        hosts: tuple[str, ...] = (),
        pairing: str | None = None,
    ) -> None:
        """`hosts`: further names of this machine, for a tablet on the local network; `pairing`: the code it must hold."""
        self.app = app
        self.max_bytes = max_bytes
        self.hosts = tuple(host.lower() for host in hosts)
        self.pairing = pairing
        self.checks = Lane("checks", width=1, most=40)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        headers = {key.decode("latin-1").lower(): value.decode("latin-1") for key, value in scope["headers"]}
        try:
            self._origin(scope, headers)
            body = await self._body(scope, headers, receive)
        except CinderError as error:
            response: Response = problem_response(error)
            await response(scope, receive, send)
            return
        # what was told to be done is done, whoever leaves
        if scope["method"] not in WRITES or QUESTIONS.fullmatch(scope["path"]):
            has_left.set(lambda: _gone(receive))
        out = self._with_headers(send)
        begun = False

        async def answer(message: MutableMapping[str, Any]) -> None:
            nonlocal begun
            begun = True
            await out(message)

        try:
            await self.app(scope, body or receive, answer)
        except asyncio.CancelledError:  # only who stops the service ends a request that is under way
            if not begun:
                stopped = problem_response(Busy("The service is being stopped. Ask this again in a moment."))
                await stopped(scope, receive, out)

    def _origin(self, scope: Scope, headers: dict[str, str]) -> None:
        host = headers.get("host", "").lower()
        found = HOST.fullmatch(host)
        name = found["name"] if found else ""
        if name not in LOOPBACK and name not in self.hosts:
            raise Forbidden(f"The host {host!r} is not this machine's own address.")
        origin = headers.get("origin")
        if origin is not None and origin.lower() not in (f"http://{host}", f"https://{host}"):
            raise Forbidden(f"The page {origin!r} may not use this application.")
        if headers.get("sec-fetch-site") == "cross-site":
            raise Forbidden("Another web page may not use this application.")
        if self.pairing and not self._own_machine(scope) and not scope["path"].startswith(OPEN_PATHS):
            cookie = SimpleCookie(headers.get("cookie", "")).get(PAIR_COOKIE)
            if cookie is None or not secrets.compare_digest(cookie.value.encode(), self.pairing.encode()):
                raise Forbidden(
                    "This tablet is not paired. Open the address that ./start --tls printed, with its code."
                )

    def _own_machine(self, scope: Scope) -> bool:
        client = scope.get("client")
        return client is not None and client[0] in ("127.0.0.1", "::1")

    async def _body(self, scope: Scope, headers: dict[str, str], receive: Receive) -> Receive | None:
        if scope["method"] not in WRITES:
            return None
        media = headers.get("content-type", "").split(";")[0].strip().lower()
        allowed, most = self._takes(scope)
        bare = scope["method"] == "DELETE" and not media and not headers.get("content-length", "0").strip("0")
        if bare:
            return None  # no other page's form can send one, and there is nothing to read
        if media not in allowed and f"{media.split('/')[0]}/*" not in allowed:
            wanted = " or ".join(allowed)
            raise UnsupportedMedia(
                f"Send JSON: the content type must be {wanted}." if allowed == (PLAIN_JSON,) else f"Send {wanted} here."
            )
        declared = headers.get("content-length", "0")
        if declared.isdigit() and int(declared) > most:
            raise TooLarge(f"{int(declared):,} bytes; at most {most:,} are taken.")
        if most == MAX_BUNDLE:
            return _counted(receive, most)  # its route writes it to disk as it comes
        chunks: list[bytes] = []
        size, more = 0, True
        while more:
            message = await receive()
            if message["type"] == "http.disconnect":
                raise MalformedJson("The connection ended in the middle of the request.")
            chunks.append(message.get("body", b""))
            size += len(chunks[-1])
            if size > most:
                raise TooLarge(f"More than {most:,} bytes.")
            more = message.get("more_body", False)
        data = b"".join(chunks)
        if allowed == (PLAIN_JSON,) and scope["path"] != IMPORT:  # a job file is read by its reader
            if len(data) > SMALL:
                await self.checks.run(lambda: strict_json.loads(data, max_bytes=most))
            else:
                strict_json.loads(data, max_bytes=most)
        sent = False

        async def replay() -> MutableMapping[str, Any]:
            nonlocal sent
            if sent:
                return await receive()
            sent = True
            return {"type": "http.request", "body": data, "more_body": False}

        return replay

    def _takes(self, scope: Scope) -> tuple[tuple[str, ...], int]:
        """Media types and most bytes of a write."""
        for method, path, media, most in FILES:
            if scope["method"] == method and path.fullmatch(scope["path"]):
                return media, most
        if scope["path"] == IMPORT:
            return (PLAIN_JSON,), self.max_bytes
        return (PLAIN_JSON,), min(MAX_EDIT, self.max_bytes)

    def _with_headers(self, send: Send) -> Send:
        async def out(message: MutableMapping[str, Any]) -> None:
            if message["type"] == "http.response.start":
                said = list(message.get("headers", []))
                known = {name for name, _ in said}  # a page that must say otherwise has said so itself
                message["headers"] = [*said, *(header for header in SECURITY_HEADERS if header[0] not in known)]
            await send(message)

        return out
