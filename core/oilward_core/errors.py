"""The one error of the core: a code and its facts. Sentences are written at the edge."""

from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any


class CoreError(ValueError):
    """Something the core refuses or has to ask about.

    ``code`` is stable and dotted (``quantity.wrong_kind``); ``fields`` carries the facts
    a sentence needs. A question (ambiguous input) has ``options`` among its fields.
    """

    def __init__(self, code: str, **fields: Any) -> None:
        super().__init__(code, fields)
        self.code = code
        self.fields = fields

    def at(self, field: str) -> "CoreError":
        """The same error, of a field; one that names its field already keeps it."""
        return type(self)(self.code, **{"field": field, **self.fields})


class Question(CoreError):
    """Not a refusal but a question: what was said can be meant in several ways, or is far from what
    is expected. Its ``options`` are texts to say instead; one that stands in ``sure`` is what was
    said, and may stand when it is said again for sure."""


@contextmanager
def at(field: str) -> Iterator[None]:
    """What is refused or asked inside belongs to ``field``."""
    try:
        yield
    except CoreError as error:
        raise error.at(field) from error
