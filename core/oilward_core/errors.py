"""The one error of the core: a code and its facts. Sentences are written at the edge."""

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
