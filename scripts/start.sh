# Starting and stopping.

start() {
  PORT=5080 DATA=.data EMPTY= STANDINS=yes BACKGROUND=
  while [ $# -gt 0 ]; do
    case $1 in
      --port) PORT=${2:?--port needs a number}; shift ;;
      --data) DATA=${2:?--data needs a folder}; shift ;;
      --empty) EMPTY=yes ;;
      --no-standins) STANDINS= ;;
      --background) BACKGROUND=yes ;;
      *) fail "start doesn't know “$1”. See ./cursus help." ;;
    esac
    shift
  done
  [[ $PORT =~ ^[0-9]+$ ]] && [ "$PORT" -gt 0 ] && [ "$PORT" -lt 65534 ] || fail "--port needs a number from 1 to 65533, not “$PORT”."

  need_toolchain
  need_packages postgresql-15
  DATA=$(data_folder "$DATA")
  # One installation runs once; the lock goes with the process that holds it.
  exec 8>"$DATA/running.lock"
  flock -n 8 || fail "Cursus runs in $DATA already. End it with ./cursus stop, or choose another folder with --data."
  free_port "$PORT"
  [ -z "$STANDINS" ] || { free_port $((PORT + 1)); free_port $((PORT + 2)); free_port $((PORT + 3)); free_port $((PORT + 4)); }

  if [ -n "$BACKGROUND" ]; then
    start_in_background
  else
    run_until_ended
  fi
}

start_in_background() {
  build_all
  # Emptied here, since what an earlier run wrote there would be taken for this one's readiness.
  : >"$DATA/cursus.log"
  # The child takes the lock over, so that there is no gap for another start.
  run_until_ended </dev/null >"$DATA/cursus.log" 2>&1 &
  local child=$!
  disown "$child"
  echo "$child" > "$DATA/cursus.pid"
  exec 8>&-
  while kill -0 "$child" 2>/dev/null; do
    if grep -q '^Cursus is ready' "$DATA/cursus.log"; then
      cat "$DATA/cursus.log"
      return
    fi
    sleep 0.2
  done
  tail -n 5 "$DATA/cursus.log" >&2
  fail "Cursus did not start; the lines above are the end of its log, $DATA/cursus.log."
}

run_until_ended() {
  CHILDREN=()
  trap end_everything EXIT
  trap 'exit 130' INT
  trap 'exit 143' TERM
  build_all
  pg_prepare "$DATA"
  say "Starting the database"
  pg_start "$DATA"
  pg_create "$DATA" cursus
  serve_environment cursus
  say "Bringing the database up to date and starting the application"
  serve
  announce
  wait -n "${CHILDREN[@]}" || true
  fail "a part of Cursus ended by itself; see its messages above."
}

# serve_environment DATABASE: what the server has to know, for the functions below.
serve_environment() {
  export ConnectionStrings__Cursus
  ConnectionStrings__Cursus=$(pg_connection "$DATA" "$1")
  export Cursus__JournalFolder="$DATA/journal" Cursus__SnapshotFile="$DATA/links.snapshot" Cursus__KeyFile="$DATA/protection.pfx"
  export Cursus__WebFolder="$PWD/web/dist"
  export Cursus__AppAddress="http://localhost:$PORT"
  export Cursus__PublicScheme=http Cursus__PublicPort="$PORT"
  export Cursus__TrustedProxies__0=127.0.0.1 Cursus__TrustedProxies__1=::1
  export Cursus__AllowedPrivateHosts__0=.localhost
  export Cursus__EdgeHost=edge.cursus.example Cursus__EdgeAddresses__0=203.0.113.10 Cursus__EdgeAddresses__1=203.0.113.11
  if [ -n "$STANDINS" ]; then
    export Cursus__NameServer=127.0.0.1:$((PORT + 2))
    export Cursus__Mail__Host=127.0.0.1 Cursus__Mail__Port=$((PORT + 3)) Cursus__Mail__From=cursus@northmoor.example Cursus__Mail__Security=None
    export Cursus__LinkCheck__CertificatePort=$((PORT + 4)) Cursus__LinkCheck__Pause=100 Cursus__LinkCheck__Every=5
  fi
  # What is measured should be alone on the machine.
  [ "$1" != bench ] || export Cursus__LinkCheck__IsOn=false
  export Cursus__DemoFolder="$PWD/demo" Cursus__StandinsPort=$((PORT + 1))
  if [ -n "$EMPTY" ]; then
    Cursus__DemoFolder=
    # The first owner's; the same at each start until there is one.
    [ -s "$DATA/setup.code" ] || (umask 077; node -e 'console.log(require("crypto").randomBytes(6).toString("hex").match(/..../g).join("-"))' >"$DATA/setup.code")
    export Cursus__SetupCode
    Cursus__SetupCode=$(cat "$DATA/setup.code")
  fi
  export DOTNET_ENVIRONMENT=Production ASPNETCORE_ENVIRONMENT=Production
}

