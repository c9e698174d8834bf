"""Debian's nginx in front: HTTPS on the workshop's network, patience with slow tablets, and the page
where a tablet learns to trust the workshop."""

import json
import os
import resource
import shutil
import subprocess
from hashlib import sha256
from pathlib import Path
from string import Template

from .certificates import own, stamp
from .house import House
from .paths import ROOT

NGINX, USER = "/usr/sbin/nginx", "www-data"
CONFIG = Template("""\
load_module /usr/lib/nginx/modules/ngx_stream_module.so;
$user
worker_processes 2;
worker_rlimit_nofile $files;
daemon off;
pid $run/nginx.pid;
error_log stderr warn;
events { worker_connections $connections; }

# What an address holds open is counted before anything of it is read.
stream {
  limit_conn_zone $$binary_remote_addr zone=address:1m;
  limit_conn_log_level notice;
  server {
    listen $https_port;
    limit_conn address $connections_per_address;
    proxy_protocol on;
    proxy_pass unix:$run/https;
  }
  server {
    listen $http_port;
    limit_conn address $connections_per_address;
    proxy_protocol on;
    proxy_pass unix:$run/http;
  }
}

http {
  access_log off;
  server_tokens off;
  default_type application/octet-stream;
  client_max_body_size 17m;
  client_header_timeout 10s;
  client_body_timeout 20s;
  client_body_temp_path $run/body;
  proxy_temp_path $run/proxy;
  fastcgi_temp_path $run/fastcgi;
  uwsgi_temp_path $run/uwsgi;
  scgi_temp_path $run/scgi;
  set_real_ip_from unix:;
  real_ip_header proxy_protocol;

  limit_conn_zone $$binary_remote_addr zone=streams:1m;
  map $$http_cookie $$session { default ""; "~__Host-session=(?<key>[^;]+)" $$key; }
  limit_conn_zone $$session zone=person:2m;
  limit_req_zone $$session zone=asks:2m rate=${requests_per_person}r/s;
  limit_req_zone $$binary_remote_addr zone=from:2m rate=${requests_per_address}r/s;
  limit_conn_status 429;
  limit_req_status 429;

  # what takes long on purpose, or by its nature, has processes of its own
  map $$request_method:$$uri $$pool {
    default app;
    ~^POST:/api/(session|doorway)/$$ doors;
    ~^POST:/api/welcome/ doors;
    ~^PUT:/api/own/(password|pin|proof)/$$ doors;
    ~^POST:/api/(bikes/[^/]+/plan|calendar)/$$ plans;
  }
  # one person works out so many orders at once; entries are not held up by them
  map $$pool:$$session $$planning { default ""; "~^plans:(?<whose>.+)" $$whose; }
  limit_conn_zone $$planning zone=planning:1m;
  upstream app { server unix:$behind/app; keepalive 32; }
  upstream doors { server unix:$behind/doors; }
  upstream plans { server unix:$behind/plans; }
  upstream events { server unix:$behind/events; }

  server {
    listen unix:$run/http proxy_protocol;
    location = / { alias $public/; index trust.html; default_type text/html; }
    location = /trust.html { alias $public/trust.html; default_type text/html; }
    location = /oilward-ca.crt {
      alias $public/ca.crt;
      default_type application/x-x509-ca-cert;
      add_header Content-Disposition 'attachment; filename="oilward-ca.crt"';
    }
    location / { return 301 https://$$host$to$$request_uri; }
  }

  ssl_certificate $certificate;
  ssl_certificate_key $key;
  ssl_protocols TLSv1.2 TLSv1.3;
  ssl_ciphers ECDHE+AESGCM:ECDHE+CHACHA20;
  ssl_session_cache shared:oilward:2m;
  ssl_session_tickets off;

  # under a name that is not this machine's
  server {
    listen unix:$run/https ssl http2 proxy_protocol default_server;
    server_name _;
    error_page 497 =301 https://$$http_host$$request_uri;
    default_type text/plain;
    location / { return 421 "This is Oil Ward, and it goes by another name: $address\n"; }
  }

  server {
    listen unix:$run/https ssl http2 proxy_protocol;
    server_name $names;
    # whoever comes by plain http is sent to the right door
    error_page 497 =301 https://$$http_host$$request_uri;
    error_page 413 @much;
    error_page 429 @slowly;
    error_page 502 504 @away;

    $hsts
    proxy_http_version 1.1;
    proxy_set_header Host $$http_host;
    proxy_set_header X-Forwarded-Proto https;
    proxy_set_header X-Forwarded-For $$remote_addr;
    proxy_set_header Connection "";
    location /events/ {
      limit_conn streams $streams_per_address;
      limit_req zone=from burst=$burst_from nodelay;
      proxy_pass http://events;
      proxy_buffering off;
      proxy_read_timeout 120s;
    }
    location / {
      limit_conn person 12;
      limit_conn planning 3;
      limit_req zone=asks burst=$burst_asks nodelay;
      limit_req zone=from burst=$burst_from nodelay;
      proxy_pass http://$$pool;
    }
    location @much { $problem return 413 '$much'; }
    location @slowly { $problem add_header Retry-After 2 always; return 429 '$slowly'; }
    location @away { $problem add_header Retry-After 2 always; return 503 '$away'; }
  }
}
""")
PROBLEM = "default_type application/problem+json; add_header Cache-Control no-store always;"
CONNECTIONS = 4096  # each takes memory while nobody has it
EACH = 4  # for one of a tablet's: with it, both ends of the one between the doors, with who answers
LOOPBACK = ("127.0.0.1", "localhost")


