"""Who points at whom: the table says the same as the check of references, and what is taken away leaves a job that is read."""

import copy
import json
import shutil
import subprocess
from pathlib import Path

import pytest

from cinder.errors import InvalidJob
from cinder.model import parse
from cinder.model.pointers import HOMES, POINTERS, at, places, pointing, removal
from tests.conftest import house, oat_store, tansy_cut

ROOT = Path(__file__).parents[2]


def full():
    """The lock-keeper's house with one of everything that points."""
    document = tansy_cut()
    survey, scheme = document["survey"], document["schemes"]["lukewarm"]
    document["handover"]["offer"]["lines"] = {"own": {"label": "Skip hired", "scheme": "plain"}}
    rooms = list(survey["rooms"])
    first, second = rooms[0], rooms[1]
    face = next(k for k, f in survey["rooms"][first]["faces"].items() if f.get("openings"))
    opening = next(iter(survey["rooms"][first]["faces"][face]["openings"]))
    emitter = next(k for k, e in survey["emitters"].items() if e["room"] == first)
    wall = next(k for k, c in document["library"]["constructions"].items() if c["data"]["element"] == "wall")
    window = next(k for k, c in document["library"]["constructions"].items() if c["data"]["element"] == "window")
    run = survey["rooms"][second]["walk"][0]["id"]
    survey["spaces"]["cave"] = {
        "label": "Cave", "faces": {"a": {"area_m2": 4.0, "construction": wall}},
        "cellar": {"area_m2": 9.0, "exposed_perimeter_m": 12.0, "depth_m": 2.0, "wall": wall, "floor": wall},
    }  # fmt: skip
    survey["neighbours"]["next-door"] = {"label": "Next door"}
    survey["rooms"][second]["faces"].setdefault(run, {}).setdefault("spans", {}).update(
        r={"from_m": 0.0, "to_m": 0.2, "beyond": {"kind": "room", "room": first}},
        s={"from_m": 0.2, "to_m": 0.4, "beyond": {"kind": "space", "space": "cave"}},
        n={"from_m": 0.4, "to_m": 0.6, "beyond": {"kind": "neighbour", "neighbour": "next-door"}},
    )
    survey["rooms"][first]["faces"][face]["construction"] = wall
    survey["rooms"][first]["faces"][face]["openings"][opening]["construction"] = window
    survey["manifolds"] = {"m": {"kind": "actuator", "rooms": [first, second]}}
    plain = {"sha256": "a" * 64, "caption": "x"}
    survey["pipe_tests"] = {
        "t": {"only": emitter, "returns": {emitter: 40.0}, "gauges": {emitter: 90.0}, "rooms": {first: 20.0}}
    }
    survey["photos"] = {"p1": plain | {"room": first}, "p2": plain | {"emitter": emitter}}
    part = next(iter(survey["parts"]))
    survey["parts"][part]["loft"] = "cave"
    scheme["targets"] = {first: 21.0}
    scheme["zones"] = {"z": {"label": "Two rooms", "rooms": [first, second]}}
    scheme["concessions"] = {first: 19.0}
    survey["stores"] = survey.get("stores", {}) | {"old-tank": {"volume_l": 150.0}}
    scheme["hot_water"] = scheme.get("hot_water", {}) | {"keeps": "old-tank"}
    scheme["measures"] = scheme.get("measures", {}) | {
        "o": {"kind": "opening", "room": first, "face": face, "opening": opening, "construction": window},
        "c": {"kind": "construction", "was": wall, "construction": wall, "part": part},
    }
    scheme["emitters"]["extra"] = {
        "action": "add", "room": first, "spec": {"kind": "electric", "output_w": 500.0},
    }  # fmt: skip
    document["fire_up"] = {
        "observations": {"look": {"at": "2026-01-14T07:30:00Z", "rooms": {first: 20.1}, "tails": {emitter: 31.0}}}
    }
    pipe = next(iter(survey["pipes"]))
    scheme["pipes"] = {"branch": {"action": "add", "run": {"parent": pipe, "emitter": "extra"}}}
    other = next(k for k in survey["pipes"] if k != pipe)
    scheme["pipes"][other] = {"action": "replace", "run": survey["pipes"][other]}
    parse(document)
    return document


