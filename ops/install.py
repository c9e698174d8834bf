"""./ward serve --install: a service of this machine, under an account of its own. Done again with another
release, it upgrades: backed up, migrated, or gone back."""

import os
import pwd
import shutil
import subprocess
import time
from pathlib import Path

from . import authority, passphrase
from .house import NAME, House, read_house
from .paths import DIST, ROOT, write_own
from .serve import build_web
from .units import ACCOUNT, SYSTEMD, TLS, WAITS, units, verified

OPT, ETC, VAR = Path("/opt/oilward"), Path("/etc/oilward"), Path("/var/lib/oilward")
RUNS = ("ward", "ops", "core", "server", "docs", "requirements.txt", "README.md", "CHANGELOG.md")
# of the packages: tests, words of other languages, what only type checkers and compilers read
LEFT_OUT = (
    "**/__pycache__", "**/tests", "pip*", "setuptools*", "**/*.pyi", "numpy/f2py",
    "numpy/_core/include", *(f"**/locale/[!e]*/LC_MESSAGES/*.{kind}o" for kind in "mp"),
    "**/locale/e[!n]*/LC_MESSAGES/*",
)  # fmt: skip
KEPT = 2  # releases: this one, and the one before


def _account() -> pwd.struct_passwd:
    try:
        return pwd.getpwnam(ACCOUNT)
    except KeyError:
        words = ["useradd", "--system", "--home-dir", str(VAR), "--shell", "/usr/sbin/nologin"]
        subprocess.run([*words, ACCOUNT], check=True)
        return pwd.getpwnam(ACCOUNT)


def _release() -> Path:
    """A copy of this release where the account can read it, with all it needs."""
    there = OPT / time.strftime("%Y-%m-%d-%H%M%S")
    there.mkdir(parents=True)
    listed = subprocess.run(["git", "-C", ROOT, "ls-files", "-z"], capture_output=True, check=False)
    names = [name.decode() for name in listed.stdout.split(b"\0") if name]
    if not names:
        raise SystemExit("This has to be run from a clone: git says which files belong to it.")
    for name in filter(_runs, names):
        (there / name).parent.mkdir(parents=True, exist_ok=True)
        shutil.copy2(ROOT / name, there / name)
    print(f"· Making ready in {there}", flush=True)
    build_web()
    shutil.copytree(DIST, there / "web" / "dist")
    _environment(there)
    (there / ".release").touch()
    return there


def _runs(name: str) -> bool:
    """Whether a file belongs to what runs: not to what builds it, tests it or tells of it."""
    parts = Path(name).parts
    return parts[0] in RUNS and not {"tests", "screenshots"} & set(parts)


def _environment(there: Path) -> None:
    """What it runs on, as the lock file has it, without what nothing here needs."""
    env = there / ".venv"
    subprocess.run(["/usr/bin/python3.11", "-m", "venv", env], check=True)
    pip = [f"{env}/bin/pip", "install", "--quiet", "--no-compile", "--require-hashes"]
    subprocess.run([*pip, "-r", f"{ROOT}/requirements.txt"], check=True)
    packages = env / "lib" / "python3.11" / "site-packages"
    for name in LEFT_OUT:
        for found in list(packages.glob(name)):
            shutil.rmtree(found) if found.is_dir() else found.unlink()
    # once, so that every start finds what it loads made ready
    words = "import django; django.setup(); import family as f; f.load(); f.solver()"
    path = {
        "PYTHONPATH": f"{there}/core:{there}/server",
        "DJANGO_SETTINGS_MODULE": "config.settings",
    }
    warm = [f"{env}/bin/python", "-c", words]
    told = {**os.environ, **path, "PYTHONDONTWRITEBYTECODE": ""}
    done = subprocess.run(warm, cwd=there, env=told, capture_output=True, text=True, check=False)
    if done.returncode:  # that there is no database yet is no fault
        raise SystemExit(f"What was put in cannot be loaded:\n{done.stderr[-2000:]}")


def earlier(folder: Path) -> list[Path]:
    """The releases that were put there, the newest first."""
    return sorted(folder.glob("20??-??-??-??????"), reverse=True)


ENVIRONMENT = {
    "OILWARD_STATE": str(VAR),
    "OILWARD_SETTINGS": str(ETC / NAME),
    "OILWARD_TLS": str(TLS),
}


