# Tools that Cursus stands on: checked, and installed from Debian where that is allowed.

PG_BIN=/usr/lib/postgresql/15/bin

# need_packages PACKAGE...: installs the missing ones as root; else prints the one line that does.
need_packages() {
  local missing=() package
  for package in "$@"; do
    dpkg-query -W -f='${Status}' "$package" 2>/dev/null | grep -q 'ok installed' || missing+=("$package")
  done
  [ ${#missing[@]} -eq 0 ] && return
  if [ "$(id -u)" -ne 0 ]; then
    fail "missing Debian packages. Run: sudo apt-get install --no-install-recommends ${missing[*]}"
  fi
  say "Installing ${missing[*]}"
  # Cursus runs a cluster of its own; the package must not start one for the whole system.
  if ! grep -qs '^create_main_cluster' /etc/postgresql-common/createcluster.conf; then
    mkdir -p /etc/postgresql-common
    echo 'create_main_cluster = false' >> /etc/postgresql-common/createcluster.conf
  fi
  local log
  log=$(mktemp)
  if ! { apt-get update && DEBIAN_FRONTEND=noninteractive apt-get install -y --no-install-recommends "${missing[@]}"; } >"$log" 2>&1; then
    tail -n 5 "$log" >&2
    fail "could not install ${missing[*]}; the lines above are apt's. Install them by hand and start again."
  fi
  rm -f "$log"
}

need_toolchain() {
  command -v dotnet >/dev/null || fail "the .NET 10 SDK is missing (command dotnet). Install it and start again."
  dotnet --list-sdks | grep -q '^10\.' || fail "the .NET SDK found is not version 10. Install .NET SDK 10 and start again."
  command -v node >/dev/null || fail "Node.js 20 or newer is missing (command node). Install it and start again."
  [ "$(node -p 'Number(process.versions.node.split(".")[0])')" -ge 20 ] || fail "Node.js $(node -v) is too old. Install version 20 or newer and start again."
  command -v npm >/dev/null || fail "npm is missing. Install it beside Node.js and start again."
  command -v curl >/dev/null || need_packages curl
}

# free_port PORT: fails where somebody listens there already.
free_port() {
  if (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; then
    fail "port $1 is taken by another program. End it, or choose another with --port."
  fi
}

# any_port: prints a port that is free now.
any_port() {
  node -e 'const s=require("net").createServer();s.listen(0,"127.0.0.1",()=>{console.log(s.address().port);s.close()})'
}
