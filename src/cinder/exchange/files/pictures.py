"""Pictures from the site: only true images, turned upright, without where they were taken, in three sizes."""

from __future__ import annotations

import io
import struct
import warnings
import zlib
from dataclasses import dataclass

from PIL import Image, ImageFile, ImageOps, UnidentifiedImageError

from cinder.errors import Problem, Refused, TooLarge

MAX_BYTES = 25 * 1024 * 1024
MAX_PIXELS = 80_000_000
MAX_PIXELS_UNSCALED = 24_000_000
"""Of formats that cannot be unpacked at a smaller scale, as JPEG can."""
MAX_SIDE_PX = 30_000
FULL_PX, VIEW_PX, THUMB_PX = 4096, 1600, 320
QUALITY = 86
FORMATS = ("JPEG", "PNG", "WEBP", "GIF", "BMP", "TIFF")
PHONE_FORMATS = (b"ftypheic", b"ftypheix", b"ftyphevc", b"ftypmif1", b"ftypmsf1", b"ftypavif")


@dataclass(frozen=True, slots=True)
class Picture:
    """A picture as it is kept: JPEG bytes at three sizes, upright, no metadata."""

    width_px: int
    height_px: int
    full: bytes
    view: bytes
    thumb: bytes


def prepare(data: bytes) -> Picture:
    """Read an upload and make it ready to keep.

    Raises `TooLarge` beyond 25 MB or 80 megapixels (nothing is unpacked to find out), `Refused` naming what it is
    instead of a picture.
    """
    if len(data) > MAX_BYTES:
        raise TooLarge(f"The picture has {len(data):,} bytes; at most {MAX_BYTES:,} are taken.")
    _not_a_picture(data)
    Image.init()
    ImageFile.LOAD_TRUNCATED_IMAGES = False  # what draws papers sets it for the whole process
    try:
        with warnings.catch_warnings():
            warnings.simplefilter("ignore")  # of odd tags, and of many dots, which are counted below
            plain = _upright(data)
    except TooLarge:
        raise
    except Image.DecompressionBombError:
        raise TooLarge(
            f"The picture unpacks to more dots than are taken: at most {MAX_PIXELS / 1e6:.0f} million."
        ) from None
    except (UnidentifiedImageError, OSError, SyntaxError, ValueError, TypeError, KeyError, IndexError, OverflowError,
            struct.error, zlib.error, EOFError) as error:  # fmt: skip
        raise Refused("This file is no picture we can read.", problems=(Problem("/photo", str(error)[:200]),)) from None
    full = _fit(plain, FULL_PX)
    return Picture(full.width, full.height, _jpeg(full), _jpeg(_fit(full, VIEW_PX)), _jpeg(_fit(full, THUMB_PX)))


def _upright(data: bytes) -> Image.Image:
    image = Image.open(io.BytesIO(data), formats=FORMATS)
    most = MAX_PIXELS if image.format == "JPEG" else MAX_PIXELS_UNSCALED
    if image.width * image.height > most or max(image.size) > MAX_SIDE_PX:
        raise TooLarge(
            f"The picture unpacks to {image.width} × {image.height} dots; at most {most / 1e6:.0f} million are taken."
        )
    image.draft("RGB", (FULL_PX, FULL_PX))
    return _on_white(ImageOps.exif_transpose(image))


def _not_a_picture(data: bytes) -> None:
    head = data[:512].lstrip().lower()
    if any(mark in data[:64] for mark in PHONE_FORMATS):
        raise Refused(
            "This is a phone's own picture format (HEIC or AVIF), which is not read here. Set the camera to JPEG "
            "(“most compatible”), or send it as JPEG.",
            problems=(Problem("/photo", "HEIC or AVIF"),),
        )
    if head.startswith((b"<!doctype", b"<html", b"<svg", b"<?xml")):
        raise Refused("This is a web page or a drawing, no photograph.", problems=(Problem("/photo", "HTML or SVG"),))


def _on_white(image: Image.Image) -> Image.Image:
    if image.mode in ("RGBA", "LA", "PA") or "transparency" in image.info:
        under = Image.new("RGB", image.size, "white")
        over = image.convert("RGBA")
        under.paste(over, mask=over.getchannel("A"))
        return under
    return image.convert("RGB")


def _fit(image: Image.Image, longest: int) -> Image.Image:
    if max(image.size) <= longest:
        return image
    copy = image.copy()
    copy.thumbnail((longest, longest), Image.Resampling.LANCZOS)
    return copy


def _jpeg(image: Image.Image) -> bytes:
    out = io.BytesIO()
    image.save(out, "JPEG", quality=QUALITY, optimize=True)
    return out.getvalue()
