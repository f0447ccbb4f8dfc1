# Testing: every layer on a data folder and ports of its own, beside a running demo.

PASSED=0 FAILED=0
# What failed, in words.
FAILURES=artifacts/test/failures.txt

# run_tests [LAYER]: runs all layers, or one; closes with the sum over all of them.
run_tests() {
  local layers=(core web front browser crash checks) layer
  if [ $# -gt 0 ]; then
    layers=("$1")
  fi
  need_toolchain
  # The last two read QR codes and draw pages, as somebody else would.
  need_packages postgresql-15 chromium zxing-cpp-tools poppler-utils
  rm -rf artifacts/test
  mkdir -p artifacts/test
  : >"$FAILURES"
  for layer in "${layers[@]}"; do
    case $layer in
      core | web | front | browser | crash | checks)
        echo "== $layer"
        "test_$layer"
        ;;
      *) fail "there is no layer “$layer”; there are core, web, front, browser, crash, checks." ;;
    esac
  done
  # Said once more at the end, where somebody who reads only the end of a long log finds it.
  cat "$FAILURES"
  echo "$PASSED passed, $FAILED failed"
  [ "$FAILED" -eq 0 ]
}

# counted NAME COMMAND...: a check that passes or fails as a whole.
counted() {
  local name=$1
  shift
  if "$@"; then
    say "passed: $name"
    PASSED=$((PASSED + 1))
  else
    say "FAILED: $name" | tee -a "$FAILURES"
    FAILED=$((FAILED + 1))
  fi
}

# dotnet_tests PROJECT: runs one project and adds its counts up. What it builds is what the server is made from later, so that nothing is compiled twice.
dotnet_tests() {
  local log="artifacts/test/$1.log" passed failed
  dotnet test -c Release --project "tests/$1" >"$log" 2>&1 || true
  passed=$(sed -n 's/^ *succeeded: *//p' "$log" | tail -n 1)
  failed=$(sed -n 's/^ *failed: *//p' "$log" | tail -n 1)
  if [ -z "$passed" ] || [ "$failed" != 0 ]; then
    grep -vE '^ +at ' "$log" | tail -n 60
    grep -A 8 '^failed ' "$log" | tail -n 60 >>"$FAILURES" || tail -n 20 "$log" >>"$FAILURES"
  fi
  PASSED=$((PASSED + ${passed:-0}))
  FAILED=$((FAILED + ${failed:-1}))
  say "$1: ${passed:-0} passed, ${failed:-1} failed"
}

