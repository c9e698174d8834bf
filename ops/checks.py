"""./ward check: everything that can be said without running the product."""

import json
import os
import subprocess
import sys
import tempfile
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

from . import licences
from .children import tied
from .paths import ROOT, SERVER, WEB
from .styles import styles

DJANGO = {"DJANGO_SETTINGS_MODULE": "config.settings_test"}


def _run(*words: str, cwd: Path = ROOT) -> str:
    """The output of a failing command; empty when it passes."""
    env = {**os.environ, **DJANGO}
    done = subprocess.run(
        words, cwd=cwd, env=env, capture_output=True, text=True, preexec_fn=tied()
    )
    return "" if done.returncode == 0 else (done.stdout + done.stderr).strip() or "failed"


def _differs(made: str, kept: Path, how: str) -> str:
    if kept.exists() and kept.read_text() == made:
        return ""
    return f"{kept.relative_to(ROOT)} is not what the code says. Run {how} and commit it."


def _make_schema(target: Path) -> str:
    return _run(
        sys.executable, "manage.py", "spectacular", "--format", "openapi-json",
        "--fail-on-warn", "--file", str(target), cwd=SERVER,
    )  # fmt: skip


def _make_types(schema: Path, target: Path) -> str:
    return _run("npx", "openapi-typescript", str(schema), "-o", str(target))


def openapi() -> str:
    """The committed schema and the client's types are what the code makes."""
    with tempfile.TemporaryDirectory() as folder:
        schema, types = Path(folder) / "openapi.json", Path(folder) / "schema.d.ts"
        failed = _make_schema(schema) or _make_types(schema, types)
        return failed or (
            _differs(schema.read_text(), SERVER / "openapi.json", "./ward types")
            or _differs(types.read_text(), WEB / "src/api/schema.d.ts", "./ward types")
        )


FORMATS = ROOT / "docs/formats"


def _make_formats() -> str:
    """The published schemas; tests of the core hold them against the code."""
    from oilward_core.exchange import schema
    from oilward_core.usedoil import lab_schema

    for name, made in (("spec-sheet", schema()), ("lab-report", lab_schema())):
        published = FORMATS / f"{name}.schema.json"
        published.write_text(json.dumps(made, ensure_ascii=False, indent=2))
        if said := _run("npx", "prettier", "--write", str(published)):
            return said
    return ""


def types(words: list[str]) -> int:
    """./ward types: write every generated file anew: the API's schema, the client's types, the
    published formats."""
    schema = SERVER / "openapi.json"
    failed = (
        _make_schema(schema) or _make_types(schema, WEB / "src/api/schema.d.ts") or _make_formats()
    )
    licences.write()
    if failed:
        print(failed)
    return 1 if failed else 0


CHECKS: dict[str, Callable[[], str]] = {
    "ruff": lambda: _run("ruff", "check", ".") or _run("ruff", "format", "--check", "."),
    "mypy strict: core, server, ops": lambda: _run("mypy", "core", "server", "ops"),
    "import boundaries": lambda: _run("lint-imports", "--no-cache"),
    "migrations match the models": lambda: _run(
        sys.executable, "manage.py", "makemigrations", "--check", "--dry-run", cwd=SERVER
    ),
    "openapi and client types match the code": openapi,
    "the licences told are those of what ships": lambda: _differs(
        licences.made(), licences.DOCUMENT, "./ward types"
    ),
    "tsc strict: web and e2e": lambda: (
        _run("npx", "tsc", "--noEmit", cwd=WEB) or _run("npx", "tsc", "--noEmit", "-p", "e2e")
    ),
    "each class is styled, in one place": styles,
    "eslint": lambda: _run("npx", "eslint", "."),
    "prettier": lambda: _run("npx", "prettier", "--check", "."),
}


def run_checks() -> tuple[int, int]:
    """Run all, a process each, as many at once as there are cores; how many passed and failed."""
    failed = 0
    with ThreadPoolExecutor(os.cpu_count()) as lanes:
        for name, said in zip(CHECKS, lanes.map(lambda one: one(), CHECKS.values()), strict=True):
            print(f"  {'failed' if said else 'ok    '}  {name}", flush=True)
            if said:
                failed += 1
                print(said)
    return len(CHECKS) - failed, failed


def check(words: list[str]) -> int:
    passed, failed = run_checks()
    print(f"{passed} passed, {failed} failed")
    return 1 if failed else 0
