"""./ward serve: a workshop's own server, for its network; and who lends it its first key."""

import argparse
import os
import signal
import subprocess
import time
from dataclasses import dataclass, field

from . import certificates, nginx
from .children import child, end
from .house import House, read_house, settings_file
from .journal import begin, follow, log
from .keep import Keeper
from .paths import SERVER, free_port
from .postgres import Postgres
from .serve import (
    app_words,
    beside_words,
    build_web,
    manage,
    migrate,
    stop_on_signals,
    wait_until_up,
)

LOOK, HOUR = 1.0, 3600.0
# a process that falls more often than this in so many seconds stays down
MOST_FALLS, WITHIN = 5, 60.0


@dataclass(kw_only=True)
class Kept:
    """A process that is started anew when it falls."""

    name: str
    words: list[str]
    env: dict[str, str]
    process: "subprocess.Popen[bytes] | None" = None
    fell: list[float] = field(default_factory=list)

    def start(self) -> None:
        self.process = child(
            self.words, cwd=SERVER, env=self.env, stdout=subprocess.PIPE, stderr=subprocess.STDOUT
        )
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
        self.start()


def processes(house: House, env: dict[str, str], app: int, events: int) -> list[Kept]:
    """Everything that runs for a workshop, the API first, nginx last."""
    beside = [Kept(name=name, words=words, env=env) for name, words in beside_words(events).items()]
    front = nginx.configure(house, app, events)
    return [
        Kept(name="app", words=app_words(app, workers=3), env=env),
        *beside,
        Kept(name="nginx", words=front, env={"PATH": "/usr/sbin:/usr/bin"}),
    ]


def environment(postgres: Postgres, house: House) -> dict[str, str]:
    """What leads Django to this workshop's data, in the settings of a server."""
    return {
        **postgres.environment(),
        "DJANGO_SETTINGS_MODULE": "config.settings_serve",
        "OILWARD_HOSTS": ",".join([*house.hosts, "127.0.0.1", "localhost"]),
        "OILWARD_KEPT": str(house.home / "kept.json"),
    }


def _welcome_words(house: House, env: dict[str, str]) -> None:
    plain = f"http://{house.hosts[0]}" + ("" if house.http_port == 80 else f":{house.http_port}")
    print(f"\nOil Ward is up: {house.address}")
    if not house.certificate:
        print(f"A new tablet first opens {plain} and learns to trust this workshop. Fingerprint:")
        print(f"  {nginx.fingerprint(house)}")
    manage(env, "first_lead", "--look")
    print(f"Settings: {settings_file(house.home)}   Log: {house.home / 'log'}", flush=True)


def _keep(house: House, running: list[Kept], keeper: Keeper) -> None:
    """Looks after everything until it is told to stop."""
    looked = 0.0
    while True:
        for one in running:
            one.look()
        if time.monotonic() - looked > HOUR or not looked:
            looked = time.monotonic()
            front = running[-1].process
            if certificates.renew(house) and front:
                log.info("another certificate; nginx reads it")
                front.send_signal(signal.SIGHUP)
        keeper.look()
        time.sleep(LOOK)


def serve(words: list[str]) -> int:
    """./ward serve: everything a workshop needs, set up by itself, until Ctrl-C or SIGTERM."""
    parser = argparse.ArgumentParser(prog="./ward serve")
    parser.add_argument("--install", action="store_true", help="as a service of this machine")
    if parser.parse_args(words).install:
        from .install import install

        return install()
    stop_on_signals()
    house, postgres, running = read_house(), Postgres("serve"), list[Kept]()
    try:
        build_web()
        postgres.start()
        print("· 6 of 6: bringing the database up to date", flush=True)
        migrate(postgres)
        certificates.renew(house)
        begin(house.home / "log")
        app = free_port(8410)
        env = {**os.environ, **environment(postgres, house)}
        manage(env, "open_workshop")
        running = processes(house, env, app, free_port(app + 1))
        for one in running:
            one.start()
        host = house.hosts[0]
        wait_until_up(f"http://127.0.0.1:{app}/api/health/", running[0].process, host)
        _welcome_words(house, env)
        _keep(house, running, Keeper("serve", house))
    except KeyboardInterrupt:
        print("\n· Stopping", flush=True)
    finally:
        for one in reversed(running):
            end(one.process)
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
        manage(env, "first_lead", given.name, f"--address={house.address}", *more)
    except subprocess.CalledProcessError as stopped:
        return int(stopped.returncode)
    finally:
        postgres.stop()
    return 0
