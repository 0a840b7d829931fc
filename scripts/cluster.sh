# A private PostgreSQL cluster on loopback, sourced by lib.sh. It never touches the
# system's own, and never deletes or replaces data that it did not just make, but for
# that of the tests.
#
# Of a cluster NAME there are in .data: NAME/cluster (the data; elsewhere where
# PostgreSQL's user cannot reach this folder, then NAME.home says where),
# NAME.secret (the passwords of owner, server and backup), NAME.port, and
# NAME.making while the very first initialisation runs.

pg_find() {
  PG_BIN=$(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -1 || true)
  if [ -z "$PG_BIN" ] || [ ! -x "$PG_BIN/initdb" ]; then
    PG_BIN=$(dirname "$(command -v initdb 2>/dev/null || echo /none/x)")
  fi
  [ -x "$PG_BIN/initdb" ]
}

need_postgresql() {
  pg_find || { need_debian postgresql; pg_find || stop_with "PostgreSQL's server programs were not found after installing them."; }
  pg_user
}

# PostgreSQL refuses root: then its own user runs it.
pg_user() {
  if [ "$(id -u)" != 0 ]; then PG_USER=$(id -un)
  elif id postgres >/dev/null 2>&1; then PG_USER=postgres
  else PG_USER=nobody
  fi
}

# as_pg runs a command as PostgreSQL's user. It does not hold this folder's lock.
as_pg() {
  if [ "$(id -un)" = "$PG_USER" ]; then "$@" 9>&-
  else setpriv --reuid="$PG_USER" --regid="$(id -g "$PG_USER")" --clear-groups -- env HOME=/ "$@" 9>&-
  fi
}

# data_folder makes sure that .data is there and ours.
data_folder() {
  mkdir -p .data 2>/dev/null || stop_with "the folder .data cannot be made in $ROOT. Start as the user who owns this folder."
  { [ -w .data ] && [ -x .data ]; } ||
    stop_with "the folder .data belongs to $(stat -c %U .data). Start as that user, or use a copy of Soft Palm in a folder of your own. Nothing was changed."
}

# pg_place NAME sets PG_HOME for a cluster: where it is already, else below .data, or,
# where PostgreSQL's user cannot reach this folder, below /var/lib/softpalm.
pg_place() {
  data_folder
  PG_HOME=$ROOT/.data/$1
  if [ -s ".data/$1.home" ]; then
    PG_HOME=$(cat ".data/$1.home")
    [ -d "$PG_HOME" ] || stop_with "the database of this folder was in $PG_HOME, and that folder is gone. Bring it back, or write where it is now into .data/$1.home. Nothing was changed."
  elif ! as_pg test -x "$ROOT/.data" 2>/dev/null; then
    [ ! -e ".data/$1/cluster" ] || stop_with "the database of this folder, .data/$1, cannot be reached by $PG_USER, who runs PostgreSQL. Let that user pass through the folders above it (chmod a+x on .data and each of them), then start again. Nothing was changed."
    PG_HOME=/var/lib/softpalm/$(printf '%s' "$ROOT" | cksum | cut -d' ' -f1)-$1
  fi
}

# pg_check NAME stops with a sentence unless the cluster and its passwords are both
# there, or both are still to be made.
pg_check() {
  local data=$PG_HOME/cluster secret=.data/$1.secret
  if [ -e "$secret" ] && [ ! -r "$secret" ]; then
    stop_with "the passwords of the database, $secret, cannot be read by $(id -un). Start as $(stat -c %U "$secret"). Nothing was changed."
  fi
  [ ! -e ".data/$1.making" ] || return 0
  if as_pg test -e "$data/PG_VERSION" && [ ! -s "$secret" ]; then
    stop_with "there is a database in $data, but its passwords, $secret, are missing. Nothing was changed. Put that file back, or run: make recover CLUSTER=$1 (it gives the database new passwords and keeps everything in it)."
  fi
  if [ -s "$secret" ] && ! as_pg test -e "$data/PG_VERSION"; then
    stop_with "the passwords of a database are here ($secret), but there is no database in $data. If this folder was moved, write the folder of the database into .data/$1.home. To begin anew, move $secret away yourself. Nothing was changed."
  fi
}

