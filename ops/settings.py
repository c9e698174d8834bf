"""What the workshop's settings may say: one schema, and each fault in words, by its place."""

import subprocess
import sys
import tomllib
from collections.abc import Iterator
from difflib import get_close_matches
from pathlib import Path
from typing import TYPE_CHECKING, Any

from .paths import ROOT

if TYPE_CHECKING:
    from jsonschema import ValidationError

_HOST = {
    "type": "string",
    "pattern": r"^[A-Za-z0-9]([A-Za-z0-9.:-]*[A-Za-z0-9])?$",
    "maxLength": 253,
}
_PORT = {"type": "integer", "minimum": 1, "maximum": 65535, "description": "a port from 1 to 65535"}
_PATH = {
    "type": "string",
    "pattern": "^(/.*)?$",
    "description": "a whole path, from / on, or nothing",
}


def _count(least: int, most: int) -> dict[str, Any]:
    words = f"a whole number from {least} to {most}"
    return {"type": "integer", "minimum": least, "maximum": most, "description": words}


def _table(**properties: dict[str, Any]) -> dict[str, Any]:
    return {"type": "object", "properties": properties, "additionalProperties": False}


SCHEMA: dict[str, Any] = {
    "$schema": "https://json-schema.org/draft/2020-12/schema",
    "title": "Settings of a workshop's server",
    **_table(
        hosts={
            "type": "array",
            "items": {**_HOST, "description": "a name or an address, like oil.lan"},
            "description": 'a list of names and addresses, like ["oil.lan", "10.0.0.9"]',
        },
        https_port=_PORT,
        http_port=_PORT,
        certificate=_PATH,
        key=_PATH,
        backup=_table(
            folder=_PATH,
            every_hours={
                "type": "number",
                "minimum": 0,
                "maximum": 24 * 7,
                "description": "hours from 0 to 168, like 24",
            },
            keep=_count(1, 1000),
            encrypted={"type": "boolean", "description": "true or false"},
            passphrase_file=_PATH,
            also_to={
                "type": "string",
                "pattern": r"^([^@:\s]+@[^@:\s]+:\S*)?$",
                "description": "user@host:folder, or nothing",
            },
        ),
        limits=_table(
            connections_per_address=_count(10, 10_000),
            streams_per_address=_count(5, 5_000),
            streams_per_person=_count(2, 500),
            requests_per_person=_count(2, 1_000),
            requests_per_address=_count(10, 10_000),
        ),
    ),
    "required": ["https_port", "http_port"],
}


def _unknown(fault: "ValidationError") -> Iterator[str]:
    known = list(fault.schema.get("properties", {}))
    for name in sorted(set(fault.instance) - set(known)):
        place = ".".join(map(str, [*fault.absolute_path, name]))
        near = get_close_matches(name, known, 1)
        yield f"{place}: there is no such setting." + (f" Is {near[0]} meant?" if near else "")


def faults(told: dict[str, Any]) -> list[str]:
    """What is wrong with settings, a sentence each; none where nothing is."""
    from jsonschema import Draft202012Validator

    found = list[str]()
    for fault in Draft202012Validator(SCHEMA).iter_errors(told):
        place = ".".join(map(str, fault.absolute_path))
        if fault.validator == "additionalProperties":
            found += _unknown(fault)
        elif fault.validator == "required":
            found.append(f"{fault.message.split()[0].strip(chr(39))}: it has to be there.")
        else:
            wanted = fault.schema.get("description", "another kind of thing")
            found.append(f"{place}: it has to be {wanted}, not {fault.instance!r}.")
    if told.get("https_port") == told.get("http_port") and "http_port" in told:
        found.append("https_port, http_port: two doors cannot be one port.")
    if bool(told.get("certificate")) != bool(told.get("key")):
        found.append("certificate, key: they go together; name both or neither.")
    return sorted(found)


def read(file: Path) -> dict[str, Any]:
    """The settings in a file. Stops with a sentence for each fault."""
    try:
        told = tomllib.loads(file.read_text())
    except (OSError, UnicodeDecodeError, tomllib.TOMLDecodeError) as error:
        raise SystemExit(f"{file} cannot be read: {error}.") from error
    # in a process of its own: whoever keeps a workshop running need not keep the library too
    words = [sys.executable, "-c", "from ops.settings import look; look()", str(file)]
    done = subprocess.run(words, capture_output=True, text=True, check=False, cwd=ROOT)
    if done.returncode:
        raise SystemExit(f"{file} cannot be used:\n{done.stdout or done.stderr}".rstrip())
    return told


def look() -> None:
    """Say what is wrong with the file named, a line each, and end badly if anything is."""
    wrong = faults(tomllib.loads(Path(sys.argv[1]).read_text()))
    print("\n".join(f"- {one}" for one in wrong))
    raise SystemExit(bool(wrong))
