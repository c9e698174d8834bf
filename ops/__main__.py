"""The commands behind ./ward."""

import importlib
import sys

# command: module of this package; the function has the command's name
COMMANDS = {
    "demo": "serve",
    "serve": "workshop",
    "first-lead": "workshop",
    "fingerprint": "workshop",
    "authority": "authority",
    "passphrase": "passphrase",
    "backup": "backups",
    "restore": "backups",
    "drill": "backups",
    "settings": "house",
    "upgrade": "upgrade",
    "ready": "serve",
    "check": "checks",
    "types": "checks",
    "test": "tests",
    "shots": "tests",
    "bench": "bench",
}


def main() -> int:
    name, words = sys.argv[1], sys.argv[2:]
    module = importlib.import_module(f"ops.{COMMANDS[name]}")
    return int(getattr(module, name.replace("-", "_"))(words))


raise SystemExit(main())
