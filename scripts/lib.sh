# Shared by start, test and bench. Sourced, not run.

say() { printf '%s\n' "$*"; }
die() { printf '%s\n' "$*" >&2; exit 1; }

export DOTNET_CLI_TELEMETRY_OPTOUT=1 DOTNET_NOLOGO=1
# nginx lies there, and the path of an ordinary user may leave it out.
export PATH=$PATH:/usr/sbin:/sbin

need_tools() {
  command -v dotnet >/dev/null || die "The .NET SDK 10 is missing. Install it and run this again."
  dotnet --list-sdks | grep -q '^10\.' || die "The .NET SDK 10 is missing; only $(dotnet --list-sdks | tail -n 1 | cut -d' ' -f1) is here. Install version 10 and run this again."
  command -v npm >/dev/null || die "Node.js with npm is missing. Install Node.js 20 or later and run this again."
  local major
  major=$(node --version | sed 's/^v\([0-9]*\).*/\1/')
  [ "$major" -ge 20 ] || die "Node.js $(node --version) is too old. Install version 20 or later and run this again."
}

# need_space FOLDER: refuses when less than 600 MB are free where the folder is.
need_space() {
  local free
  free=$(df -Pk "$1" | awk 'NR==2 {print $4}')
  [ "${free:-0}" -ge 614400 ] || die "The disk of $1 is full: $((${free:-0} / 1024)) MB are free and 600 MB are needed. Make room and run this again."
}

