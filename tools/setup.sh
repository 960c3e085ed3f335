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
  # Without a way to Debian this is soon given up.
  local patience=(-o Acquire::Retries=1 -o Acquire::http::Timeout=20)
  as_root apt-get "${patience[@]}" update -qq >&2
  as_root env DEBIAN_FRONTEND=noninteractive apt-get "${patience[@]}" install -y -qq "${missing[@]}" >&2
}

need_dotnet() {
  command -v dotnet >/dev/null || fail "The .NET SDK 10 is not here: install it (package dotnet-sdk-10.0), then run this again."
}

# Sounds and films of any kind are read with it; without it only WAV is, and the pages say so.
find_ffmpeg() {
  command -v ffmpeg >/dev/null && command -v ffprobe >/dev/null && return
  (need ffmpeg ffmpeg) || say "ffmpeg could not be installed: only WAV files are read until it is there (apt-get install ffmpeg)."
}

find_postgres() {
  pg=$(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -1)
  if [ -z "$pg" ]; then
    missing=(postgresql)
    command -v ffmpeg >/dev/null || missing+=(ffmpeg)
    say "Installing ${missing[*]} …"
    as_root apt-get update -qq >&2
    as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq "${missing[@]}" >&2
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

# What asks the cluster something as its owner; the password comes from a file, since arguments can be read by everybody.
on_server() { as_postgres env PGPASSFILE="$(dirname "$cluster")/pgpass" "$@"; }
tell() { on_server "$pg/psql" -h 127.0.0.1 -p "$db_port" -U cadence -d "$1" -qAt -v ON_ERROR_STOP=1; } # what to do comes from standard input
ask() { tell "$1" <<< "$2"; }

mint() { # mint FILE: a new password, whole or not at all
  (umask 077; head -c 24 /dev/urandom | base64 | tr -d '+/=\n' > "$1.new.$$")
  [ "$(id -u)" != 0 ] || chown postgres "$1.new.$$"
  mv "$1.new.$$" "$1"
}

# The server of this cluster runs: a number in postmaster.pid alone may by now be anybody's.
cluster_runs() { # cluster_runs CLUSTER
  local pid
  pid=$(as_postgres sed -n 1p "$1/postmaster.pid" 2>/dev/null) || return 1
  [[ $pid =~ ^[0-9]+$ ]] && [ "$(as_postgres readlink "/proc/$pid/cwd" 2>/dev/null)" = "$(realpath "$1")" ]
}

# initdb works in a folder of its own, which takes its name only when it is whole.
make_cluster() { # make_cluster DIRECTORY
  local data=$1/cluster pass=$1/owner-password aside
  if [ -e "$data" ]; then
    aside=$data.half-made-$(date +%Y%m%d-%H%M%S)
    say "The database in $data was left half-made by a start that was cut off: it is kept as $aside and made anew."
    as_postgres mv "$data" "$aside" || fail "$data cannot be moved."
  fi
  say "Making a database cluster in $data …"
  as_postgres rm -rf "$data.new"
  mint "$pass"
  as_postgres "$pg/initdb" -D "$data.new" -U cadence --auth=scram-sha-256 --pwfile="$pass" --locale=C.UTF-8 --encoding=UTF8 >/dev/null \
    || fail "The database cluster could not be made in $data. Is there room on the disk?"
  as_postgres mv "$data.new" "$data"
}

# Makes the cluster if it is not there, starts it if it does not run. Sets INNER_CADENCE_DB and INNER_CADENCE_RESTORER.
start_cluster() { # start_cluster DIRECTORY
  local data=$1/cluster log=$1/postgres.log port
  mkdir -p "$1"
  if [ "$(id -u)" = 0 ]; then
    chown postgres "$1"
    as_postgres test -x "$1" || fail "The user postgres cannot enter $1: choose another folder with --data DIR, such as /var/tmp/inner-cadence."
  fi
  [ -f "$data/PG_VERSION" ] && [ -f "$data/global/pg_control" ] || make_cluster "$1"
  cluster=$data
  if ! cluster_runs "$data"; then
    as_postgres rm -f "$data/postmaster.pid"
    for try in 1 2 3 4 5; do
      port=$(free_port)
      as_postgres "$pg/pg_ctl" -D "$data" -l "$log" -w -o "-p $port -c listen_addresses=127.0.0.1 -c unix_socket_directories=''" start >/dev/null 2>&1 9>&- && break
      [ $try = 5 ] && { tail -5 "$log" >&2; cluster=; fail "The database did not start; the lines above are from $log."; }
      sleep 1
    done
  fi
  db_port=$(as_postgres sed -n 4p "$data/postmaster.pid")
  # Beside a running start a swap may be under way, and the roles are what they should be.
  if [ -n "${alone-1}" ]; then
    settle_owner "$1"
    finish_swap
    settle_roles "$1"
  fi
  local server="Host=127.0.0.1;Port=$db_port"
  export INNER_CADENCE_DB="$server;Username=cadence_program;Password=$(as_postgres cat "$1/database-password");Database=cadence"
  export INNER_CADENCE_RESTORER="$server;Username=cadence_restorer;Password=$(as_postgres cat "$1/restorer-password")"
}

know_password() { # know_password DIRECTORY FILE: what the owner logs in with from now on
  (umask 077; printf '127.0.0.1:*:*:cadence:%s\n' "$(as_postgres cat "$2")" > "$1/pgpass.new")
  [ "$(id -u)" != 0 ] || chown postgres "$1/pgpass.new"
  mv "$1/pgpass.new" "$1/pgpass"
}

# The cluster's owner is its superuser and known only here. In a cluster of before, the program itself was that role: its password is replaced, and goes on where it was cut off.
settle_owner() { # settle_owner DIRECTORY
  local pass=$1/owner-password
  if [ ! -s "$pass" ]; then
    [ -s "$pass.next" ] || mint "$pass.next"
    know_password "$1" "$1/database-password"
    ask postgres "alter role cadence password '$(as_postgres cat "$pass.next")'" 2>/dev/null
    know_password "$1" "$pass.next"
    ask postgres "select" || fail "The database in $1 does not know its owner’s password: is $1/database-password the one it was made with?"
    mv "$pass.next" "$pass"
    say "The program is no longer the database’s superuser: a plain role works from now on, and every study is given to it."
  fi
  know_password "$1" "$pass"
}

# The program works as a role that may make databases and nothing more; what a backup holds is read by one that may do nothing at all.
settle_roles() { # settle_roles DIRECTORY
  local name
  [ "$(ask postgres "select 1 from pg_roles where rolname = 'cadence_program'")" = 1 ] && [ -s "$1/database-password" ] || mint "$1/database-password"
  [ -s "$1/restorer-password" ] || mint "$1/restorer-password"
  tell postgres <<SQL || fail "The roles of the database could not be made."
set client_min_messages = warning;
begin;
do \$\$ begin
  if not exists (select from pg_roles where rolname = 'cadence_program') then create role cadence_program; end if;
  if not exists (select from pg_roles where rolname = 'cadence_restorer') then create role cadence_restorer; end if;
end \$\$;
alter role cadence_program login createdb nosuperuser nocreaterole noreplication nobypassrls password '$(as_postgres cat "$1/database-password")';
alter role cadence_restorer login nocreatedb nosuperuser nocreaterole noreplication nobypassrls password '$(as_postgres cat "$1/restorer-password")';
grant cadence_restorer to cadence_program;
commit;
SQL
  [ "$(ask postgres "select 1 from pg_database where datname = 'cadence'")" = 1 ] || ask postgres "create database cadence owner cadence_program" || fail "The database could not be made."
  for name in $(ask postgres "select datname from pg_database where datname ~ '^cadence(\$|_before_)' and datallowconn"); do
    [ "$(ask postgres "select pg_get_userbyid(datdba) from pg_database where datname = '$name'")" = cadence_program ] || give "$name" || fail "The database $name could not be given to the program’s role."
    ask postgres "revoke connect on database $name from public"
  done
}

# Objects first, all or none; the database last, as the sign that all went over.
give() { # give DATABASE
  tell "$1" <<'SQL' && ask postgres "alter database $1 owner to cadence_program"
do $$ declare it record; begin
  for it in select case relkind when 'v' then 'view' when 'm' then 'materialized view' when 'S' then 'sequence' else 'table' end as kind, oid::regclass as name from pg_class
    where relnamespace = 'public'::regnamespace and relkind in ('r', 'p', 'v', 'm', 'S') and not exists (select from pg_depend where objid = pg_class.oid and deptype in ('i', 'a') and relkind = 'S')
  loop execute format('alter %s %s owner to cadence_program', it.kind, it.name); end loop;
  for it in select oid::regprocedure as name from pg_proc where pronamespace = 'public'::regnamespace and not exists (select from pg_depend where objid = pg_proc.oid and deptype = 'e')
  loop execute format('alter routine %s owner to cadence_program', it.name); end loop;
end $$;
SQL
}

# A restore gives two databases new names, one after the other; what was cut off between them is finished, or else taken back.
finish_swap() {
  local last
  if [ "$(ask postgres "select 1 from pg_database where datname = 'cadence'")" = 1 ]; then
    [ "$(ask postgres "select datallowconn from pg_database where datname = 'cadence'")" = t ] || ask postgres "alter database cadence allow_connections true"
    return
  fi
  last=$(ask postgres "select datname from pg_database where datname like 'cadence\_restored\_%' order by oid desc limit 1")
  if [ -n "$last" ]; then
    ask postgres "alter database $last rename to cadence" && say "A restore was cut off as it changed names: it is finished now, and the restored state is shown."
  else
    last=$(ask postgres "select datname from pg_database where datname like 'cadence\_old\_%' or datname like 'cadence\_before\_%' order by oid desc limit 1")
    [ -z "$last" ] || { ask postgres "alter database $last rename to cadence" && say "A restore was cut off as it changed names: it is taken back, and what was there before is shown."; }
  fi
  [ -z "$last" ] || ask postgres "alter database cadence allow_connections true"
}

# What a restore or a check of a backup left; only while nothing else works on this cluster.
clear_leftovers() { # clear_leftovers DIRECTORY
  local name
  rm -f "$1"/backups/*.part
  for name in $(ask postgres "select datname from pg_database where datname ~ '^cadence_(check|brought|restored|old)_'"); do ask postgres "drop database $name with (force)"; done
}

stop_cluster() {
  [ -n "${cluster:-}" ] && cluster_runs "$cluster" && as_postgres "$pg/pg_ctl" -D "$cluster" -m fast -w stop >/dev/null 2>&1
  cluster=
}
