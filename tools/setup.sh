# Shared by ./start and ./test: what the machine must have, and a private database cluster. Sourced, not run.
here=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)

say() { printf '%s\n' "$*" >&2; }
fail() { say "$*"; exit 1; }

as_root() {
  if [ "$(id -u)" = 0 ]; then "$@"
  elif command -v sudo >/dev/null; then sudo "$@"
  else fail "Installing needs root: run this once as root, or install these yourself: ${missing[*]}"; fi
}

# Installs the Debian packages whose commands are not there.
need() { # need COMMAND-OR-PATH PACKAGE ...
  missing=()
  while [ $# -gt 1 ]; do
    command -v "$1" >/dev/null 2>&1 || [ -e "$1" ] || missing+=("$2")
    shift 2
  done
  [ ${#missing[@]} = 0 ] && return
  say "Installing ${missing[*]} …"
  as_root apt-get update -qq >&2
  as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq "${missing[@]}" >&2
}

need_dotnet() {
  command -v dotnet >/dev/null || fail "The .NET SDK 10 is not here: install it (package dotnet-sdk-10.0), then run this again."
}

find_postgres() {
  pg=$(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -1)
  if [ -z "$pg" ]; then
    missing=(postgresql)
    say "Installing postgresql …"
    as_root apt-get update -qq >&2
    as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq postgresql >&2
    pg=$(ls -d /usr/lib/postgresql/*/bin | sort -V | tail -1)
  fi
}

# PostgreSQL refuses root: there its commands run as the user that Debian's package made.
as_postgres() {
  if [ "$(id -u)" = 0 ]; then (cd / && runuser -u postgres -- "$@"); else "$@"; fi
}

free_port() {
  python3 - 2>/dev/null <<'P' || echo $((20000 + RANDOM % 20000))
import socket
s = socket.socket(); s.bind(("127.0.0.1", 0)); print(s.getsockname()[1])
P
}

# Makes the cluster if it is not there, starts it if it does not run. Sets INNER_CADENCE_DB.
start_cluster() { # start_cluster DIRECTORY
  local data=$1/cluster log=$1/postgres.log port pass=$1/database-password
  mkdir -p "$1"
  if [ "$(id -u)" = 0 ]; then
    as_postgres test -x "$1" || fail "The user postgres cannot enter $1: choose another folder with --data DIR, such as /var/tmp/inner-cadence."
    chown postgres "$1"
  fi
  if [ ! -f "$data/PG_VERSION" ]; then
    say "Making a database cluster in $data …"
    (umask 077; head -c 24 /dev/urandom | base64 | tr -d '+/=\n' > "$pass")
    [ "$(id -u)" = 0 ] && chown postgres "$pass"
    as_postgres "$pg/initdb" -D "$data" -U cadence --auth=scram-sha-256 --pwfile="$pass" --locale=C.UTF-8 --encoding=UTF8 >/dev/null || fail "The database cluster could not be made in $data."
  fi
  if ! as_postgres "$pg/pg_ctl" -D "$data" status >/dev/null 2>&1; then
    for try in 1 2 3 4 5; do
      port=$(free_port)
      as_postgres "$pg/pg_ctl" -D "$data" -l "$log" -w -o "-p $port -c listen_addresses=127.0.0.1 -c unix_socket_directories=''" start >/dev/null 2>&1 && break
      [ $try = 5 ] && { tail -5 "$log" >&2; fail "The database did not start; the lines above are from $log."; }
      sleep 1
    done
  fi
  db_port=$(as_postgres sed -n 4p "$data/postmaster.pid") port=$db_port
  cluster=$data
  export INNER_CADENCE_DB="Host=127.0.0.1;Port=$port;Username=cadence;Password=$(as_postgres cat "$pass");Database=cadence"
  as_postgres env PGPASSWORD="$(as_postgres cat "$pass")" "$pg/psql" -h 127.0.0.1 -p "$port" -U cadence -d postgres -qtc "select 1 from pg_database where datname = 'cadence'" | grep -q 1 \
    || as_postgres env PGPASSWORD="$(as_postgres cat "$pass")" "$pg/createdb" -h 127.0.0.1 -p "$port" -U cadence cadence
}

stop_cluster() {
  [ -n "${cluster:-}" ] && as_postgres "$pg/pg_ctl" -D "$cluster" -m fast -w stop >/dev/null 2>&1
  cluster=
}