@pytest.mark.parametrize("pointer", POINTERS, ids=lambda p: f"{p.to} {p.path}")
def test_every_place_of_the_table_is_one_the_job_is_checked_for(pointer):
    """Where it names what is not there, the job is refused at that very place."""
    document = full()
    found = [parts for parts, _ in places(document, pointer.path)]
    if pointer.path.endswith("/="):  # what is added there names nothing but itself
        found = [p for p in found if not isinstance(at(document, p), dict) or at(document, p).get("action") != "add"]
    assert found, "nothing of the house points there: the table is not tried"
    broken, parts = copy.deepcopy(document), found[0]
    holder = at(broken, parts[:-1])
    if pointer.path.endswith("/="):
        holder["nowhere"] = holder.pop(parts[-1])
        parts = [*parts[:-1], "nowhere"]
    elif pointer.path.endswith("/[]"):
        at(broken, parts)[0] = "nowhere"
    else:
        holder[parts[-1]] = "nowhere"
    with pytest.raises(InvalidJob) as refused:
        parse(broken)
    said = "/" + "/".join(parts)
    assert any(p.path == said or p.path.startswith(f"{said}/") for p in refused.value.problems), refused.value.problems


def everything(document):
    for kind, homes in HOMES.items():
        for home in homes:
            for parts, _ in places(document, home):
                stands = [part for part, said in zip(parts, home.split("/")[1:], strict=True) if said == "*"][:-1]
                yield kind, parts[-1], tuple(stands) if kind == "opening" else ()


@pytest.mark.parametrize("make", [full, tansy_cut, oat_store, lambda: house("two-storeys-open")])
def test_what_is_taken_away_leaves_a_job_that_can_be_read(make):
    document, taken = make(), 0
    before = copy.deepcopy(document)
    for kind, name, within in everything(document):
        if kind == "construction" and list(pointing(document, kind, name)):
            with pytest.raises(ValueError, match="still names it"):
                removal(document, kind, name)
            continue
        left = removal(document, kind, name, within)
        parse(left)
        assert not list(pointing(left, kind, name, within))
        taken += 1
    assert taken > 5
    assert document == before


def test_a_room_takes_with_it_what_hangs_in_it_and_leaves_a_wall_to_the_heated():
    document = full()
    room = next(iter(document["survey"]["rooms"]))
    left = removal(document, "room", room)
    assert "extra" not in left["schemes"]["lukewarm"]["emitters"]
    assert "emitter" not in left["schemes"]["lukewarm"]["pipes"]["branch"]["run"]
    assert left["survey"]["manifolds"]["m"]["rooms"] == [list(document["survey"]["rooms"])[1]]
    spans = [
        s for r in left["survey"]["rooms"].values() for f in r["faces"].values() for s in f.get("spans", {}).items()
    ]
    assert dict(spans)["r"]["beyond"] == {"kind": "heated"}
    assert "p1" not in left["survey"]["photos"]
    assert "p2" in left["survey"]["photos"]


def test_what_hung_at_a_pipe_hangs_at_the_one_before_it():
    document = tansy_cut()
    pipes = document["survey"]["pipes"]
    middle = next(k for k, p in pipes.items() if p.get("parent") and any(q.get("parent") == k for q in pipes.values()))
    left = removal(document, "pipe", middle)["survey"]["pipes"]
    for key, pipe in pipes.items():
        if pipe.get("parent") == middle:
            assert left[key]["parent"] == pipes[middle]["parent"]


RUNNER = """
const ts = require('typescript'); const fs = require('fs'); const path = require('path');
const asked = JSON.parse(fs.readFileSync(0));
const near = { '$lib/api/rules.json': asked.rules, './draft': load('job/draft.ts') };
function load(file) {
  const made = ts.transpileModule(fs.readFileSync(path.join('src/lib', file), 'utf8'),
    { compilerOptions: { module: 'CommonJS', target: 'ES2022', esModuleInterop: true } }).outputText;
  const module = { exports: {} };
  new Function('module', 'exports', 'require', made)(module, module.exports, (name) => near[name]);
  return module.exports;
}
const { Draft } = near['./draft']; const { takeAway } = load('job/pointers.ts');
console.log(JSON.stringify(asked.cases.map(([kind, name, within]) => {
  const draft = new Draft(asked.document, null);
  try { takeAway(draft, kind, name, within); } catch (error) { return String(error.message); }
  return [draft.job, draft.operations];
})));
"""


@pytest.mark.parametrize("make", [full, oat_store])
def test_the_browser_takes_away_the_same(make):
    from cinder.store import patch
    from cinder.web.rules import rules

    document = make()
    cases = list(everything(document))
    sent = json.dumps({"rules": rules(), "document": document, "cases": cases})
    done = subprocess.run(
        [shutil.which("node"), "-e", RUNNER],
        cwd=ROOT / "frontend",
        input=sent,
        capture_output=True,
        text=True,
        check=False,
    )
    assert done.returncode == 0, done.stderr
    for (kind, name, within), found in zip(cases, json.loads(done.stdout), strict=True):
        if isinstance(found, str):
            with pytest.raises(ValueError, match="still names it"):
                removal(document, kind, name, within)
            continue
        job, operations = found
        wanted = removal(document, kind, name, within)
        assert job == wanted, (kind, name)
        assert patch.apply(document, operations)[0] == wanted
