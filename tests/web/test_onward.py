"""What a page puts together from what it holds and what changed is what the server has: the browser's own code, in Node."""

import itertools
import json
import random
import shutil
import subprocess
from pathlib import Path

from cinder.service.shown import difference
from tests.web.conftest import change

FRONTEND = Path(__file__).parents[2] / "frontend"

# TypeScript's own compiler strips the types; the rest runs as it is in the browser.
RUNNER = """
const ts = require('typescript'); const fs = require('fs');
(async () => {
  const given = { canonicalize: { __esModule: true, default: (await import('canonicalize')).default } };
  const made = ts.transpileModule(fs.readFileSync('src/lib/job/onward.ts', 'utf8'),
    { compilerOptions: { module: 'CommonJS', target: 'ES2022', esModuleInterop: true } }).outputText;
  const { onward, merged, fingerprint } = (() => {
    const module = { exports: {} };
    new Function('module', 'exports', 'require', made)(module, module.exports, (name) => given[name] ?? require(name));
    return module.exports;
  })();
  const { first, news, pairs } = JSON.parse(fs.readFileSync(0, 'utf8'));
  let held = first; const walked = [];
  for (const one of news) {
    const before = JSON.stringify(held);
    const next = onward(held, one);
    walked.push({ answer: next, sha256: await fingerprint(next), untouched: JSON.stringify(held) === before });
    held = next;
  }
  const stale = onward({ ...first, version: first.version + 1 }, news[0]);
  console.log(JSON.stringify({ walked, stale, pairs: pairs.map(([old, found]) => merged(old, found)) }));
})().catch((error) => { console.error(error); process.exit(1); });
"""

EDITS = [
    [{"op": "replace", "path": "/survey/rooms/kitchen/height_m", "value": 2.61}],
    [{"op": "replace", "path": "/survey/rooms/kitchen/label", "value": "Kitchen – Küche ☕"}],
    [{"op": "add", "path": "/survey/rooms/nook", "value": {"label": "Nook", "height_m": 2.2, "storey": "ground"}}],
    [{"op": "remove", "path": "/survey/rooms/nook"}],
    [{"op": "replace", "path": "/practice/windward_factor", "value": 1.0}],  # what every room loses
]


def in_browser(**given):
    node = shutil.which("node")
    assert node, "node is needed"
    done = subprocess.run(
        [node, "-e", RUNNER], input=json.dumps(given), cwd=FRONTEND, capture_output=True, text=True, check=False
    )
    assert done.returncode == 0, done.stderr
    return json.loads(done.stdout)


def anything(chance, depth=0):
    """Plain values of every kind, nested."""
    kind = chance.randrange(7 if depth < 3 else 5)
    if kind == 5:
        return [anything(chance, depth + 1) for _ in range(chance.randrange(4))]
    if kind == 6:
        return {name: anything(chance, depth + 1) for name in chance.sample("abcdé", chance.randrange(5))}
    return [None, chance.randrange(3), chance.random(), chance.choice(["", "a", "ü"]), "true"][kind]


def near(chance, value):
    """The same value with some of what lies in it another."""
    if chance.random() < 0.25:
        return anything(chance, 2)
    if isinstance(value, dict):
        return {name: near(chance, inside) for name, inside in value.items()}
    if isinstance(value, list):
        return [near(chance, inside) for inside in value]
    return value


def test_a_walk_of_edits(client, job):
    first, news = client.get(f"/api/jobs/{job}").json(), []
    whole, sha256 = [], []
    for version, operations in enumerate(EDITS, 1):
        assert change(client, job, operations, base=version).status_code == 200
        news.append(client.get(f"/api/jobs/{job}", params={"holds": version}).json())
        whole.append(client.get(f"/api/jobs/{job}").json())
        sha256.append(client.get(f"/api/jobs/{job}/fingerprint").json()["sha256"])
    assert all("design" not in one and one["difference"] for one in news), "the page was sent the whole"

    found = in_browser(first=first, news=news, pairs=[])
    for n, one in enumerate(found["walked"]):
        assert one["answer"]["job"] == whole[n]["job"]
        assert one["answer"]["design"] == whole[n]["design"]
        assert one["sha256"] == sha256[n], "the same answer, written otherwise by the browser than by the server"
        assert one["untouched"]
    assert found["stale"] is None, "news since a version the page does not hold were taken"
    assert sha256[3] == sha256[1], "a room put in and taken out again leaves something behind"
    assert len(set(sha256)) == len(EDITS) - 1


def test_any_two_values(client, job):
    chance = random.Random(11)
    values = [anything(chance) for _ in range(400)]
    pairs = [(old, near(chance, old)) for old in values] + list(itertools.pairwise(values))
    assert sum(old != new for old, new in pairs) > 300
    first = client.get(f"/api/jobs/{job}").json()
    found = in_browser(first=first, news=[first], pairs=[(old, difference(old, new)) for old, new in pairs])
    for (_, new), put_together in zip(pairs, found["pairs"], strict=True):
        assert put_together == new
