"""docs/licences.md: under which licences everything stands that ships, made from what is installed and
locked."""

import json
import re
import subprocess

from .paths import ROOT

DOCUMENT = ROOT / "docs" / "licences.md"
HEAD = """\
# Licences of what ships

Made by `./ward types` from the packages that are locked; `./ward check` holds it against them. The
product's own licence is its owner's to choose. What builds and tests it does not ship.

"""


def _python() -> list[tuple[str, str, str]]:
    """The packages a release is made of, each with its licence."""
    locked = re.findall(r"^([A-Za-z0-9_.-]+)==", (ROOT / "requirements.txt").read_text(), re.M)
    words = ["pip-licenses", "--format=json", "--from=mixed", "--packages", *locked]
    done = subprocess.run(words, capture_output=True, text=True, check=True)
    rows = [(row["Name"], row["Version"], row["License"]) for row in json.loads(done.stdout)]
    return sorted(rows, key=lambda row: row[0].lower())


def _browser() -> list[tuple[str, str, str]]:
    """The packages the pages are made of."""
    locked = json.loads((ROOT / "package-lock.json").read_text())["packages"]
    return sorted(
        (name.rpartition("node_modules/")[2], told["version"], told.get("license", "?"))
        for name, told in locked.items()
        if "node_modules/" in name and "version" in told and not told.get("dev")
    )


def _table(title: str, rows: list[tuple[str, str, str]]) -> str:
    lines = [" ".join(" | ".join(row).split()) for row in rows]
    told = "\n".join(f"| {line} |" for line in lines)
    return f"## {title}\n\n| package | version | licence |\n|---|---|---|\n{told}\n"


def made() -> str:
    """The document, as it has to be."""
    system = (
        "## From Debian\n\nPostgreSQL (PostgreSQL licence), nginx (BSD-2-Clause), OpenSSL (Apache-2.0) "
        "and GnuPG (GPL-3.0) are installed from Debian's packages and run as programs of their own.\n"
    )
    parts = [_table("On the server", _python()), _table("In the browser", _browser()), system]
    return HEAD + "\n".join(parts)


def write() -> None:
    DOCUMENT.write_text(made())
