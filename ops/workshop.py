"""./ward serve: a workshop's own server, for its network; and who lends it its first key."""

import argparse
import os
import signal
import socket
import subprocess
import sys
import time
from collections.abc import Callable
from dataclasses import dataclass, field, replace

from workshop.keeping.hosts import is_number

from . import archive, authority, nginx, passphrase
from .children import child, end, end_group, end_orphans, note_groups
from .house import House, own_hosts, read_house
from .journal import begin, follow, log
from .keep import Keeper
from .paths import SERVER
from .postgres import Postgres
from .serve import (
    build_web,
    by_socket,
    manage,
    migrate,
    stop_on_signals,
    wait_until_up,
)

LOOK, MINUTE = 0.5, 60.0
# a process that falls more often than this in so many seconds stays down
MOST_FALLS, WITHIN = 5, 60.0


@dataclass(kw_only=True)
class Kept:
    """A process that is started anew when it falls."""

    name: str
    words: list[str]
    env: dict[str, str]
    before: Callable[[], None] = lambda: None
    process: "subprocess.Popen[bytes] | None" = None
    fell: list[float] = field(default_factory=list)

    def start(self) -> None:
        self.before()
        # a group of its own: what it started goes with it
        self.process = child(
            self.words, cwd=SERVER, env=self.env, stdout=subprocess.PIPE, stderr=subprocess.STDOUT,
            start_new_session=True,
        )  # fmt: skip
        follow(self.name, self.process)

    def look(self) -> None:
        """Start it anew if it fell. Stops everything where it falls again and again."""
        if self.process is None or self.process.poll() is None:
            return
        now = time.monotonic()
        self.fell = [*(at for at in self.fell if now - at < WITHIN), now]
        log.error("%s ended (%s); starting it anew", self.name, self.process.returncode)
        if len(self.fell) > MOST_FALLS:
            raise SystemExit(f"{self.name} ends again and again. What it says stands in the log.")
        end_group(self.process)
        self.start()

    def end(self) -> None:
        end(self.process)
        end_group(self.process)

    def anew(self, env: dict[str, str]) -> None:
        """Start it again, told something else."""
        self.end()
        self.env = env
        self.start()


def processes(house: House, env: dict[str, str]) -> list[Kept]:
    """Everything that runs for a workshop: all that is Python, and nginx in front."""
    return [
        # many threads, and no memory laid by for each of them
        Kept(
            name="family",
            words=[sys.executable, "-m", "family", str(nginx.behind(house))],
            env={**env, "MALLOC_ARENA_MAX": "2"},
        ),
        Kept(
            name="nginx",
            words=nginx.configure(house),
            env={"PATH": "/usr/sbin:/usr/bin"},
            before=lambda: nginx.clear(house),
        ),
    ]


def until_up(house: House, family: Kept) -> None:
    """Wait for those who answer, and for those who let in: a name and a password typed at once are
    taken."""
    for name in ("app", "doors"):
        wait_until_up(by_socket(nginx.behind(house) / name, house.hosts[0]), family.process)


def _doors_free(house: House) -> None:
    """Stop with a sentence where another program has a port of the settings."""
    for name in ("https_port", "http_port"):
        port = getattr(house, name)
        with socket.socket() as probe:
            probe.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
            try:
                probe.bind(("", port))
            except PermissionError:
                raise SystemExit(f"{name} {port}: who is not root takes one above 1024.") from None
            except OSError:
                raise SystemExit(
                    f"{name} {port} is taken by another program on this machine. Stop that one, or "
                    f"choose another port in {house.settings}."
                ) from None


def _hosts(house: House) -> str:
    return ",".join([*house.hosts, "127.0.0.1", "localhost"])


def environment(postgres: Postgres, house: House) -> dict[str, str]:
    """What leads Django to this workshop's data, in the settings of a server."""
    return {
        **postgres.environment(),
        "DJANGO_SETTINGS_MODULE": "config.settings_serve",
        "OILWARD_HOSTS": _hosts(house),
        "OILWARD_HSTS": "1" if house.certificate else "0",
        "OILWARD_STREAMS_PER_PERSON": str(house.limits["streams_per_person"]),
        "OILWARD_KEPT": str(house.home / "kept.json"),
    }


def _welcome_words(house: House, env: dict[str, str]) -> None:
    port = "" if house.http_port == 80 else f":{house.http_port}"
    numbers = [host for host in house.hosts if is_number(host)]
    # a name is asked of the network, where a number is there
    plain = f"http://{(numbers or house.hosts)[0]}{port}"
    other = f", or {house.by_number} where that name is not found" if house.by_number else ""
    print(f"\nOil Ward is up: {house.address}{other}")
    if not house.certificate:
        print(f"A new tablet first opens {plain} and learns to trust this workshop. Fingerprint:")
        print(f"  {nginx.fingerprint(house)}")
    try:
        manage(env, "first_lead", "--look")
    except subprocess.CalledProcessError:
        # the database fell just now: it comes back, this need not
        log.error("whether anybody leads it could not be looked up")
    print(f"Settings: {house.settings}   Log: {house.home / 'log'}", flush=True)


