"""The systemd units of a workshop's server, and of root's helper."""

import subprocess
import tempfile
from pathlib import Path
from string import Template

from . import authority

ACCOUNT = "oilward"
# root's: who serves reads the certificate in use and no more
TLS = Path("/var/lib/oilward-authority")
SYSTEMD = Path("/etc/systemd/system")
# what neither of them needs is shut
SHUT = """\
NoNewPrivileges=yes
PrivateTmp=yes
PrivateDevices=yes
ProtectSystem=strict
ProtectHome=yes
ProtectKernelTunables=yes
ProtectKernelModules=yes
ProtectControlGroups=yes
RestrictAddressFamilies=AF_UNIX AF_INET AF_INET6 AF_NETLINK
LockPersonality=yes"""
SERVICE = Template("""\
[Unit]
Description=Oil Ward, the workshop's own server
After=network-online.target oilward-authority.service
Wants=network-online.target oilward-authority.service

[Service]
User=$account
Environment=OILWARD_STATE=$state OILWARD_SETTINGS=$settings OILWARD_TLS=$tls OILWARD_LOW_PORTS=1
ExecStart=$ward serve
Restart=on-failure
RestartSec=5
TimeoutStopSec=90
AmbientCapabilities=CAP_NET_BIND_SERVICE
CapabilityBoundingSet=CAP_NET_BIND_SERVICE
$shut
ReadWritePaths=$writes

[Install]
WantedBy=multi-user.target
""")

# root's helper: it vouches for this machine's names, at the start, each day, and when it is asked to look
HELPER = Template("""\
[Unit]
Description=Oil Ward, certificates by the workshop's own authority

[Service]
Type=oneshot
Environment=OILWARD_STATE=$state OILWARD_SETTINGS=$settings OILWARD_TLS=$tls
ExecStart=$ward authority
CapabilityBoundingSet=CAP_CHOWN CAP_DAC_OVERRIDE CAP_FOWNER
$shut
ReadWritePaths=$tls
""")
DAILY = """\
[Unit]
Description=Oil Ward, a look at the certificates each day

[Timer]
OnCalendar=daily
Persistent=yes

[Install]
WantedBy=timers.target
"""
ASKED = Template("""\
[Unit]
Description=Oil Ward, a look at the certificates when this machine's names change

[Path]
PathModified=$asked
Unit=oilward-authority.service

[Install]
WantedBy=multi-user.target
""")
WAITS = ("oilward.service", "oilward-authority.timer", "oilward-authority.path")


def units(
    ward: Path, state: Path, settings: Path, backups: str = "", tls: Path = TLS
) -> dict[str, str]:
    """The systemd units' texts by their names; the service may write its data and its backups, and
    nothing else; the helper what it vouches for."""
    told = {"account": ACCOUNT, "ward": ward, "state": state, "settings": settings, "tls": tls}
    told["shut"] = SHUT
    writes = f"{state} -{backups}" if backups and not backups.startswith(str(state)) else str(state)
    return {
        "oilward.service": SERVICE.substitute(told, writes=writes),
        "oilward-authority.service": HELPER.substitute(told),
        "oilward-authority.timer": DAILY,
        "oilward-authority.path": ASKED.substitute(asked=state / "serve" / authority.ASKED),
    }


def verified(texts: dict[str, str]) -> str:
    """What systemd has against units; empty if nothing."""
    with tempfile.TemporaryDirectory() as folder:
        files = [Path(folder, name) for name in texts]
        for file in files:
            file.write_text(texts[file.name])
        words = ["systemd-analyze", "verify", "--man=no", *map(str, files)]
        done = subprocess.run(words, capture_output=True, text=True, check=False)
    return "\n".join(line for line in done.stderr.splitlines() if "oilward" in line)
