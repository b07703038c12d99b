"""The project's own promises: the command line, the documents, the names."""

import json
import re
import subprocess
import sys
from graphlib import TopologicalSorter
from pathlib import Path

import grimp
import pytest
from pydantic import BaseModel

from cinder.design.losses import result as result_losses
from cinder.design.survey import result as result_survey
from cinder.exchange.jobs import job_file
from cinder.model import room, scheme, survey
from tests.conftest import HOUSES, house

ROOT = Path(__file__).parents[1]


def cinder(*args):
    return subprocess.run(
        [sys.executable, "-m", "cinder.cli", *map(str, args)], capture_output=True, text=True, check=False
    )


def test_design_as_json_and_as_a_table():
    whole = cinder("design", HOUSES / "three-rooms.toml")
    assert whole.returncode == 0
    assert [room["id"] for room in json.loads(whole.stdout)["rooms"]] == ["living", "bed", "bath"]
    table = cinder("design", HOUSES / "three-rooms.toml", "--table")
    assert "Living room" in table.stdout
    assert "licensed practice" in table.stdout


def test_schema_names_every_top_part():
    schema = json.loads(cinder("schema").stdout)
    assert set(house("three-rooms")) <= set(schema["properties"])


def test_convert_there_and_back(tmp_path):
    first, second = tmp_path / "a.json", tmp_path / "b.json"
    assert cinder("convert", HOUSES / "bungalow.toml", first).returncode == 0
    assert cinder("convert", first, second).returncode == 0
    assert first.read_bytes() == second.read_bytes() == job_file.write(house("bungalow"))


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ('{"milk": 1}', "no job of ours"),
        ("{", "Not JSON"),
        ('{"format": "mellow-cinder-job", "schema": 99}', "schema 99"),
    ],
)
def test_bad_files_end_with_two_and_write_nothing(tmp_path, text, said):
    source, target = tmp_path / "bad.json", tmp_path / "out.json"
    source.write_text(text)
    for done in (cinder("convert", source, target), cinder("design", source)):
        assert done.returncode == 2
        assert said in done.stderr
        assert "Traceback" not in done.stderr
    assert not target.exists()


def test_a_problem_is_one_line_with_its_path(tmp_path):
    document = house("three-rooms")
    document["survey"]["rooms"]["bed"]["height_m"] = -1.0
    source = tmp_path / "bad.json"
    source.write_text(json.dumps(document))
    done = cinder("design", source)
    assert done.returncode == 2
    assert "  /survey/rooms/bed/height_m: " in done.stderr


NAMES = (ROOT / "docs" / "nomenclature.md").read_text()
ENDINGS = sorted(set(re.findall(r"`_?([a-z0-9_]+)`", NAMES.split("Without a unit")[0])), key=len, reverse=True)


def numbers_of(module):
    for model in vars(module).values():
        if isinstance(model, type) and issubclass(model, BaseModel):
            for name, field in model.model_fields.items():
                if re.search(r"\bfloat\b", str(field.annotation)):
                    yield model.__name__, name


WITHOUT = set(re.findall(r"`([a-z0-9_]+)`", NAMES.split("Without a unit")[1].split("|")[0]))
MORE = {"pos", "value", "season_with_hot_water", "with_hot_water", "cover_without_hot_water", "cycling_share",
        "backup_share", "outdoor_c", "hours", "rooms", "cop_lines", "targets", "concessions", "returns", "gauges"}  # fmt: skip


@pytest.mark.parametrize("module", [result_losses, result_survey, survey, room, scheme], ids=lambda m: m.__name__)
def test_every_number_carries_its_unit(module):
    for model, name in numbers_of(module):
        known = name in WITHOUT | MORE or any(name == end or name.endswith(f"_{end}") for end in ENDINGS)
        assert known, f"{model}.{name} carries no unit of docs/nomenclature.md"


def test_readme_names_its_commands_and_pictures():
    readme = (ROOT / "README.md").read_text()
    for picture in (ROOT / "docs" / "screenshots").glob("*.png"):
        assert picture.name in readme
    assert len(list((ROOT / "docs" / "screenshots").glob("*"))) < 20
    assert "./start" in readme
    assert "./test" in readme


def test_every_check_that_is_listed_is_there():
    listed = (ROOT / "docs" / "checks.md").read_text()
    named = [path for cell in re.findall(r"`([^`]+)`", listed) for path in [cell] if path.endswith((".py", "/"))]
    assert len(named) > 40
    for path in named:
        found = [ROOT / path] if path.startswith("tests/") else list((ROOT / "tests").rglob(path))
        assert any(file.exists() for file in found), path


def test_no_colour_outside_the_theme():
    for file in (ROOT / "frontend" / "src").rglob("*.svelte"):
        assert not re.search(r"#[0-9a-fA-F]{6}\b|#[0-9a-fA-F]{3}\b(?![^<]*&)", file.read_text()), file.name


def test_nothing_committed_names_a_registry():
    for name in ("requirements.lock", "frontend/package-lock.json", "frontend/.npmrc"):
        text = (ROOT / name).read_text()
        assert not re.search(r"https?://[^\s\"]*(registry|pypi|files\.)[^\s\"]*", text), name


def test_no_module_needs_what_needs_it():
    graph = grimp.build_graph("cinder")
    order = TopologicalSorter({name: graph.find_modules_directly_imported_by(name) for name in graph.modules})
    order.prepare()  # raises CycleError, naming the circle
