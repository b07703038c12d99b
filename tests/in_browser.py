"""The browser's own TypeScript, run by node without a browser: its compiler strips the types, the rest runs as it is."""

import json
import shutil
import subprocess
from pathlib import Path
from typing import Any

FRONTEND = Path(__file__).parents[1] / "frontend"
LOAD = """
const ts = require('typescript'); const fs = require('fs'); const path = require('path');
const loaded = {};
function load(file) {
  if (loaded[file]) return loaded[file].exports;
  const source = fs.readFileSync(path.join('src/lib', file), 'utf8');
  const made = ts.transpileModule(source, { compilerOptions: { module: 'CommonJS', target: 'ES2022', esModuleInterop: true } }).outputText;
  const module = loaded[file] = { exports: {} };
  const beside = (name) => name.endsWith('.json') ? JSON.parse(fs.readFileSync(name.replace('$lib', 'src/lib')))
    : name.startsWith('./') || name.startsWith('$lib/')
      ? load(path.normalize(name.replace('$lib/', '').replace('./', path.dirname(file) + '/')) + '.ts') : {};
  new Function('module', 'exports', 'require', made)(module, module.exports, beside);
  return module.exports;
}
const given = JSON.parse(fs.readFileSync(0));
const units = load('parts/units.ts');
const inFeet = (feet, make) => { units.system.feet = feet; const made = make(); units.system.feet = false; return made; };
"""


def run(script: str, given: Any) -> Any:
    """What `script` prints as JSON; it has `load`, `units`, `inFeet` and what is `given`."""
    node = shutil.which("node")
    assert node, "node is needed"
    done = subprocess.run(
        [node, "-e", LOAD + script], input=json.dumps(given), cwd=FRONTEND, capture_output=True, text=True, check=False
    )
    assert done.returncode == 0, done.stderr
    return json.loads(done.stdout)
