# ./start backup and ./start restore. Sourced after setup.sh, with the cluster running.

# One line a table with its number of rows: what a backup is checked by.
rows_of() {
  ask "$1" "select string_agg(format('select %L || '' '' || count(*) from %I', tablename, tablename), ' union all ' order by tablename) from pg_tables where schemaname = 'public'" \
    | { read -r query; ask "$1" "$query" | sort; }
}

# Consistent while the application is in use (one snapshot), and read back into a database of its own before it counts.
backup() { # backup FILE
  local file=$1 part=$1.part check=cadence_check_$$
  [ -e "$file" ] && fail "$file is there already: choose another name, so that no backup is lost."
  : > "$part" 2>/dev/null || fail "$part cannot be written."
  on_server "$pg/pg_dump" -h 127.0.0.1 -p "$db_port" -U cadence -Fc cadence > "$part" || { rm -f "$part"; fail "The backup failed; nothing was written."; }
  ask postgres "create database $check" || fail "The backup could not be checked."
  if on_server "$pg/pg_restore" -h 127.0.0.1 -p "$db_port" -U cadence -d "$check" --exit-on-error < "$part" 2>/dev/null && [ -n "$(rows_of $check)" ]; then
    local count; count=$(rows_of $check | awk '{n += $2} END {print n}')
    ask postgres "drop database $check with (force)"
    mv "$part" "$file"
    echo "$file holds $count rows and was read back without an error. Sound files are not part of it."
  else
    ask postgres "drop database $check with (force)"; rm -f "$part"
    fail "What was written could not be read back, so it was thrown away."
  fi
}

# The file is read into a database of its own first; only a whole one takes the place of the present one, which stays under another name.
restore() { # restore FILE
  local file=$1 fresh=cadence_restored_$$ before
  before=cadence_before_$(date +%Y%m%d_%H%M%S)
  [ -r "$file" ] || fail "$file cannot be read."
  ask postgres "create database $fresh" || fail "No database could be made for $file."
  if ! on_server "$pg/pg_restore" -h 127.0.0.1 -p "$db_port" -U cadence -d "$fresh" --exit-on-error < "$file" 2>/dev/null \
      || [ "$(ask "$fresh" "select count(*) from information_schema.tables where table_name in ('study', 'passage', 'sighting')" 2>/dev/null)" != 3 ]; then
    ask postgres "drop database $fresh with (force)"
    fail "$file is no whole backup of Inner Cadence: nothing was changed."
  fi
  ask postgres "select pg_terminate_backend(pid) from pg_stat_activity where datname = 'cadence'" > /dev/null
  ask postgres "alter database cadence rename to $before" && ask postgres "alter database $fresh rename to cadence" \
    || fail "The database is in use by something that comes back at once: stop ./start and try again. What was kept is in cadence or $before."
  echo "$file is restored. What was there before is kept as the database $before."
}
