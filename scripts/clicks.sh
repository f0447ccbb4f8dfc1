# Clicks: visitors to try things with, and the roll-ups that reports are made of.

# traffic: real requests over the newest links of a running Cursus, from the stand-ins' visitors.
traffic() {
  local rate=5 during=60
  DATA=.data PORT=5080
  while [ $# -gt 0 ]; do
    case $1 in
      --rate) rate=${2:?--rate needs a number}; shift ;;
      --for) during=${2:?--for needs seconds}; during=${during%s}; shift ;;
      --port) PORT=${2:?--port needs a number}; shift ;;
      --data) DATA=${2:?--data needs a folder}; shift ;;
      *) fail "traffic doesn't know “$1”. See ./cursus help." ;;
    esac
    shift
  done
  [[ $rate =~ ^[0-9]+(\.[0-9]+)?$ && $during =~ ^[0-9]+$ ]] || fail "--rate and --for need numbers, such as --rate 20 --for 60."
  DATA=$(known_data "$DATA")
  pg_running "$DATA" || fail "Cursus doesn't run in $DATA. Start it first."
  pg_start "$DATA"
  local links
  links=$(mktemp)
  PGPASSWORD=$(cat "$DATA/pg.password") psql -qAt -F $'\t' -h 127.0.0.1 -p "$PG_PORT" -U cursus -d cursus -c "
    select 'http://' || d.name || ':$PORT/' || l.slug, coalesce(c.key, '')
    from links l join domains d on d.id = l.domain_id left join channels c on c.id = l.channel_id
    where l.deleted_at is null and d.verified_at is not null order by l.created_at desc limit 40" >"$links"
  say "Sending about $rate visitors a second for $during seconds"
  local code=0
  dotnet artifacts/standins/Cursus.Standins.dll traffic --links "$links" --agents demo/data/agents.json --port "$PORT" --rate "$rate" --for "$during" || code=$?
  rm -f "$links"
  return "$code"
}

# roll_ups check|recount: holds the roll-ups against the clicks, or makes them anew.
roll_ups() {
  local command=$1
  shift
  DATA=.data
  while [ $# -gt 0 ]; do
    case $1 in
      --data) DATA=${2:?--data needs a folder}; shift ;;
      --port) shift ;;
      *) fail "$command doesn't know “$1”. See ./cursus help." ;;
    esac
    shift
  done
  beside_server "$command"
}