def _problem(status: int, code: str, title: str, detail: str) -> str:
    """What the API says of a refusal, here where none of it is asked."""
    told = {
        "type": f"urn:oilward:{code}", "title": title, "status": status, "detail": detail,
        "code": code, "question": False, "errors": [],
    }  # fmt: skip
    return json.dumps(told)


MUCH = _problem(413, "door.too_large", "That is too much", "That is more than fits in here.")
SLOWLY = _problem(
    429, "door.slowly", "Too many at once", "That was very much at once. Wait a moment."
)
AWAY = _problem(503, "door.away", "Not just now", "Oil Ward starts anew. What you typed is kept.")


def _public(house: House) -> Path:
    """What is shown without encryption: the authority's certificate and how to trust it."""
    public = house.home / "public"
    public.mkdir(mode=0o755, exist_ok=True)
    ca, there = house.tls / "ca.crt", public / "ca.crt"
    if ca.exists():
        there.write_bytes(ca.read_bytes())
        there.chmod(0o644)
    page = Template((ROOT / "ops" / "trust.html").read_text())
    number = house.by_number
    other = (
        f'<p>Where that name is not found: <a href="{number}">{number}</a></p>' if number else ""
    )
    words = {"fingerprint": fingerprint(house), "address": house.address, "or_by_number": other}
    (public / "trust.html").write_text(page.substitute(words))
    return public


def fingerprint(house: House) -> str:
    """The authority's, to compare before it is trusted; empty where the owner has a certificate."""
    file = house.tls / "ca.crt"
    if house.certificate or not file.exists():
        return ""
    words = ["openssl", "x509", "-in", str(file), "-outform", "DER"]
    raw = subprocess.run(words, capture_output=True, check=True).stdout
    return sha256(raw).digest().hex(":").upper()


def shown(house: House) -> Path:
    """Where it stands which certificate nginx was given."""
    return house.home / "nginx" / "shown"


def _server_name(host: str) -> str:
    return f"[{host}]" if ":" in host else host


def _connections(house: House) -> tuple[int, int]:
    """How many connections nginx keeps room for, and how many files it may have open: for each two, as
    far as this machine lets us."""
    room = max(CONNECTIONS, EACH * house.limits["connections_per_address"])
    _, most = resource.getrlimit(resource.RLIMIT_NOFILE)
    files = 4 * room if most == resource.RLIM_INFINITY else min(4 * room, most)
    return min(room, files // 2), files


def behind(house: House) -> Path:
    """Where everything behind nginx listens: sockets in a folder nobody else may enter, so that no other
    program of this machine ever answers in the place of one that fell, or asks one without nginx."""
    folder = house.home / "behind"
    folder.mkdir(mode=0o710, exist_ok=True)
    if os.geteuid() == 0:
        shutil.chown(folder, group=USER)
    folder.chmod(0o710)
    return folder


def clear(house: House) -> None:
    """Take away the sockets of a run that was killed."""
    for left in ("http", "https"):
        (house.home / "nginx" / left).unlink(missing_ok=True)


def configure(house: House) -> list[str]:
    """Write nginx's configuration; the command that runs it."""
    run, pair = house.home / "nginx", own(house)
    connections, files = _connections(house)
    run.mkdir(mode=0o755, exist_ok=True)
    config = run / "nginx.conf"
    config.write_text(
        CONFIG.substitute(
            user=f"user {USER};" if os.geteuid() == 0 else "",
            run=run,
            public=_public(house),
            certificate=pair.certificate,
            key=pair.key,
            behind=behind(house),
            **house.limits,
            burst_asks=8 * house.limits["requests_per_person"],
            burst_from=4 * house.limits["requests_per_address"],
            connections=connections,
            files=files,
            names=" ".join(dict.fromkeys(map(_server_name, (*house.hosts, *LOOPBACK)))),
            address=house.address,
            problem=PROBLEM,
            # our own authority may be another one tomorrow: no browser is to insist on today's
            hsts=""
            if house.certificate
            else 'add_header Strict-Transport-Security "max-age=0" always;',
            much=MUCH,
            slowly=SLOWLY,
            away=AWAY,
            http_port=house.http_port,
            https_port=house.https_port,
            to="" if house.https_port == 443 else f":{house.https_port}",
        )
    )
    shown(house).write_text(stamp(house))
    command = [NGINX, "-p", str(run), "-e", "stderr", "-c", str(config)]
    tried = subprocess.run([*command, "-t", "-q"], capture_output=True, text=True, check=False)
    if tried.returncode:
        raise SystemExit(f"nginx does not take its configuration:\n{tried.stderr.strip()}")
    return command
