# Measurements, on data folders of their own. Each prints ratios taken in one run, since machines differ.

bench() {
  local name=${1:-} options=()
  [ $# -eq 0 ] || shift
  while [ $# -gt 0 ]; do
    case $1 in
      --json | --small | --only=*) options+=("$1") ;;
      *) fail "bench has no option “$1”. See ./cursus help." ;;
    esac
    shift
  done
  case $name in
    abuse | find | first | handoff | many | send | soak) bench_application "$name" "${options[@]}" ;;
    verdict)
      need_toolchain
      unless_built verdict bench/verdict src/Cursus.Core -- quietly dotnet build bench/verdict/verdict.csproj -c Release -o artifacts/verdict --nologo >&2
      mkdir -p artifacts/bench
      bench_application verdict "${options[@]}"
      ;;
    machines)
      need_toolchain
      unless_built machines bench/machines src/Cursus.Core -- quietly dotnet build bench/machines/machines.csproj -c Release -o artifacts/machines --nologo >&2
      dotnet artifacts/machines/machines.dll tests/Cursus.Core.Tests/ReferenceData/requests-*.txt --write docs/machines.md
      ;;
    agents)
      need_toolchain
      unless_built agents bench/agents src/Cursus.Core src/Cursus.Edge -- quietly dotnet build bench/agents/agents.csproj -c Release -o artifacts/agents --nologo >&2
      dotnet artifacts/agents/agents.dll tests/Cursus.Core.Tests/ReferenceData/uap-cases.json
      ;;
    journal) bench_journal ;;
    edge | crash | reports) bench_server "$name" "${options[@]}" ;;
    performance) bench_performance "${options[@]}" ;;
    *) fail "there is no measurement “$name”. There are: abuse agents crash edge find first handoff journal machines many performance reports send soak verdict." ;;
  esac
}

# bench_journal: measures what a full disk costs a redirect, on a small disk in memory that only root may mount.
bench_journal() {
  need_toolchain
  unless_built journal bench/journal src/Cursus.Core src/Cursus.Data -- quietly dotnet build bench/journal/journal.csproj -c Release -o artifacts/journal --nologo >&2
  local folder
  folder=$(mktemp -d)
  mkdir "$folder/roomy" "$folder/small"
  mount -t tmpfs -o size=1m tmpfs "$folder/small" 2>/dev/null || { rm -rf "$folder"; fail "a small disk cannot be mounted here. Run this as root."; }
  trap "umount --lazy '$folder/small'; rm -rf '$folder'" EXIT
  dotnet artifacts/journal/journal.dll "$folder/roomy" "$folder/small"
}

# bench_performance [OPTION...]: measures edge, crashes and reports, and writes docs/performance.md.
bench_performance() {
  local name
  mkdir -p artifacts/bench
  for name in edge crash reports; do
    ./cursus bench "$name" --json "$@" >"artifacts/bench/$name.json" || fail "the measurement “$name” failed; see above."
  done
  node bench/performance.mjs artifacts/bench/edge.json artifacts/bench/crash.json artifacts/bench/reports.json
  say "docs/performance.md is written"
}

# bench_application NAME [OPTION...]: measures the demo in use.
bench_application() {
  local name=$1 data="$PWD/.data-bench" port
  # Who measures a newcomer's first links begins with nothing.
  local demo=()
  [ "$name" != first ] || demo=(--empty --no-standins)
  shift
  rm -rf "$data"
  port=$(five_free_ports)
  mkdir -p artifacts/test
  unless_built browser-packages tests/browser/package-lock.json -- install_browser_tests >&2
  # A measurement asks faster than any member may.
  export Cursus__Limits__RequestsAtOnce=1000000000
  ./cursus start --background "${demo[@]}" --data "$data" --port "$port" >artifacts/test/bench-start.log || { cat artifacts/test/bench-start.log >&2; fail "the application to measure did not start."; }
  trap './cursus stop --data "$PWD/.data-bench" >/dev/null; rm -rf "$PWD/.data-bench"' EXIT
  [ "$name" = first ] || CURSUS_TOKEN=$(./cursus token --data "$data" --port "$port" --email maren@northmoor.example | tail -1)
  CURSUS_ADDRESS="http://localhost:$port" CURSUS_DATA=$data CURSUS_TOKEN=${CURSUS_TOKEN:-} node "bench/$name.mjs" "$@"
}

# bench_server NAME [OPTION...]: measures the bare server with a million links; the measurement starts, pins, kills and restarts server and database itself.
bench_server() {
  local name=$1
  shift
  need_toolchain
  need_packages postgresql-15 wrk >&2
  build_all >&2
  unless_built constant302 bench/constant302 -- quietly dotnet build bench/constant302/constant302.csproj -c Release -o artifacts/constant302 --nologo >&2
  # For a quick check of the measurement itself, fewer links do.
  local links=1000000 folder=.data-bench-server
  if [[ " $* " == *" --small "* ]]; then
    links=20000 folder=.data-bench-small
  fi
  [ "$name" != reports ] || folder=${folder/bench-/bench-reports-}
  DATA=$(data_folder "$PWD/$folder")
  PORT=$(five_free_ports) EMPTY=yes STANDINS=
  pg_prepare "$DATA" >&2
  pg_start "$DATA"
  trap 'pg_stop "$DATA"' EXIT
  if [ "$name" = reports ]; then
    bench_clicks "$links"
  else
    bench_database "$links"
  fi
  serve_environment bench
  export CURSUS_BENCH_DATA="$DATA" CURSUS_BENCH_PORT="$PORT" CURSUS_BENCH_PG_PORT="$PG_PORT" PGPASSWORD
  PGPASSWORD=$(cat "$DATA/pg.password")
  node "bench/$name.mjs" "$@"
}

# bench_database LINKS: a database with so many links, kept from one measurement to the next; clicks are taken out.
bench_database() {
  local ask=(pg_ask "$DATA" bench)
  rm -rf "$DATA/journal"
  pg_create "$DATA" bench
  serve_environment bench
  dotnet artifacts/web/Cursus.Web.dll migrate --contentRoot "$PWD/artifacts/web" >&2
  [ "$("${ask[@]}" -c 'select count(*) from links')" = "$1" ] || "${ask[@]}" -v links="$1" -f bench/links.sql
  "${ask[@]}" -c 'truncate clicks, open_days, link_days, link_months, sealed_days, journals, user_agents, referrers'
}

# bench_clicks LINKS: a database with fewer links and twenty clicks to each of LINKS, kept from one measurement to the next.
bench_clicks() {
  local ask=(pg_ask "$DATA" bench)
  pg_create "$DATA" bench
  serve_environment bench
  dotnet artifacts/web/Cursus.Web.dll migrate --contentRoot "$PWD/artifacts/web" >&2
  [ "$("${ask[@]}" -c 'select count(*) from clicks')" -gt 0 ] || "${ask[@]}" -v links=$(($1 / 50)) -v clicks=$(($1 * 20)) -f bench/reports.sql >&2
}
