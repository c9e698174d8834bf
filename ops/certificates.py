"""Certificates for the workshop's network: an authority of its own, made once, and what it vouches for.
All of it is OpenSSL's work."""

import subprocess
from dataclasses import dataclass
from hashlib import sha256
from ipaddress import ip_address, ip_network
from pathlib import Path

from .house import House

CA_DAYS, DAYS, RENEW_DAYS = 3650, 397, 30
_CURVE = ("-newkey", "ec", "-pkeyopt", "ec_paramgen_curve:P-256", "-nodes")


@dataclass(frozen=True)
class Pair:
    certificate: Path
    key: Path


def _openssl(*words: str | Path) -> str:
    done = subprocess.run(
        ["openssl", *map(str, words)], capture_output=True, text=True, check=False
    )
    if done.returncode:
        raise SystemExit(f"openssl {words[0]} stopped: {done.stderr.strip()}")
    return done.stdout


def _kept_to_oneself(file: Path) -> Path:
    file.touch(mode=0o600)
    return file


# what it may ever vouch for besides its own names: a local network's names and addresses
_LOCAL = (
    *("local", "localhost", "127.0.0.0/8", "10.0.0.0/8", "172.16.0.0/12", "192.168.0.0/16"),
    *("169.254.0.0/16", "fc00::/7", "fe80::/10"),
)
LIMITS = "ca.limits"  # what it may vouch for, a line each


def _constraint(limit: str) -> str:
    """A name with what is below it, an address or a range of them, as OpenSSL writes it."""
    try:
        return f"permitted;IP:{ip_network(limit).with_netmask}"
    except ValueError:
        return f"permitted;DNS:{limit}"


def _within(host: str, limit: str) -> bool:
    try:
        return ip_address(host) in ip_network(limit)
    except ValueError:
        return host == limit or host.endswith(f".{limit}")


def vouched(folder: Path, hosts: tuple[str, ...]) -> tuple[str, ...]:
    """Those of the hosts that the authority there may vouch for: all, where it has no limits, as those of
    earlier releases have none."""
    told = folder / LIMITS
    if not told.exists():
        return hosts
    limits = told.read_text().split()
    return tuple(host for host in hosts if any(_within(host, limit) for limit in limits))


def authority(folder: Path, hosts: tuple[str, ...]) -> Pair:
    """The workshop's own authority; made once, for ten years, and for nothing but its own names and a
    local network's: whoever has its key can stand for no other site."""
    limits = tuple(dict.fromkeys([*hosts, *_LOCAL]))
    made = Pair(folder / "ca.crt", folder / "ca.key")
    if not made.certificate.exists():
        folder.mkdir(mode=0o755, parents=True, exist_ok=True)
        (folder / LIMITS).write_text("\n".join(limits))
        _openssl(
            "req", "-x509", *_CURVE, "-keyout", _kept_to_oneself(made.key), "-out", made.certificate,
            "-days", str(CA_DAYS), "-subj", "/O=Oil Ward/CN=Oil Ward, this workshop's own authority",
            "-addext", "basicConstraints=critical,CA:TRUE,pathlen:0",
            "-addext", "keyUsage=critical,keyCertSign,cRLSign",
            "-addext", f"nameConstraints=critical,{','.join(map(_constraint, limits))}",
        )  # fmt: skip
    return made


def _named(host: str) -> str:
    try:
        return f"IP:{ip_address(host)}"
    except ValueError:
        return f"DNS:{host}"


def lasts(certificate: Path, days: int) -> bool:
    """Whether a certificate is good for so many days more."""
    seconds = str(days * 24 * 3600)
    words = ["openssl", "x509", "-checkend", seconds, "-noout", "-in", str(certificate)]
    return subprocess.run(words, capture_output=True, check=False).returncode == 0


def proven(folder: Path) -> None:
    """Stop where the certificate and key there are no authority, or do not belong together."""
    certificate, key = folder / "ca.crt", folder / "ca.key"
    whose = _openssl("x509", "-in", certificate, "-noout", "-pubkey")
    kind = _openssl("x509", "-in", certificate, "-noout", "-ext", "basicConstraints")
    if whose != _openssl("pkey", "-in", key, "-pubout") or "CA:TRUE" not in kind:
        raise SystemExit(
            "That is no authority: its certificate and its key do not belong together."
        )


def unvouched(folder: Path, house: House) -> str:
    """The hosts that have to be vouched for and cannot be: what a person has named has to be right; a
    name the machine has come to have may be left out, as long as one is left."""
    hosts = vouched(folder, house.hosts)
    left = [host for host in house.hosts if host not in hosts]
    return ", ".join(left) if left and (house.named or not hosts) else ""


_NOT_ITS = (
    "The workshop's authority does not vouch for {hosts}: it was made for other names. Take them "
    "out of the settings, or move {folder} away: then a new authority is made, and each tablet "
    "learns to trust it once more."
)


def _issue(folder: Path, ca: Pair, hosts: tuple[str, ...], made: Pair) -> None:
    told, asked = folder / "server.ext", folder / "server.csr"
    told.write_text(
        f"subjectAltName={','.join(map(_named, hosts))}\nbasicConstraints=critical,CA:FALSE\n"
        "keyUsage=critical,digitalSignature\nextendedKeyUsage=serverAuth\n"
    )
    key, certificate = folder / "server.key.new", folder / "server.crt.new"
    _openssl(
        "req", *_CURVE, "-keyout", _kept_to_oneself(key), "-out", asked, "-subj", "/O=Oil Ward"
    )
    _openssl(
        "x509", "-req", "-in", asked, "-CA", ca.certificate, "-CAkey", ca.key, "-CAcreateserial",
        "-days", str(DAYS), "-out", certificate, "-extfile", told,
    )  # fmt: skip
    key.rename(made.key)
    certificate.rename(made.certificate)


def renew(house: House) -> bool:
    """See to it that there is a certificate for the hosts as they are named now, good for a month more;
    whether it is another one. The owner's own is left alone."""
    if house.certificate:
        return False
    folder = house.tls
    ca, made, names = authority(folder, house.hosts), own(house), folder / "server.hosts"
    hosts = vouched(folder, house.hosts)
    if left := unvouched(folder, house):
        raise SystemExit(_NOT_ITS.format(hosts=left, folder=folder))
    wanted = "\n".join(hosts)
    named = names.exists() and names.read_text() == wanted
    if made.certificate.exists() and named and lasts(made.certificate, RENEW_DAYS):
        return False
    _issue(folder, ca, hosts, made)
    names.write_text(wanted)
    return True


def own(house: House) -> Pair:
    """Where the certificate in use is. Stops with a sentence where the owner's own is not there."""
    if not house.certificate:
        return Pair(house.tls / "server.crt", house.tls / "server.key")
    pair = Pair(Path(house.certificate), Path(house.key))
    for file in (pair.certificate, pair.key):
        if not file.is_file():
            raise SystemExit(f"The settings name {file}, and there is no such file.")
    return pair


def stamp(house: House) -> str:
    """What tells the certificate in use from another one."""
    file = own(house).certificate
    return sha256(file.read_bytes()).hexdigest() if file.is_file() else ""
