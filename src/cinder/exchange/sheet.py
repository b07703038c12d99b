"""What lays out a page. Slow to import: only where a paper is drawn, and once before the processes that draw are forked."""

from __future__ import annotations

import re
from importlib.resources import files
from typing import Any

from PIL import Image
from weasyprint import CSS, HTML
from weasyprint.urls import URLFetcher, URLFetcherResponse

from cinder.exchange.packaged import FONTS, OWN_PICTURE, PACKAGED, Picture, font

Image.preinit()  # what reads pictures is else loaded by the first that has one
FOOTNOTES = re.compile(r"^::(?:foot)?note.*$", re.MULTILINE)
_known = files("weasyprint").joinpath("css", "html5_ua.css").read_text()
_lean = CSS(string=FOOTNOTES.sub("", _known).replace("\n::marker", "\nli::marker"))


class Sheet(HTML):  # type: ignore[misc]
    """A page without a style for footnotes, which no paper of ours has: it would be worked out for every cell of every table,
    a tenth of a long paper. Where a later release no longer asks here it is only slower."""

    def _ua_stylesheets(self, forms: bool = False) -> list[Any]:
        return list(super()._ua_stylesheets(forms)) if forms else [_lean]


class PackagedOnly(URLFetcher):  # type: ignore[misc]
    """Gives packaged fonts, and pictures of the job itself; every other address ends the drawing."""

    def __init__(self, picture: Picture | None) -> None:
        super().__init__(fail_on_errors=True)
        self.picture = picture

    def fetch(self, url: str, headers: dict[str, str] | None = None) -> Any:
        name = url.removeprefix(PACKAGED)
        if url.startswith(PACKAGED) and name in FONTS:
            return URLFetcherResponse(url, font(name), headers={"Content-Type": "font/ttf"})
        if self.picture is not None and (found := OWN_PICTURE.fullmatch(url)):
            return URLFetcherResponse(url, self.picture(found[1]), headers={"Content-Type": "image/jpeg"})
        raise ValueError(f"nothing is fetched but what is packaged: {url}")
