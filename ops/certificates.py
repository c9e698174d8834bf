"""Certificates for the workshop's network: an authority of its own, made once, and what it vouches for.
All of it is OpenSSL's work."""

import subprocess
from dataclasses import dataclass
from ipaddress import ip_address
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
    *("DNS:local", "DNS:localhost", "IP:127.0.0.0/255.0.0.0", "IP:10.0.0.0/255.0.0.0"),
    *("IP:172.16.0.0/255.240.0.0", "IP:192.168.0.0/255.255.0.0", "IP:169.254.0.0/255.255.0.0"),
    *(f"IP:fc00::/fe00:{'0:' * 6}0", f"IP:fe80::/ffc0:{'0:' * 6}0"),
)


def _itself(host: str) -> str:
    """A host as a constraint has it: one name with what is below it, or one address."""
    try:
        address = ip_address(host)
    except ValueError:
        return f"DNS:{host}"
    whole = "255.255.255.255" if address.version == 4 else ":".join(["ffff"] * 8)
    return f"IP:{address}/{whole}"


def authority(folder: Path, hosts: tuple[str, ...]) -> Pair:
    """The workshop's own authority; made once, for ten years, and for nothing but its own names and a
    local network's: whoever has its key can stand for no other site."""
    named = dict.fromkeys([*map(_itself, hosts), *_LOCAL])
    limits = ",".join(f"permitted;{one}" for one in named)
    made = Pair(folder / "ca.crt", folder / "ca.key")
    if not made.certificate.exists():
        folder.mkdir(mode=0o755, parents=True, exist_ok=True)
        _openssl(
            "req", "-x509", *_CURVE, "-keyout", _kept_to_oneself(made.key), "-out", made.certificate,
            "-days", str(CA_DAYS), "-subj", "/O=Oil Ward/CN=Oil Ward, this workshop's own authority",
            "-addext", "basicConstraints=critical,CA:TRUE,pathlen:0",
            "-addext", "keyUsage=critical,keyCertSign,cRLSign",
            "-addext", f"nameConstraints=critical,{limits}",
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


_NOT_ITS = (
    "The workshop's authority does not vouch for all of {hosts}: it was made for other names. Take the "
    "others out of the settings, or move {folder} away: then a new authority is made, and each tablet "
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
    words = ["openssl", "verify", "-CAfile", str(ca.certificate), str(certificate)]
    done = subprocess.run(words, capture_output=True, text=True, check=False)
    if done.returncode:
        raise SystemExit(_NOT_ITS.format(hosts=", ".join(hosts), folder=folder))
    key.rename(made.key)
    certificate.rename(made.certificate)


def renew(house: House) -> bool:
    """See to it that there is a certificate for the hosts as they are named now, good for a month more;
    whether it is another one. The owner's own is left alone."""
    if house.certificate:
        return False
    folder = house.home / "tls"
    ca, made, names = authority(folder, house.hosts), own(house), folder / "server.hosts"
    wanted = "\n".join(house.hosts)
    named = names.exists() and names.read_text() == wanted
    if made.certificate.exists() and named and lasts(made.certificate, RENEW_DAYS):
        return False
    _issue(folder, ca, house.hosts, made)
    names.write_text(wanted)
    return True


def own(house: House) -> Pair:
    """Where the certificate in use is. Stops with a sentence where the owner's own is not there."""
    if not house.certificate:
        return Pair(house.home / "tls" / "server.crt", house.home / "tls" / "server.key")
    pair = Pair(Path(house.certificate), Path(house.key))
    for file in (pair.certificate, pair.key):
        if not file.is_file():
            raise SystemExit(f"The settings name {file}, and there is no such file.")
    return pair