def _found_elsewhere(house: House, running: list[Kept]) -> House:
    """Look whether the network has given this machine another address, and whether the certificate is
    still good; let everything know of it."""
    now = house if house.named else replace(house, hosts=own_hosts())
    # an address that went takes nothing along: the network may be gone for a minute
    moved = not set(now.hosts) <= set(house.hosts)
    now = now if moved else house
    if moved:
        log.warning("this machine's addresses are now %s", ", ".join(now.hosts))
        hosts = {"OILWARD_HOSTS": _hosts(now)}
        for one in running[:-1]:
            one.anew({**one.env, **hosts})
    if authority.renewed(now, nginx.shown(now), ask=moved) or moved:
        log.info("nginx reads names and certificate anew")
        nginx.configure(now)
        if front := running[-1].process:
            front.send_signal(signal.SIGHUP)
    return now


@dataclass(kw_only=True)
class Watch:
    """Looks after everything that runs, until it is told to stop."""

    house: House
    postgres: Postgres
    running: list[Kept]
    keeper: Keeper
    looked: float = field(default_factory=time.monotonic)
    noted: list[int] = field(default_factory=list)

    def keep(self) -> None:
        while True:
            try:
                self._look()
            except OSError as error:  # the disk is full, for one: what runs goes on
                log.error("looking after everything: %s", error)
            time.sleep(LOOK)

    def _look(self) -> None:
        self._database()
        for one in self.running:
            one.look()
        groups = [one.process.pid for one in self.running if one.process]
        if groups != self.noted:
            note_groups(self.house.home, groups)
            self.noted = groups
        if time.monotonic() - self.looked > MINUTE:
            self.looked = time.monotonic()
            self.house = _found_elsewhere(self.house, self.running)
        self.keeper.look()

    def _database(self) -> None:
        """Start it anew if it fell; where it does not come, as on a full disk, again and again."""
        if not self.postgres.fallen():
            return
        log.error("the database ended; starting it anew")
        try:
            self.postgres.revive()
        except SystemExit as error:
            log.error("it does not come back: %s", error)
        else:
            log.info("the database is back")


def serve(words: list[str]) -> int:
    """./ward serve: everything a workshop needs, set up by itself, until Ctrl-C or SIGTERM."""
    parser = argparse.ArgumentParser(prog="./ward serve")
    parser.add_argument("--install", action="store_true", help="as a service of this machine")
    if parser.parse_args(words).install:
        from .install import install

        return install()
    stop_on_signals()
    house, postgres, running = read_house(), Postgres("serve"), list[Kept]()
    postgres.claim()
    end_orphans(house.home)
    _doors_free(house)
    try:
        build_web()
        if made := authority.begin(house):
            print(passphrase.SHOWN.format(passphrase=made), flush=True)
        begin(house.home / "log")
        archive.started(house, postgres)
        print("· 6 of 6: bringing the database up to date", flush=True)
        migrate(postgres)
        env = {**os.environ, **environment(postgres, house)}
        manage(env, "open_workshop")
        running = processes(house, env)
        for one in running:
            one.start()
        until_up(house, running[0])
        _welcome_words(house, env)
        Watch(house=house, postgres=postgres, running=running, keeper=Keeper("serve", house)).keep()
    except KeyboardInterrupt:
        print("\n· Stopping", flush=True)
    finally:
        for one in reversed(running):
            one.end()
        postgres.stop()
    return 0


def fingerprint(words: list[str]) -> int:
    """./ward fingerprint: of the workshop's own authority, to compare before a tablet trusts it."""
    print(nginx.fingerprint(read_house()) or "The workshop has a certificate of the owner's own.")
    return 0


def first_lead(words: list[str]) -> int:
    """./ward first-lead NAME: a one-time link for the first lead; --again for one who lost it."""
    parser = argparse.ArgumentParser(prog="./ward first-lead")
    parser.add_argument("name", help="as it stands on sheets")
    parser.add_argument(
        "--sign-in", default="", help="what they sign in with, if it is to be another"
    )
    parser.add_argument("--again", action="store_true", help="a lead lost their link or password")
    given = parser.parse_args(words)
    house, postgres = read_house(), Postgres("serve")
    if not (postgres.data / "PG_VERSION").exists():
        raise SystemExit("There is no workshop here yet: ./ward serve begins it.")
    more = [f"--sign-in={given.sign_in}", *(["--again"] if given.again else [])]
    try:
        if not postgres.running():
            postgres.start()
        env = {**os.environ, **environment(postgres, house)}
        at = [f"--address={one}" for one in (house.address, house.by_number) if one]
        manage(env, "first_lead", given.name, *at, *more)
    except subprocess.CalledProcessError as stopped:
        return int(stopped.returncode)
    finally:
        postgres.stop()
    return 0
