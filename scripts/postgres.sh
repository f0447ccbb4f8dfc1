# A private PostgreSQL cluster in the data folder: loopback only, own port, own password.

# as_postgres COMMAND...: the server refuses to run as root, so root hands it to the postgres user.
as_postgres() {
  if [ "$(id -u)" -eq 0 ]; then
    setpriv --reuid postgres --regid postgres --init-groups env HOME=/tmp "$@"
  else
    "$@"
  fi
}

pg_running() { [ -d "$1/pg" ] && as_postgres "$PG_BIN/pg_ctl" -D "$1/pg" status >/dev/null 2>&1; }

# pg_prepare DIR: makes the cluster where there is none.
pg_prepare() {
  local data=$1
  [ -f "$data/pg/PG_VERSION" ] && return
  say "Making a database cluster in $(basename "$data")/"
  mkdir -p "$data/pg"
  (umask 077 && head -c 24 /dev/urandom | base64 | tr -dc 'A-Za-z0-9' > "$data/pg.password")
  local password_file
  password_file=$(mktemp)
  cp "$data/pg.password" "$password_file"
  if [ "$(id -u)" -eq 0 ]; then
    chown postgres "$data/pg" "$password_file"
    # The postgres user must be able to walk to the folder that it owns.
    if ! as_postgres test -x "$data/pg"; then
      rm -f "$password_file"
      rmdir "$data/pg"
      fail "the postgres user cannot reach $data. Open the folders above it (chmod o+x), or choose another with --data."
    fi
  fi
  if ! as_postgres "$PG_BIN/initdb" -D "$data/pg" -U cursus -E UTF8 --locale=C.UTF-8 --auth=scram-sha-256 --pwfile="$password_file" >"$data/initdb.log" 2>&1; then
    rm -f "$password_file"
    rm -rf "$data/pg"
    fail "the database cluster could not be made: $(grep -v '^$' "$data/initdb.log" | tail -n 1)"
  fi
  rm -f "$password_file"
}

# pg_start DIR: starts the cluster and sets PG_PORT.
pg_start() {
  local data=$1
  if pg_running "$data"; then
    PG_PORT=$(sed -n 4p "$data/pg/postmaster.pid")
    return
  fi
  PG_PORT=$(any_port)
  local log="$data/pg/server.log"
  if ! as_postgres "$PG_BIN/pg_ctl" -w -t 60 -D "$data/pg" -l "$log" \
    -o "-c listen_addresses=127.0.0.1 -p $PG_PORT -k '' -c jit=off -c shared_buffers=256MB -c max_connections=100" start >/dev/null 2>&1; then
    fail "the database did not start: $(as_postgres tail -n 3 "$log" 2>/dev/null | tr '\n' ' ')"
  fi
}

pg_stop() { pg_running "$1" && as_postgres "$PG_BIN/pg_ctl" -w -m fast -D "$1/pg" stop >/dev/null 2>&1 || true; }

# The role of the application, which owns its databases and may do nothing else; the cluster's own role is for making them.
PG_ROLE=cursus_app

# pg_connection DIR DATABASE: prints the application's connection string.
pg_connection() { echo "Host=127.0.0.1;Port=$PG_PORT;Database=$2;Username=$PG_ROLE;Password=$(cat "$1/pg.app.password")"; }

# pg_server DIR: prints the connection string of the role that may make databases.
pg_server() { echo "Host=127.0.0.1;Port=$PG_PORT;Database=postgres;Username=cursus;Password=$(cat "$1/pg.password")"; }

# pg_ask DIR DATABASE [OPTION...]: psql as the cluster's own role.
pg_ask() { PGPASSWORD=$(cat "$1/pg.password") psql -qAt -v ON_ERROR_STOP=1 -h 127.0.0.1 -p "$PG_PORT" -U cursus -d "$2" "${@:3}"; }

# pg_create DIR DATABASE: makes the application's role and the database where they are missing, and gives it what an earlier version made in its place.
pg_create() {
  [ -s "$1/pg.app.password" ] || (umask 077 && head -c 24 /dev/urandom | base64 | tr -dc 'A-Za-z0-9' > "$1/pg.app.password")
  pg_ask "$1" postgres -c "select 1 from pg_roles where rolname = '$PG_ROLE'" | grep -q 1 \
    || echo "create role $PG_ROLE login password '$(cat "$1/pg.app.password")'; revoke connect on database postgres from public" | pg_ask "$1" postgres
  pg_ask "$1" postgres -c "select 1 from pg_database where datname = '$2'" | grep -q 1 \
    || pg_ask "$1" postgres -c "create database \"$2\" owner $PG_ROLE"
  [ "$(pg_ask "$1" postgres -c "select pg_get_userbyid(datdba) from pg_database where datname = '$2'")" = "$PG_ROLE" ] \
    || { pg_ask "$1" "$2" -v role="$PG_ROLE" -f scripts/own.sql && pg_ask "$1" postgres -c "alter database \"$2\" owner to $PG_ROLE"; }
}
