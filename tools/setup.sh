#!/usr/bin/env bash
# Installs what Mellow Cinder needs: Debian packages, Python packages, npm packages. Sourced by ./start and ./test.
# Every step is skipped when its inputs have not changed since it last succeeded.

say() { printf '%s\n' "$*"; }

fail() {
  printf 'Mellow Cinder: %s\n' "$1" >&2
  [ -n "${2:-}" ] && [ -f "$2" ] && tail -n 15 "$2" >&2
  exit 1
}

fingerprint() { cat "$@" 2>/dev/null | sha256sum | cut -d' ' -f1; }

fresh() { [ "$(cat ".run/$1" 2>/dev/null)" = "$2" ]; }

as_root() {
  if [ "$(id -u)" = 0 ]; then "$@"; elif command -v sudo >/dev/null; then sudo "$@"; else
    fail "this step needs root, and sudo is not installed: $*"; fi
}

interpreter() { # Debian's own Python is built to be quick (an import of the service takes four fifths); else what there is
  local one
  for one in /usr/bin/python3 python3; do
    if "$one" -c 'import sys; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; then echo "$one"; return 0; fi
  done
  return 1
}

debian_packages() { # names of packages whose programs are missing
  local missing=()
  ls /usr/lib/postgresql/*/bin/initdb >/dev/null 2>&1 || missing+=(postgresql)
  [ "${1:-}" = tests ] && ! [ -x /usr/bin/chromium-headless-shell ] && missing+=(chromium-headless-shell)
  local library
  for library in libpango-1.0-0 libpangoft2-1.0-0 libharfbuzz-subset0; do # WeasyPrint draws papers with these
    dpkg -s "$library" >/dev/null 2>&1 || missing+=("$library")
  done
  local python
  python=$(interpreter) || fail "Python 3.11 or newer is needed."
  [ -x .venv/bin/python ] || "$python" -c 'import ensurepip, venv' >/dev/null 2>&1 || missing+=(python3-venv)
  [ ${#missing[@]} -eq 0 ] && return 0
  say "Installing Debian packages: ${missing[*]} (about a minute)"
  as_root env DEBIAN_FRONTEND=noninteractive apt-get update -qq >.run/apt.log 2>&1 \
    || fail "apt-get update failed." .run/apt.log
  as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" \
    >>.run/apt.log 2>&1 || fail "apt-get could not install ${missing[*]}." .run/apt.log
}

python_packages() {
  local mark python
  mark=$(fingerprint requirements.lock pyproject.toml)
  if fresh python.done "$mark" && [ -x .venv/bin/cinder ]; then return 0; fi
  say "Installing Python packages (about a minute)"
  python=$(interpreter) || fail "Python 3.11 or newer is needed."
  [ -x .venv/bin/python ] || "$python" -m venv .venv >.run/pip.log 2>&1 || fail "$python -m venv failed." .run/pip.log
  .venv/bin/python -m pip install -q --no-compile --disable-pip-version-check --require-hashes -r requirements.lock \
    >.run/pip.log 2>&1 || fail "pip could not install the packages of requirements.lock." .run/pip.log
  .venv/bin/python -m pip install -q --disable-pip-version-check --no-deps --no-build-isolation -e . \
    >>.run/pip.log 2>&1 || fail "pip could not install Mellow Cinder itself." .run/pip.log
  .venv/bin/python -m compileall -q -j 0 src .venv/lib >/dev/null 2>&1
  echo "$mark" >.run/python.done
}

compiled_loops() {
  local mark
  mark=$(fingerprint requirements.lock pyproject.toml)
  if fresh loops.done "$mark"; then return 0; fi
  .venv/bin/python -m cinder.twin.compiled >.run/loops.log 2>&1 || fail "the compiled loops could not be made." .run/loops.log
  echo "$mark" >.run/loops.done
}

node_packages() {
  local mark
  mark=$(fingerprint frontend/package-lock.json frontend/package.json frontend/.npmrc)
  if fresh node.done "$mark" && [ -d frontend/node_modules ]; then return 0; fi
  command -v npm >/dev/null || fail "npm is not installed: Node 20 is needed."
  say "Installing npm packages (about half a minute)"
  (cd frontend && npm ci) >.run/npm.log 2>&1 || fail "npm ci failed." .run/npm.log
  echo "$mark" >.run/node.done
}

build_pages() {
  local mark
  mark=$(find frontend/src frontend/static src/cinder frontend/*.ts frontend/*.js frontend/package-lock.json -type f \
    ! -name '*.pyc' ! -name 'schema.d.ts' ! -name 'rules.json' -print0 | sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1)
  if fresh pages.done "$mark" && [ -f frontend/build/index.html ]; then return 0; fi
  say "Building the pages"
  .venv/bin/python -m cinder.web.openapi >.run/openapi.json || fail "the API description could not be written."
  .venv/bin/python -m cinder.web.rules >frontend/src/lib/api/rules.json || fail "the rules for the browser could not be written."
  (cd frontend && npm run -s types && npm run -s build) >.run/build.log 2>&1 || fail "the pages did not build." .run/build.log
  echo "$mark" >.run/pages.done
}

at_once() { # two steps that do not need each other
  "$1" & local beside=$!
  ("$2") || { wait "$beside"; exit 1; }
  wait "$beside" || exit 1
}

set_up() { # what is missing; "tests" brings the browser for them too
  mkdir -p .run
  debian_packages "$@"
  at_once node_packages python_packages
  at_once compiled_loops build_pages
}