# pg_make NAME makes a cluster. What an interrupted first run left behind never held
# anything; only that is removed.
pg_make() {
  local data=$PG_HOME/cluster secret=.data/$1.secret pw=$PG_HOME/pw
  mkdir -p "$PG_HOME"
  [ "$(id -un)" = "$PG_USER" ] || chown "$PG_USER" "$PG_HOME"
  chmod 700 "$PG_HOME"
  [ "$PG_HOME" = "$ROOT/.data/$1" ] || echo "$PG_HOME" > ".data/$1.home"
  if [ -e ".data/$1.making" ]; then as_pg rm -rf "$data"; fi
  : > ".data/$1.making"
  (umask 077; { random; random; random; } > "$secret.new")
  head -1 "$secret.new" > "$pw"; [ "$(id -un)" = "$PG_USER" ] || chown "$PG_USER" "$pw"; chmod 600 "$pw"
  as_pg "$PG_BIN/initdb" -D "$data" -U softpalm_owner --auth=scram-sha-256 --pwfile="$pw" --locale=C.UTF-8 -E UTF8 >"$PG_HOME/initdb.log" 2>&1 ||
    stop_with "PostgreSQL could not make its data folder; see $PG_HOME/initdb.log."
  rm -f "$pw"
  mv "$secret.new" "$secret"
  rm -f ".data/$1.making"
}

# outgoing_port PORT reports whether the system hands that port out for outgoing
# connections: one of those may hold it at any moment, without listening.
outgoing_port() {
  local low high
  read -r low high 2>/dev/null < /proc/sys/net/ipv4/ip_local_port_range || { low=32768; high=60999; }
  [ "$1" -ge "$low" ] && [ "$1" -le "$high" ]
}

# pg_serve DATA FIRST_PORT starts the server of a data folder on the first port
# that it can have, and prints the port. That of the tests, whose data nobody needs,
# serves many databases at a time.
pg_serve() {
  local port=$2 last=$(($2 + 50)) from fsync=${SOFTPALM_FSYNC:-on} most=60
  [ "$fsync" = on ] || most=300
  while port=$(free_port "$port") && [ "$port" -le "$last" ]; do
    from=$({ wc -c < "$PG_HOME/server.log"; } 2>/dev/null || echo 0)
    as_pg "$PG_BIN/pg_ctl" -D "$1" -w -t 60 -l "$PG_HOME/server.log" \
      -o "-p $port -c listen_addresses=127.0.0.1 -c unix_socket_directories= -c fsync=$fsync -c max_connections=$most -c jit=off" start >/dev/null 2>&1 && { echo "$port"; return; }
    tail -c "+$((from + 1))" "$PG_HOME/server.log" | grep -q "could not bind" || return 1
    port=$((port + 1))
  done
  return 1
}

# pg_running prints the process that serves the cluster in PG_HOME, if one does; the
# lock file of a killed server is removed.
pg_running() {
  local lock=$PG_HOME/cluster/postmaster.pid pid
  pid=$(as_pg head -1 "$lock" 2>/dev/null || true)
  [ -n "$pid" ] || return 0
  if { tr "\0" " " < "/proc/$pid/cmdline"; } 2>/dev/null | grep -qF "$PG_HOME/cluster"; then echo "$pid"
  else as_pg rm -f "$lock"
  fi
}

# pg_start NAME FIRST_PORT starts a cluster, which it makes the first time, and sets
# DATABASE_URL (the owner's) and the passwords of server and backup. It survives a
# stale lock file, a taken port and a killed server.
pg_start() {
  need_postgresql
  pg_place "$1"
  pg_check "$1"
  local data=$PG_HOME/cluster secret=.data/$1.secret port
  { [ -s "$secret" ] && [ ! -e ".data/$1.making" ]; } || pg_make "$1"
  [ "$(wc -l < "$secret")" -ge 3 ] || (umask 077; random >> "$secret") # made by an earlier version
  if [ -n "$(pg_running)" ]; then
    port=$(as_pg sed -n 4p "$data/postmaster.pid")
  else
    port=$(cat ".data/$1.port" 2>/dev/null || true)
    { [[ $port =~ ^[0-9]+$ ]] && ! outgoing_port "$port"; } || port=$2
    port=$(pg_serve "$data" "$port") || stop_with "PostgreSQL did not start; see $PG_HOME/server.log."
  fi
  echo "$port" > ".data/$1.port"
  SOFTPALM_APP_PASSWORD=$(sed -n 2p "$secret")
  SOFTPALM_BACKUP_PASSWORD=$(sed -n 3p "$secret")
  DATABASE_URL=postgres://softpalm_owner:$(sed -n 1p "$secret")@127.0.0.1:$port/postgres
  export DATABASE_URL SOFTPALM_APP_PASSWORD SOFTPALM_BACKUP_PASSWORD
}

