"""Pages into PDF: only what is packaged with the application is ever fetched while one is drawn."""

from __future__ import annotations

from functools import lru_cache
from importlib.resources import files
from typing import Any

from cinder.errors import Refused

FONTS = (
    "atkinson-400.woff2", "atkinson-700.woff2", "atkinson-ext-400.woff2", "atkinson-ext-700.woff2", "bricolage-700.woff2",
)  # fmt: skip
PACKAGED = "packaged:"


def font(name: str) -> bytes:
    """A packaged font by its name; raises `KeyError` for another."""
    if name not in FONTS:
        raise KeyError(name)
    return files("cinder.exchange.report").joinpath(name).read_bytes()


@lru_cache(maxsize=1)
def _fetcher() -> Any:
    from weasyprint.urls import URLFetcher, URLFetcherResponse  # slow to import: only when a paper is drawn

    class PackagedOnly(URLFetcher):  # type: ignore[misc]
        """Gives packaged fonts; every other address ends the drawing."""

        def fetch(self, url: str, headers: dict[str, str] | None = None) -> Any:
            name = url.removeprefix(PACKAGED)
            if not url.startswith(PACKAGED) or name not in FONTS:
                raise ValueError(f"nothing is fetched but what is packaged: {url}")
            return URLFetcherResponse(url, font(name), headers={"Content-Type": "font/woff2"})

    return PackagedOnly(fail_on_errors=True)


def pdf(page: str) -> bytes:
    """The page as PDF. Raises `Refused` where it would fetch anything that is not packaged with it."""
    from weasyprint import HTML
    from weasyprint.urls import FatalURLFetchingError

    try:
        return bytes(HTML(string=page, url_fetcher=_fetcher()).write_pdf())
    except FatalURLFetchingError as error:  # no Exception of the ordinary kind: nobody else would catch it
        raise Refused(f"A paper may not fetch anything: {error.__cause__ or error}") from None
