"""What a job refuses, and what it takes half-done."""

import copy

import pytest

from cinder.errors import InvalidJob, MalformedJson, NewerSchema, NotAJob, TooLarge
from cinder.exchange.jobs import job_file, strict_json
from cinder.library import load
from cinder.model import SCHEMA, empty_job, parse
from tests.conftest import house, tansy_cut


def set_at(document, path, value):
    out = copy.deepcopy(document)
    *parents, last = path.strip("/").split("/")
    here = out
    for step in parents:
        here = here[int(step)] if isinstance(here, list) else here[step]
    here[int(last) if isinstance(here, list) else last] = value
    return out


ROOMS = "/survey/rooms/living"
BAD = [
    (f"{ROOMS}/height_m", -2.4, "more than 0"),
    (f"{ROOMS}/height_m", 1e9, "at most 30"),
    (f"{ROOMS}/height_m", float("nan"), "finite"),
    (f"{ROOMS}/height_m", float("inf"), "finite"),
    (f"{ROOMS}/height_m", True, "must be a number"),
    (f"{ROOMS}/height_m", "2.4", "must be a number"),
    (f"{ROOMS}/walk/0/length_m", 0.0, "more than 0"),
    (f"{ROOMS}/label", "a\x00b", "control character"),
    (f"{ROOMS}/label", "\ud800", ""),
    (f"{ROOMS}/label", "x" * 201, "at most 200"),
    (f"{ROOMS}/colour", "red", "nothing we know"),
    (f"{ROOMS}/storey", "attic", "no storey"),
    (f"{ROOMS}/part", "tower", "no part"),
    (f"{ROOMS}/faces/w9", {}, "no run"),
    (f"{ROOMS}/faces/w1/construction", "wall-of-cheese", "no construction"),
    (f"{ROOMS}/faces/w3/spans/all/beyond/room", "cellar", "no room"),
    (f"{ROOMS}/faces/w3/spans/all/beyond/room", "living", "own wall"),
    ("/survey/emitters/r-bed/room", "cellar", "no room"),
    ("/survey/emitters/r-bed/spec/type", "t99", "no emitter type"),
    ("/survey/pipes/main/parent", "to-bed", "circle"),
    ("/survey/pipes/to-bed/parent", "nowhere", "no pipe"),
    ("/survey/pipes/to-bed/size", "99", "no size"),
    ("/schemes/main/chosen", "other", "no candidate"),
    ("/schemes/main/targets/cellar", 20.0, "no room"),
    ("/active_scheme", "none-such", "no scheme"),
    ("/climate/entry", "moon", "no climate"),
]


@pytest.mark.parametrize(("path", "value", "message"), BAD, ids=[f"{p}={str(v)[:12]!r}" for p, v, _ in BAD])
def test_refused_with_its_place_and_nothing_taken(path, value, message):
    document = house("three-rooms")
    document["schemes"]["main"].setdefault("targets", {})
    before = copy.deepcopy(document)
    with pytest.raises(InvalidJob) as refused:
        parse(set_at(document, path, value))
    # A pipe in a circle is named at one of its links; everything else exactly where it is.
    places = [problem.path for problem in refused.value.problems]
    assert any(
        p.startswith("/survey/pipes/") if "circle" in message else p == path or path.startswith(p) for p in places
    )
    assert message in " ".join(problem.message for problem in refused.value.problems)
    assert document == before


def test_a_thousand_rooms_too_many():
    document = house("three-rooms")
    room = document["survey"]["rooms"]["bath"]
    document["survey"]["rooms"] |= {f"r{n}": copy.deepcopy(room) for n in range(500)}
    with pytest.raises(InvalidJob) as refused:
        parse(document)
    assert refused.value.problems[0].path == "/survey/rooms"


def test_another_kind_of_file():
    for other in ({}, [], "text", 7, {"format": "something-else", "schema": 1}):
        with pytest.raises(NotAJob):
            parse(other)


def test_a_job_of_a_newer_schema():
    with pytest.raises(NewerSchema, match=f"schema {SCHEMA + 1}"):
        parse(house("three-rooms") | {"schema": SCHEMA + 1})


def test_everything_surveyed_is_optional():
    document = empty_job(job_id="x", title="Empty", library=load())
    document["survey"]["rooms"] = {"a": {}}
    assert parse(document).survey.rooms["a"].height_m is None


def test_file_there_and_back(tmp_path):
    for document in (tansy_cut(), house("three-rooms")):
        path = tmp_path / "a.json"
        path.write_bytes(job_file.write(document))
        assert job_file.read(path) == document


DEEP = b'{"a":' * 5000 + b"1" + b"}" * 5000


@pytest.mark.parametrize(
    ("data", "message"),
    [(b"{", "Not JSON"), (b'{"a": NaN}', "NaN"), (b'{"a": -Infinity}', "Infinity"), (b'{"a": 1e400}', "1e400"),
     (b'{"a": 1, "a": 2}', "twice"), (DEEP, "Nested"), (b'{"a": "\\u0000"}', "U[+]0000"), (b'{"\\ud83d": 1}', "character"),
     (b"\xff\xfe", "UTF-8"), (b"9" * 5000, "usable number")],
)  # fmt: skip
def test_strict_json_refuses(data, message):
    with pytest.raises(MalformedJson, match=message):
        strict_json.loads(data)


def test_strict_json_takes_what_is_good():
    text = '{"name": "Bay “window” 😀", "deep": ' + "[" * 60 + "1" + "]" * 60 + "}"
    assert strict_json.loads(text.encode())["name"].endswith("😀")
    assert strict_json.loads(b'"{[{[' + b"[" * 500 + b'"') == "{[{[" + "[" * 500


def test_fifty_megabytes():
    with pytest.raises(TooLarge):
        strict_json.loads(b" " * 50_000_000)
