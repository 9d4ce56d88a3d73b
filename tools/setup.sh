# Sets up the project on a machine with nothing but bash and apt. Sourced by ./start and ./test, from the project's root.
# Does nothing where all is there: each step leaves a stamp that names what it was made from.

say() { printf '\n== %s\n' "$*"; }

as_root() {
  if [ "$(id -u)" = 0 ]; then "$@"
  elif command -v sudo >/dev/null; then sudo "$@"
  else
    echo "This needs root to install Debian packages: run it as root, install sudo, or install yourself: $*" >&2
    return 1
  fi
}

# need_packages PACKAGE...: installs those that are missing
need_packages() {
  local missing=()
  for package in "$@"; do
    dpkg-query -W -f='${Status}' "$package" 2>/dev/null | grep -q 'ok installed' || missing+=("$package")
  done
  [ ${#missing[@]} = 0 ] && return
  if ! command -v apt-get >/dev/null; then
    echo "These Debian packages are needed and there is no apt here to install them: ${missing[*]}" >&2
    return 1
  fi
  say "Installing Debian packages: ${missing[*]}"
  as_root apt-get update -qq
  as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
}

# has_good PYTHON: 3.11 or newer, able to make environments
has_good() { "$1" -c 'import sys, venv, ensurepip; sys.exit(sys.version_info < (3, 11))' 2>/dev/null; }

# stamped NAME VALUE: whether the step NAME was last done for VALUE
stamped() { [ -f ".stamps/$1" ] && [ "$(cat ".stamps/$1")" = "$2" ]; }
stamp() { mkdir -p .stamps && printf '%s' "$2" >".stamps/$1"; }

hash_of() { cat "$@" | sha256sum | cut -d' ' -f1; }

python_environment() { # python_environment LOCKFILE
  local lock=$1 mark
  mark="$(hash_of "$lock" pyproject.toml) $lock $PWD"
  # the tests' environment holds everything that serving needs
  if [ -x .venv/bin/mainspring ] && { stamped python "$mark" || { [ "$lock" = requirements.lock ] &&
    stamped python "$(hash_of requirements-dev.lock pyproject.toml) requirements-dev.lock $PWD"; }; }; then return; fi
  local python
  for python in python3 /usr/bin/python3; do has_good "$python" && break; done
  say "Python environment from $lock"
  if [ ! -x .venv/bin/python ] || ! .venv/bin/python -c '' 2>/dev/null; then
    rm -rf .venv
    "$python" -m venv .venv
  fi
  .venv/bin/python -m pip install -q --disable-pip-version-check --require-hashes -r "$lock"
  .venv/bin/python -m pip install -q --disable-pip-version-check --no-deps --no-build-isolation -e .
  stamp python "$mark"
}

# node_on_path: Node 20.19 or newer, from the machine or else from a wheel in our own environment
node_on_path() {
  if command -v node >/dev/null && command -v npm >/dev/null &&
    node -e 'const [a,b]=process.versions.node.split(".").map(Number);process.exit(a>20||(a===20&&b>=19)?0:1)'; then return; fi
  if [ ! -x .node/bin/node ]; then
    say "Node from a wheel"
    rm -rf .node
    "$(has_good python3 && echo python3 || echo /usr/bin/python3)" -m venv .node
    .node/bin/python -m pip install -q --disable-pip-version-check --require-hashes -r tools/node.lock
  fi
  PATH="$PWD/.node/bin:$PATH"
  export PATH
}

# the API's schema, and the types made from it, are made anew at every build
web_sources() { find web/src web/static -type f ! -name 'schema.json' ! -name 'schema.d.ts' | LC_ALL=C sort; }

web_build() {
  local mark
  mark="$(hash_of web/package-lock.json web/vite.config.ts web/tsconfig.json web/package.json $(web_sources) \
    $(find mainspring -name '*.py' | LC_ALL=C sort))"
  local modules
  modules="$(hash_of web/package-lock.json web/.npmrc)"
  if [ -f mainspring/web/index.html ] && [ -f web/src/lib/api/schema.d.ts ] && stamped web "$mark" &&
    { [ "$1" != dev ] || stamped modules "$modules"; }; then
    [ "$1" != dev ] || node_on_path
    return
  fi
  node_on_path
  if ! stamped modules "$modules" || [ ! -d web/node_modules ]; then
    say "Web packages"
    npm --prefix web ci --silent --no-progress
    stamp modules "$modules"
  fi
  say "Web build"
  .venv/bin/python -m mainspring.api.openapi web/src/lib/api/schema.json
  npm --prefix web run --silent types >/dev/null
  npm --prefix web run --silent build >.stamps/web.log 2>&1 || { tail -40 .stamps/web.log >&2; return 1; }
  stamp web "$mark"
}

# Python reads its own compiled form: without it a second start, and every command, first compiles the house again
bytecode() {
  local mark
  mark="$(hash_of $(find mainspring -name '*.py' | LC_ALL=C sort))"
  stamped bytecode "$mark" && return
  .venv/bin/python -m compileall -q mainspring
  stamp bytecode "$mark"
}

# set_up [dev]: everything that serving needs; with dev also what the tests need
set_up() {
  mkdir -p .stamps
  local kind=${1:-run} packages=(ca-certificates util-linux)
  has_good python3 || has_good /usr/bin/python3 || packages+=(python3 python3-venv)
  if [ -z "${MAINSPRING_DATABASE_URL:-}" ] || [ "$kind" = dev ]; then packages+=(mariadb-server-core mariadb-client); fi
  packages+=(libpango-1.0-0 libpangoft2-1.0-0 libharfbuzz-subset0 fonts-dejavu-core)
  [ "$kind" = dev ] && packages+=(chromium-headless-shell libatomic1) # libatomic1: the browser driver asks for it
  need_packages "${packages[@]}"
  if [ "$kind" = dev ]; then python_environment requirements-dev.lock; else python_environment requirements.lock; fi
  bytecode
  web_build "$kind"
}
