"""What an owner says was done, as the API takes it."""

from dataclasses import dataclass, field

from workshop.shapes import upto


@dataclass(frozen=True)
class OwnersWord:
    """A reservoir's last service as the owner tells it. ``id`` is the client's, ``done_on`` the day,
    ``odometer`` what it showed then, as typed; ``sure``: the answers to earlier questions."""

    id: str
    reservoir: str = upto(40)
    done_on: str = upto(40)
    odometer: str = upto(200)
    sure: list[str] = field(default_factory=list)
