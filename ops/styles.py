"""That each class of the front end has one owner: a module beside what it dresses, nowhere else."""

import re
from pathlib import Path

from .paths import WEB

SOURCES = WEB / "src"
# what is styled without a class: the page itself
PAGE = SOURCES / "styles.css"
COMMENT = re.compile(r"/\*.*?\*/", re.S)
GLOBAL = re.compile(r":global\([^)]*\)")
SELECTOR = re.compile(r"([^{}]+)\{")
CLASS = re.compile(r"\.([a-zA-Z][\w-]*)")
IMPORT = re.compile(r'import (\w+) from "([^"]+\.module\.css)"')


def _camel(name: str) -> str:
    return re.sub(r"-+(\w)", lambda found: found.group(1).upper(), name)


def classes_of(sheet: str) -> set[str]:
    """The classes a module styles."""
    own = GLOBAL.sub("", COMMENT.sub("", sheet))
    return {name for selector in SELECTOR.findall(own) for name in CLASS.findall(selector)}


def strays(sources: Path = SOURCES) -> list[str]:
    """Every class that is used and nowhere styled, and every sheet that is no module."""
    sheets = {path.resolve(): classes_of(path.read_text()) for path in sources.rglob("*.css")}
    plain = [path for path in sheets if not path.name.endswith(".module.css")]
    said = [f"{path.name} is no module" for path in plain if path != PAGE.resolve()]
    for path in sorted(sources.rglob("*.tsx")):
        text = path.read_text()
        for alias, where in IMPORT.findall(text):
            known = {_camel(name) for name in sheets[(path.parent / where).resolve()]}
            used = set(re.findall(rf"\b{alias}\.(\w+)", text))
            said += [f"{path.name}: {alias}.{name} is not styled" for name in sorted(used - known)]
        said += [
            f"{path.name}: {name!r} is a class by its bare name"
            for name in re.findall(r'\bclassName="([^"]*)"', text)
        ]
    return said


def styles() -> str:
    return "\n".join(strays())
