# nginx of Debian with deploy/nginx.conf before two instances on loopback, with a certificate made for the occasion. Sourced after lib.sh.

# tls_up FOLDER PORT PORT: sets TLS_URL, TLS_PLAIN (without TLS) and TLS_SPKI (what a browser needs to take the certificate).
tls_up() {
  local dir=$1/nginx one=$2 other=$3 https http
  mkdir -p "$dir/logs"
  https=$(free_port) http=$(free_port)
  openssl req -x509 -newkey ec -pkeyopt ec_paramgen_curve:P-256 -nodes -days 2 -subj /CN=localhost \
    -addext subjectAltName=DNS:localhost -keyout "$dir/key.pem" -out "$dir/fullchain.pem" 2>/dev/null || return 1
  # The file that ships, with this machine's ports and names in it and nothing else changed.
  sed -e "s/127.0.0.1:8737/127.0.0.1:$one/" -e "s/127.0.0.1:8738/127.0.0.1:$other/" -e '/listen \[::\]/d' \
    -e "s/listen 80;/listen 127.0.0.1:$http;/" -e "s/listen 443 /listen 127.0.0.1:$https /" -e 's/shop\.example/localhost/' \
    -e "s,https://\$host,https://\$host:$https," -e "s,/etc/vivid-sleuth/tls/,$dir/," deploy/nginx.conf > "$dir/site.conf"
  cat > "$dir/nginx.conf" <<CONF
pid $dir/pid;
error_log $dir/error.log;
worker_processes 1;
events { worker_connections 512; }
http {
  access_log off;
  client_body_temp_path $dir/body;
  proxy_temp_path $dir/proxy;
  fastcgi_temp_path $dir/fastcgi;
  uwsgi_temp_path $dir/uwsgi;
  scgi_temp_path $dir/scgi;
  include $dir/site.conf;
}
CONF
  nginx -p "$dir" -e "$dir/error.log" -c "$dir/nginx.conf" || { cat "$dir/error.log"; return 1; }
  TLS_URL=https://localhost:$https TLS_PLAIN=http://localhost:$http
  TLS_SPKI=$(openssl x509 -in "$dir/fullchain.pem" -pubkey -noout | openssl pkey -pubin -outform der 2>/dev/null | openssl dgst -sha256 -binary | openssl base64)
}

tls_down() { [ ! -f "$1/nginx/pid" ] || kill "$(cat "$1/nginx/pid")" 2>/dev/null || true; }

# units_hold FOLDER: the units as systemd reads them, and how exposed what they run is (0 safe to 10 open).
units_hold() {
  local dir=$1/units unit
  mkdir -p "$dir"
  cp deploy/*.service deploy/*.timer "$dir/"
  # Where they will lie is not on this machine.
  sed -i -e "s,/usr/bin/dotnet,$(command -v dotnet)," -e "s,/opt/vivid-sleuth,$PWD," "$dir"/*.service
  cp "$dir/vivid-sleuth@.service" "$dir/vivid-sleuth@8737.service"
  systemd-analyze verify --man=no "$dir/vivid-sleuth@8737.service" "$dir/vivid-sleuth-backup.service" "$dir/vivid-sleuth-backup.timer" || return 1
  for unit in vivid-sleuth@8737.service vivid-sleuth-backup.service; do
    systemd-analyze security --offline=true --threshold=20 --no-pager "$dir/$unit" | tail -n 1
    [ "${PIPESTATUS[0]}" -eq 0 ] || return 1
  done
}
