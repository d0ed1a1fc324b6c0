"""The front: nginx before the web processes.

It takes each request in whole before a web process hears of it, so that slow visitors hold nothing up; it
sends scripts and kept pictures by itself, compresses what is text, and has its own answers where the web
processes are away.
"""

import hashlib
import json
import os
import shutil
import subprocess
from pathlib import Path

from .places import TOOLS, WEB
from .say import run, say

#: Largest body in MiB of a request that the web processes let in (``saucer_server.people.uploads.LARGEST``).
UPLOAD = 4200
#: Bodies of six digits of bytes and more are asked about before they are stored
#: (``saucer_server.bodies.SMALL``); others stay in memory.
SMALL = 100_000
#: Connections from one address; a browser opens six, an office of two hundred shares one.
CONNECTIONS = 2000
#: Addresses of pictures that are kept.
PICTURE = "^/api/(revisions/[0-9]+/(still|saucer)|frames/[0-9]+/still|projects/[0-9]+/shots/[0-9]+/still)$"
#: MiB of kept pictures.
PICTURES = 512
_UNPACKED = TOOLS / "nginx"


def program() -> Path | None:
    """nginx: the machine's own, or Debian's package unpacked beside Saucer; None where neither can be had.

    The package is not installed: that would start a server of its own on port 80.
    """
    own = shutil.which("nginx", path=f"{os.environ.get('PATH', '')}:/usr/sbin")
    if own:
        return Path(own)
    there = _UNPACKED / "usr" / "sbin" / "nginx"
    if not there.is_file():
        _unpack()
    return (
        there
        if there.is_file() and subprocess.run([there, "-v"], capture_output=True).returncode == 0
        else None
    )


def _unpack() -> None:
    say("getting nginx from Debian")
    packed = TOOLS / "packages"
    packed.mkdir(parents=True, exist_ok=True)
    fetch = ["apt-get", "download", "nginx"]
    if subprocess.run(fetch, cwd=packed, capture_output=True).returncode and os.geteuid() == 0:
        subprocess.run(["apt-get", "update"], capture_output=True)
        subprocess.run(fetch, cwd=packed, capture_output=True)
    for package in packed.glob("nginx_*.deb"):
        run(["dpkg-deb", "-x", package, _UNPACKED])
    shutil.rmtree(packed)


def pass_secret(key: str) -> str:
    """What signs the passes to kept pictures (``saucer_server.people.passes``), made from the installation's
    own key."""
    return hashlib.sha256(f"pictures {key}".encode()).hexdigest()[:40]


#: What the front says by itself: the errors of nginx, the status that is given, and the words.
_SAID = (
    ("400", 400, "That is no request Saucer can read."),
    ("404", 404, "There is nothing at this address."),
    ("408", 408, "The request took too long to arrive. Try again."),
    ("405", 405, "That is not done at this address."),
    ("413", 413, "That is more than may be sent here."),
    ("414 431 494", 414, "The address of the request is longer than Saucer takes."),
    ("429", 429, "Too much is asked for at once from here. Try again in a moment."),
    (
        "500 502 504",
        503,
        "Saucer is not reachable at this moment. What you changed is kept here; it goes on by itself.",
    ),
)


#: What the web processes say no to a body with; the words are theirs.
_REFUSALS = (400, 401, 403, 404, 411, 413, 429, 507)


def _said() -> str:
    lines = ["error_page 401 403 = /-/refused/$refused;"]
    for errors, status, words in _SAID:
        body = json.dumps({"message": words, "detail": {}})
        lines += [
            f"error_page {errors} = /-/{status};",
            f"location = /-/{status} {{ internal; return {status} '{body}'; }}",
        ]
    lines += [
        f"location = /-/refused/{status} {{ internal; return {status} $refused_words; }}"
        for status in _REFUSALS
    ]
    return "\n    ".join(lines)


def write(home: Path, *, listen: str, behind: int, secret: str, files: Path | None = None) -> Path:
    """Makes the front's own folder with its configuration, which it gives; bodies that were arriving when a
    front was killed go."""
    shutil.rmtree(home / "body", ignore_errors=True)
    home.mkdir(parents=True, exist_ok=True)
    for folder in ("body", "answers", "pictures", "unused"):
        (home / folder).mkdir(exist_ok=True)
    written = home / "nginx.conf"
    written.write_text(configuration(home, listen=listen, behind=behind, secret=secret, files=files))
    written.chmod(0o600)
    return written