def _as_account(ward: Path, command: str) -> int:
    env = [f"{name}={word}" for name, word in ENVIRONMENT.items()]
    words = ["runuser", "-u", ACCOUNT, "--", "env", *env, str(ward), command]
    return subprocess.run(words, check=False).returncode


def _roots_from_now_on(house: House) -> str:
    """What the service must not have is root's; an authority that a release before kept with the data is
    taken along. The passphrase, if it was made now."""
    TLS.mkdir(mode=0o755, exist_ok=True)
    left = _kept_with_the_data(house)
    if left.is_dir() and not left.is_symlink() and not (TLS / "ca.key").exists():
        for file in left.iterdir():
            if file.is_file() and not file.is_symlink():
                write_own(TLS / file.name, file.read_text())
    made = passphrase.make(house)
    authority.see_to(house)
    return made


def _kept_with_the_data(house: House) -> Path:
    """Where a release before kept its authority; it stays until that release is no more needed."""
    return house.home / "tls"


def _systemctl(*words: str) -> bool:
    if not Path("/run/systemd/system").is_dir():
        return False
    subprocess.run(["systemctl", *words], check=True)
    return True


def _put_in_place(release: Path, current: Path) -> None:
    """The release that runs from now on; the oldest ones go."""
    link = OPT / "next"
    link.unlink(missing_ok=True)
    link.symlink_to(release)
    link.replace(current)
    for old in earlier(OPT)[KEPT:]:
        shutil.rmtree(old)


def install() -> int:
    """Put this release where the account can read it, and let systemd run it from now on."""
    if os.geteuid():
        raise SystemExit("A service is put in by root: sudo ./ward serve --install")
    account, release = _account(), _release()
    VAR.mkdir(mode=0o755, exist_ok=True)
    ETC.mkdir(mode=0o755, exist_ok=True)
    os.environ |= ENVIRONMENT
    house = read_house()
    for path in (VAR, house.home, house.home / "clone"):
        os.chown(path, account.pw_uid, account.pw_gid)
    current, backups = OPT / "current", str(house.backup.get("folder", ""))
    if against := verified(units(release / "ward", VAR, ETC / NAME, backups)):
        shutil.rmtree(release)
        raise SystemExit(f"systemd does not take the units:\n{against}")
    made = _roots_from_now_on(house)
    try:
        if code := _brought_up_to_date(house, release):
            return code
        _put_in_place(release, current)
        _let_it_run(current, backups)
    finally:
        if made:
            print(passphrase.SHOWN.format(passphrase=made), flush=True)
    return 0


def _brought_up_to_date(house: House, release: Path) -> int:
    """The data of a workshop that is here already; the release of before goes on if that fails."""
    if (house.home / "pg").exists():
        if (OPT / "current").exists():
            _systemctl("stop", "oilward")
        if code := _as_account(release / "ward", "upgrade"):
            shutil.rmtree(release)
            _systemctl("start", "oilward")
            return code
    shutil.rmtree(_kept_with_the_data(house), ignore_errors=True)
    return 0


def _let_it_run(current: Path, backups: str) -> None:
    for name, text in units(current / "ward", VAR, ETC / NAME, backups).items():
        (SYSTEMD / name).write_text(text)
    if _systemctl("daemon-reload"):
        _systemctl("enable", "--quiet", "--now", *WAITS)
        print(
            "· Oil Ward runs, and will after every start of this machine: systemctl status oilward"
        )
    else:
        print(
            f"· systemd does not run here. {SYSTEMD}/oilward.service waits for it; "
            f"{current}/ward serve runs it by hand."
        )
    print(f"· Settings: {ETC / NAME}. The first lead: sudo oilward first-lead NAME", flush=True)
    _command(current)


def _command(current: Path) -> None:
    """`oilward`: the service's commands, as its account, from anywhere; what is root's as root."""
    file = Path("/usr/local/bin/oilward")
    told = " ".join(f"{name}={word}" for name, word in ENVIRONMENT.items())
    file.write_text(
        "#!/bin/sh\n# Oil Ward's commands on the data of this machine's service, as its account.\n"
        f'case "$1" in authority | passphrase) exec env {told} {current}/ward "$@" ;; esac\n'
        f'exec runuser -u {ACCOUNT} -- env {told} OILWARD_LOW_PORTS=1 {current}/ward "$@"\n'
    )
    file.chmod(0o755)
