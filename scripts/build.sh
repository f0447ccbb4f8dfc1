# Building: only what has changed since the last time.

# fingerprint PATH...: changes when a file below changes. A file that was deleted is listed until that is committed, and has no state.
fingerprint() {
  { git ls-files -z --cached --others --exclude-standard -- "$@" 2>/dev/null | xargs -0 -r stat -c '%n %Y %s' 2>/dev/null || true; } | sha256sum | cut -d' ' -f1
}

# unless_built NAME PATH... -- COMMAND...: runs the command unless nothing changed since it last succeeded.
unless_built() {
  local name=$1 paths=() mark now
  shift
  while [ "$1" != "--" ]; do
    paths+=("$1")
    shift
  done
  shift
  mark="artifacts/marks/$name"
  now=$(fingerprint "${paths[@]}")
  [ "$(cat "$mark" 2>/dev/null || true)" = "$now" ] && return
  "$@"
  mkdir -p artifacts/marks
  fingerprint "${paths[@]}" > "$mark"
}

quietly() {
  local log
  log=$(mktemp)
  if ! "$@" >"$log" 2>&1; then
    grep -E 'error|ERR!|warning' "$log" | sort -u | head -n 20 >&2 || true
    tail -n 10 "$log" >&2
    rm -f "$log"
    fail "this step failed: $*"
  fi
  rm -f "$log"
}

# The server without analyzers: they have their say where the same code is built for its tests.
build_server() {
  say "Building the server"
  quietly dotnet build src/Cursus.Web/Cursus.Web.csproj -c Release -o artifacts/web --nologo -p:RunAnalyzers=false
  quietly dotnet build src/Cursus.Standins/Cursus.Standins.csproj -c Release -o artifacts/standins --nologo
}

install_front() {
  say "Fetching the web application's packages"
  quietly npm --prefix web ci --no-progress
}

build_front() {
  say "Building the web application"
  quietly npm --prefix web run generate
  quietly npm --prefix web run build
}

build_all() {
  unless_built server src Directory.Build.props Directory.Packages.props global.json -- build_server
  [ -d web/node_modules ] || rm -f artifacts/marks/front-packages
  unless_built front-packages web/package-lock.json -- install_front
  [ -f web/dist/index.html ] || rm -f artifacts/marks/front
  unless_built front web src/Cursus.Web docs/how-cursus-counts.md -- build_front
}