# need_packages PROGRAM=PACKAGE …: installs the Debian packages whose program is missing.
need_packages() {
  local missing=() pair
  for pair in "$@"; do
    case "${pair%%=*}" in
      postgres) [ -n "$(pg_bin)" ] || missing+=("${pair#*=}") ;;
      # A library of Debian's own Python, whichever other Python the machine has in front of it.
      openpyxl | etcd) /usr/bin/python3 -c "import ${pair%%=*}" 2>/dev/null || missing+=("${pair#*=}") ;;
      *) command -v "${pair%%=*}" >/dev/null || missing+=("${pair#*=}") ;;
    esac
  done
  [ ${#missing[@]} -eq 0 ] && return 0
  say "Installing ${missing[*]} …"
  local root=()
  if [ "$(id -u)" -ne 0 ]; then
    sudo -n true 2>/dev/null || die "These Debian packages are missing: ${missing[*]}. Run: sudo apt-get install ${missing[*]}"
    root=(sudo -n)
  fi
  "${root[@]}" apt-get update -q >/dev/null 2>&1 || true
  DEBIAN_FRONTEND=noninteractive "${root[@]}" apt-get install -y -q --no-install-recommends "${missing[@]}" >/dev/null 2>&1 ||
    die "Installing ${missing[*]} failed. Run apt-get install ${missing[*]} by hand to see why."
}

pg_bin() { ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1; }

free_port() { node -e "const s=require('net').createServer().listen(0,'127.0.0.1',()=>{console.log(s.address().port);s.close()})"; }

port_taken() { node -e "const s=require('net').connect($1,'127.0.0.1');s.on('connect',()=>process.exit(0));s.on('error',()=>process.exit(1))"; }

# PostgreSQL refuses to run as root; root hands it to the account that Debian's package made.
as_pg() { if [ "$(id -u)" -eq 0 ]; then runuser -u postgres -- "$@"; else "$@"; fi; }

# lock_folder FOLDER: refuses where another ./start has the folder. Held by this shell alone, and freed when it ends, however it ends.
lock_folder() {
  command -v flock >/dev/null || die "flock is missing. Install util-linux and run this again."
  exec {folder_lock}> "$1/lock" || die "The folder $1 cannot be written to. Choose another: SLEUTH_DATA=… ./start"
  flock -n "$folder_lock" || die "Another ./start runs on $1. Stop it first, or choose another folder: SLEUTH_DATA=… ./start"
}

# Without the lock: what outlives this shell must not hold it.
free_of_lock() { if [ -n "${folder_lock:-}" ]; then "$@" {folder_lock}>&-; else "$@"; fi; }

# The same for what is sent to the background: it takes the place of its shell, so that its number is its own.
beside() { if [ -n "${folder_lock:-}" ]; then exec "$@" {folder_lock}>&-; else exec "$@"; fi; }

# pg_running FOLDER: whether the cluster's own server runs. The number in its file may be another program's by now.
pg_running() {
  local pid
  pid=$(head -n 1 "$1/pg/postmaster.pid" 2>/dev/null) || return 1
  [ -n "$pid" ] && [ "$(readlink "/proc/$pid/cwd" 2>/dev/null)" = "$(readlink -f "$1/pg")" ]
}

# pg_start FOLDER [OPTION …]: starts the cluster on the port in its file; by PG_WITH, where that is set.
pg_start() {
  local dir=$1
  shift
  # Left behind by a server that was killed, and its number may be another program's, which PostgreSQL would take for its own.
  pg_running "$dir" || rm -f "$dir/pg/postmaster.pid"
  # shellcheck disable=SC2086
  free_of_lock as_pg ${PG_WITH:-} "$(pg_bin)/pg_ctl" -D "$dir/pg" -w -l "$dir/pg/server.log" \
    -o "-c listen_addresses=127.0.0.1 -c port=$(cat "$dir/port") -c unix_socket_directories='' -c random_page_cost=1.1 -c jit=off $*" start >/dev/null 2>&1
}

# pg_up FOLDER [OPTION …]: makes a cluster there if there is none, starts it on loopback, and sets PG_URL.
pg_up() {
  local dir=$1 bin
  shift
  bin=$(pg_bin)
  mkdir -p "$dir"
  if [ ! -f "$dir/pg/PG_VERSION" ]; then
    # Made aside and renamed when it is whole: one that was broken off is made anew.
    [ -s "$dir/secret" ] || head -c 24 /dev/urandom | od -An -tx1 | tr -d ' \n' > "$dir/secret"
    chmod 600 "$dir/secret"
    [ "$(id -u)" -ne 0 ] || chown -R postgres "$dir"
    rm -rf "$dir/pg" "$dir/pg.new"
    as_pg "$bin/initdb" -D "$dir/pg.new" -U sleuth -A scram-sha-256 --pwfile="$dir/secret" -E UTF8 --locale=C >"$dir/initdb.log" 2>&1 ||
      die "The database cluster could not be made; see $dir/initdb.log."
    mv "$dir/pg.new" "$dir/pg"
  fi
  if ! pg_running "$dir"; then
    free_port > "$dir/port"
    pg_start "$dir" "$@" || die "PostgreSQL did not start: $(tail -n 1 "$dir/pg/server.log" 2>/dev/null)"
  fi
  PG_URL="Host=127.0.0.1;Port=$(cat "$dir/port");Username=sleuth;Password=$(cat "$dir/secret");Include Error Detail=true"
}

# pg_account FOLDER: the account of the program, which owns nothing; sets PG_APP.
pg_account() {
  local dir=$1
  [ -s "$dir/app-secret" ] || head -c 24 /dev/urandom | od -An -tx1 | tr -d ' \n' > "$dir/app-secret"
  chmod 600 "$dir/app-secret"
  PGPASSWORD=$(cat "$dir/secret") "$(pg_bin)/psql" -h 127.0.0.1 -p "$(cat "$dir/port")" -U sleuth -d postgres -qX -v ON_ERROR_STOP=1 >/dev/null <<SQL || die "The program's account could not be made."
select 'create role sleuth_app login' where not exists (select from pg_roles where rolname = 'sleuth_app') \\gexec
alter role sleuth_app password '$(cat "$dir/app-secret")';
SQL
  PG_APP="Host=127.0.0.1;Port=$(cat "$dir/port");Username=sleuth_app;Password=$(cat "$dir/app-secret")"
}

pg_down() { ! pg_running "$1" || as_pg "$(pg_bin)/pg_ctl" -D "$1/pg" -m fast stop >/dev/null 2>&1 || true; }

# build_web: installs and builds the front end when something changed since the last time.
build_web() {
  local modules=node_modules/.package-lock.json out=src/VividSleuth.Server/wwwroot/index.html
  if [ ! -f "$modules" ] || [ package-lock.json -nt "$modules" ]; then
    say "Fetching the front end's packages …"
    npm ci --no-audit --no-fund --loglevel=error || die "npm ci failed; the lines above say why."
    touch "$modules"
  fi
  if [ ! -f "$out" ] || [ -n "$(find web -name node_modules -prune -o -type f -newer "$out" -print -quit)" ]; then
    say "Building the front end …"
    (cd web && npm run --silent build) || die "The front end does not build; the lines above say why."
    touch "$out"
  fi
}
