"""What stands behind the question mark of an address, read in one place."""

from collections.abc import Mapping
from dataclasses import dataclass

from oilward_core.errors import CoreError
from oilward_core.guard import keepable
from rest_framework.exceptions import ErrorDetail, ValidationError

from .sentences import sentence

MOST_FIGURES = 9  # more than anything here is counted to


@dataclass(frozen=True)
class Asked:
    """The parameters of a request."""

    given: Mapping[str, str]

    def text(self, name: str, most: int = 100) -> str:
        """What is said there, up to so many characters. Raises CoreError ``door.characters``."""
        text = self.given.get(name, "")
        if not keepable(text):
            raise CoreError("door.characters", field=name)
        return text[:most]

    def whole(self, name: str, default: int) -> int:
        """A whole number, not below 0; ``default`` where none is said. Raises ValidationError at
        ``name`` for anything else."""
        text = self.given.get(name, "")
        if not text:
            return default
        if not (text.isascii() and text.isdecimal()) or len(text) > MOST_FIGURES:
            detail = ErrorDetail(sentence("number.whole", {}), code="number.whole")
            raise ValidationError({name: [detail]})
        return int(text)

    def yes(self, name: str) -> bool:
        """Whether it is asked for."""
        return self.given.get(name) == "true"
