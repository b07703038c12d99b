"""Pages into PDF: only what is packaged with the application is ever fetched while one is drawn."""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Sequence
from concurrent.futures import ProcessPoolExecutor
from functools import lru_cache
from importlib.resources import files
from multiprocessing import get_context
from typing import Any

from cinder.errors import Refused

FONTS = (
    "atkinson-400.woff2", "atkinson-700.woff2", "atkinson-ext-400.woff2", "atkinson-ext-700.woff2", "bricolage-700.woff2",
)  # fmt: skip
PACKAGED = "packaged:"
OWN_PICTURE = re.compile(r"picture:([0-9a-f]{64})")
Picture = Callable[[str], bytes]


def font(name: str) -> bytes:
    """A packaged font by its name; raises `KeyError` for another."""
    if name not in FONTS:
        raise KeyError(name)
    return files("cinder.exchange.report").joinpath(name).read_bytes()


@lru_cache(maxsize=1)
def _fetcher() -> Any:
    from weasyprint.urls import URLFetcher, URLFetcherResponse  # slow to import: only when a paper is drawn

    class PackagedOnly(URLFetcher):  # type: ignore[misc]
        """Gives packaged fonts, and pictures of the job itself; every other address ends the drawing."""

        def __init__(self, picture: Picture | None) -> None:
            super().__init__(fail_on_errors=True)
            self.picture = picture

        def fetch(self, url: str, headers: dict[str, str] | None = None) -> Any:
            name = url.removeprefix(PACKAGED)
            if url.startswith(PACKAGED) and name in FONTS:
                return URLFetcherResponse(url, font(name), headers={"Content-Type": "font/woff2"})
            if self.picture is not None and (found := OWN_PICTURE.fullmatch(url)):
                return URLFetcherResponse(url, self.picture(found[1]), headers={"Content-Type": "image/jpeg"})
            raise ValueError(f"nothing is fetched but what is packaged: {url}")

    return PackagedOnly


def pdf(page: str, picture: Picture | None = None) -> bytes:
    """The page as PDF; `picture` gives the JPEG of a fingerprint, for `picture:<sha256>`. Raises `Refused` where it would fetch anything
    that is neither packaged nor the job's own."""
    from weasyprint import HTML
    from weasyprint.urls import FatalURLFetchingError

    try:
        return bytes(HTML(string=page, url_fetcher=_fetcher()(picture)).write_pdf())
    except FatalURLFetchingError as error:  # no Exception of the ordinary kind: nobody else would catch it
        raise Refused(f"A paper may not fetch anything: {error.__cause__ or error}") from None


def pdfs(pages: Sequence[str], picture: Picture | None = None, *, at_once: int = 2) -> Iterator[bytes]:
    """Several pages as PDFs, in their order, drawn beside each other in processes of their own. Raises as `pdf` does."""
    held = [
        {sha256: picture(sha256) for sha256 in dict.fromkeys(OWN_PICTURE.findall(page))} if picture is not None else {} for page in pages
    ]  # fmt: skip
    with ProcessPoolExecutor(min(at_once, max(len(pages), 1)), mp_context=get_context("forkserver")) as pool:
        yield from pool.map(_drawn, pages, held)


def _drawn(page: str, pictures: dict[str, bytes]) -> bytes:
    return pdf(page, pictures.__getitem__)