def configuration(home: Path, *, listen: str, behind: int, secret: str, files: Path | None = None) -> str:
    """Nginx's configuration. home: its own folder. listen: address and port. behind: the port of the web
    processes. files: where kept files lie, if on this machine."""
    certificate, key = os.environ.get("SAUCER_CERTIFICATE"), os.environ.get("SAUCER_CERTIFICATE_KEY")
    tls = (
        f'ssl_certificate "{certificate}"; ssl_certificate_key "{key}"; ssl_protocols TLSv1.2 TLSv1.3;'
        if certificate
        else ""
    )
    trusted = [a for a in os.environ.get("SAUCER_PROXY", "").split(",") if a]
    real = "".join(f"set_real_ip_from {a}; " for a in trusted) + (
        "real_ip_header X-Forwarded-For; real_ip_recursive on;" if trusted else ""
    )
    # What a proxy in front of this one says of the way it was asked is believed only where that proxy is
    # named.
    scheme = "$http_x_forwarded_proto" if trusted else "$scheme"
    # Kept files, range by range, for whom a web process says may have them.
    handed = f'location /-/files/ {{ internal; alias "{files}/"; }}' if files else ""
    dist = WEB / "dist"
    user = "user root;" if os.geteuid() == 0 else ""
    return f"""\
daemon off;
{user}
worker_processes 1;
worker_rlimit_nofile 20000;
pid "{home}/nginx.pid";
error_log stderr crit;
events {{ worker_connections 8192; }}
http {{
  access_log off;
  server_tokens off;
  types {{
    text/html html; text/css css; application/javascript js; application/json json map;
        image/svg+xml svg; image/png png;
    font/woff2 woff2; image/x-icon ico;
  }}
  default_type application/octet-stream;
  sendfile on;
  tcp_nopush on;
  client_body_temp_path "{home}/body";
  proxy_temp_path "{home}/answers";
  fastcgi_temp_path "{home}/unused";
  uwsgi_temp_path "{home}/unused";
  scgi_temp_path "{home}/unused";
  client_max_body_size {UPLOAD}m;
  client_body_buffer_size {SMALL};
  client_header_timeout 15s;
  client_body_timeout 30s;
  send_timeout 60s;
  keepalive_timeout 75s;
  reset_timedout_connection on;
  large_client_header_buffers 8 8000;
  limit_conn_zone $binary_remote_addr zone=addresses:4m;
  limit_conn addresses {CONNECTIONS};
  limit_conn_status 429;
  gzip on;
  gzip_vary on;
  gzip_comp_level 4;
  gzip_min_length 1024;
  gzip_proxied any;
  gzip_types application/json application/javascript text/css text/plain image/svg+xml application/xml;
  {real}
  proxy_cache_path "{home}/pictures" levels=1:2 keys_zone=pictures:8m
        max_size={PICTURES}m inactive=7d use_temp_path=off;
  map $cookie_saucer_pictures $pass_sum {{ default ""; "~^(?<sum>[A-Za-z0-9_-]+)[.][0-9]+$" $sum; }}
  map $cookie_saucer_pictures $pass_until {{ default ""; "~^[A-Za-z0-9_-]+[.](?<until>[0-9]+)$" $until; }}
  # Whether a body is small enough to be taken from anybody.
  map "$http_transfer_encoding|$content_length" $small {{ default ""; "~^[|][0-9]{{0,5}}$" 1; }}
  upstream web {{ server 127.0.0.1:{behind} max_fails=0; }}
  server {{
    listen {listen}{" ssl" if certificate else ""};
    {tls}
    proxy_set_header Host $http_host;
    proxy_set_header X-Real-IP $remote_addr;
    proxy_set_header X-Forwarded-Proto {scheme};
    proxy_set_header X-Request-ID $request_id;
    proxy_http_version 1.1;
    proxy_set_header Connection "";
    proxy_connect_timeout 5s;
    proxy_read_timeout 150s;
    proxy_buffer_size 16k;
    proxy_buffers 32 64k;
    proxy_busy_buffers_size 128k;
    default_type application/json;
    {_said()}
    location /assets/ {{
      root "{dist}";
      error_page 403 404 = /-/404;
      gzip_static on;
      add_header Cache-Control "public, max-age=31536000, immutable";
      add_header X-Content-Type-Options nosniff;
    }}
    # Pictures by what they are made from: whoever has a pass gets one that is here already,
    # without a web process.
    location ~ {PICTURE} {{
      client_max_body_size {SMALL};
      secure_link $pass_sum,$pass_until;
      secure_link_md5 "$secure_link_expires {secret}";
      set $ask 1;
      if ($secure_link = "1") {{ set $ask ""; }}
      proxy_cache pictures;
      proxy_cache_key $request_uri;
      proxy_cache_bypass $ask;
      proxy_cache_lock on;
      proxy_ignore_headers Cache-Control Expires Vary;
      add_header X-Kept $upstream_cache_status always;
      proxy_pass http://web;
    }}
    # A large body is stored only once the web processes have said yes to it.
    location = /-/ask {{
      internal;
      if ($small) {{ return 204; }}
      proxy_pass_request_body off;
      proxy_set_header Content-Length "";
      proxy_set_header Transfer-Encoding "";
      proxy_set_header Host $http_host;
      proxy_set_header X-Real-IP $remote_addr;
      proxy_set_header X-Forwarded-Proto {scheme};
      proxy_set_header X-Request-ID $request_id;
      proxy_set_header Connection "";
      proxy_set_header X-Asked-Method $request_method;
      proxy_set_header X-Asked-Path $request_uri;
      proxy_set_header X-Asked-Length $content_length;
      proxy_pass http://web/-/body;
    }}
    {handed}
    location /-/ {{ return 404; }}
    location / {{
      auth_request /-/ask;
      auth_request_set $refused $upstream_http_x_refused;
      auth_request_set $refused_words $upstream_http_x_refused_words;
      proxy_pass http://web;
    }}
  }}
}}
"""