# add_results RUNNER FILE: adds up what a runner of JavaScript tests wrote.
add_results() {
  local summary
  summary=$(node scripts/test-results.mjs "$1" "$2" "$FAILURES")
  PASSED=$((PASSED + ${summary% *}))
  FAILED=$((FAILED + ${summary#* }))
}

test_core() { dotnet_tests Cursus.Core.Tests; }

test_web() {
  need_browser_packages
  DATA=$(data_folder "$PWD/.data-test")
  pg_prepare "$DATA"
  pg_start "$DATA"
  trap 'pg_stop "$DATA"' EXIT
  CURSUS_TEST_DATABASE=$(pg_server "$DATA")
  export CURSUS_TEST_DATABASE
  dotnet_tests Cursus.Web.Tests
  pg_stop "$DATA"
  trap - EXIT
}

test_front() {
  build_all
  npm --prefix web run --silent test -- --reporter=default --reporter=json --outputFile=../artifacts/test/front.json || true
  add_results vitest artifacts/test/front.json
  counted "types of the web application" npm --prefix web run --silent typecheck
  counted "lint of the web application" npm --prefix web run --silent lint
  counted "no file of the web application needs itself" npm --prefix web run --silent cycles
  counted "formatting of the web application" npm --prefix web run --silent format:check
  counted "weight of the first view" node scripts/first-view-weight.mjs
}

# The web tests read codes by a reader from there, too.
need_browser_packages() {
  [ -d tests/browser/node_modules ] || rm -f artifacts/marks/browser-packages
  unless_built browser-packages tests/browser/package-lock.json -- install_browser_tests
}

# Two browsers at a time, each with an installation of its own, so that none sees what the other makes. A third is empty.
test_browser() {
  local one="$PWD/.data-test-browser" two="$PWD/.data-test-browser-2" empty="$PWD/.data-test-empty" ports
  rm -rf "$one" "$two" "$empty"
  read -ra ports < <(five_free_ports 3)
  need_browser_packages
  build_all
  counted "types of the browser tests" npm --prefix tests/browser run --silent typecheck
  trap 'for data in "$PWD"/.data-test-browser "$PWD"/.data-test-browser-2 "$PWD"/.data-test-empty; do ./cursus stop --data "$data" >/dev/null; done' EXIT
  start_for_tests "$two" --port "${ports[1]}" &
  start_for_tests "$one" --port "${ports[0]}" && wait $! && start_for_tests "$empty" --port "${ports[2]}" --empty --no-standins ||
    fail "the application for the browser tests did not start."
  counted "a token made on the command line is taken" token_is_taken "$one" "${ports[0]}"
  counted "a workspace leaves one installation and arrives in another on the command line" archive_arrives "$one" "${ports[0]}"
  (
    cd tests/browser
    CURSUS_PORTS="${ports[0]} ${ports[1]}" CURSUS_DATAS="$one:$two" CURSUS_EMPTY_ADDRESS="http://localhost:${ports[2]}" CURSUS_EMPTY_DATA="$empty" \
      npx playwright test
  ) || true
  add_results playwright tests/browser/results/results.json
  for data in "$one" "$two" "$empty"; do ./cursus stop --data "$data" >/dev/null; done
  trap - EXIT
  rm -rf "$one" "$two" "$empty"
}

# start_for_tests DATA OPTION...: starts the application in the background; says why where it doesn't.
start_for_tests() {
  local data=$1 log
  shift
  log="artifacts/test/start-$(basename "$data").log"
  ./cursus start --background --data "$data" "$@" >"$log" || {
    cat "$log"
    return 1
  }
}

test_crash() {
  counted "no answered click is lost or counted twice, whatever is killed" ./cursus bench crash --small
  rm -rf "$PWD/.data-bench-small"
}

token_is_taken() {
  local token
  token=$(./cursus token --data "$1" --email maren@northmoor.example) &&
    curl -fs -o /dev/null -H "Authorization: Bearer $token" "http://localhost:$2/api/v1/workspace"
}

# archive_arrives DATA PORT: the demo is exported and imported into an installation of its own, which gives the same answer and whose sums agree.
archive_arrives() {
  local other="$PWD/.data-test-archive" port file answer report=reports/breakdown?by=channel\&period=this-year code=1
  port=$(five_free_ports)
  file="$PWD/artifacts/test/archive.zip"
  rm -rf "$other"
  ./cursus export "$file" --data "$1" &&
    ./cursus start --background --data "$other" --port "$port" --empty --no-standins >artifacts/test/start-archive.log &&
    curl -fs -o /dev/null -H 'Content-Type: application/json' "http://localhost:$port/api/v1/installation" \
      -d '{"name":"Maren Holloway","email":"maren@northmoor.example","password":"northern-lights","workspace":"Northmoor, moved","timeZone":"Europe/London","setupCode":"'"$(cat "$other/setup.code")"'"}' &&
    ./cursus import "$file" --data "$other" && ./cursus check --data "$other" &&
    answer=$(report_of "$1" "$2" "$report") && [ -n "$answer" ] && [ "$answer" = "$(report_of "$other" "$port" "$report")" ] && code=0
  ./cursus stop --data "$other" >/dev/null
  rm -rf "$other" "$file"
  return "$code"
}

# report_of DATA PORT REPORT: what an installation answers, but for the last digits of intervals, which depend on the order in which they were added up.
report_of() {
  curl -fs -H "Authorization: Bearer $(./cursus token --data "$1" --email maren@northmoor.example | tail -1)" "http://localhost:$2/api/v1/$3" |
    node -e 'const text = require("fs").readFileSync(0, "utf8"); console.log(JSON.stringify(JSON.parse(text), (_, v) => (typeof v === "number" ? Number(v.toPrecision(10)) : v)))'
}

install_browser_tests() {
  say "Fetching the browser tests' packages"
  PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD=1 quietly npm --prefix tests/browser ci --no-progress
}

# five_free_ports [COUNT]: prints a port that is free together with the four after it, or so many such ports, each with four of its own.
five_free_ports() {
  node -e '
    const net = require("net")
    const listen = (port) => new Promise((yes, no) => { const s = net.createServer().once("error", no); s.listen(port, "127.0.0.1", () => yes(s)) })
    ;(async () => {
      const held = [], found = []
      while (found.length < Number(process.argv[1])) {
        const taken = [await listen(0)], port = taken[0].address().port
        for (let next = 1; next < 5 && taken.length === next && port + next < 65536; next++) {
          const more = await listen(port + next).catch(() => null)
          if (more) taken.push(more)
        }
        held.push(...taken)
        if (taken.length === 5) found.push(port)
      }
      for (const each of held) each.close()
      console.log(found.join(" "))
    })()' "${1:-1}"
}

test_checks() {
  counted "formatting of the C# code" code_is_formatted
  counted "length of lines of C#" node scripts/line-length.mjs
  counted "the model has no change without a migration" migrations_are_complete
  counted "scripts are valid" bash -n cursus scripts/*.sh .ci/run
}

code_is_formatted() {
  dotnet tool restore >/dev/null && dotnet csharpier check .
}

migrations_are_complete() {
  dotnet tool restore >/dev/null && dotnet ef migrations has-pending-model-changes --project src/Cursus.Data >artifacts/test/migrations.log 2>&1 || {
    tail -n 3 artifacts/test/migrations.log
    return 1
  }
}