# beside_server COMMAND [OPTION...]: what the program does besides serving, on the data of a Cursus that runs in DATA.
beside_server() {
  DATA=$(known_data "$DATA")
  pg_running "$DATA" || fail "Cursus doesn't run in $DATA. Start it first."
  PORT=0 EMPTY= STANDINS=
  pg_start "$DATA"
  serve_environment cursus
  dotnet artifacts/web/Cursus.Web.dll "$@" --contentRoot "$PWD/artifacts/web"
}

# serve: starts the server and the stand-ins, and returns when they answer.
serve() {
  dotnet artifacts/web/Cursus.Web.dll --urls "http://localhost:$PORT" --contentRoot "$PWD/artifacts/web" &
  CHILDREN+=($!)
  if [ -n "$STANDINS" ]; then
    dotnet artifacts/standins/Cursus.Standins.dll --urls "http://localhost:$((PORT + 1));https://localhost:$((PORT + 4))" --DnsPort "$((PORT + 2))" --MailPort "$((PORT + 3))" --contentRoot "$PWD/artifacts/standins" &
    CHILDREN+=($!)
  fi
  local tries child
  for ((tries = 0; tries < 900; tries++)); do
    for child in "${CHILDREN[@]}"; do
      kill -0 "$child" 2>/dev/null || fail "a part of Cursus ended while starting; see its messages above."
    done
    if curl -fs -o /dev/null "http://localhost:$PORT/readyz" && { [ -z "$STANDINS" ] || curl -fs -o /dev/null "http://localhost:$((PORT + 1))/"; }; then
      return
    fi
    sleep 0.1
  done
  fail "Cursus did not become ready within a minute and a half."
}

announce() {
  [ -z "$STANDINS" ] || say "The demo's outside world: http://localhost:$((PORT + 1))"
  local sign_in
  sign_in=$(curl -fs "http://localhost:$PORT/api/v1/installation" | node -e '
    const { needsOwner, demoSignIns: [owner] } = JSON.parse(require("fs").readFileSync(0, "utf8"))
    console.log(needsOwner ? `/sign-in#setup=${process.env.Cursus__SetupCode ?? ""} (open it to create the first owner; the set-up code is in it)` : owner ? ` (demo sign-in: ${owner.email} / ${owner.password})` : "")')
  echo "Cursus is ready at http://localhost:$PORT$sign_in"
}

end_everything() {
  local code=$? child
  trap - EXIT INT TERM
  for child in "${CHILDREN[@]}"; do
    kill "$child" 2>/dev/null || true
  done
  for child in "${CHILDREN[@]}"; do
    wait "$child" 2>/dev/null || true
  done
  pg_stop "$DATA"
  rm -f "$DATA/cursus.pid"
  exit "$code"
}

stop() {
  local data=.data pid
  while [ $# -gt 0 ]; do
    case $1 in
      --data) data=${2:?--data needs a folder}; shift ;;
      *) fail "stop doesn't know “$1”. See ./cursus help." ;;
    esac
    shift
  done
  data=$(known_data "$data")
  pid=$(cat "$data/cursus.pid" 2>/dev/null) || fail "nothing runs in the background in $data."
  if ! kill -TERM "$pid" 2>/dev/null; then
    rm -f "$data/cursus.pid"
    fail "what ran in $data has ended already."
  fi
  while kill -0 "$pid" 2>/dev/null; do
    sleep 0.1
  done
  echo "Cursus has stopped."
}
