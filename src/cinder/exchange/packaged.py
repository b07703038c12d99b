"""What a paper may fetch: fonts and style that ship with the application, and pictures of the job itself."""

from __future__ import annotations

import re
from collections.abc import Callable
from importlib.resources import files

FONTS = (
    "atkinson-400.ttf", "atkinson-700.ttf", "atkinson-ext-400.ttf", "atkinson-ext-700.ttf", "bricolage-700.ttf",
)  # fmt: skip
PACKAGED = "packaged:"
OWN_PICTURE = re.compile(r"picture:([0-9a-f]{64})")
Picture = Callable[[str], bytes]


def font(name: str) -> bytes:
    """A packaged font by its name; raises `KeyError` for another."""
    if name not in FONTS:
        raise KeyError(name)
    # the report's own module would load the whole core to draw by
    return files("cinder.exchange").joinpath("report", name).read_bytes()


def house_style() -> str:
    """The style of every paper, with fonts by their packaged address."""
    return files("cinder.exchange").joinpath("report", "paper.css").read_text()
