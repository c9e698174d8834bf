"""What comes in as JSON, looked through once at the door.

Characters no database keeps, texts longer than anybody writes, numbers beyond this world and nests
nobody built are refused here, each with its place, so that nothing behind has to think of them.
"""

from collections.abc import Iterator, Mapping
from typing import IO, Any

from oilward_core.errors import CoreError
from oilward_core.guard import keepable, usable
from rest_framework.exceptions import ParseError
from rest_framework.parsers import JSONParser

MOST_TEXT = 100_000  # a pasted table is the longest, unless a view's ``most_text`` says otherwise
MOST_DEEP = 20


def _pieces(value: Any, place: str = "", deep: int = 0) -> Iterator[tuple[str, Any]]:
    """Every text and number in a body, with its place."""
    if deep > MOST_DEEP:
        raise CoreError("door.nested", field=place.strip("/"))
    if isinstance(value, dict):
        for key, inner in value.items():
            yield place, key
            yield from _pieces(inner, f"{place}/{key}", deep + 1)
    elif isinstance(value, list):
        for at, inner in enumerate(value):
            yield from _pieces(inner, f"{place}/{at}", deep + 1)
    else:
        yield place, value


def _check(place: str, value: Any, most: int) -> None:
    field = place.strip("/")
    if isinstance(value, str):
        if len(value) > most:
            raise CoreError("spec.too_long", field=field, most=most)
        if not keepable(value):
            raise CoreError("door.characters", field=field)
    elif not usable(value):
        raise CoreError("number.unusable", field=field, name=field.rpartition("/")[2])


class CarefulJSONParser(JSONParser):
    """JSON, with what cannot be kept refused in words."""

    def parse(
        self,
        stream: IO[Any],
        media_type: str | None = None,
        parser_context: Mapping[str, Any] | None = None,
    ) -> dict[str, Any]:
        try:
            body = super().parse(stream, media_type, parser_context)
        except RecursionError as error:
            raise ParseError from error
        most = getattr((parser_context or {}).get("view"), "most_text", MOST_TEXT)
        for place, value in _pieces(body):
            _check(place, value, most)
        return body
