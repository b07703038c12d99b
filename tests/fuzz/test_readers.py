"""Every reader of files, fed with files that are damaged: read, or refused with words; never a fault."""

import hashlib
import io
import zipfile
from importlib.resources import files

import numpy as np
import pytest
from PIL import Image

from cinder.errors import CinderError
from cinder.exchange.files import pictures
from cinder.exchange.jobs import brief, bundle, job_file, strict_json
from cinder.exchange.survey import plan_dxf, sheet, sheet_in
from cinder.exchange.weather import weather_file
from cinder.library import catalogue, load, shipped_year
from cinder.library.loader import generic_csv
from cinder.model import freeze, parse
from tests.conftest import house, tansy_cut
from tests.fuzz.mutate import mangled, seeds

JOB = parse(tansy_cut())
YEAR = b"outdoor_c,ghi_w_m2,dni_w_m2,dhi_w_m2\n" + b"1.0,0,0,0\n" * 8760
CLIMATE = load().climates["mild-maritime"]


def picture(form, **options):
    out = io.BytesIO()
    noise = np.random.default_rng(1).integers(0, 255, (60, 80, 3), dtype=np.uint8)
    Image.fromarray(noise).save(out, form, **options)
    return out.getvalue()


def zipped():
    document = house("one-room")
    document["survey"]["photos"] = {"p": {"sha256": "ab" * 32}}
    own = CLIMATE.model_copy(update={"id": "own", "year_sha256": hashlib.sha256(YEAR).hexdigest()})
    document["library"]["climates"]["own"] = freeze(own) | {"origin": "company"}
    return bundle.write(document, lambda _: picture("JPEG"), lambda _: YEAR)


def whole_bundle(data):
    back = bundle.Bundle(io.BytesIO(data))
    for sha256 in bundle.photos_of(back.document):
        back.photo(sha256)
    for sha256 in bundle.years_of(back.document):
        back.year(sha256)


def rezipped(data, rng):
    """A zip whose members are spoilt one by one, so that the damage gets past its checksums."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(data)) as old, zipfile.ZipFile(out, "w") as new:
        spoil = rng.choice(old.namelist())
        for name in old.namelist():
            content = old.read(name)
            new.writestr(name, mangled(content, rng) if name == spoil else content)
    return out.getvalue()


EPW = weather_file.write_epw(CLIMATE, shipped_year(CLIMATE.year_sha256))
READERS = {
    "sheet.csv": (sheet.to_csv(JOB), sheet_in.read, mangled),
    "sheet.xlsx": (sheet.to_xlsx(JOB), sheet_in.read, mangled),
    "sheet.xlsx, inside": (sheet.to_xlsx(JOB), sheet_in.read, rezipped),
    "plan.dxf": (plan_dxf.write(JOB), plan_dxf.read, mangled),
    "weather.epw": (EPW, weather_file.read_weather, mangled),
    "weather.csv": (shipped_year(CLIMATE.year_sha256).write(), weather_file.read_weather, mangled),
    "year.csv": (shipped_year(CLIMATE.year_sha256).write(), weather_file.hourly, mangled),
    "list.csv": (
        generic_csv(),
        lambda data: catalogue.read(data, key="a", label="A", source="s", types=set(load().emitter_types)),
        mangled,
    ),
    "job.zip": (zipped(), whole_bundle, mangled),
    "job.zip, inside": (zipped(), whole_bundle, rezipped),
    "job.json": (job_file.write(house("one-room")), job_file.document, mangled),
    "any.json": (
        b'{"a": [1, 2.5e3, "\\u00e9\\ud83d\\ude00", null, {"b": -0.0}], "c": "x"}',
        strict_json.loads,
        mangled,
    ),
    "brief.toml": (files("cinder.exchange").joinpath("demo", "oat-store.toml").read_bytes(), brief.document, mangled),
    "jpeg": (picture("JPEG"), pictures.prepare, mangled),
    "png": (picture("PNG"), pictures.prepare, mangled),
    "webp": (picture("WEBP"), pictures.prepare, mangled),
    "tiff": (picture("TIFF"), pictures.prepare, mangled),
    "gif": (picture("GIF"), pictures.prepare, mangled),
}


@pytest.mark.parametrize("name", READERS)
def test_a_damaged_file_is_read_or_refused_in_words(name):
    data, reader, spoil = READERS[name]
    reader(data)  # whole it is read
    for rng in seeds(0.3):
        odd = spoil(data, rng)
        try:
            reader(odd)
            continue
        except CinderError as error:
            refused = error
        except Exception as error:
            raise AssertionError((name, rng.seed_of, type(error), error)) from error
        assert refused.message, (name, rng.seed_of)
        refused.message.encode()  # it can be sent
        assert all(problem.line().encode() for problem in refused.problems), (name, rng.seed_of)
