"""Debian's nginx in front: HTTPS on the workshop's network, patience with slow tablets, and the page
where a tablet learns to trust the workshop."""

import os
import subprocess
from hashlib import sha256
from pathlib import Path
from string import Template

from .certificates import own
from .house import House
from .paths import ROOT

NGINX = "/usr/sbin/nginx"
CONFIG = Template("""\
$user
worker_processes 2;
daemon off;
pid $run/nginx.pid;
error_log stderr warn;
events { worker_connections 512; }
http {
  access_log off;
  server_tokens off;
  default_type application/octet-stream;
  client_max_body_size 16m;
  client_body_temp_path $run/body;
  proxy_temp_path $run/proxy;
  fastcgi_temp_path $run/fastcgi;
  uwsgi_temp_path $run/uwsgi;
  scgi_temp_path $run/scgi;

  server {
    listen $http_port;
    location = / { alias $public/; index trust.html; default_type text/html; }
    location = /trust.html { alias $public/trust.html; default_type text/html; }
    location = /oilward-ca.crt {
      alias $public/ca.crt;
      default_type application/x-x509-ca-cert;
      add_header Content-Disposition 'attachment; filename="oilward-ca.crt"';
    }
    location / { return 301 https://$$host$to$$request_uri; }
  }

  server {
    listen $https_port ssl http2;
    ssl_certificate $certificate;
    ssl_certificate_key $key;
    ssl_protocols TLSv1.2 TLSv1.3;
    ssl_session_cache shared:oilward:2m;
    # whoever comes by plain http is sent to the right door
    error_page 497 =301 https://$$http_host$$request_uri;

    proxy_http_version 1.1;
    proxy_set_header Host $$http_host;
    proxy_set_header X-Forwarded-Proto https;
    proxy_set_header X-Forwarded-For $$remote_addr;
    proxy_set_header Connection "";
    location /events/ {
      proxy_pass http://127.0.0.1:$events;
      proxy_buffering off;
      proxy_read_timeout 120s;
    }
    location / { proxy_pass http://127.0.0.1:$app; }
  }
}
""")


def _public(house: House) -> Path:
    """What is shown without encryption: the authority's certificate and how to trust it."""
    public = house.home / "public"
    public.mkdir(mode=0o755, exist_ok=True)
    ca, there = house.home / "tls" / "ca.crt", public / "ca.crt"
    if ca.exists():
        there.write_bytes(ca.read_bytes())
        there.chmod(0o644)
    page = Template((ROOT / "ops" / "trust.html").read_text())
    (public / "trust.html").write_text(
        page.substitute(fingerprint=fingerprint(house), address=house.address)
    )
    return public


def fingerprint(house: House) -> str:
    """The authority's, to compare before it is trusted; empty where the owner has a certificate."""
    file = house.home / "tls" / "ca.crt"
    if house.certificate or not file.exists():
        return ""
    words = ["openssl", "x509", "-in", str(file), "-outform", "DER"]
    raw = subprocess.run(words, capture_output=True, check=True).stdout
    return sha256(raw).digest().hex(":").upper()


def configure(house: House, app: int, events: int) -> list[str]:
    """Write nginx's configuration; the command that runs it."""
    run, pair = house.home / "nginx", own(house)
    run.mkdir(mode=0o755, exist_ok=True)
    config = run / "nginx.conf"
    config.write_text(
        CONFIG.substitute(
            user="user www-data;" if os.geteuid() == 0 else "",
            run=run,
            public=_public(house),
            certificate=pair.certificate,
            key=pair.key,
            app=app,
            events=events,
            http_port=house.http_port,
            https_port=house.https_port,
            to="" if house.https_port == 443 else f":{house.https_port}",
        )
    )
    command = [NGINX, "-p", str(run), "-e", "stderr", "-c", str(config)]
    tried = subprocess.run([*command, "-t", "-q"], capture_output=True, text=True, check=False)
    if tried.returncode:
        raise SystemExit(f"nginx does not take its configuration:\n{tried.stderr.strip()}")
    return command