# pg_stop NAME stops a cluster, if it runs.
pg_stop() {
  pg_find || return 0
  pg_user
  pg_place "$1"
  as_pg test -f "$PG_HOME/cluster/postmaster.pid" || return 0
  as_pg "$PG_BIN/pg_ctl" -D "$PG_HOME/cluster" -m fast -w -t 30 stop >/dev/null 2>&1 || true
}

# pg_start_tests starts the cluster of the tests, made anew: nobody needs its data, so they lie in memory where there
# is room, and are never synced.
pg_start_tests() {
  need_postgresql
  pg_end_tests
  if room_in_memory; then mktemp -d /dev/shm/softpalm-tests.XXXXXX > .data/test.home; fi
  SOFTPALM_FSYNC=off pg_start test 15620
}

# room_in_memory reports whether the data of the tests, 2 GB at most, fit into memory.
room_in_memory() {
  local room free
  [ "$(stat -f -c %T /dev/shm 2>/dev/null)" = tmpfs ] || return 1
  room=$(df -Pm /dev/shm | awk 'NR == 2 { print $4 }')
  free=$(awk '/^MemAvailable/ { print int($2 / 1024) }' /proc/meminfo)
  [ "${room:-0}" -ge 3000 ] && [ "${free:-0}" -ge 6000 ]
}

# pg_end_tests stops the cluster of the tests and takes it away, be it of a run that was killed; its log stays.
pg_end_tests() {
  cd "$ROOT" # wherever the script that ends has gone
  data_folder
  if [ -s .data/test.home ] && [ ! -d "$(cat .data/test.home)" ]; then rm -f .data/test.*; fi # memory that a restart emptied
  pg_stop test
  pg_place test
  if [ -d "$PG_HOME" ]; then
    cp "$PG_HOME/server.log" .data/test-server.log 2>/dev/null || true
    as_pg find "$PG_HOME" -mindepth 1 -delete
    rmdir "$PG_HOME"
  fi
  rm -f .data/test.*
}

# pg_recover NAME gives the cluster that is there new passwords and keeps its data.
# The roles of server and backup get theirs with the next start.
pg_recover() {
  need_postgresql
  pg_place "$1"
  local data=$PG_HOME/cluster secret=.data/$1.secret log=$PG_HOME/recover.log
  as_pg test -e "$data/PG_VERSION" || stop_with "there is no database in $data to recover."
  [ -z "$(pg_running)" ] || stop_with "the database in $data is running. End Soft Palm first: make stop."
  (umask 077; { random; random; random; } > "$secret.new")
  { printf "alter role softpalm_owner password '%s'\n" "$(head -1 "$secret.new")" |
    as_pg "$PG_BIN/postgres" --single -D "$data" postgres >"$log" 2>&1 && ! grep -q ERROR "$log"; } ||
    stop_with "PostgreSQL could not change the password; see $log. Nothing was changed."
  [ ! -e "$secret" ] || mv "$secret" "$secret.$(date +%Y%m%d%H%M%S)"
  mv "$secret.new" "$secret"
}

# alone NAME holds the lock of this folder's cluster until this script ends; where
# another one holds it, it says so and leaves that one alone.
alone() {
  data_folder
  exec 9>>".data/$1.lock"
  flock -n 9 || stop_with "Soft Palm is already running in this folder$(sed 's/^/, at /' ".data/$1.url" 2>/dev/null). Use that one, or end it with: make stop. Nothing was started."
}

# end_orphan NAME ends a server whose start script was killed.
end_orphan() {
  local pid; pid=$(cat ".data/$1.server" 2>/dev/null || true)
  if [ -n "$pid" ] && tr '\0' ' ' < "/proc/$pid/cmdline" 2>/dev/null | grep -q "softpalm serve" && [ "$(readlink "/proc/$pid/cwd")" = "$ROOT" ]; then
    kill "$pid" 2>/dev/null || true
    for _ in $(seq 1 100); do kill -0 "$pid" 2>/dev/null || break; sleep 0.1; done
  fi
  rm -f ".data/$1.server" ".data/$1.url"
}
