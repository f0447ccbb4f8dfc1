# Measurements of the running application, on a data folder of their own. Each prints ratios taken in one run, since machines differ.

bench() {
  local name=${1:-} json=""
  [ $# -eq 0 ] || shift
  while [ $# -gt 0 ]; do
    case $1 in
      --json) json=--json ;;
      *) fail "bench has no option “$1”. See ./cursus help." ;;
    esac
    shift
  done
  [ -n "$name" ] && [ -f "bench/$name.mjs" ] || fail "there is no measurement “$name”. There are: $(cd bench && ls ./*.mjs | sed 's|^\./||; s|\.mjs$||; /^lib$/d' | paste -sd ' ')."
  local data="$PWD/.data-bench" port
  rm -rf "$data"
  port=$(three_free_ports)
  mkdir -p artifacts/test
  unless_built browser-packages tests/browser/package-lock.json -- install_browser_tests >&2
  ./cursus start --background --data "$data" --port "$port" >artifacts/test/bench-start.log || { cat artifacts/test/bench-start.log >&2; fail "the application to measure did not start."; }
  trap './cursus stop --data "$PWD/.data-bench" >/dev/null; rm -rf "$PWD/.data-bench"' EXIT
  CURSUS_ADDRESS="http://localhost:$port" CURSUS_TOKEN=$(./cursus token --data "$data" --port "$port" --email maren@northmoor.example | tail -1) \
    node "bench/$name.mjs" $json
}
