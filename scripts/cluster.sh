# Three PostgreSQL under Patroni with etcd, PgBouncer and HAProxy on loopback, by the files of deploy/cluster. Sourced after lib.sh.

CLUSTER_NODES=3

need_cluster() {
  need_packages postgres=postgresql patroni=patroni etcd=python3-etcd /usr/bin/etcd=etcd-server haproxy=haproxy pgbouncer=pgbouncer pgrep=procps setpriv=util-linux
}

# What refuses to run as root is handed to the account of Debian's package, in the place of its shell, so that its number is its own.
beside_pg() { if [ "$(id -u)" -eq 0 ]; then beside setpriv --reuid=postgres --regid=postgres --init-groups "$@"; else beside "$@"; fi; }

# fill FILE KEY=VALUE …: a file of deploy/cluster with this machine's own in its braces. A brace left over is an error.
fill() {
  local file=$1 text pair
  shift
  text=$(cat "deploy/cluster/$file")
  for pair in "$@"; do text=${text//"{${pair%%=*}}"/"${pair#*=}"}; done
  ! grep -qE '\{[a-z]+\}' <<< "$text" || die "deploy/cluster/$file has braces that nothing fills: $(grep -oE '\{[a-z]+\}' <<< "$text" | sort -u | tr '\n' ' ')"
  printf '%s\n' "$text"
}

# node_up FOLDER N: Patroni with its PostgreSQL.
node_up() {
  local dir=$1 n=$2
  beside_pg patroni "$dir/patroni-$n.yml" >> "$dir/patroni-$n.log" 2>&1 &
  echo $! > "$dir/patroni-$n.pid"
}

# node_kill FOLDER N: as when its machine loses power. Patroni first, so that it cannot say that it goes.
node_kill() {
  local postmaster
  postmaster=$(head -n 1 "$1/node-$2/postmaster.pid" 2>/dev/null) || postmaster=''
  kill -9 "$(cat "$1/patroni-$2.pid")" 2>/dev/null || true
  [ -z "$postmaster" ] || { pkill -9 -P "$postmaster"; kill -9 "$postmaster"; } 2>/dev/null || true
}

# own_port FILE: the port of before, so that what remembers it still finds it, or another where that is taken.
own_port() {
  if [ ! -s "$1" ] || port_taken "$(cat "$1")"; then free_port > "$1"; fi
  cat "$1"
}

# leader FOLDER: the number of the node that leads, or nothing.
leader() {
  local n
  for n in $(seq $CLUSTER_NODES); do
    if curl -fsm 2 -o /dev/null -X OPTIONS "http://127.0.0.1:$(cat "$1/rest-$n")/primary" 2>/dev/null; then
      echo "$n"
      return
    fi
  done
}

# follows FOLDER: whether a standby holds all that is acknowledged.
follows() {
  local n
  for n in $(seq $CLUSTER_NODES); do
    ! curl -fsm 2 -o /dev/null -X OPTIONS "http://127.0.0.1:$(cat "$1/rest-$n")/sync" 2>/dev/null || return 0
  done
  return 1
}

# cluster_up FOLDER INSTANCES: the databases and what stands before them; sets PG_URL (owner),
# PG_BOUNCER and PG_EVENTS (where the program writes, by PgBouncer and by itself), PG_STANDBYS, HTTP_PORT, INSTANCE_PORTS.
cluster_up() {
  local dir=$1 count=$2 n databases='' instances='' hosts='' secret etcd peer leads bouncer figures stands
  mkdir -p "$dir"
  stands=$([ ! -f "$dir/node-1/PG_VERSION" ] || echo yes)
  [ -s "$dir/secret" ] || head -c 24 /dev/urandom | od -An -tx1 | tr -d ' \n' > "$dir/secret"
  [ -s "$dir/app-secret" ] || head -c 24 /dev/urandom | od -An -tx1 | tr -d ' \n' > "$dir/app-secret"
  chmod 600 "$dir/secret" "$dir/app-secret"
  secret=$(cat "$dir/secret")
  etcd=$(own_port "$dir/etcd.port") peer=$(own_port "$dir/peer.port") leads=$(free_port) bouncer=$(free_port) figures=$(free_port)
  HTTP_PORT=${SLEUTH_PORT:-8737}
  INSTANCE_PORTS=()
  for n in $(seq "$count"); do
    INSTANCE_PORTS+=("$(free_port)")
    instances+="    server instance-$n 127.0.0.1:${INSTANCE_PORTS[-1]} check"$'\n'
  done
  for n in $(seq $CLUSTER_NODES); do
    own_port "$dir/rest-$n" >/dev/null
    own_port "$dir/port-$n" >/dev/null
    hosts+="${hosts:+,}127.0.0.1:$(cat "$dir/port-$n")"
    databases+="    server database-$n 127.0.0.1:$(cat "$dir/port-$n") check port $(cat "$dir/rest-$n")"$'\n'
    fill patroni.yml name="database-$n" address=127.0.0.1 rest="$(cat "$dir/rest-$n")" port="$(cat "$dir/port-$n")" etcd="127.0.0.1:$etcd" buffers=64MB \
      data="$dir/node-$n" bin="$(pg_bin)" network=127.0.0.1/32 secret="$secret" > "$dir/patroni-$n.yml"
  done
  fill etcd.yml name=etcd-1 data="$dir/etcd" etcd="127.0.0.1:$etcd" peer="127.0.0.1:$peer" > "$dir/etcd.yml"
  fill haproxy.cfg address=127.0.0.1 http="$HTTP_PORT" host=127.0.0.1 leader="$leads" figures="$figures" instances="$instances" databases="$databases" > "$dir/haproxy.cfg"
  fill pgbouncer.ini address=127.0.0.1 leader="$leads" bouncer="$bouncer" users="$dir/users.txt" log="$dir/pgbouncer.log" pid="$dir/pgbouncer.pid" > "$dir/pgbouncer.ini"
  printf '"sleuth_app" "%s"\n' "$(cat "$dir/app-secret")" > "$dir/users.txt"
  chmod 600 "$dir/users.txt" "$dir"/patroni-*.yml
  # What etcd knows is kept: who was in step, and may lead.
  rm -f "$dir/pgbouncer.pid"
  [ "$(id -u)" -ne 0 ] || chown -R postgres "$dir"

  beside_pg etcd --config-file "$dir/etcd.yml" > "$dir/etcd.log" 2>&1 &
  CLUSTER_PIDS=($!)
  for n in $(seq $CLUSTER_NODES); do
    node_up "$dir" "$n"
    # The first makes the cluster, and the others copy it; later whoever was in step leads, so all are needed.
    [ "$n" -ne 1 ] || [ -n "$stands" ] || for _ in $(seq 600); do [ -n "$(leader "$dir")" ] && break; sleep 0.5; done
  done
  for _ in $(seq 600); do follows "$dir" && break; sleep 0.5; done
  follows "$dir" || die "The databases do not come together; see $dir/patroni-1.log."
  beside haproxy -db -f "$dir/haproxy.cfg" > "$dir/haproxy.log" 2>&1 &
  CLUSTER_PIDS+=($!)
  beside_pg pgbouncer "$dir/pgbouncer.ini" > /dev/null 2>&1 &
  CLUSTER_PIDS+=($!)
  echo "$leads" > "$dir/port"
  for _ in $(seq 60); do port_taken "$leads" && port_taken "$bouncer" && break; sleep 0.2; done
  sleep 2
  pg_account "$dir"
  PGPASSWORD=$secret "$(pg_bin)/psql" -h 127.0.0.1 -p "$leads" -U sleuth -d postgres -qX -v ON_ERROR_STOP=1 >/dev/null <<'SQL' || die "The database could not be made."
select 'create database sleuth' where not exists (select from pg_database where datname = 'sleuth') \gexec
SQL
  local app
  app="Username=sleuth_app;Password=$(cat "$dir/app-secret");Database=sleuth"
  PG_URL="Host=$hosts;Target Session Attributes=primary;Username=sleuth;Password=$secret;Database=sleuth;Timeout=5;Host Recheck Seconds=1"
  PG_EVENTS="Host=$hosts;Target Session Attributes=primary;$app;Timeout=5;Host Recheck Seconds=1"
  PG_STANDBYS="Host=$hosts;Target Session Attributes=prefer-standby;Load Balance Hosts=true;$app;Timeout=2;Maximum Pool Size=15;Host Recheck Seconds=1"
  PG_BOUNCER="Host=127.0.0.1;Port=$bouncer;$app;Max Auto Prepare=0;No Reset On Close=true;Timeout=15"
}

cluster_down() {
  local n led
  # Who leads goes last, so that nobody takes over on the way out.
  led=$(leader "$1" 2>/dev/null)
  for n in $(seq $CLUSTER_NODES | grep -vx "${led:-none}") $led; do
    [ -s "$1/patroni-$n.pid" ] || continue
    kill -TERM "$(cat "$1/patroni-$n.pid")" 2>/dev/null || continue
    for _ in $(seq 60); do kill -0 "$(cat "$1/patroni-$n.pid")" 2>/dev/null || break; sleep 0.5; done
    [ ! -s "$1/node-$n/postmaster.pid" ] || kill -QUIT "$(head -n 1 "$1/node-$n/postmaster.pid")" 2>/dev/null || true
    rm -f "$1/patroni-$n.pid"
  done
  [ ${#CLUSTER_PIDS[@]} -eq 0 ] || kill "${CLUSTER_PIDS[@]}" 2>/dev/null || true
}
