"""A tip for whoever does a step next, as the API takes it."""

from dataclasses import dataclass

from workshop.shapes import upto


@dataclass(frozen=True, kw_only=True)
class NewTip:
    """``id`` is the client's; ``tools`` are parted by commas. An empty tip takes the last one away."""

    id: str
    step: str = upto(200)
    text: str = upto(400, blank=True, default="")
    tools: str = upto(120, blank=True, default="")
