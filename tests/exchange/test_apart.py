"""Foreign files: read in a process of their own, which ends what takes too long or too much, and says so."""

import io
import os
import re
import struct
import time
import zipfile
import zlib

import pytest
from openpyxl import Workbook
from PIL import Image, ImageFile

from cinder.errors import CinderError, InvalidJob, MalformedJson, TooLarge
from cinder.exchange import apart as module
from cinder.exchange.apart import apart
from cinder.exchange.files import pictures
from cinder.exchange.jobs import job_file, strict_json
from cinder.exchange.survey import form_pdf, plan_dxf, sheet_in


def for_ever(data: bytes) -> None:
    while data:
        pass


def greedy(megabytes: int) -> int:
    return len(bytearray(megabytes * 1024 * 1024))


def gone(code: int) -> None:
    os._exit(code)


def where() -> int:
    return os.getpid()


def careful(data: bytes) -> None:
    raise ZeroDivisionError("of no kind that a reader names")


def test_it_is_a_process_of_its_own():
    assert apart(where) != os.getpid()


def test_what_takes_too_long_is_ended_and_said():
    begun = time.process_time()
    with pytest.raises(TooLarge, match="more than 5 s: it was stopped"):
        apart(for_ever, b"x")
    assert time.process_time() - begun < module.SECONDS / 2  # here nothing was worked


def test_what_takes_too_much_memory_is_ended_and_said():
    assert apart(greedy, 100) == 100 * 1024 * 1024
    with pytest.raises(TooLarge, match="more than 300 MB: it was stopped"):
        apart(greedy, 400)


def test_what_dies_or_breaks_is_a_refusal():
    with pytest.raises(CinderError, match="its reader ended"):
        apart(gone, 3)
    with pytest.raises(CinderError, match="damaged in a way the reader does not know"):
        apart(careful, b"")


def test_our_own_refusals_come_through_with_their_places():
    with pytest.raises(MalformedJson) as caught:
        apart(job_file.document, b'{"schema_version": 1, "schema_version": 1}')
    assert caught.value.message
    assert caught.value.http_status == 400


# ---- files made to take all there is: refused by their limits, before anything is built


def workbook(rows: int, columns: int) -> bytes:
    """A small zip that unpacks to a large sheet."""
    made = io.BytesIO()
    Workbook().save(made)
    out = io.BytesIO()
    with zipfile.ZipFile(made) as plain, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as packed:
        for name in plain.namelist():
            data = plain.read(name)
            if name == "xl/worksheets/sheet1.xml":
                row = b"<row>" + b"<c><v>1</v></c>" * columns + b"</row>"
                data = re.sub(rb"<sheetData ?/>", b"<sheetData>" + row * rows + b"</sheetData>", data)
            packed.writestr(name, data)
    return out.getvalue()


def png(width: int, height: int) -> bytes:
    """A picture of one colour, which packs to next to nothing."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    packer = zlib.compressobj(9)
    line = b"\0" * (width // 8 + 2)
    pixels = b"".join(packer.compress(line) for _ in range(height)) + packer.flush()
    head = struct.pack(">IIBBBBB", width, height, 1, 0, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", pixels) + chunk(b"IEND", b"")


def drawing(lines: int) -> bytes:
    return (
        b"0\nSECTION\n2\nENTITIES\n" + b"0\nLINE\n8\n0\n10\n0\n20\n0\n11\n1\n21\n1\n" * lines + b"0\nENDSEC\n0\nEOF\n"
    )


@pytest.mark.parametrize(("reader", "data", "most"), [
    (sheet_in.read, workbook(4000, 400), 200_000),
    (sheet_in.read, workbook(1, 100_000), 200_000),
    (pictures.prepare, png(29_000, 29_000), 200_000),
    (pictures.prepare, png(60_000, 8), 20_000),
    (plan_dxf.read, drawing(60_000), 4_000_000),
    (job_file.document, b"[" * 4_000_000, 4_000_001),
    (job_file.document, b'{"a":' + b"[[]," * 1_900_000 + b"[]", 8_000_000),
], ids=["many rows", "one wide row", "large picture", "one long side", "many lines", "deep", "many"])  # fmt: skip
def test_a_small_file_that_unpacks_to_much_is_refused_in_a_moment(reader, data, most):
    """Not by running into the limits of its process: by its own count, before anything is built."""
    assert len(data) <= most
    begun = time.process_time()
    with pytest.raises(CinderError) as refused:
        reader(data)
    assert isinstance(refused.value, TooLarge | MalformedJson | InvalidJob)
    assert time.process_time() - begun < module.SECONDS  # of its processor, so that no busy neighbour counts


def test_strict_json_looks_before_it_builds():
    with pytest.raises(MalformedJson, match="whole number"):
        strict_json.loads(b'{"a": 9223372036854775808}')
    assert strict_json.loads(b'{"a": 9223372036854775807}') == {"a": 2**63 - 1}


def test_drawing_papers_does_not_change_how_pictures_are_read():
    """What draws a PDF lets truncated pictures through for its whole process; a picture taken in afterwards must not be."""
    out = io.BytesIO()
    Image.effect_noise((400, 300), 60).save(out, "JPEG")
    cut = out.getvalue()[: len(out.getvalue()) // 2]
    with pytest.raises(CinderError):
        pictures.prepare(cut)
    form_pdf.write("A house")
    ImageFile.LOAD_TRUNCATED_IMAGES = True
    with pytest.raises(CinderError):
        pictures.prepare(cut)
